package quad

import (
	"encoding/json"
	"reflect"
	"slices"
)

// Schema is the JSON Schema (2020-12) of a sheet file: what is meant, as [Canonical] writes it, with the
// format number optional. Units are told in x-unit, labels in title, allowed ranges with their reasons.
func Schema() ([]byte, error) {
	root := schemaOf(Field{Type: reflect.TypeFor[Meant]()})
	root["$schema"] = "https://json-schema.org/draft/2020-12/schema"
	root["title"] = "A quad as it is meant to be: sheet, parts, radio plan, limits"
	root["properties"].(map[string]any)["format"] = map[string]any{"type": "integer", "minimum": 1, "maximum": Format, "title": "Format number"}
	return json.MarshalIndent(root, "", "  ")
}

func schemaOf(f Field) map[string]any {
	out := map[string]any{}
	if f.Label != "" {
		out["title"] = f.Label
	}
	if f.Unit != "" && f.Unit != "count" {
		out["x-unit"] = f.Unit
	}
	if f.Private != "" {
		out["x-private"] = f.Private
	}
	switch f.Type.Kind() {
	case reflect.Struct:
		properties := map[string]any{}
		for _, p := range partsOf(f.Type).list {
			properties[p.name] = schemaOf(Field{Unit: f.Unit, Allowed: f.Allowed}.holds(&p).as(p.told.Type))
		}
		delete(out, "x-unit")
		out["type"], out["properties"], out["additionalProperties"] = "object", properties, false
	case reflect.Map:
		item := f.as(f.Type.Elem())
		item.Label = ""
		delete(out, "x-unit")
		out["type"], out["additionalProperties"] = []string{"object", "null"}, schemaOf(item)
		out["propertyNames"] = map[string]any{"pattern": `^[^.]{1,40}$`}
	case reflect.Slice:
		out["type"], out["items"] = []string{"array", "null"}, schemaOf(Field{}.as(f.Type.Elem()))
	case reflect.Bool:
		out["type"] = "boolean"
	case reflect.Int:
		out["type"] = "integer"
		f.Allowed.schema(out)
	case reflect.Float64:
		out["type"] = "number"
		f.Allowed.schema(out)
	case reflect.String:
		out["type"] = "string"
		if len(f.OneOf) > 0 {
			out["enum"] = append(slices.Clone(f.OneOf), "")
		}
	}
	return out
}

func (a *Allowed) schema(out map[string]any) {
	if a == nil {
		return
	}
	least := a.Least
	if a.orNothing {
		least = min(0, least)
	}
	out["minimum"], out["maximum"], out["description"] = least, a.Most, a.Because
}
