package senses

import (
	"math"
	"math/rand/v2"
	"testing"

	"gonum.org/v1/gonum/optimize"

	"vividperch/core/quad"
)

// shownBy an accelerometer with a matrix and an offset, noise included, while it rests.
func shownBy(r *rand.Rand, m [3][3]float64, offset, there Vector, noise float64) []Vector {
	out := make([]Vector, 200)
	for n := range out {
		for i := range 3 {
			out[n][i] = dot(m[i], there) + offset[i] + noise*r.NormFloat64()
		}
	}
	return out
}

// Six attitudes in any order are recognised, and tell offset, scale and cross-axis terms as they are. Along each axis that is also the closed form: half
// the sum of two opposite faces is the offset, half the difference the scale.
func TestSixFaces(t *testing.T) {
	r := rand.New(rand.NewPCG(4, 4))
	for range 100 {
		var m [3][3]float64
		var offset Vector
		for i := range 3 {
			offset[i] = 0.05 * r.NormFloat64()
			for j := range 3 {
				m[i][j] = 0.01 * r.NormFloat64()
			}
			m[i][i] += 1
		}
		var faces []Face
		by := map[FaceName]Vector{}
		for _, n := range r.Perm(6) {
			there := Vector{}
			there[n/2] = [2]float64{-1, 1}[n%2]
			f, err := FaceOf(shownBy(r, m, offset, there, 0.004))
			if err != nil {
				t.Fatal(err)
			}
			if f.Name != FaceNames[n] {
				t.Fatalf("%s is taken for %s", FaceNames[n], f.Name)
			}
			faces, by[f.Name] = append(faces, f), f.Shown
		}
		got, err := FitFaces(faces)
		if err != nil {
			t.Fatal(err)
		}
		for i := range 3 {
			low, high := by[FaceNames[2*i]], by[FaceNames[2*i+1]]
			if d := got.Scale[i] - (high[i]-low[i])/2; !(math.Abs(d) <= 1e-9) {
				t.Errorf("scale of axis %d off the closed form by %v", i, d)
			}
			if !(math.Abs(got.Offset[i]-offset[i]) <= 0.002) || !(math.Abs(got.Scale[i]-m[i][i]) <= 0.002) {
				t.Errorf("axis %d: offset %v for %v, scale %v for %v", i, got.Offset[i], offset[i], got.Scale[i], m[i][i])
			}
			for j := range 3 {
				if !(math.Abs(got.Matrix[i][j]-m[i][j]) <= 0.003) {
					t.Errorf("term %d,%d is %v for %v", i, j, got.Matrix[i][j], m[i][j])
				}
			}
		}
		if got.Left > 0.002 {
			t.Errorf("residual %v", got.Left)
		}
	}
}

// A face that was moved, lies between two, or is none, is refused; so is a set with one missing or one twice.
func TestFacesThatAreNone(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 4))
	right := [3][3]float64{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}}
	for code, c := range map[string][]Vector{
		"too-few": shownBy(r, right, Vector{}, Vector{0, 0, -1}, 0)[:5], "moved": shownBy(r, right, Vector{}, Vector{0, 0, -1}, 0.1),
		"between": shownBy(r, right, Vector{}, Vector{0, 0.7, -0.7}, 0.001), "not-a-number": append(shownBy(r, right, Vector{}, Vector{0, 0, -1}, 0), Vector{math.NaN()}),
	} {
		if _, err := FaceOf(c); err == nil || quad.AsFault(err).Code != code {
			t.Errorf("%s: %v", code, err)
		}
	}
	belly := Face{Name: "belly", Shown: Vector{0, 0, -1}, Points: Vector{0, 0, -1}}
	for code, list := range map[string][]Face{"missing": {belly}, "twice": {belly, belly}} {
		if _, err := FitFaces(list); err == nil || quad.AsFault(err).Code != code {
			t.Errorf("%s: %v", code, err)
		}
	}
}

// iron is a compass with hard and soft iron in a field, turned every way.
type iron struct {
	offset Vector
	soft   [3][3]float64
	field  float64
	noise  float64
	// Of all samples this share is near a knife.
	spoilt float64
}

func drawIron(r *rand.Rand) iron {
	out := iron{field: 30 + 30*r.Float64(), noise: 0.3 + 0.4*r.Float64(), spoilt: 0.05}
	for i := range 3 {
		out.offset[i] = 40 * r.NormFloat64()
		for j := range 3 {
			out.soft[i][j] = 0.06 * r.NormFloat64()
		}
		out.soft[i][i] += 1
	}
	return out
}

func (k iron) samples(r *rand.Rand, n int, wanted func(Vector) bool) []Vector {
	var out []Vector
	for len(out) < n {
		d := Vector{r.NormFloat64(), r.NormFloat64(), r.NormFloat64()}
		d = d.over(d.norm())
		if !wanted(d) {
			continue
		}
		var s Vector
		for i := range 3 {
			s[i] = k.field*dot(k.soft[i], d) + k.offset[i] + k.noise*r.NormFloat64()
		}
		if r.Float64() < k.spoilt {
			s[r.IntN(3)] += 25 * r.NormFloat64()
		}
		out = append(out, s)
	}
	return out
}

func everywhere(Vector) bool { return true }

// The offset of a compass with hard and soft iron, noise and a knife nearby is found as it is, and as well as by another way: the same robust sum
// made small by a simplex that knows nothing of linear algebra.
func TestCompassAgainstASimplex(t *testing.T) {
	r := rand.New(rand.NewPCG(6, 1))
	for n := range 8 {
		k := drawIron(r)
		samples := k.samples(r, 400, everywhere)
		got, err := FitCompass(samples)
		if err != nil {
			t.Fatal(err)
		}
		if off := got.Offset.minus(k.offset).norm(); off > 6*got.OffsetWithin+0.1 || off > 1 {
			t.Errorf("%d: off by %.2f µT, told within %.2f", n, off, got.OffsetWithin)
		}
		if got.Residual > 2.5*k.noise || got.Residual < 0.5*k.noise || got.Covered < 0.95 {
			t.Errorf("%d: residual %.2f with %.2f of noise, covered %.2f", n, got.Residual, k.noise, got.Covered)
		}
		// Parameters: offset, a lower triangle that takes samples to a sphere of radius 1.
		robust := func(x []float64) float64 {
			sum := 0.0
			for _, s := range samples {
				d := s.minus(Vector{x[0], x[1], x[2]})
				u := Vector{x[3] * d[0], x[4]*d[0] + x[5]*d[1], x[6]*d[0] + x[7]*d[1] + x[8]*d[2]}
				far := (u.norm() - 1) * k.field
				if q := far / (outlier * 0.6); math.Abs(q) < 1 {
					sum += 1 - math.Pow(1-q*q, 3)
				} else {
					sum++
				}
			}
			return sum
		}
		start := []float64{got.Offset[0] + 0.7, got.Offset[1] - 0.7, got.Offset[2] + 0.4, 1 / k.field, 0, 1 / k.field, 0, 0, 1 / k.field}
		best, err := optimize.Minimize(optimize.Problem{Func: robust}, start, &optimize.Settings{FuncEvaluations: 40000, MajorIterations: 20000}, &optimize.NelderMead{SimplexSize: 0.02})
		if best == nil {
			t.Fatal(err)
		}
		theirs := Vector{best.X[0], best.X[1], best.X[2]}
		if apart := got.Offset.minus(theirs).norm(); apart > 0.5 {
			t.Errorf("%d: %.2f µT apart from the simplex", n, apart)
		}
	}
}

// Corrected, every direction of the field is the direction that it was turned to, but for one rotation that no samples of a compass alone can tell.
func TestCorrectedSamplesKeepTheirAngles(t *testing.T) {
	r := rand.New(rand.NewPCG(6, 2))
	k := drawIron(r)
	k.spoilt, k.noise = 0, 0
	got, err := FitCompass(k.samples(r, 300, everywhere))
	if err != nil {
		t.Fatal(err)
	}
	for range 200 {
		s := k.samples(r, 1, everywhere)[0]
		if d := got.Corrected(s).norm(); !(math.Abs(d-got.Field) <= 1e-6*got.Field) {
			t.Fatalf("%v µT on a sphere of %v", d, got.Field)
		}
	}
}

// How sure it is of the offset is as sure as it is: the scatter of sixty runs of the same compass.
func TestOffsetWithinIsTheScatter(t *testing.T) {
	r := rand.New(rand.NewPCG(6, 3))
	k := drawIron(r)
	sum, told := 0.0, 0.0
	const runs = 60
	for range runs {
		got, err := FitCompass(k.samples(r, 300, everywhere))
		if err != nil {
			t.Fatal(err)
		}
		d := got.Offset.minus(k.offset).norm()
		sum, told = sum+d*d/runs, told+got.OffsetWithin/runs
	}
	if scatter := math.Sqrt(sum); told < 0.6*scatter || told > 1.7*scatter {
		t.Errorf("scatters by %.3f µT, told %.3f", scatter, told)
	}
}

// Turned on one side only it says so, and which directions are missing: those of the other side.
func TestOneSidedCompass(t *testing.T) {
	r := rand.New(rand.NewPCG(6, 4))
	k := iron{field: 48, noise: 0.3, soft: [3][3]float64{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}}, offset: Vector{12, -7, 30}}
	c, err := FitCompass(k.samples(r, 400, func(d Vector) bool { return d[2] > 0.3 }))
	if err == nil || quad.AsFault(err).Code != "one-sided" && quad.AsFault(err).Code != "no-sphere" {
		t.Fatalf("%+v, %v", c, err)
	}
	c, err = FitCompass(k.samples(r, 600, func(d Vector) bool { return d[2] < 0.55 }))
	if err != nil {
		t.Fatal(err)
	}
	if len(c.Missing) == 0 {
		t.Error("a cap was left out, and nothing is missing")
	}
	for _, d := range c.Missing {
		if d[2] < 0.3 {
			t.Errorf("%v is said to be missing", d)
		}
	}
}

// What is no run of a compass is refused, whatever it holds.
func TestCompassesThatAreNone(t *testing.T) {
	r := rand.New(rand.NewPCG(6, 5))
	same := make([]Vector, 100)
	flat := make([]Vector, 100)
	noise := make([]Vector, 100)
	for i := range flat {
		flat[i] = Vector{40 * r.NormFloat64(), 40 * r.NormFloat64(), 0}
		noise[i] = Vector{math.Inf(1), 0, 0}
	}
	for code, list := range map[string][]Vector{"too-few": same[:20], "not-turned": same, "not-a-field": noise, "too-many": make([]Vector, MostSamples+1)} {
		if _, err := FitCompass(list); err == nil || quad.AsFault(err).Code != code {
			t.Errorf("%s: %v", code, err)
		}
	}
	if _, err := FitCompass(flat); err == nil {
		t.Error("samples in one plane were taken")
	}
}

// Published with the design: interference under 8 % of the horizontal field keeps a heading within 5°.
func TestHeadingWithin(t *testing.T) {
	if got := HeadingWithin(0.08*20, 20); got > 5 || got < 4.5 {
		t.Errorf("8 %% cost %v°", got)
	}
}

// What climbs by itself does not count for or against the video, and the interval holds what is true as often as it says.
func TestAlternatedCounts(t *testing.T) {
	var climbs []Count
	for i := range 6 {
		n := 8 + 1.5*float64(i)
		if i%2 == 1 {
			n -= 3
		}
		climbs = append(climbs, Count{n, i%2 == 1})
	}
	if got, err := Alternated(climbs); err != nil || !(math.Abs(got.Lost-3) <= 1e-9) || !got.Tells {
		t.Errorf("three are lost while the sky fills: %+v, %v", got, err)
	}
	r := rand.New(rand.NewPCG(8, 8))
	held := 0
	const runs = 1000
	for range runs {
		var list []Count
		for i := range 7 {
			n := 12 + 0.8*float64(i) + r.NormFloat64()
			if i%2 == 1 {
				n -= 2
			}
			list = append(list, Count{n, i%2 == 1})
		}
		got, err := Alternated(list)
		if err != nil {
			t.Fatal(err)
		}
		if *got.Least <= 2 && 2 <= *got.Most {
			held++
		}
	}
	if share := float64(held) / runs; share < 0.92 {
		t.Errorf("the interval holds the truth in %.1f %% of all trials", 100*share)
	}
	for code, list := range map[string][]Count{"too-few": climbs[:3], "not-alternated": {{8, false}, {8, false}}, "bad-count": {{math.NaN(), false}}} {
		if _, err := Alternated(list); err == nil || quad.AsFault(err).Code != code {
			t.Errorf("%s: %v", code, err)
		}
	}
}

// Noise, drift and the jump at spin-up of a drawn barometer are found, a door that opens in between notwithstanding.
func TestHeightsAtRest(t *testing.T) {
	r := rand.New(rand.NewPCG(9, 9))
	for range 50 {
		drift, noise, jump := 2*r.NormFloat64()/300, 0.05+0.2*r.Float64(), 1.5*r.NormFloat64()
		var list []HeightSample
		for i := range 3600 {
			at := float64(i) / 10
			h := 31 + drift*at + noise*r.NormFloat64()
			if at >= 300 {
				h += jump
			}
			if at > 100 && at < 104 {
				h += 3
			}
			list = append(list, HeightSample{at, h})
		}
		got, err := AtRest(list, 300)
		if err != nil {
			t.Fatal(err)
		}
		if !(math.Abs(got.Drift-300*drift) <= 0.15) || !(math.Abs(got.Noise-noise) <= 0.2*noise) || !(math.Abs(got.Jump-jump) <= 0.15) || !got.Spun {
			t.Fatalf("drift %.2f for %.2f, noise %.3f for %.3f, jump %.2f for %.2f", got.Drift, 300*drift, got.Noise, noise, got.Jump, jump)
		}
	}
	for code, list := range map[string][]HeightSample{"bad-run": nil, "too-short": make60(0.1), "no-time": make60(0)} {
		if _, err := AtRest(list, -1); err == nil || quad.AsFault(err).Code != code {
			t.Errorf("%s: %v", code, err)
		}
	}
}

func make60(step float64) []HeightSample {
	out := make([]HeightSample, 90)
	for i := range out {
		out[i].At = step * float64(i)
	}
	return out
}

// What currents do to a compass is found by regression, within what it says, and by the closed form of a line through two means.
func TestDisturbs(t *testing.T) {
	r := rand.New(rand.NewPCG(10, 10))
	held := 0
	const runs = 400
	for range runs {
		slope := Vector{0.3 * r.NormFloat64(), 0.3 * r.NormFloat64(), 0.3 * r.NormFloat64()}
		var list []Current
		for i := range 40 {
			c := Current{Amperes: float64(i % 20)}
			for axis := range 3 {
				c.Shown[axis] = 20 + slope[axis]*c.Amperes + 0.4*r.NormFloat64()
			}
			list = append(list, c)
		}
		got, err := Disturbs(list)
		if err != nil {
			t.Fatal(err)
		}
		if got.PerAmpere.minus(slope).norm() <= got.Within {
			held++
		}
	}
	if share := float64(held) / runs; share < 0.9 {
		t.Errorf("within in %.1f %% of all trials", 100*share)
	}
	if _, err := Disturbs([]Current{{3, Vector{}}, {3, Vector{}}, {3, Vector{}}, {3, Vector{}}, {3, Vector{}}}); err == nil || quad.AsFault(err).Code != "no-current" {
		t.Errorf("a current that stays: %v", err)
	}
}
