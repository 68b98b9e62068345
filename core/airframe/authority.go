package airframe

import (
	"math"

	"vividperch/core/quad"
)

// Authority about roll, pitch and yaw at hover with a mass in kg: how much faster it turns each second for a whole step of duty, rad/s².
// It is the slope of thrust over duty times the levers, for yaw that of the torque, over the estimated inertia; what the rotors' own
// speeding up adds to yaw is left out. ok is false when it does not hover.
func (d Drive) Authority(layout quad.Layout, f quad.Frame, mass float64) (about [3]float64, ok bool) {
	p, ok := d.Hover(mass)
	if !ok {
		return about, false
	}
	return d.AuthorityAt(layout, f, mass, p.Duty), true
}

// AuthorityAt is the same at another duty (a share): the more throttle, the more a step of it turns.
func (d Drive) AuthorityAt(layout quad.Layout, f quad.Frame, mass, duty float64) [3]float64 {
	const step = 0.01
	thrust := (d.At(duty+step).Thrust - d.At(duty-step).Thrust) / (2 * step)
	places := Spots(layout, f)
	var ahead, aside float64
	for _, at := range places {
		ahead += math.Abs(at.X)
		aside += math.Abs(at.Y)
	}
	inertia := Inertia(mass, places)
	torque := thrust * d.TorquePer / d.ThrustPer * d.Motors
	return [3]float64{thrust * aside / inertia[0], thrust * ahead / inertia[1], torque / inertia[2]}
}
