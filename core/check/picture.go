package check

import (
	"vividperch/core/picture"
	"vividperch/core/quad"
)

var pictureRules = []Rule{
	{
		ID:      "picture.legal",
		Station: Picture,
		Reads:   []quad.Path{"sheet.picture", "limits.videoPower", "limits.videoLow", "limits.videoHigh", "parts.video.fitted"},
		Judge: func(k quad.Known) Result {
			var r Result
			if !k.Parts.Video.Fitted {
				return r
			}
			r.ask(quad.Untold(&k, []quad.Path{"sheet.picture.frequency", "sheet.picture.power", "limits.videoLow", "limits.videoHigh", "limits.videoPower"})...)
			s, l := k.Sheet.Picture, k.Limits
			frequency, watts := picture.Allowed(s, l)
			if !frequency {
				r.find(Finding{
					Weight:   Stop,
					Title:    "The video frequency is not allowed here",
					Figures:  q(s.Frequency, "MHz") + "; allowed is " + q(l.VideoLow, "MHz") + " to " + q(l.VideoHigh, "MHz") + ".",
					Why:      "It may belong to someone whose safety hangs on it.",
					Remedies: by("Choose a channel inside the band"),
					Paths:    []quad.Path{"sheet.picture.frequency", "limits.videoHigh"},
				})
			}
			if !watts {
				r.find(Finding{
					Weight:   Fix,
					Title:    "The video transmits with more than is allowed",
					Figures:  q(s.Power, "mW") + " set, " + q(l.VideoPower, "mW") + " allowed.",
					Why:      "Power is set by the country.",
					Remedies: []Remedy{{Words: "Set " + q(l.VideoPower, "mW"), Edits: []Edit{{"sheet.picture.power", q(l.VideoPower, "")}}}},
					Paths:    []quad.Path{"sheet.picture.power", "limits.videoPower"},
				})
			}
			return r
		},
	},
	{
		ID:      "picture.unit-agrees",
		Station: Picture,
		Reads:   []quad.Path{"readings.picture.frequency", "readings.picture.seen", "sheet.picture.frequency", "parts.video.fitted"},
		Voids:   []Event{Crash, Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			if !k.Parts.Video.Fitted {
				return r
			}
			confirm(&r, k.Readings.Picture.Seen, "readings.picture.seen", true, Finding{
				Weight:   Fix,
				Title:    "There is no clear picture",
				Why:      "You would fly blind.",
				Remedies: by("Check channel, antenna, then the camera's wire"),
			})
			m := k.Readings.Picture.Frequency
			if m == nil {
				r.ask("readings.picture.frequency")
				return r
			}
			if m.Value != k.Sheet.Picture.Frequency {
				r.find(Finding{
					Weight:   Fix,
					Title:    "The unit is on another frequency than your settings say",
					Figures:  q(m.Value, "MHz") + " on the unit, " + q(k.Sheet.Picture.Frequency, "MHz") + " in your settings.",
					Why:      "Others were told where you are; you are not there.",
					Remedies: []Remedy{{Words: "Follow the unit", Edits: []Edit{{"sheet.picture.frequency", q(m.Value, "")}}}},
					Paths:    []quad.Path{"readings.picture.frequency", "sheet.picture.frequency"},
				})
			}
			return r
		},
	},
}
