package check

import (
	"fmt"
	"math"
	"slices"

	"vividperch/core/airframe"
	"vividperch/core/flight"
	"vividperch/core/motors"
	"vividperch/core/quad"
)

// seenOutputs takes the values of the motor readings and lists the planned outputs without one.
func seenOutputs(k quad.Known) (seen map[string]quad.MotorSeen, missing []quad.Path) {
	seen = map[string]quad.MotorSeen{}
	for _, letter := range quad.SortedKeys(k.Sheet.Motors.Outputs) {
		if m := k.Readings.Motors.Outputs[letter]; m != nil {
			seen[letter] = m.Value
		} else {
			missing = append(missing, quad.Path("readings.motors.outputs."+letter))
		}
	}
	return seen, missing
}

var motorsRules = []Rule{
	{
		ID:      "motors.order",
		Station: Motors,
		Reads:   []quad.Path{"readings.motors.outputs", "sheet.motors.outputs"},
		Voids:   []Event{Crash, Flash, Repair, Solder},
		Judge: func(k quad.Known) Result {
			var r Result
			seen, missing := seenOutputs(k)
			r.ask(missing...)
			c := motors.Correct(k.Sheet.Motors.Outputs, "", seen, nil) // which way they turn is another rule's subject
			for _, corner := range c.Doubtful {
				r.find(Finding{
					Weight:   Stop,
					Title:    "Two outputs were seen to move " + corner.Words(),
					Why:      "One of the readings is wrong.",
					Remedies: by("Take both again"),
					Paths:    []quad.Path{"readings.motors.outputs"},
				})
			}
			if len(c.Doubtful) > 0 {
				return r
			}
			var edits []Edit
			var words []string
			for _, letter := range quad.SortedKeys(c.Remap) {
				edits = append(edits, Edit{quad.Path("sheet.motors.outputs." + letter + ".corner"), `"` + string(c.Remap[letter]) + `"`})
				words = append(words, fmt.Sprintf("%s moves %s, your settings have it %s", letter, c.Remap[letter].Words(), k.Sheet.Motors.Outputs[letter].Corner.Words()))
			}
			if len(edits) > 0 {
				r.find(Finding{
					Weight:   Stop,
					Title:    "Outputs drive other corners than the board thinks",
					Figures:  quad.Upper(quad.And(words)) + ".",
					Why:      orElse(c.Order.Story(), "Its corrections push the wrong corners: it flips at lift-off."),
					Remedies: []Remedy{{Words: "Give the outputs the corners that were seen", Edits: edits}},
					Paths:    []quad.Path{"readings.motors.outputs", "sheet.motors.outputs"},
					Shows:    flight.FaultOrder,
				})
			}
			return r
		},
	},
	{
		ID:      "motors.corners",
		Station: Motors,
		Reads:   []quad.Path{"sheet.motors.outputs"},
		Judge: func(k quad.Known) Result {
			var r Result
			driven := map[quad.Corner][]string{}
			for _, letter := range quad.SortedKeys(k.Sheet.Motors.Outputs) {
				c := k.Sheet.Motors.Outputs[letter].Corner
				if driven[c] = append(driven[c], letter); c == "" {
					r.ask(quad.Path("sheet.motors.outputs." + letter + ".corner"))
				}
			}
			if len(r.Asks) > 0 {
				return r
			}
			for _, c := range quad.Corners {
				f := Finding{Weight: Stop, Subject: string(c), Paths: []quad.Path{"sheet.motors.outputs"}, Remedies: by("Give each corner one output, by the letters printed on the board")}
				switch letters := driven[c]; len(letters) {
				case 0:
					f.Title, f.Why = "No output drives "+c.Words(), "A corner without an output stands still, and it tips over to it."
				case 1:
					continue
				default:
					f.Title, f.Figures = "Several outputs are meant to drive "+c.Words(), quad.Upper(quad.And(letters))+"."
					f.Why = "What one of them corrects the other undoes somewhere else."
				}
				r.find(f)
			}
			return r
		},
	},
	{
		ID:      "motors.spin",
		Station: Motors,
		Reads:   []quad.Path{"readings.motors.outputs", "sheet.motors.outputs", "sheet.motors.reversible", "sheet.craft.rotation"},
		Voids:   []Event{Crash, Flash, Repair, Solder},
		Judge: func(k quad.Known) Result {
			var r Result
			seen, missing := seenOutputs(k)
			r.ask(missing...)
			for _, letter := range quad.SortedKeys(seen) {
				if seen[letter].Reversible != k.Sheet.Motors.Reversible {
					r.ask(quad.Path("readings.motors.outputs." + letter)) // seen one way, it proves nothing about the other
				}
			}
			rotation := k.Sheet.Craft.Rotation
			plans := motors.RotationsSeen(seen)
			if rotation == "" && len(seen) == 0 {
				r.ask("sheet.craft.rotation")
				return r
			}
			if rotation == "" {
				f := Finding{
					Weight: Stop,
					Title:  "No rotation plan is declared",
					Why:    "Without one nobody knows which way a motor should turn, nor which propeller belongs on it.",
					Paths:  []quad.Path{"readings.motors.outputs"},
				}
				for _, plan := range plans {
					f.Remedies = append(f.Remedies, Remedy{Words: "Declare " + spinWords(plan), Edits: []Edit{{"sheet.craft.rotation", `"` + string(plan) + `"`}}})
				}
				r.find(f)
				return r
			}
			c := motors.Correct(k.Sheet.Motors.Outputs, rotation, seen, nil)
			if c.Declare != "" {
				f := Finding{
					Weight:  Stop,
					Title:   "All four turn against the declared rotation",
					Figures: "Declared: " + spinWords(rotation) + ".",
					Why:     "Yaw would run away: every correction adds to the error.",
					Paths:   []quad.Path{"readings.motors.outputs", "sheet.craft.rotation"},
					Shows:   flight.FaultRotation,
				}
				words := "Declare " + spinWords(c.Declare) + " and fit propellers to match"
				edits := []Edit{{"sheet.craft.rotation", `"` + string(c.Declare) + `"`}}
				for _, letter := range c.Reverse {
					f.Title, f.Shows = "Three of four turn against the declared rotation", flight.FaultSpin
					f.Why = "Those three corners would push down, with the propellers that your layout wants."
					words = "Declare " + spinWords(c.Declare) + ", reverse output " + letter + ", and fit propellers to match: two acts instead of three"
					edits = append(edits, reversal(k, letter))
				}
				f.Remedies = []Remedy{{Words: words, Edits: edits}}
				if len(c.Reverse) > 0 {
					three := Remedy{Words: "Or keep the rotation and reverse the other three"}
					for _, p := range c.Problems {
						if p.Turn {
							three.Edits = append(three.Edits, reversal(k, p.Output))
						}
					}
					f.Remedies = append(f.Remedies, three)
				}
				r.find(f)
				return r
			}
			for _, p := range c.Problems {
				if !p.Turn {
					continue
				}
				r.find(Finding{
					Weight:  Stop,
					Title:   quad.Upper(p.Corner.Words()) + " turns " + p.Spin.Words() + ", your layout wants " + p.Want.Words(),
					Figures: "Output " + p.Output + ". With the propeller your layout wants there it pushes down.",
					Why:     "The quad tips over to the " + p.Corner.Words() + " before it lifts.",
					Remedies: []Remedy{
						{Words: "Reverse output " + p.Output + " in its speed controller", Edits: []Edit{reversal(k, p.Output)}},
						{Words: "Or swap any two of its three motor wires, pack out, and see it again"},
					},
					Paths: []quad.Path{quad.Path("readings.motors.outputs." + p.Output), "sheet.craft.rotation"},
					Shows: flight.FaultSpin,
				})
			}
			return r
		},
	},
	{
		ID:      "motors.protocol-fits-loop",
		Station: Motors,
		Reads:   []quad.Path{"sheet.motors.protocol", "sheet.motors.bitRate", "sheet.motors.twoWay", "sheet.motors.loopRate"},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Sheet.Motors
			paths := []quad.Path{"sheet.motors.bitRate", "sheet.motors.loopRate"}
			if m.Protocol != quad.ProtocolDigital {
				if most := motors.PulseLoop(m.Protocol); m.LoopRate > most {
					r.find(Finding{
						Weight:   Note,
						Title:    "The loop runs faster than its throttle pulses",
						Figures:  q(m.LoopRate, "Hz") + " against " + q(most, "Hz") + ".",
						Why:      "Most of its work never reaches a motor.",
						Remedies: by("A digital protocol, or a slower loop"),
						Paths:    []quad.Path{"sheet.motors.protocol", "sheet.motors.loopRate"},
					})
				}
				return r
			}
			frame, room := motors.FrameTime(m.BitRate, m.TwoWay), motors.LoopRoom(m.LoopRate)
			if frame <= room {
				return r
			}
			f := Finding{
				Weight:  Fix,
				Title:   "Throttle frames do not fit this loop",
				Figures: fmt.Sprintf("A frame takes %s, the loop leaves %s.", q(math.Round(frame), "µs"), q(math.Round(room), "µs")),
				Why:     "Frames are dropped; the motors stutter.",
				Paths:   paths,
			}
			for _, rate := range []float64{600, 1200} {
				if motors.FrameTime(rate, m.TwoWay) <= room {
					f.Remedies = append(f.Remedies, Remedy{Words: "Use " + q(rate, "kbit/s"), Edits: []Edit{{"sheet.motors.bitRate", q(rate, "")}}})
					break
				}
			}
			if slower := motors.FastestLoop(frame); slower > 0 {
				f.Remedies = append(f.Remedies, Remedy{Words: "Or a loop at " + q(slower, "Hz"), Edits: []Edit{{"sheet.motors.loopRate", q(slower, "")}}})
			}
			r.find(f)
			return r
		},
	},
	{
		ID:      "motors.two-way-able",
		Station: Motors,
		Reads:   []quad.Path{"sheet.motors.twoWay", "sheet.motors.protocol", "sheet.motors.outputs", "parts.speedController.twoWay", "parts.speedController.layout", "readings.firmware.speedControllers"},
		Ages:    []quad.Path{"readings.firmware.speedControllers"},
		Voids:   []Event{Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			if !k.Sheet.Motors.TwoWay {
				return r
			}
			f := Finding{
				Weight:   Stop,
				Title:    "The board asks for rotation that the speed controllers cannot answer",
				Figures:  "Two-way throttle is on at one end only.",
				Why:      "Without an answer the board refuses to arm, or filters on nothing.",
				Remedies: []Remedy{{Words: "Switch two-way throttle off", Edits: []Edit{{"sheet.motors.twoWay", "false"}}}},
				Paths:    []quad.Path{"sheet.motors.twoWay", "parts.speedController.twoWay"},
			}
			if k.Sheet.Motors.Protocol != quad.ProtocolDigital {
				f.Title, f.Figures = "The throttle protocol has no way back", "Two-way throttle is on, over "+quad.Spelled(string(k.Sheet.Motors.Protocol))+" pulses."
				f.Subject, f.Paths = "protocol", []quad.Path{"sheet.motors.twoWay", "sheet.motors.protocol"}
				r.find(f)
				return r
			}
			if !k.Parts.SpeedController.TwoWay {
				r.find(f)
				return r
			}
			if k.Parts.SpeedController.Layout == "" {
				return r // they cannot be asked
			}
			var mute []string
			for _, letter := range quad.SortedKeys(k.Sheet.Motors.Outputs) {
				says := k.Readings.Firmware.SpeedControllers[letter]
				if says == nil {
					r.ask(quad.Path("readings.firmware.speedControllers." + letter))
				} else if !says.Value.Replies {
					mute = append(mute, letter)
				}
			}
			if len(mute) > 0 {
				f.Figures = quad.Upper(quad.And(mute)) + ": asked, they do not reply; their firmware has no way back."
				f.Subject, f.Paths = "mute", []quad.Path{"sheet.motors.twoWay", "readings.firmware.speedControllers"}
				r.find(f)
			}
			return r
		},
	},
	{
		ID:      "motors.outputs-on-board",
		Station: Motors,
		Reads:   []quad.Path{"sheet.motors.outputs", "parts.board.outputs"},
		Judge: func(k quad.Known) Result {
			var r Result
			for _, letter := range quad.SortedKeys(k.Sheet.Motors.Outputs) {
				if !slices.Contains(k.Parts.Board.Outputs, letter) {
					r.find(Finding{
						Weight:   Stop,
						Title:    "The board has no output " + letter,
						Figures:  "It has " + orNothing(quad.And(k.Parts.Board.Outputs)) + "; your settings drive " + k.Sheet.Motors.Outputs[letter].Corner.Words() + " with " + letter + ".",
						Why:      "A corner without an output stands still.",
						Remedies: by("Use the letters printed on the board"),
						Paths:    []quad.Path{quad.Path("sheet.motors.outputs." + letter), "parts.board.outputs"},
					})
				}
			}
			return r
		},
	},
	{
		ID:      "motors.idle",
		Station: Motors,
		Reads:   []quad.Path{"readings.motors.startsAt", "readings.motors.starts", "sheet.motors.outputs", "sheet.motors.idle", "sheet.motors.reversible"},
		Voids:   []Event{Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			m := motors.IdleOf(k)
			for _, letter := range m.Backward { // what keeps it in the air on its back
				r.ask(quad.Path("readings.motors.starts." + letter))
			}
			if !m.Known {
				r.ask("readings.motors.startsAt")
				return r
			}
			idle, least := k.Sheet.Motors.Idle, m.Least+motors.IdleMargin
			to := Remedy{Words: "Idle at " + q(round1(least), "%"), Edits: []Edit{{"sheet.motors.idle", q(round1(least), "")}}}
			switch {
			case idle < m.Least:
				r.find(Finding{
					Weight:   Stop,
					Title:    "At idle some motors do not turn",
					Figures:  "Idle is " + q(idle, "%") + ", the slowest starts at " + q(m.Least, "%") + ".",
					Why:      "A corner that stands still at low throttle cannot hold it level.",
					Remedies: []Remedy{to},
					Paths:    []quad.Path{"sheet.motors.idle", "readings.motors.startsAt"},
					Shows:    flight.FaultIdle,
				})
			case !m.Enough:
				r.find(Finding{
					Weight:   Fix,
					Title:    "Idle leaves little above stalling",
					Figures:  "Idle is " + q(idle, "%") + ", the slowest starts at " + q(m.Least, "%") + "; 1.5 % above is safe.",
					Why:      "In a dive the air stops a slow propeller.",
					Remedies: []Remedy{to},
					Paths:    []quad.Path{"sheet.motors.idle", "readings.motors.startsAt"},
					Shows:    flight.FaultIdle,
				})
			case idle > m.Least+6:
				r.find(Finding{
					Weight:   Note,
					Title:    "Idle is high",
					Figures:  q(idle, "%") + ", the slowest starts at " + q(m.Least, "%") + ".",
					Why:      "It floats on landing and drains the pack.",
					Remedies: []Remedy{to},
					Paths:    []quad.Path{"sheet.motors.idle"},
				})
			}
			return r
		},
	},
	{
		ID:      "motors.layout",
		Station: Motors,
		Reads:   []quad.Path{"readings.motors.layout", "sheet.craft.layout"},
		Voids:   []Event{Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			seen, told := k.Readings.Motors.Layout, k.Sheet.Craft.Layout
			if seen == nil {
				r.ask("readings.motors.layout")
				return r
			}
			if seen.Value == told {
				return r
			}
			f := Finding{
				Weight:   Stop,
				Title:    "It is built otherwise than it is told",
				Figures:  "Its arms stand as " + string(seen.Value) + "; told " + orNothing(string(told)) + ".",
				Why:      "It mixes for corners that are not there: it answers one stick with half of another's motion, which only a steady hand may still hold.",
				Remedies: []Remedy{{Words: "Tell it as it is built", Edits: []Edit{{"sheet.craft.layout", `"` + string(seen.Value) + `"`}}}},
				Paths:    []quad.Path{"readings.motors.layout", "sheet.craft.layout"},
			}
			if told != "" && seen.Value != quad.LayoutPlus && told != quad.LayoutPlus { // both are mixed alike
				f.Weight, f.Why = Note, "Both are mixed alike; its drawing and its arms are another's."
			}
			r.find(f)
			return r
		},
	},
	{
		ID:      "motors.still-at-rest",
		Station: Motors,
		Reads:   []quad.Path{"readings.motors.restStill"},
		Voids:   []Event{Crash, Flash, Repair, Solder},
		Judge: func(k quad.Known) Result {
			var r Result
			confirm(&r, k.Readings.Motors.RestStill, "readings.motors.restStill", true, Finding{
				Weight:   Stop,
				Title:    "Something spins at rest",
				Why:      "Disarmed must mean still.",
				Remedies: by("Pack out; look at the throttle protocol and the speed controllers' end points"),
			})
			return r
		},
	},
	{
		ID:      "motors.poles",
		Station: Motors,
		Reads:   []quad.Path{"sheet.motors.poles", "parts.motor.poles"},
		Judge: func(k quad.Known) Result {
			var r Result
			set, real := k.Sheet.Motors.Poles, k.Parts.Motor.Poles
			if set != real && set > 0 && real > 0 {
				r.find(Finding{
					Weight:   Fix,
					Title:    "The board counts on other motors",
					Figures:  fmt.Sprintf("%d poles set, the motor has %d: shown rotation is %.1f %% off.", set, real, 100*motors.PoleError(set, real)),
					Why:      "Filters that follow rotation follow the wrong frequency.",
					Remedies: []Remedy{{Words: fmt.Sprintf("Set %d poles", real), Edits: []Edit{{"sheet.motors.poles", q(float64(real), "")}}}},
					Paths:    []quad.Path{"sheet.motors.poles", "parts.motor.poles"},
				})
			}
			return r
		},
	},
	{
		ID:      "motors.reversible",
		Station: Motors,
		Reads:   []quad.Path{"sheet.motors.reversible", "sheet.motors.outputs"},
		Judge: func(k quad.Known) Result {
			var r Result
			var told, untold []string
			for _, letter := range quad.SortedKeys(k.Sheet.Motors.Outputs) {
				if k.Sheet.Motors.Outputs[letter].BothWays {
					told = append(told, letter)
				} else {
					untold = append(untold, letter)
				}
			}
			set := func(letters []string, to bool) (edits []Edit) {
				for _, l := range letters {
					edits = append(edits, Edit{quad.Path("sheet.motors.outputs." + l + ".bothWays"), boolean(to)})
				}
				return edits
			}
			f := Finding{Weight: Stop, Paths: []quad.Path{"sheet.motors.reversible", "sheet.motors.outputs"}, Shows: flight.FaultOneWay}
			switch {
			case k.Sheet.Motors.Reversible && len(untold) > 0:
				f.Title = "Reversible thrust is told to " + orElse(quad.And(told), "the board alone") + ", not to " + quad.And(untold)
				f.Figures = fmt.Sprintf("The board drives both ways; %d of %d speed controllers take the signal so.", len(told), len(told)+len(untold))
				f.Why = "A speed controller that was not told takes the middle of the signal for half throttle: that corner leaps as it is armed."
				f.Remedies = []Remedy{{Words: "Tell " + quad.And(untold) + " too", Edits: set(untold, true)}, {Words: "Or switch reversible thrust off", Edits: append(set(told, false), Edit{"sheet.motors.reversible", "false"})}}
			case !k.Sheet.Motors.Reversible && len(told) > 0:
				f.Title = "Speed controllers turn both ways, the board does not know"
				f.Figures = "Told of reversible thrust: " + quad.And(told) + "."
				f.Why = "They take the board's idle for nearly full throttle backward."
				f.Remedies = []Remedy{{Words: "Tell the board too", Edits: append(set(untold, true), Edit{"sheet.motors.reversible", "true"})}, {Words: "Or have them turn one way", Edits: set(told, false)}}
			default:
				return r
			}
			r.find(f)
			return r
		},
	},
	{
		ID:      "motors.on-its-back",
		Station: Motors,
		Reads:   reads("sheet.motors.reversible", "parts.propeller.reversed", "readings.airframe.weight"),
		Judge: func(k quad.Known) Result {
			var r Result
			if !k.Sheet.Motors.Reversible {
				return r
			}
			if k.Readings.Airframe.Weight == nil {
				r.ask("readings.airframe.weight")
				return r
			}
			if _, _, ok := driveFor(k.Parts, airframe.RestCell); !ok {
				return missingDrive(k)
			}
			if m := motors.ReversingOf(k); !m.Able {
				r.find(Finding{
					Weight:   Fix,
					Title:    "It cannot stay on its back",
					Figures:  "Turning backward these propellers lift " + q(m.Ratio, "1") + " times its weight; " + q(motors.BackReserve, "1") + " is the least that can be steered.",
					Why:      "On its back it sinks with the throttle at its end.",
					Remedies: by("Propellers that push alike both ways, or a lighter quad"),
					Paths:    []quad.Path{"parts.propeller.reversed", "readings.airframe.weight"},
				})
			}
			return r
		},
	},
	{
		ID:      "motors.load",
		Station: Motors,
		Reads:   []quad.Path{"readings.motors.load", "sheet.motors.protocol", "sheet.motors.bitRate", "sheet.motors.twoWay", "sheet.motors.loopRate"},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.Motors.Load
			if m == nil {
				if k.Sheet.Motors.LoopRate > 4000 {
					r.ask("readings.motors.load") // up to 4 kHz every board here keeps up
				}
				return r
			}
			if m.Value.Loop != k.Sheet.Motors.LoopRate {
				r.ask("readings.motors.load") // it was read at another loop
				return r
			}
			if motors.LoadFits(m.Value.Load) {
				return r
			}
			f := Finding{
				Weight:   Fix,
				Title:    "The loop takes too much of the processor",
				Figures:  q(m.Value.Load, "%") + " at " + q(k.Sheet.Motors.LoopRate, "Hz") + "; under 70 % leaves room for what comes in flight.",
				Why:      "A loop that is late now and then shakes, and its radio is heard late.",
				Remedies: by("A slower loop; few feel the difference between 4 and 8 kHz"),
				Paths:    []quad.Path{"readings.motors.load", "sheet.motors.loopRate"},
			}
			if to := motors.TimingOf(k.Sheet.Motors, m.Value.Load).LoopFor(); to > 0 {
				f.Remedies = []Remedy{{Words: "A loop at " + q(to, "Hz"), Edits: []Edit{{"sheet.motors.loopRate", q(to, "")}}}}
			}
			r.find(f)
			return r
		},
	},
	{
		ID:      "motors.switching",
		Station: Motors,
		Reads:   []quad.Path{"sheet.motors.outputs", "readings.motors.trial", "readings.firmware.speedControllers", "board.line", "board.sheet.motors.outputs"},
		Voids:   []Event{Repair},
		Judge:   judgeSwitching,
	},
	{
		ID:      "motors.hot",
		Station: Motors,
		Reads:   []quad.Path{"readings.motors.hot", "sheet.motors.reversible", "readings.motors.starts"},
		Voids:   []Event{Crash, Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.Motors.Hot
			if m == nil {
				// Turning round in flight heats them, and one that is slow to start may rub; else nothing waits for it.
				if k.Sheet.Motors.Reversible || motors.Late(k.Readings.Motors.Starts) != "" {
					r.ask("readings.motors.hot")
				}
				return r
			}
			if m.Value == quad.HotNone {
				return r
			}
			corner := quad.Corner(m.Value).Words()
			r.find(Finding{
				Weight:   Fix,
				Title:    "The motor " + corner + " is hotter than the others after a minute",
				Why:      "A bent shaft, a rubbing motor bell, a screw in the winding, or a speed controller that drives it badly. It will not last.",
				Remedies: by("Turn it by hand and feel for grit; look at the screws; exchange its wires with a neighbour and see whether the heat goes along"),
				Paths:    []quad.Path{"readings.motors.hot"},
			})
			return r
		},
	},
}

// reversal of what is set for an output now.
func reversal(k quad.Known, letter string) Edit {
	return Edit{quad.Path("sheet.motors.outputs." + letter + ".reversed"), boolean(!k.Sheet.Motors.Outputs[letter].Reversed)}
}

func spinWords(r quad.Rotation) string { return "front left " + r.Wants(quad.FrontLeft).Words() }
