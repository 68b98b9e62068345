package feel

import (
	"math"
	"math/cmplx"
	"testing"

	"vividperch/core/filter"
	"vividperch/core/quad"
)

// The open loop against the same board and quad run in time, written without a frequency in it: gyro samples of a sine go through low-passes stepped by their difference equations, gains,
// a duty that is held for a round and comes late, and a quad that is integrated in fine steps. What comes out is measured by correlation over whole periods.
func TestOpenLoopAgainstARunInTime(t *testing.T) {
	const rate, fine = 500.0, 40 // Hz, steps to a round
	l := Loop{
		Authority: 300, Lag: 0.03, Damping: 0.8, Lead: 0.01, Rate: rate, Wait: 2.5 / rate,
		Gains:    quad.Gains{Proportional: 0.05, Integral: 0.4, Derivative: 0.0006},
		Rotation: filter.Chain{filter.First(60, rate)}, Change: filter.Chain{filter.First(35, rate)},
	}
	low := func(cutoff float64) func(x float64) float64 {
		y, k := 0.0, 2*math.Pi*cutoff/rate
		return func(x float64) float64 { y = (y + k*x) / (1 + k); return y }
	}
	for _, hertz := range []float64{1, 4, 10, 25} {
		gyro, slope := low(60), low(35)
		var sum, was, spin, turned float64 // of the integral; what was seen; of the rotors; rad/s
		late := make([]float64, int(l.Wait*rate*fine)+1)
		var sin, cos float64
		settle := int(rate * fine * 8)
		periods := int(math.Max(4, hertz))
		n := int(math.Round(float64(periods) / hertz * rate * fine))
		h := 1 / (rate * fine)
		duty := 0.0
		for i := range settle + n {
			at := 2 * math.Pi * hertz * float64(i) * h
			if i%fine == 0 {
				seen := gyro(math.Sin(at))
				sum += l.Gains.Integral / 100 * seen / rate
				duty = l.Gains.Proportional/100*seen + sum + l.Gains.Derivative/100*slope((seen-was)*rate)
				was = seen
			}
			late[i%len(late)] = duty
			given := late[(i+1)%len(late)]
			step := (given - spin) / l.Lag
			spin += step * h
			// The rotors push as they turn, and by as much more as they speed up.
			turned += (l.Authority*(spin+l.Lead*step) - l.Damping*turned) * h
			if i >= settle {
				s, c := math.Sincos(at)
				sin, cos = sin+turned*180/math.Pi*s, cos+turned*180/math.Pi*c
			}
		}
		got, want := complex(2*sin/float64(n), 2*cos/float64(n)), l.Open(hertz)
		if off := cmplx.Abs(got-want) / cmplx.Abs(want); !(off <= 0.02) {
			t.Errorf("at %v Hz it runs to %.4f, and by the formula to %.4f: %.1f %% apart", hertz, got, want, 100*off)
		}
	}
}

// Where the limits lie: what is just within, and just not.
func TestLimitsOfALoop(t *testing.T) {
	for _, c := range []struct {
		m                     Margin
		oscillates, few, slow bool
	}{
		{Margin{Share: 0}, false, false, false},   // no share makes it
		{Margin{Share: 1.04}, true, true, false},  //
		{Margin{Share: 1.05}, false, true, false}, // SharesLeast itself is enough to fly
		{Margin{Share: 1.49}, false, true, false},
		{Margin{Share: 1.5}, false, false, false},
		{Margin{Share: 3, Filters: 30, Phase: 60}, false, false, false},
		{Margin{Share: 3, Filters: 31, Phase: 60}, false, false, true},
		{Margin{Share: 3, Filters: 11, Phase: 34}, false, false, true},
		{Margin{Share: 3, Filters: 11, Phase: 35}, false, false, false},
		{Margin{Share: 3, Filters: 10, Phase: 34}, false, false, false},
	} {
		if c.m.Oscillates() != c.oscillates || c.m.Few() != c.few || c.m.Slow() != c.slow {
			t.Errorf("%+v: oscillates %v, few %v, slow %v", c.m, c.m.Oscillates(), c.m.Few(), c.m.Slow())
		}
	}
	for _, c := range []struct {
		least, idle float64
		follows     bool
	}{{0, 50, true}, {40, 50, true}, {55, 50, true}, {56, 50, false}, {120, 100, false}} {
		if got := FollowsIdle(c.least, c.idle); got != c.follows {
			t.Errorf("down to %v Hz at an idle of %v Hz: %v", c.least, c.idle, got)
		}
	}
	for _, c := range []struct {
		a, b  float64
		alike bool
	}{{500, 500, true}, {625, 500, true}, {500, 625, true}, {626, 500, false}, {500, 626, false}} {
		if got := Alike(c.a, c.b); got != c.alike {
			t.Errorf("%v beside %v deg/s: %v", c.a, c.b, got)
		}
	}
	if got := QuickOf(quad.Roll, 5); got != (Quick{11, 13}) {
		t.Errorf("under self-level of 5 1/s roll wants %+v", got)
	}
	if yaw, acro := QuickOf(quad.Yaw, 5), QuickOf(quad.Pitch, 0); yaw != (Quick{0, 1}) || acro != (Quick{6, 8}) {
		t.Errorf("yaw wants %+v, pitch without self-level %+v", yaw, acro)
	}
	// An integrator under a gain crosses one where its quickness says: 0.05 % per deg/s on 300 rad/s².
	if got := Quickness(0.05, 300); !(math.Abs(got-0.0005*300*180/math.Pi) <= 1e-12) {
		t.Errorf("quickness %v", got)
	}
	var s quad.Sheet
	s.Feel.LevelStrength = 6
	if got := LevelOf(&s); got != 0 {
		t.Errorf("on no switch self-level pulls with %v", got)
	}
	s.Sticks.SelfLevel = quad.Range{Channel: 6, From: 1700, To: 2100}
	if got := LevelOf(&s); got != 6 {
		t.Errorf("on a switch it pulls with %v", got)
	}
}

// Leaning, by statics: at 45° it pulls with all of gravity and lifts the root of two; what lifts twice its weight leans 60°, and what lifts it just leans not at all.
func TestLeanByStatics(t *testing.T) {
	if pulls, lifts := Lean(45, 9.8); !(math.Abs(pulls-9.8) <= 1e-9) || !(math.Abs(lifts-math.Sqrt2) <= 1e-9) {
		t.Errorf("at 45°: %v, %v", pulls, lifts)
	}
	for lifts, lean := range map[float64]float64{0.8: 0, 1: 0, math.Sqrt2: 45, 2: 60} {
		if got := LeanOf(lifts); !(math.Abs(got-lean) <= 1e-9) {
			t.Errorf("what lifts %v times its weight leans %v", lifts, got)
		}
	}
}
