package catalogue

import (
	"bytes"
	"encoding/json"
	"math"
	"reflect"
	"slices"
	"strings"
	"unicode"

	"vividperch/core/columns"
	"vividperch/core/quad"
)

// What one pilot's own catalogue has at most.
const (
	MostOwn   = 5000
	mostPart  = 20_000 // bytes of one part
	mostName  = 60     // characters
	mostWords = 200
)

// at is where a part of a kind goes on a quad; of the kinds of which there are several, one of some name.
func (k Kind) at() (quad.Path, bool) {
	switch k {
	case Pack:
		return "parts.packs.one", true
	case Satellite:
		return "parts.devices.one", true
	}
	_, ok := single[k]
	return quad.Path("parts." + string(k)), ok
}

// Check an entry that somebody brings: a part as the model has it, with every figure in its range. The Fault names the place in the entry.
func (e Entry) Check() error {
	at, known := e.Kind.at()
	switch {
	case !known:
		return quad.Faultf("no-kind", "kind", "%q is no kind of part", quad.Clip(string(e.Kind), 40))
	case strings.TrimSpace(e.Name) == "" || e.Name != strings.TrimSpace(e.Name) || quad.Longer(e.Name, mostName) || strings.ContainsFunc(e.Name, unicode.IsControl):
		return quad.Faultf("no-name", "name", "a part's name has 1 to %d characters, and no blanks around it", mostName)
	case (e.Kind == Pack || e.Kind == Satellite) && strings.ContainsAny(e.Name, ".*"):
		return quad.Faultf("no-name", "name", "the name of a pack or a device has no full stop and no star")
	case quad.Longer(e.Words, mostWords) || strings.ContainsFunc(e.Words, unicode.IsControl):
		return quad.Faultf("too-long", "words", "what it is has up to %d characters, on one line", mostWords)
	case len(e.Part)+len(e.Compass) > mostPart:
		return quad.Faultf("too-large", "part", "a part has up to 20 kB")
	case len(e.Compass) > 0 && e.Kind != Satellite:
		return quad.Faultf("bad-part", "compass", "only a satellite receiver brings a compass")
	}
	for name, x := range map[string]float64{"mass": e.Mass, "shape": e.Shape.Diameter, "shape.pitch": e.Shape.Pitch, "stator": e.Stator.Width, "stator.height": e.Stator.Height} {
		if !(x >= 0 && x <= 1000) {
			return quad.Faultf("out-of-range", name, "must be from 0 to 1000")
		}
	}
	if e.Shape.Blades < 0 || e.Shape.Blades > 12 {
		return quad.Faultf("out-of-range", "shape.blades", "a propeller has up to 12 blades")
	}
	for _, part := range []json.RawMessage{e.Part, e.Compass} {
		if len(part) == 0 {
			continue
		}
		if err := quad.Fits(at, part); err != nil {
			f := quad.AsFault(err)
			return quad.Faultf(f.Code, f.Place, "%s", f.Sentence)
		}
	}
	var m quad.Meant
	if err := put(&m.Parts, e); err != nil {
		return err
	}
	return m.Valid()
}

// Fields of a kind's table: its name, what it is, and whatever one cell can hold of it.
func Fields(kind Kind) []columns.Heading {
	at, ok := kind.at()
	if !ok {
		return nil
	}
	out := []columns.Heading{
		{Key: "name", Label: "Name", Text: true, Needed: true, Words: []string{"model", "product", "part", "title"}},
		{Key: "words", Label: "What it is", Text: true, Words: []string{"description", "notes", "remarks"}},
	}
	field, err := quad.FieldAt(at)
	if err != nil {
		return nil
	}
	for _, l := range quad.Leaves(reflect.Zero(field.Type).Interface(), "") {
		if l.Path == "name" || kind == Motor && l.Path == "mass" { // an entry has its mass beside the part
			continue
		}
		f, err := quad.FieldAt(at + "." + l.Path)
		if err != nil {
			continue
		}
		switch f.Type.Kind() {
		case reflect.Float64, reflect.Int:
			out = append(out, columns.Heading{Key: "part." + string(l.Path), Label: l.Label, Unit: l.Unit, Words: otherWords[string(l.Path)]})
		case reflect.String, reflect.Bool:
			out = append(out, columns.Heading{Key: "part." + string(l.Path), Label: l.Label, Text: true, Words: otherWords[string(l.Path)]})
		}
	}
	switch kind {
	case Motor:
		out = append(out, columns.Heading{Key: "mass", Label: "Mass", Unit: "g", Words: []string{"weight"}},
			columns.Heading{Key: "stator.width", Label: "Stator, width", Unit: "mm", Words: []string{"stator diameter"}},
			columns.Heading{Key: "stator.height", Label: "Stator, height", Unit: "mm"})
	case Propeller:
		out = append(out, columns.Heading{Key: "shape.pitch", Label: "Pitch", Unit: "mm"}, columns.Heading{Key: "shape.blades", Label: "Blades", Unit: "count"})
	}
	return out
}

// otherWords that heads of tables have for a place.
var otherWords = map[string][]string{
	"kv": {"kv", "speed constant"}, "resistance": {"resistance", "ri", "internal resistance"}, "idleCurrent": {"idle current", "no load current"},
	"peakCurrent": {"max current", "peak current"}, "poles": {"poles", "magnets"}, "mass": {"weight", "mass"}, "capacity": {"capacity", "mah"},
	"discharge": {"c", "c rating", "discharge"}, "cells": {"cells", "s"}, "diameter": {"size", "diameter"}, "continuous": {"current", "amps", "continuous"},
	"draw": {"draw", "current"}, "idleDraw": {"draw", "idle draw"},
}

// FromRow of a table, an entry of a kind. What a cell did not tell is not known.
func FromRow(kind Kind, row columns.Row) (Entry, error) {
	e := Entry{Kind: kind, Name: row.Texts["name"], Words: row.Texts["words"], Mass: row.Figures["mass"]}
	e.Stator = Stator{row.Figures["stator.width"], row.Figures["stator.height"]}
	e.Shape = Shape{Pitch: row.Figures["shape.pitch"], Blades: int(math.Round(row.Figures["shape.blades"])), Diameter: row.Figures["part.diameter"]}
	if kind != Propeller {
		e.Shape = Shape{}
	}
	at, ok := kind.at()
	if !ok {
		return e, quad.Faultf("no-kind", "kind", "%q is no kind of part", quad.Clip(string(kind), 40))
	}
	part := map[string]any{}
	for key, x := range row.Figures {
		if name, ok := strings.CutPrefix(key, "part."); ok {
			part[name] = x
		}
	}
	for key, text := range row.Texts {
		name, ok := strings.CutPrefix(key, "part.")
		if !ok {
			continue
		}
		f, err := quad.FieldAt(at + quad.Path("."+name))
		if err != nil {
			return e, err
		}
		value, err := cell(f, text)
		if err != nil {
			return e, err
		}
		part[name] = value
	}
	raw, err := json.Marshal(part)
	if err != nil {
		return e, err
	}
	e.Part = raw
	return e, e.Check()
}

// cell of a text: yes or no, or one of the words of its place.
func cell(f quad.Field, text string) (any, error) {
	if f.Type.Kind() == reflect.Bool {
		switch strings.ToLower(text) {
		case "yes", "true", "1", "x", "y":
			return true, nil
		case "no", "false", "0", "-", "n":
			return false, nil
		}
		return nil, quad.Faultf("not-a-word", "", "%q: say yes or no", f.Label)
	}
	for _, word := range f.OneOf {
		if strings.EqualFold(word, text) || strings.EqualFold(quad.Spelled(word), text) {
			return word, nil
		}
	}
	if len(f.OneOf) > 0 {
		return nil, quad.Faultf("not-a-word", "", "%q is one of %s", f.Label, strings.Join(f.OneOf, ", "))
	}
	return text, nil
}

// file of a pilot's own parts.
type file struct {
	Format int     `json:"format"`
	Parts  []Entry `json:"parts"`
}

const fileFormat = 1

// File of entries, to be kept or passed on.
func File(list []Entry) ([]byte, error) {
	var out bytes.Buffer
	enc := json.NewEncoder(&out)
	enc.SetEscapeHTML(false)
	enc.SetIndent("", "  ")
	err := enc.Encode(file{fileFormat, list})
	return out.Bytes(), err
}

// ReadFile of entries as File writes it. All that is wrong with it is told, each at its part; then nothing is to be kept.
func ReadFile(text []byte) ([]Entry, []*quad.Fault) {
	if len(text) > columns.MostBytes {
		return nil, []*quad.Fault{quad.Faultf("too-large", "", "a file of more than 2 MB is not read")}
	}
	var f file
	if err := quad.ReadJSON(text, &f); err != nil {
		return nil, []*quad.Fault{quad.AsFault(err)}
	}
	switch {
	case f.Format != fileFormat:
		return nil, []*quad.Fault{quad.Faultf("other-format", "format", "is %d; this program reads %d", f.Format, fileFormat)}
	case len(f.Parts) == 0:
		return nil, []*quad.Fault{quad.Faultf("no-parts", "parts", "there is none in it")}
	case len(f.Parts) > MostOwn:
		return nil, []*quad.Fault{quad.Faultf("too-many", "parts", "are %d, but %d at most", len(f.Parts), MostOwn)}
	}
	var faults []*quad.Fault
	for i, e := range f.Parts {
		name := quad.Clip(e.Name, 40)
		if name == "" {
			name = "part " + quad.Number(float64(i+1))
		}
		if err := e.Check(); err != nil {
			faults = append(faults, quad.Faultf(quad.AsFault(err).Code, name, "%s", strings.TrimSuffix(quad.Explain(err), ".")))
		} else if slices.ContainsFunc(f.Parts[:i], func(x Entry) bool { return x.Kind == e.Kind && x.Name == e.Name }) {
			faults = append(faults, quad.Faultf("twice", name, "is there twice"))
		}
	}
	if len(faults) > 0 {
		return nil, faults
	}
	return f.Parts, nil
}
