package check

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"vividperch/core/link"
	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// linkEndRules are about how the two ends of the control link are set: the radio's model, the antennas, what is told of
// strength. What was never told is not judged.
var linkEndRules = []Rule{
	{
		ID:      "link.identities",
		Station: Link,
		Reads: []quad.Path{
			"readings.link.module", "readings.link.receiver", "parts.radioModule.link", "parts.radioModule.version", "parts.radioModule.band", "parts.radioModule.region",
			"parts.receiver.link", "parts.receiver.version", "parts.receiver.band", "parts.receiver.region",
		},
		Voids: []Event{Flash, LinkFlash, Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			m, v := k.Parts.RadioModule, k.Parts.Receiver
			r.identity("radio module", "readings.link.module", "parts.radioModule", k.Readings.Link.Module, quad.LinkIdentity{Link: m.Link, Version: m.Version, Band: m.Band, Region: m.Region})
			r.identity("receiver", "readings.link.receiver", "parts.receiver", k.Readings.Link.Receiver, quad.LinkIdentity{Link: v.Link, Version: v.Version, Band: v.Band, Region: v.Region})
			return r
		},
	},
	{
		ID:      "link.phrase",
		Station: Link,
		Reads:   []quad.Path{"readings.link.modulePhrase", "readings.link.receiverPhrase", "readings.link.channelsMove", "parts.receiver.link"},
		By:      []quad.Path{"pilot.gear"},
		Voids:   []Event{Flash, LinkFlash},
		Judge: func(k quad.Known) Result {
			var r Result
			a, b := k.Readings.Link.ModulePhrase, k.Readings.Link.ReceiverPhrase
			g, known := link.GearOf(k.Parts.Receiver.Link, k.Pilot.Gear)
			if !known || !g.Has(link.Phrase) {
				return r
			}
			if a == nil || b == nil {
				if m := k.Readings.Link.ChannelsMove; m != nil && !m.Value {
					r.ask("readings.link.modulePhrase", "readings.link.receiverPhrase") // it would tell why
				}
				return r
			}
			f := Finding{
				Weight:  Stop,
				Figures: "Fingerprints " + a.Value.Exact + " and " + b.Value.Exact + ".",
				Why:     "Every letter, capital and space counts; the receiver takes its phrase when its power comes.",
				Paths:   []quad.Path{"readings.link.modulePhrase", "readings.link.receiverPhrase"},
			}
			switch link.Alike(a.Value, b.Value) {
			case link.LooselySo:
				f.Title, f.Remedies = "The two phrases differ in capitals or spaces only", by("Copy one to the other letter by letter, and power-cycle the receiver")
				r.find(f)
			case link.Unlike:
				f.Title, f.Remedies = "Radio and receiver have different phrases", by("Give both the same phrase, and power-cycle the receiver")
				r.find(f)
			}
			return r
		},
	},
	{
		ID:      "link.modules",
		Station: Link,
		Reads:   []quad.Path{"radio.modules", "parts.radioModule.external"},
		Judge: func(k quad.Known) Result {
			var r Result
			right, words := quad.ModuleInternal, "the built-in module"
			if k.Parts.RadioModule.External {
				right, words = quad.ModuleExternal, "the module in the bay"
			}
			f := Finding{
				Weight:   Stop,
				Remedies: []Remedy{{Words: "Have " + words + " on, alone", Edits: []Edit{{"radio.modules", `"` + string(right) + `"`}}}},
				Paths:    []quad.Path{"radio.modules", "parts.radioModule.external"},
			}
			switch k.Radio.Modules {
			case "", right:
				return r
			case quad.ModuleBoth:
				f.Title, f.Why = "The model has both modules on", "Side by side they drown each other, and another quad may obey the second one."
			case quad.ModuleNone:
				f.Title, f.Why = "The model has no module on", "Nothing is sent."
			default:
				f.Title, f.Why = "The model has the wrong module on", "Your receiver belongs to "+words+"."
			}
			r.find(f)
			return r
		},
	},
	{
		ID:      "link.number",
		Station: Link,
		Reads:   []quad.Path{"radio.number", "parts.receiver.link", "parts.radioModule.name", "parts.radioModule.external"},
		By:      []quad.Path{"fleet", "pilot.gear"},
		Judge: func(k quad.Known) Result {
			var r Result
			own := k.Meant().Neighbour()
			taken := link.SameNumber(own, k.Fleet)
			if len(taken) == 0 {
				return r
			}
			f := Finding{
				Weight:   Stop,
				Title:    "Another quad has this receiver number",
				Figures:  fmt.Sprintf("Number %d: %s too.", own.Number, quad.And(taken)),
				Why:      "With this model chosen both obey, the one on the shelf as well.",
				Remedies: by("Give this model a number of its own, and bind it again"),
				Paths:    []quad.Path{"radio.number"},
			}
			if g, known := link.GearOf(own.Link, k.Pilot.Gear); known {
				if free := link.FreeNumber(g, own, k.Fleet); free > 0 {
					f.Remedies = []Remedy{{Words: fmt.Sprintf("Take number %d, which is free, and bind it again", free), Edits: []Edit{{"radio.number", q(float64(free), "")}}}}
				}
			}
			r.find(f)
			return r
		},
	},
	{
		ID:      "link.rate",
		Station: Link,
		Reads:   slices.Concat([]quad.Path{"radio.rate", "radio.channels", "radio.switches", "parts.radioModule.link"}, channelPaths),
		By:      []quad.Path{"pilot.gear"},
		Judge: func(k quad.Known) Result {
			var r Result
			g, known := link.GearOf(k.Parts.RadioModule.Link, k.Pilot.Gear)
			var rate link.Rate
			sent, figures := math.MaxInt, ""
			from, remedies := quad.Path("radio.rate"), by("A slower rate with more channels, or another channel")
			if known && k.Radio.Rate != 0 {
				rate = g.Rate(k.Radio.Rate, 0)
				sent, figures = rate.Channels, fmt.Sprintf("at %s only %d are sent.", q(rate.Hertz, "Hz"), rate.Channels)
			}
			if set := k.Radio.Channels; set != 0 && set < sent {
				sent, figures = set, fmt.Sprintf("the radio is set to send %d.", set)
				from, remedies = "radio.channels", []Remedy{{Words: "Send as many as the link carries", Edits: []Edit{{"radio.channels", "0"}}}}
			}
			unsent := map[int]bool{}
			for _, f := range sticks.Functions(k.Sheet.Sticks) {
				if f.Rng.Channel <= sent {
					continue
				}
				unsent[f.Rng.Channel] = true
				r.find(Finding{
					Weight:   Stop,
					Title:    quad.Upper(f.Name) + " is on a channel that is not sent",
					Figures:  fmt.Sprintf("Channel %d; %s", f.Rng.Channel, figures),
					Why:      "Whatever lies on that channel decides, and no hand does.",
					Remedies: remedies,
					Paths:    []quad.Path{from, f.Path + ".channel"},
					Subject:  string(f.ID),
				})
			}
			for _, name := range quad.SortedKeys(k.Radio.Switches) {
				s := k.Radio.Switches[name]
				f := Finding{Weight: Fix, Paths: []quad.Path{from, quad.Path("radio.switches." + name)}}
				switch most := rate.Positions(s.Channel); {
				case s.Channel > sent && unsent[s.Channel]:
					continue // what it means there is said above
				case s.Channel > sent:
					f.Title = "The " + name + " switch is on a channel that is not sent"
					f.Figures = fmt.Sprintf("Channel %d; %s", s.Channel, figures)
					f.Why, f.Remedies = "Whatever lies on that channel decides.", remedies
				case most > 0 && len(s.Positions) > most:
					f.Title = "At this packet rate the " + name + " switch loses positions"
					f.Figures = fmt.Sprintf("It has %d; at %s channel %d tells %d apart.", len(s.Positions), q(rate.Hertz, "Hz"), s.Channel, most)
					f.Why, f.Remedies = "Two of its positions arrive as one.", by("A slower packet rate, another channel, or a switch with fewer positions")
				default:
					continue
				}
				r.find(f)
			}
			return r
		},
	},
	{
		ID:      "link.antennas",
		Station: Link,
		Reads:   []quad.Path{"readings.link.antennas"},
		Voids:   []Event{Crash, Repair, Solder, NewMount},
		Judge: func(k quad.Known) Result {
			var r Result
			confirm(&r, k.Readings.Link.Antennas, "readings.link.antennas", true, Finding{
				Weight:   Fix,
				Title:    "The receiver's antennas are not free",
				Why:      "Carbon and battery leads shade them, a propeller cuts them, a pulled connector lets go in the air.",
				Remedies: by("Lead the ends into the clear, at right angles, and relieve the connectors"),
			})
			return r
		},
	},
	{
		ID:      "link.polarisation",
		Station: Link,
		Reads:   []quad.Path{"parts.radioModule.polarisation", "parts.receiver.polarisation"},
		Judge: func(k quad.Known) Result {
			var r Result
			paths := []quad.Path{"parts.radioModule.polarisation", "parts.receiver.polarisation"}
			switch lost := link.PolarisationLoss(k.Parts.RadioModule.Polarisation, k.Parts.Receiver.Polarisation); {
			case lost >= 10:
				r.find(Finding{
					Weight:   Fix,
					Title:    "The antennas of radio and receiver are crossed",
					Figures:  "About " + q(lost, "dB") + " lost, a tenth of the range left.",
					Why:      "They send and hear at right angles, or with opposite hands.",
					Remedies: by("Turn one of them as the other stands, or fit one of the same hand"),
					Paths:    paths,
				})
			case lost > 0:
				r.find(Finding{
					Weight:   Note,
					Title:    "A linear and a circular antenna",
					Figures:  q(lost, "dB") + " lost, a third of the range.",
					Why:      "Half of the power is in the hand or plane that the other does not hear; in return it does not fade when the quad leans.",
					Remedies: by("Two of a kind reach farther"),
					Paths:    paths,
				})
			}
			return r
		},
	},
	{
		ID:      "link.strength-source",
		Station: Link,
		Reads:   []quad.Path{"sheet.link.strength", "sheet.link.strengthChannel", "parts.receiver.strength", "parts.receiver.strengthChannel", "radio.switches"},
		Judge: func(k quad.Known) Result {
			var r Result
			told, sent := k.Sheet.Link.Strength, k.Parts.Receiver.Strength
			board, receiver := k.Sheet.Link.StrengthChannel, k.Parts.Receiver.StrengthChannel
			paths := []quad.Path{"sheet.link.strength", "parts.receiver.strength"}
			if told == "" || sent == "" {
				return r
			}
			if told != sent {
				r.find(Finding{
					Weight:   Fix,
					Title:    "The board looks for the link's strength where the receiver does not put it",
					Figures:  "The board: " + strengthWords(told, board) + ". The receiver: " + strengthWords(sent, receiver) + ".",
					Why:      "The strength on the screen is nothing, or something else, and no alarm goes by it.",
					Remedies: []Remedy{{Words: "Have the board look there", Edits: []Edit{{"sheet.link.strength", `"` + string(sent) + `"`}, {"sheet.link.strengthChannel", q(float64(receiver), "")}}}},
					Paths:    paths,
				})
				return r
			}
			if told != quad.StrengthChannel {
				return r
			}
			if board == 0 {
				r.ask("sheet.link.strengthChannel")
				return r
			}
			if board != receiver {
				r.find(Finding{
					Weight:   Fix,
					Title:    "The link's strength arrives on another channel than the board takes it from",
					Figures:  fmt.Sprintf("The board takes channel %d, the receiver puts it on %d.", board, receiver),
					Why:      "Whatever lies on that channel passes for the strength.",
					Remedies: []Remedy{{Words: fmt.Sprintf("Take channel %d", receiver), Edits: []Edit{{"sheet.link.strengthChannel", q(float64(receiver), "")}}}},
					Paths:    []quad.Path{"sheet.link.strengthChannel", "parts.receiver.strengthChannel"},
				})
			}
			for _, name := range quad.SortedKeys(k.Radio.Switches) {
				if c := k.Radio.Switches[name].Channel; c > 0 && c == board {
					r.find(Finding{
						Weight:   Fix,
						Title:    "The " + name + " switch drives the channel that the strength comes on",
						Figures:  fmt.Sprintf("Channel %d.", c),
						Why:      "The strength shown is where the switch lies, and full when the link is gone.",
						Remedies: by("Put the switch on another channel"),
						Paths:    []quad.Path{quad.Path("radio.switches." + name), "sheet.link.strengthChannel"},
					})
				}
			}
			return r
		},
	},
	{
		ID:      "link.alarms",
		Station: Link,
		Reads:   []quad.Path{"radio.alarms", "radio.rate", "radio.channels", "radio.model", "radio.telemetry", "parts.radioModule.link"},
		By:      []quad.Path{"pilot.gear"},
		Judge: func(k quad.Known) Result {
			var r Result
			g, known := link.GearOf(k.Parts.RadioModule.Link, k.Pilot.Gear)
			if !known || k.Radio.Model == "" || !k.Radio.Telemetry {
				return r
			}
			rate := g.Rate(k.Radio.Rate, k.Radio.Channels)
			a, usual := k.Radio.Alarms, link.Alarms(rate.Sensitivity)
			f := Finding{
				Weight:   Fix,
				Figures:  fmt.Sprintf("At %s the receiver follows down to %s; %s and %s leave time to turn.", q(rate.Hertz, "Hz"), q(rate.Sensitivity, "dBm"), q(usual.Strength, "dBm"), q(usual.StrengthLast, "dBm")),
				Remedies: []Remedy{{Words: "Warn at " + q(usual.Strength, "dBm") + " and " + q(usual.StrengthLast, "dBm") + ", 70 % and 50 %", Edits: []Edit{{"radio.alarms", fmt.Sprintf(`{"strength":%g,"strengthLast":%g,"quality":%g,"qualityLast":%g}`, usual.Strength, usual.StrengthLast, usual.Quality, usual.QualityLast)}}}},
				Paths:    []quad.Path{"radio.alarms", "radio.rate"},
			}
			switch {
			case a == (quad.LinkAlarms{}):
				f.Weight, f.Title, f.Why = Note, "The radio does not warn of a weak link", "The first you hear of it is silence."
			case a.Strength != 0 && a.Strength < rate.Sensitivity || a.StrengthLast != 0 && a.StrengthLast < rate.Sensitivity:
				f.Title, f.Why = "The radio warns when the link is already gone", "It cannot tell a strength that the receiver no longer hears."
			case a.StrengthLast != 0 && a.StrengthLast >= a.Strength || a.QualityLast != 0 && a.QualityLast >= a.Quality:
				f.Title, f.Why = "The last warning comes before the first", "Two steps tell how fast it is going; these tell nothing."
			default:
				return r
			}
			r.find(f)
			return r
		},
	},
	{
		ID:      "link.track",
		Station: Link,
		Reads:   judgedBy("linkQuality", "readings.link.track", "readings.link.range"),
		Voids:   []Event{Crash, Repair, NewMount},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.Link.Track
			if m == nil {
				if walked := k.Readings.Link.Range; walked != nil {
					if least, _ := Limit(k, "linkQuality"); walked.Value < least {
						r.ask("readings.link.track") // it tells where it is lost
					}
				}
				return r
			}
			if missing := m.Value.Missing; missing >= link.MissingNote {
				f := Finding{
					Weight:   Note,
					Title:    "Less arrives than radio and receiver promise",
					Figures:  q(missing, "dB") + " missing, scatter " + q(m.Value.Spread, "dB") + ".",
					Why:      "It is range that you paid for and do not have.",
					Remedies: by("Look at the causes beside the track"),
					Paths:    []quad.Path{"readings.link.track"},
				}
				if missing >= link.MissingFix {
					f.Weight = Fix
				}
				r.find(f)
			}
			return r
		},
	},
}

// identity of one end, as it says itself, against the parts.
func (r *Result) identity(what string, reading, part quad.Path, m *quad.Reading[quad.LinkIdentity], noted quad.LinkIdentity) {
	if m == nil {
		r.ask(reading)
		return
	}
	is := m.Value
	if is.Region == "" {
		is.Region = noted.Region // it does not say
	}
	if is == noted {
		return
	}
	f := Finding{Weight: Fix, Title: "The " + what + " is another one than the parts say", Figures: "It says " + identityWords(is) + "; the parts " + identityWords(noted) + ".", Why: "What suits it is worked out from the parts.", Paths: []quad.Path{reading, part}}
	edits := []Edit{}
	for _, c := range []struct {
		name     quad.Path
		is, told string
	}{{"link", is.Link, noted.Link}, {"version", is.Version, noted.Version}, {"band", is.Band, noted.Band}, {"region", is.Region, noted.Region}} {
		if c.is != c.told {
			edits = append(edits, Edit{part + "." + c.name, quote(c.is)})
		}
	}
	f.Remedies = []Remedy{{Words: "Note it in the parts", Edits: edits}}
	r.find(f)
}

func identityWords(i quad.LinkIdentity) string {
	return strings.Join(strings.Fields(strings.Join([]string{i.Link, i.Version, i.Band, i.Region}, " ")), " ")
}

func strengthWords(s quad.StrengthSource, channel int) string {
	switch s {
	case quad.StrengthChannel:
		return fmt.Sprintf("channel %d", channel)
	case quad.StrengthAnalog:
		return "a voltage on a pin"
	case quad.StrengthSerial:
		return "within the serial frame"
	}
	return "nowhere"
}
