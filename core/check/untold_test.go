package check_test

import (
	"encoding/json"
	"reflect"
	"slices"
	"testing"

	"vividperch/core/check"
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
