package firmware

import (
	"slices"
	"strconv"
	"strings"

	"vividperch/core/quad"
)

// SettingKind is what a setting holds.
type SettingKind string

const (
	SettingWhole   SettingKind = "whole" // a whole number
	SettingDecimal SettingKind = "decimal"
	SettingWord    SettingKind = "word" // one of a few
	SettingText    SettingKind = "text"
	SettingList    SettingKind = "list"
)

// Setting is a fact about one setting of a line in one version.
type Setting struct {
	Name    string      `json:"name"`
	Kind    SettingKind `json:"kind"`
	Min     float64     `json:"min"`
	Max     float64     `json:"max"`
	Places  int         `json:"places"` // of a decimal: how many the line keeps
	Words   []string    `json:"words"`
	Items   int         `json:"items"` // of a list: how many
	Default string      `json:"default"`
	// Separator stands between the parts of a list where it is another one than the family's, Prefix and Suffix before and after every value.
	Separator string `json:"separator"`
	Prefix    string `json:"prefix"`
	Suffix    string `json:"suffix"`
	// Bound names what is measured on this very board to give the value: it never comes from another quad.
	Bound Measured `json:"bound"`
	// Unset is the raw value of a bound setting that says that it was never measured; empty where none does.
	Unset string `json:"unset"`
	// Speed marks a setting that lives in the speed controllers and is reached only with the pack in.
	Speed bool `json:"speed"`
	// Of is what one of a row of settings is about: the letter of an output.
	Of string `json:"-"`
	// Subject is what the setting is about, for restoring a list in parts.
	Subject string `json:"-"`

	separator string
}

// Measured names what a hardware-bound setting is measured by.
type Measured string

// What is measured on a board.
const (
	MeasuredLevel   Measured = "level"
	MeasuredGyro    Measured = "gyro"
	MeasuredCompass Measured = "compass"
	MeasuredVolts   Measured = "volts"
	MeasuredCurrent Measured = "current"
)

// Words for a sentence.
func (m Measured) Words() string {
	switch m {
	case MeasuredLevel:
		return "level"
	case MeasuredGyro:
		return "the gyro at rest"
	case MeasuredCompass:
		return "the compass"
	case MeasuredVolts:
		return "the voltage scale"
	case MeasuredCurrent:
		return "the current scale"
	}
	return string(m)
}

func (s *Setting) valid() error {
	switch s.Kind {
	case SettingWhole, SettingDecimal, SettingWord, SettingText:
	case SettingList:
		if s.Items < 1 || s.Items > 64 {
			return quad.Faultf("bad-fact", s.Name, "a list has 1 to 64 items, not %d", s.Items)
		}
	default:
		return quad.Faultf("bad-fact", s.Name, "%q is not a kind of setting", quad.Clip(string(s.Kind), 40))
	}
	if s.Min > s.Max {
		return quad.Faultf("bad-fact", s.Name, "has its least value %s above its greatest %s", plain(s.Min, s.Places), plain(s.Max, s.Places))
	}
	if len(s.Prefix) > 20 || len(s.Suffix) > 20 || len(s.Separator) > 5 || strings.ContainsAny(s.Prefix+s.Suffix+s.Separator, "\r\n") {
		return quad.Faultf("bad-fact", s.Name, "has a prefix, suffix or separator that is no short text")
	}
	if s.Bound != "" && s.Bound.Words() == string(s.Bound) && s.Bound != MeasuredLevel {
		return quad.Faultf("bad-fact", s.Name, "is bound to %q, which nobody measures; there are level, gyro, compass, volts and current", quad.Clip(string(s.Bound), 40))
	}
	if s.Places < 0 || s.Places > 8 {
		return quad.Faultf("bad-fact", s.Name, "keeps 0 to 8 decimals, not %d", s.Places)
	}
	if s.Kind == SettingWord && len(s.Words) == 0 {
		return quad.Faultf("bad-fact", s.Name, "is a word and names none")
	}
	return nil
}

// Check a raw value against the facts.
func (s *Setting) Check(raw string) error {
	_, err := s.Canonical(raw)
	return err
}

// Canonical is a raw value as the line itself writes it, so that "0.10" and "0.1" are one and the same. A value
// that is not allowed is a Fault at the setting's name.
func (s *Setting) Canonical(raw string) (string, error) {
	switch s.Kind {
	case SettingWhole, SettingDecimal:
		return s.number(raw)
	case SettingWord:
		return s.word(raw, "is %q, but must be one of %s")
	case SettingList:
		parts := strings.Split(raw, s.between())
		if len(parts) != s.Items {
			return "", quad.Faultf("out-of-range", s.Name, "must have %d parts with %s between, not %d", s.Items, separatorWords(s.between()), len(parts))
		}
		for i, p := range parts {
			var err error
			if len(s.Words) > 0 {
				parts[i], err = s.word(p, "holds %q, but its parts must be one of %s")
			} else {
				parts[i], err = s.number(p)
			}
			if err != nil {
				return "", err
			}
		}
		return strings.Join(parts, s.between()), nil
	}
	if quad.Longer(raw, 40) || strings.ContainsAny(raw, "\r\n=#") {
		return "", quad.Faultf("out-of-range", s.Name, "must be a short text without line breaks, = or #")
	}
	return raw, nil
}

func (s *Setting) between() string {
	if s.separator == "" {
		return ":"
	}
	return s.separator
}

func separatorWords(sep string) string {
	switch sep {
	case ":":
		return "colons"
	case ",":
		return "commas"
	case " ":
		return "blanks"
	}
	return strconv.Quote(sep)
}

func (s *Setting) word(raw, format string) (string, error) {
	if !slices.Contains(s.Words, raw) {
		return "", quad.Faultf("out-of-range", s.Name, format, quad.Clip(raw, 40), strings.Join(s.Words, ", "))
	}
	return raw, nil
}

func (s *Setting) number(raw string) (string, error) {
	x, err := strconv.ParseFloat(raw, 64)
	if _, whole := strconv.Atoi(raw); s.Places == 0 && whole != nil {
		return "", quad.Faultf("out-of-range", s.Name, "must be a whole number, not %q", quad.Clip(raw, 40))
	}
	if err != nil {
		return "", quad.Faultf("out-of-range", s.Name, "must be a number, not %q", quad.Clip(raw, 40))
	}
	if !(x >= s.Min && x <= s.Max) { // not a number is outside too
		return "", quad.Faultf("out-of-range", s.Name, "is %s, but must lie in %s to %s", quad.Clip(raw, 40), plain(s.Min, s.Places), plain(s.Max, s.Places))
	}
	return plain(x, s.Places), nil
}

// plain writes a number with so many decimals and no zeros at their end.
func plain(x float64, places int) string {
	out := strconv.FormatFloat(x, 'f', places, 64)
	if strings.Contains(out, ".") {
		out = strings.TrimRight(strings.TrimRight(out, "0"), ".")
	}
	if out == "-0" {
		return "0"
	}
	return out
}
