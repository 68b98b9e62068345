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
		if want, got := thrust*math.Sqrt(thrust/(2*rho*area))/power, Merit(p); math.Abs(got-want) > 1e-12 {
			t.Errorf("%+v: %g, want %g", p, got, want)
		}
	}
	if Merit(quad.Propeller{Thrust: 0.1}) != 0 || Merit(quad.Propeller{Power: 0.1}) != 0 {
		t.Error("of what is not told there is a figure")
	}
}
