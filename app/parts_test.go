package app_test

import (
	"slices"
	"strings"
	"testing"

	"vividperch/app"
	"vividperch/core/catalogue"
	"vividperch/core/check"
	"vividperch/core/quad"
)

// A quad begun with a name alone shows every station and judges nothing that it does not know; parts are fitted one by one as copies, and
// taken off again.
func TestPartsAreFittedOneByOneUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id, err := w.Begin(t.Context(), app.NewQuad{Name: "Ruff"})
	if err != nil {
		t.Fatal(err)
	}
	v := w.view(id)
	if len(v.Line) != len(check.Line) {
		t.Fatalf("%d stations", len(v.Line))
	}
	if _, flies := quad.Get(v.Meant, "parts.motor.kv"); flies != nil || v.Against == "" {
		t.Error("a quad of which nothing is known may be released")
	}
	fit := func(kind catalogue.Kind, name string) *app.QuadView {
		t.Helper()
		v, err := w.Fit(t.Context(), id, w.view(id).Version, kind, name)
		if err != nil {
			t.Fatalf("%s %s: %v", kind, name, err)
		}
		return v
	}
	fit(catalogue.Frame, "Tern Five")
	fit(catalogue.Motor, "Sandpiper 2207 1700")
	fit(catalogue.Propeller, "three blades 5 by 4.3 in")
	fit(catalogue.SpeedController, "Causeway 60, 6 cells")
	fit(catalogue.Board, "Harrier Six")
	fit(catalogue.Receiver, "Tidewire nano")
	fit(catalogue.Pack, "6 cells 1300 mAh")
	v = fit(catalogue.Pack, "one from the shed")
	parts := v.Meant.Parts
	if parts.Motor.KV != 1700 || parts.Frame.ArmFront == 0 || len(parts.Board.Outputs) != 4 || parts.Packs["6 cells 1300 mAh"].Cells != 6 || parts.Packs["one from the shed"] != (quad.Pack{}) {
		t.Errorf("%+v", parts)
	}
	if v = fit(catalogue.Motor, "wound by hand"); v.Meant.Parts.Motor.KV != 0 || v.Meant.Parts.Motor.Name != "wound by hand" {
		t.Errorf("its own motor has figures that nobody told: %+v", v.Meant.Parts.Motor)
	}
	v = fit(catalogue.Satellite, "Lighthouse with compass")
	if d := v.Meant.Parts.Devices; !d["satellite"].Talks || !d["compass"].Magnetic {
		t.Errorf("%+v", d)
	}
	if _, err := w.Fit(t.Context(), id, w.view(id).Version, catalogue.Satellite, "Lighthouse with compass"); code(err) != "nothing-new" {
		t.Errorf("a second one: %v", err)
	}
	for _, name := range []string{" ", "5.1 Ah"} {
		if _, err := w.Fit(t.Context(), id, w.view(id).Version, catalogue.Pack, name); code(err) != "no-name" {
			t.Errorf("%q: %v", name, err)
		}
	}
	if _, err := w.Begin(t.Context(), app.NewQuad{Name: "Stint", Chosen: map[catalogue.Kind]string{catalogue.Pack: "5.1 Ah"}}); code(err) != "no-name" {
		t.Errorf("a new quad with a pack that no path can name: %v", err)
	}
	w.edit(id, "parts.packs.one from the shed", "null")
	if _, there := w.view(id).Meant.Parts.Packs["one from the shed"]; there {
		t.Error("the pack is still there")
	}
	other, err := w.Begin(t.Context(), app.NewQuad{Name: "Reeve", Chosen: map[catalogue.Kind]string{catalogue.Frame: "Tern Five", catalogue.Pack: "6 cells 1300 mAh"}})
	if err != nil {
		t.Fatal(err)
	}
	list, err := w.Parts(t.Context(), other)
	if err != nil {
		t.Fatal(err)
	}
	for _, p := range list {
		if want := p.Kind == catalogue.Frame || p.Kind == catalogue.Pack; want != slices.Contains(p.Also, "Ruff") {
			t.Errorf("%s %s is also on %v", p.Kind, p.Name, p.Also)
		}
	}
}

// A part of one's own that is on a quad is offered for another one, as it is there; and what ships is not offered twice.
func TestOwnPartsAreOfferedUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	first, err := w.Begin(t.Context(), app.NewQuad{Name: "Petrel", Chosen: map[catalogue.Kind]string{catalogue.Motor: "wound by hand", catalogue.Pack: "from the shed", catalogue.Frame: "Plank Five"}})
	if err != nil {
		t.Fatal(err)
	}
	w.edit(first, "parts.motor.kv", "1850")
	w.edit(first, "parts.packs.from the shed.cells", "4")
	for kind, c := range map[catalogue.Kind]struct {
		typed string
		want  []string
	}{
		catalogue.Motor: {"wound", []string{"wound by hand, as on Petrel"}},
		catalogue.Pack:  {"shed", []string{"from the shed, your pack"}},
		catalogue.Frame: {"Plank Five 5 215", []string{"Plank Five, 5 inch"}},
	} {
		list, err := w.Catalogue(t.Context(), kind, c.typed, catalogue.Wish{Diameter: 254, Cells: 1})
		if err != nil {
			t.Fatal(err)
		}
		var got []string
		for _, e := range list {
			words, _, _ := strings.Cut(e.Words, ",")
			got = append(got, e.Name+", "+words)
		}
		if !slices.Equal(got, c.want) {
			t.Errorf("%s %q finds %q", kind, c.typed, got)
		}
	}
	second, err := w.Begin(t.Context(), app.NewQuad{Name: "Skua", Chosen: map[catalogue.Kind]string{catalogue.Motor: "wound by hand", catalogue.Pack: "from the shed"}})
	if err != nil {
		t.Fatal(err)
	}
	if p := w.view(second).Meant.Parts; p.Motor.KV != 1850 || p.Packs["from the shed"].Cells != 4 {
		t.Errorf("it is not as on the first one: %+v", p)
	}
}
