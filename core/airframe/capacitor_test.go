package airframe

import (
	"math"
	"testing"

	"vividperch/core/quad"
)

// The circuit stepped in a thousandth of its time by the fourth-order Runge-Kutta method, ringing and creeping; and where the energy goes.
func TestOvershootAgainstRungeKutta(t *testing.T) {
	for _, o := range []Overshoot{
		{150e-9, 100, 1000e-6, 0.004}, {150e-9, 100, 220e-6, 0.0005}, {150e-9, 60, 470e-6, 0.04}, {90e-9, 170, 35e-6, 0.2},
		{150e-9, 100, 1e-3, 2 * math.Sqrt(150e-9/1e-3)}, // neither rings nor creeps
	} {
		q, i, burnt := 0.0, o.Current, 0.0
		const steps = 200000
		dt := o.Lasts() / steps
		rate := func(q, i float64) (float64, float64) { return i, -(o.Ohm*i + q/o.Farad) / o.Inductance }
		most := o.Ohm * o.Current
		for n := range steps {
			q1, i1 := rate(q, i)
			q2, i2 := rate(q+dt/2*q1, i+dt/2*i1)
			q3, i3 := rate(q+dt/2*q2, i+dt/2*i2)
			q4, i4 := rate(q+dt*q3, i+dt*i3)
			was := i
			q, i = q+dt/6*(q1+2*q2+2*q3+q4), i+dt/6*(i1+2*i2+2*i3+i4)
			burnt += dt * o.Ohm * (was*was + was*i + i*i) / 3
			v := q/o.Farad + o.Ohm*i
			most = math.Max(most, v)
			if n%20000 == 0 {
				near(t, "voltage", o.At(float64(n+1)*dt), v, 1e-6*o.Current)
			}
		}
		near(t, "energy", burnt+q*q/2/o.Farad+o.Inductance*i*i/2, o.Inductance*o.Current*o.Current/2, 1e-6*o.Inductance*o.Current*o.Current)
		peak, _ := o.Peak()
		near(t, "peak", peak, most, 1e-4*most)
		if bound := o.Current * (math.Sqrt(o.Inductance/o.Farad) + o.Ohm); peak > bound {
			t.Errorf("%+v: %.3f V, over the conservative %.3f", o, peak, bound)
		}
	}
}

// What is needed by the conservative formula holds the spike under what is allowed, and two side by side are one of twice the size and half the
// resistance.
func TestBankAndWhatIsNeeded(t *testing.T) {
	allowed := 3.0
	farad, ok := CapacitorNeed(150e-9, 100, allowed, 0.01)
	if !ok {
		t.Fatal("it is possible")
	}
	if peak, _ := (Overshoot{150e-9, 100, farad, 0.01}).Peak(); peak > allowed || peak < allowed/2 {
		t.Errorf("what is needed lets %.2f V through, allowed are %.1f", peak, allowed)
	}
	c, r := Bank(quad.Capacitor{Capacitance: 470, Resistance: 12, Count: 2})
	near(t, "two, F", c, 940e-6, 1e-12)
	near(t, "two, Ω", r, 0.006, 1e-12)
	if c, r := Bank(quad.Capacitor{Capacitance: 470, Resistance: 12}); c != 470e-6 || r != 0.012 {
		t.Errorf("one is %g F, %g Ω", c, r)
	}
	if (Overshoot{Inductance: 1e-7, Current: 50}).At(1e-6) != 0 {
		t.Error("without a capacitor nothing is said")
	}
}
