package feel

import (
	"math"

	"vividperch/core/quad"
)

// SharesLeast and SharesFew are at how many times its gains a rate loop may begin to oscillate: under the first it does as it is, but for what the arithmetic of small movements
// leaves open; under the second a fuller pack, a colder day or a punch is enough.
const (
	SharesLeast = 1.05
	SharesFew   = 1.5
)

// Oscillates says that a loop does as it is.
func (m Margin) Oscillates() bool { return m.Share > 0 && m.Share < SharesLeast }

// Few says that it has too little in hand, or nothing.
func (m Margin) Few() bool { return m.Share > 0 && m.Share < SharesFew }

// FiltersMost is how much of the phase the filters may take where the loop's gain falls through one, deg. Where less than PhaseLeast is left there, FiltersFew of it are too much already.
const (
	FiltersMost = 30.0
	PhaseLeast  = 35.0
	FiltersFew  = 10.0
)

// Slow says whether the filters take more of a loop's phase than it can spare.
func (m Margin) Slow() bool {
	return m.Filters > FiltersMost || m.Filters > FiltersFew && m.Phase < PhaseLeast
}

// FollowsIdle says whether notches that follow down to some Hz follow rotors that idle at some Hz; within a tenth nothing is missed. Where nobody told the lowest, that is left to the firmware.
func FollowsIdle(least, idle float64) bool { return least <= 1.1*idle || least == 0 }

// NoticedStep is the least change of rotation, deg/s, that a hand notices as a step of its own.
const NoticedStep = 3.0

// StepOf a curve about its centre, deg/s: what the least move that radio and link tell apart, or that a stick makes by itself, asks for. least in µs, of the 500 from the centre to an end.
func StepOf(family quad.RateFamily, r quad.Rates, least float64) float64 {
	return Slope(family, r) / 500 * least
}

// FastestTurn is the rotation (deg/s) that an axis reaches within half a turn, with all that the mixer can give it: w² = 2 α π. What a stick asks for beyond it comes too late to be
// flown. authority in rad/s² for a whole step of duty, idle as a share.
func FastestTurn(authority, idle float64) float64 {
	return math.Sqrt(2*math.Pi*authority*(1-idle)/2) * 180 / math.Pi
}
