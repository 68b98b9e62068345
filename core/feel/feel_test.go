package feel

import (
	"math"
	"testing"

	"vividperch/core/quad"
)

// Worked by another program from the three formulas. Compounding there is given as r 1.1 and s 0.68, here as
// what they mean: 200 r at the centre, 200 r/(1-s) at full stick.
func TestRateWorkedValues(t *testing.T) {
	for _, c := range []struct {
		family quad.RateFamily
		rates  quad.Rates
		want   [3]float64 // at a quarter, half and full stick
	}{
		{quad.CentrePeak, quad.Rates{Centre: 140, Peak: 620, Bend: 0.4}, [3]float64{53.05, 145.0, 620}},
		{quad.Compounding, quad.Rates{Centre: 220, Peak: 220 / (1 - 0.68), Bend: 0.2}, [3]float64{53.22, 137.5, 687.5}},
		{quad.StraightExpo, quad.Rates{Peak: 560, Bend: 0.5}, [3]float64{74.38, 175.0, 560}},
	} {
		for i, x := range []float64{0.25, 0.5, 1} {
			if got := Rate(c.family, c.rates, x); !(math.Abs(got-c.want[i]) <= 0.01) {
				t.Errorf("%s at %.2f: %.3f, want %.2f", c.family, x, got, c.want[i])
			}
			if up, down := Rate(c.family, c.rates, x), Rate(c.family, c.rates, -x); up != -down {
				t.Errorf("%s is not odd: %v and %v", c.family, up, down)
			}
		}
		if Rate(c.family, c.rates, 1.5) != Rate(c.family, c.rates, 1) {
			t.Errorf("%s goes on beyond the stick's end", c.family)
		}
		last := -1.0
		for x := 0.0; x <= 1; x += 0.01 {
			if r := Rate(c.family, c.rates, x); r < last {
				t.Fatalf("%s falls at %.2f", c.family, x)
			} else {
				last = r
			}
		}
	}
	if Rate(quad.Compounding, quad.Rates{}, 1) != 0 {
		t.Error("no peak turns nothing")
	}
}

func TestLevelSpeedWorkedValue(t *testing.T) {
	if got := LevelSpeed(35, 0.72, 1.225*0.012/2, 9.80665); !(math.Abs(got-25.9) <= 0.05) {
		t.Errorf("%.2f m/s, want 25.9", got)
	}
}

// How strongly a throttle answers, against the difference of two near sticks; a straight line answers as it is moved.
func TestKeen(t *testing.T) {
	for _, c := range []ThrottleCurve{{Middle: 0.5}, {}, {Middle: 0.229}, {Middle: 0.7, Bend: 0.6}, {Middle: 0.4, Bend: 1}} {
		for _, s := range []float64{0.1, 0.3, 0.49, 0.55, 0.9} {
			const d = 1e-6
			want := (c.At(s+d) - c.At(s-d)) / (2 * d) * s / c.At(s)
			if got := c.Keen(s); !(math.Abs(got-want) <= 1e-6) {
				t.Errorf("%+v at %v: %v, want %v", c, s, got, want)
			}
		}
	}
	if got := (ThrottleCurve{Middle: 0.5}).Keen(0.3); got != 1 {
		t.Errorf("a straight line: %v", got)
	}
}
