package quad

import (
	"bytes"
	"encoding/json"
	"math"
	"reflect"
	"strings"
	"sync"
)

// Fits says whether every figure in a value, given as JSON for a path, lies in the range allowed for it. The
// Fault names the range and the reason for it. What does not decode is left for decoding to refuse.
func Fits(p Path, raw json.RawMessage) error {
	f, err := FieldAt(p)
	if err != nil {
		return err
	}
	var value any
	if json.Unmarshal(raw, &value) != nil {
		return nil
	}
	return fits(f, p, value)
}

func fits(f Field, at Path, value any) error {
	switch x := value.(type) {
	case float64:
		if f.Type.Kind() == reflect.Float64 || f.Type.Kind() == reflect.Int {
			return f.Allowed.holds(at, x, f.Unit)
		}
	case map[string]any:
		for _, key := range SortedKeys(x) {
			in, ok := f.inside(key)
			if !ok {
				continue
			}
			if err := fits(in, join(at, Path(key)), x[key]); err != nil {
				return err
			}
		}
	}
	return nil
}

func (a *Allowed) holds(at Path, x float64, unit string) error {
	if a == nil || x >= a.Least && x <= a.Most || a.orNothing && x == 0 {
		return nil
	}
	return Faultf("out-of-range", string(at), "is %s, but must be from %s to %s: %s", Quantity(x, unit), Number(a.Least), Quantity(a.Most, unit), a.Because)
}

// plausible ranges by path, looked up once each.
var plausible sync.Map // Path -> *Allowed

// Plausible says whether a figure can be that of the leaf at a path: inside its range, and not the 0 that
// stands for "not known". What computes with a figure asks this first, because a file may hold anything.
func Plausible(p Path, x float64) bool {
	known, ok := plausible.Load(p)
	if !ok {
		f, err := FieldAt(p)
		if err != nil {
			return false
		}
		known, _ = plausible.LoadOrStore(p, f.Allowed)
	}
	a := known.(*Allowed)
	return a == nil || x >= a.Least && x <= a.Most
}

// Reasoned says whether every threshold that is set has a reason with it, and is a figure.
func (t Thresholds) Reasoned(at Path) error {
	v := reflect.ValueOf(t)
	for i := range v.NumField() {
		own := v.Field(i).Interface().(Own)
		sf := v.Type().Field(i)
		switch {
		case math.IsNaN(own.Value):
			return Faultf("not-finite", string(join(at, Path(jsonName(sf)))), "is not a number")
		case own.Set() && strings.TrimSpace(own.Reason) == "":
			return Faultf("no-reason", string(join(at, Path(jsonName(sf)))), "say why %s is judged by a limit of your own; whoever reads the proof wants to know", strings.ToLower(sf.Tag.Get("label")))
		case Longer(own.Reason, 500):
			return Faultf("reason-too-long", string(join(at, Path(jsonName(sf)))), "the reason has more than 500 characters")
		}
	}
	return nil
}

// Typed reads a value as a pilot types it: a text where a figure belongs is a quantity with a unit ("5 in",
// "1.2 k"), at any depth. What comes back is JSON in the units of the leaves.
func Typed(p Path, raw json.RawMessage) (json.RawMessage, error) {
	f, err := FieldAt(p)
	if err != nil {
		return nil, err
	}
	dec := json.NewDecoder(bytes.NewReader(raw))
	dec.UseNumber() // a figure must come out as it went in
	var value any
	if dec.Decode(&value) != nil || dec.More() {
		return raw, nil // decoding will refuse it at its place
	}
	read, changed, err := typed(f, p, value)
	if err != nil || !changed {
		return raw, err
	}
	return json.Marshal(read)
}

func typed(f Field, at Path, value any) (read any, changed bool, err error) {
	switch x := value.(type) {
	case string:
		if f.Type.Kind() != reflect.Float64 && f.Type.Kind() != reflect.Int {
			return x, false, nil
		}
		y, err := ParseQuantity(x, f.Unit)
		if err != nil {
			fault := AsFault(err)
			return nil, false, Faultf(fault.Code, string(at), "%s", fault.Sentence)
		}
		return y, true, nil
	case map[string]any:
		for _, key := range SortedKeys(x) {
			in, ok := f.inside(key)
			if !ok {
				continue
			}
			y, did, err := typed(in, join(at, Path(key)), x[key])
			if err != nil {
				return nil, false, err
			}
			x[key] = y
			changed = changed || did
		}
		return x, changed, nil
	}
	return value, false, nil
}

// inside describes what a group of names or a map holds under a name.
func (f Field) inside(key string) (Field, bool) {
	switch f.Type.Kind() {
	case reflect.Struct:
		fields := partsOf(f.Type)
		i, ok := fields.by[key]
		if !ok {
			return Field{}, false
		}
		p := &fields.list[i]
		return f.holds(p).as(p.told.Type), true
	case reflect.Map:
		return f.item(key).as(f.Type.Elem()), true
	}
	return Field{}, false
}
