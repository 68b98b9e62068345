package app_test

import (
	"encoding/json"
	"strings"
	"testing"
	"time"

	"vividperch/app"
	"vividperch/core/check"
	"vividperch/core/proof"
	"vividperch/core/quad"
)

// later lets a minute go by: acts at the same moment count as one.
func (w *world) later() { w.now = w.now.Add(time.Minute) }

// back takes the last act back and gives the quad.
func (w *world) back(id int64, why string) *app.QuadView {
	w.t.Helper()
	v, err := w.TakeBack(w.t.Context(), id, w.view(id).Seen, why)
	if err != nil {
		w.t.Fatal(err)
	}
	return v
}

func (w *world) reading(id int64, s check.Station, path quad.Path) string {
	w.t.Helper()
	for _, r := range w.view(id).Line[s.Number()-1].Readings {
		if r.Path == path {
			return r.Words
		}
	}
	return ""
}

// One after the other the acts of a pilot are taken back, whatever they were; what had counted before counts again, and proofs go by it.
func TestActsAreTakenBackOneByOneUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	const weight = "readings.airframe.weight"
	before := w.reading(id, check.Airframe, weight)
	if before == "" || w.state(id, check.Airframe) != proof.Proven {
		t.Fatalf("Dunlin weighs %q, its airframe is %s", before, w.state(id, check.Airframe))
	}
	w.later()
	if _, err := w.Type(t.Context(), id, weight, json.RawMessage(`"900 g"`)); err != nil {
		t.Fatal(err)
	}
	w.later()
	if _, err := w.Sign(t.Context(), id, check.Feel, ""); err != nil {
		t.Fatal(err)
	}
	w.later()
	w.edit(id, "sheet.motors.idle", "6")
	if _, err := w.Note(t.Context(), id, check.Repair, "a new arm"); err != nil {
		t.Fatal(err)
	}
	w.edit(id, "sheet.motors.idle", "7")
	for _, c := range []struct{ words, why string }{
		{"Idle throttle: 6 % becomes 7 %", ""},
		{"a repair", "it was another quad"},
		{"Idle throttle: 5.5 % becomes 6 %", ""},
		{"the signature at Feel", "signed the wrong station"},
		{"Weight with pack and propellers, 900 g", ""},
	} {
		v := w.view(id)
		if v.Back.Words != c.words || v.Back.Asks != (c.why != "") || v.Back.Against != "" || !v.Back.Fresh {
			t.Fatalf("the last act is %+v, wanted %q", v.Back, c.words)
		}
		if c.why != "" {
			if _, err := w.TakeBack(t.Context(), id, v.Seen, " "); code(err) != "no-reason" {
				t.Errorf("%s in silence: %v", c.words, err)
			}
		}
		if _, err := w.TakeBack(t.Context(), id, "0.0", "why"); code(err) != "changed" {
			t.Errorf("%s by who saw something else: %v", c.words, err)
		}
		w.back(id, c.why)
	}
	if got := w.reading(id, check.Airframe, weight); got != before || w.state(id, check.Airframe) != proof.Proven {
		t.Errorf("it weighs %q, wanted %q; its airframe is %s", got, before, w.state(id, check.Airframe))
	}
	if got := w.state(id, check.Feel); got == proof.Proven {
		t.Error("the withdrawn signature counts")
	}
	past, err := w.History(t.Context(), id, weight)
	if err != nil || len(past.Past) != 2 || past.Past[0].Words != "900 g" || past.Past[0].Withdrawn == nil || past.Past[0].Withdrawn.Why != "taken back at once" ||
		past.Past[0].Counts || past.Past[1].Words != before || past.Past[1].Withdrawn != nil || !past.Past[1].Counts {
		t.Errorf("%+v, %v", past, err)
	}
}

// What was withdrawn by itself topples what relied on it, and stays in the history with its reason; a crash that was none lets the readings
// stand again.
func TestWithdrawnWithAReasonUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	withdraw := func(kind app.Did, name, why string) error {
		_, err := w.Withdraw(t.Context(), id, kind, name, w.view(id).Seen, why)
		return err
	}
	if err := withdraw("reading", "readings.airframe.weight", ""); code(err) != "no-reason" {
		t.Errorf("without a reason: %v", err)
	}
	if err := withdraw("reading", "readings.airframe.weight", strings.Repeat("x", 201)); code(err) != "no-reason" {
		t.Errorf("with a long one: %v", err)
	}
	if err := withdraw("board", "board", "it is not so"); quad.AsFault(err) == nil {
		t.Error("a board was withdrawn")
	}
	if err := withdraw("reading", "readings.nowhere", "a mistake"); code(err) != "nothing-to-withdraw" {
		t.Errorf("what was never there: %v", err)
	}
	if err := withdraw("reading", "readings.airframe.weight", "the scales stood askew"); err != nil {
		t.Fatal(err)
	}
	if got := w.state(id, check.Airframe); got == proof.Proven || w.reading(id, check.Airframe, "readings.airframe.weight") != "" {
		t.Errorf("the airframe is %s", got)
	}
	if _, err := w.Type(t.Context(), id, "readings.airframe.weight", json.RawMessage(`"712 g"`)); err != nil {
		t.Fatal(err)
	}
	stale := func() int {
		n := 0
		for _, p := range w.view(id).Line {
			if p.State == proof.Stale {
				n++
			}
		}
		return n
	}
	before := stale()
	w.later()
	if _, err := w.Note(t.Context(), id, check.Crash, "a tree"); err != nil {
		t.Fatal(err)
	}
	if stale() <= before {
		t.Fatal("a crash made nothing stale")
	}
	if err := withdraw("event", "crash", "it was only a hard landing of another quad"); err != nil {
		t.Fatal(err)
	}
	if got := stale(); got != before {
		t.Errorf("%d stations are stale, before the crash %d", got, before)
	}
	events, err := w.Events(t.Context(), id, 0)
	if err != nil || len(events.Events) != 1 || events.Events[0].Withdrawn == nil || events.Events[0].Counts {
		t.Errorf("%+v, %v", events, err)
	}
	if err := withdraw("event", "crash", "twice"); code(err) != "nothing-to-withdraw" {
		t.Errorf("twice: %v", err)
	}
}

// Withdrawals go along with an archive, and count there as here.
func TestWithdrawalsGoAlongUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	if _, err := w.Withdraw(t.Context(), id, "signature", "airframe", w.view(id).Seen, "by mistake"); err != nil {
		t.Fatal(err)
	}
	w.edit(id, "sheet.motors.idle", "6")
	other, err := w.Import(t.Context(), w.archive(id, false), "Dunlin again")
	if err != nil {
		t.Fatal(err)
	}
	if w.state(other, check.Airframe) == proof.Proven || w.state(other, check.FirstPower) != proof.Proven {
		t.Error("the withdrawn signature came back by the archive")
	}
	if got := w.view(other).Back.Words; got != "Idle throttle: 5.5 % becomes 6 %" {
		t.Errorf("the last act there is %q", got)
	}
}
