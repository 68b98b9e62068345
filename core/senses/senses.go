// Package senses knows what level, gyro and height errors cost.
package senses

import "math"

// LevelTolerance of the level plate, deg.
const LevelTolerance = 0.5

// LeanMost is the error of a level, or the lean that a stick off its centre asks for, from which on a quad may tip over before it has
// left its feet, deg: what the flight model showed of none at 3 deg, of one in a hundred at 4, of half of all at 8.
const LeanMost = 3.0

// LeanSurely is from where on it does, whoever flies it, deg.
const LeanSurely = 11.0

// TurnedFrom is the level error that no calibration makes: the board lies otherwise than it was told, deg.
const TurnedFrom = 15.0

// A board that lies otherwise than it was told, by the angle between the two: TurnedNote is what an eye at its mount may miss, from
// TurnedMost on it may tip over, deg. In the flight model all is well at 30 deg, and a third of all ends badly at 45.
const (
	TurnedNote = 5.0
	TurnedMost = 20.0
	// TurnedShows is from where on every flight of the model shows it.
	TurnedShows = 60.0
)

// GyroTolerance is the rotation a gyro may show at rest, deg/s.
const GyroTolerance = 1.0

// What a hold and a return need of the senses that they lean on.
const (
	// HeadingTolerance of a heading against a known direction, deg.
	HeadingTolerance = 5.0
	// ResidualMost of a compass's samples off their sphere, as a share of the field, and CoveredLeast of all directions seen.
	ResidualMost = 0.04
	CoveredLeast = 0.8
	// DisturbsMost is the share of the field along the ground that the motors may add in hover: in the worst direction the arcsine of it, under 5°.
	DisturbsMost = 0.08
	// Height at rest: one sigma, drift in five minutes, jump at spin-up, m.
	HeightNoiseMost = 0.5
	HeightDriftMost = 3.0
	HeightJumpMost  = 1.5
	// DilutionMost with which the flight model lands quietly: at 4 one of a hundred skids about on the ground and does not notice that it has landed.
	DilutionMost = 3.0
	// Solves is how many satellites give a position at all.
	Solves = 4
)

// Drift is the sideways acceleration (m/s²) that a level error (deg) costs while hovering: g tan(error).
func Drift(errorDeg, gravity float64) float64 { return gravity * math.Tan(errorDeg*math.Pi/180) }

// Tilt is the whole angle of a roll and a pitch error, deg.
func Tilt(roll, pitch float64) float64 {
	r, p := roll*math.Pi/180, pitch*math.Pi/180
	return math.Acos(math.Cos(r)*math.Cos(p)) * 180 / math.Pi
}
