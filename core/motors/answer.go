package motors

import (
	"math"
	"slices"

	"vividperch/core/quad"
)

// Turn is one of the three axes that motors turn a quad about.
type Turn string

// The axes in the order of Answer.By: right side down, nose up, clockwise from above.
const (
	TurnRoll  Turn = "roll"
	TurnPitch Turn = "pitch"
	TurnYaw   Turn = "yaw"
)

// Turns in order.
var Turns = [3]Turn{TurnRoll, TurnPitch, TurnYaw}

// Index of it there, or -1.
func (t Turn) Index() int { return slices.Index(Turns[:], t) }

// Answer is what a command about one axis does to a quad as it is wired: the torque about each axis, as a share
// of what the layout means it to be.
type Answer struct {
	Command Turn       `json:"command"`
	By      [3]float64 `json:"by" unit:"1"`
	Words   string     `json:"words"`
	Good    bool       `json:"good"`
}

// places of the corners in the layouts, in arm lengths: ahead and to the right.
func leversOf(layout quad.Layout) (ahead, right [4]float64) {
	if layout == quad.LayoutPlus {
		return [4]float64{1, 0, 0, -1}, [4]float64{0, 1, -1, 0}
	}
	return [4]float64{1, 1, -1, -1}, [4]float64{-1, 1, -1, 1}
}

// Answers of a quad whose board mixes for the plan (output to corner, layout, rotation) and that is really
// built as the actual says; reversed is the share of thrust that a propeller gives which is turned backwards.
// It is the sign table of mistakes for this very quad: signs and shares at small commands, not its dynamics.
func Answers(layout quad.Layout, rotation quad.Rotation, plan map[string]quad.OutputPlan, actual quad.Actual, reversed float64) [3]Answer {
	roll, pitch, yaw := Mix(layout, rotation)
	ahead, right := leversOf(layout)
	var out [3]Answer
	for c, mix := range [3][4]float64{roll, pitch, yaw} {
		out[c].Command = Turns[c]
		whole := 0.0
		for _, m := range mix {
			whole += m * m
		}
		for letter, p := range plan {
			from, a := p.Corner.Index(), actual.Outputs[letter]
			to := a.Corner.Index()
			if from < 0 || to < 0 {
				continue
			}
			thrust := 1.0
			if !EffectOf(a.Spin, a.Spin, actual.Hands[a.Corner]).PushesUp {
				thrust = -reversed
			}
			twist := 1.0
			if a.Spin == quad.Clockwise {
				twist = -1
			}
			out[c].By[0] -= right[to] * thrust * mix[from] / whole
			out[c].By[1] += ahead[to] * thrust * mix[from] / whole
			out[c].By[2] += twist * mix[from] / whole
		}
		for i, x := range out[c].By {
			out[c].By[i] = math.Round(x*1000) / 1000
		}
		out[c].Words, out[c].Good = answerWords(c, out[c].By)
	}
	return out
}

func answerWords(own int, by [3]float64) (string, bool) {
	if by[own] < -0.2 {
		return "answered the wrong way: it runs away", false
	}
	stray := -1
	for i, x := range by {
		if i != own && math.Abs(x) > 0.3 && (stray < 0 || math.Abs(x) > math.Abs(by[stray])) {
			stray = i
		}
	}
	switch {
	case stray >= 0 && by[own] < 0.3:
		return "answered by " + string(Turns[stray]) + " instead", false
	case stray >= 0:
		return "answered with " + string(Turns[stray]) + " mixed in", false
	case by[own] < 0.3:
		return "hardly answered", false
	case by[own] < 0.8:
		return "answered, with less than it should", false
	}
	return "answered", true
}
