package firmware

import (
	"encoding/json"
	"slices"
	"strconv"
	"strings"

	"vividperch/core/quad"
)

// Decode reads raw settings into a sheet: only mapped paths whose settings are there are set. Raw values
// are checked against the facts first.
func (d *Dictionary) Decode(settings map[string]string) (quad.Sheet, error) {
	return d.onto(quad.Sheet{}, settings)
}

// onto reads raw settings onto a copy of a sheet.
func (d *Dictionary) onto(s quad.Sheet, settings map[string]string) (quad.Sheet, error) {
	before := s
	for i := range d.Entries {
		e := &d.Entries[i]
		held := make(map[string]string, 2)
		for _, name := range e.settings() {
			raw, ok := settings[name]
			if !ok {
				break
			}
			c, err := d.facts.Find(name).Canonical(raw)
			if err != nil {
				return quad.Sheet{}, err
			}
			held[name] = c
		}
		if len(held) < len(e.settings()) {
			continue
		}
		if err := e.decode(held, d.facts.Find(e.Setting), &s, &before); err != nil {
			return quad.Sheet{}, err
		}
	}
	return s, nil
}

// sheetWord of a raw one; ok is false for one that the sheet has no word for.
func (e *Entry) sheetWord(raw string) (word string, ok bool) {
	if len(e.Words) == 0 {
		return raw, true
	}
	for w, r := range e.Words {
		if r == raw {
			return w, true
		}
	}
	return "", false
}

// lacks says whether a place is a port that the board of this sheet does not have: a line knows more ports than any one
// board.
func lacks(s *quad.Sheet, p quad.Path) bool {
	rest, ok := strings.CutPrefix(string(p), "sheet.wiring.ports.")
	if !ok || len(s.Wiring.Ports) == 0 {
		return false
	}
	port, _, _ := strings.Cut(rest, ".")
	_, has := s.Wiring.Ports[port]
	return !has
}

func put(s *quad.Sheet, p quad.Path, value any) error {
	raw, err := json.Marshal(value)
	if err != nil {
		return err
	}
	return quad.Set(s, inSheet(p), raw)
}

// putWord sets what a raw word means; one that the sheet has no word for empties its place.
func (e *Entry) putWord(s *quad.Sheet, p quad.Path, raw string) error {
	w, ok := e.sheetWord(raw)
	if !ok {
		switch v, _ := quad.Get(s, inSheet(p)); v.(type) {
		case nil, bool:
			return nil // there is nothing to empty
		}
	}
	if w == "true" || w == "false" {
		return put(s, p, w == "true")
	}
	return put(s, p, w)
}

// unexpressed says whether a raw value of a mapped setting holds something that the sheet has no word or bit for.
func (e *Entry) unexpressed(raw string, fact *Setting) bool {
	switch e.Kind {
	case EntryEnumeration:
		_, ok := e.sheetWord(raw)
		return !ok
	case EntryList:
		return slices.ContainsFunc(strings.Split(raw, fact.between()), func(part string) bool {
			_, ok := e.sheetWord(part)
			return !ok
		})
	case EntryTable:
		return e.Table[raw] == nil
	case EntryBits:
		n, err := strconv.Atoi(raw)
		return err == nil && n>>len(e.Paths) != 0
	}
	return false
}

func putNumber(s *quad.Sheet, p quad.Path, raw string, scale Field) error {
	n, err := strconv.ParseFloat(raw, 64)
	if err != nil {
		return quad.Faultf("not-a-number", string(p), "%q is not a number", quad.Clip(raw, 40))
	}
	return put(s, p, scale.figure(n))
}

func (e *Entry) decode(settings map[string]string, fact *Setting, s, before *quad.Sheet) error {
	raw := settings[e.Setting]
	switch e.Kind {
	case EntryScalar:
		for _, p := range e.paths() {
			if lacks(before, p) {
				continue
			}
			if err := putNumber(s, p, raw, e.scale()); err != nil {
				return err
			}
		}
	case EntryTable:
		return e.decodeTable(s, before, raw)
	case EntryEnumeration:
		if lacks(before, e.Path) {
			return nil
		}
		return e.putWord(s, e.Path, raw)
	case EntryBits:
		n, err := strconv.Atoi(raw)
		if err != nil {
			return quad.Faultf("not-a-number", e.Setting, "%q is not a whole number", raw)
		}
		for i, p := range e.Paths {
			if err := put(s, p, n&(1<<i) != 0); err != nil {
				return err
			}
		}
	case EntryList:
		for i, part := range strings.Split(raw, fact.between()) {
			if lacks(before, e.Paths[i]) {
				continue
			}
			if err := e.putWord(s, e.Paths[i], part); err != nil {
				return err
			}
		}
	case EntryRecord:
		for i, part := range strings.Split(raw, fact.between()) {
			f := e.Fields[i]
			if f.Path == "" {
				continue
			}
			if err := putNumber(s, f.Path, part, f); err != nil {
				return err
			}
		}
	case EntrySeveral:
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
