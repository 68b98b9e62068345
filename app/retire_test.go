package app_test

import (
	"slices"
	"testing"

	"vividperch/app"
	"vividperch/core/check"
	"vividperch/core/proof"
	"vividperch/core/quad"
)

// A retired quad is kept, is no neighbour of the others and is not released; brought back it is as it was.
func TestRetiredQuadsUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	first := w.bare()
	second, err := w.Clone(t.Context(), first, "Plover")
	if err != nil {
		t.Fatal(err)
	}
	w.groyne(first, 7)
	w.groyne(second, 7)
	clashes := func() bool {
		return slices.Contains(w.findings(second, check.Link), "Another quad has this receiver number")
	}
	if !clashes() {
		t.Fatal("the same number is not found")
	}
	version := w.view(first).Version
	if err := w.Retire(t.Context(), first, version-1, true); code(err) != "changed" {
		t.Errorf("a second window's: %v", err)
	}
	if err := w.Retire(t.Context(), first, version, true); err != nil {
		t.Fatal(err)
	}
	listed := func(id int64) app.HangarQuad {
		t.Helper()
		h, err := w.Hangar(t.Context())
		if err != nil {
			t.Fatal(err)
		}
		i := slices.IndexFunc(h.Quads, func(q app.HangarQuad) bool { return q.ID == id })
		if i < 0 {
			return app.HangarQuad{}
		}
		return h.Quads[i]
	}
	if !listed(first).Retired || listed(second).Retired {
		t.Error("the hangar does not tell them apart")
	}
	if clashes() {
		t.Error("a retired quad is still a neighbour")
	}
	if _, err := w.ReleaseFor(t.Context(), first, proof.Hover, "the meadow", "", nil); code(err) != "retired" {
		t.Errorf("a release: %v", err)
	}
	if got := w.view(first).Against; got != "It is retired; bring it back in the hangar first." {
		t.Errorf("%q", got)
	}
	if err := w.Retire(t.Context(), first, w.view(first).Version, false); err != nil || listed(first).Retired || !clashes() {
		t.Errorf("brought back: %v", err)
	}
}

// Only what never flew is deleted, whole, and by who has seen it as it is.
func TestDeletingQuadsUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.bare()
	other, err := w.Clone(t.Context(), id, "Plover")
	if err != nil {
		t.Fatal(err)
	}
	pack := quad.SortedKeys(w.view(id).Meant.Parts.Packs)[0]
	if _, err := w.Fly(t.Context(), id, app.Flight{Site: "the meadow", Pack: pack, Minutes: 2}); err != nil {
		t.Fatal(err)
	}
	if err := w.Delete(t.Context(), id, w.view(id).Version); code(err) != "has-flown" {
		t.Errorf("one that flew: %v", err)
	}
	if err := w.Delete(t.Context(), other, w.view(other).Version-1); code(err) != "changed" {
		t.Errorf("a second window's: %v", err)
	}
	if err := w.Delete(t.Context(), other, w.view(other).Version); err != nil {
		t.Fatal(err)
	}
	if _, err := w.Quad(t.Context(), other); code(err) != "no-quad" {
		t.Errorf("it is still there: %v", err)
	}
	if h, err := w.Hangar(t.Context()); err != nil || len(h.Quads) != 1 {
		t.Errorf("%+v, %v", h, err)
	}
	if _, err := w.Clone(t.Context(), id, "Plover"); err != nil {
		t.Errorf("its name is not free: %v", err)
	}
}
