package flight

import (
	"math"

	"vividperch/core/airframe"
	"vividperch/core/quad"
	"vividperch/core/senses"
)

// Navigation of the settings: how it keeps a place and comes home.
type Navigation struct {
	Hold       quad.Range   `json:"hold"`     // position hold
	ComeHome   quad.Range   `json:"comeHome"` // by a switch
	Way        quad.HomeWay `json:"way"`
	WayHeight  float64      `json:"wayHeight" unit:"m"`
	Speed      float64      `json:"speed" unit:"m/s"` // on the way home; 0 is the usual one
	AtHome     quad.AtHome  `json:"atHome"`
	Near       float64      `json:"near" unit:"m"` // nearer than this it comes down where it is
	Satellites int          `json:"satellites"`    // that it wants at least; 0 is the usual number
}

// homeSpeed is how fast it comes home, m/s over ground, where the wind lets it.
func (n Navigation) homeSpeed() float64 {
	if n.Speed == 0 {
		return UsualHomeSpeed
	}
	return n.Speed
}

// Phase of a quad that navigates.
type Phase string

const (
	ByHand    Phase = ""        // the sticks fly it
	Holding   Phase = "holding" // its place and height
	Climbing  Phase = "climbing"
	Homing    Phase = "homing"
	Lands     Phase = "landing" // at home, or where it is when that is near
	ComesDown Phase = "comesDown"
	Refused   Phase = "refused" // it does not know where it is, or where home is
)

// The loop from place to lean. A place that is off by a metre asks for 0.9 m/s, a speed that is off by 1 m/s for 1.6 m/s², and a little more for as
// long as it stays off, which is what wind needs. With a heading that is off by an angle, both are turned by it: see [CirclesFrom].
const (
	navRate    = 50   // Hz
	perPlace   = 0.9  // 1/s
	perSpeed   = 1.6  // 1/s
	sumSpeed   = 0.35 // 1/s²
	sumMost    = 3.5  // m/s² that it keeps against the wind
	backMost   = 5.0  // m/s at most back to where it should be
	leansMost  = 30.0 // deg
	turnsBy    = 2.0  // 1/s of the way to the bearing of home
	turnsMost  = 60.0 // deg/s
	climbBy    = 0.8  // 1/s
	climbMost  = 2.5  // m/s
	sinkMost   = 2.0  // m/s
	sinkSlow   = 0.6  // m/s
	slowUnder  = 8.0  // m
	atHome     = 3.0  // m from it, it has arrived
	slowAtHome = 1.0  // m/s
	givesUp    = 25.0 // m farther away than it has been: it has lost its way, and comes down
	usualHover = 0.35 // throttle that carries a quad of which it has learned nothing
	usualSats  = 6
)

// UsualHomeSpeed is how fast it comes home where the settings leave that to the firmware, m/s.
const UsualHomeSpeed = 5.0

// ThrottleRest is the share of the throttle's way to either side of its middle within which a hold keeps its height.
const ThrottleRest = 0.1

// What its senses add. A satellite receiver's error wanders about in a minute, its speed is good to a few centimetres a second, both come late.
const (
	placeLate   = 8    // looks, 0.16 s
	placeKeeps  = 60.0 // s
	placeSmooth = 1.0  // s
	speedNoise  = 0.05 // m/s for each of dilution
	heightShare = 0.3  // of the barometer's noise is left after the accelerometer
)

// CirclesFrom is the heading error (deg) from which on a hold does not come to rest but circles ever wider, for a strength of self-level (1/s), which
// is how fast it leans. With a error ψ place and speed that are off ask for an acceleration turned by it: s³ + e^{iψ} (b s + c)(a + s) = 0, with a per
// place, b per speed and c for what stays off, times the lag of the lean and the delay of the satellites. On the edge s is iω: its length gives ω, and
// its angle ψ.
func CirclesFrom(pull float64) float64 {
	const a, b, c, late = perPlace, perSpeed, sumSpeed, (placeLate + 0.5) / navRate
	lags := func(w float64) float64 { // over 1 the loop still has strength
		return math.Hypot(c, b*w) * math.Hypot(a, w) / (w * w * w * math.Hypot(1, w/pull))
	}
	low, high := 0.05, 50.0
	for range 60 {
		if w := (low + high) / 2; lags(w) > 1 {
			low = w
		} else {
			high = w
		}
	}
	return math.Max(0, (math.Atan2(b*low, c)+math.Atan2(low, a)-math.Pi/2-low*late-math.Atan(low/pull))*degrees)
}

// look at where it is: north and east, and their change.
type look struct{ north, east, vn, ve float64 }

// sensed is what its senses see of a quad in the air.
type sensed struct {
	now  *rigid
	feet float64 // m below the middle, and what it is held above the ground
	amps float64 // A, of the pack
}

func (s *Stepper) sensed() sensed { return sensed{&s.now, s.body.feet + s.aside, s.packAmp} }

// navigator flies to where it wants to be, by what its senses tell it.
type navigator struct {
	set                 Navigation
	is                  quad.PlaceActual
	noise               noise
	late                [placeLate]look
	lates               int // of them, as fast as it looks
	at                  int
	wrong               [2]float64 // m, the present error of the receiver's place
	off                 [2]float64 // m, what is left of it in that of the board, which goes by its accelerometer meanwhile
	keep, fresh, smooth float64    // shares from one look to the next
	time                float64

	every, toNext int
	h             float64

	phase     Phase
	home      [2]float64
	knowsHome bool
	top       float64 // m, the highest that it believes to have been
	hover     float64 // throttle that carries it, learned; 0 not yet
	amps      float64 // A, of a hover
	want      [2]float64
	height    float64
	sum       [2]float64 // m/s², against the wind
	push      float64    // throttle
	nearest   float64
	still     float64 // s on the ground
	out       command
}

// newNavigator on a controller that runs every h seconds; d is what the quad is driven by.
func newNavigator(in Input, d airframe.Drive, h float64) navigator {
	n := navigator{set: in.Settings.Nav, is: in.Actual.Place, noise: newNoise(in.Seed, 5), every: max(1, int(math.Round(1/(h*navRate))))}
	n.h = h * float64(n.every)
	n.lates = max(1, min(placeLate, int(math.Round(placeLate/(navRate*n.h)))))
	n.keep = math.Exp(-n.h / placeKeeps)
	n.fresh, n.smooth = math.Sqrt(1-n.keep*n.keep), 1-math.Exp(-n.h/placeSmooth)
	if p, ok := d.Hover(in.Mass); ok {
		n.amps = p.PackCurrent
	}
	for i := range n.off {
		n.wrong[i] = n.spread() * n.noise.normal()
		n.off[i] = n.wrong[i]
	}
	n.set.Speed = n.set.homeSpeed()
	if n.set.Satellites == 0 {
		n.set.Satellites = usualSats
	}
	return n
}

// navigates says whether anything can make it navigate.
func (s *Settings) navigates() bool {
	return s.Nav.Hold.Used() || s.Nav.ComeHome.Used() || s.Policy == quad.PolicyReturn
}

// spread of a place along one axis, m, one sigma.
func (n *navigator) spread() float64 { return n.is.Dilution * senses.RangingError / math.Sqrt2 }

// WithHold are settings that can be flown in a hold: theirs, or on a channel that nothing else is on.
func WithHold(s Settings) Settings {
	if !s.Nav.Hold.Used() {
		s.Nav.Hold = quad.Range{Channel: aside, From: 1700, To: 2100}
	}
	return s
}

// fixed says whether it knows its place well enough.
func (n *navigator) fixed() bool { return n.is.Satellites >= max(senses.Solves, n.set.Satellites) }

// arms makes the present place its home, where it knows it.
func (n *navigator) arms(of sensed) {
	n.knowsHome = n.is.Fixed && n.is.Satellites >= senses.Solves
	n.home = [2]float64{of.now.px + n.off[0], of.now.py + n.off[1]}
	n.top, n.hover = 0, 0
}

// began in the air: what carries it was learned on the way there.
func (n *navigator) began(hover float64) { n.hover = hover }

// seen is what it takes for its place, after as long as that takes.
func (n *navigator) seen(of sensed) look {
	for i := range n.off {
		n.wrong[i] = n.keep*n.wrong[i] + n.fresh*n.spread()*n.noise.normal()
		n.off[i] += n.smooth * (n.wrong[i] - n.off[i])
	}
	s := speedNoise * n.is.Dilution
	was := n.late[n.at]
	n.late[n.at] = look{of.now.px + n.off[0], of.now.py + n.off[1], of.now.vx + s*n.noise.normal(), of.now.vy + s*n.noise.normal()}
	if n.at++; n.at == n.lates {
		n.at = 0
	}
	n.time += n.h
	return was
}

// heightSeen above where it was armed, m.
func (n *navigator) heightSeen(of sensed, armed bool) float64 {
	h := -of.now.pz - of.feet + n.is.HeightDrift*n.time/300 + heightShare*n.is.HeightNoise*n.noise.normal()
	if armed {
		h += n.is.HeightJump
	}
	return h
}

// heading that it takes for its own, rad clockwise from north: the field along the ground with what the current adds to the right of the nose.
func (n *navigator) heading(of sensed) float64 {
	q := of.now
	sin, cos := 2*(q.qw*q.qz+q.qx*q.qy), 1-2*(q.qy*q.qy+q.qz*q.qz)
	if n.is.Disturbs != 0 && n.is.Horizontal > 0 && n.amps > 0 {
		l := math.Hypot(sin, cos)
		sin, cos = n.is.Horizontal*sin/l-n.is.Disturbs*of.amps/n.amps, n.is.Horizontal*cos/l
	}
	if n.is.Backwards {
		sin = -sin
	}
	return math.Atan2(sin, cos) + n.is.HeadingOff/degrees
}

// steer says what it flies now in place of the sticks' command, or nil where the sticks fly it. The throttle of a command is that of a stick that a
// curve has been through.
func (n *navigator) steer(c *controller, cmd *command, of sensed) *command {
	lost := c.inLoss && c.s.Policy == quad.PolicyReturn
	home, hold := lost || !c.inLoss && cmd.home, !c.inLoss && cmd.hold
	if !c.armed || !home && !hold {
		n.phase = ByHand
	}
	if n.toNext--; n.toNext > 0 {
		if n.phase == ByHand || n.phase == Refused {
			return n.instead(c, lost)
		}
		return &n.out
	}
	n.toNext = n.every
	at, height := n.seen(of), n.heightSeen(of, c.armed)
	if !c.armed {
		return nil
	}
	n.top = math.Max(n.top, height)
	if n.phase == ByHand && height > 0.5 && math.Abs(of.now.vz) < 0.5 && cmd.throttle > 0 {
		if n.hover == 0 {
			n.hover = cmd.throttle
		}
		n.hover += (1 - math.Exp(-n.h/2)) * (cmd.throttle - n.hover)
	}
	if n.phase == ByHand && (home || hold) {
		n.begin(at, height, home)
	}
	if home && n.phase == Holding {
		n.begin(at, height, true)
	}
	if n.phase == ByHand || n.phase == Refused {
		return n.instead(c, lost)
	}
	if hold && !home && cmd.rest && height < 0.5 {
		n.phase = ByHand // it stands, and is to stay so
		return nil
	}
	n.out = command{arm: lost || cmd.arm, level: true}
	n.fly(c, cmd, of, at, height, hold && !home)
	return &n.out
}

// instead of navigating: after a loss it comes down where it is, by the landing throttle; else the sticks fly it, level.
func (n *navigator) instead(c *controller, lost bool) *command {
	if !lost || !c.armed {
		return nil
	}
	n.out = command{throttle: c.s.LandPush, arm: c.armed, level: true}
	return &n.out
}

func (n *navigator) begin(at look, height float64, home bool) {
	n.want, n.height, n.sum, n.still = [2]float64{at.north, at.east}, height, [2]float64{}, 0
	n.push = n.hoverNow()
	switch {
	case !n.fixed() || home && !n.knowsHome:
		n.phase = Refused
	case !home:
		n.phase = Holding
	case n.away(at) < n.set.Near:
		n.phase = Lands
	default:
		n.phase = Climbing
		switch n.set.Way {
		case quad.WaySet:
			n.height = math.Max(height, n.set.WayHeight)
		case quad.WayHighest:
			n.height = n.top
		}
	}
	n.nearest = n.away(at)
}

// away from home, m.
func (n *navigator) away(at look) float64 { return math.Hypot(at.north-n.home[0], at.east-n.home[1]) }

func (n *navigator) fly(c *controller, cmd *command, of sensed, at look, height float64, byHand bool) {
	away := n.away(at)
	if n.phase == Climbing && height > n.height-1 {
		n.phase, n.nearest = Homing, away
	}
	if n.phase == Homing {
		n.want = n.home
		n.nearest = math.Min(n.nearest, away)
		switch {
		case away > n.nearest+givesUp:
			n.phase = ComesDown
		case away >= atHome || math.Hypot(at.vn, at.ve) >= slowAtHome:
		case n.set.AtHome == quad.HomeDrops:
			n.phase = ComesDown
		default:
			n.phase = Lands
		}
	}
	if n.phase == ComesDown {
		n.out.throttle = c.s.LandPush
		return
	}
	most := backMost
	if n.phase == Homing {
		most = n.set.Speed
	}
	vn, ve := perPlace*(n.want[0]-at.north), perPlace*(n.want[1]-at.east)
	if v := math.Hypot(vn, ve); v > most {
		vn, ve = vn*most/v, ve*most/v
	}
	heading := n.heading(of)
	sin, cos := math.Sincos(heading)
	climb := math.Max(-sinkMost, math.Min(climbMost, climbBy*(n.height-height)))
	if byHand { // the sticks move the place that it holds
		forward, right := backMost*cmd.pitch, backMost*cmd.roll
		if math.Hypot(forward, right) > 0.1 {
			vn, ve = cos*forward-sin*right, sin*forward+cos*right
			n.want = [2]float64{at.north, at.east}
		}
		n.out.rates[2] = cmd.rates[2]
		if x := cmd.lever - 0.5; math.Abs(x) > ThrottleRest {
			climb, n.height = math.Max(-sinkMost, math.Min(climbMost, 2*climbMost*x)), height
		}
	}
	if n.phase == Lands {
		if climb = -sinkMost; height < slowUnder {
			climb = -sinkSlow
		}
	}
	n.lean(c, at, vn, ve, sin, cos)
	if n.phase == Homing && away > atHome {
		off := math.Remainder(math.Atan2(n.home[1]-at.east, n.home[0]-at.north)-heading, 2*math.Pi) * degrees
		n.out.rates[2] = math.Max(-turnsMost, math.Min(turnsMost, turnsBy*off))
	}
	n.lifts(of, climb)
	if n.phase == Lands && math.Abs(of.now.vz) < 0.15 && n.out.throttle < 0.75*n.hoverNow() {
		if n.still += n.h; n.still > 0.7 {
			n.out.arm, n.out.rest = false, true
		}
	} else {
		n.still = 0
	}
}

// hoverNow is the throttle that carries it, as far as that was learned.
func (n *navigator) hoverNow() float64 {
	if n.hover > 0 {
		return n.hover
	}
	return usualHover
}

// lean towards a speed, by the heading that it believes in.
func (n *navigator) lean(c *controller, at look, vn, ve, sin, cos float64) {
	en, ee := vn-at.vn, ve-at.ve
	n.sum[0], n.sum[1] = n.sum[0]+sumSpeed*en*n.h, n.sum[1]+sumSpeed*ee*n.h
	if s := math.Hypot(n.sum[0], n.sum[1]); s > sumMost {
		n.sum[0], n.sum[1] = n.sum[0]*sumMost/s, n.sum[1]*sumMost/s
	}
	an, ae := perSpeed*en+n.sum[0], perSpeed*ee+n.sum[1]
	limit := math.Min(leansMost, c.s.AngleLimit)
	ahead, right := cos*an+sin*ae, cos*ae-sin*an
	if a, most := math.Hypot(ahead, right), airframe.Gravity*math.Tan(limit/degrees); a > most && a > 0 {
		ahead, right = ahead*most/a, right*most/a
	}
	if c.s.AngleLimit > 0 {
		n.out.pitch = math.Atan(ahead/airframe.Gravity) * degrees / c.s.AngleLimit
		n.out.roll = math.Atan(right/airframe.Gravity) * degrees / c.s.AngleLimit
	}
}

// lifts to a climb, m/s.
func (n *navigator) lifts(of sensed, climb float64) {
	hover, e := n.hoverNow(), climb+of.now.vz
	n.push = math.Max(0.2*hover, math.Min(1, n.push+0.2*hover*e*n.h))
	q := of.now
	upright := math.Max(0.7, 1-2*(q.qx*q.qx+q.qy*q.qy))
	n.out.throttle = math.Max(0, math.Min(1, (n.push+0.2*hover*e)/upright))
}
