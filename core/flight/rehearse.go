package flight

import (
	"encoding/json"
	"math"

	"vividperch/core/airframe"
	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// Card of the hover: what the scripted pilot does.
type Card struct {
	Height float64 `json:"height" unit:"m"`
	Hold   float64 `json:"hold" unit:"s"`
}

// HoverCard is the first flight's card: up to one metre, six seconds there, down.
var HoverCard = Card{Height: 1, Hold: 6}

// Steps of the card as a pilot flies it, the same that the model flies. With reversible thrust the throttle rests in its middle, and all
// the way down is full thrust at the ground.
func (c Card) Steps(reversible bool) []string {
	down := "Throttle down, let it land, disarm, pack out."
	if reversible {
		down = "Throttle slowly back to its middle and no further, let it land, disarm, pack out: below the middle it is driven at the ground."
	}
	return []string{
		"Radio on and disarmed, throttle at rest: only then the pack in.",
		"Goggles off for the first arm: look at the quad itself. Goggles only later, and with a spotter beside you.",
		"Set it down nose away from you and stand behind it, outside the clear circle.",
		"Throttle " + sticks.RestWords(reversible) + ". Arm and listen for two seconds: all four idle alike, nothing else moves.",
		"A little throttle, still on its feet: nudge right, left, forward, back. It must lean the way of the stick; if not, disarm.",
		"Throttle up until it lifts, then to " + quad.Quantity(c.Height, "m") + ". If it tips or slides, arm switch off at once.",
		"Hold it there for " + quad.Quantity(c.Hold, "s") + ": it must not drift off, climb or shake. Meanwhile yaw a little right, then left, and once a brief push of throttle.",
		down,
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
	Thrusts  [4]float64 `json:"thrusts" unit:"1"` // of each rotor along the frame's up axis, as shares of the weight
	Volts    float64    `json:"volts" unit:"V"`
	Armed    bool       `json:"armed"`
}

// Run is a rehearsed flight.
type Run struct {
	Scenario Scenario       `json:"scenario"`
	Summary  quad.Rehearsal `json:"summary"`
	Good     bool           `json:"good"`             // it went as it should
	Opened   float64        `json:"opened" unit:"s"`  // when the throttle was opened
	Impact   float64        `json:"impact" unit:"J"`  // energy of motion with which it first hit the ground; 0 it did not
	Blades   float64        `json:"blades" unit:"J"`  // in the propellers that struck it
	Lost     float64        `json:"lost" unit:"s"`    // when the radio was gone; 0 it was not
	Struck   quad.Corner    `json:"struck,omitempty"` // where the first propeller struck
	Figures  []Figured      `json:"figures"`          // what else came out of it
	Frames   []Frame        `json:"frames"`
	Input    string         `json:"input"` // hash of what it was computed from
}

// Figured is one figure of a run.
type Figured struct {
	Name  string  `json:"name"`
	Value float64 `json:"value" unit:"inherit"`
	Unit  string  `json:"unit"`
}

const framesPerSecond = 50

// Flight is what is flown: a scenario, with a card where it has one, by a hand.
type Flight struct {
	Scenario Scenario `json:"scenario"`
	Card     Card     `json:"card"`
	Hand     Hand     `json:"hand"`
	// Out is where the radio is lost far out; nothing is where the script has it.
	Out *Out `json:"out,omitempty"`
	// Failure that comes in the air; nothing in a flight that is only rehearsed.
	Failure Failure `json:"failure,omitempty"`
}

// Out is a place in the air, m.
type Out struct {
	Away   float64 `json:"away" unit:"m"` // north of home
	Height float64 `json:"height" unit:"m"`
}

// Hover is the first hover by its card, by a steady hand.
func Hover(card Card) Flight { return Flight{Scenario: FirstHover, Card: card, Hand: Steady} }

// Steady is the scenario, flown by a steady hand.
func (s Scenario) Steady() Flight { return Flight{Scenario: s, Card: HoverCard, Hand: Steady} }

// Hash fingerprints an input, what is flown with it, and the model's version. An input with a figure that is none has no hash.
func Hash(in Input, f Flight) string {
	if !in.navigatesIn(f.Scenario) {
		in.Settings.Nav, in.Actual.Place = Navigation{}, quad.PlaceActual{}
	}
	raw, err := json.Marshal(struct {
		In      Input
		Flight  Flight
		Version int
	}{in, f, Version})
	if err != nil {
		return "" // a non-finite figure; New refuses it with its place
	}
	return quad.Hash(raw)[:16]
}

// navigatesIn says whether how it navigates can make a difference in a scenario: one that holds or loses the radio, or any where a switch lies so.
func (in *Input) navigatesIn(s Scenario) bool {
	script, _ := ScriptOf(s)
	at := in.AtRest
	mix(&at, in.Mixes)
	return s == PositionHold || script.losesRadio() || in.Settings.Nav.Hold.On(&at) || in.Settings.Nav.ComeHome.On(&at)
}

// HashInput fingerprints the first hover with an input.
func HashInput(in Input, card Card) string { return Hash(in, Hover(card)) }

// Rehearse flies the first hover by a card in the model and says how it went.
func Rehearse(in Input, card Card, stop func() bool) (*Run, error) {
	return Fly(in, Hover(card), Watching{Stop: stop})
}

// Watching is how a flight is looked at while it is flown.
type Watching struct {
	Stop   func() bool // asked ten times a second of flight; true ends it early with a Fault
	Record func(State) // called with every state recorded
	Rate   float64     // Hz, of Record; at most that of the model
}

// Fly flies a scenario in the model and says how it went. It is bounded: no scenario is longer than two minutes of flight.
func Fly(in Input, f Flight, look Watching) (*Run, error) {
	script, known := ScriptOf(f.Scenario)
	if !known {
		return nil, quad.Faultf("no-scenario", "scenario", "there is no scenario %q", string(f.Scenario))
	}
	if f.Scenario == PositionHold && !in.Settings.Nav.Hold.Used() {
		return nil, quad.Faultf("no-hold", "sheet.sticks.hold", "no switch puts it into a position hold, so there is none to fly")
	}
	if f.Out != nil {
		if f.Scenario != LostFarOut || !(f.Out.Away >= 0 && f.Out.Away <= 2000) || !(f.Out.Height >= 1 && f.Out.Height <= 500) {
			return nil, quad.Faultf("no-place", "", "a radio is lost up to 2 km out, 1 to 500 m up")
		}
		script.Begins, script.Away = f.Out.Height, f.Out.Away
		script.Lasts = math.Min(600, script.Lasts+f.Out.Away/math.Max(1, in.Settings.Nav.Speed)+f.Out.Height)
	}
	hash := Hash(in, f)
	in.armsBySwitch()
	s, err := New(in)
	if err != nil {
		return nil, err
	}
	p := newFlyer(in, f.Card, f.Hand)
	p.hover, p.backHover = s.hovers(in.Mass)
	run := &Run{Scenario: f.Scenario, Opened: opening, Input: hash, Figures: []Figured{}}
	watch := newWatcher(script)
	if script.Begins > 0 {
		run.Opened = 0
		s.begin(script.Begins, script.Away, p)
	}
	rate := in.rate()
	perMove, perFrame := rate/handRate, rate/framesPerSecond
	record := rate
	if look.Rate > 0 {
		record = max(1, int(math.Round(float64(rate)/look.Rate)))
	}
	now := s.seen()
	for i := range p.seen {
		p.seen[i] = now
	}
	var moved Sticks
	toMove, failing := 0, 0.0
	for n := 0; n < int(script.Lasts*float64(rate)); n++ {
		if toMove--; toMove <= 0 {
			toMove = perMove
			t := float64(n) / float64(rate)
			if n%(rate/10) == 0 && look.Stop != nil && look.Stop() {
				return nil, quad.Faultf("cancelled", "", "the rehearsal was cancelled")
			}
			now = s.seen()
			if n%perFrame == 0 {
				run.Frames = append(run.Frames, frameOf(now))
			}
			if watch.over(s, now, p) {
				break
			}
			if f.Failure != "" {
				f.Failure.fails(s, p, in.Seed, now, &failing)
			}
			if script.losesRadio() && watch.lostAt == 0 && t >= lossFrom && (t >= lossUntil || p.steadily(now)) {
				watch.lostAt = t
			}
			if watch.lostAt > 0 {
				moved = in.Gone(moved)
			} else {
				seen := p.sees(now)
				script.fly(p, t, 1.0/handRate, seen)
				if script.Begins == 0 {
					p.startles(t, seen)
				}
				if p.cutOff {
					p.want = wants{level: true}
				}
				moved = p.frame()
			}
			s.control.hear(&moved)
		}
		if look.Record != nil && n%record == 0 {
			look.Record(s.State())
		}
		s.fly()
	}
	run.Lost = watch.lostAt
	watch.close(run, s, p)
	return run, nil
}

// armsBySwitch puts a switch in the place of the gesture where a quad is armed by stick: what is rehearsed begins when it is armed.
func (in *Input) armsBySwitch() {
	if set := &in.Settings; set.ByStick && !set.Arm.Used() {
		set.ByStick, set.Arm = false, quad.Range{Channel: aside, From: 1700, To: 2100}
	}
}

// throttleOf a stick of 0..1: bent by the curve, but for reversible thrust, whose way from rest to an end is straight.
func (s *Settings) throttleOf(stick float64) float64 {
	if s.Reverses {
		return stick
	}
	return s.Curve.At(stick)
}

// hovers computes the throttle that carries a mass, forward and turned backward on its back; half of it where nothing does.
func (s *Stepper) hovers(mass float64) (forward, backward float64) {
	set := &s.control.s
	stick := func(weight float64) float64 {
		p, ok := s.drive.Hover(weight)
		if !ok {
			return 0.5
		}
		return max(0.05, min(1, set.output().Throttle(p.Duty)))
	}
	share := 1.0
	if r := &s.rotors[0]; r.backward != 0 {
		share = math.Abs(r.backward / r.forward)
	}
	forward = stick(mass)
	if !set.Reverses {
		forward = set.Curve.Stick(forward)
	}
	return forward, stick(mass / share)
}

// begin a flight in the air: hovering level at a height, armed, some way north of where it took off.
func (s *Stepper) begin(height, away float64, p *flyer) {
	s.Hold(0, 0, [3]float64{})
	s.aside = 0
	s.now.pz = -height - s.body.feet
	if n := s.control.nav; n != nil {
		n.arms(s.sensed())
		n.began(s.control.s.throttleOf(p.hover))
	}
	s.now.px = away
	s.control.armed, s.control.heard, s.control.wantedOff = true, true, true
	s.control.way = 1
	s.trim()
	s.settle(s.control.s.throttleOf(p.hover))
	p.begins, p.trim, p.lifted, p.want = height, p.hover, true, wants{level: true, arm: true, throttle: p.hover}
	p.moved[2] = p.hover*2 - 1
	if p.set.Reverses {
		p.moved[2] = p.hover
	}
	s.steps, s.charge = 0, 0
}

// trim the integrals to what holds a weight that does not lie in the middle, as those of a controller that has flown for a while.
func (s *Stepper) trim() {
	c := &s.control
	var places [4]airframe.Spot
	for i := range s.rotors {
		places[i] = airframe.Spot{X: s.rotors[i].x, Y: s.rotors[i].y}
	}
	share, ok := airframe.Loads(places)
	if !ok {
		return
	}
	var duty [4]float64
	for i, x := range share {
		p, _ := s.drive.ForThrust(math.Max(0, x) * s.body.mass * airframe.Gravity)
		duty[i] = p.Duty
	}
	for axis := range c.integral {
		held, of := 0.0, 0.0
		for o := range c.mix {
			m := c.mix[o][axis]
			held, of = held+m*duty[s.places[o]], of+m*m
		}
		if of > 0 {
			c.integral[axis] = math.Max(-integralMost, math.Min(integralMost, held/of))
		}
	}
}

func frameOf(s State) Frame {
	short := func(x float64) float64 { return math.Round(x*1e4) / 1e4 }
	f := Frame{Time: short(s.Time), Place: [3]float64{short(s.North), short(s.East), short(s.Height)}, Roll: short(s.Roll), Pitch: short(s.Pitch), Tilt: short(s.Tilt), Volts: round2(s.Volts), Armed: s.Armed}
	for i := range f.Attitude {
		f.Attitude[i] = short(s.Attitude[i])
		f.Rotors[i] = math.Round(s.Rotors[i])
		f.Duty[i] = short(s.Duty[i])
		f.Thrusts[i] = math.Round(s.Thrusts[i]*1000) / 1000
	}
	return f
}

func round2(x float64) float64 { return math.Round(x*100) / 100 }

// Corrected is the input with every motor turning as the layout wants at the corner the board believes, every
// propeller of the matching hand, a level sensor, and sticks that reach their ends on the channels the board
// expects.
func Corrected(in Input, rotation quad.Rotation) Input {
	out := in
	out.Settings.Layout, out.Settings.Rotation = in.Actual.Layout, rotation
	out.Actual.Outputs = map[string]quad.OutputActual{}
	out.Actual.Hands = map[quad.Corner]quad.Spin{}
	for letter, corner := range in.Settings.Places {
		out.Actual.Outputs[letter] = quad.OutputActual{Corner: corner, Spin: rotation.Wants(corner), StopsAt: in.Actual.Outputs[letter].StopsAt, BothWays: in.Settings.Reverses}
	}
	for _, c := range quad.Corners {
		out.Actual.Hands[c] = rotation.Wants(c)
	}
	out.Actual.TiltRoll, out.Actual.TiltPitch, out.Actual.Board = 0, 0, in.Settings.Board
	out.Actual.Centre = quad.Balance{}
	out.Actual.Place = quad.PlaceActual{Fixed: true, Satellites: max(12, in.Settings.Nav.Satellites), Dilution: 1, Horizontal: in.Actual.Place.Horizontal}
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
	for i, p := range airframe.Spots(in.Actual.Layout, in.Parts.Frame) {
		out[i] = [2]float64{p.X, p.Y}
	}
	return out
}
