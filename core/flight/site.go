package flight

import (
	"math"

	"vividperch/core/airframe"
	"vividperch/core/feel"
	"vividperch/core/motors"
	"vividperch/core/quad"
)

// cardThrottle is the card's highest thrust over hover: it never opens the throttle further.
const cardThrottle = 1.25

const (
	// HoldsOf is the share of the wind it could just hold against up to which a quad still keeps its place in
	// gusts and turns.
	HoldsOf = 0.6
	// CalmEnough for a first hover, m/s: a fresh breeze begins there.
	CalmEnough = 8
	// WindMost and GustMost are what a first hover is flown in at all, m/s. Of 672 flights of the model by both hands, in three sizes
	// and seven sorts of quads that were sound, none ended badly in 8 m/s with gusts of 10; six did with gusts of 14, ten in 10 m/s
	// with gusts of 11, a third in 12. With gusts of 10 one of ten thousand drawn quads that land without a radio was carried 1.7 m up first.
	WindMost = 8
	GustMost = 9.5
	// DriftMost of a first hover from where it stood, m.
	DriftMost = 3
)

// drifts is how far wind carries a first hover while it is held, m for each m/s² by which the wind pushes the quad at rest: half a time
// squared. Of 1,575 hovers of the model by a beginner's hand in 0, 5 and 8 m/s, with 21 kinds of sound quads, it came to 6.6 at most; each
// kept within 1.1 m in still air.
const drifts = 7.0

// ClearRadius is how far (m) a quad gets that tips and runs at the card's highest throttle until a startled hand cuts it, and then falls
// (see motors.Runaway), with the assigned pack that takes it furthest, and how far the wind (m/s) carries it meanwhile. Weight in g. ok is
// false when parts are missing or it cannot hover.
func ClearRadius(p quad.Parts, weight, wind float64) (far float64, ok bool) {
	list, ok := airframe.FedByEach(p, airframe.FullCell)
	if !ok || !quad.Plausible("readings.airframe.weight", weight) {
		return 0, false
	}
	least := math.Inf(1) // mass
	for _, f := range list {
		mass := airframe.MassWith(p, f.Pack, weight)
		if mass <= 0 {
			return 0, false
		}
		hover, able := f.Drive.Hover(mass)
		if !able {
			return 0, false
		}
		// Thrust per duty is steeper than linear, so a quarter more duty is what bounds the thrust.
		ratio := f.Drive.At(math.Min(hover.Duty*cardThrottle, 1)).Thrust / hover.Thrust
		far, least = math.Max(far, motors.Runaway(ratio, startled, airframe.Gravity, HoverCard.Height)), math.Min(least, mass)
	}
	push := airframe.DragOf(p.Frame, airframe.Density) * wind * wind / least
	return far + drifts*push, true
}

// LevelSpeed is the wind (m/s) that self-level can just hold against at an angle limit (deg) by the drag of its frame alone, for a weight
// in g; see feel.LevelSpeed. 0 when nothing is known.
func LevelSpeed(p quad.Parts, weight, limit float64) float64 {
	k := airframe.DragOf(p.Frame, airframe.Density)
	if !(k > 0) || !quad.Plausible("readings.airframe.weight", weight) || !(limit > 0) || limit >= 90 {
		return 0
	}
	return feel.LevelSpeed(limit, weight/1000, k, airframe.Gravity)
}
