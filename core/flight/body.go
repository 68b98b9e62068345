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

// along sets y to a + h d.
func (y *rigid) along(a, d *rigid, h float64) {
	y.px, y.py, y.pz = a.px+h*d.px, a.py+h*d.py, a.pz+h*d.pz
	y.vx, y.vy, y.vz = a.vx+h*d.vx, a.vy+h*d.vy, a.vz+h*d.vz
	y.qw, y.qx, y.qy, y.qz = a.qw+h*d.qw, a.qx+h*d.qx, a.qy+h*d.qy, a.qz+h*d.qz
	y.wx, y.wy, y.wz = a.wx+h*d.wx, a.wy+h*d.wy, a.wz+h*d.wz
}

// point under or over which a contact lies in the body: a foot below each motor, and a top above it.
type point struct{ x, y float64 }

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
	drag               float64    // rho CdA / 2
	wind               [3]float64 // north, east, down: the air moves this way now
	motors             [4]point
	feet, tops         float64  // m below the motors' plane
	reach              float64  // of the farthest contact point
	radius             float64  // of a propeller
	slowest, fastest   float64  // m/s through the discs, beyond which the blades are stalled and nothing more changes
	k                  [4]rigid // room for the four slopes of a step
	y                  rigid
	stiffness, damping float64
}

// legOf a frame, m from its feet to the middle; a frame lies on something, whatever nobody told.
func legOf(f quad.Frame) float64 { return math.Max(f.LegHeight/1000, 0.01) }

// newBody with its arms, and the places of the motors from its centre of gravity.
func newBody(in Input, arms, places [4]airframe.Spot) body {
	inertia := airframe.Inertia(in.Mass, arms)
	b := body{
		mass: in.Mass, invMass: 1 / in.Mass,
		ix: inertia[0], iy: inertia[1], iz: inertia[2],
		invX: 1 / inertia[0], invY: 1 / inertia[1], invZ: 1 / inertia[2],
		drag:   airframe.DragOf(in.Parts.Frame, in.Site.Density),
		wind:   [3]float64{in.Site.WindNorth, in.Site.WindEast, 0},
		radius: in.Parts.Propeller.Diameter / 2000,
	}
	leg := legOf(in.Parts.Frame)
	b.feet, b.tops = leg, -topHeight
	for i, p := range places {
		b.motors[i] = point{p.X, p.Y}
		b.reach = math.Max(b.reach, math.Sqrt(p.X*p.X+p.Y*p.Y+leg*leg))
	}
	b.stiffness = in.Mass * airframe.Gravity / 4 / contactSink
	b.damping = 0.5 * 2 * math.Sqrt(b.stiffness*in.Mass/4)
	return b
}

// slope writes the state's rate of change under a push to d; ground adds the contact forces.
func (b *body) slope(d, s *rigid, f *push, through *through, ground bool) {
	w, x, y, z := s.qw, s.qx, s.qy, s.qz
	// Third column of the rotation matrix: the body's down axis in the world.
	r13, r23, r33 := 2*(x*z+w*y), 2*(y*z-w*x), 1-2*(x*x+y*y)

	ax, ay, az := s.vx-b.wind[0], s.vy-b.wind[1], s.vz-b.wind[2]
	k := b.drag * b.invMass * math.Sqrt(ax*ax+ay*ay+az*az)
	wx, wy, wz := s.wx, s.wy, s.wz
	u := -(r13*ax + r23*ay + r33*az) // up through the air, along the rotors' axis
	if u < b.slowest {               // no min and max here: they mind what is no number, and cost four times as much
		u = b.slowest
	} else if u > b.fastest {
		u = b.fastest
	}
	t := (f.thrust - through.q*u - through.qx*wy + through.qy*wx) * b.invMass
	d.px, d.py, d.pz = s.vx, s.vy, s.vz
	d.vx, d.vy, d.vz = -t*r13-k*ax, -t*r23-k*ay, airframe.Gravity-t*r33-k*az
	d.qw = 0.5 * (-x*wx - y*wy - z*wz)
	d.qx = 0.5 * (w*wx + y*wz - z*wy)
	d.qy = 0.5 * (w*wy - x*wz + z*wx)
	d.qz = 0.5 * (w*wz + x*wy - y*wx)
	tx := f.x + through.qy*u - through.qyy*wx + through.qxy*wy - wy*through.spin
	ty := f.y - through.qx*u + through.qxy*wx - through.qxx*wy + wx*through.spin
	tz := f.z
	if ground {
		var c push3
		b.contact(&c, s, r33)
		d.vx += c.fx * b.invMass
		d.vy += c.fy * b.invMass
		d.vz += c.fz * b.invMass
		tx, ty, tz = tx+c.tx, ty+c.ty, tz+c.tz
	}
	d.wx = (tx - (b.iz-b.iy)*wy*wz) * b.invX
	d.wy = (ty - (b.ix-b.iz)*wz*wx) * b.invY
	d.wz = (tz - (b.iy-b.ix)*wx*wy) * b.invZ
}

// push3 is the ground's force in the world and its torque in the body.
type push3 struct{ fx, fy, fz, tx, ty, tz float64 }

// edgewise is the share of the vertical in the body's down axis under which feet and tops may touch at once.
const edgewise = 0.15

// contact sums what the ground does to feet and tops.
func (b *body) contact(out *push3, s *rigid, r33 float64) {
	if r33 > -edgewise { // upright: a top is above its own foot by more than any foot sinks
		b.touch(out, s, r33, b.feet)
	}
	if r33 < edgewise {
		b.touch(out, s, r33, b.tops)
	}
}

// touch adds what the ground does to the four points at a height in the body. It works in body axes, where the points stand still: the
// ground's down direction n is the third row of the rotation matrix, and a point's depth is the body's plus n times the point.
func (b *body) touch(out *push3, s *rigid, r33, high float64) {
	w, x, y, z := s.qw, s.qx, s.qy, s.qz
	nx, ny, nz := 2*(x*z-w*y), 2*(y*z+w*x), r33
	middle := s.pz + nz*high // depth of the middle between the points
	if middle+b.reach*math.Sqrt(nx*nx+ny*ny) <= 0 {
		return
	}
	r11, r12, r13 := 1-2*(y*y+z*z), 2*(x*y-w*z), 2*(x*z+w*y)
	r21, r22, r23 := 2*(x*y+w*z), 1-2*(x*x+z*z), 2*(y*z-w*x)
	wx, wy, wz := s.wx, s.wy, s.wz
	vx := r11*s.vx + r21*s.vy + nx*s.vz + wy*high
	vy := r12*s.vx + r22*s.vy + ny*s.vz - wx*high
	vz := r13*s.vx + r23*s.vy + nz*s.vz
	var fx, fy, fz, tx, ty, tz float64
	for i := range b.motors {
		c := &b.motors[i]
		deep := middle + nx*c.x + ny*c.y
		if deep <= 0 {
			continue
		}
		ux, uy, uz := vx-wz*c.y, vy+wz*c.x, vz+wx*c.y-wy*c.x
		sinking := nx*ux + ny*uy + nz*uz
		n := b.stiffness*deep + b.damping*sinking
		if n <= 0 {
			continue
		}
		g := n * (friction / slip)
		if sliding := ux*ux + uy*uy + uz*uz - sinking*sinking; sliding > slip*slip {
			g = friction * n / math.Sqrt(sliding)
		}
		n -= g * sinking // takes the normal part out of the friction below
		px, py, pz := g*ux+n*nx, g*uy+n*ny, g*uz+n*nz
		fx, fy, fz = fx-px, fy-py, fz-pz
		tx, ty, tz = tx-c.y*pz, ty+c.x*pz, tz+c.y*px-c.x*py
	}
	out.fx += r11*fx + r12*fy + r13*fz
	out.fy += r21*fx + r22*fy + r23*fz
	out.fz += nx*fx + ny*fy + nz*fz
	out.tx += tx - high*fy
	out.ty += ty + high*fx
	out.tz += tz
}

// advance integrates one step of h seconds with the classical fourth-order Runge-Kutta method, and with the midpoint method where the
// ground is near: its blows are no smooth force, and nothing is gained by more. It says whether the ground is near.
func (b *body) advance(s *rigid, p *pushes, h float64) (ground bool) {
	ground = s.pz+b.reach+0.02 > 0
	k1, k2, k3, k4, y := &b.k[0], &b.k[1], &b.k[2], &b.k[3], &b.y
	b.slope(k1, s, &p.begin, &p.air[0], ground)
	y.along(s, k1, h/2)
	b.slope(k2, y, &p.middle, &p.air[1], ground)
	if ground {
		y.along(s, k2, h)
		*s = *y
		s.level()
		return true
	}
	y.along(s, k2, h/2)
	b.slope(k3, y, &p.middle, &p.air[1], false)
	y.along(s, k3, h)
	b.slope(k4, y, &p.end, &p.air[2], false)
	g := h / 6
	s.px += g * (k1.px + 2*(k2.px+k3.px) + k4.px)
	s.py += g * (k1.py + 2*(k2.py+k3.py) + k4.py)
	s.pz += g * (k1.pz + 2*(k2.pz+k3.pz) + k4.pz)
	s.vx += g * (k1.vx + 2*(k2.vx+k3.vx) + k4.vx)
	s.vy += g * (k1.vy + 2*(k2.vy+k3.vy) + k4.vy)
	s.vz += g * (k1.vz + 2*(k2.vz+k3.vz) + k4.vz)
	s.wx += g * (k1.wx + 2*(k2.wx+k3.wx) + k4.wx)
	s.wy += g * (k1.wy + 2*(k2.wy+k3.wy) + k4.wy)
	s.wz += g * (k1.wz + 2*(k2.wz+k3.wz) + k4.wz)
	s.qw += g * (k1.qw + 2*(k2.qw+k3.qw) + k4.qw)
	s.qx += g * (k1.qx + 2*(k2.qx+k3.qx) + k4.qx)
	s.qy += g * (k1.qy + 2*(k2.qy+k3.qy) + k4.qy)
	s.qz += g * (k1.qz + 2*(k2.qz+k3.qz) + k4.qz)
	s.level()
	return false
}

// Bounds of what the model is good for. Beyond them a frame is in pieces; they keep an absurd input from running into infinity.
const (
	fastestWay  = 2000.0 // m/s
	fastestTurn = 1000.0 // rad/s
)

// bound keeps speed and rotation within what the model is good for.
func (y *rigid) bound() {
	if v := y.vx*y.vx + y.vy*y.vy + y.vz*y.vz; v > fastestWay*fastestWay {
		k := fastestWay / math.Sqrt(v)
		y.vx, y.vy, y.vz = k*y.vx, k*y.vy, k*y.vz
	}
	if w := y.wx*y.wx + y.wy*y.wy + y.wz*y.wz; w > fastestTurn*fastestTurn {
		k := fastestTurn / math.Sqrt(w)
		y.wx, y.wy, y.wz = k*y.wx, k*y.wy, k*y.wz
	}
}

// level brings the attitude back to length one.
func (y *rigid) level() {
	n := 1 / math.Sqrt(y.qw*y.qw+y.qx*y.qx+y.qy*y.qy+y.qz*y.qz)
	y.qw, y.qx, y.qy, y.qz = y.qw*n, y.qx*n, y.qy*n, y.qz*n
}
