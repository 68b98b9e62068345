package senses

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/mat"

	"vividperch/core/quad"
)

// The total field of the earth wherever anybody flies, µT.
const (
	FieldLeast = 22.0
	FieldMost  = 67.0
)

// Compass fitted from samples taken while the quad was turned every way, in µT and in the compass's own axes.
type Compass struct {
	Offset Vector        `json:"offset" unit:"µT"` // hard iron: the centre of the ellipsoid
	Matrix [3][3]float64 `json:"matrix" unit:"1"`  // soft iron: takes a sample less the offset to the sphere
	Field  float64       `json:"field" unit:"µT"`  // radius of the sphere
	// Residual of the samples that count, one sigma of the radius; Outliers are those that do not.
	Residual float64 `json:"residual" unit:"µT"`
	Outliers int     `json:"outliers"`
	Samples  int     `json:"samples"`
	// OffsetWithin is by how much the offset would differ by another run of the same length, one sigma of its length.
	OffsetWithin float64 `json:"offsetWithin" unit:"µT"`
	// Covered is the share of all directions that samples came from, and Missing the widest gap, as a direction in the compass's axes.
	Covered float64  `json:"covered" unit:"1"`
	Missing []Vector `json:"missing" unit:"1"`
}

// Limits of a fit.
const (
	LeastSamples = 60
	MostSamples  = 20_000
	leastCovered = 0.5 // of all directions; under it the far side is a guess
	outlier      = 4.7 // robust sigmas from where on a sample counts nothing (Tukey's biweight keeps 95 % of a normal's efficiency)
	rounds       = 25
)

// FitCompass fits an ellipsoid robustly: linear least squares of a general quadric, weighted anew by Tukey's biweight of the distance from it until
// nothing changes. Too few samples, samples on one side only, and what is no ellipsoid are Faults with the directions that are missing.
func FitCompass(samples []Vector) (Compass, error) {
	switch {
	case len(samples) < LeastSamples:
		return Compass{}, quad.Faultf("too-few", "", "%d samples; %d are the least", len(samples), LeastSamples)
	case len(samples) > MostSamples:
		return Compass{}, quad.Faultf("too-many", "", "more than %d samples; a minute of turning is enough", MostSamples)
	}
	centre, size := Vector{}, 0.0
	for _, s := range samples {
		if !s.finite() || s.norm() > 1e4 {
			return Compass{}, quad.Faultf("not-a-field", "", "holds what no compass shows on the ground")
		}
		for i := range 3 {
			centre[i] += s[i] / float64(len(samples))
		}
	}
	for _, s := range samples {
		size += s.minus(centre).norm() / float64(len(samples))
	}
	if size < 1 {
		return Compass{}, quad.Faultf("not-turned", "", "the compass was not turned: all samples are one")
	}
	weights := make([]float64, len(samples))
	for i := range weights {
		weights[i] = 1
	}
	c, ok := Compass{}, false
	for range rounds {
		next, solved := ellipsoid(samples, weights, centre, size)
		if !solved {
			break
		}
		moved := next.Offset.minus(c.Offset).norm()
		c, ok = next, true
		if !c.weigh(samples, weights) || moved < 1e-6*size {
			break
		}
	}
	if !ok {
		return Compass{}, quad.Faultf("no-sphere", "", "the samples lie on no ellipsoid: turn it through every direction, away from metal and currents")
	}
	c.Samples = len(samples)
	c.cover(samples, weights)
	if c.Covered < leastCovered {
		return c, quad.Faultf("one-sided", "", "only %.0f %% of all directions were seen; the far side would be a guess. Turn its other sides to the north too", 100*c.Covered)
	}
	c.OffsetWithin = c.jackknife(samples, weights, centre, size)
	return c, nil
}

// ellipsoid by weighted linear least squares: q11 x² + q22 y² + q33 z² + 2 q12 xy + 2 q13 xz + 2 q23 yz + 2 n·x = 1, in samples less a centre and over
// a size, so that all terms are alike.
func ellipsoid(samples []Vector, weights []float64, centre Vector, size float64) (Compass, bool) {
	design, one := mat.NewDense(len(samples), 9, nil), mat.NewVecDense(len(samples), nil)
	for i, s := range samples {
		p, w := s.minus(centre).over(size), math.Sqrt(weights[i])
		x, y, z := p[0], p[1], p[2]
		design.SetRow(i, []float64{w * x * x, w * y * y, w * z * z, w * 2 * x * y, w * 2 * x * z, w * 2 * y * z, w * 2 * x, w * 2 * y, w * 2 * z})
		one.SetVec(i, w)
	}
	var v mat.VecDense
	if err := v.SolveVec(design, one); err != nil {
		return Compass{}, false
	}
	q := mat.NewSymDense(3, []float64{v.AtVec(0), v.AtVec(3), v.AtVec(4), v.AtVec(3), v.AtVec(1), v.AtVec(5), v.AtVec(4), v.AtVec(5), v.AtVec(2)})
	n := mat.NewVecDense(3, []float64{-v.AtVec(6), -v.AtVec(7), -v.AtVec(8)})
	var at mat.VecDense
	if err := at.SolveVec(q, n); err != nil {
		return Compass{}, false
	}
	// (p - at)ᵀ Q (p - at) = 1 + atᵀ Q at
	level := 1 + mat.Inner(&at, q, &at)
	q.ScaleSym(1/level, q)
	var eigen mat.EigenSym
	if !eigen.Factorize(q, true) {
		return Compass{}, false
	}
	values := eigen.Values(nil)
	var turn mat.Dense
	eigen.VectorsTo(&turn)
	radius := 1.0 // of the sphere with the ellipsoid's volume
	for _, x := range values {
		if !(x > 1e-9) {
			return Compass{}, false
		}
		radius *= math.Pow(x, -1.0/6)
	}
	out := Compass{Field: radius * size}
	for i := range 3 {
		out.Offset[i] = centre[i] + size*at.AtVec(i)
		for j := range 3 {
			for k, x := range values {
				out.Matrix[i][j] += turn.At(i, k) * math.Sqrt(x) * radius * turn.At(j, k)
			}
		}
	}
	return out, true
}

// Corrected sample: on the sphere if it was on the ellipsoid.
func (c *Compass) Corrected(s Vector) Vector {
	d, out := s.minus(c.Offset), Vector{}
	for i := range 3 {
		out[i] = dot(c.Matrix[i], d)
	}
	return out
}

// weigh samples by how far they are from the sphere, and sets residual and outliers; false where all of them are on it.
func (c *Compass) weigh(samples []Vector, weights []float64) bool {
	far := make([]float64, len(samples))
	for i, s := range samples {
		far[i] = math.Abs(c.Corrected(s).norm() - c.Field)
	}
	sigma := 1.4826 * median(far)
	c.Outliers, c.Residual = 0, 0
	counted := 0.0
	for i, d := range far {
		u := 0.0
		if sigma > 0 {
			u = d / (outlier * sigma)
		}
		if weights[i] = 0; u < 1 {
			weights[i] = (1 - u*u) * (1 - u*u)
			c.Residual += d * d
			counted++
		} else {
			c.Outliers++
		}
	}
	c.Residual = math.Sqrt(c.Residual / max(1, counted))
	return sigma > 1e-9*c.Field
}

// directions evenly over the sphere, by the golden angle.
var directions = func() []Vector {
	const n = 60
	out := make([]Vector, n)
	for i := range n {
		z := 1 - 2*(float64(i)+0.5)/n
		r, at := math.Sqrt(1-z*z), float64(i)*math.Pi*(3-math.Sqrt(5))
		out[i] = Vector{r * math.Cos(at), r * math.Sin(at), z}
	}
	return out
}()

// reaches is how far a sample covers around itself, deg: the directions stand about 25° apart.
const reaches = 18.0

func (c *Compass) cover(samples []Vector, weights []float64) {
	c.Missing = []Vector{}
	for _, d := range directions {
		near := false
		for i, s := range samples {
			if weights[i] > 0 && dot(c.Corrected(s), d) > math.Cos(reaches*math.Pi/180)*c.Corrected(s).norm() {
				near = true
				break
			}
		}
		if !near {
			c.Missing = append(c.Missing, d)
		}
	}
	c.Covered = 1 - float64(len(c.Missing))/float64(len(directions))
}

// jackknife of the offset, each time without one of ten stretches of the run: neighbours are no independent samples, stretches nearly are.
func (c *Compass) jackknife(samples []Vector, weights []float64, centre Vector, size float64) float64 {
	const parts = 10
	var found []Vector
	for leave := range parts {
		from, to := leave*len(samples)/parts, (leave+1)*len(samples)/parts
		some := append(append([]Vector{}, samples[:from]...), samples[to:]...)
		theirs := append(append([]float64{}, weights[:from]...), weights[to:]...)
		if fit, ok := ellipsoid(some, theirs, centre, size); ok {
			found = append(found, fit.Offset)
		}
	}
	sum := 0.0
	for _, f := range found {
		d := f.minus(c.Offset).norm()
		sum += d * d
	}
	return math.Sqrt(sum * (parts - 1) / parts)
}

// HeadingWithin is the most that a heading errs by (deg) where the field is wrong by some µT in the worst direction, at a place with a horizontal field.
func HeadingWithin(wrong, horizontal float64) float64 {
	return degreesOf(math.Asin(min(1, math.Abs(wrong)/horizontal)))
}

func median(list []float64) float64 {
	sorted := append([]float64{}, list...)
	slices.Sort(sorted)
	n := len(sorted)
	if n == 0 {
		return 0
	}
	return (sorted[(n-1)/2] + sorted[n/2]) / 2
}
