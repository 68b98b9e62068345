package quad

import (
	"encoding/json"
	"math"
	"reflect"
	"slices"
	"strings"
)

// Bounds of what a reading may hold besides the ranges of its figures.
const (
	mostItems = 64  // of a map
	mostText  = 200 // characters of a word that is none of an enumeration
	mostKey   = 40  // characters of an item's name
)

// Admit says whether a value, as JSON, may stand for the reading at a path: of its kind, with everything in it that is not
// optional, every word one of its enumeration, every figure finite and in its range. It is the one gate for readings, whoever
// brings them. The Fault names the place.
func Admit(p Path, raw json.RawMessage) error {
	f, err := FieldAt(p)
	if err != nil {
		return err
	}
	if !f.Read {
		return Faultf("not-a-reading", string(p), "is not a reading")
	}
	for at, keys := Path(""), p.segments(); len(keys) > 0; keys = keys[1:] {
		if err := itemName(keys[0], p); err != nil {
			return err
		}
		if group, err := FieldAt(at); err == nil && len(group.Keys) > 0 && !slices.Contains(group.Keys, keys[0]) {
			return Faultf("unknown-path", Clip(string(p), 60), "there is no %s of the name %q", strings.ToLower(group.Label), Clip(keys[0], 40))
		}
		at = join(at, Path(keys[0]))
	}
	if err := Complete(p, raw); err != nil {
		return err
	}
	value := reflect.New(f.Type)
	if err := ReadJSON(raw, value.Interface()); err != nil {
		fault := AsFault(err)
		return Faultf(fault.Code, string(join(p, Path(fault.Place))), "%s", fault.Sentence)
	}
	if nothing(raw) {
		return Faultf("bad-value", string(p), "cannot be nothing")
	}
	return admits(f, p, value.Elem(), false)
}

func itemName(key string, at Path) error {
	if key == "" || strings.ContainsAny(key, ".") || Longer(key, mostKey) {
		return Faultf("bad-name", Clip(string(at), 60), "an item's name has 1 to %d characters and no dot", mostKey)
	}
	return nil
}

func admits(f Field, at Path, v reflect.Value, optional bool) error {
	switch v.Kind() {
	case reflect.Struct:
		for i, p := range partsOf(v.Type()).list {
			if err := admits(f.holds(&p).as(p.told.Type), join(at, Path(p.name)), v.Field(i), p.optional); err != nil {
				return err
			}
		}
	case reflect.Map:
		if v.Len() > mostItems {
			return Faultf("too-many", string(at), "holds %d items, but %d at most", v.Len(), mostItems)
		}
		for it := v.MapRange(); it.Next(); {
			key := it.Key().String()
			if err := itemName(key, at); err != nil {
				return err
			}
			if err := admits(f.item(key).as(v.Type().Elem()), join(at, Path(key)), it.Value(), false); err != nil {
				return err
			}
		}
	case reflect.Float64:
		return admitFigure(f, at, v.Float(), optional)
	case reflect.Int:
		return admitFigure(f, at, float64(v.Int()), optional)
	case reflect.String:
		s := v.String()
		switch {
		case len(f.OneOf) == 0 && Longer(s, mostText):
			return Faultf("too-long", string(at), "has more than %d characters", mostText)
		case len(f.OneOf) == 0 || s == "" && optional || slices.Contains(f.OneOf, s):
			return nil
		}
		return Faultf("not-one-of", string(at), "is %q, but must be one of %s", Clip(s, 40), strings.Join(f.OneOf, ", "))
	}
	return nil
}

// admitFigure lets an optional figure be 0 too: it is then not told.
func admitFigure(f Field, at Path, x float64, optional bool) error {
	if math.IsNaN(x) || math.IsInf(x, 0) {
		return Faultf("not-finite", string(at), "is not a number")
	}
	if optional && x == 0 {
		return nil
	}
	return f.Allowed.holds(at, x, f.Unit)
}
