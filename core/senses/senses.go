// Package senses knows what level, gyro and height errors cost.
package senses

import "math"

// LevelTolerance of the level plate, deg.
const LevelTolerance = 0.5

// GyroTolerance is the rotation a gyro may show at rest, deg/s.
const GyroTolerance = 1.0

// Drift is the sideways acceleration (m/s²) that a level error (deg) costs while hovering: g tan(error).
func Drift(errorDeg, gravity float64) float64 { return gravity * math.Tan(errorDeg*math.Pi/180) }

// Tilt is the whole angle of a roll and a pitch error, deg.
func Tilt(roll, pitch float64) float64 {
	r, p := roll*math.Pi/180, pitch*math.Pi/180
	return math.Acos(math.Cos(r)*math.Cos(p)) * 180 / math.Pi
}

// Shim is the thickness (mm) to put under one side of a plate of some width (mm) that leans by deg.
func Shim(deg, width float64) float64 { return width * math.Tan(deg*math.Pi/180) }
