package flight

import (
	"math"
	"slices"
	"sort"

	"vividperch/core/airframe"
	"vividperch/core/linkloss"
	"vividperch/core/motors"
	"vividperch/core/quad"
)

// Landing is how a quad comes down level at a fixed throttle, as after a loss with the policy land.
type Landing struct {
	Pack   string
	Cell   float64 // V, at rest
	Hover  float64 // % of throttle that would hold it
	Climbs bool    // it does not come down at all
	Speed  float64 // m/s downward, once nothing changes any more
	Energy float64 // J that it has at the ground
}

// Landings with every assigned pack, full and low; weight in g with the heaviest, throttle in %. Those of packs that no
// drive can be computed for are left out. It is the balance of thrust, drag and weight that the model's flight ends in; see
// docs/flight-model.md.
func Landings(p quad.Parts, weight, throttle float64, output motors.Output) []Landing {
	if !quad.Plausible("readings.airframe.weight", weight) {
		return nil
	}
	var out []Landing
	for _, name := range quad.SortedKeys(p.Packs) {
		pack := p.Packs[name]
		mass := airframe.MassWith(p, pack, weight)
		for _, cell := range []float64{airframe.FullCell, airframe.LowCell} {
			d, err := airframe.NewDrive(p, pack, cell*float64(pack.Cells), airframe.Density)
			if err != nil || mass <= 0 {
				continue
			}
			l := Landing{Pack: name, Cell: cell}
			hover, able := d.Hover(mass)
			if l.Hover = 100 * output.Throttle(hover.Duty); !able {
				l.Hover = math.Inf(1)
			}
			s := sinking{newSteadyRotors(d, airframe.Density), output.Duty(throttle / 100), airframe.DragOf(p.Frame, airframe.Density)}
			if l.Climbs = s.lift(0) >= mass*airframe.Gravity; !l.Climbs {
				l.Speed = s.speed(mass * airframe.Gravity)
				l.Energy = mass * l.Speed * l.Speed / 2
			}
			out = append(out, l)
		}
	}
	return out
}

// ComesDown says whether it sinks fast enough that no gust keeps it up.
func (l Landing) ComesDown() bool { return !l.Climbs && l.Speed >= linkloss.SinksAtLeast }

// Softest is the highest whole throttle (%) that brings a quad down with every pack, full and low: of all that do, it lands the softest.
// 0 where none does. Weight as for [Landings].
func Softest(p quad.Parts, weight float64, output motors.Output) float64 {
	stays := func(throttle int) bool {
		return slices.ContainsFunc(Landings(p, weight, float64(throttle), output), func(l Landing) bool { return !l.ComesDown() })
	}
	return math.Max(0, float64(sort.Search(100, stays)-1))
}

// sinking is a quad that comes down level at one duty.
type sinking struct {
	steadyRotors
	duty float64
	drag float64 // N/(m/s)²
}

// lift and drag together, N, sinking at v m/s.
func (s *sinking) lift(v float64) float64 {
	w, _ := s.turns(s.duty, -v)
	return s.push(w, -v, 0) + s.drag*v*v
}

// speed at which lift and drag carry a weight, m/s: the slowest, by steps and then by halving.
func (s *sinking) speed(weight float64) float64 {
	const fastest, step = 60.0, 1.0
	v := 0.0
	for v < fastest && s.lift(v) < weight {
		v += step
	}
	low, high := math.Max(0, v-step), v
	for range 16 {
		if mid := (low + high) / 2; s.lift(mid) < weight {
			low = mid
		} else {
			high = mid
		}
	}
	return high
}
