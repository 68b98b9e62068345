// Package linkloss knows what happens when the radio goes quiet: what the receiver puts out, when the
// controller notices, and what it does then.
package linkloss

import (
	"math"

	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// Guard time limits in seconds: shorter cuts a flight over a moment's fade, longer flies on blind.
const (
	GuardMin = 0.3
	GuardMax = 1.5
)

// Stop is how long after the guard time a dropped motor may take to stand still, s.
const Stop = 1.0

// A descent at a fixed throttle: slower than SinksAtLeast any gust keeps it up, faster than LandsHard it breaks what it lands on, m/s.
const (
	SinksAtLeast = 1.0
	LandsHard    = 4.0
)

// Notices says whether the controller can notice a loss at all: only silence ends its frames.
func Notices(out quad.LossOutput) bool { return out == quad.LossSilence }

// Presets that a receiver puts out without a radio, µs by channel, as they leave its maker: sticks in the middle, the throttle at its low
// end, every switch where the radio plan has it when the radio is gone, or at rest.
func Presets(k quad.Known) (out quad.Pulses) {
	for i := range out {
		out[i] = 1500
	}
	if c := quad.ChannelIn(k.Radio.Order, quad.Throttle); c >= 1 && c <= len(out) {
		out[c-1] = 1000
	}
	for _, name := range quad.SortedKeys(k.Radio.Switches) {
		s := k.Radio.Switches[name]
		if s.Channel < 1 || s.Channel > len(out) {
			continue
		}
		at := s.Lost
		if at == "" {
			at = s.Rest
		}
		if seen := k.Readings.Sticks.Switches[name]; seen != nil && seen.Value.Positions[at] > 0 {
			out[s.Channel-1] = seen.Value.Positions[at]
		} else if us, planned := sticks.Planned(s).Positions[at]; planned && len(s.Positions) > 1 {
			out[s.Channel-1] = us
		}
	}
	return out
}

// Disarms says whether what the receiver puts out without a radio is told to take the arm switch off, which stops the motors like a hand
// would. Presets that nobody told disarm nothing.
func Disarms(k quad.Known) bool {
	arm := k.Sheet.Sticks.Arm
	presets := Presets(k)
	if !arm.Used() || arm.Channel > len(presets) || arm.Holds(presets[arm.Channel-1]) {
		return false
	}
	told := false
	for _, s := range k.Radio.Switches {
		if s.Channel == arm.Channel && s.Lost == "" {
			return false
		}
		told = told || s.Channel == arm.Channel
	}
	return told
}

// Stage is one span of the time after a loss.
type Stage struct {
	From      float64 `json:"from" unit:"s"`
	To        float64 `json:"to" unit:"s"` // 0 when it does not end
	Part      string  `json:"part"`        // receiver, controller, motors
	Sentence  string  `json:"sentence"`
	Dangerous bool    `json:"dangerous"`
}

// Stages tells what each part believes and does from the moment the radio is gone, when the receiver puts that out.
func Stages(out quad.LossOutput, k quad.Known) []Stage {
	s := k.Sheet.Loss
	switch {
	case out == quad.LossPreset && Disarms(k):
		return []Stage{
			{Part: "receiver", Sentence: "sends its preset as valid frames, the arm switch off"},
			{Part: "controller", Sentence: "takes that for your hand and disarms: what is set for a loss never comes", Dangerous: s.Policy != quad.PolicyDrop},
			{Part: "motors", Sentence: "stop at once"},
		}
	case out == quad.LossPreset:
		throttle := "go to the throttle of the preset"
		if c := quad.ChannelIn(k.Radio.Order, quad.Throttle); c >= 1 {
			throttle += ", " + quad.Quantity(Presets(k)[c-1], "µs")
		}
		return []Stage{
			{Part: "receiver", Sentence: "sends its preset as valid frames", Dangerous: true},
			{Part: "controller", Sentence: "sees good frames and believes you are still there", Dangerous: true},
			{Part: "motors", Sentence: throttle + ", and turn on until the pack is empty", Dangerous: true},
		}
	case !Notices(out):
		return []Stage{
			{Part: "receiver", Sentence: "repeats the last stick positions as if nothing had happened", Dangerous: true},
			{Part: "controller", Sentence: "sees good frames and believes you are still there", Dangerous: true},
			{Part: "motors", Sentence: "keep the throttle you last gave, until the pack is empty", Dangerous: true},
		}
	}
	then := "stop"
	switch s.Policy {
	case quad.PolicyLand:
		then = "hold " + quad.Quantity(s.LandThrottle, "%") + " level, until it lands"
	case quad.PolicyReturn:
		then = wayHome(s)
	}
	failsafe := "goes into failsafe: " + s.Policy.Words()
	if s.Policy == quad.PolicyReturn {
		failsafe += "; without a position or a home, down where it is at " + quad.Quantity(s.LandThrottle, "%")
	}
	return []Stage{
		{Part: "receiver", Sentence: "falls silent"},
		{To: s.Guard, Part: "controller", Sentence: "waits for the failsafe delay with the last frame"},
		{From: s.Guard, Part: "controller", Sentence: failsafe},
		{From: 0, To: s.Guard, Part: "motors", Sentence: "keep the last throttle"},
		{From: s.Guard, Part: "motors", Sentence: then},
	}
}

// wayHome in words, as far as it is told.
func wayHome(s quad.LossSheet) string {
	words := "keep their height, come home"
	switch {
	case s.Way == quad.WaySet && s.WayHeight > 0:
		words = "climb to " + quad.Quantity(s.WayHeight, "m") + ", come home"
	case s.Way == quad.WayHighest:
		words = "climb to their highest, come home"
	case s.Way == "":
		words = "come home, nobody told how high"
	}
	if s.HomeSpeed > 0 {
		words += " at " + quad.Quantity(s.HomeSpeed, "m/s")
	}
	switch s.AtHome {
	case quad.HomeLands:
		words += ", land"
	case quad.HomeDrops:
		words += ", come down"
	}
	return words
}

// Fall is where and how a dropped quad comes down.
type Fall struct {
	Ahead  float64 // m from where the motors stopped
	Time   float64 // s
	Speed  float64 // m/s at the ground
	Energy float64 // J
}

// Drop integrates the fall after the motors stop: level speed (m/s) at a height (m), mass in kg, quadratic
// drag with k = rho CdA / 2 in kg/m. Fourth-order steps of 1 ms, the last one shortened to end on the
// ground.
func Drop(speed, height, mass, k, gravity float64) Fall {
	type state struct{ x, z, u, w float64 } // ahead, fallen, and their speeds
	slope := func(s state) state {
		v := math.Hypot(s.u, s.w)
		return state{s.u, s.w, -k / mass * v * s.u, gravity - k/mass*v*s.w}
	}
	add := func(s, d state, h float64) state {
		return state{s.x + h*d.x, s.z + h*d.z, s.u + h*d.u, s.w + h*d.w}
	}
	step := func(s state, h float64) state {
		a := slope(s)
		b := slope(add(s, a, h/2))
		c := slope(add(s, b, h/2))
		d := slope(add(s, c, h))
		s = add(s, a, h/6)
		s = add(s, b, h/3)
		s = add(s, c, h/3)
		return add(s, d, h/6)
	}
	s, t := state{u: speed}, 0.0
	const h = 1e-3
	for s.z < height && t < 600 {
		next := step(s, h)
		if next.z > height {
			part := h * (height - s.z) / (next.z - s.z)
			s, t = step(s, part), t+part
			break
		}
		s, t = next, t+h
	}
	v := math.Hypot(s.u, s.w)
	return Fall{Ahead: s.x, Time: t, Speed: v, Energy: mass * v * v / 2}
}
