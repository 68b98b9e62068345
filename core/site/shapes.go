package site

import "math"

func apart(a, b Offset) float64 { return math.Hypot(a.East-b.East, a.North-b.North) }

// Enclosed is what a ring of corners encloses, m²; negative clockwise.
func Enclosed(ring []Offset) float64 {
	sum := 0.0
	for i, a := range ring {
		b := ring[(i+1)%len(ring)]
		sum += a.East*b.North - b.East*a.North
	}
	return sum / 2
}

// Crosses says which two sides of a ring, counted from 1, meet where they should not; 0, 0 for a simple one. Side 1 is from the first corner to the
// second.
func Crosses(ring []Offset) (first, second int) {
	n := len(ring)
	for i := range n {
		for j := i + 1; j < n; j++ {
			next, last := j == i+1, i == 0 && j == n-1
			a, b, c, d := ring[i], ring[(i+1)%n], ring[j], ring[(j+1)%n]
			if next || last {
				// They share a corner; they may not turn back over each other.
				at, p, q := b, a, d
				if last && !next {
					at, p, q = a, b, c
				}
				if turn(at, p, q) == 0 && (p.East-at.East)*(q.East-at.East)+(p.North-at.North)*(q.North-at.North) > 0 {
					return i + 1, j + 1
				}
				continue
			}
			if meet(a, b, c, d) {
				return i + 1, j + 1
			}
		}
	}
	return 0, 0
}

// turn from a to b to c: above 0 to the left.
func turn(a, b, c Offset) float64 {
	return (b.East-a.East)*(c.North-a.North) - (b.North-a.North)*(c.East-a.East)
}

// meet says whether two sides have a point in common.
func meet(a, b, c, d Offset) bool {
	p, q, r, s := turn(a, b, c), turn(a, b, d), turn(c, d, a), turn(c, d, b)
	if (p > 0) != (q > 0) && (r > 0) != (s > 0) && p != 0 && q != 0 && r != 0 && s != 0 {
		return true
	}
	on := func(a, b, x Offset) bool {
		return x.East >= math.Min(a.East, b.East) && x.East <= math.Max(a.East, b.East) && x.North >= math.Min(a.North, b.North) && x.North <= math.Max(a.North, b.North)
	}
	return p == 0 && on(a, b, c) || q == 0 && on(a, b, d) || r == 0 && on(c, d, a) || s == 0 && on(c, d, b)
}

// Holds says whether a point lies in an area.
func (a *Area) Holds(p Offset) bool { return inside(a.Corners, p) }

// inside counts how often a ray to the east crosses the ring.
func inside(ring []Offset, p Offset) bool {
	in := false
	for i, a := range ring {
		b := ring[(i+1)%len(ring)]
		if (a.North > p.North) != (b.North > p.North) && p.East < a.East+(p.North-a.North)/(b.North-a.North)*(b.East-a.East) {
			in = !in
		}
	}
	return in
}

// Ground tells quickly what lies where on a map.
type Ground struct {
	areas []bounded
	solid []int // those that stand, with a height
}

type bounded struct {
	Area
	low, high Offset
}

// NewGround of a map.
func NewGround(m *Map) *Ground {
	g := &Ground{}
	for _, kind := range Kinds {
		for _, a := range m.Areas {
			if a.Kind != kind || len(a.Corners) < 3 {
				continue
			}
			b := bounded{Area: a, low: a.Corners[0], high: a.Corners[0]}
			for _, c := range a.Corners {
				b.low = Offset{math.Min(b.low.East, c.East), math.Min(b.low.North, c.North)}
				b.high = Offset{math.Max(b.high.East, c.East), math.Max(b.high.North, c.North)}
			}
			if kind.Stands() && a.Height != nil {
				g.solid = append(g.solid, len(g.areas))
			}
			g.areas = append(g.areas, b)
		}
	}
	return g
}

func (b *bounded) holds(p Offset) bool {
	return p.East >= b.low.East && p.East <= b.high.East && p.North >= b.low.North && p.North <= b.high.North && inside(b.Corners, p)
}

// Under is the area that something which came down at a point lies in, or nil on open ground. Where several do, the first of [Kinds] counts.
func (g *Ground) Under(p Offset) *Area {
	for i := range g.areas {
		if g.areas[i].holds(p) {
			return &g.areas[i].Area
		}
	}
	return nil
}

// Stands says whether anything on the map can be struck in the air.
func (g *Ground) Stands() bool { return len(g.solid) > 0 }

// Struck is what something strikes or falls onto that was at one height (m) a moment before and is at another over a point now, or nil: the side or
// top of an obstacle, a roof from above or from below.
func (g *Ground) Struck(p Offset, before, now float64) *Area {
	for _, i := range g.solid {
		a := &g.areas[i]
		top := *a.Height
		if now > top && before > top || !a.holds(p) {
			continue
		}
		if a.Kind == Obstacle && now < top || a.Kind == Roof && (before-top)*(now-top) <= 0 && before != now {
			return &a.Area
		}
	}
	return nil
}

// Tallest is the highest thing between home and a line, m: what stands within a way of the straight way home from anywhere on it, and what it is
// called; 0 and nothing where nothing does.
func (m *Map) Tallest(l *Line, way float64) (height float64, name string) {
	for i := range m.Areas {
		a := &m.Areas[i]
		if !a.Kind.Stands() || a.Height == nil || *a.Height <= height {
			continue
		}
		for n := range 101 {
			p, _ := l.At(float64(n) / 100)
			if crossesNear(a.Corners, Offset{}, p, way) {
				height, name = *a.Height, a.Called()
				break
			}
		}
	}
	return height, name
}

// crossesNear says whether a way from a to b passes within some metres of a ring, or through it.
func crossesNear(ring []Offset, a, b Offset, near float64) bool {
	if inside(ring, a) || inside(ring, b) {
		return true
	}
	for i, c := range ring {
		d := ring[(i+1)%len(ring)]
		if meet(a, b, c, d) || distance(a, c, d) <= near || distance(b, c, d) <= near || distance(c, a, b) <= near || distance(d, a, b) <= near {
			return true
		}
	}
	return false
}

// distance of a point from a side, m.
func distance(p, a, b Offset) float64 {
	de, dn := b.East-a.East, b.North-a.North
	t := 0.0
	if l := de*de + dn*dn; l > 0 {
		t = math.Max(0, math.Min(1, ((p.East-a.East)*de+(p.North-a.North)*dn)/l))
	}
	return apart(p, Offset{a.East + t*de, a.North + t*dn})
}
