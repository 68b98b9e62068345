package app_test

import (
	"testing"

	"vividperch/app"
	"vividperch/core/book"
	"vividperch/core/catalogue"
	"vividperch/core/quad"
)

// Packs belong to the pilot: what comes onto a quad becomes his, what is measured of one is offered to every quad that holds a copy, and taken
// there as an act of its own; a withdrawn measurement counts no more, and what the pilot types on a quad is known of the pack too.
func TestPacksAreThePilots(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	begin := func(name, pack string) int64 {
		t.Helper()
		id, err := w.Begin(t.Context(), app.NewQuad{Name: name, Chosen: map[catalogue.Kind]string{catalogue.Pack: pack}})
		if err != nil {
			t.Fatal(err)
		}
		return id
	}
	packs := func(v *app.PacksView, err error) *app.PacksView {
		t.Helper()
		if err != nil {
			t.Fatal(err)
		}
		return v
	}
	differs := func(v *app.PacksView, on string) []book.PackDifference {
		for _, o := range v.Packs[0].On {
			if o.Name == on {
				return o.Differs
			}
		}
		t.Fatalf("%s has no copy of %s", on, v.Packs[0].Name)
		return nil
	}
	const name = "6 cells 1300 mAh"
	petrel := begin("Petrel", name)
	v := packs(w.Packs(t.Context()))
	if len(v.Packs) != 1 || v.Packs[0].Name != name || v.Packs[0].Told.Resistance != 25.8 || v.Packs[0].Fresh == nil {
		t.Fatalf("what came onto a quad is not the pilot's: %+v", v.Packs)
	}
	packs(w.MeasurePack(t.Context(), v.Version, name, book.PackMeasured{Resistance: 41, Spread: 14}))
	skua := begin("Skua", name)
	if got := w.view(skua).Meant.Parts.Packs[name].Resistance; got != 41 {
		t.Errorf("a quad begun since has a copy with %v mΩ", got)
	}
	v = packs(w.Packs(t.Context()))
	if d := differs(v, "Petrel"); len(d) != 1 || d[0] != (book.PackDifference{Label: "Internal resistance", Pack: "41 mΩ", Copy: "25.8 mΩ"}) {
		t.Errorf("offered to Petrel: %+v", d)
	}
	if d := differs(v, "Skua"); len(d) != 0 {
		t.Errorf("offered to Skua, which has it: %+v", d)
	}
	list, err := w.Parts(t.Context(), petrel)
	if err != nil {
		t.Fatal(err)
	}
	for _, p := range list {
		if (len(p.Differs) > 0) != (p.Kind == catalogue.Pack) {
			t.Errorf("at Petrel's %s: %+v", p.Kind, p.Differs)
		}
	}
	q, err := w.TakePack(t.Context(), petrel, w.view(petrel).Version, name)
	if err != nil || q.Meant.Parts.Packs[name].Resistance != 41 || q.Meant.Parts.Packs[name].Mass != 228 {
		t.Fatalf("taken: %v, %v", q, err)
	}
	if len(differs(packs(w.Packs(t.Context())), "Petrel")) != 0 {
		t.Error("it is offered still")
	}
	if _, err := w.TakePack(t.Context(), petrel, w.view(petrel).Version, name); code(err) != "nothing-new" {
		t.Errorf("taken twice: %v", err)
	}
	if _, err := w.TakePack(t.Context(), petrel, w.view(petrel).Version, "nobody's"); code(err) != "no-pack" {
		t.Errorf("a pack that is none: %v", err)
	}
	if _, err := w.Undo(t.Context(), petrel, w.view(petrel).Version); err != nil || w.view(petrel).Meant.Parts.Packs[name].Resistance != 25.8 {
		t.Errorf("taken back: %v", err)
	}
	for _, why := range []string{"", " "} {
		if _, err := w.WithdrawPackReading(t.Context(), v.Version, name, v.Packs[0].Health[0].ID, why); code(err) != "no-reason" {
			t.Errorf("withdrawn without a reason: %v", err)
		}
	}
	v = packs(w.WithdrawPackReading(t.Context(), v.Version, name, v.Packs[0].Health[0].ID, "that was the green one"))
	if v.Packs[0].Now.Resistance != 25.8 || v.Packs[0].Health[0].Withdrawn != "that was the green one" {
		t.Errorf("withdrawn: %+v", v.Packs[0])
	}
	if d := differs(v, "Skua"); len(d) != 1 || d[0].Pack != "25.8 mΩ" {
		t.Errorf("what no longer counts is not offered back to Skua: %+v", d)
	}

	// One of the pilot's own, of which nothing is known until he types it on a quad.
	begin("Fulmar", "from the shed")
	fulmar, err := w.Packs(t.Context())
	if err != nil || len(fulmar.Packs) != 2 || fulmar.Packs[1].Told != (quad.Pack{}) {
		t.Fatalf("%+v, %v", fulmar, err)
	}
	id := fulmar.Packs[1].On[0].ID
	w.edit(id, "parts.packs.from the shed.cells", "4")
	if v = packs(w.Packs(t.Context())); v.Packs[1].Told.Cells != 4 || len(v.Packs[1].On[0].Differs) != 0 {
		t.Errorf("typed on a quad, the pack is %+v", v.Packs[1])
	}
	if _, err := w.SetPack(t.Context(), v.Version, "no.stop", quad.Pack{Cells: 4}); code(err) != "no-name" {
		t.Errorf("a name with a full stop: %v", err)
	}
	if _, err := w.SetPack(t.Context(), v.Version, "from the shed", quad.Pack{Cells: 40}); code(err) != "out-of-range" {
		t.Errorf("forty cells: %v", err)
	}
	if _, err := w.MeasurePack(t.Context(), v.Version-1, "from the shed", book.PackMeasured{Mass: 90}); code(err) != "changed" {
		t.Errorf("over what was not seen: %v", err)
	}
	v = packs(w.SetPack(t.Context(), v.Version, "from the shed", quad.Pack{Cells: 4, Capacity: 850}))
	if d := v.Packs[1].On[0].Differs; len(d) != 1 || d[0].Label != "Capacity" {
		t.Errorf("offered to the quad: %+v", d)
	}
	if v = packs(w.ForgetPack(t.Context(), v.Version, "from the shed")); len(v.Packs) != 1 || w.view(id).Meant.Parts.Packs["from the shed"].Cells != 4 {
		t.Errorf("forgotten: %+v", v.Packs)
	}
}
