package link

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"vividperch/core/quad"
)

func member(name, version string, number int) Member {
	return Member{Name: name, FleetQuad: quad.FleetQuad{Link: "Tidewire", Version: version, Number: number, Band: "2.4 GHz", Module: "5.4.0", Radio: "Estuary internal"}}
}

func TestPlanNamesItsOrphans(t *testing.T) {
	fleet := []Member{member("Dunlin", "5.4.0", 1), member("Knot", "5.1.0", 2), member("Whimbrel", "6.1.0", 2)}
	m := Modules(fleet)
	if len(m) != 1 || len(m[0].Members) != 3 || m[0].Version != "5.4.0" {
		t.Fatalf("%+v", m)
	}
	p, err := PlanOf(gear(t, "Tidewire"), m[0], "6.2.0")
	if err != nil {
		t.Fatal(err)
	}
	if got := strings.Join(p.Orphans, " "); got != "Dunlin Knot" {
		t.Errorf("orphans %s", got)
	}
	var order []string
	for _, s := range p.Moves {
		order = append(order, s.Quad+":"+strings.Join(s.Heard, "+"))
	}
	// The module first: then Whimbrel alone hears it, and one after the other comes back.
	if got := strings.Join(order, " "); got != ":Whimbrel Dunlin:Dunlin+Whimbrel Knot:Dunlin+Knot+Whimbrel" {
		t.Errorf("order %s", got)
	}
	g := gear(t, "Tidewire")
	g.Update = ByRadio
	p, _ = PlanOf(g, m[0], "6.2.0")
	if p.Moves[0].Quad != "Dunlin" || p.Moves[2].Quad != "" {
		t.Errorf("through the radio the receivers go first: %+v", p.Moves)
	}
	if c := Clashes(m[0]); len(c) != 1 || c[0].Words() != "Knot and Whimbrel have receiver number 2" {
		t.Errorf("%+v", c)
	}
	if _, err := PlanOf(g, m[0], "soon"); quad.AsFault(err) == nil {
		t.Error("a version that is none")
	}
}

// Whatever the fleet, at the end everybody hears the module, nobody is updated through a radio that does not hear him, and
// what stands beside each step is what two machines of those versions would do.
func TestPlansOfManyFleets(t *testing.T) {
	r := rand.New(rand.NewPCG(9, 1))
	for range 500 {
		var fleet []Member
		for i := range 1 + r.IntN(6) {
			q := member(fmt.Sprintf("q%d", i), fmt.Sprintf("%d.%d.0", 4+r.IntN(3), r.IntN(9)), i)
			q.Module = "5.4.0"
			fleet = append(fleet, q)
		}
		g := gear(t, "Tidewire")
		g.Update = []Update{ByPage, ByRadio, ByWire}[r.IntN(3)]
		to := fmt.Sprintf("%d.0.0", 5+r.IntN(2))
		p, err := PlanOf(g, Modules(fleet)[0], to)
		if err != nil {
			t.Fatal(err)
		}
		module, has := "5", map[string]string{}
		for _, q := range fleet {
			has[q.Name] = q.Version[:1]
		}
		for _, s := range p.Moves {
			if s.Quad == "" {
				module = to[:1]
			} else {
				if g.Update == ByRadio && has[s.Quad] != module {
					// It was deaf before: nothing can be done through the radio, and the plan says so by its other way.
					if slices.Contains(p.Orphans, s.Quad) {
						t.Fatalf("%s is updated through a radio that does not hear it", s.Quad)
					}
				}
				has[s.Quad] = to[:1]
			}
			for name, v := range has {
				if want := v == module; slices.Contains(s.Heard, name) != want || slices.Contains(s.Deaf, name) == want {
					t.Fatalf("after %q %s: heard %v, want %v", s.Words, name, s.Heard, want)
				}
			}
		}
		for name, v := range has {
			if v != to[:1] {
				t.Fatalf("%s is left at %s", name, v)
			}
		}
	}
}

func TestFreeNumber(t *testing.T) {
	g := gear(t, "Groyne")
	own := quad.FleetQuad{Link: "Groyne", Radio: "Estuary", External: true}
	fleet := map[string]quad.FleetQuad{}
	for i := range 3 {
		fleet[fmt.Sprint(i)] = quad.FleetQuad{Link: "Groyne", Radio: "Estuary", External: true, Number: i + 1}
	}
	if got := FreeNumber(g, own, fleet); got != 4 {
		t.Errorf("%d is free", got)
	}
	own.Radio = "another"
	if got := FreeNumber(g, own, fleet); got != 1 {
		t.Errorf("%d is free on another radio", got)
	}
	for i := range 63 {
		fleet[fmt.Sprint(i)] = quad.FleetQuad{Link: "Groyne", Radio: "another", External: true, Number: i + 1}
	}
	if got := FreeNumber(g, own, fleet); got != 0 {
		t.Errorf("all are taken, but %d is free", got)
	}
	for i := range 63 { // whichever is given up, the last included, is found
		held := fleet[fmt.Sprint(i)]
		delete(fleet, fmt.Sprint(i))
		if got := FreeNumber(g, own, fleet); got != i+1 {
			t.Errorf("only %d is free, but %d is offered", i+1, got)
		}
		fleet[fmt.Sprint(i)] = held
	}
}
