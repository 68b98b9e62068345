package motors

import (
	"math"

	"vividperch/core/quad"
)

// UsualSwitching is the frequency (kHz) that a motor's time constant is stated at, and what most speed controllers are delivered with.
const UsualSwitching = 24.0

// UsualSwitchings are what most speed controllers can be set to, kHz, where nothing says which.
var UsualSwitchings = []float64{UsualSwitching, 48, 96}

const (
	deadTime = 1.0  // µs that a half-bridge is off at each of the two edges of a period, neither driving nor braking
	hearing  = 20.0 // kHz, the highest pitch that ears hear
)

// Braking is the share of the braking at the usual switching frequency that is left at another, kHz: the dead time comes twice in
// every period, so 1 - 2 t f of the whole. A frequency that is not known brakes as usual.
func Braking(kilohertz float64) float64 {
	if kilohertz <= 0 {
		return 1
	}
	whole := func(f float64) float64 { return math.Max(0, 1-2*deadTime*f/1000) }
	return whole(kilohertz) / whole(UsualSwitching)
}

// SwitchingChoice is what one switching frequency comes to.
type SwitchingChoice struct {
	Frequency float64 `json:"frequency" unit:"kHz"`
	Braking   float64 `json:"braking" unit:"%"` // of that at the usual frequency
	Slows     float64 `json:"slows" unit:"ms"`  // time constant of slowing down
	Ripple    float64 `json:"ripple" unit:"%"`  // of the winding current's ripple at the usual frequency
	Dead      float64 `json:"dead" unit:"%"`    // of a period in which nothing drives or brakes
	Heard     bool    `json:"heard"`            // it whistles
}

// SwitchingChoices of frequencies in kHz, for a motor with a time constant in ms. The current's ripple goes with the time that it has
// to rise, one over the frequency.
func SwitchingChoices(kilohertz []float64, lag float64) []SwitchingChoice {
	out := []SwitchingChoice{}
	for _, f := range kilohertz {
		if f <= 0 {
			continue
		}
		c := SwitchingChoice{Frequency: f, Braking: 100 * Braking(f), Ripple: 100 * UsualSwitching / f, Dead: math.Min(100, 2*deadTime*f/10), Heard: f < hearing}
		if b := Braking(f); b > 0 {
			c.Slows = lag / b
		}
		out = append(out, c)
	}
	return out
}

// helps is how much of the shaking must be gone for a switching frequency to be worth its price.
const helps = 0.9

// Compared says whether both flights of a trial were flown, and whether the frequency tried helped: a tenth less shaking at least.
func Compared(t quad.SwitchingTrial) (flown, helped bool) {
	flown = t.Was > 0 && t.Is > 0
	return flown, flown && t.Is <= helps*t.Was
}

// Switched is how often the speed controllers of a quad are meant to switch.
type Switched struct {
	Outputs []SwitchedOutput `json:"outputs"`
	Alike   bool             `json:"alike"`
	Now     float64          `json:"now" unit:"kHz"`    // meant for all of them; 0 is as they were delivered, or unlike
	Before  float64          `json:"before" unit:"kHz"` // what a trial begun now goes back to
	Trial   *Trial           `json:"trial"`             // of what is meant now; nothing when none runs
}

// SwitchedOutput is one speed controller.
type SwitchedOutput struct {
	Output string  `json:"output"`
	Meant  float64 `json:"meant" unit:"kHz"` // 0 is as delivered
	Says   float64 `json:"says" unit:"kHz"`  // 0 is not asked
}

// Trial is a frequency that was tried, beside the one before.
type Trial struct {
	quad.SwitchingTrial
	Flown  bool `json:"flown"`
	Helped bool `json:"helped"`
}

// SwitchedOf a quad, by what is meant and what the speed controllers said.
func SwitchedOf(k quad.Known) Switched {
	out := Switched{Outputs: []SwitchedOutput{}, Alike: true, Before: UsualSwitching}
	for _, letter := range quad.SortedKeys(k.Sheet.Motors.Outputs) {
		o := SwitchedOutput{Output: letter, Meant: k.Sheet.Motors.Outputs[letter].Switching}
		if r := k.Readings.Firmware.SpeedControllers[letter]; r != nil {
			o.Says = r.Value.Switching
		}
		out.Outputs = append(out.Outputs, o)
		out.Alike = out.Alike && o.Meant == out.Outputs[0].Meant
	}
	if !out.Alike || len(out.Outputs) == 0 {
		return out
	}
	first := out.Outputs[0]
	switch out.Now = first.Meant; {
	case first.Meant > 0:
		out.Before = first.Meant
	case first.Says > 0:
		out.Before = first.Says
	}
	if r := k.Readings.Motors.Trial; r != nil && out.Now == r.Value.Tried && r.Value.Before != r.Value.Tried {
		flown, helped := Compared(r.Value)
		out.Trial = &Trial{r.Value, flown, helped}
	}
	return out
}
