package motors

import (
	"math"

	"vividperch/core/quad"
)

// Output is what a board makes of a throttle: from its idle duty up to what its limit leaves. Idle, Limit and Even are shares, 0 to 1.
type Output struct {
	Idle, Limit float64
	// Cut stops the throttle short at the limit. Else the whole stick is made finer, so that full stick is the limit's share of what lies above idle.
	Cut bool
	// Even is how much of a thrust that climbs with the square of the duty is evened out, by which each motor gets more duty low down; 0 is none.
	Even float64
}

// OutputOf a sheet, by its first profile.
func OutputOf(s *quad.Sheet) Output {
	return Output{s.Motors.Idle / 100, s.Feel.ThrottleLimit / 100, s.Feel.ThrottleCut, s.Motors.Linear / 100}
}

// above is the share of what lies above idle that a duty or a command takes, and at the one that takes a share of it.
func (o Output) above(x float64) float64  { return (x - o.Idle) / (1 - o.Idle) }
func (o Output) at(share float64) float64 { return o.Idle + share*(1-o.Idle) }

// LimitFor a duty at full stick: the share of what lies above idle that leads there, 0 to 1.
func (o Output) LimitFor(duty float64) float64 { return max(0, min(1, o.above(o.Uneven(duty)))) }

// Command that a throttle of 0 to 1 comes to, before it is evened out, from idle to 1: what a mixer works on.
func (o Output) Command(throttle float64) float64 {
	if o.Cut {
		return o.at(min(throttle, o.Limit))
	}
	return o.at(throttle * o.Limit)
}

// Evened is the duty of a command, both from idle to 1: with x and u their shares above idle and e how much is evened out, e u² + (1 - e) u = x. Where thrust climbs as e u² + (1 - e) u
// it is a straight line over the command.
func (o Output) Evened(command float64) float64 {
	if o.Even == 0 || command <= o.Idle {
		return command
	}
	linear := 1 - o.Even
	return o.at((math.Sqrt(linear*linear+4*o.Even*o.above(command)) - linear) / (2 * o.Even))
}

// Uneven is the command of a duty: the inverse of [Output.Evened].
func (o Output) Uneven(duty float64) float64 {
	if o.Even == 0 || duty <= o.Idle {
		return duty
	}
	u := o.above(duty)
	return o.at((o.Even*u + 1 - o.Even) * u)
}

// Slope is how much a duty moves for a small step of command there: 1 where nothing is evened out, more low down and less high up where something is. All of it evened out is
// steeper than any figure just above idle, where nothing flies; 20 is told at the most.
func (o Output) Slope(duty float64) float64 {
	u := max(0, o.above(duty))
	return 1 / max(0.05, 1-o.Even+2*o.Even*u)
}

// Duty that a throttle of 0 to 1 asks of a motor, as a share of full.
func (o Output) Duty(throttle float64) float64 { return o.Evened(o.Command(throttle)) }

// Throttle that asks for a duty: the inverse of [Output.Duty]. It is above 1 for a duty that the limit keeps out of reach, and infinite where nothing can be
// reached.
func (o Output) Throttle(duty float64) float64 {
	asked := o.above(o.Uneven(duty))
	if o.Cut && asked <= o.Limit && o.Limit > 0 {
		return asked
	}
	return asked / o.Limit
}
