package sticks

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"vividperch/core/quad"
)

// on lists what is on while a pulse arrives, by the ranges alone.
func on(functions []Function, us float64) string {
	out := ""
	for _, f := range functions {
		if us >= f.Rng.From && us <= f.Rng.To {
			out += string(f.ID) + " "
		}
	}
	return out
}

// walked is how far a pulse may move by a step before something else is on, found by moving it; 0 where nothing changes inside of what
// can be sent.
func walked(functions []Function, us, step float64) float64 {
	for d := 1.0; us+d*step >= 900 && us+d*step <= 2100; d++ {
		if on(functions, us+d*step) != on(functions, us) {
			return d
		}
	}
	return 0
}

// What the map says of each position is what counting through all positions of all switches finds, and what moving a pulse step by step
// finds on the way: pulses, what is held, how far it is to the next edge, what lies between two positions.
func TestMapIsWhatHappens(t *testing.T) {
	r := rand.New(rand.NewPCG(15, 2))
	seen := map[string]int{}
	for n := range 700 {
		k := drawn(r)
		k.Sheet.Sticks.SelfLevel.To = min(k.Sheet.Sticks.SelfLevel.To, 2100)
		m := NewSwitchboard(k).Map(k, nil)
		for _, c := range m.Columns {
			var functions []Function
			for _, f := range Functions(k.Sheet.Sticks) {
				if f.Rng.Channel == c.Channel {
					functions = append(functions, f)
				}
			}
			if len(c.Marks) != len(c.Cells)+1 {
				t.Fatalf("%d, %s: %d lists of marks, %d cells", n, c.Name, len(c.Marks), len(c.Cells))
			}
			if c.Switch == "" {
				seen["mixed"]++
				continue
			}
			for _, cell := range c.Cells {
				low, high, held := math.Inf(1), math.Inf(-1), map[string]bool{}
				every(k, func(at map[string]string) {
					if at[c.Switch] != cell.Position {
						return
					}
					us := max(800, min(2200, arrives(k, c.Channel, at)))
					low, high = min(low, us), max(high, us)
					held[on(functions, us)] = true
				})
				if !(math.Abs(low-cell.Low) <= 1e-6) || !(math.Abs(high-cell.High) <= 1e-6) {
					t.Fatalf("%d, %s at %s: %v to %v, by counting %v to %v", n, c.Name, cell.Position, cell.Low, cell.High, low, high)
				}
				for _, h := range cell.Held {
					yes, no := 0, 0
					for set := range held {
						if strings.Contains(set, string(h.Function)+" ") {
							yes++
						} else {
							no++
						}
					}
					if want := map[bool]Holding{true: ByTurns}[yes > 0 && no > 0]; want == "" && (h.On == On) != (yes > 0) || want != "" && h.On != want {
						t.Fatalf("%d, %s at %s: %s %s; %d ways on, %d off", n, c.Name, cell.Position, h.Function, h.On, yes, no)
					}
					seen[string(h.On)]++
				}
				if low != high || low < 900 || low > 2100 {
					continue
				}
				for _, side := range []struct {
					way  *ToEdge
					step float64
				}{{cell.Below, -1}, {cell.Above, 1}} {
					d := walked(functions, low, side.step)
					if (side.way == nil) != (d == 0) || side.way != nil && (side.way.Us < d-1 || side.way.Us > d) {
						t.Fatalf("%d, %s at %s, %v µs of %v: %+v, walked %v", n, c.Name, cell.Position, low, functions, side.way, d*side.step)
					}
				}
			}
			if len(c.Shared) > 0 {
				continue
			}
			for i := 1; i < len(c.Cells); i++ {
				a, b := c.Cells[i-1].Low, c.Cells[i].Low
				edges := 0
				for _, mark := range c.Marks[i] {
					seen[string(mark.Kind)]++
					middle := a + (b-a)*(mark.From+mark.To)/2
					state := on(functions, middle)
					switch mark.Kind {
					case MarkGap:
						if state != "" {
							t.Fatalf("%d, %s: %s, but %q at %v", n, c.Name, mark.Words, state, middle)
						}
					case MarkOverlap:
						if !strings.Contains(state, "selfLevel blended") {
							t.Fatalf("%d, %s: %s, but %q at %v", n, c.Name, mark.Words, state, middle)
						}
					case MarkEdge:
						edges++
						if on(functions, middle-0.5) == on(functions, middle+0.5) {
							t.Fatalf("%d, %s: %s, but nothing changes at %v", n, c.Name, mark.Words, middle)
						}
					case MarkMissed:
						if !strings.Contains(state, string(mark.Function)) {
							t.Fatalf("%d, %s: %s, but %q at %v", n, c.Name, mark.Words, state, middle)
						}
					}
				}
				// Each function that some cell reaches changes on the way as often as it is said to.
				var met []Function
				for _, f := range functions {
					if slices.ContainsFunc(c.Cells, func(x Cell) bool { return f.Rng.Holds(x.Low) }) {
						met = append(met, f)
					}
				}
				changes := 0
				for _, f := range met {
					for us := math.Min(a, b); us < math.Max(a, b); us += 0.5 {
						if on([]Function{f}, us) != on([]Function{f}, us+0.5) {
							changes++
						}
					}
				}
				if edges != changes {
					t.Fatalf("%d, %s from %v to %v: %d edges, %d changes: %v", n, c.Name, a, b, edges, changes, c.Marks[i])
				}
			}
		}
		on := map[FunctionID]bool{}
		for _, c := range m.Columns {
			for _, f := range m.Meanings {
				on[f.ID] = on[f.ID] || f.Rng.Used() && f.Rng.Channel == c.Channel
			}
		}
		for _, f := range m.Meanings {
			if loose := slices.ContainsFunc(m.Loose, func(l Loose) bool { return l.Function == f.ID }); loose == on[f.ID] {
				t.Fatalf("%d: %s on a column %v, loose %v", n, f.ID, on[f.ID], loose)
			}
		}
	}
	for _, kind := range []string{"yes", "no", "byTurns", "mixed", "edge", "gap", "overlap", "missed"} {
		if seen[kind] < 20 {
			t.Errorf("%q was seen %d times: too little to mean something", kind, seen[kind])
		}
	}
}

// The map of one quad, whole: an arm switch at its edge, a mode switch with a meaning that it never reaches, a switch that was not
// captured, a channel that a mix alone drives, a meaning on a channel that nothing drives.
func TestMapOfOneQuad(t *testing.T) {
	var k quad.Known
	k.Radio.Switches = map[string]quad.SwitchPlan{
		"left":  {Channel: 5, Positions: []string{"safe", "armed"}, Rest: "safe", Lost: "safe"},
		"right": {Channel: 6, Positions: []string{"acro", "level"}, Rest: "level", Springs: true},
		"face":  {Channel: 7, Positions: []string{"quiet", "beeper"}},
	}
	k.Radio.Mixes = map[string]quad.MixPlan{"half": {From: 7, To: 9, Weight: 50, Alone: true}}
	k.Readings.Sticks.Switches = map[string]*quad.Reading[quad.SwitchSeen]{
		"left":  {Value: quad.SwitchSeen{Channel: 5, Positions: map[string]float64{"safe": 1000, "armed": 1893}}},
		"right": {Value: quad.SwitchSeen{Channel: 6, Positions: map[string]float64{"acro": 1000, "level": 2000}}},
	}
	k.Sheet.Sticks = quad.SticksSheet{
		Arm: quad.Range{Channel: 5, From: 1885, To: 2100}, SelfLevel: quad.Range{Channel: 6, From: 1700, To: 2100},
		Blended: quad.Range{Channel: 6, From: 1300, To: 1700}, Beeper: quad.Range{Channel: 12, From: 1700, To: 2100},
	}
	m := NewSwitchboard(k).Map(k, nil)
	var got strings.Builder
	for _, c := range m.Columns {
		fmt.Fprintf(&got, "%s %d captured %v springs %v shared %v\n", c.Name, c.Channel, c.Captured, c.Springs, c.Shared)
		for i, marks := range c.Marks {
			for _, mark := range marks {
				fmt.Fprintf(&got, "  %s: %s (%.2f to %.2f)\n", mark.Kind, mark.Words, mark.From, mark.To)
			}
			if i < len(c.Cells) {
				x := c.Cells[i]
				fmt.Fprintf(&got, "  %s %v: %s, rest %v lost %v, %s, nearer %s", x.Position, x.Low, x.Words, x.Rest, x.Lost, x.Hold, x.Nearer)
				for _, w := range []*ToEdge{x.Below, x.Above} {
					if w != nil {
						fmt.Fprintf(&got, ", %v %s", w.Us, w.Words)
					}
				}
				got.WriteString("\n")
			}
		}
	}
	fmt.Fprint(&got, m.Loose)
	want := `face 7 captured false springs false shared []
  quiet 1000: , rest false lost false, sure, nearer none
  beeper 2000: , rest false lost false, sure, nearer none
left 5 captured true springs false shared []
  safe 1000: safe, rest true lost true, sure, nearer above, 885 armed begins
  edge: armed begins at 1885 µs (0.99 to 0.99)
  armed 1893: armed, rest false lost false, edge, nearer below, 8 armed ends
right 6 captured true springs true shared []
  acro 1000: acro, rest false lost false, sure, nearer above, 300 blended begins
  missed: blended from 1300 to 1700 µs: no position reaches it (0.30 to 0.70)
  edge: self-level begins at 1700 µs (0.70 to 0.70)
  level 2000: self-level, rest true lost false, sure, nearer below, 300 self-level ends
channel 9, mixed 9 captured false springs false shared [half]
  face at quiet 1250: , rest false lost false, sure, nearer none
  face at beeper 1750: , rest false lost false, sure, nearer none
[{beeper on channel 12, which no switch drives} {authority }]`
	if got.String() != want {
		t.Errorf("got\n%s\nwant\n%s", got.String(), want)
	}
}

// What is done is said once for the two modes, the one that wins first, and for everything else as it is.
func TestDoes(t *testing.T) {
	s := quad.SticksSheet{
		Arm: quad.Range{Channel: 5, From: 1700, To: 2100}, SelfLevel: quad.Range{Channel: 5, From: 1800, To: 2100},
		Blended: quad.Range{Channel: 5, From: 1400, To: 1900}, Beeper: quad.Range{Channel: 5, From: 900, To: 1100},
	}
	for us, want := range map[float64]string{
		1000: "safe, acro, beeper", 1200: "safe, acro, quiet", 1500: "safe, blended, quiet", 1750: "armed, blended, quiet",
		1850: "armed, self-level, quiet", 2000: "armed, self-level, quiet",
	} {
		if got := Does(Functions(s), us); got != want {
			t.Errorf("%v µs: %q, wanted %q", us, got, want)
		}
	}
	if got := Does(nil, 1500); got != "" {
		t.Errorf("nothing looks at it: %q", got)
	}
}
