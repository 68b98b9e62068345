package flight

import (
	"math"

	"vividperch/core/airframe"
	"vividperch/core/feel"
	"vividperch/core/motors"
	"vividperch/core/quad"
)

// StickOf a duty, both as shares of full, by what a sheet makes of the throttle stick; above 1 where no stick asks for as much.
func StickOf(s *quad.Sheet, duty float64) float64 {
	throttle := motors.OutputOf(s).Throttle(duty)
	if s.Motors.Reversible || throttle > 1 {
		return throttle
	}
	return feel.CurveOf(s.Feel).Stick(throttle)
}

// DutyOf a stick, both as shares of full: the inverse of [StickOf].
func DutyOf(s *quad.Sheet, stick float64) float64 {
	if !s.Motors.Reversible {
		stick = feel.CurveOf(s.Feel).At(stick)
	}
	return motors.OutputOf(s).Duty(stick)
}

// EvenOut is how much of its thrust (a share, in twentieths) a board has to even out for thrust over the throttle stick to stray the least from a straight line, and by how much it then still
// does, as [feel.ThrottleCurve.Uneven] has it; of two that stray as little the lower share.
func EvenOut(out motors.Output, curve feel.ThrottleCurve, d airframe.Drive) (share, left float64) {
	left = math.Inf(1)
	for i := range 21 {
		out.Even = float64(i) / 20
		if u := curve.Uneven(func(throttle float64) float64 { return d.At(out.Duty(throttle)).Thrust }); u < left-1e-4 {
			share, left = out.Even, u
		}
	}
	return share, left
}

// HoverMeasured is the drive, the mass (kg) and the duty (a share) of a hover that was measured in flight: fed with the voltage that it had under that load. ok is false where
// nobody measured one, or what it needs is not told.
func HoverMeasured(k quad.Known) (d airframe.Drive, mass, duty float64, ok bool) {
	m, w := k.Readings.FirstFlight.Hover, k.Readings.Airframe.Weight
	if m == nil || w == nil {
		return d, 0, 0, false
	}
	pack, told := k.Parts.Packs[m.Value.Pack]
	d, err := airframe.NewDrive(k.Parts, quad.Pack{}, m.Value.Volts, airframe.Density)
	mass = airframe.MassWith(k.Parts, pack, w.Value)
	return d, mass, DutyOf(&k.Sheet, m.Value.Stick/100), told && err == nil && mass > 0
}
