package airframe

import (
	"math"
	"testing"

	"vividperch/core/quad"
)

func curveParts() quad.Parts {
	return quad.Parts{
		Frame: quad.Frame{Mass: 495}, Motor: quad.Motor{KV: 1700, Resistance: 55, IdleCurrent: 1.1},
		Propeller: quad.Propeller{Diameter: 127, Thrust: 0.18, Power: 0.12}, Board: quad.BoardPart{IdleDraw: 400},
		Packs: map[string]quad.Pack{"grey": {Cells: 6, Capacity: 1300, Resistance: 18, Mass: 215}, "light": {Cells: 4, Capacity: 850, Resistance: 20, Mass: 110}},
	}
}

// Each point again by halving the rotation until the torques balance: no formula is shared but the definitions.
func TestCurveAgainstAnotherSolver(t *testing.T) {
	p := curveParts()
	c, ok := CurveWith(p, "grey", 3.8, 700)
	if !ok || len(c.Points) != CurveSteps+1 {
		t.Fatalf("%v %d points", ok, len(c.Points))
	}
	kt, r, rp := 60/(2*math.Pi*1700), 0.055, 0.018
	for _, at := range c.Points {
		duty := at.Duty / 100
		low, high := 0.0, 1700*25*2*math.Pi/60
		current := 0.0
		for range 200 {
			w := (low + high) / 2
			n := w / (2 * math.Pi)
			torque := 0.12 * 1.225 * n * n * n * math.Pow(0.127, 5) / w
			// V = Voc - 4 d I Rp and I = (d V - Kt w)/R, put together.
			current = (duty*3.8*6 - kt*w) / (r + 4*duty*duty*rp)
			if kt*(current-1.1) > torque {
				low = w
			} else {
				high = w
			}
		}
		n := low / (2 * math.Pi)
		thrust := 4 * 0.18 * 1.225 * n * n * math.Pow(0.127, 4) / 9.80665 * 1000
		pack := 4*duty*math.Max(0, current) + 0.4
		if low < 1e-3 {
			thrust, pack = 0, 0.4
		}
		near(t, "thrust, g", at.Is.Thrust, thrust, 1e-3)
		near(t, "current, A", at.Is.Current, pack, 1e-3)
		near(t, "rpm", at.Is.Rpm, n*60, 0.01)
		near(t, "minutes", at.Is.Minutes, 0.8*1.3/pack*60, 1e-2)
		if at.Low != at.Is || at.High != at.Is {
			t.Error("nothing is estimated, and there is a band")
		}
	}
	if c.Hover == nil || !(math.Abs(c.Hover.Is.Thrust-700) <= 1e-6) {
		t.Errorf("hovers at %+v", c.Hover)
	}
	light, _ := CurveWith(p, "light", 3.8, 700)
	near(t, "with the lighter pack, g", light.Mass, 700-215+110, 1e-9)
}

// The band is what the worst combination of the estimates makes, found by trying a grid within all of them.
func TestCurveBandsHoldEveryCombination(t *testing.T) {
	p := curveParts()
	p.Estimates = quad.Estimates{
		{Path: "parts.propeller.thrust", Value: 0.18, Low: 0.12, High: 0.24}, {Path: "parts.propeller.power", Value: 0.12, Low: 0.07, High: 0.18},
		{Path: "parts.motor.resistance", Value: 55, Low: 28, High: 82}, {Path: "parts.packs.grey.resistance", Value: 18, Low: 9, High: 27},
	}
	c, _ := CurveWith(p, "grey", 3.8, 700)
	at := c.Points[30]
	var least, most Figures
	first := true
	for a := 0.0; a <= 1; a += 0.25 {
		for b := 0.0; b <= 1; b += 0.25 {
			for e := 0.0; e <= 1; e += 0.25 {
				q := curveParts()
				q.Propeller.Thrust, q.Propeller.Power = 0.12+0.12*a, 0.07+0.11*a
				q.Motor.Resistance = 28 + 54*b
				pack := q.Packs["grey"]
				pack.Resistance = 9 + 18*e
				q.Packs["grey"] = pack
				one, _ := CurveWith(q, "grey", 3.8, 700)
				f := one.Points[30].Is
				if first {
					least, most, first = f, f, false
				}
				least, most = least.least(f), most.most(f)
			}
		}
	}
	for _, x := range [][4]float64{{at.Low.Thrust, at.High.Thrust, least.Thrust, most.Thrust}, {at.Low.Current, at.High.Current, least.Current, most.Current}, {at.Low.Rpm, at.High.Rpm, least.Rpm, most.Rpm}} {
		if x[0] > x[2]+1e-9 || x[1] < x[3]-1e-9 || x[0] < 0.97*x[2] || x[1] > 1.03*x[3] {
			t.Errorf("a band from %.4g to %.4g, by trying %.4g to %.4g", x[0], x[1], x[2], x[3])
		}
	}
	if h := c.Hover; h.LeastDuty >= h.Duty || h.MostDuty <= h.Duty {
		t.Errorf("hover between %.1f and %.1f %%", h.LeastDuty, h.MostDuty)
	}
}

// A propeller that pushes a tenth less than it is said to hovers at another duty; from that its coefficient comes back.
func TestThrustByHover(t *testing.T) {
	p := curveParts()
	p.Propeller.Thrust = 0.162
	real, err := NewDrive(p, p.Packs["grey"], 22.8, Density)
	if err != nil {
		t.Fatal(err)
	}
	h, _ := real.Hover(0.7)
	told := workedDrive(t)
	told.PackVoltage = 22.8
	e, ok := told.ThrustByHover(0.18, 0.7, h.Duty, 0.01)
	if !ok {
		t.Fatal("it hovers")
	}
	near(t, "its coefficient", e.Value, 0.162, 1e-9)
	if e.Low >= e.Value || e.High <= e.Value {
		t.Errorf("%+v", e)
	}
	if _, ok := told.ThrustByHover(0.18, 0.7, 0, 0); ok {
		t.Error("standing still tells nothing")
	}
}
