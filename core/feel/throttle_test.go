package feel

import (
	"math"
	"math/rand/v2"
	"testing"

	"vividperch/core/quad"
)

// A middle that puts a throttle at a stick is the one with which the curve passes there; where there is none between a hundredth and 99, none is told.
func TestMiddlePassesThroughWhatIsWanted(t *testing.T) {
	r := rand.New(rand.NewPCG(9, 5))
	fits := 0
	for range 2000 {
		stick, throttle, bend := 0.02+0.96*r.Float64(), 0.02+0.96*r.Float64(), r.Float64()
		middle, ok := MiddleFor(stick, throttle, bend)
		if within := middle >= 0.01 && middle <= 0.99; ok != within {
			t.Fatalf("a middle of %v, told %v", middle, ok)
		}
		if !ok {
			// No middle does: the least and the most both pass on the same side of it.
			low, high := (ThrottleCurve{0.01, bend}).At(stick), (ThrottleCurve{0.99, bend}).At(stick)
			if low < throttle-1e-9 && high > throttle+1e-9 {
				t.Fatalf("no middle for %v at %v with a bend of %v, and yet from %v to %v it passes", throttle, stick, bend, low, high)
			}
			continue
		}
		fits++
		if got := (ThrottleCurve{middle, bend}).At(stick); !(math.Abs(got-throttle) <= 1e-9) {
			t.Fatalf("at %v of the stick %v instead of %v, with a bend of %v", stick, got, throttle, bend)
		}
	}
	if fits < 500 {
		t.Errorf("only %d of 2000 could be put", fits)
	}
}

// The stick of a throttle is the one whose throttle it is.
func TestStickOfAThrottle(t *testing.T) {
	for _, c := range []ThrottleCurve{{0.5, 0}, {0.3, 0.6}, {0.75, 1}, {0.01, 0.2}} {
		for _, stick := range []float64{0.05, 0.3, 0.45, 0.8, 0.97} {
			if got := c.Stick(c.At(stick)); !(math.Abs(got-stick) <= 1e-6) {
				t.Errorf("%+v: %v of the stick comes back as %v", c, stick, got)
			}
		}
	}
}

// Thrust that climbs with the square strays by a quarter from a straight line, half way up, whatever is below and above it; one that climbs with the root strays as far to the other side.
func TestUnevenOfAClosedForm(t *testing.T) {
	line := ThrottleCurve{Middle: 0.5}
	for name, c := range map[string]struct {
		thrust func(float64) float64
		want   float64
	}{
		"straight":               {func(x float64) float64 { return 3 + 2*x }, 0},
		"with the square":        {func(x float64) float64 { return x * x }, 0.25},
		"with the square, above": {func(x float64) float64 { return 1 + 4*x*x }, 0.25},
		"with the root":          {math.Sqrt, 0.25},
		"nothing at all":         {func(float64) float64 { return 2 }, 0},
		"falling":                {func(x float64) float64 { return -x }, 0},
	} {
		if got := line.Uneven(c.thrust); !(math.Abs(got-c.want) <= 1e-9) {
			t.Errorf("%s: %v, want %v", name, got, c.want)
		}
	}
}

// The straightest curve against every curve that may be held, each looked at without a table.
func TestStraightestAgainstEveryCurve(t *testing.T) {
	for name, thrust := range map[string]func(float64) float64{
		"with the square":     func(x float64) float64 { return x * x },
		"between":             func(x float64) float64 { return 0.02 + math.Pow(x, 1.6) },
		"with the root":       math.Sqrt,
		"as it is":            func(x float64) float64 { return x },
		"square, then rolled": func(x float64) float64 { return x * x * (2 - x) },
	} {
		got := Straightest(thrust)
		best, bend := math.Inf(1), 0
		for e := 60; e >= 0; e -= 5 {
			for m := 80; m >= 20; m-- {
				off := 0.0
				for i := 1; i < 40; i++ {
					x := float64(i) / 40
					// The curve, written as two cubics that meet in the middle.
					a, half := float64(m)/100, 2*x-1
					at := a + (1-a)*(half-float64(e)/100*(half-half*half*half))
					if half < 0 {
						at = a + a*(half-float64(e)/100*(half-half*half*half))
					}
					off = math.Max(off, math.Abs((thrust(at)-thrust(0))/(thrust(1)-thrust(0))-x))
				}
				if off < best {
					best, bend = off, e
				}
			}
		}
		if off := got.Uneven(thrust); !(off <= best+1e-3) {
			t.Errorf("%s: %+v strays by %v, and another by %v with a bend of %d", name, got, off, best, bend)
		}
		if name == "as it is" && got != (ThrottleCurve{Middle: 0.5}) {
			t.Errorf("what is straight already is bent to %+v", got)
		}
	}
}

// Where two curves lie apart, of two whose difference is a straight line: farthest at the end of the stick.
func TestApartOfStraightLines(t *testing.T) {
	a, b := curve(400), curve(500)
	got := Between(quad.StraightExpo, a, quad.StraightExpo, b)
	if got.Stick != 1 || got.By != 100 || got.From != 400 || got.Share != 0.25 || got.Slope != 100 {
		t.Errorf("%+v", got)
	}
	if back := Between(quad.StraightExpo, b, quad.StraightExpo, a); back.By != -100 || back.Slope != -100 || back.Share != 0.2 {
		t.Errorf("the other way: %+v", back)
	}
	// The mean by a finer sum of the same weights, without the steps of the first.
	sum, weights := 0.0, 0.0
	for i := range 100001 {
		x := float64(i) / 100000
		sum, weights = sum+Lives(x)*1e4*x*x, weights+Lives(x)
	}
	if want := math.Sqrt(sum / weights); !(math.Abs(got.Mean/want-1) <= 0.02) {
		t.Errorf("%v deg/s apart in the mean, by a finer sum %v", got.Mean, want)
	}
	if same := Between(quad.StraightExpo, a, quad.StraightExpo, a); same != (Apart{}) {
		t.Errorf("from itself a curve lies %+v apart", same)
	}
}

// The golden section finds the bottom of what falls and then rises.
func TestLeastFindsTheBottom(t *testing.T) {
	for _, at := range []float64{0.03, 0.37, 0.5, 0.93} {
		if got := least(0, 1, func(x float64) float64 { return math.Abs(x - at) }); !(math.Abs(got-at) <= 1e-7) {
			t.Errorf("the bottom at %v is found at %v", at, got)
		}
	}
}

func curve(peak float64) quad.Rates { return quad.Rates{Peak: peak} }
