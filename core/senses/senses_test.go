package senses

import (
	"math"
	"testing"
)

func TestWorkedValues(t *testing.T) {
	const g = 9.80665
	for _, c := range []struct {
		what                 string
		got, want, tolerance float64
	}{
		{"drift of 1.7°, m/s²", Drift(1.7, g), 0.291, 5e-4},
		{"in 5 s, m", Drift(1.7, g) * 12.5, 3.64, 5e-3},
		{"whole tilt of 3 and 4°", Tilt(3, 4), 5, 0.01}, // nearly Pythagoras while small
		{"whole tilt of one axis", Tilt(0, -2.5), 2.5, 1e-9},
	} {
		if !(math.Abs(c.got-c.want) <= c.tolerance) {
			t.Errorf("%s: %.4f, want %.4f", c.what, c.got, c.want)
		}
	}
}
