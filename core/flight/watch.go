package flight

import (
	"fmt"
	"math"

	"vividperch/core/feel"
	"vividperch/core/filter"
	"vividperch/core/quad"
)

// Outcome of a rehearsed flight.
type Outcome string

const (
	Landed       Outcome = "landed"
	Flown        Outcome = "flown" // in the air to the end, as it should
	TippedOver   Outcome = "tippedOver"
	Tumbled      Outcome = "tumbled" // in the air, beyond what was asked of it
	FlewAway     Outcome = "flewAway"
	NeverLifted  Outcome = "neverLifted"
	NeverArmed   Outcome = "neverArmed"
	Crashed      Outcome = "crashed"
	Ripples      Outcome = "ripples"      // it oscillates, and holds
	AnswersWrong Outcome = "answersWrong" // it lands, but does something else than the stick asks
	NotHeld      Outcome = "notHeld"      // it hops and comes down
	Stands       Outcome = "stands"       // a motor falls out of step and stands, in the air
	Circles      Outcome = "circles"      // a hold that does not come to rest
	Leaps        Outcome = "leaps"        // a motor runs hard as it is armed, with the throttle at rest
)

// Good says whether an outcome is what was wanted.
func (o Outcome) Good() bool { return o == Landed || o == Flown }

// watcher notes what happens.
type watcher struct {
	scenario           Scenario
	begins             float64 // m above the ground
	lasts              float64 // s, at most
	tipTime, tipHeight float64
	tipRoll, tipPitch  float64
	far, top, lowest   float64
	everArmed          bool
	outcome            Outcome
	ended              float64
	moment             float64
	was                State
	impact, hardest    float64 // J
	hit                float64 // s
	fastest, climbed   float64 // m/s
	amps, volts        float64
	warmest            float64       // °C
	tilt               float64       // deg, the most where nobody asked for any
	answers            [4][2]float64 // deg of roll and pitch that it leaned when nudged
	nudgeFrom          [4]State
	nudgeTurned        [4]float64 // deg that it turned meanwhile
	shaken             [3]float64 // deg²/s² of rotation above what the hand can do, summed
	shakenN            int
	slow               [3]float64
	stood              [4]float64 // s, when a motor fell out of step; 0 it did not
	onBack             float64    // s
	turned, turnAsked  float64    // deg that it turned the way yaw asked for, and what was asked
	lostAt             float64    // s, when the radio was gone; 0 it is there
	work               [4]float64 // duties, without what is faster than any hand
	hunted             float64
	leapt              float64 // duty of the motor that ran hardest while the throttle was at rest
	leaptAt            int     // its corner
	late               float64 // m from where it began, the most of the last [lateTime] of a hold
	refused, gaveUp    bool    // to come home
	rests              float64 // s, when it lay on the ground with its motors off; 0 not yet
}

func newWatcher(s Script) *watcher {
	return &watcher{scenario: s.Scenario, begins: s.Begins, lasts: s.Lasts, volts: math.Inf(1), lowest: math.Inf(1)}
}

// leaves is how far (m) each scenario may get before it counts as gone.
var leaves = map[Scenario]float64{FirstHover: 25, ModeTour: 60, FlipsAndRolls: 60, PunchOut: 60, ForwardFlight: 400, DiveRecovery: 200, RadioLost: 60, InvertedHover: 40, PositionHold: 100, LostFarOut: 250}

func (w *watcher) over(of *Stepper, s State, p *flyer) bool {
	w.everArmed = w.everArmed || s.Armed
	w.far = math.Max(w.far, math.Hypot(s.North, s.East))
	w.top = math.Max(w.top, s.Height)
	w.amps, w.volts = math.Max(w.amps, s.Amps), math.Min(w.volts, s.Volts)
	w.fastest = math.Max(w.fastest, math.Hypot(s.Velocity[0], s.Velocity[1]))
	w.climbed = math.Max(w.climbed, s.Velocity[2])
	if s.Time > 0.5 {
		w.lowest = math.Min(w.lowest, s.Height)
	}
	w.blow(of, s)
	for i := range of.rotors {
		w.warmest = math.Max(w.warmest, of.warmth[i].Winding)
		if of.rotors[i].standing && w.stood[i] == 0 && s.Armed {
			w.stood[i] = s.Time
		}
	}
	w.shakes(s)
	w.was = s
	if w.scenario == FirstHover {
		return w.overGround(of, s, p)
	}
	return w.overAir(of, s, p)
}

// blow notes the energy of motion just before the ground takes it.
func (w *watcher) blow(of *Stepper, s State) {
	b, n := &of.body, &of.now
	energy := b.mass*(n.vx*n.vx+n.vy*n.vy+n.vz*n.vz)/2 + (b.ix*n.wx*n.wx+b.iy*n.wy*n.wy+b.iz*n.wz*n.wz)/2
	if w.impact = math.Max(0.98*w.impact, energy); w.hit == 0 && of.touches() {
		fell := math.Hypot(math.Hypot(w.was.Velocity[0], w.was.Velocity[1]), w.was.Velocity[2])
		if fell > 1.2 || of.struck > 0 {
			w.hit, w.hardest = s.Time, w.impact
		}
	}
}

// touches says whether anything of it reaches the ground.
func (s *Stepper) touches() bool {
	n := &s.now
	if n.pz+s.body.reach+s.body.radius < 0 {
		return false
	}
	w, x, y, z := n.qw, n.qx, n.qy, n.qz
	nx, ny, nz := 2*(x*z-w*y), 2*(y*z+w*x), 1-2*(x*x+y*y)
	for i := range s.body.motors {
		c := &s.body.motors[i]
		if n.pz+nx*c.x+ny*c.y+max(nz*s.body.feet, nz*s.body.tops) > 0 {
			return true
		}
	}
	return s.struck > 0
}

// shakes sums the part of the rotation that is faster than any hand.
func (w *watcher) shakes(s State) {
	if s.Tilt > 60 || !s.Armed || s.Height < 0.3 {
		return
	}
	share := filter.Share(4, 1.0/handRate)
	for i := range w.slow {
		w.slow[i] += share * (s.Rates[i] - w.slow[i])
		d := s.Rates[i] - w.slow[i]
		w.shaken[i] += d * d
	}
	for i := range w.work {
		w.work[i] += share * (s.Duty[i] - w.work[i])
		d := s.Duty[i] - w.work[i]
		w.hunted += d * d / 4
	}
	w.shakenN++
}

// hunts is how much the duties (a share of full, one sigma) go up and down faster than any hand.
func (w *watcher) hunts() float64 { return math.Sqrt(w.hunted / math.Max(1, float64(w.shakenN))) }

// ripple is the rotation (deg/s, one sigma) about the axis that shakes most, that no hand asked for.
func (w *watcher) ripple() (by float64, axis int) {
	for i, x := range w.shaken {
		if r := math.Sqrt(x / math.Max(1, float64(w.shakenN))); r > by {
			by, axis = r, i
		}
	}
	return by, axis
}

// turnNoticed is how much it turns before anybody sees which way, deg; leaping is the duty of a motor that nobody takes for idle.
const (
	turnNoticed = 2.0
	leaping     = 0.5
)

// rippling is how much of it counts as an oscillation, deg/s; hunting how much the motors' duties may go up and down, as a share of full:
// what the gyro's noise makes of sound gains is a fifth of that, and gains that oscillate drive them from idle to full.
const (
	rippling = 25.0
	hunting  = 0.1
)

func (w *watcher) overGround(of *Stepper, s State, p *flyer) bool {
	if i, out := nudgeAt(s.Time); i >= 0 && !p.lifted {
		if out && w.nudgeFrom[i].Time == 0 {
			w.nudgeFrom[i] = s
		}
		w.answers[i] = [2]float64{s.Roll - w.nudgeFrom[i].Roll, s.Pitch - w.nudgeFrom[i].Pitch}
		w.nudgeTurned[i] += s.Rates[2] / handRate
	}
	if x := p.moved[3]; math.Abs(x) > 0.1 && s.Height > liftedOff {
		w.turned += math.Copysign(1, x) * s.Rates[2] / handRate
		w.turnAsked += math.Abs(feel.Rate(p.set.Family, p.set.Rates[2], x)) / handRate
	}
	if s.Armed && s.Time < opening {
		for i, x := range s.Duty {
			if math.Abs(x) > math.Abs(w.leapt) {
				w.leapt, w.leaptAt = x, i
			}
		}
	}
	if w.tipTime == 0 && (s.Tilt > 30 || of.struck > 0) {
		w.tipTime, w.tipHeight, w.tipRoll, w.tipPitch = s.Time, w.top, s.Roll, s.Pitch
	}
	if w.ended == 0 && (s.Tilt > 75 || of.struck > 0) {
		w.ended = s.Time + 2 // watch what follows for two seconds
		w.outcome = TippedOver
		if w.top > low {
			w.outcome = Crashed
		}
	}
	switch {
	case w.ended > 0:
		return s.Time > w.ended
	case w.far > leaves[FirstHover] || s.Height > 12:
		w.outcome = FlewAway
		return true
	case p.down > 1.5 && !s.Armed:
		if w.top >= liftedOff {
			w.outcome = Landed
		}
		return true
	}
	return false
}

func (w *watcher) overAir(of *Stepper, s State, p *flyer) bool {
	asked := p.want.level && !p.cutOff
	if w.scenario == InvertedHover {
		if s.Tilt > 150 {
			w.onBack += 1.0 / handRate
		}
		asked = asked && (s.Time < 1.9 || s.Time > 9.5)
	}
	if n := of.control.nav; n != nil {
		w.refused = w.refused || n.phase == Refused
		w.gaveUp = w.gaveUp || n.phase == ComesDown && n.set.AtHome != quad.HomeDrops
	}
	if w.scenario == PositionHold && s.Time > w.lasts-lateTime {
		w.late = math.Max(w.late, math.Hypot(s.North, s.East))
	}
	if w.scenario == LostFarOut && w.lostAt > 0 && !s.Armed && of.touches() {
		if w.rests == 0 {
			w.rests = s.Time
		}
		if w.hit == 0 {
			w.outcome, w.moment = Landed, w.rests
		}
		return s.Time > w.rests+1
	}
	if w.scenario == FlipsAndRolls {
		asked = asked && (s.Time < 0.9 || between(s.Time, 3, 4.4) || s.Time > 7)
	}
	if asked {
		w.tilt = math.Max(w.tilt, s.Tilt)
	}
	switch {
	case w.ended > 0:
		return s.Time > w.ended
	case w.hit > 0:
		w.outcome, w.moment, w.ended = Crashed, w.hit, s.Time+1.5
		if w.scenario == LostFarOut && w.hardest < softly*of.body.mass {
			w.outcome = Landed // with its motors still on
		}
	case asked && s.Tilt > p.set.AngleLimit+45 && s.Tilt > 80 && w.moment == 0:
		w.outcome, w.moment = Tumbled, s.Time
	case w.far > leaves[w.scenario] || s.Height > 200:
		w.outcome, w.moment = FlewAway, s.Time
		return true
	}
	return false
}

func leaning(roll, pitch float64) string {
	side, end := "", ""
	if math.Abs(roll) > 2 && math.Abs(roll) > 0.35*math.Abs(pitch) {
		side = "left"
		if roll > 0 {
			side = "right"
		}
	}
	if math.Abs(pitch) > 2 && math.Abs(pitch) > 0.35*math.Abs(roll) {
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

// close sums a flight up.
func (w *watcher) close(run *Run, of *Stepper, p *flyer) {
	s := of.State()
	out := quad.Rehearsal{Outcome: string(w.outcome), Deviation: round2(w.far)}
	if p.hoverN > 0 {
		out.HoverShare = math.Round(p.hoverSum/float64(p.hoverN)*1000) / 10
	}
	if of.struck > 0 {
		run.Struck, run.Blades = quad.Corners[of.struckAt], round2(of.bladeEnergy)
	}
	run.Impact = round2(w.hardest)
	if w.scenario == FirstHover {
		w.groundSummary(&out, run, s, p)
	} else {
		w.airSummary(&out, s, p)
	}
	run.Good = Outcome(out.Outcome).Good()
	run.Summary = out
	w.figures(run, of)
}

func (w *watcher) groundSummary(out *quad.Rehearsal, run *Run, s State, p *flyer) {
	if w.outcome == "" {
		switch {
		case !w.everArmed:
			out.Outcome = string(NeverArmed)
			out.Sentence = "It never arms: " + p.heldBack(s)
			return
		case w.top < liftedOff:
			out.Outcome = string(NeverLifted)
			out.Sentence = "It never leaves the ground."
			return
		default:
			out.Outcome = string(FlewAway)
		}
	}
	after := math.Max(0, w.tipTime-opening)
	wrong, sure := w.answered()
	switch Outcome(out.Outcome) {
	case Landed:
		out.Moment = round2(s.Time)
		out.Sentence = fmt.Sprintf("It lifts, holds %.1f m within %.1f m of where it stood, and lands. Hover takes %.0f %% of the throttle stick.", p.card.Height, w.far, out.HoverShare)
		by, axis := w.ripple()
		switch {
		case math.Abs(w.leapt) > leaping:
			out.Outcome = string(Leaps)
			out.Sentence = fmt.Sprintf("As it is armed, the throttle at rest, the motor %s runs at %.0f %%%s.", quad.Corners[w.leaptAt].Words(), 100*math.Abs(w.leapt), map[bool]string{true: " backward"}[w.leapt < 0])
		case p.hoverN == 0:
			out.Outcome = string(NotHeld)
			out.Sentence = fmt.Sprintf("It hops %.1f m up and comes down; it never holds %.1f m.", w.top, p.card.Height)
		case w.turned < -turnNoticed:
			out.Outcome = string(AnswersWrong)
			out.Sentence = "It lifts and lands, but asked to turn right it turns left, and the other way round."
		case w.turnAsked > 5*turnNoticed && w.turned < w.turnAsked/10:
			out.Outcome = string(AnswersWrong)
			out.Sentence = "It lifts and lands, but does not turn when it is asked to."
		case sure:
			out.Outcome = string(AnswersWrong)
			out.Sentence = "It lifts and lands, but answers the sticks wrongly."
		case by > rippling:
			out.Outcome = string(Ripples)
			out.Sentence = fmt.Sprintf("It lifts and lands, but shakes about %s by %.0f °/s all the while: the motors would not take it for long.", axisWords[axis], by)
		case w.hunts() > hunting:
			out.Outcome = string(Ripples)
			out.Sentence = fmt.Sprintf("It lifts and lands, but its motors hunt up and down by %.0f %% of full all the while: they would not take it for long.", 100*w.hunts())
		}
	case TippedOver:
		out.Moment = round2(w.tipTime)
		still := "still on its feet"
		if w.tipHeight > 0.12 {
			still = fmt.Sprintf("%.1f m up", w.tipHeight)
		}
		out.Sentence = fmt.Sprintf("%.1f s after the throttle opens it tips to the %s, %s", after, leaning(w.tipRoll, w.tipPitch), still)
	case Crashed:
		out.Moment = round2(w.tipTime)
		out.Sentence = fmt.Sprintf("%.1f s after the throttle opens it rolls over to the %s at %.1f m and falls", after, leaning(w.tipRoll, w.tipPitch), w.tipHeight)
	case FlewAway:
		out.Moment = round2(s.Time)
		out.Sentence = fmt.Sprintf("It does not hold its place: after %.0f s it is %.0f m away and %.0f m up.", s.Time-opening, w.far, w.top)
		if turns := math.Abs(s.Rates[2]) / 360; turns > 0.5 {
			out.Sentence = fmt.Sprintf("It lifts and turns faster and faster: %.1f turns a second after %.0f s, %.0f m away and %.0f m up.", turns, s.Time-opening, w.far, w.top)
		}
	}
	switch Outcome(out.Outcome) {
	case TippedOver, Crashed:
		if run.Struck != "" {
			out.Sentence += ", and the propeller " + run.Struck.Words() + " strikes the ground"
		}
		out.Sentence += "."
	}
	if wrong != "" {
		out.Sentence += " " + wrong
	}
}

// answered says which nudge tipped it another way than it should, and whether that is beyond doubt. What it does to one side and to
// the other is taken together, so that what it would have done anyhow is left out.
func (w *watcher) answered() (words string, sure bool) {
	for i := 0; i < len(w.answers); i += 2 {
		if w.nudgeFrom[i+1].Time == 0 {
			return "", false
		}
		there, back := w.answers[i], w.answers[i+1]
		roll, pitch := (there[0]-back[0])/2, (there[1]-back[1])/2
		own, stray := roll, math.Abs(pitch)
		if nudges[i].pitch != 0 {
			own, stray = -pitch, math.Abs(roll)
		}
		anyhow, leans := math.Hypot(there[0]+back[0], there[1]+back[1])/2, math.Hypot(own, stray)
		if turns := math.Abs(w.nudgeTurned[i]-w.nudgeTurned[i+1]) / 2; turns > turnNoticed && leans < feltLean {
			return fmt.Sprintf("Nudged %s on its feet it turns instead.", nudges[i].words), true
		}
		if anyhow > leans {
			continue // it leans by itself, more than by any nudge
		}
		if leans > feltLean && (own < stray/2 || own < 1.3*stray && w.nudgeFrom[i].Tilt < 0.4) {
			if to := leaning(10*roll, 10*pitch); to != nudges[i].asks {
				return fmt.Sprintf("Nudged %s on its feet it already leans to the %s.", nudges[i].words, to), leans > 3*feltLean && anyhow < leans/3 && own < 0.2*stray
			}
		}
	}
	return "", false
}

// feltLean is how little of a lean on its feet still shows which way it would go, deg.
const feltLean = 0.15

var axisWords = [3]string{"roll", "pitch", "yaw"}

func (w *watcher) airSummary(out *quad.Rehearsal, s State, p *flyer) {
	if w.outcome == "" {
		out.Outcome = string(Flown)
	}
	out.Moment = round2(w.moment)
	stood := ""
	for i, at := range w.stood {
		if at > 0 {
			stood = fmt.Sprintf("%.1f s in, the motor %s falls out of step and stands. ", at, quad.Corners[i].Words())
			break
		}
	}
	if w.scenario == LostFarOut && (w.outcome == Landed || w.outcome == Crashed) {
		w.homeSummary(out, s, p)
		return
	}
	switch w.outcome {
	case Crashed:
		out.Sentence = fmt.Sprintf("%sAfter %.1f s it hits the ground at %.0f m/s.", stood, w.hit, math.Sqrt(2*w.hardest/math.Max(0.01, p.mass)))
		return
	case Tumbled:
		out.Sentence = fmt.Sprintf("%sAfter %.1f s it tumbles.", stood, w.moment)
		return
	case FlewAway:
		out.Sentence = fmt.Sprintf("After %.1f s it is %.0f m away and %.0f m up, and nobody holds it.", s.Time, w.far, s.Height)
		return
	}
	if w.scenario != FlipsAndRolls && w.scenario != InvertedHover {
		if by, axis := w.ripple(); by > rippling {
			out.Outcome = string(Ripples)
			out.Sentence = fmt.Sprintf("%sIt shakes about %s by %.0f °/s all the while.", stood, axisWords[axis], by)
			return
		}
		if by := w.hunts(); by > hunting {
			out.Outcome = string(Ripples)
			out.Sentence = fmt.Sprintf("%sIts motors hunt up and down by %.0f %% of full all the while.", stood, 100*by)
			return
		}
	}
	if stood != "" {
		out.Outcome = string(Stands)
	}
	switch w.scenario {
	case PunchOut:
		out.Sentence = fmt.Sprintf("It climbs at up to %.0f m/s, %.0f m in all, takes %.0f A and the pack sags to %.1f V; closed, it leans by no more than %.0f°.", w.climbed, w.top-w.begins, w.amps, w.volts, w.tilt)
	case ForwardFlight:
		out.Sentence = fmt.Sprintf("It gets to %.0f m/s against the wind and stops again; its height keeps within %.1f m.", w.fastest, math.Max(w.top-w.begins, w.begins-w.lowest))
	case DiveRecovery:
		out.Sentence = fmt.Sprintf("%sIt falls %.0f m, is caught, and never leans more than %.0f°.", stood, w.begins-w.lowest, w.tilt)
	case FlipsAndRolls:
		out.Sentence = fmt.Sprintf("It rolls and flips once each and is level again; it loses %.0f m.", math.Max(0, w.begins-w.lowest))
	case InvertedHover:
		if w.onBack < 4 {
			out.Outcome = string(Tumbled)
			out.Sentence = "It does not stay on its back."
			return
		}
		out.Sentence = fmt.Sprintf("It turns over, stays on its back for %.0f s and comes back; it loses %.1f m.", w.onBack, math.Max(0, w.begins-w.lowest))
	case PositionHold:
		out.Sentence = fmt.Sprintf("It holds its place within %.1f m, its height within %.1f m.", w.far, math.Max(w.top-w.begins, w.begins-w.lowest))
		switch {
		case w.refused:
			out.Outcome, out.Sentence = string(NotHeld), fmt.Sprintf("It does not hold: it knows no position. It drifts %.1f m away.", w.far)
		case w.late > circling:
			out.Outcome, out.Sentence = string(Circles), fmt.Sprintf("It does not come to rest: at the end it is still up to %.1f m from where it should hold.", w.late)
		}
	case RadioLost, LostFarOut:
		out.Sentence = fmt.Sprintf("%.0f s after the radio is gone it is still in the air, %.0f m away and %.0f m up.", s.Time-w.lostAt, w.far, s.Height)
		out.Outcome = string(FlewAway)
	default:
		out.Sentence = fmt.Sprintf("It does what is asked in every mode and ends level, %.1f m from where it began.", math.Hypot(s.North, s.East))
	}
}

const (
	// lateTime is the end of a hold that tells whether it has come to rest, s, and circling how far (m) it is then from where it should be
	// if it has not: a good sky alone makes three.
	lateTime = 10.0
	circling = 6.0
	// softly is the energy of a kilogram that lands, J: 2 m/s.
	softly = 2.0
)

// homeSummary of a quad that has come down after the radio was lost far out.
func (w *watcher) homeSummary(out *quad.Rehearsal, s State, p *flyer) {
	at := fmt.Sprintf("%.0f m from where it took off, %.0f s after the radio was gone", math.Hypot(s.North, s.East), math.Max(w.moment, w.hit)-w.lostAt)
	speed := math.Sqrt(2 * w.hardest / math.Max(0.01, p.mass))
	how := "lands"
	if w.outcome == Crashed {
		how = fmt.Sprintf("comes down at %.0f m/s", speed)
	}
	switch {
	case w.refused:
		out.Sentence = "It does not come home, for it does not know where that is, and " + how + " " + at + "."
	case w.gaveUp:
		out.Sentence = "It sets out for home, loses its way, gives up and " + how + " " + at + "."
	case p.set.Policy == quad.PolicyReturn:
		out.Sentence = "It comes home and " + how + " " + at + "."
	default:
		out.Sentence = quad.Upper(how) + " " + at + "."
	}
}

func (w *watcher) figures(run *Run, of *Stepper) {
	add := func(name string, value float64, unit string) {
		run.Figures = append(run.Figures, Figured{name, round2(value), unit})
	}
	add("highest", w.top, "m")
	add("farthest", w.far, "m")
	add("fastest climb", w.climbed, "m/s")
	add("fastest over ground", w.fastest, "m/s")
	add("highest current", w.amps, "A")
	add("lowest pack voltage", w.volts, "V")
	add("drawn", of.charge/3.6, "mAh")
	if of.cells.capacity > 0 {
		add("left in the pack", 100*of.cells.left(of.charge), "%")
	}
	add("warmest winding", w.warmest, "°C")
	by, _ := w.ripple()
	add("shaking", by, "deg/s")
	if run.Impact > 0 {
		add("energy of the impact", run.Impact, "J")
	}
}
