package firmware

import (
	"maps"
	"strings"
	"time"

	"vividperch/core/quad"
)

// BoardFromList takes a settings list, which may hold only what differs from the defaults, for the read-back
// of a board with this identity. The list is read whole; faults are all it has, and then nothing is taken.
func BoardFromList(is quad.Identity, taught string, text []byte, at time.Time) (quad.Board, []*quad.Fault) {
	b, err := For(quad.Board{Line: is.Line, Version: is.Version, Dictionary: taught})
	if err != nil {
		return quad.Board{}, []*quad.Fault{quad.AsFault(err)}
	}
	list, err := b.ReadList(text)
	if err != nil {
		return quad.Board{}, []*quad.Fault{quad.AsFault(err)}
	}
	given, faults := b.Facts.CheckList(list.Settings)
	if len(faults) > 0 {
		return quad.Board{}, faults
	}
	settings := b.Facts.Defaults()
	maps.Copy(settings, given)
	if is.Serial == "" {
		is.Serial = list.Is.Serial
	}
	return Board(ReadBack{Is: is, Settings: settings, Taught: taught, At: at}), nil
}

// Usual is the sheet of a board that nobody has changed: only mapped places are set.
func (b *Build) Usual() (quad.Sheet, error) { return b.Dictionary.Decode(b.Facts.Defaults()) }

// Lines reads the settings of a list that was put together line by line, as quad.Board and quad.Sheet keep
// what has no subject. Later lines win.
func Lines(lines []string) (map[string]string, error) {
	list, err := ReadList([]byte(strings.Join(lines, "\n")))
	if err != nil {
		return nil, err
	}
	out := make(map[string]string, len(list.Settings))
	for _, l := range list.Settings {
		out[l.Name] = l.Value
	}
	return out, nil
}
