package link

import (
	"math"
	"testing"

	"vividperch/core/quad"
)

func TestBudgetWorkedValues(t *testing.T) {
	for _, c := range []struct {
		what                 string
		got, want, tolerance float64
	}{
		{"loss over 1 km at 2440 MHz, dB", FreeSpaceLoss(2440, 1), 100.20, 0.005},
		{"loss over 0.3 km at 5760 MHz, dB", FreeSpaceLoss(5760, 0.3), 97.20, 0.005},
		{"video range, km", Range(200, 7, -86, 10, 5760), 0.827, 5e-4},
		{"control range, km", Range(100, 3, -108, 20, 2440), 3.47, 5e-3},
	} {
		if !(math.Abs(c.got-c.want) <= c.tolerance) {
			t.Errorf("%s is %.4f, want %.4f", c.what, c.got, c.want)
		}
	}
	// At its range the budget is used up, whatever the numbers.
	d := Range(37, 4, -97, 13, 915)
	if left := 10*math.Log10(37) + 4 - FreeSpaceLoss(915, d) - (-97) - 13; !(math.Abs(left) <= 1e-9) {
		t.Errorf("%.3g dB are left at the range", left)
	}
}

func TestCompare(t *testing.T) {
	m := quad.RadioModule{Link: "Tidewire", Version: "6.2.1", Band: "2.4 GHz"}
	for _, c := range []struct {
		name string
		r    quad.Receiver
		want Agreement
	}{
		{"same major", quad.Receiver{Link: "Tidewire", Version: "6.0.9", Band: "2.4 GHz"}, Agreement{true, true, true, true, true, ""}},
		{"receiver older", quad.Receiver{Link: "Tidewire", Version: "5.9", Band: "2.4 GHz"}, Agreement{true, true, true, true, false, "receiver"}},
		{"module older", quad.Receiver{Link: "Tidewire", Version: "v7", Band: "2.4 GHz"}, Agreement{true, true, true, true, false, "radio module"}},
		{"unreadable version", quad.Receiver{Link: "Tidewire", Version: "new", Band: "2.4 GHz"}, Agreement{true, true, true, false, false, ""}},
		{"another link and band", quad.Receiver{Link: "Groyne", Version: "6.0.0", Band: "900 MHz"}, Agreement{false, false, true, true, true, ""}},
	} {
		if got := Compare(m, c.r); got != c.want {
			t.Errorf("%s: %+v", c.name, got)
		}
	}
}
