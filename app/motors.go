package app

import (
	"context"

	"vividperch/core/motors"
	"vividperch/core/quad"
)

// MotorsView is what the motors' station draws besides the quad: the sign table for its layout, and every bit rate against its loop.
type MotorsView struct {
	Signs  []motors.Sign        `json:"signs"`
	Frames []motors.FrameChoice `json:"frames"`
}

// Motors of a quad.
func (a *App) Motors(ctx context.Context, id int64) (*MotorsView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	k := o.known
	return &MotorsView{
		Signs:  motors.SignTable(k.Sheet.Craft.Layout, k.Sheet.Craft.Rotation, k.Parts.Propeller.Reversed),
		Frames: motors.FrameChoices(k.Sheet.Motors, loadOf(k)),
	}, nil
}

// actsOf what was seen of outputs and propellers; none while a reading must be wrong.
func actsOf(k quad.Known) []motors.Act {
	seen, hands := map[string]quad.MotorSeen{}, map[quad.Corner]quad.Spin{}
	for letter, r := range k.Readings.Motors.Outputs {
		if _, planned := k.Sheet.Motors.Outputs[letter]; planned && r != nil {
			seen[letter] = r.Value
		}
	}
	for _, c := range quad.Corners {
		if r := k.Readings.FirstFlight.Propellers[string(c)]; r != nil {
			hands[c] = r.Value
		}
	}
	c := motors.Correct(k.Sheet.Motors.Outputs, k.Sheet.Craft.Rotation, seen, hands)
	if len(c.Doubtful) > 0 {
		return []motors.Act{}
	}
	return c.List(k.Sheet.Motors.Outputs)
}

func loadOf(k quad.Known) float64 {
	if r := k.Readings.Motors.Load; r != nil {
		return r.Value
	}
	return 0
}
