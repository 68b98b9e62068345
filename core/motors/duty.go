package motors

import "vividperch/core/quad"

// Output is what a board makes of a throttle: from its idle duty up to what its limit leaves. Idle and Limit are shares, 0 to 1.
type Output struct {
	Idle, Limit float64
	// Cut stops the throttle short at the limit. Else the whole stick is made finer, so that full stick is the limit's share of what lies above idle.
	Cut bool
}

// OutputOf a sheet, by its first profile.
func OutputOf(s *quad.Sheet) Output {
	return Output{s.Motors.Idle / 100, s.Feel.ThrottleLimit / 100, s.Feel.ThrottleCut}
}

// LimitFor a duty at full stick: the share of what lies above idle that leads there, 0 to 1.
func (o Output) LimitFor(duty float64) float64 { return max(0, min(1, (duty-o.Idle)/(1-o.Idle))) }

// Duty that a throttle of 0 to 1 asks of a motor, as a share of full.
func (o Output) Duty(throttle float64) float64 {
	if o.Cut {
		return o.Idle + min(throttle, o.Limit)*(1-o.Idle)
	}
	return o.Idle + throttle*o.Limit*(1-o.Idle)
}

// Throttle that asks for a duty: the inverse of [Output.Duty]. It is above 1 for a duty that the limit keeps out of reach, and infinite where nothing can be
// reached.
func (o Output) Throttle(duty float64) float64 {
	asked := (duty - o.Idle) / (1 - o.Idle)
	if o.Cut && asked <= o.Limit && o.Limit > 0 {
		return asked
	}
	return asked / o.Limit
}
