package flight

import (
	"math"
	"strings"
	"testing"

	"vividperch/core/airframe"
	"vividperch/core/linkloss"
	"vividperch/core/quad"
	"vividperch/core/site"
)

func box(kind site.Kind, west, south, east, north float64, height ...float64) site.Area {
	a := site.Area{Kind: kind, Corners: []site.Offset{{East: west, North: south}, {East: east, North: south}, {East: east, North: north}, {East: west, North: north}}}
	if len(height) > 0 {
		a.Height = &height[0]
	}
	return a
}

func flownLine(t testing.TB, in Input, ask LineAsk, times int) (*LineRun, LineView) {
	t.Helper()
	r, err := NewLineRun(in, ask)
	if err != nil {
		t.Fatal(err)
	}
	if err := r.FlyTo(times, nil); err != nil {
		t.Fatal(err)
	}
	return r, r.View()
}

func countOf(v LineView, policy quad.Policy, end End) int {
	for _, l := range v.Losses {
		for _, e := range l.Ends {
			if l.Policy == policy && e.End == end {
				return e.Count
			}
		}
	}
	return 0
}

var east = site.Line{Name: "out", Points: []site.Offset{{}, {East: 200}}, Height: 20, Speed: 8}

// Over a strip of people in still air a quad that stops its motors comes down among them from a stretch of the line as long as the strip, begun earlier by
// what it flies during the failsafe delay and falls ahead, integrated apart.
func TestLineOverAStrip(t *testing.T) {
	in := navigating()
	_, v := flownLine(t, in, LineAsk{Line: east, Map: site.Map{Areas: []site.Area{box(site.People, 100, -50, 150, 50)}}, Set: quad.PolicyDrop}, 1000)
	if got := countOf(v, quad.PolicyDrop, OnPeople); !(math.Abs(float64(got)-250) <= 12) {
		t.Errorf("%d of 1000 come down on a quarter of the line", got)
	}
	ahead := east.Speed*in.Settings.Guard + linkloss.Drop(east.Speed, east.Height, in.Mass, airframe.DragOf(in.Parts.Frame, in.Site.Density), airframe.Gravity).Ahead
	if len(v.Avoid) != 1 {
		t.Fatalf("to keep away from: %+v, want one stretch", v.Avoid)
	}
	first, last := v.Avoid[0].From, v.Avoid[0].To
	piece := 200.0 / pieces
	if !(math.Abs(first-(100-ahead)) <= piece) || !(math.Abs(last-(150-ahead)) <= piece) {
		t.Errorf("to keep away from: %v to %v m, want %.0f to %.0f", first, last, 100-ahead, 150-ahead)
	}
	m, err := newPathModel(in)
	if err != nil {
		t.Fatal(err)
	}
	hover, _ := m.drive.Hover(in.Mass)
	for _, l := range v.Losses { // a fall takes nothing, a way home the hover's current for as long as it lasts
		if want := hover.PackCurrent * l.After / 3.6; l.Policy == quad.PolicyDrop && l.Charge > 4 || l.Policy == quad.PolicyReturn && !(math.Abs(l.Charge-want) <= 0.15*want) {
			t.Errorf("%s takes %v mAh in %v s, want %.0f", l.Policy, l.Charge, l.After, want)
		}
	}
	if n := countOf(v, quad.PolicyReturn, OnPeople); n != 0 || v.Advice.Policy != quad.PolicyReturn || !strings.Contains(v.Advice.Why, "none comes down among people where it comes home") {
		t.Errorf("%d, %+v", n, v.Advice)
	}
}

// A wood on the way home is struck by what comes home lower than it stands, and by nothing that comes home higher; under a roof a climb ends at the roof.
func TestLineBehindWhatStands(t *testing.T) {
	in := navigating()
	in.Actual.Place.Dilution = 0.5
	far := site.Line{Name: "behind", Points: []site.Offset{{East: 150, North: -5}, {East: 150, North: 5}}, Height: 10, Speed: 1}
	wood := site.Map{Areas: []site.Area{box(site.Obstacle, 60, -60, 90, 60, 18)}}
	for _, c := range []struct {
		height float64
		struck int
	}{{12, 200}, {30, 0}} {
		in.Settings.Nav.WayHeight = c.height
		_, v := flownLine(t, in, LineAsk{Line: far, Map: wood, Set: quad.PolicyReturn}, 200)
		if got := countOf(v, quad.PolicyReturn, OnObstacle); !(math.Abs(float64(got-c.struck)) <= 4) {
			t.Errorf("home at %v m: %d of 200 strike the wood", c.height, got)
		}
		if v.Tallest != 18 || v.TallestName != "an obstacle" {
			t.Errorf("in the way: %v m, %q", v.Tallest, v.TallestName)
		}
	}
	hall := site.Map{Areas: []site.Area{box(site.Roof, 20, -40, 60, 40, 8)}}
	under := site.Line{Name: "inside", Points: []site.Offset{{East: 30}, {East: 50}}, Height: 3, Speed: 2}
	in.Settings.Nav.WayHeight = 25
	_, v := flownLine(t, in, LineAsk{Line: under, Map: hall, Set: quad.PolicyDrop}, 100)
	if home, drop := countOf(v, quad.PolicyReturn, OnRoof), countOf(v, quad.PolicyDrop, OnRoof); home != 100 || drop != 0 {
		t.Errorf("under a roof: %d strike it coming home, %d falling", home, drop)
	}
	over := under
	over.Height = 30
	if _, v := flownLine(t, in, LineAsk{Line: over, Map: hall, Set: quad.PolicyDrop}, 100); countOf(v, quad.PolicyDrop, OnRoof) < 95 {
		t.Errorf("above the roof: %d fall onto it", countOf(v, quad.PolicyDrop, OnRoof))
	}
	hall.Areas[0].Height = nil
	if _, v := flownLine(t, in, LineAsk{Line: over, Map: hall, Set: quad.PolicyDrop}, 40); countOf(v, quad.PolicyDrop, OnRoof) != 0 || len(v.Lacks) == 0 {
		t.Errorf("a height that nobody told is one: %+v", v.Lacks)
	}
}

// Without drag and wind a hover's current carries it wherever it flies: the charge that is there divided by it is the time, out at one speed and home at another.
func TestLineTurnsBackInTime(t *testing.T) {
	in := navigating()
	in.Parts.Frame.DragArea = 1e-3
	in.Pack.Capacity = 60
	in.Settings.Nav.Speed = 5
	r, v := flownLine(t, in, LineAsk{Line: site.Line{Name: "far", Points: []site.Offset{{}, {East: 2000}}, Height: 20, Speed: 10}, Set: quad.PolicyReturn}, 4)
	m := r.by[0].models[voltLevels/2]
	p, _ := m.drive.Hover(in.Mass)
	want := 0.8 * 60 * 3.6 / p.PackCurrent / (1.0/10 + 1.0/5)
	if !(math.Abs(v.Back.Along-want) <= 0.05*want) || v.Back.Whole {
		t.Errorf("turns back at %v m, want %.0f: %s", v.Back.Along, want, v.Back.Words)
	}
	// Against a wind that it cannot make way in it never gets home; with it, it does.
	in.Pack.Capacity, in.Parts.Frame.DragArea = 3000, 30000
	in.Site.WindNorth = -12
	if _, v := flownLine(t, in, LineAsk{Line: east, From: 270, Set: quad.PolicyReturn}, 4); v.Back.Whole || !strings.Contains(v.Back.Words, "carries it off") {
		t.Errorf("%+v", v.Back)
	}
	if _, v := flownLine(t, in, LineAsk{Line: east, From: 90, Set: quad.PolicyReturn}, 4); strings.Contains(v.Back.Words, "carries it off") {
		t.Errorf("%+v", v.Back)
	}
	in.Pack.Capacity = 0
	if _, v := flownLine(t, in, LineAsk{Line: east, Set: quad.PolicyDrop}, 4); v.Back.Told || v.Back.Words == "" {
		t.Errorf("%+v", v.Back)
	}
}

// Flown on bit by bit it comes to the same as at once; cancelled, it keeps what it has.
func TestLineIsFlownOn(t *testing.T) {
	in := navigating()
	in.Site.WindNorth, in.Site.Gust = -4, 1
	ask := LineAsk{Line: east, From: 200, Set: quad.PolicyLand}
	_, once := flownLine(t, in, ask, 90)
	r, _ := flownLine(t, in, ask, 30)
	if err := r.FlyTo(60, func() bool { return true }); quad.AsFault(err) == nil || quad.AsFault(err).Code != "cancelled" || r.View().Flown != 30 {
		t.Errorf("%v, %d", err, r.View().Flown)
	}
	if err := r.FlyTo(90, nil); err != nil {
		t.Fatal(err)
	}
	bit := r.View()
	for i := range once.Losses {
		a, b := once.Losses[i], bit.Losses[i]
		if a.Median != b.Median || a.Drifts != b.Drifts || a.Harmless != b.Harmless {
			t.Errorf("%s: %+v and %+v", a.Policy, a.Median, b.Median)
		}
	}
	// The wind carries what descends along with it: from 200 degrees towards 20.
	l := once.Losses[1]
	if l.Policy != quad.PolicyLand || l.Median.North < 3 {
		t.Errorf("%+v", l.Median)
	}
}

func TestLineRefuses(t *testing.T) {
	in := navigating()
	for _, c := range []struct {
		ask  LineAsk
		code string
	}{
		{LineAsk{Line: site.Line{Name: "x", Points: []site.Offset{{}}, Height: 20, Speed: 5}}, "no-line"},
		{LineAsk{Line: east, From: math.NaN()}, "no-direction"},
		{LineAsk{Line: east, Map: site.Map{Areas: []site.Area{{Kind: site.Water, Corners: []site.Offset{{}, {East: 9, North: 9}, {East: 9}, {North: 9}}}}}}, "crosses-itself"},
	} {
		if _, err := NewLineRun(in, c.ask); quad.AsFault(err) == nil || quad.AsFault(err).Code != c.code {
			t.Errorf("%s: %v", c.code, err)
		}
	}
	in.Settings.Policy = quad.PolicyLand
	if _, v := flownLine(t, in, LineAsk{Line: east, Set: quad.PolicyLand}, 4); len(v.Losses) != 2 || len(v.Lacks) != 1 {
		t.Errorf("a way home that is not set is made up: %d, %v", len(v.Losses), v.Lacks)
	}
}

func BenchmarkLineLosses(b *testing.B) {
	in := navigating()
	in.Settings.LandPush = 0.15
	in.Site.WindNorth, in.Site.Gust = -4, 1
	ask := LineAsk{Line: site.Line{Name: "round", Points: []site.Offset{{}, {East: 100, North: 40}, {East: 80, North: 140}, {North: 60}}, Height: 25, Speed: 8}, From: 230, Set: quad.PolicyReturn,
		Map: site.Map{Areas: []site.Area{box(site.People, 40, -50, 60, 50), box(site.Obstacle, 60, 60, 90, 90, 15), box(site.Water, -50, 100, 50, 200)}}}
	for range b.N {
		_, _ = flownLine(b, in, ask, 1000)
	}
	b.ReportMetric(b.Elapsed().Seconds()/float64(b.N), "s/1000losses")
}
