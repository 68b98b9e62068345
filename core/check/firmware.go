package check

import (
	"errors"

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
				{"The build is for another board than the sheet says", id.Value.Target, s.Target, []quad.Path{"readings.firmware.identity", "sheet.firmware.target"}},
				{"Another firmware line is on the board", id.Value.Line, s.Line, []quad.Path{"readings.firmware.identity", "sheet.firmware.line"}},
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
		Reads:   []quad.Path{"board.target", "board.line", "board.version", "readings.firmware.identity"},
		Voids:   []Event{Flash},
		Judge: func(k quad.Known) Result {
			var r Result
			id := k.Readings.Firmware.Identity
			if id == nil || !k.Board.Read() {
				r.ask("readings.firmware.identity")
				return r
			}
			if k.Board.Target != id.Value.Target || k.Board.Version != id.Value.Version || k.Board.Line != id.Value.Line {
				r.find(Finding{
					Weight:   Stop,
					Title:    "The settings read back came from another board or version",
					Figures:  "Read back from " + k.Board.Target + " " + k.Board.Version + "; the board says " + id.Value.Target + " " + id.Value.Version + ".",
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
		Reads:   []quad.Path{"readings.firmware.backup"},
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
		ID:      "firmware.unmapped",
		Station: Firmware,
		Reads:   []quad.Path{"sheet.firmware.other", "board.line", "board.unmapped"},
		Judge: func(k quad.Known) Result {
			var r Result
			if k.Board.Line == "" {
				return r // the identity rule asks for the read-back
			}
			line, ok := firmware.FindLine(k.Board.Line)
			if !ok {
				r.find(Finding{
					Weight:   Note,
					Title:    "No dictionary for this firmware line",
					Figures:  k.Board.Line + " is not one of the lines this product can read.",
					Why:      "Its settings cannot be compared with the sheet.",
					Remedies: by("Type what matters, or teach a dictionary"),
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
					Figures:  upper(err.Error()) + ".",
					Why:      "What is meant there is not known.",
					Remedies: by("Write it as name = value"),
					Paths:    []quad.Path{"sheet.firmware.other", "board.unmapped"},
				})
				return r
			}
			for _, name := range quad.SortedKeys(held) {
				if line.Facts.Find(name) == nil {
					r.find(Finding{
						Weight:   Stop,
						Title:    "The board holds a setting this version does not have",
						Figures:  name + " is not in " + line.Facts.Line + " " + line.Facts.Version + ".",
						Why:      "The build is not what it says it is.",
						Remedies: by("Identify the board again"),
						Paths:    []quad.Path{"board.unmapped"},
					})
					break
				}
			}
			for _, name := range quad.SortedKeys(meant) {
				want := meant[name]
				if is, ok := held[name]; ok && is != want {
					r.find(Finding{
						Weight:   Stop,
						Title:    "The board does not hold what the sheet says: " + name,
						Figures:  "Sheet: " + want + ". Board: " + is + ".",
						Why:      "It flies by what the board holds, not by what you meant.",
						Remedies: []Remedy{{Words: "Write the sheet to the board", Write: true}},
						Paths:    []quad.Path{"sheet.firmware.other", "board.unmapped"},
					})
				}
			}
			return r
		},
	},
}
