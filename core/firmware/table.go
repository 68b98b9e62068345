package firmware

import (
	"math"
	"reflect"
	"slices"
	"strings"

	"vividperch/core/quad"
)

// checkTable refuses a row that does not fit the setting or the places.
func (e *Entry) checkTable(s *Setting) error {
	if len(e.Table) == 0 {
		return quad.Faultf("bad-entry", e.Setting, "needs a table of what its values stand for")
	}
	for _, raw := range quad.SortedKeys(e.Table) {
		c, err := s.Canonical(raw)
		if err != nil {
			return err
		}
		if c != raw {
			return quad.Faultf("bad-entry", e.Setting, "writes %q as %q; so must the table", quad.Clip(raw, 40), c)
		}
		row := e.Table[raw]
		if len(row) != len(e.Paths) {
			return quad.Faultf("bad-entry", e.Setting, "has %d values for %q and is mapped to %d places", len(row), quad.Clip(raw, 40), len(e.Paths))
		}
		for i, p := range e.Paths {
			f, err := quad.FieldAt(p)
			if err != nil {
				return err
			}
			if !stands(f, row[i]) {
				return quad.Faultf("bad-entry", string(p), "cannot be what the table says for %q", quad.Clip(raw, 40))
			}
		}
	}
	return nil
}

// stands says whether a value of a table can stand at a place.
func stands(f quad.Field, v any) bool {
	switch x := v.(type) {
	case float64:
		kind := f.Type.Kind()
		return kind == reflect.Float64 || kind == reflect.Int && x == math.Trunc(x)
	case bool:
		return f.Type.Kind() == reflect.Bool
	case string:
		return f.Type.Kind() == reflect.String && (len(f.OneOf) == 0 || x == "" || slices.Contains(f.OneOf, x))
	}
	return false
}

// decodeTable puts what a raw value stands for at its places; one that the table does not have empties them.
func (e *Entry) decodeTable(s, before *quad.Sheet, raw string) error {
	row, known := e.Table[raw]
	for i, p := range e.Paths {
		v, err := quad.Get(s, inSheet(p))
		if err != nil {
			return err
		}
		switch {
		case lacks(before, p) || !known && v == nil:
			continue
		case known:
			v = row[i]
		default:
			v = reflect.Zero(reflect.TypeOf(v)).Interface()
		}
		if err := put(s, p, v); err != nil {
			return err
		}
	}
	return nil
}

// encodeTable finds the row that says what the sheet does, the one that is held first: what nobody touched stays as it is.
func (d *Dictionary) encodeTable(e *Entry, s *quad.Sheet, held string) (string, error) {
	var told []quad.Path
	wanted := map[quad.Path]any{}
	for _, p := range e.Paths {
		v, err := quad.Get(s, inSheet(p))
		if err != nil {
			return "", err
		}
		if v != nil && !d.untold(s, p) {
			told, wanted[p] = append(told, p), plainValue(v)
		}
	}
	says := func(raw string) bool {
		row, ok := e.Table[raw]
		return ok && !slices.ContainsFunc(told, func(p quad.Path) bool { return row[slices.Index(e.Paths, p)] != wanted[p] })
	}
	if len(told) == 0 || says(held) {
		return held, nil
	}
	var fits []string
	for _, raw := range quad.SortedKeys(e.Table) {
		if says(raw) {
			fits = append(fits, raw)
		}
	}
	if len(fits) > 1 {
		for _, p := range e.Paths {
			if !slices.Contains(told, p) { // which of them is meant, it alone would say
				return "", quad.Faultf("not-told", string(p), "must be told too: this firmware has one setting for it and for what is told")
			}
		}
	}
	if len(fits) > 0 {
		return fits[0], nil
	}
	if _, known := e.Table[held]; !known && !slices.ContainsFunc(told, func(p quad.Path) bool { return !reflect.ValueOf(wanted[p]).IsZero() }) {
		return held, nil // neither does the sheet say what is held
	}
	var words []string
	for _, p := range told {
		f, err := quad.FieldAt(p)
		if err != nil {
			return "", err
		}
		words = append(words, quad.Words(wanted[p], f.Unit))
	}
	return "", quad.Faultf("no-counterpart", string(told[0]), "%s has no counterpart in this firmware", quad.Clip(strings.Join(words, " with "), 80))
}

// plainValue of the sheet, as a table has it: a text, a figure, or yes or no.
func plainValue(v any) any {
	if x, ok := number(v); ok {
		return x
	}
	if r := reflect.ValueOf(v); r.Kind() == reflect.String {
		return r.String()
	}
	return v
}
