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
	Choices []motors.SwitchingChoice `json:"choices"`
	Told    bool                     `json:"told"` // by the board's line; else it is set in the speed controllers themselves
	Outputs []SwitchedOutput         `json:"outputs"`
	Alike   bool                     `json:"alike"`
	Now     float64                  `json:"now" unit:"kHz"` // meant for all of them; 0 is as they were delivered
	Trial   *TrialView               `json:"trial"`          // of what is meant now; nothing when none runs
}

// SwitchedOutput is one speed controller.
type SwitchedOutput struct {
	Output string  `json:"output"`
	Meant  float64 `json:"meant" unit:"kHz"` // 0 is as delivered
	Says   float64 `json:"says" unit:"kHz"`  // 0 is not asked
}

// TrialView is a frequency that was tried, beside the one before.
type TrialView struct {
	Before float64 `json:"before" unit:"kHz"`
	Tried  float64 `json:"tried" unit:"kHz"`
	Was    float64 `json:"was" unit:"deg/s"`
	Is     float64 `json:"is" unit:"deg/s"`
	Flown  bool    `json:"flown"`
	Helped bool    `json:"helped"`
}

func switchingOf(k quad.Known) SwitchingView {
	choices, told := switchings(k)
	v := SwitchingView{Choices: motors.SwitchingChoices(choices, k.Parts.Motor.TimeConst), Told: told, Outputs: []SwitchedOutput{}, Alike: true}
	for i, letter := range quad.SortedKeys(k.Sheet.Motors.Outputs) {
		o := SwitchedOutput{Output: letter, Meant: k.Sheet.Motors.Outputs[letter].Switching}
		if r := k.Readings.Firmware.SpeedControllers[letter]; r != nil {
			o.Says = r.Value.Switching
		}
		if i == 0 {
			v.Now = o.Meant
		}
		v.Alike = v.Alike && o.Meant == v.Now
		v.Outputs = append(v.Outputs, o)
	}
	if r := k.Readings.Motors.Trial; r != nil && v.Alike && v.Now == r.Value.Tried {
		t := r.Value
		flown, helped := motors.Compared(t)
		v.Trial = &TrialView{t.Before, t.Tried, t.Was, t.Is, flown, helped}
	}
	return v
}

// usualSwitching are the frequencies, kHz, that most speed controllers have where nothing says which.
var usualSwitching = []float64{24, 48, 96}

// switchings that the first planned output's speed controller can be told by the board's line.
func switchings(k quad.Known) (choices []float64, told bool) {
	line := k.Board
	if !line.Read() {
		line = quad.Board{Line: k.Sheet.Firmware.Line, Version: k.Sheet.Firmware.Version}
	}
	build, err := firmware.For(line)
	if err != nil {
		return usualSwitching, false
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
	return usualSwitching, false
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
