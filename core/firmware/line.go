// Package firmware knows firmware images, firmware lines with their settings, and the dictionaries that
// translate a line's own names and units to the sheet and back.
package firmware

import (
	"embed"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"sync"

	"vividperch/core/quad"
)

//go:embed lines/*.yaml
var lineFiles embed.FS

// Setting is a fact about one setting of a line.
type Setting struct {
	Name    string   `json:"name"`
	Kind    string   `json:"kind"` // whole, word, text, list
	Min     int      `json:"min"`
	Max     int      `json:"max"`
	Words   []string `json:"words"`
	Items   int      `json:"items"` // of a list: how many
	Default string   `json:"default"`
	// Bound marks values measured on this very board: they never come from another quad.
	Bound bool `json:"bound"`
	// Speed marks a setting that lives in the speed controllers and is reached only with the pack in.
	Speed bool `json:"speed"`
}

// Facts of a line in one version: what settings there are, not what they mean.
type Facts struct {
	Line     string    `json:"line"`
	Version  string    `json:"version"`
	Settings []Setting `json:"settings"`

	byName map[string]*Setting
}

// Find a setting by name, or nil.
func (f *Facts) Find(name string) *Setting { return f.byName[name] }

// Defaults of every setting.
func (f *Facts) Defaults() map[string]string {
	out := make(map[string]string, len(f.Settings))
	for _, s := range f.Settings {
		out[s.Name] = s.Default
	}
	return out
}

// Check a raw value against the facts.
func (s *Setting) Check(raw string) error {
	bad := func(format string, args ...any) error {
		return quad.Faultf("out-of-range", s.Name, format, args...)
	}
	number := func(text string) error {
		n, err := strconv.Atoi(text)
		if err != nil {
			return bad("must be a whole number, not %q", text)
		}
		if n < s.Min || n > s.Max {
			return bad("is %d, but must lie in %d to %d", n, s.Min, s.Max)
		}
		return nil
	}
	switch s.Kind {
	case "whole":
		return number(raw)
	case "word":
		if !slices.Contains(s.Words, raw) {
			return bad("is %q, but must be one of %s", raw, strings.Join(s.Words, ", "))
		}
	case "list":
		parts := strings.Split(raw, ":")
		if len(parts) != s.Items {
			return bad("must have %d parts with colons between, not %d", s.Items, len(parts))
		}
		for _, p := range parts {
			if len(s.Words) > 0 {
				if !slices.Contains(s.Words, p) {
					return bad("holds %q, but its parts must be one of %s", p, strings.Join(s.Words, ", "))
				}
			} else if err := number(p); err != nil {
				return err
			}
		}
	case "text":
		if len(raw) > 40 || strings.ContainsAny(raw, "\r\n=#") {
			return bad("must be a short text without line breaks, = or #")
		}
	}
	return nil
}

// Line is a firmware line: its facts and its dictionary.
type Line struct {
	Facts      *Facts
	Dictionary *Dictionary
}

var lines = sync.OnceValues(func() (map[string]*Line, error) {
	out := map[string]*Line{}
	entries, err := lineFiles.ReadDir("lines")
	if err != nil {
		return nil, err
	}
	for _, e := range entries {
		name, isFacts := strings.CutSuffix(e.Name(), ".facts.yaml")
		if !isFacts {
			continue
		}
		facts, err := lineFiles.ReadFile("lines/" + e.Name())
		if err != nil {
			return nil, err
		}
		dictionary, err := lineFiles.ReadFile("lines/" + name + ".dictionary.yaml")
		if err != nil {
			return nil, err
		}
		l, err := ReadLine(facts, dictionary)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", e.Name(), err)
		}
		out[l.Facts.Line] = l
	}
	return out, nil
})

// Mapped lists every path of the sheet that some shipped line maps, once.
func Mapped() []quad.Path {
	var out []quad.Path
	for _, name := range LineNames() {
		l, _ := FindLine(name)
		for _, p := range l.Dictionary.Paths() {
			if !slices.Contains(out, p) {
				out = append(out, p)
			}
		}
	}
	return out
}

// LineNames of the shipped firmware lines, in order.
func LineNames() []string {
	all, err := lines()
	if err != nil {
		panic(err) // as in FindLine
	}
	return quad.SortedKeys(all)
}

// FindLine gives a shipped firmware line by name; ok is false for one the product does not know.
func FindLine(name string) (*Line, bool) {
	all, err := lines()
	if err != nil {
		panic(err) // the shipped files are tested; a broken one is a build fault, not input
	}
	l, ok := all[name]
	return l, ok
}

// ReadLine reads facts and dictionary and checks one against the other and against the sheet.
func ReadLine(facts, dictionary []byte) (*Line, error) {
	f := &Facts{}
	if err := quad.ReadYAML(facts, f); err != nil {
		return nil, err
	}
	f.byName = make(map[string]*Setting, len(f.Settings))
	for i := range f.Settings {
		s := &f.Settings[i]
		if f.byName[s.Name] != nil {
			return nil, quad.Faultf("duplicate", s.Name, "is listed twice")
		}
		if err := s.Check(s.Default); err != nil {
			return nil, err
		}
		f.byName[s.Name] = s
	}
	d := &Dictionary{}
	if err := quad.ReadYAML(dictionary, d); err != nil {
		return nil, err
	}
	if err := d.check(f); err != nil {
		return nil, err
	}
	d.facts = f
	return &Line{Facts: f, Dictionary: d}, nil
}
