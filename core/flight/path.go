package flight

import (
	"math"

	"vividperch/core/airframe"
	"vividperch/core/quad"
	"vividperch/core/site"
)

// Gone is where and how a quad flies when its radio goes: over a place, at a height above home, on a course, at a speed over the ground.
type Gone struct {
	At     site.Offset
	Height float64 // m
	Course float64 // deg clockwise from north
	Speed  float64 // m/s
	Top    float64 // m, the highest that it has been
}

// Down is where and how it came to the ground, or to what stands on it.
type Down struct {
	At     site.Offset
	Height float64 // m above home, of what it came down on
	Speed  float64 // m/s
	After  float64 // s since the radio was gone
	Charge float64 // mAh drawn since
	Struck *site.Area
	Up     bool // it was still in the air at the end
}

// lossLead is how long it flies on with a radio before that goes, s: what its navigation believes has settled by then.
const lossLead = 1.0

// longestLoss is when one that does not come down is given up, s.
func longestLoss(in *Input, g Gone) float64 {
	away := math.Hypot(g.At.East, g.At.North)
	return math.Min(900, 60+3*away/in.Settings.Nav.homeSpeed()+g.Height+in.Settings.Nav.WayHeight)
}

// pathModel flies the loss of a radio by the motion of a point: thrust along an axis that follows what the controller asks for as self-level does, the
// rotors' speed as the steady state of motor, propeller and pack has it, with its lag, drag, gusts, and the navigation itself. It takes for granted that
// the quad flies. It is good to 5 m or 5 % of the whole model (TestPathModelIsAsGoodAsItSays) and some forty times as fast.
type pathModel struct {
	steadyRotors
	in      Input
	drag    float64 // 1/m, over the mass
	radius  float64
	feet    float64
	lag     float64 // s
	hover   float64 // throttle
	turning [rows][columns]turning
	step    float64 // s
}

// turning of the rotors, in the steady state.
type turning struct{ speed, amps float64 }

// The table of what the rotors come to turn at: duty from 0 to 1, and the air's way through the discs from throughMost one way to the other.
const (
	rows, columns = 41, 31
	throughMost   = 15.0 // m/s either way
)

const (
	pathStep   = 0.04 // s
	followsLag = 0.05 // s, from the rotation that self-level asks for to the rotation
	yawLag     = 0.1  // s
)

// newPathModel of an input; an airframe that cannot be computed is a Fault at the part to blame.
func newPathModel(in Input) (*pathModel, error) {
	if err := in.check(); err != nil {
		return nil, err
	}
	pack := in.Pack
	d, err := airframe.NewDrive(in.Parts, pack, in.CellVolt*float64(pack.Cells), in.Site.Density)
	if err != nil {
		return nil, err
	}
	m := &pathModel{
		steadyRotors: newSteadyRotors(d, in.Site.Density), in: in, drag: airframe.DragOf(in.Parts.Frame, in.Site.Density) / in.Mass,
		radius: in.Parts.Propeller.Diameter / 2000, feet: legOf(in.Parts.Frame), step: pathStep, lag: lagOf(in.Parts.Motor),
	}
	for i := range m.turning {
		for j := range m.turning[i] {
			v := throughMost * (2*float64(j)/(columns-1) - 1)
			t := &m.turning[i][j]
			t.speed, t.amps = m.turns(float64(i)/(rows-1), v)
		}
	}
	set := &m.in.Settings
	m.hover = 0.5
	if p, ok := d.Hover(in.Mass); ok {
		m.hover = max(0.05, min(1, set.output().Throttle(p.Duty)))
	}
	return m, nil
}

// lookedUp is what the rotors turn at a duty, with air at v m/s down through the discs.
func (m *pathModel) lookedUp(duty, v float64) turning {
	x := math.Max(0, math.Min(1, duty)) * (rows - 1)
	y := (math.Max(-throughMost, math.Min(throughMost, v)) + throughMost) * (columns - 1) / (2 * throughMost)
	i, j := min(int(x), rows-2), min(int(y), columns-2)
	x, y = x-float64(i), y-float64(j)
	a, b := &m.turning[i], &m.turning[i+1]
	mix := func(p, q, r, s float64) float64 { return (1-x)*((1-y)*p+y*q) + x*((1-y)*r+y*s) }
	return turning{mix(a[j].speed, a[j+1].speed, b[j].speed, b[j+1].speed), mix(a[j].amps, a[j+1].amps, b[j].amps, b[j+1].amps)}
}

// trim is the attitude (rad) and the duty with which it flies level at a velocity in the mean wind, its nose along a course (rad).
type trim struct{ roll, pitch, yaw, duty float64 }

func (m *pathModel) trim(north, east, course float64) trim {
	an, ae := north-m.in.Site.WindNorth, east-m.in.Site.WindEast
	k := m.drag * math.Hypot(an, ae)
	sin, cos := math.Sincos(course)
	// Against the drag it leans with its head, and to the right.
	ahead, right := k*(cos*an+sin*ae), k*(cos*ae-sin*an)
	t := trim{yaw: course, pitch: -math.Atan(ahead / airframe.Gravity)}
	t.roll = math.Atan(right / math.Hypot(airframe.Gravity, ahead))
	want := m.in.Mass * math.Sqrt(airframe.Gravity*airframe.Gravity+ahead*ahead+right*right)
	axis := axisOf(t.roll, t.pitch, course)
	v := -(axis[0]*an + axis[1]*ae)
	side := math.Sqrt(math.Max(0, an*an+ae*ae-v*v))
	low, high := 0.0, 1.0
	for range 40 {
		t.duty = (low + high) / 2
		if m.push(m.lookedUp(t.duty, v).speed, v, side) < want {
			low = t.duty
		} else {
			high = t.duty
		}
	}
	return t
}

// axisOf is the body's down axis in the world.
func axisOf(roll, pitch, yaw float64) [3]float64 {
	sr, cr := math.Sincos(roll)
	sp, cp := math.Sincos(pitch)
	sy, cy := math.Sincos(yaw)
	return [3]float64{cr*sp*cy + sr*sy, cr*sp*sy - sr*cy, cr * cp}
}

// turned is an attitude as a quaternion, body to world.
func turned(roll, pitch, yaw float64) (w, x, y, z float64) {
	sr, cr := math.Sincos(roll / 2)
	sp, cp := math.Sincos(pitch / 2)
	sy, cy := math.Sincos(yaw / 2)
	return cr*cp*cy + sr*sp*sy, sr*cp*cy - cr*sp*sy, cr*sp*cy + sr*cp*sy, cr*cp*sy - sr*sp*cy
}

// lose the radio and fly to the ground, with the input's seed.
func (m *pathModel) lose(g Gone, seed uint64, ground *site.Ground) Down {
	set, h := &m.in.Settings, m.step
	course := g.Course / degrees
	sin, cos := math.Sincos(course)
	start := m.trim(g.Speed*cos, g.Speed*sin, course)
	roll, pitch, yaw := start.roll, start.pitch, course
	s := rigid{px: g.At.North - lossLead*g.Speed*cos, py: g.At.East - lossLead*g.Speed*sin, pz: -g.Height - m.feet, vx: g.Speed * cos, vy: g.Speed * sin}
	s.qw, s.qx, s.qy, s.qz = turned(roll, pitch, yaw)
	in := m.in
	in.Seed = seed
	air := newGusts(in.Site, seed)
	var board controller
	board.s, board.armed, board.heard = *set, true, true
	var nav *navigator
	see := sensed{now: &s, feet: m.feet}
	throttle := set.output().Throttle(start.duty)
	held := command{throttle: throttle, arm: true, level: true}
	if set.navigates() {
		n := newNavigator(in, m.drive, h)
		n.arms(see)
		n.began(m.hover)
		n.home, n.knowsHome = [2]float64{n.off[0], n.off[1]}, n.is.Fixed && n.knowsHome
		n.top = g.Top
		nav = &n
	}
	axis := axisOf(roll, pitch, yaw)
	wind := [3]float64{in.Site.WindNorth, in.Site.WindEast, 0}
	through := -(axis[0]*(s.vx-wind[0]) + axis[1]*(s.vy-wind[1]))
	w := m.lookedUp(start.duty, through).speed
	rollRate, pitchRate, yawRate := 0.0, 0.0, 0.0
	keepW, keepR, keepY := math.Exp(-h/m.lag), math.Exp(-h/followsLag), math.Exp(-h/yawLag)
	limit := set.AngleLimit / degrees
	stands := ground != nil && ground.Stands()
	lasts := longestLoss(&in, g)
	var out Down
	charge, was := 0.0, s
	pack, given := newCells(in), 1.0
	for n := 0; ; n++ {
		t := float64(n)*h - lossLead
		if t > lasts {
			out.Up = true
			break
		}
		if air.on {
			mx, my := s.vx-air.wind[0], s.vy-air.wind[1]
			air.meet(math.Sqrt(mx*mx+my*my+s.vz*s.vz) * h)
			air.now(&wind, 0.5)
		}
		board.inLoss = t > set.Guard
		cmd := &held
		falls := false
		if board.inLoss {
			switch set.Policy {
			case quad.PolicyLand, quad.PolicyReturn:
				cmd = &command{throttle: set.LandPush, arm: board.armed, level: true}
			default:
				falls = true
			}
		}
		if nav != nil {
			if by := nav.steer(&board, cmd, see); by != nil {
				cmd = by
			}
			falls = falls || !cmd.arm
		}
		duty := 0.0
		if !falls {
			duty = set.output().Duty(cmd.throttle)
			if board.inLoss {
				rollRate = keepR*rollRate + (1-keepR)*set.Pull*(cmd.roll*limit-roll-in.Actual.TiltRoll/degrees)
				pitchRate = keepR*pitchRate + (1-keepR)*set.Pull*(-cmd.pitch*limit-pitch-in.Actual.TiltPitch/degrees)
				yawRate = keepY*yawRate + (1-keepY)*cmd.rates[2]/degrees
			}
			if rollRate != 0 || pitchRate != 0 || yawRate != 0 {
				roll, pitch, yaw = roll+h*rollRate, pitch+h*pitchRate, yaw+h*yawRate
				axis = axisOf(roll, pitch, yaw)
				if nav != nil {
					s.qw, s.qx, s.qy, s.qz = turned(roll, pitch, yaw)
				}
			}
		}
		ax, ay, az := s.vx-wind[0], s.vy-wind[1], s.vz-wind[2]
		v2 := ax*ax + ay*ay + az*az
		up := -(axis[0]*ax + axis[1]*ay + axis[2]*az)
		push := 0.0 // of the middle of the step
		if falls {
			w *= keepW
		} else {
			if volts, fell := pack.volts(charge, t); fell {
				given = volts / in.CellVolt
			}
			// A pack that has fallen gives at a duty what a full one gives at less; the motor's current is the same, what the pack is asked for more.
			to := m.lookedUp(duty*given, up)
			to.amps /= given
			see.amps = to.amps
			w = keepW*w + (1-keepW)*to.speed
			if t > 0 {
				charge += to.amps * h
			}
		}
		if w > 1 {
			push = m.push(w, up, math.Sqrt(math.Max(0, v2-up*up))) / in.Mass
			if high := -s.pz; high < 4*m.radius && !falls {
				push *= overGround(m.radius, high)
			}
		}
		k := m.drag * math.Sqrt(v2)
		was = s
		vx, vy, vz := s.vx, s.vy, s.vz
		s.vx += h * (-push*axis[0] - k*ax)
		s.vy += h * (-push*axis[1] - k*ay)
		s.vz += h * (airframe.Gravity - push*axis[2] - k*az)
		// The way is that of the mean of both speeds: exact for a steady pull.
		s.px += h / 2 * (vx + s.vx)
		s.py += h / 2 * (vy + s.vy)
		s.pz += h / 2 * (vz + s.vz)
		height := -s.pz - m.feet
		if stands && t > 0 {
			if a := ground.Struck(site.Offset{East: s.py, North: s.px}, -was.pz-m.feet, height); a != nil {
				out.Struck, out.Height = a, math.Max(0, math.Min(height, *a.Height))
				out.After = t
				break
			}
		}
		if height < touching {
			// Within the step it came down on the way that it went.
			share := 1.0
			if before := -was.pz - m.feet; before > height {
				share = math.Max(0, (before-touching)/(before-height))
			}
			was.px, was.py = was.px+share*(s.px-was.px), was.py+share*(s.py-was.py)
			was.vx, was.vy, was.vz = was.vx+share*(s.vx-was.vx), was.vy+share*(s.vy-was.vy), was.vz+share*(s.vz-was.vz)
			out.After = t - h*(1-share)
			break
		}
	}
	out.At = site.Offset{East: was.py, North: was.px}
	out.Speed = math.Sqrt(was.vx*was.vx + was.vy*was.vy + was.vz*was.vz)
	out.Charge = charge / 3.6
	return out
}

// touching the ground is lower than this, m.
const touching = 0.03
