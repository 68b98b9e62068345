package link

import (
	"math"

	"vividperch/core/quad"
)

// FreeSpaceLoss in dB over d km at f MHz: 32.45 + 20 log10 f + 20 log10 d.
func FreeSpaceLoss(f, d float64) float64 { return 32.45 + 20*math.Log10(f) + 20*math.Log10(d) }

// Range in km at which power (mW) plus gains (dBi, both ends) less a margin (dB) just meets a sensitivity
// (dBm) at f MHz, in free space.
func Range(power, gains, sensitivity, margin, f float64) float64 {
	left := 10*math.Log10(power) + gains - sensitivity - margin - 32.45 - 20*math.Log10(f)
	return math.Pow(10, left/20)
}

// Fresnel is the radius in m of the first zone midway along a path of d km at f MHz: 8.66 sqrt(d/f in GHz). Keep six tenths of
// it clear.
func Fresnel(d, f float64) float64 { return 8.66 * math.Sqrt(d/(f/1000)) }

// Horizon for radio over smooth earth in km between antennas h1 and h2 m high: 4.12 (sqrt h1 + sqrt h2).
func Horizon(h1, h2 float64) float64 { return 4.12 * (math.Sqrt(h1) + math.Sqrt(h2)) }

// PolarisationLoss in dB between two antennas. Crossed linear ones, and circular ones of opposite hands, lose about 20 dB; a
// linear and a circular one 3 dB. One that is not told loses nothing.
func PolarisationLoss(a, b quad.Polarisation) float64 {
	circular := func(p quad.Polarisation) bool { return p == quad.RightHand || p == quad.LeftHand }
	switch {
	case a == "" || b == "" || a == b:
		return 0
	case circular(a) != circular(b):
		return 3
	}
	return 20
}

// Delay is how old, on the average, what the sticks say is when the board has it, ms: half the time between two packets, and
// the period of the receiver's output (about 20 ms for a combined pulse train).
func Delay(hertz, frame float64) float64 { return 1000/hertz/2 + frame }

// Margins that ranges are told for, dB: what a careful pilot keeps, and what is the least.
const (
	SafeMargin  = 20.0
	LeastMargin = 10.0
)

// Alarms to begin with, from the weakest that the receiver follows (dBm): the first 10 dB above it, the last 5 dB, and 70 and
// 50 % of link quality.
func Alarms(sensitivity float64) quad.LinkAlarms {
	return quad.LinkAlarms{Strength: sensitivity + 10, StrengthLast: sensitivity + 5, Quality: 70, QualityLast: 50}
}

// Path is what lies between the two ends.
type Path struct {
	Body   float64 `json:"body" unit:"dB"` // lost in bodies, foliage, a bag over the radio
	Ground float64 `json:"ground" unit:"m"`
	Air    float64 `json:"air" unit:"m"` // heights of the two antennas
}

// UsualPath: nothing in the way, the radio at the chest, the quad at 30 m.
var UsualPath = Path{Ground: 1.5, Air: 30}

// Budget of a control link.
type Budget struct {
	Frequency    float64 `json:"frequency" unit:"MHz"`
	Power        float64 `json:"power" unit:"dBm"`
	Gains        float64 `json:"gains" unit:"dB"`
	Polarisation float64 `json:"polarisation" unit:"dB"` // lost
	Body         float64 `json:"body" unit:"dB"`         // lost
	Rate         Rate    `json:"rate"`
	Interval     float64 `json:"interval" unit:"ms"`
	Delay        float64 `json:"delay" unit:"ms"`
	Safe         float64 `json:"safe" unit:"m"`     // range with SafeMargin
	Least        float64 `json:"least" unit:"m"`    // with LeastMargin
	Farthest     float64 `json:"farthest" unit:"m"` // with none
	Horizon      float64 `json:"horizon" unit:"m"`
	Fresnel      float64 `json:"fresnel" unit:"m"` // radius midway at the safe range
}

// BudgetOf radio and receiver at the rate that the radio's model is set to. A module whose power is not told is a Fault.
func BudgetOf(g Gear, k quad.Known, p Path) (Budget, error) {
	m, r := k.Parts.RadioModule, k.Parts.Receiver
	if !(m.Power > 0) {
		return Budget{}, quad.Faultf("no-power", "parts.radioModule.power", "the power of the radio module is not told")
	}
	rate := g.Rate(k.Radio.Rate, k.Radio.Channels)
	return budget(g.Frequency(m.Band), 10*math.Log10(m.Power), m.Gain+r.Gain, PolarisationLoss(m.Polarisation, r.Polarisation), rate, r.Frame, p), nil
}

func budget(f, power, gains, polarisation float64, rate Rate, frame float64, p Path) Budget {
	b := Budget{Frequency: f, Power: power, Gains: gains, Polarisation: polarisation, Body: p.Body, Rate: rate, Interval: 1000 / rate.Hertz, Delay: Delay(rate.Hertz, frame), Horizon: 1000 * Horizon(p.Ground, p.Air)}
	at := func(margin float64) float64 {
		return 1000 * Range(math.Pow(10, power/10), gains-polarisation-p.Body, rate.Sensitivity, margin, f)
	}
	b.Safe, b.Least, b.Farthest = at(SafeMargin), at(LeastMargin), at(0)
	b.Fresnel = Fresnel(b.Safe/1000, f)
	return b
}

// At is the strength that arrives over d m, dBm.
func (b Budget) At(d float64) float64 {
	return b.Power + b.Gains - b.Polarisation - b.Body - FreeSpaceLoss(b.Frequency, math.Max(d, 1)/1000)
}

// Over other rates of the gear: the same path at each, slowest first.
func (b Budget) Over(g Gear, frame float64, p Path) []Budget {
	out := make([]Budget, 0, len(g.Rates))
	for _, r := range g.Rates {
		out = append(out, budget(b.Frequency, b.Power, b.Gains, b.Polarisation, r, frame, p))
	}
	return out
}

// Arrival on a curve of strength over distance.
type Arrival struct {
	Distance float64 `json:"distance" unit:"m"`
	Strength float64 `json:"strength" unit:"dBm"`
}

// Curve of what arrives, from 10 m to a quarter beyond the farthest, in even steps of the logarithm of distance.
func (b Budget) Curve() []Arrival {
	const steps = 48
	far := math.Max(1.25*b.Farthest, 100)
	out := make([]Arrival, 0, steps+1)
	for i := range steps + 1 {
		d := nearest * math.Pow(far/nearest, float64(i)/steps)
		out = append(out, Arrival{d, b.At(d)})
	}
	return out
}
