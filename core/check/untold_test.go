package check_test

import (
	"encoding/json"
	"reflect"
	"slices"
	"testing"

	"vividperch/core/check"
	"vividperch/core/flight"
	"vividperch/core/quad"
)

// notMissed are places at which something is asked for in general, and of which a quad needs no telling, with why.
var notMissed = map[quad.Path]string{
	"parts.frame.mass":  "the whole quad was weighed",
	"parts.motor.poles": "the settings tell them; a sheet of its maker that says otherwise is judged",
}

// What nobody told is asked for, and nothing is judged by it: whatever of a sound quad is taken away, the rules that looked at it ask, and
// none of them says what is wrong with a 0.
func TestWhatNobodyToldIsAskedFor(t *testing.T) {
	k := sound(t)
	tried := 0
	for _, l := range quad.Leaves(k.Meant(), "") {
		f, err := quad.FieldAt(l.Path)
		if err != nil || !f.Asked || l.Untold {
			continue
		}
		tried++
		without := k
		zero, err := json.Marshal(reflect.Zero(f.Type).Interface())
		must(t, err)
		must(t, quad.Set(&without, l.Path, zero))
		report := check.All(without, check.Context{Now: today})
		asked := slices.ContainsFunc(report.Asks, func(a check.Ask) bool { return a.Path == l.Path })
		if why, known := notMissed[l.Path]; known == asked {
			t.Errorf("%s: asked for: %v; expected otherwise (%s)", l.Path, asked, why)
		}
		for _, f := range report.Findings {
			if slices.Contains(f.Paths, l.Path) {
				t.Errorf("%s is not told and judged: %s", l.Path, f.Title)
			}
		}
	}
	if tried < 40 {
		t.Errorf("only %d places were tried", tried)
	}
}

// A 0 that nobody told is no 0: wherever one may stand, the rules that look there ask for it, and none of them judges by it; typed, it is as
// good as any other value.
func TestANoughtThatNobodyToldIsAskedFor(t *testing.T) {
	k := sound(t)
	places := k.Sheet.AllGaps()
	if len(places) < 30 {
		t.Fatalf("only %d places", len(places))
	}
	for _, place := range places {
		at := quad.Path("sheet." + place)
		without := k
		must(t, quad.Set(&without, at, []byte("null")))
		report := check.All(without, check.Context{Now: today})
		if !slices.ContainsFunc(report.Asks, func(a check.Ask) bool { return a.Path == at }) {
			t.Errorf("%s is not asked for", at)
		}
		for _, f := range report.Findings {
			if slices.ContainsFunc(f.Paths, at.Touches) {
				t.Errorf("%s is not told and judged: %s", at, f.Title)
			}
		}
		if _, err := flight.NewInput(without); err != nil {
			t.Errorf("%s: the board was read, and the model does not fly what it holds: %v", at, err)
		}
		told := without
		must(t, quad.Set(&told, at, quad.Nought(&without, at)))
		for _, a := range check.All(told, check.Context{Now: today}).Asks {
			if a.Path == at {
				t.Errorf("%s is told to be 0 and asked for still", at)
			}
		}
	}
}

// Without a read-back a flight goes by the sheet: then the model refuses to fly by what nobody told, and says what that is.
func TestNoFlightByNoughtsOfNobody(t *testing.T) {
	k := sound(t)
	k.Board = quad.Board{}
	if _, err := flight.NewInput(k); err != nil {
		t.Fatal(err)
	}
	must(t, quad.Set(&k, "sheet.feel.rollGains.integral", []byte("null")))
	if _, err := flight.NewInput(k); err == nil || quad.AsFault(err).Place != "sheet.feel.rollGains.integral" || flight.Whole(k) {
		t.Errorf("flew all the same: %v", err)
	}
}
