package sticks

import (
	"math"

	"vividperch/core/quad"
)

// ChannelState of a radio at the browser.
type ChannelState string

const (
	Sound    ChannelState = "sound"
	Dead     ChannelState = "dead"     // nothing moves it
	Spinning ChannelState = "spinning" // it moves by itself
)

// Health of one channel of a radio at the browser.
type Health struct {
	Channel int          `json:"channel"`
	Rest    float64      `json:"rest" unit:"µs"` // how far it went while nobody touched anything
	Low     float64      `json:"low" unit:"µs"`
	High    float64      `json:"high" unit:"µs"` // while everything was moved
	State   ChannelState `json:"state" enum:"sound,dead,spinning"`
}

const (
	spins = 30.0 // µs that a channel goes by itself: more than any jitter
	stays = 20.0 // µs that a dead channel may go while everything is moved
)

// HealthOf every channel, from samples in µs taken with the hands off, and while every stick and switch was moved. One that moves by
// itself spins, and is no use for a capture; one that does not move at all is dead, or nothing is on it.
func HealthOf(rest, moved []Sample) ([]Health, error) {
	if len(rest) < 8 || len(moved) < 8 {
		return nil, quad.Faultf("too-few-samples", "", "too few samples arrived; look again")
	}
	out := make([]Health, len(moved[0].Channels))
	for c := range out {
		h := &out[c]
		low, high := span(rest, c)
		h.Channel, h.Rest = c+1, math.Round(high-low)
		h.Low, h.High = span(moved, c)
		switch {
		case h.Rest > spins:
			h.State = Spinning
		case h.High-h.Low < stays:
			h.State = Dead
		default:
			h.State = Sound
		}
	}
	return out, nil
}

func span(samples []Sample, channel int) (low, high float64) {
	low, high = math.Inf(1), math.Inf(-1)
	for _, s := range samples {
		if channel < len(s.Channels) {
			low, high = min(low, s.Channels[channel]), max(high, s.Channels[channel])
		}
	}
	if low > high {
		return 0, 0
	}
	return low, high
}

// Without some channels (from 1): their samples are held still, so that a capture does not take them for what was moved.
func Without(samples []Sample, channels []int) []Sample {
	out := make([]Sample, len(samples))
	for i, s := range samples {
		out[i] = Sample{s.At, append([]float64{}, s.Channels...)}
		for _, c := range channels {
			if c >= 1 && c <= len(s.Channels) {
				out[i].Channels[c-1] = Centre
			}
		}
	}
	return out
}
