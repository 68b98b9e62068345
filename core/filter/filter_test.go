package filter

import (
	"fmt"
	"math"
	"math/cmplx"
	"testing"
)

func kinds(rate float64) map[string]Chain {
	return map[string]Chain{
		"first order at 90 Hz":   {First(90, rate)},
		"second order at 120 Hz": {Second(120, rate)},
		"notch at 200 Hz":        {Notch(200, 60, rate)},
		"notch, narrow":          {Notch(310, 15, rate)},
		"all of them":            {First(90, rate), Second(120, rate), Notch(200, 60, rate), Notch(310, 15, rate)},
	}
}

// What runs does to a sine what the arithmetic says: amplitude and phase of the response are measured by correlation over whole periods, once it has settled.
func TestResponseAgainstARunningSine(t *testing.T) {
	for _, rate := range []float64{1000, 4000, 8000} {
		for name, c := range kinds(rate) {
			for _, hertz := range []float64{5, 20, 80, 160, 200, 400} {
				states := make([]State, len(c))
				settle, periods := int(rate), int(hertz)
				var sin, cos float64
				n := int(math.Round(float64(periods) / hertz * rate))
				for i := range settle + n {
					x := math.Sin(2 * math.Pi * hertz * float64(i) / rate)
					for k := range c {
						x = c[k].Run(&states[k], x)
					}
					if i >= settle {
						s, co := math.Sincos(2 * math.Pi * hertz * float64(i) / rate)
						sin, cos = sin+x*s, cos+x*co
					}
				}
				got, want := complex(2*sin/float64(n), 2*cos/float64(n)), c.At(hertz, rate)
				if !(cmplx.Abs(got-want) <= 1e-6) {
					t.Errorf("%s at %v Hz of %v: a sine comes out as %.5f, want %.5f", name, hertz, rate, got, want)
				}
			}
		}
	}
}

// Closed forms in continuous time, which a fast loop comes close to: 1/(1 + j f/fc); Butterworth's half power at its cutoff and 180° in all; a notch's
// half power half its width beside the centre, and nothing at it.
func TestShapesAgainstContinuousTime(t *testing.T) {
	const rate = 64000
	for _, c := range []struct {
		what      string
		got, want complex128
		within    float64
	}{
		{"first order at a tenth of its cutoff", First(100, rate).At(10, rate), 1 / complex(1, 0.1), 1e-3},
		{"first order at its cutoff", First(100, rate).At(100, rate), 1 / complex(1, 1), 6e-3},
		{"second order at its cutoff", Second(100, rate).At(100, rate), complex(0, -1/math.Sqrt2), 1e-9},
		{"second order far above", Second(100, rate).At(1000, rate), -0.01 / complex(1, -math.Sqrt2/10) * 1.0, 2e-3},
		{"notch at its centre", Notch(200, 40, rate).At(200, rate), 0, 1e-9},
		{"notch at its lower half power", Notch(200, 40, rate).At(200*math.Sqrt(1.01)-20, rate), complex(0.5, -0.5), 2e-3},
		{"notch at its upper half power", Notch(200, 40, rate).At(200*math.Sqrt(1.01)+20, rate), complex(0.5, 0.5), 2e-3},
		{"notch far below", Notch(200, 40, rate).At(1, rate), 1, 2e-3},
	} {
		if !(cmplx.Abs(c.got-c.want) <= c.within) {
			t.Errorf("%s: %.5f, want %.5f", c.what, c.got, c.want)
		}
	}
}

// In a slow loop a notch keeps its width as well: where half its power is left below and above, found by halving, lies as far apart as was told.
func TestNotchIsAsWideAsTold(t *testing.T) {
	const rate, width = 1000.0, 12.0
	for _, centre := range []float64{50, 200, 300, 400} {
		n := Notch(centre, width, rate)
		half := func(low, high float64) float64 { // less than half at low, more at high
			for range 60 {
				mid := (low + high) / 2
				if p := cmplx.Abs(n.At(mid, rate)); p*p < 0.5 {
					low = mid
				} else {
					high = mid
				}
			}
			return low
		}
		if got := half(centre, centre+40) - half(centre, centre-40); !(math.Abs(got/width-1) <= 0.01) {
			t.Errorf("a notch of %v Hz at %v Hz is %v Hz wide", width, centre, got)
		}
	}
}

// The delay is that of a slow ramp, which comes out later by the sum of what each section holds up: 1/(2π fc) for first order, √2/(2π fc) for
// Butterworth's second, width/(2π f²) for a notch.
func TestDelayOfASlowMovement(t *testing.T) {
	const rate = 32000
	whole := kinds(rate)["all of them"]
	want := 1/(2*math.Pi*90) + math.Sqrt2/(2*math.Pi*120) + 60/(2*math.Pi*200*200) + 15/(2*math.Pi*310*310)
	if got := whole.Delay(1, rate); !(math.Abs(got-want) <= 0.01*want) {
		t.Errorf("%.3f ms, want %.3f", 1000*got, 1000*want)
	}
	// Measured: the distance by which the output lags a ramp.
	states := make([]State, len(whole))
	y := 0.0
	for i := range rate {
		y = float64(i) / rate
		for k := range whole {
			y = whole[k].Run(&states[k], y)
		}
	}
	if got := float64(rate-1)/rate - y; !(math.Abs(got-want) <= 0.02*want) {
		t.Errorf("a ramp comes out %.3f ms late, want %.3f", 1000*got, 1000*want)
	}
}

// A filter that the loop is too slow for lets everything through instead of folding back on what is slow.
func TestTooFastForTheLoop(t *testing.T) {
	for _, s := range []Section{Second(480, 1000), Notch(600, 50, 1000), Notch(0, 50, 1000), Notch(100, 0, 1000)} {
		if s != Through {
			t.Errorf("%+v", s)
		}
	}
}

func Example() {
	c := Chain{First(100, 4000), Notch(200, 40, 4000)}
	fmt.Printf("%.0f %% of 200 Hz, %.1f ms late\n", 100*cmplx.Abs(c.At(200, 4000)), 1000*c.Delay(10, 4000))
	// Output: 0 % of 200 Hz, 1.7 ms late
}
