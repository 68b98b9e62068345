package feel

import (
	"math"
	"math/cmplx"

	"vividperch/core/filter"
	"vividperch/core/quad"
)

// Loop is the rate loop about one axis as it answers small movements in a hover: gains, filters and protocol of the board, and the quad that they turn.
//
//	quad      A (1 + Lead s) / ((1 + Lag s) (s + Damping))     rad/s for a whole step of duty
//	board     P + I/s on the error, D on the change of what the gyro shows, each behind its filters, Wait seconds late
//
// Where its steps come from, and what is left out (the pack, the limits of the mixer), docs/feel.md says.
type Loop struct {
	Authority float64 // rad/s² for a whole step of duty
	Lag       float64 // s, of the rotors
	Damping   float64 // 1/s, of a rotation by the air's way through the discs
	Lead      float64 // s, by which the rotors' own inertia helps: about yaw alone
	Gains     quad.Gains
	Rate      float64 // Hz, of the loop
	Wait      float64 // s, from the loop to the speed controller
	Rotation  filter.Chain
	Change    filter.Chain // of the rotation's change, behind Rotation
}

// Open loop at a frequency in Hz: the rotation that comes of one that the gyro shows, through board and quad.
func (l *Loop) Open(hertz float64) complex128 {
	w, h := 2*math.Pi*hertz, 1/l.Rate
	z := filter.Late(hertz, l.Rate)
	p, i, d := l.Gains.Proportional/100, l.Gains.Integral/100*h, l.Gains.Derivative/100*l.Rate
	back := 1 - z // a difference to the round before
	sum := complex(p, 0) + complex(i, 0)/back + complex(d, 0)*back*l.Change.Of(z)
	late := cmplx.Rect(1, -w*(l.Wait+h/2)) // a duty stands for one round
	quad := complex(l.Authority*180/math.Pi, l.Authority*180/math.Pi*w*l.Lead) / (complex(1, w*l.Lag) * complex(l.Damping, w))
	return quad * sum * l.Rotation.Of(z) * late
}

// Margin of a loop.
type Margin struct {
	// Share of the gains at which it begins to oscillate: under 1 it oscillates as it is. 0 where no share makes it.
	Share float64 `json:"share" unit:"1"`
	// Hertz of that oscillation.
	Hertz float64 `json:"hertz" unit:"Hz"`
	// Crossing is where the loop's gain falls through one, Hz: it takes errors back about 2π times as fast each second.
	Crossing float64 `json:"crossing" unit:"Hz"`
	// Phase that is left there, deg, and what of it the filters take.
	Phase   float64 `json:"phase" unit:"deg"`
	Filters float64 `json:"filters" unit:"deg"`
}

// scanned frequencies, Hz, from low to high by an even ratio.
const (
	scanFrom  = 0.3
	scanSteps = 160
)

// Margins of the loop, found along its open loop from low to high frequencies. An integral alone turns the phase beyond 180° at low frequencies, where a
// smaller gain oscillates rather than a larger: what counts here is where a larger one does.
func (l *Loop) Margins() Margin {
	to := 0.49 * l.Rate
	ratio := math.Pow(to/scanFrom, 1.0/scanSteps)
	var out Margin
	was := l.Open(scanFrom)
	for i, f := 1, scanFrom; i <= scanSteps; i++ {
		next := f * ratio
		is := l.Open(next)
		if cmplx.Abs(was) >= 1 && cmplx.Abs(is) < 1 {
			at := between(f, next, func(f float64) float64 { return cmplx.Abs(l.Open(f)) - 1 })
			out.Crossing, out.Phase = at, turned(180+cmplx.Phase(l.Open(at))*180/math.Pi)
			out.Filters = 360 * at * l.Rotation.Delay(at, l.Rate)
		}
		// Through the negative axis from below to above, as the phase falls through 180°.
		if imag(was) < 0 && imag(is) >= 0 && real(was) < 0 {
			at := between(f, next, func(f float64) float64 { return -imag(l.Open(f)) })
			if size := cmplx.Abs(l.Open(at)); size > 0 && (out.Share == 0 || 1/size < out.Share) {
				out.Share, out.Hertz = 1/size, at
			}
		}
		f, was = next, is
	}
	return out
}

// turned into -180..180 deg.
func turned(deg float64) float64 { return math.Remainder(deg, 360) }

// between two places, where a function that is above nothing at the first is nothing.
func between(low, high float64, f func(float64) float64) float64 {
	for range 30 {
		if mid := (low + high) / 2; f(mid) > 0 {
			low = mid
		} else {
			high = mid
		}
	}
	return (low + high) / 2
}
