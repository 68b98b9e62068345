package firmware

import (
	"fmt"
	"strings"

	"vividperch/core/quad"
)

// Listed is one setting of a settings list with its line number.
type Listed struct {
	Line  int    `json:"line"`
	Name  string `json:"name"`
	Value string `json:"value"`
}

// ReadList reads a settings list: "name = value" to a line, # begins a comment, a trailing save is left
// out. Faults name the line. Lists over 2 MB or with lines over 500 bytes are refused.
func ReadList(text []byte) ([]Listed, error) {
	if len(text) > 2<<20 {
		return nil, quad.Faultf("too-large", "", "is larger than 2 MB")
	}
	var out []Listed
	for n, line := range strings.Split(string(text), "\n") {
		line, _, _ = strings.Cut(line, "#")
		line = strings.TrimSpace(line)
		if line == "" || line == "save" {
			continue
		}
		at := fmt.Sprintf("line %d", n+1)
		if len(line) > 500 {
			return nil, quad.Faultf("line-too-long", at, "is longer than 500 bytes")
		}
		name, value, ok := strings.Cut(line, "=")
		name, value = strings.TrimSpace(name), strings.TrimSpace(value)
		if !ok || name == "" {
			return nil, quad.Faultf("not-a-setting", at, "is not of the form name = value")
		}
		out = append(out, Listed{Line: n + 1, Name: name, Value: value})
	}
	return out, nil
}

// CheckList reads a list against a line's facts, whole: every unknown name, value out of range and
// duplicate is reported, and the settings are only usable when there is none.
func (f *Facts) CheckList(list []Listed) (map[string]string, []*quad.Fault) {
	var faults []*quad.Fault
	out := map[string]string{}
	for _, l := range list {
		at := fmt.Sprintf("line %d", l.Line)
		s := f.Find(l.Name)
		if s == nil {
			faults = append(faults, quad.Faultf("unknown-setting", at, "%s %s has no setting named %q", f.Line, f.Version, clipped(l.Name)))
			continue
		}
		if _, twice := out[l.Name]; twice {
			faults = append(faults, quad.Faultf("duplicate", at, "%s is set a second time", l.Name))
			continue
		}
		if err := s.Check(l.Value); err != nil {
			faults = append(faults, quad.Faultf("out-of-range", at, "%s", err.Error()))
			continue
		}
		out[l.Name] = l.Value
	}
	return out, faults
}

func clipped(s string) string {
	if len(s) > 40 {
		return s[:40] + "…"
	}
	return s
}

// WriteList writes settings as a list, by name; only what differs from base when base is not nil.
func WriteList(settings, base map[string]string) []byte {
	var out strings.Builder
	for _, name := range quad.SortedKeys(settings) {
		if base != nil && base[name] == settings[name] {
			continue
		}
		fmt.Fprintf(&out, "%s = %s\n", name, settings[name])
	}
	return []byte(out.String())
}

// Change to write to a board.
type Change struct {
	Name   string `json:"name"`
	Before string `json:"before"`
	After  string `json:"after"`
}

// Changes lists what must be written so that a board holding have holds want, by name. Settings that want
// does not name are left alone.
func Changes(have, want map[string]string) []Change {
	var out []Change
	for _, name := range quad.SortedKeys(want) {
		if have[name] != want[name] {
			out = append(out, Change{Name: name, Before: have[name], After: want[name]})
		}
	}
	return out
}
