package firmware

import (
	"fmt"
	"slices"
	"strings"

	"vividperch/core/quad"
)

// Shape says how the lines of a family's settings lists look, so that a list is read, and printed back as it was. A family without one has
// "name = value" to a line, # begins a comment, and a line that only says save is left out.
type Shape struct {
	// Comments begin what is read over: a line, or the rest of one outside quotation marks.
	Comments []string `json:"comments,omitempty" yaml:"comments,omitempty"`
	// Continued stands at the end of a line that goes on with the next one.
	Continued string `json:"continued,omitempty" yaml:"continued,omitempty"`
	// Skip are lines that are read over: headings, and what ends a list.
	Skip []string `json:"skip,omitempty" yaml:"skip,omitempty"`
	// Checksum is a line that only the firmware can work out: it is read, and a list that has it cannot be printed once something is changed.
	Checksum *ShapeSum `json:"checksum,omitempty" yaml:"checksum,omitempty"`
	// Lines are tried one after the other; the first that fits counts.
	Lines []ShapeLine `json:"lines" yaml:"lines"`

	skip []*template
	sum  *template
}

// ShapeSum is the line of a checksum.
type ShapeSum struct {
	Line string `json:"line" yaml:"line"`
}

// ShapeLine is how a line with a setting looks, or one that opens a section.
type ShapeLine struct {
	// Line is what it looks like, with {name}, {value}, {n}, {section} and {*} for what differs.
	Line string `json:"line" yaml:"line"`
	// As is the setting's name where it is not {name} alone.
	As string `json:"as,omitempty" yaml:"as,omitempty"`
	// Is is the value of a line that tells it by its words, as a flag does.
	Is string `json:"is,omitempty" yaml:"is,omitempty"`
	// Only are the names that it fits; all where there are none.
	Only []string `json:"only,omitempty" yaml:"only,omitempty"`
	// Opens is what is put before the names of the lines that follow.
	Opens string `json:"opens,omitempty" yaml:"opens,omitempty"`

	line, as, opens *template
}

// The shape's own limits: no family writes its lists in more ways.
const (
	mostShapes = 40
	mostMarks  = 20
)

// asUsual is the shape of a family that has none of its own.
func asUsual() *Shape {
	return &Shape{Comments: []string{"#"}, Skip: []string{"save"}, Lines: []ShapeLine{{Line: "{name} = {value}"}}}
}

// build works out what does not change, and refuses what nobody could read unambiguously.
func (s *Shape) build() error {
	if len(s.Lines) == 0 || len(s.Lines) > mostShapes || len(s.Skip) > mostShapes || len(s.Comments) > mostMarks {
		return quad.Faultf("bad-shape", "shape.lines", "a list's shape has 1 to %d kinds of lines", mostShapes)
	}
	for i, c := range append(slices.Clone(s.Comments), s.Continued) {
		if i < len(s.Comments) && strings.TrimSpace(c) == "" || len(c) > 10 || strings.ContainsAny(c, " \t\r\n\"") {
			return quad.Faultf("bad-shape", "shape.comments", "%q cannot mark anything: 1 to 10 letters or marks without blanks", quad.Clip(c, 20))
		}
	}
	s.skip = nil
	for i, text := range s.Skip {
		t, err := readTemplate(text, fmt.Sprintf("shape.skip.%d", i), "*")
		if err != nil {
			return err
		}
		s.skip = append(s.skip, t)
	}
	if s.Checksum != nil {
		var err error
		if s.sum, err = readTemplate(s.Checksum.Line, "shape.checksum", "hex", "n", "*"); err != nil {
			return err
		}
	}
	for i := range s.Lines {
		if err := s.Lines[i].build(fmt.Sprintf("shape.lines.%d", i)); err != nil {
			return err
		}
	}
	return nil
}

func (l *ShapeLine) build(at string) error {
	var err error
	if l.line, err = readTemplate(l.Line, at, "name", "value", "n", "section", "*"); err != nil {
		return err
	}
	if l.Opens != "" {
		if l.As != "" || l.Is != "" || l.line.has("value") {
			return quad.Faultf("bad-shape", at, "it opens a section and holds no setting: leave value, as and is out")
		}
		l.opens, err = readTemplate(l.Opens, at, "section", "name", "n")
		return l.needs(at, l.opens, err)
	}
	if l.line.has("value") == (l.Is != "") {
		return quad.Faultf("bad-shape", at, "it needs either a {value} or what it is")
	}
	if l.As == "" {
		if !l.line.has("name") {
			return quad.Faultf("bad-shape", at, "it names no setting: {name}, or what it is told as")
		}
		return nil
	}
	l.as, err = readTemplate(l.As, at, "name", "n", "section")
	return l.needs(at, l.as, err)
}

// needs says whether a line has what a name is made of.
func (l *ShapeLine) needs(at string, t *template, err error) error {
	if err != nil {
		return err
	}
	for _, p := range t.parts {
		if p.hole != "" && !l.line.has(p.hole) {
			return quad.Faultf("bad-shape", at, "{%s} does not stand in the line", p.hole)
		}
	}
	return nil
}

// placed is one setting of a list with where its value stands in the text.
type placed struct {
	Listed
	value span // of the value, in bytes of the whole text; of the whole line where its words tell it
	by    int  // which of the shape's lines it fits
	holes map[string]string
	under string // what its section puts before its name
}

// read a list in this shape. Lines that nothing fits are a Fault.
func (s *Shape) read(text []byte) (out []placed, head List, summed bool, err error) {
	if len(text) > mostList {
		return nil, head, false, quad.Faultf("too-large", "", "is larger than 2 MB")
	}
	if err := legible(text); err != nil {
		return nil, head, false, err
	}
	under := ""
	for _, l := range s.logical(text) {
		at := fmt.Sprintf("line %d", l.line)
		if len(l.text) > mostLine {
			return nil, head, false, quad.Faultf("line-too-long", at, "is longer than %d bytes", mostLine)
		}
		if l.comment != "" {
			head.heed(l.comment)
		}
		if strings.TrimSpace(l.text) == "" || slices.ContainsFunc(s.skip, func(t *template) bool { _, fits := t.find(l.text); return fits }) {
			if strings.TrimSpace(l.text) == "save" {
				head.Saves++
			}
			continue
		}
		if s.sum != nil {
			if _, fits := s.sum.find(l.text); fits {
				summed = true
				continue
			}
		}
		one, opened, ok := s.fit(l)
		switch {
		case !ok:
			return nil, head, false, quad.Faultf("not-a-setting", at, "looks like no line of this family: %s", quad.Clip(l.text, 40))
		case opened != nil:
			under = *opened
		default:
			one.under = under
			one.Name = under + one.Name
			out = append(out, one)
			head.Settings = append(head.Settings, one.Listed)
		}
	}
	return out, head, summed, nil
}

// fit a line to the first kind that it looks like: a setting, or what a section puts before names.
func (s *Shape) fit(l logicalLine) (one placed, opened *string, ok bool) {
	for i := range s.Lines {
		kind := &s.Lines[i]
		at, fits := kind.line.find(l.text)
		if !fits {
			continue
		}
		told := make(map[string]string, len(at))
		for name, s := range at {
			told[name] = l.text[s.from:s.to]
		}
		if len(kind.Only) > 0 && !slices.Contains(kind.Only, told["name"]) {
			continue
		}
		if kind.opens != nil {
			prefix := kind.opens.print(told)
			return one, &prefix, true
		}
		one = placed{Listed: Listed{Line: l.line, Name: told["name"], Value: told["value"]}, by: i, holes: told}
		if kind.as != nil {
			one.Name = kind.as.print(told)
		}
		if kind.Is != "" {
			one.Value, one.value = kind.Is, span{l.offset(0), l.offset(len(l.text))}
		} else {
			one.value = span{l.offset(at["value"].from), l.offset(at["value"].to)}
			if at["value"].from == at["value"].to { // nothing stands there
				one.value.to = one.value.from
			}
		}
		return one, nil, true
	}
	return one, nil, false
}

// logicalLine is a line without its comment, with what it was continued by.
type logicalLine struct {
	line    int // of its first one, from 1
	text    string
	at      []int // of each byte in the whole text
	end     int   // behind its last byte in the whole text
	comment string
}

// offset of a byte in the whole text; that behind the last one is where the line ends.
func (l *logicalLine) offset(i int) int {
	if i < len(l.at) {
		return l.at[i]
	}
	return l.end
}

// logical lines of a text, without blanks at either end.
func (s *Shape) logical(text []byte) []logicalLine {
	var out []logicalLine
	begin := len(text) - len(trimMark(text))
	going := false
	for n := 1; begin < len(text); n++ {
		end := begin
		for end < len(text) && text[end] != '\n' {
			end++
		}
		body := string(text[begin:end])
		cut, comment := s.comment(body)
		from, to := 0, cut
		for from < to && (isBlank(body[from])) {
			from++
		}
		for to > from && (isBlank(body[to-1]) || body[to-1] == '\r') {
			to--
		}
		goesOn := s.Continued != "" && comment == "" && strings.HasSuffix(body[from:to], s.Continued)
		keep := to
		if goesOn {
			keep = to - len(s.Continued)
		}
		if !going {
			out = append(out, logicalLine{line: n, comment: comment})
		}
		l := &out[len(out)-1]
		if going && from < keep { // what was broken is one blank apart
			l.text += " "
			l.at = append(l.at, begin+from)
		}
		l.text += body[from:keep]
		for i := from; i < keep; i++ {
			l.at = append(l.at, begin+i)
		}
		if from < keep || !going {
			l.end = begin + keep
		}
		going = goesOn
		begin = end + 1
	}
	for i := range out { // blanks before a mark that continues nothing more
		l := &out[i]
		for len(l.text) > 0 && isBlank(l.text[len(l.text)-1]) {
			l.text, l.at = l.text[:len(l.text)-1], l.at[:len(l.at)-1]
			if n := len(l.at); n > 0 {
				l.end = l.at[n-1] + 1
			}
		}
	}
	return out
}

// comment says where a line's comment begins, and what it says.
func (s *Shape) comment(body string) (cut int, says string) {
	quoted := false
	for i := range len(body) {
		if body[i] == '"' {
			quoted = !quoted
		}
		if quoted {
			continue
		}
		for _, mark := range s.Comments {
			if strings.HasPrefix(body[i:], mark) {
				return i, strings.TrimSpace(body[i+len(mark):])
			}
		}
	}
	return len(body), ""
}

func trimMark(text []byte) []byte {
	if len(text) >= len(mark) && string(text[:len(mark)]) == string(mark) {
		return text[len(mark):]
	}
	return text
}
