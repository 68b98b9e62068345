package firmware

import (
	"regexp"
	"slices"
	"strings"

	"github.com/goccy/go-yaml"

	"vividperch/core/quad"
)

// Lesson is what a pilot teaches about a line that the product does not know: a list that a board of it gave, and how
// its settings map to the sheet.
type Lesson struct {
	Line      string   `json:"line"`
	Version   string   `json:"version"`
	Separator string   `json:"separator"`
	Shape     *Shape   `json:"shape"` // nil for the usual one
	Settings  []Listed `json:"settings"`
	Entries   []Entry  `json:"entries"`
	// Bound names the settings that are measured on this very board, each with what gives them.
	Bound map[string]Measured `json:"bound"`
}

// File of a lesson: facts as the list shows them, and the entries, in the format of docs/dictionaries.md. The file is
// read again before it is given, so that what does not fit together is a Fault at its setting or path.
func (l Lesson) File() (string, error) {
	f := taughtFile{Line: l.Line, Separator: l.Separator, Shape: l.Shape, Versions: []taughtVersion{{l.Version}}, Entries: make([]taughtEntry, len(l.Entries))}
	seen := map[string]bool{}
	for _, s := range l.Settings {
		if !seen[s.Name] {
			facts := guessFacts(s, l)
			facts.Bound = l.Bound[s.Name]
			f.Settings = append(f.Settings, facts)
		}
		seen[s.Name] = true
	}
	for i, e := range l.Entries {
		f.Entries[i] = taughtEntry(e)
	}
	text, err := yaml.Marshal(f)
	if err != nil {
		return "", quad.Faultf("bad-dictionary", "", "cannot be written: %v", err)
	}
	_, err = Taught(string(text))
	return string(text), err
}

// The file's own shapes leave out what is not set, and name things as they are read.
type (
	taughtFile struct {
		Line      string          `yaml:"line"`
		Separator string          `yaml:"separator,omitempty"`
		Shape     *Shape          `yaml:"shape,omitempty"`
		Versions  []taughtVersion `yaml:"versions"`
		Settings  []taughtSetting `yaml:"settings"`
		Entries   []taughtEntry   `yaml:"entries"`
	}
	taughtVersion struct {
		Version string `yaml:"version"`
	}
	taughtSetting struct {
		Name    string      `yaml:"name"`
		Kind    SettingKind `yaml:"kind"`
		Min     int64       `yaml:"min,omitempty"`
		Max     int64       `yaml:"max,omitempty"`
		Places  int         `yaml:"places,omitempty"`
		Items   int         `yaml:"items,omitempty"`
		Words   []string    `yaml:"words,omitempty"`
		Default string      `yaml:"default"`
		Prefix  string      `yaml:"prefix,omitempty"`
		Suffix  string      `yaml:"suffix,omitempty"`
		Bound   Measured    `yaml:"bound,omitempty"`
	}
	taughtEntry struct {
		Since    string            `yaml:"since,omitempty"`
		Until    string            `yaml:"until,omitempty"`
		Kind     EntryKind         `yaml:"kind"`
		Setting  string            `yaml:"setting"`
		Fraction string            `yaml:"fraction,omitempty"`
		Path     quad.Path         `yaml:"path,omitempty"`
		Factor   float64           `yaml:"factor,omitempty"`
		Offset   float64           `yaml:"offset,omitempty"`
		Per      float64           `yaml:"per,omitempty"`
		Words    map[string]string `yaml:"words,omitempty"`
		Paths    []quad.Path       `yaml:"paths,omitempty"`
		Table    map[string][]any  `yaml:"table,omitempty"`
		Fields   []Field           `yaml:"fields,omitempty"`
		Silence  bool              `yaml:"silence,omitempty"`
	}
)

var number10 = regexp.MustCompile(`^[+-]?\d{1,15}(\.\d{1,8})?$`)

var figureWithin = regexp.MustCompile(`^([A-Za-z]+:)?([+-]?\d{1,15}(?:\.\d{1,8})?)( ?[A-Za-z%°µ/²]{1,12})?$`)

// figureIn a value that has something before or after it, as "30ms" or "upto:85".
func figureIn(value string) (before, figure, after string, ok bool) {
	m := figureWithin.FindStringSubmatch(value)
	if m == nil || m[1]+m[3] == "" {
		return "", "", "", false
	}
	return m[1], m[2], m[3], true
}

// widest range of a taught figure: nothing is known of it until the pilot writes it into the file.
const widest = 1_000_000_000

// guessFacts of a setting from what one list holds and what it is mapped to. Words that the mapping names belong to it,
// whatever the list holds.
func guessFacts(s Listed, l Lesson) taughtSetting {
	out := taughtSetting{Name: s.Name, Default: s.Value, Kind: SettingText}
	var words []string
	for _, e := range l.Entries {
		if slices.Contains(e.settings(), s.Name) {
			for _, w := range quad.SortedKeys(e.Words) {
				if !slices.Contains(words, e.Words[w]) {
					words = append(words, e.Words[w])
				}
			}
			words = append(words, quad.SortedKeys(e.Table)...)
		}
	}
	if before, figure, after, ok := figureIn(s.Value); ok && slices.ContainsFunc(l.Entries, func(e Entry) bool { return e.Kind == EntryScalar && e.Setting == s.Name }) {
		out.Prefix, out.Suffix, out.Default, s.Value = before, after, figure, figure
	}
	parts := []string{s.Value}
	if l.Separator != "" {
		parts = strings.Split(s.Value, l.Separator)
	}
	figures := !slices.ContainsFunc(parts, func(p string) bool { return !number10.MatchString(p) })
	switch {
	case len(words) > 0:
		out.Kind, out.Words = SettingWord, words
		if len(parts) > 1 {
			out.Kind, out.Items = SettingList, len(parts)
		}
		for _, p := range parts {
			if !slices.Contains(out.Words, p) {
				out.Words = append(out.Words, p)
			}
		}
		return out
	case !figures:
		return out
	}
	for _, p := range parts {
		if _, decimals, ok := strings.Cut(p, "."); ok {
			out.Places = max(out.Places, len(decimals))
		}
	}
	out.Kind, out.Min, out.Max = SettingWhole, -widest, widest
	if out.Places > 0 {
		out.Kind = SettingDecimal
	}
	if len(parts) > 1 {
		out.Kind, out.Items = SettingList, len(parts)
	}
	return out
}

// Unclear lists what a taught dictionary loses of a list: a setting whose value does not come back as it was. Nothing
// there is what a pilot wants to see before he relies on it.
func Unclear(l *Line, list []Listed) []Remark {
	b := l.Newest()
	settings, out := b.taken(list)
	sheet, err := b.Dictionary.Decode(settings)
	if err != nil {
		return append(out, Remark{Code: RemarkRange, Hinders: true, Says: quad.Sentence(err.Error())})
	}
	written, faults := b.Dictionary.EncodeAll(sheet, settings)
	for _, f := range faults {
		out = append(out, Remark{Code: RemarkRange, Hinders: true, Says: quad.Sentence(f.Error())})
	}
	for _, x := range list {
		if back, ok := written[x.Name]; ok && back != settings[x.Name] {
			out = append(out, Remark{Line: x.Line, Code: RemarkRange, Hinders: true, Name: x.Name, Value: back, Says: x.Name + " was " + settings[x.Name] + " and comes back as " + back + "."})
		}
	}
	return out
}
