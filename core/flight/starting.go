package flight

import (
	"math"

	"gonum.org/v1/gonum/dsp/fourier"

	"vividperch/core/airframe"
	"vividperch/core/feel"
	"vividperch/core/quad"
)

// Starting gains for a quad that has never flown.
type Starting struct {
	Gains [3]quad.Gains `json:"gains"` // roll, pitch, yaw
	// Scale of the usual ones, about each axis: the authority that they are for over this quad's, with the pack that turns it the hardest.
	Scale [3]float64 `json:"scale" unit:"1"`
	// Held is what of that is kept so that it has enough in hand with every pack; 1 where nothing had to be given up.
	Held  float64         `json:"held" unit:"1"`
	Flown []StartingFlown `json:"flown"`
}

// StartingFlown is how the gains did with one pack, full.
type StartingFlown struct {
	Pack   string  `json:"pack"`
	Share  float64 `json:"share" unit:"1"` // of the gains at which the first axis begins to oscillate
	Shakes bool    `json:"shakes"`         // as it was flown in a hover
}

// StartingGains for a quad: what is usual in its firmware, for the quad that it is usual for (reference, rad/s² for a whole step of duty about roll, pitch and yaw), scaled to what this
// one makes of a step of duty. They are flown with every pack before they are offered.
func StartingGains(k quad.Known, usual [3]quad.Gains, reference [3]float64) (*Starting, error) {
	in, err := Meant(k)
	if err != nil {
		return nil, err
	}
	list, _ := airframe.FedByEach(k.Parts, airframe.FullCell)
	out := &Starting{Held: 1}
	var most [3]float64
	for _, f := range list {
		about, ok := Authority(in.Settings.output(), f.Drive, in.Actual.Layout, k.Parts.Frame, in.With(f.Pack, airframe.FullCell).Mass)
		for i := range most {
			if ok {
				most[i] = max(most[i], about[i])
			}
		}
	}
	if most[0] == 0 {
		return nil, quad.Faultf("too-heavy", "readings.airframe.weight", "it does not hover at full throttle")
	}
	for i := range usual {
		out.Scale[i] = math.Round(1000*reference[i]/most[i]) / 1000
		out.Gains[i] = scaled([3]quad.Gains{usual[i]}, reference[i]/most[i])[0]
	}
	least := math.Inf(1)
	with := func() error {
		out.Flown, least = nil, math.Inf(1)
		for _, f := range list {
			one := in.With(f.Pack, airframe.FullCell)
			one.Settings.Gains = out.Gains
			loops, err := LoopsOf(one)
			if err != nil {
				return err
			}
			share := math.Inf(1)
			for i := range loops {
				if m := loops[i].Margins(); m.Share > 0 {
					share = min(share, m.Share)
				}
			}
			shakes, err := Oscillates(one)
			if err != nil {
				return err
			}
			least = min(least, share)
			out.Flown = append(out.Flown, StartingFlown{f.Name, round2(min(share, 100)), shakes})
		}
		return nil
	}
	if err := with(); err != nil {
		return nil, err
	}
	if least < feel.SharesFew {
		out.Held = math.Floor(100*least/feel.SharesFew) / 100
		out.Gains = scaled(out.Gains, out.Held)
		if err := with(); err != nil {
			return nil, err
		}
	}
	for i := range out.Gains {
		out.Gains[i] = rounded(out.Gains[i])
	}
	return out, nil
}

// Spectrum of what the gyro shows about one axis in a hover, before the board's filters and behind them.
type Spectrum struct {
	Every    float64   `json:"every" unit:"Hz"` // from one value to the next; the first is at it
	Raw      []float64 `json:"raw" unit:"deg/s"`
	Filtered []float64 `json:"filtered" unit:"deg/s"`
	Rotors   float64   `json:"rotors" unit:"Hz"` // rotation of the rotors meanwhile
}

// Of a spectrum: how long it is flown, s, and the imbalance of each propeller where nobody measured one, g·mm. A new propeller of five inches has as much.
const (
	spectrumLasts   = 1.0
	usualImbalance  = 0.4
	spectrumHighest = 600.0 // Hz
)

// SpectrumOf a hover about roll, at the rate of the loop. Propellers that nobody balanced or measured are taken to be as far out of balance as new ones are.
func SpectrumOf(in Input) (*Spectrum, error) {
	in.Noise = GyroNoise
	if len(in.Actual.Imbalance) == 0 {
		in.Actual.Imbalance = map[quad.Corner]float64{}
		for i, c := range quad.Corners {
			in.Actual.Imbalance[c] = usualImbalance * (1 + 0.2*float64(i)) // no two are alike
		}
	}
	in.Rate = int(min(fastest, max(Rate, in.Settings.loopRate())))
	s, err := letGo(in)
	if err != nil {
		return nil, err
	}
	c := &s.control
	n := int(spectrumLasts / s.h)
	for range n / 4 {
		s.fly() // until it is steady
	}
	raw, filtered, turned := make([]float64, n), make([]float64, n), 0.0
	for i := range n {
		s.fly()
		raw[i], filtered[i] = s.sensors.gyro[0]*degrees, c.seen[0]*degrees
		turned += s.rotors[0].speed / float64(n)
	}
	out := &Spectrum{Every: 1 / spectrumLasts, Rotors: round1(math.Abs(turned) / (2 * math.Pi))}
	out.Raw, out.Filtered = amplitudes(raw), amplitudes(filtered)
	return out, nil
}

// amplitudes at 1, 2, 3 ... over the length of a run, through a Hann window.
func amplitudes(x []float64) []float64 {
	n := len(x)
	windowed := make([]float64, n)
	for i := range x {
		windowed[i] = x[i] * (1 - math.Cos(2*math.Pi*float64(i)/float64(n)))
	}
	f := fourier.NewFFT(n).Coefficients(nil, windowed)
	most := min(len(f)-1, int(spectrumHighest*spectrumLasts))
	out := make([]float64, most)
	for i := range out {
		out[i] = math.Round(1e4*2*math.Hypot(real(f[i+1]), imag(f[i+1]))/float64(n)) / 1e4
	}
	return out
}
