package app_test

import (
	"fmt"
	"strings"
	"testing"

	"vividperch/app"
	"vividperch/core/catalogue"
)

const motorTable = "Model;KV;Weight (oz);Ri (mΩ);Colour\nKittiwake 2306;2450;1,1;55;red\nKittiwake 2207;1750;1,2;;blue\nKittiwake 1404;lots;0,3;90;blue\n"

// A table is brought in with its columns guessed; those that are corrected are known the next time by their heads, and the parts are offered
// before those of the catalogue, with what nobody told of them left unknown.
func TestAPilotsOwnParts(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	read, err := w.ReadParts(t.Context(), app.PartsAsk{Kind: catalogue.Motor, Text: motorTable})
	if err != nil {
		t.Fatal(err)
	}
	if got := fmt.Sprint(read.Columns, read.Known, read.Count, len(read.Faults)); got != "[name part.kv mass part.resistance ] false 2 1" {
		t.Errorf("read as %s", got)
	}
	columns := []string{"name", "part.kv", "mass", "part.resistance", "words"}
	shelf, err := w.KeepParts(t.Context(), 0, app.PartsAsk{Kind: catalogue.Motor, Text: motorTable, Columns: columns})
	if err != nil {
		t.Fatal(err)
	}
	if len(shelf.Parts) != 2 || shelf.Parts[1].Name != "Kittiwake 2306" || shelf.Parts[1].Words != "red" || shelf.Parts[1].Cells["mass"] == "" {
		t.Errorf("kept %+v", shelf.Parts)
	}
	again, err := w.ReadParts(t.Context(), app.PartsAsk{Kind: catalogue.Motor, Text: strings.Replace(motorTable, "2450", "2500", 1)})
	if err != nil || !again.Known || again.Columns[4] != "words" || len(again.Replaces) != 2 {
		t.Errorf("the next time: %+v, %v", again, err)
	}
	found, err := w.Catalogue(t.Context(), catalogue.Motor, "kitti", catalogue.Wish{})
	if err != nil || len(found) != 2 {
		t.Fatalf("found %+v, %v", found, err)
	}
	v, err := w.Fit(t.Context(), id, w.view(id).Version, catalogue.Motor, "Kittiwake 2207")
	if err != nil {
		t.Fatal(err)
	}
	if m := v.Meant.Parts.Motor; m.KV != 1750 || m.Resistance != 0 {
		t.Errorf("fitted %+v", m)
	}
	if shelf, err = w.OwnParts(t.Context()); err != nil || strings.Join(shelf.Parts[0].On, " ") != "Dunlin" || len(shelf.Parts[1].On) != 0 {
		t.Errorf("on %+v, %v", shelf.Parts, err)
	}
	// Whoever saw an older shelf changes nothing.
	typed := app.PartsAsk{Kind: catalogue.Motor, Typed: map[string]string{"name": "Kittiwake 2207", "part.kv": "1800", "part.resistance": "0.06 Ω"}}
	if _, err := w.KeepParts(t.Context(), shelf.Version-1, typed); code(err) != "changed" {
		t.Errorf("over another window's: %v", err)
	}
	if shelf, err = w.KeepParts(t.Context(), shelf.Version, typed); err != nil || len(shelf.Parts) != 2 {
		t.Fatalf("typed: %+v, %v", shelf, err)
	}
	if got := shelf.Parts[0].Cells["part.resistance"]; got != "60" {
		t.Errorf("typed in other units: %q", got)
	}
	// A quad that has it keeps its copy.
	if m := w.view(id).Meant.Parts.Motor; m.KV != 1750 {
		t.Errorf("the quad's own changed: %+v", m)
	}
	file, err := w.PartsFile(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	if shelf, err = w.ForgetPart(t.Context(), shelf.Version, catalogue.Motor, "Kittiwake 2306"); err != nil || len(shelf.Parts) != 1 {
		t.Fatalf("forgotten: %+v, %v", shelf, err)
	}
	if shelf, err = w.KeepParts(t.Context(), shelf.Version, app.PartsAsk{Text: string(file)}); err != nil || len(shelf.Parts) != 2 {
		t.Errorf("brought back from its file: %+v, %v", shelf, err)
	}
	for name, c := range map[string]struct {
		ask  app.PartsAsk
		want string
	}{
		"typed, out of range":  {app.PartsAsk{Kind: catalogue.Motor, Typed: map[string]string{"name": "A", "part.kv": "9e9"}}, "out-of-range"},
		"typed, no name":       {app.PartsAsk{Kind: catalogue.Motor, Typed: map[string]string{"part.kv": "1800"}}, "no-column"},
		"typed, another unit":  {app.PartsAsk{Kind: catalogue.Motor, Typed: map[string]string{"name": "A", "part.kv": "3 g"}}, "not-a-figure"},
		"of no kind":           {app.PartsAsk{Text: motorTable}, "no-kind"},
		"a table of no rows":   {app.PartsAsk{Kind: catalogue.Motor, Text: "Model;KV\n"}, "not-a-table"},
		"nothing that is read": {app.PartsAsk{Kind: catalogue.Motor, Text: "Model;KV\nA;many\n"}, "not-a-figure"},
		"another file":         {app.PartsAsk{Text: `{"format":1}`}, "no-parts"},
	} {
		if _, err := w.KeepParts(t.Context(), shelf.Version, c.ask); code(err) != c.want {
			t.Errorf("%s: %v", name, err)
		}
	}
	if now, err := w.OwnParts(t.Context()); err != nil || now.Version != shelf.Version {
		t.Errorf("something was kept: %+v, %v", now, err)
	}
}

// A figure that was estimated says so wherever it stands, and so does what leans on it; once the pilot tells it, it does not.
func TestWhatLeansOnAnEstimateSaysSo(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	if got := w.view(id).Line[0].Estimates; len(got) != 0 {
		t.Fatalf("before: %q", got)
	}
	typed := map[string]string{"name": "three blades, unknown", "part.diameter": "5 in", "shape.pitch": "7.5 in", "shape.blades": "3"}
	if _, err := w.KeepParts(t.Context(), 0, app.PartsAsk{Kind: catalogue.Propeller, Typed: typed}); err != nil {
		t.Fatal(err)
	}
	v, err := w.Fit(t.Context(), id, w.view(id).Version, catalogue.Propeller, "three blades, unknown")
	if err != nil {
		t.Fatal(err)
	}
	const thrust = "parts.propeller.thrust"
	if got := v.Line[0].Estimates; len(got) != 2 || !strings.Contains(got[1], "thrust coefficient") {
		t.Errorf("the airframe leans on %q", got)
	}
	if got := v.Leaves[thrust].Words; !strings.Contains(got, "(estimate, ") {
		t.Errorf("the figure itself says %q", got)
	}
	leaning := 0
	for _, p := range v.Line {
		for _, f := range p.Findings {
			if len(f.Estimates) > 0 {
				leaning++
			}
		}
	}
	if leaning == 0 {
		t.Error("no finding says that it leans on it")
	}
	w.edit(id, thrust, "0.21")
	if v := w.edit(id, "parts.propeller.power", "0.13"); len(v.Line[0].Estimates) != 0 || strings.Contains(v.Leaves[thrust].Words, "estimate") {
		t.Errorf("told by the pilot: %q, %q", v.Line[0].Estimates, v.Leaves[thrust].Words)
	}
}
