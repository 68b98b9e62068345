// Package filter has the filters that a board puts on what its gyro shows: as they run, once a loop, and what each takes away and holds up
// over frequency. The flight model runs them and the arithmetic of the rate loop reckons with them, from the same coefficients.
package filter

import (
	"math"
	"math/cmplx"
)

// Section is a filter of up to second order in z, run once every loop:
//
//	y[n] = b0 x[n] + b1 x[n-1] + b2 x[n-2] - a1 y[n-1] - a2 y[n-2]
type Section struct{ b0, b1, b2, a1, a2 float64 }

// Through lets everything through.
var Through = Section{b0: 1}

// usable is the share of the loop's rate up to which a filter's frequency can be held: close to half of it nothing is left of its shape.
const usable = 0.45

// Share is the part of the way that a low-pass of first order with a cutoff in Hz goes in one loop of h seconds (backward Euler of τ y' = x - y).
func Share(cutoff, h float64) float64 { return h / (h + 1/(2*math.Pi*cutoff)) }

// First is a low-pass of first order with a cutoff in Hz, at a loop rate in Hz.
func First(cutoff, rate float64) Section {
	s := Share(cutoff, 1/rate)
	return Section{b0: s, a1: s - 1}
}

// Second is a low-pass of second order, maximally flat (Butterworth), by the bilinear transform with its cutoff (Hz) put where it is wanted. Over the
// usable part of the loop's rate it lets everything through.
func Second(cutoff, rate float64) Section {
	if cutoff >= usable*rate {
		return Through
	}
	k := math.Tan(math.Pi * cutoff / rate)
	n := 1 / (1 + math.Sqrt2*k + k*k)
	return Section{b0: k * k * n, b1: 2 * k * k * n, b2: k * k * n, a1: 2 * (k*k - 1) * n, a2: (1 - math.Sqrt2*k + k*k) * n}
}

// Notch takes away what is at its centre (Hz), and half the power of what is half its width (Hz) beside it. Over the usable part of the loop's rate it
// lets everything through.
func Notch(centre, width, rate float64) Section {
	if !(centre > 0) || !(width > 0) || centre >= usable*rate {
		return Through
	}
	k := math.Tan(math.Pi * centre / rate)
	d := math.Tan(math.Pi * math.Min(width, usable*rate) / rate) // where the half-power points lie that far apart in z
	// H(s) = (s² + w²) / (s² + B s + w²) with s = (z-1)/(z+1), w = k, and B the width on that warped axis, by its slope at the centre.
	b := d * (1 + k*k)
	n := 1 / (1 + b + k*k)
	return Section{b0: (1 + k*k) * n, b1: 2 * (k*k - 1) * n, b2: (1 + k*k) * n, a1: 2 * (k*k - 1) * n, a2: (1 - b + k*k) * n}
}

// State of a section that runs.
type State struct{ one, two float64 }

// Run a section by one loop.
func (s *Section) Run(is *State, x float64) float64 {
	y := s.b0*x + is.one
	is.one = s.b1*x - s.a1*y + is.two
	is.two = s.b2*x - s.a2*y
	return y
}

// At a frequency in Hz: what it makes of an amplitude, and by which angle (rad) it turns its phase.
func (s Section) At(hertz, rate float64) complex128 {
	above, below := s.parts(Late(hertz, rate))
	return above / below
}

// Late is what one round of a loop makes of a swing at a frequency: z⁻¹ on the unit circle.
func Late(hertz, rate float64) complex128 { return cmplx.Rect(1, -2*math.Pi*hertz/rate) }

// parts of the response: above and below the line.
func (s *Section) parts(z complex128) (above, below complex128) {
	x, y := real(z), imag(z)
	xx, yy := x*x-y*y, 2*x*y // z²
	return complex(s.b0+s.b1*x+s.b2*xx, s.b1*y+s.b2*yy), complex(1+s.a1*x+s.a2*xx, s.a1*y+s.a2*yy)
}

// Chain of sections, one behind the other.
type Chain []Section

// At a frequency in Hz; see [Section.At].
func (c Chain) At(hertz, rate float64) complex128 { return c.Of(Late(hertz, rate)) }

// Of the swing that one round of the loop makes z of, see [Late]: for whoever looks at many chains there.
func (c Chain) Of(z complex128) complex128 {
	above, below := complex(1, 0), complex(1, 0)
	for i := range c {
		a, b := c[i].parts(z)
		above, below = above*a, below*b
	}
	return above / below
}

// Delay (s) of a slow movement at a frequency in Hz: by how much later it comes out than it went in. The angles of the sections are summed, so that it
// does not wrap; above a notch's centre it comes out ahead again, and the notch counts as an advance.
func (c Chain) Delay(hertz, rate float64) float64 {
	angle := 0.0
	for _, s := range c {
		angle -= cmplx.Phase(s.At(hertz, rate))
	}
	return angle / (2 * math.Pi * hertz)
}
