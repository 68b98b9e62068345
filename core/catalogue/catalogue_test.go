package catalogue

import (
	"encoding/json"
	"math"
	"slices"
	"strings"
	"testing"

	"vividperch/core/airframe"
	"vividperch/core/quad"
)

// The shipped catalogue is large, every name is there once, and every figure of it is one that such a part can have.
func TestShippedPartsArePlausible(t *testing.T) {
	list := Shipped()
	if len(list) < 250 {
		t.Errorf("only %d entries", len(list))
	}
	seen := map[string]bool{}
	kinds := map[Kind]int{}
	for _, e := range list {
		if key := string(e.Kind) + e.Name; seen[key] || e.Name == "" || e.Words == "" || quad.Longer(e.Name, 60) {
			t.Errorf("%s %q is there twice, or has no words", e.Kind, e.Name)
		} else {
			seen[key] = true
		}
		kinds[e.Kind]++
		p, err := Put(quad.Parts{}, e)
		if err != nil {
			t.Errorf("%s %s: %v", e.Kind, e.Name, err)
			continue
		}
		if err := (quad.Meant{Parts: p}).Valid(); err != nil {
			t.Errorf("%s %s: %v", e.Kind, e.Name, err)
		}
		for _, l := range quad.Leaves(quad.Known{Parts: p}.Parts, "parts") {
			raw, err := json.Marshal(l.Value)
			if err != nil {
				t.Fatal(err)
			}
			if err := quad.Fits(l.Path, raw); err != nil {
				t.Errorf("%s %s: %v", e.Kind, e.Name, err)
			}
		}
	}
	for _, kind := range Kinds {
		if kinds[kind] < 5 {
			t.Errorf("only %d of kind %s", kinds[kind], kind)
		}
	}
}

// Motors, propellers and packs of the catalogue go together over the whole range: for every size of propeller there is a motor and a pack
// with which four of them lift a sensible quad at a sensible throttle.
func TestEverySizeCanFly(t *testing.T) {
	of := func(kind Kind) (out []Entry) {
		for _, e := range Shipped() {
			if e.Kind == kind {
				out = append(out, e)
			}
		}
		return out
	}
	for _, prop := range of(Propeller) {
		d := prop.Shape.Diameter
		weight := 0.0265 * d * d // g: as heavy as quads of that size are
		best := math.Inf(1)
		for _, motor := range of(Motor) {
			for _, pack := range of(Pack) {
				p, err := Put(quad.Parts{}, prop)
				if err != nil {
					t.Fatal(err)
				}
				if p, err = Put(p, motor); err != nil {
					t.Fatal(err)
				}
				if p, err = Put(p, pack); err != nil {
					t.Fatal(err)
				}
				cells := p.Packs[pack.Name]
				drive, err := airframe.NewDrive(p, cells, airframe.RestCell*float64(cells.Cells), airframe.Density)
				if err != nil {
					t.Fatalf("%s, %s, %s: %v", prop.Name, motor.Name, pack.Name, err)
				}
				if at, ok := drive.ForThrust(weight / 1000 * airframe.Gravity / 4); ok {
					best = math.Min(best, math.Abs(at.Duty-0.33))
				}
			}
		}
		if best > 0.1 {
			t.Errorf("nothing lets %s hover at a third of full duty: %.2f off at best", prop.Name, best)
		}
	}
}

func TestSearchAsOneTypes(t *testing.T) {
	list := Shipped()
	for _, c := range []struct {
		kind        Kind
		typed, want string // the first that is found; nothing where none is
	}{
		{Motor, "sandpiper 2207", "Sandpiper 2207 1500"},
		{Motor, "2207 1700", "Sandpiper 2207 1700"},
		{Motor, "1700 2207", "Sandpiper 2207 1700"},
		{Pack, "6 1300", "6 cells 1300 mAh"},
		{Propeller, "three 5", "three blades 5 by 3 in"},
		{Satellite, "compass small", "Lighthouse small with compass"},
		{Frame, "5 INCH", "Plank Five"},
		{Motor, "zeppelin", ""},
		{Motor, "", list[slices.IndexFunc(list, func(e Entry) bool { return e.Kind == Motor })].Name},
	} {
		got := Search(list, c.kind, c.typed, 10)
		name := ""
		if len(got) > 0 {
			name = got[0].Name
		}
		if name != c.want {
			t.Errorf("%s %q finds %q, wanted %q", c.kind, c.typed, name, c.want)
		}
		if len(got) > 10 {
			t.Errorf("%q finds %d", c.typed, len(got))
		}
	}
}

// What is put on a quad is a copy: the catalogue stays as it is, and so do the parts that it was put on.
func TestPutCopies(t *testing.T) {
	pack, _ := Find(Pack, "6 cells 1300 mAh")
	was := quad.Parts{Packs: map[string]quad.Pack{"grey": {Cells: 4}}}
	p, err := Put(was, pack)
	if err != nil || len(p.Packs) != 2 || len(was.Packs) != 1 || len(p.Estimates) != 0 {
		t.Errorf("%+v, %v", p, err)
	}
	p.Packs["6 cells 1300 mAh"] = quad.Pack{}
	if again, _ := Find(Pack, "6 cells 1300 mAh"); !strings.Contains(string(again.Part), "1300") {
		t.Error("the catalogue was changed")
	}
	// What another part leaves open is none of its business.
	half := quad.Parts{Propeller: quad.Propeller{Diameter: 127, Thrust: 0.18}}
	if p, err := Put(half, pack); err != nil || p.Propeller != half.Propeller || len(p.Estimates) != 0 {
		t.Errorf("a pack changed the propeller: %+v, %v", p, err)
	}
	if _, err := Put(was, Entry{Kind: "sail"}); quad.AsFault(err) == nil {
		t.Error("a sail was put on")
	}
	prop := Entry{Kind: Propeller, Name: "unknown", Part: json.RawMessage(`{"diameter": 127}`), Shape: Shape{127, 109, 3}}
	p, err = Put(was, prop)
	if err != nil || p.Propeller.Thrust == 0 || p.EstimateAt("parts.propeller.thrust") == "" || len(was.Estimates) != 0 {
		t.Errorf("%+v, %v", p, err)
	}
}

// What was estimated is told as an estimate for as long as it stands so: not of another part in its place, and not once somebody told it.
func TestEstimatesAreTold(t *testing.T) {
	var p quad.Parts
	put := func(kind Kind, name, part string, shape Shape, stator Stator) {
		t.Helper()
		var err error
		if p, err = Put(p, Entry{Kind: kind, Name: name, Part: json.RawMessage(part), Shape: shape, Stator: stator}); err != nil {
			t.Fatal(err)
		}
	}
	told := func() []string { return p.EstimateWords([]quad.Path{"parts"}) }
	put(Propeller, "A", `{"diameter": 127}`, Shape{127, 109, 3}, Stator{})
	put(Motor, "B", `{"kv": 1700, "idleCurrent": 0.9}`, Shape{}, Stator{22, 7})
	put(Pack, "Long 4", `{"cells": 4, "capacity": 1500}`, Shape{}, Stator{})
	if got := told(); len(got) != 6 {
		t.Fatalf("told %q", got)
	}
	for _, e := range p.Estimated() {
		if x, err := quad.Get(quad.Known{Parts: p}, e.Path); err != nil || x != e.Value || !(e.Low < e.Value && e.Value < e.High) {
			t.Errorf("%+v, %v", e, x)
		}
	}
	if got := p.EstimateWords([]quad.Path{"parts.motor"}); len(got) != 2 || !strings.HasPrefix(got[0], "motor, winding resistance ") || !strings.Contains(got[0], "(estimate, ") {
		t.Errorf("of the motor: %q", got)
	}
	if got := p.EstimateAt("parts.packs.Long 4.mass"); !strings.HasPrefix(got, "estimate, ") || !strings.HasSuffix(got, " g") {
		t.Errorf("of the pack: %q", got)
	}
	p.Propeller.Thrust = 0.2
	if got := told(); len(got) != 5 {
		t.Errorf("one is told now: %q", got)
	}
	put(Propeller, "C", `{"diameter": 127, "thrust": 0.21, "power": 0.13}`, Shape{127, 109, 3}, Stator{})
	if got := told(); len(got) != 4 {
		t.Errorf("a known propeller is fitted: %q", got)
	}
	delete(p.Packs, "Long 4")
	if got := told(); len(got) != 2 {
		t.Errorf("the pack is gone: %q", got)
	}
	p.Motor = quad.Motor{}
	if got := told(); len(got) != 0 {
		t.Errorf("of nothing: %q", got)
	}
}

func BenchmarkSearch(b *testing.B) {
	list := Shipped()
	for b.Loop() {
		Search(list, Motor, "sand 2207", 30)
	}
}
