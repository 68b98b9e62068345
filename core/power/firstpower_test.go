package power

import (
	"math"
	"strings"
	"testing"

	"vividperch/core/quad"
)

// The capacitor charged in small steps by the meter's steady current, with the leak beside it.
func TestGoodLeadIsACapacitorThatIsCharged(t *testing.T) {
	for _, farad := range []float64{220e-6, 1000e-6, 2000e-6} {
		const current, dt = 1e-4, 1e-4 // A, s; what the meter shows is V/I
		volts := 0.0
		for i := range 100_000 {
			if got := GoodLead(farad*1e6, float64(i)*dt); i%10_000 == 0 && !(math.Abs(got-volts/current) <= 1e-3*volts/current+1) {
				t.Errorf("%g F after %.1f s: %.1f Ω, charged step by step %.1f", farad, float64(i)*dt, got, volts/current)
			}
			volts += dt * (current - volts/usualLeak) / farad
		}
	}
	// A kilohm a second for a thousand microfarads, at first.
	if got := GoodLead(1000, 1); !(math.Abs(got-1000) <= 30) {
		t.Errorf("after a second %.0f Ω", got)
	}
}

func TestShapesOfALead(t *testing.T) {
	run := func(of func(t float64) float64) (out []Ohm) {
		for i := 0.0; i <= 10; i += 0.5 {
			out = append(out, Ohm{i, of(i)})
		}
		return out
	}
	for _, c := range []struct {
		why  string
		list []Ohm
		want LeadShape
	}{
		{"a sound one", run(func(t float64) float64 { return 140 + GoodLead(1000, t) }), LeadClimbs},
		{"a sound one, noted twice", OhmsOf(quad.Resistance{AtOnce: 140, After: 8200}), LeadClimbs},
		{"a bridge", run(func(float64) float64 { return 2.4 }), LeadShorted},
		{"a bridge, noted twice", OhmsOf(quad.Resistance{AtOnce: 1.1, After: 1.3}), LeadShorted},
		{"charge that was left", run(func(t float64) float64 { return 40_000 * math.Exp(-t/4) }), LeadCharged},
		{"charge that was left, noted twice", OhmsOf(quad.Resistance{AtOnce: 9000, After: 2000}), LeadCharged},
		{"no capacitor", run(func(float64) float64 { return 22_000 }), LeadFlat},
		{"probes in the air", run(func(float64) float64 { return 2e7 }), LeadOpen},
		{"a range changed", run(func(t float64) float64 {
			if t > 4 && t < 5 {
				return 90_000
			}
			return 140 + GoodLead(1000, t)
		}), LeadJumps},
		{"one figure", []Ohm{{0, 100}}, LeadOpen},
	} {
		if got := ShapeOf(c.list, 1000); got != c.want {
			t.Errorf("%s: %s, want %s", c.why, got, c.want)
		}
		if c.want != LeadClimbs && !strings.Contains(c.want.Words(), ":") {
			t.Errorf("%s has no words", c.want)
		}
	}
	if got := ShapeOf(OhmsOf(quad.Resistance{AtOnce: 22_000, After: 22_100}), 0); got != LeadClimbs {
		t.Errorf("without a capacitor told it is %s", got)
	}
}

func stepParts() quad.Parts {
	return quad.Parts{
		Board: quad.BoardPart{IdleDraw: 110, Rails: map[string]quad.Rail{"5V": {Volts: 5}}}, SpeedController: quad.SpeedController{IdleDraw: 90}, Receiver: quad.Receiver{IdleDraw: 45},
		Video: quad.Video{Fitted: true, IdleDraw: 190}, Packs: map[string]quad.Pack{"grey": {Cells: 6, Mass: 1}},
		Devices: map[string]quad.Device{"satellite": {Draw: 90}, "receiver": {Draw: 500}}, Wires: map[string]quad.Wire{"satellite": {Rail: "5V"}},
	}
}

// A device on a rail takes from the pack the rail's power over what its regulator lets through; the sum is what the whole draws.
func TestStepsOfCurrent(t *testing.T) {
	list := Steps(stepParts())
	if len(list) != 5 || list[0].Device != "board" || list[4].Device != "satellite" {
		t.Fatalf("%+v", list)
	}
	if watts := 0.09 * 5 / 0.85; !(math.Abs(list[4].Adds-watts/(6*3.8)) <= 1e-12) {
		t.Errorf("the satellite receiver adds %.4f A", list[4].Adds)
	}
	sum := 0.0
	for _, s := range list {
		if sum += s.Adds; !(math.Abs(s.Sum-sum) <= 1e-12) {
			t.Errorf("%s: %.4f A in all, want %.4f", s.Device, s.Sum, sum)
		}
	}
	if !(math.Abs(IdleCurrent(stepParts())-sum) <= 1e-12) || IdleCurrent(quad.Parts{}) != 0 {
		t.Error("what the whole draws is not the last of its steps")
	}
}

func TestFirstDeviationNamesTheDevice(t *testing.T) {
	steps := Steps(stepParts())
	for _, c := range []struct {
		measured []float64
		step     int
		says     string
	}{
		{[]float64{0.11, 0.2, 0.25, 0.44, 0.46}, -1, ""},
		{[]float64{0.11, 0.2, 0.25}, -1, ""},
		{[]float64{0.9}, 0, "The board draws 0.9 A"},
		{[]float64{0.11, 0.2, 0.35, 0.54}, 2, "The receiver draws 0.15 A where 0.05 A is expected. Power off now"},
		{[]float64{0.11, 0.2, 0.25, 0.54}, 3, "leave it off and go on"},
		{[]float64{0.11, 0.2, 0.25, 0.26}, 3, "The video transmitter hardly draws anything"},
	} {
		d, ok := FirstDeviation(steps, c.measured)
		if ok != (c.step >= 0) || ok && (d.Step != c.step || !strings.Contains(d.Words, c.says)) {
			t.Errorf("%v: %+v %v", c.measured, d, ok)
		}
	}
}

// The case stepped through its warming.
func TestBenchMinutesOfAVideoTransmitter(t *testing.T) {
	for _, c := range []struct {
		power float64
		fan   bool
	}{{400, false}, {800, false}, {1600, false}, {3000, true}} {
		gives := 0.04
		if c.fan {
			gives = 0.2
		}
		heat, temp, seconds := 1+c.power/1000/0.2-c.power/1000, 25.0, 0.0
		for ; temp < 80 && seconds < 1e5; seconds += 0.01 {
			temp += 0.01 * (heat - gives*(temp-25)) / 12
		}
		if got := BenchMinutes(c.power, c.fan); !(math.Abs(got-seconds/60) <= 0.01*seconds/60) {
			t.Errorf("%g mW: %.2f min, stepped %.2f", c.power, got, seconds/60)
		}
	}
	if !math.IsInf(BenchMinutes(25, false), 1) || BenchMinutes(800, false) >= BenchMinutes(800, true) {
		t.Error("the lowest power goes on for ever, and a fan helps")
	}
}
