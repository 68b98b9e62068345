package check

import (
	"fmt"
	"math"

	"vividperch/core/feel"
	"vividperch/core/flight"
	"vividperch/core/quad"
	"vividperch/core/senses"
	"vividperch/core/sticks"
)

// capturedAxes takes the values of the four stick readings; ok is false when one is missing, which is then
// asked for.
func (r *Result) capturedAxes(k quad.Known) (axes map[string]quad.StickAxis, ok bool) {
	axes = map[string]quad.StickAxis{}
	for _, a := range quad.Axes {
		if m := k.Readings.Sticks.Axes[string(a)]; m != nil {
			axes[string(a)] = m.Value
		} else {
			r.ask(quad.Path("readings.sticks.axes." + string(a)))
		}
	}
	return axes, len(axes) == len(quad.Axes)
}

var sticksRules = []Rule{
	{
		ID:      "sticks.order",
		Station: Sticks,
		Reads:   []quad.Path{"readings.sticks.axes", "sheet.sticks.order"},
		Voids:   []Event{Flash},
		Judge: func(k quad.Known) Result {
			var r Result
			axes, ok := r.capturedAxes(k)
			if !ok {
				return r
			}
			got := sticks.OrderOf(axes)
			want := k.Sheet.Sticks.Order
			paths := []quad.Path{"readings.sticks.axes", "sheet.sticks.order"}
			switch {
			case got == "":
				r.find(Finding{
					Weight:   Stop,
					Title:    "Two sticks arrive on one channel, or beyond the fourth",
					Figures:  "Every stick needs a channel of its own from 1 to 4.",
					Why:      "The board takes one for the other.",
					Remedies: by("Look at the radio's mixes"),
					Paths:    paths,
				})
			case got != want:
				r.find(Finding{
					Weight:   Stop,
					Title:    "The board takes one stick for another",
					Figures:  "The radio sends " + got + ", the board expects " + orNothing(want) + ".",
					Why:      "At lift-off it answers your throttle with a turn.",
					Remedies: []Remedy{{Words: "Expect " + got, Edits: []Edit{{"sheet.sticks.order", `"` + got + `"`}}}},
					Paths:    paths,
					Shows:    flight.FaultChannels,
				})
			}
			for _, a := range quad.Axes {
				if axes[string(a)].Reversed {
					r.find(Finding{
						Weight:   Stop,
						Title:    quad.Upper(string(a)) + " runs backwards",
						Figures:  fmt.Sprintf("Channel %d.", axes[string(a)].Channel),
						Why:      "Every correction you make goes the wrong way.",
						Remedies: by("Reverse the channel at the radio"),
						Paths:    []quad.Path{quad.Path("readings.sticks.axes." + string(a))},
						Shows:    flight.FaultDirection,
					})
				}
			}
			return r
		},
	},
	{
		ID:      "sticks.radio-plan",
		Station: Sticks,
		Reads:   []quad.Path{"readings.sticks.axes", "radio.order"},
		Voids:   []Event{Flash},
		Judge: func(k quad.Known) Result {
			var r Result
			axes, ok := r.capturedAxes(k)
			if !ok {
				return r
			}
			if got := sticks.OrderOf(axes); got != "" && got != k.Radio.Order {
				r.find(Finding{
					Weight:   Note,
					Title:    "The radio sends another order than its plan",
					Figures:  "Captured " + got + ", planned " + orNothing(k.Radio.Order) + ".",
					Why:      "Another quad set up from the plan would get it wrong.",
					Remedies: []Remedy{{Words: "Plan " + got, Edits: []Edit{{"radio.order", `"` + got + `"`}}}},
					Paths:    []quad.Path{"readings.sticks.axes", "radio.order"},
				})
			}
			return r
		},
	},
	{
		ID:      "sticks.ends",
		Station: Sticks,
		Reads:   []quad.Path{"readings.sticks.axes", "sheet.sticks.ranges"},
		Voids:   []Event{Flash},
		Judge: func(k quad.Known) Result {
			var r Result
			axes, ok := r.capturedAxes(k)
			if !ok {
				return r
			}
			var short, figures []string
			weight := Fix
			var edits []Edit
			worst := 0.0
			for _, a := range quad.Axes {
				e := axes[string(a)].Ends
				got := sticks.Mapped(k.Sheet.Sticks.Ranges.Of(a), e)
				if sticks.Reaches(got) {
					continue
				}
				short = append(short, string(a))
				if sticks.FarBeyond(got) {
					weight = Stop
				}
				figures = append(figures, fmt.Sprintf("%s %.0f to %.0f µs", quad.Upper(string(a)), got.Low, got.High))
				edits = append(edits, Edit{quad.Path("sheet.sticks.ranges." + string(a)), fmt.Sprintf(`{"low":%.0f,"centre":%.0f,"high":%.0f}`, e.Low, e.Centre, e.High)})
				worst = math.Max(worst, sticks.Lost(e))
			}
			if len(short) > 0 {
				one, more, why := "does not reach", "do not reach", "Full stick is not full answer, and a throttle that does not come down will not arm."
				if weight == Stop {
					one, more, why = "runs far beyond", "run far beyond", "Half a stick is already all of it: it answers half as much again as you ask, and is hard to hold."
				}
				title := quad.Upper(quad.And(short)) + " " + more + " their ends"
				if len(short) == 1 {
					title = quad.Upper(short[0]) + " " + one + " its ends"
				}
				r.find(Finding{
					Weight:  weight,
					Title:   title,
					Figures: quad.And(figures) + ". The board expects " + q(sticks.Low, "") + " to " + q(sticks.High, "µs") + ".",
					Why:     why,
					Remedies: []Remedy{
						{Words: "Set travel to 100 % both ways at the radio, then capture again"},
						{Words: fmt.Sprintf("Or have the board stretch what arrives; it loses %.0f %% of its steps", 100*worst), Edits: edits},
					},
					Paths: []quad.Path{"readings.sticks.axes", "sheet.sticks.ranges"},
				})
			}
			return r
		},
	},
	{
		ID:      "sticks.centre",
		Station: Sticks,
		Reads:   append(profilesOf("angleLimit"), "readings.sticks.axes", "sheet.sticks.deadband", "sheet.sticks.ranges", "sheet.feel.angleLimit", "parts.frame.dragArea", "readings.airframe.weight"),
		Voids:   []Event{Flash},
		Judge: func(k quad.Known) Result {
			var r Result
			axes, ok := r.capturedAxes(k)
			if !ok {
				return r
			}
			for _, a := range []quad.Axis{quad.Roll, quad.Pitch, quad.Yaw} {
				s := axes[string(a)]
				centre := sticks.Through(k.Sheet.Sticks.Ranges.Of(a), s.Ends.Centre)
				off := math.Abs(centre - sticks.Centre)
				if off > sticks.CentreTolerance && off > k.Sheet.Sticks.Deadband {
					asks, weight := "It turns slowly by itself.", Fix
					if a != quad.Yaw {
						lean := math.Abs(sticks.Map(centre, k.Sheet.Sticks.Deadband)) * feel.MostLean(feel.Profiles(&k.Sheet))
						asks = fmt.Sprintf("In self-level it leans by %s and drifts off", q(round1(lean), "deg"))
						if w := k.Readings.Airframe.Weight; w != nil {
							// A hold takes a stick for a speed; what leans by as much goes as fast.
							if v := flight.LevelSpeed(k.Parts, w.Value, lean); v > 0 {
								asks += ", in still air with up to " + q(round1(v), "m/s")
							}
						}
						asks += "."
						if lean > senses.LeanMost {
							weight, asks = Stop, asks+" It may tip over before it has left its feet."
						}
					}
					r.find(Finding{
						Weight:   weight,
						Title:    quad.Upper(string(a)) + " does not rest at its centre",
						Figures:  fmt.Sprintf("%.0f µs at rest, dead band %.0f µs.", centre, k.Sheet.Sticks.Deadband),
						Why:      asks,
						Remedies: by("Zero the trim at the radio"),
						Paths:    []quad.Path{quad.Path("readings.sticks.axes." + string(a)), "sheet.sticks.deadband"},
					})
				}
				if s.Hysteresis > 2*sticks.CentreTolerance {
					r.find(Finding{
						Weight:   Note,
						Title:    quad.Upper(string(a)) + " comes back to two centres",
						Figures:  q(round1(s.Hysteresis), "µs") + " apart, by the side it was let go from.",
						Why:      "No trim and no dead band makes both of them right.",
						Remedies: by("A worn spring or sensor in the gimbal"),
						Paths:    []quad.Path{quad.Path("readings.sticks.axes." + string(a))},
					})
				}
				if least := sticks.DeadbandFor(s.Jitter); least > k.Sheet.Sticks.Deadband && s.Jitter > 1 {
					r.find(Finding{
						Weight:   Note,
						Title:    quad.Upper(string(a)) + " trembles more than its dead band hides",
						Figures:  fmt.Sprintf("One sigma is %s, the dead band %s.", q(round1(s.Jitter), "µs"), q(k.Sheet.Sticks.Deadband, "µs")),
						Why:      "The controller works on noise.",
						Remedies: []Remedy{{Words: "A dead band of three sigma, " + q(least, "µs"), Edits: []Edit{{"sheet.sticks.deadband", q(least, "")}}}},
						Paths:    []quad.Path{"sheet.sticks.deadband"},
					})
				}
			}
			return r
		},
	},
	{
		ID:      "sticks.arm-range",
		Station: Sticks,
		Reads:   []quad.Path{"readings.sticks.switches", "sheet.sticks.arm", "sheet.sticks.armByStick", "radio.switches"},
		Voids:   []Event{Flash},
		Judge:   func(k quad.Known) Result { return rangeRule(k, k.Sheet.Sticks.Arm, "arm", "Armed", true) },
	},
	{
		ID:      "sticks.level-range",
		Station: Sticks,
		Reads:   []quad.Path{"readings.sticks.switches", "sheet.sticks.selfLevel", "radio.switches"},
		Voids:   []Event{Flash},
		Judge: func(k quad.Known) Result {
			r := rangeRule(k, k.Sheet.Sticks.SelfLevel, "selfLevel", "Self-level", false)
			level := k.Sheet.Sticks.SelfLevel
			for _, name := range quad.SortedKeys(k.Radio.Switches) {
				plan := k.Radio.Switches[name]
				seen := k.Readings.Sticks.Switches[name]
				if !level.Used() || !plan.Springs || plan.Channel != level.Channel || seen == nil || level.Holds(seen.Value.Positions[plan.Rest]) {
					continue // let go, one that springs to self-level levels it
				}
				r.find(Finding{
					Weight:   Fix,
					Title:    "Self-level lasts only while its switch is held",
					Subject:  "springs",
					Figures:  "The " + name + " switch springs back to " + orNothing(plan.Rest) + ".",
					Why:      "With the hands full on the sticks it is gone, in the moment it is needed.",
					Remedies: by("Put self-level on a switch that stays, or on the position it springs to"),
					Paths:    []quad.Path{quad.Path("radio.switches." + name + ".springs"), "sheet.sticks.selfLevel"},
				})
			}
			return r
		},
	},
	{
		ID:      "sticks.beeper-range",
		Station: Sticks,
		Reads:   []quad.Path{"readings.sticks.switches", "sheet.sticks.beeper", "radio.switches"},
		Voids:   []Event{Flash},
		Judge: func(k quad.Known) Result {
			return rangeRule(k, k.Sheet.Sticks.Beeper, "beeper", "The beeper", false)
		},
	},
	{
		ID:      "sticks.throttle-rest",
		Station: Sticks,
		Reads:   []quad.Path{"readings.sticks.axes.throttle", "sheet.sticks.idleBelow", "sheet.sticks.ranges.throttle", "sheet.motors.reversible"},
		Voids:   []Event{Flash},
		Judge: func(k quad.Known) Result {
			var r Result
			if below := k.Sheet.Sticks.IdleBelow; below > sticks.IdleBelowMost && !k.Sheet.Motors.Reversible {
				r.find(Finding{
					Weight:   Fix,
					Title:    "The throttle counts as closed far up its way",
					Subject:  "idle below",
					Figures:  q(below, "µs") + "; up to " + q(sticks.IdleBelowMost, "µs") + " is useful.",
					Why:      "In the air it stops correcting below that, and it arms with the stick well open.",
					Remedies: []Remedy{{Words: "Closed up to " + q(sticks.IdleBelowUsual, "µs"), Edits: []Edit{{"sheet.sticks.idleBelow", q(sticks.IdleBelowUsual, "")}}}},
					Paths:    []quad.Path{"sheet.sticks.idleBelow"},
				})
			}
			m := k.Readings.Sticks.Axes["throttle"]
			if m == nil {
				r.ask("readings.sticks.axes.throttle")
				return r
			}
			end, us, mend := "low end", m.Value.Ends.Low, "Bring the low end down at the radio"
			if k.Sheet.Motors.Reversible {
				end, us, mend = "middle", m.Value.Ends.Centre, "Bring its middle to 1500 µs at the radio"
			}
			us = sticks.Through(k.Sheet.Sticks.Ranges.Throttle, us)
			if rest := sticks.RestOf(k.Sheet.Sticks, k.Sheet.Motors.Reversible); !rest.Holds(us) {
				r.find(Finding{
					Weight:   Fix,
					Title:    "The throttle never counts as at rest",
					Figures:  fmt.Sprintf("Its %s arrives at %.0f µs, at rest is %s.", end, us, rest.Words()),
					Why:      "It will refuse to arm.",
					Remedies: by(mend),
					Paths:    []quad.Path{"readings.sticks.axes.throttle", "sheet.sticks.idleBelow"},
				})
			}
			return r
		},
	},
}

// plannedOn gives where the captures are of the switches that are planned on a channel, by name.
func plannedOn(k quad.Known, channel int) []quad.Path {
	var out []quad.Path
	for _, name := range quad.SortedKeys(k.Radio.Switches) {
		if k.Radio.Switches[name].Channel == channel {
			out = append(out, quad.Path("readings.sticks.switches."+name))
		}
	}
	return out
}

// rangeRule judges a range by the captured positions of the switch on its channel. One that must (arm)
// cannot be left out.
func rangeRule(k quad.Known, rng quad.Range, field, name string, must bool) Result {
	var r Result
	at := quad.Path("sheet.sticks." + field)
	if !rng.Used() {
		if must && !k.Sheet.Sticks.ArmByStick {
			r.find(Finding{
				Weight:   Stop,
				Title:    "Nothing arms it",
				Figures:  "The arm range is on no channel.",
				Why:      "What cannot be armed on purpose may be armed by accident.",
				Remedies: by("Give arm a channel and a range"),
				Paths:    []quad.Path{at},
			})
		}
		return r
	}
	seen := sticks.Against(rng, sticks.Captured(k))
	if len(seen) == 0 {
		if planned := plannedOn(k, rng.Channel); len(planned) > 0 {
			r.ask(planned[0])
			return r
		}
		r.find(Finding{
			Weight:   Stop,
			Title:    name + " is on a channel that no switch drives",
			Figures:  fmt.Sprintf("Channel %d.", rng.Channel),
			Why:      "Whatever lies on that channel decides.",
			Remedies: by("Put a switch on it in the radio plan"),
			Paths:    []quad.Path{at, "radio.switches"},
		})
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
		r.find(Finding{
			Weight:   Stop,
			Title:    name + " cannot be reached",
			Figures:  fmt.Sprintf("Channel %d never comes inside %.0f to %.0f µs.", rng.Channel, rng.From, rng.To),
			Why:      "The switch does nothing.",
			Remedies: by("Widen the range, or mend the switch's travel"),
			Paths:    paths,
		})
		return r
	}
	if len(outside) == 0 {
		var shows flight.Fault
		if must {
			shows = flight.FaultArmSwitch
		}
		r.find(Finding{
			Weight:   Stop,
			Title:    name + " is on in every position",
			Figures:  fmt.Sprintf("All of channel %d lies inside %.0f to %.0f µs.", rng.Channel, rng.From, rng.To),
			Why:      "It cannot be switched off.",
			Remedies: by("Narrow the range"),
			Paths:    paths,
			Shows:    shows,
		})
		return r
	}
	better := sticks.CentredRange(rng.Channel, inside, outside)
	if clear, ok := sticks.ArmRange(rng.Channel, inside, outside); must && ok {
		better = clear
	}
	put := []Remedy{{Words: fmt.Sprintf("Put the range at %.0f to %.0f µs", better.From, better.To), Edits: []Edit{
		{at + ".from", q(better.From, "")}, {at + ".to", q(better.To, "")},
	}}}
	if must && rng.Holds(sticks.Centre) {
		f := Finding{
			Weight:   Stop,
			Title:    "The middle of its channel arms it",
			Subject:  "the middle",
			Figures:  fmt.Sprintf("%.0f to %.0f µs holds %.0f µs.", rng.From, rng.To, sticks.Centre),
			Why:      "That is what a channel sends that nobody drives, or that is missing.",
			Remedies: put,
			Paths:    paths,
		}
		if better.Holds(sticks.Centre) {
			f.Remedies = by("Arm by the end of a switch, not by its middle")
		}
		r.find(f)
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
		f := Finding{
			Weight:   Fix,
			Title:    name + " is only just decided",
			Figures:  fmt.Sprintf("The %s switch arrives at %.0f µs when %s, %.0f µs from the range's edge (%.0f to %.0f µs). %.0f is the least that holds.", worst.Switch, worst.Pulse, worst.Position, m, rng.From, rng.To, sticks.EdgeMargin),
			Why:      "A warm radio or another receiver moves a pulse by as much.",
			Remedies: put,
			Paths:    paths,
		}
		if hold == sticks.Edge {
			f.Weight = Stop
			f.Why = "It may disarm in the air, or arm by itself. " + f.Why
		}
		r.find(f)
	}
	return r
}
