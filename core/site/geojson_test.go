package site

import (
	"math"
	"strings"
	"testing"

	"vividperch/core/quad"
)

const field = `{"type":"FeatureCollection","features":[
 {"type":"Feature","properties":{"name":"Home"},"geometry":{"type":"Point","coordinates":[10.5,52.25]}},
 {"type":"Feature","properties":{"kind":"Obstacle","name":"wood","height":14},"geometry":{"type":"Polygon","coordinates":[[[10.501,52.251],[10.502,52.251],[10.502,52.252],[10.501,52.252],[10.501,52.251]]]}},
 {"type":"Feature","properties":{"kind":"people"},"geometry":{"type":"MultiPolygon","coordinates":[[[[10.4,52.2],[10.401,52.2],[10.401,52.201],[10.4,52.2]]]]}},
 {"type":"Feature","properties":{"name":"round","speed":6,"height":30},"geometry":{"type":"LineString","coordinates":[[10.5,52.25],[10.503,52.25]]}},
 {"type":"Feature","properties":{"name":"jetty"},"geometry":{"type":"Point","coordinates":[10.5,52.249]}}]}`

// A degree of latitude is 111.195 km on the mean sphere; one of longitude as much less as the cosine of the latitude says.
func TestReadAMap(t *testing.T) {
	m, remarks, err := Read([]byte(strings.Replace(field, "10.4,52.2],[10.401,52.2],[10.401,52.201],[10.4,52.2", "10.49,52.24],[10.491,52.24],[10.491,52.241],[10.49,52.24", 1)), nil)
	if err != nil {
		t.Fatal(err)
	}
	if len(m.Areas) != 2 || len(m.Lines) != 1 || len(m.Safe) != 1 || len(remarks) != 0 {
		t.Fatalf("%+v, %v", m, remarks)
	}
	a := m.Areas[0]
	if a.Kind != Obstacle || a.Name != "wood" || a.Height == nil || *a.Height != 14 || len(a.Corners) != 4 {
		t.Errorf("%+v", a)
	}
	wantEast, wantNorth := 0.001*111195.08*math.Cos(52.25*math.Pi/180), 0.001*111195.08
	if c := a.Corners[0]; !(math.Abs(c.East-wantEast) <= 0.06) || !(math.Abs(c.North-wantNorth) <= 0.06) {
		t.Errorf("%+v, want %.2f %.2f", c, wantEast, wantNorth)
	}
	if l := m.Lines[0]; l.Speed != 6 || l.Height != 30 || l.Name != "round" {
		t.Errorf("%+v", l)
	}
	if s := m.Safe[0]; s.Name != "jetty" || !(math.Abs(s.At.North+wantNorth) <= 0.06) {
		t.Errorf("%+v", s)
	}
}

func TestMapsThatAreNone(t *testing.T) {
	line := `{"type":"Feature","properties":{},"geometry":{"type":"LineString","coordinates":[[0,0],[0.001,0]]}}`
	whole := func(features string) string {
		return `{"type":"FeatureCollection","features":[` + features + `]}`
	}
	at := func(lat, long float64) *quad.Place { return &quad.Place{Latitude: lat, Longitude: long} }
	for _, c := range []struct {
		name, file string
		home       *quad.Place
		code       string
	}{
		{"not JSON", "north 1 east 2", nil, "no-geojson"},
		{"other JSON", `{"type":"Feature"}`, nil, "no-geojson"},
		{"no home", whole(line), nil, "no-home"},
		{"a home where a receiver without a position is", whole(line), at(0, 0), "no-place"},
		{"a home at the pole", whole(line), at(89, 0), "no-place"},
		{"a home that is none", whole(line), at(math.NaN(), 0), "no-place"},
		{"nothing to draw", whole(""), at(50, 10), "empty-map"},
		{"far from home", whole(line), at(50, 10), "too-far"},
		{"a polygon that crosses itself", whole(`{"type":"Feature","properties":{"kind":"water"},"geometry":{"type":"Polygon","coordinates":[[[0,50],[0.001,50.001],[0.001,50],[0,50.001],[0,50]]]}}`), at(50, 0), "crosses-itself"},
	} {
		_, _, err := Read([]byte(c.file), c.home)
		if f := quad.AsFault(err); f == nil || f.Code != c.code {
			t.Errorf("%s: %v", c.name, err)
		}
	}
	// On the equator it is read, and said.
	m, remarks, err := Read([]byte(whole(line)), at(0, 0.0005))
	if err != nil || len(m.Lines) != 1 || !strings.Contains(strings.Join(remarks, " "), "equator") {
		t.Errorf("%v, %v", remarks, err)
	}
	// Across the line of dates the short way counts.
	m, _, err = Read([]byte(whole(strings.ReplaceAll(strings.ReplaceAll(line, "[0,0]", "[179.9995,10]"), "[0.001,0]", "[-179.9995,10]"))), at(10, 180))
	if err != nil || m.Lines[0].Length() > 120 {
		t.Errorf("%+v, %v", m, err)
	}
	// What cannot be drawn is left out, and said.
	_, remarks, err = Read([]byte(whole(line+`,{"type":"Feature","properties":{"kind":"lava"},"geometry":{"type":"Polygon","coordinates":[[[0,0],[0.001,0],[0,0.001],[0,0]]]}},{"type":"Feature","properties":{},"geometry":{"type":"MultiPoint","coordinates":[]}}`)), at(0, 0.0001))
	if said := strings.Join(remarks, " "); err != nil || !strings.Contains(said, "without a kind") || !strings.Contains(said, "neither a point") || !strings.Contains(said, "are taken. Change them") {
		t.Errorf("%v, %v", remarks, err)
	}
}

func FuzzRead(f *testing.F) {
	f.Add([]byte(field), 52.25, 10.5)
	f.Add([]byte(`{"type":"FeatureCollection","features":[{"geometry":{"type":"GeometryCollection","geometries":[{"type":"Point","coordinates":[1,2,3]}]}}]}`), 0.0, 1.0)
	f.Add([]byte(`{"type":"FeatureCollection","features":[{"geometry":{"type":"Polygon","coordinates":[[[1,2]],[]]},"properties":{"kind":"roof","height":1e300}}]}`), 2.0, 1.0)
	f.Fuzz(func(t *testing.T, raw []byte, lat, long float64) {
		m, _, err := Read(raw, &quad.Place{Latitude: lat, Longitude: long})
		if err == nil && m.Check() != nil {
			t.Error("a map that cannot be was read")
		}
	})
}
