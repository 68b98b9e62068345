package firmware

import (
	"fmt"
	"math/rand/v2"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"vividperch/core/quad"
)

func marram(t testing.TB) *Line {
	t.Helper()
	l, ok := FindLine("Marram")
	if !ok {
		t.Fatal("the product ships no line Marram")
	}
	return l
}

// randomRaw is a valid raw value of a setting.
func randomRaw(r *rand.Rand, s Setting) string {
	number := func() string { return strconv.Itoa(s.Min + r.IntN(s.Max-s.Min+1)) }
	switch s.Kind {
	case "whole":
		return number()
	case "word":
		return s.Words[r.IntN(len(s.Words))]
	case "list":
		parts := make([]string, s.Items)
		for i := range parts {
			if parts[i] = number(); len(s.Words) > 0 {
				parts[i] = s.Words[r.IntN(len(s.Words))]
			}
		}
		return strings.Join(parts, ":")
	}
	return fmt.Sprintf("text %d", r.IntN(100))
}

// Whatever a board can hold is read into the sheet and written back as the same raw values.
func TestRawToSheetAndBack(t *testing.T) {
	l := marram(t)
	for seed := range uint64(300) {
		r := rand.New(rand.NewPCG(seed, 3))
		raw := map[string]string{}
		for _, s := range l.Facts.Settings {
			raw[s.Name] = randomRaw(r, s)
		}
		raw["hear.order"] = []string{"AETR", "TAER", "RETA"}[r.IntN(3)]
		raw["out.flags"] = strconv.Itoa(r.IntN(2)) // one bit is mapped; another would be lost
		sheet, err := l.Dictionary.Decode(raw)
		if err != nil {
			t.Fatalf("seed %d: %v", seed, err)
		}
		back, err := l.Dictionary.Encode(sheet)
		if err != nil {
			t.Fatalf("seed %d: %v", seed, err)
		}
		for name, value := range back {
			if raw[name] != value {
				t.Fatalf("seed %d: %s was %s and came back %s", seed, name, raw[name], value)
			}
		}
	}
}

func TestEveryKindOfMapping(t *testing.T) {
	l := marram(t)
	raw := l.Facts.Defaults()
	for name, value := range map[string]string{"out.rest": "55", "gate.arm": "5:177:220", "out.places": "fr:rl:fl:rr", "hear.flags": "2", "volt.warn": "3", "volt.warn.part": "7", "out.pairs": "6", "quiet.guard": "14", "esc.B.turn": "reversed"} {
		raw[name] = value
	}
	sheet, err := l.Dictionary.Decode(raw)
	if err != nil {
		t.Fatal(err)
	}
	// Worked by hand from the comments of the dictionary.
	for path, want := range map[quad.Path]any{
		"motors.idle":               5.5,
		"sticks.arm.channel":        5,
		"sticks.arm.from":           1885.0,
		"sticks.arm.to":             2100.0,
		"motors.outputs.B.corner":   quad.RearLeft,
		"motors.outputs.B.reversed": true,
		"link.inverted":             false,
		"link.telemetry":            true,
		"watch.warnPerCell":         3.07,
		"motors.poles":              12,
		"loss.guard":                0.7,
	} {
		if got, err := quad.Get(sheet, path); err != nil || !reflect.DeepEqual(got, want) {
			t.Errorf("%s is %v (%v), want %v", path, got, err, want)
		}
	}
}

func TestEncodeRefusesWhatDoesNotFit(t *testing.T) {
	l := marram(t)
	sheet, err := l.Dictionary.Decode(l.Facts.Defaults())
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct {
		name   string
		change func(*quad.Sheet)
		want   string
	}{
		{"idle over the line's range", func(s *quad.Sheet) { s.Motors.Idle = 25 }, "out-of-range out.rest"},
		{"a policy the line does not have", func(s *quad.Sheet) { s.Loss.Policy = quad.PolicyReturn }, "no-counterpart sheet.loss.policy"},
		{"another setting that is none", func(s *quad.Sheet) { s.Firmware.Other = []string{"no such = 1"} }, "unknown-setting sheet.firmware.other"},
		{"another setting out of range", func(s *quad.Sheet) { s.Firmware.Other = []string{"note.light = 9"} }, "out-of-range note.light"},
		{"another line that is no setting", func(s *quad.Sheet) { s.Firmware.Other = []string{"note.light"} }, "not-a-setting line 1"},
	} {
		s := sheet
		c.change(&s)
		if _, err := l.Dictionary.Encode(s); code(err) != c.want {
			t.Errorf("%s: got %q, want %q", c.name, code(err), c.want)
		}
	}
}

// Two figures that the line cannot tell apart are no difference between board and sheet.
func TestAlikeIsRaw(t *testing.T) {
	d := marram(t).Dictionary
	for _, c := range []struct {
		path quad.Path
		a, b any
		want bool
	}{
		{"sheet.sticks.arm.from", 1887.0, 1885.0, true}, // steps of 5 µs
		{"sheet.sticks.arm.from", 1890.0, 1885.0, false},
		{"sheet.motors.idle", 5.52, 5.5, true},
		{"sheet.motors.idle", 5.6, 5.5, false},
		{"sheet.watch.warnPerCell", 3.501, 3.5, true},
		{"sheet.watch.warnPerCell", 3.51, 3.5, false},
		{"sheet.motors.poles", 14, 12, false},
		{"sheet.craft.layout", quad.LayoutX, quad.LayoutPlus, false},
		{"sheet.motors.twoWay", true, true, true},
	} {
		if got := d.Alike(c.path, c.a, c.b); got != c.want {
			t.Errorf("%s: %v and %v alike: %v", c.path, c.a, c.b, got)
		}
	}
}

func TestBoardKeepsWhatHasNoSubject(t *testing.T) {
	settings := marram(t).Facts.Defaults()
	settings["from.the.future"] = "1"
	b := Board("HARRIER4", "Marram", "7.0.2", settings, time.Time{})
	if b.Sheet.Motors.Idle != 5.5 {
		t.Error("the mapped settings are not on the sheet")
	}
	for name, want := range map[string]bool{"note.light": true, "from.the.future": true, "out.rest": false, "volt.warn.part": false, "found.level.roll": false} {
		if got := slices.ContainsFunc(b.Unmapped, func(line string) bool { return strings.HasPrefix(line, name+" =") }); got != want {
			t.Errorf("%s without a subject: %v, want %v", name, got, want)
		}
	}
	if other := Board("X", "Unheard", "1", settings, time.Time{}); other.Sheet.Motors.Idle != 0 || !other.Read() {
		t.Error("an unknown line must leave the sheet empty and still count as read")
	}
}

func TestReadLineRefusesADictionaryThatDoesNotFit(t *testing.T) {
	facts := "line: L\nversion: '1'\nsettings:\n  - {name: a, kind: whole, min: 0, max: 9, default: '1'}\n"
	for name, c := range map[string]struct{ facts, dictionary, want string }{
		"sound":               {facts, "line: L\nentries:\n  - {kind: scalar, setting: a, path: sheet.motors.idle}\n", "<nil>"},
		"another line":        {facts, "line: M\nentries: []\n", "other-line line"},
		"an unknown setting":  {facts, "line: L\nentries:\n  - {kind: scalar, setting: b, path: sheet.motors.idle}\n", "unknown-setting b"},
		"an unknown kind":     {facts, "line: L\nentries:\n  - {kind: magic, setting: a, path: sheet.motors.idle}\n", "unknown-kind a"},
		"an unknown path":     {facts, "line: L\nentries:\n  - {kind: scalar, setting: a, path: sheet.motors.speed}\n", "unknown-path sheet.motors.speed"},
		"not the sheet":       {facts, "line: L\nentries:\n  - {kind: scalar, setting: a, path: parts.motor.kv}\n", "not-sheet parts.motor.kv"},
		"mapped twice":        {facts, "line: L\nentries:\n  - {kind: scalar, setting: a, path: sheet.motors.idle}\n  - {kind: scalar, setting: a, path: sheet.motors.idle}\n", "mapped-twice sheet.motors.idle"},
		"a default that errs": {strings.Replace(facts, "'1'}", "'10'}", 1), "line: L\nentries: []\n", "out-of-range a"},
		"a setting twice":     {facts + "  - {name: a, kind: text}\n", "line: L\nentries: []\n", "duplicate a"},
	} {
		if _, err := ReadLine([]byte(c.facts), []byte(c.dictionary)); code(err) != c.want {
			t.Errorf("%s: got %q, want %q", name, code(err), c.want)
		}
	}
}

func TestListIsReadWhole(t *testing.T) {
	l := marram(t)
	list, err := ReadList([]byte("# from the bench\r\nout.rest = 60\n\nnope = 1\nout.rest = 61\nlean.limit = 9000\nesc.B.turn=reversed # wires\nsave\n"))
	if err != nil {
		t.Fatal(err)
	}
	got, faults := l.Facts.CheckList(list)
	var said []string
	for _, f := range faults {
		said = append(said, f.Code+" "+f.Place)
	}
	if want := []string{"unknown-setting line 4", "duplicate line 5", "out-of-range line 6"}; !reflect.DeepEqual(said, want) {
		t.Errorf("faults %q, want %q", said, want)
	}
	if want := map[string]string{"out.rest": "60", "esc.B.turn": "reversed"}; !reflect.DeepEqual(got, want) {
		t.Errorf("settings %v", got)
	}
	for text, want := range map[string]string{"just words": "not-a-setting line 1", "= 4": "not-a-setting line 1", strings.Repeat("x", 600) + " = 1": "line-too-long line 1"} {
		if _, err := ReadList([]byte(text)); code(err) != want {
			t.Errorf("%.20q: got %q, want %q", text, code(err), want)
		}
	}
}

func TestWriteListComesBack(t *testing.T) {
	l := marram(t)
	settings := l.Facts.Defaults()
	settings["out.rest"], settings["craft.name"] = "70", "Dunlin"
	if got := string(WriteList(settings, l.Facts.Defaults())); got != "craft.name = Dunlin\nout.rest = 70\n" {
		t.Errorf("what differs: %q", got)
	}
	list, err := ReadList(WriteList(settings, nil))
	if err != nil {
		t.Fatal(err)
	}
	back, faults := l.Facts.CheckList(list)
	if len(faults) > 0 || !reflect.DeepEqual(back, settings) {
		t.Errorf("came back with %v: %v", faults, back)
	}
	if c := Changes(settings, map[string]string{"out.rest": "70", "loop.rate": "80"}); len(c) != 1 || c[0] != (Change{"loop.rate", "40", "80"}) {
		t.Errorf("changes %v", c)
	}
}

func FuzzReadList(f *testing.F) {
	f.Add([]byte("out.rest = 60\nsave"))
	f.Add([]byte("=\x00#"))
	f.Fuzz(func(t *testing.T, text []byte) {
		list, err := ReadList(text)
		if err != nil {
			return
		}
		l, _ := FindLine("Marram")
		got, faults := l.Facts.CheckList(list)
		if len(got)+len(faults) != len(list) {
			t.Errorf("%d lines became %d settings and %d faults", len(list), len(got), len(faults))
		}
		settings := l.Facts.Defaults()
		for name, value := range got {
			settings[name] = value
		}
		if _, err := l.Dictionary.Decode(settings); err != nil {
			t.Errorf("what was checked cannot be decoded: %v", err)
		}
	})
}

func FuzzReadLine(f *testing.F) {
	f.Add([]byte("line: L\nsettings: []"), []byte("line: L\nentries: []"))
	f.Fuzz(func(_ *testing.T, facts, dictionary []byte) { _, _ = ReadLine(facts, dictionary) })
}
