package check

import (
	"fmt"
	"math"

	"vividperch/core/airframe"
	"vividperch/core/flight"
	"vividperch/core/linkloss"
	"vividperch/core/motors"
	"vividperch/core/quad"
	"vividperch/core/senses"
)

var sensesRules = []Rule{
	{
		ID: "senses.level", Station: Senses, Reads: []quad.Path{"readings.senses.levelRoll", "readings.senses.levelPitch"}, Voids: []Event{Crash, Repair, Flash, NewMount},
		Judge: func(k quad.Known) Result {
			var r Result
			roll, pitch := k.Readings.Senses.LevelRoll, k.Readings.Senses.LevelPitch
			if roll == nil {
				r.ask("readings.senses.levelRoll")
			}
			if pitch == nil {
				r.ask("readings.senses.levelPitch")
			}
			if roll == nil || pitch == nil {
				return r
			}
			tilt := senses.Tilt(roll.Value, pitch.Value)
			if tilt > senses.LevelTolerance {
				drift := senses.Drift(tilt, airframe.Gravity)
				r.find(Finding{Weight: Fix, Title: "Level is not level", Figures: fmt.Sprintf("On the plate it shows roll %s and pitch %s, %s in all: %s of drift, %s in 5 s.", q(roll.Value, "deg"), q(pitch.Value, "deg"), q(round1(tilt), "deg"), q(round2(drift), "m/s²"), q(round1(drift*12.5), "m")), Why: "In self-level it leans by as much and drifts off; trims only hide it.", Remedies: by("Calibrate the level on the plate, then read it back"), Paths: []quad.Path{"readings.senses.levelRoll", "readings.senses.levelPitch"}, Scenario: "hover"})
			}
			return r
		},
	},
	{
		ID: "senses.gyro-still", Station: Senses, Reads: []quad.Path{"readings.senses.gyroStill"}, Voids: []Event{Crash, Flash, NewMount},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.Senses.GyroStill
			if m == nil {
				r.ask("readings.senses.gyroStill")
				return r
			}
			if m.Value > senses.GyroTolerance {
				r.find(Finding{Weight: Stop, Title: "The gyro turns while the quad stands still", Figures: q(m.Value, "deg/s") + " at rest; 1 is the most.", Why: "It rotates to cancel a turn that is not there.", Remedies: by("Power up untouched; if it stays, the sensor is hurt"), Paths: []quad.Path{"readings.senses.gyroStill"}})
			}
			return r
		},
	},
	{
		ID: "senses.return-leans", Station: Senses, Reads: []quad.Path{"sheet.loss.policy", "sheet.senses.satellite", "sheet.senses.barometer", "parts.wires.satellite.port"},
		Judge: func(k quad.Known) Result {
			var r Result
			if k.Sheet.Loss.Policy != quad.PolicyReturn {
				return r
			}
			var lacks []string
			if k.Parts.Wires["satellite"].Port == "" {
				lacks = append(lacks, "no satellite receiver is soldered on")
			} else if !k.Sheet.Senses.Satellite {
				lacks = append(lacks, "the satellite receiver is switched off")
			}
			if !k.Sheet.Senses.Barometer {
				lacks = append(lacks, "the barometer is switched off")
			}
			if len(lacks) > 0 {
				r.find(Finding{Weight: Stop, Title: "Return leans on a sense it does not have", Figures: upper(join(lacks)) + ".", Why: "It would fly off to nowhere, or not hold its height on the way.", Remedies: []Remedy{{Words: "Drop on a loss instead", Edits: []Edit{{"sheet.loss.policy", `"drop"`}}}}, Paths: []quad.Path{"sheet.loss.policy", "sheet.senses.satellite", "sheet.senses.barometer"}})
			}
			return r
		},
	},
}

var linkLossRules = []Rule{
	{
		ID: "link-loss.noticed", Station: LinkLoss, Reads: []quad.Path{"readings.loss.output", "sheet.loss.policy"}, Days: 30, Voids: []Event{Flash, Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.Loss.Output
			if m == nil {
				r.ask("readings.loss.output")
				return r
			}
			if !linkloss.Notices(m.Value) {
				r.find(Finding{Weight: Stop, Title: "The receiver hides a loss, so the board never acts on it", Figures: "Without a radio it goes on sending (" + string(m.Value) + "); the board is set to " + string(k.Sheet.Loss.Policy) + ", which never comes.", Why: "It flies on with your last stick positions until the pack is empty.", Remedies: by("Set the receiver to send nothing on loss, then turn the radio off again and watch"), Paths: []quad.Path{"readings.loss.output", "sheet.loss.policy"}})
			}
			return r
		},
	},
	{
		ID: "link-loss.guard", Station: LinkLoss, Reads: []quad.Path{"sheet.loss.guard"},
		Judge: func(k quad.Known) Result {
			var r Result
			g := k.Sheet.Loss.Guard
			if g < linkloss.GuardMin || g > linkloss.GuardMax {
				r.find(Finding{Weight: Fix, Title: "The guard time does not fit", Figures: q(g, "s") + "; 0.3 to 1.5 s is useful.", Why: "Too short cuts a flight over a moment's fade, too long flies on blind.", Remedies: []Remedy{{Words: "Wait 1 s", Edits: []Edit{{"sheet.loss.guard", "1"}}}}, Paths: []quad.Path{"sheet.loss.guard"}})
			}
			return r
		},
	},
	{
		ID: "link-loss.response", Station: LinkLoss, Reads: []quad.Path{"readings.loss.response", "sheet.loss.guard", "sheet.loss.policy"}, Days: 1, Voids: []Event{Flash, Repair},
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
			case m.Value == 0:
				r.find(Finding{Weight: Stop, Title: "The motors went on after the radio was off", Figures: "They never stopped; " + q(k.Sheet.Loss.Guard, "s") + " is the guard time.", Why: "A loss in flight would not end it.", Remedies: by("Mend what the receiver puts out, then measure again"), Paths: []quad.Path{"readings.loss.response", "sheet.loss.policy"}})
			case m.Value > most:
				r.find(Finding{Weight: Fix, Title: "The motors stopped later than set", Figures: q(round2(m.Value), "s") + " measured; guard " + q(k.Sheet.Loss.Guard, "s") + " and a run-down of up to 1 s.", Why: "Something between radio and motors holds on.", Remedies: by("Look for a second hold: in the receiver, in the radio"), Paths: []quad.Path{"readings.loss.response", "sheet.loss.guard"}})
			}
			return r
		},
	},
	{
		ID: "link-loss.land-throttle", Station: LinkLoss, Reads: reads("sheet.loss.policy", "sheet.loss.landThrottle", "sheet.motors.idle", "readings.airframe.weight"),
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
			share := 100 * (hover.Duty - k.Sheet.Motors.Idle/100) / (1 - k.Sheet.Motors.Idle/100)
			if land := k.Sheet.Loss.LandThrottle; land >= share || land < share*0.6 {
				r.find(Finding{Weight: Fix, Title: "The landing throttle does not land this quad", Figures: q(land, "%") + " set, it hovers at about " + q(math.Round(share), "%") + ".", Why: "At or above hover it climbs away; far below it falls.", Remedies: []Remedy{{Words: "Land at " + q(math.Round(share*0.85), "%"), Edits: []Edit{{"sheet.loss.landThrottle", q(math.Round(share*0.85), "")}}}}, Paths: []quad.Path{"sheet.loss.landThrottle", "readings.airframe.weight"}})
			}
			return r
		},
	},
	{
		ID: "link-loss.no-rearm", Station: LinkLoss, Reads: []quad.Path{"readings.loss.rearms"}, Days: 30, Voids: []Event{Flash},
		Judge: func(k quad.Known) Result {
			var r Result
			confirm(&r, k.Readings.Loss.Rearms, "readings.loss.rearms", false, Finding{Weight: Stop, Title: "It arms by itself when the radio comes back", Why: "You walk up to a quad that starts.", Remedies: by("Make the board ask for the arm switch to go off once")})
			return r
		},
	},
}

var benchProofRules = []Rule{
	{
		ID: "bench-proof.gates", Station: BenchProof, Reads: []quad.Path{"readings.benchProof.gateRefuses", "sheet.sticks.idleBelow"}, Days: 1, Voids: []Event{Crash, Repair, Flash, Solder},
		Judge: func(k quad.Known) Result {
			var r Result
			confirm(&r, k.Readings.BenchProof.GateRefuses, "readings.benchProof.gateRefuses", true, Finding{Weight: Stop, Title: "It arms with the throttle up", Figures: "At rest is set to " + q(k.Sheet.Sticks.IdleBelow, "µs") + ".", Why: "It jumps the moment you arm it.", Remedies: by("Lower the at-rest threshold")})
			return r
		},
	},
	{
		ID: "bench-proof.answers", Station: BenchProof, Reads: []quad.Path{"readings.benchProof.frameYaw", "readings.benchProof.stickYaw", "readings.benchProof.radioOff"}, Days: 1, Voids: []Event{Crash, Repair, Flash, Solder},
		Judge: func(k quad.Known) Result {
			var r Result
			b := k.Readings.BenchProof
			confirm(&r, b.FrameYaw, "readings.benchProof.frameYaw", true, Finding{Weight: Stop, Title: "Turning the frame is not answered against", Why: "Its yaw runs away. Exchanged outputs of like spin and propeller hands do not show here.", Remedies: by("Look at the gyro's mounting and the declared rotation")})
			confirm(&r, b.StickYaw, "readings.benchProof.stickYaw", true, Finding{Weight: Stop, Title: "The yaw stick twists the frame the other way", Why: "Nose and hand disagree.", Remedies: by("Look at the yaw channel's direction")})
			confirm(&r, b.RadioOff, "readings.benchProof.radioOff", true, Finding{Weight: Stop, Title: "Radio off does not stop the motors", Why: "Nothing else will, in the air.", Remedies: by("Go back to Link loss")})
			return r
		},
	},
}

var firstFlightRules = []Rule{
	{
		ID: "first-flight.propellers", Station: FirstFlight, Reads: []quad.Path{"readings.firstFlight.propellers", "readings.motors.outputs", "sheet.craft.rotation"}, Voids: []Event{Crash, Repair}, Ages: []quad.Path{"readings.firstFlight.propellers"},
		Judge: func(k quad.Known) Result {
			var r Result
			spins := map[quad.Corner]quad.Spin{}
			for _, m := range k.Readings.Motors.Outputs {
				if m != nil {
					spins[m.Value.Corner] = m.Value.Spin
				}
			}
			for _, c := range quad.Corners {
				path := quad.Path("readings.firstFlight.propellers." + string(c))
				m := k.Readings.FirstFlight.Propellers[string(c)]
				if m == nil {
					r.ask(path)
					continue
				}
				spin, seen := spins[c]
				want := k.Sheet.Craft.Rotation.Wants(c)
				if !seen {
					spin = want
				}
				if e := motors.EffectOf(want, spin, m.Value); !e.PushesUp {
					r.find(Finding{Weight: Stop, Title: upper(c.Words()) + ": the propeller pushes down", Figures: "It is made to turn " + m.Value.Words() + ", the motor turns " + spin.Words() + ".", Why: "The quad tips over to the " + c.Words() + " before it lifts.", Remedies: by("Fit one made to turn " + spin.Words() + ", lettering up"), Paths: []quad.Path{path, "readings.motors.outputs"}, Scenario: "hover"})
				}
			}
			return r
		},
	},
	{
		ID: "first-flight.wind", Station: FirstFlight, Reads: []quad.Path{"readings.firstFlight.wind", "readings.firstFlight.gust", "sheet.feel.angleLimit", "parts.frame.dragArea", "readings.airframe.weight"}, Days: 1, Ages: []quad.Path{"readings.firstFlight.wind", "readings.firstFlight.gust"},
		Judge: func(k quad.Known) Result {
			var r Result
			wind, gust := k.Readings.FirstFlight.Wind, k.Readings.FirstFlight.Gust
			if wind == nil {
				r.ask("readings.firstFlight.wind")
			}
			if gust == nil {
				r.ask("readings.firstFlight.gust")
			}
			if wind == nil || gust == nil {
				return r
			}
			weight := k.Readings.Airframe.Weight
			if weight == nil {
				r.ask("readings.airframe.weight")
				return r
			}
			able := flight.LevelSpeed(k.Parts, weight.Value, k.Sheet.Feel.AngleLimit)
			strongest := math.Max(wind.Value, gust.Value)
			f := Finding{Title: "The wind is strong for a first hover", Figures: fmt.Sprintf("%s with gusts of %s; it can hold against %s.", q(wind.Value, "m/s"), q(gust.Value, "m/s"), q(math.Round(able), "m/s")), Why: "A first hover should show the quad's faults, not the weather's.", Remedies: by("Wait, or find a lee"), Paths: []quad.Path{"readings.firstFlight.wind", "readings.firstFlight.gust"}}
			switch {
			case strongest > 0.6*able:
				f.Weight, f.Title = Stop, "It cannot hold its place in this wind"
				r.find(f)
			case strongest > 8:
				f.Weight = Fix
				r.find(f)
			}
			return r
		},
	},
	{
		ID: "first-flight.clear-radius", Station: FirstFlight, Reads: reads("readings.firstFlight.clear", "readings.airframe.weight"), Days: 1, Ages: []quad.Path{"readings.firstFlight.clear"},
		Judge: func(k quad.Known) Result {
			var r Result
			clear, w := k.Readings.FirstFlight.Clear, k.Readings.Airframe.Weight
			if clear == nil {
				r.ask("readings.firstFlight.clear")
			}
			if w == nil {
				r.ask("readings.airframe.weight")
			}
			if clear == nil || w == nil {
				return r
			}
			far, ok := flight.ClearRadius(k.Parts, w.Value)
			if !ok {
				return missingDrive(k)
			}
			if clear.Value < far {
				r.find(Finding{Weight: Stop, Title: "It is too narrow here", Figures: fmt.Sprintf("%s are clear; if it tips and runs until a startled hand cuts it gets %s.", q(clear.Value, "m"), q(round1(far), "m")), Why: "Propellers cut.", Remedies: by("Move away, or move people away"), Paths: []quad.Path{"readings.firstFlight.clear"}})
			}
			return r
		},
	},
	{
		ID: "first-flight.local-rules", Station: FirstFlight, Reads: []quad.Path{"readings.firstFlight.rules", "limits.country", "limits.height"}, Days: 1,
		Judge: func(k quad.Known) Result {
			var r Result
			confirm(&r, k.Readings.FirstFlight.Rules, "readings.firstFlight.rules", true, Finding{Weight: Stop, Title: "You say the local rules do not allow it", Figures: k.Limits.Country, Why: "The local authority's rules decide.", Remedies: by("Fly where and when they do")})
			if most := k.Limits.Height; most > 0 && flight.HoverCard.Height > most {
				r.find(Finding{Weight: Stop, Title: "The card climbs higher than is allowed", Figures: q(flight.HoverCard.Height, "m") + " on the card, " + q(most, "m") + " allowed.", Why: "The local authority's rules decide.", Remedies: by("Fly where it may climb as high"), Paths: []quad.Path{"limits.height"}})
			}
			return r
		},
	},
	{
		ID: "first-flight.rehearsal", Station: FirstFlight, Days: 1, Ages: []quad.Path{"readings.firstFlight.rehearsal"},
		Reads: reads("readings.firstFlight.rehearsal", "readings.firstFlight.wind", "readings.firstFlight.propellers", "readings.motors.outputs", "readings.sticks.axes", "readings.senses.levelRoll", "readings.senses.levelPitch", "radio.order", "readings.airframe.weight", "sheet.craft", "sheet.motors", "sheet.sticks", "sheet.feel", "sheet.senses.boardYaw", "sheet.loss", "board.line", "board.sheet", "parts.frame.armFront", "parts.frame.armSide", "parts.frame.legHeight", "parts.frame.dragArea", "parts.frame.mass", "parts.motor.timeConstant", "parts.propeller.reversed"),
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.FirstFlight.Rehearsal
			if m == nil {
				r.ask("readings.firstFlight.rehearsal")
				return r
			}
			in, err := flight.NewInput(k)
			if err != nil {
				r.find(Finding{Weight: Stop, Title: "This quad cannot be rehearsed", Figures: upper(err.Error()) + ".", Why: "What cannot be computed cannot be trusted.", Remedies: by("Fill in what is missing"), Paths: []quad.Path{quad.Path(quad.AsFault(err).Place)}})
				return r
			}
			if flight.HashInput(in, flight.HoverCard) != m.Input {
				r.ask("readings.firstFlight.rehearsal") // something it flew with has changed since
				return r
			}
			if m.Value.Outcome != string(flight.Landed) {
				r.find(Finding{Weight: Stop, Title: "The rehearsal does not end on its feet", Figures: m.Value.Sentence, Why: "The real one would not either.", Remedies: by("Mend what makes it so; the replay shows when"), Paths: []quad.Path{"readings.firstFlight.rehearsal"}, Scenario: "hover"})
			} else if m.Value.Deviation > 3 {
				r.find(Finding{Weight: Fix, Title: "It drifts far in the rehearsal", Figures: q(m.Value.Deviation, "m") + " from where it stood.", Why: "A first hover should stay where you can see it.", Remedies: by("Level it better, or wait for less wind"), Paths: []quad.Path{"readings.firstFlight.rehearsal"}})
			}
			return r
		},
	},
}
