package check

import (
	"math"

	"vividperch/core/airframe"
	"vividperch/core/feel"
	"vividperch/core/flight"
	"vividperch/core/quad"
)

var feelRules = []Rule{
	{
		ID:      "feel.throttle-limit",
		Station: Feel,
		Reads:   reads("sheet.feel.throttleLimit", "readings.airframe.weight"),
		Judge: func(k quad.Known) Result {
			var r Result
			w := k.Readings.Airframe.Weight
			if w == nil {
				r.ask("readings.airframe.weight")
				return r
			}
			if _, _, ok := driveFor(k.Parts, airframe.RestCell); !ok {
				return missingDrive(k)
			}
			limit := k.Sheet.Feel.ThrottleLimit
			for _, name := range quad.SortedKeys(k.Parts.Packs) {
				pack := k.Parts.Packs[name]
				mass := airframe.MassWith(k.Parts, pack, w.Value)
				at := func(cell float64) float64 {
					d, err := airframe.NewDrive(k.Parts, pack, cell*float64(pack.Cells), airframe.Density)
					if err != nil || mass <= 0 {
						return math.Inf(1) // what it lacks another rule says
					}
					return d.Lifts(limit/100, mass)
				}
				ratio := at(airframe.RestCell)
				if ratio >= feel.LeastLimitedRatio {
					continue
				}
				weight := Fix
				if ratio < feel.LiftsRatio || at(flight.LowCell) < feel.LiftsLow {
					weight = Stop
				}
				r.find(Finding{
					Weight:   weight,
					Title:    "The throttle limit leaves too little to stop a descent",
					Subject:  name,
					Figures:  "At " + q(limit, "%") + " it lifts " + q(round2(ratio), "1") + " times its weight with " + name + "; 1.4 is the least.",
					Why:      "A quad that cannot stop sinking lands hard.",
					Remedies: by("Raise the limit"),
					Paths:    []quad.Path{"sheet.feel.throttleLimit"},
				})
			}
			return r
		},
	},
	{
		ID:      "feel.rates-alike",
		Station: Feel,
		Reads:   []quad.Path{"sheet.feel.roll.peak", "sheet.feel.pitch.peak", "sheet.feel.yaw.peak"},
		Judge: func(k quad.Known) Result {
			var r Result
			s := k.Sheet.Feel
			roll, pitch := s.Roll.Peak, s.Pitch.Peak // full stick asks for the peak in every family
			if !feel.Alike(roll, pitch) {
				r.find(Finding{
					Weight:   Note,
					Title:    "Roll and pitch answer unlike",
					Figures:  q(math.Round(roll), "deg/s") + " against " + q(math.Round(pitch), "deg/s") + " at full stick.",
					Why:      "Diagonal moves come out bent.",
					Remedies: by("Bring them within a quarter of each other"),
					Paths:    []quad.Path{"sheet.feel.roll", "sheet.feel.pitch"},
				})
			}
			for _, a := range []struct {
				name  string
				path  quad.Path
				rates quad.Rates
			}{{"Roll", "sheet.feel.roll", s.Roll}, {"Pitch", "sheet.feel.pitch", s.Pitch}, {"Yaw", "sheet.feel.yaw", s.Yaw}} {
				if peak := a.rates.Peak; peak < 60 {
					r.find(Finding{
						Weight:   Fix,
						Title:    a.name + " hardly turns at full stick",
						Figures:  q(math.Round(peak), "deg/s") + "; 60 is the least that can save a tipping quad.",
						Why:      "You cannot catch it.",
						Remedies: by("Raise the peak rate"),
						Paths:    []quad.Path{a.path},
					})
				}
			}
			return r
		},
	},
	{
		ID:      "feel.gains-present",
		Station: Feel,
		Reads:   []quad.Path{"sheet.feel.rollGains", "sheet.feel.pitchGains", "sheet.feel.yawGains", "sheet.feel.levelStrength", "sheet.feel.angleLimit", "sheet.sticks.selfLevel"},
		Judge: func(k quad.Known) Result {
			var r Result
			s := k.Sheet.Feel
			for _, a := range []struct {
				name  string
				path  quad.Path
				gains quad.Gains
			}{{"Roll", "sheet.feel.rollGains", s.RollGains}, {"Pitch", "sheet.feel.pitchGains", s.PitchGains}, {"Yaw", "sheet.feel.yawGains", s.YawGains}} {
				if a.gains.Proportional <= 0 {
					r.find(Finding{
						Weight:   Stop,
						Title:    a.name + " has no gain",
						Figures:  "The proportional gain is 0.",
						Why:      "Nothing holds that axis: it falls over at lift-off.",
						Remedies: by("Start from the line's default gains"),
						Paths:    []quad.Path{a.path},
					})
				}
			}
			if k.Sheet.Sticks.SelfLevel.Used() && (s.LevelStrength <= 0 || s.AngleLimit < 10) {
				r.find(Finding{
					Weight:   Fix,
					Title:    "Self-level is on a switch but set to do nothing",
					Figures:  "Strength " + q(s.LevelStrength, "1/s") + ", limit " + q(s.AngleLimit, "deg") + ".",
					Why:      "The switch you would reach for in trouble does not level.",
					Remedies: by("Give it a strength and a limit"),
					Paths:    []quad.Path{"sheet.feel.levelStrength", "sheet.sticks.selfLevel"},
				})
			}
			return r
		},
	},
}
