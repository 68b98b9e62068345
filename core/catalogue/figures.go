package catalogue

import (
	"reflect"
	"strconv"
	"strings"

	"vividperch/core/quad"
)

// Figure is one thing that an entry tells, in words.
type Figure struct {
	Label string `json:"label"`
	Words string `json:"words"`
}

// Figures that an entry tells of itself, in the order of the model; what it does not tell is left out.
func (e Entry) Figures() []Figure {
	out := []Figure{}
	part, ok := e.decoded()
	if !ok {
		return out
	}
	for _, l := range quad.Leaves(part, "") {
		if l.Path != "name" && !reflect.ValueOf(l.Value).IsZero() {
			out = append(out, Figure{l.Label, quad.Words(l.Value, l.Unit)})
		}
	}
	add := func(label string, x float64, unit string) {
		if x != 0 {
			out = append(out, Figure{label, quad.Quantity(x, unit)})
		}
	}
	if e.Kind == Motor {
		add("Mass", e.Mass, "g")
		add("Stator, width", e.Stator.Width, "mm")
		add("Stator, height", e.Stator.Height, "mm")
	}
	if e.Kind == Propeller {
		add("Pitch", e.Shape.Pitch, "mm")
		add("Blades", float64(e.Shape.Blades), "count")
	}
	return out
}

// Cells of the table row that would be read as this entry, by the keys of Fields. What it does not tell has none.
func (e Entry) Cells() map[string]string {
	out := map[string]string{}
	put := func(key, text string) {
		if text != "" {
			out[key] = text
		}
	}
	number := func(x float64) string {
		if x == 0 {
			return ""
		}
		return strconv.FormatFloat(x, 'f', -1, 64)
	}
	put("name", e.Name)
	put("words", e.Words)
	put("mass", number(e.Mass))
	put("stator.width", number(e.Stator.Width))
	put("stator.height", number(e.Stator.Height))
	put("shape.pitch", number(e.Shape.Pitch))
	put("shape.blades", number(float64(e.Shape.Blades)))
	part, ok := e.decoded()
	if !ok {
		return out
	}
	for _, f := range Fields(e.Kind) {
		name, ok := strings.CutPrefix(f.Key, "part.")
		if !ok {
			continue
		}
		switch v := reflect.Indirect(reflect.ValueOf(must(quad.Get(part, quad.Path(name))))); v.Kind() {
		case reflect.Float64:
			put(f.Key, number(v.Float()))
		case reflect.Int:
			put(f.Key, number(float64(v.Int())))
		case reflect.String:
			put(f.Key, v.String())
		case reflect.Bool:
			if v.Bool() {
				put(f.Key, "yes")
			}
		}
	}
	return out
}

// must is for a place that Fields found in the same part.
func must(v any, err error) any {
	if err != nil {
		panic(err)
	}
	return v
}

// decoded is the part as the model has it; ok is false for one that it could not have.
func (e Entry) decoded() (part any, ok bool) {
	at, known := e.Kind.at()
	field, err := quad.FieldAt(at)
	if !known || err != nil {
		return nil, false
	}
	v := reflect.New(field.Type)
	if len(e.Part) > 0 && quad.ReadJSON(e.Part, v.Interface()) != nil {
		return nil, false
	}
	return v.Elem().Interface(), true
}
