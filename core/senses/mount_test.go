package senses

import (
	"errors"
	"math"
	"math/rand/v2"
	"testing"

	"vividperch/core/quad"
)

// spun is a vector turned by an angle (deg) about an axis: by Rodrigues' formula, in vectors alone, so that nothing of it is shared with
// the matrices under test.
func spun(v, axis [3]float64, deg float64) [3]float64 {
	sin, cos := math.Sincos(deg * math.Pi / 180)
	n, along := cross(axis, v), dot(axis, v)
	var out [3]float64
	for i := range out {
		out[i] = v[i]*cos + n[i]*sin + axis[i]*along*(1-cos)
	}
	return out
}

// axesOf a board that is picked up flat with its arrow ahead, turned, then pitched about its own axis to the right, then rolled about its arrow.
func axesOf(m quad.Mount) [3][3]float64 {
	axes := [3][3]float64{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}}
	for _, by := range []struct {
		axis int
		deg  float64
	}{{2, m.Yaw}, {1, m.Pitch}, {0, m.Roll}} {
		about := axes[by.axis]
		for i := range axes {
			axes[i] = spun(axes[i], about, by.deg)
		}
	}
	return axes
}

// senseOf a vector along the frame's axes by a board that lies and was told: what it feels along its own axes, put where it believes those to be.
func senseOf(v [3]float64, told, lies quad.Mount) [3]float64 {
	is, believed := axesOf(lies), axesOf(told)
	var out [3]float64
	for i := range is {
		felt := dot(v, is[i])
		for j := range out {
			out[j] += felt * believed[i][j]
		}
	}
	return out
}

func anyMount(r *rand.Rand) quad.Mount {
	if r.IntN(3) == 0 {
		return quad.Mount{Roll: 90 * float64(r.IntN(4)-1), Pitch: 90 * float64(r.IntN(4)-1), Yaw: 45 * float64(r.IntN(8))}
	}
	return quad.Mount{Roll: 360*r.Float64() - 180, Pitch: 360*r.Float64() - 180, Yaw: 360 * r.Float64()}
}

func gap(a, b [3]float64) float64 {
	return math.Sqrt((a[0]-b[0])*(a[0]-b[0]) + (a[1]-b[1])*(a[1]-b[1]) + (a[2]-b[2])*(a[2]-b[2]))
}

func TestWhatABoardMakesOfATurn(t *testing.T) {
	r := rand.New(rand.NewPCG(8, 8))
	for range 2000 {
		told, lies := anyMount(r), anyMount(r)
		v := [3]float64{r.NormFloat64(), r.NormFloat64(), r.NormFloat64()}
		if got, want := Between(told, lies).Turn(v), senseOf(v, told, lies); gap(got, want) > 1e-9 {
			t.Fatalf("told %v, lies %v: %v is taken for %v, want %v", told, lies, v, got, want)
		}
	}
}

// A lean that is shown belongs to the way down that the board feels: worked out here from gravity turned as a vector.
func TestWhatABoardShows(t *testing.T) {
	for _, c := range []struct {
		what        string
		told, lies  quad.Mount
		roll, pitch float64 // of the frame
		want        [2]float64
	}{
		{"told as it is", quad.Mount{Roll: 180, Yaw: 90}, quad.Mount{Roll: 180, Yaw: 90}, 12, -7, [2]float64{12, -7}},
		{"on its back and not told, on the plate", quad.Mount{}, quad.Mount{Roll: 180}, 0, 0, [2]float64{180, 0}},
		{"on its back and not told, nose down", quad.Mount{}, quad.Mount{Roll: 180}, 0, -30, [2]float64{180, -30}},
		{"turned a quarter and not told, nose down", quad.Mount{}, quad.Mount{Yaw: 90}, 0, -30, [2]float64{-30, 0}},
		{"turned half round and not told, right side down", quad.Mount{}, quad.Mount{Yaw: 180}, 20, 0, [2]float64{-20, 0}},
		{"on its side and not told, on the plate", quad.Mount{}, quad.Mount{Roll: 90}, 0, 0, [2]float64{90, 0}},
		{"on its tail and not told, on the plate", quad.Mount{}, quad.Mount{Pitch: 90}, 0, 0, [2]float64{0, 90}},
	} {
		roll, pitch := Between(c.told, c.lies).Shows(c.roll, c.pitch)
		if !(math.Abs(math.Remainder(roll-c.want[0], 360)) <= 1e-9) || !(math.Abs(pitch-c.want[1]) <= 1e-9) {
			t.Errorf("%s: shows %.2f and %.2f, want %v", c.what, roll, pitch, c.want)
		}
	}
	r := rand.New(rand.NewPCG(8, 9))
	for range 2000 {
		told, lies := anyMount(r), anyMount(r)
		lean := [2]float64{360*r.Float64() - 180, 178*r.Float64() - 89}
		// Down along the axes of a frame that was pitched, then rolled: the frame's axes are those of a board mounted so.
		frame := axesOf(quad.Mount{Roll: lean[0], Pitch: lean[1]})
		felt := senseOf([3]float64{frame[0][2], frame[1][2], frame[2][2]}, told, lies)
		roll, pitch := Between(told, lies).Shows(lean[0], lean[1])
		shown := axesOf(quad.Mount{Roll: roll, Pitch: pitch})
		if got := [3]float64{shown[0][2], shown[1][2], shown[2][2]}; gap(got, felt) > 1e-6 {
			t.Fatalf("told %v, lies %v, leans %v: shows %.3f and %.3f, which is %v down; felt %v", told, lies, lean, roll, pitch, got, felt)
		}
	}
}

// The angle between two mounts is found by going through the turns that bring one to the other: none is smaller, and one is as large.
func TestApart(t *testing.T) {
	for _, c := range []struct {
		a, b quad.Mount
		want float64
	}{
		{quad.Mount{}, quad.Mount{}, 0},
		{quad.Mount{Yaw: 350}, quad.Mount{Yaw: 10}, 20},
		{quad.Mount{Roll: 180}, quad.Mount{Pitch: 180, Yaw: 180}, 0}, // the same lie told in two ways
		{quad.Mount{Roll: 90}, quad.Mount{Roll: -90}, 180},
		{quad.Mount{Pitch: 90}, quad.Mount{Yaw: 90}, 120}, // two quarter turns about axes square on each other
		{quad.Mount{Yaw: 1e-7}, quad.Mount{}, 1e-7},
	} {
		if got := AngleBetween(c.a, c.b); !(math.Abs(got-c.want) <= 1e-6*max(1, c.want)) {
			t.Errorf("%v and %v are %v apart, want %v", c.a, c.b, got, c.want)
		}
	}
}

// movesOf the frame as a board that lies and was told shows them, deg.
func movesOf(told, lies quad.Mount) (nose, side, turn [3]float64) {
	return senseOf([3]float64{0, -30, 0}, told, lies), senseOf([3]float64{30, 0, 0}, told, lies), senseOf([3]float64{0, 0, 40}, told, lies)
}

func TestHowABoardLiesIsFoundByThreeMoves(t *testing.T) {
	r := rand.New(rand.NewPCG(8, 10))
	for range 2000 {
		told, lies := anyMount(r), anyMount(r)
		nose, side, turn := movesOf(told, lies)
		got, err := Lies(nose, side, turn, told)
		if err != nil || AngleBetween(got, lies) > 1e-5 {
			t.Fatalf("told %v, lies %v: found %v, %v apart (%v)", told, lies, got, AngleBetween(got, lies), err)
		}
		// No hand moves a frame about one axis alone.
		for _, v := range []*[3]float64{&nose, &side, &turn} {
			for i := range v {
				v[i] += 2 * r.NormFloat64()
			}
		}
		if got, err = Lies(nose, side, turn, told); err != nil || AngleBetween(got, lies) > 15 {
			t.Fatalf("moved as a hand moves: told %v, lies %v, found %v (%v)", told, lies, got, err)
		}
	}
	nose, side, turn := movesOf(quad.Mount{}, quad.Mount{})
	for _, c := range []struct {
		what             string
		nose, side, turn [3]float64
		code             string
	}{
		{"hardly moved", nose, side, [3]float64{0, 0, 4}, "not-moved"},
		{"turned to the left instead", nose, side, [3]float64{0, 0, -40}, "not-square"},
		{"the nose up instead", [3]float64{0, 30, 0}, side, turn, "not-square"},
		{"the same move twice", nose, nose, turn, "not-square"},
		{"no number", nose, side, [3]float64{math.NaN(), 0, 0}, "not-moved"},
		{"beyond all numbers", nose, [3]float64{math.Inf(1), 0, 0}, turn, "not-moved"},
	} {
		var f *quad.Fault
		if _, err := Lies(c.nose, c.side, c.turn, quad.Mount{}); !errors.As(err, &f) || f.Code != c.code {
			t.Errorf("%s: %v, want %s", c.what, err, c.code)
		}
	}
}

func TestMounted(t *testing.T) {
	for _, c := range []struct{ lies, want quad.Mount }{
		{quad.Mount{Roll: 1, Pitch: -2, Yaw: -1}, quad.Mount{}},
		{quad.Mount{Yaw: -91}, quad.Mount{Yaw: 270}},
		{quad.Mount{Roll: -178, Yaw: 46}, quad.Mount{Roll: 180, Yaw: 45}},
		{quad.Mount{Pitch: 12.4}, quad.Mount{Pitch: 12}}, // mounted askew: told as it is
	} {
		got := Mounted(c.lies)
		if got != c.want {
			t.Errorf("%v is told %v, want %v", c.lies, got, c.want)
		}
		if math.Signbit(got.Roll) && got.Roll == 0 || math.Signbit(got.Pitch) && got.Pitch == 0 || math.Signbit(got.Yaw) && got.Yaw == 0 {
			t.Errorf("%v is told a minus nothing: %v", c.lies, got)
		}
	}
}
