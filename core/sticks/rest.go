package sticks

import (
	"vividperch/core/quad"
)

// Rest is where the throttle counts as at rest, µs, both ends included.
type Rest struct{ From, To float64 }

// RestOf a sheet: up to its limit, or, with reversible thrust, as far on both sides of the middle as that is above the low end.
func RestOf(s quad.SticksSheet, reversible bool) Rest {
	if reversible {
		by := s.IdleBelow - Low
		return Rest{Centre - by, Centre + by}
	}
	return Rest{0, s.IdleBelow}
}

// RestWords say where the throttle is put to rest, as a sentence about it goes on.
func RestWords(reversible bool) string {
	if reversible {
		return "in its middle"
	}
	return "all the way down"
}

// RestPlace is where a hand puts the throttle to rest, -1 at its low end to 1.
func RestPlace(reversible bool) float64 {
	if reversible {
		return 0 // its low end is full thrust downward
	}
	return -1
}

// Holds says whether a throttle that arrives counts as at rest.
func (r Rest) Holds(us float64) bool { return us >= r.From && us <= r.To }

// Words of where it rests.
func (r Rest) Words() string {
	if r.From > 0 {
		return quad.Number(r.From) + " to " + quad.Quantity(r.To, "µs")
	}
	return "up to " + quad.Quantity(r.To, "µs")
}
