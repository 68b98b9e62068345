package flight

import (
	"math"

	"vividperch/core/sticks"
)

// gesture is arming by stick: throttle at rest and yaw held to the right begins a calibration of the gyro, which must not be moved
// meanwhile; then it is armed. Yaw held to the left, at rest, disarms.
type gesture struct {
	held        float64 // s that yaw has been held to a side
	calibrating float64 // s that are left of the calibration
	failed      bool    // it was moved; the stick must be let go before the next one
	armed       bool
}

const (
	gestureTime     = 1.0  // s
	calibrationTime = 1.5  // s
	atItsEnd        = 0.9  // of the yaw stick
	movedBy         = 10.0 // deg/s that a calibration does not take
)

// follow the sticks for a step of h seconds; it decides cmd.arm besides an arm switch.
func (g *gesture) follow(cmd *command, rates [3]float64, h float64) {
	switch {
	case !cmd.rest || math.Abs(cmd.yaw) < atItsEnd:
		g.held, g.failed = 0, g.failed && cmd.rest && cmd.yaw >= atItsEnd
	case cmd.yaw < 0:
		if g.held = min(g.held, 0) - h; g.held <= -gestureTime {
			*g = gesture{held: g.held}
		}
	default:
		g.held = max(g.held, 0) + h
	}
	if g.held >= gestureTime && !g.armed && !g.failed && g.calibrating == 0 {
		g.calibrating = calibrationTime
	}
	if g.calibrating > 0 {
		for _, w := range rates {
			g.failed = g.failed || math.Abs(w)*degrees > movedBy
		}
		if g.calibrating -= h; g.failed {
			g.calibrating = 0
		} else if g.calibrating <= 0 {
			g.calibrating, g.armed = 0, true
		}
	}
	cmd.arm = cmd.arm || g.armed
}

// Calibration of the gyro that a gesture began: nothing, sticks.CalibrationRuns or sticks.CalibrationFailed.
func (s *Stepper) Calibration() string {
	switch g := s.control.gesture; {
	case g.calibrating > 0:
		return sticks.CalibrationRuns
	case g.failed:
		return sticks.CalibrationFailed
	}
	return ""
}
