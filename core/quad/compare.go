package quad

import (
	"encoding/json"
	"reflect"
)

// Difference between two snapshots at one path, in the pilot's words.
type Difference struct {
	Path   Path   `json:"path"`
	Label  string `json:"label"`
	Before string `json:"before"`
	After  string `json:"after"`
}

// Words says the difference in one sentence.
func (d Difference) Words() string { return d.Label + ": " + d.Before + " becomes " + d.After }

// Compare lists every leaf that differs from a to b, in the order of the sheet; leaves only one side has
// come as "nothing" on the other.
func Compare(a, b Meant) []Difference {
	before, after := Leaves(a, ""), Leaves(b, "")
	old := make(map[Path]Leaf, len(before))
	for _, l := range before {
		old[l.Path] = l
	}
	var out []Difference
	seen := make(map[Path]bool, len(after))
	for _, l := range after {
		seen[l.Path] = true
		o, had := old[l.Path]
		if had && reflect.DeepEqual(o.Value, l.Value) {
			continue
		}
		d := Difference{Path: l.Path, Label: l.Label, Before: "nothing", After: Words(l.Value, l.Unit)}
		if had {
			d.Before = Words(o.Value, o.Unit)
		}
		out = append(out, d)
	}
	for _, l := range before {
		if !seen[l.Path] {
			out = append(out, Difference{Path: l.Path, Label: l.Label, Before: Words(l.Value, l.Unit), After: "nothing"})
		}
	}
	return out
}

// Edit is one change of a draft: what stood at a path and what shall stand there.
type Edit struct {
	Path   Path            `json:"path"`
	Before json.RawMessage `json:"before"`
	After  json.RawMessage `json:"after"`
}

// Draft is a base revision with edits on top, in the order they were made.
type Draft struct {
	Base  int    `json:"base"`
	Edits []Edit `json:"edits"`
}

// Apply gives what is meant with the edits made. A path that does not exist or a value that does not fit
// is a Fault, and nothing is returned half applied.
func Apply(m Meant, edits []Edit) (Meant, error) {
	for _, e := range edits {
		if err := Set(&m, e.Path, e.After); err != nil {
			return Meant{}, err
		}
	}
	return m, m.Valid()
}

// NewEdit builds the edit that puts after at path, reading what stands there now from m.
func NewEdit(m Meant, path Path, after json.RawMessage) (Edit, error) {
	now, err := Get(m, path)
	if err != nil {
		return Edit{}, err
	}
	before, err := json.Marshal(now)
	if err != nil {
		return Edit{}, Faultf("not-finite", string(path), "holds a figure that is not a number")
	}
	e := Edit{Path: path, Before: before, After: after}
	if _, err := Apply(m, []Edit{e}); err != nil {
		return Edit{}, err
	}
	return e, nil
}
