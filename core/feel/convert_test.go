package feel

import (
	"errors"
	"fmt"
	"math"
	"math/cmplx"
	"math/rand/v2"
	"testing"

	"vividperch/core/filter"
	"vividperch/core/quad"
)

var families = []quad.RateFamily{quad.CentrePeak, quad.Compounding, quad.StraightExpo}

// drawn rates of a family, as boards hold them.
func drawn(r *rand.Rand, family quad.RateFamily) quad.Rates {
	out := quad.Rates{Centre: float64(60 + r.IntN(200)), Bend: float64(r.IntN(101)) / 100}
	out.Peak = out.Centre + float64(r.IntN(800))
	return rounded(family, out)
}

// squares by which two curves differ, weighted where sticks live, summed by itself: the curves are written out a second time.
func squares(curve func(float64) float64, family quad.RateFamily, r quad.Rates) float64 {
	sum := 0.0
	for i := 0; i <= 100; i++ {
		x := float64(i) / 100
		var y float64
		switch family {
		case quad.CentrePeak:
			y = r.Centre*x + (r.Peak-r.Centre)*x*(math.Pow(x, 5)*r.Bend+x*(1-r.Bend))
		case quad.Compounding:
			y = 200 * (r.Centre / 200) * x * ((1 - r.Bend) + r.Bend*math.Pow(x, 3)) / (1 - (1-r.Centre/r.Peak)*x)
		case quad.StraightExpo:
			y = r.Peak * (x*(1-r.Bend) + r.Bend*math.Pow(x, 3))
		}
		weight := 0.2 + math.Exp(-x*x/0.16) + math.Exp(-(1-x)*(1-x)/0.0025)
		sum += weight * math.Pow(y-curve(x), 2)
	}
	return sum
}

// A conversion against brute force: no set of whole rates and hundredths of a bend, searched in ever finer grids, comes nearer than what rounding to the same costs.
func TestConvertAgainstBruteForce(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 9))
	for range 12 {
		from, to := families[r.IntN(3)], families[r.IntN(3)]
		if from == to {
			continue
		}
		rates := drawn(r, from)
		curve := func(x float64) float64 { return Rate(from, rates, x) }
		got, apart := Convert(from, rates, to)
		best, at := math.Inf(1), quad.Rates{}
		low, high := quad.Rates{Centre: 1, Peak: 20, Bend: 0}, quad.Rates{Centre: 900, Peak: 1900, Bend: 1}
		for range 9 {
			const n = 14
			for i := 0; i <= n; i++ {
				for j := 0; j <= n; j++ {
					for k := 0; k <= n; k++ {
						try := quad.Rates{
							Centre: low.Centre + float64(i)/n*(high.Centre-low.Centre), Peak: low.Peak + float64(j)/n*(high.Peak-low.Peak), Bend: low.Bend + float64(k)/n*(high.Bend-low.Bend),
						}
						if to != quad.StraightExpo && try.Peak < try.Centre {
							continue
						}
						if s := squares(curve, to, try); s < best {
							best, at = s, try
						}
					}
				}
			}
			around := func(low, high, at, least, most float64) (float64, float64) {
				w := (high - low) * 0.3
				return math.Max(least, at-w), math.Min(most, at+w)
			}
			low.Centre, high.Centre = around(low.Centre, high.Centre, at.Centre, 1, 900)
			low.Peak, high.Peak = around(low.Peak, high.Peak, at.Peak, 20, 1900)
			low.Bend, high.Bend = around(low.Bend, high.Bend, at.Bend, 0, 1)
		}
		have := squares(curve, to, got)
		if math.Sqrt(have/100) > math.Sqrt(best/100)+2.5 {
			t.Errorf("%s %+v to %s: %+v is %.1f deg/s off on average, brute force finds %+v at %.1f", from, rates, to, got, math.Sqrt(have/100), at, math.Sqrt(best/100))
		}
		if err := Sound(to, got, "sheet.feel.roll"); err != nil {
			t.Errorf("%+v: %v", got, err)
		}
		worst := 0.0
		for x := 0.0; x <= 1.0001; x += 0.01 {
			worst = math.Max(worst, math.Abs(Rate(to, got, x)-curve(x)))
		}
		if !(math.Abs(worst-math.Abs(apart.By)) <= 1e-6) {
			t.Errorf("the largest difference is told as %v, and is %v", apart.By, worst)
		}
	}
}

// What one family holds exactly in another comes there exactly and back again: straight lines in all three, and a cubic by x and x⁶ or x⁴ as near as they get.
func TestConvertThereAndBack(t *testing.T) {
	for _, from := range families {
		for _, to := range families {
			line := quad.Rates{Centre: 300, Peak: 300}
			got, apart := Convert(from, line, to)
			if !(math.Abs(apart.By) <= 0.51) || got.Peak != 300 || got.Bend > 0.005 {
				t.Errorf("a straight line from %s to %s: %+v, %+v", from, to, got, apart)
			}
			same, _ := Convert(from, quad.Rates{Centre: 140, Peak: 670, Bend: 0.4}, from)
			if same != (quad.Rates{Centre: 140, Peak: 670, Bend: 0.4}) {
				t.Errorf("within its family a curve became %+v", same)
			}
		}
	}
	soft := quad.Rates{Centre: 110, Peak: 600, Bend: 0.3}
	there, _ := Convert(quad.CentrePeak, soft, quad.StraightExpo)
	back, _ := Convert(quad.StraightExpo, there, quad.CentrePeak)
	if apart := Between(quad.CentrePeak, soft, quad.CentrePeak, back); apart.Share > 0.01 {
		t.Errorf("there and back is %.1f %% off: %+v", 100*apart.Share, back)
	}
}

// A slope is what differences at the centre say.
func TestSlopeAgainstDifferences(t *testing.T) {
	r := rand.New(rand.NewPCG(2, 2))
	for _, family := range families {
		for range 20 {
			rates := drawn(r, family)
			const h = 1e-6
			if want, got := (Rate(family, rates, h)-Rate(family, rates, -h))/(2*h), Slope(family, rates); !(math.Abs(got-want) <= 1e-3*math.Max(1, want)) {
				t.Errorf("%s %+v: slope %v, by differences %v", family, rates, got, want)
			}
		}
	}
}

// A curve that is drawn passes through where its handle was let go, as far as whole figures let it; what cannot be is held at its limit, and said.
func TestBentPassesThroughItsHandle(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 1))
	for range 3000 {
		family := families[r.IntN(3)]
		rates := drawn(r, family)
		h := []Handle{HandleCentre, HandleShape, HandlePeak}[r.IntN(3)]
		to := float64(r.IntN(1200)) - 50
		got, held := Bent(family, rates, h, to)
		if err := Sound(family, got, ""); err != nil {
			t.Fatalf("%s %+v, %s to %v: %+v: %v", family, rates, h, to, got, err)
		}
		at := Rate(family, got, h.Place())
		// Whole rates and hundredths of a bend move the curve by as much.
		fine := 1.0 + 0.006*got.Peak
		if held == "" && !(math.Abs(at-to) <= fine) {
			t.Errorf("%s %+v, %s to %v: %+v passes at %.1f", family, rates, h, to, got, at)
		}
		if held != "" && math.Abs(at-to) <= 0.4 && to >= 0 && to <= rates.Peak && h != HandlePeak {
			t.Errorf("%s %+v, %s to %v went there, and %q is said", family, rates, h, to, held)
		}
	}
	for _, c := range []struct {
		family quad.RateFamily
		h      Handle
		to     float64
		says   string
	}{
		{quad.CentrePeak, HandlePeak, 5000, "off the picture"},
		{quad.CentrePeak, HandlePeak, 50, "no lower than the centre"},
		{quad.CentrePeak, HandleCentre, 400, "no higher than the peak"},
		{quad.StraightExpo, HandleShape, 10, "the bend goes from 0 to 1"},
		{quad.Compounding, HandleShape, -3, "off the picture"},
		{quad.Compounding, HandleCentre, math.NaN(), "no rotation"},
	} {
		_, held := Bent(c.family, quad.Rates{Centre: 140, Peak: 670, Bend: 0.4}, c.h, c.to)
		if !contains(held, c.says) {
			t.Errorf("%s, %s to %v says %q, want %q", c.family, c.h, c.to, held, c.says)
		}
	}
}

func contains(s, part string) bool {
	for i := 0; i+len(part) <= len(s); i++ {
		if s[i:i+len(part)] == part {
			return true
		}
	}
	return false
}

// Figures that are no curve are refused with their place.
func TestSound(t *testing.T) {
	for _, c := range []struct {
		r  quad.Rates
		at string
	}{
		{quad.Rates{Centre: 700, Peak: 600}, "a.peak"}, {quad.Rates{Centre: -1, Peak: 600}, "a.centre"}, {quad.Rates{Centre: 100, Peak: 9000}, "a.peak"},
		{quad.Rates{Centre: 100, Peak: 600, Bend: 1.2}, "a.bend"}, {quad.Rates{Centre: math.NaN(), Peak: 600}, "a.centre"}, {quad.Rates{Centre: 100, Peak: 600, Bend: 1}, ""},
	} {
		var f *quad.Fault
		err := Sound(quad.CentrePeak, c.r, "a")
		if errors.As(err, &f); (c.at == "") != (err == nil) || f != nil && f.Place != c.at {
			t.Errorf("%+v: %v", c.r, err)
		}
	}
	if err := Sound(quad.StraightExpo, quad.Rates{Centre: 700, Peak: 600}, "a"); err != nil {
		t.Error(err)
	}
}

// The margins of a loop whose answer is known in closed form: an integrator A/s behind a lag and a wait, under a proportional gain, with a loop so fast that it is no loop.
// With two lags of T the phase is 180° at w = 1/T, where the gain is A K T / 2: it begins to oscillate at 2/(A K T).
func TestMarginsOfAClosedForm(t *testing.T) {
	const a, lag = 2000.0, 0.02
	l := Loop{Authority: a, Lag: lag, Gains: quad.Gains{Proportional: 0.05}, Rate: 200000}
	l.Rotation = filter.Chain{filter.First(1/(2*math.Pi*lag), l.Rate)}
	m := l.Margins()
	k := 0.05 / 100 * 180 / math.Pi
	if want := 2 / (a * k * lag); !(math.Abs(m.Share/want-1) <= 0.01) || !(math.Abs(m.Hertz*2*math.Pi*lag-1) <= 0.01) {
		t.Errorf("share %v at %v Hz, want %v at %v", m.Share, m.Hertz, want, 1/(2*math.Pi*lag))
	}
	// Where it crosses, its size is one and its phase what is left to 180°.
	open := l.Open(m.Crossing)
	if !(math.Abs(cmplx.Abs(open)-1) <= 1e-6) || !(math.Abs(cmplx.Phase(open)*180/math.Pi+180-m.Phase) <= 1e-6) {
		t.Errorf("at %v Hz the open loop is %v, %v° left", m.Crossing, open, m.Phase)
	}
	if want := math.Atan(2*math.Pi*m.Crossing*lag) * 180 / math.Pi; !(math.Abs(m.Filters-want) <= 0.05) {
		t.Errorf("the filter takes %v°, want %v°", m.Filters, want)
	}
	// A lag alone never turns it as far.
	l.Rotation = nil
	if m := l.Margins(); m.Share != 0 && m.Share < 1000 {
		t.Errorf("with one lag alone it is to oscillate at %v times", m.Share)
	}
}

// A recording's rate and minutes, by hand: 4 kHz in every fourth round are 1000 records a second; at 34 bytes each 16 MB last 7.84 minutes.
func TestRecordings(t *testing.T) {
	r := quad.Recording{Share: 4, Raw: quad.On}
	if got := RecordRate(r, 4000); got != 1000 {
		t.Errorf("%v Hz", got)
	}
	if got := RecordMinutes(r, 4000, 16); !(math.Abs(got-16e6/34/1000/60) <= 1e-9) {
		t.Errorf("%v minutes", got)
	}
	if RecordMinutes(quad.Recording{}, 4000, 16) != 0 || RecordRate(quad.Recording{Share: 2}, 0) != 0 {
		t.Error("what nobody told is reckoned with")
	}
	// 7.84 minutes at 1000 Hz: short of a flight of eight, fast enough for gains; what nobody told is neither.
	r.Purpose = quad.RecordsFilters
	for _, c := range []struct {
		loop, lasts float64
		slow, short bool
	}{{4000, 8, true, true}, {4000, 7, true, false}, {4000, 0, true, false}, {6400, 8, false, true}, {0, 8, false, false}} {
		if got := RecordedOf(r, c.loop, 16, 600, c.lasts); got.Slow != c.slow || got.Short != c.short || got.Needs != 1500 {
			t.Errorf("a loop of %v Hz, a flight of %v min: %+v", c.loop, c.lasts, got)
		}
	}
	for p, want := range map[quad.RecordPurpose]float64{quad.RecordsGains: 500, quad.RecordsFilters: 1500, quad.RecordsFlights: 50, "": 0} {
		if got := NeedsRate(p, 600); got != want {
			t.Errorf("%s needs %v Hz, want %v", p, got, want)
		}
	}
}

// Two lines of a second that a stick makes by itself.
func TestStepsAndTurns(t *testing.T) {
	if got := StepOf(quad.CentrePeak, quad.Rates{Centre: 150, Peak: 600}, 2); !(math.Abs(got-0.6) <= 1e-12) {
		t.Errorf("%v deg/s", got)
	}
	// Half a turn at α: w² = 2 α π, by stepping through it.
	const authority, idle = 1200.0, 0.06
	alpha, w, turned := authority*(1-idle)/2, 0.0, 0.0
	for turned < math.Pi {
		w += alpha * 1e-6
		turned += w * 1e-6
	}
	if got := FastestTurn(authority, idle); !(math.Abs(got/(w*180/math.Pi)-1) <= 1e-3) {
		t.Errorf("%v deg/s, stepped %v", got, w*180/math.Pi)
	}
}

func ExampleConvert() {
	r, apart := Convert(quad.CentrePeak, quad.Rates{Centre: 110, Peak: 600, Bend: 0.3}, quad.StraightExpo)
	fmt.Printf("peak %.0f, bend %.2f; at most %.1f %% off\n", r.Peak, r.Bend, 100*apart.Share)
	// Output: peak 593, bend 0.71; at most 1.3 % off
}

// FuzzBent draws handles of any curve to anything: what comes out is always a curve.
func FuzzBent(f *testing.F) {
	f.Add(140.0, 670.0, 0.4, 0, 1, 300.0)
	f.Add(0.0, 0.0, 0.0, 1, 0, math.Inf(1))
	f.Fuzz(func(t *testing.T, centre, peak, bend float64, family, handle int, to float64) {
		k, h := families[(family%3+3)%3], []Handle{HandleCentre, HandleShape, HandlePeak}[(handle%3+3)%3]
		r := quad.Rates{Centre: centre, Peak: peak, Bend: bend}
		if Sound(k, r, "") != nil {
			return
		}
		if got, _ := Bent(k, r, h, to); Sound(k, got, "") != nil {
			t.Errorf("%s %+v, %s to %v: %+v", k, r, h, to, got)
		}
	})
}

func BenchmarkConvert(b *testing.B) {
	for b.Loop() {
		Convert(quad.CentrePeak, quad.Rates{Centre: 140, Peak: 670, Bend: 0.4}, quad.Compounding)
	}
}
