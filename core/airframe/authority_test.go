package airframe

import (
	"math"
	"testing"

	"vividperch/core/power"
	"vividperch/core/quad"
)

// The estimate of inertia against a sum over many small cubes: rotors as points, the rest a slab.
func TestInertiaAgainstASumOfCubes(t *testing.T) {
	const m, fine = 0.72, 60
	places := Spots(quad.LayoutX, quad.Frame{ArmFront: 70, ArmSide: 110})
	span := math.Hypot(0.07, 0.11)
	long, wide, high := span, 0.66*span, 0.4*span
	var want [3]float64
	for _, p := range places {
		each := armShare * m / 4
		want[0], want[1], want[2] = want[0]+each*p.Y*p.Y, want[1]+each*p.X*p.X, want[2]+each*(p.X*p.X+p.Y*p.Y)
	}
	at := func(i int, size float64) float64 { return size * ((float64(i)+0.5)/fine - 0.5) }
	cube := (1 - armShare) * m / (fine * fine * fine)
	for i := range fine {
		for j := range fine {
			for k := range fine {
				x, y, z := at(i, long), at(j, wide), at(k, high)
				want[0], want[1], want[2] = want[0]+cube*(y*y+z*z), want[1]+cube*(x*x+z*z), want[2]+cube*(x*x+y*y)
			}
		}
	}
	for i, got := range Inertia(m, places) {
		near(t, [3]string{"about roll", "about pitch", "about yaw"}[i], got, want[i], 1e-3*want[i])
	}
}

// Authority against moments that are summed: each rotor gets a little more or less duty, as the axis wants it, and what that pushes and twists turns the quad.
func TestAuthorityAgainstSummedMoments(t *testing.T) {
	d := workedDrive(t)
	const mass, step = 0.72, 1e-3
	for _, layout := range []quad.Layout{quad.LayoutX, quad.LayoutPlus} {
		f := quad.Frame{ArmFront: 80, ArmSide: 100}
		places := Spots(layout, f)
		inertia := Inertia(mass, places)
		hover, _ := d.Hover(mass)
		about, ok := d.Authority(layout, f, mass)
		if !ok {
			t.Fatal("it hovers")
		}
		for name, duty := range map[string]float64{"in a hover": hover.Duty, "at three quarters": 0.75} {
			about := about
			if name != "in a hover" {
				about = d.AuthorityAt(layout, f, mass, duty)
			}
			var moment [3]float64
			for axis := range moment {
				for i, p := range places {
					sign := []float64{-p.Y, p.X, []float64{1, -1, -1, 1}[i]}[axis] // more on the left rolls it right
					switch {
					case math.Abs(sign) < 1e-12:
						continue
					case sign < 0:
						sign = -1
					default:
						sign = 1
					}
					now := d.At(duty + sign*step)
					lever := [3]float64{-p.Y * now.Thrust, p.X * now.Thrust, []float64{1, -1, -1, 1}[i] * now.Thrust * d.TorquePer / d.ThrustPer}
					moment[axis] += lever[axis]
				}
				near(t, string(layout)+" "+name, about[axis], moment[axis]/inertia[axis]/step, 0.005*about[axis])
			}
		}
	}
	if _, ok := d.Authority(quad.LayoutX, quad.Frame{ArmFront: 80, ArmSide: 100}, 100); ok {
		t.Error("what does not hover turns in a hover")
	}
}

// How long a pack hovers, against a flight that is stepped second by second with the charge that is left.
func TestLastsAgainstAStepByStepHover(t *testing.T) {
	d := workedDrive(t)
	pack := quad.Pack{Cells: 6, Capacity: 1300, Resistance: 18}
	const mass, extra = 0.72, 1.2
	for _, land := range []float64{3.3, 3.5, 3.7} {
		left, want := 1.0, 0.0
		for {
			open := power.OpenVolts(left)
			d.PackVoltage = open * 6
			p, _ := d.Hover(mass)
			amps := p.PackCurrent + extra
			if open <= LowCell || open-d.PackOhm*amps/6 <= land {
				break
			}
			left -= amps / (1300 * 3.6)
			want++
		}
		if got, ok := d.Lasts(pack, mass, extra, land); !ok || !(math.Abs(got/want-1) <= 0.03) {
			t.Errorf("down to %v V it lasts %.0f s, step by step %.0f s", land, got, want)
		}
	}
	for name, p := range map[string]quad.Pack{"no capacity told": {Cells: 6, Resistance: 18}, "no cells told": {Capacity: 1300, Resistance: 18}} {
		if got, ok := d.Lasts(p, mass, extra, 3.5); ok || got != 0 {
			t.Errorf("%s: %v s", name, got)
		}
	}
	if got, ok := d.Lasts(pack, 100, extra, 3.5); ok || got != 0 {
		t.Errorf("what does not hover lasts %v s", got)
	}
	// Of two packs the one that lasts the longer, however they are called.
	parts := quad.Parts{
		Motor: quad.Motor{KV: 1700, Resistance: 55, IdleCurrent: 1.1}, Propeller: quad.Propeller{Diameter: 127, Thrust: 0.18, Power: 0.12},
		Packs: map[string]quad.Pack{"a": {Cells: 6, Capacity: 2000, Resistance: 18, Mass: 300}, "b": pack, "c": {Cells: 6, Resistance: 18}},
	}
	parts.Packs["b"] = quad.Pack{Cells: 6, Capacity: 1300, Resistance: 18, Mass: 200}
	long, which := LongestHover(parts, 720, 3.5)
	delete(parts.Packs, "a")
	if short, other := LongestHover(parts, 620, 3.5); which != "a" || other != "b" || !(short > 0 && short < long) {
		t.Errorf("%s for %v s, without it %s for %v s", which, long, other, short)
	}
	if s, which := LongestHover(quad.Parts{}, 0, 3.5); s != 0 || which != "" {
		t.Errorf("nothing hovers for %v s with %q", s, which)
	}
}

// The peak of an overshoot against a look at a hundred thousand moments; its bound is never exceeded.
func TestPeakAgainstEveryMoment(t *testing.T) {
	for _, o := range []Overshoot{{150e-9, 100, 470e-6, 0.012}, {150e-9, 100, 470e-6, 0.1}, {80e-9, 40, 1000e-6, 0.005}} {
		volts, at := o.Peak()
		want, when := 0.0, 0.0
		for i := range 100001 {
			s := o.Lasts() * float64(i) / 100000
			if v := o.At(s); v > want {
				want, when = v, s
			}
		}
		if !(math.Abs(volts/want-1) <= 1e-6) || volts < want || !(math.Abs(at-when) <= 2e-4*o.Lasts()) {
			t.Errorf("%+v peaks at %v V after %v s, by looking at %v V after %v s", o, volts, at, want, when)
		}
		if bound := o.Current*math.Sqrt(o.Inductance/o.Farad) + o.Current*o.Ohm; o.Bound() != bound && !(math.Abs(o.Bound()/bound-1) <= 1e-12) || volts > o.Bound() {
			t.Errorf("%+v: bound %v, want %v, and it peaks at %v", o, o.Bound(), bound, volts)
		}
	}
}
