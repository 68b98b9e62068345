package check

import (
	"reflect"
	"slices"
	"sync"

	"vividperch/core/firmware"
	"vividperch/core/flight"
	"vividperch/core/quad"
	"vividperch/core/senses"
)

// all rules, the ones written by hand and, for each station, the one that compares the board with the sheet
// where the station's rules look.
var all = sync.OnceValue(func() []Rule {
	byStation := [][]Rule{
		slices.Concat(airframeRules, assemblyRules), firstPowerRules, firmwareRules, wiringRules, slices.Concat(linkRules, linkEndRules), slices.Concat(sticksRules, switchRules, leaningRules, profileRules),
		append(motorsRules, busRule), slices.Concat(sensesRules, navigationRules), slices.Concat(feelRules, tuneRules), powerWatchRules, append(linkLossRules, carriesOnRule, returnRule, lineRule), pictureRules, benchProofRules, slices.Concat(firstFlightRules, todayRules),
	}
	var out []Rule
	for _, rules := range byStation {
		out = append(out, rules...)
		if r, ok := boardRule(rules); ok {
			out = append(out, r)
		}
	}
	for i := range out {
		out[i].at = quad.AddressesOf(out[i].Sees())
	}
	return out
})

// heldAsTold are figures that no rule of their station judges, and that a board must hold as its sheet tells them all the same.
var heldAsTold = map[Station][]quad.Path{
	Sticks: {"sheet.sticks.armPause", "sheet.sticks.armFix"},
	Motors: {
		"sheet.motors.sag", "sheet.motors.linear", "sheet.motors.room", "sheet.motors.boost", "sheet.motors.least", "sheet.motors.most", "sheet.motors.lag",
		"sheet.motors.loopSpare", "sheet.motors.loopShare", "sheet.motors.beeps", "sheet.motors.bus",
	},
	LinkLoss: {
		"sheet.loss.landTime", "sheet.loss.back", "sheet.loss.rearm", "sheet.loss.near", "sheet.loss.during", "sheet.loss.crashStops",
		"sheet.loss.battery", "sheet.loss.estimate", "sheet.loss.fence", "sheet.loss.ground",
	},
}

// boardRule compares what the board holds with the sheet at the mapped paths that a station's rules read, and at those that it must hold as told.
func boardRule(rules []Rule) (Rule, bool) {
	var paths []quad.Path
	for _, p := range firmware.Mapped() {
		if readsAny(heldAsTold[rules[0].Station], p) {
			paths = append(paths, p)
			continue
		}
		for _, r := range rules {
			if readsAny(r.Reads, p) {
				paths = append(paths, p)
				break
			}
		}
	}
	if len(paths) == 0 {
		return Rule{}, false
	}
	reads, mapped := []quad.Path{"board.line"}, make([]mappedAt, 0, len(paths))
	for _, p := range paths {
		reads = append(reads, p, "board."+p)
		sheet, ok1 := quad.AddressOf(p)
		board, ok2 := quad.AddressOf("board." + p)
		if ok1 && ok2 {
			mapped = append(mapped, mappedAt{p, sheet, board})
		}
	}
	station := rules[0].Station
	return Rule{
		ID: string(station) + ".board-differs", Station: station, Reads: reads, By: []quad.Path{"board.version", "board.dictionary"}, Voids: []Event{Flash},
		Judge: func(k quad.Known) Result {
			var r Result
			if !k.Board.Read() {
				r.ask("readings.firmware.identity")
				return r
			}
			for _, d := range differences(&k, mapped) {
				r.find(Finding{
					Weight:   Stop,
					Title:    "The board differs from your settings: " + lower(d.Label),
					Figures:  "Settings: " + d.After + ". Board: " + d.Before + ".",
					Why:      "It flies by what the board holds, not by what you meant.",
					Remedies: []Remedy{{Words: "Write your settings to the board", Write: true}},
					Paths:    []quad.Path{d.Path},
					Shows:    showsOf(&k, d.Path),
				})
			}
			return r
		},
	}, true
}

// differs says which fault it is to fly with what the board holds at a path instead of what the sheet says.
var differs = map[quad.Path]flight.Fault{
	"sheet.craft.rotation": flight.FaultLayout, "sheet.senses.boardRoll": flight.FaultMount, "sheet.senses.boardPitch": flight.FaultMount, "sheet.senses.boardYaw": flight.FaultMount,
	"sheet.sticks.order": flight.FaultChannels, "sheet.motors.outputs.A.corner": flight.FaultOrder, "sheet.motors.outputs.B.corner": flight.FaultOrder,
	"sheet.motors.outputs.C.corner": flight.FaultOrder, "sheet.motors.outputs.D.corner": flight.FaultOrder,
}

// showsOf a difference: a mount that is told a little otherwise shows nothing.
func showsOf(k *quad.Known, p quad.Path) flight.Fault {
	if differs[p] == flight.FaultMount && senses.AngleBetween(k.Sheet.Senses.Mount(), k.Board.Sheet.Senses.Mount()) < senses.TurnedShows {
		return ""
	}
	return differs[p]
}

func readsAny(reads []quad.Path, p quad.Path) bool {
	for _, r := range reads {
		if p.Touches(r) {
			return true
		}
	}
	return false
}

// mappedAt is a mapped path, on the sheet and on the board.
type mappedAt struct {
	path         quad.Path
	sheet, board quad.Address
}

// differences between board and sheet at the given paths; Before is the board's value.
func differences(k *quad.Known, mapped []mappedAt) []quad.Difference {
	build, err := firmware.For(k.Board)
	if err != nil {
		return nil // a rule of its own says that there is no dictionary
	}
	var out []quad.Difference
	for i := range mapped {
		p, onSheet, onBoard := mapped[i].path, mapped[i].sheet.In(k), mapped[i].board.In(k)
		if onBoard == nil || onSheet == nil || len(k.Sheet.Gaps) > 0 && len(quad.UntoldGaps(k, []quad.Path{p})) > 0 {
			continue // nobody told it, or one side does not have this item, such as a port the board lacks
		}
		if silent, holds := build.Dictionary.Silent(&k.Sheet, p, onBoard); silent && holds {
			continue
		}
		if build.Dictionary.Alike(p, onSheet, onBoard) {
			continue
		}
		f, err := quad.FieldAt(p)
		if err != nil || f.Open && reflect.ValueOf(onSheet).IsZero() {
			continue // what may stay untold is left to the board
		}
		out = append(out, quad.Difference{Path: p, Label: f.Label, Before: quad.Words(onBoard, f.Unit), After: quad.Words(onSheet, f.Unit)})
	}
	return out
}
