package motors

import (
	"math"
	"testing"
)

func TestDutyWorkedValues(t *testing.T) {
	tests := []struct {
		throttle, idle, limit, duty float64
		why                         string
	}{
		{0, 0.05, 0.8, 0.05, "no throttle is idle"},
		{1, 0, 1, 1, "full throttle without a limit is everything"},
		{1, 0.05, 0.8, 0.81, "0.05 and 0.8 of the 0.95 above it"},
		{0.5, 0.05, 0.8, 0.43, "0.05 + 0.5 x 0.8 x 0.95, by hand"},
	}
	for _, c := range tests {
		if got := Duty(c.throttle, c.idle, c.limit); math.Abs(got-c.duty) > 1e-12 {
			t.Errorf("%s: %v, want %v", c.why, got, c.duty)
		}
		if back := Throttle(c.duty, c.idle, c.limit); math.Abs(back-c.throttle) > 1e-12 {
			t.Errorf("%s: back to throttle %v, want %v", c.why, back, c.throttle)
		}
	}
	if got := Throttle(0.9, 0.05, 0.5); got <= 1 {
		t.Errorf("a duty of 0.9 is out of reach at a limit of a half, but throttle %v is to reach it", got)
	}
	if got := Throttle(0.5, 0, 0); !math.IsInf(got, 1) {
		t.Errorf("with a limit of nothing a duty needs throttle %v", got)
	}
}
