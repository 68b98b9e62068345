package firmware

import (
	"maps"
	"slices"
	"time"

	"vividperch/core/quad"
)

// ReadBack is what was read from a board at one time.
type ReadBack struct {
	Is       quad.Identity
	Settings map[string]string
	// Before is what the board of this quad was and held before its last change of board, line or version; zero
	// when there was none.
	Before Before
	// Taught is the pilot's own dictionary for the line, as a file; empty for a line that the product knows.
	Taught string
	At     time.Time
}

// Before is an earlier read-back, as it is kept with a later one.
type Before struct {
	Is       quad.Identity     `json:"is"`
	Settings map[string]string `json:"settings"`
}

// Board puts a read-back together: what the line's dictionary makes of the settings, what it has no subject for,
// and what does not belong there. A line or version that is not known, or settings that its dictionary cannot
// read, leave the sheet empty; a rule says so.
func Board(r ReadBack) quad.Board {
	out := quad.Board{Target: r.Is.Target, Line: r.Is.Line, Version: r.Is.Version, Serial: r.Is.Serial, ReadAt: r.At, Settings: r.Settings, Dictionary: r.Taught}
	b, err := For(out)
	if err != nil {
		return out
	}
	out.Understood = true
	if sheet, err := b.Dictionary.Decode(r.Settings); err == nil {
		out.Sheet = sheet
	}
	mapped := b.Dictionary.bySetting
	for _, name := range quad.SortedKeys(r.Settings) {
		raw, f, e := r.Settings[name], b.Facts.Find(name), mapped[name]
		switch {
		case f == nil:
			out.Foreign = append(out.Foreign, name)
		case f.Bound != "": // measured; it counts where it is measured
			if f.Unset != "" && raw == f.Unset {
				out.Unmeasured = append(out.Unmeasured, f.Bound.Words())
			}
		case e == nil || e.unexpressed(raw, f):
			out.Unmapped = append(out.Unmapped, name+" = "+raw)
		}
	}
	out.Unmeasured = slices.Compact(out.Unmeasured)
	out.Elsewhere = elsewhere(b, r)
	out.Wholesale = wholesale(b, r)
	return out
}

// Written is the board of a quad once it holds the sheet; what it held of other things stays. A sheet that its line cannot hold is a Fault.
func Written(k quad.Known, at time.Time) (quad.Board, error) {
	build, err := Find(k.Sheet.Firmware.Line, k.Sheet.Firmware.Version)
	if err != nil {
		return quad.Board{}, err
	}
	settings := build.Facts.Defaults()
	maps.Copy(settings, k.Board.Settings)
	written, err := build.Dictionary.Encode(k.Sheet, settings)
	if err != nil {
		return quad.Board{}, err
	}
	maps.Copy(settings, written)
	is := k.Sheet.Firmware.Is()
	is.Serial = k.Board.Serial
	return Board(ReadBack{Is: is, Settings: settings, At: at}), nil
}

// elsewhere lists the hardware-bound settings that hold, to the last digit, what was measured on another board.
func elsewhere(b *Build, r ReadBack) []string {
	if r.Before.Is.SameBoard(r.Is) {
		return nil
	}
	var out []string
	for _, s := range b.Facts.Settings {
		raw, old := r.Settings[s.Name], r.Before.Settings[s.Name]
		// What says that something was measured is no measured value itself.
		if s.Bound != "" && s.Unset == "" && raw == old && raw != s.Default {
			out = append(out, s.Name)
		}
	}
	return out
}

// wholesale lists the settings that hold the raw value of an older major version although the same value means
// something else now: an old list was loaded as it was.
func wholesale(b *Build, r ReadBack) []string {
	if StepBetween(r.Before.Is.Line, r.Before.Is.Version, r.Is.Line, r.Is.Version) != Major {
		return nil
	}
	rows, err := b.Line.Carry(r.Before.Is.Version, r.Is.Version, r.Before.Settings, true)
	if err != nil {
		return nil
	}
	var out []string
	for _, row := range rows {
		if (row.Fate == Converted || row.Fate == Misfit) && row.Name == row.Was && r.Settings[row.Name] == row.Old && row.Old != row.Proposal && row.Old != row.NewDefault {
			out = append(out, row.Name)
		}
	}
	return out
}

// For finds the build that a board runs: the pilot's own dictionary where one was taught, else a shipped line's.
func For(b quad.Board) (*Build, error) {
	l, err := LineFor(b.Line, b.Dictionary)
	if err != nil {
		return nil, err
	}
	return l.At(b.Version)
}
