package check

import (
	"errors"
	"math"

	"vividperch/core/firmware"
	"vividperch/core/link"
	"vividperch/core/picture"
	"vividperch/core/power"
	"vividperch/core/quad"
	"vividperch/core/wiring"
)

var firstPowerRules = []Rule{
	{
		ID: "first-power.safe-to-connect", Station: FirstPower, Reads: []quad.Path{"readings.firstPower.propellersOff", "readings.firstPower.antennasOn"}, Voids: []Event{Crash, Repair, Solder},
		Judge: func(k quad.Known) Result {
			var r Result
			p := k.Readings.FirstPower
			confirm(&r, p.PropellersOff, "readings.firstPower.propellersOff", true, Finding{Weight: Stop, Title: "Propellers are on", Why: "A first power-up with propellers has cost fingers.", Remedies: by("Take all four off")})
			confirm(&r, p.AntennasOn, "readings.firstPower.antennasOn", true, Finding{Weight: Stop, Title: "A transmitter has no antenna", Why: "It destroys its own output stage within seconds.", Remedies: by("Screw the antenna on before power")})
			return r
		},
	},
	{
		ID: "first-power.lead-short", Station: FirstPower, Reads: []quad.Path{"readings.firstPower.leadResistance", "parts.capacitor.capacitance"}, Voids: []Event{Crash, Repair, Solder},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.FirstPower.LeadResistance
			if m == nil {
				r.ask("readings.firstPower.leadResistance")
				return r
			}
			if power.Shorted(m.Value) {
				r.find(Finding{Weight: Stop, Title: "The battery lead is shorted", Figures: q(m.Value.AtOnce, "Ω") + " at once, " + q(m.Value.After, "Ω") + " after 10 s; a sound lead climbs as its " + q(k.Parts.Capacitor.Capacitance, "µF") + " fill.", Why: "A pack on a short burns.", Remedies: by("Find the bridge: unsolder the lead, then one speed controller after the other"), Paths: []quad.Path{"readings.firstPower.leadResistance"}})
			}
			return r
		},
	},
	{
		ID: "first-power.frame-short", Station: FirstPower, Reads: []quad.Path{"readings.firstPower.frameResistance"}, Voids: []Event{Crash, Repair, Solder},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.FirstPower.FrameResistance
			if m == nil {
				r.ask("readings.firstPower.frameResistance")
				return r
			}
			if m.Value < power.FrameShort {
				r.find(Finding{Weight: Stop, Title: "The frame is connected to the battery lead", Figures: q(m.Value, "kΩ") + "; carbon conducts.", Why: "A screw or a pinched wire feeds the frame; the next touch is a short.", Remedies: by("Look at motor screws and wires under clamps"), Paths: []quad.Path{"readings.firstPower.frameResistance"}})
			}
			return r
		},
	},
	{
		ID: "first-power.idle-current", Station: FirstPower, Reads: []quad.Path{"readings.firstPower.idleCurrent", "parts.board.idleDraw", "parts.speedController.idleDraw", "parts.receiver.idleDraw", "parts.video.fitted", "parts.video.idleDraw"}, Voids: []Event{Crash, Repair, Solder},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.FirstPower.IdleCurrent
			if m == nil {
				r.ask("readings.firstPower.idleCurrent")
				return r
			}
			want := power.IdleCurrent(k.Parts)
			if want <= 0 || m.Value <= want*power.IdleFix {
				return r
			}
			f := Finding{Weight: Fix, Title: "It draws more at rest than its devices should", Figures: q(m.Value, "A") + " measured, " + q(round2(want), "A") + " expected.", Why: "Something is half shorted, or a device is hurt.", Remedies: by("Unplug devices one at a time; the one whose going brings the sum down is it"), Paths: []quad.Path{"readings.firstPower.idleCurrent"}}
			if m.Value > want*power.IdleStop {
				f.Weight = Stop
			}
			r.find(f)
			return r
		},
	},
}

var firmwareRules = []Rule{
	{
		ID: "firmware.right-board", Station: Firmware, Reads: []quad.Path{"readings.firmware.identity", "parts.board.target", "sheet.firmware"}, Voids: []Event{Flash, Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			id := k.Readings.Firmware.Identity
			if id == nil {
				r.ask("readings.firmware.identity")
				return r
			}
			s := k.Sheet.Firmware
			for _, c := range []struct {
				what, is, want string
				paths          []quad.Path
			}{
				{"The board is another one than the parts say", id.Value.Target, k.Parts.Board.Target, []quad.Path{"readings.firmware.identity", "parts.board.target"}},
				{"The build is for another board than the sheet says", id.Value.Target, s.Target, []quad.Path{"readings.firmware.identity", "sheet.firmware.target"}},
				{"Another firmware line is on the board", id.Value.Line, s.Line, []quad.Path{"readings.firmware.identity", "sheet.firmware.line"}},
				{"Another version is on the board", id.Value.Version, s.Version, []quad.Path{"readings.firmware.identity", "sheet.firmware.version"}},
			} {
				if c.is != c.want {
					r.find(Finding{Weight: Stop, Title: c.what, Figures: "It says " + c.is + "; you have " + orNothing(c.want) + ".", Why: "Settings mean different things on another build, and some name pins that drive motors.", Remedies: by("Flash the right build, or correct the sheet"), Paths: c.paths})
				}
			}
			return r
		},
	},
	{
		ID: "firmware.read-back-agrees", Station: Firmware, Reads: []quad.Path{"board.target", "board.line", "board.version", "readings.firmware.identity"}, Voids: []Event{Flash},
		Judge: func(k quad.Known) Result {
			var r Result
			id := k.Readings.Firmware.Identity
			if id == nil || !k.Board.Read() {
				r.ask("readings.firmware.identity")
				return r
			}
			if k.Board.Target != id.Value.Target || k.Board.Version != id.Value.Version || k.Board.Line != id.Value.Line {
				r.find(Finding{Weight: Stop, Title: "The settings read back came from another board or version", Figures: "Read back from " + k.Board.Target + " " + k.Board.Version + "; the board says " + id.Value.Target + " " + id.Value.Version + ".", Why: "Everything judged from them is about something else.", Remedies: by("Read the board again"), Paths: []quad.Path{"board.version", "readings.firmware.identity"}})
			}
			return r
		},
	},
	{
		ID: "firmware.saved", Station: Firmware, Reads: []quad.Path{"readings.firmware.backup"}, Voids: []Event{Flash},
		Judge: func(k quad.Known) Result {
			var r Result
			if k.Readings.Firmware.Backup == nil {
				r.ask("readings.firmware.backup")
			}
			return r
		},
	},
	{
		ID: "firmware.unmapped", Station: Firmware, Reads: []quad.Path{"sheet.firmware.other", "board.line", "board.unmapped"},
		Judge: func(k quad.Known) Result {
			var r Result
			if k.Board.Line == "" {
				return r // the identity rule asks for the read-back
			}
			line, ok := firmware.FindLine(k.Board.Line)
			if !ok {
				r.find(Finding{Weight: Note, Title: "No dictionary for this firmware line", Figures: k.Board.Line + " is not one of the lines this product can read.", Why: "Its settings cannot be compared with the sheet.", Remedies: by("Type what matters, or teach a dictionary"), Paths: []quad.Path{"board.line"}})
				return r
			}
			held, err := firmware.Lines(k.Board.Unmapped)
			meant, err2 := firmware.Lines(k.Sheet.Firmware.Other)
			if err = errors.Join(err, err2); err != nil {
				r.find(Finding{Weight: Stop, Title: "A setting without a subject cannot be read", Figures: upper(err.Error()) + ".", Why: "What is meant there is not known.", Remedies: by("Write it as name = value"), Paths: []quad.Path{"sheet.firmware.other", "board.unmapped"}})
				return r
			}
			for _, name := range quad.SortedKeys(held) {
				if line.Facts.Find(name) == nil {
					r.find(Finding{Weight: Stop, Title: "The board holds a setting this version does not have", Figures: name + " is not in " + line.Facts.Line + " " + line.Facts.Version + ".", Why: "The build is not what it says it is.", Remedies: by("Identify the board again"), Paths: []quad.Path{"board.unmapped"}})
					break
				}
			}
			for _, name := range quad.SortedKeys(meant) {
				want := meant[name]
				if is, ok := held[name]; ok && is != want {
					r.find(Finding{Weight: Stop, Title: "The board does not hold what the sheet says: " + name, Figures: "Sheet: " + want + ". Board: " + is + ".", Why: "It flies by what the board holds, not by what you meant.", Remedies: []Remedy{{Words: "Write the sheet to the board", Write: true}}, Paths: []quad.Path{"sheet.firmware.other", "board.unmapped"}})
				}
			}
			return r
		},
	},
}

func orNothing(s string) string {
	if s == "" {
		return "nothing noted"
	}
	return s
}

var wiringRules = []Rule{
	{
		ID: "wiring.ports-match-solder", Station: Wiring, Reads: []quad.Path{"parts.wires", "sheet.wiring.ports"},
		Judge: func(k quad.Known) Result {
			var r Result
			for _, c := range wiring.Clashes(k.Parts.Wires, k.Sheet.Wiring.Ports) {
				at := quad.Path("sheet.wiring.ports." + c.Port + ".function")
				switch c.Kind {
				case "deaf":
					told := string(c.Told)
					if told == "" {
						told = "nothing"
					}
					r.find(Finding{Weight: Stop, Title: "Nobody listens to the " + c.Device, Figures: "It is soldered to port " + c.Port + ", which is told to do " + told + ".", Why: "The device talks and the board does not hear it.", Remedies: []Remedy{{Words: "Give port " + c.Port + " to the " + c.Device, Edits: []Edit{{at, `"` + c.Device + `"`}}}}, Paths: []quad.Path{"parts.wires." + quad.Path(c.Device), at}})
				case "nobody":
					r.find(Finding{Weight: Fix, Title: "Port " + c.Port + " listens for a " + c.Device + " that is not there", Figures: "Nothing of the kind is soldered to it.", Why: "Noise on an open wire is taken for data.", Remedies: []Remedy{{Words: "Give port " + c.Port + " nothing to do", Edits: []Edit{{at, `"nothing"`}}}}, Paths: []quad.Path{at, "parts.wires"}})
				case "twice":
					r.find(Finding{Weight: Stop, Title: "Two ports both want to be the " + c.Device, Figures: "Ports " + c.Other + " and " + c.Port + ".", Why: "The board takes one of them, and not always the same.", Remedies: []Remedy{{Words: "Give port " + c.Port + " nothing to do", Edits: []Edit{{at, `"nothing"`}}}}, Paths: []quad.Path{at}})
				}
			}
			return r
		},
	},
	{
		ID: "wiring.inversion", Station: Wiring, Reads: []quad.Path{"parts.wires.receiver.port", "parts.board.ports", "parts.receiver.inverted", "sheet.link.inverted"},
		Judge: func(k quad.Known) Result {
			var r Result
			port := k.Parts.Wires["receiver"].Port
			if k.Parts.Receiver.Inverted && port != "" && !k.Parts.Board.Ports[port].Inverts {
				r.find(Finding{Weight: Stop, Title: "The receiver sends inverted, its port cannot invert", Figures: "Port " + port + ".", Why: "Every byte arrives upside down: no channels.", Remedies: by("Move the wire to a port that inverts"), Paths: []quad.Path{"parts.receiver.inverted", "parts.board.ports"}})
			}
			if k.Parts.Receiver.Inverted != k.Sheet.Link.Inverted {
				r.find(Finding{Weight: Stop, Title: "Receiver and sheet disagree about inversion", Figures: "The receiver sends it " + inverted(k.Parts.Receiver.Inverted) + ", the sheet expects it " + inverted(k.Sheet.Link.Inverted) + ".", Why: "No channels arrive.", Remedies: []Remedy{{Words: "Follow the receiver", Edits: []Edit{{"sheet.link.inverted", boolean(k.Parts.Receiver.Inverted)}}}}, Paths: []quad.Path{"parts.receiver.inverted", "sheet.link.inverted"}})
			}
			return r
		},
	},
	{
		ID: "wiring.receiver-answers", Station: Wiring, Reads: []quad.Path{"readings.wiring.receiverAnswers"}, Voids: []Event{Solder, Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			confirm(&r, k.Readings.Wiring.ReceiverAnswers, "readings.wiring.receiverAnswers", true, Finding{Weight: Stop, Title: "The receiver is silent on its port", Why: "Without it there is no control.", Remedies: by("Check its power, then its two data wires: the board's input to its output")})
			return r
		},
	},
}

func inverted(b bool) string {
	if b {
		return "inverted"
	}
	return "upright"
}

func boolean(b bool) string {
	if b {
		return "true"
	}
	return "false"
}

var linkRules = []Rule{
	{
		ID: "link.versions", Station: Link, Reads: []quad.Path{"parts.radioModule.link", "parts.radioModule.version", "parts.radioModule.band", "parts.receiver.link", "parts.receiver.version", "parts.receiver.band"},
		Judge: func(k quad.Known) Result {
			var r Result
			m, v := k.Parts.RadioModule, k.Parts.Receiver
			a := link.Compare(m, v)
			paths := []quad.Path{"parts.radioModule", "parts.receiver"}
			switch {
			case !a.SameLink:
				r.find(Finding{Weight: Stop, Title: "Radio and receiver speak different links", Figures: orNothing(m.Link) + " and " + orNothing(v.Link) + ".", Why: "They cannot hear each other.", Remedies: by("Use a receiver of the radio's link"), Paths: paths})
			case !a.MajorsKnown:
				r.find(Finding{Weight: Fix, Title: "A version of radio or receiver is not known", Figures: "Module " + orNothing(m.Version) + ", receiver " + orNothing(v.Version) + ".", Why: "A different major version binds to nothing, or loses its link later.", Remedies: by("Read both versions"), Paths: paths})
			case !a.SameMajor:
				r.find(Finding{Weight: Stop, Title: "Radio and receiver are of different major versions", Figures: "Module " + m.Version + ", receiver " + v.Version + ".", Why: "They do not bind.", Remedies: by("Update the " + a.Older), Paths: paths})
			}
			if a.SameLink && !a.SameBand {
				r.find(Finding{Weight: Stop, Title: "Radio and receiver are on different bands", Figures: orNothing(m.Band) + " and " + orNothing(v.Band) + ".", Why: "They cannot hear each other.", Remedies: by("Use a receiver for the radio's band"), Paths: paths})
			}
			return r
		},
	},
	{
		ID: "link.legal-power", Station: Link, Reads: []quad.Path{"parts.radioModule.power", "limits.controlPower"},
		Judge: func(k quad.Known) Result {
			var r Result
			if p, most := k.Parts.RadioModule.Power, k.Limits.ControlPower; p > most {
				r.find(Finding{Weight: Fix, Title: "The control link transmits with more than is allowed", Figures: q(p, "mW") + " set, " + q(most, "mW") + " allowed.", Why: "Power is set by the country; others fly on the band too.", Remedies: by("Lower it in the radio"), Paths: []quad.Path{"parts.radioModule.power", "limits.controlPower"}})
			}
			return r
		},
	},
	{
		ID: "link.telemetry", Station: Link, Reads: []quad.Path{"sheet.link.telemetry", "parts.receiver.telemetry"},
		Judge: func(k quad.Known) Result {
			var r Result
			if k.Sheet.Link.Telemetry && !k.Parts.Receiver.Telemetry {
				r.find(Finding{Weight: Fix, Title: "Telemetry is wanted, but this receiver sends none", Why: "A voltage alarm in the radio would never sound, and link quality never shows.", Remedies: []Remedy{{Words: "Do without telemetry", Edits: []Edit{{"sheet.link.telemetry", "false"}}}, {Words: "Or fit a receiver that can"}}, Paths: []quad.Path{"sheet.link.telemetry", "parts.receiver.telemetry"}})
			}
			return r
		},
	},
	{
		ID: "link.channels-move", Station: Link, Reads: []quad.Path{"readings.link.channelsMove"}, Voids: []Event{Flash, Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			confirm(&r, k.Readings.Link.ChannelsMove, "readings.link.channelsMove", true, Finding{Weight: Stop, Title: "No channel moves with the sticks", Why: "A light that is on is not a link.", Remedies: by("Bind again; then look at the receiver's port")})
			return r
		},
	},
	{
		ID: "link.quality", Station: Link, Reads: []quad.Path{"readings.link.range"}, Voids: []Event{Crash, Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.Link.Range
			if m == nil {
				r.ask("readings.link.range")
				return r
			}
			if m.Value < link.QualityLeast {
				r.find(Finding{Weight: Fix, Title: "The link is weak at thirty paces", Figures: q(m.Value, "%") + "; 70 % is the least.", Why: "In flight it will be gone before you see it coming.", Remedies: by("Free the antennas from carbon, look at their connectors"), Paths: []quad.Path{"readings.link.range"}})
			}
			return r
		},
	},
}

var powerWatchRules = []Rule{
	{
		ID: "power-watch.cells", Station: PowerWatch, Reads: []quad.Path{"sheet.watch.cells", "parts.packs"},
		Judge: func(k quad.Known) Result {
			var r Result
			for _, name := range quad.SortedKeys(k.Parts.Packs) {
				if n := k.Parts.Packs[name].Cells; n != k.Sheet.Watch.Cells {
					r.find(Finding{Weight: Fix, Title: "The alarm counts on another pack than " + name, Figures: "Set for " + count(k.Sheet.Watch.Cells, "cell") + ", the pack has " + q(float64(n), "count") + ".", Why: "It warns far too early, or never.", Remedies: []Remedy{{Words: "Set it for " + count(n, "cell"), Edits: []Edit{{"sheet.watch.cells", q(float64(n), "")}}}}, Paths: []quad.Path{"sheet.watch.cells", quad.Path("parts.packs." + name + ".cells")}})
				}
			}
			return r
		},
	},
	{
		ID: "power-watch.thresholds", Station: PowerWatch, Reads: []quad.Path{"sheet.watch.warnPerCell", "sheet.watch.landPerCell"},
		Judge: func(k quad.Known) Result {
			var r Result
			w := k.Sheet.Watch
			if w.WarnPerCell < power.WarnLow || w.WarnPerCell > power.WarnHigh {
				r.find(Finding{Weight: Fix, Title: "The warning comes at a voltage that helps nobody", Figures: q(w.WarnPerCell, "V") + " per cell; 3.3 to 3.8 V is useful under load.", Why: "Too low is too late, too high is ignored.", Remedies: []Remedy{{Words: "Warn at 3.5 V per cell", Edits: []Edit{{"sheet.watch.warnPerCell", "3.5"}}}}, Paths: []quad.Path{"sheet.watch.warnPerCell"}})
			}
			if w.LandPerCell < power.LandLow || w.LandPerCell >= w.WarnPerCell {
				r.find(Finding{Weight: Fix, Title: "The landing threshold is not below the warning and above harm", Figures: q(w.LandPerCell, "V") + " per cell with a warning at " + q(w.WarnPerCell, "V") + ".", Why: "There is no time between the two.", Remedies: []Remedy{{Words: "Land at 3.3 V per cell", Edits: []Edit{{"sheet.watch.landPerCell", "3.3"}}}}, Paths: []quad.Path{"sheet.watch.landPerCell"}})
			}
			return r
		},
	},
	{
		ID: "power-watch.volts-agree", Station: PowerWatch, Reads: []quad.Path{"readings.watch.boardVolts", "readings.watch.meterVolts"}, Voids: []Event{Flash, Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			b, m := k.Readings.Watch.BoardVolts, k.Readings.Watch.MeterVolts
			if b == nil {
				r.ask("readings.watch.boardVolts")
			}
			if m == nil {
				r.ask("readings.watch.meterVolts")
			}
			if b == nil || m == nil {
				return r
			}
			if math.Abs(b.Value-m.Value) > power.VoltError*m.Value {
				r.find(Finding{Weight: Fix, Title: "Board and meter disagree about the pack", Figures: q(b.Value, "V") + " on the board, " + q(m.Value, "V") + " by meter.", Why: "The alarm goes by the board's figure.", Remedies: by("Correct the board's voltage scale by the ratio of the two"), Paths: []quad.Path{"readings.watch.boardVolts", "readings.watch.meterVolts"}})
			}
			return r
		},
	},
	{
		ID: "power-watch.heard", Station: PowerWatch, Reads: []quad.Path{"readings.watch.heard"}, Voids: []Event{Flash, Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			confirm(&r, k.Readings.Watch.Heard, "readings.watch.heard", true, Finding{Weight: Fix, Title: "The alarm was not heard", Why: "A warning that nobody hears is none.", Remedies: by("Prove one route: telemetry, display or sounder")})
			return r
		},
	},
}

var pictureRules = []Rule{
	{
		ID: "picture.legal", Station: Picture, Reads: []quad.Path{"sheet.picture", "limits.videoPower", "limits.videoLow", "limits.videoHigh", "parts.video.fitted"},
		Judge: func(k quad.Known) Result {
			var r Result
			if !k.Parts.Video.Fitted {
				return r
			}
			s, l := k.Sheet.Picture, k.Limits
			frequency, watts := picture.Allowed(s, l)
			if !frequency {
				r.find(Finding{Weight: Stop, Title: "The video frequency is not allowed here", Figures: q(s.Frequency, "MHz") + "; allowed is " + q(l.VideoLow, "MHz") + " to " + q(l.VideoHigh, "MHz") + ".", Why: "It may belong to someone whose safety hangs on it.", Remedies: by("Choose a channel inside the band"), Paths: []quad.Path{"sheet.picture.frequency", "limits.videoHigh"}})
			}
			if !watts {
				r.find(Finding{Weight: Fix, Title: "The video transmits with more than is allowed", Figures: q(s.Power, "mW") + " set, " + q(l.VideoPower, "mW") + " allowed.", Why: "Power is set by the country.", Remedies: []Remedy{{Words: "Set " + q(l.VideoPower, "mW"), Edits: []Edit{{"sheet.picture.power", q(l.VideoPower, "")}}}}, Paths: []quad.Path{"sheet.picture.power", "limits.videoPower"}})
			}
			return r
		},
	},
	{
		ID: "picture.unit-agrees", Station: Picture, Reads: []quad.Path{"readings.picture.frequency", "readings.picture.seen", "sheet.picture.frequency", "parts.video.fitted"}, Voids: []Event{Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			if !k.Parts.Video.Fitted {
				return r
			}
			confirm(&r, k.Readings.Picture.Seen, "readings.picture.seen", true, Finding{Weight: Fix, Title: "There is no clear picture", Why: "You would fly blind.", Remedies: by("Check channel, antenna, then the camera's wire")})
			m := k.Readings.Picture.Frequency
			if m == nil {
				r.ask("readings.picture.frequency")
				return r
			}
			if m.Value != k.Sheet.Picture.Frequency {
				r.find(Finding{Weight: Fix, Title: "The unit is on another frequency than the sheet says", Figures: q(m.Value, "MHz") + " on the unit, " + q(k.Sheet.Picture.Frequency, "MHz") + " on the sheet.", Why: "Others were told where you are; you are not there.", Remedies: []Remedy{{Words: "Follow the unit", Edits: []Edit{{"sheet.picture.frequency", q(m.Value, "")}}}}, Paths: []quad.Path{"readings.picture.frequency", "sheet.picture.frequency"}})
			}
			return r
		},
	},
}
