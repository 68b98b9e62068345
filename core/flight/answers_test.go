package flight

import (
	"fmt"
	"math"
	"testing"

	"vividperch/core/filter"
	"vividperch/core/quad"
)

// answering is a sound quad in still air whose loop runs at 4 kHz, as it is flown, or slower.
func answering(change func(*Input)) Input {
	in := sample()
	in.Noise, in.Ideal = 0, true
	in.Settings.SelfLevel, in.Settings.LoopRate = quad.Range{}, 4000
	if change != nil {
		change(&in)
	}
	in.Rate = int(in.Settings.LoopRate)
	return in
}

// The share of the gains at which the arithmetic of the linear loop says that it begins to oscillate, against flights of the whole model: just below it a small step dies
// away, just above it grows.
func TestMarginsAgainstFlights(t *testing.T) {
	tests := []struct {
		name   string
		change func(*Input)
	}{
		{"as it is", nil},
		{"no filters", func(in *Input) {
			in.Settings.Filters.Gyro.Kind, in.Settings.Filters.Change.Kind = quad.LowPassOff, quad.LowPassOff
		}},
		{"slow filters", func(in *Input) {
			in.Settings.Filters.Gyro, in.Settings.Filters.Change = quad.LowPass{Kind: quad.LowPassSecond, Cutoff: 60}, quad.LowPass{Cutoff: 40}
		}},
		{"a notch and two that follow", func(in *Input) {
			in.Settings.Filters.Notch = quad.Notch{On: quad.On, Centre: 120, Width: 40}
			in.Settings.Filters.Following, in.Settings.Follows = quad.RotorNotches{On: quad.On, Tones: 2}, true
		}},
		{"notches that search", func(in *Input) { in.Settings.Filters.Searching = quad.SearchNotches{Count: 3, From: 70, To: 300} }},
		{"much derivative", func(in *Input) {
			for i := range in.Settings.Gains {
				in.Settings.Gains[i].Derivative *= 4
			}
		}},
		{"a loop of 1 kHz", func(in *Input) {
			in.Settings.LoopRate = 1000
			in.Settings.Filters.Gyro = quad.LowPass{Kind: quad.LowPassSecond, Cutoff: 90}
		}},
		{"thrust evened out, slow filters", func(in *Input) {
			in.Settings.Even = 0.7
			in.Settings.Filters.Gyro, in.Settings.Filters.Change = quad.LowPass{Kind: quad.LowPassSecond, Cutoff: 60}, quad.LowPass{Cutoff: 40}
		}},
		{"by digital throttle", func(in *Input) { in.Settings.Protocol = quad.ProtocolDigital }},
	}
	for _, c := range tests {
		in := answering(c.change)
		loops, err := LoopsOf(in)
		if err != nil {
			t.Fatal(err)
		}
		for axis, name := range [3]string{"roll", "pitch", "yaw"} {
			m := loops[axis].Margins()
			if m.Share == 0 || m.Share > 60 {
				continue // nothing that a motor could still follow
			}
			grows := func(share float64) bool {
				with := clone(in)
				with.Settings.Gains[axis] = scaled(with.Settings.Gains, share)[axis]
				with.Settings.Gains[axis].Integral = share * in.Settings.Gains[axis].Integral
				got, err := Answer(with, axis, 3, 1.2)
				if err != nil {
					t.Fatal(err)
				}
				swing := func(from, to int) float64 {
					least, most := math.Inf(1), math.Inf(-1)
					for _, x := range got.Rotation[from:to] {
						least, most = min(least, x), max(most, x)
					}
					return most - least
				}
				n := len(got.Rotation)
				last := swing(3*n/4, n)
				return last > 3 || last > 0.9*swing(n/4, n/2) // grown as far as the motors let it, or growing
			}
			low, high := 0.1*m.Share, 4*m.Share
			for range 12 {
				if mid := math.Sqrt(low * high); grows(mid) {
					high = mid
				} else {
					low = mid
				}
			}
			t.Logf("%s, %s: %.2f of the gains by the arithmetic, at %.0f Hz; flown %.2f; crosses at %.1f Hz with %.0f° in hand", c.name, name, m.Share, m.Hertz, low, m.Crossing, m.Phase)
			if !(math.Abs(low/m.Share-1) <= 0.08) {
				t.Errorf("%s, %s: begins to oscillate at %.2f of its gains by the arithmetic, and at %.2f in the air", c.name, name, m.Share, low)
			}
		}
	}
}

// What stands behind the margin is measured in a flight too: a sine is asked about roll, and the rotation that comes, by correlation over whole periods, is what the closed
// loop of the arithmetic says. The filters turn its phase by what they are told to.
func TestClosedLoopAgainstASine(t *testing.T) {
	for _, filters := range []quad.Filters{{}, {Gyro: quad.LowPass{Kind: quad.LowPassSecond, Cutoff: 90}}} {
		in := answering(func(in *Input) { in.Settings.Filters = filters })
		loops, err := LoopsOf(in)
		if err != nil {
			t.Fatal(err)
		}
		l := loops[0]
		for _, hertz := range []float64{2, 5, 10, 20} {
			const every = 0.001
			got, err := Followed(in, func(t float64) [3]float64 { return [3]float64{4 * math.Sin(2*math.Pi*hertz*t)} }, 2, every)
			if err != nil {
				t.Fatal(err)
			}
			var sin, cos float64
			n := 0.0
			for i := 1000; i < 2000; i++ {
				s, c := math.Sincos(2 * math.Pi * hertz * float64(i) * every)
				sin, cos, n = sin+got[i][0]*s, cos+got[i][0]*c, n+1
			}
			have := complex(2*sin/n/4, 2*cos/n/4)
			// The proportional and the integral share work on the error, the derivative on the rotation alone.
			still := l
			still.Gains.Derivative = 0
			forward := still.Open(hertz) / l.Rotation.At(hertz, l.Rate)
			want := forward / (1 + l.Open(hertz))
			if d := have - want; math.Hypot(real(d), imag(d)) > 0.05 {
				t.Errorf("at %v Hz with %+v: %.3f comes of it, want %.3f", hertz, filters.Gyro, have, want)
			}
		}
	}
}

// A filter that the board runs holds up what the gyro shows by what the arithmetic says, in the flight itself.
func TestFiltersOfAFlight(t *testing.T) {
	in := answering(func(in *Input) {
		in.Settings.Filters = quad.Filters{Gyro: quad.LowPass{Cutoff: 70}, Notch: quad.Notch{On: quad.On, Centre: 150, Width: 60}, Searching: quad.SearchNotches{Count: 1, From: 300, To: 400}}
		in.Settings.Filters.Following, in.Settings.Follows = quad.RotorNotches{On: quad.On, Tones: 1, Least: 250}, true
	})
	s := mustNew(t, in)
	rate := 1 / s.h
	hover, _ := s.drive.Hover(in.Mass)
	at := hover.Rotation / (2 * math.Pi)
	rotation, _ := in.Settings.Fixed(rate)
	chain := append(filter.Chain{}, rotation...)
	chain = append(chain, in.Settings.Searching(at, rate)...)
	for range 4 {
		chain = append(chain, in.Settings.Following(0, rate)...) // they stand still here, at the lowest
	}
	const hertz = 25.0
	c := &s.control
	var sin, cos, n float64
	for i := range int(3 * rate) {
		sn, cs := math.Sincos(2 * math.Pi * hertz * float64(i) / rate)
		g := [3]float64{sn, 0, 0}
		c.filters.run(&g, &s.rotors)
		c.seen[0] += c.seenShare * (g[0] - c.seen[0])
		if i >= int(rate) {
			sin, cos, n = sin+c.seen[0]*sn, cos+c.seen[0]*cs, n+1
		}
	}
	late := -math.Atan2(cos, sin) / (2 * math.Pi * hertz)
	if want := chain.Delay(hertz, rate); !(math.Abs(late-want) <= 1e-6) {
		t.Errorf("what runs is %.4f ms late, want %.4f", 1000*late, 1000*want)
	}
	// A file that lies about how many, or where, hangs nothing.
	lies := in.Settings
	lies.Filters.Searching, lies.Filters.Following.Tones = quad.SearchNotches{Count: 1 << 40, From: math.NaN(), To: math.Inf(-1)}, 1<<40
	if n := len(lies.Searching(at, rate)) + len(lies.Following(at, rate)); n > 16 {
		t.Errorf("%d notches of a file that lies", n)
	}
	if len(chain) != 7 {
		t.Errorf("%d filters: a low-pass, a notch, one that searches and one that follows each rotor are told", len(chain))
	}
}

// The answer to a step is told as it was drawn: rise, overshoot and settling of curves whose own are known, and a real one is quicker with more gain.
func TestAnswers(t *testing.T) {
	in := answering(nil)
	soft, err := Answer(in, 0, 60, 0.6)
	if err != nil {
		t.Fatal(err)
	}
	more := clone(in)
	more.Settings.Gains = scaled(more.Settings.Gains, 2)
	quick, err := Answer(more, 0, 60, 0.6)
	if err != nil {
		t.Fatal(err)
	}
	if !(quick.Rise < soft.Rise) || soft.Rise == 0 || len(soft.Rotation) != 601 {
		t.Errorf("twice the gain rises in %v s, once in %v s; %d rotations", quick.Rise, soft.Rise, len(soft.Rotation))
	}
	ahead := clone(in)
	loops, _ := LoopsOf(in)
	ahead.Settings.Gains[0].FeedForward = 100 / (loops[0].Authority * degrees) // the duty that the change itself takes
	led, err := Answer(ahead, 0, 60, 0.6)
	if err != nil || !(led.Rise < soft.Rise) {
		t.Errorf("with feed-forward it rises in %v s, without in %v s: %v", led.Rise, soft.Rise, err)
	}
	// Read again from the rotation itself, written differently.
	for _, a := range []*Answered{soft, quick, led} {
		peak := 0.0
		for _, x := range a.Rotation {
			peak = math.Max(peak, x)
		}
		if want := math.Max(0, (peak-60)/60*100); !(math.Abs(a.Overshoot-want) <= 0.051) {
			t.Errorf("overshoot %v %%, want %.2f", a.Overshoot, want)
		}
		for i := len(a.Rotation) - 1; i >= 0 && a.Settles > 0; i-- {
			if !(math.Abs(a.Rotation[i]-60) <= 3) {
				if !(math.Abs(float64(i+1)*a.Every-a.Settles) <= 1.5*a.Every) {
					t.Errorf("settles at %v s, and is outside at %v s", a.Settles, float64(i)*a.Every)
				}
				break
			}
		}
	}
}

// A full turn takes what its own rotation says, and no less than the torque allows: half the turn at the fastest change there is.
func TestTurns(t *testing.T) {
	in := answering(nil)
	for axis := range 3 {
		asked := []float64{670, 670, 400}[axis]
		got, err := Turn(in, axis, asked)
		if err != nil {
			t.Fatal(err)
		}
		t.Logf("axis %d: %.3f s, %v deg/s reached, nine tenths after %v s", axis, got.Seconds, got.Reached, got.Late)
		if got.Seconds < 360/got.Reached || got.Seconds > 2*360/asked {
			t.Errorf("axis %d: %+v of %v deg/s", axis, got, asked)
		}
	}
	quick, err := Turn(in, 0, 900)
	if err != nil {
		t.Fatal(err)
	}
	in.Parts.Motor.TimeConst = 150
	if slow, err := Turn(in, 0, 900); err != nil || slow.Late < 1.5*quick.Late {
		t.Errorf("with slow motors %+v, else %+v: %v", slow, quick, err)
	}
}

func ExampleTurn() {
	got, err := Turn(sample(), 0, 670)
	fmt.Println(got.Seconds > 0.5 && got.Seconds < 1, err)
	// Output: true <nil>
}
