package motors

import (
	"math"

	"vividperch/core/airframe"
	"vividperch/core/quad"
)

// BackReserve is the least thrust turning backward, over the weight, with which a quad on its back can be steered.
const BackReserve = 1.4

// Reversing is how far reversible thrust has come on a quad.
type Reversing struct {
	Told  []string        `json:"told"`           // outputs whose speed controllers are to turn both ways
	Seen  []string        `json:"seen"`           // outputs seen with it on, or, where it is off, without
	Ratio float64         `json:"ratio" unit:"1"` // thrust turning backward over the weight; 0 is not known
	Able  bool            `json:"able"`           // it can be steered on its back
	Loss  quad.LossOutput `json:"loss"`           // what the receiver puts out without a radio, as it was read
	Rest  float64         `json:"rest" unit:"µs"` // how far from where it rests the throttle still counts so
}

// ReversingOf a quad.
func ReversingOf(k quad.Known) Reversing {
	out := Reversing{Told: []string{}, Seen: []string{}, Rest: math.Max(0, k.Sheet.Sticks.IdleBelow-1000)}
	for _, letter := range quad.SortedKeys(k.Sheet.Motors.Outputs) {
		if k.Sheet.Motors.Outputs[letter].BothWays {
			out.Told = append(out.Told, letter)
		}
		if r := k.Readings.Motors.Outputs[letter]; r != nil && r.Value.Reversible == k.Sheet.Motors.Reversible {
			out.Seen = append(out.Seen, letter)
		}
	}
	if r := k.Readings.Loss.Output; r != nil {
		out.Loss = r.Value
	}
	_, pack, ok := airframe.Heaviest(k.Parts)
	if !ok {
		return out
	}
	d, err := airframe.NewDrive(k.Parts, pack, airframe.RestCell*float64(pack.Cells), airframe.Density)
	mass := airframe.Mass(k.Parts, pack, k.Weight())
	if err != nil || !(mass > 0) {
		return out
	}
	ratio := d.ThrustToWeight(mass) * k.Parts.Propeller.Reversed
	out.Ratio, out.Able = math.Round(10*ratio)/10, ratio >= BackReserve
	return out
}
