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

// Words of the leaf's value for a sentence. What is private is not shown.
func (l Leaf) Words() string {
	if l.Private != "" && Words(l.Value, l.Unit) != "nothing" {
		return "kept, not shown"
	}
	if l.Untold {
		return "not told"
	}
	return Words(l.Value, l.Unit)
}

// Compare lists every leaf that differs from a to b, in the order of the sheet; leaves only one side has
// come as "nothing" on the other, and those at which nothing is told are left out.
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
		if had && reflect.DeepEqual(o.Value, l.Value) && o.Untold == l.Untold {
			continue
		}
		if !had && l.Untold {
			continue
		}
		d := Difference{Path: l.Path, Label: l.Label, Before: "nothing", After: l.Words()}
		if had {
			d.Before = o.Words()
			if l.Private != "" && d.Before == d.After {
				d.After = "another"
			}
		}
		out = append(out, d)
	}
	for _, l := range before {
		if !seen[l.Path] && !l.Untold {
			out = append(out, Difference{Path: l.Path, Label: l.Label, Before: l.Words(), After: "nothing"})
		}
	}
	return out
}

// Edit is one change of a draft: what stood at a path and what shall stand there.
type Edit struct {
	Path   Path            `json:"path"`
	Before json.RawMessage `json:"before"`
	After  json.RawMessage `json:"after"`
	// Joined to the edit before it: both were made in one act.
	Joined bool `json:"joined,omitempty"`
	// Since is the number of the newest entry of the quad's book when it was made: whatever has a higher one is later.
	Since int64 `json:"since,omitempty"`
}

// LastAct is where the last act of some edits begins: edits made together are taken back together. Edits must
// not be empty.
func LastAct(edits []Edit) int {
	i := len(edits) - 1
	for i > 0 && edits[i].Joined {
		i--
	}
	return i
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
	if m.Sheet.gapAt(path) {
		now = nil
	}
	before, err := json.Marshal(now)
	if err != nil {
		return Edit{}, Faultf("not-finite", string(path), "holds a figure that is not a number")
	}
	e := Edit{Path: path, Before: before, After: after}
	if err := Fits(path, after); err != nil {
		return Edit{}, err
	}
	changed, err := Apply(m, []Edit{e})
	if err != nil {
		return Edit{}, err
	}
	return e, changed.Limits.Thresholds.Reasoned("limits.thresholds")
}
