package senses

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"vividperch/core/quad"
)

// laidRun is a run of an accelerometer that is laid on faces, one after the other, with a hand's way between them.
func laidRun(r *rand.Rand, order []Vector, offset Vector, gain [3]float64, noise float64) []Vector {
	var out []Vector
	was := order[0]
	for _, up := range order {
		for i := range 40 {
			share := math.Min(1, float64(i)/12)
			var v Vector
			for j := range v {
				v[j] = was[j] + share*(up[j]-was[j])
				if share < 1 {
					v[j] += 0.1 * r.NormFloat64() // the hand
				}
			}
			for j := range v {
				v[j] = v[j]*gain[j] + offset[j] + noise*r.NormFloat64()
			}
			out = append(out, v)
		}
		was = up
	}
	return out
}

// Ups of the faces in some order: what holds it up, g.
var someOrder = []Vector{{1, 0, 0}, {0, 0, -1}, {0, -1, 0}, {0, 0, 1}, {-1, 0, 0}, {0, 1, 0}}

func TestLaidOnFaces(t *testing.T) {
	r := rand.New(rand.NewPCG(6, 1))
	offset, gain := Vector{0.04, -0.02, 0.06}, [3]float64{1.02, 0.99, 1.01}
	got, err := LaidOnFaces(laidRun(r, someOrder, offset, gain, 0.003))
	if err != nil || got.Fit == nil || len(got.Missing) > 0 || got.Reading == nil {
		t.Fatalf("%+v, %v", got, err)
	}
	for i := range 3 {
		if !(math.Abs(got.Fit.Offset[i]-offset[i]) <= 5*got.Within+1e-3) || !(math.Abs(math.Abs(got.Fit.Scale[i])-gain[i]) <= 0.002) {
			t.Errorf("axis %d: %v and %v, want %v and %v", i, got.Fit.Offset[i], got.Fit.Scale[i], offset[i], gain[i])
		}
	}
	if r := got.Reading; !(math.Abs(r.Offset-0.06*gravity) <= 0.02) || !(math.Abs(r.Scale-2) <= 0.2) || r.Cross > 0.5 {
		t.Errorf("%+v", r)
	}
	// Within is what other runs really differ by.
	var sum, squares float64
	const runs = 60
	for range runs {
		one, err := LaidOnFaces(laidRun(r, someOrder, offset, gain, 0.01))
		if err != nil || one.Fit == nil {
			t.Fatal(err)
		}
		got = one
		sum, squares = sum+one.Fit.Offset[0], squares+one.Fit.Offset[0]*one.Fit.Offset[0]
	}
	sigma := math.Sqrt(squares/runs - sum*sum/runs/runs)
	if ratio := got.Within / sigma; ratio < 0.5 || ratio > 2 {
		t.Errorf("within %v, but runs differ by %v", got.Within, sigma)
	}
	if !strings.Contains(got.Next, "stirred by") {
		t.Errorf("what would better it: %q", got.Next)
	}
}

func TestFacesThatAreMissing(t *testing.T) {
	r := rand.New(rand.NewPCG(6, 2))
	got, err := LaidOnFaces(laidRun(r, someOrder[:4], Vector{}, [3]float64{1, 1, 1}, 0.003))
	if err != nil || len(got.Faces) != 4 || len(got.Missing) != 2 || got.Fit != nil || !strings.Contains(got.Next, "Lay it on its nose") && !strings.Contains(got.Next, "Lay it on its left side") {
		t.Errorf("%+v, %v", got, err)
	}
	// What never lies still tells nothing, and what is no sample is refused.
	if got, err = LaidOnFaces(laidRun(r, someOrder, Vector{}, [3]float64{1, 1, 1}, 0.2)); err != nil || len(got.Faces) > 0 {
		t.Errorf("in a hand: %+v, %v", got.Faces, err)
	}
	for _, bad := range [][]Vector{{{math.NaN()}}, {{1e9}}, make([]Vector, FacesMost+1)} {
		if _, err := LaidOnFaces(bad); quad.AsFault(err) == nil {
			t.Errorf("%d samples that are none were taken", len(bad))
		}
	}
	if got, err = LaidOnFaces(nil); err != nil || len(got.Missing) != 6 {
		t.Errorf("%+v, %v", got, err)
	}
}

func BenchmarkLaidOnFaces(b *testing.B) {
	run := laidRun(rand.New(rand.NewPCG(1, 1)), someOrder, Vector{0.04}, [3]float64{1, 1, 1}, 0.003)
	for range b.N {
		if _, err := LaidOnFaces(run); err != nil {
			b.Fatal(err)
		}
	}
	b.ReportMetric(b.Elapsed().Seconds()*1e3/float64(b.N), "ms/faces")
}

func BenchmarkMountByMotion(b *testing.B) {
	fit := &Compass{Offset: Vector{12, -30, 8}, Matrix: [3][3]float64{{1}, {0, 1}, {0, 0, 1}}, Field: math.Hypot(18, 45)}
	run := tumbled(rand.New(rand.NewPCG(1, 1)), compassTurned(90, false), [3]float64{1, 1, 1}, 0.3)
	for range b.N {
		if _, err := MountByMotion(run, fit); err != nil {
			b.Fatal(err)
		}
	}
	b.ReportMetric(b.Elapsed().Seconds()*1e3/float64(b.N), "ms/mount")
}
