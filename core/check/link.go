package check

import (
	"vividperch/core/link"
	"vividperch/core/quad"
)

var linkRules = []Rule{
	{
		ID:      "link.versions",
		Station: Link,
		Reads: []quad.Path{
			"parts.radioModule.link", "parts.radioModule.version", "parts.radioModule.band", "parts.radioModule.region",
			"parts.receiver.link", "parts.receiver.version", "parts.receiver.band", "parts.receiver.region",
		},
		Judge: func(k quad.Known) Result {
			var r Result
			m, v := k.Parts.RadioModule, k.Parts.Receiver
			a := link.Compare(m, v)
			paths := []quad.Path{"parts.radioModule", "parts.receiver"}
			r.ask(quad.Untold(&k, []quad.Path{"parts.radioModule.link", "parts.receiver.link", "parts.radioModule.version", "parts.receiver.version", "parts.radioModule.band", "parts.receiver.band"})...)
			if len(r.Asks) > 0 {
				return r
			}
			switch {
			case !a.SameLink:
				r.find(Finding{
					Weight:   Stop,
					Title:    "Radio and receiver speak different links",
					Figures:  orNothing(m.Link) + " and " + orNothing(v.Link) + ".",
					Why:      "They cannot hear each other.",
					Remedies: by("Use a receiver of the radio's link"),
					Paths:    paths,
				})
			case !a.MajorsKnown:
				r.find(Finding{
					Weight:   Fix,
					Title:    "A version of radio or receiver cannot be read",
					Figures:  "Module " + orNothing(m.Version) + ", receiver " + orNothing(v.Version) + ".",
					Why:      "A different major version binds to nothing, or loses its link later.",
					Remedies: by("Read both versions again, as figures with points between"),
					Paths:    paths,
				})
			case !a.SameMajor:
				r.find(Finding{
					Weight:   Stop,
					Title:    "Radio and receiver are of different major versions",
					Figures:  "Module " + m.Version + ", receiver " + v.Version + ".",
					Why:      "They do not bind.",
					Remedies: by("Update the " + a.Older),
					Paths:    paths,
				})
			}
			if a.SameLink && !a.SameBand {
				r.find(Finding{
					Weight:   Stop,
					Title:    "Radio and receiver are on different bands",
					Subject:  "bands",
					Figures:  orNothing(m.Band) + " and " + orNothing(v.Band) + ".",
					Why:      "They cannot hear each other.",
					Remedies: by("Use a receiver for the radio's band"),
					Paths:    paths,
				})
			}
			if a.SameLink && a.SameBand && !a.SameRegion {
				r.find(Finding{
					Weight:   Stop,
					Title:    "Radio and receiver carry firmware for different regions",
					Subject:  "regions",
					Figures:  m.Region + " and " + v.Region + ".",
					Why:      "They hop over other frequencies and do not meet; one of them may not be allowed here.",
					Remedies: by("Flash one for the region you fly in, with the other's major version"),
					Paths:    paths,
				})
			}
			return r
		},
	},
	{
		ID:      "link.legal-power",
		Station: Link,
		Reads:   []quad.Path{"parts.radioModule.power", "limits.controlPower"},
		Judge: func(k quad.Known) Result {
			var r Result
			r.ask(quad.Untold(&k, []quad.Path{"parts.radioModule.power", "limits.controlPower"})...)
			if p, most := k.Parts.RadioModule.Power, k.Limits.ControlPower; p > most {
				r.find(Finding{
					Weight:   Fix,
					Title:    "The control link transmits with more than is allowed",
					Figures:  q(p, "mW") + " set, " + q(most, "mW") + " allowed.",
					Why:      "Power is set by the country; others fly on the band too.",
					Remedies: by("Lower it in the radio"),
					Paths:    []quad.Path{"parts.radioModule.power", "limits.controlPower"},
				})
			}
			return r
		},
	},
	{
		ID:      "link.telemetry",
		Station: Link,
		Reads:   []quad.Path{"sheet.link.telemetry", "parts.receiver.telemetry", "radio.telemetry", "radio.channels", "radio.model", "parts.receiver.link"},
		By:      []quad.Path{"pilot.gear"},
		Judge: func(k quad.Known) Result {
			var r Result
			g, known := link.GearOf(k.Parts.Receiver.Link, k.Pilot.Gear)
			switch {
			case k.Radio.Model == "": // how the model sends was not told
			case k.Radio.Telemetry && !k.Parts.Receiver.Telemetry:
				r.find(Finding{
					Weight:   Fix,
					Title:    "The radio's model waits for telemetry that this receiver never sends",
					Why:      "Some receivers do not bind to a model that asks for it.",
					Remedies: []Remedy{{Words: "Bind it without telemetry", Edits: []Edit{{"radio.telemetry", "false"}}}},
					Paths:    []quad.Path{"radio.telemetry", "parts.receiver.telemetry"},
				})
			case k.Radio.Telemetry && known && !g.Telemetry.Carries(k.Radio.Channels):
				r.find(Finding{
					Weight:   Fix,
					Title:    "So many channels leave this link no room for telemetry",
					Figures:  quad.Count(k.Radio.Channels, "channel", "channels") + " set; with telemetry it carries " + q(float64(g.Telemetry.Most), "") + ".",
					Why:      "The receiver binds to neither, or sends nothing back.",
					Remedies: []Remedy{{Words: "Send fewer channels", Edits: []Edit{{"radio.channels", q(float64(g.Telemetry.Most), "")}}}, {Words: "Or do without telemetry", Edits: []Edit{{"radio.telemetry", "false"}, {"sheet.link.telemetry", "false"}}}},
					Paths:    []quad.Path{"radio.channels", "radio.telemetry"},
				})
			case k.Sheet.Link.Telemetry && k.Parts.Receiver.Telemetry && !k.Radio.Telemetry:
				r.find(Finding{
					Weight:   Fix,
					Title:    "Telemetry is wanted, but the radio's model does not ask for it",
					Why:      "A voltage alarm in the radio would never sound.",
					Remedies: []Remedy{{Words: "Ask for it in the model", Edits: []Edit{{"radio.telemetry", "true"}}}},
					Paths:    []quad.Path{"radio.telemetry", "sheet.link.telemetry"},
				})
			}
			if k.Sheet.Link.Telemetry && !k.Parts.Receiver.Telemetry {
				r.find(Finding{
					Weight:   Fix,
					Title:    "Telemetry is wanted, but this receiver sends none",
					Why:      "A voltage alarm in the radio would never sound, and link quality never shows.",
					Remedies: []Remedy{{Words: "Do without telemetry", Edits: []Edit{{"sheet.link.telemetry", "false"}}}, {Words: "Or fit a receiver that can"}},
					Paths:    []quad.Path{"sheet.link.telemetry", "parts.receiver.telemetry"},
				})
			}
			return r
		},
	},
	{
		ID:      "link.channels-move",
		Station: Link,
		Reads:   []quad.Path{"readings.link.channelsMove"},
		Voids:   []Event{Flash, LinkFlash, Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			confirm(&r, k.Readings.Link.ChannelsMove, "readings.link.channelsMove", true, Finding{
				Weight:   Stop,
				Title:    "No channel moves with the sticks",
				Why:      "A light that is on is not a link.",
				Remedies: by("Bind again; then look at the receiver's port"),
			})
			return r
		},
	},
	{
		ID:      "link.quality",
		Station: Link,
		Reads:   judgedBy("linkQuality", "readings.link.range"),
		Voids:   []Event{Crash, Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.Link.Range
			if m == nil {
				r.ask("readings.link.range")
				return r
			}
			if least, whose := Limit(k, "linkQuality"); m.Value < least {
				r.find(Finding{
					Weight:   Fix,
					Title:    "The link is weak at thirty paces",
					Figures:  q(m.Value, "%") + "; " + q(least, "%") + " is the least." + whose,
					Why:      "In flight it will be gone before you see it coming.",
					Remedies: by("Free the antennas from carbon, look at their connectors"),
					Paths:    []quad.Path{"readings.link.range"},
				})
			}
			return r
		},
	},
}
