package flight

import (
	"math"

	"vividperch/core/airframe"
	"vividperch/core/quad"
)

// rigid is the state that is integrated: place and speed in the world, attitude (body to world), rotation
// in the body. Scalars instead of arrays keep the inner loop free of bounds checks.
type rigid struct {
	px, py, pz     float64
	vx, vy, vz     float64
	qw, qx, qy, qz float64
	wx, wy, wz     float64
}

func (a *rigid) plus(d *rigid, h float64) rigid {
	return rigid{
		a.px + h*d.px, a.py + h*d.py, a.pz + h*d.pz,
		a.vx + h*d.vx, a.vy + h*d.vy, a.vz + h*d.vz,
		a.qw + h*d.qw, a.qx + h*d.qx, a.qy + h*d.qy, a.qz + h*d.qz,
		a.wx + h*d.wx, a.wy + h*d.wy, a.wz + h*d.wz,
	}
}

// push is what the rotors do to the body at one instant: thrust along the body's up axis and torque.
type push struct{ thrust, x, y, z float64 }

// point of contact in the body: four feet below the motors and four tops above them.
type point struct{ x, y, z float64 }

// Contact law: a spring and damper along the normal, Coulomb friction smoothed below a slip speed.
const (
	contactSink = 0.002 // m a foot sinks in under a quarter of the weight
	friction    = 0.6
	slip        = 0.03 // m/s
	topHeight   = 0.03 // m, bells and propellers above the motor plane
)

type body struct {
	mass, invMass      float64
	ix, iy, iz         float64
	invX, invY, invZ   float64
	drag               float64 // rho CdA / 2
	windN, windE       float64
	contacts           [8]point
	reach              float64 // of the farthest contact point
	stiffness, damping float64
}

func newBody(in Input, places [4]airframe.Place) body {
	inertia := airframe.Inertia(in.Mass, places)
	b := body{
		mass: in.Mass, invMass: 1 / in.Mass,
		ix: inertia[0], iy: inertia[1], iz: inertia[2],
		invX: 1 / inertia[0], invY: 1 / inertia[1], invZ: 1 / inertia[2],
		drag:  in.Site.Density * in.Parts.Frame.DragArea * 1e-4 / 2,
		windN: in.Site.WindNorth, windE: in.Site.WindEast,
	}
	leg := math.Max(in.Parts.Frame.LegHeight/1000, 0.01)
	for i, p := range places {
		b.contacts[i] = point{p.X, p.Y, leg}
		b.contacts[i+4] = point{p.X, p.Y, -topHeight}
		b.reach = math.Max(b.reach, math.Sqrt(p.X*p.X+p.Y*p.Y+leg*leg))
	}
	b.stiffness = in.Mass * airframe.Gravity / 4 / contactSink
	b.damping = 0.5 * 2 * math.Sqrt(b.stiffness*in.Mass/4)
	return b
}

// slope of the state under a push; ground adds the contact forces.
func (b *body) slope(s *rigid, f *push, ground bool) rigid {
	w, x, y, z := s.qw, s.qx, s.qy, s.qz
	// Third column of the rotation matrix: the body's down axis in the world.
	r13, r23, r33 := 2*(x*z+w*y), 2*(y*z-w*x), 1-2*(x*x+y*y)

	ax, ay, az := s.vx-b.windN, s.vy-b.windE, s.vz
	k := 0.0
	if b.drag > 0 {
		k = b.drag * b.invMass * math.Sqrt(ax*ax+ay*ay+az*az)
	}
	t := f.thrust * b.invMass
	d := rigid{
		px: s.vx, py: s.vy, pz: s.vz,
		vx: -t*r13 - k*ax, vy: -t*r23 - k*ay, vz: airframe.Gravity - t*r33 - k*az,
		qw: 0.5 * (-x*s.wx - y*s.wy - z*s.wz),
		qx: 0.5 * (w*s.wx + y*s.wz - z*s.wy),
		qy: 0.5 * (w*s.wy - x*s.wz + z*s.wx),
		qz: 0.5 * (w*s.wz + x*s.wy - y*s.wx),
	}
	tx, ty, tz := f.x, f.y, f.z
	if ground {
		b.contact(s, &d, &tx, &ty, &tz)
	}
	d.wx = (tx - (b.iz-b.iy)*s.wy*s.wz) * b.invX
	d.wy = (ty - (b.ix-b.iz)*s.wz*s.wx) * b.invY
	d.wz = (tz - (b.iy-b.ix)*s.wx*s.wy) * b.invZ
	return d
}

// contact adds the ground's forces to the slope and its torque (body axes) to tx, ty, tz.
func (b *body) contact(s, d *rigid, tx, ty, tz *float64) {
	w, x, y, z := s.qw, s.qx, s.qy, s.qz
	r11, r12, r13 := 1-2*(y*y+z*z), 2*(x*y-w*z), 2*(x*z+w*y)
	r21, r22, r23 := 2*(x*y+w*z), 1-2*(x*x+z*z), 2*(y*z-w*x)
	r31, r32, r33 := 2*(x*z-w*y), 2*(y*z+w*x), 1-2*(x*x+y*y)
	for i := range b.contacts {
		c := &b.contacts[i]
		deep := s.pz + r31*c.x + r32*c.y + r33*c.z
		if deep <= 0 {
			continue
		}
		// Velocity of the point: v + R (omega x c).
		ux, uy, uz := s.wy*c.z-s.wz*c.y, s.wz*c.x-s.wx*c.z, s.wx*c.y-s.wy*c.x
		vx := s.vx + r11*ux + r12*uy + r13*uz
		vy := s.vy + r21*ux + r22*uy + r23*uz
		vz := s.vz + r31*ux + r32*uy + r33*uz
		n := b.stiffness*deep + b.damping*vz
		if n <= 0 {
			continue
		}
		g := friction * n / math.Max(slip, math.Sqrt(vx*vx+vy*vy))
		fx, fy, fz := -g*vx, -g*vy, -n
		d.vx += fx * b.invMass
		d.vy += fy * b.invMass
		d.vz += fz * b.invMass
		// Into body axes for the torque.
		bx := r11*fx + r21*fy + r31*fz
		by := r12*fx + r22*fy + r32*fz
		bz := r13*fx + r23*fy + r33*fz
		*tx += c.y*bz - c.z*by
		*ty += c.z*bx - c.x*bz
		*tz += c.x*by - c.y*bx
	}
}

// advance integrates one step of h seconds with the classical fourth-order Runge-Kutta method; the push is
// given at the beginning, middle and end of the step.
func (b *body) advance(s *rigid, begin, middle, end *push, h float64) {
	ground := s.pz+b.reach+0.02 > 0
	k1 := b.slope(s, begin, ground)
	y := s.plus(&k1, h/2)
	k2 := b.slope(&y, middle, ground)
	y = s.plus(&k2, h/2)
	k3 := b.slope(&y, middle, ground)
	y = s.plus(&k3, h)
	k4 := b.slope(&y, end, ground)
	g := h / 6
	s.px += g * (k1.px + 2*(k2.px+k3.px) + k4.px)
	s.py += g * (k1.py + 2*(k2.py+k3.py) + k4.py)
	s.pz += g * (k1.pz + 2*(k2.pz+k3.pz) + k4.pz)
	s.vx += g * (k1.vx + 2*(k2.vx+k3.vx) + k4.vx)
	s.vy += g * (k1.vy + 2*(k2.vy+k3.vy) + k4.vy)
	s.vz += g * (k1.vz + 2*(k2.vz+k3.vz) + k4.vz)
	s.qw += g * (k1.qw + 2*(k2.qw+k3.qw) + k4.qw)
	s.qx += g * (k1.qx + 2*(k2.qx+k3.qx) + k4.qx)
	s.qy += g * (k1.qy + 2*(k2.qy+k3.qy) + k4.qy)
	s.qz += g * (k1.qz + 2*(k2.qz+k3.qz) + k4.qz)
	s.wx += g * (k1.wx + 2*(k2.wx+k3.wx) + k4.wx)
	s.wy += g * (k1.wy + 2*(k2.wy+k3.wy) + k4.wy)
	s.wz += g * (k1.wz + 2*(k2.wz+k3.wz) + k4.wz)
	n := 1 / math.Sqrt(s.qw*s.qw+s.qx*s.qx+s.qy*s.qy+s.qz*s.qz)
	s.qw, s.qx, s.qy, s.qz = s.qw*n, s.qx*n, s.qy*n, s.qz*n
}

// rotor is one motor with its propeller where it really sits.
type rotor struct {
	speed  float64 // rad/s, never negative: the direction is fixed by the wires
	target float64 // rad/s, where the present duty and voltage would take it
	lift   float64 // N/(rad/s)², signed: negative when it pushes down
	torque float64 // N·m/(rad/s)² on the body about its down axis: against the rotor's own turning
	x, y   float64
}

func newRotor(d airframe.Drive, place airframe.Place, spin, hand quad.Spin, reversed float64) rotor {
	r := rotor{lift: d.ThrustPer, torque: d.TorquePer, x: place.X, y: place.Y}
	if spin == quad.Clockwise {
		r.torque = -r.torque
	}
	if spin != hand {
		r.lift = -d.ThrustPer * reversed
	}
	return r
}

// pushOf the rotors when the share left of each distance to its target is remain.
func pushOf(rotors *[4]rotor, remain float64) push {
	var f push
	for i := range rotors {
		r := &rotors[i]
		w := r.target + (r.speed-r.target)*remain
		w2 := w * w
		t := r.lift * w2
		f.thrust += t
		f.x -= r.y * t
		f.y += r.x * t
		f.z += r.torque * w2
	}
	return f
}
