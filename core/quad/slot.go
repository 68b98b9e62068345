package quad

import (
	"reflect"
	"strings"
)

// Slot is one thing to fill in when a value is typed: a figure, a word, a yes or no. Path is relative to the
// value, empty when the value is the slot itself.
type Slot struct {
	Path  Path     `json:"path"`
	Label string   `json:"label"`
	Unit  string   `json:"unit,omitempty"`
	Kind  string   `json:"kind" enum:"number,yesNo,word,oneOf"`
	OneOf []string `json:"oneOf,omitempty"`
}

// Slots of the value at a path, in order. What a map holds is not known from its type, so it gives none.
func Slots(p Path) ([]Slot, error) {
	f, err := FieldAt(p)
	if err != nil {
		return nil, err
	}
	var out []Slot
	slots(f.Type, "", f.Label, f.Unit, f.OneOf, &out)
	return out, nil
}

func slots(t reflect.Type, at Path, label, unit string, oneOf []string, out *[]Slot) {
	s := Slot{Path: at, Label: label, Unit: unit, OneOf: oneOf}
	switch t.Kind() {
	case reflect.Struct:
		for i := range t.NumField() {
			f := t.Field(i)
			p := Path(strings.TrimPrefix(string(at)+"."+jsonName(f), "."))
			slots(f.Type, p, f.Tag.Get("label"), f.Tag.Get("unit"), strings.Fields(f.Tag.Get("oneof")), out)
		}
		return
	case reflect.Float64, reflect.Int:
		s.Kind = "number"
	case reflect.Bool:
		s.Kind = "yesNo"
	case reflect.String:
		if s.Kind = "word"; len(oneOf) == 0 && t == reflect.TypeFor[Spin]() {
			s.OneOf = []string{string(Clockwise), string(CounterClockwise)}
		}
		if len(s.OneOf) > 0 {
			s.Kind = "oneOf"
		}
	default:
		return
	}
	*out = append(*out, s)
}
