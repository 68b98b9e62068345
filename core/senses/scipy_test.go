package senses

import (
	"bytes"
	"encoding/json"
	"math"
	"math/rand/v2"
	"os/exec"
	"testing"
)

// peer fits the same samples with another library, written by other people: a general ellipsoid by nonlinear least squares of the distance with a soft loss, six
// faces by linear least squares, the current by regression.
const peer = `
import json, sys
import numpy as np
from scipy import optimize, stats
given = json.load(sys.stdin)
s = np.array(given["sphere"])
def off(p):
    d = s - p[:3]
    a = np.array([[p[3], p[4], p[5]], [p[4], p[6], p[7]], [p[5], p[7], p[8]]])
    return np.linalg.norm(d @ a.T, axis=1) - 1
start = np.concatenate([s.mean(axis=0), np.array([1, 0, 0, 1, 0, 1]) / s.std() / np.sqrt(3)])
fit = optimize.least_squares(off, start, loss="soft_l1", f_scale=0.02)
faces = np.array(given["faces"])
points = np.array(given["points"])
rows, _, _, _ = np.linalg.lstsq(np.hstack([points, np.ones((6, 1))]), faces, rcond=None)
amps = np.array(given["amps"])
slopes = [stats.linregress(amps, np.array(given["shown"])[:, i]).slope for i in range(3)]
json.dump({"offset": list(fit.x[:3]), "faces": list(rows[3]), "slopes": slopes}, sys.stdout)
`

// The fits against those of SciPy on the same samples, where that is installed: the centre of an ellipsoid with outliers to 0.3 µT, the offsets of six faces and the
// slopes over the current to the last digits that count.
func TestFitsAgainstSciPy(t *testing.T) {
	python := ""
	for _, p := range []string{"python3", "/usr/bin/python3"} { // the distribution's own may stand behind another
		if exec.Command(p, "-c", "import scipy").Run() == nil {
			python = p
			break
		}
	}
	if python == "" {
		t.Skip("SciPy is not installed here")
	}
	r := rand.New(rand.NewPCG(7, 3))
	given := map[string]any{}
	var sphere []Vector
	for range 800 {
		v := Vector{r.NormFloat64(), r.NormFloat64(), r.NormFloat64()}
		v = v.over(v.norm())
		sphere = append(sphere, Vector{49*v[0] + 12 + 0.2*r.NormFloat64(), 47*v[1] - 7 + 0.2*r.NormFloat64(), 48*v[2] + 20 + 0.2*r.NormFloat64()})
	}
	for i := range 12 { // something moved by
		sphere[i*50][0] += 15
	}
	laid, err := LaidOnFaces(laidRun(r, someOrder, Vector{0.04, -0.02, 0.06}, [3]float64{1.02, 0.99, 1.01}, 0.003))
	if err != nil {
		t.Fatal(err)
	}
	var shown, points []Vector
	for _, f := range laid.Faces {
		shown, points = append(shown, f.Shown), append(points, f.Points)
	}
	var current []Current
	var amps []float64
	var moved []Vector
	for i := range 60 {
		c := Current{Amperes: float64(i) / 2, Shown: Vector{18 + 0.06*float64(i)/2 + 0.2*r.NormFloat64(), 0.1*float64(i)/2 + 0.2*r.NormFloat64(), 45 + 0.2*r.NormFloat64()}}
		current, amps, moved = append(current, c), append(amps, c.Amperes), append(moved, c.Shown)
	}
	given["sphere"], given["faces"], given["points"], given["amps"], given["shown"] = sphere, shown, points, amps, moved
	raw, err := json.Marshal(given)
	if err != nil {
		t.Fatal(err)
	}
	run := exec.Command(python, "-c", peer)
	run.Stdin = bytes.NewReader(raw)
	out, err := run.Output()
	if err != nil {
		t.Fatal(err)
	}
	var theirs struct{ Offset, Faces, Slopes Vector }
	if err := json.Unmarshal(out, &theirs); err != nil {
		t.Fatal(err)
	}
	compass, err := FitCompass(sphere)
	if err != nil {
		t.Fatal(err)
	}
	disturbs, err := Disturbs(current)
	if err != nil {
		t.Fatal(err)
	}
	t.Logf("centre %.3f, theirs %.3f; six faces %.6f, theirs %.6f; per ampere %.4f, theirs %.4f", compass.Offset, theirs.Offset, laid.Fit.Offset, theirs.Faces, disturbs.PerAmpere, theirs.Slopes)
	for i := range 3 {
		if !(math.Abs(compass.Offset[i]-theirs.Offset[i]) <= 0.3) {
			t.Errorf("centre %d: %v, theirs %v", i, compass.Offset[i], theirs.Offset[i])
		}
		if !(math.Abs(laid.Fit.Offset[i]-theirs.Faces[i]) <= 1e-9) {
			t.Errorf("face %d: %v, theirs %v", i, laid.Fit.Offset[i], theirs.Faces[i])
		}
		if !(math.Abs(disturbs.PerAmpere[i]-theirs.Slopes[i]) <= 0.01) {
			t.Errorf("slope %d: %v, theirs %v", i, disturbs.PerAmpere[i], theirs.Slopes[i])
		}
	}
}

// Budgets: each fit within 10 ms.
func BenchmarkCompassFit(b *testing.B) {
	list := sphereOf(2000, func(Vector) bool { return true })
	for range b.N {
		if _, err := FitCompass(list); err != nil {
			b.Fatal(err)
		}
	}
	b.ReportMetric(b.Elapsed().Seconds()*1e3/float64(b.N), "ms/compass")
}

func BenchmarkInterferenceFit(b *testing.B) {
	var list []Current
	for i := range 2000 {
		list = append(list, Current{Amperes: float64(i%60) / 2, Shown: Vector{18 + 0.01*float64(i%7), 0.03 * float64(i%60), 45}})
	}
	for range b.N {
		if _, err := Disturbs(list); err != nil {
			b.Fatal(err)
		}
	}
	b.ReportMetric(b.Elapsed().Seconds()*1e3/float64(b.N), "ms/interference")
}
