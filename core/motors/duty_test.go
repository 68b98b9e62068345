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
		{0, 0.05, Output{0.05, 0.8, false}, "no throttle is idle"},
		{1, 1, Output{0, 1, false}, "full throttle without a limit is everything"},
		{1, 0.81, Output{0.05, 0.8, false}, "0.05 and 0.8 of the 0.95 above it"},
		{0.5, 0.43, Output{0.05, 0.8, false}, "0.05 + 0.5 x 0.8 x 0.95, by hand"},
		{0.5, 0.525, Output{0.05, 0.8, true}, "cut off at 0.8, half is half: 0.05 + 0.5 x 0.95"},
		{0.8, 0.81, Output{0.05, 0.8, true}, "cut off, the limit is reached at the limit"},
	}
	for _, c := range tests {
		if got := c.of.Duty(c.throttle); math.Abs(got-c.duty) > 1e-12 {
			t.Errorf("%s: %v, want %v", c.why, got, c.duty)
		}
		if back := c.of.Throttle(c.duty); math.Abs(back-c.throttle) > 1e-12 {
			t.Errorf("%s: back to throttle %v, want %v", c.why, back, c.throttle)
		}
	}
	for _, cut := range []bool{false, true} {
		if got := (Output{0.05, 0.5, cut}).Throttle(0.9); got <= 1 {
			t.Errorf("a duty of 0.9 is out of reach at a limit of a half, but throttle %v is to reach it", got)
		}
	}
	for _, duty := range []float64{0.3, 0.81, 1} {
		if got := (Output{0.05, (Output{Idle: 0.05}).LimitFor(duty), false}).Duty(1); math.Abs(got-duty) > 1e-12 {
			t.Errorf("a limit for a duty of %v ends at %v", duty, got)
		}
	}
	if got := (Output{0.05, 0.8, true}).Duty(1); math.Abs(got-0.81) > 1e-12 {
		t.Errorf("beyond a limit that cuts off nothing comes, and %v does", got)
	}
	if got := (Output{}).Throttle(0.5); !math.IsInf(got, 1) {
		t.Errorf("with a limit of nothing a duty needs throttle %v", got)
	}
}
