package senses

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/stat"
	"gonum.org/v1/gonum/stat/distuv"

	"vividperch/core/quad"
)

// Count of satellites seen after an equal wait, with the video on or off.
type Count struct {
	Satellites float64 `json:"satellites"`
	VideoOn    bool    `json:"videoOn"`
}

// Compared counts with and without the video.
type Compared struct {
	Pairs int     `json:"pairs"`
	Lost  float64 `json:"lost"` // to the video, mean of the pairs; negative where there are more with it
	// Least and Most are the 95 % interval of it; nil with fewer than two pairs.
	Least *float64 `json:"least,omitempty"`
	Most  *float64 `json:"most,omitempty"`
	Tells bool     `json:"tells"` // the interval leaves 0 out
}

// countsTo is how sure a difference of counts can be at best, one sigma: they are whole, and one satellite more or less comes and goes.
const countsTo = 0.6

// Alternated compares counts that were taken by turns at one spot. Counts climb by themselves after power-on, so that each with the video is compared
// with the mean of its neighbours without it, before and after: what climbs steadily falls out. Fewer than two alternations are a Fault.
func Alternated(list []Count) (Compared, error) {
	for i, c := range list {
		if !(c.Satellites >= 0 && c.Satellites <= 80) {
			return Compared{}, quad.Faultf("bad-count", "", "no sky has %s satellites", quad.Number(c.Satellites))
		}
		if i > 0 && c.VideoOn == list[i-1].VideoOn {
			return Compared{}, quad.Faultf("not-alternated", "", "the video must change from each count to the next")
		}
	}
	var lost []float64
	for i := 1; i+1 < len(list); i++ {
		if d := (list[i-1].Satellites+list[i+1].Satellites)/2 - list[i].Satellites; list[i].VideoOn {
			lost = append(lost, d)
		} else {
			lost = append(lost, -d)
		}
	}
	if len(lost) < 2 {
		return Compared{}, quad.Faultf("too-few", "", "alternate at least twice: off, on, off, on")
	}
	mean, sigma := stat.MeanStdDev(lost, nil)
	sigma = math.Max(sigma, countsTo) // counts that happen to agree are no surer than counts are
	// Neighbours share a count, so that they are worth fewer than they are: half of them, and one.
	worth := float64(len(lost)+1) / 2
	half := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: max(1, worth-1)}.Quantile(0.975) * sigma / math.Sqrt(worth)
	least, most := mean-half, mean+half
	return Compared{Pairs: len(lost), Lost: mean, Least: &least, Most: &most, Tells: least > 0 || most < 0}, nil
}

// Trial is it as a reading; only of what has an interval.
func (c Compared) Trial() quad.VideoTrial {
	round := func(x float64) float64 { return math.Round(x*10) / 10 }
	t := quad.VideoTrial{Pairs: c.Pairs, Lost: round(c.Lost)}
	if c.Least != nil && c.Most != nil {
		t.Least, t.Most = round(*c.Least), round(*c.Most)
	}
	return t
}

// Words of what it tells.
func (c Compared) Words() string {
	t := c.Trial()
	within := quad.Number(t.Least) + " to " + quad.Number(t.Most) + ", 95 %"
	switch {
	case !c.Tells && c.Pairs < 4:
		return "It does not tell yet: " + within + ". Each pair more narrows it."
	case !c.Tells:
		return "No difference that these counts could show: " + within + "."
	case c.Lost > 0:
		return "The video costs " + satellites(t.Lost) + ": " + within + "."
	}
	return "There are " + quad.Number(-t.Lost) + " more with the video on: " + quad.Number(-t.Most) + " to " + quad.Number(-t.Least) + ", 95 %."
}

func satellites(n float64) string {
	if n == 1 {
		return "1 satellite"
	}
	return quad.Number(n) + " satellites"
}

// RangingError of a satellite receiver, m, one sigma, by default.
const RangingError = 2.5

// HorizontalWithin is the radius (m) that 95 % of its positions lie in: twice the horizontal dilution times the error of one range.
func HorizontalWithin(dilution float64) float64 { return 2 * dilution * RangingError }

// DilutionFor is the greatest horizontal dilution with which it comes down within a radius, m.
func DilutionFor(radius float64) float64 { return radius / (2 * RangingError) }

// LeastSatellites for a flight that leans on them: four solve, four may be lost.
const LeastSatellites = 8

// HeightSample at a time since the first, s, m.
type HeightSample struct {
	At     float64 `json:"at" unit:"s"`
	Height float64 `json:"height" unit:"m"`
}

// Heights of a barometer at rest.
type Heights struct {
	Noise float64 `json:"noise" unit:"m"`    // one sigma about the drift
	Drift float64 `json:"drift" unit:"m"`    // over five minutes, by the median of all slopes
	Jump  float64 `json:"jump" unit:"m"`     // at the spin-up; 0 where none was told
	Spans float64 `json:"spans" unit:"s"`    // of the run
	Rate  float64 `json:"rate" unit:"m/min"` // of the drift
	Spun  bool    `json:"spun"`              // a spin-up was told, and is inside the run
}

// AtRest judges heights that were recorded at rest; spun is when the motors were spun up, or a negative time. Two minutes are the least.
func AtRest(list []HeightSample, spun float64) (Heights, error) {
	if len(list) < 60 || len(list) > MostSamples {
		return Heights{}, quad.Faultf("bad-run", "", "%d samples; 60 to %d tell it", len(list), MostSamples)
	}
	for i, s := range list {
		switch {
		case math.IsNaN(s.Height) || math.Abs(s.Height) > 12000:
			return Heights{}, quad.Faultf("not-a-height", "", "holds what is no height")
		case i > 0 && !(s.At > list[i-1].At):
			return Heights{}, quad.Faultf("no-time", "", "the samples do not follow each other in time")
		}
	}
	out := Heights{Spans: list[len(list)-1].At - list[0].At}
	if out.Spans < 120 {
		return Heights{}, quad.Faultf("too-short", "", "%.0f s; two minutes are the least, five are better", out.Spans)
	}
	still := list
	if spun > list[0].At && spun < list[len(list)-1].At {
		cut, _ := slices.BinarySearchFunc(list, spun, func(s HeightSample, at float64) int { return cmp.Compare(s.At, at) })
		if out.Spun = cut >= 30 && len(list)-cut >= 10; out.Spun {
			still = list[:cut]
		}
	}
	// The median of the slopes between the thirds: one gust through the door changes it little.
	third := len(still) / 3
	var slopes []float64
	for i := range third {
		a, b := still[i], still[len(still)-third+i]
		slopes = append(slopes, (b.Height-a.Height)/(b.At-a.At))
	}
	slope := median(slopes)
	out.Drift, out.Rate = slope*300, slope*60
	over := func(s HeightSample) float64 { return s.Height - slope*s.At }
	var rest []float64
	for _, s := range still {
		rest = append(rest, over(s))
	}
	level := median(rest)
	for i := range rest {
		rest[i] = math.Abs(rest[i] - level)
	}
	out.Noise = 1.4826 * median(rest)
	if out.Spun {
		var after []float64
		for _, s := range list[len(still):] {
			after = append(after, over(s))
		}
		out.Jump = median(after) - level
	}
	return out, nil
}

// Reading of them.
func (h Heights) Reading() quad.HeightRest {
	round := func(x float64) float64 { return math.Round(x*100) / 100 }
	return quad.HeightRest{Noise: round(h.Noise), Drift: round(h.Drift), Jump: round(h.Jump)}
}

// Current through the wires near a compass, A, and what it showed then with the quad standing still, µT.
type Current struct {
	Amperes float64 `json:"amperes"`
	Shown   Vector  `json:"shown" unit:"µT"`
}

// Interference of the motors' current with a compass.
type Interference struct {
	PerAmpere Vector  `json:"perAmpere" unit:"µT/A"`
	Within    float64 `json:"within" unit:"µT/A"` // 95 %, of its length
	Length    float64 `json:"length" unit:"µT/A"`
}

// Disturbs fits what a compass shows over the current, axis by axis. The current must have changed by an ampere at the least.
func Disturbs(list []Current) (Interference, error) {
	if len(list) < 5 || len(list) > MostSamples {
		return Interference{}, quad.Faultf("bad-run", "", "%d samples; 5 to %d tell it", len(list), MostSamples)
	}
	var amperes []float64
	for _, c := range list {
		if !c.Shown.finite() || !(c.Amperes >= 0 && c.Amperes <= 500) {
			return Interference{}, quad.Faultf("not-a-current", "", "holds what is no current, or no field")
		}
		amperes = append(amperes, c.Amperes)
	}
	if slices.Max(amperes)-slices.Min(amperes) < 1 {
		return Interference{}, quad.Faultf("no-current", "", "the current hardly changed; spin up, propellers off or strapped down")
	}
	out, variance := Interference{}, 0.0
	n, spreadOf := float64(len(list)), stat.Variance(amperes, nil)
	for axis := range 3 {
		var shown []float64
		for _, c := range list {
			shown = append(shown, c.Shown[axis])
		}
		offset, slope := stat.LinearRegression(amperes, shown, nil, false)
		out.PerAmpere[axis] = slope
		left := 0.0
		for i, a := range amperes {
			d := shown[i] - offset - slope*a
			left += d * d
		}
		variance += left / max(1, n-2) / (spreadOf * (n - 1))
	}
	out.Length = out.PerAmpere.norm()
	out.Within = distuv.StudentsT{Mu: 0, Sigma: 1, Nu: max(1, n-2)}.Quantile(0.975) * math.Sqrt(variance)
	return out, nil
}

// SkyJudged is a sky by both schools: by the count of its satellites, and by its dilution. Either may be content where the other is not.
type SkyJudged struct {
	Count    bool    `json:"count"`            // enough by count
	Least    int     `json:"least"`            // of them
	Within   float64 `json:"within" unit:"m"`  // of the true place in 95 of 100 cases, by dilution
	Allowed  float64 `json:"allowed" unit:"1"` // dilution that the place to land allows; 0 where nobody told its radius
	Dilution bool    `json:"dilution"`         // enough by dilution
	Words    string  `json:"words"`
}

// JudgeSky by both schools, for a place that is clear for a radius (m; 0 where nobody told).
func JudgeSky(s quad.Sky, clear float64) SkyJudged {
	j := SkyJudged{Count: s.Satellites >= LeastSatellites, Least: LeastSatellites, Within: round1(HorizontalWithin(s.Dilution))}
	limit := DilutionMost
	if clear > 0 {
		j.Allowed = round1(DilutionFor(clear))
		limit = min(limit, DilutionFor(clear))
	}
	j.Dilution = s.Dilution <= limit
	switch {
	case j.Count && j.Dilution:
		j.Words = "Both schools are content."
	case j.Count:
		j.Words = "A count alone would fly: they stand in one part of the sky, as behind a wall, and the place wanders."
	case j.Dilution:
		j.Words = "A dilution alone would fly: they stand well now, but one or two that it loses as it leans take its place away."
	default:
		j.Words = "Neither school would fly by it."
	}
	return j
}
