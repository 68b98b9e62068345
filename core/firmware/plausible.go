package firmware

import (
	"math"
	"strings"
	"sync"

	"vividperch/core/quad"
)

// usual is the least and the most that the shipped families have at a place when nobody has set it.
type usual struct{ low, high float64 }

// usuals are the figures that the newest version of every shipped family comes with, by place.
var usuals = sync.OnceValue(func() map[quad.Path]usual {
	out := map[quad.Path]usual{}
	for _, name := range LineNames() {
		l, _ := FindLine(name)
		b := l.Newest()
		sheet, err := b.Dictionary.Decode(b.Facts.Defaults())
		if err != nil {
			continue // a test of every family says so
		}
		for _, p := range b.Dictionary.Paths() {
			v, err := quad.Get(&sheet, inSheet(p))
			x, ok := number(v)
			if err != nil || !ok || x == 0 {
				continue
			}
			s, there := out[p]
			if !there {
				s = usual{x, x}
			}
			out[p] = usual{math.Min(s.low, x), math.Max(s.high, x)}
		}
	}
	return out
})

// far is how many times more, or less, than any family has is far from what is plausible.
const far = 4

// Odd says that a figure is far from what every family that the program knows comes with at a place, or outside what the place allows. Of a
// place that none of them has, and of nothing, it says nothing.
func Odd(p quad.Path, x float64) bool {
	if x == 0 {
		return false
	}
	if f, err := quad.FieldAt(p); err == nil && f.Allowed != nil && (x < f.Allowed.Least || x > f.Allowed.Most) {
		return true
	}
	s, known := usuals()[p]
	return known && (x < s.low/far || x > s.high*far)
}

// usualWords tell what the families have at a place, as "0.4 to 1 s"; nothing where none has it.
func usualWords(p quad.Path, unit string) string {
	s, known := usuals()[p]
	switch {
	case !known:
		return ""
	case s.low == s.high:
		return quad.Quantity(s.low, unit)
	}
	return quad.Number(s.low) + " to " + quad.Quantity(s.high, unit)
}

// Told is what one place of the sheet comes to be by a list and a dictionary, in the pilot's units, beside what is plausible there.
type Told struct {
	Setting string    `json:"setting"`
	Path    quad.Path `json:"path"`
	Label   string    `json:"label"`
	Raw     string    `json:"raw"`
	Words   string    `json:"words"`
	Usual   string    `json:"usual"` // what the families that are known come with; empty where none has it
	Odd     bool      `json:"odd"`   // far from that
}

// Tells is what every mapped place comes to be by a list, in the order of the dictionary. What comes back as it went in can still mean
// something else: this is for a pilot to read.
func (l *Line) Tells(list []Listed) []Told {
	b := l.Newest()
	settings, _ := b.taken(list)
	sheet, err := b.Dictionary.Decode(settings)
	if err != nil {
		return nil
	}
	var out []Told
	for i := range b.Dictionary.Entries {
		e := &b.Dictionary.Entries[i]
		raw, there := settings[e.Setting]
		if !there {
			continue
		}
		for _, p := range e.paths() {
			f, err := quad.FieldAt(p)
			v, err2 := quad.Get(&sheet, inSheet(p))
			if err != nil || err2 != nil || v == nil {
				continue
			}
			t := Told{Setting: e.Setting, Path: p, Label: f.Label, Raw: raw, Words: quad.Words(v, f.Unit), Usual: usualWords(p, f.Unit)}
			if x, ok := number(v); ok {
				t.Odd = Odd(p, x)
			}
			out = append(out, t)
		}
	}
	return out
}

// taken are the settings of a list as the family writes them, and what of it it does not know or cannot hold.
func (b *Build) taken(list []Listed) (map[string]string, []Remark) {
	settings, out := map[string]string{}, []Remark(nil)
	for _, x := range list {
		if s := b.Facts.Find(x.Name); s != nil {
			x.Value = strings.TrimSuffix(strings.TrimPrefix(x.Value, s.Prefix), s.Suffix)
			if raw, err := s.Canonical(x.Value); err == nil {
				settings[x.Name] = raw
				continue
			}
		}
		out = append(out, Remark{Line: x.Line, Code: RemarkUnknown, Hinders: true, Name: x.Name, Says: x.Name + " is not in the dictionary, or cannot hold " + quad.Clip(x.Value, 40) + "."})
	}
	return settings, out
}
