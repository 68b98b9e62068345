package check

import (
	"vividperch/core/quad"
)

// Shares of the losses along a line, %: more among people, or more that end badly in another way, and the line is one to change.
const (
	amongPeople = 1
	endingBadly = 50
)

// airOf a wind, m/s: what nobody told is flown as still air, and is no figure.
func airOf(wind float64) string {
	if wind == 0 {
		return "still air"
	}
	return "a wind of " + q(wind, "m/s")
}

// lineRule judges what was flown for today's line. Nobody has to fly one: a hover in sight needs none.
var lineRule = Rule{
	ID:      "link-loss.line",
	Station: LinkLoss,
	Reads:   []quad.Path{"readings.loss.line", "sheet.loss.policy"},
	// The wind of the day is read after Link loss was signed: a proof of it must not fall by that.
	By:   []quad.Path{"readings.firstFlight.wind"},
	Days: 1,
	Ages: []quad.Path{"readings.loss.line"},
	Judge: func(k quad.Known) Result {
		var r Result
		m := k.Readings.Loss.Line
		if m == nil {
			return r
		}
		l, paths := m.Value, []quad.Path{"readings.loss.line"}
		wind := 0.0
		if w := k.Readings.FirstFlight.Wind; w != nil {
			wind = w.Value
		}
		set := k.Sheet.Loss.Policy
		if l.Policy != set || l.Wind != wind {
			r.ask("readings.loss.line")
			r.Again = "it was flown in " + airOf(l.Wind) + "; today there is " + airOf(wind)
			if l.Policy != set {
				r.Again = "another policy on radio loss is set since the last one"
			}
			return r
		}
		if l.People > amongPeople {
			r.find(Finding{
				Weight:   Fix,
				Title:    "Lost on today's line it comes down among people",
				Figures:  q(l.People, "%") + " of " + quad.Count(l.Losses, "loss", "losses") + " on " + l.Line + ", with " + q(l.Energy, "J") + " at the ground.",
				Why:      "A thumb is cut at a few joules.",
				Remedies: by("Move the line, or choose the policy that keeps it away from them"),
				Paths:    append(paths, "sheet.loss.policy"),
			})
		}
		if l.Lost > endingBadly {
			r.find(Finding{
				Weight:   Fix,
				Title:    "Lost on today's line it is mostly lost for good",
				Figures:  q(l.Lost, "%") + " of " + quad.Count(l.Losses, "loss", "losses") + " on " + l.Line + " strike something, end in water or on a roof, or stay up.",
				Why:      "Where nothing else is hurt, the quad is.",
				Remedies: by("Move the line, or choose another policy"),
				Paths:    append(paths, "sheet.loss.policy"),
			})
		}
		return r
	},
}
