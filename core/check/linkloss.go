package check

import (
	"math"

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
		Reads:   []quad.Path{"readings.loss.output", "sheet.loss.policy"},
		Days:    30,
		Voids:   []Event{Flash, Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.Loss.Output
			if m == nil {
				r.ask("readings.loss.output")
				return r
			}
			if !linkloss.Notices(m.Value) {
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
			presets := linkloss.Presets(k)
			arm := k.Sheet.Sticks.Arm
			throttle := quad.ChannelIn(k.Radio.Order, quad.Throttle)
			if throttle < 1 || arm.Used() && arm.Channel <= len(presets) && !arm.Holds(presets[arm.Channel-1]) {
				return r
			}
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
					Title:    "The guard time does not fit",
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
		Voids:   []Event{Flash, Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.Loss.Response
			if m == nil {
				r.ask("readings.loss.response")
				return r
			}
			if k.Sheet.Loss.Policy != quad.PolicyDrop {
				return r // only drop stops the motors on a bench
			}
			switch most := k.Sheet.Loss.Guard + linkloss.Stop; {
			case m.Value.Motors == quad.NeverStopped:
				r.find(Finding{
					Weight:   Stop,
					Title:    "The motors went on after the radio was off",
					Figures:  "They never stopped; " + q(k.Sheet.Loss.Guard, "s") + " is the guard time.",
					Why:      "A loss in flight would not end it.",
					Remedies: by("Mend what the receiver puts out, then measure again"),
					Paths:    []quad.Path{"readings.loss.response", "sheet.loss.policy"},
				})
			case m.Value.After > most:
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
		Reads:   reads("sheet.loss.policy", "sheet.loss.landThrottle", "sheet.motors.idle", "sheet.feel.throttleLimit", "readings.airframe.weight"),
		Judge: func(k quad.Known) Result {
			var r Result
			if k.Sheet.Loss.Policy != quad.PolicyLand {
				return r
			}
			w := k.Readings.Airframe.Weight
			if w == nil {
				r.ask("readings.airframe.weight")
				return r
			}
			d, _, ok := driveFor(k.Parts, airframe.RestCell)
			if !ok {
				return missingDrive(k)
			}
			hover, able := d.Hover(w.Value / 1000)
			if !able {
				return r
			}
			share := 100 * motors.Throttle(hover.Duty, k.Sheet.Motors.Idle/100, k.Sheet.Feel.ThrottleLimit/100)
			if share > 100 {
				return r // it cannot even hover, which the rule on the limit says
			}
			if land := k.Sheet.Loss.LandThrottle; land >= share || land < share*linkloss.LandLeast {
				good := math.Round(share * linkloss.LandGood)
				r.find(Finding{
					Weight:   Fix,
					Title:    "The landing throttle does not land this quad",
					Figures:  q(land, "%") + " set, it hovers at about " + q(math.Round(share), "%") + ".",
					Why:      "At or above hover it climbs away; far below it falls.",
					Remedies: []Remedy{{Words: "Land at " + q(good, "%"), Edits: []Edit{{"sheet.loss.landThrottle", q(good, "")}}}},
					Paths:    []quad.Path{"sheet.loss.landThrottle", "readings.airframe.weight"},
				})
			}
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
