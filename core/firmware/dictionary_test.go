package firmware

import (
	"encoding/json"
	"math"
	"math/rand/v2"
	"reflect"
	"slices"
	"strings"
	"testing"

	"vividperch/core/quad"
)

func marram(t testing.TB) *Build { return build(t, "Marram", "7.0.2") }

func build(t testing.TB, line, version string) *Build {
	t.Helper()
	b, err := Find(line, version)
	if err != nil {
		t.Fatal(err)
	}
	return b
}

// everyBuild of every shipped line.
func everyBuild() []*Build {
	var out []*Build
	for _, name := range LineNames() {
		l, _ := FindLine(name)
		out = append(out, l.Builds()...)
	}
	return out
}

// randomRaw is a valid raw value of a setting, as the line itself writes it.
func randomRaw(r *rand.Rand, s Setting) string {
	number := func() string {
		steps := math.Pow10(s.Places)
		return plain(math.Round((s.Min+r.Float64()*(s.Max-s.Min))*steps)/steps, s.Places)
	}
	switch s.Kind {
	case "whole", "decimal":
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
		return strings.Join(parts, s.between())
	}
	return []string{"AETR", "TAER", "RETA"}[r.IntN(3)]
}

// randomSettings of a build: each its default, or anything that it can hold.
func randomSettings(r *rand.Rand, b *Build, changed float64) map[string]string {
	raw := b.Facts.Defaults()
	for _, s := range b.Facts.Settings {
		if r.Float64() < changed {
			raw[s.Name] = randomRaw(r, s)
		}
	}
	return raw
}

// Whatever a board can hold is read into the sheet and written back as the same raw values, in every version of
// every line: nothing that is mapped is lost, and nothing that is not is touched.
func TestRawToSheetAndBack(t *testing.T) {
	for _, b := range everyBuild() {
		for seed := range uint64(10) {
			r := rand.New(rand.NewPCG(seed, 3))
			raw := randomSettings(r, b, 0.8)
			is := quad.Identity{Target: "X", Line: b.Line.Name, Version: b.Version.Version}
			list, err := ReadList(Headed(is, WriteList(raw, nil)))
			if err != nil || list.Is != is {
				t.Fatalf("%s %s: %+v, %v", b.Line.Name, b.Version.Version, list.Is, err)
			}
			given, faults := b.Facts.CheckList(list.Settings)
			if len(faults) > 0 || !reflect.DeepEqual(given, raw) {
				t.Fatalf("%s %s: the list came back otherwise: %v", b.Line.Name, b.Version.Version, faults)
			}
			sheet, err := b.Dictionary.Decode(given)
			if err != nil {
				t.Fatalf("%s %s, seed %d: %v", b.Line.Name, b.Version.Version, seed, err)
			}
			back, err := b.Dictionary.Encode(sheet, raw)
			if err != nil {
				t.Fatalf("%s %s, seed %d: %v", b.Line.Name, b.Version.Version, seed, err)
			}
			for name, value := range back {
				if raw[name] != value {
					t.Fatalf("%s %s, seed %d: %s was %s and came back %s", b.Line.Name, b.Version.Version, seed, name, raw[name], value)
				}
			}
		}
	}
}

// Each line has units of its own, enough settings, every kind of mapping and something measured on the board.
func TestEveryLineIsWholeInItself(t *testing.T) {
	for name, least := range map[string]int{"Marram": 150, "Spindrift": 200, "Shingle": 300} {
		l, ok := FindLine(name)
		if !ok {
			t.Fatalf("no line %s", name)
		}
		majors, kinds := map[byte]bool{}, map[EntryKind]bool{}
		for _, b := range l.Builds() {
			majors[b.Version.Version[0]] = true
			if n := len(b.Facts.Settings); n < least {
				t.Errorf("%s %s has %d settings, want %d", name, b.Version.Version, n, least)
			}
			bound := 0
			for _, s := range b.Facts.Settings {
				if s.Bound != "" {
					bound++
				}
			}
			if bound < 5 {
				t.Errorf("%s %s has %d hardware-bound settings", name, b.Version.Version, bound)
			}
			for _, e := range b.Dictionary.Entries {
				kinds[e.Kind] = true
			}
		}
		if len(l.Versions) < 3 || len(majors) != 2 {
			t.Errorf("%s has %d versions of %d majors", name, len(l.Versions), len(majors))
		}
		for _, kind := range []EntryKind{EntryScalar, EntryEnumeration, EntryBits, EntryList, EntryRecord, EntrySeveral} {
			if !kinds[kind] {
				t.Errorf("%s maps nothing as %s", name, kind)
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
		if _, err := l.Dictionary.Encode(s, nil); code(err) != c.want {
			t.Errorf("%s: got %q, want %q", c.name, code(err), c.want)
		}
	}
}

// What nobody told is never written as a nought or as no word: what the board holds stays, beside what is told. Of every place in every
// version of every line, alone and all at once.
func TestWhatNobodyToldIsNotWritten(t *testing.T) {
	count := 0
	for _, b := range everyBuild() {
		raw := randomSettings(rand.New(rand.NewPCG(7, 3)), b, 0.8)
		sheet, err := b.Dictionary.Decode(raw)
		if err != nil {
			t.Fatal(err)
		}
		none := sheet
		unchanged := func(s quad.Sheet, what string) {
			t.Helper()
			back, err := b.Dictionary.Encode(s, raw)
			if err != nil {
				t.Fatalf("%s %s, %s: %v", b.Line.Name, b.Version.Version, what, err)
			}
			for name, value := range back {
				if raw[name] != value {
					t.Errorf("%s %s, %s is not told: %s is %s and would become %s", b.Line.Name, b.Version.Version, what, name, raw[name], value)
				}
			}
		}
		for _, e := range b.Dictionary.Entries {
			for _, p := range e.paths() {
				if f, err := quad.FieldAt(p); err != nil || !f.Asked {
					continue
				}
				count++
				s := sheet
				for _, of := range []*quad.Sheet{&s, &none} {
					k := quad.Meant{Sheet: *of}
					v, err := quad.Get(k, p)
					if err != nil || v == nil {
						continue // an item that this board does not have
					}
					zero, err := json.Marshal(reflect.Zero(reflect.TypeOf(v)).Interface())
					if err != nil {
						t.Fatal(err)
					}
					if err := quad.Set(&k, p, zero); err != nil {
						t.Fatal(err)
					}
					*of = k.Sheet
				}
				unchanged(s, string(p))
			}
		}
		unchanged(none, "all that is asked")
	}
	if count < 100 {
		t.Errorf("only %d places", count)
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
	settings["out.flags"] = "3" // a bit above the one that is mapped
	is := quad.Identity{Target: "HARRIER4", Line: "Marram", Version: "7.0.2"}
	b := Board(ReadBack{Is: is, Settings: settings})
	if b.Sheet.Motors.Idle != 5.5 || !b.Understood {
		t.Error("the mapped settings are not on the sheet")
	}
	for name, want := range map[string]bool{"note.light": true, "out.flags": true, "from.the.future": false, "out.rest": false, "volt.warn.part": false, "found.level.roll": false} {
		if got := slices.ContainsFunc(b.Unmapped, func(line string) bool { return strings.HasPrefix(line, name+" =") }); got != want {
			t.Errorf("%s without a subject: %v, want %v", name, got, want)
		}
	}
	if !slices.Equal(b.Foreign, []string{"from.the.future"}) || !slices.Equal(b.Unmeasured, []string{"level"}) {
		t.Errorf("foreign %v, not measured %v", b.Foreign, b.Unmeasured)
	}
	is.Line = "Unheard"
	if other := Board(ReadBack{Is: is, Settings: settings}); other.Sheet.Motors.Idle != 0 || !other.Read() || other.Understood {
		t.Error("an unknown line must leave the sheet empty and still count as read")
	}
}

func TestReadLineRefusesADictionaryThatDoesNotFit(t *testing.T) {
	facts := "line: L\nversions: [{version: 1.0.0}, {version: 2.0.0}]\nsettings:\n  - {name: a, kind: whole, min: 0, max: 9, default: '1'}\n"
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
		"no version":          {"line: L\nsettings: []\n", "line: L\nentries: []\n", "no-version versions"},
		"a version that errs": {strings.Replace(facts, "2.0.0", "two", 1), "line: L\nentries: []\n", "bad-version versions.1"},
		"versions backwards":  {strings.Replace(facts, "2.0.0", "0.5.0", 1), "line: L\nentries: []\n", "bad-version versions.1"},
		"since no version":    {strings.Replace(facts, "min", "since: 3.0.0, min", 1), "line: L\nentries: []\n", "unknown-version a"},
		"was nothing":         {strings.Replace(facts, "min", "since: 2.0.0, was: {name: b}, min", 1), "line: L\nentries: []\n", "bad-history a"},
		"a word for a figure": {facts, "line: L\nentries:\n  - {kind: enumeration, setting: a, path: sheet.motors.idle}\n", "bad-entry sheet.motors.idle"},
		"a figure for a word": {facts, "line: L\nentries:\n  - {kind: scalar, setting: a, path: sheet.craft.layout}\n", "bad-entry sheet.craft.layout"},
		"no words at all":     {facts, "line: L\nentries:\n  - {kind: enumeration, setting: a, path: sheet.craft.layout}\n", "bad-entry sheet.craft.layout"},
		"a word that is none": {facts, "line: L\nentries:\n  - {kind: enumeration, setting: a, path: sheet.craft.layout, words: {sideways: '1'}}\n", "bad-entry sheet.craft.layout"},
		"two words for one":   {facts, "line: L\nentries:\n  - {kind: enumeration, setting: a, path: sheet.craft.layout, words: {x: '1', plus: '1'}}\n", "bad-entry a"},
		"parts that are none": {facts, "line: L\nentries:\n  - {kind: record, setting: a, fields: [{path: sheet.motors.idle}]}\n", "bad-entry a"},
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
	got, faults := l.Facts.CheckList(list.Settings)
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
	back, faults := l.Facts.CheckList(list.Settings)
	if len(faults) > 0 || !reflect.DeepEqual(back, settings) {
		t.Errorf("came back with %v: %v", faults, back)
	}
	if c := l.Changes(settings, map[string]string{"out.rest": "70", "loop.rate": "80"}); len(c) != 1 || c[0] != (Change{"loop.rate", "40", "80"}) {
		t.Errorf("changes %v", c)
	}
}

func FuzzReadList(f *testing.F) {
	f.Add([]byte("out.rest = 60\nsave"))
	f.Add([]byte("=\x00#"))
	f.Add([]byte("name,value\nout.rest,60\n\"out.flags\",\"1\"\n"))
	f.Add([]byte("# line: Marram\n# version: 6.2.1\nout.idle = 450\n"))
	f.Fuzz(func(t *testing.T, text []byte) {
		list, err := ReadList(text)
		if err != nil {
			return
		}
		l := marram(t)
		got, faults := l.Facts.CheckList(list.Settings)
		if len(got)+len(faults) != len(list.Settings) {
			t.Errorf("%d lines became %d settings and %d faults", len(list.Settings), len(got), len(faults))
		}
		taken, remarks := l.Review(list, quad.Identity{Target: "HARRIER4", Line: "Marram", Version: "7.0.2"})
		for _, r := range remarks {
			if r.Says == "" || r.Line > 0 && !slices.ContainsFunc(list.Settings, func(x Listed) bool { return x.Line == r.Line }) {
				t.Errorf("a remark about no line: %+v", r)
			}
		}
		for name := range got {
			if _, ok := taken[name]; !ok {
				t.Errorf("%s fits and was not taken", name)
			}
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
