package flight

import (
	"math"
	"math/rand/v2"
)

// GyroNoise is the noise of one gyro sample that a rehearsal flies with, one sigma in deg/s: 0.006 deg/s per
// root hertz, as small motion sensors are specified, over the half of the sample rate. Without any, a quad
// whose feedback has the wrong sign would stand on the tip of a needle for ever.
const GyroNoise = 0.15

// gyro adds seeded noise to the true rotation.
type gyro struct {
	state uint64
	scale float64 // rad/s
}

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

func newGyro(seed uint64, noise float64) gyro {
	return gyro{state: seed*0x9E3779B97F4A7C15 | 1, scale: noise / degrees}
}

// read gives what the sensor shows for a true rotation in rad/s. The generator is xorshift64*.
func (g *gyro) read(x, y, z float64) [3]float64 {
	if g.scale == 0 {
		return [3]float64{x, y, z}
	}
	s := g.state
	s ^= s >> 12
	s ^= s << 25
	s ^= s >> 27
	g.state = s
	r := s * 0x2545F4914F6CDD1D
	return [3]float64{
		x + g.scale*normal[r>>52],
		y + g.scale*normal[r>>40&(noiseTable-1)],
		z + g.scale*normal[r>>28&(noiseTable-1)],
	}
}
