package check

import (
	"math"

	"vividperch/core/flight"
	"vividperch/core/quad"
	"vividperch/core/senses"
)

var returnRule = Rule{
	ID:      "link-loss.return",
	Station: LinkLoss,
	Reads:   []quad.Path{"sheet.loss.policy", "sheet.loss.way", "sheet.loss.wayHeight", "sheet.loss.atHome", "limits.height", "readings.loss.obstacle"},
	Days:    1,
	Judge: func(k quad.Known) Result {
		var r Result
		l := k.Sheet.Loss
		if l.Policy != quad.PolicyReturn {
			return r
		}
		if l.Way == "" {
			r.ask("sheet.loss.way")
		}
		if l.AtHome == "" {
			r.ask("sheet.loss.atHome")
		}
		if l.Way == quad.WaySet && l.WayHeight == 0 {
			r.ask("sheet.loss.wayHeight")
		}
		over := k.Readings.Loss.Obstacle
		if over == nil {
			r.ask("readings.loss.obstacle")
		}
		if len(r.Asks) > 0 {
			return r
		}
		set := l.Way == quad.WaySet
		if most := k.Limits.Height; set && most > 0 && l.WayHeight > most {
			r.find(Finding{
				Weight:   Fix,
				Title:    "It would come home higher than is allowed",
				Figures:  q(l.WayHeight, "m") + " set, " + q(most, "m") + " allowed.",
				Why:      "It breaks the rules just when you cannot stop it.",
				Remedies: []Remedy{{Words: "Come home at " + q(most, "m"), Edits: []Edit{{"sheet.loss.wayHeight", q(most, "")}}}},
				Paths:    []quad.Path{"sheet.loss.wayHeight", "limits.height"},
			})
		}
		if clears := over.Value + clearsBy; over.Value > 0 && (!set || l.WayHeight < clears) {
			f := Finding{
				Weight:   Fix,
				Title:    "What stands in its way is nearly as high as its way",
				Figures:  q(over.Value, "m") + " high; it comes home " + l.Way.Words() + ".",
				Why:      "It flies home straight, and sees nothing.",
				Remedies: []Remedy{{Words: "Come home at " + q(math.Ceil(clears), "m"), Edits: []Edit{{"sheet.loss.way", `"set"`}, {"sheet.loss.wayHeight", q(math.Ceil(clears), "")}}}},
				Paths:    []quad.Path{"readings.loss.obstacle", "sheet.loss.way", "sheet.loss.wayHeight"},
			}
			if set {
				f.Figures = q(over.Value, "m") + " high, its way is set to " + q(l.WayHeight, "m") + "; " + q(clearsBy, "m") + " more than what stands there is the least."
			}
			if !set || l.WayHeight <= over.Value {
				f.Weight, f.Title = Stop, "It would come home into what stands in its way"
			}
			r.find(f)
		}
		return r
	},
}

// clearsBy is how far above what stands in its way a way home should be, m: the barometer's and the satellites' errors, and a tree in leaf.
const clearsBy = 10.0

// todayRules are about the place and the day that a hold or a return is flown in.
var todayRules = []Rule{
	{
		ID:      "first-flight.position",
		Station: FirstFlight,
		Reads:   append([]quad.Path{"readings.senses.satellites", "readings.firstFlight.clear", "sheet.senses.satellite"}, navigating...),
		Judge: func(k quad.Known) Result {
			var r Result
			if !navigates(k) || !k.Sheet.Senses.Satellite {
				return r
			}
			m, clear := k.Readings.Senses.Satellites, k.Readings.FirstFlight.Clear
			if m == nil {
				r.ask("readings.senses.satellites")
			}
			if clear == nil {
				r.ask("readings.firstFlight.clear")
			}
			if len(r.Asks) > 0 || m.Value.Dilution <= senses.DilutionFor(clear.Value) {
				return r
			}
			r.find(Finding{
				Weight:   Fix,
				Title:    "Its position is too coarse for the place",
				Figures:  "A dilution of " + q(m.Value.Dilution, "") + " puts it within " + q(math.Round(senses.HorizontalWithin(m.Value.Dilution)), "m") + "; " + q(clear.Value, "m") + " are clear.",
				Why:      "It may come down outside of what you keep clear.",
				Remedies: by("Wait for a better sky, or keep more clear"),
				Paths:    []quad.Path{"readings.senses.satellites", "readings.firstFlight.clear"},
			})
			return r
		},
	},
	{
		ID:      "first-flight.home-wind",
		Station: FirstFlight,
		Reads:   []quad.Path{"sheet.loss.policy", "sheet.sticks.comeHome", "sheet.loss.homeSpeed", "sheet.feel.angleLimit", "readings.firstFlight.wind", "readings.airframe.weight", "parts.frame.dragArea"},
		Judge: func(k quad.Known) Result {
			var r Result
			if !returns(k) {
				return r
			}
			weight, ok := r.weighed(k)
			wind := k.Readings.FirstFlight.Wind
			if wind == nil {
				r.ask("readings.firstFlight.wind")
			}
			if !ok || wind == nil {
				return r
			}
			most := flight.HomeAgainst(k.Parts, weight, k.Sheet.Feel.AngleLimit)
			if reach := flight.HomeSpeed(k.Parts, weight, k.Sheet.Feel.AngleLimit, wind.Value); wind.Value <= most && k.Sheet.Loss.HomeSpeed > reach {
				r.find(Finding{
					Weight:   Note,
					Title:    "It comes home slower than is set",
					Figures:  q(k.Sheet.Loss.HomeSpeed, "m/s") + " set; against " + q(wind.Value, "m/s") + " of wind it makes " + q(round1(reach), "m/s") + ".",
					Why:      "The way takes longer, and more of the pack.",
					Remedies: by("Count on the slower figure, and turn back earlier"),
					Paths:    []quad.Path{"sheet.loss.homeSpeed", "readings.firstFlight.wind"},
				})
			}
			if wind.Value > most {
				r.find(Finding{
					Weight:   Stop,
					Title:    "It does not come home against this wind",
					Figures:  q(wind.Value, "m/s") + "; leaning as far as it does by itself it comes home against " + q(round1(most), "m/s") + ".",
					Why:      "Lost downwind it is carried away, at the height of its way home.",
					Remedies: by("Fly upwind of yourself, another day, or land on a loss instead"),
					Paths:    []quad.Path{"readings.firstFlight.wind", "sheet.feel.angleLimit"},
				})
			}
			return r
		},
	},
}
