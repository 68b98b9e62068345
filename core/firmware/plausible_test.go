package firmware

import (
	"strconv"
	"strings"
	"testing"

	"vividperch/core/quad"
)

// What a family comes with is never odd, and a figure is odd where it is far from all of them or where no quad can have it.
func TestOdd(t *testing.T) {
	for _, b := range everyBuild() {
		sheet, err := b.Dictionary.Decode(b.Facts.Defaults())
		if err != nil {
			t.Fatal(err)
		}
		if b != b.Line.Newest() {
			continue
		}
		for _, p := range b.Dictionary.Paths() {
			v, err := quad.Get(&sheet, inSheet(p))
			if x, ok := number(v); err == nil && ok && Odd(p, x) {
				t.Errorf("%s %s comes with %g at %s, which is said to be odd", b.Line.Name, b.Version.Version, x, p)
			}
		}
	}
	for _, c := range []struct {
		path quad.Path
		x    float64
		want bool
	}{
		{"sheet.loss.guard", 0.5, false},
		{"sheet.loss.guard", 8, true},
		{"sheet.loss.guard", 0.01, true},
		{"sheet.loss.guard", 0, false}, // not told
		{"sheet.motors.idle", 5, false},
		{"sheet.motors.idle", 55, true}, // over what any quad may have
		{"sheet.motors.nothing", 5, false},
	} {
		if got := Odd(c.path, c.x); got != c.want {
			t.Errorf("%g at %s: odd %v", c.x, c.path, got)
		}
	}
}

// A list whose delay counts tenths, taken for seconds, comes back as it went in; what it says shows that it means something else. A guess
// that would say so is not sure.
func TestWhatADictionarySaysIsShownPlaceByPlace(t *testing.T) {
	list := []Listed{{Line: 1, Name: "failsafeDelay", Value: "8"}, {Line: 2, Name: "idlePercent", Value: "5"}, {Line: 3, Name: "calibrationRoll", Value: "12"}}
	lesson := Lesson{Line: "Untried", Version: "1.0.0", Settings: list, Bound: map[string]Measured{"calibrationRoll": MeasuredLevel}, Entries: []Entry{
		{Kind: EntryScalar, Setting: "failsafeDelay", Path: "sheet.loss.guard"}, {Kind: EntryScalar, Setting: "idlePercent", Path: "sheet.motors.idle"},
	}}
	file, err := lesson.File()
	if err != nil {
		t.Fatal(err)
	}
	l, err := Taught(file)
	if err != nil {
		t.Fatal(err)
	}
	if loses := Unclear(l, list); len(loses) > 0 {
		t.Errorf("it loses %+v", loses)
	}
	tells := l.Tells(list)
	if len(tells) != 2 || !tells[0].Odd || tells[0].Words != "8 s" || !strings.HasSuffix(tells[0].Usual, " s") || tells[1].Odd || tells[1].Words != "5 %" {
		t.Errorf("%+v", tells)
	}
	if b := l.Newest().Facts.Find("calibrationRoll"); b.Bound != MeasuredLevel {
		t.Errorf("what is measured on the board is not in the file: %+v", b)
	}
	for _, g := range GuessMeanings(list, ":", quad.Sheet{})["failsafeDelay"] {
		if g.Path == "sheet.loss.guard" && g.scale().figure(8) > 2 && g.Score > 0.6 {
			t.Errorf("sure of %+v", g)
		}
	}
	lesson.Bound["idlePercent"] = "moon"
	if _, err := lesson.File(); quad.AsFault(err) == nil || quad.AsFault(err).Place != "idlePercent" {
		t.Errorf("measured by what nobody measures: %v", err)
	}
}

// That a setting is named as a place is no proof that its word means what the quad happens to be set to.
func TestAWordIsNeverSureByTheNameAlone(t *testing.T) {
	var s quad.Sheet
	s.Loss.Policy = quad.PolicyDrop
	for value, sure := range map[string]bool{"descend": false, "Drop": true} {
		for _, g := range GuessMeanings([]Listed{{Line: 1, Name: "lossPolicy", Value: value}}, ":", s)["lossPolicy"] {
			if g.Path == "sheet.loss.policy" && (g.Score > 0.6) != sure {
				t.Errorf("%s scores %g: %s", value, g.Score, g.Why)
			}
		}
	}
}

// Whatever list is looked at, no guess that is sure says what is far from plausible.
func TestASureGuessIsPlausible(t *testing.T) {
	sheet, err := marram(t).Dictionary.Decode(marram(t).Facts.Defaults())
	if err != nil {
		t.Fatal(err)
	}
	list := listOf(t, read(t, "testdata/sandbar.list"))
	sure := 0
	for _, of := range []quad.Sheet{sheet, {}} {
		for _, l := range list.Settings {
			for _, g := range GuessMeanings([]Listed{l}, "/", of)[l.Name] {
				if g.Score <= 0.6 {
					continue
				}
				sure++
				parts := strings.Split(l.Value, "/")
				fields := g.Fields
				if g.Kind == EntryScalar {
					fields = []Field{g.scale()}
				}
				for i, f := range fields {
					if x, err := strconv.ParseFloat(parts[i], 64); err == nil && Odd(f.Path, f.figure(x)) {
						t.Errorf("%s = %s is surely %s with %g", l.Name, l.Value, f.Path, f.figure(x))
					}
				}
			}
		}
	}
	if sure < 10 {
		t.Errorf("only %d guesses are sure", sure)
	}
}
