package catalogue

import (
	"reflect"

	"vividperch/core/quad"
)

// From is where a figure of a quad's part came from.
type From string

const (
	FromCatalogue From = "catalogue" // as the entry has it that the part is a copy of: its data sheet
	FromStand     From = "stand"     // fitted to what a thrust stand measured
	FromHover     From = "hover"     // by a hover that was measured
	FromEstimate  From = "estimate"  // by shape and size
	FromPilot     From = "typed"
)

// Words for what is said of a figure.
func (f From) Words() string {
	switch f {
	case FromCatalogue:
		return "from the catalogue"
	case FromStand:
		return quad.ByStand.Words()
	case FromHover:
		return quad.ByHover.Words()
	case FromEstimate:
		return "estimate"
	}
	return "typed"
}

// Sourced is one figure of a part, with where it came from and, where it has a band, between what it lies.
type Sourced struct {
	Label string `json:"label"`
	Words string `json:"words"`
	From  From   `json:"from" enum:"catalogue,stand,hover,estimate,typed"`
	Says  string `json:"says"` // where it came from, in words, its band with it
}

// Sources of the figures of one part of a quad: of its kind, or of several of its kind the one of that name. entry is what the catalogue has under the part's name; nil
// is nothing. What is not told is left out.
func Sources(p quad.Parts, kind Kind, name string, entry *Entry) []Sourced {
	at, ok := kind.at()
	switch {
	case !ok:
		return nil
	case kind == Pack:
		at = quad.Path("parts.packs." + name)
	case kind == Satellite:
		at = quad.Path("parts.devices." + name)
	}
	part, err := quad.Get(quad.Known{Parts: p}, at)
	if err != nil || part == nil {
		return nil
	}
	has := map[quad.Path]any{}
	if entry != nil {
		if one, ok := entry.decoded(); ok {
			for _, l := range quad.Leaves(one, "") {
				has[l.Path] = l.Value
			}
			if kind == Motor && entry.Mass > 0 {
				has["mass"] = entry.Mass
			}
		}
	}
	out := []Sourced{}
	for _, l := range quad.Leaves(part, "") {
		if l.Path == "name" || reflect.ValueOf(l.Value).IsZero() {
			continue
		}
		s := Sourced{Label: l.Label, Words: quad.Words(l.Value, l.Unit), From: FromPilot}
		if e, told := estimateAt(p, at+"."+l.Path); told {
			s.From = map[quad.EstimateBy]From{quad.ByStand: FromStand, quad.ByHover: FromHover, "": FromEstimate}[e.By]
			s.Says = p.EstimateAt(e.Path)
		} else if is, there := has[l.Path]; there && reflect.DeepEqual(is, l.Value) {
			s.From = FromCatalogue
		}
		if s.Says == "" {
			s.Says = s.From.Words()
		}
		out = append(out, s)
	}
	return out
}

func estimateAt(p quad.Parts, at quad.Path) (quad.Estimate, bool) {
	for _, e := range p.Estimated() {
		if e.Path == at {
			return e, true
		}
	}
	return quad.Estimate{}, false
}
