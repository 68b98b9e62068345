package airframe

import (
	"math"

	"vividperch/core/quad"
)

const (
	// AirTemperature about a motor, °C: a warm day.
	AirTemperature = 30.0
	// WindingMost is the temperature at which the usual enamel and glue of a winding, and the magnets around it, are lost, °C.
	WindingMost = 150.0
	// WindingWarm is the temperature of a winding in a steady hover up to which it has room for a hot day and a hard turn, °C.
	WindingWarm = 90.0
	// WindingHot is that above which a steady hover alone takes it to its end on a hot day with a tired bearing, °C.
	WindingHot = 120.0
	// PunchLeast is how long full throttle must be borne from a hover on, s.
	PunchLeast = 2.0
)

const (
	copperShare = 0.22    // of a motor's mass
	copperHeat  = 385.0   // J/(kg K)
	ironHeat    = 470.0   // J/(kg K): laminations, magnets and bell
	warmer      = 0.00393 // 1/K by which copper resists more, from 20 °C on

	// Of a motor of usualMass: conductance from the winding to the iron it lies on, and from there to the air in the downwash of a
	// hover at usualWash, W/K. Surfaces grow as the mass to two thirds.
	innerConductance = 1.2
	airConductance   = 0.4
	usualWash        = 8.0  // m/s
	stillShare       = 0.25 // of airConductance that is left where nothing turns

	usualMass, usualSize = 33.0, 127.0 // g, mm
)

// UsualMotorMass of a motor that turns propellers of some diameter (mm), g: it grows as the square of that, as the disc's thrust does. 0 where
// the diameter is not known.
func UsualMotorMass(diameter float64) float64 {
	return usualMass * (diameter / usualSize) * (diameter / usualSize)
}

// MotorMass in g: as told, or as is usual for its propeller's size.
func MotorMass(p quad.Parts) float64 {
	if p.Motor.Mass > 0 {
		return p.Motor.Mass
	}
	return UsualMotorMass(p.Propeller.Diameter)
}

// Heat of one motor: a winding on iron in the air, each at one temperature.
type Heat struct {
	Copper, Iron float64 // J/K
	Inner, Air   float64 // W/K; Air in the downwash of usualWash
	Ohm          float64 // Ω of the winding at 20 °C
	Lost         float64 // N·m: what turns nothing goes into the iron
	Wash         float64 // m/s of downwash per rad/s
}

// Warmth of a motor: winding and iron, °C.
type Warmth struct{ Winding, Iron float64 }

// NewHeat of a drive's motor with a mass in g.
func NewHeat(d Drive, mass float64) Heat {
	surface := math.Pow(mass/usualMass, 2./3)
	return Heat{
		Copper: copperShare * mass / 1000 * copperHeat, Iron: (1 - copperShare) * mass / 1000 * ironHeat,
		Inner: innerConductance * surface, Air: airConductance * surface, Ohm: d.Resistance, Lost: d.Constant * d.NoLoad,
		// Momentum theory: thrust T through a disc of area A leaves it at √(T/2ρA).
		Wash: math.Sqrt(d.ThrustPer / (2 * Density * math.Pi * d.Diameter * d.Diameter / 4)),
	}
}

// air conductance at a rotation (rad/s), W/K: forced convection grows as the root of the flow.
func (h *Heat) air(rotation float64) float64 {
	return h.Air * max(stillShare, math.Sqrt(h.Wash*math.Abs(rotation)/usualWash))
}

// Step the warmth by dt seconds, in which the square of the current had a mean (A²) at a rotation (rad/s): the trapezoid rule on both nodes at
// once, which is stable for any step.
func (h *Heat) Step(w *Warmth, square, rotation, dt float64) {
	air := h.air(rotation)
	// dW = a11 W + a12 I + b1, dI = a21 W + a22 I + b2.
	a11, a12, b1 := (square*h.Ohm*warmer-h.Inner)/h.Copper, h.Inner/h.Copper, square*h.Ohm*(1-20*warmer)/h.Copper
	a21, a22, b2 := h.Inner/h.Iron, -(h.Inner+air)/h.Iron, (h.Lost*math.Abs(rotation)+air*AirTemperature)/h.Iron
	k := dt / 2
	r1 := w.Winding + k*(a11*w.Winding+a12*w.Iron+2*b1)
	r2 := w.Iron + k*(a21*w.Winding+a22*w.Iron+2*b2)
	m11, m12, m21, m22 := 1-k*a11, -k*a12, -k*a21, 1-k*a22
	det := m11*m22 - m12*m21
	w.Winding, w.Iron = (r1*m22-m12*r2)/det, (m11*r2-m21*r1)/det
}

// Steady warmth at a current (A) and a rotation (rad/s). Where the winding makes more heat with each degree than it gives away there is none: it
// is infinite.
func (h *Heat) Steady(current, rotation float64) Warmth {
	air, square := h.air(rotation), current*current
	// Inner (W-I) = i²R(1+α(W-20)); air (I-A) = Inner (W-I) + lost w.
	out := 1 / (1/h.Inner + 1/air) // from the winding to the air
	made, more := square*h.Ohm*(1-20*warmer), square*h.Ohm*warmer
	base := AirTemperature + h.Lost*math.Abs(rotation)/air
	if more >= out {
		return Warmth{math.Inf(1), math.Inf(1)}
	}
	w := (made + out*base) / (out - more)
	return Warmth{w, base + (made+more*w)/air}
}

// longestPunch is how long it is looked at, s.
const longestPunch = 30.0

// Bears is how long (s) a motor bears a current (A) at a rotation (rad/s) from a warmth on until its winding is at WindingMost; longestPunch and
// more is longestPunch.
func (h *Heat) Bears(from Warmth, current, rotation float64) float64 {
	const dt = 0.05
	t := 0.0
	for ; t < longestPunch && from.Winding < WindingMost; t += dt {
		h.Step(&from, current*current, rotation, dt)
	}
	return t
}

// A motor's bell after a flight: the most that its magnets bear for long, °C, and how much warmer than the others one may be that is sound, K. Magnets of the usual grade weaken for good from 80 °C inside on;
// a bell that is too hot to touch for a second has 60 °C, and the inside is 20 K hotter.
const (
	BellMost   = 80.0
	BellsApart = 15.0
)

// Bell is how one motor came home beside the others, °C; TooHot for its magnets, or Alone in being hotter.
type Bell struct {
	Corner quad.Corner `json:"corner" enum:"frontLeft,frontRight,rearLeft,rearRight"`
	Is     float64     `json:"is" unit:"°C"`
	Others float64     `json:"others" unit:"°C"` // the mean of the three
	TooHot bool        `json:"tooHot"`
	Alone  bool        `json:"alone"`
}

// Bells by corner, in the order of [quad.Corners].
func Bells(h quad.MotorHeat) (out [4]Bell) {
	for i, c := range quad.Corners {
		b := Bell{Corner: c, Is: h.At(c)}
		for _, o := range quad.Corners {
			if o != c {
				b.Others += h.At(o) / 3
			}
		}
		b.TooHot = b.Is >= BellMost
		b.Alone = !b.TooHot && b.Is-b.Others > BellsApart
		out[i] = b
	}
	return out
}

// Heated is how warm the motors get: in a steady hover, and how long they bear full throttle from there on.
type Heated struct {
	Hover Warmth
	Bears float64 // s
}

// Heats of the motors of some parts with a drive that hovers with a mass in kg; ok is false where it does not hover.
func (d Drive) Heats(p quad.Parts, mass float64) (out Heated, ok bool) {
	at, ok := d.Hover(mass)
	if !ok {
		return out, false
	}
	h := NewHeat(d, MotorMass(p))
	out.Hover = h.Steady(at.Current, at.Rotation)
	if full := d.At(1); out.Hover.Winding < WindingMost {
		out.Bears = h.Bears(out.Hover, full.Current, full.Rotation)
	}
	return out, true
}
