package api

import (
	"reflect"
	"slices"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/core/check"
	"vividperch/core/flight"
	"vividperch/core/link"
	"vividperch/core/motors"
	"vividperch/core/proof"
	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// unions lists the words of each enumerated type, so that the page's types are literal unions. The empty
// word stands for "not known".
var unions = map[reflect.Type][]string{
	reflect.TypeFor[quad.Spin]():             quad.Spin("").Enum(),
	reflect.TypeFor[quad.Corner]():           quad.Corner("").Enum(),
	reflect.TypeFor[quad.Axis]():             quad.Axis("").Enum(),
	reflect.TypeFor[quad.Layout]():           quad.Layout("").Enum(),
	reflect.TypeFor[quad.Rotation]():         quad.Rotation("").Enum(),
	reflect.TypeFor[quad.Policy]():           quad.Policy("").Enum(),
	reflect.TypeFor[quad.LossOutput]():       quad.LossOutput("").Enum(),
	reflect.TypeFor[quad.ThrottleProtocol](): quad.ThrottleProtocol("").Enum(),
	reflect.TypeFor[quad.RateFamily]():       quad.RateFamily("").Enum(),
	reflect.TypeFor[quad.PortFunction]():     quad.PortFunction("").Enum(),
	reflect.TypeFor[quad.Origin]():           words(quad.OriginDevice, quad.OriginCable, quad.OriginTyped, quad.OriginRadio, quad.OriginModel),
	reflect.TypeFor[quad.Source]():           words(quad.Measured, quad.Declared, quad.Assumed),
	reflect.TypeFor[motors.Turn]():           words(motors.Turns[:]...),
	reflect.TypeFor[check.Weight]():          words(check.Stop, check.Fix, check.Note),
	reflect.TypeFor[check.Event]():           words(slices.Concat(check.Events, []check.Event{check.NewBoard})...),
	reflect.TypeFor[proof.Scope]():           words(proof.Hover, proof.Free, proof.Return),
	reflect.TypeFor[sticks.Hold]():           words(sticks.Sure, sticks.Near, sticks.Edge),
	reflect.TypeFor[quad.ModulesOn]():        quad.ModulesOn("").Enum(),
	reflect.TypeFor[link.State]():            words(link.States...),
	reflect.TypeFor[link.Call]():             words(link.Calling, link.CallBound, link.CallLost),
	reflect.TypeFor[link.WayKind]():          words(link.Phrase, link.Button, link.Cycles),
	reflect.TypeFor[link.Sight]():            words(link.Sights...),
	reflect.TypeFor[link.Update]():           words(link.ByPage, link.ByRadio, link.ByWire),
	reflect.TypeFor[check.Station]():         stations(),
	reflect.TypeFor[flight.Fault]():          words(flight.Faults()...),
	reflect.TypeFor[flight.Scenario]():       scenarios(),
}

func words[W ~string](list ...W) []string {
	out := make([]string, len(list))
	for i, w := range list {
		out[i] = string(w)
	}
	return out
}

func scenarios() []string {
	var out []string
	for _, s := range flight.Scripts {
		out = append(out, string(s.Scenario))
	}
	return out
}

func stations() []string {
	var out []string
	for _, s := range check.Line {
		out = append(out, string(s.ID))
	}
	return out
}

// quadPaths are the places of a quad, as the page's type of a path: what the page misspells there does not compile. A star stands for a name.
func quadPaths() *huma.Schema {
	s := &huma.Schema{Type: huma.TypeString, Description: "Every place of a quad; a star stands for a name."}
	for _, p := range quad.Shape() {
		s.Enum = append(s.Enum, string(p.Path))
	}
	return s
}

// unite writes the words of enumerated types into every schema that uses them.
func unite(r huma.Registry) {
	for name, schema := range r.Map() {
		if t := r.TypeFromRef("#/components/schemas/" + name); t != nil {
			uniteFields(t, schema)
		}
	}
}

func uniteFields(t reflect.Type, schema *huma.Schema) {
	for t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	if t.Kind() != reflect.Struct {
		return
	}
	for i := range t.NumField() {
		f := t.Field(i)
		if f.Anonymous {
			uniteFields(f.Type, schema)
			continue
		}
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		if p := schema.Properties[name]; p != nil {
			uniteType(f.Type, p)
		}
	}
}

func uniteType(t reflect.Type, p *huma.Schema) {
	switch t.Kind() {
	case reflect.Pointer:
		uniteType(t.Elem(), p)
	case reflect.Slice, reflect.Array:
		if p.Items != nil {
			uniteType(t.Elem(), p.Items)
		}
	case reflect.Map:
		if s, ok := p.AdditionalProperties.(*huma.Schema); ok {
			uniteType(t.Elem(), s)
		}
	case reflect.String:
		if list, ok := unions[t]; ok && len(p.Enum) == 0 {
			p.Enum = append(p.Enum, "")
			for _, w := range list {
				p.Enum = append(p.Enum, w)
			}
			p.PrecomputeMessages()
		}
	}
}
