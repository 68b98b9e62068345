package app

import (
	"context"
	"strconv"

	"vividperch/core/firmware"
	"vividperch/core/motors"
	"vividperch/core/quad"
)

// MotorsView is what the motors' station draws besides the quad: the sign table for its layout, and every bit rate against its loop.
type MotorsView struct {
	Signs  []motors.Sign        `json:"signs"`
	Frames []motors.FrameChoice `json:"frames"`
	// Switching of the windings.
	Switching SwitchingView `json:"switching"`
}

// SwitchingView is how often the speed controllers switch their windings, and how often they could.
type SwitchingView struct {
	motors.Switched
	Choices []motors.SwitchingChoice `json:"choices"`
	Told    bool                     `json:"told"` // by the board's line; else it is set in the speed controllers themselves
}

func switchingOf(k quad.Known) SwitchingView {
	choices, told := switchings(k)
	return SwitchingView{motors.SwitchedOf(k), motors.SwitchingChoices(choices, k.Parts.Motor.TimeConst), told}
}

// switchings that the first planned output's speed controller can be told by the board's line.
func switchings(k quad.Known) (choices []float64, told bool) {
	line := k.Board
	if !line.Read() {
		line = quad.Board{Line: k.Sheet.Firmware.Line, Version: k.Sheet.Firmware.Version}
	}
	build, err := firmware.For(line)
	if err != nil {
		return motors.UsualSwitchings, false
	}
	for letter := range k.Sheet.Motors.Outputs {
		if s := build.Dictionary.Setting(quad.Path("sheet.motors.outputs." + letter + ".switching")); s != nil {
			for _, word := range s.Words {
				if f, err := strconv.ParseFloat(word, 64); err == nil {
					choices = append(choices, f)
				}
			}
			return choices, len(choices) > 0
		}
	}
	return motors.UsualSwitchings, false
}

// Motors of a quad.
func (a *App) Motors(ctx context.Context, id int64) (*MotorsView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	k := o.known
	return &MotorsView{
		Switching: switchingOf(k),
		Signs:     motors.SignTable(k.Sheet.Craft.Layout, k.Sheet.Craft.Rotation, k.Parts.Propeller.Reversed),
		Frames:    motors.FrameChoices(k.Sheet.Motors, loadOf(k)),
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
			hands[c] = r.Value.Hand
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
		return motors.LoadAt(r.Value, k.Sheet.Motors.LoopRate)
	}
	return 0
}
