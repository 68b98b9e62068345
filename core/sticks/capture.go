package sticks

import (
	"cmp"
	"math"
	"slices"

	"vividperch/core/quad"
)

// Sample is what a radio sent at one moment.
type Sample struct {
	At       float64   `json:"at" unit:"ms"` // by the clock of whoever collected it, rising
	Channels []float64 `json:"channels" unit:"µs"`
}

// Mover is the channel (counted from 0) that moved most over some samples, and by how many µs.
func Mover(samples []Sample) (channel int, moved float64) {
	if len(samples) == 0 {
		return 0, 0
	}
	for c := range samples[0].Channels {
		if low, high := span(samples, c); high-low > moved {
			channel, moved = c, high-low
		}
	}
	return channel, moved
}

const (
	leastMove   = 100.0 // µs that a channel must go to count as moved
	nearRest    = 60.0  // µs from its centre within which a stick that was let go comes to rest
	leastRest   = 150.0 // ms that it must lie there at the end, so that its centre is no passing place
	mostRest    = 1000.0
	leastSwing  = 50.0  // ms that its spring may swing there
	leastDwell  = 80.0  // ms at an end: a spike that one message carries does not count
	mostSilence = 250.0 // ms without a message while something moves: a position fits in between
	mostPause   = 700.0 // ms without a message between two places where it lay: a whole movement fits in between
	leastStill  = 50.0  // ms within which nothing moved that lay still
	mostTremble = 20.0  // µs within which it lay still
)

// pulse is what one channel sent at one moment (ms), µs.
type pulse struct{ at, us float64 }

// track is what one channel sent, in the order of time.
type track []pulse

func trackOf(samples []Sample, channel int) track {
	t := make(track, 0, len(samples))
	for _, s := range samples {
		if channel < len(s.Channels) {
			t = append(t, pulse{s.At, s.Channels[channel]})
		}
	}
	return t
}

// moving refuses samples in which nothing moved, and gives what the channel sent that moved most.
func moving(samples []Sample, place string) (int, track, error) {
	if len(samples) < 8 {
		return 0, nil, quad.Faultf("too-few-samples", place, "too few samples arrived; capture again")
	}
	c, moved := Mover(samples)
	if moved < leastMove {
		return 0, nil, quad.Faultf(Unmoved, place, "no channel moved by more than %.0f µs", leastMove)
	}
	return c, trackOf(samples, c), nil
}

// heard refuses a recording with a silence in which something could have happened: what fell into it would be missing from the ends, or
// from the positions. Between two places at which it lay still a longer one does not matter: both are known.
func (t track) heard(place string) error {
	for i := 1; i < len(t); i++ {
		gap := t[i].at - t[i-1].at
		if gap <= mostSilence || gap <= mostPause && t[:i].stillAt(i-1) && t[i:].stillAt(0) {
			continue
		}
		return quad.Faultf(Unheard, place, "for %s nothing arrived, and nobody knows what it did then; capture again", quad.Quantity(math.Round(gap/100)/10, "s"))
	}
	return nil
}

// stillAt says whether the track lay still for leastStill at one of its ends.
func (t track) stillAt(i int) bool {
	low, high, since := t[i].us, t[i].us, 0.0
	for _, p := range t {
		if d := math.Abs(p.at - t[i].at); d <= 2*leastStill {
			low, high, since = min(low, p.us), max(high, p.us), max(since, d)
		}
	}
	return high-low <= mostTremble && since >= leastStill
}

// Codes of a capture that was refused because messages were missing from it, and because no channel moved.
const (
	Unheard = "unheard"
	Unmoved = "nothing-moved"
)

// resting is the last stretch of a track that lies around one place, without its beginning, in which a spring still swings.
func (t track) resting() track {
	end := t[len(t)-1].at
	from := slices.IndexFunc(t, func(p pulse) bool { return end-p.at <= leastRest })
	centre := t[from:].median()
	for from > 0 && math.Abs(t[from-1].us-centre) <= nearRest && end-t[from-1].at <= mostRest {
		from--
	}
	last := t[from:]
	for i := len(last) - 1; i >= 0; i-- {
		if math.Abs(last[i].us-centre) > nearRest {
			last = last[i+1:]
			break
		}
	}
	still := end - last.lasts() + max(leastSwing, last.lasts()/4)
	return slices.DeleteFunc(slices.Clone(last), func(p pulse) bool { return p.at < still })
}

func (t track) lasts() float64 {
	if len(t) == 0 {
		return 0
	}
	return t[len(t)-1].at - t[0].at
}

func (t track) median() float64 {
	values := t.values()
	slices.Sort(values)
	return (values[(len(values)-1)/2] + values[len(values)/2]) / 2
}

func (t track) values() []float64 {
	out := make([]float64, len(t))
	for i, p := range t {
		out[i] = p.us
	}
	return out
}

// ends are the lowest and the highest pulse at which the track dwelt; not ok when it was only seen to pass there, so that its real end
// may not have been heard.
func (t track) ends() (low, high float64, ok bool) {
	type share struct{ us, ms float64 }
	shares := make([]share, len(t))
	for i, p := range t {
		before, after := t[max(0, i-1)].at, t[min(len(t)-1, i+1)].at
		shares[i] = share{p.us, min((after-before)/2, leastDwell*0.75)} // one alone is never enough
	}
	slices.SortFunc(shares, func(a, b share) int { return cmp.Compare(a.us, b.us) })
	ok = true
	dwelt := func() float64 {
		at, ms, near := shares[len(shares)-1].us, 0.0, 0.0
		for _, s := range shares {
			if ms += s.ms; ms >= leastDwell {
				at = s.us
				break
			}
		}
		for _, s := range shares {
			if math.Abs(s.us-at) <= mostTremble {
				near += s.ms
			}
		}
		ok = ok && near >= leastDwell
		return at
	}
	low = dwelt()
	slices.Reverse(shares)
	high = dwelt()
	return low, high, ok
}

// Capture finds from samples of all channels what one stick sends: it was moved to its high end, to its low one, and let go. The
// throttle has no rest in its middle: its centre is halfway. A recording that does not show both ends and the rest, or that was not
// heard throughout, is refused: what it lacks would be taken for a fault of the radio.
func Capture(samples []Sample, axis quad.Axis) (quad.StickAxis, error) {
	place := "readings.sticks.axes." + string(axis)
	c, t, err := moving(samples, place)
	if err != nil {
		return quad.StickAxis{}, err
	}
	rest := t.resting()
	if len(rest) < 4 || rest.lasts() < leastRest-leastSwing || math.Abs(rest[:len(rest)/2].median()-rest[len(rest)/2:].median()) > mostTremble/2 {
		return quad.StickAxis{}, quad.Faultf("not-let-go", place, "it did not lie still at the end: let it go and leave it, then capture again")
	}
	centre := rest.median()
	if err := t.heard(place); err != nil {
		return quad.StickAxis{}, err
	}
	low, high, ok := t.ends()
	if !ok {
		return quad.StickAxis{}, quad.Faultf("not-held", place, "it was not seen to be held at both ends; hold it there for a moment and capture again")
	}
	near := (high - low) / 10
	if axis != quad.Throttle && (centre-low < near || high-centre < near) {
		return quad.StickAxis{}, quad.Faultf("one-end", place, "only one of its ends was seen before it was let go: all the way up or right, then all the way down or left, then let go")
	}
	atLow, atHigh := func(us float64) bool { return us < low+near }, func(us float64) bool { return us > high-near }
	lastLow, lastHigh := t.last(atLow), t.last(atHigh)
	if axis == quad.Throttle && (atLow(centre) && t[:lastHigh].last(atLow) < 0 || atHigh(centre) && t[:lastLow].last(atHigh) < 0) {
		return quad.StickAxis{}, quad.Faultf("one-way", place, "it was seen to go one way only: begin with it all the way down, go all the way up and down again")
	}
	apart := 0.0
	if axis == quad.Throttle {
		centre = (low + high) / 2
	} else if between := t.between(min(lastLow, lastHigh), low+near, high-near).stillest(centre); between != nil {
		// The rest between the two ends was reached from the other side.
		other := between.median()
		apart = math.Abs(other - centre)
		centre = (other + centre) / 2
	}
	return quad.StickAxis{
		Channel: c + 1, Ends: quad.Ends{Low: math.Round(low), Centre: math.Round(centre), High: math.Round(high)},
		Reversed: lastLow < lastHigh, // the high end was asked for first, and a throttle is left at its low one
		Jitter:   math.Round(sigma(rest.values())*100) / 100, Hysteresis: math.Round(apart*10) / 10,
	}, nil
}

func (t track) last(is func(us float64) bool) int {
	for i := len(t) - 1; i >= 0; i-- {
		if is(t[i].us) {
			return i
		}
	}
	return -1
}

// between the leaving of one end, at a place of the track, and the reaching of the other.
func (t track) between(from int, low, high float64) track {
	for to := from + 1; to < len(t); to++ {
		if (t[from].us > high && t[to].us < low) || (t[from].us < low && t[to].us > high) {
			return t[from:to]
		}
	}
	return nil
}

// stillest run of at least three values near the centre that lie within 12 µs of each other, the longest; nil
// when the stick only passed through.
func (t track) stillest(centre float64) track {
	var best track
	for from := range t {
		low, high := t[from].us, t[from].us
		for to := from; to < len(t); to++ {
			low, high = min(low, t[to].us), max(high, t[to].us)
			if high-low > 12 || math.Abs(t[to].us-centre) > nearRest {
				break
			}
			if n := to + 1 - from; n >= 3 && n > len(best) {
				best = t[from : to+1]
			}
		}
	}
	return best
}

// sigma is the standard deviation.
func sigma(list []float64) float64 {
	mean, sum := 0.0, 0.0
	for _, x := range list {
		mean += x / float64(len(list))
	}
	for _, x := range list {
		sum += (x - mean) * (x - mean)
	}
	return math.Sqrt(sum / float64(max(1, len(list)-1)))
}

// CaptureSwitch finds what a switch sends in each position, which it went through in order, beginning at the first.
func CaptureSwitch(samples []Sample, positions []string) (quad.SwitchSeen, error) {
	place := "readings.sticks.switches"
	c, t, err := moving(samples, place)
	if err != nil {
		return quad.SwitchSeen{}, err
	}
	if err := t.heard(place); err != nil {
		return quad.SwitchSeen{}, err
	}
	steps := sweptThrough(t.plateaus(), len(positions))
	if steps == nil {
		return quad.SwitchSeen{}, quad.Faultf("positions-missed", place, "its %d positions were not seen one after the other: begin at the first of them, and move it more slowly", len(positions))
	}
	out := quad.SwitchSeen{Channel: c + 1, Positions: map[string]float64{}}
	for i, p := range positions {
		out.Positions[p] = steps[i]
	}
	return out, nil
}

// plateaus are the pulses at which the track stood, in the order they came.
func (t track) plateaus() []float64 {
	var steps []float64
	run := 0
	for i, p := range t {
		if i > 0 && math.Abs(p.us-t[i-1].us) < 8 {
			run++
		} else {
			run = 0
		}
		if run == 2 && (len(steps) == 0 || math.Abs(steps[len(steps)-1]-p.us) > 20) {
			steps = append(steps, math.Round(p.us))
		}
	}
	return steps
}

// sweptThrough picks the plateaus of n positions one after the other: the first n. Where these go to and fro but later ones go one
// way, as a lever does, the switch lay somewhere else before the hand came to its first position, and nobody knows which they are.
func sweptThrough(steps []float64, n int) []float64 {
	if len(steps) < n {
		return nil
	}
	for from := 1; !oneWay(steps[:n]) && from+n <= len(steps); from++ {
		if oneWay(steps[from : from+n]) {
			return nil
		}
	}
	return steps[:n]
}

func oneWay(list []float64) bool {
	down := slices.Clone(list)
	slices.Reverse(down)
	return slices.IsSorted(list) || slices.IsSorted(down)
}
