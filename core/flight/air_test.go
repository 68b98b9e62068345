package flight

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/dsp/fourier"
)

// spectrum by averaged periodograms, one-sided, per Hz; another way than the filters that make the gusts.
func spectrum(x []float64, rate float64, length int) []float64 {
	fft := fourier.NewFFT(length)
	out := make([]float64, length/2)
	window := make([]float64, length)
	power := 0.0
	for i := range window {
		window[i] = 0.5 - 0.5*math.Cos(2*math.Pi*float64(i)/float64(length))
		power += window[i] * window[i]
	}
	n := 0
	buffer := make([]float64, length)
	for at := 0; at+length <= len(x); at += length / 2 {
		for i := range buffer {
			buffer[i] = x[at+i] * window[i]
		}
		for k, c := range fft.Coefficients(nil, buffer)[:length/2] {
			out[k] += 2 * (real(c)*real(c) + imag(c)*imag(c)) / (rate * power)
		}
		n++
	}
	for k := range out {
		out[k] /= float64(n)
	}
	return out
}

// The gusts' spectra are Dryden's, octave by octave, and their strengths are what was asked for.
func TestGustsHaveDrydensSpectrum(t *testing.T) {
	const speed, sigma = 8.0, 1.5
	g := newGusts(Site{WindNorth: speed, Gust: sigma}, 3)
	const n = 1 << 20
	var series [3][]float64
	for range n {
		g.meet(speed / airRate)
		for i := range series {
			series[i] = append(series[i], g.next[i])
		}
	}
	for i, c := range []struct {
		name          string
		sigma, length float64
		first         bool
	}{{"along", sigma, GustLength, true}, {"across", sigma, GustLength, false}, {"up", sigma * GustUpShare, GustUpLength, false}} {
		square := 0.0
		for _, x := range series[i] {
			square += x * x
		}
		near(t, c.name+": strength, m/s", math.Sqrt(square/n), c.sigma, 0.03*c.sigma)
		const length = 8192
		got := spectrum(series[i], airRate, length)
		tau := c.length / speed
		for low := 8; low < length/16; low *= 2 {
			sum, want := 0.0, 0.0
			for k := low; k < 2*low; k++ {
				x := 2 * math.Pi * float64(k) * airRate / length * tau
				sum += got[k]
				if c.first {
					want += 4 * c.sigma * c.sigma * tau / (1 + x*x)
				} else {
					want += 2 * c.sigma * c.sigma * tau * (1 + 3*x*x) / ((1 + x*x) * (1 + x*x))
				}
			}
			if r := sum / want; r < 0.88 || r > 1.14 {
				t.Errorf("%s, %.2f to %.2f Hz: %.2f of Dryden's", c.name, float64(low)*airRate/length, 2*float64(low)*airRate/length, r)
			}
		}
	}
}

// Near the ground thrust is that of Cheeseman and Bennett, and nothing a few discs up.
func TestGroundEffect(t *testing.T) {
	s := mustNew(t, sample())
	r := s.body.radius
	for _, c := range []struct{ high, want float64 }{{r, 1 / (1 - 1.0/16)}, {2 * r, 1 / (1 - 1.0/64)}, {5 * r, 1}, {0.1 * r, 1 / (1 - 0.25)}} {
		s.now = rigid{qw: 1, pz: -c.high}
		s.breathe()
		for i := range s.rotors {
			near(t, "share of thrust", s.rotors[i].gain, c.want, 1e-12)
		}
	}
}

// Sinking at the speed of its own downwash a quad loses lift and is shaken, each rotor by itself; faster, slower or going sideways it
// does not.
func TestOwnWake(t *testing.T) {
	in := sample()
	in.Noise = 0
	sinking := func(share, side float64) (mean, sigma float64) {
		s := aloft(t, nil)
		s.still = false
		p, _ := s.drive.Hover(in.Mass)
		down := math.Sqrt(4 * p.Thrust / (2 * s.density * s.wake.area))
		n := 0
		squares := 0.0
		for range 20000 {
			for i := range s.rotors {
				s.rotors[i].speed = p.Rotation
			}
			s.now.vz, s.now.vx = share*down, side*down
			s.breathe()
			for i := range s.rotors {
				mean += s.rotors[i].gain
				squares += s.rotors[i].gain * s.rotors[i].gain
				n++
			}
		}
		mean /= float64(n)
		return mean, math.Sqrt(max(0, squares/float64(n)-mean*mean))
	}
	mean, sigma := sinking(1, 0)
	near(t, "lift left at its worst", mean, 1-wakeLoss, 0.02)
	near(t, "shaking at its worst", sigma, wakeShake, 0.02)
	for _, c := range []struct{ share, side float64 }{{0.2, 0}, {2, 0}, {1, 1.2}, {-1, 0}} {
		if mean, sigma := sinking(c.share, c.side); mean != 1 || sigma > 1e-9 {
			t.Errorf("sinking at %v, sideways at %v of the downwash: %v of the lift is left, shaken by %v", c.share, c.side, mean, sigma)
		}
	}
}

// A steady hover in gusts is the same for the same seed and another for another.
func TestWindIsSeeded(t *testing.T) {
	in := sample()
	in.Site.WindNorth, in.Site.Gust = -5, 1
	a, b := mustFly(t, in), mustFly(t, in)
	if a.Summary != b.Summary {
		t.Error("the same seed blows another way")
	}
	in.Seed = 2
	if c := mustFly(t, in); c.Summary == a.Summary {
		t.Error("another seed blows the same")
	}
}
