package flight

import (
	"math"

	"vividperch/core/airframe"
	"vividperch/core/power"
	"vividperch/core/quad"
)

// Effort is how a whole pack is flown.
type Effort string

const (
	Hovering Effort = "hovering" // over one spot
	Cruising Effort = "cruising" // hovering, and forward flight by turns
	Punching Effort = "punching" // forward flight with full throttle in between
)

// Enum implements [quad.Enumeration].
func (Effort) Enum() []string { return []string{string(Hovering), string(Cruising), string(Punching)} }

// Emptied is a pack flown from full on.
type Emptied struct {
	Effort  Effort        `json:"effort" enum:"hovering,cruising,punching"`
	Samples []power.Given `json:"samples"` // ten a second
	// Low says that a cell came down to its landing voltage at rest; else the flight ended otherwise, or after the longest that is flown.
	Low bool `json:"low"`
	// Fell says that it touched the ground or tipped over: flown like that it does not stay in the air.
	Fell bool `json:"fell"`
	// Windings at its end by corner, in the order of [quad.Corners].
	Windings [4]float64 `json:"windings" unit:"degC"`
	// Distance flown over the ground, m.
	Distance float64 `json:"distance" unit:"m"`
}

// Of a whole pack.
const (
	longestPack  = 40 * 60.0 // s, the longest that is flown
	packHeight   = 20.0      // m, about which it is flown
	samplesEvery = 10        // a second
	turnAround   = 15.0      // s of hover and forward flight
)

// EmptyPack flies a pack from full on until a cell is at [airframe.LowCell] at rest, in the input's air, by a steady hand. stop, which may be nil, is asked ten times a second of
// flight; true ends it with a Fault.
func EmptyPack(in Input, effort Effort, stop func() bool) (*Emptied, error) {
	in.CellVolt = airframe.FullCell
	if !(in.Pack.Capacity > 0) {
		return nil, quad.Faultf("no-capacity", "parts.packs", "nobody told what the pack holds, so nobody knows when it is empty")
	}
	in.armsBySwitch()
	s, err := New(in)
	if err != nil {
		return nil, err
	}
	p := newFlyer(in, HoverCard, Steady)
	p.hover, p.backHover = s.hovers(in.Mass)
	s.begin(packHeight, 0, p)
	rate := in.rate()
	perMove := rate / handRate
	now := s.seen()
	for i := range p.seen {
		p.seen[i] = now
	}
	idle := power.IdleCurrent(in.Parts)
	out := &Emptied{Effort: effort}
	for n := 0; n < int(longestPack*float64(rate)); n++ {
		if n%perMove == 0 {
			t := float64(n) / float64(rate)
			now = s.seen()
			p.effort(effort, t, 1.0/handRate, p.sees(now))
			moved := p.frame()
			s.control.hear(&moved)
		}
		if n%(rate/samplesEvery) == 0 {
			if stop != nil && stop() {
				return nil, quad.Faultf("cancelled", "", "the flight was cancelled")
			}
			state := s.State()
			out.Samples = append(out.Samples, power.Given{Time: state.Time, Volts: round3(state.Volts), Amps: round3(state.Amps + idle)})
			out.Distance += math.Hypot(state.Velocity[0], state.Velocity[1]) / samplesEvery
			if s.cells.lowAt > 0 {
				out.Low = true
				break
			}
			if out.Fell = s.touches() || state.Tilt > 120; out.Fell {
				break
			}
		}
		s.fly()
	}
	for i := range s.warmth {
		out.Windings[i] = math.Round(s.warmth[i].Winding)
	}
	return out, nil
}

func round3(x float64) float64 { return math.Round(x*1000) / 1000 }

// effort of the hand in a flight of a whole pack: out and back by turns, over one spot in between.
func (p *flyer) effort(e Effort, t, h float64, seen State) {
	height := p.begins
	if seen.Height > height+1 {
		height = seen.Height - 0.5 // come down slowly from wherever a punch got to
	}
	p.caught(height, seen, h)
	turn := int(t / turnAround)
	at := t - float64(turn)*turnAround
	if e == Hovering {
		p.stays(seen)
		return
	}
	way := 0.5
	if turn%2 == 1 {
		way = -way
	}
	switch {
	case between(at, 2, 8):
		p.want.pitch = way
	case e == Punching && between(at, 8.5, 9.4):
		p.want = wants{level: true, arm: true, throttle: 1}
	case e == Punching && between(at, 9.4, 10.8):
		p.want = wants{level: true, arm: true, throttle: p.almostClosed()}
	default:
		p.want.pitch = max(-0.5, min(0.5, -0.06*seen.Velocity[0]))
		p.want.roll = max(-0.5, min(0.5, -0.06*seen.Velocity[1]))
	}
}
