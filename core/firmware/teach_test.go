package firmware

import (
	"maps"
	"math/rand/v2"
	"os"
	"slices"
	"strings"
	"testing"

	"vividperch/core/quad"
)

func read(t testing.TB, name string) string {
	t.Helper()
	raw, err := os.ReadFile(name)
	if err != nil {
		t.Fatal(err)
	}
	return string(raw)
}

func listOf(t testing.TB, text string) List {
	t.Helper()
	list, err := ReadList([]byte(text))
	if err != nil {
		t.Fatal(err)
	}
	return list
}

// A line that the product never heard of, taught by hand after the documentation: its lists go both ways, what
// differs is found in raw values, and what a board of it holds is judged like any other's.
func TestStrangersLineIsTaught(t *testing.T) {
	text := read(t, "testdata/sandbar.dictionary.yaml")
	l, err := Taught(text)
	if err != nil {
		t.Fatal(err)
	}
	list := listOf(t, read(t, "testdata/sandbar.list"))
	b := l.Newest()
	if len(list.Settings) < 60 || list.Is.Line != "Sandbar" || len(b.Facts.Settings) != len(list.Settings) {
		t.Errorf("%d settings listed, %d taught, of %q", len(list.Settings), len(b.Facts.Settings), list.Is.Line)
	}
	settings, remarks := b.Review(list, quad.Identity{Target: "WRACK2", Line: "Sandbar", Version: "3.1.0"})
	if len(remarks) > 0 {
		t.Fatalf("remarks %+v", remarks)
	}
	if lost := Unclear(l, list.Settings); len(lost) > 0 {
		t.Errorf("lost: %+v", lost)
	}
	sheet, err := b.Dictionary.Decode(settings)
	if err != nil {
		t.Fatal(err)
	}
	if sheet.Motors.Idle != 4.8 || sheet.Loss.Guard != 0.8 || sheet.Feel.RollGains.Derivative != 0.00058 || sheet.Motors.Outputs["B"] != (quad.OutputPlan{Corner: quad.RearLeft, Reversed: true}) || !sheet.Senses.Satellite {
		t.Errorf("idle %v, guard %v, derivative %v, B %+v", sheet.Motors.Idle, sheet.Loss.Guard, sheet.Feel.RollGains.Derivative, sheet.Motors.Outputs["B"])
	}
	back, err := b.Dictionary.Encode(sheet, settings)
	if err != nil {
		t.Fatal(err)
	}
	for name, raw := range back {
		if settings[name] != raw {
			t.Errorf("%s was %s and came back %s", name, settings[name], raw)
		}
	}
	board := Board(ReadBack{Is: list.Is, Settings: settings, Taught: text})
	if !board.Understood || board.Sheet.Motors.Poles != 12 || len(board.Foreign) > 0 || !slices.Contains(board.Unmapped, "ledCount = 12") {
		t.Errorf("a board of it: %+v", board)
	}
	for seed := range uint64(40) {
		r := rand.New(rand.NewPCG(seed, 1))
		raw := randomSettings(r, b, 0.9)
		sheet, err := b.Dictionary.Decode(raw)
		if err != nil {
			t.Fatal(err)
		}
		again, err := b.Dictionary.Encode(sheet, raw)
		if err != nil {
			t.Fatal(err)
		}
		for name, value := range again {
			if raw[name] != value {
				t.Fatalf("seed %d: %s was %s and came back %s", seed, name, raw[name], value)
			}
		}
	}
}

func TestTaughtRefuses(t *testing.T) {
	for name, c := range map[string]struct{ text, want string }{
		"a line of the product's own": {"line: Marram\nversions: [{version: 9.9.9}]\nsettings: []\nentries: []\n", "known-line line"},
		"no yaml":                     {"line: [", "not-yaml"},
		"a name that is none":         {"line: L\nversions: [{version: 1.0.0}]\ncolour: red\n", "unknown-name"},
		"no name":                     {"versions: [{version: 1.0.0}]\n", "bad-line line"},
		"a place that is none":        {"line: L\nversions: [{version: 1.0.0}]\nsettings: [{name: a, kind: whole, max: 9, default: '1'}]\nentries: [{kind: scalar, setting: a, path: sheet.motors.speed}]\n", "unknown-path sheet.motors.speed"},
	} {
		if _, err := Taught(c.text); !strings.HasPrefix(code(err), c.want) {
			t.Errorf("%s: got %q, want %q", name, code(err), c.want)
		}
	}
}

// A lesson becomes a file that reads back as what was taught; what it cannot hold is said before it is kept.
func TestLessonBecomesAFile(t *testing.T) {
	list := listOf(t, read(t, "testdata/sandbar.list"))
	hand, err := Taught(read(t, "testdata/sandbar.dictionary.yaml"))
	if err != nil {
		t.Fatal(err)
	}
	text, err := Lesson{Line: "Sandbar", Version: "3.1.0", Separator: "/", Settings: list.Settings, Entries: hand.Entries}.File()
	if err != nil {
		t.Fatal(err)
	}
	l, err := Taught(text)
	if err != nil {
		t.Fatal(err)
	}
	if lost := Unclear(l, list.Settings); len(lost) > 0 {
		t.Errorf("lost: %+v", lost)
	}
	settings, remarks := l.Newest().Review(list, list.Is)
	if len(remarks) > 0 {
		t.Fatalf("%+v", remarks)
	}
	a, err := l.Newest().Dictionary.Decode(settings)
	if err != nil {
		t.Fatal(err)
	}
	b, err := hand.Newest().Dictionary.Decode(settings)
	if err != nil {
		t.Fatal(err)
	}
	if d := quad.Compare(quad.Meant{Sheet: a}, quad.Meant{Sheet: b}); len(d) > 0 {
		t.Errorf("taught from the list and by hand differ: %v", d)
	}
	bad := Lesson{Line: "Sandbar", Version: "3.1.0", Settings: list.Settings, Entries: []Entry{{Kind: "scalar", Setting: "armLow", Path: "sheet.craft.layout"}}}
	if _, err := bad.File(); code(err) != "bad-entry sheet.craft.layout" {
		t.Errorf("a figure for a word: %v", err)
	}
}

// The guesses are measured on lines whose meaning is known: with the dictionary taken away, most settings that map to
// one place are guessed right at once, and next to none of the others is claimed with confidence.
func TestGuessesAreWorthTheirPlace(t *testing.T) {
	type known struct {
		name    string
		list    []Listed
		sheet   quad.Sheet
		entries []Entry
		sep     string
	}
	var all []known
	for _, v := range [][2]string{{"Spindrift", "9.0.2"}, {"Shingle", "1.8.2"}, {"Marram", "7.0.2"}} {
		b := build(t, v[0], v[1])
		settings := randomLikely(b)
		sheet, err := b.Dictionary.Decode(settings)
		if err != nil {
			t.Fatal(err)
		}
		all = append(all, known{v[0], listOf(t, string(WriteList(settings, nil))).Settings, sheet, b.Dictionary.Entries, b.Line.Separator})
	}
	hand, err := Taught(read(t, "testdata/sandbar.dictionary.yaml"))
	if err != nil {
		t.Fatal(err)
	}
	stranger := listOf(t, read(t, "testdata/sandbar.list"))
	settings, _ := hand.Newest().Review(stranger, stranger.Is)
	sheet, err := hand.Newest().Dictionary.Decode(settings)
	if err != nil {
		t.Fatal(err)
	}
	all = append(all, known{"Sandbar", stranger.Settings, sheet, hand.Entries, "/"})
	for _, k := range all {
		guesses := GuessMeanings(k.list, k.sep, k.sheet)
		single, right, among := 0, 0, 0
		mapped := map[string]bool{}
		for _, e := range k.entries {
			for _, name := range e.settings() {
				mapped[name] = true
			}
			if e.Kind != "scalar" && e.Kind != "enumeration" && e.Kind != "record" {
				continue
			}
			single++
			for i, g := range guesses[e.Setting] {
				if slices.Equal(g.paths(), e.paths()) {
					among++
					if i == 0 {
						right++
					}
				}
			}
		}
		wrong := 0
		for name, list := range guesses {
			if !mapped[name] && len(list) > 0 && list[0].Score > 0.75 {
				wrong++
			}
		}
		t.Logf("%s: of %d settings with one meaning %d are guessed at once, %d among the three; %d of %d without a meaning are claimed", k.name, single, right, among, wrong, len(k.list)-len(mapped))
		if float64(right) < 0.6*float64(single) || float64(among) < 0.72*float64(single) || float64(wrong) > 0.1*float64(len(k.list)) {
			t.Errorf("%s: the guesses are not worth their place", k.name)
		}
	}
}

// randomLikely settings are a quad's: the defaults, with figures that differ from each other where a quad's would.
func randomLikely(b *Build) map[string]string {
	sheet, err := b.Dictionary.Decode(b.Facts.Defaults())
	if err != nil {
		panic(err)
	}
	sheet.Sticks.Arm, sheet.Sticks.SelfLevel, sheet.Sticks.Beeper = quad.Range{Channel: 5, From: 1750, To: 2100}, quad.Range{Channel: 6, From: 1300, To: 1700}, quad.Range{Channel: 7, From: 1725, To: 2100}
	sheet.Motors.Idle, sheet.Motors.LoopRate, sheet.Motors.BitRate = 5, 4000, 600
	sheet.Feel.Roll, sheet.Feel.Pitch, sheet.Feel.Yaw = quad.Rates{Centre: 140, Peak: 670, Bend: 0.4}, quad.Rates{Centre: 130, Peak: 640, Bend: 0.35}, quad.Rates{Centre: 120, Peak: 560, Bend: 0.3}
	sheet.Feel.AngleLimit, sheet.Feel.ThrottleLimit = 48, 85
	sheet.Loss.LandThrottle, sheet.Watch.Cells, sheet.Watch.WarnPerCell = 27, 6, 3.55
	sheet.Picture.Frequency = 5780
	raw, _ := b.Dictionary.EncodeAll(sheet, nil)
	settings := b.Facts.Defaults()
	maps.Copy(settings, raw)
	return settings
}

func FuzzTaught(f *testing.F) {
	f.Add(read(f, "testdata/sandbar.dictionary.yaml"))
	f.Add("line: L\nversions: [{version: 1.0.0}]\nsettings: [{name: 'a*', each: [x, y], kind: list, items: 2, max: 3, default: '1:2', bound: level}]\nentries: []\n")
	f.Fuzz(func(t *testing.T, text string) {
		l, err := Taught(text)
		if err != nil {
			if quad.AsFault(err) == nil {
				t.Errorf("%v is not a fault", err)
			}
			return
		}
		for _, b := range l.Builds() {
			defaults := b.Facts.Defaults()
			sheet, err := b.Dictionary.Decode(defaults)
			if err != nil {
				continue
			}
			_, _ = b.Dictionary.EncodeAll(sheet, defaults)
		}
		_, _ = l.Carry(l.Versions[0].Version, l.Newest().Version.Version, nil, true)
	})
}

func BenchmarkGuess2000(b *testing.B) {
	build := build(b, "Shingle", "2.4.0")
	settings := randomLikely(build)
	sheet, err := build.Dictionary.Decode(settings)
	if err != nil {
		b.Fatal(err)
	}
	list := listOf(b, string(WriteList(settings, nil))).Settings
	for len(list) < 2000 {
		list = append(list, list...)
	}
	for b.Loop() {
		GuessMeanings(list[:2000], ",", sheet)
	}
	b.ReportMetric(float64(b.Elapsed().Milliseconds())/float64(b.N), "ms/list")
}

func TestControllersTellTheOddOne(t *testing.T) {
	var k quad.Known
	k.Parts.SpeedController.Layout, k.Parts.Board.Outputs = "CW60", []string{"A", "B", "C", "D"}
	for _, c := range []struct {
		versions string // of A to D; - was not asked
		odd      string
	}{{"3.1 3.1 3.1 3.1", ""}, {"2.9 3.1 3.1 3.1", "A"}, {"3.1 3.1 2.9 -", "C"}, {"3.1 2.9 - -", "B"}, {"- - - -", ""}, {"3.1 2.9 2.9 3.0", "AD"}} {
		k.Readings.Firmware.SpeedControllers = map[string]*quad.Reading[quad.SpeedIdentity]{}
		for i, v := range strings.Fields(c.versions) {
			if v != "-" {
				k.Readings.Firmware.SpeedControllers[k.Parts.Board.Outputs[i]] = &quad.Reading[quad.SpeedIdentity]{Value: quad.SpeedIdentity{Layout: "CW60", Version: v, Switching: 24}}
			}
		}
		odd := ""
		for _, s := range Controllers(k) {
			if s.Unlike {
				odd += s.Output
			}
		}
		if odd != c.odd {
			t.Errorf("%s: odd are %q, want %q", c.versions, odd, c.odd)
		}
	}
	if k.Parts.SpeedController.Layout = ""; len(Controllers(k)) != 0 {
		t.Error("those that cannot be asked are listed")
	}
}

// The examples of the documentation are files that can be brought in as they stand.
func TestExamplesOfTheDocumentationAreRead(t *testing.T) {
	blocks := strings.Split(read(t, "../../docs/dictionaries.md"), "```yaml\n")[1:]
	if len(blocks) != 4 {
		t.Fatalf("%d examples", len(blocks))
	}
	// The one in the middle is a shape, which belongs to a file.
	shape, _, _ := strings.Cut(blocks[1], "```")
	blocks[1] = "line: Shaped\nversions: [{version: 1.0.0}]\nsettings: [{name: a, kind: text}]\n" + shape
	// And so do entries on their own.
	entries, _, _ := strings.Cut(blocks[2], "```")
	blocks[2] = `line: Told
versions: [{version: 3.1.0}]
settings:
  - {name: pause, kind: whole, min: 0, max: 60000, default: "125"}
  - {name: fastest, kind: whole, min: 0, max: 900, default: "450"}
  - {name: speech, kind: word, words: [pulse, "115", "115200"], default: pulse}
  - {name: rates, kind: list, items: 3, places: 1, min: 0, max: 2000, default: "100:500:30.5"}
entries:
` + entries
	for i, b := range blocks {
		text, _, _ := strings.Cut(b, "```")
		l, err := Taught(text)
		if err != nil {
			t.Fatalf("example %d: %v", i+1, err)
		}
		if i == 3 {
			rows, err := l.Carry("3.1.0", "4.0.0", map[string]string{"lean": "35", "plan": "glide"}, true)
			if err != nil {
				t.Fatal(err)
			}
			for _, r := range rows {
				if r.Name == "lean" && r.Proposal != "350" || r.Name == "plan" && !r.Decide {
					t.Errorf("%+v", r)
				}
			}
		}
	}
}
