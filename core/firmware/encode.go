package firmware

import (
	"encoding/json"
	"maps"
	"math"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"vividperch/core/quad"
)

// Encode writes the sheet as raw settings, every mapped one and the other ones it names. What a mapped setting
// holds that the sheet has no subject for, such as a bit that is not mapped, is taken from base: what the board
// holds, or nil for the defaults; so is what nobody told of a place that is asked for, which is no nought to be written. A figure
// that does not fit the line is a Fault at its path.
func (d *Dictionary) Encode(s quad.Sheet, base map[string]string) (map[string]string, error) {
	out, faults := d.EncodeAll(s, base)
	if len(faults) > 0 {
		return nil, faults[0]
	}
	return out, nil
}

// EncodeAll writes as much of the sheet as the line can hold. A mapping with a fault is left out whole; the
// faults come in the order of the dictionary.
func (d *Dictionary) EncodeAll(s quad.Sheet, base map[string]string) (map[string]string, []*quad.Fault) {
	out, faults := map[string]string{}, []*quad.Fault(nil)
	other, err := Lines(s.Firmware.Other)
	if err != nil {
		faults = append(faults, quad.AsFault(err))
	}
	for i := range d.Entries {
		e := &d.Entries[i]
		raw := map[string]string{}
		for _, name := range e.settings() {
			raw[name] = d.held(name, other, base)
		}
		var err error
		if slices.ContainsFunc(e.paths(), func(p quad.Path) bool { return !d.untold(&s, p) }) {
			err = d.encode(e, &s, raw[e.Setting], raw)
		}
		for _, name := range e.settings() {
			if err == nil {
				raw[name], err = d.facts.Find(name).Canonical(raw[name])
			}
		}
		if err != nil {
			faults = append(faults, quad.AsFault(err))
			continue
		}
		maps.Copy(out, raw)
	}
	for _, name := range quad.SortedKeys(other) {
		f := d.facts.Find(name)
		if f == nil {
			faults = append(faults, quad.Faultf("unknown-setting", "sheet.firmware.other", "%s %s has no setting named %q", d.facts.Line, d.facts.Version, quad.Clip(name, 40)))
			continue
		}
		raw, err := f.Canonical(other[name])
		if err != nil {
			faults = append(faults, quad.AsFault(err))
		} else if _, mapped := out[name]; !mapped {
			out[name] = raw
		}
	}
	return out, faults
}

// held is what a setting has that the sheet does not tell: as the sheet names it, as the board holds it, or else its default.
func (d *Dictionary) held(name string, other, base map[string]string) string {
	raw, ok := other[name]
	if !ok {
		raw, ok = base[name]
	}
	fact := d.facts.Find(name)
	if !ok || fact.Check(raw) != nil {
		return fact.Default
	}
	return raw
}

// untold says that a place is one at which nobody means 0, or no word, and that nobody told more; or that nobody told the 0 that stands there.
func (d *Dictionary) untold(s *quad.Sheet, p quad.Path) bool {
	if s.Gap(inSheet(p)) {
		return true
	}
	if !d.asked[p] {
		return false
	}
	v, err := quad.Get(s, inSheet(p))
	return err == nil && (v == nil || reflect.ValueOf(v).IsZero())
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
		return absent, nil
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

// oneFigure of all the places that a setting has one figure for.
func (d *Dictionary) oneFigure(e *Entry, s *quad.Sheet, places int) (float64, error) {
	one, at := 0.0, quad.Path("")
	for _, p := range e.paths() {
		if d.untold(s, p) {
			continue
		}
		x, err := figure(s, p)
		if err != nil {
			return 0, err
		}
		if at != "" && e.scale().raw(x, places) != e.scale().raw(one, places) {
			first, err := quad.FieldAt(at)
			if err != nil {
				return 0, err
			}
			return 0, quad.Faultf("not-one-figure", string(p), "is %s, but %q is %s; this firmware has one figure for both", quad.Words(x, first.Unit), first.Label, quad.Words(one, first.Unit))
		}
		if at == "" {
			one, at = x, p
		}
	}
	return one, nil
}

// absent stands for an item that the sheet does not have, such as a port that the board lacks.
const absent = "\x00"

// rawWord of a word on the sheet. A place that was never set keeps what is held when the sheet has no word for
// that: neither is to be lost.
func (e *Entry) rawWord(value, held string, p quad.Path) (string, error) {
	if value == absent {
		return held, nil
	}
	if len(e.Words) == 0 {
		return value, nil
	}
	if raw, ok := e.Words[value]; ok {
		return raw, nil
	}
	if _, known := e.sheetWord(held); value == "" && !known {
		return held, nil
	}
	return "", quad.Faultf("no-counterpart", string(p), "%q has no counterpart in this firmware", quad.Clip(value, 40))
}

func (d *Dictionary) encode(e *Entry, s *quad.Sheet, held string, out map[string]string) error {
	fact := d.facts.Find(e.Setting)
	switch e.Kind {
	case EntryScalar:
		x, err := d.oneFigure(e, s, fact.Places)
		if err != nil {
			return err
		}
		if out[e.Setting] = e.scale().raw(x, fact.Places); e.Silence && x == 0 {
			out[e.Setting] = fact.Default
		}
		if x == 0 && fact.Check(out[e.Setting]) != nil {
			out[e.Setting] = held // a nought that the line cannot even hold was told by nobody
		}
	case EntryEnumeration:
		w, err := word(s, e.Path)
		if err != nil {
			return err
		}
		raw, err := e.rawWord(w, held, e.Path)
		if err != nil {
			return err
		}
		out[e.Setting] = raw
	case EntryTable:
		raw, err := d.encodeTable(e, s, held)
		if err != nil {
			return err
		}
		out[e.Setting] = raw
	case EntryBits:
		n, err := strconv.Atoi(held)
		if err != nil {
			return quad.Faultf("not-a-number", e.Setting, "%q is not a whole number", quad.Clip(held, 40))
		}
		for i, p := range e.Paths {
			w, err := word(s, p)
			if err != nil {
				return err
			}
			n &^= 1 << i
			if w == "true" {
				n |= 1 << i
			}
		}
		out[e.Setting] = strconv.Itoa(n)
	case EntryList:
		parts, before := make([]string, len(e.Paths)), strings.Split(held, fact.between())
		for i, p := range e.Paths {
			w, err := word(s, p)
			if err != nil {
				return err
			}
			if parts[i] = before[i]; d.untold(s, p) {
				continue
			}
			if parts[i], err = e.rawWord(w, before[i], p); err != nil {
				return err
			}
		}
		out[e.Setting] = strings.Join(parts, fact.between())
	case EntryRecord:
		parts, before, told := make([]string, len(e.Fields)), strings.Split(held, fact.between()), false
		for i, f := range e.Fields {
			if parts[i] = before[i]; f.Path == "" || d.untold(s, f.Path) {
				continue
			}
			x, err := figure(s, f.Path)
			if err != nil {
				return err
			}
			told = told || x != 0
			raw := f.raw(x, fact.Places)
			if _, err := fact.number(raw); err == nil || x != 0 {
				parts[i] = raw // else it is a nought that the line cannot even hold
			}
		}
		if out[e.Setting] = strings.Join(parts, fact.between()); e.Silence && !told {
			out[e.Setting] = fact.Default
		}
	case EntrySeveral:
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

// Silent says whether the sheet tells nothing of what a path maps to, so that the line's default stands for it, and whether a
// board's value there is that default.
func (d *Dictionary) Silent(s *quad.Sheet, p quad.Path, onBoard any) (silent, holds bool) {
	e := d.byPath[p]
	if e == nil || !e.Silence {
		return false, false
	}
	for _, at := range e.paths() {
		if x, err := figure(s, at); err != nil || x != 0 {
			return false, false
		}
	}
	want, known := d.usual()[p]
	return true, known && want == onBoard
}

// usually is what the defaults of the settings mean that may be silent, by path.
func (d *Dictionary) usually() map[quad.Path]any {
	out, defaults := map[quad.Path]any{}, map[string]string{}
	for i := range d.Entries {
		if e := &d.Entries[i]; e.Silence {
			defaults[e.Setting] = d.facts.Find(e.Setting).Default
		}
	}
	sheet, err := d.Decode(defaults)
	if err != nil {
		return out
	}
	for i := range d.Entries {
		e := &d.Entries[i]
		for _, p := range e.paths() {
			if v, err := quad.Get(&sheet, inSheet(p)); e.Silence && err == nil {
				out[p] = v
			}
		}
	}
	return out
}
