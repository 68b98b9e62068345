package sticks

import (
	"cmp"
	"math"
	"slices"

	"vividperch/core/quad"
)

// Hold is how surely a switch position is on its side of a range's edges.
type Hold string

const (
	Sure Hold = "sure"
	Near Hold = "near" // under EdgeMargin
	Edge Hold = "edge" // under EdgeStop
)

// HoldOf a margin in µs; the sign does not matter.
func HoldOf(margin float64) Hold {
	switch m := math.Abs(margin); {
	case m < EdgeStop:
		return Edge
	case m < EdgeMargin:
		return Near
	}
	return Sure
}

// Position is one switch position against one range.
type Position struct {
	Switch   string  `json:"switch"`
	Position string  `json:"position"`
	Pulse    float64 `json:"pulse" unit:"µs"`
	Inside   bool    `json:"inside"`
	Margin   float64 `json:"margin" unit:"µs"` // to the nearest edge of the range, negative outside
}

// Against lists every captured position of the switches on the range's channel, in the order of their
// pulse, with its distance to the range's nearest edge.
func Against(r quad.Range, switches map[string]quad.SwitchSeen) []Position {
	var out []Position
	for _, name := range quad.SortedKeys(switches) {
		s := switches[name]
		if s.Channel != r.Channel {
			continue
		}
		for _, pos := range quad.SortedKeys(s.Positions) {
			us := s.Positions[pos]
			out = append(out, Position{Switch: name, Position: pos, Pulse: us, Inside: r.Holds(us), Margin: Margin(r, us)})
		}
	}
	slices.SortStableFunc(out, func(a, b Position) int {
		switch {
		case a.Pulse < b.Pulse:
			return -1
		case a.Pulse > b.Pulse:
			return 1
		}
		return 0
	})
	return out
}

// CentredRange proposes a range around the pulses that should be inside: halfway to the nearest position
// that should be outside, out to the end of travel where there is none.
func CentredRange(channel int, inside, outside []float64) quad.Range {
	low, high := slices.Min(inside), slices.Max(inside)
	from, to := 900.0, 2100.0
	for _, o := range outside {
		if o < low {
			from = math.Max(from, (o+low)/2)
		}
		if o > high {
			to = math.Min(to, (o+high)/2)
		}
	}
	return quad.Range{Channel: channel, From: math.Round(from/5) * 5, To: math.Round(to/5) * 5}
}

// ArmRange proposes a range for arming, as [CentredRange] does, that keeps clear of the middle as well: a channel that nobody drives, or
// that is missing, sends that. ok is false where a position that should arm lies too near it.
func ArmRange(channel int, inside, outside []float64) (r quad.Range, ok bool) {
	r = CentredRange(channel, inside, append(slices.Clone(outside), Centre))
	ok = !slices.ContainsFunc(inside, func(us float64) bool { return !r.Holds(us) || HoldOf(Margin(r, us)) != Sure })
	return r, ok && math.Abs(Margin(r, Centre)) >= EdgeMargin && !r.Holds(Centre)
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
