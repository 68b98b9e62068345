package oracle

import (
	"math"

	"vividperch/core/airframe"
	"vividperch/core/flight"
	"vividperch/core/motors"
	"vividperch/core/quad"
)

// triedEach is of how many quads one has its trial flown; the others are told what it is known to come to at most, for it takes longer
// than everything else together.
const triedEach = 100

// rehearsed in the model, and tried: in flight, or by what is known of such trials.
func (w *world) rehearsed() (*quad.Reading[quad.Rehearsal], error) {
	if w.tries {
		return flight.Rehearsed(w.k, today)
	}
	t := flight.Trial{Flown: 1}
	if w.is.wind > windMost || w.is.gust > gustMost {
		t.Ended, t.How = 1, "The wind tips it over."
	}
	var err error
	if t.Farthest, err = w.bound(); err != nil {
		return nil, err
	}
	return flight.RehearsedWith(w.k, today, t)
}

// windMost and gustMost are what a first hover is flown in at all, m/s. Of 672 flights of the model by both hands, in three sizes
// and seven sorts of quads that were sound, none ended badly in 8 m/s with gusts of 10; six did with gusts of 14, ten in 10 m/s
// with gusts of 11, a third in 12. With gusts of 10 one of ten thousand drawn quads that land without a radio was carried 1.7 m up first.
const (
	windMost = 8
	gustMost = 9.5
)

const (
	// cardThrottle is the card's highest throttle over that of a hover: it never opens it further.
	cardThrottle = 1.25
	// startled is how long a hand takes to cut, s.
	startled = 0.7
	// drifts is how far wind carries a first hover while it is held, m for each m/s² by which the wind pushes the quad at rest: half a
	// time squared. Of 1,575 hovers of the model by a beginner's hand in 0, 5 and 8 m/s, with 21 kinds of sound quads, it came to 6.6 at
	// most; each kept within 1.1 m in still air.
	drifts = 7.0
)

// bound of how far (m) any flight gets in which nothing fails: no further than one that tips and runs at the card's highest throttle
// until a startled hand cuts it, and then falls (see motors.Runaway), and what the wind adds, with the pack that takes it furthest.
func (w *world) bound() (float64, error) {
	list, ok := airframe.FedByEach(w.k.Parts, airframe.FullCell)
	if !ok {
		return 0, quad.Faultf("missing", "parts", "parts are missing")
	}
	far, least := 0.0, math.Inf(1) // m, kg
	for _, f := range list {
		mass := airframe.MassWith(w.k.Parts, f.Pack, w.weighed())
		hover, able := f.Drive.Hover(mass)
		if !able {
			return 0, quad.Faultf("too-heavy", "parts", "it cannot hover")
		}
		// Thrust per duty is steeper than linear, so a quarter more duty is what bounds the thrust.
		ratio := f.Drive.At(math.Min(hover.Duty*cardThrottle, 1)).Thrust / hover.Thrust
		far, least = math.Max(far, motors.Runaway(ratio, startled, airframe.Gravity, flight.HoverCard.Height)), math.Min(least, mass)
	}
	strongest := math.Max(w.is.wind, w.is.gust)
	return far + drifts*airframe.DragOf(w.k.Parts.Frame, airframe.Density)*strongest*strongest/least, nil
}
