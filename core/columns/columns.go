// Package columns reads tables that pilots bring as text, from a spreadsheet, a test stand or a scale, and puts their columns to what the
// program wants to know. Which column is what is guessed from the heads, said by the pilot, and remembered by the heads: a second table of the
// same program needs nothing said.
package columns

import (
	"crypto/sha256"
	"encoding/csv"
	"encoding/hex"
	"errors"
	"io"
	"regexp"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"vividperch/core/quad"
)

// What a table may have at most.
const (
	MostBytes   = 2_000_000
	MostRows    = 20_000
	MostColumns = 100
	mostCell    = 500 // characters
)

// Heading is something that a column of a table can be told to be.
type Heading struct {
	Key   string `json:"key"`
	Label string `json:"label"`
	// Unit of a figure, as the model has it; a head or a cell may name another that measures the same. Text has none.
	Unit string `json:"unit"`
	Text bool   `json:"text"`
	// Words are other names that heads have for it, in lower case.
	Words []string `json:"-"`
	// Needed says that a table without it is of no use.
	Needed bool `json:"needed"`
}

// Table as it was read. Lines are the line numbers of its rows, from 1.
type Table struct {
	Head  []string   `json:"head"`
	Rows  [][]string `json:"rows"`
	Lines []int      `json:"-"`
}

// Read a table with one line of heads. Between its cells stand commas, semicolons, tabs or vertical bars, whichever parts the heads into
// most; a cell in quotation marks may hold any of them. What is no such table is a Fault at its line.
func Read(text []byte) (Table, error) {
	if len(text) > MostBytes {
		return Table{}, quad.Faultf("too-large", "", "a table of more than 2 MB is not read")
	}
	if i := slices.Index(text, 0); i >= 0 || !utf8.Valid(text) {
		return Table{}, quad.Faultf("not-a-table", "", "that is no text; export it as comma-separated values")
	}
	body := strings.TrimPrefix(string(text), "\ufeff")
	head, _, _ := strings.Cut(strings.TrimLeft(body, "\r\n"), "\n")
	separator, most := ',', 0
	for _, s := range []rune{',', ';', '\t', '|'} {
		if n := strings.Count(head, string(s)); n > most {
			separator, most = s, n
		}
	}
	r := csv.NewReader(strings.NewReader(body))
	r.Comma, r.FieldsPerRecord, r.TrimLeadingSpace = separator, -1, separator != '\t'
	var t Table
	for {
		cells, err := r.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		line, _ := 0, 0
		if len(cells) > 0 {
			line, _ = r.FieldPos(0)
		}
		var wrong *csv.ParseError
		if errors.As(err, &wrong) {
			return Table{}, quad.Faultf("not-a-table", lineWords(wrong.Line), "a quotation mark stands alone")
		}
		if err != nil {
			return Table{}, quad.Faultf("not-a-table", lineWords(line), "cannot be read")
		}
		for i := range cells {
			cells[i] = strings.TrimSpace(cells[i])
			if quad.Longer(cells[i], mostCell) {
				return Table{}, quad.Faultf("not-a-table", lineWords(line), "has a cell of more than %d characters", mostCell)
			}
		}
		switch {
		case !slices.ContainsFunc(cells, func(c string) bool { return c != "" }):
			continue
		case len(cells) > MostColumns:
			return Table{}, quad.Faultf("not-a-table", lineWords(line), "has more than %d columns", MostColumns)
		case t.Head == nil:
			t.Head = cells
			continue
		case len(cells) > len(t.Head):
			return Table{}, quad.Faultf("not-a-table", lineWords(line), "has %d cells, and there are %d columns", len(cells), len(t.Head))
		case len(t.Rows) == MostRows:
			return Table{}, quad.Faultf("too-large", lineWords(line), "a table of more than 20,000 rows is not read")
		}
		t.Rows, t.Lines = append(t.Rows, append(cells, make([]string, len(t.Head)-len(cells))...)), append(t.Lines, line)
	}
	if len(t.Rows) == 0 {
		return Table{}, quad.Faultf("not-a-table", "", "there is a line of heads and at least one row in a table")
	}
	return t, nil
}

func lineWords(n int) string { return "line " + quad.Number(float64(max(1, n))) }

// Known is what the heads of a table are remembered by.
func (t Table) Known() string {
	sum := sha256.New()
	for _, h := range t.Head {
		sum.Write([]byte(h))
		sum.Write([]byte{0})
	}
	return hex.EncodeToString(sum.Sum(nil))
}

var unitIn = regexp.MustCompile(`[(\[]\s*([^()\[\]]{1,12}?)\s*[)\]]\s*$`)

// unitOf a head such as "Weight (g)", or nothing.
func unitOf(head string) string {
	if m := unitIn.FindStringSubmatch(head); m != nil {
		return m[1]
	}
	return ""
}

// wordsOf a head in lower case, without its unit.
func wordsOf(head string) []string {
	head = unitIn.ReplaceAllString(head, "")
	return strings.FieldsFunc(strings.ToLower(head), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) })
}

// Guess which field each column is, by its head: "" where none or more than one fits as well. No field is guessed twice.
func Guess(head []string, fields []Heading) []string {
	out := make([]string, len(head))
	type pair struct{ column, field, score int }
	var pairs []pair
	for i, h := range head {
		words := wordsOf(h)
		for j, f := range fields {
			best := 0
			for _, name := range append([]string{strings.ToLower(f.Label), strings.ToLower(lastOf(f.Key))}, f.Words...) {
				want := wordsOf(name)
				if len(want) == 0 || len(words) == 0 {
					continue
				}
				hit := 0
				for _, w := range want {
					if slices.Contains(words, w) {
						hit++
					}
				}
				if hit == len(want) {
					best = max(best, 100*hit-10*(len(words)-hit))
				}
			}
			if u := unitOf(h); best > 0 && u != "" && !f.Text {
				if _, err := quad.ParseQuantity("1 "+u, f.Unit); err != nil && u != quad.Shown(f.Unit) {
					best = 0
				}
			}
			if best > 0 {
				pairs = append(pairs, pair{i, j, best})
			}
		}
	}
	slices.SortStableFunc(pairs, func(a, b pair) int { return b.score - a.score })
	taken := map[int]bool{}
	for _, p := range pairs {
		if out[p.column] == "" && !taken[p.field] {
			out[p.column], taken[p.field] = fields[p.field].Key, true
		}
	}
	return out
}

func lastOf(key string) string { return key[strings.LastIndex(key, ".")+1:] }

// Row of a table, by the keys of fields. A cell that is empty is not there: it is not known.
type Row struct {
	Line    int
	Texts   map[string]string
	Figures map[string]float64
}

// Take the rows, with columns naming the field of each column, "" for one that is of no interest. A cell that is no such figure is a Fault at
// its line, and its row is left out; all of them are told.
func (t Table) Take(fields []Heading, columns []string) ([]Row, []*quad.Fault) {
	of := make([]*Heading, len(t.Head))
	for i := range min(len(columns), len(t.Head)) {
		if columns[i] == "" {
			continue
		}
		j := slices.IndexFunc(fields, func(f Heading) bool { return f.Key == columns[i] })
		if j < 0 {
			return nil, []*quad.Fault{quad.Faultf("no-field", quad.Clip(columns[i], 40), "is nothing that a column can be here")}
		}
		if slices.Contains(of[:i], &fields[j]) {
			return nil, []*quad.Fault{quad.Faultf("two-columns", "", "two columns are both said to be %q", fields[j].Label)}
		}
		of[i] = &fields[j]
	}
	for i := range fields {
		if fields[i].Needed && !slices.Contains(of, &fields[i]) {
			return nil, []*quad.Fault{quad.Faultf("no-column", "", "no column is said to be %q", fields[i].Label)}
		}
	}
	var out []Row
	var faults []*quad.Fault
	for n, cells := range t.Rows {
		row, whole := Row{Line: t.Lines[n], Texts: map[string]string{}, Figures: map[string]float64{}}, true
		for i, f := range of {
			switch cell := cells[i]; {
			case f == nil || cell == "" && !f.Needed:
			case cell == "":
				faults, whole = append(faults, quad.Faultf("no-cell", lineWords(t.Lines[n]), "%q is empty", f.Label)), false
			case f.Text:
				row.Texts[f.Key] = cell
			default:
				x, err := figureOf(cell, t.Head[i], f.Unit)
				if err != nil {
					faults, whole = append(faults, quad.Faultf("not-a-figure", lineWords(t.Lines[n]), "%q: %s", f.Label, quad.AsFault(err).Sentence)), false
					continue
				}
				row.Figures[f.Key] = x
			}
		}
		if whole {
			out = append(out, row)
		}
	}
	return out, faults
}

// figureOf a cell, in unit; the cell's own unit counts before the head's. A head's unit that measures something else is refused, so that
// nothing is taken for what it is not.
func figureOf(cell, head, unit string) (float64, error) {
	x, err := quad.ParseQuantity(cell, unit)
	u := unitOf(head)
	if err != nil || u == "" || u == quad.Shown(unit) || strings.ContainsFunc(cell, unicode.IsLetter) {
		return x, err
	}
	if _, plain := quad.ParseQuantity("1 "+u, unit); plain != nil {
		return 0, plain
	}
	return quad.ParseQuantity(cell+" "+u, unit)
}
