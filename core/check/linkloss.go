package check

import (
	"math"
	"slices"

	"vividperch/core/airframe"
	"vividperch/core/flight"
	"vividperch/core/linkloss"
	"vividperch/core/motors"
	"vividperch/core/quad"
)

var linkLossRules = []Rule{
	{
		ID:      "link-loss.noticed",
		Station: LinkLoss,
		Reads:   []quad.Path{"readings.loss.output", "sheet.loss.policy", "sheet.loss.guard", "sheet.sticks.arm", "radio.switches", "readings.sticks.switches"},
		Days:    30,
		Voids:   []Event{Flash, LinkFlash, Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.Loss.Output
			if m == nil {
				r.ask("readings.loss.output")
				return r
			}
			preset := m.Value == quad.LossPreset && linkloss.Disarms(k)
			switch {
			case preset && k.Sheet.Loss.Policy == quad.PolicyDrop:
				r.find(Finding{
					Weight:   Note,
					Title:    "On a loss it is the receiver that stops the motors",
					Figures:  "It puts out the arm switch off, and the board disarms at once, without its failsafe delay of " + q(k.Sheet.Loss.Guard, "s") + ".",
					Why:      "A moment's fade drops it, and a receiver bound anew may put out something else.",
					Remedies: by("Set the receiver to send nothing on loss, then turn the radio off again and watch"),
					Paths:    []quad.Path{"readings.loss.output", "radio.switches"},
				})
			case preset:
				r.find(Finding{
					Weight:   Stop,
					Title:    "The receiver stops the motors before the board can act on a loss",
					Figures:  "It puts out the arm switch off; the board is set to " + string(k.Sheet.Loss.Policy) + ", which never comes.",
					Why:      "It falls, from wherever it is.",
					Remedies: by("Set the receiver to send nothing on loss, then turn the radio off again and watch"),
					Paths:    []quad.Path{"readings.loss.output", "radio.switches", "sheet.loss.policy"},
				})
			case !linkloss.Notices(m.Value):
				r.find(Finding{
					Weight:   Stop,
					Title:    "The receiver hides a loss, so the board never acts on it",
					Figures:  "Without a radio it goes on sending (" + string(m.Value) + "); the board is set to " + string(k.Sheet.Loss.Policy) + ", which never comes.",
					Why:      "It flies on with your last stick positions until the pack is empty.",
					Remedies: by("Set the receiver to send nothing on loss, then turn the radio off again and watch"),
					Paths:    []quad.Path{"readings.loss.output", "sheet.loss.policy"},
					Shows:    flight.FaultLoss,
				})
			}
			return r
		},
	},
	{
		ID:      "link-loss.reversible",
		Station: LinkLoss,
		Reads:   []quad.Path{"readings.loss.output", "sheet.motors.reversible", "sheet.sticks.arm", "radio.order", "radio.switches", "readings.sticks.switches"},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.Loss.Output
			if !k.Sheet.Motors.Reversible {
				return r
			}
			if m == nil {
				r.ask("readings.loss.output")
				return r
			}
			if m.Value != quad.LossPreset {
				return r
			}
			throttle := quad.ChannelIn(k.Radio.Order, quad.Throttle)
			if throttle < 1 || linkloss.Disarms(k) {
				return r
			}
			presets := linkloss.Presets(k)
			r.find(Finding{
				Weight:   Stop,
				Title:    "Without a radio it is driven at the ground",
				Figures:  "The receiver then puts out " + q(presets[throttle-1], "µs") + " of throttle, which is full thrust downward here, and does not disarm.",
				Why:      "With reversible thrust the low end of the throttle is no rest.",
				Remedies: by("Set the receiver to send nothing on loss, or have its presets disarm"),
				Paths:    []quad.Path{"readings.loss.output", "sheet.motors.reversible"},
				Shows:    flight.FaultLoss,
			})
			return r
		},
	},
	{
		ID:      "link-loss.guard",
		Station: LinkLoss,
		Reads:   []quad.Path{"sheet.loss.guard"},
		Judge: func(k quad.Known) Result {
			var r Result
			g := k.Sheet.Loss.Guard
			if g < linkloss.GuardMin || g > linkloss.GuardMax {
				r.find(Finding{
					Weight:   Fix,
					Title:    "The failsafe delay does not fit",
					Figures:  q(g, "s") + "; " + q(linkloss.GuardMin, "") + " to " + q(linkloss.GuardMax, "s") + " is useful.",
					Why:      "Too short cuts a flight over a moment's fade, too long flies on blind.",
					Remedies: []Remedy{{Words: "Wait 1 s", Edits: []Edit{{"sheet.loss.guard", "1"}}}},
					Paths:    []quad.Path{"sheet.loss.guard"},
				})
			}
			return r
		},
	},
	{
		ID:      "link-loss.response",
		Station: LinkLoss,
		Reads:   []quad.Path{"readings.loss.response", "sheet.loss.guard", "sheet.loss.policy"},
		Days:    1,
		Voids:   []Event{Flash, LinkFlash, Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.Loss.Response
			if m == nil {
				r.ask("readings.loss.response")
				return r
			}
			policy := k.Sheet.Loss.Policy
			lands := policy.Descends() // without a home or a place to know a return comes down too
			switch most := k.Sheet.Loss.Guard + linkloss.Stop; {
			case lands && m.Value.Motors == quad.StoppedAfter:
				r.find(Finding{
					Weight:   Stop,
					Title:    "The motors stopped where it should descend",
					Figures:  "They stopped after " + q(round2(m.Value.After), "s") + ".",
					Why:      "Lost in flight it falls, from wherever it is.",
					Remedies: by("Write your settings to the board, then measure again; or have it stop its motors, and mean it"),
					Paths:    []quad.Path{"readings.loss.response", "sheet.loss.policy"},
				})
			case policy == quad.PolicyLand && m.Value.Motors == quad.Rose:
				r.find(Finding{
					Weight:   Stop,
					Title:    "The motors rose where it should descend",
					Figures:  "They went as to climb.",
					Why:      "Lost in flight it goes up, and away.",
					Remedies: by("Lower the landing throttle, write your settings to the board, then measure again"),
					Paths:    []quad.Path{"readings.loss.response", "sheet.loss.policy"},
				})
			case policy == quad.PolicyReturn && m.Value.Motors == quad.WentOver:
				r.find(Finding{
					Weight:   Note,
					Title:    "The way home was not seen to begin",
					Figures:  "On the bench it came down: it did not know its place, or where home is.",
					Why:      "So it does in the air, wherever the sky is poor as it is armed.",
					Remedies: by("Under the open sky, once it has its satellites: arm, then lose the radio; the motors rise as to climb"),
					Paths:    []quad.Path{"readings.loss.response", "sheet.loss.policy"},
				})
			case !lands && (m.Value.Motors == quad.WentOver || m.Value.Motors == quad.Rose):
				r.find(Finding{
					Weight:   Stop,
					Title:    "The motors went on, at a throttle of their own",
					Figures:  "It is set to stop them.",
					Why:      "The board does something else than you meant.",
					Remedies: by("Write your settings to the board, then measure again"),
					Paths:    []quad.Path{"readings.loss.response", "sheet.loss.policy"},
				})
			case m.Value.Motors == quad.NeverStopped:
				r.find(Finding{
					Weight:   Stop,
					Title:    "The motors went on after the radio was off",
					Figures:  "They never stopped; " + q(k.Sheet.Loss.Guard, "s") + " is the failsafe delay.",
					Why:      "A loss in flight would not end it.",
					Remedies: by("Mend what the receiver puts out, then measure again"),
					Paths:    []quad.Path{"readings.loss.response", "sheet.loss.policy"},
				})
			case !lands && m.Value.After > most:
				r.find(Finding{
					Weight:   Fix,
					Title:    "The motors stopped later than set",
					Figures:  q(round2(m.Value.After), "s") + " measured; guard " + q(k.Sheet.Loss.Guard, "s") + " and a run-down of up to " + q(linkloss.Stop, "s") + ".",
					Why:      "Something between radio and motors holds on.",
					Remedies: by("Look for a second hold: in the receiver, in the radio"),
					Paths:    []quad.Path{"readings.loss.response", "sheet.loss.guard"},
				})
			}
			return r
		},
	},
	{
		ID:      "link-loss.land-throttle",
		Station: LinkLoss,
		Reads:   reads("sheet.loss.policy", "sheet.loss.landThrottle", "sheet.motors.idle", "sheet.motors.linear", "sheet.feel.throttleLimit", "sheet.feel.throttleCut", "readings.airframe.weight", "parts.frame.dragArea"),
		Judge: func(k quad.Known) Result {
			var r Result
			if !k.Sheet.Loss.Policy.Descends() {
				return r
			}
			weight, ok := r.weighed(k)
			if !ok {
				return r
			}
			if _, _, ok := driveFor(k.Parts, airframe.RestCell); !ok {
				return missingDrive(k)
			}
			r.landing(k, weight)
			return r
		},
	},
	{
		ID:      "link-loss.beeper",
		Station: LinkLoss,
		Reads:   []quad.Path{"readings.loss.beeper", "sheet.sticks.beeper.channel"},
		Voids:   []Event{Crash, Repair, Flash},
		Judge: func(k quad.Known) Result {
			var r Result
			if !k.Sheet.Sticks.Beeper.Used() { // which Sticks says
				return r
			}
			confirm(&r, k.Readings.Loss.Beeper, "readings.loss.beeper", true, Finding{
				Weight:   Fix,
				Title:    "The beeper is not heard",
				Why:      "What came down in high grass is found by its noise, or not at all.",
				Remedies: by("Look at its wires and its switch, write your settings to the board, and listen again"),
			})
			return r
		},
	},
	{
		ID:      "link-loss.no-rearm",
		Station: LinkLoss,
		Reads:   []quad.Path{"readings.loss.rearms"},
		Days:    30,
		Voids:   []Event{Flash},
		Judge: func(k quad.Known) Result {
			var r Result
			confirm(&r, k.Readings.Loss.Rearms, "readings.loss.rearms", false, Finding{
				Weight:   Stop,
				Title:    "It arms by itself when the radio comes back",
				Why:      "You walk up to a quad that starts.",
				Remedies: by("Make the board ask for the arm switch to go off once"),
			})
			return r
		},
	},
}

// landing judges the landing throttle with every pack, full and low.
func (r *Result) landing(k quad.Known, weight float64) {
	output := motors.OutputOf(&k.Sheet)
	at := func(throttle float64) []flight.Landing {
		return flight.Landings(k.Parts, weight, throttle, output)
	}
	land := k.Sheet.Loss.LandThrottle
	list := at(land)
	if !slices.ContainsFunc(list, func(l flight.Landing) bool { return l.Hover <= 100 }) {
		return // it does not even hover, which the rule on the limit says
	}
	up, hardest := worst(list)
	f := Finding{Paths: []quad.Path{"sheet.loss.landThrottle", "readings.airframe.weight", "parts.packs"}}
	how := func(l *flight.Landing) string {
		return q(round1(l.Speed), "m/s") + " and " + q(math.Round(l.Energy), "J") + " with " + l.Pack + " at " + q(l.Cell, "V") + " a cell"
	}
	switch {
	case up != nil:
		f.Weight, f.Title = Stop, "The landing throttle does not bring it down"
		f.Figures = q(land, "%") + " set; with " + up.Pack + " at " + q(up.Cell, "V") + " a cell " + q(round1(up.Hover), "%") + " holds it in the air."
		f.Why = "Without a radio it climbs away, until the pack is empty."
	case hardest != nil && hardest.Speed > linkloss.LandsHard:
		f.Weight, f.Title = Fix, "The landing throttle brings it down hard"
		f.Figures = q(land, "%") + " set: " + how(hardest) + "; " + q(linkloss.LandsHard, "m/s") + " is the most."
		f.Why = "One throttle for every pack and charge: what just sinks when it is full falls when it is low."
	default:
		return
	}
	best := flight.Softest(k.Parts, weight, output)
	_, softest := worst(at(best))
	switch {
	case best < 1 || softest == nil:
		f.Remedies = by("Have it stop its motors: no throttle brings it down with every pack")
	case softest.Speed <= linkloss.LandsHard || f.Weight == Stop:
		f.Remedies = []Remedy{{Words: "Land at " + q(best, "%") + ": at most " + how(softest), Edits: []Edit{{"sheet.loss.landThrottle", q(best, "")}}}}
	default:
		f.Remedies = by("The softest for all packs is " + q(best, "%") + ", with at most " + how(softest) + "; or have it stop its motors, low and away from people")
	}
	r.find(f)
}

// worst of some landings: of those that stay up the one that the least throttle holds, of the others the hardest; nil where there is none.
func worst(list []flight.Landing) (up, hardest *flight.Landing) {
	for i := range list {
		switch l := &list[i]; {
		case !l.ComesDown():
			if up == nil || l.Hover < up.Hover {
				up = l
			}
		case hardest == nil || l.Speed > hardest.Speed:
			hardest = l
		}
	}
	return up, hardest
}
