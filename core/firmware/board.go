package firmware

import (
	"slices"
	"strings"
	"time"

	"vividperch/core/quad"
)

// Board puts a read-back together: what the line's dictionary makes of the settings, and what it has no
// subject for. A line that is not known, or settings that its dictionary cannot read, leave the sheet empty;
// a rule says so.
func Board(target, line, version string, settings map[string]string, at time.Time) quad.Board {
	out := quad.Board{Target: target, Line: line, Version: version, ReadAt: at, Settings: settings}
	l, ok := FindLine(line)
	if !ok {
		return out
	}
	if sheet, err := l.Dictionary.Decode(settings); err == nil {
		out.Sheet = sheet
	}
	mapped := l.Dictionary.settings()
	for name, raw := range settings {
		// Hardware-bound values are measured; they count at the station that measures them.
		if f := l.Facts.Find(name); !mapped[name] && (f == nil || !f.Bound) {
			out.Unmapped = append(out.Unmapped, name+" = "+raw)
		}
	}
	slices.Sort(out.Unmapped)
	return out
}

// BoardFromList takes a settings list, which may hold only what differs from the defaults, for the read-back
// of a board with this identity. The list is read whole; faults are all it has, and then nothing is taken.
func BoardFromList(is quad.FirmwareSheet, text []byte, at time.Time) (quad.Board, []*quad.Fault) {
	l, ok := FindLine(is.Line)
	if !ok {
		return quad.Board{}, []*quad.Fault{quad.Faultf("no-dictionary", "sheet.firmware.line", "no dictionary for the line %q", is.Line)}
	}
	listed, err := ReadList(text)
	if err != nil {
		return quad.Board{}, []*quad.Fault{quad.AsFault(err)}
	}
	given, faults := l.Facts.CheckList(listed)
	if len(faults) > 0 {
		return quad.Board{}, faults
	}
	settings := l.Facts.Defaults()
	for name, value := range given {
		settings[name] = value
	}
	return Board(is.Target, is.Line, is.Version, settings, at), nil
}

// Lines reads the settings of a list that was put together line by line, as quad.Board and quad.Sheet keep
// what has no subject. Later lines win.
func Lines(lines []string) (map[string]string, error) {
	list, err := ReadList([]byte(strings.Join(lines, "\n")))
	if err != nil {
		return nil, err
	}
	out := make(map[string]string, len(list))
	for _, l := range list {
		out[l.Name] = l.Value
	}
	return out, nil
}

// settings that some entry of the dictionary maps.
func (d *Dictionary) settings() map[string]bool {
	out := map[string]bool{}
	for _, e := range d.Entries {
		for _, name := range e.settings() {
			out[name] = true
		}
	}
	return out
}
