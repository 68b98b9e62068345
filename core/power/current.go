package power

import (
	"math"
	"slices"

	"vividperch/core/quad"
)

// ScaleKind is how a line's scale of a current sensor works.
type ScaleKind string

const (
	ScaleMultiplies ScaleKind = "multiplies" // amps for what the sensor gives: twice the scale shows twice the current
	ScaleDivides    ScaleKind = "divides"    // what the sensor gives for an ampere: twice the scale shows half
)

// Enum implements [quad.Enumeration].
func (ScaleKind) Enum() []string { return []string{string(ScaleMultiplies), string(ScaleDivides)} }

// Charged is one pack that was flown: what the board logged of it, and what the charger put back, mAh.
type Charged struct {
	Logged float64 `json:"logged" unit:"mAh" minimum:"0" maximum:"60000"`
	Put    float64 `json:"put" unit:"mAh" minimum:"0" maximum:"60000"`
	// Minutes that it was on; they matter where a model is corrected, whose idle current is known apart. 0 is not told.
	Minutes float64 `json:"minutes,omitempty" unit:"min" minimum:"0" maximum:"600"`
}

// without what was drawn at rest meanwhile, by an idle current in A.
func (c Charged) without(idle float64) Charged {
	rest := idle * 1000 * c.Minutes / 60
	return Charged{Logged: c.Logged - rest, Put: c.Put - rest}
}

// Scaled is a sensor's scale as charger figures have it, in the line's own unit.
type Scaled struct {
	Scale float64 `json:"scale" unit:"1"`
	Least float64 `json:"least" unit:"1"` // with 95 %, from how the packs differ; both are Scale where one pack alone was flown
	Most  float64 `json:"most" unit:"1"`
	// Spread of what single packs say, as a share (one sigma).
	Spread float64 `json:"spread" unit:"1"`
	Packs  int     `json:"packs"`
	// Ratios of single packs: charger over logged, each less what was drawn at rest.
	Ratios []float64 `json:"ratios" unit:"1"`
	Words  string    `json:"words"`
}

// leastCharged is the least that a pack must have given for its charger's figure to tell something, mAh: a charger tops up by as much on its own.
const leastCharged = 50.0

// GivesAtMost is the share of its capacity that has ever come out of a pack, or was put back into one: cells lose a little, and labels lie a little.
const GivesAtMost = 1.3

// ScaleBy the charger's figures of some packs: what the scale should be, from what it is (the line's own unit). A scale that multiplies grows by what the charger put back over what
// was logged, and one that divides shrinks by it. Figures are weighed by their size: of all packs together the sums count. capacity in mAh bounds what can have been put back; 0 is not told. idle in A is what a
// model without a sensor adds for itself: it is taken off both, for the minutes that each pack was on, and what is scaled is the rest.
func ScaleBy(kind ScaleKind, was float64, packs []Charged, capacity, idle float64) (*Scaled, error) {
	if was == 0 || math.IsNaN(was) || math.IsInf(was, 0) {
		return nil, quad.Faultf("no-scale", "scale", "say the scale that the board has now; 0 is none")
	}
	if len(packs) == 0 {
		return nil, quad.Faultf("no-packs", "packs", "note at least one pack: what was logged of it, and what the charger put back")
	}
	var logged, put float64
	var each, ratios []float64
	for i, p := range packs {
		switch {
		case !(p.Logged >= leastCharged) || !(p.Put >= leastCharged):
			return nil, quad.Faultf("too-little", "packs", "pack %d gave less than %s: a charger tops up by as much on its own", i+1, quad.Quantity(leastCharged, "mAh"))
		case capacity > 0 && p.Put > capacity*GivesAtMost:
			return nil, quad.Faultf("above-capacity", "packs", "pack %d: the charger says %s, and it holds %s; another pack, or two of them", i+1, quad.Quantity(p.Put, "mAh"), quad.Quantity(capacity, "mAh"))
		}
		if idle > 0 {
			if p.Minutes <= 0 {
				return nil, quad.Faultf("no-minutes", "packs", "pack %d: for how many minutes was it on? What it drew at rest is taken off", i+1)
			}
			if p = p.without(idle); !(p.Logged >= leastCharged) || !(p.Put >= leastCharged) {
				return nil, quad.Faultf("too-little", "packs", "pack %d: hardly more was drawn than at rest in that time", i+1)
			}
		}
		logged, put = logged+p.Logged, put+p.Put
		each, ratios = append(each, math.Log(p.Put/p.Logged)), append(ratios, p.Put/p.Logged)
	}
	by := func(ratio float64) float64 {
		if kind == ScaleDivides {
			return was / ratio
		}
		return was * ratio
	}
	out := &Scaled{Scale: by(put / logged), Packs: len(packs), Ratios: ratios}
	out.Least, out.Most = out.Scale, out.Scale
	if n := len(each); n > 1 {
		mean := 0.0
		for _, x := range each {
			mean += x / float64(n)
		}
		for _, x := range each {
			out.Spread += (x - mean) * (x - mean) / float64(n-1)
		}
		out.Spread = math.Sqrt(out.Spread)
		within := student95(n-1) * out.Spread / math.Sqrt(float64(n))
		ends := []float64{by(put / logged * math.Exp(-within)), by(put / logged * math.Exp(within))}
		out.Least, out.Most = slices.Min(ends), slices.Max(ends)
	}
	switch {
	case out.Packs == 1:
		out.Words = "One pack says so; three say how sure it is."
	case out.Spread > 0.08:
		out.Words = "The packs differ more than a sensor drifts: look at the charger's figures again."
	default:
		out.Words = "The packs agree."
	}
	return out, nil
}

// student95 is the 97.5 % quantile of Student's distribution for so many degrees of freedom, from its published table; beyond it that of the normal distribution.
func student95(freedom int) float64 {
	table := []float64{12.706, 4.303, 3.182, 2.776, 2.571, 2.447, 2.365, 2.306, 2.262, 2.228}
	if freedom <= len(table) {
		return table[freedom-1]
	}
	return 1.96 + 2.5/float64(freedom) // within 0.01 of it
}

// Drawn is a current that was read together with the output that made it.
type Drawn struct {
	Output float64 `json:"output" unit:"%" minimum:"0" maximum:"100"` // of the motors, as the board shows it; 0 is idle
	Amps   float64 `json:"amps" unit:"A" minimum:"0" maximum:"500"`
}

// CurrentModel is a board's estimate of the current where it has no sensor: I = Idle + Slope (u + Bend u²), with u the output from 0 to 1.
type CurrentModel struct {
	Idle  float64 `json:"idle" unit:"A"`
	Slope float64 `json:"slope" unit:"A"`
	Bend  float64 `json:"bend" unit:"1"`
	// Within is how far a reading lies from it, A (one sigma), as those it was made of do; where there are no more of them than figures to find, what reading them leaves open.
	Within float64 `json:"within" unit:"A"`
}

// At an output of u (0 to 1), A.
func (m CurrentModel) At(u float64) float64 { return m.Idle + m.Slope*(u+m.Bend*u*u) }

// A meter in the lead and a board's display are read to these.
const (
	readsAmps   = 0.03 // share
	readsOutput = 2.0  // % of output
)

// Band of the model at an output (0 to 1), A: what 95 % of readings lie within, from how well amps and output are read.
func (m CurrentModel) Band(u float64) (least, most float64) {
	i := m.At(u)
	slope := m.Slope * (1 + 2*m.Bend*u) * readsOutput / 100
	within := 2 * math.Sqrt(m.Within*m.Within+readsAmps*readsAmps*i*i+slope*slope)
	return math.Max(0, i-within), i + within
}

// Output is where the model has so many amps, 0 to 1; ok is false where it never has.
func (m CurrentModel) Output(amps float64) (u float64, ok bool) {
	if amps < m.Idle || m.At(1) < amps || m.Slope <= 0 {
		return 0, false
	}
	low, high := 0.0, 1.0
	for range 60 {
		if mid := (low + high) / 2; m.At(mid) < amps {
			low = mid
		} else {
			high = mid
		}
	}
	return (low + high) / 2, true
}

// FitCurrent by least squares from the idle current (A) and some loaded readings. bend is the line's own; NaN leaves it free, which needs two loaded readings at outputs that are apart.
func FitCurrent(idle float64, loaded []Drawn, bend float64) (*CurrentModel, error) {
	if !(idle >= 0) {
		return nil, quad.Faultf("no-idle", "idle", "note first what it draws at rest, disarmed")
	}
	free := math.IsNaN(bend)
	if len(loaded) == 0 {
		return nil, quad.Faultf("no-load", "loaded", "note at least one current under load, with the output at which it was read")
	}
	var uu, uq, qq, ui, qi, si, ss float64
	least, most := math.Inf(1), 0.0
	for i, d := range loaded {
		u, amps := d.Output/100, d.Amps-idle
		switch {
		case !(d.Output > 0 && d.Output <= 100):
			return nil, quad.Faultf("no-output", "loaded", "reading %d: at which output, from 1 to 100 %%? A current without it says nothing", i+1)
		case !(amps > 0):
			return nil, quad.Faultf("no-more", "loaded", "reading %d: %s at %s of output is no more than at rest", i+1, quad.Quantity(d.Amps, "A"), quad.Quantity(d.Output, "%"))
		}
		least, most = math.Min(least, u), math.Max(most, u)
		q, s := u*u, u+bend*u*u
		uu, uq, qq, ui, qi = uu+u*u, uq+u*q, qq+q*q, ui+u*amps, qi+q*amps
		si, ss = si+s*amps, ss+s*s
	}
	m := &CurrentModel{Idle: idle, Bend: bend, Slope: si / ss}
	figures := 1
	if free {
		figures = 2
		if most < 1.3*least {
			return nil, quad.Faultf("too-near", "loaded", "how it bends is told by two outputs that are apart: one of them a third higher at least")
		}
		det := uu*qq - uq*uq
		a, b := (ui*qq-qi*uq)/det, (qi*uu-ui*uq)/det
		if !(a > 0) { // it bends so much that it begins with nothing: the square alone
			a = 1e-3 * qi / qq
			b = qi/qq - a
		}
		m.Slope, m.Bend = a, b/a
	}
	if n := len(loaded); n > figures {
		for _, d := range loaded {
			x := m.At(d.Output/100) - d.Amps
			m.Within += x * x / float64(n-figures)
		}
		m.Within = math.Sqrt(m.Within)
	}
	return m, nil
}

// Slip is a reading that is as many times another as a decimal that slipped makes it.
type Slip struct {
	Times float64 `json:"times" unit:"1"` // 10 or 0.1, what it should be multiplied by to be as expected
	Words string  `json:"words"`
}

// slipWithin is how many times a reading may be from what is expected and still be it.
const slipWithin = 2.0

// Slipped says whether a current (A) is ten or a hundred times, or a tenth or a hundredth of, the one that is expected, and not simply another.
func Slipped(what string, amps, expected float64) (s Slip, ok bool) {
	if !(amps > 0) || !(expected > 0) {
		return Slip{}, false
	}
	for _, times := range []float64{10, 0.1, 100, 0.01} {
		if r := amps * times / expected; r < slipWithin && r > 1/slipWithin {
			return Slip{times, quad.Upper(what) + " " + quad.Quantity(amps, "A") + ", where about " + quad.Quantity(round(expected), "A") + " is expected: has its decimal slipped? It may be " + quad.Quantity(amps*times, "A") + "."}, true
		}
	}
	return Slip{}, false
}
