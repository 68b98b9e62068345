package quad

import (
	"errors"
	"fmt"
	"testing"
)

// A pilot is told what a place is called; what is no place of the quad is one of a list or a file, and stands as it is.
func TestExplain(t *testing.T) {
	for _, c := range []struct {
		err  error
		want string
	}{
		{Faultf("x", "sheet.motors.protocol", "%q has no counterpart", "pulses"), `Throttle protocol: "pulses" has no counterpart.`},
		{Faultf("x", "parts.packs.Long 4", "has no capacity."), "Pack Long 4: has no capacity."},
		{Faultf("x", "readings.sticks.axes.roll", "was not moved"), "Roll stick: was not moved."},
		{fmt.Errorf("here: %w", Faultf("x", "line 4", "is no setting")), "Line 4: is no setting."},
		{Faultf("x", "out.rest", "must be between 0 and 20"), "Out.rest: must be between 0 and 20."},
		{Faultf("x", "board", "does not answer"), "Does not answer."},
		{Faultf("x", "", "nothing to write"), "Nothing to write."},
		{errors.New("no space left"), "No space left."},
	} {
		if got := Explain(c.err); got != c.want {
			t.Errorf("%v: %q, want %q", c.err, got, c.want)
		}
	}
}
