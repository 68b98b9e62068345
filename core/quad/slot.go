package quad

import (
	"encoding/json"
	"reflect"
	"strings"
)

// SlotKind is what is filled in.
type SlotKind string

const (
	SlotNumber SlotKind = "number"
	SlotYesNo  SlotKind = "yesNo"
	SlotWord   SlotKind = "word"
	SlotOneOf  SlotKind = "oneOf"
)

// Slot is one thing to fill in when a value is typed: a figure, a word, a yes or no. Path is relative to the
// value, empty when the value is the slot itself.
type Slot struct {
	Path  Path     `json:"path"`
	Label string   `json:"label"`
	Unit  string   `json:"unit,omitempty"`
	Kind  SlotKind `json:"kind" enum:"number,yesNo,word,oneOf"`
	OneOf []string `json:"oneOf,omitempty"`
	// Said are those of OneOf that are said otherwise than they are kept, in a pilot's words.
	Said map[string]string `json:"said,omitempty"`
	// Optional slots may be left empty: the value then counts as zero.
	Optional bool     `json:"optional,omitempty"`
	Allowed  *Allowed `json:"allowed,omitempty"`
}

// Typed says whether a leaf is typed by itself, in [Slots] of its own: lists and what a map holds are not.
func (l Leaf) Typed() bool {
	kind := reflect.ValueOf(l.Value).Kind()
	return kind != reflect.Slice && kind != reflect.Map
}

// Slots of the value at a path, in order. What a map holds is not known from its type, so it gives none.
func Slots(p Path) ([]Slot, error) {
	f, err := FieldAt(p)
	if err != nil {
		return nil, err
	}
	var out []Slot
	slots(f, Slot{Label: f.Label}, &out)
	return out, nil
}

func slots(f Field, s Slot, out *[]Slot) {
	s.Unit, s.OneOf, s.Allowed = f.Unit, f.OneOf, f.Allowed
	switch t := f.Type; t.Kind() {
	case reflect.Struct:
		for _, p := range partsOf(t).list {
			slots(f.holds(&p).as(p.told.Type), Slot{Path: join(s.Path, Path(p.name)), Label: p.told.Label, Optional: p.optional}, out)
		}
		return
	case reflect.Float64, reflect.Int:
		s.Kind = SlotNumber
	case reflect.Bool:
		s.Kind = SlotYesNo
	case reflect.String:
		if s.Kind = SlotWord; len(s.OneOf) > 0 {
			s.Kind = SlotOneOf
		}
		for _, word := range s.OneOf {
			v := reflect.New(t).Elem()
			v.SetString(word)
			if says, told := v.Interface().(interface{ Words() string }); told && says.Words() != Spelled(word) {
				if s.Said == nil {
					s.Said = map[string]string{}
				}
				s.Said[word] = says.Words()
			}
		}
	default:
		return
	}
	s.Unit = degrees(s.Unit)
	*out = append(*out, s)
}

// Complete says whether a value for the path, as JSON, fills every slot that is not optional. A missing one is
// a Fault at its place: it must not pass for zero.
func Complete(p Path, raw json.RawMessage) error {
	list, err := Slots(p)
	if err != nil {
		return err
	}
	var value any
	if err := json.Unmarshal(raw, &value); err != nil {
		return DecodeFault(err, string(p))
	}
	for _, s := range list {
		at := value
		for _, seg := range s.Path.segments() {
			group, ok := at.(map[string]any)
			if !ok {
				return nil // of another shape altogether, which decoding will say
			}
			at = group[seg]
		}
		if at == nil && !s.Optional {
			return Faultf("missing", string(join(p, s.Path)), "%s is missing", strings.ToLower(s.Label))
		}
	}
	return nil
}
