package senses

import (
	"math"

	"vividperch/core/quad"
)

// Turning is how far a compass was turned through all directions, to be drawn while it is.
type Turning struct {
	Samples int              `json:"samples"`
	Fit     *Compass         `json:"fit,omitempty"`
	Reading *quad.CompassRun `json:"reading,omitempty"` // what can be kept
	Says    string           `json:"says"`              // what keeps it from being a fit; nothing where it is one
	Seen    []Dot            `json:"seen"`
	Missing []Dot            `json:"missing"`
	// Next is how to hold it so that most of what is missing comes in; nothing where nothing is.
	Next string `json:"next"`
	// Heading is by how much a heading may be off by what the fit leaves open, at a place with a horizontal field.
	Heading float64 `json:"heading" unit:"deg"`
}

// Dot is a direction of the field as the quad sees it, on one of two discs: the belly's half and the back's. The nose is up, the right side right; equal
// areas of the sphere are equal areas of the discs, whose radius is 1.
type Dot struct {
	Back bool    `json:"back"`
	X    float64 `json:"x" unit:"1"`
	Y    float64 `json:"y" unit:"1"`
}

func dotOf(v Vector) Dot {
	n := v.norm()
	if n == 0 {
		return Dot{}
	}
	k := math.Sqrt(1/(1+math.Abs(v[2]/n))) / n // Lambert's azimuthal projection, a half of the sphere on a disc of radius 1
	round := func(x float64) float64 { return math.Round(x*1000) / 1000 }
	return Dot{Back: v[2] < 0, X: round(v[1] * k), Y: round(v[0] * k)}
}

// drawn dots at most.
const drawn = 300

// TurnedEveryWay is what samples of a compass come to, in µT and in the compass's axes, for a place with a horizontal field. What is no fit yet says why, and
// how to go on.
func TurnedEveryWay(samples []Vector, horizontal float64) Turning {
	out := Turning{Samples: len(samples), Seen: []Dot{}, Missing: []Dot{}}
	fit, err := FitCompass(samples)
	centre := fit
	if fit.Samples == 0 { // none at all: by the middle between the ends
		low, high := Vector{math.Inf(1), math.Inf(1), math.Inf(1)}, Vector{math.Inf(-1), math.Inf(-1), math.Inf(-1)}
		for _, s := range samples {
			for i := range 3 {
				low[i], high[i] = math.Min(low[i], s[i]), math.Max(high[i], s[i])
			}
		}
		centre = Compass{Matrix: [3][3]float64{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}}}
		if len(samples) > 0 && low.finite() && high.finite() {
			for i := range 3 {
				centre.Offset[i] = (low[i] + high[i]) / 2
			}
			weights := make([]float64, len(samples))
			for i := range weights {
				weights[i] = 1
			}
			centre.cover(samples, weights)
		}
	}
	for i := 0; i < len(samples); i += max(1, len(samples)/drawn) {
		if v := centre.Corrected(samples[i]); v.finite() {
			out.Seen = append(out.Seen, dotOf(v))
		}
	}
	for _, m := range centre.Missing {
		out.Missing = append(out.Missing, dotOf(m))
	}
	out.Next = next(centre.Missing)
	if err != nil {
		out.Says = quad.Explain(err)
		return out
	}
	out.Fit = &fit
	round := func(x float64) float64 { return math.Round(x*100) / 100 }
	out.Reading = &quad.CompassRun{Field: round(fit.Field), Residual: round(fit.Residual), Covered: math.Round(100 * fit.Covered)}
	out.Heading = HeadingWithin(math.Hypot(2*fit.OffsetWithin, fit.Residual/math.Sqrt(float64(max(1, fit.Samples)))), horizontal)
	return out
}

// next is how to hold it for the direction that most of the missing ones lie around.
func next(missing []Vector) string {
	best, most := Vector{}, 0
	for _, m := range missing {
		n := 0
		for _, o := range missing {
			if dot(m, o) > math.Cos(math.Pi/4) {
				n++
			}
		}
		if n > most {
			best, most = m, n
		}
	}
	if most == 0 {
		return ""
	}
	return "Hold it with its " + quad.And(facesAlong(best)) + " along the field, and turn it about that: to the north and, north of the equator, down."
}

// facesAlong a direction of the body: those that it points at by more than a third.
func facesAlong(v Vector) []string {
	ends := [3][2]string{{"nose", "tail"}, {"right side", "left side"}, {"belly", "back"}}
	var out []string
	for i, x := range v {
		switch {
		case x > 0.37:
			out = append(out, ends[i][0])
		case x < -0.37:
			out = append(out, ends[i][1])
		}
	}
	return out
}

// TurnedOnMount says whether a heading that is off (deg) is that of a compass turned on its mount in a step of 45 degrees, and what to tell the board
// then, told as it is now.
func TurnedOnMount(off, told float64) (tell float64, turned bool) {
	steps := 45 * math.Round(off/45)
	if steps == 0 || math.Abs(off-steps) >= 15 {
		return 0, false
	}
	return math.Mod(told+steps+720, 360), true
}

// InHover is it as a reading, for the current of a hover, A.
func (i Interference) InHover(hover float64) quad.Disturbance {
	round := func(x float64) float64 { return math.Round(x*100) / 100 }
	return quad.Disturbance{AtHover: round(i.Length * hover), Within: round(i.Within * hover)}
}
