package flight

import (
	"math"

	"vividperch/core/feel"
	"vividperch/core/quad"
)

// Scenario is a flight that the scripted hand knows.
type Scenario string

// Scenarios.
const (
	FirstHover    Scenario = "hover"
	ModeTour      Scenario = "tour"
	FlipsAndRolls Scenario = "flips"
	PunchOut      Scenario = "punch"
	ForwardFlight Scenario = "forward"
	DiveRecovery  Scenario = "dive"
	RadioLost     Scenario = "loss"
	InvertedHover Scenario = "inverted"
	PositionHold  Scenario = "hold"
	LostFarOut    Scenario = "far"
)

// Script of a scenario: what is flown, in words, and for how long at most.
type Script struct {
	Scenario Scenario `json:"scenario"`
	Title    string   `json:"title"`
	Words    string   `json:"words"`
	Lasts    float64  `json:"lasts" unit:"s"`
	// Begins is how high it hovers when the scenario begins, m; 0 stands on its feet, disarmed.
	Begins float64 `json:"begins" unit:"m"`
	// Away is how far north of where it took off it then is, m.
	Away float64 `json:"away" unit:"m"`

	fly func(p *flyer, t, h float64, seen State)
}

// Scripts in the order in which a pilot meets them.
var Scripts = []Script{
	{FirstHover, "First hover", "Arm, nudge it each way on its feet, hover at a metre, yaw both ways, a brief throttle, land.", longest, 0, 0, (*flyer).firstHover},
	{ModeTour, "Mode tour", "From hover: right and left in self-level, in blended where it is set, and a short turn in acro.", 14, 12, 0, (*flyer).modeTour},
	{FlipsAndRolls, "Flips and rolls", "In acro: one roll to the right, caught; one flip forward, caught.", 10, 25, 0, (*flyer).flips},
	{PunchOut, "Punch-out", "From hover full throttle for a second and a half, closed for half a second, caught.", 7, 4, 0, (*flyer).punchOut},
	{ForwardFlight, "Forward flight", "Six seconds with the stick four fifths forward, into the wind, holding height; then stopped.", 13, 15, 0, (*flyer).forward},
	{DiveRecovery, "Dive and recovery", "Nose down, the throttle closed for nearly three seconds, then opened and caught.", 10, 90, 0, (*flyer).dive},
	{RadioLost, "Radio lost", "Forward at walking pace, five metres up, holding height; then the radio is gone.", 20, 5, 0, (*flyer).lost},
	{InvertedHover, "Inverted hover", "Half a roll with the thrust turned round, five seconds on its back at the same height, and back.", 14, 15, 0, (*flyer).invertedHover},
	{PositionHold, "Position hold", "Ten metres up, the hold switched on, hands off the sticks for forty seconds but for a quarter of a turn to the right.", 40, 10, 0, (*flyer).holdsStill},
	{LostFarOut, "Radio lost far out", "Eighty metres out and twenty up, hovering; then the radio is gone.", 110, 20, 80, (*flyer).lostFar},
}

// losesRadio says whether the radio goes in it.
func (s Script) losesRadio() bool { return s.Scenario == RadioLost || s.Scenario == LostFarOut }

// ScriptOf a scenario; ok is false for one that nobody wrote.
func ScriptOf(s Scenario) (Script, bool) {
	for _, x := range Scripts {
		if x.Scenario == s {
			return x, true
		}
	}
	return Script{}, false
}

const (
	longest   = 40.0 // s, a card's whole time
	landBy    = 23.0 // s, when the hand comes down whatever it has got to
	liftedOff = 0.15 // m, under which it never left the ground
	nudging   = 2.9  // s, when the first nudge begins
	nudge     = 0.3  // s, of the stick
	nudgeRest = 0.3  // s, between two
	nudgeBy   = 0.3  // of the stick
	nudgeLift = 0.75 // of the throttle of hover
)

// nudges of the first hover: which stick, and what it should do.
var nudges = [4]struct {
	roll, pitch float64
	words, asks string
}{
	{nudgeBy, 0, "right", "right"}, {-nudgeBy, 0, "left", "left"}, {0, nudgeBy, "forward", "front"}, {0, -nudgeBy, "back", "rear"},
}

// nudgeAt says which nudge a moment belongs to, and whether the stick is out.
func nudgeAt(t float64) (i int, out bool) {
	x := (t - nudging) / (nudge + nudgeRest)
	if x < 0 || x >= float64(len(nudges)) {
		return -1, false
	}
	i = int(x)
	return i, t-nudging-float64(i)*(nudge+nudgeRest) < nudge
}

const nudged = nudging + 4*(nudge+nudgeRest) // s, when the last is over

// opens is how fast the throttle is opened slowly, 1/s: a hand that sees later is in less of a hurry.
func (p *flyer) opens() float64 { return 0.1 * p.gentle }

func (p *flyer) firstHover(t, h float64, seen State) {
	p.want = wants{level: true, arm: t > 0.6 && !p.cutOff && p.down < 1, throttle: p.want.throttle}
	if t < opening {
		p.want.throttle = 0
		return
	}
	if seen.Height > 0.04 && !p.lifted {
		p.lifted = true
		// What carried it is what he gave when it left the ground, which he saw later.
		p.trim = max(0.02, p.want.throttle-p.opens()*p.late())
	}
	if p.lifted && !p.landing && t < landBy && seen.Height < 0.01 && seen.Tilt < 15 {
		p.lifted = false // it hopped and stands again: he opens on, from where he is
	}
	if !p.lifted {
		switch i, out := nudgeAt(t); {
		case t < nudging:
			p.want.throttle = min(nudgeLift*p.hover, p.want.throttle+p.hover*h)
		case t < nudged:
			if out {
				p.want.roll, p.want.pitch = nudges[i].roll, nudges[i].pitch
			}
		default:
			p.want.throttle = min(0.85, p.want.throttle+p.opens()*h) // until it leaves the ground
		}
		return
	}
	p.stays(seen)
	since := 0.0
	if p.settled > 0 {
		since = t - p.settled
	} else if math.Abs(seen.Height-p.card.Height) < 0.25 && math.Abs(seen.Velocity[2]) < 0.3 || t > 16 {
		p.settled = t
	}
	switch {
	case p.settled > 0 && since > p.card.Hold || t > landBy:
		p.landing = true
	case since > 1 && since < 1.6:
		p.want.yaw = 0.25
	case since > 2.2 && since < 2.8:
		p.want.yaw = -0.25
	}
	switch {
	case p.landing && seen.Height < 0.03:
		p.want.throttle = max(0, p.want.throttle-0.8*h)
		p.down += h
	case p.landing:
		p.carry(-0.35-seen.Velocity[2], h)
	case since > 3.6 && since < 3.9:
		p.want.throttle = min(1, p.trim*1.2)
	default:
		want := max(-0.6, min(0.5, 0.8*p.gentle*(p.card.Height-seen.Height)))
		p.carry(want-seen.Velocity[2], h)
		if math.Abs(seen.Velocity[2]) < 0.15/p.gentle && math.Abs(seen.Height-p.card.Height) < 0.4/p.gentle {
			p.hoverSum += p.want.throttle
			p.hoverN++
		}
	}
	p.want.throttle = min(0.85, p.want.throttle)
}

// caught: level, over the place, at a height.
func (p *flyer) caught(height float64, seen State, h float64) {
	p.want = wants{level: true, arm: true, throttle: p.want.throttle}
	p.holds(height, seen, h)
}

func between(t, from, to float64) bool { return t >= from && t < to }

func (p *flyer) modeTour(t, h float64, seen State) {
	p.caught(p.begins, seen, h)
	aside := func(from, by, for_ float64) {
		if between(t, from, from+for_) {
			p.want.roll = by
		} else if between(t, from+for_, from+2*for_) {
			p.want.roll = -by
		}
	}
	switch {
	case t < 4.5:
		aside(1, 0.5, 0.8)
	case t < 9 && p.set.Blended.Used():
		p.want.level, p.want.blended = false, true
		aside(5.5, 0.2, 0.6)
	case t >= 9 && t < 12 || !p.set.Blended.Used() && t < 8:
		p.want.level = t < 5 || !p.set.SelfLevel.Used()
		from := 10.0
		if !p.set.Blended.Used() {
			from = 6
		}
		p.want.level = p.want.level || t > from+1.2
		aside(from, 0.3, 0.3)
	}
}

// full is how long a full stick takes for a share of a turn, s, with the rates that are set.
func (p *flyer) full(axis int, deg float64) float64 {
	rate := math.Abs(feel.Rate(p.set.Family, p.set.Rates[axis], 1))
	if rate < 60 {
		return 2
	}
	return deg / rate
}

func (p *flyer) flips(t, h float64, seen State) {
	const first, second, up = 1.0, 5.0, 0.4
	begin, axis := first, 0
	if t >= second-0.5 {
		begin, axis = second, 1
	}
	turn := p.full(axis, 360)
	switch {
	case between(t, begin-up, begin):
		p.want = wants{level: true, arm: true, throttle: min(1, 1.8*p.trim)}
	case between(t, begin, begin+turn):
		p.want = wants{arm: true, throttle: 0.5 * p.trim}
		if axis == 0 {
			p.want.roll = 1
		} else {
			p.want.pitch = 1
		}
	case between(t, begin+turn, begin+turn+0.15):
		p.want = wants{arm: true, throttle: p.trim}
	default:
		p.caught(p.begins, seen, h)
	}
}

func (p *flyer) punchOut(t, h float64, seen State) {
	switch {
	case between(t, 1, 2.5):
		p.want = wants{level: true, arm: true, throttle: 1}
	case between(t, 2.5, 3):
		p.want = wants{level: true, arm: true, throttle: p.almostClosed()}
	default:
		height := p.begins
		if t >= 3 {
			height = seen.Height - 0.5 // come down slowly from wherever it got to
		}
		p.caught(height, seen, h)
	}
}

func (p *flyer) forward(t, h float64, seen State) {
	p.caught(p.begins, seen, h)
	switch {
	case between(t, 1, 7):
		p.want.pitch = 0.8
		p.want.throttle = min(1, p.want.throttle*1.1)
	case t >= 7:
		p.want.pitch = max(-0.6, min(0.6, -0.06*seen.Velocity[0]))
		p.want.roll = max(-0.6, min(0.6, -0.06*seen.Velocity[1]))
	}
}

func (p *flyer) dive(t, h float64, seen State) {
	const over, closed, open, caught = 1.0, 1.8, 4.6, 6.2
	switch {
	case between(t, over, open):
		p.want = wants{level: true, arm: true, pitch: 0.9, throttle: p.almostClosed()}
		if t > closed {
			p.want.throttle = 0
		}
	case between(t, open, caught):
		p.want = wants{level: true, arm: true, throttle: min(0.9, 2*p.trim)}
	default:
		height := p.begins
		if t >= caught {
			height = seen.Height
		}
		p.caught(height, seen, h)
	}
}

func (p *flyer) lost(t, h float64, seen State) {
	p.caught(p.begins, seen, h)
	p.want.pitch = max(-0.3, min(0.3, 0.15*(1.5-seen.Velocity[0])))
}

// letsGo is how far (m) a hold may let go of its height before the hand takes over again.
const letsGo = 4.0

func (p *flyer) holdsStill(t, h float64, seen State) {
	if t < 1 {
		p.caught(p.begins, seen, h)
		return
	}
	p.letGo = p.letGo || math.Abs(seen.Height-p.begins) > letsGo
	if p.letGo { // it does not hold: the hand takes over again, and brings it back
		p.caught(p.begins, seen, h)
		p.stays(seen)
		return
	}
	p.want = wants{level: true, arm: true, hold: true, throttle: 0.5}
	q := seen.Attitude
	if heading := math.Atan2(2*(q[0]*q[3]+q[1]*q[2]), 1-2*(q[2]*q[2]+q[3]*q[3])); t > 12 && t < 20 && heading < 85/degrees {
		p.want.yaw = 0.3
	}
}

func (p *flyer) lostFar(t, h float64, seen State) {
	p.caught(p.begins, seen, h)
	p.want.pitch = max(-0.5, min(0.5, -0.1*seen.Velocity[0]))
	p.want.roll = max(-0.5, min(0.5, -0.1*seen.Velocity[1]))
}

// almostClosed is a throttle just above rest, where the controller still has the motors.
func (p *flyer) almostClosed() float64 { return max(0.07, (p.set.IdleBelow-1000)/1000+0.03) }

// pastRest is a throttle as far from the middle, with reversible thrust.
const pastRest = 0.15

// The radio of RadioLost is gone as soon as it flies steadily, within these times, s.
const (
	lossFrom  = 2.0
	lossUntil = 6.0
)

// steadily says whether nothing that the hand does is still under way.
func (p *flyer) steadily(now State) bool {
	return math.Abs(now.Velocity[2]) < 0.15 && math.Abs(now.Height-p.begins) < 0.4
}

func (p *flyer) invertedHover(t, h float64, seen State) {
	half := p.full(0, 180)
	const over, back = 2.0, 8.0
	switch {
	case t < over:
		p.caught(p.begins, seen, h)
	case t < over+half:
		p.want = wants{arm: true, roll: 1, throttle: pastRest}
	case t < back:
		// On its back the thrust that carries it is backward, and more rotation is needed for it.
		p.want = wants{arm: true, throttle: -p.upsideDown(p.begins, seen, h)}
		off := math.Remainder(seen.Roll-180, 360)
		p.want.roll = max(-0.3, min(0.3, -2*off*p.perRate(0)))
		p.want.pitch = max(-0.3, min(0.3, -2*seen.Pitch*p.perRate(1)))
	case t < back+half:
		p.want = wants{arm: true, roll: 1, throttle: -pastRest}
	default:
		p.caught(p.begins, seen, h)
	}
}

// perRate is about how much of a stick asks for one deg/s near its middle.
func (p *flyer) perRate(axis int) float64 {
	if slope := math.Abs(feel.Rate(p.set.Family, p.set.Rates[axis], 0.1)) / 0.1; slope > 1 {
		return 1 / slope
	}
	return 0
}

// upsideDown is the throttle that holds a height on its back.
func (p *flyer) upsideDown(height float64, seen State, h float64) float64 {
	if p.settled == 0 {
		p.settled, p.trim = 1, min(1, p.backHover)
	}
	faster := max(-1.5, min(1.5, 0.8*(height-seen.Height))) - seen.Velocity[2]
	p.trim = max(0.02, min(1, p.trim+0.1*p.trim*faster*h))
	return max(0.02, min(1, p.trim*(1+0.14*faster)))
}

// Gone is what the receiver puts out once the radio is gone.
func (in *Input) Gone(last Sticks) Sticks {
	switch in.OnLoss {
	case quad.LossHold:
		return last
	case quad.LossPreset:
		out := Sticks{Heard: true, Channels: in.Preset}
		return out
	}
	return Sticks{}
}
