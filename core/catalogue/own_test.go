package catalogue

import (
	"encoding/json"
	"math/rand/v2"
	"reflect"
	"strings"
	"testing"

	"vividperch/core/columns"
	"vividperch/core/quad"
)

// Every entry that ships could be a pilot's own: it passes the gate, goes out as a file and comes back; and as a row of cells, but for
// what no cell can hold.
func TestOwnPartsGoOutAndComeBack(t *testing.T) {
	shipped := Shipped()
	for _, e := range shipped {
		if err := e.Check(); err != nil {
			t.Errorf("%s: %v", e.Name, err)
		}
	}
	text, err := File(shipped)
	if err != nil {
		t.Fatal(err)
	}
	back, faults := ReadFile(text)
	if len(faults) > 0 || len(back) != len(shipped) {
		t.Fatalf("%d of %d come back, %v", len(back), len(shipped), faults)
	}
	for i, e := range shipped {
		var p, q quad.Parts
		if put(&p, e) != nil || put(&q, back[i]) != nil || !reflect.DeepEqual(p, q) || !reflect.DeepEqual(e.Shape, back[i].Shape) || e.Stator != back[i].Stator {
			t.Errorf("%s comes back otherwise", e.Name)
		}
	}
	for _, e := range shipped {
		if e.Kind == Board { // ports and pads have no cells
			continue
		}
		cells := e.Cells()
		table := columns.Table{Lines: []int{1}, Rows: [][]string{{}}}
		for _, key := range quad.SortedKeys(cells) {
			table.Head, table.Rows[0] = append(table.Head, key), append(table.Rows[0], cells[key])
		}
		rows, faults := table.Take(Fields(e.Kind), table.Head)
		if len(faults) > 0 || len(rows) != 1 {
			t.Errorf("%s: %v", e.Name, faults)
			continue
		}
		row := rows[0]
		again, err := FromRow(e.Kind, row)
		if err != nil {
			t.Errorf("%s: %v", e.Name, err)
			continue
		}
		again.Compass = e.Compass
		var p, q quad.Parts
		if put(&p, e) != nil || put(&q, again) != nil || !reflect.DeepEqual(p, q) || e.Stator != again.Stator || e.Shape != again.Shape || e.Mass != again.Mass {
			t.Errorf("%s as a row is %+v, was %+v", e.Name, again, e)
		}
	}
}

func TestPartsThatAreRefused(t *testing.T) {
	for name, c := range map[string]struct {
		e  Entry
		at string
	}{
		"no kind":            {Entry{Kind: "wing", Name: "A"}, "kind"},
		"no name":            {Entry{Kind: Motor}, "name"},
		"blanks around it":   {Entry{Kind: Motor, Name: " A"}, "name"},
		"a long name":        {Entry{Kind: Motor, Name: strings.Repeat("a", 61)}, "name"},
		"a line break":       {Entry{Kind: Motor, Name: "a\nb"}, "name"},
		"a pack with a stop": {Entry{Kind: Pack, Name: "a.b"}, "name"},
		"long words":         {Entry{Kind: Motor, Name: "A", Words: strings.Repeat("a", 201)}, "words"},
		"unknown figures":    {Entry{Kind: Motor, Name: "A", Part: json.RawMessage(`{"colour":1}`)}, ""},
		"a text for one":     {Entry{Kind: Motor, Name: "A", Part: json.RawMessage(`{"kv":"many"}`)}, "kv"},
		"out of range":       {Entry{Kind: Motor, Name: "A", Part: json.RawMessage(`{"kv":9e9}`)}, "parts.motor.kv"},
		"out of range, pack": {Entry{Kind: Pack, Name: "A", Part: json.RawMessage(`{"cells":40}`)}, "parts.packs.one.cells"},
		"too heavy":          {Entry{Kind: Motor, Name: "A", Mass: 1e6}, "mass"},
		"too many blades":    {Entry{Kind: Propeller, Name: "A", Shape: Shape{Blades: 13}}, "shape.blades"},
		"a stray compass":    {Entry{Kind: Motor, Name: "A", Compass: json.RawMessage(`{}`)}, "compass"},
		"too much":           {Entry{Kind: Board, Name: "A", Part: json.RawMessage(`{"target":"` + strings.Repeat("a", 20001) + `"}`)}, "part"},
		"an unknown word":    {Entry{Kind: Receiver, Name: "A", Part: json.RawMessage(`{"polarisation":"square"}`)}, "parts.receiver.polarisation"},
	} {
		if f := quad.AsFault(c.e.Check()); f == nil || f.Place != c.at {
			t.Errorf("%s: %v, want at %s", name, c.e.Check(), c.at)
		}
	}
	for name, text := range map[string]string{
		"another format": `{"format":2,"parts":[{"kind":"motor","name":"A","words":"","part":{}}]}`,
		"nothing":        `{"format":1,"parts":[]}`,
		"twice":          `{"format":1,"parts":[{"kind":"motor","name":"A","part":{}},{"kind":"motor","name":"A","part":{}}]}`,
		"no file":        `{"format":1,"things":[]}`,
		"no JSON":        `{`,
	} {
		if list, faults := ReadFile([]byte(text)); len(list) > 0 || len(faults) == 0 {
			t.Errorf("%s: %v", name, list)
		}
	}
}

// A table of each kind has fields for whatever an entry of it can tell in a cell, and no two of one label.
func TestFieldsOfEveryKind(t *testing.T) {
	for _, kind := range Kinds {
		fields := Fields(kind)
		labels := map[string]bool{}
		for _, f := range fields {
			if labels[f.Label] {
				t.Errorf("%s has %q twice", kind, f.Label)
			}
			labels[f.Label] = true
		}
		if len(fields) < 4 || fields[0].Key != "name" || !fields[0].Needed {
			t.Errorf("%s: %+v", kind, fields)
		}
		// Heads that are called as the fields are guessed as them.
		head, want := []string{}, []string{}
		for _, f := range fields {
			head, want = append(head, f.Label), append(want, f.Key)
		}
		r := rand.New(rand.NewPCG(3, 3))
		r.Shuffle(len(head), func(i, j int) { head[i], head[j] = head[j], head[i]; want[i], want[j] = want[j], want[i] })
		if got := columns.Guess(head, fields); !reflect.DeepEqual(got, want) {
			t.Errorf("%s: %q are guessed to be %q", kind, head, got)
		}
	}
}

func FuzzReadFile(f *testing.F) {
	text, err := File(Shipped()[:3])
	if err != nil {
		f.Fatal(err)
	}
	f.Add(text)
	f.Add([]byte(`{"format":1,"parts":[{"kind":"satellite","name":"A","part":{},"compass":null}]}`))
	f.Fuzz(func(t *testing.T, text []byte) {
		list, _ := ReadFile(text)
		for _, e := range list {
			if err := put(&quad.Parts{}, e); err != nil {
				t.Errorf("%+v passed and cannot be fitted: %v", e, err)
			}
			e.Figures()
			e.Cells()
		}
	})
}
