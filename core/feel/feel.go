// Package feel knows how stick movement becomes rotation.
package feel

import (
	"math"

	"vividperch/core/quad"
)

// Rate is the rotation in deg/s that a stick at x in -1..1 asks for.
//
//   - centrePeak: c x + (m-c)|x|(x⁵e + x(1-e)) with centre c, peak m >= c, bend e.
//   - compounding: 200 r x'/(1 - s|x|), x' = x((1-e) + e|x|³); centre holds 200 r, peak holds the rotation
//     at full stick, from which s follows, so that every family is spoken of in deg/s.
//   - straightExpo: m(x(1-e) + e x³).
func Rate(family quad.RateFamily, r quad.Rates, x float64) float64 {
	x = max(-1, min(1, x))
	a := math.Abs(x)
	switch family {
	case quad.Compounding:
		if r.Peak <= 0 {
			return 0
		}
		s := 1 - r.Centre/r.Peak
		return r.Centre * x * ((1 - r.Bend) + r.Bend*a*a*a) / (1 - s*a)
	case quad.StraightExpo:
		return r.Peak * (x*(1-r.Bend) + r.Bend*x*x*x)
	}
	return r.Centre*x + (r.Peak-r.Centre)*a*(x*x*x*x*x*r.Bend+x*(1-r.Bend))
}

// Quickness of a rate loop at hover, rad/s: its proportional gain (% of duty per deg/s) times the authority of the drive (rad/s² per duty).
// An integrator under that gain crosses one there, and takes an error back at that rate.
func Quickness(proportional, authority float64) float64 {
	return proportional / 100 * 180 / math.Pi * authority
}

// Quick says from which quicknesses (rad/s) on an axis can be flown: under Least it is upset, and under Soft that is told before.
type Quick struct {
	Least, Soft float64
}

// LevelOf a sheet is the strength of self-level that is flown, 1/s: 0 where no switch turns it on.
func LevelOf(s *quad.Sheet) float64 {
	if s.Sticks.SelfLevel.Used() {
		return s.Feel.LevelStrength
	}
	return 0
}

// QuickOf an axis under self-level of a strength (1/s, 0 when none is flown), which turns it by the rate loop and is upset when that is
// hardly quicker. The figures are the flight model's: of 21 kinds of quads (3, 5 and 7 inches, wide, plus, reversible ...) in eight flights
// each, none was upset in roll or pitch from 4 rad/s over the strength on, and each by 4 below that. However softly it is held, yaw upsets
// nothing, and how far it shakes a rehearsal says. What is too sharp the loop's own margin says, see [Loop.Margins].
func QuickOf(a quad.Axis, level float64) Quick {
	if a == quad.Yaw {
		return Quick{0, 1}
	}
	return Quick{level + 6, level + 8}
}

// LevelLag is how much self-level's strength (1/s) times the lag of the motors and the filters (s) may be: from half on the pull itself rocks, however
// quick the rate loop. Of the same flights none was upset at 0.45, and half of them at 0.63.
const (
	LevelLagSoft = 0.45
	LevelLagMost = 0.55
)

// LeastLimitedRatio is the thrust-to-weight a throttle limit must leave: under it a quad cannot stop its
// own descent in time.
const LeastLimitedRatio = 1.4

// LiftsRatio is the thrust-to-weight under which it hardly leaves the ground, and slides along it: nothing is left for its corrections.
const LiftsRatio = 1.2

// LiftsLow is the same with a pack that is nearly empty.
const LiftsLow = 1.1

// alikeWithin is the factor between roll and pitch up to which diagonal moves still come out straight.
const alikeWithin = 1.25

// Alike says whether two axes answer alike enough, by their rates at full stick (same unit, both positive).
func Alike(a, b float64) bool { return a <= alikeWithin*b && b <= alikeWithin*a }

// Lean is what a lean in deg asks for: how hard it pulls away, m/s², and how many times its weight a quad must lift to keep its height.
func Lean(deg, gravity float64) (pulls, lifts float64) {
	return gravity * math.Tan(deg*math.Pi/180), 1 / math.Cos(deg*math.Pi/180)
}

// LeanOf is the most that a quad may lean (deg) that lifts some times its weight, and keep its height; 0 where it does not lift it.
func LeanOf(lifts float64) float64 {
	if lifts <= 1 {
		return 0
	}
	return math.Acos(1/lifts) * 180 / math.Pi
}

// LevelSpeed is how fast (m/s) self-level can go at an angle limit (deg): m g tan(limit) = k v², with
// k = rho CdA / 2 in kg/m.
func LevelSpeed(limit, mass, k, gravity float64) float64 {
	return math.Sqrt(mass * gravity * math.Tan(limit*math.Pi/180) / k)
}

// ThrottleCurve bends the throttle stick: Middle is what half the stick gives, 0..1 (0 is half), Bend how flat the curve is
// about it, 0 a straight line to either end and 1 level in the middle.
type ThrottleCurve struct {
	Middle float64 `json:"middle" unit:"1"`
	Bend   float64 `json:"bend" unit:"1"`
}

// CurveOf a sheet.
func CurveOf(f quad.FeelSheet) ThrottleCurve {
	return ThrottleCurve{Middle: max(0.01, 0.5+f.ThrottleMiddle/100), Bend: f.ThrottleBend / 100}
}

// At a stick of 0..1. Either side of the middle runs to its end as x(1-e) + e x³ does, x from the middle to that end.
func (c ThrottleCurve) At(stick float64) float64 {
	middle := c.Middle
	if middle <= 0 {
		middle = 0.5
	}
	x, room := 2*stick-1, 1-middle
	if x < 0 {
		room = middle
	}
	return middle + room*x*(1-c.Bend+c.Bend*x*x)
}

// Keen is how strongly the throttle answers at a stick of 0..1: by how many per cent it changes for one per cent of the stick. A straight line has exactly 1.
func (c ThrottleCurve) Keen(stick float64) float64 {
	if c.Bend == 0 && (c.Middle == 0.5 || c.Middle <= 0) {
		return 1
	}
	at, x, room := c.At(stick), 2*stick-1, 1-c.Middle
	if x < 0 {
		room = c.Middle
	}
	if at <= 0 {
		return 1
	}
	return stick / at * 2 * room * (1 - c.Bend + 3*c.Bend*x*x)
}

// Stick that a throttle of 0..1 needs: the inverse of At, by halving.
func (c ThrottleCurve) Stick(throttle float64) float64 {
	low, high := 0.0, 1.0
	for range 40 {
		if x := (low + high) / 2; c.At(x) < throttle {
			low = x
		} else {
			high = x
		}
	}
	return (low + high) / 2
}
