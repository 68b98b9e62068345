package senses

import (
	"math"

	"gonum.org/v1/gonum/mat"

	"vividperch/core/quad"
)

// Moved is one moment of a quad that is turned by hand: what its compass showed, in the compass's own axes, and the rotation that the board showed then, about
// what it takes for ahead, right and down.
type Moved struct {
	Time    float64 `json:"time" unit:"s"`
	Compass Vector  `json:"compass" unit:"µT"`
	Turns   Vector  `json:"turns" unit:"deg/s"`
}

// CompassMount is how a compass lies, found from motion.
type CompassMount struct {
	Turned    float64 `json:"turned" unit:"deg"` // clockwise, 0 to 360
	OnItsBack bool    `json:"onItsBack"`
	// Askew is what is left once it is put back by that: how far its axes lean, deg.
	Askew float64 `json:"askew" unit:"deg"`
	// Agree is how far what one half of the motion tells lies from what the other tells.
	Agree float64 `json:"agree" unit:"deg"`
	// Tell the board this; an eighth of a turn where it is near one, as compasses are mounted.
	Tell float64 `json:"tell" unit:"deg"`
}

// Bounds of what is taken for motion.
const (
	gapLeast, gapMost = 0.005, 0.25 // s between two moments that belong together
	turnsLeast        = 20.0        // deg/s
	movesLeast        = 40          // of them
	axisLeast         = 0.04        // share of the motion about the axis about which there was the least
	agreeMost         = 12.0        // deg
	inTurn            = 12          // samples that go to one half before the other has its turn
	eighthWithin      = 10.0        // deg
)

// MountByMotion finds how a compass lies on a quad that is turned every way: the rotation under which what the compass sees and what the gyro
// feels agree. The earth's field stands still, so that for a rotation w of the quad it turns by dc/dt = c × (M w) in the compass's axes, which is linear in the
// nine entries of M; of the M that fits best the nearest rotation counts (the polar factor by singular values). The samples must be corrected by a
// fit. Code "not-turned" where one axis was left out, "disagree" where its halves tell different things, as where the two clocks do not belong together.
func MountByMotion(samples []Moved, fit *Compass) (CompassMount, error) {
	whole, err := mountOfMotion(samples, fit)
	if err != nil {
		return CompassMount{}, err
	}
	// In turn, so that each has some of every move.
	var parts [2][]Moved
	for i, s := range samples {
		parts[i/inTurn%2] = append(parts[i/inTurn%2], s)
	}
	first, err := mountOfMotion(parts[0], fit)
	if err != nil {
		return CompassMount{}, err
	}
	second, err := mountOfMotion(parts[1], fit)
	if err != nil {
		return CompassMount{}, err
	}
	out := CompassMount{Agree: round1(first.times(second.back()).Angle())}
	if out.Agree > agreeMost {
		return CompassMount{}, quad.Faultf("disagree", "", "its two halves tell mounts that lie %s apart: turn it slowly, and once more", quad.Quantity(math.Round(out.Agree), "deg"))
	}
	m := whole
	if m[2][2] < 0 {
		out.OnItsBack = true
		m = Rotation{{1}, {0, -1}, {0, 0, -1}}.times(m)
	}
	out.Turned = math.Mod(math.Atan2(m[0][1]-m[1][0], m[0][0]+m[1][1])*180/math.Pi+360, 360)
	s, c := math.Sincos(out.Turned * math.Pi / 180)
	out.Askew = round1(m.times(Rotation{{c, s}, {-s, c}, {0, 0, 1}}.back()).Angle())
	out.Turned = round1(out.Turned)
	out.Tell = math.Mod(45*math.Round(out.Turned/45), 360)
	if math.Abs(math.Remainder(out.Turned-out.Tell, 360)) > eighthWithin {
		out.Tell = math.Mod(math.Round(out.Turned), 360)
	}
	return out, nil
}

// mountOfMotion is M, which takes the quad's axes to the compass's.
func mountOfMotion(samples []Moved, fit *Compass) (Rotation, error) {
	normal, right := mat.NewSymDense(9, nil), mat.NewVecDense(9, nil)
	about := mat.NewSymDense(3, nil)
	used, squares := 0, 0.0
	for i := 1; i < len(samples); i++ {
		a, b := samples[i-1], samples[i]
		dt := b.Time - a.Time
		p, q := fit.Corrected(a.Compass), fit.Corrected(b.Compass)
		var w Vector
		for j := range w {
			w[j] = (a.Turns[j] + b.Turns[j]) / 2 * math.Pi / 180
		}
		if !(dt >= gapLeast && dt <= gapMost) || !p.finite() || !q.finite() || !(w.norm() >= turnsLeast*math.Pi/180) {
			continue
		}
		var c, change Vector
		for j := range c {
			c[j] = (p[j] + q[j]) / 2 / fit.Field
			change[j] = (q[j] - p[j]) / dt / fit.Field
		}
		used++
		squares += dot(w, w)
		for j := range 3 {
			for k := j; k < 3; k++ {
				about.SetSym(j, k, about.At(j, k)+w[j]*w[k])
			}
		}
		// change = C M w, with C the matrix of the cross product by c: three rows over the nine entries of M.
		cross := [3][3]float64{{0, -c[2], c[1]}, {c[2], 0, -c[0]}, {-c[1], c[0], 0}}
		for row := range 3 {
			var x [9]float64
			for j := range 3 {
				for k := range 3 {
					x[3*j+k] = cross[row][j] * w[k]
				}
			}
			for m := range 9 {
				right.SetVec(m, right.AtVec(m)+x[m]*change[row])
				for n := m; n < 9; n++ {
					normal.SetSym(m, n, normal.At(m, n)+x[m]*x[n])
				}
			}
		}
	}
	if used < movesLeast {
		return Rotation{}, quad.Faultf("not-turned", "", "%s of motion; turn it through every direction", quad.Count(used, "moment", "moments"))
	}
	var eigen mat.EigenSym
	if !eigen.Factorize(about, false) || eigen.Values(nil)[0] < axisLeast*squares {
		return Rotation{}, quad.Faultf("not-turned", "", "it was turned about too few axes: roll it, pitch it and turn it")
	}
	var solved mat.VecDense
	if err := solved.SolveVec(normal, right); err != nil {
		return Rotation{}, quad.Faultf("not-turned", "", "the motion does not tell it")
	}
	var svd mat.SVD
	if !svd.Factorize(mat.NewDense(3, 3, solved.RawVector().Data), mat.SVDFull) {
		return Rotation{}, quad.Faultf("not-turned", "", "the motion does not tell it")
	}
	var u, v, r mat.Dense
	svd.UTo(&u)
	svd.VTo(&v)
	if mat.Det(&u)*mat.Det(&v) < 0 { // the nearest that does not turn it inside out
		for j := range 3 {
			u.Set(j, 2, -u.At(j, 2))
		}
	}
	r.Mul(&u, v.T())
	var out Rotation
	for j := range 3 {
		for k := range 3 {
			out[j][k] = r.At(j, k)
		}
	}
	return out, nil
}

func round1(x float64) float64 { return math.Round(x*10) / 10 }
