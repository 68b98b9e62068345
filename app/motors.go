package app

import (
	"context"
	"strconv"

	"vividperch/core/firmware"
	"vividperch/core/motors"
	"vividperch/core/quad"
)

// MotorsView is what the station of the motors draws: corners as they were seen and what makes them right, the sign table for the layout, every
// bit rate against its loop, idle, both ways, switching.
type MotorsView struct {
	Corners   []motors.CornerState `json:"corners"`
	Answers   [3]motors.Answer     `json:"answers"` // what commands do, as observed
	Acts      []motors.Act         `json:"acts"`    // that make the corners right, the fewest
	Timing    motors.FrameTiming   `json:"timing"`
	Idle      motors.Idle          `json:"idle"`
	Reversing motors.Reversing     `json:"reversing"`
	Signs     []motors.Sign        `json:"signs"`
	Frames    []motors.FrameChoice `json:"frames"`
	Switching SwitchingView        `json:"switching"`
	Changes   []WriteView          `json:"changes"` // what must be written so that the board holds the sheet
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
	return figures(ctx, a, id, motorsOf)
}

func motorsOf(k quad.Known) *MotorsView {
	load := loadOf(k)
	changes, _ := writes(k)
	return &MotorsView{
		Corners: motors.Corners(k), Answers: answersOf(k), Acts: actsOf(k), Timing: motors.TimingOf(k.Sheet.Motors, load), Idle: motors.IdleOf(k),
		Reversing: motors.ReversingOf(k), Switching: switchingOf(k), Changes: changes,
		Signs:  motors.SignTable(k.Sheet.Craft.Layout, k.Sheet.Craft.Rotation, k.Parts.Propeller.Reversed),
		Frames: motors.FrameChoices(k.Sheet.Motors, load),
	}
}

// answersOf a quad to commands, as far as its corners were seen.
func answersOf(k quad.Known) [3]motors.Answer {
	return motors.Answers(k.Sheet.Craft.Layout, k.Sheet.Craft.Rotation, k.Sheet.Motors.Outputs, quad.Observe(k).Actual, k.Parts.Propeller.Reversed)
}

// DrawingView is what a drawing of the quad shows of its corners.
type DrawingView struct {
	Corners []motors.CornerState `json:"corners"`
}

// Drawing of a quad, for the stations that have no figures of their own yet.
func (a *App) Drawing(ctx context.Context, id int64) (*DrawingView, error) {
	return figures(ctx, a, id, func(k quad.Known) *DrawingView { return &DrawingView{motors.Corners(k)} })
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
