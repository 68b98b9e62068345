package flight

import (
	"math"
	"testing"

	"vividperch/core/airframe"
	"vividperch/core/quad"
)

// How fast it comes down at a fixed throttle is what a flight of the model itself ends in: begun from rest in still air, its level held by
// the controller, sinking until nothing changes any more.
func TestLandingsAreWhatFlightEndsIn(t *testing.T) {
	in := ready(FirstHover)
	in.Site = Site{Density: airframe.Density}
	in.Noise = 0
	p := in.Parts
	p.Packs = map[string]quad.Pack{"one": in.Pack}
	climbed, sank := 0, 0
	for _, throttle := range []float64{5, 10, 14, 18, 22, 26, 30, 45} {
		for _, l := range Landings(p, 1000*in.Mass, throttle, in.Settings.output()) {
			try := clone(in)
			try.CellVolt = l.Cell
			whole := quad.Range{Channel: aside, From: 900, To: 2100}
			try.Settings.Arm, try.Settings.SelfLevel = whole, whole
			try.Settings.Policy, try.Settings.LandPush, try.Settings.Guard = quad.PolicyLand, throttle/100, 0.01
			s, err := New(try)
			if err != nil {
				t.Fatal(err)
			}
			f := newFlyer(try, HoverCard, Steady)
			f.hover, _ = s.hovers(try.Mass)
			s.begin(400, 0, f)
			held := try.frame(0, f.hover)
			s.Step(held)
			for range 12 * Rate {
				s.Step(Sticks{})
			}
			got := 0.0
			for range 3 * Rate {
				s.Step(Sticks{})
				got -= s.State().Velocity[2] / (3 * Rate)
			}
			if l.Climbs {
				climbed++
				if got > 0.05 {
					t.Errorf("at %v %% and %v V a cell it sinks at %.2f m/s, and is said to climb", throttle, l.Cell, got)
				}
				continue
			}
			sank++
			if !(math.Abs(got-l.Speed) <= 0.1+0.08*l.Speed) {
				t.Errorf("at %v %% and %v V a cell (hover %.1f %%) it sinks at %.2f m/s, worked out %.2f", throttle, l.Cell, l.Hover, got, l.Speed)
			}
		}
	}
	if climbed < 3 || sank < 6 {
		t.Errorf("%d climbed, %d sank", climbed, sank)
	}
}
