package link

import (
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"vividperch/core/quad"
)

func flown(t *testing.T) Budget {
	return budget(2440, 20, 3, 0, gear(t, "Tidewire").Rate(250, 8), 0, UsualPath)
}

// made up by the transmission equation with the wavelength, missing dB, falling faster by so many dB a decade, with scatter.
func made(missing, slope, sigma float64, seed uint64) string {
	r := rand.New(rand.NewPCG(seed, 3))
	out := "time (s),distance (m),strength (dBm)\n"
	wave := 299792458.0 / 2440e6
	for i := range 400 {
		d := 15 * math.Pow(10, 2*float64(i)/400)
		s := 20 + 3 - 20*math.Log10(4*math.Pi*d/wave) - missing - slope*math.Log10(d/150) + sigma*r.NormFloat64()
		out += fmt.Sprintf("%d,%.2f,%.2f\n", i, d, s)
	}
	return out
}

func TestMeasureFindsWhatWasPutIn(t *testing.T) {
	for _, c := range []struct{ missing, slope, sigma float64 }{{0, 0, 1}, {9, 0, 2}, {20, 0, 1}, {4, 12, 2}, {-10, 0, 1}} {
		tr, err := ReadTrack([]byte(made(c.missing, c.slope, c.sigma, 7)))
		if err != nil {
			t.Fatal(err)
		}
		got, err := Measure(flown(t), tr)
		if err != nil {
			t.Fatal(err)
		}
		near(t, fmt.Sprintf("%+v missing", c), got.Missing, c.missing, 0.7)
		near(t, fmt.Sprintf("%+v slope", c), got.Slope, c.slope, 0.7)
		if c.slope == 0 {
			near(t, fmt.Sprintf("%+v spread", c), got.Spread, c.sigma, 0.3)
		}
		if (len(got.Causes) > 0) != (c.missing > MissingNote || c.missing < -MissingNote || c.slope > slopeMuch) {
			t.Errorf("%+v: causes %q", c, got.Causes)
		}
	}
}

// A tenth of the points in deep fades does not move what is missing.
func TestMeasureStandsFades(t *testing.T) {
	tr, err := ReadTrack([]byte(made(5, 0, 1, 1)))
	if err != nil {
		t.Fatal(err)
	}
	for i := range tr.Points {
		if i%10 == 0 {
			tr.Points[i].Strength -= 30
		}
	}
	got, err := Measure(flown(t), tr)
	if err != nil {
		t.Fatal(err)
	}
	near(t, "missing", got.Missing, 5, 0.7)
}

func TestPairedReceivers(t *testing.T) {
	r := rand.New(rand.NewPCG(2, 2))
	for _, better := range []float64{4, 0} {
		text := "time,distance,strength,second\n"
		for i := range 300 {
			s := -60 - 0.05*float64(i) + 3*r.NormFloat64()
			text += fmt.Sprintf("%d,%d,%.1f,%.1f\n", i, 20+2*i, s, s+better+1.5*r.NormFloat64())
		}
		tr, err := ReadTrack([]byte(text))
		if err != nil {
			t.Fatal(err)
		}
		got, err := Measure(flown(t), tr)
		if err != nil || got.Paired == nil {
			t.Fatal(err)
		}
		near(t, "the second hears more, dB", got.Paired.Mean, better, 0.3)
		near(t, "spread", got.Paired.Spread, 1.5, 0.2)
		// 300 pairs in 300 different seconds: 1.96 sigma over the root of their number.
		near(t, "error of the mean", got.Paired.Error, 1.96*1.5/math.Sqrt(300), 0.06)
		if shown := strings.Contains(got.Paired.Words, "The second hears"); shown != (better > 1) {
			t.Errorf("%v dB better: %s", better, got.Paired.Words)
		}
	}
}

func TestReadTrackFromGPX(t *testing.T) {
	text := `<?xml version="1.0"?><gpx version="1.1" xmlns="http://www.topografix.com/GPX/1/1" xmlns:p="urn:perch"><trk><trkseg>`
	for i := range 40 {
		text += fmt.Sprintf(`<trkpt lat="%.6f" lon="8.5"><ele>%d</ele><time>2026-06-01T10:00:%02dZ</time><extensions><p:strength>%d</p:strength><p:second>-70</p:second></extensions></trkpt>`, 54.0+0.0002*float64(i), 20, i, -50-i)
	}
	tr, err := ReadTrack([]byte(text + `<trkpt lat="54" lon="8.5"/></trkseg></trk></gpx>`))
	if err != nil || len(tr.Points) != 40 || !tr.Two || len(tr.Jumps) != 0 {
		t.Fatalf("%d points, %v, %v", len(tr.Points), tr.Jumps, err)
	}
	// A minute of latitude is a nautical mile but for the earth's flattening.
	near(t, "distance, m", tr.Points[30].Distance, 0.0002*30*60*1852, 4)
	if tr.Points[7].Strength != -57 || tr.Points[7].Time != 7 {
		t.Errorf("%+v", tr.Points[7])
	}
}

func TestReadTrackSaysWhatIsWrong(t *testing.T) {
	far := func(n int, d float64) string {
		out := "time,distance,strength\n"
		for i := range n {
			x := 10 * float64(i)
			if i == 30 {
				x = d
			}
			out += fmt.Sprintf("%d,%.0f,-60\n", i, x)
		}
		return out
	}
	for _, c := range []struct{ name, text, place, says string }{
		{"no names", "1,2,3\n", "line 1", "needs a column strength"},
		{"no distance", "time,strength\n1,-60\n", "line 1", "latitude with longitude"},
		{"a word for a figure", "distance,strength\n10,-60\n20,loud\n", "line 3", `"loud", which is not a number`},
		{"cut short", "distance,strength\n10\n", "line 2", "has no strength"},
		{"off the earth", "latitude,longitude,strength\n54,8,-60\n154,8,-60\n", "line 3", "not on the earth"},
		{"a strength that is none", "distance,strength\n10,-600\n", "line 2", "-150 to 30 dBm"},
		{"beyond reach", "distance,strength\n10,-60\n9e9,-60\n", "line 3", "no control link reaches"},
		{"broken quotes", "distance,strength\n\"10,-60\n", "line 2", "cannot be read"},
		{"no GPX", "<gpx><trk", "line 1", "is no GPX"},
		{"a GPX without strength", `<gpx><trk><trkseg><trkpt lat="1" lon="1"/></trkseg></trk></gpx>`, "", "none of its 1 points"},
	} {
		_, err := ReadTrack([]byte(c.text))
		f := quad.AsFault(err)
		if f == nil || f.Place != c.place || !strings.Contains(f.Sentence, c.says) {
			t.Errorf("%s: %+v, want %q at %q", c.name, err, c.says, c.place)
		}
	}
	// One jump is left out with a word, at its line; the rest stays.
	tr, err := ReadTrack([]byte(far(60, 9000)))
	if err != nil || len(tr.Points) != 59 || len(tr.Jumps) != 1 || tr.Jumps[0].Line != 32 || !strings.Contains(tr.Jumps[0].Words, "line 32 jumps by 8,710 m") && !strings.Contains(tr.Jumps[0].Words, "line 32 jumps by 8710 m") {
		t.Errorf("%d points, %+v, %v", len(tr.Points), tr.Jumps, err)
	}
	wild := "distance,strength\n"
	for i := range 40 {
		wild += fmt.Sprintf("%d,-60\n", (i%2)*5000)
	}
	if _, err := ReadTrack([]byte(wild)); quad.AsFault(err) == nil || quad.AsFault(err).Code != "jumps" {
		t.Errorf("a track that jumps everywhere: %v", err)
	}
	short, _ := ReadTrack([]byte(far(12, 100)))
	if _, err := Measure(flown(t), short); quad.AsFault(err) == nil || quad.AsFault(err).Code != "short-track" {
		t.Errorf("twelve points: %v", err)
	}
}

func FuzzReadTrack(f *testing.F) {
	f.Add([]byte(made(3, 0, 1, 1)[:400]))
	f.Add([]byte("latitude;longitude;strength\n54;8;-60\n"))
	f.Add([]byte(`<gpx><trk><trkseg><trkpt lat="1" lon="1"><extensions><strength>-60</strength></extensions></trkpt></trkseg></trk></gpx>`))
	f.Fuzz(func(t *testing.T, raw []byte) {
		tr, err := ReadTrack(raw)
		if err != nil {
			if quad.AsFault(err) == nil {
				t.Fatalf("%v is no sentence for a pilot", err)
			}
			return
		}
		got, err := Measure(flown(t), tr)
		if err == nil && (math.IsNaN(got.Missing) || math.IsNaN(got.Slope) || math.IsInf(got.Spread, 0)) {
			t.Fatalf("%+v", got.LinkTrack)
		}
	})
}

// 2 MiB are read, a byte more is not.
func TestTrackLimit(t *testing.T) {
	text := made(5, 0, 1, 1)
	for more, want := range map[int]string{0: "", 1: "too-large"} {
		_, err := ReadTrack([]byte(text + strings.Repeat("\n", 2<<20+more-len(text))))
		got := ""
		if f := quad.AsFault(err); f != nil {
			got = f.Code
		}
		if got != want {
			t.Errorf("%d over: %v", more, err)
		}
	}
}
