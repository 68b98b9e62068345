package flight

import (
	"math"

	"vividperch/core/airframe"
)

// steadyRotors are four sound rotors that have come to turn as their duty, the pack and the air through their discs have it.
type steadyRotors struct {
	drive      airframe.Drive
	winding    winding
	loss, pace float64 // N/(rad/s)/(m/s), of all four; m/s through a disc per rad/s at which it does not push any more
	induced    float64 // (N)^-½ m/s: downwash per root of the thrust
}

func newSteadyRotors(d airframe.Drive, density float64) steadyRotors {
	return steadyRotors{drive: d, winding: newWinding(d), loss: 4 * lossPer(d), pace: d.Diameter * zeroThrust / (2 * math.Pi), induced: 1 / math.Sqrt(2*density*discArea(d))}
}

// turns is how fast (rad/s) they come to turn at a duty and what they draw from the pack together (A), going up through the air at v m/s.
func (s *steadyRotors) turns(duty, v float64) (speed, amps float64) {
	d, m := &s.drive, &s.winding
	r := rotor{forward: d.ThrustPer, backward: -d.ThrustPer, braking: 1}
	volts := d.PackVoltage
	for range 8 { // what it draws lowers what it gets
		r.drive(m, duty, volts, v*m.advance, 1e-3)
		amps = 4 * math.Max(0, duty*(duty*volts-m.constant*r.target)*m.conductance)
		volts = d.PackVoltage - d.PackOhm*amps
	}
	return r.target, amps
}

// push of all four along their axis, N, at a rotation (rad/s), going up at v m/s along it through the air and aside at side m/s: their thrust, less what the ring
// of their own wake takes as they sink, and what the air's way through the discs takes or gives.
func (s *steadyRotors) push(speed, v, side float64) float64 {
	t := 4 * s.drive.ThrustPer * speed * speed
	if v < 0 && t > 0 {
		down := s.induced * math.Sqrt(t)
		t *= 1 - wakeLoss*depth(-v/down, side/down)
	}
	return t - s.loss*speed*math.Max(stalledDown*s.pace*speed, math.Min(stalledUp*s.pace*speed, v))
}
