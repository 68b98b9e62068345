package senses

import (
	"math"
	"math/rand/v2"
	"testing"

	"vividperch/core/quad"
)

// tumbled is a run of a quad turned by a hand, its attitude integrated by small rotations and the field looked up in it, which knows nothing of the equation
// that the fit solves; a compass that lies by some mount shows it with iron and noise.
func tumbled(r *rand.Rand, mount Rotation, axes [3]float64, noise float64) []Moved {
	attitude := Rotation{{1}, {0, 1}, {0, 0, 1}} // world to quad
	field := [3]float64{18, 0, 45}
	iron := Vector{12, -30, 8}
	var out []Moved
	phase := [3]float64{6 * r.Float64(), 6 * r.Float64(), 6 * r.Float64()}
	const fine, every = 1e-3, 50
	for n := range 20 * 1000 {
		t := float64(n) * fine
		var w [3]float64 // rad/s
		for i := range w {
			w[i] = axes[i] * 1.4 * math.Sin((1.1+0.7*float64(i))*t+phase[i])
		}
		if n%every == 0 {
			c := mount.Turn(attitude.Turn(field))
			m := Moved{Time: t}
			for i := range c {
				m.Compass[i] = c[i] + iron[i] + noise*r.NormFloat64()
				m.Turns[i] = w[i]*180/math.Pi + 0.3*r.NormFloat64()
			}
			out = append(out, m)
		}
		// The world turns the other way in the quad's axes.
		l := math.Sqrt(dot(w, w))
		if l == 0 {
			continue
		}
		k := [3]float64{w[0] / l, w[1] / l, w[2] / l}
		s, c := math.Sincos(-l * fine)
		turn := Rotation{}
		for i := range 3 {
			for j := range 3 {
				turn[i][j] = (1 - c) * k[i] * k[j]
				if i == j {
					turn[i][j] += c
				}
			}
		}
		turn[0][1], turn[0][2], turn[1][0] = turn[0][1]-s*k[2], turn[0][2]+s*k[1], turn[1][0]+s*k[2]
		turn[1][2], turn[2][0], turn[2][1] = turn[1][2]-s*k[0], turn[2][0]-s*k[1], turn[2][1]+s*k[0]
		attitude = turn.times(attitude)
	}
	return out
}

func compassTurned(deg float64, back bool) Rotation {
	s, c := math.Sincos(deg * math.Pi / 180)
	m := Rotation{{c, s}, {-s, c}, {0, 0, 1}}
	if back {
		m = Rotation{{1}, {0, -1}, {0, 0, -1}}.times(m)
	}
	return m
}

func TestMountByMotion(t *testing.T) {
	r := rand.New(rand.NewPCG(8, 6))
	fit := &Compass{Offset: Vector{12, -30, 8}, Matrix: [3][3]float64{{1}, {0, 1}, {0, 0, 1}}, Field: math.Hypot(18, 45)}
	for _, c := range []struct {
		turned, tell float64
		back         bool
	}{{0, 0, false}, {90, 90, false}, {270, 270, false}, {47, 45, false}, {200, 200, false}, {180, 180, true}, {90, 90, true}, {0, 0, true}} {
		got, err := MountByMotion(tumbled(r, compassTurned(c.turned, c.back), [3]float64{1, 1, 1}, 0.3), fit)
		if err != nil {
			t.Errorf("%v: %v", c, err)
			continue
		}
		if !(math.Abs(math.Remainder(got.Turned-c.turned, 360)) <= 2.5) || got.OnItsBack != c.back || !(math.Abs(math.Remainder(got.Tell-c.tell, 360)) <= 2.5) || got.Askew > 3 {
			t.Errorf("%+v, want %+v", got, c)
		}
	}
	// About one axis alone, standing still, and with a gyro that belongs to something else it is not told.
	for _, c := range []struct {
		name string
		run  []Moved
		code string
	}{
		{"turned on a table", tumbled(r, compassTurned(90, false), [3]float64{0, 0, 1}, 0.3), "not-turned"},
		{"not moved", tumbled(r, compassTurned(90, false), [3]float64{}, 0.3), "not-turned"},
		{"none", nil, "not-turned"},
		{"no figures", []Moved{{Compass: Vector{math.NaN()}}}, "not-turned"},
	} {
		if _, err := MountByMotion(c.run, fit); quad.AsFault(err) == nil || quad.AsFault(err).Code != c.code {
			t.Errorf("%s: %v", c.name, err)
		}
	}
	other := tumbled(r, compassTurned(0, false), [3]float64{1, 1, 1}, 0.3)
	for i := range other {
		other[i].Turns = Vector{200 * r.NormFloat64(), 200 * r.NormFloat64(), 200 * r.NormFloat64()}
	}
	if got, err := MountByMotion(other, fit); err == nil {
		t.Errorf("of a gyro that shows nothing but noise: %+v", got)
	}
}
