package flight

import (
	"math"

	"vividperch/core/airframe"
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
	target   float64 // rad/s, where the present duty, voltage and air would take it
	forward  float64 // N/(rad/s)² turning forward, signed: negative when it pushes down
	backward float64 // the same turning backward
	torque   float64 // N·m/(rad/s)² on the body about its down axis, turning forward: against the rotor's own turning
	inertia  float64 // kg·m², signed by the direction of forward about the body's down axis
	loss     float64 // N/(rad/s)/(m/s): thrust lost to the air's way through the disc, per rotation
	x, y     float64
	gain     float64 // of the thrust, by the ground below and its own wake; 1 in free air

	least          float64 // rad/s, below which it falls out of step; 0 never
	stopsAt        float64 // duty
	standing       bool    // it fell out of step
	trying         float64 // s since it has had the duty to start again
	bothWays       bool
	struck         bool
	phase          float64 // rad, of its imbalance
	imbalance, arm float64 // kg·m; m from the middle of the frame
}

func newRotor(d airframe.Drive, place airframe.Place, a quad.OutputActual, in *Input, lag float64) rotor {
	r := rotor{forward: d.ThrustPer, torque: d.TorquePer, x: place.X, y: place.Y, gain: 1, bothWays: a.BothWays}
	r.backward = -d.ThrustPer * in.Parts.Propeller.Reversed
	if a.Spin != in.Actual.Hands[a.Corner] {
		r.forward, r.backward = r.backward, r.forward
	}
	r.loss = d.ThrustPer * 2 * math.Pi / d.Diameter / zeroThrust
	// The time constant of a motor and its propeller is that of the winding's braking: inertia R / Kt².
	r.inertia = lag * d.Constant * d.Constant / d.Resistance
	if a.Spin == quad.Clockwise {
		r.torque = -r.torque
	} else {
		r.inertia = -r.inertia
	}
	if a.StopsAt > 0 {
		r.stopsAt = a.StopsAt / 100
		r.least = stallShare * d.At(r.stopsAt).Rotation
	}
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
	if amps := share * (share*volts - way*m.constant*r.speed) * m.conductance; amps > 0 {
		return amps
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

// gather the rotors' push through one step: every rotor goes from its target plus a gap towards its target, the gap shrinking as
// exp(-t/lag), so every sum is a polynomial of what is left of it.
func (p *pushes) gather(rotors *[4]rotor, half, full, rate float64) {
	var t0, t1, t2, x0, x1, x2, y0, y1, y2, z0, z1, z2 float64
	var a through // at the targets
	var b through // of the gaps
	for i := range rotors {
		r := &rotors[i]
		t, g := r.target, r.speed-r.target
		k, loss, way := r.forward, r.loss, r.torque
		if r.speed < 0 {
			k, loss, way = r.backward, -loss, -way
		}
		if k > 0 {
			k *= r.gain
		}
		tt, tg, gg := t*t, 2*t*g, g*g
		k0, k1, k2 := k*tt, k*tg, k*gg
		t0, t1, t2 = t0+k0, t1+k1, t2+k2
		x0, x1, x2 = x0-r.y*k0, x1-r.y*k1, x2-r.y*k2
		y0, y1, y2 = y0+r.x*k0, y1+r.x*k1, y2+r.x*k2
		z0, z1, z2 = z0+way*tt, z1+way*tg+r.inertia*g*rate, z2+way*gg
		a.add(r, t, loss)
		b.add(r, g, loss)
	}
	h2, f2 := half*half, full*full
	p.begin = push{t0 + t1 + t2, x0 + x1 + x2, y0 + y1 + y2, z0 + z1 + z2}
	p.middle = push{t0 + half*t1 + h2*t2, x0 + half*x1 + h2*x2, y0 + half*y1 + h2*y2, z0 + half*z1 + h2*z2}
	p.end = push{t0 + full*t1 + f2*t2, x0 + full*x1 + f2*x2, y0 + full*y1 + f2*y2, z0 + full*z1 + f2*z2}
	p.air[0].sum(&a, &b, 1)
	p.air[1].sum(&a, &b, half)
	p.air[2].sum(&a, &b, full)
}

// add a rotor that turns at w; loss is signed by the way it turns.
func (t *through) add(r *rotor, w, loss float64) {
	t.spin += r.inertia * w
	w *= loss
	x, y := w*r.x, w*r.y
	t.q, t.qx, t.qy = t.q+w, t.qx+x, t.qy+y
	t.qxx, t.qyy, t.qxy = t.qxx+x*r.x, t.qyy+y*r.y, t.qxy+x*r.y
}

func (t *through) sum(a, b *through, left float64) {
	t.spin, t.q, t.qx, t.qy = a.spin+left*b.spin, a.q+left*b.q, a.qx+left*b.qx, a.qy+left*b.qy
	t.qxx, t.qyy, t.qxy = a.qxx+left*b.qxx, a.qyy+left*b.qyy, a.qxy+left*b.qxy
}
