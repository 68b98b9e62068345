package check

import (
	"fmt"
	"math"

	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// capturedAxes takes the values of the stick readings; ok is false when one of the four is missing.
func capturedAxes(k quad.Known) (map[string]quad.StickAxis, bool) {
	out := map[string]quad.StickAxis{}
	for _, a := range quad.Axes {
		if m := k.Readings.Sticks.Axes[string(a)]; m != nil {
			out[string(a)] = m.Value
		}
	}
	return out, len(out) == len(quad.Axes)
}

func askAxes(r *Result, k quad.Known) {
	for _, a := range quad.Axes {
		if k.Readings.Sticks.Axes[string(a)] == nil {
			r.ask(quad.Path("readings.sticks.axes." + string(a)))
		}
	}
}

var sticksRules = []Rule{
	{
		ID: "sticks.order", Station: Sticks, Reads: []quad.Path{"readings.sticks.axes", "sheet.sticks.order"}, Voids: []Event{Flash},
		Judge: func(k quad.Known) Result {
			var r Result
			axes, ok := capturedAxes(k)
			if !ok {
				askAxes(&r, k)
				return r
			}
			got := sticks.OrderOf(axes)
			want := k.Sheet.Sticks.Order
			paths := []quad.Path{"readings.sticks.axes", "sheet.sticks.order"}
			switch {
			case got == "":
				r.find(Finding{Weight: Stop, Title: "Two sticks arrive on one channel, or beyond the fourth", Figures: "Every stick needs a channel of its own from 1 to 4.", Why: "The board takes one for the other.", Remedies: by("Look at the radio's mixes"), Paths: paths})
			case got != want:
				r.find(Finding{Weight: Stop, Title: "The board takes one stick for another", Figures: "The radio sends " + got + ", the board expects " + orNothing(want) + ".", Why: "At lift-off it answers your throttle with a turn.", Remedies: []Remedy{{Words: "Expect " + got, Edits: []Edit{{"sheet.sticks.order", `"` + got + `"`}}}}, Paths: paths, Scenario: "hover"})
			}
			for _, a := range quad.Axes {
				if axes[string(a)].Reversed {
					r.find(Finding{Weight: Stop, Title: upper(string(a)) + " runs backwards", Figures: fmt.Sprintf("Channel %d.", axes[string(a)].Channel), Why: "Every correction you make goes the wrong way.", Remedies: by("Reverse the channel at the radio"), Paths: []quad.Path{quad.Path("readings.sticks.axes." + string(a))}})
				}
			}
			return r
		},
	},
	{
		ID: "sticks.radio-plan", Station: Sticks, Reads: []quad.Path{"readings.sticks.axes", "radio.order"}, Voids: []Event{Flash},
		Judge: func(k quad.Known) Result {
			var r Result
			axes, ok := capturedAxes(k)
			if !ok {
				askAxes(&r, k)
				return r
			}
			if got := sticks.OrderOf(axes); got != "" && got != k.Radio.Order {
				r.find(Finding{Weight: Note, Title: "The radio sends another order than its plan", Figures: "Captured " + got + ", planned " + orNothing(k.Radio.Order) + ".", Why: "Another quad set up from the plan would get it wrong.", Remedies: []Remedy{{Words: "Plan " + got, Edits: []Edit{{"radio.order", `"` + got + `"`}}}}, Paths: []quad.Path{"readings.sticks.axes", "radio.order"}})
			}
			return r
		},
	},
	{
		ID: "sticks.ends", Station: Sticks, Reads: []quad.Path{"readings.sticks.axes"}, Voids: []Event{Flash},
		Judge: func(k quad.Known) Result {
			var r Result
			axes, ok := capturedAxes(k)
			if !ok {
				askAxes(&r, k)
				return r
			}
			var short []string
			var figures string
			for _, a := range quad.Axes {
				e := axes[string(a)].Ends
				if !sticks.Reaches(e) {
					short = append(short, string(a))
					figures += fmt.Sprintf("%s %.0f to %.0f µs. ", upper(string(a)), e.Low, e.High)
				}
			}
			if len(short) > 0 {
				r.find(Finding{Weight: Fix, Title: upper(join(short)) + " do not reach their ends", Figures: figures + "The board expects 1000 to 2000 µs.", Why: "Full stick is not full answer, and a throttle that does not come down will not arm.", Remedies: by("Set travel to 100 % both ways at the radio, then capture again"), Paths: []quad.Path{"readings.sticks.axes", "radio.travel"}})
			}
			return r
		},
	},
	{
		ID: "sticks.centre", Station: Sticks, Reads: []quad.Path{"readings.sticks.axes", "sheet.sticks.deadband"}, Voids: []Event{Flash},
		Judge: func(k quad.Known) Result {
			var r Result
			axes, ok := capturedAxes(k)
			if !ok {
				askAxes(&r, k)
				return r
			}
			for _, a := range []quad.Axis{quad.Roll, quad.Pitch, quad.Yaw} {
				s := axes[string(a)]
				off := math.Abs(s.Ends.Centre - sticks.Centre)
				if off > sticks.CentreTolerance && off > k.Sheet.Sticks.Deadband {
					r.find(Finding{Weight: Fix, Title: upper(string(a)) + " does not rest at its centre", Figures: fmt.Sprintf("%.0f µs at rest, dead band %.0f µs.", s.Ends.Centre, k.Sheet.Sticks.Deadband), Why: "It turns slowly by itself.", Remedies: by("Zero the trim at the radio"), Paths: []quad.Path{quad.Path("readings.sticks.axes." + string(a)), "sheet.sticks.deadband"}})
				}
				if 3*s.Jitter > k.Sheet.Sticks.Deadband && s.Jitter > 1 {
					r.find(Finding{Weight: Note, Title: upper(string(a)) + " trembles more than its dead band hides", Figures: fmt.Sprintf("One sigma is %s, the dead band %s.", q(round1(s.Jitter), "µs"), q(k.Sheet.Sticks.Deadband, "µs")), Why: "The controller works on noise.", Remedies: by("A dead band of three sigma"), Paths: []quad.Path{"sheet.sticks.deadband"}})
				}
			}
			return r
		},
	},
	{
		ID: "sticks.arm-range", Station: Sticks, Reads: []quad.Path{"readings.sticks.switches", "sheet.sticks.arm", "radio.switches"}, Voids: []Event{Flash},
		Judge: func(k quad.Known) Result { return rangeRule(k, k.Sheet.Sticks.Arm, "arm", "Armed", true) },
	},
	{
		ID: "sticks.level-range", Station: Sticks, Reads: []quad.Path{"readings.sticks.switches", "sheet.sticks.selfLevel", "radio.switches"}, Voids: []Event{Flash},
		Judge: func(k quad.Known) Result {
			return rangeRule(k, k.Sheet.Sticks.SelfLevel, "selfLevel", "Self-level", false)
		},
	},
	{
		ID: "sticks.arm-alone", Station: Sticks, Reads: []quad.Path{"sheet.sticks.arm", "sheet.sticks.selfLevel", "sheet.sticks.beeper"},
		Judge: func(k quad.Known) Result {
			var r Result
			s := k.Sheet.Sticks
			for _, o := range []struct {
				name string
				path quad.Path
				rng  quad.Range
			}{{"self-level", "sheet.sticks.selfLevel", s.SelfLevel}, {"the beeper", "sheet.sticks.beeper", s.Beeper}} {
				if s.Arm.Used() && o.rng.Channel == s.Arm.Channel {
					r.find(Finding{Weight: Fix, Title: "Arm shares its channel with " + o.name, Figures: fmt.Sprintf("Channel %d.", s.Arm.Channel), Why: "One hand movement then means two things; arm must mean one.", Remedies: by("Give arm a channel of its own"), Paths: []quad.Path{"sheet.sticks.arm", o.path}})
				}
			}
			return r
		},
	},
	{
		ID: "sticks.throttle-rest", Station: Sticks, Reads: []quad.Path{"readings.sticks.axes.throttle", "sheet.sticks.idleBelow"}, Voids: []Event{Flash},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.Sticks.Axes["throttle"]
			if m == nil {
				r.ask("readings.sticks.axes.throttle")
				return r
			}
			if low, want := m.Value.Ends.Low, k.Sheet.Sticks.IdleBelow; low > want {
				r.find(Finding{Weight: Fix, Title: "The throttle never counts as at rest", Figures: fmt.Sprintf("Its low end arrives at %.0f µs, at rest is up to %.0f µs.", low, want), Why: "It will refuse to arm.", Remedies: by("Bring the low end down at the radio"), Paths: []quad.Path{"readings.sticks.axes.throttle", "sheet.sticks.idleBelow"}})
			}
			return r
		},
	},
}

// rangeRule judges a range by the captured positions of the switch on its channel. One that must (arm)
// cannot be left out.
func rangeRule(k quad.Known, rng quad.Range, field, name string, must bool) Result {
	var r Result
	at := quad.Path("sheet.sticks." + field)
	if !rng.Used() {
		if must {
			r.find(Finding{Weight: Stop, Title: "Nothing arms it", Figures: "The arm range is on no channel.", Why: "What cannot be armed on purpose may be armed by accident.", Remedies: by("Give arm a channel and a range"), Paths: []quad.Path{at}})
		}
		return r
	}
	seen := sticks.Against(rng, sticks.Captured(k))
	if len(seen) == 0 {
		for _, planned := range quad.SortedKeys(k.Radio.Switches) {
			if k.Radio.Switches[planned].Channel == rng.Channel {
				r.ask(quad.Path("readings.sticks.switches." + planned))
				return r
			}
		}
		r.find(Finding{Weight: Stop, Title: name + " is on a channel that no switch drives", Figures: fmt.Sprintf("Channel %d.", rng.Channel), Why: "Whatever lies on that channel decides.", Remedies: by("Put a switch on it in the radio plan"), Paths: []quad.Path{at, "radio.switches"}})
		return r
	}
	var inside, outside []float64
	for _, p := range seen {
		if p.Inside {
			inside = append(inside, p.Pulse)
		} else {
			outside = append(outside, p.Pulse)
		}
	}
	paths := []quad.Path{"readings.sticks.switches", at}
	if len(inside) == 0 {
		r.find(Finding{Weight: Stop, Title: name + " cannot be reached", Figures: fmt.Sprintf("Channel %d never comes inside %.0f to %.0f µs.", rng.Channel, rng.From, rng.To), Why: "The switch does nothing.", Remedies: by("Widen the range, or mend the switch's travel"), Paths: paths})
		return r
	}
	if len(outside) == 0 {
		r.find(Finding{Weight: Stop, Title: name + " is on in every position", Figures: fmt.Sprintf("All of channel %d lies inside %.0f to %.0f µs.", rng.Channel, rng.From, rng.To), Why: "It cannot be switched off.", Remedies: by("Narrow the range"), Paths: paths})
		return r
	}
	worst := seen[0]
	for _, p := range seen {
		if math.Abs(p.Margin) < math.Abs(worst.Margin) {
			worst = p
		}
	}
	if hold := sticks.HoldOf(worst.Margin); hold != sticks.Sure {
		m := math.Abs(worst.Margin)
		better := sticks.CentredRange(rng.Channel, inside, outside)
		f := Finding{
			Weight: Fix, Title: name + " is only just decided",
			Figures: fmt.Sprintf("The %s switch arrives at %.0f µs when %s, %.0f µs from the range's edge (%.0f to %.0f µs). %.0f is the least that holds.", worst.Switch, worst.Pulse, worst.Position, m, rng.From, rng.To, sticks.EdgeMargin),
			Why:     "A warm radio or another receiver moves a pulse by as much.",
			Remedies: []Remedy{{Words: fmt.Sprintf("Put the range at %.0f to %.0f µs", better.From, better.To), Edits: []Edit{
				{at + ".from", q(better.From, "")}, {at + ".to", q(better.To, "")},
			}}},
			Paths: paths,
		}
		if hold == sticks.Edge {
			f.Weight = Stop
			f.Why = "It may disarm in the air, or arm by itself. " + f.Why
		}
		r.find(f)
	}
	return r
}
