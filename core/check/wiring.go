package check

import (
	"vividperch/core/quad"
	"vividperch/core/wiring"
)

var wiringRules = []Rule{
	{
		ID:      "wiring.ports-match-solder",
		Station: Wiring,
		Reads:   []quad.Path{"parts.wires", "sheet.wiring.ports"},
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
					r.find(Finding{
						Weight:   Stop,
						Title:    "Nobody listens to the " + c.Device,
						Figures:  "It is soldered to port " + c.Port + ", which is told to do " + told + ".",
						Why:      "The device talks and the board does not hear it.",
						Remedies: []Remedy{{Words: "Give port " + c.Port + " to the " + c.Device, Edits: []Edit{{at, `"` + c.Device + `"`}}}},
						Paths:    []quad.Path{"parts.wires." + quad.Path(c.Device), at},
					})
				case "nobody":
					r.find(Finding{
						Weight:   Fix,
						Title:    "Port " + c.Port + " listens for a " + c.Device + " that is not there",
						Figures:  "Nothing of the kind is soldered to it.",
						Why:      "Noise on an open wire is taken for data.",
						Remedies: []Remedy{{Words: "Give port " + c.Port + " nothing to do", Edits: []Edit{{at, `"nothing"`}}}},
						Paths:    []quad.Path{at, "parts.wires"},
					})
				case "twice":
					r.find(Finding{
						Weight:   Stop,
						Title:    "Two ports both want to be the " + c.Device,
						Figures:  "Ports " + c.Other + " and " + c.Port + ".",
						Why:      "The board takes one of them, and not always the same.",
						Remedies: []Remedy{{Words: "Give port " + c.Port + " nothing to do", Edits: []Edit{{at, `"nothing"`}}}},
						Paths:    []quad.Path{at},
					})
				}
			}
			return r
		},
	},
	{
		ID:      "wiring.inversion",
		Station: Wiring,
		Reads:   []quad.Path{"parts.wires.receiver.port", "parts.board.ports", "parts.receiver.inverted", "sheet.link.inverted"},
		Judge: func(k quad.Known) Result {
			var r Result
			port := k.Parts.Wires["receiver"].Port
			if k.Parts.Receiver.Inverted && port != "" && !k.Parts.Board.Ports[port].Inverts {
				r.find(Finding{
					Weight:   Stop,
					Title:    "The receiver sends inverted, its port cannot invert",
					Figures:  "Port " + port + ".",
					Why:      "Every byte arrives upside down: no channels.",
					Remedies: by("Move the wire to a port that inverts"),
					Paths:    []quad.Path{"parts.receiver.inverted", "parts.board.ports"},
				})
			}
			if k.Parts.Receiver.Inverted != k.Sheet.Link.Inverted {
				r.find(Finding{
					Weight:   Stop,
					Title:    "Receiver and sheet disagree about inversion",
					Figures:  "The receiver sends it " + inverted(k.Parts.Receiver.Inverted) + ", the sheet expects it " + inverted(k.Sheet.Link.Inverted) + ".",
					Why:      "No channels arrive.",
					Remedies: []Remedy{{Words: "Follow the receiver", Edits: []Edit{{"sheet.link.inverted", boolean(k.Parts.Receiver.Inverted)}}}},
					Paths:    []quad.Path{"parts.receiver.inverted", "sheet.link.inverted"},
				})
			}
			return r
		},
	},
	{
		ID:      "wiring.receiver-answers",
		Station: Wiring,
		Reads:   []quad.Path{"readings.wiring.receiverAnswers"},
		Voids:   []Event{Solder, Repair},
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

func inverted(b bool) string {
	if b {
		return "inverted"
	}
	return "upright"
}
