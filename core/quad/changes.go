package quad

import (
	"encoding/json"
	"reflect"
	"slices"
	"strings"
)

// Changes are the fewest edits that turn a into b: leaves where both have them, whole items where only one
// side has the item of a map.
func Changes(a, b Meant) []Edit {
	var out []Edit
	changes(reflect.ValueOf(a), reflect.ValueOf(b), "", &out)
	return append(out, gapEdits(a.Sheet, b.Sheet, out)...)
}

func changes(a, b reflect.Value, at Path, out *[]Edit) {
	switch a.Kind() {
	case reflect.Struct:
		for i := range a.NumField() {
			if a.Field(i).Type() == gapsType {
				continue // told or not is no value
			}
			changes(a.Field(i), b.Field(i), join(at, Path(jsonName(a.Type().Field(i)))), out)
		}
	case reflect.Map:
		keys := map[string]reflect.Value{}
		for _, m := range []reflect.Value{a, b} {
			for _, k := range m.MapKeys() {
				keys[k.String()] = k
			}
		}
		for _, key := range SortedKeys(keys) {
			before, after := a.MapIndex(keys[key]), b.MapIndex(keys[key])
			switch p := join(at, Path(key)); {
			case !before.IsValid():
				*out = append(*out, Edit{Path: p, Before: json.RawMessage("null"), After: asJSON(after)})
			case !after.IsValid():
				*out = append(*out, Edit{Path: p, Before: asJSON(before), After: json.RawMessage("null")})
			default:
				changes(before, after, p, out)
			}
		}
	default:
		if before, after := asJSON(a), asJSON(b); string(before) != string(after) {
			*out = append(*out, Edit{Path: at, Before: before, After: after})
		}
	}
}

func asJSON(v reflect.Value) json.RawMessage {
	raw, err := json.Marshal(v.Interface())
	if err != nil {
		return json.RawMessage("null") // not finite: it cannot be kept either
	}
	return raw
}

// Disagreement is one place at which two windows have gone apart since both saw the same.
type Disagreement struct {
	Path   Path   `json:"path"`
	Label  string `json:"label"`
	Seen   string `json:"seen"`   // in words, what both saw
	Theirs string `json:"theirs"` // in words, what stands now
	Mine   string `json:"mine"`   // in words, what was to stand; empty where only they changed something
	// Back and Put are the values that make it as it was seen, and as it was to be.
	Back json.RawMessage `json:"back"`
	Put  json.RawMessage `json:"put,omitempty"`
}

// Reconcile lists where what stands now and the edits that somebody wanted to make on what he saw have gone
// apart: every place that they changed and, with what was wanted there, every place he wanted to change.
// Edits that do not apply to what was seen are a Fault.
func Reconcile(seen, now Meant, wanted []Edit) ([]Disagreement, error) {
	mine, err := Apply(seen, wanted)
	if err != nil {
		return nil, err
	}
	theirs, ours := Changes(seen, now), Changes(seen, mine)
	var paths []Path
	for _, e := range slices.Concat(theirs, ours) {
		if slices.ContainsFunc(paths, func(p Path) bool { return e.Path.Under(p) }) {
			continue
		}
		paths = slices.DeleteFunc(paths, func(p Path) bool { return p.Under(e.Path) })
		paths = append(paths, e.Path)
	}
	out := []Disagreement{}
	for _, p := range paths {
		f, err := FieldAt(p)
		if err != nil {
			return nil, err
		}
		row := Disagreement{Path: p, Label: f.Label, Seen: at(seen, p, f), Theirs: at(now, p, f), Back: rawAt(seen, p)}
		if slices.ContainsFunc(ours, func(e Edit) bool { return e.Path.Touches(p) }) {
			row.Mine, row.Put = at(mine, p, f), rawAt(mine, p)
		}
		out = append(out, row)
	}
	return out, nil
}

func rawAt(m Meant, p Path) json.RawMessage {
	v, err := Get(m, p)
	if err != nil || v == nil || m.Sheet.gapAt(p) {
		return json.RawMessage("null")
	}
	return asJSON(reflect.ValueOf(v))
}

// at says what stands at a path, which may be a whole item.
func at(m Meant, p Path, f Field) string {
	v, err := Get(m, p)
	if err != nil || v == nil {
		return "nothing"
	}
	if f.Type.Kind() != reflect.Struct {
		return Leaf{Value: v, Unit: f.Unit, Private: f.Private, Untold: m.Sheet.gapAt(p)}.Words()
	}
	if m.Sheet.gapAt(p) {
		return Leaf{Untold: true}.Words()
	}
	var words []string
	for _, l := range Leaves(v, "") {
		words = append(words, strings.ToLower(l.Label)+" "+l.Words())
	}
	return strings.Join(words, ", ")
}
