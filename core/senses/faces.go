package senses

import (
	"math"

	"gonum.org/v1/gonum/mat"
	"gonum.org/v1/gonum/stat"

	"vividperch/core/quad"
)

// Vector in body axes: forward, right, down.
type Vector [3]float64

func (v Vector) norm() float64         { return math.Sqrt(dot(v, v)) }
func (v Vector) minus(o Vector) Vector { return Vector{v[0] - o[0], v[1] - o[1], v[2] - o[2]} }
func (v Vector) over(x float64) Vector { return Vector{v[0] / x, v[1] / x, v[2] / x} }
func (v Vector) angle(o Vector) float64 {
	return math.Acos(max(-1, min(1, dot(v, o)/(v.norm()*o.norm()))))
}
func (v Vector) finite() bool           { return !math.IsNaN(v.norm()) && !math.IsInf(v.norm(), 0) }
func degreesOf(radians float64) float64 { return radians * 180 / math.Pi }

// FaceName of one of the six attitudes, by what points at the ground.
type FaceName string

// The six attitudes, in the order of their axes: the nose, the tail, the right side, the left, the belly, the back.
var FaceNames = [6]FaceName{"nose", "tail", "right", "left", "belly", "back"}

// Face is what an accelerometer showed while the quad rested in one attitude, in g.
type Face struct {
	Name   FaceName `json:"name"`
	Shown  Vector   `json:"shown" unit:"g"` // the mean
	Stirs  float64  `json:"stirs" unit:"g"` // one sigma of the most restless axis
	Points Vector   `json:"-"`
}

// restless from where on a hand is taken to have moved it, g.
const restless = 0.02

// FaceOf recognises an attitude from what was shown while it rested: whichever axis gravity lies along. At rest an accelerometer shows what holds
// it up, so that the axis at the ground shows -1 g. Samples that are none, a quad that was moved, and one that lay between two attitudes are Faults.
func FaceOf(samples []Vector) (Face, error) {
	if len(samples) < 10 {
		return Face{}, quad.Faultf("too-few", "", "%d samples; an attitude needs 10", len(samples))
	}
	var f Face
	var axes [3][]float64
	for _, s := range samples {
		if !s.finite() {
			return Face{}, quad.Faultf("not-a-number", "", "holds what is no number")
		}
		for i := range 3 {
			f.Shown[i] += s[i] / float64(len(samples))
			axes[i] = append(axes[i], s[i])
		}
	}
	for _, a := range axes {
		f.Stirs = max(f.Stirs, stat.StdDev(a, nil))
	}
	if f.Stirs > restless {
		return f, quad.Faultf("moved", "", "it was moved while it was looked at: %.3f g of stir, %.2f at most", f.Stirs, restless)
	}
	most := 0
	for i := range 3 {
		if math.Abs(f.Shown[i]) > math.Abs(f.Shown[most]) {
			most = i
		}
	}
	if lean := degreesOf(math.Acos(min(1, math.Abs(f.Shown[most])/f.Shown.norm()))); f.Shown.norm() < 0.5 || lean > 25 {
		return f, quad.Faultf("between", "", "it lies between two attitudes; stand it on one of its six sides")
	}
	f.Points[most] = math.Copysign(1, f.Shown[most])
	k := 2 * most
	if f.Shown[most] > 0 { // held up along the axis: its other end is at the ground
		k++
	}
	f.Name = FaceNames[k]
	return f, nil
}

// SixFaces is an accelerometer by least squares over its six attitudes: what it shows is matrix times what is there, plus an offset.
type SixFaces struct {
	Offset Vector        `json:"offset" unit:"g"`
	Scale  Vector        `json:"scale" unit:"1"` // 1 is right
	Cross  float64       `json:"cross" unit:"1"` // the largest share that one axis has of another
	Left   float64       `json:"left" unit:"g"`  // residual, one sigma
	Level  float64       `json:"level" unit:"deg"`
	Matrix [3][3]float64 `json:"-"`
}

// FitFaces solves for offset, scale and cross-axis terms. Every attitude must be there once; they may come in any order. Level is how far off level
// the board stands by it, belly down.
func FitFaces(faces []Face) (SixFaces, error) {
	seen := map[FaceName]bool{}
	for _, f := range faces {
		if seen[f.Name] {
			return SixFaces{}, quad.Faultf("twice", "", "the %s was down twice", f.Name)
		}
		seen[f.Name] = true
	}
	for _, name := range FaceNames {
		if !seen[name] {
			return SixFaces{}, quad.Faultf("missing", "", "the %s was not down yet", name)
		}
	}
	// Each axis by itself: shown = row · there + offset, with there of length 1.
	design, out := mat.NewDense(len(faces), 4, nil), SixFaces{}
	for i, f := range faces {
		design.SetRow(i, []float64{f.Points[0], f.Points[1], f.Points[2], 1})
	}
	left := 0.0
	for axis := range 3 {
		shown := mat.NewVecDense(len(faces), nil)
		for i, f := range faces {
			shown.SetVec(i, f.Shown[axis])
		}
		var row mat.VecDense
		if err := row.SolveVec(design, shown); err != nil {
			return SixFaces{}, quad.Faultf("unsolved", "", "the attitudes do not tell it")
		}
		for j := range 3 {
			out.Matrix[axis][j] = row.AtVec(j)
			if j != axis {
				out.Cross = max(out.Cross, math.Abs(row.AtVec(j)))
			}
		}
		out.Scale[axis], out.Offset[axis] = row.AtVec(axis), row.AtVec(3)
		var back mat.VecDense
		back.MulVec(design, &row)
		for i := range faces {
			left += (back.AtVec(i) - shown.AtVec(i)) * (back.AtVec(i) - shown.AtVec(i))
		}
	}
	out.Left = math.Sqrt(left / float64(3*len(faces)-12))
	for _, f := range faces {
		if f.Name == "belly" {
			out.Level = degreesOf(f.Shown.angle(Vector{0, 0, -1}))
		}
	}
	return out, nil
}
