package firmware

import (
	"bytes"
	"cmp"
	"maps"
	"slices"
	"strings"

	"vividperch/core/quad"
)

// shape of the family's lists, or the usual one where its settings have a text before or after their values.
func (b *Build) shape() *Shape {
	if b.Line.Shape != nil {
		return b.Line.Shape
	}
	if slices.ContainsFunc(b.Facts.Settings, func(s Setting) bool { return s.Prefix+s.Suffix != "" }) {
		usual := asUsual()
		if usual.build() == nil {
			return usual
		}
	}
	return nil
}

// ReadList reads a settings list as the family writes it, values without what stands before and after them. Faults name the line.
func (b *Build) ReadList(text []byte) (List, error) {
	s := b.shape()
	if s == nil {
		return ReadList(text)
	}
	settings, list, _, err := s.read(text)
	if err != nil {
		return List{}, err
	}
	list.Settings = nil
	for _, x := range settings {
		b.bare(&x)
		list.Settings = append(list.Settings, x.Listed)
	}
	return list, nil
}

// bare takes off what stands before and after a value.
func (b *Build) bare(x *placed) {
	f := b.Facts.Find(x.Name)
	if f == nil || b.Line.Shape != nil && b.Line.Shape.Lines[x.by].Is != "" {
		return
	}
	if rest, ok := strings.CutPrefix(x.Value, f.Prefix); ok {
		x.Value = rest
		x.value.from += len(f.Prefix)
	}
	if rest, ok := strings.CutSuffix(x.Value, f.Suffix); ok {
		x.Value = rest
		x.value.to -= len(f.Suffix)
	}
}

// EditList gives a list in which some settings hold other values, as the family writes it: only the lines of those change, and of a line only
// what must. What the list does not name is added behind its last setting, in the first way that the family writes such a one. A value that
// would not be read back, and a list with a checksum that nobody here can work out, is a Fault.
func (b *Build) EditList(text []byte, set map[string]string) ([]byte, error) {
	s := b.shape()
	if s == nil {
		return EditList(text, set)
	}
	settings, _, summed, err := s.read(text)
	if err != nil {
		return nil, err
	}
	type change struct {
		span
		with string
	}
	var changes []change
	left := maps.Clone(set)
	for i := range settings {
		x := settings[i]
		b.bare(&x)
		want, wanted := set[x.Name]
		if !wanted {
			continue
		}
		delete(left, x.Name)
		if want == x.Value {
			continue
		}
		with := want
		if kind := s.Lines[x.by]; kind.Is != "" {
			if with, err = s.flag(kind, x, want); err != nil {
				return nil, err
			}
		}
		changes = append(changes, change{x.value, with})
	}
	if len(changes)+len(left) == 0 {
		return bytes.Clone(text), nil
	}
	if summed {
		return nil, quad.Faultf("checksum", "", "it carries a checksum that only its firmware can work out; take along what changed, as commands to type")
	}
	slices.SortFunc(changes, func(a, b change) int { return cmp.Compare(b.from, a.from) })
	out := bytes.Clone(text)
	for _, c := range changes {
		out = slices.Concat(out[:c.from], []byte(c.with), out[c.to:])
	}
	if len(left) > 0 {
		if out, err = b.append(s, out, left); err != nil {
			return nil, err
		}
	}
	return out, b.comesBack(text, out, set)
}

// flag is the line that tells another value by its words.
func (s *Shape) flag(kind ShapeLine, x placed, want string) (string, error) {
	for i := range s.Lines {
		other := &s.Lines[i]
		if other.Is == want && other.As == kind.As && slices.Equal(other.Only, kind.Only) {
			return other.line.print(x.holes), nil
		}
	}
	return "", quad.Faultf("not-a-value", x.Name, "no line of this family says %q of it", quad.Clip(want, 40))
}

// append settings behind the last one of the same section.
func (b *Build) append(s *Shape, text []byte, left map[string]string) ([]byte, error) {
	for _, name := range quad.SortedKeys(left) {
		settings, _, _, err := s.read(text)
		if err != nil {
			return nil, err
		}
		var line string
		at := -1
		for i := len(settings) - 1; i >= 0 && at < 0; i-- {
			under := settings[i].under
			if !strings.HasPrefix(name, under) {
				continue
			}
			if written, ok := b.written(s, under, name, left[name]); ok {
				line, at = written, settings[i].value.to
			}
		}
		if at < 0 && len(settings) > 0 {
			return nil, quad.Faultf("not-a-value", name, "stands nowhere in the list, and no line of this family could hold it there")
		}
		if at < 0 {
			written, ok := b.written(s, "", name, left[name])
			if !ok {
				return nil, quad.Faultf("not-a-value", name, "no line of this family could hold it")
			}
			line, at = written, len(text)
		}
		text = behindLine(text, at, line)
	}
	return text, nil
}

// behindLine puts a line behind the one that an offset lies in, in the line ends of the text.
func behindLine(text []byte, at int, line string) []byte {
	end := "\n"
	if i := bytes.IndexByte(text, '\n'); i > 0 && text[i-1] == '\r' {
		end = "\r\n"
	}
	k := bytes.IndexByte(text[at:], '\n')
	if k < 0 {
		before := ""
		if len(trimMark(text)) > 0 {
			before = end
		}
		return slices.Concat(text, []byte(before+line+end))
	}
	k += at + 1
	return slices.Concat(text[:k], []byte(line+end), text[k:])
}

// written is a setting, under what its section puts before its name, as the first kind of line that can hold it says it.
func (b *Build) written(s *Shape, under, full, value string) (string, bool) {
	name := strings.TrimPrefix(full, under)
	f := b.Facts.Find(full)
	if f != nil && !slices.ContainsFunc(s.Lines, func(l ShapeLine) bool { return l.Is == value && l.As != "" }) {
		value = f.Prefix + value + f.Suffix
	}
	// Those that make a name of their own are the more particular.
	kinds := make([]*ShapeLine, len(s.Lines))
	for i := range s.Lines {
		kinds[i] = &s.Lines[i]
	}
	slices.SortStableFunc(kinds, func(a, b *ShapeLine) int { return cmp.Compare(len(b.As), len(a.As)) })
	for _, kind := range kinds {
		if kind.opens != nil || kind.Is != "" && kind.Is != value {
			continue
		}
		told := map[string]string{"name": name, "value": value}
		if kind.as != nil {
			at, fits := kind.as.find(name)
			if !fits {
				continue
			}
			for hole, s := range at {
				told[hole] = name[s.from:s.to]
			}
		}
		if len(kind.Only) > 0 && !slices.Contains(kind.Only, told["name"]) {
			continue
		}
		line := kind.line.print(told)
		one, opened, ok := s.fit(logicalLine{text: line})
		if ok && opened == nil && one.Name == name && one.Value == value {
			return line, true
		}
	}
	return "", false
}

// Commands are some changes as lines to type, each in the shape of the family, in the order they come, under the headings of their sections.
func (b *Build) Commands(changes []Change) ([]string, error) {
	s := b.shape()
	if s == nil {
		s = asUsual()
		if err := s.build(); err != nil {
			return nil, err
		}
	}
	out := make([]string, 0, len(changes))
	last := ""
	for _, c := range changes {
		heading, under := s.section(c.Name)
		line, ok := b.written(s, under, c.Name, c.After)
		if !ok {
			return nil, quad.Faultf("not-a-value", c.Name, "no line of this family could hold it")
		}
		if heading != last && heading != "" {
			out = append(out, heading)
		}
		last = heading
		out = append(out, line)
	}
	return out, nil
}

// section that a setting belongs to by its name: the line that opens it, and what it puts before names.
func (s *Shape) section(name string) (heading, under string) {
	// A line that makes the name by itself needs no section.
	if slices.ContainsFunc(s.Lines, func(l ShapeLine) bool {
		if l.as == nil {
			return false
		}
		at, fits := l.as.find(name)
		return fits && (len(l.Only) == 0 || slices.Contains(l.Only, name[at["name"].from:at["name"].to]))
	}) {
		return "", ""
	}
	for i := range s.Lines {
		kind := &s.Lines[i]
		if kind.opens == nil {
			continue
		}
		for cut := len(name) - 1; cut > 0; cut-- {
			at, fits := kind.opens.find(name[:cut])
			if !fits {
				continue
			}
			told := map[string]string{}
			for hole, s := range at {
				told[hole] = name[s.from:s.to]
			}
			if kind.opens.print(told) == name[:cut] {
				return kind.line.print(told), name[:cut]
			}
		}
	}
	return "", ""
}

// comesBack says whether a list that was edited reads as it did, but for what was set.
func (b *Build) comesBack(before, after []byte, set map[string]string) error {
	was, err := b.ReadList(before)
	if err != nil {
		return err
	}
	is, err := b.ReadList(after)
	if err != nil {
		return err
	}
	held := func(l List) map[string][]string {
		out := map[string][]string{}
		for _, x := range l.Settings {
			out[x.Name] = append(out[x.Name], x.Value)
		}
		return out
	}
	want, got := held(was), held(is)
	for name, value := range set {
		if want[name] == nil {
			want[name] = []string{""}
		}
		for i := range want[name] {
			want[name][i] = value
		}
	}
	for _, name := range slices.Concat(quad.SortedKeys(want), quad.SortedKeys(got)) {
		if !slices.Equal(want[name], got[name]) {
			value := ""
			if v := want[name]; len(v) > 0 {
				value = v[0]
			}
			return quad.Faultf("not-a-value", name, "%q cannot stand in a list of this family", quad.Clip(value, 40))
		}
	}
	return nil
}
