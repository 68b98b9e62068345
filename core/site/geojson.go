package site

import (
	"encoding/json"
	"math"
	"strings"

	"vividperch/core/quad"
)

// mostBytes of a file that is read as a map.
const mostBytes = 2 << 20

// perDegree of latitude, m, on a sphere of the earth's mean radius, 6371.0088 km: within 0.6 % of the ellipsoid everywhere.
const perDegree = 6371008.8 * math.Pi / 180

type feature struct {
	Type       string `json:"type"`
	Geometry   *shape `json:"geometry"`
	Properties map[string]any
}

type shape struct {
	Type        string          `json:"type"`
	Coordinates json.RawMessage `json:"coordinates"`
	Geometries  []shape         `json:"geometries"`
}

// Read makes a map of GeoJSON (RFC 7946). Home is the point that is called home or is of the kind home, or else the given place, or else the first
// point of all. What a polygon is, its property kind says: people, water, roof, obstacle or soft; its name and its height in metres are taken from
// properties of these names. A line is a line, a point a safe place. The second value are remarks on what was left out or taken for something. The
// coordinates themselves are not kept.
func Read(raw []byte, home *quad.Place) (*Map, []string, error) {
	if len(raw) > mostBytes {
		return nil, nil, quad.Faultf("too-big", "", "a map has at most 2 MB")
	}
	var file struct {
		Type     string    `json:"type"`
		Features []feature `json:"features"`
	}
	if err := json.Unmarshal(raw, &file); err != nil || file.Type != "FeatureCollection" {
		return nil, nil, quad.Faultf("no-geojson", "", "this is no GeoJSON with a collection of features")
	}
	r := reader{out: &Map{Areas: []Area{}, Safe: []Spot{}, Lines: []Line{}}}
	for i := range file.Features {
		if f := &file.Features[i]; f.Geometry != nil && f.Geometry.Type == "Point" && (f.text("kind") == "home" || strings.EqualFold(f.text("name"), "home")) {
			if at, ok := position(f.Geometry.Coordinates); ok {
				home = &at
				f.Geometry = nil
				break
			}
		}
	}
	for i := range file.Features {
		if f := &file.Features[i]; home == nil && f.Geometry != nil && f.Geometry.Type == "Point" {
			if at, ok := position(f.Geometry.Coordinates); ok {
				r.remark("Nothing in it is called home: the first point is taken for it.")
				home = &at
				f.Geometry = nil
			}
		}
	}
	if home == nil {
		return nil, nil, quad.Faultf("no-home", "", "it tells no home: add a point called home, or tell where this quad takes off")
	}
	if err := r.at(*home); err != nil {
		return nil, nil, err
	}
	for i := range file.Features {
		if f := &file.Features[i]; f.Geometry != nil {
			r.take(f, f.Geometry, 0)
		}
	}
	if err := r.out.Check(); err != nil {
		return nil, nil, err
	}
	if len(r.out.Areas)+len(r.out.Lines)+len(r.out.Safe) == 0 {
		return nil, nil, quad.Faultf("empty-map", "", "nothing in it can be drawn: areas are polygons with a kind, lines are lines")
	}
	return r.out, r.remarks, nil
}

type reader struct {
	home    quad.Place
	east    float64 // m per degree of longitude at home
	out     *Map
	remarks []string
	said    map[string]bool
}

func (r *reader) remark(words string) {
	if r.said == nil {
		r.said = map[string]bool{}
	}
	if !r.said[words] {
		r.said[words], r.remarks = true, append(r.remarks, words)
	}
}

func (r *reader) at(home quad.Place) error {
	switch {
	case !(math.Abs(home.Latitude) <= 90) || !(math.Abs(home.Longitude) <= 180):
		return quad.Faultf("no-place", "home", "a latitude is -90 to 90, a longitude -180 to 180")
	case math.Abs(home.Latitude) > 85:
		return quad.Faultf("no-place", "home", "so near to a pole east and west are no help: sketch the map instead")
	case home.Latitude == 0 && home.Longitude == 0:
		return quad.Faultf("no-place", "home", "home is 0° north, 0° east, as a receiver tells that has no position. Where is it?")
	case home.Latitude == 0:
		r.remark("Home lies at latitude 0, on the equator: is that so?")
	}
	r.home, r.east = home, perDegree*math.Cos(home.Latitude*math.Pi/180)
	return nil
}

// point of a position on the earth. The shorter way around is taken.
func (r *reader) point(p quad.Place) Offset {
	round := func(x float64) float64 { return math.Round(x*10) / 10 }
	return Offset{round(math.Remainder(p.Longitude-r.home.Longitude, 360) * r.east), round((p.Latitude - r.home.Latitude) * perDegree)}
}

func (f *feature) text(key string) string {
	for k, v := range f.Properties {
		if s, ok := v.(string); ok && strings.EqualFold(k, key) {
			return strings.TrimSpace(s)
		}
	}
	return ""
}

func (f *feature) number(key string) (float64, bool) {
	for k, v := range f.Properties {
		if x, ok := v.(float64); ok && strings.EqualFold(k, key) {
			return x, true
		}
	}
	return 0, false
}

func short(name string) string {
	if r := []rune(name); len(r) > mostName {
		return string(r[:mostName])
	}
	return name
}

// nested is how deep collections may stand in each other.
const nested = 4

func (r *reader) take(f *feature, s *shape, deep int) {
	name := short(f.text("name"))
	switch s.Type {
	case "Point":
		if at, ok := position(s.Coordinates); ok {
			if name == "" {
				name = "safe place"
			}
			r.out.Safe = append(r.out.Safe, Spot{Name: name, At: r.point(at)})
		}
	case "LineString":
		r.line(f, name, s.Coordinates)
	case "Polygon":
		var rings []json.RawMessage
		if json.Unmarshal(s.Coordinates, &rings) == nil {
			r.area(f, name, rings)
		}
	case "MultiPolygon":
		var all [][]json.RawMessage
		if json.Unmarshal(s.Coordinates, &all) == nil {
			for _, rings := range all {
				r.area(f, name, rings)
			}
		}
	case "GeometryCollection":
		if deep < nested {
			for i := range s.Geometries {
				r.take(f, &s.Geometries[i], deep+1)
			}
		}
	default:
		r.remark("What is neither a point, a line nor an area was left out.")
	}
}

func (r *reader) line(f *feature, name string, raw json.RawMessage) {
	points := r.points(raw)
	if len(points) < 2 {
		r.remark("A line of fewer than two points was left out.")
		return
	}
	l := Line{Name: name, Points: points, Height: 20, Speed: 8}
	if l.Name == "" {
		l.Name = "line"
	}
	h, toldHeight := f.number("height")
	v, toldSpeed := f.number("speed")
	if toldHeight {
		l.Height = h
	}
	if toldSpeed {
		l.Speed = v
	}
	if !toldHeight || !toldSpeed {
		r.remark("Line " + l.Name + " does not tell how high and fast it is flown: " + quad.Quantity(l.Height, "m") + " and " + quad.Quantity(l.Speed, "m/s") + " are taken. Change them.")
	}
	r.out.Lines = append(r.out.Lines, l)
}

func (r *reader) area(f *feature, name string, rings []json.RawMessage) {
	if len(rings) == 0 {
		return
	}
	kind := Kind(strings.ToLower(f.text("kind")))
	if kindWords[kind] == "" {
		r.remark("An area without a kind that is known (people, water, roof, obstacle, soft) was left out.")
		return
	}
	if len(rings) > 1 {
		r.remark("Holes in an area are filled.")
	}
	ring := r.points(rings[0])
	if n := len(ring); n > 1 && ring[0] == ring[n-1] {
		ring = ring[:n-1] // a ring ends where it began
	}
	a := Area{Kind: kind, Name: name, Corners: ring}
	if h, ok := f.number("height"); ok {
		a.Height = &h
	}
	r.out.Areas = append(r.out.Areas, a)
}

func (r *reader) points(raw json.RawMessage) []Offset {
	var list []json.RawMessage
	if json.Unmarshal(raw, &list) != nil {
		return nil
	}
	var out []Offset
	for _, one := range list {
		at, ok := position(one)
		if !ok {
			r.remark("A corner that is no position was left out.")
			continue
		}
		if p := r.point(at); len(out) == 0 || out[len(out)-1] != p {
			out = append(out, p)
		}
	}
	return out
}

// position is longitude, latitude, in that order.
func position(raw json.RawMessage) (quad.Place, bool) {
	var x []float64
	if json.Unmarshal(raw, &x) != nil || len(x) < 2 || math.Abs(x[0]) > 180 || math.Abs(x[1]) > 90 {
		return quad.Place{}, false
	}
	return quad.Place{Longitude: x[0], Latitude: x[1]}, true
}
