package flight

import (
	"math"
	"strings"

	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// Hand is a scripted pilot: how late he sees, how fast his fingers follow what he wants, and how they tremble.
type Hand struct {
	Delay     float64 `json:"delay" unit:"s"`
	Bandwidth float64 `json:"bandwidth" unit:"Hz"`
	Tremor    float64 `json:"tremor" unit:"1"` // one sigma, of a stick's way from its middle to an end
}

var (
	// Steady is an experienced hand, the usual one.
	Steady = Hand{Delay: 0.25, Bandwidth: 3, Tremor: 0.004}
	// Beginner sees later, follows more slowly and is not still.
	Beginner = Hand{Delay: 0.4, Bandwidth: 1.5, Tremor: 0.02}
)

// late is how long after something happens the fingers are where they should be, s.
func (h Hand) late() float64 { return h.Delay + 1/(2*math.Pi*h.Bandwidth) }

const (
	handRate = 100  // stick movements a second; no hand is faster
	startled = 0.7  // s, until a startled hand cuts
	cut      = 55.0 // deg, over which the hand cuts in the air
	cutLow   = 20.0 // deg, over which it cuts while the quad stands or hardly flies
	low      = 0.3  // m
	opening  = 1.8  // s, when the throttle is opened
)

// wants of a hand: sticks from -1 to 1, throttle from 0 to 1 (-1 to 1 with reversible thrust), and its switches.
type wants struct {
	roll, pitch, yaw, throttle float64 // pitch forward is positive and lowers the nose
	level, blended, hold       bool
	arm                        bool
}

// axisPlace is where a stick arrives and between which pulses it runs.
type axisPlace struct {
	channel int // from 0; -1 nowhere
	ends    quad.Ends
}

// flyer is a hand at the sticks of one flight.
type flyer struct {
	Hand
	card    Card
	set     Settings
	mass    float64      // kg
	axes    [4]axisPlace // roll, pitch, throttle, yaw
	atRest  quad.Pulses
	mixes   []quad.MixPlan
	noise   noise
	share   float64 // of the way that the fingers go from one movement to the next
	wide    float64 // the inverse of what they leave of a tremble's width
	gentle  float64 // share of a steady hand's movements that a hand as late as this one makes, lest it chase what it sees
	tremble [4]float64
	moved   [4]float64 // where the fingers are
	seen    []State    // ring
	at      int
	want    wants
	begins  float64 // m above the ground, where it began

	hover     float64 // throttle that should carry it, as computed beforehand
	backHover float64 // the same on its back, turning backward
	trim      float64 // throttle that carries it, learned in the air
	hoverSum  float64
	hoverN    int
	trouble   float64 // s since it was seen to tip, 0 before
	landing   bool
	lifted    bool
	settled   float64 // s, since when it hovers where it should; 0 not yet
	down      float64 // s on the ground after landing
	cutOff    bool
	letGo     bool // of a hold that does not hold
}

func newFlyer(in Input, card Card, who Hand) *flyer {
	if who == (Hand{}) {
		who = Steady
	}
	p := &flyer{Hand: who, card: card, set: in.Settings.answering(&in.AtRest), mass: in.Mass, atRest: in.AtRest, mixes: in.Mixes, noise: newNoise(in.Seed, 4)}
	for i, us := range p.atRest {
		if us == 0 {
			p.atRest[i] = 1500 // nothing is known of it
		}
	}
	p.share = 1 - math.Exp(-2*math.Pi*who.Bandwidth/handRate)
	p.wide = math.Sqrt((2 - p.share) / p.share)
	p.gentle = min(1, Steady.late()/who.late())
	p.seen = make([]State, max(1, int(math.Round(who.Delay*handRate))))
	for i, a := range quad.Axes {
		p.axes[i] = axisPlace{in.Actual.Channels[a] - 1, in.Actual.Sticks[a]}
		if p.axes[i].channel >= len(Sticks{}.Channels) {
			p.axes[i].channel = -1
		}
	}
	return p
}

// pulse of a stick that is at x.
func (a *axisPlace) pulse(x float64) float64 {
	if x < 0 {
		return a.ends.Centre + x*(a.ends.Centre-a.ends.Low)
	}
	return a.ends.Centre + x*(a.ends.High-a.ends.Centre)
}

func middle(r quad.Range) float64 { return (math.Max(r.From, 1000) + math.Min(r.To, 2000)) / 2 }

func outside(r quad.Range) float64 {
	if r.From > 1100 {
		return 1000
	}
	return 2000
}

// sees what there was a reaction ago.
func (p *flyer) sees(now State) State {
	old := p.seen[p.at]
	p.seen[p.at] = now
	if p.at++; p.at == len(p.seen) {
		p.at = 0
	}
	return old
}

// frame is what the radio sends for what the hand wants now.
func (p *flyer) frame() Sticks {
	share := p.share
	s := Sticks{Heard: true}
	s.Channels = p.atRest
	to := [4]float64{p.want.roll, p.want.pitch, p.want.throttle*2 - 1, p.want.yaw}
	if p.set.Reverses {
		to[2] = p.want.throttle // from the middle, up or down
	}
	for i := range to {
		p.tremble[i] += share * (p.noise.normal() - p.tremble[i])
		p.moved[i] += share * (to[i] - p.moved[i])
		x := p.moved[i]
		if p.want.throttle == 0 && i == 2 {
			x, p.moved[i] = to[i], to[i] // closed is closed: the stick has an end there
		} else if p.want.arm {
			x += p.Tremor * p.wide * p.tremble[i]
		}
		if c := p.axes[i].channel; c >= 0 {
			s.Channels[c] = p.axes[i].pulse(max(-1, min(1, x)))
		}
	}
	put := func(r quad.Range, on bool) {
		if r.Used() && r.Channel <= len(s.Channels) {
			s.Channels[r.Channel-1] = outside(r)
			if on {
				s.Channels[r.Channel-1] = middle(r)
			}
		}
	}
	put(p.set.SelfLevel, p.want.level)
	if p.set.Blended.Channel != p.set.SelfLevel.Channel || p.want.blended {
		put(p.set.Blended, p.want.blended)
	}
	if p.want.hold {
		put(p.set.Nav.Hold, true)
	}
	put(p.set.Arm, p.want.arm)
	mix(&s.Channels, p.mixes)
	return s
}

// mix onto channels what the radio adds to them.
func mix(channels *quad.Pulses, mixes []quad.MixPlan) {
	for _, m := range mixes {
		if m.Alone {
			channels[m.To-1] = 1500
		}
	}
	for _, m := range mixes {
		channels[m.To-1] += m.Weight / 100 * (channels[m.From-1] - 1500)
	}
	for _, m := range mixes {
		channels[m.To-1] = max(800, min(2200, channels[m.To-1])) // no radio sends pulses beyond
	}
}

// startles the hand when it sees the quad tip: a while later it cuts.
func (p *flyer) startles(t float64, seen State) {
	most := cut
	if seen.Height < low {
		most = cutLow
	}
	if p.trouble == 0 && seen.Tilt > most {
		p.trouble = t
	}
	if p.trouble > 0 && t-p.trouble > startled {
		p.cutOff = true
	}
}

// carry moves the throttle about the trim by how much faster (m/s) it should climb; how far is in the hand,
// which learned at lift-off what carries this quad.
func (p *flyer) carry(faster, h float64) {
	if !p.set.Reverses {
		faster /= max(1, p.set.Curve.Keen(p.trim)) // a hand learns how strongly its throttle answers, lest it chase the height
	}
	p.trim = max(0.02, min(1, p.trim+0.1*p.gentle*p.gentle*p.trim*faster*h))
	p.want.throttle = max(0, min(1, p.trim*(1+0.14*p.gentle*faster)))
}

// holds a height above the ground.
func (p *flyer) holds(height float64, seen State, h float64) {
	p.carry(max(-1.5, min(1.5, 0.8*p.gentle*(height-seen.Height)))-seen.Velocity[2], h)
}

// stays over where it began, by small stick movements.
func (p *flyer) stays(seen State) {
	clip := func(x float64) float64 { return max(-0.35, min(0.35, x)) }
	q := seen.Attitude
	heading := math.Atan2(2*(q[0]*q[3]+q[1]*q[2]), 1-2*(q[2]*q[2]+q[3]*q[3]))
	cos, sin := math.Cos(heading), math.Sin(heading)
	there, way := 0.06*p.gentle*p.gentle, 0.13*p.gentle
	north, east := there*seen.North+way*seen.Velocity[0], there*seen.East+way*seen.Velocity[1]
	p.want.pitch = clip(-(cos*north + sin*east))
	p.want.roll = clip(-(cos*east - sin*north))
}

// heldBack says which gates keep the quad from arming with the sticks at rest and the switch on.
func (p *flyer) heldBack(s State) string {
	m := sticks.Moment{Channels: make([]float64, len(Sticks{}.Channels)), Linked: true, Tilt: s.Tilt, Still: true, Pack: true, Reversible: p.set.Reverses}
	for i := range m.Channels {
		m.Channels[i] = 1500
	}
	for i := range p.axes {
		if c := p.axes[i].channel; c >= 0 {
			rest := 0.0
			if i == 2 && !p.set.Reverses {
				rest = -1
			}
			m.Channels[c] = p.axes[i].pulse(rest)
		}
	}
	if r := p.set.Arm; r.Used() && r.Channel <= len(m.Channels) {
		m.Channels[r.Channel-1] = middle(r)
		m.ArmAtStart = r.Holds(outside(r))
	}
	for _, g := range sticks.Gates(quad.SticksSheet{Order: p.set.Order, Arm: p.set.Arm, IdleBelow: p.set.IdleBelow, Ranges: p.set.Ranges, ArmTilt: p.set.ArmTilt}, m) {
		if g.Holds {
			return strings.ToLower(g.Sentence[:1]) + g.Sentence[1:]
		}
	}
	return "it leans too far as it stands."
}
