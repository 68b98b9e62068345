package airframe

import (
	"math"
	"testing"

	"vividperch/core/quad"
)

// Flown second by second until what is left is what the way home takes: another way to the same place.
func TestReachesAgainstFlyingThem(t *testing.T) {
	p, pack := curveParts(), quad.Pack{Cells: 6, Capacity: 1300, Resistance: 24, Mass: 210}
	d, err := NewDrive(p, pack, 3.8*6, Density)
	if err != nil {
		t.Fatal(err)
	}
	const mass, drag, speed, wind, extra, reserve = 0.6, 0.006, 12.0, 4.0, 0.4, 0.2
	point, ok := d.Cruise(mass, drag, speed)
	if !ok {
		t.Fatal("it does not cruise")
	}
	if thrust := d.Motors * d.At(point.Duty).Thrust; !(math.Abs(thrust*thrust-mass*mass*Gravity*Gravity-drag*drag*speed*speed*speed*speed) <= 1e-3*thrust*thrust) {
		t.Errorf("a thrust of %.3f N does not balance", thrust)
	}
	amps := point.PackCurrent + extra
	got := d.Reaches(pack, mass, drag, speed, wind, extra, reserve)
	if len(got) != 3 {
		t.Fatalf("%+v", got)
	}
	for i, ground := range [][2]float64{{speed - wind, speed + wind}, {math.Sqrt(speed*speed - wind*wind), math.Sqrt(speed*speed - wind*wind)}, {speed + wind, speed - wind}} {
		left, away := pack.Capacity*(1-reserve)*3.6, 0.0
		for left > away/ground[1]*amps {
			left -= amps * 0.01
			away += ground[0] * 0.01
		}
		if !(math.Abs(got[i].Metres-away) <= 1) {
			t.Errorf("%s: %.0f m, flown %.0f", got[i].Towards, got[i].Metres, away)
		}
	}
	if got[0].Metres != got[2].Metres {
		t.Errorf("into the wind and with it take the same in all: %v and %v", got[0].Metres, got[2].Metres)
	}
	if still := d.Reaches(pack, mass, drag, speed, 0, extra, reserve); len(still) != 1 || still[0].Metres <= got[0].Metres {
		t.Errorf("in still air: %+v", still)
	}
	if none := d.Reaches(pack, mass, drag, speed, 13, extra, reserve); len(none) != 0 {
		t.Errorf("against a wind that is faster: %+v", none)
	}
	if slow, _ := d.Cruise(mass, drag, 0); true {
		if hover, _ := d.Hover(mass); slow != hover {
			t.Errorf("at no speed it hovers: %+v, %+v", slow, hover)
		}
	}
}
