package quad

import (
	"encoding/json"
	"math/rand/v2"
	"reflect"
	"slices"
	"testing"
)

// begun is a quad of which nobody told anything, with some outputs and ports.
func begun() Meant {
	var m Meant
	m.FollowBoard()
	m.Sheet.Untell(func(Path) bool { return false })
	return m
}

// Typing 0, off or none tells a place as any other value does; nothing makes it untold again, with whatever stood there gone.
func TestZeroTellsAGap(t *testing.T) {
	for _, c := range []struct {
		place, typed string
		also         []Path // places inside that are told with it
	}{
		{"sheet.senses.boardRoll", "0", nil},
		{"sheet.link.inverted", "false", nil},
		{"sheet.watch.cells", "0", nil},
		{"sheet.motors.outputs.B.reversed", "false", nil},
		{"sheet.sticks.arm.channel", "0", []Path{"sheet.sticks.arm.from", "sheet.sticks.arm.to"}},
		{"sheet.sticks.ranges.roll.low", "988", []Path{"sheet.sticks.ranges.yaw.high"}},
		{"sheet.feel.rollGains", `{"proportional":0.1,"integral":0,"derivative":0}`, []Path{"sheet.feel.rollGains.integral", "sheet.feel.rollGains.derivative"}},
	} {
		m := begun()
		e, err := NewEdit(m, Path(c.place), json.RawMessage(c.typed))
		if err != nil {
			t.Fatal(c.place, err)
		}
		told, err := Apply(m, []Edit{e})
		if err != nil {
			t.Fatal(c.place, err)
		}
		for _, p := range append(c.also, Path(c.place)) {
			if told.Sheet.gapAt(p) {
				t.Errorf("%s = %s does not tell %s", c.place, c.typed, p)
			}
		}
		if before := len(m.Sheet.Gaps); before <= len(told.Sheet.Gaps) {
			t.Errorf("%s: %d gaps before, %d now", c.place, before, len(told.Sheet.Gaps))
		}
		back, err := NewEdit(told, Path(c.place), json.RawMessage("null"))
		if c.place == "sheet.feel.rollGains" {
			if err == nil {
				t.Errorf("%s holds what is asked for and was made nothing", c.place)
			}
			continue
		}
		if err != nil {
			t.Fatal(c.place, err)
		}
		if again, err := Apply(told, []Edit{back}); err != nil || !reflect.DeepEqual(again, m) {
			t.Errorf("%s is not as it was before it was told: %v, %v", c.place, Compare(m, again), err)
		}
	}
}

// Whatever two quads have told and not told, the edits from one to the other make it the other, and comparing them says a difference exactly
// where there are edits. The gaps are worked out here place by place, from what was done.
func TestChangesTellAndUntell(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 19))
	values := map[reflect.Kind][]string{reflect.Bool: {"true", "false"}, reflect.Float64: {"0", "1"}, reflect.Int: {"0", "1"}}
	draw := func() (Meant, map[Path]bool) {
		m, gaps := begun(), map[Path]bool{}
		for _, p := range m.Sheet.Gaps {
			gaps[p] = true
		}
		for range r.IntN(40) {
			p := m.Sheet.AllGaps()[r.IntN(len(m.Sheet.AllGaps()))]
			f, err := FieldAt(join("sheet", p))
			if err != nil {
				t.Fatal(err)
			}
			raw := "null"
			if of := values[f.Type.Kind()]; len(of) > 0 && r.IntN(4) > 0 {
				raw = of[r.IntN(len(of))]
			} else if of == nil {
				raw = string(asJSON(reflect.Zero(f.Type)))
			}
			if err := Set(&m, join("sheet", p), []byte(raw)); err != nil {
				t.Fatal(p, raw, err)
			}
			if gaps[p] = raw == "null"; !gaps[p] {
				delete(gaps, p)
			}
		}
		if r.IntN(3) == 0 {
			if err := Set(&m, "sheet.motors.outputs.E.corner", []byte(`"frontLeft"`)); err != nil {
				t.Fatal(err)
			}
			gaps["motors.outputs.E.reversed"] = true
		}
		return m, gaps
	}
	for range 100 {
		a, gapsOfA := draw()
		b, _ := draw()
		if want := SortedKeys(gapsOfA); !slices.Equal(want, a.Sheet.Gaps) {
			t.Fatalf("gaps are %v, expected %v", a.Sheet.Gaps, want)
		}
		edits := Changes(a, b)
		now, err := Apply(a, edits)
		if err != nil {
			t.Fatal(err)
		}
		if rest := Compare(now, b); len(rest) > 0 || !slices.Equal(now.Sheet.Gaps, b.Sheet.Gaps) {
			t.Fatalf("the edits leave %v, and gaps %v for %v", rest, now.Sheet.Gaps, b.Sheet.Gaps)
		}
		if (len(edits) == 0) != (len(Compare(a, b)) == 0) {
			t.Fatalf("%d edits, but %v", len(edits), Compare(a, b))
		}
		raw, err := Canonical(a)
		if err != nil {
			t.Fatal(err)
		}
		if back, err := ReadMeant(raw); err != nil || len(Compare(back, a)) > 0 {
			t.Fatalf("does not come back: %v", err)
		}
	}
}

// A file that says of a place that nobody told it, and tells it, is refused; so is one that names places that are none.
func TestGapsThatLie(t *testing.T) {
	for why, spoil := range map[string]func(*Meant){
		"it holds something":       func(m *Meant) { m.Sheet.Senses.BoardRoll = 3 },
		"no such place":            func(m *Meant) { m.Sheet.Gaps = Gaps{"senses.nose"} },
		"0 means nothing there":    func(m *Meant) { m.Sheet.Gaps = Gaps{"motors.loopRate"} },
		"twice":                    func(m *Meant) { m.Sheet.Gaps = Gaps{"link.inverted", "link.inverted"} },
		"an output that is not it": func(m *Meant) { m.Sheet.Gaps = Gaps{"motors.outputs.Q.reversed"} },
		"more than there are":      func(m *Meant) { m.Sheet.Gaps = append(slices.Clone(m.Sheet.Gaps), make(Gaps, 99)...) },
	} {
		m := begun()
		if err := m.Valid(); err != nil {
			t.Fatal(err)
		}
		spoil(&m)
		raw, err := Canonical(m)
		if err != nil {
			t.Fatal(err)
		}
		if _, err := ReadMeant(raw); err == nil || AsFault(err).Code != "bad-gap" {
			t.Errorf("%s: read all the same (%v)", why, err)
		}
	}
}

// A group around gaps, or a place inside of one, counts as untold too; what was told is not.
func TestUntoldByGroup(t *testing.T) {
	var k Known
	k.Sheet = begun().Sheet
	if err := Set(&k, "sheet.feel.roll.bend", []byte("0")); err != nil {
		t.Fatal(err)
	}
	for p, want := range map[Path]int{"sheet.sticks.arm.from": 1, "sheet.senses": 8, "sheet.feel.roll.bend": 0, "sheet.feel.pitch.bend": 1, "parts": 0} {
		if got := UntoldGaps(&k, []Path{p}); len(got) != want {
			t.Errorf("%s: %v, expected %d", p, got, want)
		}
	}
}
