package airframe

import (
	"math"
	"testing"

	"vividperch/core/quad"
)

// Statics by hand: an X carries by levers along both axes at once, a plus along each of its own.
func TestLoadsAreStatics(t *testing.T) {
	f := quad.Frame{ArmFront: 80, ArmSide: 100}
	for _, c := range []quad.Balance{{}, {Ahead: 10}, {Ahead: -8, Right: 15}} {
		got, ok := Loads(FromCentre(Spots(quad.LayoutX, f), c))
		if !ok {
			t.Fatal("it stands on four")
		}
		for i, at := range Spots(quad.LayoutX, f) {
			want := 0.25 * (1 + math.Copysign(c.Ahead/80, at.X*c.Ahead) + math.Copysign(c.Right/100, at.Y*c.Right))
			near(t, "of an X", got[i], want, 1e-12)
		}
	}
	plus, _ := Loads(FromCentre(Spots(quad.LayoutPlus, quad.Frame{ArmFront: 200, ArmSide: 200}), quad.Balance{Ahead: 20}))
	near(t, "ahead", plus[0], 0.25+0.5*20/200, 1e-12)
	near(t, "behind", plus[3], 0.25-0.5*20/200, 1e-12)
	near(t, "beside", plus[1], 0.25, 1e-12)
	if _, ok := Loads([4]Spot{{0, 0}, {0, 0}, {0, 0}, {0, 0}}); ok {
		t.Error("four in one place carry nothing level")
	}
}

func TestTiltsBalanceAndCost(t *testing.T) {
	d := workedDrive(t)
	f := quad.Frame{ArmFront: 80, ArmSide: 80}
	even, ok := d.Tilts(quad.LayoutX, f, quad.Balance{}, 0.72)
	h, _ := d.Hover(0.72)
	if !ok {
		t.Fatal("it hovers")
	}
	near(t, "even duty", even.Duty[2], h.Duty, 1e-9)
	near(t, "costs", even.Costs, 1, 1e-9)
	nose, ok := d.Tilts(quad.LayoutX, f, quad.Balance{Ahead: 16}, 0.72)
	if !ok || nose.Hardest > 1 || nose.Costs < 1.005 || nose.Costs > 1.1 {
		t.Errorf("%+v", nose)
	}
	sum, turns := 0.0, 0.0
	for i, at := range Spots(quad.LayoutX, f) {
		sum += nose.Share[i]
		turns += nose.Share[i] * (at.X - 0.016)
	}
	near(t, "all of it", sum, 1, 1e-12)
	near(t, "turned by", turns, 0, 1e-12)
	if _, ok := d.Tilts(quad.LayoutX, f, quad.Balance{Ahead: 90}, 0.72); ok {
		t.Error("beyond its own motors it hangs on none")
	}
}
