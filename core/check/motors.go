package check

import (
	"fmt"
	"math"
	"slices"

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
		Voids:   []Event{Flash, Repair, Solder},
		Judge: func(k quad.Known) Result {
			var r Result
			seen, missing := seenOutputs(k)
			r.ask(missing...)
			c := motors.Correct(k.Sheet.Motors.Outputs, "", seen) // which way they turn is another rule's subject
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
				words = append(words, fmt.Sprintf("%s moves %s, the sheet has it %s", letter, c.Remap[letter].Words(), k.Sheet.Motors.Outputs[letter].Corner.Words()))
			}
			if len(edits) > 0 {
				r.find(Finding{
					Weight:   Stop,
					Title:    "Outputs drive other corners than the board thinks",
					Figures:  upper(join(words)) + ".",
					Why:      "Its corrections push the wrong corners: it flips at lift-off.",
					Remedies: []Remedy{{Words: "Give the outputs the corners that were seen", Edits: edits}},
					Paths:    []quad.Path{"readings.motors.outputs", "sheet.motors.outputs"},
					Shows:    flight.FaultOrder,
				})
			}
			return r
		},
	},
	{
		ID:      "motors.spin",
		Station: Motors,
		Reads:   []quad.Path{"readings.motors.outputs", "sheet.motors.outputs", "sheet.craft.rotation"},
		Voids:   []Event{Flash, Repair, Solder},
		Judge: func(k quad.Known) Result {
			var r Result
			seen, missing := seenOutputs(k)
			r.ask(missing...)
			rotation := k.Sheet.Craft.Rotation
			c := motors.Correct(k.Sheet.Motors.Outputs, rotation, seen)
			if c.Declare != "" {
				r.find(Finding{
					Weight:   Stop,
					Title:    "All four turn against the declared rotation",
					Figures:  "Declared: " + spinWords(rotation) + ".",
					Why:      "Yaw would run away: every correction adds to the error.",
					Remedies: []Remedy{{Words: "Declare " + spinWords(c.Declare) + " and fit propellers to match", Edits: []Edit{{"sheet.craft.rotation", `"` + string(c.Declare) + `"`}}}},
					Paths:    []quad.Path{"readings.motors.outputs", "sheet.craft.rotation"},
					Shows:    flight.FaultRotation,
				})
				return r
			}
			for _, p := range c.Problems {
				if !p.Turn {
					continue
				}
				at := quad.Path("sheet.motors.outputs." + p.Output + ".reversed")
				now := k.Sheet.Motors.Outputs[p.Output].Reversed
				r.find(Finding{
					Weight:  Stop,
					Title:   upper(p.Corner.Words()) + " turns " + p.Spin.Words() + ", your layout wants " + p.Want.Words(),
					Figures: "Output " + p.Output + ". With the propeller your layout wants there it pushes down.",
					Why:     "The quad tips over to the " + p.Corner.Words() + " before it lifts.",
					Remedies: []Remedy{
						{Words: "Reverse output " + p.Output + " in its speed controller", Edits: []Edit{{at, boolean(!now)}}},
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
		Reads:   []quad.Path{"sheet.motors.twoWay", "parts.speedController.twoWay"},
		Judge: func(k quad.Known) Result {
			var r Result
			if k.Sheet.Motors.TwoWay && !k.Parts.SpeedController.TwoWay {
				r.find(Finding{
					Weight:   Stop,
					Title:    "The board asks for rotation that the speed controllers cannot answer",
					Figures:  "Two-way throttle is on at one end only.",
					Why:      "Without an answer the board refuses to arm, or filters on nothing.",
					Remedies: []Remedy{{Words: "Switch two-way throttle off", Edits: []Edit{{"sheet.motors.twoWay", "false"}}}},
					Paths:    []quad.Path{"sheet.motors.twoWay", "parts.speedController.twoWay"},
				})
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
						Figures:  "It has " + orNothing(join(k.Parts.Board.Outputs)) + "; the sheet drives " + k.Sheet.Motors.Outputs[letter].Corner.Words() + " with " + letter + ".",
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
		Reads:   []quad.Path{"readings.motors.startsAt", "sheet.motors.idle"},
		Voids:   []Event{Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.Motors.StartsAt
			if m == nil {
				r.ask("readings.motors.startsAt")
				return r
			}
			idle, least := k.Sheet.Motors.Idle, m.Value+motors.IdleMargin
			to := Remedy{Words: "Idle at " + q(round1(least), "%"), Edits: []Edit{{"sheet.motors.idle", q(round1(least), "")}}}
			switch {
			case idle < m.Value:
				r.find(Finding{
					Weight:   Stop,
					Title:    "At idle some motors do not turn",
					Figures:  "Idle is " + q(idle, "%") + ", the slowest starts at " + q(m.Value, "%") + ".",
					Why:      "A corner that stands still at low throttle cannot hold it level.",
					Remedies: []Remedy{to},
					Paths:    []quad.Path{"sheet.motors.idle", "readings.motors.startsAt"},
					Shows:    flight.FaultIdle,
				})
			case idle < least-0.05:
				r.find(Finding{
					Weight:   Fix,
					Title:    "Idle leaves little above stalling",
					Figures:  "Idle is " + q(idle, "%") + ", the slowest starts at " + q(m.Value, "%") + "; 1.5 % above is safe.",
					Why:      "In a dive the air stops a slow propeller.",
					Remedies: []Remedy{to},
					Paths:    []quad.Path{"sheet.motors.idle", "readings.motors.startsAt"},
					Shows:    flight.FaultIdle,
				})
			case idle > m.Value+6:
				r.find(Finding{
					Weight:   Note,
					Title:    "Idle is high",
					Figures:  q(idle, "%") + ", the slowest starts at " + q(m.Value, "%") + ".",
					Why:      "It floats on landing and drains the pack.",
					Remedies: []Remedy{to},
					Paths:    []quad.Path{"sheet.motors.idle"},
				})
			}
			return r
		},
	},
	{
		ID:      "motors.still-at-rest",
		Station: Motors,
		Reads:   []quad.Path{"readings.motors.restStill"},
		Voids:   []Event{Flash},
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
}

func spinWords(r quad.Rotation) string { return "front left " + r.Wants(quad.FrontLeft).Words() }
