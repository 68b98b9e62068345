package motors

import (
	"math"

	"vividperch/core/quad"
)

// StretchKind is what takes a part of the loop.
type StretchKind string

const (
	StretchFrame StretchKind = "frame"
	StretchTurn  StretchKind = "turn" // of the line, from sending to listening
	StretchReply StretchKind = "reply"
	StretchSpare StretchKind = "spare"
	StretchPulse StretchKind = "pulse" // whose length is the command
)

// Stretch of one loop period that is taken by something, µs from the beginning of the loop.
type Stretch struct {
	What StretchKind `json:"what" enum:"frame,turn,reply,spare,pulse"`
	From float64     `json:"from" unit:"µs"`
	To   float64     `json:"to" unit:"µs"`
}

// FrameTiming is a throttle protocol laid against the control loop.
type FrameTiming struct {
	Period    float64   `json:"period" unit:"µs"` // of the loop
	Room      float64   `json:"room" unit:"µs"`   // that a frame may take: four fifths of it
	Takes     float64   `json:"takes" unit:"µs"`
	Fits      bool      `json:"fits"`
	Stretches []Stretch `json:"stretches"`
	// Carried is how often a new throttle reaches a motor, Hz.
	Carried float64 `json:"carried" unit:"Hz"`
	// Loops are the usual ones, each with whether this protocol and the processor keep up.
	Loops []LoopChoice `json:"loops"`
}

// LoopChoice is one loop rate against a protocol and a processor.
type LoopChoice struct {
	Rate float64 `json:"rate" unit:"Hz"`
	Fits bool    `json:"fits"`
	Load float64 `json:"load" unit:"%"` // foreseen from a reading at another rate; 0 is not known
	Busy bool    `json:"busy"`          // that is more than a loop may take
}

const (
	turnAround = 30.0 // µs, between a frame and its reply
	mostLoad   = 70.0 // % of the processor that a loop may take
)

var usualLoops = []float64{1000, 2000, 4000, 8000}

// TimingOf the motors' part of a sheet; load is the processor's at the loop it has, %, 0 when it was not read. Load is foreseen as what
// the loop takes in proportion to its rate, over a tenth that is there without it.
func TimingOf(m quad.MotorsSheet, load float64) FrameTiming {
	out := FrameTiming{Stretches: []Stretch{}, Loops: []LoopChoice{}}
	if !(m.LoopRate > 0) {
		return out
	}
	out.Period, out.Room = 1e6/m.LoopRate, LoopRoom(m.LoopRate)
	fits := func(rate float64) bool { return false }
	switch m.Protocol {
	case quad.ProtocolDigital:
		if !(m.BitRate > 0) {
			return out
		}
		out.Takes = FrameTime(m.BitRate, m.TwoWay)
		frame := FrameTime(m.BitRate, false)
		out.Stretches = append(out.Stretches, Stretch{StretchFrame, 0, frame})
		if m.TwoWay {
			out.Stretches = append(out.Stretches, Stretch{StretchTurn, frame, frame + turnAround}, Stretch{StretchReply, frame + turnAround, out.Takes})
		}
		fits = func(rate float64) bool { return out.Takes <= LoopRoom(rate) }
		out.Carried = m.LoopRate
	case quad.ProtocolPulse, quad.ProtocolShort:
		out.Takes = 2000
		if m.Protocol == quad.ProtocolShort {
			out.Takes = 250
		}
		out.Stretches = append(out.Stretches, Stretch{StretchPulse, 0, out.Takes})
		out.Carried = math.Min(m.LoopRate, PulseLoop(m.Protocol))
		fits = func(rate float64) bool { return rate <= PulseLoop(m.Protocol) }
	}
	out.Fits = fits(m.LoopRate)
	if out.Takes < out.Period {
		out.Stretches = append(out.Stretches, Stretch{StretchSpare, out.Takes, out.Period})
	}
	for _, rate := range usualLoops {
		c := LoopChoice{Rate: rate, Fits: fits(rate)}
		if load > 0 {
			c.Load = math.Round(LoadAt(quad.LoopLoad{Load: load, Loop: m.LoopRate}, rate))
			c.Busy = !LoadFits(c.Load)
		}
		out.Loops = append(out.Loops, c)
	}
	return out
}

// LoadAt a loop, %: as it was read, or foreseen from a reading at another loop.
func LoadAt(read quad.LoopLoad, loop float64) float64 {
	if read.Loop <= 0 || read.Loop == loop {
		return read.Load
	}
	return math.Round(baseLoad + (read.Load-baseLoad)*loop/read.Loop)
}

// baseLoad of a processor without the loop, %.
const baseLoad = 10.0

// LoadFits says whether a processor keeps up: under seven tenths.
func LoadFits(load float64) bool { return load < mostLoad }

// LoopFor a processor: the highest of the usual loops up to 4 kHz that fits both protocol and load, or 0.
func (t FrameTiming) LoopFor() float64 {
	best := 0.0
	for _, c := range t.Loops {
		if c.Rate <= 4000 && c.Fits && !c.Busy {
			best = c.Rate
		}
	}
	return best
}
