// Package motors knows what each output should drive, how to correct one that does not, and how throttle
// gets from the board to the speed controllers.
package motors

import (
	"math"

	"vividperch/core/quad"
)

// FrameTime is how long one digital throttle frame takes, in µs, at a bit rate in kbit/s: 16 bits, and with
// two-way throttle a 30 µs turn-around and 21 bits of reply at 5/4 of the rate.
func FrameTime(bitRate float64, twoWay bool) float64 {
	t := 16 / bitRate * 1000
	if twoWay {
		t += 30 + 21/(bitRate*5/4)*1000
	}
	return t
}

// LoopRoom is what a control loop at a rate in Hz leaves for a throttle frame, in µs: four fifths of its
// period.
func LoopRoom(loopRate float64) float64 { return 0.8 * 1e6 / loopRate }

// FastestLoop is the highest of the usual loop rates (Hz) that a frame of this many µs fits, or 0.
func FastestLoop(frame float64) float64 {
	for _, rate := range []float64{8000, 4000, 2000, 1000} {
		if frame <= LoopRoom(rate) {
			return rate
		}
	}
	return 0
}

// PulseLoop is the highest loop rate (Hz) that an analog throttle protocol keeps up with.
func PulseLoop(p quad.ThrottleProtocol) float64 {
	if p == quad.ProtocolPulse {
		return 400
	}
	return 3000
}

// SignalPeriod is how often (s) a throttle protocol can carry a new value; 0 is as often as the loop asks.
func SignalPeriod(p quad.ThrottleProtocol) float64 {
	if p == quad.ProtocolPulse {
		return 1.0 / 400
	}
	return 0
}

// SignalSteps is how many values a throttle protocol has from nothing to full, or 0 for one that is not known: pulses are
// timed to a microsecond, or to an eighth of one, and a digital frame has eleven bits of which 48 values are commands.
func SignalSteps(p quad.ThrottleProtocol) float64 {
	switch p {
	case quad.ProtocolPulse, quad.ProtocolShort:
		return 1000
	case quad.ProtocolDigital:
		return 2000
	}
	return 0
}

// PoleError is the share by which shown rotation is wrong: 0.167 means 16.7 % high.
func PoleError(set, real int) float64 { return float64(real)/float64(set) - 1 }

// IdleMargin is kept above the throttle at which every motor starts, in per cent of range.
const IdleMargin = 1.5

// Mix is how much roll, pitch and yaw command each corner takes, in the order of quad.Corners: a command of
// one adds this share. Positive roll lowers the right side, positive pitch raises the nose, positive yaw
// turns clockwise from above.
func Mix(layout quad.Layout, rotation quad.Rotation) (roll, pitch, yaw [4]float64) {
	side := [4]float64{-1, 1, -1, 1}
	ahead := [4]float64{1, 1, -1, -1}
	if layout == quad.LayoutPlus {
		side, ahead = [4]float64{0, 1, -1, 0}, [4]float64{1, 0, 0, -1}
	}
	for i, c := range quad.Corners {
		roll[i], pitch[i] = -side[i], ahead[i]
		// A rotor's reaction turns the frame against the rotor.
		yaw[i] = 1
		if rotation.Wants(c) == quad.Clockwise {
			yaw[i] = -1
		}
	}
	return roll, pitch, yaw
}

// Effect is the thrust direction and reaction of one rotor as the sign table has them.
type Effect struct {
	PushesUp    bool
	YawAsWanted bool
}

// EffectOf compares how a rotor turns and what hand its propeller has with what the plan wants. A propeller
// pushes down air, and so the quad up, when it turns the way of its hand.
func EffectOf(want, spin, hand quad.Spin) Effect {
	return Effect{PushesUp: spin == hand, YawAsWanted: spin == want}
}

// Problem with one output.
type Problem struct {
	Output string
	Meant  quad.Corner // where the sheet says it is
	Corner quad.Corner // where it was seen
	Spin   quad.Spin   // as seen
	Want   quad.Spin   // at the corner where it was seen
	Place  bool        // it drives another corner than the sheet says
	Turn   bool        // it turns against the plan
}

// Runaway is how far (m) a quad gets that tips and runs at full tilt with a throttle that gives the
// thrust-to-weight ratio, until a startled hand cuts after the reaction time (s), and then falls: ahead
// acceleration of sqrt(ratio² - 1) g while it holds height, ballistic from there. Never under 3 m.
func Runaway(ratio, reaction, gravity, height float64) float64 {
	if ratio <= 1 {
		return 3
	}
	ahead := gravity * math.Sqrt(ratio*ratio-1)
	speed := ahead * reaction
	far := speed*reaction/2 + speed*math.Sqrt(2*height/gravity)
	return math.Max(3, far)
}
