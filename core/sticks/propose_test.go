package sticks

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"vividperch/core/quad"
)

// Whatever switches there are, what is proposed for them arms in one position of one switch and never at its rest, levels at the
// end that the pilot wants, flies acro somewhere and corrects at idle there and only there; no position is near an edge.
func TestProposalsHoldTheirPromise(t *testing.T) {
	r := rand.New(rand.NewPCG(6, 5))
	made := 0
	for n := range 2000 {
		var k quad.Known
		k.Radio.Switches = map[string]quad.SwitchPlan{}
		for i := range 2 + r.IntN(4) {
			p := quad.SwitchPlan{Channel: 5 + i, Springs: r.IntN(6) == 0}
			for j := range 2 + r.IntN(2) {
				p.Positions = append(p.Positions, string(rune('a'+j)))
			}
			p.Rest = p.Positions[r.IntN(len(p.Positions))]
			k.Radio.Switches[fmt.Sprintf("switch %d", r.IntN(90)*10+i)] = p
		}
		taste := Taste{LevelAtTop: r.IntN(2) == 0, Blended: r.IntN(2) == 0}
		got, err := Propose(k, taste)
		if err != nil {
			stays := 0
			for _, p := range k.Radio.Switches {
				if !p.Springs {
					stays++
				}
			}
			if stays >= 2 {
				t.Fatalf("%d: %v for %+v", n, err, k.Radio.Switches)
			}
			continue
		}
		made++
		m := quad.Meant{Radio: k.Radio}
		for _, e := range got.Edits {
			if err := quad.Set(&m, e.Path, e.Value); err != nil {
				t.Fatal(err)
			}
		}
		k.Sheet = m.Sheet
		b := NewSwitchboard(k)
		arms := map[string]bool{}
		modes := map[Mode]bool{}
		list, _ := b.Combinations(k.Sheet.Sticks)
		for _, c := range list {
			firm := slices.Contains(c.Also, "authority at idle")
			if modes[c.Flies] = true; len(c.Over) > 0 || (c.Flies == Acro) != firm {
				t.Fatalf("%d: %+v", n, c)
			}
			for name, at := range c.At {
				p := k.Radio.Switches[name]
				if c.Armed && p.Channel == k.Sheet.Sticks.Arm.Channel {
					if arms[at] = true; at == p.Rest || p.Springs {
						t.Fatalf("%d: armed at rest, or by a switch that springs: %+v", n, c)
					}
				}
				if c.Flies == SelfLevel && p.Channel == k.Sheet.Sticks.SelfLevel.Channel {
					want := p.Positions[0]
					if taste.LevelAtTop {
						want = p.Positions[len(p.Positions)-1]
					}
					if at != want {
						t.Fatalf("%d: levels at %s of %v, wanted %s", n, at, p.Positions, want)
					}
				}
			}
		}
		if len(arms) != 1 || !modes[SelfLevel] || !modes[Acro] {
			t.Fatalf("%d: arms at %v, flies %v: %v", n, arms, modes, got.Words)
		}
		for _, f := range Functions(k.Sheet.Sticks) {
			for _, p := range b.Arrivals(f.Rng) {
				if HoldOf(p.Margin) != Sure {
					t.Fatalf("%d: %s, %v µs from its edge", n, f.ID, p.Margin)
				}
			}
		}
	}
	if made < 1000 {
		t.Errorf("only %d were proposed", made)
	}
}

func TestProposalNeedsItsSwitches(t *testing.T) {
	two := map[string]quad.SwitchPlan{"a": {Channel: 5, Positions: []string{"off", "on"}, Rest: "off"}, "b": {Channel: 5, Positions: []string{"off", "on"}, Rest: "off"}}
	for name, k := range map[string]quad.Known{
		"nothing": {}, "both on one channel": {Radio: quad.RadioPlan{Switches: two}},
		"a loop": {Radio: quad.RadioPlan{Mixes: map[string]quad.MixPlan{"m": {From: 5, To: 5}}}},
	} {
		if p, err := Propose(k, Taste{}); quad.AsFault(err) == nil {
			t.Errorf("%s: %+v, %v", name, p, err)
		}
	}
}

// A meaning put on a position holds there and at no other position of that switch, surely; what cannot be is told with its place.
func TestMeaningsOnPositions(t *testing.T) {
	var k quad.Known
	k.Radio.Switches = map[string]quad.SwitchPlan{"three": {Channel: 6, Positions: []string{"a", "b", "c"}}, "two": {Channel: 7, Positions: []string{"a", "b"}}, "shared": {Channel: 7, Positions: []string{"a", "b"}}}
	for _, f := range everyFunction(k.Sheet.Sticks) {
		for _, position := range []string{"a", "b", "c"} {
			e, err := Assign(k, f.ID, "three", []string{position})
			if err != nil {
				t.Fatal(err)
			}
			m := quad.Meant{}
			if err := quad.Set(&m, e.Path, e.Value); err != nil {
				t.Fatal(err)
			}
			got := Functions(m.Sheet.Sticks)
			if len(got) != 1 || got[0].ID != f.ID {
				t.Fatalf("%s: %+v", f.ID, got)
			}
			for _, p := range NewSwitchboard(k).Arrivals(got[0].Rng) {
				if p.Inside != (p.At["three"] == position) || HoldOf(p.Margin) != Sure {
					t.Errorf("%s on %s: %+v", f.ID, position, p)
				}
			}
		}
	}
	for _, c := range [][4]string{{"dance", "three", "a", "no-function"}, {"arm", "four", "a", "no-switch"}, {"arm", "three", "d", "no-position"}, {"arm", "two", "a", "not-alone"}} {
		if _, err := Assign(k, FunctionID(c[0]), c[1], []string{c[2]}); quad.AsFault(err) == nil || quad.AsFault(err).Code != c[3] {
			t.Errorf("%v: %v", c, err)
		}
	}
}

// A meaning can hold several positions that lie together, and none at all.
func TestMeaningsOnSeveralPositions(t *testing.T) {
	var k quad.Known
	k.Radio.Switches = map[string]quad.SwitchPlan{"three": {Channel: 6, Positions: []string{"a", "b", "c"}}}
	for _, c := range []struct {
		positions []string
		want      string
	}{
		{[]string{"a", "b"}, `{"channel":6,"from":900,"to":1750}`},
		{[]string{"c", "b"}, `{"channel":6,"from":1250,"to":2100}`},
		{[]string{"a", "b", "c"}, `{"channel":6,"from":900,"to":2100}`},
		{nil, `{"channel":0,"from":0,"to":0}`},
		{[]string{"a", "c"}, "not-together"},
	} {
		e, err := Assign(k, LevelSelf, "three", c.positions)
		got := string(e.Value)
		if f := quad.AsFault(err); f != nil {
			got = f.Code
		}
		if got != c.want {
			t.Errorf("%v: %s, wanted %s", c.positions, got, c.want)
		}
	}
}

// What a plan changes is said with what was before; what it leaves as it is, is not.
func TestProposalSaysWhatItChanges(t *testing.T) {
	var k quad.Known
	k.Radio.Switches = map[string]quad.SwitchPlan{
		"left": {Channel: 5, Positions: []string{"safe", "armed"}, Rest: "safe"}, "right": {Channel: 6, Positions: []string{"acro", "level"}, Rest: "level"},
	}
	k.Sheet.Sticks = quad.SticksSheet{Arm: quad.Range{Channel: 5, From: 1885, To: 2100}, SelfLevel: quad.Range{Channel: 6, From: 1500, To: 2100}, AuthorityAlways: true}
	p, err := Propose(k, Taste{LevelAtTop: true})
	want := []string{
		"armed: channel 5, 1885 to 2100 µs, then channel 5, 1750 to 2100 µs",
		"authority at idle: on no switch, then channel 6, 900 to 1500 µs",
		"authority at idle no longer in every position",
	}
	if err != nil || !slices.Equal(p.Changes, want) {
		t.Errorf("%q, %v", p.Changes, err)
	}
}
