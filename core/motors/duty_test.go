package motors

import (
	"math"
	"testing"
)

func TestDutyWorkedValues(t *testing.T) {
	tests := []struct {
		throttle, duty float64
		of             Output
		why            string
	}{
		{0, 0.05, Output{0.05, 0.8, false, 0}, "no throttle is idle"},
		{1, 1, Output{0, 1, false, 0}, "full throttle without a limit is everything"},
		{1, 0.81, Output{0.05, 0.8, false, 0}, "0.05 and 0.8 of the 0.95 above it"},
		{0.5, 0.43, Output{0.05, 0.8, false, 0}, "0.05 + 0.5 x 0.8 x 0.95, by hand"},
		{0.5, 0.525, Output{0.05, 0.8, true, 0}, "cut off at 0.8, half is half: 0.05 + 0.5 x 0.95"},
		{0.8, 0.81, Output{0.05, 0.8, true, 0}, "cut off, the limit is reached at the limit"},
		{0.25, 0.5, Output{0, 1, false, 1}, "all evened out, a quarter of the thrust is half the duty: 0.5² = 0.25"},
		{0.375, 0.5, Output{0, 1, false, 0.5}, "half of it: 0.5 x 0.5² + 0.5 x 0.5"},
		{0.5, 0.05 + 0.5*0.95, Output{0.05, 0.75, false, 0.5}, "half a stick of 0.75 is 0.375 again, above an idle of 0.05"},
		{0.3, 0.05 + 0.95*0.5, Output{0.05, 0.8, true, 0.8}, "cut off: 0.8 x 0.5² + 0.2 x 0.5"},
		{0, 0.05, Output{0.05, 0.8, true, 1}, "at rest there is nothing to even out"},
		{1, 1, Output{0.05, 1, false, 1}, "nor at full"},
	}
	for _, c := range tests {
		if got := c.of.Duty(c.throttle); !(math.Abs(got-c.duty) <= 1e-12) {
			t.Errorf("%s: %v, want %v", c.why, got, c.duty)
		}
		if back := c.of.Throttle(c.duty); !(math.Abs(back-c.throttle) <= 1e-12) {
			t.Errorf("%s: back to throttle %v, want %v", c.why, back, c.throttle)
		}
	}
	for _, cut := range []bool{false, true} {
		if got := (Output{0.05, 0.5, cut, 0}).Throttle(0.9); got <= 1 {
			t.Errorf("a duty of 0.9 is out of reach at a limit of a half, but throttle %v is to reach it", got)
		}
	}
	for _, duty := range []float64{0.3, 0.81, 1} {
		if got := (Output{0.05, (Output{Idle: 0.05, Even: 0.6}).LimitFor(duty), false, 0.6}).Duty(1); !(math.Abs(got-duty) <= 1e-12) {
			t.Errorf("a limit for a duty of %v ends at %v", duty, got)
		}
	}
	if got := (Output{0.05, 0.8, true, 0}).Duty(1); !(math.Abs(got-0.81) <= 1e-12) {
		t.Errorf("beyond a limit that cuts off nothing comes, and %v does", got)
	}
	if got := (Output{}).Throttle(0.5); !math.IsInf(got, 1) {
		t.Errorf("with a limit of nothing a duty needs throttle %v", got)
	}
}

// The slope is that of the duty over the command, by differences; evened out it is steep low down and flat high up, and thrust that climbs as it is told to climbs straight.
func TestSlopeAgainstDifferences(t *testing.T) {
	for _, even := range []float64{0, 0.3, 0.7, 1} {
		o := Output{Idle: 0.05, Limit: 1, Even: even}
		for _, command := range []float64{0.1, 0.3, 0.6, 0.95} {
			duty := o.Evened(command)
			const h = 1e-6
			if want := (o.Evened(command+h) - o.Evened(command-h)) / (2 * h); !(math.Abs(o.Slope(duty)/want-1) <= 1e-6) {
				t.Errorf("%v evened out, at a command of %v: slope %v, by differences %v", even, command, o.Slope(duty), want)
			}
			u := (duty - 0.05) / 0.95
			if thrust, straight := even*u*u+(1-even)*u, (command-0.05)/0.95; !(math.Abs(thrust-straight) <= 1e-12) {
				t.Errorf("%v evened out, a command of %v lifts %v of what there is", even, command, thrust)
			}
		}
	}
	if got := (Output{Limit: 1, Even: 1}).Slope(0); math.IsInf(got, 0) {
		t.Error("at rest its slope is beyond all figures")
	}
}
