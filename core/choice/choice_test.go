package choice

import (
	"math/rand/v2"
	"slices"
	"testing"

	"vividperch/core/airframe"
	"vividperch/core/catalogue"
	"vividperch/core/quad"
)

// five is a 5-inch quad.
func five() quad.Parts {
	return quad.Parts{
		Frame: quad.Frame{ArmFront: 80, ArmSide: 80, Mass: 495}, Motor: quad.Motor{Name: "Sandpiper 2207", KV: 1700, Resistance: 55, IdleCurrent: 1.1, Mass: 33},
		Propeller: quad.Propeller{Name: "three blades 5 in", Diameter: 127, Thrust: 0.18, Power: 0.12}, SpeedController: quad.SpeedController{Continuous: 60, CellsMin: 3, CellsMax: 6},
		Packs: map[string]quad.Pack{"grey": {Cells: 6, Capacity: 1300, Discharge: 120, Resistance: 18, Mass: 215}},
	}
}

func dominates(a, b Found, axes []Axis) bool {
	better := false
	for _, x := range axes {
		if a.value(x) < b.value(x) {
			return false
		}
		better = better || a.value(x) > b.value(x)
	}
	return better
}

// Every pair of many: none of the front is beaten, and all that is not beaten is there.
func TestFrontAgainstEveryPair(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 1))
	for _, axes := range [][]Axis{Axes, {Minutes, Mass}, {HoverDuty, Ratio, Mass}} {
		list := make([]Found, 900)
		for i := range list {
			list[i] = Found{HoverDuty: float64(r.IntN(40)), Minutes: float64(r.IntN(30)), Ratio: float64(r.IntN(20)), Mass: float64(r.IntN(50))}
		}
		want := map[[4]float64]bool{}
		for _, a := range list {
			if !slices.ContainsFunc(list, func(b Found) bool { return dominates(b, a, axes) }) {
				var at [4]float64
				for k, x := range axes {
					at[k] = a.value(x)
				}
				want[at] = true
			}
		}
		got := Front(list, axes)
		if len(got) != len(want) {
			t.Errorf("%v: %d on the front, by every pair %d", axes, len(got), len(want))
		}
		for _, f := range got {
			var at [4]float64
			for k, x := range axes {
				at[k] = f.value(x)
			}
			if !want[at] {
				t.Errorf("%v: %+v is beaten", axes, f)
			}
		}
	}
}

// The shipped catalogue on a 5-inch quad: all of it is tried, what is found is what a summary of the quad with it on says, and nothing that could be on it beats
// what is offered.
func TestSearchTheCatalogue(t *testing.T) {
	p := five()
	res, err := Search(p, quad.LayoutX, 710, catalogue.Shipped(), Wish{Minutes: 8, Ratio: 6})
	if err != nil {
		t.Fatal(err)
	}
	left := 0
	for _, l := range res.Left {
		left += l.Count
	}
	if res.Tried < 20000 || res.Could+left != res.Tried || len(res.Front) == 0 || res.Is == nil {
		t.Fatalf("%d tried, %d could, %d left out, %d on the front", res.Tried, res.Could, left, res.Fronts)
	}
	for i, f := range res.Front {
		if i > 0 && f.Short < res.Front[i-1].Short {
			t.Error("those that meet the wish best come first")
		}
		with := p
		with.Packs = nil
		for kind, name := range map[catalogue.Kind]string{catalogue.Motor: f.Motor, catalogue.Propeller: f.Propeller, catalogue.Pack: f.Pack} {
			e, _ := catalogue.Find(kind, name)
			if with, err = catalogue.Put(with, e); err != nil {
				t.Fatal(err)
			}
		}
		with.Frame.Mass += 4 * (airframe.MotorMass(with) - 33)
		s := airframe.Summarize(with, 0)
		for what, x := range map[string][2]float64{"duty": {f.HoverDuty, s.HoverDuty}, "minutes": {f.Minutes, s.Minutes}, "ratio": {f.Ratio, s.Ratio}, "mass": {f.Mass, s.Mass}, "peak": {f.PeakMotor, s.PeakMotor}} {
			if d := x[0]/x[1] - 1; d > 1e-6 || d < -1e-6 {
				t.Errorf("%s, %s, %s: %s %.4f, on the quad %.4f", f.Motor, f.Propeller, f.Pack, what, x[0], x[1])
			}
		}
		if slices.ContainsFunc(res.Others, func(o Found) bool { return dominates(o, f, Axes) }) {
			t.Errorf("%+v is beaten", f)
		}
	}
}

func TestSearchRefuses(t *testing.T) {
	if _, err := Search(five(), quad.LayoutX, 0, nil, Wish{Without: []Axis{Minutes, Ratio, Mass}}); quad.AsFault(err) == nil || quad.AsFault(err).Code != "no-axes" {
		t.Errorf("one axis: %v", err)
	}
	if _, err := Search(quad.Parts{}, quad.LayoutX, 0, nil, Wish{}); quad.AsFault(err) == nil || quad.AsFault(err).Code != "not-told" {
		t.Errorf("nothing told: %v", err)
	}
	if res, err := Search(five(), quad.LayoutX, 0, nil, Wish{}); err != nil || res.Tried != 0 || len(res.Front) != 0 {
		t.Errorf("no parts: %+v, %v", res, err)
	}
}

func BenchmarkSearch(b *testing.B) {
	p, list := five(), catalogue.Shipped()
	tried := 0
	for b.Loop() {
		res, err := Search(p, quad.LayoutX, 710, list, Wish{Minutes: 8, Ratio: 6})
		if err != nil {
			b.Fatal(err)
		}
		tried = res.Tried
	}
	b.ReportMetric(float64(b.Elapsed().Milliseconds())/float64(b.N), "ms/search")
	b.ReportMetric(float64(tried), "combinations")
}
