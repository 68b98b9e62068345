package flight

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"

	"vividperch/core/airframe"
	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// Outcome of a rehearsed card.
type Outcome string

const (
	Landed      Outcome = "landed"
	TippedOver  Outcome = "tippedOver"
	FlewAway    Outcome = "flewAway"
	NeverLifted Outcome = "neverLifted"
	NeverArmed  Outcome = "neverArmed"
	Crashed     Outcome = "crashed"
)

// Card of the hover: what the scripted pilot does.
type Card struct {
	Height float64 `json:"height" unit:"m"`
	Hold   float64 `json:"hold" unit:"s"`
}

// HoverCard is the first flight's card: up to one metre, six seconds there, down.
var HoverCard = Card{Height: 1, Hold: 6}

// Steps of the card as a pilot flies it, the same that the model flies.
func (c Card) Steps() []string {
	return []string{
		"Set it down nose away from you and stand behind it, outside the clear circle.",
		"Arm and listen for two seconds: all four idle alike, nothing else moves.",
		"Throttle up until it lifts, then to " + quad.Quantity(c.Height, "m") + ". If it tips or slides, arm switch off at once.",
		"Hold it there for " + quad.Quantity(c.Hold, "s") + ", hands quiet: it must not drift off, climb or shake.",
		"Throttle down, let it land, disarm, pack out.",
		"Feel every motor: one that is hotter than the others is a finding.",
	}
}

// Frame of a replay.
type Frame struct {
	Time     float64    `json:"time" unit:"s"`
	Place    [3]float64 `json:"place" unit:"m"` // north, east, height
	Attitude [4]float64 `json:"attitude" unit:"1"`
	Roll     float64    `json:"roll" unit:"deg"`
	Pitch    float64    `json:"pitch" unit:"deg"`
	Tilt     float64    `json:"tilt" unit:"deg"` // from upright, 0 to 180
	Rotors   [4]float64 `json:"rotors" unit:"rpm"`
	Duty     [4]float64 `json:"duty" unit:"1"`
	Armed    bool       `json:"armed"`
}

// Run is a rehearsed flight.
type Run struct {
	Summary quad.Rehearsal `json:"summary"`
	Opened  float64        `json:"opened" unit:"s"` // when the throttle was opened
	Frames  []Frame        `json:"frames"`
	Input   string         `json:"input"` // hash of what it was computed from
}

const (
	framesPerSecond = 50
	longest         = 25.0 // s, a card's whole time
	reaction        = 0.25 // s, between seeing and moving a stick
	handRate        = 100  // stick movements a second; no hand is faster
	startled        = 0.7  // s, until a startled hand cuts
	liftedOff       = 0.15 // m, under which it never left the ground
	opening         = 1.8  // s, when the throttle is opened
	cut             = 55.0 // deg, over which the hand cuts
)

// HashInput fingerprints an input, a card and the model's version.
func HashInput(in Input, card Card) string {
	raw, err := json.Marshal(struct {
		In      Input
		Card    Card
		Version int
	}{in, card, Version})
	if err != nil {
		return "" // a non-finite figure; New refuses it with its place
	}
	return quad.Hash(raw)[:16]
}

// hand is the scripted pilot: he sees the quad a quarter second late, arms, opens the throttle slowly, holds
// height and place with small stick movements, and cuts when it tips.
type hand struct {
	card     Card
	ends     map[quad.Axis]quad.Ends
	arrives  map[quad.Axis]int // channel of each stick, from 1
	set      Settings
	seen     [int(reaction * handRate)]State
	at       int
	throttle float64
	trim     float64 // throttle that carries it, learned in the air
	hoverSum float64
	hoverN   int
	trouble  float64 // s since it was seen to tip, 0 before
	landing  bool
	lifted   bool
	down     float64 // s on the ground after landing
	cutOff   bool
}

func (p *hand) pulse(axis quad.Axis, x float64) float64 {
	e := p.ends[axis]
	if x < 0 {
		return e.Centre + x*(e.Centre-e.Low)
	}
	return e.Centre + x*(e.High-e.Centre)
}

func middle(r quad.Range) float64 { return (math.Max(r.From, 1000) + math.Min(r.To, 2000)) / 2 }

func outside(r quad.Range) float64 {
	if r.From > 1100 {
		return 1000
	}
	return 2000
}

func (p *hand) sticks(t, h float64, now State) Sticks {
	old := p.seen[p.at]
	p.seen[p.at] = now
	p.at = (p.at + 1) % len(p.seen)

	roll, pitch := 0.0, 0.0
	switch {
	case p.cutOff || t < opening:
		p.throttle = 0
	case p.trouble > 0 && t-p.trouble > startled:
		p.throttle, p.cutOff = 0, true
	default:
		if old.Height > 0.04 {
			p.lifted = true
		}
		if p.trouble == 0 && old.Tilt > cut {
			p.trouble = t
		}
		roll, pitch = p.hover(t, h, old)
	}
	s := Sticks{Heard: true}
	for i := range s.Channels {
		s.Channels[i] = 1500
	}
	x := map[quad.Axis]float64{quad.Roll: roll, quad.Pitch: pitch, quad.Throttle: p.throttle*2 - 1, quad.Yaw: 0}
	if p.set.Reverses {
		x[quad.Throttle] = p.throttle // from the middle up
	}
	for _, a := range quad.Axes {
		if c := p.arrives[a]; c >= 1 && c <= len(s.Channels) {
			s.Channels[c-1] = p.pulse(a, x[a])
		}
	}
	if r := p.set.SelfLevel; r.Used() && r.Channel <= len(s.Channels) {
		s.Channels[r.Channel-1] = middle(r)
	}
	if r := p.set.Arm; r.Used() && r.Channel <= len(s.Channels) {
		s.Channels[r.Channel-1] = outside(r)
		if t > 0.6 && !p.cutOff && p.down < 1 {
			s.Channels[r.Channel-1] = middle(r)
		}
	}
	return s
}

// heldBack says which gates keep the quad from arming with the sticks at rest and the switch on.
func (p *hand) heldBack(s State) string {
	m := sticks.Moment{Channels: make([]float64, len(Sticks{}.Channels)), Linked: true, Tilt: s.Tilt, Still: true, Pack: true, Reversible: p.set.Reverses}
	for i := range m.Channels {
		m.Channels[i] = 1500
	}
	for _, a := range quad.Axes {
		if c := p.arrives[a]; c >= 1 && c <= len(m.Channels) {
			rest := 0.0
			if a == quad.Throttle && !p.set.Reverses {
				rest = -1
			}
			m.Channels[c-1] = p.pulse(a, rest)
		}
	}
	if r := p.set.Arm; r.Used() && r.Channel <= len(m.Channels) {
		m.Channels[r.Channel-1] = middle(r)
	}
	for _, g := range sticks.Gates(quad.SticksSheet{Order: p.set.Order, Arm: p.set.Arm, IdleBelow: p.set.IdleBelow, Ranges: p.set.Ranges, ArmTilt: p.set.ArmTilt}, m) {
		if g.Holds {
			return strings.ToLower(g.Sentence[:1]) + g.Sentence[1:]
		}
	}
	return "it leans too far as it stands."
}

// carry moves the throttle about the trim by how much faster (m/s) it should climb; how far is in the hand,
// which learned at lift-off what carries this quad.
func (p *hand) carry(faster, h float64) {
	p.trim += 0.1 * p.trim * faster * h
	p.throttle = p.trim * (1 + 0.14*faster)
}

// hover moves the sticks towards the card's height above the start and gives roll and pitch.
func (p *hand) hover(t, h float64, seen State) (roll, pitch float64) {
	climb := seen.Velocity[2]
	target := p.card.Height
	if t > opening+p.card.Hold+4 {
		p.landing = true
	}
	switch {
	case p.landing:
		if seen.Height < 0.03 {
			p.throttle -= 0.8 * h
			p.down += h
		} else {
			p.carry(-0.35-climb, h)
		}
	case !p.lifted:
		p.throttle += 0.1 * h // open slowly until it leaves the ground
		p.trim = 0.88 * p.throttle
	default:
		want := max(-0.6, min(0.5, 0.8*(target-seen.Height)))
		p.carry(want-climb, h)
		if math.Abs(climb) < 0.15 && math.Abs(seen.Height-target) < 0.4 {
			p.hoverSum += p.throttle
			p.hoverN++
		}
	}
	p.throttle = max(0, min(0.7, p.throttle))
	if !p.lifted {
		return 0, 0
	}
	// Nose stays north: ahead is north, right is east.
	clip := func(x float64) float64 { return max(-0.35, min(0.35, x)) }
	pitch = clip(-(0.06*seen.North + 0.13*seen.Velocity[0]))
	roll = clip(-(0.06*seen.East + 0.13*seen.Velocity[1]))
	return roll, pitch
}

// Rehearse flies a card in the model and says how it went. It is bounded to 25 s of flight; stop, when not
// nil, is asked ten times a second of flight and ends it early with a Fault.
func Rehearse(in Input, card Card, stop func() bool) (*Run, error) {
	hash := HashInput(in, card)
	if set := &in.Settings; set.ByStick && !set.Arm.Used() {
		// What is rehearsed begins when it is armed: the gesture stands for a switch.
		set.ByStick, set.Arm = false, quad.Range{Channel: aside, From: 1700, To: 2100}
	}
	s, err := New(in)
	if err != nil {
		return nil, err
	}
	p := &hand{card: card, ends: in.Actual.Sticks, arrives: in.Actual.Channels, set: in.Settings}
	run := &Run{Opened: opening, Input: hash}
	watch := watcher{}
	var moved Sticks
	for n := 0; n < longest*Rate; n++ {
		t := float64(n) / Rate
		if n%(Rate/10) == 0 && stop != nil && stop() {
			return nil, quad.Faultf("cancelled", "", "the rehearsal was cancelled")
		}
		if n%(Rate/handRate) == 0 {
			now := s.State()
			if n%(Rate/framesPerSecond) == 0 {
				run.Frames = append(run.Frames, frameOf(now))
			}
			if watch.over(now, p) {
				break
			}
			moved = p.sticks(t, 1.0/handRate, now)
		}
		s.Step(moved)
	}
	run.Summary = watch.summary(s.State(), p, in)
	return run, nil
}

func frameOf(s State) Frame {
	short := func(x float64) float64 { return math.Round(x*1e4) / 1e4 }
	f := Frame{Time: short(s.Time), Place: [3]float64{short(s.North), short(s.East), short(s.Height)}, Roll: short(s.Roll), Pitch: short(s.Pitch), Tilt: short(s.Tilt), Armed: s.Armed}
	for i := range f.Attitude {
		f.Attitude[i] = short(s.Attitude[i])
		f.Rotors[i] = math.Round(s.Rotors[i])
		f.Duty[i] = short(s.Duty[i])
	}
	return f
}

// watcher notes what happens.
type watcher struct {
	tipTime, tipHeight float64
	tipRoll, tipPitch  float64
	far, top           float64
	everArmed          bool
	outcome            Outcome
	ended              float64
}

func (w *watcher) over(s State, p *hand) bool {
	w.everArmed = w.everArmed || s.Armed
	w.far = math.Max(w.far, math.Hypot(s.North, s.East))
	w.top = math.Max(w.top, s.Height)
	if w.tipTime == 0 && s.Tilt > 30 {
		w.tipTime, w.tipHeight, w.tipRoll, w.tipPitch = s.Time, w.top, s.Roll, s.Pitch
	}
	switch {
	case s.Tilt > 75 && w.ended == 0:
		w.ended = s.Time + 2 // watch what follows for two seconds
		w.outcome = TippedOver
		if w.top > 0.3 {
			w.outcome = Crashed
		}
	case w.far > 25 || s.Height > 12:
		w.outcome = FlewAway
		return true
	case p.down > 1.5 && !s.Armed:
		if w.top >= liftedOff {
			w.outcome = Landed
		}
		return true
	}
	return w.ended > 0 && s.Time > w.ended
}

func leaning(roll, pitch float64) string {
	side, end := "", ""
	if math.Abs(roll) > 10 && math.Abs(roll) > 0.35*math.Abs(pitch) {
		side = "left"
		if roll > 0 {
			side = "right"
		}
	}
	if math.Abs(pitch) > 10 && math.Abs(pitch) > 0.35*math.Abs(roll) {
		end = "front"
		if pitch > 0 {
			end = "rear"
		}
	}
	if side == "" && end == "" {
		return "side"
	}
	if side == "" || end == "" {
		return side + end
	}
	return end + " " + side
}

func (w *watcher) summary(s State, p *hand, in Input) quad.Rehearsal {
	out := quad.Rehearsal{Outcome: string(w.outcome), Deviation: round2(w.far)}
	if p.hoverN > 0 {
		out.HoverShare = math.Round(p.hoverSum/float64(p.hoverN)*1000) / 10
	}
	if w.outcome == "" {
		switch {
		case !w.everArmed:
			out.Outcome = string(NeverArmed)
			out.Sentence = "It never arms: " + p.heldBack(s)
			return out
		case w.top < liftedOff:
			out.Outcome = string(NeverLifted)
			out.Sentence = "It never leaves the ground."
			return out
		default:
			out.Outcome = string(FlewAway)
		}
	}
	after := math.Max(0, w.tipTime-opening)
	switch Outcome(out.Outcome) {
	case Landed:
		out.Moment = round2(s.Time)
		out.Sentence = fmt.Sprintf("It lifts, holds %.1f m within %.1f m of where it stood, and lands. Hover is at %.0f %% of throttle.", p.card.Height, w.far, out.HoverShare)
	case TippedOver:
		out.Moment = round2(w.tipTime)
		still := "still on its feet"
		if w.tipHeight > 0.12 {
			still = fmt.Sprintf("%.1f m up", w.tipHeight)
		}
		out.Sentence = fmt.Sprintf("%.1f s after the throttle opens it tips to the %s, %s.", after, leaning(w.tipRoll, w.tipPitch), still)
	case Crashed:
		out.Moment = round2(w.tipTime)
		out.Sentence = fmt.Sprintf("%.1f s after the throttle opens it rolls over to the %s at %.1f m and falls.", after, leaning(w.tipRoll, w.tipPitch), w.tipHeight)
	case FlewAway:
		out.Moment = round2(s.Time)
		out.Sentence = fmt.Sprintf("It does not hold its place: after %.0f s it is %.0f m away and %.0f m up.", s.Time-opening, w.far, w.top)
	}
	return out
}

func round2(x float64) float64 { return math.Round(x*100) / 100 }

// Corrected is the input with every motor turning as the layout wants at the corner the board believes, every
// propeller of the matching hand, a level sensor, and sticks that reach their ends on the channels the board
// expects.
func Corrected(in Input, rotation quad.Rotation) Input {
	out := in
	out.Settings.Layout, out.Settings.Rotation = in.Layout, rotation
	out.Actual.Outputs = map[string]quad.OutputActual{}
	out.Actual.Hands = map[quad.Corner]quad.Spin{}
	for letter, corner := range in.Settings.Places {
		out.Actual.Outputs[letter] = quad.OutputActual{Corner: corner, Spin: rotation.Wants(corner)}
	}
	for _, c := range quad.Corners {
		out.Actual.Hands[c] = rotation.Wants(c)
	}
	out.Actual.TiltRoll, out.Actual.TiltPitch, out.Actual.BoardYaw = 0, 0, in.Settings.BoardYaw
	out.Actual.Sticks, out.Actual.Channels = map[quad.Axis]quad.Ends{}, map[quad.Axis]int{}
	for _, a := range quad.Axes {
		out.Actual.Sticks[a] = quad.Ends{Low: 1000, Centre: 1500, High: 2000}
		out.Actual.Channels[a] = quad.ChannelIn(in.Settings.Order, a)
	}
	return out
}

// Corners gives the rotor places of an input, m ahead and to the right, in the order of quad.Corners.
func Corners(in Input) [4][2]float64 {
	var out [4][2]float64
	for i, p := range airframe.Places(in.Layout, in.Parts.Frame) {
		out[i] = [2]float64{p.X, p.Y}
	}
	return out
}
