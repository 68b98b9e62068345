package quad

import (
	"encoding/json"
	"errors"
	"reflect"
	"strings"
)

// DecodeFault turns a JSON error into a Fault that names the place below at.
func DecodeFault(err error, at string) error {
	if f := AsFault(err); f != nil {
		return f
	}
	var wrong *json.UnmarshalTypeError
	if errors.As(err, &wrong) {
		place := at
		if wrong.Field != "" {
			place = strings.TrimPrefix(at+"."+wrong.Field, ".")
		}
		return Faultf("wrong-type", place, "wants %s, but holds %s", kindWords(wrong.Type), article(wrong.Value))
	}
	var syntax *json.SyntaxError
	if errors.As(err, &syntax) {
		return Faultf("not-json", at, "cannot be read: %s at byte %d", syntax.Error(), syntax.Offset)
	}
	if name, ok := strings.CutPrefix(err.Error(), "json: unknown field "); ok {
		return Faultf("unknown-name", at, "does not know the name %s", name)
	}
	return Faultf("bad-value", at, "cannot be read: %s", strings.TrimPrefix(err.Error(), "json: "))
}

func kindWords(t reflect.Type) string {
	switch t.Kind() {
	case reflect.Float64:
		return "a number"
	case reflect.Int:
		return "a whole number"
	case reflect.Bool:
		return "true or false"
	case reflect.String:
		return "a word"
	case reflect.Slice:
		return "a list"
	}
	return "a group of names"
}

func article(value string) string {
	kind, rest, _ := strings.Cut(value, " ")
	switch kind {
	case "string":
		return "a word"
	case "number":
		if rest != "" {
			return rest
		}
		return "a number"
	case "bool":
		return "true or false"
	case "array":
		return "a list"
	}
	return "a group of names"
}
