package link

import (
	"bytes"
	"encoding/csv"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"vividperch/core/quad"
)

// Point of a track: how far, and how strong.
type Point struct {
	Line     int     `json:"line"` // of the file, or the number of the point
	Time     float64 `json:"time" unit:"s"`
	Distance float64 `json:"distance" unit:"m"`
	Strength float64 `json:"strength" unit:"dBm"`
	// Second is what another receiver heard at the same time; NaN stands for nothing.
	Second float64 `json:"-"`
}

// Jump is a place where a track cannot have gone.
type Jump struct {
	Line   int     `json:"line"`
	Metres float64 `json:"metres" unit:"m"`
	Words  string  `json:"words"`
}

// Track as it was read.
type Track struct {
	Points []Point
	Jumps  []Jump // left out of the points
	Two    bool   // it tells of two receivers
}

const (
	mostTrack    = 2 << 20
	fastest      = 120.0   // m/s; what goes faster is no multirotor but a bad fix
	nearest      = 10.0    // m; nearer than that no antenna is in the other's far field
	farthestEver = 2.0e5   // m
	earth        = 6.371e6 // m, mean radius
)

// ReadTrack from CSV or GPX 1.1. CSV names its columns in the first line: distance (m), or latitude and longitude (deg) with an
// optional height (m); strength (dBm); optionally time (s) and second (dBm), another receiver's strength. GPX keeps strength in
// an extension of each point. Distances by position count from the first point. What is not a figure, has no strength or
// jumps is a Fault at its line or is left out with a word; more jumps than one point in ten are a Fault.
func ReadTrack(raw []byte) (Track, error) {
	if len(raw) > mostTrack {
		return Track{}, quad.Faultf("too-large", "", "is larger than 2 MB")
	}
	var places []place
	var err error
	if bytes.HasPrefix(bytes.TrimSpace(raw), []byte("<")) {
		places, err = readGPX(raw)
	} else {
		places, err = readCSV(raw)
	}
	if err != nil {
		return Track{}, err
	}
	return walked(places)
}

// place of one point as a file has it.
type place struct {
	line             int
	time             float64 // s, NaN when it is not told
	distance         float64 // m, NaN when it is told by position
	lat, long, high  float64 // deg, deg, m
	strength, second float64
}

var columns = map[string]string{
	"distance": "distance", "latitude": "lat", "longitude": "long", "height": "high", "time": "time", "strength": "strength", "second": "second",
}

func readCSV(raw []byte) ([]place, error) {
	raw = bytes.TrimPrefix(raw, []byte("\xef\xbb\xbf"))
	r := csv.NewReader(bytes.NewReader(raw))
	if first, _, _ := bytes.Cut(raw, []byte("\n")); bytes.Count(first, []byte(";")) > bytes.Count(first, []byte(",")) {
		r.Comma = ';'
	}
	r.FieldsPerRecord, r.TrimLeadingSpace, r.ReuseRecord = -1, true, true
	head, err := r.Read()
	if err != nil {
		return nil, quad.Faultf("no-track", "line 1", "holds no table with a line of names above it")
	}
	at := map[string]int{}
	for i, h := range head {
		name, _, _ := strings.Cut(strings.ToLower(strings.TrimSpace(h)), "(")
		if key := columns[strings.TrimSpace(name)]; key != "" {
			at[key] = i
		}
	}
	_, far := at["distance"]
	_, lat := at["lat"]
	_, long := at["long"]
	if _, strong := at["strength"]; !strong || !far && !(lat && long) {
		return nil, quad.Faultf("no-track", "line 1", "needs a column strength, and distance or latitude with longitude; it has %s", quad.Clip(strings.Join(head, ", "), 80))
	}
	var out []place
	for {
		row, err := r.Read()
		if err == io.EOF {
			return out, nil
		}
		if err != nil {
			line := 0
			var p *csv.ParseError
			if errors.As(err, &p) {
				line = p.StartLine
			}
			return nil, quad.Faultf("bad-line", fmt.Sprintf("line %d", line), "cannot be read as a line of a table")
		}
		line, _ := r.FieldPos(0)
		if len(row) == 1 && row[0] == "" {
			continue
		}
		p := place{line: line, time: math.NaN(), distance: math.NaN(), second: math.NaN()}
		for key, to := range map[string]*float64{"time": &p.time, "distance": &p.distance, "lat": &p.lat, "long": &p.long, "high": &p.high, "strength": &p.strength, "second": &p.second} {
			i, there := at[key]
			if !there || key == "second" && (i >= len(row) || strings.TrimSpace(row[i]) == "") {
				continue
			}
			if i >= len(row) {
				return nil, quad.Faultf("bad-line", fmt.Sprintf("line %d", line), "has no %s", head[i])
			}
			x, err := strconv.ParseFloat(strings.TrimSpace(row[i]), 64)
			if err != nil || math.IsNaN(x) || math.IsInf(x, 0) {
				return nil, quad.Faultf("not-a-number", fmt.Sprintf("line %d", line), "%s is %q, which is not a number", head[i], quad.Clip(row[i], 80))
			}
			*to = x
		}
		out = append(out, p)
	}
}

// gpx is what is read of a GPX 1.1 file.
type gpx struct {
	Tracks []struct {
		Segments []struct {
			Points []struct {
				Lat  float64 `xml:"lat,attr"`
				Long float64 `xml:"lon,attr"`
				High float64 `xml:"ele"`
				Time string  `xml:"time"`
				More struct {
					Inner []byte `xml:",innerxml"`
				} `xml:"extensions"`
			} `xml:"trkpt"`
		} `xml:"trkseg"`
	} `xml:"trk"`
}

func readGPX(raw []byte) ([]place, error) {
	var g gpx
	if err := xml.Unmarshal(raw, &g); err != nil {
		var s *xml.SyntaxError
		if errors.As(err, &s) {
			return nil, quad.Faultf("bad-line", fmt.Sprintf("line %d", s.Line), "is no GPX: %s", quad.Clip(s.Msg, 80))
		}
		return nil, quad.Faultf("no-track", "", "is no GPX: %s", quad.Clip(err.Error(), 80))
	}
	var out []place
	var begun time.Time
	n := 0
	for _, t := range g.Tracks {
		for _, s := range t.Segments {
			for _, q := range s.Points {
				n++
				p := place{line: n, lat: q.Lat, long: q.Long, high: q.High, distance: math.NaN(), time: math.NaN(), second: math.NaN()}
				if at, err := time.Parse(time.RFC3339, strings.TrimSpace(q.Time)); err == nil {
					if begun.IsZero() {
						begun = at
					}
					p.time = at.Sub(begun).Seconds()
				}
				strength, second, err := extensions(q.More.Inner)
				if err != nil {
					return nil, quad.Faultf("not-a-number", fmt.Sprintf("point %d", n), "its strength is not a number")
				}
				if math.IsNaN(strength) {
					continue // a point that says nothing of the link
				}
				p.strength, p.second = strength, second
				out = append(out, p)
			}
		}
	}
	if n > 0 && len(out) == 0 {
		return nil, quad.Faultf("no-track", "", "none of its %d points has a strength among its extensions", n)
	}
	return out, nil
}

// extensions of a point: what is told by the extensions of a point, whatever their name space.
func extensions(inner []byte) (strength, second float64, err error) {
	strength, second = math.NaN(), math.NaN()
	d := xml.NewDecoder(bytes.NewReader(inner))
	for {
		token, err := d.Token()
		if err != nil {
			return strength, second, nil // its end, or what cannot be read: says nothing
		}
		start, ok := token.(xml.StartElement)
		if !ok || start.Name.Local != "strength" && start.Name.Local != "second" {
			continue
		}
		var text string
		if d.DecodeElement(&text, &start) != nil {
			return strength, second, nil
		}
		x, err := strconv.ParseFloat(strings.TrimSpace(text), 64)
		if err != nil || math.IsNaN(x) || math.IsInf(x, 0) {
			return 0, 0, errors.New("no number")
		}
		if start.Name.Local == "strength" {
			strength = x
		} else {
			second = x
		}
	}
}

// walked turns places into distances from the first one and leaves out what cannot be.
func walked(places []place) (Track, error) {
	var t Track
	last := -1
	for i, p := range places {
		where := fmt.Sprintf("line %d", p.line)
		if math.IsNaN(p.distance) {
			if math.Abs(p.lat) > 90 || math.Abs(p.long) > 180 {
				return Track{}, quad.Faultf("no-place", where, "is at %v, %v, which is not on the earth", p.lat, p.long)
			}
			p.distance = distance(places[0], p)
		}
		if p.distance < 0 || p.distance > farthestEver {
			return Track{}, quad.Faultf("no-distance", where, "is %s away, which no control link reaches", quad.Quantity(math.Round(p.distance), "m"))
		}
		if p.strength > 30 || p.strength < -150 || p.second > 30 || p.second < -150 {
			return Track{}, quad.Faultf("no-strength", where, "has a strength of %s; receivers show -150 to 30 dBm", quad.Quantity(p.strength, "dBm"))
		}
		if last >= 0 {
			before := places[last]
			step, took := p.distance-t.Points[len(t.Points)-1].Distance, 1.0
			if math.IsNaN(places[i].distance) {
				step = distance(before, p)
			}
			if !math.IsNaN(p.time) && !math.IsNaN(before.time) {
				took = math.Max(p.time-before.time, 0.05)
			}
			if math.Abs(step) > math.Max(fastest*took, 50) {
				t.Jumps = append(t.Jumps, Jump{Line: p.line, Metres: math.Round(math.Abs(step)), Words: fmt.Sprintf("%s jumps by %s in %s", where, quad.Quantity(math.Round(math.Abs(step)), "m"), quad.Quantity(math.Round(took*100)/100, "s"))})
				continue
			}
		}
		last = i
		t.Two = t.Two || !math.IsNaN(p.second)
		t.Points = append(t.Points, Point{Line: p.line, Time: p.time, Distance: p.distance, Strength: p.strength, Second: p.second})
	}
	for i := range t.Points {
		if math.IsNaN(t.Points[i].Time) {
			t.Points[i].Time = 0
		}
	}
	if len(t.Jumps)*10 > len(places) {
		return Track{}, quad.Faultf("jumps", fmt.Sprintf("line %d", t.Jumps[0].Line), "the track jumps in %d of %d places, the first by %s; nothing can be read from it", len(t.Jumps), len(places), quad.Quantity(t.Jumps[0].Metres, "m"))
	}
	return t, nil
}

// apart, m: the chord over the mean sphere, with the difference in height.
func distance(a, b place) float64 {
	rad := math.Pi / 180
	la, lb := a.lat*rad, b.lat*rad
	h := math.Pow(math.Sin((lb-la)/2), 2) + math.Cos(la)*math.Cos(lb)*math.Pow(math.Sin((b.long-a.long)*rad/2), 2)
	return math.Hypot(2*earth*math.Asin(math.Min(1, math.Sqrt(h))), b.high-a.high)
}

// leastPoints that say anything about a link.
const leastPoints = 20

// Reach of a track against a budget.
type Reach struct {
	quad.LinkTrack
	Flown  []Point  `json:"track"`
	Jumps  []Jump   `json:"jumps"`
	Causes []string `json:"causes"` // likely ones, the likeliest first
	Paired *Paired  `json:"paired"` // nil when the track has one receiver
}

// Paired comparison of two receivers on one flight.
type Paired struct {
	Pairs  int     `json:"pairs"`
	Mean   float64 `json:"mean" unit:"dB"`   // the second above the first
	Spread float64 `json:"spread" unit:"dB"` // one sigma, of single pairs
	Error  float64 `json:"error" unit:"dB"`  // of the mean, 95 %
	Words  string  `json:"words"`
}

// Measure a track against a budget: what is missing (median, so that a few fades do not move it), the scatter about it (from the
// median of the deviations), and how much faster than free space it falls (least squares over the logarithm of distance).
func Measure(b Budget, t Track) (Reach, error) {
	out := Reach{Jumps: t.Jumps, Flown: t.Points}
	if out.Jumps == nil {
		out.Jumps = []Jump{}
	}
	var x, r []float64
	for _, p := range t.Points {
		out.Farthest = math.Max(out.Farthest, p.Distance)
		if p.Distance >= nearest {
			x, r = append(x, math.Log10(p.Distance)), append(r, b.At(p.Distance)-p.Strength)
		}
	}
	out.Points = len(r)
	if len(r) < leastPoints {
		return out, quad.Faultf("short-track", "", "only %d points are %s away or more; %d are needed to say anything", len(r), quad.Quantity(nearest, "m"), leastPoints)
	}
	out.Missing = median(r)
	deviations := make([]float64, len(r))
	for i := range r {
		deviations[i] = math.Abs(r[i] - out.Missing)
	}
	out.Spread = 1.4826 * median(deviations) // of a normal spread, the median of the deviations is 0.6745 sigma
	if slices.Max(x)-slices.Min(x) > 0.3 {
		out.Slope = slope(x, r)
	}
	out.Causes = causesOf(out.LinkTrack)
	if t.Two {
		out.Paired = paired(t.Points)
	}
	for _, v := range []*float64{&out.Missing, &out.Spread, &out.Slope, &out.Farthest} {
		*v = math.Round(*v*10) / 10
	}
	return out, nil
}

func median(list []float64) float64 {
	s := slices.Sorted(slices.Values(list))
	n := len(s)
	return (s[(n-1)/2] + s[n/2]) / 2
}

// slope of y over x by least squares.
func slope(x, y []float64) float64 {
	mx, my := mean(x), mean(y)
	xy, xx := 0.0, 0.0
	for i := range x {
		xy += (x[i] - mx) * (y[i] - my)
		xx += (x[i] - mx) * (x[i] - mx)
	}
	return xy / xx
}

func mean(list []float64) float64 {
	sum := 0.0
	for _, v := range list {
		sum += v
	}
	return sum / float64(len(list))
}

// Limits of judging a track, dB.
const (
	MissingNote = 6.0
	MissingFix  = 12.0
	slopeMuch   = 8.0
	spreadMuch  = 6.0
)

func causesOf(t quad.LinkTrack) []string {
	out := []string{}
	if t.Slope > slopeMuch {
		out = append(out, "It falls faster than free space, the farther the more: ground, water or trees reach into the path. Higher antennas help, more power does not.")
	}
	if t.Missing > MissingNote {
		if t.Missing > 16 {
			out = append(out, "About 20 dB missing from the start: antennas crossed, of opposite hands, or one of them off its connector.")
		}
		out = append(out, "An antenna against carbon, along the battery lead, or bent back on itself; a connector half off.", "Less power than set: the module warm, on its lowest step, or limited by its region.")
	}
	if t.Spread > spreadMuch {
		out = append(out, "It scatters: the frame or your body comes between, or an antenna points its blind end at you on some headings.")
	}
	if t.Missing < -MissingNote {
		out = append(out, "Stronger than the parts allow: the strength shown is not in dBm, or the power is more than set.")
	}
	return out
}

// paired differences of the second receiver to the first. Neighbouring points fade together, so the error of the mean counts
// one pair in each second of flight only, or one in ten points where no time is told.
func paired(points []Point) *Paired {
	var d []float64
	groups := map[int]bool{}
	for i, p := range points {
		if math.IsNaN(p.Second) {
			continue
		}
		d = append(d, p.Second-p.Strength)
		if p.Time > 0 {
			groups[int(p.Time)] = true
		} else {
			groups[-1-i/10] = true
		}
	}
	out := &Paired{Pairs: len(d)}
	if len(d) < 2 {
		out.Words = "Too few pairs to compare."
		return out
	}
	out.Mean = mean(d)
	for _, v := range d {
		out.Spread += (v - out.Mean) * (v - out.Mean)
	}
	out.Spread = math.Sqrt(out.Spread / float64(len(d)-1))
	out.Error = 1.96 * out.Spread / math.Sqrt(float64(max(1, min(len(groups), len(d)))))
	first, by := "first", -out.Mean
	if out.Mean > 0 {
		first, by = "second", out.Mean
	}
	out.Words = fmt.Sprintf("The %s hears %s more, give or take %s.", first, quad.Quantity(round1(by), "dB"), quad.Quantity(round1(out.Error), "dB"))
	if math.Abs(out.Mean) < out.Error {
		out.Words = fmt.Sprintf("No difference that this flight could show: %s, give or take %s.", quad.Quantity(round1(math.Abs(out.Mean)), "dB"), quad.Quantity(round1(out.Error), "dB"))
	}
	out.Mean, out.Spread, out.Error = round1(out.Mean), round1(out.Spread), round1(out.Error)
	return out
}

func round1(x float64) float64 { return math.Round(x*10) / 10 }

// Thin points out to at most so many, evenly, the first and the last among them.
func Thin(points []Point, most int) []Point {
	if len(points) <= most || most < 2 {
		return points
	}
	out := make([]Point, most)
	for i := range out {
		out[i] = points[i*(len(points)-1)/(most-1)]
	}
	return out
}
