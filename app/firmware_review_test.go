package app_test

import (
	"os"
	"slices"
	"strings"
	"testing"

	"vividperch/app"
	"vividperch/bench/protocol"
	"vividperch/core/check"
	"vividperch/core/firmware"
	"vividperch/core/quad"
	"vividperch/demo"
	"vividperch/demo/benchtest"
)

func (w *world) create(name string) int64 {
	w.t.Helper()
	q, err := demo.Load(name)
	if err != nil {
		w.t.Fatal(err)
	}
	id, err := w.Create(w.t.Context(), q.Name, q.Words, q.Meant)
	if err != nil {
		w.t.Fatal(err)
	}
	return id
}

func (w *world) rows(v *app.ReviewView) map[string]app.ReviewRow {
	out := map[string]app.ReviewRow{}
	for _, r := range v.Rows {
		name := r.Name
		if name == "" {
			name = "gone " + r.Was
		}
		out[name] = r
	}
	return out
}

func (w *world) findings(id int64, s check.Station) []string {
	var out []string
	for _, f := range w.view(id).Line[s.Number()-1].Findings {
		out = append(out, f.Title)
	}
	return out
}

// Whimbrel goes to a new board and over a major version: what it had set goes along, what was measured on the drowned
// board does not, and what cannot go along is decided by the pilot.
func TestWhimbrelOverAMajorVersionOnANewBoard(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.create("whimbrel")
	b, _ := w.bench(benchtest.Kit(t, "whimbrel"))
	w.set(b, protocol.Things{USB: yes(), Pack: yes()})
	if _, err := w.Take(t.Context(), id, "readings.firmware.identity"); err != nil {
		t.Fatal(err)
	}
	if b := w.board(id); b.Serial != "0877" || len(b.Changes) > 0 {
		t.Errorf("the old board %s is to be written %v", b.Serial, b.Changes)
	}
	if _, err := w.SaveBoard(t.Context(), id, "before it drowned"); err != nil {
		t.Fatal(err)
	}
	old := w.saved(id)[0]

	b, d := w.bench(benchtest.Kit(t, "whimbrel-new"))
	w.set(b, protocol.Things{USB: yes(), Pack: yes()})
	if _, err := w.Adopt(t.Context(), id, ""); err != nil {
		t.Fatal(err)
	}
	if _, err := w.Take(t.Context(), id, "readings.firmware.identity"); err != nil {
		t.Fatal(err)
	}
	image := imageFor(t, "DOTTEREL7", "Spindrift", "9.0.2", 30000)
	seen, err := w.CheckImage(t.Context(), id, image)
	if err != nil || !seen.Fits || seen.Step != firmware.Major || !seen.Whole || len(seen.With) != 3 {
		t.Fatalf("the image is seen as %+v, %v", seen, err)
	}
	if _, err := w.Flash(t.Context(), id, app.FlashAsk{Image: image, Whole: true}); err != nil {
		t.Fatal(err)
	}
	ask := app.ReviewAsk{Backup: old.ID}
	v, err := w.Review(t.Context(), id, ask)
	if err != nil {
		t.Fatal(err)
	}
	if v.Version != "9.0.2" || v.Step != firmware.Major || v.SameBoard || v.Taken {
		t.Errorf("%s %s, same board %v, taken %v", v.Line, v.Version, v.SameBoard, v.Taken)
	}
	rows := w.rows(v)
	for name, want := range map[string]string{"arm-when": "5 180 260", "roll-turn": "100 360 30", "lean-most-deg": "33", "home-height-m": "40", "when-hold": "8 180 260", "compass-found": "0", "level-roll-cd": "0", "amp-gain": "250", "craft-kind": "quad-wide"} {
		if rows[name].Chosen != want {
			t.Errorf("%s is proposed as %s, want %s (%s)", name, rows[name].Chosen, want, rows[name].Reason)
		}
	}
	if r := rows["gone when-fixed-arm"]; !r.Decide || r.Fate != firmware.Gone || r.Decided {
		t.Errorf("set, and gone: %+v", r)
	}
	if r := rows["fix-dialect"]; !r.Decide && r.Fate != firmware.Moved {
		t.Errorf("a default that is gone: %+v", r)
	}
	if _, err := w.TakeReview(t.Context(), id, w.view(id).Version, ask); code(err) != "undecided" || v.Undecided != 1 {
		t.Errorf("taken with %d undecided: %v", v.Undecided, err)
	}
	one := "35"
	if v, err = w.Choose(t.Context(), id, ask, map[string]*string{"lean-most-deg": &one}); err != nil || w.rows(v)["lean-most-deg"].Chosen != "35" {
		t.Fatalf("decided otherwise: %v", err)
	}
	bad := "350"
	if _, err := w.Choose(t.Context(), id, ask, map[string]*string{"lean-most-deg": &bad}); code(err) != "out-of-range" {
		t.Errorf("a value that does not fit: %v", err)
	}
	for _, r := range v.Rows {
		if r.Decide && !r.Decided {
			name := r.Name
			if name == "" {
				name = "gone " + r.Was
			}
			value := r.Proposal
			if _, err := w.Choose(t.Context(), id, ask, map[string]*string{name: &value}); err != nil {
				t.Fatal(err)
			}
		}
	}
	q, err := w.TakeReview(t.Context(), id, w.view(id).Version, ask)
	if err != nil {
		t.Fatal(err)
	}
	if q.Meant.Sheet.Firmware.Version != "9.0.2" || q.Meant.Sheet.Feel.AngleLimit != 35 || q.Meant.Sheet.Sticks.Hold != (quad.Range{Channel: 8, From: 1700, To: 2100}) {
		t.Errorf("the sheet: %+v, angle %v", q.Meant.Sheet.Firmware, q.Meant.Sheet.Feel.AngleLimit)
	}
	if v, err := w.Review(t.Context(), id, ask); err != nil || !v.Taken {
		t.Errorf("once taken it is not told: %v", err)
	}
	if q, err = w.WriteBoard(t.Context(), id); err != nil || len(w.board(id).Changes) > 0 {
		t.Fatalf("written: %+v, %v", q, err)
	}
	s := w.settings(d)
	for name, want := range map[string]string{"arm-when": "5 180 260", "lean-most-deg": "35", "home-height-m": "40", "level-roll-cd": "0", "compass-zero": "0 0 0", "compass-found": "0", "gyro-zero": "0 0 0", "amp-gain": "250", "craft-kind": "quad-wide", "motors-turned": "6"} {
		if s[name] != want {
			t.Errorf("the new board holds %s = %s, want %s", name, s[name], want)
		}
	}
	titles := w.findings(id, check.Firmware)
	if !slices.Contains(titles, "Not measured on this board: the compass and level") || slices.ContainsFunc(titles, func(s string) bool { return strings.Contains(s, "another one") }) {
		t.Errorf("findings at Firmware: %q", titles)
	}
	// One act, one undo.
	if q, err = w.Restore(t.Context(), id, w.view(id).Version, 1, nil); err != nil || q.Meant.Sheet.Firmware.Version != "8.4.1" {
		t.Errorf("back to the first revision: %v", err)
	}
}

// An old list loaded as it was over a major step is told, and so is what another board had measured.
func TestOldListLoadedAsItWas(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.create("whimbrel")
	b, d := w.bench(benchtest.Kit(t, "whimbrel"))
	w.set(b, protocol.Things{USB: yes(), Pack: yes()})
	if _, err := w.Take(t.Context(), id, "readings.firmware.identity"); err != nil {
		t.Fatal(err)
	}
	if titles := w.findings(id, check.Firmware); slices.Contains(titles, "The firmware has expired") {
		t.Errorf("in May it has not expired: %q", titles)
	}
	// Flashed with its settings kept: the new firmware takes the old figures for its own.
	if _, err := w.Flash(t.Context(), id, app.FlashAsk{Image: imageFor(t, "DOTTEREL7", "Spindrift", "9.0.2", 9000)}); err != nil {
		t.Fatal(err)
	}
	if got := w.settings(d)["arm-when"]; got != "5 32 48" {
		t.Errorf("kept, arm-when is %s", got)
	}
	if titles := w.findings(id, check.Firmware); !slices.Contains(titles, "An old list was loaded as it was, over a major step") {
		t.Errorf("findings %q", titles)
	}
	// Carried over and written, it is right.
	ask := app.ReviewAsk{Backup: w.saved(id)[0].ID}
	v, err := w.Review(t.Context(), id, ask)
	if err != nil || !v.SameBoard || w.rows(v)["level-roll-cd"].Chosen != "64" {
		t.Fatalf("on the very board its level stays: %+v, %v", w.rows(v)["level-roll-cd"], err)
	}
	noted := ""
	if _, err := w.Choose(t.Context(), id, ask, map[string]*string{"gone when-fixed-arm": &noted}); err != nil {
		t.Fatal(err)
	}
	if _, err := w.TakeReview(t.Context(), id, w.view(id).Version, ask); err != nil {
		t.Fatal(err)
	}
	if _, err := w.WriteBoard(t.Context(), id); err != nil {
		t.Fatal(err)
	}
	if s := w.settings(d); s["arm-when"] != "5 180 260" || s["when-hold"] != "8 180 260" || s["level-roll-cd"] != "64" {
		t.Errorf("carried over: arm %s, hold %s, level %s", s["arm-when"], s["when-hold"], s["level-roll-cd"])
	}
	if titles := w.findings(id, check.Firmware); slices.Contains(titles, "An old list was loaded as it was, over a major step") {
		t.Errorf("carried over: %q", titles)
	}
}

// To another line it goes through the sheet, the vehicle first.
func TestToAnotherLineThroughTheSheet(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.create("whimbrel")
	b, d := w.bench(benchtest.Kit(t, "whimbrel"))
	w.set(b, protocol.Things{USB: yes(), Pack: yes()})
	if _, err := w.Take(t.Context(), id, "readings.firmware.identity"); err != nil {
		t.Fatal(err)
	}
	if _, err := w.Flash(t.Context(), id, app.FlashAsk{Image: imageFor(t, "DOTTEREL7", "Shingle", "2.4.0", 9000), Whole: true}); err != nil {
		t.Fatal(err)
	}
	ask := app.ReviewAsk{Backup: w.saved(id)[0].ID}
	v, err := w.Review(t.Context(), id, ask)
	if err != nil || v.Step != firmware.Other || v.Rows[0].Name != "FrameKind" || v.Rows[0].Chosen != "2" {
		t.Fatalf("%+v, %v", v.Rows[0], err)
	}
	rows := w.rows(v)
	if r := rows["RollHoldP"]; r.Fate != firmware.Converted || r.Was != "roll-hold" || !strings.HasPrefix(r.Chosen, "0.0269") {
		t.Errorf("the gain: %+v", r)
	}
	if r := rows["gone video-mw"]; r.Fate != firmware.Gone || !r.Decide {
		t.Errorf("what has no counterpart: %+v", r)
	}
	choices, none := map[string]*string{}, ""
	for name, r := range rows {
		if r.Decide {
			value := r.Chosen
			if r.Name == "" {
				value = none
			}
			choices[name] = &value
		}
	}
	if _, err := w.Choose(t.Context(), id, ask, choices); err != nil {
		t.Fatal(err)
	}
	if _, err := w.TakeReview(t.Context(), id, w.view(id).Version, ask); err != nil {
		t.Fatal(err)
	}
	if _, err := w.WriteBoard(t.Context(), id); err != nil {
		t.Fatal(err)
	}
	if s := w.settings(d); s["FrameKind"] != "2" || s["ArmFrom"] != "1700" || s["MotorPoles"] != "14" || s["CellCount"] != "4" || s["LevelDone"] != "0" {
		t.Errorf("on the board: frame %s, arm %s, poles %s, cells %s, level measured %s", s["FrameKind"], s["ArmFrom"], s["MotorPoles"], s["CellCount"], s["LevelDone"])
	}
}

// A list is told whole before anything is taken from it; what is taken goes to the sheet, in one act.
func TestListIsReviewedThenTaken(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.bare()
	if _, err := w.ReadList(t.Context(), id, []byte("craft.name = Dunlin\n"), false); err != nil {
		t.Fatal(err)
	}
	text := []byte("# line: Marram\n# version: 7.0.2\nout.rest = 62\nnote.light = 5\nout.idle = 600\nnope = 1\nlean.limit = 9999\nout.rest = 63\nsave\n")
	v, err := w.ReviewList(t.Context(), id, text)
	if err != nil || v.Lines != 6 || v.Fitting != 2 || v.Hinders != 4 || len(v.Remarks) != 5 {
		t.Fatalf("%+v, %v", v, err)
	}
	before := w.view(id)
	if _, err := w.TakeList(t.Context(), id, before.Version, text, false); code(err) != "list-hinders" || quad.AsFault(err).Place != "line 5" {
		t.Errorf("a list with faults: %v", err)
	}
	if after := w.view(id); after.Version != before.Version {
		t.Error("something was taken from a list that was refused")
	}
	q, err := w.TakeList(t.Context(), id, before.Version, text, true)
	if err != nil || q.Meant.Sheet.Motors.Idle != 6.2 || !slices.Equal(q.Meant.Sheet.Firmware.Other, []string{"note.light = 5"}) {
		t.Fatalf("%+v, %v", q.Meant.Sheet.Firmware, err)
	}
	if q, err = w.Undo(t.Context(), id, q.Version); err != nil || q.Meant.Sheet.Motors.Idle != 5.5 || len(q.Meant.Sheet.Firmware.Other) != 0 {
		t.Errorf("one act, one undo: %v", err)
	}
	for name, c := range map[string]struct{ text, want string }{
		"nothing":      {"# just a comment\n", "empty-list"},
		"another line": {"# line: Shingle\n# version: 2.4.0\nout.rest = 60\n", "list-hinders"},
		"a major step": {"# line: Marram\n# version: 6.2.1\nout.pairs = 7\n", "list-hinders"},
		"not a list":   {"good morning\n", "not-a-setting"},
	} {
		if _, err := w.TakeList(t.Context(), id, q.Version, []byte(c.text), true); code(err) != c.want {
			t.Errorf("%s: %v", name, err)
		}
	}
	// One of an older major version is kept beside the saved ones, and carried over from there.
	old := []byte("# board: HARRIER4\n# line: Marram\n# version: 6.4.0\nout.idle = 620\ngate.arm = 5:1700:2100\n")
	if v, err := w.ReviewList(t.Context(), id, old); err != nil || !v.Carry {
		t.Errorf("it is not offered to be carried over: %+v, %v", v, err)
	}
	if _, err := w.KeepList(t.Context(), id, old, quad.Identity{}, ""); err != nil {
		t.Fatal(err)
	}
	kept := w.saved(id)[0]
	if kept.Version != "6.4.0" || kept.Why != "brought in as a list" || kept.Settings < 150 {
		t.Errorf("kept as %+v", kept)
	}
	r, err := w.Review(t.Context(), id, app.ReviewAsk{Backup: kept.ID})
	if err != nil || w.rows(r)["out.rest"].Chosen != "62" || w.rows(r)["gate.arm"].Chosen != "5:140:220" {
		t.Errorf("%v", err)
	}
}

// A pilot teaches a line that the product never heard of, and lists of it go both ways; a second window cannot write
// over what the first one taught; an archive takes the dictionary along.
func TestTeachALineUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	raw, err := os.ReadFile("../core/firmware/testdata/sandbar.dictionary.yaml")
	if err != nil {
		t.Fatal(err)
	}
	list, err := os.ReadFile("../core/firmware/testdata/sandbar.list")
	if err != nil {
		t.Fatal(err)
	}
	id := w.bare()
	for _, f := range []string{"line", "version", "target"} {
		w.edit(id, quad.Path("sheet.firmware."+f), map[string]string{"line": `"Sandbar"`, "version": `"3.1.0"`, "target": `"WRACK2"`}[f])
	}
	if v, err := w.ReviewList(t.Context(), id, list); err != nil || !v.Unknown {
		t.Fatalf("a line that is not known: %+v, %v", v, err)
	}
	lesson := app.TeachAsk{Line: "Sandbar", Version: "3.1.0", Separator: "/", List: string(list)}
	seen, err := w.Lesson(t.Context(), id, lesson)
	if err != nil || len(seen.Settings) < 60 || seen.Fault != "" || len(seen.Places) < 70 {
		t.Fatalf("%d settings, %d places, %s, %v", len(seen.Settings), len(seen.Places), seen.Fault, err)
	}
	for setting, path := range map[string]quad.Path{"motorMagnets": "sheet.motors.poles", "boardYaw": "sheet.senses.boardYaw", "armChannel": "sheet.sticks.arm.channel"} {
		if g := seen.Guesses[setting]; len(g) == 0 || g[0].Path != path {
			t.Errorf("%s is guessed as %+v", setting, g)
		}
	}
	lesson.Entries = []firmware.Entry{{Kind: "scalar", Setting: "armLow", Path: "sheet.craft.layout"}}
	if seen, err = w.Lesson(t.Context(), id, lesson); err != nil || seen.At != "sheet.craft.layout" {
		t.Errorf("a lesson that cannot be: %s %s, %v", seen.Fault, seen.At, err)
	}
	if _, err := w.Teach(t.Context(), 0, "line: Marram\nversions: [{version: 1.0.0}]\n"); code(err) != "known-line" {
		t.Errorf("teaching a line of the product's own: %v", err)
	}
	known, err := w.Teach(t.Context(), 0, string(raw))
	if err != nil || known[0].Line != "Sandbar" || !known[0].Taught || known[0].Mapped < 60 || len(known) != 4 {
		t.Fatalf("%+v, %v", known, err)
	}
	if _, err := w.Teach(t.Context(), 0, string(raw)); code(err) != "changed" {
		t.Errorf("taught once more by a window that did not see the first: %v", err)
	}
	if _, err := w.Teach(t.Context(), known[0].Version, string(raw)+"\n# said again\n"); err != nil {
		t.Fatal(err)
	}
	v, err := w.ReviewList(t.Context(), id, list)
	if err != nil || v.Unknown || v.Hinders > 0 || v.Fitting != v.Lines {
		t.Fatalf("taught: %+v, %v", v, err)
	}
	q, err := w.TakeList(t.Context(), id, w.view(id).Version, list, false)
	if err != nil || q.Meant.Sheet.Motors.Poles != 12 || q.Meant.Sheet.Loss.Guard != 0.8 {
		t.Fatalf("on the sheet: %v", err)
	}
	if _, err = w.ReadList(t.Context(), id, list, false); err != nil || len(w.board(id).Changes) > 0 {
		t.Fatalf("read back: %v, %v", w.board(id).Changes, err)
	}
	w.edit(id, "sheet.motors.idle", "5.2")
	if b := w.board(id); len(b.Changes) != 1 || b.Changes[0] != (app.WriteView{Name: "motorIdle", Before: "48", After: "52"}) {
		t.Errorf("to write: %+v", b.Changes)
	}
	_, archive, err := w.Archive(t.Context(), id, true)
	if err != nil {
		t.Fatal(err)
	}
	known, err = w.Dictionaries(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	if _, err := w.Forget(t.Context(), known[0].Version, "Sandbar"); err != nil {
		t.Fatal(err)
	}
	if titles := w.findings(id, check.Firmware); !slices.Contains(titles, "No dictionary for this firmware") {
		t.Errorf("forgotten: %q", titles)
	}
	other, err := w.Import(t.Context(), archive, "Plover from elsewhere")
	if err != nil {
		t.Fatal(err)
	}
	if b := w.board(other); len(b.Changes) != 1 {
		t.Errorf("its dictionary did not come along: %+v", b)
	}
}

// What a dictionary makes of a list must be possible on the sheet: a figure that no quad has is refused at its place,
// and nothing is taken.
func TestImpossibleFiguresStayOut(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.bare()
	w.edit(id, "sheet.firmware.line", `"Sandbar"`)
	file := "line: Sandbar\nversions: [{version: 7.0.2}]\nsettings: [{name: idle, kind: whole, max: 99999, default: '5'}]\nentries: [{kind: scalar, setting: idle, path: sheet.motors.idle}]\n"
	if _, err := w.Teach(t.Context(), 0, file); err != nil {
		t.Fatal(err)
	}
	before := w.view(id)
	if _, err := w.TakeList(t.Context(), id, before.Version, []byte("idle = 9000\n"), false); code(err) != "out-of-range" || quad.AsFault(err).Place != "sheet.motors.idle" {
		t.Errorf("9000 %% of idle: %v", err)
	}
	if after := w.view(id); after.Version != before.Version || after.Meant.Sheet.Motors.Idle != 5.5 {
		t.Error("something was taken")
	}
}
