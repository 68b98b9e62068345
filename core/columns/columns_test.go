package columns

import (
	"encoding/csv"
	"math"
	"math/rand/v2"
	"reflect"
	"strconv"
	"strings"
	"testing"

	"vividperch/core/quad"
)

var fields = []Heading{
	{Key: "name", Label: "Name", Text: true, Needed: true, Words: []string{"model", "product"}},
	{Key: "part.mass", Label: "Mass", Unit: "g", Words: []string{"weight"}},
	{Key: "part.diameter", Label: "Diameter", Unit: "mm", Words: []string{"size"}},
	{Key: "part.cells", Label: "Cells", Unit: "count"},
}

func code(f *quad.Fault) string { return strings.TrimSpace(f.Code + " " + f.Place) }

// A table is what its cells say, whatever stands between them and whatever units its heads and cells have.
func TestTablesAreRead(t *testing.T) {
	for name, c := range map[string]struct {
		text    string
		guessed []string
		figures map[string]float64 // of the first row
	}{
		"commas":                      {"Name,Mass,Diameter\nKestrel 5,4.2,127\n", []string{"name", "part.mass", "part.diameter"}, map[string]float64{"part.mass": 4.2, "part.diameter": 127}},
		"semicolons, decimal commas":  {"Model;Weight (g);Size (in)\nKestrel 5;4,2;5\n", []string{"name", "part.mass", "part.diameter"}, map[string]float64{"part.mass": 4.2, "part.diameter": 127}},
		"tabs, other order":           {"Diameter [mm]\tName\n127\tKestrel 5\n", []string{"part.diameter", "name"}, map[string]float64{"part.diameter": 127}},
		"a cell with its own unit":    {"name|size (in)\nKestrel 5|127 mm\n", []string{"name", "part.diameter"}, map[string]float64{"part.diameter": 127}},
		"cells left empty":            {"Name,Mass,Diameter\nKestrel 5,,127\n", []string{"name", "part.mass", "part.diameter"}, map[string]float64{"part.diameter": 127}},
		"short rows, blank lines":     {"\ufeffName,Mass,Diameter\r\n\r\nKestrel 5,4.2\r\n", []string{"name", "part.mass", "part.diameter"}, map[string]float64{"part.mass": 4.2}},
		"columns that nobody wants":   {"Id,Name,Colour,Mass\n7,Kestrel 5,red,4.2\n", []string{"", "name", "", "part.mass"}, map[string]float64{"part.mass": 4.2}},
		"quotation marks":             {"Name,Mass\n\"Kestrel 5, two blades\",4.2\n", []string{"name", "part.mass"}, map[string]float64{"part.mass": 4.2}},
		"a head of another dimension": {"Name,Mass (mm)\nKestrel 5,4.2\n", []string{"name", ""}, map[string]float64{}},
	} {
		table, err := Read([]byte(c.text))
		if err != nil {
			t.Fatalf("%s: %v", name, err)
		}
		guessed := Guess(table.Head, fields)
		if !reflect.DeepEqual(guessed, c.guessed) {
			t.Errorf("%s: guessed %q", name, guessed)
		}
		rows, faults := table.Take(fields, guessed)
		if len(faults) > 0 || len(rows) != 1 || !strings.HasPrefix(rows[0].Texts["name"], "Kestrel 5") || len(rows[0].Figures) != len(c.figures) {
			t.Errorf("%s: %+v, %v", name, rows, faults)
			continue
		}
		for key, want := range c.figures {
			if !(math.Abs(rows[0].Figures[key]-want) <= 1e-9) {
				t.Errorf("%s: %s is %g, want %g", name, key, rows[0].Figures[key], want)
			}
		}
	}
}

// What cannot be taken is told with its line; the other rows are taken all the same.
func TestWhatIsNoTable(t *testing.T) {
	for text, want := range map[string]string{
		"":                                  "not-a-table",
		"Name,Mass\n":                       "not-a-table",
		"Name,Mass\na,1,2\n":                "not-a-table line 2",
		"Name,Mass\n\"a,1\n":                "not-a-table line 2",
		"Name\x00,Mass\na,1\n":              "not-a-table",
		"Name\xff,Mass\na,1\n":              "not-a-table",
		strings.Repeat("a,", 100) + "\n1\n": "not-a-table line 1",
		"Name\n" + strings.Repeat("a\n", MostRows+1): "too-large line 20002",
		strings.Repeat("a", MostBytes+1):             "too-large",
		"Name\n" + strings.Repeat("a", 501) + "\n":   "not-a-table line 2",
	} {
		if _, err := Read([]byte(text)); err == nil || code(quad.AsFault(err)) != want {
			t.Errorf("%q: %v, want %s", quad.Clip(text, 30), err, want)
		}
	}
	table, err := Read([]byte("Name,Mass,Cells\nA,heavy,4\n,3,4\nB,3,4\nC,2 mm,x\n"))
	if err != nil {
		t.Fatal(err)
	}
	rows, faults := table.Take(fields, Guess(table.Head, fields))
	if len(rows) != 1 || rows[0].Texts["name"] != "B" || rows[0].Line != 4 {
		t.Errorf("%+v", rows)
	}
	var told []string
	for _, f := range faults {
		told = append(told, code(f))
	}
	if want := []string{"not-a-figure line 2", "no-cell line 3", "not-a-figure line 5", "not-a-figure line 5"}; !reflect.DeepEqual(told, want) {
		t.Errorf("told %q", told)
	}
	for name, columns := range map[string][]string{"no-column": {"", "part.mass", ""}, "two-columns": {"name", "part.mass", "part.mass"}, "no-field colour": {"name", "colour", ""}} {
		if _, faults := table.Take(fields, columns); len(faults) != 1 || code(faults[0]) != name {
			t.Errorf("%s: %v", name, faults)
		}
	}
}

// A head in other units is refused where it is said to be a figure of another dimension: nothing is taken for what it is not.
func TestAHeadOfAnotherDimension(t *testing.T) {
	table, err := Read([]byte("Name,Mass (mm)\nA,3\n"))
	if err != nil {
		t.Fatal(err)
	}
	if rows, faults := table.Take(fields, []string{"name", "part.mass"}); len(rows) != 0 || len(faults) != 1 {
		t.Errorf("%+v, %v", rows, faults)
	}
}

// Whatever is written as a table by another writer comes back cell by cell.
func TestTablesComeBack(t *testing.T) {
	r := rand.New(rand.NewPCG(6, 6))
	letters := []rune("ab ,;|\"\tµ9.-(")
	for range 500 {
		var out strings.Builder
		w := csv.NewWriter(&out)
		w.Comma = []rune{',', ';', '|'}[r.IntN(3)]
		head := []string{"Name", "A", "B", "C", "D"}
		want := [][]string{}
		_ = w.Write(head)
		for range 1 + r.IntN(5) {
			row := []string{"x" + strconv.Itoa(r.IntN(100))}
			for len(row) < len(head) {
				cell := make([]rune, r.IntN(6))
				for i := range cell {
					cell[i] = letters[r.IntN(len(letters))]
				}
				row = append(row, strings.TrimSpace(string(cell)))
			}
			want = append(want, row)
			_ = w.Write(row)
		}
		w.Flush()
		got, err := Read([]byte(out.String()))
		if err != nil || !reflect.DeepEqual(got.Head, head) || !reflect.DeepEqual(got.Rows, want) {
			t.Fatalf("%q: %v\n%q\n%q", out.String(), err, got.Rows, want)
		}
	}
}

func TestHeadsAreKnownAgain(t *testing.T) {
	a := Table{Head: []string{"a", "bc"}}
	if a.Known() != (Table{Head: []string{"a", "bc"}, Rows: [][]string{{"1", "2"}}}).Known() || a.Known() == (Table{Head: []string{"ab", "c"}}).Known() {
		t.Error("other heads are known by the same, or the same by others")
	}
}

func FuzzRead(f *testing.F) {
	f.Add([]byte("Name,Mass (g)\nA,3\n"))
	f.Add([]byte("a;b\n\"1;2\";3,5\n"))
	f.Fuzz(func(t *testing.T, text []byte) {
		table, err := Read(text)
		if err != nil {
			return
		}
		rows, faults := table.Take(fields, Guess(table.Head, fields))
		if len(rows) > len(table.Rows) || len(table.Lines) != len(table.Rows) {
			t.Errorf("%d rows of %d, %v", len(rows), len(table.Rows), faults)
		}
		for _, row := range table.Rows {
			if len(row) != len(table.Head) {
				t.Errorf("a row of %d cells under %d heads", len(row), len(table.Head))
			}
		}
	})
}
