package firmware

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strings"
	"unicode/utf8"

	"vividperch/core/quad"
)

// List is a settings list as it was read.
type List struct {
	// Is what the list says it was taken from, in comments at its head; empty where it says nothing.
	Is       quad.Identity
	Settings []Listed
	// Saves is the number of lines that only told a board to save, and were left out.
	Saves int
}

// Listed is one setting of a settings list with its line number.
type Listed struct {
	Line  int    `json:"line"`
	Name  string `json:"name"`
	Value string `json:"value"`
}

const (
	mostList  = 2 << 20
	mostLine  = 500
	mostLines = 20_000
)

// mark that some editors put before a file.
var mark = []byte("\xef\xbb\xbf")

// legible says whether a list is text that a pilot can have meant: letters that can be read, lines that end as lines do, and no more of them than
// any board has settings. The first line that is not is named.
func legible(text []byte) error {
	for n := 1; len(text) > 0; n++ {
		at := fmt.Sprintf("line %d", n)
		if n > mostLines {
			return quad.Faultf("too-large", at, "has more than %d lines", mostLines)
		}
		line, rest, _ := bytes.Cut(text, []byte("\n"))
		text = rest
		switch line = bytes.TrimSuffix(line, []byte("\r")); {
		case bytes.IndexByte(line, 0) >= 0 || !utf8.Valid(line):
			return quad.Faultf("not-text", at, "holds what is no text; save the list as plain text")
		case bytes.IndexByte(line, '\r') >= 0:
			return quad.Faultf("not-text", at, "holds a lone carriage return; save it with other line ends")
		}
	}
	return nil
}

// ReadList reads a settings list, as text or as CSV. Text has "name = value" to a line, # begins a comment, and a
// line that only says save is left out. CSV has name and value in its first two columns, under a heading of
// those words or none. Faults name the line. Lists over 2 MB or 20,000 lines, with lines over 500 bytes, or that are no text are refused.
func ReadList(text []byte) (List, error) {
	if len(text) > mostList {
		return List{}, quad.Faultf("too-large", "", "is larger than 2 MB")
	}
	if err := legible(text); err != nil {
		return List{}, err
	}
	text = bytes.TrimPrefix(text, mark)
	if isTable(text) {
		return readTable(text)
	}
	var out List
	for n, line := range strings.Split(string(text), "\n") {
		at := fmt.Sprintf("line %d", n+1)
		if len(line) > mostLine {
			return List{}, quad.Faultf("line-too-long", at, "is longer than %d bytes", mostLine)
		}
		line, comment, _ := strings.Cut(line, "#")
		line = strings.TrimSpace(line)
		if line == "" {
			out.heed(comment)
			continue
		}
		if line == "save" {
			out.Saves++
			continue
		}
		name, value, ok := strings.Cut(line, "=")
		name, value = strings.TrimSpace(name), strings.TrimSpace(value)
		if !ok || name == "" {
			return List{}, quad.Faultf("not-a-setting", at, "is not of the form name = value")
		}
		out.Settings = append(out.Settings, Listed{Line: n + 1, Name: name, Value: value})
	}
	return out, nil
}

// isTable says whether the first line that holds anything has a comma and no equals sign.
func isTable(text []byte) bool {
	for line := range bytes.Lines(text) {
		line = bytes.TrimSpace(line)
		if len(line) > 0 && line[0] != '#' {
			return bytes.ContainsAny(line, ",") && !bytes.ContainsAny(line, "=")
		}
	}
	return false
}

func readTable(text []byte) (List, error) {
	var out List
	r := csv.NewReader(bytes.NewReader(text))
	r.FieldsPerRecord, r.Comment, r.TrimLeadingSpace = -1, '#', true
	for {
		record, err := r.Read()
		if errors.Is(err, io.EOF) {
			return out, nil
		}
		if err != nil {
			var p *csv.ParseError
			at := ""
			if errors.As(err, &p) {
				at = fmt.Sprintf("line %d", p.StartLine)
			}
			return List{}, quad.Faultf("not-a-table", at, "cannot be read as CSV: a quotation mark is open or out of place")
		}
		n, _ := r.FieldPos(0)
		at := fmt.Sprintf("line %d", n)
		if len(record) < 2 || strings.TrimSpace(record[0]) == "" {
			return List{}, quad.Faultf("not-a-setting", at, "needs a name and a value, with a comma between")
		}
		if len(record[0])+len(record[1]) > mostLine {
			return List{}, quad.Faultf("line-too-long", at, "is longer than %d bytes", mostLine)
		}
		name, value := strings.TrimSpace(record[0]), strings.TrimSpace(record[1])
		if len(out.Settings) == 0 && strings.EqualFold(name, "name") && strings.EqualFold(value, "value") {
			continue
		}
		out.Settings = append(out.Settings, Listed{Line: n, Name: name, Value: value})
	}
}

// heed a comment at a list's head that says what it was taken from.
func (l *List) heed(comment string) {
	if len(l.Settings) > 0 {
		return
	}
	what, is, ok := strings.Cut(comment, ":")
	is = quad.Clip(strings.TrimSpace(is), 40)
	if !ok {
		return
	}
	switch strings.TrimSpace(what) {
	case "board":
		l.Is.Target = is
	case "line":
		l.Is.Line = is
	case "version":
		l.Is.Version = is
	case "number":
		l.Is.Serial = is
	}
}

// CheckList reads settings against a line's facts, whole: every unknown name, value out of range and
// duplicate is reported, and the settings are only usable when there is none.
func (f *Facts) CheckList(list []Listed) (map[string]string, []*quad.Fault) {
	var faults []*quad.Fault
	out := make(map[string]string, len(list))
	for _, l := range list {
		at := fmt.Sprintf("line %d", l.Line)
		s := f.Find(l.Name)
		if s == nil {
			faults = append(faults, quad.Faultf("unknown-setting", at, "%s %s has no setting named %q", f.Line, f.Version, quad.Clip(l.Name, 40)))
			continue
		}
		if _, twice := out[l.Name]; twice {
			faults = append(faults, quad.Faultf("duplicate", at, "%s is set a second time", l.Name))
			continue
		}
		raw, err := s.Canonical(l.Value)
		if err != nil {
			faults = append(faults, quad.Faultf("out-of-range", at, "%s", err.Error()))
			continue
		}
		out[l.Name] = raw
	}
	return out, faults
}

// RemarkCode is the kind of a remark.
type RemarkCode string

const (
	RemarkUnknown RemarkCode = "unknown" // no setting of this version
	RemarkRenamed RemarkCode = "renamed"
	RemarkRange   RemarkCode = "range" // a value that the setting cannot hold
	RemarkTwice   RemarkCode = "duplicate"
	RemarkVersion RemarkCode = "version" // taken from another one
	RemarkBoard   RemarkCode = "board"   // taken from another target
	RemarkLine    RemarkCode = "line"    // taken from another line
	RemarkBound   RemarkCode = "bound"   // measured on another board
	RemarkSave    RemarkCode = "save"    // a line that only says save
)

// Remark on one line of a list: what does not fit the board it is meant for.
type Remark struct {
	Line int        `json:"line"`
	Code RemarkCode `json:"code" enum:"unknown,renamed,range,duplicate,version,board,line,bound,save"`
	Says string     `json:"says"`
	// Hinders is set when the list cannot be taken as it is.
	Hinders bool `json:"hinders"`
	// Name and Value that the line would have in this version; empty where there are none.
	Name  string `json:"name"`
	Value string `json:"value"`
}

// Review reads a list against the board it is meant for, whole, before anything is taken from it. The settings are those that fit as
// they are; remarks come in the order of their lines, those about the whole list first, at line 0.
func (b *Build) Review(list List, is quad.Identity) (settings map[string]string, remarks []Remark) {
	remark := func(line int, code RemarkCode, hinders bool, format string, args ...any) *Remark {
		remarks = append(remarks, Remark{Line: line, Code: code, Hinders: hinders, Says: fmt.Sprintf(format, args...)})
		return &remarks[len(remarks)-1]
	}
	version := list.Is.Version
	if list.Is.Line != "" && list.Is.Line != is.Line {
		remark(0, RemarkLine, true, "It was taken from %s; the board runs %s. Its settings are carried over through your settings, not loaded.", list.Is.Line, is.Line)
	} else if version != "" {
		switch StepBetween(is.Line, version, is.Line, is.Version) {
		case Major:
			remark(0, RemarkVersion, true, "It was taken from version %s, a major step before %s: the same figures mean other things. Carry it over setting by setting.", version, is.Version)
		case Within, Back:
			remark(0, RemarkVersion, false, "It was taken from version %s; the board runs %s.", version, is.Version)
		case Other:
			remark(0, RemarkVersion, true, "It says it is from version %q, which is none of %s.", version, is.Line)
		}
	}
	if list.Is.Target != "" && list.Is.Target != is.Target {
		remark(0, RemarkBoard, true, "It was taken from a %s; this board is a %s. What names pins means others here.", list.Is.Target, is.Target)
	}
	elsewhere := list.Is.Serial != "" && is.Serial != "" && list.Is.Serial != is.Serial
	settings = make(map[string]string, len(list.Settings))
	first := make(map[string]int, len(list.Settings))
	for _, l := range list.Settings {
		s := b.Facts.Find(l.Name)
		if s == nil {
			b.unknown(l, remark)
			continue
		}
		if at, twice := first[l.Name]; twice {
			remark(l.Line, RemarkTwice, true, "%s was set in line %d already.", l.Name, at)
			continue
		}
		first[l.Name] = l.Line
		raw, err := s.Canonical(l.Value)
		switch {
		case err != nil:
			remark(l.Line, RemarkRange, true, "%s.", err.Error())
		case s.Bound != "" && elsewhere:
			remark(l.Line, RemarkBound, true, "%s was measured on another board (%s): %s is measured anew.", l.Name, list.Is.Serial, s.Bound.Words())
		default:
			settings[l.Name] = raw
		}
	}
	if list.Saves > 0 {
		remark(0, RemarkSave, false, "A line that only says save was left out: writing saves by itself.")
	}
	return settings, remarks
}

// unknown name: one that another version of the line has is told with what became of it.
func (b *Build) unknown(l Listed, remark func(line int, code RemarkCode, hinders bool, format string, args ...any) *Remark) {
	for i := len(b.Line.builds) - 1; i >= 0; i-- {
		old := b.Line.builds[i]
		s := old.Facts.Find(l.Name)
		if i == b.index || s == nil {
			continue
		}
		if i > b.index {
			remark(l.Line, RemarkUnknown, true, "%s comes with version %s; the board runs %s.", l.Name, old.Version.Version, b.Version.Version)
			return
		}
		now := b.successors(l.Name, i)
		if len(now) == 0 {
			words := "nothing takes its place"
			if e := b.Line.eras[i][l.Name]; e.Instead != "" {
				words = e.Instead
			}
			remark(l.Line, RemarkUnknown, true, "%s ended with version %s: %s.", l.Name, old.Version.Version, words)
			return
		}
		r := remark(l.Line, RemarkRenamed, true, "%s is called %s from version %s on.", l.Name, strings.Join(now, " and "), b.Line.Versions[b.Line.eras[b.index][now[0]].since].Version)
		if len(now) == 1 {
			if raw, _, err := b.Line.convert(now[0], i, b.index, map[string]string{l.Name: l.Value}); err == nil {
				r.Name, r.Value = now[0], raw
				r.Says = fmt.Sprintf("%s is called %s from version %s on; there it is %s.", l.Name, now[0], b.Line.Versions[b.Line.eras[b.index][now[0]].since].Version, raw)
			}
		}
		return
	}
	remark(l.Line, RemarkUnknown, true, "%s %s has no setting named %q.", b.Line.Name, b.Version.Version, quad.Clip(l.Name, 40))
}

// WriteList writes settings as a list, by name; only what differs from base when base is not nil.
func WriteList(settings, base map[string]string) []byte {
	var out strings.Builder
	for _, name := range quad.SortedKeys(settings) {
		if base != nil && base[name] == settings[name] {
			continue
		}
		fmt.Fprintf(&out, "%s = %s\n", name, settings[name])
	}
	return []byte(out.String())
}

// Headed puts what a list was taken from before it, so that it is known again when it is read.
func Headed(is quad.Identity, list []byte) []byte {
	var out bytes.Buffer
	for _, h := range [][2]string{{"board", is.Target}, {"line", is.Line}, {"version", is.Version}, {"number", is.Serial}} {
		if h[1] != "" {
			fmt.Fprintf(&out, "# %s: %s\n", h[0], h[1])
		}
	}
	out.Write(list)
	return out.Bytes()
}

// Fingerprint of a list of settings: the first eight digits of its hash.
func Fingerprint(settings map[string]string) string { return quad.Hash(WriteList(settings, nil))[:8] }

// Change to write to a board.
type Change struct {
	Name   string `json:"name"`
	Before string `json:"before"`
	After  string `json:"after"`
}

// Changes lists what must be written so that a board holding have holds want: the vehicle first, because it puts
// everything else back, then by name. Settings that want does not name are left alone. When the vehicle changes,
// everything that want names and that differs from the defaults is to be written after it.
func (b *Build) Changes(have, want map[string]string) []Change {
	var first, out []Change
	have = b.canonical(have)
	if v := b.Line.Vehicle; v != "" {
		if after, named := want[v]; named && have[v] != after {
			first = []Change{{v, have[v], after}}
			have = b.afterVehicle(have)
		}
	}
	for _, name := range quad.SortedKeys(want) {
		if name != b.Line.Vehicle && have[name] != want[name] {
			out = append(out, Change{Name: name, Before: have[name], After: want[name]})
		}
	}
	return append(first, out...)
}

// afterVehicle is what a board holds after its vehicle was chosen anew: defaults, and what was measured on it and
// what its speed controllers hold.
func (b *Build) afterVehicle(have map[string]string) map[string]string {
	out := make(map[string]string, len(have))
	for name, raw := range have {
		if s := b.Facts.Find(name); s != nil && s.Bound == "" && !s.Speed {
			raw = s.Default
		}
		out[name] = raw
	}
	return out
}

// AddSpeed adds to a read-back what the speed controllers hold, as it was known before, where they did not answer.
func (b *Build) AddSpeed(settings, before map[string]string) {
	for _, s := range b.Facts.Settings {
		if raw, known := before[s.Name]; s.Speed && known {
			if _, listed := settings[s.Name]; !listed {
				settings[s.Name] = raw
			}
		}
	}
}

// SpeedOf is the output whose speed controller holds a setting; nothing for one of the board, or of all of them together.
func (b *Build) SpeedOf(name string) string {
	if s := b.Facts.Find(name); s != nil && s.Speed {
		return s.Of
	}
	return ""
}

func (b *Build) canonical(settings map[string]string) map[string]string {
	out := make(map[string]string, len(settings))
	for name, raw := range settings {
		if s := b.Facts.Find(name); s != nil {
			if c, err := s.Canonical(raw); err == nil {
				raw = c
			}
		}
		out[name] = raw
	}
	return out
}
