package flight

import (
	"math"
	"math/rand/v2"

	"vividperch/core/airframe"
)

// GyroNoise is the noise of one gyro sample that a rehearsal flies with, one sigma in deg/s: 0.006 deg/s per
// root hertz, as small motion sensors are specified, over the half of the sample rate. Without any, a quad
// whose feedback has the wrong sign would stand on the tip of a needle for ever.
const GyroNoise = 0.15

// accelNoise is that of one accelerometer sample, m/s²: 100 µg per root hertz over half a kilohertz and some for the frame.
const accelNoise = 0.05

const noiseTable = 1 << 12

// normal values, drawn once: picking one is far cheaper than drawing it in every step.
var normal = func() (t [noiseTable]float64) {
	r := rand.New(rand.NewPCG(1, 1))
	sum, squares := 0.0, 0.0
	for i := range t {
		t[i] = r.NormFloat64()
		sum += t[i]
	}
	for i := range t {
		t[i] -= sum / noiseTable
		squares += t[i] * t[i]
	}
	for i := range t {
		t[i] /= math.Sqrt(squares / noiseTable)
	}
	return t
}()

// sensors are the board's gyro and accelerometer, with their noise and the shaking of what turns out of balance.
type sensors struct {
	noise  noise
	seed   uint64
	scale  float64    // of the gyro's noise, rad/s
	gyro   [3]float64 // rad/s, as last shown
	before [3]float64 // velocity one step ago, world
	shaken bool
	high   float64 // m that the discs are above the middle
}

func newSensors(in Input) sensors {
	s := sensors{noise: newNoise(in.Seed, 0), seed: in.Seed, scale: in.Noise / degrees, high: 0.02}
	for _, x := range in.Actual.Imbalance {
		s.shaken = s.shaken || x > 0
	}
	return s
}

// read lets the gyro show the present rotation. A mass m at e from a rotor's axis pulls with m e w² once in a turn: over the
// frame's inertia that is a rotation of amplitude m e w arm / I, the most of it about the yaw axis.
func (s *sensors) read(of *Stepper) {
	n := &of.now
	s.before = [3]float64{n.vx, n.vy, n.vz}
	s.gyro = [3]float64{n.wx, n.wy, n.wz}
	if s.scale > 0 {
		r := s.noise.bits()
		s.gyro[0] += s.scale * normal[r>>52]
		s.gyro[1] += s.scale * normal[r>>40&(noiseTable-1)]
		s.gyro[2] += s.scale * normal[r>>28&(noiseTable-1)]
	}
	if !s.shaken {
		return
	}
	for i := range of.rotors {
		r := &of.rotors[i]
		if r.imbalance == 0 {
			continue
		}
		r.phase = math.Mod(r.phase+r.speed*of.h, 2*math.Pi)
		sin, cos := math.Sincos(r.phase)
		pull := r.imbalance * r.speed
		s.gyro[0] += pull * s.high * of.body.invX * sin
		s.gyro[1] += pull * s.high * of.body.invY * cos
		s.gyro[2] += pull * r.arm * of.body.invZ * sin
	}
}

// accel is the specific force that the accelerometer shows, m/s² ahead, right and down.
func (s *sensors) accel(of *Stepper) [3]float64 {
	n := &of.now
	ax, ay, az := (n.vx-s.before[0])/of.h, (n.vy-s.before[1])/of.h, (n.vz-s.before[2])/of.h-airframe.Gravity
	w, x, y, z := n.qw, n.qx, n.qy, n.qz
	out := [3]float64{
		(1-2*(y*y+z*z))*ax + 2*(x*y+w*z)*ay + 2*(x*z-w*y)*az,
		2*(x*y-w*z)*ax + (1-2*(x*x+z*z))*ay + 2*(y*z+w*x)*az,
		2*(x*z+w*y)*ax + 2*(y*z-w*x)*ay + (1-2*(x*x+y*y))*az,
	}
	if s.scale > 0 {
		// Drawn anew from the moment, so that looking twice or not at all makes no other flight.
		at := newNoise(s.seed, uint64(of.steps)<<8)
		at.bits()
		for i := range out {
			out[i] += accelNoise * at.normal()
		}
	}
	for i := range of.rotors {
		r := &of.rotors[i]
		sin, cos := math.Sincos(r.phase)
		pull := r.imbalance * r.speed * r.speed * of.body.invMass
		out[0] += pull * cos
		out[1] += pull * sin
	}
	return out
}
