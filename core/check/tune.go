package check

import (
	"math"
	"strconv"

	"vividperch/core/airframe"
	"vividperch/core/feel"
	"vividperch/core/flight"
	"vividperch/core/link"
	"vividperch/core/motors"
	"vividperch/core/quad"
	"vividperch/core/senses"
)

// loopReads is what the rate loops of a quad depend on.
func loopReads(more ...quad.Path) []quad.Path {
	return reads(append(more, "sheet.feel.rollGains", "sheet.feel.pitchGains", "sheet.feel.yawGains", "sheet.feel.filters", "sheet.motors.loopRate", "sheet.motors.protocol", "sheet.motors.twoWay", "sheet.motors.idle", "sheet.motors.linear",
		"sheet.firmware.line", "sheet.craft.layout", "parts.frame.armFront", "parts.frame.armSide", "parts.motor.timeConstant", "readings.airframe.weight")...)
}

// axes of the controller.
var axes = [3]quad.Axis{quad.Roll, quad.Pitch, quad.Yaw}

var tuneRules = []Rule{
	{
		ID:      "feel.oscillates",
		Station: Feel,
		Reads:   loopReads(),
		Judge: func(k quad.Known) Result {
			var r Result
			weight, _, ok := r.weighedAndFed(k)
			if !ok {
				return r
			}
			list := flight.LoopsOfEach(&k, weight, airframe.FullCell)
			for i := range axes {
				worst, with, ok := flight.InHand(list, i)
				if !ok || !worst.Few() || with.Loops[i].Gains.Proportional <= 0 { // without a gain a rule of its own says it
					continue
				}
				others := math.Inf(1) // the least share with packs of fewer cells
				for _, f := range list {
					if f.Pack.Cells < with.Pack.Cells {
						others = min(others, f.Loops[i].Margins().Share)
					}
				}
				r.find(oscillation(i, worst, with, others))
			}
			return r
		},
	},
	{
		ID:      "feel.filters",
		Station: Feel,
		Reads:   loopReads(),
		Judge: func(k quad.Known) Result {
			var r Result
			weight, _, ok := r.weighedAndFed(k)
			if !ok {
				return r
			}
			list := flight.LoopsOfEach(&k, weight, airframe.FullCell)
			r.slow(list)
			r.follow(&k, list)
			return r
		},
	},
	{
		ID:      "feel.turns",
		Station: Feel,
		Reads: append(reads("sheet.feel.roll.peak", "sheet.feel.pitch.peak", "sheet.feel.yaw.peak", "sheet.motors.idle", "sheet.craft.layout", "parts.frame.armFront", "parts.frame.armSide", "readings.airframe.weight"),
			profilesOf("roll.peak", "pitch.peak", "yaw.peak")...),
		Judge: func(k quad.Known) Result {
			var r Result
			weight, _, ok := r.weighedAndFed(k)
			if !ok {
				return r
			}
			low, _ := airframe.FedByEach(k.Parts, airframe.LowCell)
			about, pack := weakest(k, motors.Output{}, weight, low) // all of what they give, however it is commanded
			if pack == "" {
				return r
			}
			for _, hands := range feel.Profiles(&k.Sheet) {
				for i, rates := range hands.Rates() {
					peak, most := rates.Peak, feel.FastestTurn(about[i], k.Sheet.Motors.Idle/100)
					if peak <= most {
						continue
					}
					path, to := hands.At+quad.Path("."+string(axes[i])+".peak"), math.Floor(most/10)*10
					r.find(Finding{
						Weight:   Fix,
						Title:    quad.Upper(string(axes[i])) + " asks for more than the motors give",
						Subject:  string(path),
						Figures:  q(math.Round(peak), "deg/s") + " at full stick; within half a turn it gets to " + q(math.Round(most), "deg/s") + " with " + pack + " low.",
						Why:      "It is still speeding up when you want it to stop, and swings past.",
						Remedies: []Remedy{{Words: "A peak of " + q(to, "deg/s"), Edits: []Edit{{path, q(to, "")}}}},
						Paths:    []quad.Path{path},
					})
				}
			}
			return r
		},
	},
	{
		ID:      "feel.centre",
		Station: Feel,
		Reads:   append(profilesOf("roll", "pitch", "yaw"), "sheet.feel.family", "sheet.feel.roll", "sheet.feel.pitch", "sheet.feel.yaw"),
		By:      []quad.Path{"readings.sticks.axes"}, // how much a stick trembles, which its own station proves
		Judge: func(k quad.Known) Result {
			var r Result
			for _, hands := range feel.Profiles(&k.Sheet) {
				for i, rates := range hands.Rates() {
					least := LeastMove(k, axes[i])
					step := feel.StepOf(k.Sheet.Feel.Family, rates, least)
					if rates.Peak == 0 || step <= feel.NoticedStep {
						continue
					}
					r.find(Finding{
						Weight:   Note,
						Title:    quad.Upper(string(axes[i])) + " is steeper about its centre than the stick is fine",
						Subject:  string(hands.At) + " " + string(axes[i]),
						Figures:  "The least move, " + q(round1(least), "µs") + ", asks for " + q(round1(step), "deg/s") + "; " + q(feel.NoticedStep, "deg/s") + " are noticed.",
						Why:      "It twitches in steps, however still your hand is.",
						Remedies: by("Soften the centre, or widen the dead band if the stick trembles"),
						Paths:    []quad.Path{hands.At + quad.Path("."+string(axes[i]))},
					})
				}
			}
			return r
		},
	},
	{
		ID:      "feel.level-help",
		Station: Feel,
		Reads:   []quad.Path{"sheet.sticks.selfLevel.channel", "sheet.sticks.blended.channel", "sheet.feel.blend"},
		By:      judgedBy("level", "readings.senses.level"), // which Senses asks for
		Judge: func(k quad.Known) Result {
			var r Result
			s := k.Sheet
			if level := k.Readings.Senses.Level; level != nil && (s.Sticks.SelfLevel.Used() || s.Sticks.Blended.Used()) {
				tilt := senses.Tilt(level.Value.Roll, level.Value.Pitch)
				if most, whose := Limit(k, "level"); tilt > most {
					r.find(Finding{
						Weight:   Note,
						Title:    "Level help goes by a level that is off",
						Subject:  "level",
						Figures:  "It shows " + level.Value.Words() + " on the plate; " + q(most, "deg") + " is the most." + whose,
						Why:      "It takes that lean to be level: you feel it as a quad that pulls to one side, and no curve or gain takes it away.",
						Remedies: by("Set as level on the plate, at Senses"),
						Paths:    []quad.Path{"readings.senses.level", "sheet.sticks.selfLevel"},
					})
				}
			}
			if s.Feel.Blend > 0 && !s.Sticks.Blended.Used() {
				r.find(Finding{
					Weight:   Note,
					Title:    "Blended is set, and no switch turns it on",
					Figures:  "It would let go at " + q(s.Feel.Blend, "%") + " of the stick.",
					Why:      "You may count on help that never comes.",
					Remedies: by("Put blended on a switch, or take its figure off"),
					Paths:    []quad.Path{"sheet.feel.blend", "sheet.sticks.blended"},
				})
			}
			return r
		},
	},
	{
		ID:      "feel.limit-cut",
		Station: Feel,
		Reads:   []quad.Path{"sheet.feel.throttleCut", "sheet.feel.throttleLimit"},
		Judge: func(k quad.Known) Result {
			var r Result
			f := k.Sheet.Feel
			if f.ThrottleCut && f.ThrottleLimit > 0 && f.ThrottleLimit < 100 {
				r.find(Finding{
					Weight:   Note,
					Title:    "The throttle limit is cut off",
					Figures:  "Above " + q(f.ThrottleLimit, "%") + " the stick does nothing more.",
					Why:      "Compressed, the same limit makes the whole stick finer.",
					Remedies: []Remedy{{Words: "Compress it instead", Edits: []Edit{{"sheet.feel.throttleCut", "false"}}}},
					Paths:    []quad.Path{"sheet.feel.throttleCut", "sheet.feel.throttleLimit"},
				})
			}
			return r
		},
	},
	{
		ID:      "feel.recording",
		Station: Feel,
		Reads:   reads("sheet.feel.recording", "sheet.motors.loopRate", "parts.board.memory", "readings.airframe.weight"),
		By:      enduranceReads, // how long a pack lasts is proven where it is watched
		Judge:   recording,
	},
}

// LeastMove of a stick that its radio and the link tell apart, or that it makes by itself as it was captured, µs.
func LeastMove(k quad.Known, axis quad.Axis) float64 {
	least := link.StickStep
	if m := k.Readings.Sticks.Axes[string(axis)]; m != nil {
		least = math.Max(least, 2*m.Value.Jitter)
	}
	return least
}

// oscillation that the loop about an axis is at, or near; others is the share with packs of fewer cells.
func oscillation(i int, m feel.Margin, with flight.Looped, others float64) Finding {
	axis, share := axes[i], math.Floor(100*m.Share/feel.SharesFew)/100
	at := quad.Path("sheet.feel." + string(axis) + "Gains")
	f := Finding{
		Weight:   Fix,
		Title:    quad.Upper(string(axis)) + " has little in hand before it oscillates",
		Subject:  string(axis),
		Figures:  "With " + with.Name + " full it begins at " + q(round2(m.Share), "") + " times its gains, " + q(math.Round(m.Hertz), "Hz") + "; " + q(feel.SharesFew, "") + " is the least to keep in hand.",
		Why:      "What just does not shake in a hover shakes at full throttle.",
		Remedies: []Remedy{{Words: "Its gains at " + q(math.Round(100*share), "%"), Edits: GainsAt(at, with.Loops[i].Gains, share, 3)}},
		Paths:    []quad.Path{at, "parts.packs." + quad.Path(with.Name)},
	}
	if m.Oscillates() {
		f.Weight, f.Title, f.Shows = Stop, quad.Upper(string(axis))+" oscillates by itself", flight.FaultGains
		f.Why = "It shakes as it leaves the ground, and cooks its motors."
	}
	if m.Slow() {
		f.Why += " The filters take " + q(math.Round(m.Filters), "deg") + " of it: quicker ones keep the gains."
	}
	if others >= feel.SharesFew && !math.IsInf(others, 1) {
		f.Why += " It is the pack: with fewer cells the same gains keep " + q(round2(others), "") + " times."
	} else {
		f.Why += " By these parts it is the tune. If it still shakes at half of these gains, a part is loose or bent: run each motor alone, without its propeller, and feel which one shakes."
	}
	return f
}

// GainsAt is what puts the gains of one axis, at a place of the sheet, at a share of what they are, to so many figures. What nobody told stays so.
func GainsAt(at quad.Path, g quad.Gains, share float64, figures int) []Edit {
	var out []Edit
	for _, x := range []struct {
		name quad.Path
		is   float64
	}{{"proportional", g.Proportional}, {"integral", g.Integral}, {"derivative", g.Derivative}} {
		if x.is != 0 {
			out = append(out, Edit{at + "." + x.name, strconv.FormatFloat(share*x.is, 'g', figures, 64)})
		}
	}
	return out
}

// slow filters: they take more of the phase than the loop can spare.
func (r *Result) slow(list []flight.Looped) {
	worst, at, with := flight.SlowestFilters(list)
	if !worst.Slow() {
		return
	}
	l := with.Loops[at]
	r.find(Finding{
		Weight: Fix,
		Title:  "The filters are too slow for their loop",
		Figures: "They hold up the rotation by " + q(round1(1000*l.Rotation.Delay(worst.Crossing, l.Rate)), "ms") + ": " + q(math.Round(worst.Filters), "deg") + " of phase where " + string(axes[at]) +
			" answers, at " + q(round1(worst.Crossing), "Hz") + "; " + q(math.Round(worst.Phase), "deg") + " are left before it swings, " + q(feel.PhaseLeast, "deg") + " is the least.",
		Why:      "It overshoots what you ask for, bounces back, and oscillates at smaller gains.",
		Remedies: by("Raise the cutoffs, or take a filter off; look at the spectrum of a flight before"),
		Paths:    []quad.Path{"sheet.feel.filters"},
	})
}

// follow looks at the notches that follow rotation: who tells it, and how far down they go.
func (r *Result) follow(k *quad.Known, list []flight.Looped) {
	f := &k.Sheet.Feel.Filters.Following
	if f.On != quad.On {
		return
	}
	if !k.Sheet.Motors.TwoWay {
		r.find(Finding{
			Weight:   Fix,
			Title:    "Notches are to follow a rotation that nobody tells the board",
			Figures:  "The speed controllers do not answer.",
			Why:      "They stand still, or are not there at all.",
			Remedies: []Remedy{{Words: "Have the speed controllers answer", Edits: []Edit{{"sheet.motors.twoWay", "true"}}}},
			Paths:    []quad.Path{"sheet.feel.filters.following.on", "sheet.motors.twoWay"},
		})
		return
	}
	for _, one := range list {
		idle, hover := one.Drive.At(k.Sheet.Motors.Idle/100).Rotation/(2*math.Pi), 0.0
		if p, ok := one.Drive.Hover(one.Mass); ok {
			hover = p.Rotation / (2 * math.Pi)
		}
		if feel.FollowsIdle(f.Least, idle) {
			continue
		}
		found := Finding{
			Weight:   Note,
			Title:    "The notches do not follow down to idle",
			Subject:  one.Name,
			Figures:  "The lowest they follow is " + q(f.Least, "Hz") + "; with " + one.Name + " the rotors idle at " + q(math.Round(idle), "Hz") + " and hover at " + q(math.Round(hover), "Hz") + ".",
			Why:      "At little throttle what shakes comes through.",
			Remedies: by("A lower limit, or a higher idle"),
			Paths:    []quad.Path{"sheet.feel.filters.following.least", "sheet.motors.idle"},
		}
		if f.Least > hover {
			found.Weight, found.Title, found.Why = Fix, "The notches follow nothing in a hover", "They hold up the gyro and take nothing away."
		}
		r.find(found)
	}
}

// recording must show what it is for.
func recording(k quad.Known) Result {
	var r Result
	rec := k.Sheet.Feel.Recording
	if rec.Purpose == "" {
		return r // nobody wants one
	}
	note := func(title, figures, why string, remedies []Remedy, paths ...quad.Path) {
		r.find(Finding{Weight: Note, Title: title, Subject: string(paths[0]), Figures: figures, Why: why, Remedies: remedies, Paths: paths})
	}
	switch rec.Medium {
	case "":
		r.ask("sheet.feel.recording.medium")
		return r
	case quad.RecordNothing:
		note("Nothing is recorded", "It is to show "+purposeWords[rec.Purpose]+".", "After the flight there is nothing to look at.", by("Say where to: a chip or a card"), "sheet.feel.recording.medium")
		return r
	}
	weight, list, ok := r.weighedAndFed(k)
	if !ok {
		return r
	}
	fastest := 0.0
	for _, f := range list {
		fastest = math.Max(fastest, f.Drive.At(1).Rotation/(2*math.Pi))
	}
	lasts, _ := airframe.LongestHover(k.Parts, weight, k.Sheet.Watch.LandPerCell)
	is := feel.RecordedOf(rec, k.Sheet.Motors.LoopRate, k.Parts.Board.Memory, fastest, lasts/60)
	if is.Slow {
		share := math.Max(1, math.Floor(k.Sheet.Motors.LoopRate/is.Needs))
		note("The recording is too slow for what it is for", q(math.Round(is.Rate), "Hz")+"; to show "+purposeWords[rec.Purpose]+" takes "+q(math.Round(is.Needs), "Hz")+".", "What is faster than half of that shows as something slow that is not there.",
			[]Remedy{{Words: "One record every " + quad.Count(int(share), "round", "rounds"), Edits: []Edit{{"sheet.feel.recording.share", q(share, "")}}}}, "sheet.feel.recording.share", "sheet.motors.loopRate")
	}
	if rec.Purpose == quad.RecordsFilters && rec.Raw == quad.Off {
		note("The recording keeps no unfiltered gyro", "It is to show "+purposeWords[rec.Purpose]+".", "What the filters took away cannot be seen behind them.",
			[]Remedy{{Words: "Keep it", Edits: []Edit{{"sheet.feel.recording.raw", `"on"`}}}}, "sheet.feel.recording.raw")
	}
	if is.Short {
		note("The recording ends before the flight", q(round1(is.Minutes), "min")+" fit; a pack hovers for "+q(round1(lasts/60), "min")+".", "What you wanted to see happens after it.", by("Record less often, or empty it before each flight"), "parts.board.memory", "sheet.feel.recording.share")
	}
	return r
}

var purposeWords = map[quad.RecordPurpose]string{quad.RecordsGains: "how the gains answer", quad.RecordsFilters: "what shakes and what the filters leave", quad.RecordsFlights: "what happened"}
