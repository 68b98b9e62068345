package sticks

import (
	"math"
	"slices"

	"vividperch/core/quad"
)

// Mover is the channel (counted from 0) that moved most over some samples, and by how many µs.
func Mover(samples [][]float64) (channel int, moved float64) {
	if len(samples) == 0 {
		return 0, 0
	}
	for c := range samples[0] {
		low, high := math.Inf(1), math.Inf(-1)
		for _, s := range samples {
			if c < len(s) {
				low, high = min(low, s[c]), max(high, s[c])
			}
		}
		if high-low > moved {
			channel, moved = c, high-low
		}
	}
	return channel, moved
}

// leastMove is how far a channel must go to count as moved, µs.
const leastMove = 100

// Capture finds from samples of all channels what one stick sends: it was moved to its high end, let go, moved
// to its low one, and let go again. The throttle has no rest in its middle: its centre is halfway.
func Capture(samples [][]float64, axis quad.Axis) (quad.StickAxis, error) {
	place := "readings.sticks.axes." + string(axis)
	if len(samples) < 8 {
		return quad.StickAxis{}, quad.Faultf("too-few-samples", place, "too few samples arrived; capture again")
	}
	c, moved := Mover(samples)
	if moved < leastMove {
		return quad.StickAxis{}, quad.Faultf("nothing-moved", place, "no channel moved by more than %d µs", leastMove)
	}
	values := make([]float64, 0, len(samples))
	for _, s := range samples {
		if c < len(s) {
			values = append(values, s[c])
		}
	}
	highAt, lowAt := 0, 0
	for i, v := range values {
		if v > values[highAt] {
			highAt = i
		}
		if v < values[lowAt] {
			lowAt = i
		}
	}
	// The middle of the dwell at each end: single spikes do not count.
	sorted := slices.Sorted(slices.Values(values))
	dwell := max(1, len(sorted)/20)
	low, high := sorted[dwell], sorted[len(sorted)-1-dwell]
	rest := values[len(values)-max(4, len(values)/6):]
	centre, sigma := meanAndSigma(rest)
	apart := 0.0
	if axis == quad.Throttle {
		centre = (low + high) / 2
	} else if between := stillest(values[min(highAt, lowAt):max(highAt, lowAt)], centre); between != nil {
		// The rest between the two ends was reached from the other side.
		other, _ := meanAndSigma(between)
		apart = math.Abs(other - centre)
		centre = (other + centre) / 2
	}
	return quad.StickAxis{
		Channel: c + 1, Ends: quad.Ends{Low: math.Round(low), Centre: math.Round(centre), High: math.Round(high)},
		Reversed: lowAt < highAt && axis != quad.Throttle || axis == quad.Throttle && rest[len(rest)-1] > (low+high)/2,
		Jitter:   math.Round(sigma*100) / 100, Hysteresis: math.Round(apart*10) / 10,
	}, nil
}

// nearRest is how far from its centre a stick can come to rest and still be at rest, µs.
const nearRest = 60

// stillest run of at least three values near the centre that lie within 12 µs of each other, the longest; nil
// when the stick only passed through.
func stillest(values []float64, centre float64) []float64 {
	var best []float64
	for from := range values {
		low, high := values[from], values[from]
		for to := from; to < len(values); to++ {
			low, high = min(low, values[to]), max(high, values[to])
			if high-low > 12 || math.Abs(values[to]-centre) > nearRest {
				break
			}
			if n := to + 1 - from; n >= 3 && n > len(best) {
				best = values[from : to+1]
			}
		}
	}
	return best
}

func meanAndSigma(list []float64) (mean, sigma float64) {
	for _, x := range list {
		mean += x
	}
	mean /= float64(len(list))
	for _, x := range list {
		sigma += (x - mean) * (x - mean)
	}
	return mean, math.Sqrt(sigma / float64(max(1, len(list)-1)))
}

// CaptureSwitch finds what a switch sends in each position, which it went through in order.
func CaptureSwitch(samples [][]float64, positions []string) (quad.SwitchSeen, error) {
	c, moved := Mover(samples)
	if moved < leastMove {
		return quad.SwitchSeen{}, quad.Faultf("nothing-moved", "readings.sticks.switches", "no channel moved by more than %d µs", leastMove)
	}
	var steps []float64 // plateaus in the order they came
	run := 0
	for i, s := range samples {
		if c >= len(s) {
			continue
		}
		if i > 0 && c < len(samples[i-1]) && math.Abs(s[c]-samples[i-1][c]) < 8 {
			run++
		} else {
			run = 0
		}
		if run == 2 && (len(steps) == 0 || math.Abs(steps[len(steps)-1]-s[c]) > 20) {
			steps = append(steps, math.Round(s[c]))
		}
	}
	// The first plateau may be where it lay before the hand came: keep the ones of the sweep itself.
	if len(steps) > len(positions) {
		steps = steps[:len(positions)]
	}
	if len(steps) != len(positions) {
		return quad.SwitchSeen{}, quad.Faultf("positions-missed", "readings.sticks.switches", "saw %d of its %d positions; move it more slowly", len(steps), len(positions))
	}
	out := quad.SwitchSeen{Channel: c + 1, Positions: map[string]float64{}}
	for i, p := range positions {
		out.Positions[p] = steps[i]
	}
	return out, nil
}
