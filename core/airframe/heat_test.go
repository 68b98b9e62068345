package airframe

import (
	"math"
	"testing"

	"vividperch/core/quad"
)

func heatOfWorked(t *testing.T) Heat { return NewHeat(workedDrive(t), 33) }

// A fourth-order step of a hundredth of the length, written from the two balances of heat.
func TestHeatStepAgainstRungeKutta(t *testing.T) {
	h := heatOfWorked(t)
	for _, c := range []struct{ current, rotation, seconds float64 }{{6, 1100, 60}, {42, 3400, 4}, {0, 0, 200}, {15, 0, 20}} {
		air := h.Air * math.Max(0.25, math.Sqrt(h.Wash*c.rotation/8))
		rate := func(w, i float64) (float64, float64) {
			through := h.Inner * (w - i)
			return (c.current*c.current*h.Ohm*(1+0.00393*(w-20)) - through) / h.Copper, (through + h.Lost*c.rotation - air*(i-30)) / h.Iron
		}
		got, w, i := Warmth{60, 45}, 60.0, 45.0
		const steps = 100
		for range int(c.seconds / 0.01) {
			h.Step(&got, c.current*c.current, c.rotation, 0.01)
			for range steps {
				const dt = 0.01 / steps
				w1, i1 := rate(w, i)
				w2, i2 := rate(w+dt/2*w1, i+dt/2*i1)
				w3, i3 := rate(w+dt/2*w2, i+dt/2*i2)
				w4, i4 := rate(w+dt*w3, i+dt*i3)
				w, i = w+dt/6*(w1+2*w2+2*w3+w4), i+dt/6*(i1+2*i2+2*i3+i4)
			}
		}
		near(t, "winding", got.Winding, w, 1e-3)
		near(t, "iron", got.Iron, i, 1e-3)
	}
}

// What goes in is in there, where nothing leaves.
func TestHeatIsConserved(t *testing.T) {
	h := heatOfWorked(t)
	h.Air, h.Ohm, h.Lost = 0, 0, 0.003 // only the iron is heated, by a torque at a rotation
	w := Warmth{20, 20}
	for range 1000 {
		h.Step(&w, 0, 1000, 0.05)
	}
	near(t, "stored, J", h.Copper*(w.Winding-20)+h.Iron*(w.Iron-20), 0.003*1000*50, 1e-6)
}

func TestHeatComesToItsSteadyState(t *testing.T) {
	h := heatOfWorked(t)
	for _, c := range [][2]float64{{6, 1100}, {20, 2200}, {1, 0}} {
		want := h.Steady(c[0], c[1])
		w := Warmth{AirTemperature, AirTemperature}
		for range 200000 {
			h.Step(&w, c[0]*c[0], c[1], 0.02)
		}
		near(t, "winding", w.Winding, want.Winding, 1e-6)
		near(t, "iron", w.Iron, want.Iron, 1e-6)
	}
	if !math.IsInf(h.Steady(200, 3000).Winding, 1) {
		t.Error("a winding that makes more heat with each degree than it can give away comes to rest")
	}
	// The time constant of a winding on cold iron: what it holds over what it gives away.
	h.Iron, h.Lost = 1e9, 0
	w, tau := Warmth{80, 30}, h.Copper/h.Inner
	for range int(tau / 0.001) {
		h.Step(&w, 0, 0, 0.001)
	}
	near(t, "after one time constant", w.Winding, 30+50/math.E, 0.03)
}

func TestHeatsOfAQuad(t *testing.T) {
	d := workedDrive(t)
	p := quad.Parts{Propeller: quad.Propeller{Diameter: 127}}
	light, ok := d.Heats(p, 0.72)
	heavy, _ := d.Heats(p, 1.4)
	p.Motor.Mass = 66
	large, _ := d.Heats(p, 0.72)
	if !ok || light.Hover.Winding < 35 || light.Hover.Winding > WindingWarm || heavy.Hover.Winding < light.Hover.Winding || large.Bears < light.Bears || light.Bears < PunchLeast {
		t.Errorf("%+v, heavier %+v, with larger motors %+v", light, heavy, large)
	}
	if _, ok := d.Heats(p, 100); ok {
		t.Error("what does not hover has a hover's warmth")
	}
}
