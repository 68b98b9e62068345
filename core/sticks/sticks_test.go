package sticks

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"vividperch/core/quad"
)

// recording of eight channels while a hand moves one to its high end, its low one and back.
func recording(channel int, low, centre, high float64, seed uint64, reversed bool) [][]float64 {
	r := rand.New(rand.NewPCG(seed, 4))
	var out [][]float64
	at := func(x float64) {
		s := make([]float64, 8)
		for i := range s {
			s[i] = 1500 + 0.5*r.NormFloat64()
		}
		v := centre + x*(high-centre)
		if x < 0 {
			v = centre + x*(centre-low)
		}
		s[channel] = v + 0.5*r.NormFloat64()
		out = append(out, s)
	}
	for i := range 60 {
		x := math.Max(-1, math.Min(1, 1.3*math.Sin(2*math.Pi*float64(i)/60)))
		if reversed {
			x = -x
		}
		at(x)
	}
	for range 12 {
		at(0)
	}
	return out
}

func TestCaptureFindsChannelEndsAndDirection(t *testing.T) {
	for _, c := range []struct {
		axis     quad.Axis
		channel  int
		ends     quad.Ends
		reversed bool
	}{
		{quad.Roll, 0, quad.Ends{Low: 1000, Centre: 1500, High: 2000}, false},
		{quad.Pitch, 1, quad.Ends{Low: 1060, Centre: 1510, High: 1940}, false},
		{quad.Yaw, 3, quad.Ends{Low: 1000, Centre: 1500, High: 2000}, true},
	} {
		got, err := Capture(recording(c.channel, c.ends.Low, c.ends.Centre, c.ends.High, 1, c.reversed), c.axis)
		if err != nil {
			t.Errorf("%s: %v", c.axis, err)
			continue
		}
		near := func(a, b float64) bool { return math.Abs(a-b) <= 3 }
		if got.Channel != c.channel+1 || !near(got.Ends.Low, c.ends.Low) || !near(got.Ends.Centre, c.ends.Centre) || !near(got.Ends.High, c.ends.High) || got.Reversed != c.reversed {
			t.Errorf("%s: %+v, want %+v reversed %v", c.axis, got, c.ends, c.reversed)
		}
		if got.Jitter < 0.2 || got.Jitter > 1 {
			t.Errorf("%s: jitter %v, half a microsecond was put in", c.axis, got.Jitter)
		}
	}
}

func TestCaptureRefuses(t *testing.T) {
	still := recording(0, 1499, 1500, 1501, 1, false)
	if _, err := Capture(still, quad.Roll); quad.AsFault(err) == nil || quad.AsFault(err).Code != "nothing-moved" {
		t.Errorf("a stick that did not move: %v", err)
	}
	if _, err := Capture(still[:3], quad.Roll); quad.AsFault(err) == nil || quad.AsFault(err).Code != "too-few-samples" {
		t.Errorf("three samples: %v", err)
	}
	if _, err := CaptureSwitch(still, []string{"a", "b"}); err == nil {
		t.Error("a switch that did not move was captured")
	}
}

func TestCaptureSwitch(t *testing.T) {
	var samples [][]float64
	for _, p := range []float64{1000, 1500, 2000, 1000} {
		for range 8 {
			samples = append(samples, []float64{1500, 1500, 1000, 1500, 1000, p})
		}
	}
	got, err := CaptureSwitch(samples, []string{"acro", "blended", "level"})
	if err != nil || got.Channel != 6 || got.Positions["acro"] != 1000 || got.Positions["blended"] != 1500 || got.Positions["level"] != 2000 {
		t.Errorf("%+v, %v", got, err)
	}
	if _, err := CaptureSwitch(samples[:10], []string{"acro", "blended", "level"}); quad.AsFault(err) == nil {
		t.Error("two of three positions must not pass for three")
	}
}

// Three points and straight lines between them, against the two-point formula written out.
func TestThrough(t *testing.T) {
	e := quad.Ends{Low: 1060, Centre: 1512, High: 1940}
	for us := 1000.0; us <= 2000; us += 13 {
		want := 1000 + (us-1060)/(1512-1060)*500
		if us > 1512 {
			want = 1500 + (us-1512)/(1940-1512)*500
		}
		if got := Through(e, us); math.Abs(got-want) > 1e-9 {
			t.Fatalf("%v µs become %v, want %v", us, got, want)
		}
	}
	if Through(quad.Ends{}, 1234) != 1234 || Through(quad.Ends{Low: 2000, Centre: 1500, High: 1000}, 1234) != 1234 {
		t.Error("ends that are not in order map nothing")
	}
	if !Reaches(Mapped(e, e)) || math.Abs(Lost(e)-0.12) > 1e-12 || DeadbandFor(0.5) != 2 {
		t.Error("mapped to itself it reaches; 880 of 1000 µs are 12 % short; three sigma of 0.5 are 2 whole µs")
	}
}

// A gimbal that comes back to two centres shows both, and rests between them.
func TestCaptureFindsHysteresis(t *testing.T) {
	var out [][]float64
	for _, v := range []float64{1500, 1700, 1950, 2000, 2000, 1800, 1506, 1506, 1506, 1506, 1300, 1050, 1000, 1000, 1200, 1494, 1494, 1494, 1494, 1494} {
		out = append(out, []float64{v, 1500, 1000, 1500})
	}
	got, err := Capture(out, quad.Roll)
	if err != nil || got.Hysteresis != 12 || got.Ends.Centre != 1500 {
		t.Errorf("%+v, %v", got, err)
	}
}

func TestOrderOf(t *testing.T) {
	axes := func(r, p, th, y int) map[string]quad.StickAxis {
		return map[string]quad.StickAxis{"roll": {Channel: r}, "pitch": {Channel: p}, "throttle": {Channel: th}, "yaw": {Channel: y}}
	}
	for want, m := range map[string]map[string]quad.StickAxis{"AETR": axes(1, 2, 3, 4), "TAER": axes(2, 3, 1, 4), "": axes(1, 1, 3, 4)} {
		if got := OrderOf(m); got != want {
			t.Errorf("%v is %q, want %q", m, got, want)
		}
	}
	if OrderOf(axes(1, 2, 3, 5)) != "" || OrderOf(nil) != "" {
		t.Error("beyond the fourth channel, or nothing, is no order")
	}
}

// The controller's mapping against one written in another way: a line through three points.
func TestMap(t *testing.T) {
	for us := 900.0; us <= 2100; us += 7 {
		for _, dead := range []float64{0, 4, 20} {
			want := 0.0
			switch {
			case us >= 2000:
				want = 1
			case us <= 1000:
				want = -1
			case us > 1500+dead:
				want = (us - 1500 - dead) / (500 - dead)
			case us < 1500-dead:
				want = (us - 1500 + dead) / (500 - dead)
			}
			if got := Map(us, dead); math.Abs(got-want) > 1e-12 {
				t.Fatalf("%v µs with dead band %v: %v, want %v", us, dead, got, want)
			}
		}
	}
	if MapThrottle(1000) != 0 || MapThrottle(2000) != 1 || MapThrottle(1250) != 0.25 || MapThrottle(800) != 0 {
		t.Error("throttle")
	}
}

func TestAgainstAndCentredRange(t *testing.T) {
	seen := map[string]quad.SwitchSeen{"left": {Channel: 5, Positions: map[string]float64{"safe": 1000, "armed": 1893}}, "other": {Channel: 6, Positions: map[string]float64{"a": 1900}}}
	got := Against(quad.Range{Channel: 5, From: 1885, To: 2100}, seen)
	if len(got) != 2 || got[0].Inside || got[0].Margin != -885 || !got[1].Inside || got[1].Margin != 8 {
		t.Errorf("%+v", got)
	}
	if HoldOf(8) != Edge || HoldOf(-30) != Near || HoldOf(447) != Sure {
		t.Error("holds")
	}
	better := CentredRange(5, []float64{1893}, []float64{1000})
	for _, p := range Against(better, seen) {
		if HoldOf(p.Margin) != Sure {
			t.Errorf("the range proposed (%+v) leaves %s only %v µs", better, p.Position, p.Margin)
		}
	}
}

// Each gate alone, and only it, holds in its own situation.
func TestGatesHoldOneByOne(t *testing.T) {
	s := quad.SticksSheet{Order: "AETR", Arm: quad.Range{Channel: 5, From: 1700, To: 2100}, IdleBelow: 1050}
	ready := Moment{Channels: []float64{1500, 1500, 1000, 1500, 1900, 1000, 1000, 1000}, Linked: true, Still: true, Pack: true}
	holding := func(m Moment) string {
		out := ""
		for _, g := range Gates(s, m) {
			if g.Holds {
				out += g.Name + " "
			}
			if g.Sentence == "" || g.Remedy == "" {
				t.Errorf("gate %s has no words", g.Name)
			}
		}
		return out
	}
	if got := holding(ready); got != "" {
		t.Fatalf("nothing should hold, but %q does", got)
	}
	for want, spoil := range map[string]func(*Moment){
		"pack ":     func(m *Moment) { m.Pack = false },
		"loss ":     func(m *Moment) { m.InLoss = true },
		"start ":    func(m *Moment) { m.ArmAtStart = true },
		"throttle ": func(m *Moment) { m.Channels = []float64{1500, 1500, 1060, 1500, 1900} },
		"tilt ":     func(m *Moment) { m.Tilt = 26 },
		"still ":    func(m *Moment) { m.Still = false },
		"switch ":   func(m *Moment) { m.Channels = []float64{1500, 1500, 1000, 1500, 1600} },
		"usb ":      func(m *Moment) { m.USB = true },
		"link ":     func(m *Moment) { m.Linked, m.Channels = false, nil },
	} {
		m := ready
		spoil(&m)
		if got := holding(m); got != want {
			t.Errorf("holds %q, want %q", got, want)
		}
	}
}

func TestMeanings(t *testing.T) {
	k := quad.Known{}
	k.Sheet.Sticks = quad.SticksSheet{Arm: quad.Range{Channel: 5, From: 1885, To: 2100}, SelfLevel: quad.Range{Channel: 6, From: 1700, To: 2100}}
	k.Readings.Sticks.Switches = map[string]*quad.Reading[quad.SwitchSeen]{
		"left":  {Value: quad.SwitchSeen{Channel: 5, Positions: map[string]float64{"down": 1000, "up": 1893}}},
		"right": {Value: quad.SwitchSeen{Channel: 6, Positions: map[string]float64{"down": 1000}}},
	}
	got := ""
	for _, m := range Meanings(k) {
		got += fmt.Sprintf("%s %s %s %s; ", m.Switch, m.Position, m.Words, m.Hold)
	}
	if want := "left down safe sure; left up armed edge; right down acro sure; "; got != want {
		t.Errorf("got %q, want %q", got, want)
	}
	states := Axes(k)
	if states[0].Captured || states[2].Axis != quad.Throttle {
		t.Errorf("%+v", states)
	}
}

// The gate of the throttle goes by where it rests: at its low end, or with reversible thrust in its middle.
func TestThrottleGateByWhereItRests(t *testing.T) {
	s := quad.SticksSheet{Order: "AETR", IdleBelow: 1050}
	for _, c := range []struct {
		reversible bool
		us         float64
		holds      bool
	}{{false, 1000, false}, {false, 1050, false}, {false, 1051, true}, {true, 1000, true}, {true, 1449, true}, {true, 1450, false}, {true, 1550, false}, {true, 1551, true}} {
		for _, g := range Gates(s, Moment{Linked: true, Reversible: c.reversible, Channels: []float64{1500, 1500, c.us, 1500}}) {
			if g.Name == "throttle" && g.Holds != c.holds {
				t.Errorf("reversible %v, %v µs: holds %v: %s", c.reversible, c.us, g.Holds, g.Sentence)
			}
		}
	}
}
