package sticks

import (
	"cmp"
	"slices"

	"vividperch/core/quad"
)

// Strip is one channel of the switch map: what arrives on it, by what, and what the board does there.
type Strip struct {
	Channel   int        `json:"channel"`
	Switches  []string   `json:"switches"` // that drive it by themselves
	Mixes     []string   `json:"mixes"`
	Places    []Place    `json:"places"`
	Functions []Function `json:"functions"`
	Captured  bool       `json:"captured"` // as measured, not as planned
	Gaps      []Gap      `json:"gaps"`     // in which nothing is on
}

// Gap of a channel, µs, ends excluded.
type Gap struct {
	From float64 `json:"from" unit:"µs"`
	To   float64 `json:"to" unit:"µs"`
}

// Gaps between 900 and 2100 µs that none of some ranges holds.
func Gaps(ranges []quad.Range) []Gap {
	sorted := slices.SortedFunc(slices.Values(ranges), func(a, b quad.Range) int { return cmp.Compare(a.From, b.From) })
	out, at := []Gap{}, 900.0
	for _, r := range sorted {
		if r.From > r.To {
			continue // holds nothing; a rule of its own says so
		}
		if r.From > at {
			out = append(out, Gap{at, min(r.From, 2100)})
		}
		at = max(at, r.To)
	}
	if at < 2100 {
		out = append(out, Gap{at, 2100})
	}
	return out
}

// Strips of all channels that a switch drives or a function looks at, by channel.
func (b Switchboard) Strips(k quad.Known) []Strip {
	functions := Functions(k.Sheet.Sticks)
	channels := map[int]bool{}
	for _, f := range functions {
		channels[f.Rng.Channel] = true
	}
	for _, name := range b.order {
		channels[b.switches[name].Channel] = true
	}
	for _, m := range b.mixes {
		channels[m.To] = channels[m.To] || m.To > 4
	}
	captured := Captured(k)
	out := []Strip{}
	for c := 1; c <= 18; c++ {
		if !channels[c] {
			continue
		}
		s := Strip{Channel: c, Places: b.Places(quad.Range{Channel: c, From: 900, To: 2100}), Functions: []Function{}, Captured: true}
		s.Switches, s.Mixes = b.Onto(c)
		for _, name := range b.Drivers(c) {
			_, seen := captured[name]
			s.Captured = s.Captured && seen
		}
		var ranges []quad.Range
		for _, f := range functions {
			if f.Rng.Channel == c {
				s.Functions, ranges = append(s.Functions, f), append(ranges, f.Rng)
			}
		}
		s.Gaps = Gaps(ranges)
		if s.Switches == nil {
			s.Switches = []string{}
		}
		if s.Mixes == nil {
			s.Mixes = []string{}
		}
		if s.Places == nil {
			s.Places = []Place{}
		}
		out = append(out, s)
	}
	return out
}
