package site

import (
	"math"
	"math/rand/v2"
	"testing"
)

// How far a point lies from a side, and whether a way passes near a ring, against every point of them in small steps.
func TestDistancesAgainstEveryPoint(t *testing.T) {
	r := rand.New(rand.NewPCG(2, 6))
	drawn := func() Offset { return Offset{East: 20 * r.Float64(), North: 20 * r.Float64()} }
	along := func(a, b Offset, s float64) Offset {
		return Offset{a.East + s*(b.East-a.East), a.North + s*(b.North-a.North)}
	}
	const steps = 400
	for range 200 {
		p, a, b := drawn(), drawn(), drawn()
		want := math.Inf(1)
		for i := range steps + 1 {
			want = math.Min(want, apart(p, along(a, b, float64(i)/steps)))
		}
		if got := distance(p, a, b); !(math.Abs(got-want) <= 0.05) {
			t.Fatalf("%v from %v to %v: %v, point by point %v", p, a, b, got, want)
		}
		ring := []Offset{drawn(), drawn(), drawn()}
		nearest := math.Inf(1)
		for i := range steps/4 + 1 {
			on := along(a, b, float64(i)*4/steps)
			if inside(ring, on) {
				nearest = 0
			}
			for k, c := range ring {
				for j := range steps/4 + 1 {
					nearest = math.Min(nearest, apart(on, along(c, ring[(k+1)%3], float64(j)*4/steps)))
				}
			}
		}
		for _, near := range []float64{0.5, 2, 5} {
			if math.Abs(nearest-near) < 0.3 {
				continue // too close for such steps
			}
			if got := crossesNear(ring, a, b, near); got != (nearest < near) {
				t.Fatalf("from %v to %v it passes %v at %v m, within %v m: %v", a, b, ring, nearest, near, got)
			}
		}
	}
	if got := distance(Offset{3, 4}, Offset{}, Offset{}); got != 5 {
		t.Errorf("from a side without a length: %v", got)
	}
}

// Rings whose sides turn back over each other, or touch, beside those that only have a corner in common.
func TestSidesThatTurnBack(t *testing.T) {
	for name, c := range map[string]struct {
		ring          []Offset
		first, second int
	}{
		"a square":                       {[]Offset{{0, 0}, {4, 0}, {4, 4}, {0, 4}}, 0, 0},
		"a corner on a straight side":    {[]Offset{{0, 0}, {2, 0}, {4, 0}, {4, 4}}, 0, 0},
		"back over the side before":      {[]Offset{{0, 0}, {4, 0}, {2, 0}, {2, 3}}, 1, 2},
		"the last back over the first":   {[]Offset{{0, 0}, {4, 0}, {4, 3}, {2, 0}}, 1, 3},
		"a bow tie":                      {[]Offset{{0, 0}, {4, 4}, {4, 0}, {0, 4}}, 1, 3},
		"a corner that touches a side":   {[]Offset{{0, 0}, {6, 0}, {6, 4}, {3, 0}, {0, 4}}, 1, 3},
		"a spike back along the way":     {[]Offset{{0, 0}, {4, 0}, {4, 4}, {4, 1}, {0, 4}}, 2, 3},
		"straight on, and then to one's": {[]Offset{{0, 0}, {4, 0}, {8, 0}, {4, 5}}, 0, 0},
	} {
		if first, second := Crosses(c.ring); first != c.first || second != c.second {
			t.Errorf("%s: sides %d and %d, want %d and %d", name, first, second, c.first, c.second)
		}
	}
}

// Along a bent line: 3 m north, then 4 m east, then nothing, then 1 m south.
func TestPlacesAlongALine(t *testing.T) {
	l := Line{Points: []Offset{{0, 0}, {0, 3}, {4, 3}, {4, 3}, {4, 2}}}
	for share, want := range map[float64]struct {
		at     Offset
		course float64
	}{0: {Offset{0, 0}, 0}, 0.25: {Offset{0, 2}, 0}, 0.5: {Offset{1, 3}, 90}, 0.75: {Offset{3, 3}, 90}, 1: {Offset{4, 2}, 180}, 1.5: {Offset{4, 2}, 180}} {
		at, course := l.At(share)
		if !(apart(at, want.at) <= 1e-9) || !(math.Abs(course-want.course) <= 1e-9) {
			t.Errorf("after %v of it: %v on %v°, want %+v", share, at, course, want)
		}
	}
}

// The nearest safe place, home where none is nearer.
func TestNearestSafePlace(t *testing.T) {
	m := Map{Safe: []Spot{{Name: "ford", At: Offset{East: 30}}, {Name: "dune", At: Offset{North: 10}}}}
	for _, c := range []struct {
		p    Offset
		name string
		away float64
	}{{Offset{North: 4}, "", 4}, {Offset{North: 6}, "dune", 4}, {Offset{East: 27}, "ford", 3}, {Offset{North: 5}, "", 5}} {
		if name, away := m.Nearest(c.p); name != c.name || away != c.away {
			t.Errorf("from %v: %q, %v m away", c.p, name, away)
		}
	}
}
