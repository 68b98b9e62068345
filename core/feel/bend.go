package feel

import (
	"math"

	"vividperch/core/quad"
)

// mostRate is the fastest rotation that a curve may ask for, deg/s: no gyro measures more.
const mostRate = 2000

// Handle is by what a curve is held when it is bent.
type Handle string

const (
	HandleCentre Handle = "centre" // how steeply it begins
	HandleShape  Handle = "shape"  // where it passes half way out
	HandlePeak   Handle = "peak"   // where it ends
)

// Enum of the handles.
func (Handle) Enum() []string {
	return []string{string(HandleCentre), string(HandleShape), string(HandlePeak)}
}

// Where on the stick's way the handles sit.
const (
	CentreAt = 0.2
	ShapeAt  = 0.6
)

// Place of a handle on the stick's way, 0..1.
func (h Handle) Place() float64 {
	switch h {
	case HandleCentre:
		return CentreAt
	case HandleShape:
		return ShapeAt
	}
	return 1
}

// Bent are the rates once a handle of their curve is drawn to a rotation in deg/s; every handle stays at its place on the stick's way. Rates come out whole in
// deg/s and bends in hundredths. held says what kept the handle from going all the way, and is empty where it went.
//
//   - The peak is where the curve ends. Where it would come below the centre, it stops there.
//   - The centre goes so that the curve passes through the handle. A straight-expo curve begins as its bend has it, so that this is bent.
//   - The shape is the bend: all three families are straight lines in it.
func Bent(family quad.RateFamily, r quad.Rates, h Handle, rate float64) (out quad.Rates, held string) {
	if math.IsNaN(rate) {
		return r, "that is no rotation"
	}
	if h != HandlePeak && r.Peak < 1 {
		return r, "a curve without a peak has nothing to bend"
	}
	x, most := h.Place(), r.Peak
	if h == HandlePeak {
		most = mostRate
	}
	wanted := rate
	if rate = max(0, min(most, rate)); rate != wanted {
		held = "off the picture: it stays between 0 and " + quad.Quantity(most, "deg/s")
	}
	switch {
	case h == HandlePeak:
		if r.Peak = rate; family != quad.StraightExpo && r.Peak < r.Centre {
			r.Peak, held = r.Centre, "the peak is no lower than the centre, "+quad.Quantity(r.Centre, "deg/s")
		}
	case h == HandleCentre && family == quad.Compounding:
		// rate = c x'/(1 - (1 - c/m) x), solved for the centre c.
		bent := x * (1 - r.Bend + r.Bend*x*x*x)
		r.Centre, held = clamp(rate*(1-x)/(bent-rate*x/r.Peak), 1, r.Peak, held, "the centre")
	case h == HandleCentre && family == quad.CentrePeak:
		k := x * (x*x*x*x*x*r.Bend + x*(1-r.Bend))
		r.Centre, held = clamp((rate-r.Peak*k)/(x-k), 1, r.Peak, held, "the centre")
	default:
		flat, full := r, r
		flat.Bend, full.Bend = 0, 1
		from, to := Rate(family, flat, x), Rate(family, full, x)
		if from == to {
			return r, "this curve is a straight line, whatever its bend"
		}
		bend := (rate - from) / (to - from)
		if held == "" && (bend < 0 || bend > 1) {
			held = "the bend goes from 0 to 1: between " + quad.Quantity(math.Round(to), "") + " and " + quad.Quantity(math.Round(from), "deg/s") + " there"
		}
		r.Bend = max(0, min(1, bend))
	}
	return rounded(family, r), held
}

// clamp x between low and high, with what is said of it where nothing was said before.
func clamp(x, low, high float64, held, what string) (float64, string) {
	said := ""
	switch {
	case x > high:
		x, said = high, what+" is no higher than the peak, "+quad.Quantity(high, "deg/s")
	case !(x >= low):
		x, said = low, what+" is as soft as it gets"
	}
	if held == "" {
		held = said
	}
	return x, held
}

// Sound says what is wrong with the rates of one axis as a curve, as a [quad.Fault] at a path: a peak below the centre bends it back, and figures out of range are
// none.
func Sound(family quad.RateFamily, r quad.Rates, at quad.Path) error {
	for _, x := range []struct {
		figure float64
		most   float64
		name   quad.Path
		words  string
	}{{r.Centre, mostRate, "centre", "the centre"}, {r.Peak, mostRate, "peak", "the peak"}, {r.Bend, 1, "bend", "the bend"}} {
		if !(x.figure >= 0 && x.figure <= x.most) {
			return quad.Faultf("out-of-range", string(at+"."+x.name), "%s lies between 0 and %s", x.words, quad.Number(x.most))
		}
	}
	if family != quad.StraightExpo && r.Peak < r.Centre {
		return quad.Faultf("peak-below-centre", string(at+".peak"), "the peak, %s, is below the centre, %s: the curve would bend back", quad.Quantity(r.Peak, "deg/s"), quad.Quantity(r.Centre, "deg/s"))
	}
	return nil
}
