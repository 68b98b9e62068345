package flight

import (
	"math"

	"vividperch/core/airframe"
	"vividperch/core/motors"
	"vividperch/core/quad"
)

// push is what the rotors do to the body at one instant: thrust along the body's up axis and torque.
type push struct{ thrust, x, y, z float64 }

// through says how a push changes with the air's way through the discs: sums over the rotors of the thrust lost per m/s, and of
// its moments over their places. spin is the angular momentum of what turns, about the body's down axis.
type through struct{ spin, q, qx, qy, qxx, qyy, qxy float64 }

// pushes of one step.
type pushes struct {
	begin, middle, end push
	air                [3]through // at the same three moments
}

// Advance ratios J = v/(n D) at which a usual propeller neither pushes nor takes torque any more, and how much
// torque air from behind puts on one that stands, as a share of what its rotation at that advance ratio would take.
const (
	zeroThrust = 0.9
	zeroTorque = 1.0
	windmill   = 0.3
)

// Shares of the speed of no thrust between which thrust follows the air's way through the disc in a straight line: beyond them the
// blades are stalled.
const (
	stalledUp   = 2.0
	stalledDown = -0.4
)

const (
	stallShare  = 0.97 // of the rotation at the throttle where it stops: below that a motor falls out of step
	restartTime = 0.3  // s, from standing to turning again, once there is throttle for it
	strikeTime  = 0.01 // s, time constant with which the ground stops a propeller
	broken      = 0.35 // share of its thrust that a propeller gives after it struck
)

// rotor is one motor with its propeller where it really sits. Rotation is positive the way its wires and its speed
// controller have it turn forward.
type rotor struct {
	speed    float64 // rad/s
	left     float64 // rad/s, the speed at which the last step left it
	target   float64 // rad/s, where the present duty, voltage and air would take it
	forward  float64 // N/(rad/s)² turning forward, signed: negative when it pushes down
	backward float64 // the same turning backward
	torque   float64 // N·m/(rad/s)² on the body about its down axis, turning forward: against the rotor's own turning
	inertia  float64 // kg·m², signed by the direction of forward about the body's down axis
	loss     float64 // N/(rad/s)/(m/s): thrust lost to the air's way through the disc, per rotation
	x, y     float64
	squares  float64 // A², of the winding's current, summed over the steps since it was looked at
	gain     float64 // of the thrust, by the ground below and its own wake; 1 in free air

	least          float64 // rad/s, below which it falls out of step; 0 never
	stopsAt        float64 // duty
	standing       bool    // it fell out of step
	trying         float64 // s since it has had the duty to start again
	bothWays       bool
	struck         bool
	phase          float64 // rad, of its imbalance
	imbalance, arm float64 // kg·m; m from the middle of the frame
	braking        float64 // share of the usual braking that its speed controller's switching leaves
}

// lossPer is the thrust lost to the air's way through a disc, N/(rad/s)/(m/s).
func lossPer(d airframe.Drive) float64 { return d.ThrustPer * 2 * math.Pi / d.Diameter / zeroThrust }

// inertiaShare of a motor's time constant is its inertia's.
const inertiaShare = 0.5

func newRotor(d airframe.Drive, place airframe.Spot, a quad.OutputActual, in *Input, lag float64) rotor {
	r := rotor{forward: d.ThrustPer, torque: d.TorquePer, x: place.X, y: place.Y, gain: 1, bothWays: a.BothWays}
	r.backward = -d.ThrustPer * in.Parts.Propeller.Reversed
	if a.Spin != in.Actual.Hands[a.Corner] {
		r.forward, r.backward = r.backward, r.forward
	}
	r.loss = lossPer(d)
	// Half the time constant of a motor and its propeller is that of the winding's braking, inertia R / Kt²; as much again goes by until
	// the speed controller has the current up. So the inertia comes to what bell and blades have by their size.
	r.inertia = inertiaShare * lag * d.Constant * d.Constant / d.Resistance
	if a.Spin == quad.Clockwise {
		r.torque = -r.torque
	} else {
		r.inertia = -r.inertia
	}
	if a.StopsAt > 0 {
		r.stopsAt = a.StopsAt / 100
		r.least = stallShare * d.At(r.stopsAt).Rotation
	}
	r.braking = motors.Braking(a.Switching)
	r.imbalance, r.arm = in.Actual.Imbalance[a.Corner]*1e-6, math.Hypot(place.X, place.Y)
	return r
}

// winding has what the rotors' common motor and propeller come to, worked out once.
type winding struct {
	constant, none float64 // V per rad/s; V that turn nothing
	drag, half     float64 // V per (rad/s)² that the air takes, and one over twice that
	conductance    float64 // 1/Ω
	advance        float64 // rad/s of rotation at which air at 1 m/s leaves no torque
}

func newWinding(d airframe.Drive) winding {
	k := d.Resistance * d.TorquePer / d.Constant
	return winding{
		constant: d.Constant, none: d.Resistance * d.NoLoad, drag: k, half: 1 / (2 * k), conductance: 1 / d.Resistance,
		advance: 2 * math.Pi / d.Diameter / zeroTorque,
	}
}

// drive sets the rotation that a duty of -1..1 at a voltage would bring the rotor to, with air coming through its disc from above that
// would leave no torque at a rotation of v rad/s, and gives the current it draws from the pack, A.
func (r *rotor) drive(m *winding, duty, volts, v, h float64) float64 {
	way, share, pushes := 1.0, duty, r.forward
	if duty < 0 {
		way, share, pushes = -1, -duty, r.backward
	}
	if pushes < 0 {
		v = -v // it pushes down: what comes from above comes from behind for it
	}
	b := m.constant - m.drag*v
	c := m.none - share*volts
	if v < 0 {
		c += m.drag * windmill * v * v
	}
	r.target = 0
	if c < 0 {
		r.target = way * (math.Sqrt(b*b-4*m.drag*c) - b) * m.half
	}
	if r.least > 0 {
		r.hold(share, h)
	}
	if r.braking != 1 && math.Abs(r.target) < math.Abs(r.speed) {
		r.target = r.speed + r.braking*(r.target-r.speed) // as far as it gets in one step with less braking
	}
	amps := (share*volts - way*m.constant*r.speed) * m.conductance
	if r.squares += amps * amps; amps > 0 {
		return share * amps
	}
	return 0
}

// hold follows whether the motor keeps step: below its least rotation, with no more to come, it stands until it has
// had the throttle to start for a while.
func (r *rotor) hold(share, h float64) {
	if share == 0 {
		r.standing = false
		return
	}
	if !r.standing {
		if math.Abs(r.target) >= r.least || math.Abs(r.speed) >= r.least {
			return
		}
		r.standing, r.trying = true, 0
	}
	if r.trying += h; share <= r.stopsAt {
		r.trying = 0
	}
	if r.standing = r.trying < restartTime; r.standing {
		r.target = 0
	}
}

// turn the rotors through one step and gather their push. Each goes from its speed towards its target, the gap between them shrinking
// to the shares half and full of it by the middle and the end of the step, and by rate 1/s of it in the beginning.
func (p *pushes) turn(rotors *[4]rotor, half, full, rate float64) {
	if p.air[0] = p.air[2]; !left(rotors) {
		p.air[0].sum(rotors)
	}
	p.begin, p.middle, p.end = push{}, push{}, push{}
	for i := range rotors {
		r := &rotors[i]
		w0, t := r.speed, r.target
		g := w0 - t
		w1, w2 := t+half*g, t+full*g
		k, way := r.forward, r.torque
		if w0 < 0 {
			k, way = r.backward, -way
		}
		if k > 0 {
			k *= r.gain
		}
		r.speed, r.left = w2, w2
		c := g * rate * r.inertia
		p.begin.add(r, k, way, w0*w0, c)
		p.middle.add(r, k, way, w1*w1, c*half)
		p.end.add(r, k, way, w2*w2, c*full)
	}
	p.air[2].sum(rotors)
	// All of it goes with the speeds, so the middle lies on the line between both ends.
	p.air[1].between(&p.air[2], &p.air[0], (half-full)/(1-full))
}

// add a rotor's push at a square of its speed while it speeds up with a torque.
func (p *push) add(r *rotor, k, way, square, torque float64) {
	f := k * square
	p.thrust, p.x, p.y, p.z = p.thrust+f, p.x-r.y*f, p.y+r.x*f, p.z+way*square+torque
}

// left says whether the rotors still turn as the last step left them: nothing stopped one, and nobody set it going.
func left(rotors *[4]rotor) bool {
	for i := range rotors {
		if r := &rotors[i]; r.speed != r.left {
			return false
		}
	}
	return true
}

// sum what the air's way through the discs does at the rotors' present speeds.
func (t *through) sum(rotors *[4]rotor) {
	var spin, q, qx, qy, qxx, qyy, qxy float64 // not in t: these stay in registers
	for i := range rotors {
		r := &rotors[i]
		spin += r.inertia * r.speed
		w := r.loss * math.Abs(r.speed)
		x, y := w*r.x, w*r.y
		q, qx, qy = q+w, qx+x, qy+y
		qxx, qyy, qxy = qxx+x*r.x, qyy+y*r.y, qxy+x*r.y
	}
	*t = through{spin, q, qx, qy, qxx, qyy, qxy}
}

// between a and b, a share of the way.
func (t *through) between(a, b *through, share float64) {
	t.spin, t.q, t.qx, t.qy = a.spin+share*(b.spin-a.spin), a.q+share*(b.q-a.q), a.qx+share*(b.qx-a.qx), a.qy+share*(b.qy-a.qy)
	t.qxx, t.qyy, t.qxy = a.qxx+share*(b.qxx-a.qxx), a.qyy+share*(b.qyy-a.qyy), a.qxy+share*(b.qxy-a.qxy)
}
