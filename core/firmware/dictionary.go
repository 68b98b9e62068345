package firmware

import (
	"reflect"
	"slices"
	"strconv"
	"strings"
	"sync"

	"vividperch/core/quad"
)

// Dictionary maps a line's settings to the sheet and back.
type Dictionary struct {
	Line    string  `json:"line"`
	Entries []Entry `json:"entries"`

	facts     *Facts
	usual     func() map[quad.Path]any // what a silent sheet stands for, see usually
	byPath    map[quad.Path]*Entry
	asked     map[quad.Path]bool // at which nobody means 0, or no word
	bySetting map[string]*Entry
}

// EntryKind is how a setting holds what the sheet says.
type EntryKind string

const (
	EntryScalar      EntryKind = "scalar"
	EntryEnumeration EntryKind = "enumeration"
	EntryBits        EntryKind = "bits"
	EntryList        EntryKind = "list"
	EntryRecord      EntryKind = "record"
	EntrySeveral     EntryKind = "several"
	EntryTable       EntryKind = "table"
)

// Entry is one mapping. It holds in every version of the line that has its settings, or between Since and Until
// where a setting kept its name and changed its unit. The kinds are closed:
//
//   - scalar: one number, one figure of the sheet: raw = (value - offset) * factor.
//   - enumeration: one word or text, one word of the sheet; Words maps sheet to raw, none passes it through.
//     A yes or no of the sheet is spelled "true" and "false" in Words.
//   - bits: one whole number, one yes or no of the sheet per bit.
//   - list: several parts, one sheet path for each, all with the same Words.
//   - record: several parts, each a scalar of its own.
//   - several: one figure of the sheet out of two settings, whole and hundredths.
type Entry struct {
	Since    string            `json:"since"`
	Until    string            `json:"until"`
	Kind     EntryKind         `json:"kind"`
	Setting  string            `json:"setting"`
	Fraction string            `json:"fraction"` // several: the setting with the hundredths
	Path     quad.Path         `json:"path"`
	Factor   float64           `json:"factor"`
	Offset   float64           `json:"offset"`
	Per      float64           `json:"per"` // see Field
	Words    map[string]string `json:"words"`
	Paths    []quad.Path       `json:"paths"`  // list, bits (from the lowest), table, a scalar of more than one place
	Table    map[string][]any  `json:"table"`  // table: what a raw value stands for, by Paths
	Fields   []Field           `json:"fields"` // record
	// Silence says that nothing but zeros on the sheet stand for the line's default: figures that a sheet need not tell. Of
	// scalars and records.
	Silence bool `json:"silence"`
}

func (e *Entry) settings() []string {
	if e.Fraction != "" {
		return []string{e.Setting, e.Fraction}
	}
	return []string{e.Setting}
}

func (e *Entry) paths() []quad.Path {
	switch e.Kind {
	case EntryList, EntryBits, EntryTable:
		return e.Paths
	case EntryRecord:
		var out []quad.Path
		for _, f := range e.Fields {
			if f.Path != "" {
				out = append(out, f.Path)
			}
		}
		return out
	}
	if e.Kind == EntryScalar && len(e.Paths) > 0 {
		return e.Paths
	}
	return []quad.Path{e.Path}
}

// dictionaryAt gives the entries that hold in the version at index i, checked against its facts.
func dictionaryAt(l *Line, i int, f *Facts) (*Dictionary, error) {
	d := &Dictionary{Line: l.Name, facts: f, byPath: map[quad.Path]*Entry{}, asked: map[quad.Path]bool{}, bySetting: map[string]*Entry{}}
	d.usual = sync.OnceValue(d.usually)
	for k := range l.Entries {
		e := &l.Entries[k]
		holds, err := l.holds(e, i, f)
		if err != nil {
			return nil, err
		}
		if holds {
			d.Entries = append(d.Entries, *e)
		}
	}
	for k := range d.Entries {
		e := &d.Entries[k]
		if err := e.check(f); err != nil {
			return nil, err
		}
		for _, p := range e.paths() {
			if d.byPath[p] != nil {
				return nil, quad.Faultf("mapped-twice", string(p), "is mapped twice in version %s", f.Version)
			}
			d.byPath[p] = e
			if f, err := quad.FieldAt(p); err == nil {
				d.asked[p] = f.Asked || f.Open
			}
		}
		for _, name := range e.settings() {
			if d.bySetting[name] != nil {
				return nil, quad.Faultf("mapped-twice", name, "is mapped twice in version %s", f.Version)
			}
			d.bySetting[name] = e
		}
	}
	return d, nil
}

// holds says whether an entry is about the version at index i.
func (l *Line) holds(e *Entry, i int, f *Facts) (bool, error) {
	since, err := l.index(e.Since, 0, e.Setting)
	if err != nil {
		return false, err
	}
	until, err := l.index(e.Until, len(l.Versions), e.Setting)
	if err != nil {
		return false, err
	}
	for _, name := range e.settings() {
		if !slices.ContainsFunc(l.Settings, func(s Era) bool { return s.Name == name }) {
			return false, quad.Faultf("unknown-setting", quad.Clip(name, 40), "is not a setting of %s", l.Name)
		}
		if f.Find(name) == nil {
			return false, nil
		}
	}
	return i >= since && i < until, nil
}

// check one entry against the facts and against the sheet.
func (e *Entry) check(f *Facts) error {
	s := f.Find(e.Setting)
	parts := 0
	whole := s.Kind == SettingWhole
	figure := whole || s.Kind == SettingDecimal || s.Kind == SettingWord && !slices.ContainsFunc(s.Words, func(w string) bool {
		_, err := strconv.ParseFloat(w, 64)
		return err != nil // one of a few figures is a figure
	})
	fits := true
	switch e.Kind {
	case EntryScalar:
		if e.Path != "" && len(e.Paths) > 0 {
			return quad.Faultf("bad-entry", e.Setting, "names one place and several; take one or the other")
		}
		fits = figure
	case EntryTable:
		fits = s.Kind != SettingList
	case EntryBits:
		fits = whole
	case EntryEnumeration:
		fits = s.Kind != SettingList
	case EntryList:
		parts, fits = len(e.Paths), s.Kind == SettingList
	case EntryRecord:
		parts, fits = len(e.Fields), s.Kind == SettingList && len(s.Words) == 0
	case EntrySeveral:
		if e.Fraction == "" {
			return quad.Faultf("bad-entry", e.Setting, "needs a setting with the hundredths")
		}
		fits = whole && f.Find(e.Fraction).Kind == SettingWhole
	default:
		return quad.Faultf("unknown-kind", e.Setting, "%q is not a kind of mapping", quad.Clip(string(e.Kind), 40))
	}
	if !fits {
		return quad.Faultf("bad-entry", e.Setting, "is a %s setting, which a %s cannot read", s.Kind, e.Kind)
	}
	for _, scale := range append(e.Fields, e.scale()) {
		if err := scale.valid(e.Setting); err != nil {
			return err
		}
	}
	seen := map[string]bool{}
	for _, word := range quad.SortedKeys(e.Words) {
		raw := e.Words[word]
		if seen[raw] {
			return quad.Faultf("bad-entry", e.Setting, "means two things by %q", quad.Clip(raw, 40))
		}
		if seen[raw] = true; !slices.Contains(s.Words, raw) && (e.Kind == EntryList || s.Check(raw) != nil) {
			return quad.Faultf("bad-entry", e.Setting, "cannot hold %q", quad.Clip(raw, 40))
		}
	}
	if parts > 0 && parts != s.Items {
		return quad.Faultf("bad-entry", e.Setting, "has %d parts and is mapped to %d places", s.Items, parts)
	}
	if len(e.paths()) == 0 {
		return quad.Faultf("bad-entry", e.Setting, "is mapped to nothing")
	}
	for _, p := range e.paths() {
		if !p.Under("sheet") {
			return quad.Faultf("not-sheet", string(p), "a dictionary maps to a quad's settings only")
		}
		field, err := quad.FieldAt(p)
		if err != nil {
			return err
		}
		if err := e.suits(p, field); err != nil {
			return err
		}
	}
	if e.Kind == EntryTable {
		return e.checkTable(s)
	}
	return nil
}

// suits refuses a kind that cannot hold what stands at the path.
func (e *Entry) suits(p quad.Path, f quad.Field) error {
	kind := f.Type.Kind()
	switch figure := kind == reflect.Float64 || kind == reflect.Int; {
	case (e.Kind == EntryScalar || e.Kind == EntryRecord || e.Kind == EntrySeveral) && !figure:
		return quad.Faultf("bad-entry", string(p), "is no figure; a %s cannot hold it", e.Kind)
	case e.Kind == EntryBits && kind != reflect.Bool:
		return quad.Faultf("bad-entry", string(p), "is no yes or no; bits cannot hold it")
	case (e.Kind == EntryEnumeration || e.Kind == EntryList) && kind != reflect.String && kind != reflect.Bool:
		return quad.Faultf("bad-entry", string(p), "is no word; an %s cannot hold it", e.Kind)
	}
	if e.Kind == EntryEnumeration || e.Kind == EntryList {
		// A place with words of its own takes no others: without a translation anything would pass for one.
		if len(e.Words) == 0 && (kind == reflect.Bool || len(f.OneOf) > 0) {
			return quad.Faultf("bad-entry", string(p), "needs the setting's word for at least one of %s", strings.Join(orYesNo(f.OneOf), ", "))
		}
	}
	for word := range e.Words {
		if kind == reflect.Bool && word != "true" && word != "false" || len(f.OneOf) > 0 && !slices.Contains(f.OneOf, word) {
			return quad.Faultf("bad-entry", string(p), "cannot be %q", quad.Clip(word, 40))
		}
	}
	return nil
}

// Setting that a path of the sheet is mapped to, or nil.
func (d *Dictionary) Setting(p quad.Path) *Setting {
	if e := d.byPath[p]; e != nil {
		return d.facts.Find(e.Setting)
	}
	return nil
}

// Paths of the sheet that the dictionary maps, in its order.
func (d *Dictionary) Paths() []quad.Path {
	var out []quad.Path
	for _, e := range d.Entries {
		out = append(out, e.paths()...)
	}
	return out
}

// Tells says whether the dictionary has a setting for anything at, in or around a place, by its path within the sheet.
func (d *Dictionary) Tells(p quad.Path) bool {
	return slices.ContainsFunc(d.Entries, func(e Entry) bool {
		return slices.ContainsFunc(e.paths(), func(of quad.Path) bool { return inSheet(of).Touches(p) })
	})
}

func orYesNo(oneOf []string) []string {
	if len(oneOf) == 0 {
		return []string{"false", "true"}
	}
	return oneOf
}

// SettingsFor names the settings that hold a path, none for one that is not mapped.
func (d *Dictionary) SettingsFor(p quad.Path) []string {
	if e := d.byPath[p]; e != nil {
		return e.settings()
	}
	return nil
}

// PathsOf a setting: what it maps to, none for one without a subject.
func (d *Dictionary) PathsOf(name string) []quad.Path {
	if e := d.bySetting[name]; e != nil {
		return e.paths()
	}
	return nil
}

// Alike says whether two values of the sheet at a mapped path are one and the same in raw units, as two
// figures are that differ by less than the line can hold.
func (d *Dictionary) Alike(p quad.Path, a, b any) bool {
	x, ok1 := number(a)
	y, ok2 := number(b)
	e := d.byPath[p]
	if !ok1 || !ok2 || e == nil {
		return a == b
	}
	scale := e.scale()
	switch e.Kind {
	case EntryTable:
		return x == y
	case EntrySeveral:
		scale = Field{Factor: 100}
	case EntryRecord:
		scale = e.Fields[slices.IndexFunc(e.Fields, func(f Field) bool { return f.Path == p })]
	}
	places := d.facts.Find(e.Setting).Places
	return scale.raw(x, places) == scale.raw(y, places)
}

func number(v any) (float64, bool) {
	switch x := v.(type) {
	case float64:
		return x, true
	case int:
		return float64(x), true
	}
	return 0, false
}

// WordsAt are the words that a board of this version can hold at a place of the sheet, in the order of the sheet's own; none where it holds nothing there, and all of them where it
// takes whatever is written.
func (d *Dictionary) WordsAt(p quad.Path) []string {
	e := d.byPath[p]
	f, err := quad.FieldAt(p)
	if e == nil || err != nil {
		return nil
	}
	if len(e.Words) == 0 {
		return f.OneOf
	}
	var out []string
	for _, w := range f.OneOf {
		if _, held := e.Words[w]; held {
			out = append(out, w)
		}
	}
	return out
}
