package app_test

import (
	"strings"
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

// Flashed elsewhere to the version that is meant, the board's list tells so in its head, and is taken for what the board is now.
func TestAListOfTheVersionThatIsMeantUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id, err := w.Begin(t.Context(), app.NewQuad{Name: "Petrel", List: "# board: SLIPWAY6\n# line: Marram\n# version: 6.4.0\n# number: 77\ncraft.name = Petrel\n"})
	if err != nil {
		t.Fatal(err)
	}
	const later = "# board: SLIPWAY6\n# line: Marram\n# version: 7.0.2\n# number: 77\ncraft.name = Petrel\n"
	w.edit(id, "sheet.firmware.version", `"7.0.2"`)
	if _, err := w.ReadList(t.Context(), id, []byte(later), true); err != nil {
		t.Fatal(err)
	}
	if got := w.board(id).Version; got != "7.0.2" {
		t.Errorf("the board has %s", got)
	}
}

// A list that was brought in is printed back as it was, with your settings in it: one that differs is one line that differs. To hand on, the
// list's own text stays behind.
func TestAListIsPrintedBackWithYourSettingsInItUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	const list = "# board: SLIPWAY6\n# line: Marram\n# version: 7.0.2\n# number: 77\n\ncraft.name   =  Petrel\n# the one that I like\nout.rest = 55  # idle\nvolt.cells = 4\nsave\n"
	none, err := w.Begin(t.Context(), app.NewQuad{Name: "Plover"})
	if err != nil {
		t.Fatal(err)
	}
	if _, _, err := w.WholeList(t.Context(), none); code(err) != "no-list" {
		t.Errorf("before any list: %v", err)
	}
	id, err := w.Begin(t.Context(), app.NewQuad{Name: "Petrel", List: list})
	if err != nil {
		t.Fatal(err)
	}
	w.edit(id, "sheet.motors.idle", "6")
	if !figures(w, id, w.Firmware).Board.Whole {
		t.Error("it is not offered")
	}
	name, text, err := w.WholeList(t.Context(), id)
	if want := strings.Replace(list, "out.rest = 55", "out.rest = 60", 1); err != nil || name != "Petrel" || string(text) != want {
		t.Errorf("%v\n%s\nwant\n%s", err, text, want)
	}
	for private, want := range map[bool]bool{true: true, false: false} {
		if _, raw, err := w.Archive(t.Context(), id, private); err != nil || strings.Contains(string(raw), "the one that I like") != want {
			t.Errorf("archive, private %v: %v", private, err)
		}
	}
	// Another list since: what was brought in first does not tell the board any more.
	if _, err := w.ReadList(t.Context(), id, []byte(strings.Replace(list, "volt.cells = 4", "volt.cells = 6", 1)), false); err != nil {
		t.Fatal(err)
	}
	if _, _, err := w.WholeList(t.Context(), id); code(err) != "no-list" {
		t.Errorf("the board holds something else: %v", err)
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
