package airframe

import (
	"math"
	"testing"

	"vividperch/core/quad"
)

// The same by forces: a disc of some size, some speed and some air, its thrust and power by the coefficients' definitions, and the power
// that momentum theory asks for it.
func TestMeritIsThatOfMomentumTheory(t *testing.T) {
	const rho, diameter, rounds = 1.225, 0.127, 350.0 // kg/m³, m, 1/s
	for _, p := range []quad.Propeller{{Thrust: 0.18, Power: 0.12}, {Thrust: 0.11, Power: 0.045}, {Thrust: 0.3, Power: 0.12}} {
		thrust := p.Thrust * rho * math.Pow(rounds, 2) * math.Pow(diameter, 4)
		power := p.Power * rho * math.Pow(rounds, 3) * math.Pow(diameter, 5)
		area := math.Pi * diameter * diameter / 4
		if want, got := thrust*math.Sqrt(thrust/(2*rho*area))/power, Merit(p); !(math.Abs(got-want) <= 1e-12) {
			t.Errorf("%+v: %g, want %g", p, got, want)
		}
	}
	if Merit(quad.Propeller{Thrust: 0.1}) != 0 || Merit(quad.Propeller{Power: 0.1}) != 0 {
		t.Error("of what is not told there is a figure")
	}
}

// A quad leans about a foot until the tip that is farthest out touches: found by leaning it in small steps.
func TestStrikesAtTheLeanAtWhichATipTouches(t *testing.T) {
	for _, c := range [][2]float64{{25, 127}, {15, 178}, {90, 254}, {70, 127}} {
		p := quad.Parts{Frame: quad.Frame{LegHeight: c[0]}, Propeller: quad.Propeller{Diameter: c[1]}}
		want := 90.0
		for deg := 0.0; deg < 90; deg += 0.01 {
			// The motor stands a leg above its foot, which stays; the tip is a radius further out, and lower by the lean.
			sin, cos := math.Sincos(deg * math.Pi / 180)
			if c[0]*cos-c[1]/2*sin <= 0 {
				want = deg
				break
			}
		}
		if got := StrikesAt(p); !(math.Abs(got-want) <= 0.02) {
			t.Errorf("legs of %v mm, propellers of %v mm: %v°, want %v", c[0], c[1], got, want)
		}
	}
	if StrikesAt(quad.Parts{}) != 0 {
		t.Error("of what is not told there is a figure")
	}
}
