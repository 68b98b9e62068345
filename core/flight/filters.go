package flight

import (
	"math"

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

// Fixed are the filters that do not move: on the rotation and, behind those, on its change, for a loop in Hz.
func (s *Settings) Fixed(rate float64) (rotation, change filter.Chain) {
	put := func(chain *filter.Chain, of quad.LowPass, usual float64) {
		switch cutoff, order := lowPass(of, usual); order {
		case 1:
			*chain = append(*chain, filter.First(cutoff, rate))
		case 2:
			*chain = append(*chain, filter.Second(cutoff, rate))
		}
	}
	f := &s.Filters
	put(&rotation, f.Gyro, s.GyroCutoff)
	put(&rotation, f.GyroSecond, 0)
	for _, n := range []quad.Notch{f.Notch, f.NotchSecond} {
		if n.On == quad.On && n.Centre > 0 {
			rotation = append(rotation, filter.Notch(n.Centre, told(n.Width, usualNotch*n.Centre), rate))
		}
	}
	usual := s.ChangeCutoff
	if usual == 0 {
		usual = usualChange
	}
	put(&change, f.Change, usual)
	put(&change, f.ChangeSecond, 0)
	return rotation, change
}

func told(x, usual float64) float64 {
	if x == 0 {
		return usual
	}
	return x
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
	tones := f.Tones
	if tones == 0 {
		tones = usualTones
	}
	least := told(f.Least, usualLeast)
	for tone := 1; tone <= min(tones, mostNotches); tone++ {
		out = append(out, max(least, rotation*float64(tone)))
	}
	return out
}

// Following are these notches for a loop in Hz.
func (s *Settings) Following(rotation, rate float64) (out filter.Chain) {
	width := told(s.Filters.Following.Width, usualWidth) / 100
	for _, at := range s.FollowAt(rotation) {
		out = append(out, filter.Notch(at, width*at, rate))
	}
	return out
}

// SearchAt is where the notches that search sit in a hover at a rotation in Hz: at its multiples inside their band, and, where there is none, at the lower end of it, where
// they hold up the most.
func (s *Settings) SearchAt(rotation float64) (out []float64) {
	f := &s.Filters.Searching
	from, to := told(f.From, searchesFrom), told(f.To, searchesTo)
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
	if cutoff, order := lowPass(s.Filters.Change, told(s.ChangeCutoff, usualChange)); order == 1 {
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
