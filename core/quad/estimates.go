package quad

import (
	"slices"
	"strings"
)

// Estimate of a figure that nobody measured or printed: what it was taken to be, and from where to where such parts lie.
type Estimate struct {
	Path  Path    `json:"path"`
	Value float64 `json:"value"`
	Low   float64 `json:"low"`
	High  float64 `json:"high"`
	// By what it was told, where it is no mere estimate.
	By EstimateBy `json:"by,omitempty"`
}

// EstimateBy is what a figure with a band was found by.
type EstimateBy string

const (
	ByStand EstimateBy = "stand" // measured on a thrust stand
	ByHover EstimateBy = "hover" // by a hover that was measured
)

// Words for what is said of the figure.
func (b EstimateBy) Words() string {
	switch b {
	case ByStand:
		return "by a thrust stand"
	case ByHover:
		return "by a measured hover"
	}
	return "estimate"
}

// Estimates as they are noted among parts.
type Estimates []Estimate

// Words name the figures.
func (l Estimates) Words() string {
	var out []string
	for _, e := range l {
		if f, err := FieldAt(e.Path); err == nil {
			out = append(out, strings.ToLower(f.Label[:1])+f.Label[1:])
		}
	}
	if len(out) == 0 {
		return "nothing"
	}
	return And(out)
}

// Estimated figures of the parts, as far as they still stand as they were estimated: whoever told another has told it.
func (p Parts) Estimated() Estimates {
	var out Estimates
	for _, e := range p.Estimates {
		v, err := Get(Known{Parts: p}, e.Path)
		if x, ok := v.(float64); err == nil && ok && x == e.Value && x != 0 {
			out = append(out, e)
		}
	}
	return out
}

// EstimateWords tell those estimates that some places lean on, with their bands; nil where they lean on none.
func (p Parts) EstimateWords(paths []Path) []string {
	var out []string
	for _, e := range p.Estimated() {
		f, err := FieldAt(e.Path)
		if err == nil && slices.ContainsFunc(paths, e.Path.Touches) {
			out = append(out, strings.ToLower(f.Label[:1])+f.Label[1:]+" "+Quantity(e.Value, f.Unit)+" ("+e.words(f.Unit)+")")
		}
	}
	return out
}

func (e Estimate) words(unit string) string {
	return e.By.Words() + ", " + Number(e.Low) + " to " + Quantity(e.High, unit)
}

// EstimateAt tells of an estimate at a place, as "estimate, 0.07 to 0.14"; nothing where it is none.
func (p Parts) EstimateAt(at Path) string {
	list := p.Estimated()
	i := slices.IndexFunc(list, func(e Estimate) bool { return e.Path == at })
	f, err := FieldAt(at)
	if i < 0 || err != nil {
		return ""
	}
	return list[i].words(f.Unit)
}
