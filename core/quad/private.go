package quad

import (
	"encoding/json"
	"reflect"
	"slices"
	"sync"
)

// privatePaths are where something private can be kept.
var privatePaths = sync.OnceValue(func() []Path {
	var out []Path
	for _, s := range Shape() {
		if s.Private != "" {
			out = append(out, s.Path)
		}
	}
	return out
})

// Private says whether a path is, lies under, or holds something that must stay out of exports.
func Private(p Path) bool {
	return slices.ContainsFunc(privatePaths(), func(q Path) bool { return q.Touches(p) })
}

// WithoutPrivate takes phrases out of a revision's bytes. Bytes that hold none come back as they are, so that
// their hash stays what it was.
func WithoutPrivate(canonical []byte) ([]byte, error) {
	m, err := ReadMeant(canonical)
	if err != nil {
		return nil, err
	}
	found := false
	for _, l := range Leaves(m, "") {
		if l.Private == "" || reflect.ValueOf(l.Value).IsZero() {
			continue
		}
		found = true
		if err := Set(&m, l.Path, asJSON(reflect.Zero(reflect.TypeOf(l.Value)))); err != nil {
			return nil, err
		}
	}
	if !found {
		return canonical, nil
	}
	return Canonical(m)
}

// WithoutPrivate takes phrases out of an edit.
func (e Edit) WithoutPrivate() Edit {
	if !Private(e.Path) {
		return e
	}
	blank := func(raw json.RawMessage) json.RawMessage {
		var m Meant
		if Set(&m, e.Path, raw) != nil {
			return json.RawMessage("null") // it would be refused anyway; better nothing than a phrase
		}
		for _, p := range privatePaths() {
			if v, err := Get(m, p); err == nil && v != nil {
				_ = Set(&m, p, asJSON(reflect.Zero(reflect.TypeOf(v))))
			}
		}
		return rawAt(m, e.Path)
	}
	e.Before, e.After = blank(e.Before), blank(e.After)
	return e
}
