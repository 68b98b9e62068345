package check

import (
	"fmt"
	"math"
	"slices"

	"vividperch/core/flight"
	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// captures asks for those switches among some that were not captured; true when there is one.
func (r *Result) captures(k quad.Known, names []string) bool {
	seen, missing := sticks.Captured(k), false
	for _, name := range names {
		if _, ok := seen[name]; !ok {
			r.ask(quad.Path("readings.sticks.switches." + name))
			missing = true
		}
	}
	return missing
}

// modes of a sheet alone: what is armed and what flies, without whatever else a switch may do.
func modes(s quad.SticksSheet) quad.SticksSheet {
	return quad.SticksSheet{Arm: s.Arm, SelfLevel: s.SelfLevel, Blended: s.Blended}
}

// switchRules judge the switches together: what lies on which channel, what one movement of a hand does.
var switchRules = []Rule{
	{
		ID:      "sticks.blended-range",
		Station: Sticks,
		Reads:   []quad.Path{"readings.sticks.switches", "sheet.sticks.blended", "radio.switches"},
		Voids:   []Event{Flash},
		Judge:   func(k quad.Known) Result { return rangeRule(k, k.Sheet.Sticks.Blended, "blended", "Blended", false) },
	},
	{
		ID:      "sticks.authority-range",
		Station: Sticks,
		Reads:   []quad.Path{"readings.sticks.switches", "sheet.sticks.authority", "radio.switches"},
		Voids:   []Event{Flash},
		Judge: func(k quad.Known) Result {
			return rangeRule(k, k.Sheet.Sticks.Authority, "authority", "Authority at idle", false)
		},
	},
	{
		ID:      "sticks.reversed-range",
		Station: Sticks,
		Reads:   functionPaths,
		Judge: func(k quad.Known) Result {
			var r Result
			for _, f := range sticks.Functions(k.Sheet.Sticks) {
				if f.Rng.From <= f.Rng.To {
					continue
				}
				r.find(Finding{
					Weight:   Stop,
					Title:    "The range of " + f.Name + " ends before it begins",
					Figures:  fmt.Sprintf("From %.0f to %.0f µs: no pulse is inside.", f.Rng.From, f.Rng.To),
					Why:      "It never comes on.",
					Remedies: []Remedy{{Words: "Exchange its ends", Edits: []Edit{{f.Path + ".from", q(f.Rng.To, "")}, {f.Path + ".to", q(f.Rng.From, "")}}}},
					Paths:    []quad.Path{f.Path},
				})
			}
			return r
		},
	},
	{
		ID:      "sticks.arm-alone",
		Station: Sticks,
		Reads:   functionPaths,
		Judge: func(k quad.Known) Result {
			var r Result
			for _, f := range sticks.Functions(k.Sheet.Sticks) {
				if f.ID == sticks.Arm || !k.Sheet.Sticks.Arm.Used() || f.Rng.Channel != k.Sheet.Sticks.Arm.Channel {
					continue
				}
				r.find(Finding{
					Weight:   Fix,
					Title:    "Arm shares its channel with " + f.Name,
					Figures:  fmt.Sprintf("Channel %d.", f.Rng.Channel),
					Why:      "One hand movement then means two things; arm must mean one.",
					Remedies: by("Give arm a channel of its own"),
					Paths:    []quad.Path{"sheet.sticks.arm", f.Path},
				})
			}
			return r
		},
	},
	{
		ID:      "sticks.arm-switch",
		Station: Sticks,
		Reads:   []quad.Path{"sheet.sticks.arm", "radio.switches", "readings.sticks.switches"},
		Judge: func(k quad.Known) Result {
			var r Result
			arm := k.Sheet.Sticks.Arm
			if arm.Used() && arm.Channel <= len(quad.Axes) {
				r.find(Finding{
					Weight:   Stop,
					Title:    "Arm lies on a stick's channel",
					Subject:  "stick",
					Figures:  fmt.Sprintf("Channel %d.", arm.Channel),
					Why:      "Moving that stick arms it, and stops the motors in the air.",
					Remedies: by("Put arm on a switch with a channel of its own, from 5 on"),
					Paths:    []quad.Path{"sheet.sticks.arm"},
				})
			}
			for _, name := range quad.SortedKeys(k.Radio.Switches) {
				plan := k.Radio.Switches[name]
				if !arm.Used() || plan.Channel != arm.Channel {
					continue
				}
				paths := []quad.Path{quad.Path("radio.switches." + name), "sheet.sticks.arm"}
				if !slices.Contains(plan.Positions, plan.Rest) {
					r.find(Finding{
						Weight:   Fix,
						Title:    "Where the arm switch rests is not told",
						Subject:  "rest",
						Figures:  "The " + name + " switch.",
						Why:      "Nobody can say whether it is armed by taking the radio up.",
						Remedies: by("Tell at which of its positions it lies at power-up"),
						Paths:    []quad.Path{quad.Path("radio.switches." + name + ".rest")},
					})
				}
				if plan.Springs {
					r.find(Finding{
						Weight:   Fix,
						Title:    "The arm switch springs back",
						Subject:  "springs",
						Figures:  "The " + name + " switch.",
						Why:      "Let go for a moment, and the motors stop in the air.",
						Remedies: by("Arm by a switch that stays where it is put"),
						Paths:    paths,
					})
				}
				if r.captures(k, []string{name}) {
					continue
				}
				seen := sticks.Captured(k)[name]
				if us, ok := seen.Positions[plan.Lost]; ok && arm.Holds(us) {
					r.find(Finding{
						Weight:   Stop,
						Title:    "The receiver keeps it armed when the radio is gone",
						Figures:  fmt.Sprintf("It puts out %s at %s, %.0f µs, inside %.0f to %.0f µs.", name, plan.Lost, us, arm.From, arm.To),
						Why:      "The board takes that for a hand on the switch, and the motors run on.",
						Remedies: by("Have the receiver put out the other position, or nothing"),
						Paths:    paths,
					})
				}
				if us, ok := seen.Positions[plan.Rest]; ok && arm.Holds(us) {
					r.find(Finding{
						Weight:   Stop,
						Title:    "The arm switch is on where it rests",
						Subject:  "rests on",
						Figures:  fmt.Sprintf("%s at %s sends %.0f µs, inside %.0f to %.0f µs.", quad.Upper(name), plan.Rest, us, arm.From, arm.To),
						Why:      "It is armed by taking the radio up, or by a radio that starts.",
						Remedies: by("Turn the range to the other position, or the switch's rest"),
						Paths:    paths,
						Shows:    flight.FaultArmSwitch,
					})
				}
			}
			return r
		},
	},
	{
		ID:      "sticks.arm-tilt",
		Station: Sticks,
		Reads:   []quad.Path{"sheet.sticks.armTilt", "sheet.motors.reversible"},
		Judge: func(k quad.Known) Result {
			var r Result
			lean := sticks.ArmTilt(k.Sheet.Sticks)
			if lean <= sticks.ArmTiltMost {
				return r
			}
			usual := Edit{"sheet.sticks.armTilt", q(sticks.UsualArmTilt, "")}
			f := Finding{
				Weight:   Fix,
				Title:    "It arms however steeply it lies",
				Figures:  "Up to " + q(lean, "deg") + "; " + q(sticks.UsualArmTilt, "deg") + " is usual.",
				Why:      "On its side after a crash, or in a hand, it should not start.",
				Remedies: []Remedy{{Words: "Arm up to " + q(sticks.UsualArmTilt, "deg"), Edits: []Edit{usual}}},
				Paths:    []quad.Path{"sheet.sticks.armTilt"},
			}
			if lean >= 180 && !k.Sheet.Motors.Reversible {
				f.Weight, f.Title, f.Why = Stop, "It arms lying on its back", "Its propellers dig in and throw it about, at whoever picks it up."
			}
			r.find(f)
			return r
		},
	},
	{
		ID:      "sticks.planned-channel",
		Station: Sticks,
		Reads:   []quad.Path{"readings.sticks.switches", "radio.switches", "sheet.sticks.arm.channel"},
		Voids:   []Event{Flash},
		Judge: func(k quad.Known) Result {
			var r Result
			for _, name := range quad.SortedKeys(k.Radio.Switches) {
				plan, m := k.Radio.Switches[name], k.Readings.Sticks.Switches[name]
				arm := k.Sheet.Sticks.Arm.Channel
				switch {
				case m == nil && arm > 0 && plan.Channel == arm:
					r.ask(quad.Path("readings.sticks.switches." + name))
					continue
				case m == nil || m.Value.Channel == plan.Channel:
					continue
				}
				at := quad.Path("radio.switches." + name)
				f := Finding{
					Weight:   Fix,
					Title:    "The " + name + " switch arrives on another channel than planned",
					Figures:  fmt.Sprintf("Captured on channel %d, planned on %d.", m.Value.Channel, plan.Channel),
					Why:      "What is planned for it, another channel decides.",
					Remedies: by(fmt.Sprintf("Put it on channel %d at the radio, or change the plan; then capture it again", plan.Channel)),
					Paths:    []quad.Path{at + ".channel", quad.Path("readings.sticks.switches." + name)},
				}
				if arm > 0 && (m.Value.Channel == arm || plan.Channel == arm) {
					f.Weight, f.Why = Stop, "Another switch arms it than the one you take for it."
				}
				r.find(f)
			}
			return r
		},
	},
	{
		ID:      "sticks.by-stick",
		Station: Sticks,
		Reads:   []quad.Path{"sheet.sticks.armByStick", "sheet.sticks.arm.channel"},
		Judge: func(k quad.Known) Result {
			var r Result
			if !k.Sheet.Sticks.ArmByStick {
				return r
			}
			f := Finding{
				Weight:   Note,
				Title:    "It is armed by stick",
				Figures:  "Throttle down and yaw to the right for a second arms, to the left disarms.",
				Why:      "In the air the throttle closed and a yaw to the left stop the motors; to disarm takes a second.",
				Remedies: by("Arm by a switch, where the radio has one to spare"),
				Paths:    []quad.Path{"sheet.sticks.armByStick"},
			}
			if k.Sheet.Sticks.Arm.Used() {
				f.Weight, f.Title = Fix, "It is armed by stick besides the switch"
				f.Why = "Whoever looks at the switch alone takes it for safe. " + f.Why
				f.Remedies = []Remedy{{Words: "By the switch alone", Edits: []Edit{{"sheet.sticks.armByStick", "false"}}}}
			}
			r.find(f)
			return r
		},
	},
	{
		ID:      "sticks.mixes",
		Station: Sticks,
		Reads:   []quad.Path{"radio.mixes", "radio.switches", "sheet.sticks.arm.channel", "sheet.sticks.selfLevel.channel", "sheet.sticks.blended.channel"},
		Judge: func(k quad.Known) Result {
			var r Result
			b := sticks.NewSwitchboard(quad.Known{Radio: k.Radio}) // as planned
			if len(b.Loop) > 0 {
				r.find(Finding{
					Weight:   Stop,
					Title:    "Mixes of the radio go round",
					Figures:  quad.Upper(quad.And(b.Loop)) + ".",
					Why:      "What a channel then sends depends on what it sent before; nothing that is told of the switches holds.",
					Remedies: by("Take one of them out"),
					Paths:    []quad.Path{"radio.mixes"},
				})
				return r
			}
			for _, name := range quad.SortedKeys(k.Radio.Mixes) {
				m := k.Radio.Mixes[name]
				if m.To < 1 || m.To > len(quad.Axes) || m.From < 1 || m.Weight == 0 && !m.Alone {
					continue
				}
				r.find(Finding{
					Weight:   Stop,
					Title:    "The mix " + name + " moves a stick's channel",
					Subject:  "mix " + name,
					Figures:  fmt.Sprintf("%s of channel %d is put onto channel %d.", q(m.Weight, "%"), m.From, m.To),
					Why:      "It steers without a hand: by the arm switch, or by another stick.",
					Remedies: by("Take the mix out, or put it onto a channel of its own"),
					Paths:    []quad.Path{quad.Path("radio.mixes." + name)},
				})
			}
			for channel := 1; channel <= quad.MostChannels; channel++ {
				switches, mixes := b.Onto(channel)
				if len(switches)+len(mixes) < 2 || channel <= len(quad.Axes) && len(switches) == 0 {
					continue
				}
				arms := channel == k.Sheet.Sticks.Arm.Channel
				f := Finding{
					Weight:   Fix,
					Title:    fmt.Sprintf("Several things drive channel %d", channel),
					Subject:  fmt.Sprintf("channel %d", channel),
					Figures:  quad.Upper(quad.And(slices.Concat(switches, mixes))) + ".",
					Why:      "A position no longer means one pulse.",
					Remedies: by("Give each a channel of its own, or take a mix out"),
					Paths:    []quad.Path{"radio.mixes", "radio.switches"},
				}
				modes := channel == k.Sheet.Sticks.SelfLevel.Channel || channel == k.Sheet.Sticks.Blended.Channel
				switch {
				case arms:
					f.Weight, f.Why = Stop, "Arm is on it: a movement of another switch arms, or stops the motors in the air."
				case modes && len(mixes) > 0:
					f.Weight, f.Why = Stop, "A flight mode is on it: it changes under your hands, by a stick or another switch."
				}
				r.find(f)
			}
			return r
		},
	},
	{
		ID:      "sticks.modes",
		Station: Sticks,
		Reads:   []quad.Path{"sheet.sticks.selfLevel", "sheet.sticks.blended"},
		Judge: func(k quad.Known) Result {
			var r Result
			for _, o := range sticks.Overlaps(sticks.Functions(k.Sheet.Sticks)) {
				if o.A.ID != sticks.LevelSelf || o.B.ID != sticks.LevelBlended {
					continue
				}
				r.find(Finding{
					Weight:   Note,
					Title:    "Self-level and blended overlap",
					Figures:  fmt.Sprintf("On channel %d from %.0f to %.0f µs both are asked for.", o.A.Rng.Channel, o.From, o.To),
					Why:      "Self-level wins: blended is never flown there.",
					Remedies: by("Give each a part of the channel of its own"),
					Paths:    []quad.Path{"sheet.sticks.selfLevel", "sheet.sticks.blended"},
				})
			}
			return r
		},
	},
	{
		ID:      "sticks.one-movement",
		Station: Sticks,
		Reads:   []quad.Path{"radio.switches", "radio.mixes", "readings.sticks.switches", "sheet.sticks.arm", "sheet.sticks.selfLevel", "sheet.sticks.blended"},
		Judge: func(k quad.Known) Result {
			var r Result
			s := modes(k.Sheet.Sticks)
			b := sticks.NewSwitchboard(k)
			if len(b.Loop) > 0 || !s.Arm.Used() || r.captures(k, b.Deciders(s)) {
				return r // a rule of its own says the first two
			}
			list, _ := b.Combinations(s)
			all := reached(list)
			if bad := all.without(func(c sticks.Combination) bool { return c.Armed }, func(c sticks.Combination) bool { return !c.Armed }); bad != nil {
				r.find(Finding{
					Weight:   Stop,
					Title:    "One movement does not disarm it",
					Figures:  "With " + (sticks.Arrival{At: bad.At}).Words() + ".",
					Why:      "When it matters there is time for one.",
					Remedies: by("Put arm on a channel that one switch drives alone"),
					Paths:    []quad.Path{"sheet.sticks.arm", "radio.switches", "radio.mixes"},
				})
			}
			level := func(c sticks.Combination) bool { return c.Flies == sticks.SelfLevel }
			if s.SelfLevel.Used() && slices.ContainsFunc(list, level) {
				if bad := all.without(func(c sticks.Combination) bool { return c.Armed && !level(c) }, func(c sticks.Combination) bool { return c.Armed && level(c) }); bad != nil {
					r.find(Finding{
						Weight:   Fix,
						Title:    "Self-level is more than one movement away",
						Figures:  "With " + (sticks.Arrival{At: bad.At}).Words() + " it flies " + string(bad.Flies) + ".",
						Why:      "Whoever is lost in the air needs it at once.",
						Remedies: by("Put the flight modes on one switch, self-level at its end"),
						Paths:    []quad.Path{"sheet.sticks.selfLevel", "radio.switches"},
					})
				}
			}
			return r
		},
	},
	{
		ID:      "sticks.wanted",
		Station: Sticks,
		Reads:   []quad.Path{"sheet.sticks.selfLevel.channel", "sheet.sticks.beeper.channel"},
		Judge: func(k quad.Known) Result {
			var r Result
			for _, w := range []struct {
				used       bool
				title, why string
				path       quad.Path
			}{
				{k.Sheet.Sticks.SelfLevel.Used(), "No switch position levels it", "While you learn, letting go of the sticks should right it.", "sheet.sticks.selfLevel"},
				{k.Sheet.Sticks.Beeper.Used(), "No switch sounds the beeper", "A quad in high grass is found by its noise.", "sheet.sticks.beeper"},
			} {
				if !w.used {
					r.find(Finding{Weight: Note, Title: w.title, Why: w.why, Remedies: by("Give it a switch and a range"), Paths: []quad.Path{w.path}})
				}
			}
			return r
		},
	},
	{
		ID:      "sticks.authority",
		Station: Sticks,
		Reads:   []quad.Path{"radio.switches", "radio.mixes", "readings.sticks.switches", "sheet.sticks.arm", "sheet.sticks.selfLevel", "sheet.sticks.blended", "sheet.sticks.authority", "sheet.sticks.authorityAlways"},
		Judge: func(k quad.Known) Result {
			var r Result
			s := modes(k.Sheet.Sticks)
			s.Authority, s.AuthorityAlways = k.Sheet.Sticks.Authority, k.Sheet.Sticks.AuthorityAlways
			b := sticks.NewSwitchboard(k)
			if s.AuthorityAlways {
				r.find(Finding{
					Weight:   Note,
					Title:    "It corrects at idle in every switch position",
					Why:      "On the bench it speeds motors up by itself, at a touch; for the first spins that is unwanted.",
					Remedies: []Remedy{{Words: "Have a switch decide", Edits: []Edit{{"sheet.sticks.authorityAlways", "false"}}}},
					Paths:    []quad.Path{"sheet.sticks.authorityAlways"},
				})
				return r
			}
			if r.captures(k, b.Deciders(s)) {
				return r
			}
			list, _ := b.Combinations(s)
			for _, c := range list {
				if c.Armed && c.Flies == sticks.Acro && !slices.Contains(c.Also, "authority at idle") {
					r.find(Finding{
						Weight:   Note,
						Title:    "In acro it does not correct at idle",
						Figures:  "With " + (sticks.Arrival{At: c.At}).Words() + ".",
						Why:      "With the throttle closed it turns on as it was turning: upside down it stays.",
						Remedies: by("Put authority at idle on the acro position"),
						Paths:    []quad.Path{"sheet.sticks.authority"},
					})
					return r
				}
			}
			return r
		},
	},
	{
		ID:      "sticks.trims",
		Station: Sticks,
		Reads:   []quad.Path{"radio.trims", "sheet.sticks.selfLevel.channel", "sheet.sticks.blended.channel"},
		Judge: func(k quad.Known) Result {
			var r Result
			levels := k.Sheet.Sticks.SelfLevel.Used() || k.Sheet.Sticks.Blended.Used()
			for _, a := range quad.Axes {
				trim := k.Radio.Trims.Of(a)
				if trim == 0 {
					continue
				}
				path := quad.Path("radio.trims." + string(a))
				f := Finding{
					Weight:   Note,
					Title:    "The radio trims " + string(a),
					Figures:  q(trim, "µs") + ".",
					Why:      "The stick's rest is no longer the middle.",
					Remedies: []Remedy{{Words: "Put the trim to zero", Edits: []Edit{{path, "0"}}}},
					Paths:    []quad.Path{path},
				}
				if levels && a != quad.Yaw && a != quad.Throttle {
					f.Weight = Fix
					f.Why = "A trim hides a wrong level in one mode and is wrong in every other. Calibrate the level instead."
				}
				if a == quad.Throttle {
					f.Why = "It may not count as at rest, and then it does not arm."
				}
				r.find(f)
			}
			return r
		},
	},
	{
		ID:      "sticks.travel",
		Station: Sticks,
		Reads:   []quad.Path{"radio.switches"},
		Judge: func(k quad.Known) Result {
			var r Result
			for _, name := range quad.SortedKeys(k.Radio.Switches) {
				s := k.Radio.Switches[name]
				path := quad.Path("radio.switches." + name)
				full := s.Travel == 0 || math.Abs(s.Travel) >= 100
				switch {
				case s.Gain && full:
					r.find(Finding{
						Weight:   Stop,
						Title:    "The board takes the full travel of " + name + " for its gain",
						Figures:  fmt.Sprintf("Channel %d at %s.", s.Channel, q(math.Max(s.Travel, 100), "%")),
						Why:      "At full gain it shakes itself to pieces as it lifts.",
						Remedies: by("Travel of each position where the wanted gain is"),
						Paths:    []quad.Path{path},
					})
				case !s.Gain && s.Travel != 0 && s.Travel != 100:
					r.find(Finding{
						Weight:   Note,
						Title:    "The " + name + " switch has a travel of its own",
						Figures:  q(s.Travel, "%") + ".",
						Why:      "Its positions arrive nearer to the middle, or beyond the ends.",
						Remedies: []Remedy{{Words: "Put it to 100 %", Edits: []Edit{{path + ".travel", "100"}}}},
						Paths:    []quad.Path{path},
					})
				}
			}
			return r
		},
	},
}

// reached is every combination, by where the switches stand.
type reached []sticks.Combination

// without looks for a combination of one kind from which no movement of a single switch leads to one of another; nil when there
// is none.
func (all reached) without(from, to func(sticks.Combination) bool) *sticks.Combination {
	by := map[string]sticks.Combination{}
	places := map[string][]string{}
	for _, c := range all {
		by[fmt.Sprint(c.At)] = c
		for name, p := range c.At {
			if !slices.Contains(places[name], p) {
				places[name] = append(places[name], p)
			}
		}
	}
	for i, c := range all {
		if !from(c) {
			continue
		}
		found := false
		for name, was := range c.At {
			for _, p := range places[name] {
				c.At[name] = p
				found = found || to(by[fmt.Sprint(c.At)])
			}
			c.At[name] = was
		}
		if !found {
			return &all[i]
		}
	}
	return nil
}
