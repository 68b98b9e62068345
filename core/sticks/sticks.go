// Package sticks knows channel order, stick ends, what each switch position means and what keeps a quad
// from arming.
package sticks

import (
	"math"

	"vividperch/core/quad"
)

// Expected ends of a stick in µs.
const (
	Low, Centre, High = 1000.0, 1500.0, 2000.0
	// EndTolerance is how far an end may be off before travel is lost that the pilot would miss, µs.
	EndTolerance = 12.0
	// CentreTolerance is how far a centre may be off, µs.
	CentreTolerance = 4.0
	// EdgeMargin is how far a switch position should lie inside its range, µs.
	EdgeMargin = 50.0
	// EdgeStop is the margin at which a position counts as on the edge: a warm radio moves by as much, µs.
	EdgeStop = 15.0
)

// Through maps a pulse piecewise linearly: the low end to 1000 µs, the centre to 1500, the high end to 2000.
// Ends that are not in order map nothing.
func Through(e quad.Ends, us float64) float64 {
	if !(e.Low < e.Centre && e.Centre < e.High) {
		return us
	}
	if us < e.Centre {
		return Centre + (us-e.Centre)*(Centre-Low)/(e.Centre-e.Low)
	}
	return Centre + (us-e.Centre)*(High-Centre)/(e.High-e.Centre)
}

// Mapped is what the board makes of captured ends through a range.
func Mapped(rng, e quad.Ends) quad.Ends {
	return quad.Ends{Low: Through(rng, e.Low), Centre: Through(rng, e.Centre), High: Through(rng, e.High)}
}

// Lost is the share of a stick's steps that are missing when it travels between these ends only, and a range
// mapping stretches them: 0.12 means that an eighth of its resolution is gone.
func Lost(e quad.Ends) float64 { return math.Max(0, 1-(e.High-e.Low)/(High-Low)) }

// DeadbandFor is the dead band (whole µs) that hides a jitter of one sigma.
func DeadbandFor(jitter float64) float64 { return math.Ceil(3 * jitter) }

// Reaches says whether both ends of a stick come close enough to what the board expects.
func Reaches(e quad.Ends) bool {
	return math.Abs(e.Low-Low) <= EndTolerance && math.Abs(e.High-High) <= EndTolerance
}

// FarBeyond says whether a stick runs so far beyond what the board expects that it answers much more than it is asked.
func FarBeyond(e quad.Ends) bool { return e.Low < Low-farBeyond || e.High > High+farBeyond }

// farBeyond the ends, µs: three tenths of a stick's way. Ends a quarter beyond fly well in the model; half beyond tips it over.
const farBeyond = 150.0

// Map turns a pulse into -1..1 the way the board does, between 1000, 1500 and 2000 µs, with a dead band (µs
// each side of the centre).
func Map(us, deadband float64) float64 {
	d := us - Centre
	if math.Abs(d) <= deadband {
		return 0
	}
	d -= math.Copysign(deadband, d)
	return max(-1, min(1, d/(High-Centre-deadband)))
}

// MapThrottle turns a pulse into 0..1.
func MapThrottle(us float64) float64 { return max(0, min(1, (us-Low)/(High-Low))) }
