// Package site knows a place where a pilot flies: what lies on the ground there, how high it stands, and the line that is meant to be flown.
//
// Everything is in metres east and north of home, which is where the quad takes off: a map holds no coordinates on the earth, so none can leak
// out of it.
package site

import (
	"math"
	"strconv"
	"strings"

	"vividperch/core/quad"
)

// Kind of an area.
type Kind string

const (
	People   Kind = "people"   // somebody is there
	Water    Kind = "water"    // what comes down is lost
	Roof     Kind = "roof"     // it can be flown under; from above it carries what falls
	Obstacle Kind = "obstacle" // it stands from the ground up: trees, buildings, masts
	Soft     Kind = "soft"     // reeds, long grass, hedges to fall into
)

// Kinds in the order in which one that lies over another counts.
var Kinds = []Kind{People, Obstacle, Roof, Water, Soft}

var kindWords = map[Kind]string{People: "people", Water: "water", Roof: "a roof", Obstacle: "an obstacle", Soft: "soft ground"}

// Words for it.
func (k Kind) Words() string { return kindWords[k] }

// Stands says whether an area of this kind has a height that matters.
func (k Kind) Stands() bool { return k == Roof || k == Obstacle }

// Offset on the ground, m from home.
type Offset struct {
	East  float64 `json:"east" unit:"m"`
	North float64 `json:"north" unit:"m"`
}

// Area on the ground, inside its corners.
type Area struct {
	Kind    Kind     `json:"kind" enum:"people,water,roof,obstacle,soft"`
	Name    string   `json:"name" maxLength:"40"`
	Corners []Offset `json:"corners" maxItems:"200"`
	// Height of what stands there, m above home. Left out, nobody told it.
	Height *float64 `json:"height,omitempty" unit:"m"`
}

// Called is what a pilot calls it.
func (a *Area) Called() string {
	if a.Name != "" {
		return a.Name
	}
	return a.Kind.Words()
}

// Spot is a place that the pilot has picked to come down at, should home be out of reach.
type Spot struct {
	Name string `json:"name" maxLength:"40"`
	At   Offset `json:"at"`
}

// Line that is meant to be flown, from its first point to its last.
type Line struct {
	Name   string   `json:"name" maxLength:"40"`
	Points []Offset `json:"points" maxItems:"200"`
	Height float64  `json:"height" unit:"m"` // above home
	Speed  float64  `json:"speed" unit:"m/s"`
}

// Map of a place.
type Map struct {
	Areas []Area `json:"areas" maxItems:"60"`
	Safe  []Spot `json:"safe" maxItems:"20"`
	Lines []Line `json:"lines" maxItems:"20"`
}

// Bounds of a map.
const (
	farthest    = 5000.0 // m from home
	mostCorners = 200
	mostAreas   = 60
	mostSpots   = 20
	mostLines   = 20
	mostName    = 40
	highest     = 500.0 // m
	fastest     = 60.0  // m/s
	smallest    = 0.5   // m², that an area has at least
)

// Check says what is wrong with a map, as a Fault at the area, place or line: a corner too far out, an area that crosses itself or encloses nothing,
// a height or speed that cannot be.
func (m *Map) Check() error {
	for _, n := range []struct {
		have, most int
		what       string
	}{{len(m.Areas), mostAreas, "areas"}, {len(m.Safe), mostSpots, "safe places"}, {len(m.Lines), mostLines, "lines"}} {
		if n.have > n.most {
			return quad.Faultf("too-many", n.what, "no more than %d %s go on a map", n.most, n.what)
		}
	}
	for i := range m.Areas {
		if err := m.Areas[i].check(i); err != nil {
			return err
		}
	}
	for i, s := range m.Safe {
		at := "safe place " + strconv.Itoa(i+1)
		if err := named(s.Name, at); err != nil {
			return err
		}
		if err := within([]Offset{s.At}, at); err != nil {
			return err
		}
	}
	names := map[string]bool{}
	for i := range m.Lines {
		l := &m.Lines[i]
		if err := l.check(i); err != nil {
			return err
		}
		if names[l.Name] {
			return quad.Faultf("same-name", l.Name, "two lines have this name")
		}
		names[l.Name] = true
	}
	return nil
}

func (a *Area) check(i int) error {
	at := "area " + strconv.Itoa(i+1)
	if a.Name != "" {
		at = a.Name
	}
	if kindWords[a.Kind] == "" {
		return quad.Faultf("unknown-kind", at, "an area is people, water, a roof, an obstacle or soft ground")
	}
	if err := named(a.Name, at); err != nil {
		return err
	}
	if err := within(a.Corners, at); err != nil {
		return err
	}
	if len(a.Corners) < 3 {
		return quad.Faultf("no-area", at, "an area has at least three corners; this one has %d", len(a.Corners))
	}
	if first, second := Crosses(a.Corners); first > 0 {
		return quad.Faultf("crosses-itself", at, "its outline crosses itself: side %d meets side %d. Draw the corners one after the other around it", first, second)
	}
	if math.Abs(Enclosed(a.Corners)) < smallest {
		return quad.Faultf("no-area", at, "it encloses nothing")
	}
	if h := a.Height; h != nil && !(*h >= 0 && *h <= highest) {
		return quad.Faultf("bad-height", at, "a height is 0 to %s", quad.Quantity(highest, "m"))
	}
	return nil
}

func (l *Line) check(i int) error {
	at := "line " + strconv.Itoa(i+1)
	if l.Name != "" {
		at = l.Name
	}
	if strings.TrimSpace(l.Name) == "" {
		return quad.Faultf("no-name", at, "give the line a name")
	}
	if err := named(l.Name, at); err != nil {
		return err
	}
	if err := within(l.Points, at); err != nil {
		return err
	}
	switch {
	case len(l.Points) < 2 || l.Length() < 1:
		return quad.Faultf("no-line", at, "a line has at least two points, a metre apart")
	case !(l.Height >= 1 && l.Height <= highest):
		return quad.Faultf("bad-height", at, "a line is flown 1 to %s up", quad.Quantity(highest, "m"))
	case !(l.Speed >= 0 && l.Speed <= fastest):
		return quad.Faultf("bad-speed", at, "a line is flown at 0 to %s", quad.Quantity(fastest, "m/s"))
	}
	return nil
}

func named(name, at string) error {
	if quad.Longer(name, mostName) {
		return quad.Faultf("long-name", at, "a name has at most %d characters", mostName)
	}
	return nil
}

func within(points []Offset, at string) error {
	if len(points) > mostCorners {
		return quad.Faultf("too-many", at, "no more than %d corners", mostCorners)
	}
	for _, p := range points {
		if !(math.Hypot(p.East, p.North) <= farthest) { // also what is no number
			return quad.Faultf("too-far", at, "a corner lies more than %s from home", quad.Quantity(farthest/1000, "km"))
		}
	}
	return nil
}

// Length of a line, m.
func (l *Line) Length() float64 {
	sum := 0.0
	for i := 1; i < len(l.Points); i++ {
		sum += apart(l.Points[i-1], l.Points[i])
	}
	return sum
}

// At is the place after a share (0 to 1) of a line's length, and the course there, deg clockwise from north.
func (l *Line) At(share float64) (Offset, float64) {
	left := share * l.Length()
	for i := 1; i < len(l.Points); i++ {
		a, b := l.Points[i-1], l.Points[i]
		d := apart(a, b)
		if d == 0 || left > d && i < len(l.Points)-1 {
			left -= d
			continue
		}
		s := math.Min(1, math.Max(0, left/d))
		course := math.Atan2(b.East-a.East, b.North-a.North) * 180 / math.Pi
		return Offset{a.East + s*(b.East-a.East), a.North + s*(b.North-a.North)}, math.Mod(course+360, 360)
	}
	return l.Points[len(l.Points)-1], 0
}

// Lacks are the heights that nobody told, as questions.
func (m *Map) Lacks() []string {
	var out []string
	for i := range m.Areas {
		if a := &m.Areas[i]; a.Kind.Stands() && a.Height == nil {
			out = append(out, "How high is "+a.Called()+"? Until that is told nothing strikes it.")
		}
	}
	return out
}

// Nearest safe place to a point, home among them, and how far it is, m. An empty name is home.
func (m *Map) Nearest(p Offset) (name string, away float64) {
	away = apart(p, Offset{})
	for _, s := range m.Safe {
		if d := apart(p, s.At); d < away {
			name, away = s.Name, d
		}
	}
	return name, away
}
