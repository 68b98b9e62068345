package firmware

import (
	"regexp"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"vividperch/core/quad"
)

// template is a pattern for one line of a list: words as they stand, and holes in braces. Blanks stand for any number of blanks; around a mark
// that is no letter and no figure there may be some or none.
type template struct {
	text  string
	parts []templatePart
	match *regexp.Regexp
}

// templatePart is a text as it stands, or a hole.
type templatePart struct {
	text string
	hole string
}

// holes by what they take. {*} takes anything and may stand more than once.
var holes = map[string]string{"name": `(\S+?)`, "section": `(\S.*?)`, "n": `(\d+)`, "value": `(.*?)`, "hex": `([0-9A-Fa-f]+)`, "*": `(.*?)`,
	"line": `(\S+?)`, "version": `(\S+?)`, "target": `(\S+?)`, "number": `(\S+?)`}

var hole = regexp.MustCompile(`\{([^{}]*)\}`)

// mostTemplate bytes are more than any line of a list begins with.
const mostTemplate = 200

// readTemplate reads a pattern that may have the holes that are allowed. at is what a Fault is told at.
func readTemplate(text, at string, allowed ...string) (*template, error) {
	text = strings.TrimSpace(text)
	if text == "" || len(text) > mostTemplate || strings.ContainsAny(text, "\r\n") {
		return nil, quad.Faultf("bad-shape", at, "a line's shape is one line of up to %d bytes", mostTemplate)
	}
	t := &template{text: text}
	seen, last := map[string]bool{}, 0
	for _, m := range hole.FindAllStringSubmatchIndex(text, -1) {
		name := text[m[2]:m[3]]
		switch {
		case !slices.Contains(allowed, name):
			return nil, quad.Faultf("bad-shape", at, "{%s} is not known here; there are {%s}", quad.Clip(name, 20), strings.Join(allowed, "}, {"))
		case seen[name] && name != "*":
			return nil, quad.Faultf("bad-shape", at, "{%s} stands twice", name)
		case m[0] == last && last > 0:
			return nil, quad.Faultf("bad-shape", at, "nothing stands between two holes: nobody could tell where one ends")
		}
		seen[name] = true
		if m[0] > last {
			t.parts = append(t.parts, templatePart{text: text[last:m[0]]})
		}
		t.parts = append(t.parts, templatePart{hole: name})
		last = m[1]
	}
	if last < len(text) {
		t.parts = append(t.parts, templatePart{text: text[last:]})
	}
	if strings.ContainsAny(hole.ReplaceAllString(text, ""), "{}") {
		return nil, quad.Faultf("bad-shape", at, "a brace is open")
	}
	var pattern strings.Builder
	for _, p := range t.parts {
		if p.hole != "" {
			pattern.WriteString(holes[p.hole])
		} else {
			pattern.WriteString(asPattern(p.text))
		}
	}
	var err error
	if t.match, err = regexp.Compile(`^` + pattern.String() + `$`); err != nil {
		return nil, quad.Faultf("bad-shape", at, "cannot be read as a pattern")
	}
	return t, nil
}

// asPattern of a text between holes.
func asPattern(text string) string {
	word := func(r rune) bool { return unicode.IsLetter(r) || unicode.IsDigit(r) }
	words := strings.Fields(text)
	for i, w := range words {
		words[i] = regexp.QuoteMeta(w)
	}
	out := strings.Join(words, `[ \t]+`)
	if len(words) == 0 {
		return `[ \t]+`
	}
	first, _ := utf8.DecodeRuneInString(words[0])
	if !word(first) && words[0] != "" && !strings.HasPrefix(text, " ") {
		out = `[ \t]*` + out
	} else if strings.HasPrefix(text, " ") {
		out = `[ \t]` + blanks(text) + out
	}
	trimmed := strings.TrimRight(text, " \t")
	last, _ := utf8.DecodeLastRuneInString(trimmed)
	switch {
	case trimmed != text:
		out += `[ \t]` + blanks(text)
	case !word(last):
		out += `[ \t]*`
	}
	return out
}

// blanks beside a mark that parts by itself may be left out; beside a word they may not.
func blanks(text string) string {
	for _, r := range text {
		if unicode.IsLetter(r) || unicode.IsDigit(r) {
			return "+"
		}
	}
	return "*"
}

// has a hole.
func (t *template) has(name string) bool {
	return slices.ContainsFunc(t.parts, func(p templatePart) bool { return p.hole == name })
}

// span of a hole in what was matched.
type span struct{ from, to int }

// find gives where each hole lies in a line, without the blanks around it; ok is false where the line does not fit.
func (t *template) find(line string) (at map[string]span, ok bool) {
	m := t.match.FindStringSubmatchIndex(line)
	if m == nil {
		return nil, false
	}
	at, k := map[string]span{}, 1
	for _, p := range t.parts {
		if p.hole == "" {
			continue
		}
		s := span{m[2*k], m[2*k+1]}
		k++
		for s.from < s.to && isBlank(line[s.from]) {
			s.from++
		}
		for s.to > s.from && isBlank(line[s.to-1]) {
			s.to--
		}
		at[p.hole] = s
	}
	return at, true
}

func isBlank(b byte) bool { return b == ' ' || b == '\t' }

// print a line with its holes filled in; {*} is left empty.
func (t *template) print(with map[string]string) string {
	var out strings.Builder
	for _, p := range t.parts {
		if p.hole == "" {
			out.WriteString(p.text)
		} else {
			out.WriteString(with[p.hole])
		}
	}
	return strings.TrimRight(out.String(), " \t")
}
