package quad

import (
	"math"
	"testing"
)

// A range holds both its ends, and nothing where it is on no channel.
func TestRangeHoldsItsEnds(t *testing.T) {
	r := Range{Channel: 5, From: 1300, To: 1700}
	for us, want := range map[float64]bool{1299: false, 1300: true, 1500: true, 1700: true, 1701: false} {
		if r.Holds(us) != want {
			t.Errorf("%v µs: %v", us, !want)
		}
	}
	if r.Channel = 0; r.Holds(1500) || r.Used() {
		t.Error("on no channel it holds something")
	}
}

// Where the weight lies, by moments: 200 g of pack 10 mm ahead, 50 g 40 mm behind and 6 mm to the left, in 500 g of all.
func TestBalanceByMoments(t *testing.T) {
	p := Parts{Placed: map[string]Thing{PackPlace: {Ahead: 10}, "camera": {Ahead: -40, Right: -6, Mass: 50}}}
	p.Frame.Mass = 300
	pack := Pack{Mass: 200}
	got, ok := p.BalanceWith(pack)
	if want := (Balance{(200*10 - 50*40) / 500.0, -50 * 6 / 500.0}); !ok || got != want {
		t.Errorf("%+v, %v; want %+v", got, ok, want)
	}
	for name, change := range map[string]func(){
		"a pack that nobody weighed": func() { pack.Mass = 0 },
		"a rest that nobody weighed": func() { p.Frame.Mass = 0 },
		"a pack without a place":     func() { delete(p.Placed, PackPlace) },
	} {
		was, mass := p.Frame.Mass, pack.Mass
		at := p.Placed[PackPlace]
		if change(); true {
			if got, ok := p.BalanceWith(pack); ok {
				t.Errorf("%s: %+v", name, got)
			}
		}
		p.Frame.Mass, pack.Mass, p.Placed[PackPlace] = was, mass, at
	}
	for words, b := range map[string]Balance{
		"in the middle": {}, "3 mm ahead of the middle": {Ahead: 3}, "3 mm behind the middle": {Ahead: -3}, "2 mm right of the middle": {Right: 2}, "2 mm left of the middle": {Right: -2},
		"3 mm behind and 2 mm left of the middle": {-3, -2}, "3 mm ahead of and 2 mm right of the middle": {3, 2},
	} {
		if got := b.Words(); got != words {
			t.Errorf("%+v is %q, want %q", b, got, words)
		}
	}
}

// A compass on its back turns the other way; one that is off, one that hardly turned and one that turned half round tell nothing.
func TestRunsBackwards(t *testing.T) {
	for _, c := range []struct {
		known, shown float64 // how far each turned, deg
		backwards    bool
	}{
		{90, -90, true}, {90, 90, false}, {-90, 90, true}, {90, -46, true}, {90, -44, false}, {20, -20, false}, {21, -21, true}, {159, -159, true}, {161, -161, false}, {90, 0, false},
	} {
		a, b := HeadingSeen{Known: 350, Shown: 200}, HeadingSeen{}
		b.Known, b.Shown = math.Mod(350+c.known+360, 360), math.Mod(200+c.shown+360, 360)
		if got := RunsBackwards(a, b); got != c.backwards {
			t.Errorf("turned by %v° it shows %v°: %v", c.known, c.shown, got)
		}
	}
}

// A board's number decides; without one the bench's name for the quad, and never the kind of board alone.
func TestMarksOfOneBoard(t *testing.T) {
	for _, c := range []struct {
		a, b Mark
		same bool
	}{
		{Mark{Target: "reed", Serial: "1"}, Mark{Target: "reed", Serial: "1"}, true},
		{Mark{Target: "reed", Serial: "1"}, Mark{Target: "reed", Serial: "2"}, false},
		{Mark{Target: "reed", Serial: "1"}, Mark{Target: "rush", Serial: "1"}, false},
		{Mark{Target: "reed", Serial: "1"}, Mark{Serial: "1"}, true},
		{Mark{Serial: "1", Quad: "a"}, Mark{Quad: "a"}, false},
		{Mark{Quad: "a"}, Mark{Quad: "a"}, true},
		{Mark{Quad: "a"}, Mark{Quad: "b"}, false},
		{Mark{Target: "reed"}, Mark{Target: "reed"}, false},
	} {
		if c.a.Is(c.b) != c.same || c.b.Is(c.a) != c.same {
			t.Errorf("%+v and %+v: %v", c.a, c.b, c.a.Is(c.b))
		}
	}
	for words, m := range map[string]Mark{"Dunlin (board 7)": {Serial: "7", Quad: "Dunlin"}, "board 7": {Serial: "7"}, "Dunlin": {Quad: "Dunlin", Target: "reed"}, "a reed without a number": {Target: "reed"}, "a board without a number": {}} {
		if got := m.Words(); got != words {
			t.Errorf("%+v is %q", m, got)
		}
	}
}

// A leaf is typed where it has slots, and nowhere else: held to every leaf of what is meant.
func TestTypedLeavesHaveSlots(t *testing.T) {
	var m Meant
	m.Sheet.Firmware.Other = []string{"note.light = 5"}
	lists := 0
	for _, l := range Leaves(m, "") {
		list, err := Slots(l.Path)
		if has := err == nil && len(list) > 0; has != l.Typed() {
			t.Errorf("%s is typed: %v; it has %d slots, %v", l.Path, l.Typed(), len(list), err)
		}
		if !l.Typed() {
			lists++
		}
	}
	if lists == 0 {
		t.Error("there is no list to leave out")
	}
}
