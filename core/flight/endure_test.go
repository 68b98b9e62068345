package flight

import (
	"math"
	"testing"

	"vividperch/core/airframe"
	"vividperch/core/power"
	"vividperch/core/quad"
)

// What leaves the cells is what the pack gives at its lead and what its resistance keeps, over a flight with a punch in it: the integral of voltage and current over time
// against that of the cell's voltage over its charge.
func TestEnergyOfAFlightIsWhatLeftTheCells(t *testing.T) {
	s := aloft(t, func(in *Input) {
		in.Ideal, in.Pack.Capacity, in.CellVolt = false, 300, 4.1
	})
	cells, ohm := s.cells.count, s.drive.PackOhm
	given := 0.0
	for i := range 20000 {
		duty := 0.3
		if i%5000 > 4000 {
			duty = 0.8
		}
		s.Spin([4]float64{duty, duty, duty, duty})
		// Its own voltage of this step: the one under load, and what the resistance takes.
		volts := s.drive.PackVoltage - ohm*s.packAmp
		given += (volts + ohm*s.packAmp) * s.packAmp * s.h
	}
	drawn := s.charge
	left0, capacity := power.Left(4.1), 300*3.6
	want := 0.0
	const slices = 20000
	for i := range slices {
		want += cells * power.OpenVolts(left0-(float64(i)+0.5)/slices*drawn/capacity) * drawn / slices
	}
	near(t, "energy, J", given, want, 2e-4*want)
	if now := s.State(); drawn < 100 || !(math.Abs(now.Left-100*(left0-drawn/capacity)) <= 0.06) {
		t.Errorf("%.0f A·s drawn, %.1f %% left", drawn, now.Left)
	}
}

func TestPacksComeDownToTheirLandingVoltageAndNoFurther(t *testing.T) {
	s := aloft(t, func(in *Input) { in.Ideal, in.Pack.Capacity, in.CellVolt = false, 30, 4.2 })
	for range 30000 {
		s.Spin([4]float64{0.4, 0.4, 0.4, 0.4})
	}
	near(t, "a cell, V", s.drive.PackVoltage/s.cells.count, airframe.LowCell, 1e-12)
	if s.cells.lowAt <= 1 {
		t.Errorf("it was low after %.1f s", s.cells.lowAt)
	}
	low := aloft(t, func(in *Input) { in.Ideal, in.Pack.Capacity, in.CellVolt = false, 30, 3.4 })
	for range 5000 {
		low.Spin([4]float64{0.4, 0.4, 0.4, 0.4})
	}
	near(t, "what began low, V", low.drive.PackVoltage/low.cells.count, 3.4, 1e-12)
}

// A long hover warms the windings to what the two balances of heat say, and one motor that works alone warms alone.
func TestHoverWarmsTheWindings(t *testing.T) {
	s := aloft(t, noDrag)
	p, _ := s.drive.Hover(s.body.mass)
	for range 400 * 1000 {
		s.now.pz, s.now.vz = -1000, 0
		s.Spin([4]float64{p.Duty, p.Duty, p.Duty, p.Duty})
	}
	want := s.heat.Steady(p.Current, p.Rotation)
	near(t, "winding, °C", s.State().Windings[2], want.Winding, 0.2)
	one := aloft(t, noDrag)
	for range 2000 {
		one.Spin([4]float64{1, 0, 0, 0})
	}
	hot := one.places[0]
	for i, w := range one.State().Windings {
		if (i == hot) != (w > 60) {
			t.Errorf("%s is at %.0f °C, the one that works is %s", quad.Corners[i], w, quad.Corners[hot])
		}
	}
}

// A weight ahead of the middle is carried by the front, and a controller that has flown for a while holds it level from the first moment on.
func TestAWeightAheadIsCarriedLevel(t *testing.T) {
	in := ready(PunchOut)
	in.Actual.Centre = quad.Balance{Ahead: 20, Right: -8}
	s := mustNew(t, in)
	hover, _ := s.hovers(in.Mass)
	p := newFlyer(in, HoverCard, Steady)
	p.hover = hover
	s.begin(30, 0, p)
	worst := 0.0
	for range 1000 {
		s.Step(in.frame(0, hover))
		worst = math.Max(worst, s.State().Tilt)
	}
	if worst > 4 {
		t.Errorf("it leans by %.1f° at first", worst)
	}
	share, _ := airframe.Loads(airframe.FromCentre(airframe.Spots(in.Actual.Layout, in.Parts.Frame), in.Actual.Centre))
	sum := 0.0
	for _, x := range s.State().Thrusts {
		sum += x
	}
	for i, x := range s.State().Thrusts {
		near(t, string(quad.Corners[i]), x/sum, share[i], 0.02)
	}
}
