package firmware

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"vividperch/core/quad"
)

// Fate of a setting when a quad goes to another version or line.
type Fate string

// Fates.
const (
	Same      Fate = "same"      // never touched, and the default means what it did
	Moved     Fate = "moved"     // never touched; the default is another now
	Carried   Fate = "carried"   // changed by the pilot, and goes along as it is
	Converted Fate = "converted" // changed by the pilot, and goes along under another name, in another unit or range
	Misfit    Fate = "misfit"    // changed by the pilot, and has no value there that means the same
	Gone      Fate = "gone"      // nothing of its name or meaning is left
	New       Fate = "new"
	Measure   Fate = "measure" // measured on a board: stays with it, or is measured anew
)

// Row of a three-way review: one setting of the new version with what it was, or one of the old without a
// successor.
type Row struct {
	Name       string `json:"name"`    // in the new version; empty when it is gone
	Was        string `json:"was"`     // in the old version; empty when it is new
	Subject    string `json:"subject"` // what it is about
	OldDefault string `json:"oldDefault"`
	Old        string `json:"old"`
	NewDefault string `json:"newDefault"`
	Proposal   string `json:"proposal"`
	Fate       Fate   `json:"fate" enum:"same,moved,carried,converted,misfit,gone,new,measure"`
	// Decide marks what the pilot must look at: what he had set and cannot simply keep.
	Decide bool   `json:"decide"`
	Reason string `json:"reason"`
	// Paths of the sheet that the setting maps to; none when it has no subject there.
	Paths []quad.Path `json:"paths"`
}

// Changed says whether the pilot had set it to something of his own.
func (r Row) Changed() bool { return r.Was != "" && r.Old != r.OldDefault }

// Carry works out how the settings of a board go along from one version of the line to a later one: what was never
// touched follows the new defaults, what was changed keeps its meaning, what is measured on a board stays with that
// very board only. Every setting of either version is in some row. old holds raw values of the old version; what it
// lacks counts as its default. Going back, or a version that is not known, is a Fault: go through the sheet then.
func (l *Line) Carry(from, to string, old map[string]string, sameBoard bool) ([]Row, error) {
	a, err := l.At(from)
	if err != nil {
		return nil, err
	}
	b, err := l.At(to)
	if err != nil {
		return nil, err
	}
	if b.index < a.index {
		return nil, quad.Faultf("older-version", "version", "%s is older than %s; what was added since has no place there, so go through your settings", to, from)
	}
	held := a.Facts.Defaults()
	for name, raw := range old {
		s := a.Facts.Find(name)
		if s == nil {
			return nil, quad.Faultf("unknown-setting", name, "is not a setting of %s %s", l.Name, a.Version.Version)
		}
		if held[name], err = s.Canonical(raw); err != nil {
			return nil, err
		}
	}
	var rows []Row
	used := map[string]bool{}
	for i := range b.Facts.Settings {
		s := &b.Facts.Settings[i]
		origins, why := l.origins(s.Name, a.index, b.index)
		for _, o := range origins {
			used[o] = true
		}
		r := Row{Name: s.Name, Subject: s.Subject, NewDefault: s.Default, Proposal: s.Default, Paths: b.Dictionary.PathsOf(s.Name)}
		if len(origins) == 0 {
			r.Fate, r.Reason = New, why
			if r.Reason == "" {
				r.Reason = "New in version " + l.Versions[l.eras[b.index][s.Name].since].Version + "."
			}
			rows = append(rows, r)
			continue
		}
		r.Was = origins[0]
		r.OldDefault, r.Old = together(origins, func(o string) string { return a.Facts.Find(o).Default }), together(origins, func(o string) string { return held[o] })
		l.judge(&r, s, a, b, held, why, sameBoard)
		rows = append(rows, r)
	}
	for i := range a.Facts.Settings {
		s := &a.Facts.Settings[i]
		if used[s.Name] {
			continue
		}
		r := Row{Was: s.Name, Subject: s.Subject, OldDefault: s.Default, Old: held[s.Name], Fate: Gone, Paths: a.Dictionary.PathsOf(s.Name)}
		r.Decide = r.Changed() && s.Bound == ""
		r.Reason = "Nothing takes its place."
		if why := l.eras[a.index][s.Name].Instead; why != "" {
			r.Reason = quad.Sentence(why)
		}
		rows = append(rows, r)
	}
	return b.ordered(rows), nil
}

// together writes the values of several settings that became one.
func together(names []string, value func(string) string) string {
	parts := make([]string, len(names))
	for i, n := range names {
		parts[i] = value(n)
	}
	return strings.Join(parts, " and ")
}

// judge what becomes of a setting that was there before.
func (l *Line) judge(r *Row, s *Setting, a, b *Build, held map[string]string, why string, sameBoard bool) {
	value, rounded, err := l.convert(s.Name, a.index, b.index, held)
	usual, _, usualErr := l.convert(s.Name, a.index, b.index, a.Facts.Defaults())
	switch {
	case s.Bound != "" && !sameBoard:
		r.Fate, r.Proposal = Measure, s.Default
		r.Reason = "Another board: " + s.Bound.Words() + " is measured anew."
		if s.Unset != "" {
			r.Proposal = s.Unset
		}
	case s.Bound != "" && err == nil:
		r.Fate, r.Proposal, r.Reason = Measure, value, "Measured on this very board; it stays with it."
	case s.Bound != "":
		r.Fate, r.Reason = Measure, "Cannot be taken over; "+s.Bound.Words()+" is measured anew."
	case !r.Changed() && (usualErr != nil || usual != s.Default):
		r.Fate = Moved
		r.Reason = "You never touched it. " + quad.Sentence(orWords(why, "the default is another now"))
	case !r.Changed():
		r.Fate, r.Reason = Same, "You never touched it."
	case err != nil:
		r.Fate, r.Decide = Misfit, true
		r.Reason = "You had set it, and " + strings.TrimSuffix(quad.AsFault(err).Sentence, ".") + "."
	case value != r.Old || s.Name != r.Was:
		r.Fate, r.Proposal = Converted, value
		r.Reason = "Yours. " + quad.Sentence(orWords(why, "it means the same under this name and in this unit"))
		if rounded {
			r.Reason += " The old figure was finer; this is the nearest."
		}
	default:
		r.Fate, r.Proposal, r.Reason = Carried, value, "Yours, unchanged."
	}
}

func orWords(words, otherwise string) string {
	if words == "" {
		return otherwise
	}
	return words
}

// ordered puts the vehicle first, then by name, what is gone under its old one.
func (b *Build) ordered(rows []Row) []Row {
	rank := func(r Row) string {
		switch {
		case r.Name != "" && r.Name == b.Line.Vehicle:
			return "0"
		case r.Name == "":
			return "1" + r.Was
		}
		return "1" + r.Name
	}
	slices.SortStableFunc(rows, func(x, y Row) int { return strings.Compare(rank(x), rank(y)) })
	return rows
}

// origins of a setting at version index to, in version index from; none for one that came in between. why is what
// the line says about the newest change on the way.
func (l *Line) origins(name string, from, to int) (names []string, why string) {
	e := l.eras[to][name]
	for _, later := range e.Later {
		if i, err := l.index(later.From, 0, name); err == nil && i > from && i <= to && later.Why != "" {
			why = later.Why
		}
	}
	if e.since <= from {
		return []string{name}, why
	}
	why = orWords(why, e.Why)
	if e.Was == nil {
		return nil, why
	}
	for _, old := range e.Was.names() {
		more, earlier := l.origins(old, from, e.since-1)
		why = orWords(why, earlier)
		names = append(names, more...)
	}
	if len(names) < len(e.Was.names()) {
		return nil, why
	}
	return names, why
}

// convert the values held at version index from into what a setting is at index to. rounded says that the old
// figure was finer than the new can be.
func (l *Line) convert(name string, from, to int, held map[string]string) (raw string, rounded bool, err error) {
	e := l.eras[to][name]
	s := l.builds[to].Facts.Find(name)
	if e.since <= from {
		old, ok := held[name]
		if !ok {
			return "", false, quad.Faultf("not-held", name, "its old value is not known")
		}
		raw, err = s.Canonical(old)
		return raw, false, err
	}
	before := make([]string, 0, 2)
	for _, old := range e.Was.names() {
		value, r, err := l.convert(old, from, e.since-1, held)
		if err != nil {
			return "", false, err
		}
		rounded = rounded || r
		before = append(before, value)
	}
	raw, r, err := e.Was.become(s, l.builds[e.since-1].Facts.Find(e.Was.Name), before)
	if err != nil {
		return "", false, err
	}
	raw, err = s.Canonical(raw)
	return raw, rounded || r, err
}

// become applies one step of a setting's history.
func (w *Was) become(s, old *Setting, before []string) (raw string, rounded bool, err error) {
	scale := func(text string, by Field) (string, error) {
		x, err := strconv.ParseFloat(text, 64)
		if err != nil {
			return "", quad.Faultf("not-a-number", s.Name, "its old value %q is not a number", quad.Clip(text, 40))
		}
		exact := by.exact(x)
		written := by.raw(x, s.Places)
		back, _ := strconv.ParseFloat(written, 64)
		rounded = rounded || math.Abs(back-exact) > 1e-9*math.Max(1, math.Abs(exact))
		return written, nil
	}
	each := func(text string, by Field) (string, error) {
		if len(w.Words) > 0 {
			word, ok := w.Words[text]
			if !ok {
				return "", quad.Faultf("no-counterpart", s.Name, "%q has no counterpart any more", quad.Clip(text, 40))
			}
			return word, nil
		}
		if by == (Field{}) {
			return text, nil
		}
		return scale(text, by)
	}
	switch {
	case w.Part != "":
		raw, err = scale(before[0], Field{Factor: 100})
		whole, _ := strconv.Atoi(raw)
		part, err2 := strconv.Atoi(before[1])
		if err == nil && err2 != nil {
			err = quad.Faultf("not-a-number", s.Name, "its old value %q is not a number", quad.Clip(before[1], 40))
		}
		if err == nil {
			raw, err = scale(strconv.Itoa(whole+part), Field{Factor: Field{Factor: w.Factor}.factor() / 100})
		}
	case w.Take != "":
		n, err := strconv.Atoi(before[0])
		if err != nil {
			return "", false, quad.Faultf("not-a-number", s.Name, "its old value %q is not a number", quad.Clip(before[0], 40))
		}
		if raw = strconv.Itoa(n / 100); w.Take == "hundredths" {
			raw = strconv.Itoa(n % 100)
		}
	case old.Kind == SettingList && s.Kind == SettingList:
		parts := strings.Split(before[0], old.between())
		for i := range parts {
			f := Field{Factor: w.Factor, Offset: w.Offset}
			if i < len(w.Fields) {
				f = w.Fields[i]
			}
			if parts[i], err = each(parts[i], f); err != nil {
				return "", false, err
			}
		}
		raw = strings.Join(parts, s.between())
	default:
		raw, err = each(before[0], Field{Factor: w.Factor, Offset: w.Offset})
	}
	return raw, rounded, err
}

// successors of a setting of version index from, by name at this build.
func (b *Build) successors(name string, from int) []string {
	var out []string
	for i := range b.Facts.Settings {
		if origins, _ := b.Line.origins(b.Facts.Settings[i].Name, from, b.index); slices.Contains(origins, name) {
			out = append(out, b.Facts.Settings[i].Name)
		}
	}
	return out
}
