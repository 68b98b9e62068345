package check

import (
	"math"

	"vividperch/core/airframe"
	"vividperch/core/feel"
	"vividperch/core/flight"
	"vividperch/core/motors"
	"vividperch/core/quad"
)

var feelRules = []Rule{
	{
		ID:      "feel.throttle-limit",
		Station: Feel,
		Reads:   reads(append(profilesOf("throttleLimit"), "sheet.feel.throttleLimit", "sheet.motors.idle", "sheet.motors.linear", "readings.airframe.weight")...),
		Judge: func(k quad.Known) Result {
			var r Result
			weight, ok := r.weighed(k)
			if !ok {
				return r
			}
			if _, _, ok := driveFor(k.Parts, airframe.RestCell); !ok {
				return missingDrive(k)
			}
			for _, name := range quad.SortedKeys(k.Parts.Packs) {
				pack := k.Parts.Packs[name]
				mass := airframe.MassWith(k.Parts, pack, weight)
				output := motors.OutputOf(&k.Sheet)
				at := func(cell float64) float64 {
					d, err := airframe.NewDrive(k.Parts, pack, cell*float64(pack.Cells), airframe.Density)
					if err != nil || mass <= 0 {
						return math.Inf(1) // what it lacks another rule says
					}
					return d.Lifts(output.Duty(1), mass)
				}
				for i, hands := range feel.Profiles(&k.Sheet) {
					limit := hands.ThrottleLimit
					if i > 0 && limit == 0 {
						continue // nobody told it, which another rule asks for
					}
					output.Limit = limit / 100
					ratio := at(airframe.RestCell)
					if ratio >= feel.LeastLimitedRatio {
						continue
					}
					f := Finding{
						Weight:   Fix,
						Title:    "The throttle limit leaves too little to stop a descent",
						Subject:  name,
						Figures:  "At " + q(limit, "%") + " it lifts " + q(round2(ratio), "1") + " times its weight with " + name + "; 1.4 is the least.",
						Why:      "A quad that cannot stop sinking lands hard.",
						Remedies: by("Raise the limit"),
						Paths:    []quad.Path{hands.At + ".throttleLimit"},
					}
					if i > 0 {
						f.Title, f.Subject = "The throttle limit of "+hands.Words+" leaves too little to stop a descent", name+" "+string(hands.At)
					}
					if ratio < feel.LiftsRatio || at(airframe.LowCell) < feel.LiftsLow {
						f.Weight = Stop
					}
					r.find(f)
				}
			}
			return r
		},
	},
	{
		ID:      "feel.rates-alike",
		Station: Feel,
		Reads:   append(profilesOf("roll", "pitch", "yaw"), "sheet.feel.family", "sheet.feel.roll", "sheet.feel.pitch", "sheet.feel.yaw"),
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
			for i, hands := range feel.Profiles(&k.Sheet) {
				for _, a := range []struct {
					axis  quad.Axis
					rates quad.Rates
				}{{quad.Roll, hands.Roll}, {quad.Pitch, hands.Pitch}, {quad.Yaw, hands.Yaw}} {
					at := hands.At + quad.Path("."+string(a.axis))
					if a.rates.Peak > 0 && feel.Sound(s.Family, a.rates, at) != nil {
						f := Finding{
							Weight:   Fix,
							Title:    quad.Upper(string(a.axis)) + " has its peak below its centre",
							Subject:  string(at) + " bent back",
							Figures:  "Centre " + q(math.Round(a.rates.Centre), "deg/s") + ", peak " + q(math.Round(a.rates.Peak), "deg/s") + ".",
							Why:      "Towards the stop more stick turns it slower.",
							Remedies: []Remedy{{Words: "A peak as high as the centre", Edits: []Edit{{at + ".peak", q(a.rates.Centre, "")}}}},
							Paths:    []quad.Path{at + ".centre", at + ".peak"},
						}
						if i > 0 {
							f.Title += " in " + hands.Words
						}
						r.find(f)
					}
					if peak := a.rates.Peak; peak < 60 && (i == 0 || peak > 0) {
						f := Finding{
							Weight:   Fix,
							Title:    quad.Upper(string(a.axis)) + " hardly turns at full stick",
							Subject:  string(at),
							Figures:  q(math.Round(peak), "deg/s") + "; 60 is the least that can save a tipping quad.",
							Why:      "You cannot catch it.",
							Remedies: by("Raise the peak rate"),
							Paths:    []quad.Path{at + ".peak"},
						}
						if i > 0 {
							f.Title += " in " + hands.Words
						}
						r.find(f)
					}
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
			// Without a gain nothing holds an axis: it falls over at lift-off.
			r.ask(quad.Untold(&k, []quad.Path{"sheet.feel.rollGains.proportional", "sheet.feel.pitchGains.proportional", "sheet.feel.yawGains.proportional"})...)
			if k.Sheet.Sticks.SelfLevel.Used() && s.LevelStrength == 0 {
				r.ask("sheet.feel.levelStrength")
			}
			if k.Sheet.Sticks.SelfLevel.Used() && s.AngleLimit < 10 {
				r.find(Finding{
					Weight:   Fix,
					Title:    "Self-level hardly lets it lean",
					Figures:  "Up to " + q(s.AngleLimit, "deg") + "; 10° is the least that holds against a breeze.",
					Why:      "The switch you would reach for in trouble lets it drift with the wind.",
					Remedies: by("Give it a larger limit"),
					Paths:    []quad.Path{"sheet.feel.angleLimit", "sheet.sticks.selfLevel"},
				})
			}
			return r
		},
	},
	{
		ID:      "feel.gains-fit",
		Station: Feel,
		Reads:   reads("sheet.feel.rollGains.proportional", "sheet.feel.pitchGains.proportional", "sheet.feel.yawGains.proportional", "sheet.feel.levelStrength", "sheet.sticks.selfLevel.channel", "readings.airframe.weight", "sheet.craft.layout", "parts.frame.armFront", "parts.frame.armSide", "parts.motor.timeConstant", "sheet.feel.filters", "sheet.motors.loopRate", "sheet.motors.idle", "sheet.motors.linear", "sheet.firmware.line"),
		Judge: func(k quad.Known) Result {
			var r Result
			weight, _, ok := r.weighedAndFed(k)
			if !ok {
				return r
			}
			low, _ := airframe.FedByEach(k.Parts, airframe.LowCell)
			soft, pack := weakest(k, motors.OutputOf(&k.Sheet), weight, low)
			s := k.Sheet.Feel
			level := feel.LevelOf(&k.Sheet)
			set := flight.SettingsOf(k.Sheet)
			filters := set.Late(math.Max(level, 0.1) / (2 * math.Pi)) // where the pull itself turns over
			if lag := level * (airframe.Lag(k.Parts)/1000 + filters); level > 0 && lag > feel.LevelLagSoft {
				f := Finding{
					Weight:   Fix,
					Title:    "Self-level pulls nearly as fast as the motors follow",
					Figures:  "Strength " + q(level, "1/s") + ", motors lag by " + q(round1(airframe.Lag(k.Parts)), "ms") + usualWhere(k.Parts.Motor.TimeConst == 0) + ", filters by " + q(round1(1000*filters), "ms") + ".",
					Why:      "It overshoots level, and rocks.",
					Remedies: []Remedy{{Words: "Half as strong", Edits: []Edit{{"sheet.feel.levelStrength", q(quad.Significant(level/2), "")}}}},
					Paths:    []quad.Path{"sheet.feel.levelStrength", "parts.motor.timeConstant"},
				}
				if lag > feel.LevelLagMost {
					f.Weight, f.Title, f.Why = Stop, "Self-level pulls faster than the motors follow", "It rocks further each time, and tips over."
				}
				r.find(f)
			}
			for i, g := range s.Gains() {
				if g.Proportional <= 0 {
					continue // a rule of its own says it
				}
				r.fits(axes[i], feel.QuickOf(axes[i], level), g.Proportional, soft[i], pack)
			}
			return r
		},
	},
}

// weakest authority about each axis (rad/s² for a whole step of what an output is commanded) over some packs, and with which; nothing where none of them lets it hover, which another rule says.
func weakest(k quad.Known, output motors.Output, weight float64, list []airframe.Fed) (out [3]float64, pack string) {
	for _, f := range list {
		about, ok := flight.Authority(output, f.Drive, k.Sheet.Craft.Layout, k.Parts.Frame, airframe.MassWith(k.Parts, f.Pack, weight))
		if ok && (pack == "" || about[0] < out[0]) { // what makes it weaker about one axis makes it weaker about all
			out, pack = about, f.Name
		}
	}
	return out, pack
}

// fits judges how quickly an axis takes an error back with the pack that turns it the least.
func (r *Result) fits(axis quad.Axis, want feel.Quick, gain, authority float64, pack string) {
	quick := feel.Quickness(gain, authority)
	if pack == "" || quick >= want.Soft {
		return
	}
	path, better := quad.Path("sheet.feel."+string(axis)+"Gains.proportional"), q(quad.Significant(gain*1.5*want.Soft/quick), "")
	f := Finding{
		Weight:   Fix,
		Title:    quad.Upper(string(axis)) + " is held softly",
		Figures:  "An error is taken back at " + q(round1(quick), "1/s") + " with " + pack + "; from " + q(want.Soft, "1/s") + " on is flown well.",
		Why:      "It comes late after your hand and after every gust.",
		Remedies: []Remedy{{Words: "A gain of " + better, Edits: []Edit{{path, better}}}},
		Paths:    []quad.Path{path},
	}
	if quick < want.Least {
		f.Weight, f.Title, f.Why = Stop, quad.Upper(string(axis))+" is not held", "Its correction comes too late: it rocks further each time, and tips over."
	}
	r.find(f)
}

// usualWhere nobody told a figure, and what is usual stands for it.
func usualWhere(untold bool) string {
	if untold {
		return ", an estimate by their size"
	}
	return ""
}
