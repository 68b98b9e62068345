package app_test

import (
	"encoding/json"
	"slices"
	"strings"
	"testing"
	"time"

	"vividperch/app"
	"vividperch/core/check"
	"vividperch/core/proof"
	"vividperch/core/quad"
)

func set(path quad.Path, value string) app.SetValue {
	return app.SetValue{Path: path, Value: json.RawMessage(value)}
}

// What was done in one act is undone in one, and the words say what.
func TestOneActIsUndoneInOneUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	was := w.view(id).Meant
	w.edit(id, "sheet.loss.guard", "2")
	v, err := w.Edit(t.Context(), id, w.view(id).Version, []app.SetValue{set("sheet.motors.idle", `"7 %"`), set("sheet.feel.angleLimit", "44"), set("sheet.feel.throttleLimit", "70")})
	if err != nil {
		t.Fatal(err)
	}
	if want := "Idle throttle: 5.5 % becomes 7 %, and 2 more"; v.Back.Words != want {
		t.Errorf("undo says %q, want %q", v.Back.Words, want)
	}
	if v, err = w.Undo(t.Context(), id, v.Version); err != nil || v.Meant.Sheet.Motors.Idle != was.Sheet.Motors.Idle || v.Meant.Sheet.Feel.AngleLimit != was.Sheet.Feel.AngleLimit || v.Meant.Sheet.Loss.Guard != 2 {
		t.Fatalf("after undo: %+v, %v", v.Meant.Sheet, err)
	}
	if v.Draft.Redo != "Idle throttle: 5.5 % becomes 7 %, and 2 more" || !strings.HasPrefix(v.Back.Words, "Failsafe delay: ") {
		t.Errorf("%+v", v.Draft)
	}
	if v, err = w.Redo(t.Context(), id, v.Version); err != nil || v.Meant.Sheet.Feel.ThrottleLimit != 70 || v.Meant.Sheet.Motors.Idle != 7 {
		t.Errorf("after redo: %+v, %v", v.Meant.Sheet, err)
	}
}

func TestCompareRestoreTagUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	w.edit(id, "sheet.motors.idle", "7")
	w.edit(id, "sheet.loss.guard", "2")
	if _, err := w.Type(t.Context(), id, "readings.airframe.weight", json.RawMessage("700")); err != nil { // saves a revision
		t.Fatal(err)
	}
	w.edit(id, "sheet.motors.idle", "8")
	head := w.view(id).Revision
	tagged := func(tag string) app.RevisionView {
		t.Helper()
		if err := w.Tag(t.Context(), id, head, tag); err != nil {
			t.Fatal(err)
		}
		return w.revisions(id)[0]
	}
	if r := tagged(" before the dunes "); r.Tag != "before the dunes" || r.Who != "a pilot" || r.Why != "before a typed reading" {
		t.Fatalf("%+v", r)
	}
	if r := tagged(""); r.Tag != "" {
		t.Errorf("the tag stays: %+v", r)
	}
	c, err := w.Compare(t.Context(), id, 1, head)
	if err != nil || len(c.Differences) != 2 {
		t.Fatalf("%+v, %v", c, err)
	}
	c, err = w.Compare(t.Context(), id, 1, 0)
	if err != nil || len(c.Differences) != 2 || c.Differences[0].Words() != "Idle throttle: 5.5 % becomes 8 %" {
		t.Fatalf("against the draft: %+v, %v", c, err)
	}
	if _, err := w.Compare(t.Context(), id, 1, 99); code(err) != "no-revision" {
		t.Errorf("a revision that is none: %v", err)
	}
	// One path alone, then all of it; each is one act that can be undone.
	v, err := w.Restore(t.Context(), id, w.view(id).Version, 1, []quad.Path{"sheet.loss"})
	if err != nil || v.Meant.Sheet.Loss.Guard == 2 || v.Meant.Sheet.Motors.Idle != 8 {
		t.Fatalf("only the loss: %+v, %v", v.Meant.Sheet, err)
	}
	v, err = w.Restore(t.Context(), id, v.Version, 1, nil)
	if err != nil || len(v.Draft.Words) != 2 || v.Meant.Sheet.Motors.Idle != 5.5 {
		t.Fatalf("all of it: %+v, %v", v.Draft, err)
	}
	if _, err := w.Restore(t.Context(), id, v.Version, 1, nil); code(err) != "nothing-to-restore" {
		t.Errorf("once more: %v", err)
	}
	if v, err = w.Undo(t.Context(), id, v.Version); err != nil || v.Meant.Sheet.Motors.Idle != 8 {
		t.Errorf("undone: %v, %v", v.Meant.Sheet.Motors.Idle, err)
	}
}

func TestSaveWithAReasonUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	if _, err := w.Save(t.Context(), id, w.view(id).Version, "nothing changed"); code(err) != "nothing-to-save" {
		t.Errorf("an unchanged draft: %v", err)
	}
	v := w.edit(id, "sheet.motors.idle", "7")
	if _, err := w.Save(t.Context(), id, v.Version, "  "); code(err) != "no-reason" {
		t.Errorf("without a reason: %v", err)
	}
	if _, err := w.Save(t.Context(), id, v.Version-1, "for the wind"); code(err) != "changed" {
		t.Errorf("from a window that saw an older draft: %v", err)
	}
	v, err := w.Save(t.Context(), id, v.Version, "for the wind")
	if err != nil || v.Revision != 2 || len(v.Draft.Words) != 0 {
		t.Fatalf("revision %d, draft %+v, %v", v.Revision, v.Draft, err)
	}
	if r := w.revisions(id)[0]; r.Why != "for the wind" || r.Who != "a pilot" || len(r.Words) != 1 {
		t.Errorf("%+v", r)
	}
}

// revisions of a quad, the newest page of them.
func (w *world) revisions(id int64) []app.RevisionView {
	w.t.Helper()
	list, err := w.Revisions(w.t.Context(), id, 0)
	if err != nil {
		w.t.Fatal(err)
	}
	return list.Revisions
}

// What comparison foretells of proofs is what happens.
func TestCompareForetellsWhatFallsUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	w.edit(id, "parts.frame.mass", "500")
	if _, err := w.Type(t.Context(), id, "readings.link.range", json.RawMessage("90")); err != nil {
		t.Fatal(err)
	}
	proven := func() []string {
		var out []string
		for _, s := range w.view(id).Line {
			if s.State == proof.Proven {
				out = append(out, s.Name)
			}
		}
		return out
	}
	before := proven()
	c, err := w.Compare(t.Context(), id, 1, 0)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := w.Restore(t.Context(), id, w.view(id).Version, 1, nil); err != nil {
		t.Fatal(err)
	}
	after := proven()
	var fell []string
	for _, name := range before {
		if !slices.Contains(after, name) {
			fell = append(fell, name)
		}
	}
	if !slices.Equal(fell, c.Falls) {
		t.Errorf("fell %v, foretold %v", fell, c.Falls)
	}
}

// The later of two windows is told where they went apart, and what it chooses stands.
func TestReconcileAfterAnotherWindowUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	saw := w.view(id)
	w.edit(id, "sheet.motors.idle", "7")
	w.edit(id, "sheet.loss.guard", "2")
	mine := []app.SetValue{set("sheet.motors.idle", `"9 %"`)}
	if _, err := w.Edit(t.Context(), id, saw.Version, mine); code(err) != "changed" {
		t.Fatalf("the later window wrote over the earlier: %v", err)
	}
	seen, err := json.Marshal(saw.Meant)
	if err != nil {
		t.Fatal(err)
	}
	rows, err := w.Reconcile(t.Context(), id, seen, mine)
	if err != nil || len(rows) != 2 {
		t.Fatalf("%+v, %v", rows, err)
	}
	if r := rows[0]; r.Path != "sheet.motors.idle" || r.Seen != "5.5 %" || r.Theirs != "7 %" || r.Mine != "9 %" {
		t.Errorf("%+v", r)
	}
	if r := rows[1]; r.Path != "sheet.loss.guard" || r.Mine != "" || r.Put != nil {
		t.Errorf("%+v", r)
	}
	v, err := w.Edit(t.Context(), id, w.view(id).Version, []app.SetValue{{Path: rows[0].Path, Value: rows[0].Put}, {Path: rows[1].Path, Value: rows[1].Back}})
	if err != nil || v.Meant.Sheet.Motors.Idle != 9 || v.Meant.Sheet.Loss.Guard != saw.Meant.Sheet.Loss.Guard {
		t.Errorf("chosen, but it is %v and %v (%v)", v.Meant.Sheet.Motors.Idle, v.Meant.Sheet.Loss.Guard, err)
	}
}

// A limit of one's own is judged by, is kept with its reason, and a proof relies on it.
func TestOwnLimitsUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	p, err := w.Pilot(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	if _, err := w.SetLimit(t.Context(), p.Version, "tipSpeed", json.RawMessage(`{"value":0.5,"reason":""}`)); code(err) != "no-reason" {
		t.Errorf("without a reason: %v", err)
	}
	if _, err := w.SetLimit(t.Context(), p.Version, "tipSpeed", json.RawMessage(`{"value":2,"reason":"x"}`)); code(err) != "out-of-range" {
		t.Errorf("twice the speed of sound: %v", err)
	}
	if _, err := w.SetLimit(t.Context(), p.Version, "luck", json.RawMessage(`{"value":2,"reason":"x"}`)); code(err) != "unknown-path" {
		t.Errorf("a limit that is none: %v", err)
	}
	if w.state(id, check.Airframe) != proof.Proven {
		t.Fatal("the airframe is not proven to begin with")
	}
	if _, err := w.SetLimit(t.Context(), p.Version, "tipSpeed", json.RawMessage(`{"value":"0.5","reason":"neighbours"}`)); err != nil {
		t.Fatal(err)
	}
	if _, err := w.SetLimit(t.Context(), p.Version, "tipSpeed", json.RawMessage(`{"value":0.6,"reason":"x"}`)); code(err) != "changed" {
		t.Errorf("from a window that saw the old one: %v", err)
	}
	v := w.view(id)
	airframe := v.Line[0]
	if airframe.State != proof.HasFix || !strings.Contains(airframe.Findings[0].Figures, "Your own limit: neighbours.") {
		t.Errorf("by the pilot's limit it is %s: %+v", airframe.State, airframe.Findings)
	}
	w.edit(id, "limits.thresholds.tipSpeed", `{"value":"0.9","reason":"alone out here"}`)
	v = w.view(id)
	if v.Line[0].State != proof.Stale {
		t.Errorf("the quad's own limit goes before the pilot's, but it is %s", v.Line[0].State)
	}
	if i := slices.IndexFunc(v.Line[0].Limits, func(l app.LimitView) bool { return l.Key == "tipSpeed" }); i < 0 || v.Line[0].Limits[i].Stands != "0.9" {
		t.Errorf("%+v", v.Line[0].Limits)
	}
}

// The list of what is next begins with what can injure and then follows the line.
func TestNextIsInOrderUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	if _, err := w.Type(t.Context(), id, "readings.loss.output", json.RawMessage(`"hold"`)); err != nil {
		t.Fatal(err)
	}
	w.now = w.now.Add(time.Hour)
	if _, err := w.Note(t.Context(), id, check.Solder, ""); err != nil {
		t.Fatal(err)
	}
	next := w.view(id).Next
	if next[0].Kind != "stop" || next[0].Station != check.LinkLoss {
		t.Errorf("first comes %+v", next[0])
	}
	rank := map[proof.TodoKind]int{proof.TodoStop: 0, proof.TodoProve: 1}
	for i := 1; i < len(next); i++ {
		a, b := next[i-1], next[i]
		ra, rb := 2, 2
		if r, ok := rank[a.Kind]; ok {
			ra = r
		}
		if r, ok := rank[b.Kind]; ok {
			rb = r
		}
		if ra > rb || ra == rb && a.Station.Number() > b.Station.Number() {
			t.Errorf("%+v stands before %+v", a, b)
		}
	}
	// What several stations find is listed once.
	w.edit(id, "sheet.loss.guard", "2")
	differs := 0
	for _, n := range w.view(id).Next {
		if strings.HasPrefix(n.Words, "The board differs from your settings") {
			differs++
		}
	}
	if differs != 1 {
		t.Errorf("that the board differs is listed %d times", differs)
	}
	next = w.view(id).Next
	hangar, err := w.Hangar(t.Context())
	if err != nil || hangar.Quads[0].ToDo != len(next) || !slices.Equal(hangar.Quads[0].Next, next[:3]) {
		t.Errorf("the hangar lists %+v, the line %+v (%v)", hangar.Quads[0], next, err)
	}
	kinds := map[proof.TodoKind]bool{}
	for _, n := range next {
		kinds[n.Kind] = true
	}
	if !kinds["prove"] || !kinds["reading"] {
		t.Errorf("kinds %v", kinds)
	}
}
