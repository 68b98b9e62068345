package airframe

import (
	"math"

	"vividperch/core/quad"
)

// MeritMost is the figure of merit of the best propellers of this size; well-made small ones come to 0.5 to 0.7.
const MeritMost = 0.85

// Merit of a propeller standing in still air: the power that its thrust takes by momentum theory (Rankine and Froude,
// T sqrt(T/2 rho A)), as a share of the power that it takes: Ct^1.5 / (Cp sqrt(pi/2)). None is above 1. 0 where one of the two is not told.
func Merit(p quad.Propeller) float64 {
	if !(p.Thrust > 0) || !(p.Power > 0) {
		return 0
	}
	return math.Pow(p.Thrust, 1.5) / (p.Power * math.Sqrt(math.Pi/2))
}
