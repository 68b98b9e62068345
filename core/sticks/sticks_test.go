package sticks

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"vividperch/core/quad"
)

// recording of eight channels while a hand moves one to its high end, its low one and back.
func recording(channel int, low, centre, high float64, seed uint64, reversed bool) []Sample {
	r := rand.New(rand.NewPCG(seed, 4))
	var out []Sample
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
		out = append(out, Sample{25 * float64(len(out)), s})
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
	lever := func(pulses ...float64) (samples []Sample) {
		for _, p := range pulses {
			for range 8 {
				samples = append(samples, Sample{33 * float64(len(samples)), []float64{1500, 1500, 1000, 1500, 1000, p}})
			}
		}
		return samples
	}
	samples := lever(1000, 1500, 2000, 1000)
	got, err := CaptureSwitch(samples, []string{"acro", "blended", "level"})
	if err != nil || got.Channel != 6 || got.Positions["acro"] != 1000 || got.Positions["blended"] != 1500 || got.Positions["level"] != 2000 {
		t.Errorf("%+v, %v", got, err)
	}
	if _, err := CaptureSwitch(samples[:10], []string{"acro", "blended", "level"}); quad.AsFault(err) == nil {
		t.Error("two of three positions must not pass for three")
	}
	if _, err := CaptureSwitch(lever(2000, 1000, 1500, 2000), []string{"acro", "blended", "level"}); quad.AsFault(err) == nil || quad.AsFault(err).Code != "positions-missed" {
		t.Errorf("where it lay before must not pass for its first position: %v", err)
	}
	if got, err := CaptureSwitch(lever(1000, 2000, 1500), []string{"acro", "blended", "level"}); err != nil || got.Positions["level"] != 1500 {
		t.Errorf("a radio may send its positions in any order: %+v, %v", got, err)
	}
	// The first position falls into a silence: what is left would be the switch the other way round.
	silent := slices.DeleteFunc(lever(1000, 2000, 1000), func(s Sample) bool { return s.At > 20 && s.At < 300 })
	if got, err := CaptureSwitch(silent, []string{"off", "on"}); quad.AsFault(err) == nil || quad.AsFault(err).Code != Unheard {
		t.Errorf("%+v, %v", got, err)
	}
}

// What a busy machine loses of a recording must not become a fault of the radio: whatever stretch of it is missing, the capture is
// refused or gives what the whole one gives.
func TestNoSilenceBecomesAFault(t *testing.T) {
	for _, axis := range []quad.Axis{quad.Pitch, quad.Throttle} {
		for _, whole := range [][]Sample{slow(axis, 10), slow(axis, 33), slow(axis, 60)} {
			want, err := Capture(whole, axis)
			if err != nil || farthest(want.Ends, quad.Ends{Low: 1100, Centre: 1500, High: 1900}) > 1 || want.Reversed {
				t.Fatalf("%s: %+v, %v", axis, want, err)
			}
			kept, refused := 0, 0
			for from := 0.0; from < 5000; from += 35 {
				for _, lasts := range []float64{100, 190, 400, 900, 2500, 5000} {
					left := slices.DeleteFunc(slices.Clone(whole), func(s Sample) bool { return s.At >= from && s.At < from+lasts })
					got, err := Capture(left, axis)
					switch {
					case err != nil:
						refused++
					case farthest(got.Ends, want.Ends) > 1 || got.Reversed != want.Reversed || math.Abs(got.Jitter-want.Jitter) > 0.3:
						t.Fatalf("%s without %.0f ms from %.0f: %+v, whole %+v", axis, lasts, from, got, want)
					default:
						kept++
					}
				}
			}
			if kept < 100 || refused < 100 {
				t.Errorf("%s: %d kept and %d refused; both should be many", axis, kept, refused)
			}
		}
	}
}

func farthest(a, b quad.Ends) float64 {
	return max(math.Abs(a.Low-b.Low), math.Abs(a.Centre-b.Centre), math.Abs(a.High-b.High))
}

// The same for hands of any pace, clocks of any pace and several silences at once.
func TestNoSilencesOfAnyHandBecomeAFault(t *testing.T) {
	r := rand.New(rand.NewPCG(11, 12))
	between := func(a, b float64) float64 { return a + (b-a)*r.Float64() }
	kept, refused := 0, 0
	for n := range 20_000 {
		at, points := 0.0, [][2]float64{{0, 1500}}
		for _, us := range []float64{1500, 1900, 1900, 1500, 1500, 1100, 1100, 1500} {
			if last := points[len(points)-1][1]; us == last {
				at += between(300, 700)
			} else {
				at += between(80, 600)
			}
			points = append(points, [2]float64{at, us})
		}
		ends := at + between(200, 1500)
		points = append(points, [2]float64{ends + 1, 1500})
		var heard []Sample
		next := 0.0
		for at, i := 0.0, 0; at < ends; at += between(5, 40) {
			for at >= points[i+1][0] {
				i++
			}
			a, b := points[i], points[i+1]
			if at >= next {
				us := a[1] + (b[1]-a[1])*(at-a[0])/(b[0]-a[0]) + 0.3*r.NormFloat64()
				heard = append(heard, Sample{at, []float64{1500 + r.NormFloat64(), us}})
				if r.Float64() < 0.012 {
					next = at + between(50, 900)
				}
			}
		}
		got, err := Capture(heard, quad.Roll)
		switch {
		case err != nil:
			refused++
		case farthest(got.Ends, quad.Ends{Low: 1100, Centre: 1500, High: 1900}) > 12 || got.Reversed || got.Channel != 2:
			t.Fatalf("hand %d: %+v", n, got)
		default:
			kept++
		}
	}
	if kept < 2000 || refused < 2000 {
		t.Errorf("%d kept and %d refused; both should be many", kept, refused)
	}
}

// slow is a stick moved within five seconds as a hand does, heard every so many ms: high, let go, low, let go; a throttle from where it
// lies up and down again. A spike that one message carries does not count.
func slow(axis quad.Axis, every float64) []Sample {
	r := rand.New(rand.NewPCG(5, 6))
	points := [][2]float64{{0, 1500}, {600, 1500}, {900, 1900}, {1300, 1900}, {1500, 1500}, {2000, 1500}, {2300, 1100}, {2700, 1100}, {2900, 1500}, {9000, 1500}}
	if axis == quad.Throttle {
		points = [][2]float64{{0, 1100}, {600, 1100}, {1200, 1900}, {1900, 1900}, {2500, 1100}, {9000, 1100}}
	}
	var out []Sample
	for at := 0.0; at < 5000; at += every {
		i := 0
		for at >= points[i+1][0] {
			i++
		}
		a, b := points[i], points[i+1]
		us := a[1] + (b[1]-a[1])*(at-a[0])/(b[0]-a[0]) + 0.3*r.NormFloat64()
		if math.Abs(at-1100) < every/2 {
			us += 80
		}
		out = append(out, Sample{at, []float64{1500, 1500 + r.NormFloat64(), us, 1500}})
	}
	return out
}

// What does not show both ends and the rest is no capture.
func TestCaptureRefusesWhatIsNotWhole(t *testing.T) {
	whole := slow(quad.Roll, 20)
	for _, c := range []struct {
		words string
		from  float64
		to    float64
		code  string
	}{
		{"ends while it is held at the low end", 0, 2650, "one-end"},
		{"ends on the way", 0, 2850, "not-let-go"},
		{"begins after the high end", 1600, 5000, "one-end"},
		{"ends before the low end", 0, 2000, "one-end"},
	} {
		got, err := Capture(slices.DeleteFunc(slices.Clone(whole), func(s Sample) bool { return s.At < c.from || s.At > c.to }), quad.Roll)
		if f := quad.AsFault(err); f == nil || f.Code != c.code {
			t.Errorf("%s: %+v, %v; wanted %s", c.words, got, err, c.code)
		}
	}
	up := slices.DeleteFunc(slow(quad.Throttle, 20), func(s Sample) bool { return s.At > 1800 })
	if got, err := Capture(up, quad.Throttle); quad.AsFault(err) == nil || quad.AsFault(err).Code != "one-way" {
		t.Errorf("a throttle left at its high end is not taken for one that runs backwards: %+v, %v", got, err)
	}
	// A throttle with reversible thrust is let go in its middle; which way it goes is told by the order of its ends.
	for _, s := range whole {
		s.Channels[2] = 3000 - s.Channels[2]
	}
	if got, err := Capture(whole, quad.Throttle); err != nil || !got.Reversed {
		t.Errorf("%+v, %v", got, err)
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
		if got := Through(e, us); !(math.Abs(got-want) <= 1e-9) {
			t.Fatalf("%v µs become %v, want %v", us, got, want)
		}
	}
	if Through(quad.Ends{}, 1234) != 1234 || Through(quad.Ends{Low: 2000, Centre: 1500, High: 1000}, 1234) != 1234 {
		t.Error("ends that are not in order map nothing")
	}
	if !Reaches(Mapped(e, e)) || !(math.Abs(Lost(e)-0.12) <= 1e-12) || DeadbandFor(0.5) != 2 {
		t.Error("mapped to itself it reaches; 880 of 1000 µs are 12 % short; three sigma of 0.5 are 2 whole µs")
	}
}

// A gimbal that comes back to two centres shows both, and rests between them.
func TestCaptureFindsHysteresis(t *testing.T) {
	var out []Sample
	for i, v := range []float64{1500, 1700, 1950, 2000, 2000, 1800, 1506, 1506, 1506, 1506, 1300, 1050, 1000, 1000, 1200, 1494, 1494, 1494, 1494, 1494} {
		out = append(out, Sample{50 * float64(i), []float64{v, 1500, 1000, 1500}})
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
			if got := Map(us, dead); !(math.Abs(got-want) <= 1e-12) {
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

func TestAxesThatNobodyCaptured(t *testing.T) {
	states := Axes(quad.Known{})
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
