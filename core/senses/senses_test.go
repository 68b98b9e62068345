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
		{"drift of 1.7 deg, m/s²", Drift(1.7, g), 0.291, 5e-4},
		{"in 5 s, m", Drift(1.7, g) * 12.5, 3.64, 5e-3},
		{"shim for 1.7 deg over 74 mm", Shim(1.7, 74), 2.20, 5e-3},
		{"whole tilt of 3 and 4 deg", Tilt(3, 4), 5, 0.01}, // nearly Pythagoras while small
		{"whole tilt of one axis", Tilt(0, -2.5), 2.5, 1e-9},
	} {
		if math.Abs(c.got-c.want) > c.tolerance {
			t.Errorf("%s: %.4f, want %.4f", c.what, c.got, c.want)
		}
	}
}

// A board turned by an angle shows a nose that points down as the lean of a frame turned the other way: worked out here by turning
// gravity about the board's own axis, without any of the formulas.
func TestLies(t *testing.T) {
	for told := -180.0; told < 180; told += 45 {
		for lies := -175.0; lies < 180; lies += 10 {
			// The nose is 30 deg down: gravity's share along the frame's forward axis is sin 30. What the board takes for ahead is
			// that direction as it is seen from its own, turned by what it was not told.
			off := (lies - told) * math.Pi / 180
			ahead, right := math.Sin(30*math.Pi/180)*math.Cos(off), -math.Sin(30*math.Pi/180)*math.Sin(off)
			pitch, roll := -math.Asin(ahead)*180/math.Pi, math.Asin(right)*180/math.Pi
			got, ok := Lies(roll, pitch, told)
			if !ok || Off(got, lies) > 1.5 { // small angles add as vectors; at 30 deg nearly so
				t.Errorf("told %v, lies %v: shows roll %.1f pitch %.1f, found %.1f", told, lies, roll, pitch, got)
			}
		}
	}
	if _, ok := Lies(3, -5, 0); ok {
		t.Error("a frame that hardly leans tells how its board lies")
	}
	for _, c := range [][3]float64{{-180, 180, 0}, {350, 10, 20}, {0, 270, 90}, {90, 85, 5}} {
		if got := Off(c[0], c[1]); got != c[2] {
			t.Errorf("%v and %v are %v apart, want %v", c[0], c[1], got, c[2])
		}
	}
}
