package quad

import (
	"regexp"
	"strconv"
	"strings"
)

// MassUnit and LengthUnit are what a pilot wants figures shown in. What is kept, judged and hashed stays in the units of the model.
type (
	MassUnit   string
	LengthUnit string
)

const (
	Grams  MassUnit = "g"
	Ounces MassUnit = "oz"

	Millimetres LengthUnit = "mm"
	Inches      LengthUnit = "in"
)

// Shows is how a pilot wants figures shown; nothing is as they are kept.
type Shows struct {
	Mass   MassUnit   `json:"mass,omitempty" oneOf:"g,oz" label:"Mass is shown in"`
	Length LengthUnit `json:"length,omitempty" oneOf:"mm,in" label:"Length is shown in"`
}

// Unit in which a figure of some unit is shown.
func (s Shows) Unit(kept string) string {
	switch {
	case kept == "g" && s.Mass == Ounces:
		return string(Ounces)
	case kept == "mm" && s.Length == Inches:
		return string(Inches)
	}
	return kept
}

// Scale of figures of some unit: the unit in which they are shown, and how many of the kept one make one of it.
func (s Shows) Scale(kept string) Scale {
	to := s.Unit(kept)
	return Scale{to, scales[kept][to]}
}

// Scale of figures that a page draws itself.
type Scale struct {
	Unit string  `json:"unit"`
	Per  float64 `json:"per"`
}

// In is a slot whose figure is typed in the unit that is wanted.
func (s Slot) In(shows Shows) Slot {
	to := shows.Unit(s.Unit)
	if to == s.Unit {
		return s
	}
	if s.Allowed != nil {
		allowed := *s.Allowed
		allowed.Least, allowed.Most = Significant(allowed.Least/scales[s.Unit][to]), Significant(allowed.Most/scales[s.Unit][to])
		s.Allowed = &allowed
	}
	s.Unit = to
	return s
}

// figures in words: one, or two that share a unit ("5 to 8 mm"). What follows the unit tells a compound one, as g·mm, apart.
var figures = regexp.MustCompile(`(?:(-?\d+(?:\.\d+)?)( to | of | and |, ))?(-?\d+(?:\.\d+)?) (g|mm)($|[^\p{L}\d·/²³])`)

// Reword words of the program so that their masses and lengths stand in the units that are wanted.
func (s Shows) Reword(words string) string {
	if s.Unit("g") == "g" && s.Unit("mm") == "mm" || !strings.ContainsAny(words, "gm") {
		return words
	}
	return figures.ReplaceAllStringFunc(words, func(found string) string {
		m := figures.FindStringSubmatch(found)
		to := s.Unit(m[4])
		if to == m[4] {
			return found
		}
		first := ""
		if m[1] != "" {
			first = converted(m[1], m[4], to) + m[2]
		}
		return first + converted(m[3], m[4], to) + " " + to + m[5]
	})
}

// converted figure to three digits: as fine as it was, and no finer than a scale or a rule shows.
func converted(figure, from, to string) string {
	x, err := strconv.ParseFloat(figure, 64)
	if err != nil {
		return figure
	}
	return Number(Significant(x / scales[from][to]))
}
