package check

import (
	"vividperch/core/airframe"
	"vividperch/core/quad"
	"vividperch/core/wiring"
)

// solderReads is what wiring.Clashes looks at.
var solderReads = []quad.Path{"parts.wires", "parts.devices", "parts.receiver.link", "parts.receiver.telemetry", "parts.receiver.inverted", "parts.receiver.language", "parts.receiver.speed", "parts.board.ports", "parts.board.buses", "sheet.wiring.ports"}

var wiringRules = []Rule{
	{
		ID:      "wiring.ports-match-solder",
		Station: Wiring,
		Reads:   solderReads,
		Judge: func(k quad.Known) Result {
			var r Result
			for _, c := range wiring.Clashes(k.Parts, k.Sheet.Wiring.Ports) {
				f := clashFinding(k, c)
				if f.Weight == Stop {
					f.Subject = c.Kind + " " + c.Device + " " + c.Port // one wire can be wrong in several ways
				}
				r.find(f)
			}
			return r
		},
	},
	{
		ID:      "wiring.rails",
		Station: Wiring,
		Reads:   []quad.Path{"parts.wires", "parts.devices", "parts.board.rails", "parts.packs"},
		Judge: func(k quad.Known) Result {
			var r Result
			for _, s := range wiring.Rails(k.Parts) {
				at := quad.Path("parts.board.rails." + s.Rail)
				if s.Spare < 0 {
					r.find(Finding{
						Weight:   Fix,
						Title:    "The " + s.Rail + " rail gives too little",
						Figures:  quad.And(s.Devices) + " draw " + q(s.Draws, "mA") + "; it gives " + q(s.Most, "mA") + ", and a fifth must stay free.",
						Why:      "A rail at its end sags, and everything on it starts anew, in the air.",
						Remedies: by("Move one to another rail, or ask for a plan"),
						Paths:    []quad.Path{at, "parts.devices"},
					})
				}
				for _, device := range s.Wrong {
					r.find(Finding{
						Weight:   Stop,
						Title:    "The " + device + " does not take what the " + s.Rail + " rail has",
						Figures:  quiet(k.Parts.Devices[device], k.Parts.Board.Rails[s.Rail]) + "It takes " + q(k.Parts.Devices[device].Least, "V") + " to " + q(k.Parts.Devices[device].Most, "V") + ".",
						Why:      "Too much burns it, too little leaves it dead, noise shows in what it gives.",
						Remedies: by("Move its supply to a rail that it takes"),
						Paths:    []quad.Path{at, quad.Path("parts.devices." + device)},
					})
				}
				if s.USB {
					continue
				}
				for _, device := range s.Devices {
					if k.Parts.Devices[device].Function == quad.PortReceiver || device == "receiver" {
						r.find(Finding{
							Weight:   Note,
							Title:    "USB does not feed the " + device,
							Figures:  "It hangs on the " + s.Rail + " rail.",
							Why:      "On USB alone it is silent, and that is no fault.",
							Remedies: by("Expect it only with the pack in, or move it to a rail that USB feeds"),
							Paths:    []quad.Path{at, quad.Path("parts.wires." + device)},
						})
					}
				}
			}
			return r
		},
	},
	{
		ID:      "wiring.compass-apart",
		Station: Wiring,
		Reads:   []quad.Path{"parts.devices", "parts.batteryLead", "limits.field"},
		By:      reads("readings.airframe.weight"), // what the lead carries follows from the airframe; that this is right is proven there
		Judge: func(k quad.Known) Result {
			var r Result
			if len(wiring.Compasses(k.Parts, k.Limits, 1)) == 0 {
				return r // it has none
			}
			weight, ok := r.weighed(k)
			if !ok {
				return r
			}
			amps := airframe.Summarize(k.Parts, weight).HoverCurrent
			if amps == 0 {
				return r // the airframe's own rules say what is missing
			}
			for _, c := range wiring.Compasses(k.Parts, k.Limits, amps) {
				switch {
				case c.Apart <= 0:
					r.find(Finding{
						Weight:   Fix,
						Title:    "How far the " + c.Device + " is from the battery lead is not noted",
						Figures:  "At " + q(round1(amps), "A") + " in hover it needs " + q(round1(c.Needs), "mm") + ".",
						Why:      "The lead makes a field of its own, which turns north about with the throttle.",
						Remedies: by("Measure it and note it"),
						Paths:    []quad.Path{quad.Path("parts.devices." + c.Device + ".apart")},
					})
				case c.Field > c.Site/10:
					r.find(Finding{
						Weight:   Fix,
						Title:    "The " + c.Device + " is too near the battery lead",
						Figures:  q(round1(c.Field), "µT") + " at " + q(round1(amps), "A") + " in hover, " + q(c.Apart, "mm") + " away; a tenth of the earth's " + q(c.Site, "µT") + " is the most. It needs " + q(round1(c.Needs), "mm") + ".",
						Why:      "North turns with the throttle; a hold circles and a return misses.",
						Remedies: by("Move it away, or twist the lead"),
						Paths:    []quad.Path{quad.Path("parts.devices." + c.Device + ".apart"), "parts.batteryLead"},
					})
				}
			}
			return r
		},
	},
	{
		ID:      "wiring.satellite-apart",
		Station: Wiring,
		Reads:   []quad.Path{"parts.devices"},
		Judge: func(k quad.Known) Result {
			var r Result
			near, needs := wiring.NearVideo(k.Parts)
			for _, device := range near {
				at := quad.Path("parts.devices." + device + ".video")
				r.find(finding(Fix, "The "+device+" is too near the video transmitter", q(k.Parts.Devices[device].Video, "mm")+" away; "+q(needs, "mm")+" is the least.", "It drowns the satellites: fewer are seen as soon as the video sends.", by("Move one of them, or see the satellites with the video off and on"), at))
			}
			return r
		},
	},
	{
		ID:      "wiring.devices-answer",
		Station: Wiring,
		Reads:   []quad.Path{"parts.wires", "parts.devices", "parts.board.ports", "sheet.wiring.ports", "readings.wiring"},
		By:      []quad.Path{"parts.receiver.link", "parts.receiver.telemetry", "parts.receiver.inverted", "parts.receiver.language", "parts.receiver.speed"},
		Voids:   []Event{Crash, Solder, Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			seen := wiring.Seen(k)
			for _, device := range quad.SortedKeys(wiring.Answers(k.Parts, k.Sheet.Wiring.Ports)) {
				if device == "receiver" {
					continue // it has a rule of its own
				}
				at := quad.Path("readings.wiring.answers." + device)
				answers, looked := seen[device]
				switch {
				case k.Parts.Wires[device].Port == "":
				case !looked:
					r.ask(at)
				case !answers:
					f := finding(Stop, "The "+device+" is silent on its port", "It was looked at with its power on.", "What it should tell is not known to the board.", by("Follow what is listed under Which wire is wrong"), at)
					if list := wiring.Which(k.Parts, k.Sheet.Wiring.Ports, seen); len(list) > 0 {
						f.Figures, f.Remedies = list[0].Says, by(list[0].Test)
					}
					r.find(f)
				}
			}
			return r
		},
	},
	{
		ID:      "wiring.inversion",
		Station: Wiring,
		Reads:   []quad.Path{"parts.receiver.inverted", "sheet.link.inverted"},
		Judge: func(k quad.Known) Result {
			var r Result
			if k.Parts.Receiver.Inverted != k.Sheet.Link.Inverted {
				r.find(Finding{
					Weight:   Stop,
					Title:    "Receiver and settings disagree about inversion",
					Figures:  "The receiver sends it " + inverted(k.Parts.Receiver.Inverted) + ", your settings expect it " + inverted(k.Sheet.Link.Inverted) + ".",
					Why:      "No channels arrive.",
					Remedies: []Remedy{{Words: "Follow the receiver", Edits: []Edit{{"sheet.link.inverted", boolean(k.Parts.Receiver.Inverted)}}}},
					Paths:    []quad.Path{"parts.receiver.inverted", "sheet.link.inverted"},
				})
			}
			return r
		},
	},
	{
		ID:      "wiring.language",
		Station: Wiring,
		Reads:   []quad.Path{"parts.receiver.language", "parts.receiver.speed", "sheet.link.language", "readings.wiring.receiverAnswers"},
		Judge: func(k quad.Known) Result {
			var r Result
			speaks, told := k.Parts.Receiver.Language, k.Sheet.Link.Language
			if speaks == "" || told == "" {
				if seen := k.Readings.Wiring.ReceiverAnswers; seen != nil && !seen.Value {
					// It would tell why.
					if speaks == "" {
						r.ask("parts.receiver.language")
					}
					if told == "" {
						r.ask("sheet.link.language")
					}
				}
				return r
			}
			speed := wiring.SpeedOf(k.Parts.Receiver)
			switch {
			case speaks != told:
				r.find(Finding{
					Weight:   Stop,
					Title:    "The board takes the receiver to speak another language than it does",
					Figures:  "The receiver: " + speaks.Words() + ". Your settings: " + told.Words() + ".",
					Why:      "No channels arrive.",
					Remedies: []Remedy{{Words: "Follow the receiver", Edits: []Edit{{"sheet.link.language", `"` + string(speaks) + `"`}}}},
					Paths:    []quad.Path{"parts.receiver.language", "sheet.link.language"},
				})
			case told.Speed() > 0 && !wiring.SameSpeed(speed, told.Speed()):
				r.find(Finding{
					Weight:   Stop,
					Title:    "The receiver sends at another speed than the board listens",
					Figures:  "The receiver: " + q(speed, "kBd") + ". A board listens to a " + told.Words() + " at " + q(told.Speed(), "kBd") + ".",
					Why:      "No channels arrive.",
					Remedies: []Remedy{{Words: "Set the receiver's output to the usual speed", Edits: []Edit{{"parts.receiver.speed", "0"}}}},
					Paths:    []quad.Path{"parts.receiver.speed", "sheet.link.language"},
				})
			}
			return r
		},
	},
	{
		ID:      "wiring.receiver-answers",
		Station: Wiring,
		Reads:   []quad.Path{"readings.wiring.receiverAnswers"},
		Voids:   []Event{Crash, Solder, Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			confirm(&r, k.Readings.Wiring.ReceiverAnswers, "readings.wiring.receiverAnswers", true, Finding{
				Weight:   Stop,
				Title:    "The receiver is silent on its port",
				Why:      "Without it there is no control.",
				Remedies: by("Check its power, then its two data wires: the board's input to its output"),
			})
			return r
		},
	},
}

func quiet(d quad.Device, r quad.Rail) string {
	if d.Quiet && !r.Quiet {
		return "It wants a quiet supply, and that rail is none. "
	}
	return ""
}

// clashFinding says one clash in words.
func clashFinding(k quad.Known, c wiring.Clash) Finding {
	port := quad.Path("sheet.wiring.ports." + c.Port + ".function")
	wire := quad.Path("parts.wires." + c.Device)
	set := func(words, value string) []Remedy {
		return []Remedy{{Words: words, Edits: []Edit{{port, `"` + value + `"`}}}}
	}
	plan := by("Ask for a plan: it moves as little as it can")
	switch c.Kind {
	case "deaf":
		told := string(c.Told)
		if told == "" {
			told = "nothing"
		}
		return finding(Stop, "Nobody listens to the "+c.Device, "It is soldered to port "+c.Port+", which is told to do "+told+".", "The device talks and the board does not hear it.", listen(k, c, plan), wire, port)
	case "nobody":
		return finding(Fix, "Port "+c.Port+" listens for a "+c.Device+" that is not there", "Nothing of the kind is soldered to it.", "Noise on an open wire is taken for data.", set("Give port "+c.Port+" nothing to do", "nothing"), port, "parts.wires")
	case "twice":
		return finding(Stop, "Two ports both want to be the "+c.Device, "Ports "+c.Other+" and "+c.Port+".", "The board takes one of them, and not always the same.", set("Give port "+c.Port+" nothing to do", "nothing"), port)
	case "shared":
		return finding(Stop, "The "+c.Device+" and the "+c.Other+" are on one port", "Port "+c.Port+".", "Both talk at once, and the board understands neither.", plan, wire)
	case "missing":
		return finding(Fix, "The "+c.Device+" is not wired", "It has no port and no bus.", "It cannot be heard.", plan, wire)
	case "crossed":
		return finding(Stop, "The "+c.Device+"'s two data wires are exchanged", "Its output is on the pad that sends, its input on the one that receives, port "+c.Port+".", "Output talks to output, and nobody hears.", by("Exchange the two wires: the device's output to the board's input"), wire)
	case "usb":
		if c.Device != "" {
			return finding(Stop, "The "+c.Device+" is on the port of the USB plug", "Port "+c.Port+".", "The board could not be configured any more while it talks.", plan, wire)
		}
		return finding(Stop, "The USB plug's port cannot be told anything else", "Port "+c.Port+" is told to do "+string(c.Told)+".", "The board could not be reached any more.", set("Give port "+c.Port+" back to configuring", "configure"), port)
	case "oneWire":
		return finding(Stop, "Port "+c.Port+" cannot do what the "+c.Device+"'s wires want", "One wire for both ways wants a port that can take turns on it; two wires want two pads.", "They would speak at once.", plan, wire, "parts.board.ports")
	case "hears":
		return finding(Stop, "Port "+c.Port+" has no pad that receives", "The "+c.Device+" talks.", "Nothing of it arrives.", plan, wire, "parts.board.ports")
	case "sends":
		return finding(Stop, "Port "+c.Port+" has no pad that sends", "The "+c.Device+" listens.", "The board hears it, but can neither ask it anything nor set it up.", plan, wire, "parts.board.ports")
	case "slow":
		return finding(Stop, "Port "+c.Port+" is too slow for the "+c.Device, "Its fastest is below what the device speaks.", "Bytes are lost, and the rest makes no sense.", plan, wire, "parts.board.ports")
	case "direct":
		return finding(Fix, "Port "+c.Port+" has no direct memory access", "The "+c.Device+" wants it: it sends more than the processor fetches byte by byte.", "Under load bytes are lost.", plan, wire, "parts.board.ports")
	case "inversion":
		return finding(Stop, "The "+c.Device+" sends inverted, its port cannot invert", "Port "+c.Port+".", "Every byte arrives upside down.", by("Move the wire to a port that inverts, or to a timer pad"), wire, "parts.board.ports")
	case "speed":
		return finding(Stop, "The two ends of the "+c.Device+"'s line have different speeds", c.Other+", port "+c.Port+".", "Neither understands the other.", by("Set both ends to one speed"), quad.Path("sheet.wiring.ports."+c.Port+".baud"), "parts.devices")
	case "address":
		return finding(Stop, "The "+c.Device+" and the "+c.Other+" have one address", "Both are on bus "+c.Port+".", "They answer together, and neither is understood.", by("Put one on another bus, or give it another address"), wire)
	}
	return finding(Stop, "The board has no bus "+c.Port, "The "+c.Device+" is said to be on it.", "There is no such pair of pads.", plan, wire, "parts.board.buses")
}

// listen is to have a port listen to what is soldered to it, and no other port for the same. The USB plug's port cannot be told.
func listen(k quad.Known, c wiring.Clash, plan []Remedy) []Remedy {
	if k.Parts.Board.Ports[c.Port].USB {
		return plan
	}
	edits := []Edit{{quad.Path("sheet.wiring.ports." + c.Port + ".function"), `"` + string(c.Want) + `"`}}
	for _, other := range quad.SortedKeys(k.Sheet.Wiring.Ports) {
		if other != c.Port && k.Sheet.Wiring.Ports[other].Function == c.Want {
			edits = append(edits, Edit{quad.Path("sheet.wiring.ports." + other + ".function"), `"` + string(quad.PortNothing) + `"`})
		}
	}
	return []Remedy{{Words: "Give port " + c.Port + " to the " + c.Device, Edits: edits}}
}

func finding(w Weight, title, figures, why string, remedies []Remedy, paths ...quad.Path) Finding {
	return Finding{Weight: w, Title: title, Figures: figures, Why: why, Remedies: remedies, Paths: paths}
}

func inverted(b bool) string {
	if b {
		return "inverted"
	}
	return "upright"
}
