package firmware

import (
	"slices"
	"testing"

	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// Every line looks at every gate, each once, in an order of its own, and says how it tells of those that hold.
func TestEveryLineHasItsGates(t *testing.T) {
	orders := map[string]string{}
	for _, name := range LineNames() {
		l, ok := FindLine(name)
		if !ok {
			t.Fatal(name)
		}
		for byStick, last := range map[bool]string{true: "gesture", false: "switch"} {
			all := sticks.Gates(quad.SticksSheet{ArmByStick: byStick}, sticks.Moment{})
			got := l.InOrder(all)
			var names []string
			order := ""
			for _, g := range got {
				names = append(names, g.Name)
				order += g.Name + " "
				if g.Name != last && g.Signal == "" {
					t.Errorf("%s does not tell of %s", name, g.Name)
				}
				if g.Group == "" || g.Sentence == "" || g.Remedy == "" {
					t.Errorf("%s: %+v", name, g)
				}
			}
			for _, g := range all {
				if !slices.Contains(names, g.Name) {
					t.Errorf("%s loses %s", name, g.Name)
				}
			}
			if slices.Sort(names); len(slices.Compact(names)) != len(all) {
				t.Errorf("%s looks at some twice: %v", name, names)
			}
			if other := orders[order]; other != "" {
				t.Errorf("%s looks in the order of %s", name, other)
			}
			orders[order] = name
		}
		for _, g := range l.Gates {
			if !slices.ContainsFunc(append(sticks.Gates(quad.SticksSheet{ArmByStick: true}, sticks.Moment{}), sticks.Gates(quad.SticksSheet{}, sticks.Moment{})...), func(x sticks.Gate) bool { return x.Name == g.Name }) {
				t.Errorf("%s names a gate that nothing is, %q", name, g.Name)
			}
		}
	}
}

// A line that was taught names no gates: they come as most boards look.
func TestGatesOfATaughtLine(t *testing.T) {
	all := sticks.Gates(quad.SticksSheet{}, sticks.Moment{})
	if got := (&Line{}).InOrder(all); !slices.Equal(got, all) {
		t.Errorf("%v", got)
	}
}
