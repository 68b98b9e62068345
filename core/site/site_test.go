package site

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"vividperch/core/quad"
)

func square(kind Kind, west, south, side float64) Area {
	return Area{Kind: kind, Corners: []Offset{{west, south}, {west + side, south}, {west + side, south + side}, {west, south + side}}}
}

func height(m float64) *float64 { return &m }

func TestMapsThatCannotBe(t *testing.T) {
	bow := Area{Kind: Water, Name: "pond", Corners: []Offset{{0, 0}, {10, 10}, {10, 0}, {0, 10}}}
	for _, c := range []struct {
		name, code, says string
		m                Map
	}{
		{"a bow tie", "crosses-itself", "side 1 meets side 3", Map{Areas: []Area{bow}}},
		{"a spike that turns back over itself", "crosses-itself", "crosses itself", Map{Areas: []Area{{Kind: Soft, Corners: []Offset{{0, 0}, {10, 0}, {5, 0}, {5, 9}}}}}},
		{"two corners", "no-area", "three corners", Map{Areas: []Area{{Kind: People, Corners: []Offset{{0, 0}, {4, 0}}}}}},
		{"three in a row", "crosses-itself", "crosses itself", Map{Areas: []Area{{Kind: People, Corners: []Offset{{0, 0}, {4, 0}, {8, 0}}}}}},
		{"far out", "too-far", "5 km", Map{Areas: []Area{square(Roof, 6000, 0, 10)}}},
		{"no figure", "too-far", "5 km", Map{Safe: []Spot{{Name: "x", At: Offset{math.NaN(), 0}}}}},
		{"a kind nobody knows", "unknown-kind", "people, water", Map{Areas: []Area{square("lava", 0, 0, 10)}}},
		{"higher than anything", "bad-height", "500 m", Map{Areas: []Area{{Kind: Obstacle, Corners: square(Roof, 0, 0, 9).Corners, Height: height(900)}}}},
		{"a line of one point", "no-line", "two points", Map{Lines: []Line{{Name: "a", Points: []Offset{{1, 1}}, Height: 10}}}},
		{"a line under the ground", "bad-height", "1 to", Map{Lines: []Line{{Name: "a", Points: []Offset{{1, 1}, {5, 5}}, Height: -4}}}},
		{"a line without a name", "no-name", "a name", Map{Lines: []Line{{Points: []Offset{{1, 1}, {5, 5}}, Height: 4}}}},
		{"two of a name", "same-name", "two lines", Map{Lines: []Line{{Name: "a", Points: []Offset{{1, 1}, {5, 5}}, Height: 4}, {Name: "a", Points: []Offset{{1, 1}, {5, 5}}, Height: 4}}}},
		{"a long name", "long-name", "40", Map{Areas: []Area{{Kind: Soft, Name: strings.Repeat("ä", 41), Corners: square(Roof, 0, 0, 9).Corners}}}},
		{"too many", "too-many", "60", Map{Areas: make([]Area, 61)}},
	} {
		f := quad.AsFault(c.m.Check())
		if f == nil || f.Code != c.code || !strings.Contains(f.Error(), c.says) {
			t.Errorf("%s: %v", c.name, f)
		}
	}
	good := Map{Areas: []Area{square(Water, -20, 5, 30), {Kind: Obstacle, Name: "wood", Corners: []Offset{{0, 0}, {9, 1}, {5, 4}, {9, 9}, {0, 9}}, Height: height(12)}}, Safe: []Spot{{"jetty", Offset{4, 4}}}, Lines: []Line{{"out", []Offset{{0, 0}, {40, 0}}, 20, 8}}}
	if err := good.Check(); err != nil {
		t.Error(err)
	}
}

// Crosses against every pair of sides, parametrised: for corners drawn at random both must agree on whether the outline is a simple one.
func TestCrossesAgainstAnotherWay(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	simple := 0
	for range 3000 {
		ring := make([]Offset, 3+r.IntN(5))
		for i := range ring {
			ring[i] = Offset{r.Float64() * 10, r.Float64() * 10}
		}
		crosses, n := false, len(ring)
		for i := range n {
			for j := i + 2; j < n; j++ {
				if i == 0 && j == n-1 {
					continue
				}
				// Solve a + s (b-a) = c + u (d-c).
				a, b, c, d := ring[i], ring[i+1], ring[j], ring[(j+1)%n]
				det := (b.East-a.East)*(c.North-d.North) - (b.North-a.North)*(c.East-d.East)
				s := ((c.East-a.East)*(c.North-d.North) - (c.North-a.North)*(c.East-d.East)) / det
				u := ((b.East-a.East)*(c.North-a.North) - (b.North-a.North)*(c.East-a.East)) / det
				crosses = crosses || s >= 0 && s <= 1 && u >= 0 && u <= 1
			}
		}
		first, _ := Crosses(ring)
		if (first > 0) != crosses {
			t.Fatalf("%v: %d, want %v", ring, first, crosses)
		}
		if !crosses {
			simple++
		}
	}
	if simple < 300 {
		t.Errorf("only %d outlines were simple", simple)
	}
}

// Inside by the angle that the corners go round a point, summed.
func TestInsideAgainstTheWindingAngle(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 6))
	star := Area{Kind: Soft}
	for i := range 11 {
		at, far := 2*math.Pi*float64(i)/11, 4+6*r.Float64()
		star.Corners = append(star.Corners, Offset{far * math.Cos(at), far * math.Sin(at)})
	}
	ground := NewGround(&Map{Areas: []Area{star}})
	in := 0
	for range 5000 {
		p, sum := Offset{20*r.Float64() - 10, 20*r.Float64() - 10}, 0.0
		for i, a := range star.Corners {
			b := star.Corners[(i+1)%len(star.Corners)]
			sum += math.Remainder(math.Atan2(b.North-p.North, b.East-p.East)-math.Atan2(a.North-p.North, a.East-p.East), 2*math.Pi)
		}
		want := math.Abs(sum) > math.Pi
		if star.Holds(p) != want || (ground.Under(p) != nil) != want {
			t.Fatalf("%v: %v, want %v", p, star.Holds(p), want)
		}
		if want {
			in++
		}
	}
	if in < 500 {
		t.Errorf("only %d lay inside", in)
	}
}

func TestWhatIsStruck(t *testing.T) {
	wood, roof, shed := square(Obstacle, 4, 0, 10), square(Roof, 20, 0, 10), square(Obstacle, 40, 0, 10)
	wood.Height, roof.Height = height(15), height(6)
	g := NewGround(&Map{Areas: []Area{wood, roof, shed, square(People, 5, 5, 2)}})
	for _, c := range []struct {
		name        string
		east        float64
		before, now float64
		want        Kind
	}{
		{"into the side of the wood", 5, 10, 10, Obstacle}, {"onto its top", 5, 16, 14.5, Obstacle}, {"over it", 5, 20, 18, ""},
		{"beside it", 15, 10, 10, ""}, {"onto the roof", 25, 7, 5.5, Roof}, {"under it", 25, 4, 3, ""}, {"up into it", 25, 5, 6.5, Roof}, {"along over it", 25, 9, 9, ""},
		{"into what nobody told the height of", 45, 3, 2, ""},
	} {
		got := g.Struck(Offset{c.east, 5}, c.before, c.now)
		if got == nil && c.want != "" || got != nil && got.Kind != c.want {
			t.Errorf("%s: %v", c.name, got)
		}
	}
	if a := g.Under(Offset{6, 6}); a == nil || a.Kind != People {
		t.Errorf("people in a wood count first: %v", a)
	}
	m := Map{Areas: []Area{wood, roof, shed}}
	if lacks := m.Lacks(); len(lacks) != 1 || !strings.Contains(lacks[0], "How high is an obstacle?") {
		t.Error(lacks)
	}
	beyond := Line{Points: []Offset{{60, 5}, {60, 8}}}
	if h, _ := m.Tallest(&beyond, 2); h != 15 {
		t.Errorf("in the way home: %v", h)
	}
	beside := Line{Points: []Offset{{0, -60}, {5, -60}}}
	if h, _ := m.Tallest(&beside, 2); h != 0 {
		t.Errorf("beside everything: %v", h)
	}
}

func TestAlongALine(t *testing.T) {
	l := Line{Points: []Offset{{0, 0}, {0, 30}, {40, 30}}}
	for _, c := range []struct {
		share, east, north, course float64
	}{{0, 0, 0, 0}, {0.25, 0, 17.5, 0}, {0.5, 5, 30, 90}, {1, 40, 30, 90}} {
		if p, course := l.At(c.share); math.Hypot(p.East-c.east, p.North-c.north) > 1e-9 || course != c.course {
			t.Errorf("%v: %v on %v", c.share, p, course)
		}
	}
	if l.Length() != 70 {
		t.Error(l.Length())
	}
	m := Map{Safe: []Spot{{"jetty", Offset{30, 30}}}}
	if name, away := m.Nearest(Offset{40, 30}); name != "jetty" || away != 10 {
		t.Error(name, away)
	}
	if name, away := m.Nearest(Offset{3, 4}); name != "" || away != 5 {
		t.Error(name, away)
	}
}
