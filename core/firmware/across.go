package firmware

import (
	"fmt"
	"slices"

	"vividperch/core/quad"
)

// Across works out how what a quad means goes to another line, or to an older version: through the sheet. meant is the
// sheet as it stands; old is what the board held under from. What the old line could say is taken from there,
// what it could not from the sheet.
func Across(from, to *Build, meant quad.Sheet, old map[string]string) ([]Row, error) {
	held := from.Facts.Defaults()
	for name, raw := range old {
		s := from.Facts.Find(name)
		if s == nil {
			continue // a setting of no version that is known cannot mean anything elsewhere; its row says so below
		}
		c, err := s.Canonical(raw)
		if err != nil {
			return nil, err
		}
		held[name] = c
	}
	sheet, err := from.Dictionary.onto(meant, held)
	if err != nil {
		return nil, err
	}
	sheet.Firmware.Other = nil
	written, faults := to.Dictionary.EncodeAll(sheet, nil)
	var rows []Row
	told := map[string]bool{}
	for i := range to.Facts.Settings {
		s := &to.Facts.Settings[i]
		rows = append(rows, acrossRow(from, to, s, held, written, faults, told))
	}
	for i := range from.Facts.Settings {
		s := &from.Facts.Settings[i]
		if told[s.Name] {
			continue
		}
		r := Row{Was: s.Name, Subject: s.Subject, OldDefault: s.Default, Old: held[s.Name], Fate: Gone, Paths: from.Dictionary.PathsOf(s.Name)}
		r.Decide = r.Changed() && s.Bound == ""
		r.Reason = fmt.Sprintf("%s has no counterpart that is known.", to.Line.Name)
		if s.Bound != "" {
			r.Reason = quad.Sentence(s.Bound.Words() + " is measured anew")
		}
		rows = append(rows, r)
	}
	for _, name := range quad.SortedKeys(old) {
		if from.Facts.Find(name) == nil {
			rows = append(rows, Row{Was: name, Subject: "other", Old: old[name], Fate: Gone, Decide: true, Reason: "What it means is not known."})
		}
	}
	return to.ordered(rows), nil
}

func acrossRow(from, to *Build, s *Setting, held, written map[string]string, faults []*quad.Fault, told map[string]bool) Row {
	r := Row{Name: s.Name, Subject: s.Subject, NewDefault: s.Default, Proposal: s.Default, Paths: to.Dictionary.PathsOf(s.Name)}
	if s.Bound != "" {
		r.Fate, r.Reason = Measure, "Another line counts it differently: "+s.Bound.Words()+" is measured anew."
		if s.Unset != "" {
			r.Proposal = s.Unset
		}
		return r
	}
	if len(r.Paths) == 0 {
		r.Fate, r.Reason = New, "Only this firmware has it."
		return r
	}
	var origins []string
	missing, unheard := false, ""
	for _, p := range r.Paths {
		e := from.Dictionary.byPath[p]
		if e == nil {
			missing = true
			continue
		}
		for _, name := range e.settings() {
			told[name] = true
			if !slices.Contains(origins, name) {
				origins = append(origins, name)
			}
		}
		if raw := held[e.Setting]; e.unexpressed(raw, from.Facts.Find(e.Setting)) && e.Kind != EntryBits {
			unheard = raw
		}
	}
	if len(origins) > 0 {
		r.Was = origins[0]
		r.OldDefault, r.Old = together(origins, func(o string) string { return from.Facts.Find(o).Default }), together(origins, func(o string) string { return held[o] })
	}
	raw, ok := written[s.Name]
	switch {
	case !ok:
		r.Fate, r.Decide = Misfit, true
		r.Reason = "It must be set anew: what you have there does not fit this firmware."
		for _, f := range faults {
			if f.Place == s.Name || slices.Contains(r.Paths, quad.Path(f.Place)) {
				r.Reason = "It must be set anew: " + f.Sentence + "."
			}
		}
	case unheard != "":
		r.Fate, r.Decide = Misfit, true
		r.Reason = fmt.Sprintf("It must be set anew: nothing in this firmware is known to mean %q.", unheard)
	case missing:
		r.Fate, r.Proposal, r.Decide = New, raw, true
		r.Reason = "The old firmware did not say; this is what your settings say."
	default:
		r.Fate, r.Proposal, r.Reason = Converted, raw, "Through your settings, in this firmware's name and unit."
	}
	return r
}
