package check

import (
	"vividperch/core/quad"
	"vividperch/core/sticks"
)

var benchProofRules = []Rule{
	{
		ID:      "bench-proof.gates",
		Station: BenchProof,
		Reads:   []quad.Path{"readings.benchProof.gateRefuses", "sheet.sticks.idleBelow", "sheet.motors.reversible"},
		Days:    1,
		Voids:   []Event{Crash, Repair, Flash, Solder},
		Judge: func(k quad.Known) Result {
			var r Result
			confirm(&r, k.Readings.BenchProof.GateRefuses, "readings.benchProof.gateRefuses", true, Finding{
				Weight:   Stop,
				Title:    "It arms with the throttle up",
				Figures:  "At rest is " + sticks.RestOf(k.Sheet.Sticks, k.Sheet.Motors.Reversible).Words() + ".",
				Why:      "It jumps the moment you arm it.",
				Remedies: by("Lower the at-rest threshold"),
			})
			return r
		},
	},
	{
		ID:      "bench-proof.answers",
		Station: BenchProof,
		Reads:   []quad.Path{"readings.benchProof.frameYaw", "readings.benchProof.stickYaw", "readings.benchProof.radioOff"},
		Days:    1,
		Voids:   []Event{Crash, Repair, Flash, Solder, NewMount},
		Judge: func(k quad.Known) Result {
			var r Result
			b := k.Readings.BenchProof
			confirm(&r, b.FrameYaw, "readings.benchProof.frameYaw", true, Finding{
				Weight:   Stop,
				Title:    "Turning the frame is not answered against",
				Why:      "Its yaw runs away. Exchanged outputs of like spin and propeller hands do not show here.",
				Remedies: by("Look at the gyro's mounting and the declared rotation"),
			})
			confirm(&r, b.StickYaw, "readings.benchProof.stickYaw", true, Finding{
				Weight:   Stop,
				Title:    "The yaw stick twists the frame the other way",
				Why:      "Nose and hand disagree.",
				Remedies: by("Look at the yaw channel's direction"),
			})
			confirm(&r, b.RadioOff, "readings.benchProof.radioOff", true, Finding{
				Weight:   Stop,
				Title:    "Radio off does not do what was set",
				Why:      "Nothing else will stop it or bring it down, in the air.",
				Remedies: by("Go back to Link loss"),
			})
			return r
		},
	},
}
