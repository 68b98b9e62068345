package feel

import (
	"math"

	"gonum.org/v1/gonum/mat"

	"vividperch/core/quad"
)

// Slope of a curve at the centre of the stick: deg/s for the whole way of a stick, as the curve begins. It is what a hand feels as soft or nervous.
func Slope(family quad.RateFamily, r quad.Rates) float64 {
	switch family {
	case quad.Compounding:
		return r.Centre * (1 - r.Bend)
	case quad.StraightExpo:
		return r.Peak * (1 - r.Bend)
	}
	return r.Centre
}

// Lives is how much a place on the stick's way counts when one curve is put in the place of another. Hands are about the centre nearly all the time, and at
// the stop for a flip: a bell about the centre that has fallen to a third at four tenths of the way, a narrow one at the stop, over an even floor.
func Lives(x float64) float64 {
	return 0.2 + math.Exp(-x*x/(0.4*0.4)) + math.Exp(-(1-x)*(1-x)/(0.05*0.05))
}

// converted is at how many places of a stick's way two curves are held against each other.
const converted = 100

// Apart is where two curves lie farthest apart.
type Apart struct {
	Stick float64 `json:"stick" unit:"1"`     // 0..1
	By    float64 `json:"by" unit:"deg/s"`    // the second above the first
	Share float64 `json:"share" unit:"1"`     // of the first one's rotation at full stick
	Mean  float64 `json:"mean" unit:"deg/s"`  // weighted, root of the mean square
	From  float64 `json:"from" unit:"deg/s"`  // the first there
	Slope float64 `json:"slope" unit:"deg/s"` // at the centre, the second above the first
}

// Between two curves.
func Between(family quad.RateFamily, r quad.Rates, other quad.RateFamily, o quad.Rates) Apart {
	out := Apart{Slope: Slope(other, o) - Slope(family, r)}
	sum, weights := 0.0, 0.0
	for i := range converted + 1 {
		x := float64(i) / converted
		was := Rate(family, r, x)
		d := Rate(other, o, x) - was
		if math.Abs(d) > math.Abs(out.By) {
			out.Stick, out.By, out.From = x, d, was
		}
		sum, weights = sum+Lives(x)*d*d, weights+Lives(x)
	}
	out.Mean = math.Sqrt(sum / weights)
	if end := Rate(family, r, 1); end > 0 {
		out.Share = math.Abs(out.By) / end
	}
	return out
}

// Convert puts a curve of one family into another: the one that is nearest where sticks live, by least squares weighted with [Lives]. Rates come out whole in
// deg/s, bends in hundredths, as boards hold them. Within its own family a curve stays as it is.
//
// With the right combinations of centre, peak and bend every family is a sum of simple curves none of which is subtracted: of x, x² and x⁶ for centre-peak, of
// x and x³ for straight-expo, and, for a given s, of x and x⁴ over 1 - s x for compounding. The best of them is found exactly, whichever of them are wanted, and
// the best s by halving.
func Convert(family quad.RateFamily, r quad.Rates, to quad.RateFamily) (quad.Rates, Apart) {
	out := r
	if family != to {
		out = nearest(func(x float64) float64 { return Rate(family, r, x) }, to)
	}
	return out, Between(family, r, to, out)
}

// nearest curve of a family to any curve over 0..1.
func nearest(curve func(float64) float64, family quad.RateFamily) quad.Rates {
	switch family {
	case quad.StraightExpo:
		a, _ := sumOf(curve, func(x float64) float64 { return x }, func(x float64) float64 { return x * x * x })
		peak := a[0] + a[1]
		return rounded(family, quad.Rates{Peak: peak, Bend: share(a[1], peak)})
	case quad.Compounding:
		try := func(s float64) (quad.Rates, float64) {
			a, off := sumOf(curve, func(x float64) float64 { return x / (1 - s*x) }, func(x float64) float64 { return x * x * x * x / (1 - s*x) })
			centre := a[0] + a[1]
			return quad.Rates{Centre: centre, Peak: centre / (1 - s), Bend: share(a[1], centre)}, off
		}
		s := least(0, 0.97, func(s float64) float64 { _, off := try(s); return off })
		out, _ := try(s)
		return rounded(family, out)
	}
	a, _ := sumOf(curve, func(x float64) float64 { return x }, func(x float64) float64 { return x * x }, func(x float64) float64 { return x * x * x * x * x * x })
	return rounded(family, quad.Rates{Centre: a[0], Peak: a[0] + a[1] + a[2], Bend: share(a[2], a[1]+a[2])})
}

func share(part, whole float64) float64 {
	if whole <= 0 {
		return 0
	}
	return part / whole
}

// rounded to what boards hold. The centre of a straight-expo curve follows from its peak and bend.
func rounded(family quad.RateFamily, r quad.Rates) quad.Rates {
	r = quad.Rates{Centre: math.Round(r.Centre), Peak: math.Round(min(r.Peak, mostRate)), Bend: math.Round(100*max(0, min(1, r.Bend))) / 100}
	if family == quad.StraightExpo {
		r.Centre = math.Round(Slope(family, r))
	}
	return r
}

// sumOf the parts, none of them negative, that comes nearest a curve, and the weighted square of what is left: the best over every choice of parts, each by
// the normal equations.
func sumOf(curve func(float64) float64, parts ...func(float64) float64) (best []float64, off float64) {
	n := len(parts)
	gram, right := mat.NewSymDense(n, nil), make([]float64, n)
	whole := 0.0
	values := make([]float64, n)
	for i := range converted + 1 {
		x := float64(i) / converted
		w, y := Lives(x), curve(x)
		for k, p := range parts {
			values[k] = p(x)
		}
		for k := range n {
			for l := k; l < n; l++ {
				gram.SetSym(k, l, gram.At(k, l)+w*values[k]*values[l])
			}
			right[k] += w * values[k] * y
		}
		whole += w * y * y
	}
	best, off = make([]float64, n), whole
	for chosen := 1; chosen < 1<<n; chosen++ {
		var at []int
		for k := range n {
			if chosen>>k&1 == 1 {
				at = append(at, k)
			}
		}
		a, b := mat.NewSymDense(len(at), nil), mat.NewVecDense(len(at), nil)
		for i, k := range at {
			b.SetVec(i, right[k])
			for l := i; l < len(at); l++ {
				a.SetSym(i, l, gram.At(k, at[l]))
			}
		}
		var c mat.Cholesky
		var x mat.VecDense
		if !c.Factorize(a) || c.SolveVecTo(&x, b) != nil {
			continue
		}
		left, fits := whole, true
		for i := range at {
			left -= x.AtVec(i) * b.AtVec(i)
			fits = fits && x.AtVec(i) >= 0
		}
		if fits && left < off {
			off = left
			for k := range best {
				best[k] = 0
			}
			for i, k := range at {
				best[k] = x.AtVec(i)
			}
		}
	}
	return best, off
}

// least is where a function that falls and then rises is least between two places, by the golden section.
func least(low, high float64, f func(float64) float64) float64 {
	const golden = 0.6180339887498949
	a, b := high-golden*(high-low), low+golden*(high-low)
	fa, fb := f(a), f(b)
	for range 40 {
		if fa < fb {
			high, b, fb = b, a, fa
			a = high - golden*(high-low)
			fa = f(a)
		} else {
			low, a, fa = a, b, fb
			b = low + golden*(high-low)
			fb = f(b)
		}
	}
	return (low + high) / 2
}
