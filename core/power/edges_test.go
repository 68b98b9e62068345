package power

import (
	"math"
	"testing"

	"vividperch/core/quad"
)

// A short beside a slow climb: a capacitor of 4700 µF climbs by 2,128 Ω in ten seconds, of which 43 Ω are the least that counts; one of 470 µF by ten times as much.
func TestShortedOrOnlySlow(t *testing.T) {
	for _, c := range []struct {
		atOnce, after, capacitance float64
		shorted                    bool
		why                        string
	}{
		{1, 4, 0, true, "low, and no capacitor told"},
		{1, 30, 4700, true, "it hardly climbs"},
		{30, 60, 4700, true, "high for a short, but by 30 Ω alone"},
		{1, 60, 4700, false, "by 59 Ω: a large capacitor that fills"},
		{1, 60, 470, true, "the same with a small one, which climbs ten times as far"},
		{1, Short, 0, false, "from the limit on it is none"},
		{1, Short - 1, 0, true, "just under it"},
	} {
		if got := Shorted(quad.Resistance{AtOnce: c.atOnce, After: c.after}, c.capacitance); got != c.shorted {
			t.Errorf("%v Ω, then %v Ω with %v µF: %v; %s", c.atOnce, c.after, c.capacitance, got, c.why)
		}
	}
}

// What counts as a jump, a fall or no climb, just within and just not: 470 µF climb by 2,128 Ω a second at the most.
func TestShapesOfALeadAtTheirEdges(t *testing.T) {
	climb := 1 / 470e-6
	for _, c := range []struct {
		list  []Ohm
		shape LeadShape
		why   string
	}{
		{[]Ohm{{2, 2000}, {7, 2250}, {12, 2000 + climbShare*climb*11}}, LeadClimbs, "a little more than the least, over ten seconds that begin late"},
		{[]Ohm{{2, 2000}, {7, 2050}, {12, 2000 + climbShare*climb*9}}, LeadFlat, "a little less"},
		{[]Ohm{{0, 2000}, {1, 2000 + jumped*climb + Short/2}, {2, 14000}}, LeadClimbs, "as fast as a capacitor, and a short's worth"},
		{[]Ohm{{0, 2000}, {1, 2000 + jumped*climb + Short + 50}, {2, 14000}}, LeadJumps, "faster, by more than a display wanders"},
		{[]Ohm{{0, 2000}, {1, 2000 + jumped*climb + Short + 30}, {2, 14000}}, LeadClimbs, "faster, by no more than that"},
		{[]Ohm{{0, 2000}, {1, 1300}, {2, 2100}}, LeadJumps, "it falls by a third and goes on climbing"},
		{[]Ohm{{0, 2000}, {1, 1300}, {2, 1900}, {10, 1700}}, LeadCharged, "it falls by a third and stays there"},
		{[]Ohm{{0, 2000}, {1, 1500}, {10, 3500}}, LeadClimbs, "it falls by a quarter"},
		{[]Ohm{{0, openLead}, {10, openLead}}, LeadOpen, "nothing conducts"},
		{[]Ohm{{0, 2000}}, LeadOpen, "one figure tells nothing"},
	} {
		if got := ShapeOf(c.list, 470); got != c.shape {
			t.Errorf("%v: %s, want %s; %s", c.list, got, c.shape, c.why)
		}
	}
	if got := ShapeOf([]Ohm{{0, 2000}, {5, 2000}, {10, 2000}}, 0); got == LeadFlat {
		t.Error("without a capacitor nothing has to climb")
	}
}

// Student's quantile against its published table, between and beyond the rows that are kept.
func TestStudentAgainstItsTable(t *testing.T) {
	for freedom, want := range map[int]float64{1: 12.706, 4: 2.776, 10: 2.228, 11: 2.201, 15: 2.131, 20: 2.086, 30: 2.042, 60: 2.000} {
		if got := student95(freedom); !(math.Abs(got-want) <= 0.015) {
			t.Errorf("with %d degrees of freedom %v, published %v", freedom, got, want)
		}
	}
}

// The band of a current model, worked by hand: at half the output 2 + 20 (0.5 + 0.5 x 0.25) = 14.5 A; amps are read to 0.435 A, the output to 0.02 of a slope of 30 A: 0.6 A; it lies 1 A off.
func TestBandByHand(t *testing.T) {
	m := CurrentModel{Idle: 2, Slope: 20, Bend: 0.5, Within: 1}
	within := 2 * math.Sqrt(1+0.435*0.435+0.6*0.6)
	if least, most := m.Band(0.5); !(math.Abs(least-(14.5-within)) <= 1e-9) || !(math.Abs(most-(14.5+within)) <= 1e-9) {
		t.Errorf("%v to %v, want 14.5 ± %v", least, most, within)
	}
	if u, ok := m.Output(2); !ok || !(math.Abs(u) <= 1e-9) {
		t.Errorf("what it draws at rest is at %v of the output: %v", u, ok)
	}
	if _, ok := m.Output(1.9); ok {
		t.Error("less than at rest is drawn nowhere")
	}
	if least, _ := (CurrentModel{Idle: 0.2, Within: 3}).Band(0); least != 0 {
		t.Errorf("no less than nothing is drawn, but %v", least)
	}
}

// A flight is thinned by stretches that are as long as each other, each by its lowest voltage.
func TestThinKeepsEverySag(t *testing.T) {
	var flight []Given
	for i := range 100 {
		flight = append(flight, Given{Time: float64(i), Volts: 16})
	}
	flight[37].Volts, flight[38].Volts, flight[99].Volts = 13, 12, 11
	got := Thin(flight, 10)
	if len(got) != 10 || got[3] != flight[38] || got[9] != flight[99] {
		t.Errorf("%v", got)
	}
	for i, s := range got {
		if s.Time < float64(10*i) || s.Time >= float64(10*i+10) {
			t.Errorf("of stretch %d it keeps %v s", i, s.Time)
		}
	}
	if len(Thin(flight, 100)) != 100 || len(Thin(flight, 500)) != 100 {
		t.Error("what is short enough is thinned")
	}
}
