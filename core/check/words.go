package check

import (
	"encoding/json"
	"math"

	"vividperch/core/quad"
)

func q(x float64, unit string) string { return quad.Quantity(x, unit) }

func confirm(r *Result, reading *quad.Reading[bool], path quad.Path, want bool, f Finding) {
	switch {
	case reading == nil:
		r.ask(path)
	case reading.Value != want:
		f.Paths = []quad.Path{path}
		r.find(f)
	}
}

// weighed is what it weighs, g; it asks where nobody weighed it.
func (r *Result) weighed(k quad.Known) (grams float64, ok bool) {
	w := k.Readings.Airframe.Weight
	if w == nil {
		r.ask("readings.airframe.weight")
		return 0, false
	}
	return w.Value, true
}

func by(words string) []Remedy { return []Remedy{{Words: words}} }

func orNothing(s string) string {
	return orElse(s, "nothing noted")
}

func orElse(s, other string) string {
	if s == "" {
		return other
	}
	return s
}

func boolean(b bool) string {
	if b {
		return "true"
	}
	return "false"
}

func round1(x float64) float64 { return math.Round(x*10) / 10 }

func round2(x float64) float64 { return math.Round(x*100) / 100 }

func lower(s string) string {
	if len(s) > 1 && s[1] >= 'A' && s[1] <= 'Z' {
		return s
	}
	return string(s[0]|0x20) + s[1:]
}

// quote a text as JSON, for an edit.
func quote(s string) string {
	raw, err := json.Marshal(s)
	if err != nil {
		panic(err) // a text can always be written
	}
	return string(raw)
}
