package senses

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/stat"

	"vividperch/core/quad"
)

// Laid is how far an accelerometer was laid on its six faces, and what that comes to.
type Laid struct {
	Faces   []Face     `json:"faces"` // seen, in the order of [FaceNames]
	Missing []FaceName `json:"missing"`
	Fit     *SixFaces  `json:"fit,omitempty"`
	// Within is by how much an offset would differ by another run, one sigma, g.
	Within  float64        `json:"within" unit:"g"`
	Reading *quad.FacesRun `json:"reading,omitempty"`
	// Next is what to do now, or what would better it most.
	Next string `json:"next"`
}

// Of the six faces: still for so many samples it counts as laid down; off by more than these, what it shows of level and lean is not to be leaned on.
const (
	laidLeast     = 12
	lettingGo     = 4   // samples
	FaceOffset    = 0.3 // m/s², 1.7° of level
	FaceScale     = 3.0 // %
	FaceCross     = 3.0 // %
	FacesMost     = 20_000
	gravity       = 9.80665
	stirsTellable = 0.008 // g from where on more rest would better the figures
)

var facing6 = map[FaceName]string{"nose": "on its nose", "tail": "on its tail", "right": "on its right side", "left": "on its left side", "belly": "on its feet", "back": "on its back"}

// LaidOnFaces recognises the attitudes in a run of samples, in g, in any order: wherever it lay still for a while. Of one that it was laid on twice the calmer
// counts. What cannot be samples is a Fault.
func LaidOnFaces(samples []Vector) (Laid, error) {
	if len(samples) > FacesMost {
		return Laid{}, quad.Faultf("too-many", "", "more than %d samples; a minute is enough", FacesMost)
	}
	for _, s := range samples {
		if !s.finite() || s.norm() > 50 {
			return Laid{}, quad.Faultf("not-a-number", "", "holds what no accelerometer shows at rest")
		}
	}
	seen := map[FaceName]Face{}
	counts := map[FaceName]int{}
	for i := 0; i+laidLeast <= len(samples); {
		end := i + laidLeast
		if !still(samples[i:end]) {
			i++
			continue
		}
		for end < len(samples) && samples[end].minus(samples[end-1]).norm() < 3*restless && still(samples[end-laidLeast+1:end+1]) {
			end++
		}
		// Its first moments are those in which the hand lets go.
		if f, err := FaceOf(samples[min(i+lettingGo, end-10):end]); err == nil {
			if was, twice := seen[f.Name]; !twice || f.Stirs < was.Stirs {
				seen[f.Name], counts[f.Name] = f, end-i
			}
		}
		i = end
	}
	out := Laid{Faces: []Face{}, Missing: []FaceName{}}
	worst := Face{}
	variance := 0.0
	for _, name := range FaceNames {
		f, there := seen[name]
		if !there {
			out.Missing = append(out.Missing, name)
			continue
		}
		out.Faces = append(out.Faces, f)
		if f.Stirs > worst.Stirs {
			worst = f
		}
		variance += f.Stirs * f.Stirs / float64(counts[name])
	}
	if len(out.Missing) > 0 {
		out.Next = "Lay it " + facing6[out.Missing[0]] + ", and leave it for two seconds."
		return out, nil
	}
	fit, err := FitFaces(out.Faces)
	if err != nil {
		return Laid{}, err
	}
	out.Fit = &fit
	// An offset along one axis is the mean over the faces: of a sum with the same share of each.
	out.Within = math.Sqrt(variance) / 6
	r := quad.FacesRun{Left: round3(gravity * fit.Left)}
	for i := range 3 {
		r.Offset = max(r.Offset, round3(gravity*math.Abs(fit.Offset[i])))
		r.Scale = max(r.Scale, math.Round(1000*math.Abs(math.Abs(fit.Scale[i])-1))/10)
	}
	r.Cross = math.Round(1000*fit.Cross) / 10
	out.Reading = &r
	switch {
	case worst.Stirs > stirsTellable:
		out.Next = "What would better it most: lay it " + facing6[worst.Name] + " again and keep your hand off, it stirred by " + quad.Quantity(round3(gravity*worst.Stirs), "m/s²") + "."
	case fit.Cross > FaceCross/100:
		out.Next = "What would better it most: a box with square sides to lay it against. Its axes show " + quad.Quantity(r.Cross, "%") + " of each other."
	}
	return out, nil
}

// InGravities turns samples that are in m/s² into g, where they are: at rest they are about ten.
func InGravities(samples []Vector) {
	var lengths []float64
	for _, s := range samples {
		lengths = append(lengths, s.norm())
	}
	slices.Sort(lengths)
	if n := len(lengths); n == 0 || !(lengths[n/2] > 5) {
		return
	}
	for i := range samples {
		samples[i] = samples[i].over(gravity)
	}
}

func still(samples []Vector) bool {
	var axis [3][]float64
	for _, s := range samples {
		for i := range 3 {
			axis[i] = append(axis[i], s[i])
		}
	}
	for _, a := range axis {
		if stat.StdDev(a, nil) > restless {
			return false
		}
	}
	return true
}

func round3(x float64) float64 { return math.Round(x*1e3) / 1e3 }
