package check

import (
	"math"
	"slices"

	"vividperch/core/flight"
	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// functionPaths are the places of every range that a switch can mean something by, channelPaths those of their channels.
var functionPaths, channelPaths = func() (ranges, channels []quad.Path) {
	for _, p := range sticks.FunctionPaths() {
		ranges, channels = append(ranges, p), append(channels, p+".channel")
	}
	return ranges, channels
}()

// leaningRules are about what a firmware can do beyond what is proven here: what has no legs to stand on is a stop, what nobody can judge yet is
// said to be that.
var leaningRules = []Rule{
	{
		ID:      "sticks.on-a-stick",
		Station: Sticks,
		Reads:   slices.DeleteFunc(slices.Clone(functionPaths), func(p quad.Path) bool { return p == "sheet.sticks.arm" }),
		Judge: func(k quad.Known) Result {
			var r Result
			for _, f := range sticks.Functions(k.Sheet.Sticks) {
				if f.ID == sticks.Arm || f.Rng.Channel > len(quad.Axes) {
					continue // arm has a rule of its own
				}
				weight, why := Fix, "Moving that stick switches it."
				if f.Flies() {
					weight, why = Stop, "Moving that stick makes it fly otherwise, in the middle of what you ask for."
				}
				r.find(Finding{
					Weight:   weight,
					Title:    quad.Upper(f.Name) + " lies on a stick's channel",
					Figures:  "Channel " + quad.Number(float64(f.Rng.Channel)) + "; the sticks have 1 to 4.",
					Why:      why,
					Remedies: []Remedy{{Words: "Take it off that channel", Edits: []Edit{{f.Path + ".channel", "0"}}}, {Words: "Or put it on a switch with a channel of its own"}},
					Paths:    []quad.Path{f.Path},
				})
			}
			return r
		},
	},
	{
		ID:      "sticks.hold-middle",
		Station: Sticks,
		Reads:   []quad.Path{"readings.sticks.axes.throttle", "sheet.sticks.ranges.throttle", "sheet.sticks.hold", "sheet.sticks.heightHold"},
		Voids:   []Event{Flash},
		Judge: func(k quad.Known) Result {
			var r Result
			if !k.Sheet.Sticks.Hold.Used() && !k.Sheet.Sticks.HeightHold.Used() {
				return r
			}
			m := k.Readings.Sticks.Axes[string(quad.Throttle)]
			if m == nil {
				r.ask("readings.sticks.axes.throttle")
				return r
			}
			middle := sticks.Through(k.Sheet.Sticks.Ranges.Throttle, m.Value.Ends.Centre)
			off := math.Abs(sticks.MapThrottle(middle) - 0.5)
			if off <= flight.ThrottleRest/2 {
				return r
			}
			f := Finding{
				Weight:   Fix,
				Title:    "The throttle's middle is not where a hold keeps its height",
				Figures:  q(math.Round(middle), "µs") + " in the middle of its way; 1500 is meant.",
				Why:      "With the stick in its middle it is near climbing, or near sinking.",
				Remedies: by("Zero the throttle's trim, or set its range so that the middle arrives as 1500 µs"),
				Paths:    []quad.Path{"readings.sticks.axes.throttle", "sheet.sticks.ranges.throttle"},
			}
			if off > 0.8*flight.ThrottleRest {
				f.Weight, f.Why = Stop, "With the stick in its middle it climbs away, or sinks into the ground, while it is said to hold."
			}
			r.find(f)
			return r
		},
	},
	{
		ID:      "sticks.leaning-modes",
		Station: Sticks,
		Reads: []quad.Path{
			"sheet.sticks.heightHold", "sheet.sticks.headingHold", "sheet.sticks.mission",
			"sheet.senses.satellite", "sheet.senses.barometer",
		},
		Judge: func(k quad.Known) Result {
			var r Result
			senses := k.Sheet.Senses
			for _, f := range sticks.Functions(k.Sheet.Sticks) {
				leans, has := "the satellite receiver", senses.Satellite
				sense := quad.Path("sheet.senses.satellite")
				switch f.ID {
				case sticks.FlyMission: // a hold and a way home are judged by what they lean on, at Senses
				case sticks.HoldHeight:
					leans, has, sense = "the barometer", senses.Barometer, "sheet.senses.barometer"
				case sticks.HoldHeading:
					leans, has, sense = "", true, ""
				default:
					continue
				}
				off := Remedy{Words: "Take it off its switch", Edits: []Edit{{f.Path, `{"channel":0,"from":0,"to":0}`}}}
				if !has {
					r.find(Finding{
						Weight:   Stop,
						Title:    quad.Upper(f.Name) + " leans on " + leans + ", which is off",
						Why:      "The board takes nothing for a position, and flies after it.",
						Remedies: []Remedy{off, {Words: "Or fit it, and switch it on"}},
						Paths:    []quad.Path{f.Path, sense},
					})
					continue
				}
				r.find(Finding{
					Weight:   Fix,
					Title:    quad.Upper(f.Name) + " is on a switch, and nothing here proves it yet",
					Figures:  "Channel " + quad.Number(float64(f.Rng.Channel)) + ".",
					Why:      "How well it knows where it is and where north is was not measured here; touched by mistake it flies by that.",
					Remedies: []Remedy{off, {Words: "Or leave that switch alone until you have tried it high up, over soft ground, with your hand on the switch back"}},
					Paths:    []quad.Path{f.Path},
				})
			}
			return r
		},
	},
	{
		ID:      "sticks.on-at-power-up",
		Station: Sticks,
		Reads:   []quad.Path{"readings.sticks.switches", "radio.switches", "sheet.sticks.hold", "sheet.sticks.comeHome", "sheet.sticks.mission", "sheet.sticks.selfRight"},
		Judge: func(k quad.Known) Result {
			var r Result
			at := sticks.NewSwitchboard(k).AtRest(k.Radio)
			for _, f := range sticks.Functions(k.Sheet.Sticks) {
				if !f.KeepsFromArming() {
					continue
				}
				if len(sticks.Against(f.Rng, sticks.Captured(k))) == 0 {
					r.ask(plannedOn(k, f.Rng.Channel)...)
				}
				if !f.Rng.On(&at) {
					continue
				}
				r.find(Finding{
					Weight:   Fix,
					Title:    quad.Upper(f.Name) + " is on while every switch rests",
					Figures:  q(round1(at[f.Rng.Channel-1]), "µs") + " on channel " + quad.Number(float64(f.Rng.Channel)) + " at rest; it is on from " + q(f.Rng.From, "µs") + " to " + q(f.Rng.To, "µs") + ".",
					Why:      "The board will not arm until it is off.",
					Remedies: by("Put it on a position that the switch does not rest in"),
					Paths:    []quad.Path{f.Path, "radio.switches"},
				})
			}
			return r
		},
	},
	{
		ID:      "sticks.arm-checks",
		Station: Sticks,
		Reads:   []quad.Path{"sheet.sticks.armUnchecked"},
		Judge: func(k quad.Known) Result {
			var r Result
			if k.Sheet.Sticks.ArmUnchecked {
				r.find(Finding{
					Weight:   Stop,
					Title:    "It arms without its own checks",
					Why:      "With the throttle up, on its back or without a radio: the motors start whenever the switch says so.",
					Remedies: []Remedy{{Words: "Have it check", Edits: []Edit{{"sheet.sticks.armUnchecked", "false"}}}},
					Paths:    []quad.Path{"sheet.sticks.armUnchecked"},
				})
			}
			return r
		},
	},
}

// busRule: a throttle that goes over a bus is none that is worked out here.
var busRule = Rule{
	ID:      "motors.bus",
	Station: Motors,
	Reads:   []quad.Path{"sheet.motors.bus.used"},
	Judge: func(k quad.Known) Result {
		var r Result
		if k.Sheet.Motors.Bus.Used {
			r.find(Finding{
				Weight:   Fix,
				Title:    "The speed controllers hang on a bus",
				Why:      "What is worked out here of the throttle's wire is for a wire to each of them, not for a bus.",
				Remedies: []Remedy{{Words: "Drive each over a wire of its own", Edits: []Edit{{"sheet.motors.bus.used", "false"}}}, {Words: "Or see every output and its stop on the bench, and say so in the reason"}},
				Paths:    []quad.Path{"sheet.motors.bus.used"},
			})
		}
		return r
	},
}

// carriesOnRule: what nobody can end.
var carriesOnRule = Rule{
	ID:      "link-loss.carries-on",
	Station: LinkLoss,
	Reads:   []quad.Path{"sheet.loss.carriesOn", "sheet.sticks.mission"},
	Judge: func(k quad.Known) Result {
		var r Result
		if !k.Sheet.Loss.CarriesOn {
			return r
		}
		f := Finding{
			Weight:   Fix,
			Title:    "A mission goes on without the radio",
			Why:      "Nobody can end it: it flies until the mission or the pack is over.",
			Remedies: []Remedy{{Words: "Have a loss end it", Edits: []Edit{{"sheet.loss.carriesOn", "false"}}}},
			Paths:    []quad.Path{"sheet.loss.carriesOn", "sheet.sticks.mission"},
		}
		if k.Sheet.Sticks.Mission.Used() {
			f.Weight = Stop
		}
		r.find(f)
		return r
	},
}
