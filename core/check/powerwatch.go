package check

import (
	"math"

	"vividperch/core/airframe"
	"vividperch/core/power"
	"vividperch/core/quad"
)

// enduranceReads is what, beside the drive, decides how long a pack lasts.
var enduranceReads = []quad.Path{"sheet.watch.landPerCell", "parts.board.idleDraw", "parts.speedController.idleDraw", "parts.receiver.idleDraw", "parts.video.fitted", "parts.video.idleDraw", "parts.devices", "parts.wires", "parts.board.rails"}

var powerWatchRules = []Rule{
	{
		ID:      "power-watch.cells",
		Station: PowerWatch,
		Reads:   []quad.Path{"sheet.watch.cells", "parts.packs"},
		Judge: func(k quad.Known) Result {
			var r Result
			if k.Sheet.Watch.Cells == 0 {
				return r // it counts them by itself, with every pack anew
			}
			alike := map[int]bool{}
			for _, p := range k.Parts.Packs {
				alike[p.Cells] = true
			}
			for _, name := range quad.SortedKeys(k.Parts.Packs) {
				if n := k.Parts.Packs[name].Cells; n != k.Sheet.Watch.Cells {
					remedies := []Remedy{{Words: "Set it for " + quad.Count(n, "cell", "cells"), Edits: []Edit{{"sheet.watch.cells", q(float64(n), "")}}}}
					if len(alike) > 1 {
						remedies = by("Assign packs of one cell count, or set the alarm anew with every change of pack")
					}
					r.find(Finding{
						Weight:   Fix,
						Title:    "The alarm counts on another pack than " + name,
						Figures:  "Set for " + quad.Count(k.Sheet.Watch.Cells, "cell", "cells") + ", the pack has " + q(float64(n), "count") + ".",
						Why:      "It warns far too early, or never.",
						Remedies: remedies,
						Paths:    []quad.Path{"sheet.watch.cells", quad.Path("parts.packs." + name + ".cells")},
					})
				}
			}
			return r
		},
	},
	{
		ID:      "power-watch.thresholds",
		Station: PowerWatch,
		Reads:   []quad.Path{"sheet.watch.warnPerCell", "sheet.watch.landPerCell"},
		Judge: func(k quad.Known) Result {
			var r Result
			w := k.Sheet.Watch
			if w.WarnPerCell < power.WarnLow || w.WarnPerCell > power.WarnHigh {
				r.find(Finding{
					Weight:   Fix,
					Title:    "The warning comes at a voltage that helps nobody",
					Figures:  q(w.WarnPerCell, "V") + " per cell; 3.3 to 3.8 V is useful under load.",
					Why:      "Too low is too late, too high is ignored.",
					Remedies: []Remedy{{Words: "Warn at 3.5 V per cell", Edits: []Edit{{"sheet.watch.warnPerCell", "3.5"}}}},
					Paths:    []quad.Path{"sheet.watch.warnPerCell"},
				})
			}
			if w.LandPerCell < power.LandLow || w.LandPerCell >= w.WarnPerCell {
				remedy := Remedy{Words: "Land at 3.3 V per cell", Edits: []Edit{{"sheet.watch.landPerCell", "3.3"}}}
				if w.WarnPerCell <= 3.3 {
					remedy = Remedy{Words: "Warn at 3.5 V and land at 3.3 V per cell", Edits: append(remedy.Edits, Edit{"sheet.watch.warnPerCell", "3.5"})}
				}
				r.find(Finding{
					Weight:   Fix,
					Title:    "The landing threshold is not below the warning and above harm",
					Figures:  q(w.LandPerCell, "V") + " per cell with a warning at " + q(w.WarnPerCell, "V") + ".",
					Why:      "There is no time between the two.",
					Remedies: []Remedy{remedy},
					Paths:    []quad.Path{"sheet.watch.landPerCell"},
				})
			}
			return r
		},
	},
	{
		ID:      "power-watch.lasts",
		Station: PowerWatch,
		Reads:   reads("sheet.watch.landPerCell", "readings.airframe.weight", "sheet.loss.policy", "parts.board.idleDraw", "parts.speedController.idleDraw", "parts.receiver.idleDraw", "parts.video.fitted", "parts.video.idleDraw"),
		By:      []quad.Path{"parts.devices", "parts.wires", "parts.board.rails"}, // what they draw is proven where the power comes on
		Judge: func(k quad.Known) Result {
			var r Result
			weight, list, ok := r.weighedAndFed(k)
			if !ok {
				return r
			}
			least := power.LastsStop
			if k.Sheet.Loss.Policy == quad.PolicyReturn {
				least = power.LastsHome
			}
			for _, f := range list {
				seconds, ok := f.Drive.Lasts(f.Pack, airframe.MassWith(k.Parts, f.Pack, weight), power.IdleCurrent(k.Parts), k.Sheet.Watch.LandPerCell)
				if !ok || seconds >= power.LastsFix {
					continue // what it lacks, or that it does not lift itself, another rule says
				}
				found := Finding{
					Weight:   Fix,
					Title:    "Pack " + f.Name + " is at its landing voltage soon after take-off",
					Subject:  f.Name,
					Figures:  "From full it hovers " + q(math.Round(seconds), "s") + " until a cell is at " + q(math.Max(k.Sheet.Watch.LandPerCell, 0), "V") + " under that load, or at " + q(airframe.LowCell, "V") + " at rest; " + q(power.LastsFix, "s") + " is the least for a flight with something left.",
					Why:      "There is no time between the warning and the ground.",
					Remedies: by("A pack with more charge or less resistance; or a lower landing voltage, where it stands too high"),
					Paths:    []quad.Path{quad.Path("parts.packs." + f.Name), "sheet.watch.landPerCell"},
				}
				if seconds < least {
					found.Weight, found.Why = Stop, "The first flight's card alone takes it below: it comes down when the pack decides."
				}
				r.find(found)
			}
			return r
		},
	},
	{
		ID:      "power-watch.volts-agree",
		Station: PowerWatch,
		Reads:   []quad.Path{"readings.watch.boardVolts", "readings.watch.meterVolts", "parts.packs"},
		Voids:   []Event{Flash, Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			b, m := k.Readings.Watch.BoardVolts, k.Readings.Watch.MeterVolts
			if b == nil {
				r.ask("readings.watch.boardVolts")
			}
			if m == nil {
				r.ask("readings.watch.meterVolts")
			}
			if b == nil || m == nil {
				return r
			}
			fits, at := len(k.Parts.Packs) == 0, ""
			for _, name := range quad.SortedKeys(k.Parts.Packs) {
				cells := k.Parts.Packs[name].Cells
				if cells == 0 {
					fits = true // another rule asks how many
					continue
				}
				cell := m.Value / float64(cells)
				fits = fits || cell >= power.CellLeast && cell <= power.CellMost
				at = q(round2(cell), "V") + " a cell of " + name
			}
			if !fits {
				r.find(Finding{
					Weight:   Fix,
					Title:    "No pack of this quad has the voltage measured",
					Subject:  "pack",
					Figures:  q(m.Value, "V") + " by meter is " + at + "; a cell has " + q(power.CellLeast, "") + " to " + q(power.CellMost, "V") + ".",
					Why:      "A pack that empty is harmed and cannot be flown; or it is another pack than those told.",
					Remedies: by("Charge it, or assign the pack that was in; then measure again"),
					Paths:    []quad.Path{"readings.watch.meterVolts", "parts.packs"},
				})
			}
			if math.Abs(b.Value-m.Value) > power.VoltError*m.Value {
				r.find(Finding{
					Weight:   Fix,
					Title:    "Board and meter disagree about the pack",
					Figures:  q(b.Value, "V") + " on the board, " + q(m.Value, "V") + " by meter.",
					Why:      "The alarm goes by the board's figure.",
					Remedies: by("Correct the board's voltage scale by the ratio of the two"),
					Paths:    []quad.Path{"readings.watch.boardVolts", "readings.watch.meterVolts"},
				})
			}
			return r
		},
	},
	{
		ID:      "power-watch.heard",
		Station: PowerWatch,
		Reads:   []quad.Path{"readings.watch.heard"},
		Voids:   []Event{Flash, Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			confirm(&r, k.Readings.Watch.Heard, "readings.watch.heard", true, Finding{
				Weight:   Fix,
				Title:    "The alarm was not heard",
				Why:      "A warning that nobody hears is none.",
				Remedies: by("Prove one route: telemetry, display or sounder"),
			})
			return r
		},
	},
	{
		ID:      "power-watch.route",
		Station: PowerWatch,
		Reads:   []quad.Path{"readings.watch.heard", "readings.watch.route", "readings.watch.discovered", "parts.receiver.telemetry", "parts.video.fitted"},
		By:      []quad.Path{"sheet.link.telemetry"}, // proven where the link is
		Voids:   []Event{Flash, Repair},
		Ages:    []quad.Path{"readings.watch.route", "readings.watch.discovered"},
		Judge: func(k quad.Known) Result {
			var r Result
			if h := k.Readings.Watch.Heard; h != nil && !h.Value {
				return r // it came by none
			}
			m := k.Readings.Watch.Route
			if m == nil {
				r.ask("readings.watch.route")
				return r
			}
			why, remedy := power.RouteLacks(m.Value, k.Parts, k.Sheet.Link)
			if m.Value == quad.RouteTelemetry && why == "" {
				switch d := k.Readings.Watch.Discovered; {
				case d == nil:
					r.ask("readings.watch.discovered")
				case !d.Value:
					why, remedy = "The radio does not list the pack's voltage among its sensors.", "Have the radio discover its sensors with the pack in, and set the alarm on the one that is the pack's voltage"
				}
			}
			if why != "" {
				r.find(Finding{
					Weight:   Fix,
					Title:    "The alarm has no source",
					Subject:  string(m.Value),
					Figures:  why,
					Why:      "A rule on what never arrives never fires.",
					Remedies: by(remedy),
					Paths:    []quad.Path{"readings.watch.route"},
				})
			}
			return r
		},
	},
	{
		ID:      "power-watch.late",
		Station: PowerWatch,
		Reads:   []quad.Path{"radio.alarmDelay"},
		Judge: func(k quad.Known) Result {
			var r Result
			if d := k.Radio.AlarmDelay; d > power.DelayMost {
				r.find(Finding{
					Weight:   Fix,
					Title:    "The radio says late that the pack is low",
					Figures:  q(d, "s") + " below the threshold; " + q(power.DelayMost, "s") + " ride out every sag.",
					Why:      "Under load a pack that is low falls fast: what is left is not the way home.",
					Remedies: []Remedy{{Words: "Say it after 3 s", Edits: []Edit{{"radio.alarmDelay", "3"}}}},
					Paths:    []quad.Path{"radio.alarmDelay"},
				})
			}
			return r
		},
	},
	{
		ID:      "power-watch.current",
		Station: PowerWatch,
		Reads:   []quad.Path{"readings.watch.current"},
		By:      []quad.Path{"parts.board.idleDraw", "parts.speedController.idleDraw", "parts.receiver.idleDraw", "parts.video.fitted", "parts.video.idleDraw", "parts.devices", "parts.wires", "parts.board.rails", "parts.packs"},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.Watch.Current
			if m == nil {
				return r
			}
			if slip, ok := power.Slipped("at rest it draws", m.Value.Idle, power.IdleCurrent(k.Parts)); ok {
				r.find(Finding{
					Weight:   Fix,
					Title:    "The current at rest has a slipped decimal",
					Figures:  slip.Words,
					Why:      "Every current and all that was drawn would be reckoned from it.",
					Remedies: by("Look at the meter's range, and note it again"),
					Paths:    []quad.Path{"readings.watch.current"},
				})
			}
			if m.Value.Amps <= m.Value.Idle {
				r.find(Finding{
					Weight:   Fix,
					Title:    "Under load it draws no more than at rest",
					Figures:  m.Value.Words() + ".",
					Why:      "One of the two was read from something else.",
					Remedies: by("Note both again, the output and the current in one look"),
					Paths:    []quad.Path{"readings.watch.current"},
				})
			}
			return r
		},
	},
	{
		ID:      "power-watch.heat",
		Station: PowerWatch,
		Reads:   []quad.Path{"readings.watch.heat"},
		Voids:   []Event{Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.Watch.Heat
			if m == nil {
				return r
			}
			for _, b := range airframe.Bells(m.Value) {
				c := b.Corner
				switch {
				case b.TooHot:
					r.find(Finding{
						Weight:   Stop,
						Title:    "The motor " + c.Words() + " is hot enough to lose its magnets",
						Subject:  string(c),
						Figures:  q(b.Is, "°C") + " on its bell after landing; inside it was hotter. " + q(airframe.BellMost, "°C") + " is the most.",
						Why:      "Magnets weaken for good and windings burn: it goes in the air.",
						Remedies: by("Feel it for grit, look for a screw in its winding, then less propeller or less throttle"),
						Paths:    []quad.Path{"readings.watch.heat"},
					})
				case b.Alone:
					r.find(Finding{
						Weight:   Fix,
						Title:    "The motor " + c.Words() + " came home hotter than the others",
						Subject:  string(c),
						Figures:  q(b.Is, "°C") + ", the others " + q(math.Round(b.Others), "°C") + ".",
						Why:      "It works harder or worse than they do: grit in it, a bent shaft, a screw in the winding, a propeller that is hurt, or a weight that lies there.",
						Remedies: by("Turn it by hand and feel for grit; look at its screws and its propeller; at Airframe see what the balance asks of it"),
						Paths:    []quad.Path{"readings.watch.heat"},
					})
				}
			}
			return r
		},
	},
}
