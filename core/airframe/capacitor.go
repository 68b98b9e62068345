package airframe

import (
	"math"

	"vividperch/core/quad"
)

// OvershootShare of a full pack's voltage is what spikes on the power lead may reach.
const OvershootShare = 0.12

// CapacitorNeed is the least capacitance (F) that holds the overshoot of a power lead under allowed volts,
// conservatively: dV = I (sqrt(L/C) + ESR). ok is false when the series resistance alone is too much.
func CapacitorNeed(inductance, current, allowed, esr float64) (farad float64, ok bool) {
	left := allowed/current - esr
	if left <= 0 {
		return 0, false
	}
	return inductance / (left * left), true
}

// standardRatings of aluminium capacitors, V.
var standardRatings = []float64{16, 25, 35, 50, 63, 80, 100}

// CapacitorRating is the next standard rating above 1.2 times full charge plus overshoot, V.
func CapacitorRating(full, overshoot float64) float64 {
	want := 1.2 * (full + overshoot)
	for _, r := range standardRatings {
		if r >= want {
			return r
		}
	}
	return want
}

// LeadInductance of a pair of this length (cm), H: about 10 nH per cm, plus the pack's own 30 nH.
func LeadInductance(cm float64) float64 { return (10*cm + 30) * 1e-9 }

// Bank is what some capacitors side by side come to: their capacitances add up (F), their series resistances share the current (Ω).
func Bank(c quad.Capacitor) (farad, esr float64) {
	return c.Together() * 1e-6, c.Resistance / 1000 / float64(max(1, c.Count))
}

// Overshoot is what a lead's current does when all four motors let go of it at once: it runs on into the capacitor.
type Overshoot struct {
	Inductance, Current float64 // H; A at the moment
	Farad, Ohm          float64 // of the capacitor
}

// At is the voltage above the pack's, V, t seconds after. The current i = dq/dt through lead and capacitor obeys L di/dt + R i + q/C = 0 from q = 0 and
// i = I on, and the lead's end is at q/C + R i: the series resonant circuit of any text on circuits.
func (o Overshoot) At(t float64) float64 {
	l, c, r := o.Inductance, o.Farad, o.Ohm
	if !(c > 0) || !(l > 0) || t < 0 {
		return 0
	}
	damping, square := r/(2*l), 1/(l*c)-r*r/(4*l*l)
	e := math.Exp(-damping * t)
	var q, i float64
	switch w := math.Sqrt(math.Abs(square)); {
	case w*t < 1e-9 && w < 1e-3: // aperiodic at its limit
		q, i = o.Current*t*e, o.Current*(1-damping*t)*e
	case square > 0:
		sin, cos := math.Sincos(w * t)
		q, i = o.Current/w*e*sin, o.Current*e*(cos-damping/w*sin)
	default:
		// e^-at sinh(wt) and cosh(wt) by their two exponentials, which stay small.
		up, down := math.Exp((w-damping)*t), math.Exp(-(w+damping)*t)
		sinh, cosh := (up-down)/2, (up+down)/2
		q, i = o.Current/w*sinh, o.Current*(cosh-damping/w*sinh)
	}
	return q/c + r*i
}

// Lasts is how long it is worth looking at, s: four turns of the ringing, or until it has crept away.
func (o Overshoot) Lasts() float64 {
	if !(o.Farad > 0) {
		return 1e-4
	}
	turn := 2 * math.Pi * math.Sqrt(o.Inductance*o.Farad)
	return math.Max(2*turn, 4*o.Ohm*o.Farad)
}

// Bound is what it is judged by, V, and never exceeds: I (√(L/C) + ESR).
func (o Overshoot) Bound() float64 { return o.Current * (math.Sqrt(o.Inductance/o.Farad) + o.Ohm) }

// Peak of it, V, and when, s: looked for along its first turn, and narrowed down.
func (o Overshoot) Peak() (volts, at float64) {
	const steps = 400
	h := o.Lasts() / steps
	for i := range steps + 1 {
		if v := o.At(float64(i) * h); v > volts {
			volts, at = v, float64(i)*h
		}
	}
	low, high := math.Max(0, at-h), at+h
	for range 60 {
		a, b := low+(high-low)/3, high-(high-low)/3
		if o.At(a) < o.At(b) {
			low = a
		} else {
			high = b
		}
	}
	if v := o.At((low + high) / 2); v > volts {
		volts, at = v, (low+high)/2
	}
	return volts, at
}

// LeadOf is the overshoot of some parts' lead with a pack: the current that full throttle asks of it.
func LeadOf(p quad.Parts, f Fed) Overshoot {
	farad, ohm := Bank(p.Capacitor)
	return Overshoot{Inductance: LeadInductance(p.Capacitor.LeadLength), Current: f.Peak.PackCurrent, Farad: farad, Ohm: ohm}
}
