package senses

import (
	"math"
	"math/rand/v2"
	"testing"

	"vividperch/core/quad"
)

// A hand that puts the frame aside by thirty degrees and back, as a board that lies some way shows it with noise and an offset: the moves tell how it lies,
// found without the formula that turned them.
func TestMovesTellHowItLies(t *testing.T) {
	r := rand.New(rand.NewPCG(2, 9))
	move := func(lies, told quad.Mount, axis [3]float64) Move {
		var m Move
		for n := range 61 {
			at := float64(n) / 60
			rate := 30 * math.Pi / 1.5 * math.Cos(math.Pi*at) * math.Min(1, 20*at) // out and back within a second and a half
			shown := Between(told, lies).Turn([3]float64{rate * axis[0], rate * axis[1], rate * axis[2]})
			m.Times = append(m.Times, 1.5*at)
			m.Turns = append(m.Turns, Vector{shown[0] + 0.4 + 0.3*r.NormFloat64(), shown[1] - 0.2 + 0.3*r.NormFloat64(), shown[2] + 0.3*r.NormFloat64()})
		}
		return m
	}
	for _, c := range []struct{ lies, told quad.Mount }{
		{quad.Mount{}, quad.Mount{}}, {quad.Mount{Yaw: 90}, quad.Mount{}}, {quad.Mount{Yaw: 45}, quad.Mount{Yaw: 90}}, {quad.Mount{Roll: 180}, quad.Mount{}}, {quad.Mount{Roll: 180, Yaw: 270}, quad.Mount{Yaw: 180}},
	} {
		nose := move(c.lies, c.told, [3]float64{0, -1, 0}).Most()
		side := move(c.lies, c.told, [3]float64{1, 0, 0}).Most()
		turn := move(c.lies, c.told, [3]float64{0, 0, 1}).Most()
		got, err := Lies(nose, side, turn, c.told)
		if err != nil || AngleBetween(got, c.lies) > 4 {
			t.Errorf("lies %+v, told %+v: %+v, %v", c.lies, c.told, got, err)
		}
		if eye, err := MountByEye(c.lies.Yaw, c.lies.Roll == 180); err != nil || AngleBetween(eye, c.lies) > 1e-6 {
			t.Errorf("by eye: %+v, %v", eye, err)
		}
	}
	// A move that is none is none; what the board says of one is told in words.
	for _, none := range []Move{{}, {Turns: make([]Vector, 3), Times: []float64{0, 1}}, {Turns: []Vector{{}, {math.NaN()}}, Times: []float64{0, 0.1}}} {
		if none.Most() != [3]float64{} {
			t.Errorf("%+v: %v", none, none.Most())
		}
	}
	for _, c := range []struct {
		turned [3]float64
		says   string
	}{{[3]float64{28, 3, -2}, "right side down"}, {[3]float64{-3, -31, 2}, "nose down"}, {[3]float64{1, 2, -40}, "turned to the left"}} {
		if words, _ := About(c.turned); words != c.says {
			t.Errorf("%v: %s", c.turned, words)
		}
	}
	if _, err := MountByEye(math.NaN(), false); quad.AsFault(err) == nil {
		t.Error("an arrow that points nowhere")
	}
}
