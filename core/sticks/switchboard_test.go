package sticks

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"vividperch/core/quad"
)

// drawn is a quad with switches, mixes and ranges at random, some of them on the same channels; its mixes never go round.
func drawn(r *rand.Rand) quad.Known {
	var k quad.Known
	k.Radio.Switches, k.Radio.Mixes = map[string]quad.SwitchPlan{}, map[string]quad.MixPlan{}
	for i := range 1 + r.IntN(5) {
		p := quad.SwitchPlan{Channel: 5 + r.IntN(6), Travel: []float64{0, 60, 100, 120}[r.IntN(4)]}
		for j := range 2 + r.IntN(2) {
			p.Positions = append(p.Positions, string(rune('a'+j)))
		}
		k.Radio.Switches[fmt.Sprintf("switch %d", i)] = p
	}
	for i := range r.IntN(5) {
		from, to := 5+r.IntN(6), 5+r.IntN(6)
		if from < to {
			k.Radio.Mixes[fmt.Sprintf("mix %d", r.IntN(100)+i*100)] = quad.MixPlan{From: from, To: to, Weight: float64(r.IntN(300) - 150), Alone: r.IntN(3) == 0}
		}
	}
	rng := func() quad.Range {
		from := 900 + float64(r.IntN(1100))
		return quad.Range{Channel: r.IntN(12), From: from, To: from + float64(r.IntN(500))}
	}
	k.Sheet.Sticks = quad.SticksSheet{Arm: rng(), SelfLevel: rng(), Blended: rng(), Beeper: rng(), Authority: rng(), AuthorityAlways: r.IntN(2) == 0}
	if s := &k.Sheet.Sticks; r.IntN(2) == 0 {
		s.Blended.Channel, s.Blended.From, s.Blended.To = s.SelfLevel.Channel, s.SelfLevel.From-200, s.SelfLevel.To+100
	}
	return k
}

// arrives computes a channel by its definition, recursively and without any order; NaN where nothing drives it.
func arrives(k quad.Known, c int, at map[string]string) float64 {
	own, driven := 1500.0, false
	for _, name := range quad.SortedKeys(k.Radio.Switches) {
		p := k.Radio.Switches[name]
		if p.Channel != c {
			continue
		}
		travel := p.Travel
		if travel == 0 {
			travel = 100
		}
		i, n := slices.Index(p.Positions, at[name]), len(p.Positions)
		own, driven = math.Round(1500+(2*float64(i)/float64(n-1)-1)*5*travel), true
	}
	sum := own - 1500
	for _, m := range k.Radio.Mixes {
		if m.To == c && m.Alone {
			sum = 0
		}
	}
	for _, m := range k.Radio.Mixes {
		if m.To == c {
			from := arrives(k, m.From, at)
			if math.IsNaN(from) {
				from = 1500
			}
			sum, driven = sum+m.Weight/100*(from-1500), true
		}
	}
	if !driven {
		return math.NaN()
	}
	return 1500 + sum
}

// every combination of all switches, by plain counting.
func every(k quad.Known, do func(map[string]string)) {
	names := quad.SortedKeys(k.Radio.Switches)
	total := 1
	for _, n := range names {
		total *= len(k.Radio.Switches[n].Positions)
	}
	for i := range total {
		at, rest := map[string]string{}, i
		for _, n := range names {
			list := k.Radio.Switches[n].Positions
			at[n], rest = list[rest%len(list)], rest/len(list)
		}
		do(at)
	}
}

// The analysis looks at those switches alone that have a say, and lists what flies; counting through all positions of all
// switches, with the channels worked out by their definition, must find the same pulses, no more and no fewer, and the same
// modes in each.
func TestAnalysisEqualsEnumeration(t *testing.T) {
	r := rand.New(rand.NewPCG(6, 3))
	armed, lost := 0, 0
	for n := range 400 {
		k := drawn(r)
		b := NewSwitchboard(k)
		if len(b.Loop) > 0 {
			t.Fatalf("%d: %v go round", n, b.Loop)
		}
		for _, f := range Functions(k.Sheet.Sticks) {
			want := map[string]bool{}
			every(k, func(at map[string]string) {
				if us := arrives(k, f.Rng.Channel, at); !math.IsNaN(us) {
					us = max(800, min(2200, us))
					want[fmt.Sprintf("%.6f %v", us, us >= f.Rng.From && us <= f.Rng.To)] = true
				}
			})
			got := map[string]bool{}
			for _, p := range b.Arrivals(f.Rng) {
				got[fmt.Sprintf("%.6f %v", p.Pulse, p.Inside)] = true
			}
			if fmt.Sprint(got) != fmt.Sprint(want) {
				t.Fatalf("%d, %s on channel %d: %v, by counting %v", n, f.ID, f.Rng.Channel, got, want)
			}
		}
		list, more := b.Combinations(k.Sheet.Sticks)
		if more {
			t.Fatalf("%d: too many", n)
		}
		seen := map[string]bool{}
		for _, c := range list {
			seen[fmt.Sprint(c.Armed, c.Flies, len(c.Over), len(c.Also))] = true
		}
		counted := map[string]bool{}
		every(k, func(at map[string]string) {
			in := func(g quad.Range) bool {
				us := arrives(k, g.Channel, at)
				us = max(800, min(2200, us))
				return g.Channel > 0 && us >= g.From && us <= g.To // a NaN is in none
			}
			s := k.Sheet.Sticks
			level, blend := in(s.SelfLevel), in(s.Blended)
			flies, over, also := Acro, 0, 0
			if blend {
				flies = Blended
			}
			if level {
				flies = SelfLevel
			}
			if level && blend {
				over, lost = 1, lost+1
			}
			if in(s.Beeper) {
				also++
			}
			if in(s.Authority) || s.AuthorityAlways {
				also++
			}
			if in(s.Arm) {
				armed++
			}
			counted[fmt.Sprint(in(s.Arm), flies, over, also)] = true
		})
		if fmt.Sprint(seen) != fmt.Sprint(counted) {
			t.Fatalf("%d: %v, by counting %v", n, seen, counted)
		}
	}
	if armed < 100 || lost < 20 {
		t.Errorf("only %d armed and %d with two modes: too little to mean something", armed, lost)
	}
}

// Mixes that go round are named, those that only lead there or away are not.
func TestMixesThatGoRound(t *testing.T) {
	for name, c := range map[string]struct {
		mixes map[string]quad.MixPlan
		want  []string
	}{
		"onto itself": {map[string]quad.MixPlan{"own": {From: 5, To: 5, Weight: 50}}, []string{"own"}},
		"two":         {map[string]quad.MixPlan{"there": {From: 5, To: 6}, "back": {From: 6, To: 5}, "into": {From: 8, To: 5}, "away": {From: 6, To: 9}}, []string{"back", "there"}},
		"a line":      {map[string]quad.MixPlan{"a": {From: 5, To: 6}, "b": {From: 6, To: 7}}, nil},
		"unused":      {map[string]quad.MixPlan{"a": {From: 0, To: 0}}, nil},
	} {
		var k quad.Known
		k.Radio.Mixes = c.mixes
		k.Radio.Switches = map[string]quad.SwitchPlan{"s": {Channel: 5, Positions: []string{"a", "b"}}}
		if got := NewSwitchboard(k).Loop; !slices.Equal(got, c.want) {
			t.Errorf("%s: %v, wanted %v", name, got, c.want)
		}
	}
}

// A range proposed around what should be inside: it holds all of that and nothing of the rest, each by at least half the gap
// between the nearest two, less the rounding.
func TestProposedRangesFit(t *testing.T) {
	r := rand.New(rand.NewPCG(6, 4))
	for range 2000 {
		var inside, outside []float64
		split := 1100 + float64(r.IntN(800))
		for range 1 + r.IntN(3) {
			inside = append(inside, split+20+float64(r.IntN(int(2180-split-20))))
		}
		for range 1 + r.IntN(3) {
			outside = append(outside, split-20-float64(r.IntN(int(split-20-850))))
		}
		if r.IntN(2) == 0 {
			inside, outside = outside, inside
		}
		got := CentredRange(5, inside, outside)
		gap := math.Inf(1)
		for _, a := range inside {
			for _, b := range outside {
				gap = min(gap, math.Abs(a-b))
			}
		}
		for _, us := range inside {
			if us >= 900 && us <= 2100 && (!got.Holds(us) || Margin(got, us) < gap/2-3) {
				t.Fatalf("%v does not hold %v surely; inside %v, outside %v", got, us, inside, outside)
			}
		}
		for _, us := range outside {
			if got.Holds(us) || math.Abs(Margin(got, us)) < gap/2-3 {
				t.Fatalf("%v holds %v; inside %v, outside %v", got, us, inside, outside)
			}
		}
	}
}

// Every pulse is either in some range or in a gap, looked at microsecond by microsecond; gaps come in order and are not empty.
func TestGapsAreWhatNoRangeHolds(t *testing.T) {
	r := rand.New(rand.NewPCG(6, 7))
	for range 500 {
		var ranges []quad.Range
		for range r.IntN(5) {
			from := 850 + float64(r.IntN(1200))
			ranges = append(ranges, quad.Range{Channel: 5, From: from, To: from + float64(r.IntN(500)) - 20})
		}
		gaps := Gaps(ranges)
		for i, g := range gaps {
			if g.From >= g.To || i > 0 && g.From < gaps[i-1].To {
				t.Fatalf("%v: gaps %v", ranges, gaps)
			}
		}
		for us := 900.5; us < 2100; us++ {
			held := slices.ContainsFunc(ranges, func(x quad.Range) bool { return x.Holds(us) })
			open := slices.ContainsFunc(gaps, func(g Gap) bool { return us > g.From && us < g.To })
			if held == open {
				t.Fatalf("%v at %v µs: in a range %v, in a gap %v of %v", ranges, us, held, open, gaps)
			}
		}
	}
}
