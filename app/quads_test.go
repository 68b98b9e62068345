package app_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"maps"
	"slices"
	"strings"
	"testing"
	"time"

	"vividperch/app"
	"vividperch/core/check"
	"vividperch/core/firmware"
	"vividperch/core/proof"
	"vividperch/core/quad"
	"vividperch/demo"
)

func (w *world) archive(id int64, private bool) []byte {
	w.t.Helper()
	_, raw, err := w.Archive(w.t.Context(), id, private)
	if err != nil {
		w.t.Fatal(err)
	}
	return raw
}

// picture of a few pixels, as a camera would hand it over: with a place written into the file.
func picture(t *testing.T) []byte {
	t.Helper()
	img := image.NewRGBA(image.Rect(0, 0, 8, 6))
	img.Set(3, 3, color.RGBA{200, 30, 30, 255})
	var out bytes.Buffer
	if err := jpeg.Encode(&out, img, nil); err != nil {
		t.Fatal(err)
	}
	raw := out.Bytes()
	place := []byte("Exif GPS 54.5 N 8.25 E")
	segment := append([]byte{0xFF, 0xE1, 0, byte(len(place) + 2)}, place...)
	return append(append(append([]byte{}, raw[:2]...), segment...), raw[2:]...)
}

// A whole quad goes out, comes back under another pilot and goes out again: the same bytes, the same standing.
func TestArchiveOutAndBackUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	w.edit(id, "sheet.link.phrase", `"curlew at dawn"`)
	w.edit(id, "sheet.motors.idle", "7")
	if _, err := w.Undo(t.Context(), id, w.view(id).Version); err != nil {
		t.Fatal(err)
	}
	must := func(_ any, err error) {
		t.Helper()
		if err != nil {
			t.Fatal(err)
		}
	}
	must(w.Note(t.Context(), id, check.NewMount, "a new mount <b>"))
	must(w.Fly(t.Context(), id, app.Flight{Site: "the dunes", Pack: "grey", Minutes: 3, Notes: "it flew"}))
	if err := w.Tag(t.Context(), id, 1, "as bought"); err != nil {
		t.Fatal(err)
	}
	must(w.AddPhoto(t.Context(), id, picture(t), "the new mount"))
	must(w.Type(t.Context(), id, "readings.firstFlight.home", json.RawMessage(`{"latitude":54.56789,"longitude":8.25}`)))
	w.edit(id, "sheet.motors.idle", "6")

	for _, private := range []bool{true, false} {
		out := w.archive(id, private)
		for _, secret := range []string{"curlew", "54.56789", "GPS"} {
			if has := bytes.Contains(out, []byte(secret)); has != (private && secret != "GPS") {
				t.Errorf("private %v: %q is in the archive: %v", private, secret, has)
			}
		}
		for _, part := range []string{"it flew", "as bought", "the new mount", `"findings":[{`, `"kind":"signature"`, `"undone":[]`} {
			if !bytes.Contains(out, []byte(part)) {
				t.Errorf("private %v: %s is not in the archive", private, part)
			}
		}
		pilot, err := w.keep.Pilot(t.Context(), fmt.Sprintf("%v %p", private, w))
		if err != nil {
			t.Fatal(err)
		}
		other := app.New(w.keep, pilot, "another", func() time.Time { return w.now })
		there, err := other.Import(t.Context(), out, "")
		if err != nil {
			t.Fatalf("private %v: %v", private, err)
		}
		_, again, err := other.Archive(t.Context(), there, private)
		if err != nil {
			t.Fatal(err)
		}
		if !bytes.Equal(out, again) {
			t.Errorf("private %v: came back different", private)
		}
		mine, theirs := w.view(id), quadOf(t, other, there)
		for i, s := range mine.Line {
			if o := theirs.Line[i]; o.State != s.State || len(o.Findings) != len(s.Findings) {
				t.Errorf("private %v: %s is %s here and %s there", private, s.ID, s.State, o.State)
			}
		}
		flights, err := other.Flights(t.Context(), there, 0)
		if err != nil || len(flights.Flights) != 1 || theirs.Back.Words != mine.Back.Words {
			t.Errorf("private %v: flights %v, %v, draft %+v", private, flights, err, theirs.Draft)
		}
	}
}

func quadOf(t *testing.T, a *app.App, id int64) *app.QuadView {
	t.Helper()
	v, err := a.Quad(t.Context(), id)
	if err != nil {
		t.Fatal(err)
	}
	return v
}

func TestImportIsAllOrNothingUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	sound := string(w.archive(id, false))
	for _, c := range []struct{ name, old, new, code string }{
		{"a reading that is none", `"kind":"reading","name":"readings.airframe.clear","at":"2026-05-04T09:00:00Z","body":{`, `"kind":"reading","name":"readings.airframe.clear","at":"2026-05-04T09:00:00Z","body":[{`, "not-json"},
		{"a signature that is none", `{"station":"airframe"`, `{"station":7`, "damaged"},
		{"an edit that leads nowhere", `"edits":[]`, `"edits":[{"path":"sheet.nothing","before":1,"after":2}]`, "unknown-path"},
		{"an undone edit that leads nowhere", `"undone":[]`, `"undone":[{"path":"sheet.motors.idle","before":1,"after":"much"}]`, "wrong-type"},
		{"a photo that is none", `"entries":[`, `"entries":[{"kind":"photo","name":"x","at":"2026-05-04T09:00:00Z","body":{"jpeg":"AAAA"}},`, "damaged"},
		{"saved settings that are none", `"entries":[`, `"entries":[{"kind":"backup","name":"x","at":"2026-05-04T09:00:00Z","body":[1]},`, "damaged"},
		{"the name is taken", "", "", "name-taken"},
	} {
		raw := strings.Replace(sound, c.old, c.new, 1)
		if raw == sound && c.old != "" {
			t.Fatalf("%s: %q is not in the archive", c.name, c.old)
		}
		if _, err := w.Import(t.Context(), []byte(raw), ""); code(err) != c.code {
			t.Errorf("%s: %v, want %s", c.name, err, c.code)
		}
	}
	list, err := w.Hangar(t.Context())
	if err != nil || len(list.Quads) != 1 {
		t.Fatalf("%+v, %v", list, err)
	}
	if _, err := w.Import(t.Context(), []byte(sound), "Dunlin again"); err != nil {
		t.Errorf("under another name: %v", err)
	}
}

// A reading that no longer fits, from an archive or an older program, is kept and shown as old; nothing is judged by it, and it
// goes out again as it came. An older form of one that does is read.
func TestReadingsThatNoLongerFitAreShownAsOldUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	for path, value := range map[quad.Path]string{"readings.motors.hot": `"rearLeft"`, "readings.loss.response": `{"motors":"stopped","after":1.5}`} {
		if _, err := w.Type(t.Context(), id, path, json.RawMessage(value)); err != nil {
			t.Fatal(err)
		}
	}
	raw := string(w.archive(id, false))
	for _, r := range []struct{ old, new string }{
		{`"value":"rearLeft"`, `"value":"banana"`},
		{`"value":{"after":1.5,"motors":"stopped"}`, `"value":0`},
		{`"value":{"motors":"stopped","after":1.5}`, `"value":0`},
		{`"name":"readings.airframe.clear"`, `"name":"readings.airframe.shine"`},
	} {
		raw = strings.ReplaceAll(raw, r.old, r.new)
	}
	there, err := w.Import(t.Context(), []byte(raw), "Dunlin of old")
	if err != nil {
		t.Fatal(err)
	}
	v := w.view(there)
	if old := v.Line[check.Motors.Number()-1].Old; len(old) != 1 || old[0].Words != "banana" || !strings.Contains(old[0].Why, "must be one of none, frontLeft") || len(old[0].Slots) != 1 {
		t.Errorf("hot: %+v", old)
	}
	if old := v.Line[0].Old; len(old) != 1 || strings.Contains(old[0].Label, "shine") {
		t.Errorf("a place that nothing knows: %+v", old)
	}
	for _, r := range v.Line[check.LinkLoss.Number()-1].Readings {
		if r.Path == "readings.loss.response" && r.Words != "never stopped" {
			t.Errorf("0 s as it was kept before: %s", r.Words)
		}
	}
	for _, f := range v.Line[check.Motors.Number()-1].Findings {
		if f.Rule == "motors.hot" {
			t.Errorf("judged by what does not fit: %s", f.Title)
		}
	}
	if again := string(w.archive(there, false)); !strings.Contains(again, `"banana"`) || !strings.Contains(again, "readings.airframe.shine") {
		t.Error("what does not fit was dropped")
	}
}

// A clone is meant the same and has nothing measured, signed or flown.
func TestCloneUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	w.edit(id, "sheet.motors.idle", "7")
	there, err := w.Clone(t.Context(), id, "Dunlin's twin")
	if err != nil {
		t.Fatal(err)
	}
	v := w.view(there)
	if b := w.board(there); v.Meant.Sheet.Motors.Idle != 7 || v.Revision != 1 || b.Read {
		t.Errorf("idle %v, revision %d, board %+v", v.Meant.Sheet.Motors.Idle, v.Revision, b)
	}
	for _, s := range v.Line {
		if len(s.Readings) > 0 || s.SignedAt != nil || s.State == proof.Proven {
			t.Errorf("%s of the clone: %s, %d readings", s.ID, s.State, len(s.Readings))
		}
	}
	if _, err := w.Clone(t.Context(), id, "Dunlin's twin"); code(err) != "name-taken" {
		t.Errorf("the same name again: %v", err)
	}
}

// A pasted list and chosen parts give findings with no bench at all.
func TestBeginFromAListAndPartsUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	from := w.dunlin()
	q, err := demo.Load("dunlin")
	if err != nil {
		t.Fatal(err)
	}
	list := string(firmware.WriteList(q.Board, nil))
	all := app.PartsOf{Frame: from, Motors: from, Propeller: from, Power: from, Board: from, Radio: from, Video: from}
	n := app.NewQuad{Name: "Knot", Words: "pasted", Parts: all, List: list, Line: "Marram", Version: "7.0.2", Target: "HARRIER4"}
	id, err := w.Begin(t.Context(), n)
	if err != nil {
		t.Fatal(err)
	}
	v := w.view(id)
	b := w.board(id)
	if !b.Read || v.Meant.Parts.Motor.KV != q.Meant.Parts.Motor.KV || v.Meant.Sheet.Motors.Idle == 0 {
		t.Errorf("board %+v, motor %+v, idle %v", b, v.Meant.Parts.Motor, v.Meant.Sheet.Motors.Idle)
	}
	if len(b.Changes) != 0 {
		t.Errorf("the sheet that was made from the list differs from it: %+v", b.Changes)
	}
	findings := 0
	for _, s := range v.Line {
		findings += len(s.Findings)
	}
	if findings == 0 {
		t.Error("a half-finished quad's list gave no finding")
	}
	n.Name, n.List = "Ruff", list+"\nno.such.setting.at.all\n"
	if _, err := w.Begin(t.Context(), n); err == nil || !strings.Contains(err.Error(), "nothing was taken") {
		t.Errorf("a list with a fault: %v", err)
	}
	hangar, err := w.Hangar(t.Context())
	if err != nil || len(hangar.Quads) != 2 {
		t.Errorf("%+v after a list with a fault, %v", hangar, err)
	}
}

// The facts behind a finding are what its rule reads, no more.
func TestFactsOfAFindingUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	if _, err := w.Type(t.Context(), id, "readings.senses.level", json.RawMessage(`{"roll":2,"pitch":0}`)); err != nil {
		t.Fatal(err)
	}
	subject := ""
	for _, f := range w.view(id).Line[check.Senses.Number()-1].Findings {
		if f.Rule == "senses.level" {
			subject = f.Subject
		}
	}
	f, err := w.Facts(t.Context(), id, "senses.level", subject)
	if err != nil {
		t.Fatal(err)
	}
	if f.Saw["readings.senses.level"] != (quad.Level{Roll: 2}) || f.Origins["readings.senses.level"].Origin != quad.OriginTyped || f.Finding.Weight != check.Fix {
		t.Errorf("%+v", f)
	}
	if _, more := f.Saw["sheet.motors.idle"]; more || len(f.Saw) != 5 {
		t.Errorf("it saw %v", f.Saw)
	}
	if _, err := w.Facts(t.Context(), id, "senses.level", "nothing of the kind"); code(err) != "no-finding" {
		t.Errorf("a finding that does not stand: %v", err)
	}
}

func TestPhotosAreMadeAnewUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	list, err := w.AddPhoto(t.Context(), id, picture(t), "before the crash")
	if err != nil || len(list) != 1 || list[0].Note != "before the crash" {
		t.Fatalf("%+v, %v", list, err)
	}
	raw, err := w.Photo(t.Context(), id, list[0].ID)
	if err != nil || bytes.Contains(raw, []byte("GPS")) {
		t.Errorf("the place it was taken at is kept, or %v", err)
	}
	if img, err := jpeg.Decode(bytes.NewReader(raw)); err != nil || img.Bounds().Dx() != 8 {
		t.Errorf("%v", err)
	}
	var big bytes.Buffer
	if err := png.Encode(&big, image.NewGray(image.Rect(0, 0, 8000, 6000))); err != nil {
		t.Fatal(err)
	}
	for name, raw := range map[string][]byte{"text": []byte("not a picture"), "cut short": picture(t)[:60], "48 million pixels": big.Bytes()} {
		if _, err := w.AddPhoto(t.Context(), id, raw, ""); code(err) != "not-a-picture" && code(err) != "too-large" {
			t.Errorf("%s: %v", name, err)
		}
	}
	if _, err := w.Photo(t.Context(), id, list[0].ID+1000); code(err) != "no-entry" {
		t.Errorf("a photo that is none: %v", err)
	}
}

// Of a quad begun without a list nobody told where 0 means something; a whole list tells all of that. A list of changes alone tells what it
// names; the rest is asked for, with what the firmware comes with, and set to that in one act. A list through a dictionary that the pilot taught
// tells just what he taught so far.
func TestAListTellsWhatNobodyToldUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	q, err := demo.Load("dunlin")
	if err != nil {
		t.Fatal(err)
	}
	from := w.dunlin()
	id, err := w.Begin(t.Context(), app.NewQuad{Name: "Reeve", Parts: app.PartsOf{Board: from}, Line: "Marram", Version: "7.0.2", Target: "HARRIER4"})
	if err != nil {
		t.Fatal(err)
	}
	v := w.view(id)
	if n := len(v.Meant.Sheet.Gaps); n < 30 {
		t.Fatalf("only %d places are said to be told by nobody", n)
	}
	asked := func(v *app.QuadView) (n int) {
		for _, p := range v.Line {
			for _, a := range p.Asks {
				if a.Nought != nil {
					n++
				}
			}
		}
		return n
	}
	if n := asked(v); n < 30 {
		t.Errorf("%d of them are asked for", n)
	}
	list := firmware.WriteList(q.Board, nil)
	if _, err := w.ReadList(t.Context(), id, list, false); err != nil {
		t.Fatal(err)
	}
	if v, err = w.TakeList(t.Context(), id, w.view(id).Version, list, false); err != nil {
		t.Fatal(err)
	}
	if n := len(v.Meant.Sheet.Gaps); n == 0 || slices.Contains(v.Meant.Sheet.Gaps, "sticks.arm") || v.Meant.Sheet.Sticks.Arm.Channel != 5 {
		t.Errorf("a list of changes leaves %v", v.Meant.Sheet.Gaps)
	}
	build, err := firmware.Find("Marram", "7.0.2")
	if err != nil {
		t.Fatal(err)
	}
	var left []app.SetValue
	seen := map[quad.Path]bool{}
	for _, p := range v.Line {
		for _, a := range p.Asks {
			if a.Left != nil && !seen[a.Path] {
				seen[a.Path], left = true, append(left, app.SetValue{Path: a.Path, Value: a.Left})
			}
		}
	}
	if v, err = w.Edit(t.Context(), id, v.Version, left); err != nil {
		t.Fatal(err)
	}
	if d := v.Meant.Sheet.Feel.RollGains; len(v.Meant.Sheet.Gaps) != 0 || asked(v) != 0 || d != (quad.Gains{Proportional: 0.045, Integral: 0.12, Derivative: 0.0006}) {
		t.Errorf("as it comes it is %+v, and nobody told %v", d, v.Meant.Sheet.Gaps)
	}

	whole, err := w.Begin(t.Context(), app.NewQuad{Name: "Whinchat", Parts: app.PartsOf{Board: from}, Line: "Marram", Version: "7.0.2", Target: "HARRIER4"})
	if err != nil {
		t.Fatal(err)
	}
	all := build.Facts.Defaults()
	maps.Copy(all, q.Board)
	if v, err = w.TakeList(t.Context(), whole, w.view(whole).Version, firmware.WriteList(all, nil), false); err != nil {
		t.Fatal(err)
	}
	if len(v.Meant.Sheet.Gaps) != 0 || asked(v) != 0 || v.Meant.Sheet.Feel.YawGains.Derivative != 0 {
		t.Errorf("with its whole list in, nobody told %v", v.Meant.Sheet.Gaps)
	}

	taught := "line: Rush\nversions: [{version: 1.0.0}]\nsettings:\n  - {name: spare, kind: whole, min: 0, max: 100, default: \"0\"}\nentries:\n  - {kind: scalar, setting: spare, path: sheet.sticks.deadband}\n"
	if _, err := w.Teach(t.Context(), 0, taught); err != nil {
		t.Fatal(err)
	}
	other, err := w.Begin(t.Context(), app.NewQuad{Name: "Ruff", Parts: app.PartsOf{Board: from}, Line: "Rush", Version: "1.0.0", Target: "HARRIER4", List: "spare = 0\n"})
	if err != nil {
		t.Fatal(err)
	}
	gaps := w.view(other).Meant.Sheet.Gaps
	if slices.Contains(gaps, "sticks.deadband") || !slices.Contains(gaps, "feel.yawGains.derivative") {
		t.Errorf("a list of one setting leaves %v", gaps)
	}
}
