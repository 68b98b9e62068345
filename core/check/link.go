package check

import (
	"vividperch/core/link"
	"vividperch/core/quad"
)

var linkRules = []Rule{
	{
		ID:      "link.versions",
		Station: Link,
		Reads:   []quad.Path{"parts.radioModule.link", "parts.radioModule.version", "parts.radioModule.band", "parts.receiver.link", "parts.receiver.version", "parts.receiver.band"},
		Judge: func(k quad.Known) Result {
			var r Result
			m, v := k.Parts.RadioModule, k.Parts.Receiver
			a := link.Compare(m, v)
			paths := []quad.Path{"parts.radioModule", "parts.receiver"}
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
					Title:    "A version of radio or receiver is not known",
					Figures:  "Module " + orNothing(m.Version) + ", receiver " + orNothing(v.Version) + ".",
					Why:      "A different major version binds to nothing, or loses its link later.",
					Remedies: by("Read both versions"),
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
					Figures:  orNothing(m.Band) + " and " + orNothing(v.Band) + ".",
					Why:      "They cannot hear each other.",
					Remedies: by("Use a receiver for the radio's band"),
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
		Reads:   []quad.Path{"sheet.link.telemetry", "parts.receiver.telemetry"},
		Judge: func(k quad.Known) Result {
			var r Result
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
		Voids:   []Event{Flash, Repair},
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
