package firmware

import (
	"bytes"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"vividperch/core/quad"
)

// driftwood is an invented family whose lists hold every kind of line: words around, records, flags, sections, columns, comments, continued lines.
const driftwood = `
line: Driftwood
versions: [{version: 1.0.0}]
shape:
  comments: ["%", "//"]
  continued: "&"
  skip: ["== {*} ==", "thus ends it"]
  lines:
    - {line: "let {name} be {value}"}
    - {line: "{name} <{n}> {value}", as: "{name}.{n}", only: [lane, seat]}
    - {line: "without {name}", as: "with.{name}", is: "no"}
    - {line: "with {name}", as: "with.{name}", is: "yes"}
    - {line: "[{section}]", opens: "{section}."}
    - {line: "{name};{value};{*}"}
settings:
  - {name: idle, kind: decimal, places: 1, min: 0, max: 20, default: "5", suffix: " pc"}
  - {name: title, kind: text, default: ""}
  - {name: "lane.*", each: ["1", "2"], kind: list, items: 3, min: 0, max: 3000, default: "0/0/0", separator: "/"}
  - {name: "seat.*", each: ["1", "2"], kind: word, words: [fl, fr, rl, rr], default: fl}
  - {name: "with.*", each: [beeper, telemetry], kind: word, words: ["yes", "no"], default: "no"}
  - {name: watch.warn, kind: decimal, places: 2, min: 2, max: 4.4, default: "3.5"}
  - {name: watch.land, kind: decimal, places: 2, min: 2, max: 4.4, default: "3.3", prefix: "upto:"}
entries:
  - {kind: scalar, setting: idle, path: sheet.motors.idle}
  - {kind: scalar, setting: watch.warn, path: sheet.watch.warnPerCell}
`

const driftwoodList = "\ufeff% line: Driftwood\r\n% version: 1.0.0\r\n== a list ==\r\nLet it be\r\n"

const driftwoodText = "% line: Driftwood\r\n\r\n== all of it ==\r\nlet  idle   be 5.5 pc   // while armed\r\nlet title be \"a 5 % slope\"\r\nlane <1> 5/1000/&\r\n   2000\r\nseat <2> rr\r\nwithout beeper\r\nwith telemetry % kept\r\n[watch]\r\nwarn;3.5;per cell\r\nland;upto:3.3;per cell\r\nthus ends it"

func taughtIn(t testing.TB, text string) *Build {
	t.Helper()
	l, err := Taught(text)
	if err != nil {
		t.Fatal(err)
	}
	return l.Newest()
}

// Lists in unlike shapes read as what they say, print back as they were, and one edit changes one line.
func TestListsInShapes(t *testing.T) {
	b := taughtIn(t, driftwood)
	text := []byte(driftwoodText)
	list, err := b.ReadList(text)
	if err != nil {
		t.Fatal(err)
	}
	var got []string
	for _, s := range list.Settings {
		got = append(got, fmt.Sprintf("%d %s=%s", s.Line, s.Name, s.Value))
	}
	want := []string{"4 idle=5.5", `5 title="a 5 % slope"`, "6 lane.1=5/1000/ 2000", "8 seat.2=rr", "9 with.beeper=no", "10 with.telemetry=yes", "12 watch.warn=3.5", "13 watch.land=3.3"}
	if !slices.Equal(got, want) || list.Is.Line != "Driftwood" {
		t.Errorf("it reads as\n%s", strings.Join(got, "\n"))
	}
	for _, c := range []struct {
		name, value string
		line        int // of the one that changes
		becomes     string
	}{
		{"idle", "6", 4, "let  idle   be 6 pc   // while armed\r"},
		{"seat.2", "fl", 8, "seat <2> fl\r"},
		{"with.beeper", "yes", 9, "with beeper\r"},
		{"with.telemetry", "no", 10, "without telemetry % kept\r"},
		{"watch.land", "3.2", 13, "land;upto:3.2;per cell\r"},
	} {
		out, err := b.EditList(text, map[string]string{c.name: c.value})
		if err != nil {
			t.Errorf("%s: %v", c.name, err)
			continue
		}
		before, after := strings.Split(driftwoodText, "\n"), strings.Split(string(out), "\n")
		for i := range before {
			switch {
			case i >= len(after) || len(after) != len(before):
				t.Fatalf("%s: %d lines became %d", c.name, len(before), len(after))
			case i == c.line-1 && after[i] != c.becomes:
				t.Errorf("%s: line %d became %q", c.name, i+1, after[i])
			case i != c.line-1 && after[i] != before[i]:
				t.Errorf("%s: line %d changed too: %q", c.name, i+1, after[i])
			}
		}
	}
	// What the list does not name goes to its section, in the way the family writes it.
	out, err := b.EditList(text, map[string]string{"seat.1": "fr", "lane.2": "6/1000/1500"})
	if err != nil || !bytes.Contains(out, []byte("lane <2> 6/1000/1500\r\n")) || !bytes.Contains(out, []byte("seat <1> fr\r\n")) {
		t.Errorf("added: %v\n%s", err, out)
	}
	commands, err := b.Commands([]Change{{Name: "idle", After: "6"}, {Name: "with.beeper", After: "yes"}, {Name: "lane.2", After: "6/1000/1500"}, {Name: "watch.land", After: "3.2"}})
	if err != nil || !slices.Equal(commands, []string{"let idle be 6 pc", "with beeper", "lane <2> 6/1000/1500", "[watch]", "let land be upto:3.2"}) {
		t.Errorf("to type: %q, %v", commands, err)
	}
}

// What could be read in two ways, or in none, is refused where it is told.
func TestShapesThatAreRefused(t *testing.T) {
	for name, c := range map[string]struct{ shape, at string }{
		"no line":                {"{lines: []}", "shape.lines"},
		"a hole nobody knows":    {`{lines: [{line: "{colour} {value}"}]}`, "shape.lines.0"},
		"a hole that never ends": {`{lines: [{line: "{name}{value}"}]}`, "shape.lines.0"},
		"a hole twice":           {`{lines: [{line: "{name} {name} {value}"}]}`, "shape.lines.0"},
		"no name":                {`{lines: [{line: "be {value}"}]}`, "shape.lines.0"},
		"no value":               {`{lines: [{line: "let {name}"}]}`, "shape.lines.0"},
		"a value and what it is": {`{lines: [{line: "let {name} be {value}", is: "no"}]}`, "shape.lines.0"},
		"a name of what is not":  {`{lines: [{line: "let {name} be {value}", as: "{n}"}]}`, "shape.lines.0"},
		"a section with a value": {`{lines: [{line: "[{section}] {value}", opens: "{section}."}]}`, "shape.lines.0"},
		"a brace is open":        {`{lines: [{line: "let {name be {value}"}]}`, "shape.lines.0"},
		"a mark with a blank":    {`{comments: ["a b"], lines: [{line: "{name} {value}"}]}`, "shape.comments"},
		"a sum with a name":      {`{checksum: {line: "sum {name}"}, lines: [{line: "{name} {value}"}]}`, "shape.checksum"},
	} {
		_, err := Taught("line: Any\nversions: [{version: 1.0.0}]\nsettings: [{name: a, kind: text}]\nshape: " + c.shape + "\n")
		if f := quad.AsFault(err); f == nil || f.Code != "bad-shape" || f.Place != c.at {
			t.Errorf("%s: %v", name, err)
		}
	}
	b := taughtIn(t, strings.Replace(driftwood, "  lines:\n", "  checksum: {line: \"sum {hex}\"}\n  lines:\n", 1))
	summed := []byte(driftwoodText + "\r\nsum 00ff\r\n")
	if out, err := b.EditList(summed, map[string]string{"idle": "5.5"}); err != nil || !bytes.Equal(out, summed) {
		t.Errorf("a list with a checksum and nothing changed: %v", err)
	}
	if _, err := b.EditList(summed, map[string]string{"idle": "6"}); err == nil || quad.AsFault(err).Code != "checksum" {
		t.Errorf("a list with a checksum: %v", err)
	}
	if _, err := b.ReadList([]byte("let idle be 5 pc\nhello\n")); err == nil || quad.AsFault(err).Place != "line 2" {
		t.Errorf("a line that fits nothing: %v", err)
	}
}

// drawnShape is a shape with a list in it, drawn: its kinds of lines begin or part in ways of their own.
func drawnShape(r *rand.Rand) (shape, list string, names []string) {
	kinds := []struct{ line, print string }{
		{"{name} = {value}", "%s = %s"}, {"{name}:{value}", "%s:%s"}, {"let {name} be {value}", "let %s be %s"}, {"put {value} into {name}", "put %[2]s into %[1]s"},
		{"{name};{value};{*}", "%s;%s;whatever it is"}, {"({name} {value})", "(%s %s)"}, {"{name} -> {value}", "%s ->   %s"}, {"@{name}|{value}|", "@%s|%s|"},
	}
	marks := []string{"%", "//", "#", "!!"}
	mark, kind := marks[r.IntN(len(marks))], kinds[r.IntN(len(kinds))]
	ends := []string{"\n", "\r\n"}[r.IntN(2)]
	shape = fmt.Sprintf("line: Drawn\nversions: [{version: 1.0.0}]\nshape:\n  comments: [%q]\n  skip: [\"thus ends it\"]\n  lines: [{line: \"[{section}]\", opens: \"{section}.\"}, {line: %q}]\nsettings:\n", mark, kind.line)
	var out strings.Builder
	if r.IntN(3) == 0 {
		out.WriteString("\ufeff")
	}
	under := ""
	for i := range 3 + r.IntN(12) {
		switch r.IntN(6) {
		case 0:
			out.WriteString(mark + " a remark, 5" + ends)
		case 1:
			out.WriteString(ends)
		case 2:
			under = fmt.Sprintf("part%d.", i)
			out.WriteString("[part" + fmt.Sprint(i) + "]" + ends)
		}
		own := fmt.Sprintf("set%d", i)
		names = append(names, under+own)
		out.WriteString(strings.Repeat(" ", r.IntN(3)) + fmt.Sprintf(kind.print, own, fmt.Sprint(r.IntN(1000))))
		if r.IntN(4) == 0 {
			out.WriteString("  " + mark + " kept")
		}
		out.WriteString(ends)
	}
	if r.IntN(2) == 0 {
		out.WriteString("thus ends it")
	}
	for _, n := range names {
		shape += fmt.Sprintf("  - {name: %q, kind: whole, min: 0, max: 99999, default: \"0\"}\n", n)
	}
	return shape + "entries: []\n", out.String(), names
}

// For shapes drawn at random, a text with nothing edited comes back byte for byte, and one edit changes one line.
func TestDrawnShapesComeBack(t *testing.T) {
	r := rand.New(rand.NewPCG(16, 2))
	for range 400 {
		file, text, names := drawnShape(r)
		b := taughtIn(t, file)
		list, err := b.ReadList([]byte(text))
		if err != nil || len(list.Settings) != len(names) {
			t.Fatalf("%v: %d of %d read\n%s\n%s", err, len(list.Settings), len(names), file, text)
		}
		same := map[string]string{}
		for i, s := range list.Settings {
			if s.Name != names[i] {
				t.Fatalf("%q for %q in\n%s", s.Name, names[i], text)
			}
			same[s.Name] = s.Value
		}
		if out, err := b.EditList([]byte(text), same); err != nil || string(out) != text {
			t.Fatalf("nothing was edited: %v\n%s\n%s", err, text, out)
		}
		name := names[r.IntN(len(names))]
		out, err := b.EditList([]byte(text), map[string]string{name: "77777"})
		if err != nil {
			t.Fatalf("%v\n%s\n%s", err, file, text)
		}
		before, after := strings.Split(text, "\n"), strings.Split(string(out), "\n")
		differ := 0
		for i := range min(len(before), len(after)) {
			if before[i] != after[i] {
				differ++
			}
		}
		if differ != 1 || len(before) != len(after) {
			t.Fatalf("%d lines differ\n%s\n%s", differ, text, out)
		}
	}
}

// What a list looks like is guessed well enough that it is read whole.
func TestShapesAreGuessed(t *testing.T) {
	for name, c := range map[string]struct {
		text string
		line string
		n    int
	}{
		"as usual":        {"# a list\na = 1\nb = 2\n", "{name} = {value}", 2},
		"words around":    {"% a list\nlet a be 1\nlet b be 2\nlet c be 3\nthus ends it\n", "let {name} be {value}", 3},
		"a command":       {"// x\nput idle 5\nput warn 3.5\nput land 3.3\n", "put {name} {value}", 3},
		"columns":         {"a;1;what a is\nb;2;what b is\n", "{name};{value};{*}", 2},
		"with sections":   {"[one]\na: 1\nb: 2\n[two]\na: 3\n", "{name}: {value}", 3},
		"parted by blank": {"a 1\nb 2\nc 3\n", "{name} {value}", 3},
	} {
		s := GuessShape([]byte(c.text))
		list, err := s.List([]byte(c.text))
		if last := s.Lines[len(s.Lines)-1].Line; last != c.line || err != nil || len(list.Settings) != c.n {
			t.Errorf("%s: %q, %d settings, %v", name, last, len(list.Settings), err)
		}
	}
}

// Whatever stands in a dictionary's shape and in a list, reading and printing neither fail hard nor lose anything.
func FuzzShape(f *testing.F) {
	f.Add(driftwood, driftwoodText, "idle", "6")
	f.Add(driftwood, driftwoodList, "with.beeper", "yes")
	r := rand.New(rand.NewPCG(1, 1))
	for range 5 {
		file, text, names := drawnShape(r)
		f.Add(file, text, names[0], "8")
	}
	f.Fuzz(func(t *testing.T, file, text, name, value string) {
		guessed := GuessShape([]byte(text))
		_, _ = guessed.List([]byte(text))
		l, err := Taught(file)
		if err != nil {
			return
		}
		b := l.Newest()
		list, err := b.ReadList([]byte(text))
		if err != nil {
			return
		}
		if out, err := b.EditList([]byte(text), nil); err != nil || string(out) != text {
			t.Fatalf("nothing was edited: %v\n%q\n%q", err, text, out)
		}
		out, err := b.EditList([]byte(text), map[string]string{name: value})
		if err != nil {
			return
		}
		again, err := b.ReadList(out)
		if err != nil {
			t.Fatalf("%v\n%q\n%q", err, text, out)
		}
		held := func(l List) map[string]string {
			m := map[string]string{}
			for _, s := range l.Settings {
				m[s.Name] = s.Value
			}
			return m
		}
		was, is := held(list), held(again)
		for n, v := range is {
			if want, had := was[n]; n == name && v != value || n != name && (!had || v != want) {
				t.Fatalf("%s became %q\n%q\n%q", n, v, text, out)
			}
		}
	})
}
