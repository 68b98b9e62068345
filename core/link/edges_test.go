package link

import (
	"math"
	"testing"

	"vividperch/core/quad"
)

// What arrives with all losses told is, at the ranges of a budget, the sensitivity and the margin that each range is for; and two values of a link's rate, by hand.
func TestBudgetWithEveryLoss(t *testing.T) {
	g := gear(t, "Tidewire")
	var k quad.Known
	k.Parts.RadioModule = quad.RadioModule{Link: "Tidewire", Band: "2.4 GHz", Power: 100, Gain: 2, Polarisation: quad.Linear}
	k.Parts.Receiver = quad.Receiver{Link: "Tidewire", Band: "2.4 GHz", Gain: 1, Polarisation: quad.Crossed, Frame: 2}
	k.Radio.Rate = 250
	b, err := BudgetOf(g, k, Path{Body: 6, Ground: 1.5, Air: 30})
	if err != nil {
		t.Fatal(err)
	}
	near(t, "crossed and behind a body, at the safe range", b.At(b.Safe), -108+20, 0.01)
	near(t, "at the farthest", b.At(b.Farthest), -108, 0.01)
	// 20 dBm, 3 dB of antennas, 20 dB crossed and 6 dB of body lost, and 80.20 dB over 100 m.
	near(t, "over 100 m", b.At(100), 20+3-20-6-80.20, 0.01)
	near(t, "a frame comes every, ms", b.Interval, 4, 1e-9)
	near(t, "the zone midway, m", b.Fresnel, Fresnel(b.Safe/1000, b.Frequency), 1e-9)
	near(t, "a horizon of, m", b.Horizon, 27600, 60)
}

// Regions disagree only where both are told.
func TestRegionsDisagreeOnlyWhereTold(t *testing.T) {
	for _, c := range []struct {
		module, receiver string
		same             bool
	}{{"east", "east", true}, {"east", "west", false}, {"", "west", true}, {"east", "", true}, {"", "", true}} {
		m, r := quad.RadioModule{Link: "Tidewire", Band: "2.4 GHz", Version: "6.2", Region: c.module}, quad.Receiver{Link: "Tidewire", Band: "2.4 GHz", Version: "6.0", Region: c.receiver}
		if got := Compare(m, r); got.SameRegion != c.same || got.Hears() != c.same {
			t.Errorf("%q and %q: %+v, hears %v", c.module, c.receiver, got, got.Hears())
		}
	}
}

// The differences of two receivers: one and three in turn are two in the mean, and scatter by one; the mean's error counts one pair in a second.
func TestPairedByHand(t *testing.T) {
	var points []Point
	for i := range 40 {
		points = append(points, Point{Time: 1 + float64(i)/2, Strength: -80, Second: -80 + float64(1+2*(i%2))})
	}
	points = append(points, Point{Time: 30, Strength: -80, Second: math.NaN()})
	got := paired(points)
	spread := math.Sqrt(40.0 / 39)
	if got.Pairs != 40 || got.Mean != 2 || got.Spread != round1(spread) || got.Error != round1(1.96*spread/math.Sqrt(20)) {
		t.Errorf("%+v", got)
	}
	if one := paired(points[:1]); one.Pairs != 1 || one.Words != "Too few pairs to compare." {
		t.Errorf("one pair: %+v", one)
	}
}

// Thinned, a track keeps both its ends and even steps between them.
func TestThinIsEven(t *testing.T) {
	var points []Point
	for i := range 101 {
		points = append(points, Point{Distance: float64(i)})
	}
	for most, step := range map[int]float64{2: 100, 5: 25, 11: 10, 101: 1, 500: 1} {
		got := Thin(points, most)
		if len(got) != min(most, 101) {
			t.Fatalf("to %d at most it has %d", most, len(got))
		}
		for i, p := range got {
			if p.Distance != float64(i)*step {
				t.Errorf("of %d, point %d is the one at %v", most, i, p.Distance)
			}
		}
	}
	if got := Thin(points, 1); len(got) != 101 {
		t.Errorf("to one point: %d", len(got))
	}
}

// Where all was flown at one distance nothing says how it falls with distance, and no slope is told.
func TestNoSlopeOfOneDistance(t *testing.T) {
	b := flown(t)
	var track Track
	for i := range 60 {
		d := 30 + float64(i%7)
		track.Points = append(track.Points, Point{Distance: d, Strength: b.At(d) - 9 - float64(i%3)})
	}
	got, err := Measure(b, track)
	if err != nil {
		t.Fatal(err)
	}
	if got.Slope != 0 || got.Points != 60 || got.Farthest != 36 || !(math.Abs(got.Missing-10) <= 0.01) {
		t.Errorf("%+v", got)
	}
}

// Modules of a fleet: quads of one radio and link share one, an external one beside it is another, and versions that differ are told.
func TestModulesOfAFleet(t *testing.T) {
	member := func(name, radio, link, module string, external bool) Member {
		var m Member
		m.Name, m.Radio, m.Link, m.Module, m.External = name, radio, link, module, external
		return m
	}
	got := Modules([]Member{
		member("a", "brown", "Tidewire", "6.1", false), member("b", "brown", "Tidewire", "6.2", false), member("c", "brown", "Tidewire", "6.1", true),
		member("d", "brown", "Groyne", "1.0", false), member("e", "grey", "Tidewire", "6.1", false), member("f", "grey", "", "", false), member("g", "grey", "Tidewire", "6.1", false),
	})
	want := []struct {
		name, link, version string
		external, differ    bool
		members             int
	}{{"brown", "Tidewire", "6.2", false, true, 2}, {"brown", "Tidewire", "6.1", true, false, 1}, {"brown", "Groyne", "1.0", false, false, 1}, {"grey", "Tidewire", "6.1", false, false, 2}}
	if len(got) != len(want) {
		t.Fatalf("%+v", got)
	}
	for i, w := range want {
		if m := got[i]; m.Name != w.name || m.Link != w.link || m.Version != w.version || m.External != w.external || m.Differ != w.differ || len(m.Members) != w.members {
			t.Errorf("module %d: %+v", i, m)
		}
	}
	for _, c := range []struct {
		a, b  string
		newer bool
	}{{"6.2", "6.1", true}, {"6.1", "6.2", false}, {"6.1", "6.1", false}, {"6.1", "what", true}, {"what", "6.1", false}, {"what", "else", false}} {
		if newer(c.a, c.b) != c.newer {
			t.Errorf("%s is newer than %s: %v", c.a, c.b, !c.newer)
		}
	}
}

// A receiver sends telemetry beside as many channels as its link carries with it.
func TestCanBesideSoManyChannels(t *testing.T) {
	var some, every Gear
	some.Telemetry.Most, every.Telemetry.Any = 8, true
	for _, c := range []struct {
		gear      Gear
		has       bool
		channels  int
		telemetry bool
		can       bool
	}{
		{some, true, 8, true, true}, {some, true, 9, true, false}, {some, false, 4, true, false}, {some, false, 16, false, true}, {every, true, 16, true, true}, {every, false, 16, true, false},
	} {
		if got := Can(c.gear, quad.Receiver{Telemetry: c.has}, c.channels, c.telemetry); got != c.can {
			t.Errorf("%+v: %v", c, got)
		}
	}
}
