package check

import (
	"math"

	"vividperch/core/airframe"
	"vividperch/core/flight"
	"vividperch/core/quad"
)

var airframeRules = []Rule{
	{
		ID:      "airframe.cells-in-range",
		Station: Airframe,
		Reads:   []quad.Path{"parts.packs", "parts.speedController.cellsMin", "parts.speedController.cellsMax", "parts.board.cellsMax", "parts.video.cellsMax"},
		Judge: func(k quad.Known) Result {
			var r Result
			if len(k.Parts.Packs) == 0 {
				r.find(Finding{
					Weight:   Stop,
					Title:    "No pack is assigned",
					Why:      "Every judgement about power needs to know what will be plugged in.",
					Remedies: by("Assign a pack"),
					Paths:    []quad.Path{"parts.packs"},
				})
				return r
			}
			for _, name := range quad.SortedKeys(k.Parts.Packs) {
				cells := k.Parts.Packs[name].Cells
				if cells == 0 {
					r.ask(quad.Path("parts.packs." + name + ".cells"))
					continue
				}
				for _, part := range []struct {
					name     string
					min, max int
					path     quad.Path
				}{
					{"the speed controllers", k.Parts.SpeedController.CellsMin, k.Parts.SpeedController.CellsMax, "parts.speedController.cellsMax"},
					{"the board", 0, k.Parts.Board.CellsMax, "parts.board.cellsMax"},
					{"the video transmitter", 0, k.Parts.Video.CellsMax, "parts.video.cellsMax"},
				} {
					if part.max > 0 && cells > part.max {
						r.find(Finding{
							Weight:   Stop,
							Title:    "Pack " + name + " has more cells than " + part.name + " can take",
							Figures:  quad.Count(cells, "cell", "cells") + " on a part for at most " + q(float64(part.max), "count") + ".",
							Why:      "Over-voltage destroys the part at the first connection.",
							Remedies: by("Take the pack off this quad, or feed the part through a regulator"),
							Paths:    []quad.Path{quad.Path("parts.packs." + name + ".cells"), part.path},
						})
					}
					if cells < part.min {
						r.find(Finding{
							Weight:   Fix,
							Title:    "Pack " + name + " has fewer cells than " + part.name + " want",
							Figures:  quad.Count(cells, "cell", "cells") + " on a part for at least " + q(float64(part.min), "count") + ".",
							Why:      "Under load the part browns out.",
							Remedies: by("Take the pack off this quad"),
							Paths:    []quad.Path{quad.Path("parts.packs." + name + ".cells"), part.path},
						})
					}
				}
			}
			return r
		},
	},
	{
		ID:      "airframe.motor-current",
		Station: Airframe,
		Reads:   judgedBy("currentSpare", reads("parts.speedController.continuous", "parts.motor.peakCurrent")...),
		Judge: func(k quad.Known) Result {
			var r Result
			list, ok := airframe.FedByEach(k.Parts, airframe.FullCell)
			if !ok {
				return missingDrive(k)
			}
			most := airframe.Most(list, func(f airframe.Fed) float64 { return f.Peak.Current })
			peak, full := most.Peak.Current, " at full throttle with "+most.Name+" full"
			spare, whose := Limit(k, "currentSpare")
			if peak*spare > k.Parts.SpeedController.Continuous {
				r.find(Finding{
					Weight:   overload(peak, k.Parts.SpeedController.Continuous),
					Title:    "The motors can draw more than the speed controllers carry",
					Figures:  q(round1(peak), "A") + full + "; with " + q(math.Round(100*(spare-1)), "%") + " to spare " + q(round1(peak*spare), "A") + ", rated " + q(k.Parts.SpeedController.Continuous, "A") + "." + whose,
					Why:      "A speed controller that overheats stops its corner in the air.",
					Remedies: by("Fit a propeller with less bite, one cell less, or stronger speed controllers"),
					Paths:    []quad.Path{"parts.speedController.continuous", "parts.propeller"},
				})
			}
			if rated := k.Parts.Motor.PeakCurrent; rated > 0 && peak > rated {
				r.find(Finding{
					Weight:   overload(peak, rated),
					Title:    "The motors draw more than they are rated for",
					Figures:  q(round1(peak), "A") + full + ", rated " + q(rated, "A") + ".",
					Why:      "Their windings cook within a punch-out.",
					Remedies: by("Fit a propeller with less bite, or one cell less"),
					Paths:    []quad.Path{"parts.motor.peakCurrent", "parts.propeller"},
				})
			}
			return r
		},
	},
	{
		ID:      "airframe.pack-current",
		Station: Airframe,
		Reads:   driveReads,
		Judge: func(k quad.Known) Result {
			var r Result
			list, ok := airframe.FedByEach(k.Parts, airframe.FullCell)
			if !ok {
				return missingDrive(k)
			}
			for _, f := range list {
				can := f.Pack.Discharge * f.Pack.Capacity / 1000
				if can <= 0 || f.Peak.PackCurrent <= can {
					continue
				}
				found := Finding{
					Weight:   Note,
					Title:    "Full throttle asks more of pack " + f.Name + " than its rating",
					Figures:  q(math.Round(f.Peak.PackCurrent), "A") + " against " + q(math.Round(can), "A") + ".",
					Why:      "Short bursts are usual; long ones puff the cells.",
					Remedies: by("Keep full throttle short, or limit it"),
					Paths:    []quad.Path{quad.Path("parts.packs." + f.Name)},
				}
				switch share := f.Peak.PackCurrent / can; {
				case share > airframe.PackOverloadStop:
					found.Weight, found.Why = Stop, "It gets hot enough to vent and burn within a flight, and its voltage breaks down under you."
					found.Remedies = by("Take the pack off this quad, or put its capacity and rating right")
				case share > airframe.OverloadStop:
					found.Weight, found.Why = Fix, "It puffs and gets hot within a few flights."
					found.Remedies = by("Take the pack off this quad, or limit the throttle")
				}
				r.find(found)
			}
			return r
		},
	},
	{
		ID:      "airframe.thrust-to-weight",
		Station: Airframe,
		Reads:   reads("readings.airframe.weight"),
		Voids:   []Event{Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			weight, ok := r.weighed(k)
			if !ok {
				return r
			}
			d, _, ok := driveFor(k.Parts, airframe.RestCell)
			if !ok {
				return missingDrive(k)
			}
			ratio := d.ThrustToWeight(weight / 1000)
			f := Finding{
				Weight:   Note,
				Title:    "Thrust is modest for freestyle",
				Figures:  "It lifts " + q(round1(ratio), "1") + " times its weight of " + q(weight, "g") + "; freestyle wants 4.",
				Why:      "Pull-outs need reserve.",
				Remedies: by("Lighten it, or fly gently"),
				Paths:    []quad.Path{"readings.airframe.weight"},
				Shows:    flight.FaultThrust,
			}
			if ratio < 2 {
				f.Weight, f.Title, f.Why = Fix, "It can hardly lift itself", "Under twice its weight a gust or a turn becomes a descent."
			}
			if ratio < 4 {
				r.find(f)
			}
			return r
		},
	},
	{
		ID:      "airframe.tip-speed",
		Station: Airframe,
		Reads:   judgedBy("tipSpeed", driveReads...),
		Judge: func(k quad.Known) Result {
			var r Result
			list, ok := airframe.FedByEach(k.Parts, airframe.FullCell)
			if !ok {
				return missingDrive(k)
			}
			tips := func(f airframe.Fed) float64 { return f.Drive.TipMach(f.Peak.Rotation) }
			fastest := airframe.Most(list, tips)
			mach := tips(fastest)
			most, whose := Limit(k, "tipSpeed")
			f := Finding{
				Weight:   Note,
				Title:    "The propeller tips run fast at full throttle",
				Figures:  "Mach " + q(round2(mach), "1") + " with " + fastest.Name + " full; noise and loss grow over " + q(airframe.TipMachNote, "1") + ", it is too much over " + q(most, "1") + "." + whose,
				Why:      "Near the speed of sound thrust falls and current does not.",
				Remedies: by("A smaller propeller, a slower motor, or one cell less"),
				Paths:    []quad.Path{"parts.motor.kv", "parts.propeller.diameter"},
			}
			if mach > most {
				f.Weight = Fix
			}
			if mach > min(airframe.TipMachNote, most) {
				r.find(f)
			}
			return r
		},
	},
	{
		ID:      "airframe.capacitor",
		Station: Airframe,
		Reads:   reads("parts.capacitor"),
		Judge: func(k quad.Known) Result {
			var r Result
			list, ok := airframe.FedByEach(k.Parts, airframe.FullCell)
			if !ok {
				return missingDrive(k)
			}
			c := k.Parts.Capacitor
			farad, ohm := airframe.Bank(c)
			fitted, several := "No capacitor is told; ", ""
			if c.Count > 1 {
				several = ", " + quad.Count(c.Count, "of them", "of them") + " together,"
			}
			if c.Capacitance > 0 {
				fitted = q(round1(farad*1e6), "µF") + several + " fitted, "
			}
			full := func(f airframe.Fed) float64 { return airframe.FullCell * float64(f.Pack.Cells) }
			needs := func(f airframe.Fed) float64 {
				farad, able := airframe.CapacitorNeed(airframe.LeadInductance(c.LeadLength), f.Peak.PackCurrent, airframe.OvershootShare*full(f), ohm)
				if !able {
					return math.Inf(1)
				}
				return farad
			}
			most := airframe.Most(list, needs)
			need := needs(most)
			able := !math.IsInf(need, 1)
			highest := airframe.Most(list, full)
			rating := airframe.CapacitorRating(full(highest), airframe.OvershootShare*full(highest))
			switch {
			case !able:
				r.find(Finding{
					Weight:   Fix,
					Title:    "The capacitor's own resistance lets spikes through",
					Figures:  q(round2(1000*ohm), "mΩ") + several + " at " + q(math.Round(most.Peak.PackCurrent), "A") + " with " + most.Name + " is over the " + q(100*airframe.OvershootShare, "%") + " allowed before it stores anything.",
					Why:      "Spikes reset boards and kill speed controllers.",
					Remedies: by("Solder one of low series resistance, or two side by side, close to the lead"),
					Paths:    []quad.Path{"parts.capacitor.resistance"},
				})
			case farad < need:
				r.find(Finding{
					Weight:   Fix,
					Title:    "The power lead has too little capacitor",
					Figures:  fitted + q(math.Ceil(need*1e6), "µF") + " needed with " + most.Name + " to keep spikes under " + q(100*airframe.OvershootShare, "%") + ".",
					Why:      "Spikes reset boards and kill speed controllers.",
					Remedies: by("Solder a larger one, of low resistance, close to the lead"),
					Paths:    []quad.Path{"parts.capacitor.capacitance"},
				})
			}
			if c.Capacitance > 0 && c.Rating < rating {
				r.find(Finding{
					Weight:   Fix,
					Title:    "The capacitor's voltage rating is too low",
					Figures:  q(c.Rating, "V") + " fitted, " + q(rating, "V") + " needed on " + quad.Count(highest.Pack.Cells, "cell", "cells") + " with " + highest.Name + ".",
					Why:      "An over-stressed capacitor bursts or shorts the lead.",
					Remedies: by("Fit one rated " + q(rating, "V") + " or more"),
					Paths:    []quad.Path{"parts.capacitor.rating"},
				})
			}
			return r
		},
	},
	{
		ID:      "airframe.told",
		Station: Airframe,
		Reads:   []quad.Path{"parts.packs"},
		By:      []quad.Path{"parts.frame.dragArea"},
		Judge: func(k quad.Known) Result {
			var r Result
			// How fast it gets against the wind, and how long it flies, is worked out from these.
			r.ask(quad.Untold(&k, []quad.Path{"parts.frame.dragArea"})...)
			for _, name := range quad.SortedKeys(k.Parts.Packs) {
				at := quad.Path("parts.packs." + name + ".")
				r.ask(quad.Untold(&k, []quad.Path{at + "capacity", at + "discharge", at + "resistance", at + "mass"})...)
			}
			return r
		},
	},
	{
		ID:      "airframe.propeller",
		Station: Airframe,
		Reads:   []quad.Path{"parts.propeller.thrust", "parts.propeller.power"},
		Judge: func(k quad.Known) Result {
			var r Result
			merit := airframe.Merit(k.Parts.Propeller)
			f := Finding{
				Title:    "The propeller pushes more than its power gives",
				Why:      "Every figure of lift, current and minutes leans on these two.",
				Remedies: by("Look its coefficients of thrust and power up again, or measure them"),
				Paths:    []quad.Path{"parts.propeller.thrust", "parts.propeller.power"},
			}
			switch {
			case merit > 1:
				f.Weight, f.Figures = Stop, "It would lift "+q(round2(merit), "")+" times what its power could lift without any loss."
				r.find(f)
			case merit > airframe.MeritMost:
				f.Weight, f.Title, f.Figures = Fix, "The propeller is better than any", "Of its power "+q(math.Round(100*merit), "%")+" would lift; the best come to "+q(math.Round(100*airframe.MeritMost), "%")+"."
				r.find(f)
			}
			return r
		},
	},
	{
		ID:      "airframe.stands",
		Station: Airframe,
		Reads:   []quad.Path{"parts.frame.legHeight", "parts.frame.armFront", "parts.frame.armSide", "parts.propeller.diameter"},
		By:      []quad.Path{"sheet.craft.layout"},
		Judge: func(k quad.Known) Result {
			var r Result
			f := k.Parts.Frame
			arm := f.ArmFront
			if k.Sheet.Craft.Layout != quad.LayoutPlus {
				arm = math.Min(f.ArmFront, f.ArmSide)
			}
			if f.LegHeight == 0 {
				r.ask("parts.frame.legHeight")
				return r
			}
			if arm > 0 && f.LegHeight > airframe.LegsMost*arm {
				r.find(Finding{
					Weight:   Stop,
					Title:    "It stands higher than its feet are apart",
					Figures:  q(f.LegHeight, "mm") + " of legs under arms of " + q(arm, "mm") + ".",
					Why:      "Nudged on its feet, or landed with a little drift, it falls over.",
					Remedies: by("Shorter legs, or measure them again"),
					Paths:    []quad.Path{"parts.frame.legHeight", "parts.frame.armFront", "parts.frame.armSide"},
				})
			}
			if at := airframe.StrikesAt(k.Parts); at > 0 && at < airframe.LeanLeast {
				r.find(Finding{
					Weight:   Stop,
					Title:    "Its propellers strike the ground before it has leant",
					Figures:  "On " + q(f.LegHeight, "mm") + " of legs propellers of " + q(k.Parts.Propeller.Diameter, "mm") + " strike at " + q(math.Round(at), "deg") + " of lean; " + q(airframe.LeanLeast, "deg") + " is the least.",
					Why:      "Nudged on its feet it trips over its own propeller.",
					Remedies: by("Longer legs, or smaller propellers"),
					Paths:    []quad.Path{"parts.frame.legHeight", "parts.propeller.diameter"},
				})
			}
			return r
		},
	},
	{
		ID:      "airframe.weight-by-parts",
		Station: Airframe,
		Reads:   []quad.Path{"readings.airframe.weight", "parts.frame.mass", "parts.packs"},
		Voids:   []Event{Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			weight, ok := r.weighed(k)
			if !ok {
				return r
			}
			name, pack, ok := airframe.Heaviest(k.Parts)
			if !ok || k.Parts.Frame.Mass == 0 || pack.Mass == 0 {
				return r // what nobody told is no sum
			}
			sum := k.Parts.Frame.Mass + pack.Mass
			off := math.Abs(weight/sum - 1)
			if off <= airframe.WeighsAlike {
				return r
			}
			f := Finding{
				Weight:   Fix,
				Title:    "It does not weigh what its parts weigh",
				Figures:  q(weight, "g") + " weighed; " + q(math.Round(sum), "g") + " by its parts with " + name + ".",
				Why:      "A wrong pack, a slipped digit, or a part that nobody told: every figure about lift goes by it.",
				Remedies: by("Weigh it again with " + name + " strapped on, or put its parts right"),
				Paths:    []quad.Path{"readings.airframe.weight", "parts.frame.mass", "parts.packs"},
			}
			if off > airframe.WeighsOther {
				f.Weight = Stop
			}
			r.find(f)
			return r
		},
	},
	{
		ID:      "airframe.propellers-clear",
		Station: Airframe,
		Reads:   []quad.Path{"readings.airframe.clear", "parts.frame.tipGap", "parts.frame.armFront", "parts.frame.armSide", "parts.propeller.diameter"},
		By:      []quad.Path{"sheet.craft.layout"},
		Voids:   []Event{Crash, Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			confirm(&r, k.Readings.Airframe.Clear, "readings.airframe.clear", true, Finding{
				Weight:   Stop,
				Title:    "A propeller can touch something",
				Why:      "It cuts what it touches, then stops.",
				Remedies: by("Move the antenna, strap or wire away"),
			})
			apart, across := airframe.BetweenMotors(k.Sheet.Craft.Layout, k.Parts.Frame), k.Parts.Propeller.Diameter
			switch gap := k.Parts.Frame.TipGap; {
			case gap >= 0 && apart > 0 && across > apart:
				r.find(Finding{
					Weight:   Stop,
					Title:    "The arms leave no room for such propellers",
					Figures:  "The nearest motors stand " + q(math.Round(apart), "mm") + " apart; the propellers are " + q(across, "mm") + " across.",
					Why:      "They break each other at the first turn.",
					Remedies: by("A smaller propeller, or longer arms"),
					Paths:    []quad.Path{"parts.frame.armFront", "parts.frame.armSide", "parts.propeller.diameter"},
				})
			case gap < 0:
				r.find(Finding{
					Weight:   Stop,
					Title:    "Neighbouring propellers overlap",
					Figures:  "By " + q(-gap, "mm") + ".",
					Why:      "They break each other at the first turn.",
					Remedies: by("A smaller propeller, or longer arms"),
					Paths:    []quad.Path{"parts.frame.tipGap"},
				})
			case gap > 0 && gap < airframe.TipsApart:
				r.find(Finding{
					Weight:   Fix,
					Title:    "Neighbouring propeller tips nearly meet",
					Figures:  q(gap, "mm") + " between tips; " + q(airframe.TipsApart, "mm") + " is the least.",
					Why:      "Arms bend in flight.",
					Remedies: by("A smaller propeller"),
					Paths:    []quad.Path{"parts.frame.tipGap"},
				})
			}
			return r
		},
	},
}

// overload is a fix while a punch-out cooks it, and a stop from where it cannot be meant.
func overload(peak, rated float64) Weight {
	if rated > 0 && peak > airframe.OverloadStop*rated {
		return Stop
	}
	return Fix
}
