package app_test

import (
	"testing"

	"vividperch/app"
	"vividperch/core/check"
	"vividperch/core/quad"
)

// A list that a pilot brings from his board tells what the board holds, is saved, and says who the board is; one of another board, family or
// version, and one that says nothing, are refused, and nothing is kept.
func TestAPilotsListTellsTheBoardUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id, err := w.Begin(t.Context(), app.NewQuad{Name: "Petrel", Chosen: nil})
	if err != nil {
		t.Fatal(err)
	}
	const head = "# board: SLIPWAY6\n# line: Marram\n# version: 7.0.2\n# number: 77\n"
	if _, err := w.ReadList(t.Context(), id, []byte(head+"craft.name = Petrel\n"), true); err != nil {
		t.Fatal(err)
	}
	if got := w.reading(id, check.Firmware, "readings.firmware.identity"); got != "SLIPWAY6, Marram 7.0.2, number 77" {
		t.Errorf("it says it is %q", got)
	}
	if len(w.saved(id)) != 1 || w.reading(id, check.Firmware, "readings.firmware.backup") == "" {
		t.Error("it was not saved")
	}
	for name, c := range map[string]struct{ list, want string }{
		"another board":         {"# board: HARRIER4\n# line: Marram\n# version: 7.0.2\ncraft.name = x\n", "list-hinders"},
		"another family":        {"# board: SLIPWAY6\n# line: Shingle\n# version: 2.4.0\ncraft.name = x\n", "list-hinders"},
		"a major step before":   {"# board: SLIPWAY6\n# line: Marram\n# version: 6.4.0\ncraft.name = x\n", "list-hinders"},
		"nothing in it":         {head, "empty-list"},
		"a setting it has not":  {head + "no.such = 1\n", "unknown-setting"},
		"of no known family":    {"just = 1\n# line: after it\n", "unknown-setting"},
		"a line that is no set": {head + "hello\n", "not-a-setting"},
	} {
		if _, err := w.ReadList(t.Context(), id, []byte(c.list), true); code(err) != c.want {
			t.Errorf("%s: %v, want %s", name, err, c.want)
		}
	}
	if len(w.saved(id)) != 1 {
		t.Error("what was refused was saved")
	}
}

// A quad that flies where another one does is allowed what that one is; what is that quad's own stays with it.
func TestAQuadIsAllowedWhatThePlaceAllowsUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	dunlin := w.dunlin()
	w.edit(dunlin, "limits.registration", `"SP-117"`)
	w.edit(dunlin, "limits.thresholds.wind", `{"value":3,"reason":"a beginner"}`)
	if _, err := w.Save(t.Context(), dunlin, w.view(dunlin).Version, "registered"); err != nil {
		t.Fatal(err)
	}
	for country, want := range map[string]quad.Limits{
		"sallow spit": w.view(dunlin).Meant.Limits,
		"Far Skerry":  {Country: "Far Skerry"},
		"":            {},
	} {
		want.Registration, want.Thresholds = "", quad.Thresholds{}
		id, err := w.Begin(t.Context(), app.NewQuad{Name: "Petrel " + country, Country: country})
		if err != nil {
			t.Fatal(err)
		}
		if got := w.view(id).Meant.Limits; got != want {
			t.Errorf("%q: %+v, want %+v", country, got, want)
		}
		if got := len(w.view(id).Meant.Sheet.Motors.Outputs); got != 4 {
			t.Errorf("it has %d outputs", got)
		}
	}
}
