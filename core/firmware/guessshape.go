package firmware

import (
	"fmt"
	"slices"
	"strings"

	"github.com/goccy/go-yaml"

	"vividperch/core/quad"
)

// List reads a text in this shape, values as they stand. It is for lists of a family of which nothing else is known yet.
func (s *Shape) List(text []byte) (List, error) {
	if err := s.build(); err != nil {
		return List{}, err
	}
	_, list, _, err := s.read(text)
	return list, err
}

// HeadOf a list tells what its first lines say it was taken from, whatever marks stand before them.
func HeadOf(text []byte) quad.Identity {
	var l List
	for n, line := range strings.Split(string(text[:min(len(text), 10_000)]), "\n") {
		if n > 40 {
			break
		}
		l.heed(strings.TrimLeft(line, "#%/;!-* \t\ufeff"))
	}
	return l.Is
}

// guessedMarks may begin a comment, and guessedLines may be what a setting looks like, the more particular first.
var (
	guessedMarks = []string{"#", "%", "//", ";", "!", "--"}
	guessedLines = []string{"{name} = {value}", "{name} := {value}", "{name};{value};{*}", "{name};{value}", "{name}|{value}", "{name}: {value}", "{name} -> {value}", "{name} {value}"}
)

// mostGuessed lines are looked at: a list says early what it looks like.
const mostGuessed = 400

// GuessShape says how the lines of a text seem to look. What fits no kind of line is read over, where there are few of those; a pilot looks at it
// before he relies on it.
func GuessShape(text []byte) Shape {
	var lines []string
	out := Shape{}
	for _, line := range strings.Split(string(trimMark(text)), "\n") {
		line = strings.TrimSpace(line)
		marked := false
		for _, m := range guessedMarks {
			if strings.HasPrefix(line, m) {
				if marked = true; !slices.Contains(out.Comments, m) {
					out.Comments = append(out.Comments, m)
				}
				break
			}
		}
		if line != "" && !marked && len(lines) < mostGuessed {
			lines = append(lines, line)
		}
	}
	var section []ShapeLine
	rest := lines[:0:0]
	for _, line := range lines {
		if strings.HasPrefix(line, "[") && strings.HasSuffix(line, "]") {
			section = []ShapeLine{{Line: "[{section}]", Opens: "{section}."}}
			continue
		}
		rest = append(rest, line)
	}
	best, most := "{name} = {value}", 0
	try := append(wordsAround(rest), guessedLines...)
	for _, candidate := range try {
		n := fitting(candidate, rest)
		if n > most {
			best, most = candidate, n
		}
		if 10*n >= 7*len(rest) && n > 0 {
			break // the more particular ones come first
		}
	}
	out.Lines = append(section, ShapeLine{Line: best})
	t, err := readTemplate(best, "", "name", "value", "*")
	if err != nil {
		return out
	}
	for _, line := range rest {
		if _, fits := t.find(line); !fits && len(out.Skip) < mostShapes && !strings.ContainsAny(line, "{}") && len(line) < mostTemplate && !slices.Contains(out.Skip, line) {
			out.Skip = append(out.Skip, line)
		}
	}
	return out
}

// fitting lines of a kind; a value that holds nothing does not count.
func fitting(candidate string, lines []string) int {
	t, err := readTemplate(candidate, "", "name", "value", "*")
	if err != nil {
		return 0
	}
	n := 0
	for _, line := range lines {
		if at, ok := t.find(line); ok && at["value"].from < at["value"].to {
			n++
		}
	}
	return n
}

// wordsAround offers kinds of lines that begin with one word, and perhaps have a second one between name and value.
func wordsAround(lines []string) []string {
	first, third := map[string]int{}, map[string]int{}
	for _, line := range lines {
		words := strings.Fields(line)
		if len(words) >= 3 {
			first[words[0]]++
			third[words[0]+" "+words[2]]++
		}
	}
	var out []string
	for _, word := range quad.SortedKeys(first) {
		if 2*first[word] < len(lines) || strings.ContainsAny(word, "{}=:;") {
			continue
		}
		for _, pair := range quad.SortedKeys(third) {
			if by, ok := strings.CutPrefix(pair, word+" "); ok && 10*third[pair] >= 9*first[word] && first[word] > 1 && !strings.ContainsAny(by, "{}0123456789") {
				out = append(out, fmt.Sprintf("%s {name} %s {value}", word, by))
			}
		}
		out = append(out, word+" {name} = {value}", word+" {name} {value}")
	}
	return out
}

// ReadShape reads the shape of a dictionary file by itself.
func ReadShape(text string) (*Shape, error) {
	s := &Shape{}
	if err := quad.ReadYAML([]byte(text), s); err != nil {
		return nil, err
	}
	return s, s.build()
}

// Text of the shape, as it stands in a dictionary file.
func (s *Shape) Text() (string, error) {
	text, err := yaml.Marshal(s)
	return string(text), err
}
