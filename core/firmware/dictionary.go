package firmware

import (
	"encoding/json"
	"math"
	"strconv"
	"strings"

	"vividperch/core/quad"
)

// Dictionary maps a line's settings to the sheet and back.
type Dictionary struct {
	Line    string  `json:"line"`
	Entries []Entry `json:"entries"`

	facts *Facts
}

// Entry is one mapping. The kinds are closed:
//
//   - scalar: one whole number, one figure of the sheet: raw = (value - offset) * factor.
//   - enumeration: one word or text, one word of the sheet; Words maps sheet to raw, none passes it through.
//     A yes or no of the sheet is spelled "true" and "false" in Words.
//   - bits: one whole number, one yes or no of the sheet per bit.
//   - list: parts with colons between, one sheet path for each, all with the same Words.
//   - record: parts with colons between, each a scalar of its own.
//   - several: one figure of the sheet out of two settings, whole and hundredths.
type Entry struct {
	Kind     string            `json:"kind"`
	Setting  string            `json:"setting"`
	Fraction string            `json:"fraction"` // several: the setting with the hundredths
	Path     quad.Path         `json:"path"`
	Factor   float64           `json:"factor"`
	Offset   float64           `json:"offset"`
	Words    map[string]string `json:"words"`
	Paths    []quad.Path       `json:"paths"`  // list, bits (from the lowest)
	Fields   []Field           `json:"fields"` // record
}

// Field of a packed record.
type Field struct {
	Path   quad.Path `json:"path"`
	Factor float64   `json:"factor"`
	Offset float64   `json:"offset"`
}

func (e Entry) settings() []string {
	if e.Fraction != "" {
		return []string{e.Setting, e.Fraction}
	}
	return []string{e.Setting}
}

func (e Entry) paths() []quad.Path {
	switch e.Kind {
	case "list", "bits":
		return e.Paths
	case "record":
		out := make([]quad.Path, len(e.Fields))
		for i, f := range e.Fields {
			out[i] = f.Path
		}
		return out
	}
	return []quad.Path{e.Path}
}

func (d *Dictionary) check(f *Facts) error {
	if d.Line != f.Line {
		return quad.Faultf("other-line", "line", "the dictionary is for %s, the facts are of %s", d.Line, f.Line)
	}
	seen := map[quad.Path]bool{}
	for _, e := range d.Entries {
		for _, name := range e.settings() {
			if f.Find(name) == nil {
				return quad.Faultf("unknown-setting", name, "is not a setting of %s", f.Line)
			}
		}
		switch e.Kind {
		case "scalar", "enumeration", "bits", "list", "record", "several":
		default:
			return quad.Faultf("unknown-kind", e.Setting, "%q is not a kind of mapping", e.Kind)
		}
		for _, p := range e.paths() {
			if _, err := quad.FieldAt(p); err != nil {
				return err
			}
			if !p.Under("sheet") {
				return quad.Faultf("not-sheet", string(p), "a dictionary maps to the sheet only")
			}
			if seen[p] {
				return quad.Faultf("mapped-twice", string(p), "is mapped twice")
			}
			seen[p] = true
		}
	}
	return nil
}

// Paths of the sheet that the dictionary maps, in its order.
func (d *Dictionary) Paths() []quad.Path {
	var out []quad.Path
	for _, e := range d.Entries {
		out = append(out, e.paths()...)
	}
	return out
}

// SettingFor names the setting that holds a path, or "".
func (d *Dictionary) SettingFor(p quad.Path) string {
	for _, e := range d.Entries {
		for _, q := range e.paths() {
			if q == p {
				return e.Setting
			}
		}
	}
	return ""
}

// Alike says whether two values of the sheet at a mapped path are one and the same in raw units, as two
// figures are that differ by less than the line can hold.
func (d *Dictionary) Alike(p quad.Path, a, b any) bool {
	x, ok1 := number(a)
	y, ok2 := number(b)
	if !ok1 || !ok2 {
		return a == b
	}
	for _, e := range d.Entries {
		switch {
		case e.Kind == "scalar" && e.Path == p:
			return rawNumber(x, e.Factor, e.Offset) == rawNumber(y, e.Factor, e.Offset)
		case e.Kind == "several" && e.Path == p:
			return rawNumber(x, 100, 0) == rawNumber(y, 100, 0)
		case e.Kind == "record":
			for _, f := range e.Fields {
				if f.Path == p {
					return rawNumber(x, f.Factor, f.Offset) == rawNumber(y, f.Factor, f.Offset)
				}
			}
		}
	}
	return a == b
}

func number(v any) (float64, bool) {
	switch x := v.(type) {
	case float64:
		return x, true
	case int:
		return float64(x), true
	}
	return 0, false
}

// Encode writes the sheet as raw settings, every mapped one and the other ones it names. A figure that does not fit the line is a Fault
// at its path.
func (d *Dictionary) Encode(s quad.Sheet) (map[string]string, error) {
	root := struct {
		Sheet *quad.Sheet `json:"sheet"`
	}{&s}
	out := map[string]string{}
	for _, e := range d.Entries {
		if err := e.encode(root.Sheet, out); err != nil {
			return nil, err
		}
	}
	other, err := Lines(s.Firmware.Other)
	if err != nil {
		return nil, err
	}
	for name, raw := range other {
		if _, mapped := out[name]; !mapped {
			out[name] = raw
		}
	}
	for name, raw := range out {
		f := d.facts.Find(name)
		if f == nil {
			return nil, quad.Faultf("unknown-setting", "sheet.firmware.other", "%s %s has no setting named %q", d.facts.Line, d.facts.Version, clipped(name))
		}
		if err := f.Check(raw); err != nil {
			return nil, err
		}
	}
	return out, nil
}

func inSheet(p quad.Path) quad.Path { return quad.Path(strings.TrimPrefix(string(p), "sheet.")) }

func figure(s *quad.Sheet, p quad.Path) (float64, error) {
	v, err := quad.Get(s, inSheet(p))
	if err != nil {
		return 0, err
	}
	if x, ok := number(v); ok || v == nil {
		return x, nil
	}
	return 0, quad.Faultf("not-a-number", string(p), "is not a figure")
}

func word(s *quad.Sheet, p quad.Path) (string, error) {
	v, err := quad.Get(s, inSheet(p))
	if err != nil {
		return "", err
	}
	switch x := v.(type) {
	case nil:
		return "", nil
	case bool:
		return strconv.FormatBool(x), nil
	}
	raw, err := json.Marshal(v)
	if err != nil {
		return "", err
	}
	var text string
	if json.Unmarshal(raw, &text) != nil {
		return "", quad.Faultf("not-a-word", string(p), "is not a word")
	}
	return text, nil
}

func factor(f float64) float64 {
	if f == 0 {
		return 1
	}
	return f
}

func rawNumber(value, by, offset float64) string {
	return strconv.Itoa(int(math.Round((value - offset) * factor(by))))
}

func (e Entry) rawWord(value string, p quad.Path) (string, error) {
	if len(e.Words) == 0 {
		return value, nil
	}
	if raw, ok := e.Words[value]; ok {
		return raw, nil
	}
	return "", quad.Faultf("no-counterpart", string(p), "%q has no counterpart on this line", value)
}

func (e Entry) encode(s *quad.Sheet, out map[string]string) error {
	switch e.Kind {
	case "scalar":
		x, err := figure(s, e.Path)
		if err != nil {
			return err
		}
		out[e.Setting] = rawNumber(x, e.Factor, e.Offset)
	case "enumeration":
		w, err := word(s, e.Path)
		if err != nil {
			return err
		}
		raw, err := e.rawWord(w, e.Path)
		if err != nil {
			return err
		}
		out[e.Setting] = raw
	case "bits":
		n := 0
		for i, p := range e.Paths {
			w, err := word(s, p)
			if err != nil {
				return err
			}
			if w == "true" {
				n |= 1 << i
			}
		}
		out[e.Setting] = strconv.Itoa(n)
	case "list":
		parts := make([]string, len(e.Paths))
		for i, p := range e.Paths {
			w, err := word(s, p)
			if err != nil {
				return err
			}
			if parts[i], err = e.rawWord(w, p); err != nil {
				return err
			}
		}
		out[e.Setting] = strings.Join(parts, ":")
	case "record":
		parts := make([]string, len(e.Fields))
		for i, f := range e.Fields {
			x, err := figure(s, f.Path)
			if err != nil {
				return err
			}
			parts[i] = rawNumber(x, f.Factor, f.Offset)
		}
		out[e.Setting] = strings.Join(parts, ":")
	case "several":
		x, err := figure(s, e.Path)
		if err != nil {
			return err
		}
		hundredths := int(math.Round(x * 100))
		out[e.Setting] = strconv.Itoa(hundredths / 100)
		out[e.Fraction] = strconv.Itoa(hundredths % 100)
	}
	return nil
}

// Decode reads raw settings into a sheet: only mapped paths whose settings are there are set. Raw values
// are checked against the facts first.
func (d *Dictionary) Decode(settings map[string]string) (quad.Sheet, error) {
	var s quad.Sheet
	for _, e := range d.Entries {
		missing := false
		for _, name := range e.settings() {
			raw, ok := settings[name]
			if !ok {
				missing = true
				break
			}
			if err := d.facts.Find(name).Check(raw); err != nil {
				return quad.Sheet{}, err
			}
		}
		if missing {
			continue
		}
		if err := e.decode(settings, &s); err != nil {
			return quad.Sheet{}, err
		}
	}
	return s, nil
}

func (e Entry) sheetWord(raw string) string {
	if len(e.Words) == 0 {
		return raw
	}
	for w, r := range e.Words {
		if r == raw {
			return w
		}
	}
	return ""
}

func put(s *quad.Sheet, p quad.Path, value any) error {
	raw, err := json.Marshal(value)
	if err != nil {
		return err
	}
	return quad.Set(s, inSheet(p), raw)
}

func putWord(s *quad.Sheet, p quad.Path, w string) error {
	if w == "true" || w == "false" {
		return put(s, p, w == "true")
	}
	return put(s, p, w)
}

func putNumber(s *quad.Sheet, p quad.Path, raw string, by, offset float64) error {
	n, err := strconv.Atoi(raw)
	if err != nil {
		return quad.Faultf("not-a-number", string(p), "%q is not a whole number", raw)
	}
	// Dividing by the factor and rounding at the eighth place gives back 3.4, not 3.4000000000000004.
	return put(s, p, math.Round((float64(n)/factor(by)+offset)*1e8)/1e8)
}

func (e Entry) decode(settings map[string]string, s *quad.Sheet) error {
	raw := settings[e.Setting]
	switch e.Kind {
	case "scalar":
		return putNumber(s, e.Path, raw, e.Factor, e.Offset)
	case "enumeration":
		return putWord(s, e.Path, e.sheetWord(raw))
	case "bits":
		n, err := strconv.Atoi(raw)
		if err != nil {
			return quad.Faultf("not-a-number", e.Setting, "%q is not a whole number", raw)
		}
		for i, p := range e.Paths {
			if err := put(s, p, n&(1<<i) != 0); err != nil {
				return err
			}
		}
	case "list":
		for i, part := range strings.Split(raw, ":") {
			if err := putWord(s, e.Paths[i], e.sheetWord(part)); err != nil {
				return err
			}
		}
	case "record":
		for i, part := range strings.Split(raw, ":") {
			f := e.Fields[i]
			if err := putNumber(s, f.Path, part, f.Factor, f.Offset); err != nil {
				return err
			}
		}
	case "several":
		whole, err := strconv.Atoi(raw)
		if err != nil {
			return quad.Faultf("not-a-number", e.Setting, "%q is not a whole number", raw)
		}
		part, err := strconv.Atoi(settings[e.Fraction])
		if err != nil {
			return quad.Faultf("not-a-number", e.Fraction, "%q is not a whole number", settings[e.Fraction])
		}
		return put(s, e.Path, float64(whole*100+part)/100)
	}
	return nil
}
