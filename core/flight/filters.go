package flight

import (
	"cmp"
	"math"
	"slices"

	"vividperch/core/airframe"
	"vividperch/core/filter"
	"vividperch/core/quad"
)

// What a firmware does where nobody told.
const (
	usualChange  = 80.0 // Hz, the low-pass on the change of rotation
	usualTones   = 3
	usualLeast   = 80.0  // Hz
	usualWidth   = 20.0  // %, of where a following notch sits
	usualNotch   = 0.3   // the width of a notch, of its centre
	searchWidth  = 0.2   // the width of a notch that searches, of where it sits
	searchesFrom = 80.0  // Hz
	searchesTo   = 500.0 // Hz
	followEvery  = 250.0 // Hz, how often a following notch is moved
	mostNotches  = 8     // of a kind, whatever a file says
	mostTones    = 1000
)

// lowPass is the cutoff (Hz) and order of a low-pass; order 0 is none. usual is the cutoff where nobody told one, 0 none.
func lowPass(of quad.LowPass, usual float64) (cutoff float64, order int) {
	cutoff, order = of.Cutoff, 1
	if cutoff == 0 {
		cutoff = usual
	}
	switch {
	case of.Kind == quad.LowPassOff || !(cutoff > 0):
		return 0, 0
	case of.Kind == quad.LowPassSecond:
		order = 2
	}
	return cutoff, order
}

// Stage is one filter of the board on the rotation, by the name that a pilot knows it by; several notches of a kind are one.
type Stage struct {
	Words string
	Chain filter.Chain
}

// lows is a low-pass as a chain; usual is its cutoff where nobody told one, 0 none.
func lows(of quad.LowPass, usual, rate float64) filter.Chain {
	switch cutoff, order := lowPass(of, usual); order {
	case 1:
		return filter.Chain{filter.First(cutoff, rate)}
	case 2:
		return filter.Chain{filter.Second(cutoff, rate)}
	}
	return nil
}

func notch(n quad.Notch, rate float64) filter.Chain {
	if n.On != quad.On || n.Centre <= 0 {
		return nil
	}
	return filter.Chain{filter.Notch(n.Centre, cmp.Or(n.Width, usualNotch*n.Centre), rate)}
}

// still are the stages on the rotation that do not move, for a loop in Hz.
func (s *Settings) still(rate float64) [4]Stage {
	f := &s.Filters
	return [4]Stage{
		{"Low-pass of the gyro", lows(f.Gyro, s.GyroCutoff, rate)}, {"Second low-pass of the gyro", lows(f.GyroSecond, 0, rate)},
		{"Notch", notch(f.Notch, rate)}, {"Second notch", notch(f.NotchSecond, rate)},
	}
}

// Stages on the rotation for a loop in Hz, all of them, those that move where they sit in a hover at a rotation in Hz. One that is off has an empty chain.
func (s *Settings) Stages(hover, rate float64) []Stage {
	still, follow := s.still(rate), s.Following(hover, rate)
	return append(still[:], Stage{"Notches that search", s.Searching(hover, rate)}, Stage{"Notches that follow the rotors", slices.Repeat(follow, 4)}) // as many for each rotor
}

// Fixed are the filters that do not move: on the rotation and, behind those, on its change, for a loop in Hz.
func (s *Settings) Fixed(rate float64) (rotation, change filter.Chain) {
	for _, stage := range s.still(rate) {
		rotation = append(rotation, stage.Chain...)
	}
	f := &s.Filters
	return rotation, append(lows(f.Change, cmp.Or(s.ChangeCutoff, usualChange), rate), lows(f.ChangeSecond, 0, rate)...)
}

// Late is by how much (s) the filters that do not move hold up what the gyro shows, at a frequency in Hz.
func (s *Settings) Late(hertz float64) float64 {
	rate := min(s.loopRate(), fastest)
	rotation, _ := s.Fixed(rate)
	return rotation.Delay(hertz, rate)
}

// FollowAt is where the notches sit (Hz) that follow a rotor turning so many times a second, and its multiples; nowhere where the board does not know the rotation. A notch
// is no lower than the lowest that is followed.
func (s *Settings) FollowAt(rotation float64) (out []float64) {
	f := &s.Filters.Following
	if f.On != quad.On || !s.Follows {
		return nil
	}
	tones, least := cmp.Or(f.Tones, usualTones), cmp.Or(f.Least, usualLeast)
	for tone := 1; tone <= min(tones, mostNotches); tone++ {
		out = append(out, max(least, rotation*float64(tone)))
	}
	return out
}

// Following are these notches for a loop in Hz.
func (s *Settings) Following(rotation, rate float64) (out filter.Chain) {
	width := cmp.Or(s.Filters.Following.Width, usualWidth) / 100
	for _, at := range s.FollowAt(rotation) {
		out = append(out, filter.Notch(at, width*at, rate))
	}
	return out
}

// SearchAt is where the notches that search sit in a hover at a rotation in Hz: at its multiples inside their band, and, where there is none, at the lower end of it, where
// they hold up the most.
func (s *Settings) SearchAt(rotation float64) (out []float64) {
	f := &s.Filters.Searching
	from, to := cmp.Or(f.From, searchesFrom), cmp.Or(f.To, searchesTo)
	tone := 1
	for range max(0, min(f.Count, mostNotches)) {
		for rotation > 0 && rotation*float64(tone) < from && tone < mostTones {
			tone++
		}
		at := rotation * float64(tone)
		if !(at >= from && at <= to) {
			at = from
		}
		out, tone = append(out, at), tone+1
	}
	return out
}

// Searching are these notches for a loop in Hz.
func (s *Settings) Searching(rotation, rate float64) (out filter.Chain) {
	for _, at := range s.SearchAt(rotation) {
		out = append(out, filter.Notch(at, searchWidth*at, rate))
	}
	return out
}

// running is a chain that runs on each axis.
type running struct {
	chain  filter.Chain
	states [3][]filter.State
}

func newRunning(c filter.Chain) running {
	r := running{chain: c}
	for i := range r.states {
		r.states[i] = make([]filter.State, len(c))
	}
	return r
}

func (r *running) run(axis int, x float64) float64 {
	states := r.states[axis]
	for i := range r.chain {
		x = r.chain[i].Run(&states[i], x)
	}
	return x
}

// filters behind the first low-passes: those that sit still, and those that follow each rotor.
type filters struct {
	still, changes running
	follow         [4]running
	of             *Settings
	rate           float64
	every, left    int
}

// filtersOf the settings for a loop in Hz: the shares of the way that the first low-passes go in one loop, which nearly every quad has and no more, and the rest, nil
// where there is none.
func filtersOf(s *Settings, rate float64, d airframe.Drive, mass float64) (seen, slow float64, rest *filters) {
	rotation, change := s.Fixed(rate)
	seen, slow = 1, 1
	if cutoff, order := lowPass(s.Filters.Gyro, s.GyroCutoff); order == 1 {
		seen, rotation = filter.Share(cutoff, 1/rate), rotation[1:]
	}
	if cutoff, order := lowPass(s.Filters.Change, cmp.Or(s.ChangeCutoff, usualChange)); order == 1 {
		slow, change = filter.Share(cutoff, 1/rate), change[1:]
	}
	hover := 0.0
	if p, ok := d.Hover(mass); ok {
		hover = p.Rotation / (2 * math.Pi)
	}
	rotation = append(rotation, s.Searching(hover, rate)...)
	follow := s.Following(hover, rate)
	if len(rotation)+len(change)+len(follow) == 0 {
		return seen, slow, nil
	}
	rest = &filters{still: newRunning(rotation), changes: newRunning(change), of: s, rate: rate, every: max(1, int(rate/followEvery))}
	for i := range rest.follow {
		rest.follow[i] = newRunning(follow)
	}
	return seen, slow, rest
}

// run what the gyro shows (rad/s) through all that stands before the first low-pass: the order makes no difference to what comes out.
func (f *filters) run(gyro *[3]float64, rotors *[4]rotor) {
	if f.left--; f.left <= 0 && len(f.follow[0].chain) > 0 {
		f.left = f.every
		for i := range f.follow {
			f.follow[i].chain = f.of.Following(math.Abs(rotors[i].speed)/(2*math.Pi), f.rate)
		}
	}
	for axis := range gyro {
		x := f.still.run(axis, gyro[axis])
		for i := range f.follow {
			x = f.follow[i].run(axis, x)
		}
		gyro[axis] = x
	}
}

// change of the rotation about an axis, before its first low-pass.
func (f *filters) change(axis int, x float64) float64 { return f.changes.run(axis, x) }
