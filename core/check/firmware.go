package check

import (
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"

	"vividperch/core/firmware"
	"vividperch/core/quad"
)

var firmwareRules = []Rule{
	{
		ID:      "firmware.right-board",
		Station: Firmware,
		Reads:   []quad.Path{"readings.firmware.identity", "parts.board.target", "sheet.firmware"},
		Voids:   []Event{Flash, Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			id := k.Readings.Firmware.Identity
			if id == nil {
				r.ask("readings.firmware.identity")
				return r
			}
			s := k.Sheet.Firmware
			for _, c := range []struct {
				what, is, want string
				paths          []quad.Path
			}{
				{"The board is another one than the parts say", id.Value.Target, k.Parts.Board.Target, []quad.Path{"readings.firmware.identity", "parts.board.target"}},
				{"The build is for another board than your settings say", id.Value.Target, s.Target, []quad.Path{"readings.firmware.identity", "sheet.firmware.target"}},
				{"Another firmware family is on the board", id.Value.Line, s.Line, []quad.Path{"readings.firmware.identity", "sheet.firmware.line"}},
				{"Another version is on the board", id.Value.Version, s.Version, []quad.Path{"readings.firmware.identity", "sheet.firmware.version"}},
			} {
				if c.is != c.want {
					r.find(Finding{
						Weight:   Stop,
						Title:    c.what,
						Figures:  "It says " + c.is + "; you have " + orNothing(c.want) + ".",
						Why:      "Settings mean different things on another build, and some name pins that drive motors.",
						Remedies: by("Flash the right build, or correct the sheet"),
						Paths:    c.paths,
					})
				}
			}
			return r
		},
	},
	{
		ID:      "firmware.read-back-agrees",
		Station: Firmware,
		Reads:   []quad.Path{"board.target", "board.line", "board.version", "board.serial", "readings.firmware.identity"},
		Voids:   []Event{Flash},
		Judge: func(k quad.Known) Result {
			var r Result
			id := k.Readings.Firmware.Identity
			if id == nil || !k.Board.Read() {
				r.ask("readings.firmware.identity")
				return r
			}
			if !k.Board.Is().Same(id.Value) {
				r.find(Finding{
					Weight:   Stop,
					Title:    "The settings read back came from another board or version",
					Figures:  "Read back from " + strings.TrimSpace(k.Board.Target+" "+k.Board.Version+" "+k.Board.Serial) + "; the board says " + strings.TrimSpace(id.Value.Target+" "+id.Value.Version+" "+id.Value.Serial) + ".",
					Why:      "Everything judged from them is about something else.",
					Remedies: by("Read the board again"),
					Paths:    []quad.Path{"board.version", "readings.firmware.identity"},
				})
			}
			return r
		},
	},
	{
		ID:      "firmware.saved",
		Station: Firmware,
		By:      []quad.Path{"readings.firmware.backup"}, // whichever there is: a later one is as good, and comes by itself
		Ages:    []quad.Path{"readings.firmware.backup"},
		Voids:   []Event{Flash},
		Judge: func(k quad.Known) Result {
			var r Result
			if k.Readings.Firmware.Backup == nil {
				r.ask("readings.firmware.backup")
			}
			return r
		},
	},
	{
		ID:      "firmware.in-date",
		Station: Firmware,
		Reads:   []quad.Path{"board.line", "board.version"},
		By:      []quad.Path{"board.dictionary", "today"},
		Judge: func(k quad.Known) Result {
			var r Result
			build, err := firmware.For(k.Board)
			if err != nil || k.Today.IsZero() {
				return r // unmapped says that the line is not known
			}
			left, ends := build.DaysLeft(k.Today)
			f := Finding{
				Weight:   Stop,
				Title:    "The firmware has expired",
				Figures:  build.Line.Name + " " + build.Version.Version + " arms until " + build.Expires + ", " + quad.Count(-left, "day", "days") + " ago.",
				Why:      "It refuses to arm, whatever you do at the field.",
				Remedies: by("Flash a newer version, here at the bench, and try arming with the propellers off"),
				Paths:    []quad.Path{"board.version"},
			}
			switch {
			case !ends || left > 30:
				return r
			case left >= 0:
				f.Weight, f.Title = Fix, "The firmware expires soon"
				f.Figures = build.Line.Name + " " + build.Version.Version + " arms until " + build.Expires + ": " + quad.Count(left, "day", "days") + " left."
				f.Why = "From the day after it refuses to arm."
			}
			r.find(f)
			return r
		},
	},
	{
		ID:      "firmware.loaded-wholesale",
		Station: Firmware,
		Reads:   []quad.Path{"board.wholesale"},
		By:      []quad.Path{"board.version"},
		Judge: func(k quad.Known) Result {
			var r Result
			if list := k.Board.Wholesale; len(list) > 0 {
				r.find(Finding{
					Weight:   Fix,
					Title:    "An old list was loaded as it was, over a major step",
					Figures:  quad.And(shortened(list, 4)) + " hold the figures of the version before " + k.Board.Version + ".",
					Why:      "The same figure means something else now: a gain is ten times too low, a range lies elsewhere.",
					Remedies: by("Carry the settings over one by one: the review below proposes each"),
					Paths:    []quad.Path{"board.wholesale"},
				})
			}
			return r
		},
	},
	{
		ID:      "firmware.measured-here",
		Station: Firmware,
		Reads:   []quad.Path{"board.unmeasured", "board.elsewhere"},
		Voids:   []Event{Flash},
		Judge: func(k quad.Known) Result {
			var r Result
			if list := k.Board.Elsewhere; len(list) > 0 {
				r.find(Finding{
					Weight:   Stop,
					Title:    "The board holds what was measured on another one",
					Figures:  quad.And(shortened(list, 4)) + " are the old board's, to the last digit.",
					Why:      "Level, compass and scales belong to one board in one place: this one would lean, turn or warn wrongly.",
					Remedies: by("Put them back to nothing and measure them on this board"),
					Paths:    []quad.Path{"board.elsewhere"},
				})
			}
			if list := k.Board.Unmeasured; len(list) > 0 {
				r.find(Finding{
					Weight:   Stop,
					Title:    "Not measured on this board: " + quad.And(list),
					Figures:  "Its settings say that nobody has done it since they were cleared.",
					Why:      "A board that does not know its own zero flies by a wrong one.",
					Remedies: by("Measure it on this board, in its place"),
					Paths:    []quad.Path{"board.unmeasured"},
				})
			}
			return r
		},
	},
	{
		ID:      "firmware.speed-controllers",
		Station: Firmware,
		Reads:   []quad.Path{"parts.speedController.layout", "parts.board.outputs", "readings.firmware.speedControllers"},
		Voids:   []Event{Repair},
		Judge:   judgeSpeedControllers,
	},
	{
		ID:      "firmware.unmapped",
		Station: Firmware,
		Reads:   []quad.Path{"sheet.firmware.other", "board.line", "board.understood", "board.foreign", "board.unmapped"},
		By:      []quad.Path{"board.version", "board.dictionary"},
		Judge: func(k quad.Known) Result {
			var r Result
			if k.Board.Line == "" {
				return r // the identity rule asks for the read-back
			}
			if !k.Board.Understood {
				r.find(Finding{
					Weight:   Note,
					Title:    "No dictionary for this firmware",
					Figures:  k.Board.Line + " " + k.Board.Version + " is none that this product can read.",
					Why:      "Its settings cannot be compared with the sheet.",
					Remedies: by("Type what matters, or describe the firmware family"),
					Paths:    []quad.Path{"board.line"},
				})
				return r
			}
			held, err := firmware.Lines(k.Board.Unmapped)
			meant, err2 := firmware.Lines(k.Sheet.Firmware.Other)
			if err = errors.Join(err, err2); err != nil {
				r.find(Finding{
					Weight:   Stop,
					Title:    "A setting without a subject cannot be read",
					Figures:  quad.Explain(err),
					Why:      "What is meant there is not known.",
					Remedies: by("Write it as name = value"),
					Paths:    []quad.Path{"sheet.firmware.other", "board.unmapped"},
				})
				return r
			}
			if list := k.Board.Foreign; len(list) > 0 {
				r.find(Finding{
					Weight:   Stop,
					Title:    "The board holds a setting this version does not have",
					Figures:  quad.And(shortened(list, 4)) + " not in " + k.Board.Line + " " + k.Board.Version + ".",
					Why:      "The build is not what it says it is.",
					Remedies: by("Identify the board again"),
					Paths:    []quad.Path{"board.foreign"},
				})
			}
			r.deciding(k, held, meant)
			for _, name := range quad.SortedKeys(meant) {
				want := meant[name]
				if is, ok := held[name]; ok && is != want {
					r.find(Finding{
						Weight:   Stop,
						Title:    "The board differs from your settings: " + name,
						Figures:  "Settings: " + want + ". Board: " + is + ".",
						Why:      "It flies by what the board holds, not by what you meant.",
						Remedies: []Remedy{{Words: "Write your settings to the board", Write: true}},
						Paths:    []quad.Path{"sheet.firmware.other", "board.unmapped"},
					})
				}
			}
			return r
		},
	},
}

// deciding names what the board holds about arming, modes or a loss that is neither on the sheet nor as its maker left it: no rule can look
// at what it does.
func (r *Result) deciding(k quad.Known, held, meant map[string]string) {
	build, err := firmware.For(k.Board)
	if err != nil {
		return
	}
	for _, name := range quad.SortedKeys(held) {
		fact := build.Facts.Find(name)
		if _, told := meant[name]; told || fact == nil || held[name] == fact.Default || !build.Line.DecidesBy(name) {
			continue
		}
		line := name + " = " + held[name]
		other, err := json.Marshal(append(slices.Clone(k.Sheet.Firmware.Other), line))
		if err != nil {
			continue
		}
		r.find(Finding{
			Weight:   Fix,
			Title:    "The board decides by a setting that your settings do not name: " + name,
			Subject:  "decides " + name,
			Figures:  "It holds " + held[name] + "; " + fact.Default + " is usual.",
			Why:      "It has a say in arming, in flight modes or after a loss, and nothing here can judge it.",
			Remedies: []Remedy{{Words: "It is meant so: keep it with the sheet", Edits: []Edit{{"sheet.firmware.other", string(other)}}}},
			Paths:    []quad.Path{"board.unmapped", "sheet.firmware.other"},
		})
	}
}

// judgeSpeedControllers compares what the speed controllers say they are with the parts and with each other.
func judgeSpeedControllers(k quad.Known) Result {
	var r Result
	layout := k.Parts.SpeedController.Layout
	if layout == "" {
		return r // they have no firmware that could be asked
	}
	seen := k.Readings.Firmware.SpeedControllers
	version, kilohertz := map[string][]string{}, map[string][]string{}
	for _, letter := range k.Parts.Board.Outputs {
		at := quad.Path("readings.firmware.speedControllers." + letter)
		one := seen[letter]
		if one == nil {
			r.ask(at)
			continue
		}
		if one.Value.Layout != layout {
			r.find(Finding{
				Weight:   Stop,
				Title:    "Speed controller " + letter + " is of another layout than the parts say",
				Figures:  "It says " + orNothing(one.Value.Layout) + "; the parts say " + layout + ".",
				Why:      "Firmware for another layout drives the wrong switches and burns them.",
				Remedies: by("Look at what is fitted, and correct the parts"),
				Paths:    []quad.Path{at, "parts.speedController.layout"},
			})
		}
		version[one.Value.Version] = append(version[one.Value.Version], letter)
		khz := quad.Number(one.Value.Switching) + " kHz"
		kilohertz[khz] = append(kilohertz[khz], letter)
	}
	for _, u := range []struct {
		what, why string
		groups    map[string][]string
	}{
		{"firmware of unlike versions", "One corner answers differently from the others, and no tuning helps.", version},
		{"unlike switching rates", "One corner brakes harder than the others.", kilohertz},
	} {
		if len(u.groups) > 1 {
			var parts []string
			for _, v := range quad.SortedKeys(u.groups) {
				parts = append(parts, quad.And(u.groups[v])+" "+v)
			}
			r.find(Finding{
				Weight:   Fix,
				Title:    "The speed controllers have " + u.what,
				Subject:  u.what,
				Figures:  quad.Upper(strings.Join(parts, "; ")) + ".",
				Why:      u.why,
				Remedies: by("Flash or set the odd ones, one after the other, pack in, propellers off"),
				Paths:    []quad.Path{"readings.firmware.speedControllers"},
			})
		}
	}
	return r
}

// shortened keeps the first of a long list and says how many more there are.
func shortened(list []string, most int) []string {
	if len(list) <= most {
		return list
	}
	return append(slices.Clone(list[:most-1]), fmt.Sprintf("%d more", len(list)-most+1))
}
