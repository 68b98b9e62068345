package app

import (
	"context"
	"math"

	"vividperch/core/airframe"
	"vividperch/core/check"
	"vividperch/core/feel"
	"vividperch/core/flight"
	"vividperch/core/motors"
	"vividperch/core/quad"
)

// FeelThrottleAsk is a throttle that is tried.
type FeelThrottleAsk struct {
	Tried Tried `json:"tried" maxItems:"60"`
	// HoverAt is where on the stick the hand wants its hover, %; 0 asks for nothing.
	HoverAt float64 `json:"hoverAt,omitempty" unit:"%" minimum:"0" maximum:"100"`
}

// FeelThrottleView is what the throttle stick does.
type FeelThrottleView struct {
	Pack   string          `json:"pack"` // the heaviest, at rest voltage, of which the lines tell
	Points []ThrottlePoint `json:"points"`
	// Other is the same with the limit the other way, cut off for compressed and the other way round; none without a limit.
	Other []ThrottlePoint `json:"other"`
	Cut   bool            `json:"cut"`
	// Uneven is by how much of its height the thrust over the stick strays from a straight line.
	Uneven float64 `json:"uneven" unit:"%"`
	// Straight is the curve that strays the least, and Hover the one that hovers where it is wanted, each as edits; none where there is none.
	Straight     []check.Edit `json:"straight"`
	StraightLeft float64      `json:"straightLeft" unit:"%"`
	// Even has the board even out as much of the thrust as makes it the straightest under the curve as it is; none where it is so.
	Even     []check.Edit `json:"even"`
	EvenTo   float64      `json:"evenTo" unit:"%"`
	EvenLeft float64      `json:"evenLeft" unit:"%"`
	// Counts is how many times as far a correction moves the motors in a hover as it would without anything evened out; 0 where it does not hover.
	Counts   float64        `json:"counts" unit:"1"`
	Hover    []check.Edit   `json:"hover"`
	HoverWhy string         `json:"hoverWhy"` // there is none
	Packs    []ThrottlePack `json:"packs"`
	Dead     float64        `json:"dead" unit:"%"` // of the stick, that does nothing more
	// Idles and Fully are the duties at rest and at full stick.
	Idles float64 `json:"idles" unit:"%"`
	Fully float64 `json:"fully" unit:"%"`
}

// ThrottlePoint is one place of the stick.
type ThrottlePoint struct {
	Stick    float64 `json:"stick" unit:"%"`
	Throttle float64 `json:"throttle" unit:"%"`
	Duty     float64 `json:"duty" unit:"%"`
	Lifts    float64 `json:"lifts" unit:"1"` // times its weight
}

// ThrottlePack is what a pack makes of it.
type ThrottlePack struct {
	Pack  string  `json:"pack"`
	Full  bool    `json:"full"`
	Stick float64 `json:"stick" unit:"%"` // of its hover; over 100 where no stick gets there
	Duty  float64 `json:"duty" unit:"%"`
	// Lifts at full stick, times its weight, and with all there is.
	Lifts float64 `json:"lifts" unit:"1"`
	All   float64 `json:"all" unit:"1"`
	Hangs bool    `json:"hangs"` // it leaves too little to stop a descent
}

const throttleSteps = 50

// FeelThrottle of a quad as it is tried.
func (a *App) FeelThrottle(ctx context.Context, id int64, ask FeelThrottleAsk) (*FeelThrottleView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	k, err := o.trying(ask.Tried)
	if err != nil {
		return nil, err
	}
	name, pack, ok := airframe.Heaviest(k.Parts)
	if !ok || pack.Cells == 0 {
		return nil, quad.Faultf("no-pack", "parts.packs", "no pack is assigned: at Airframe, Parts, say with which it flies")
	}
	d, err := airframe.NewDrive(k.Parts, pack, airframe.RestCell*float64(pack.Cells), airframe.Density)
	if err != nil {
		return nil, err
	}
	mass := packMass(k, name)
	if mass <= 0 {
		return nil, quad.Faultf("not-told", "readings.airframe.weight", "nobody knows what it weighs")
	}
	f := k.Sheet.Feel
	if f.ThrottleLimit == 0 {
		return nil, quad.Faultf("not-told", "sheet.feel.throttleLimit", "the throttle limit is not told; 100 %% is none")
	}
	v := &FeelThrottleView{Pack: name, Cut: f.ThrottleCut, Straight: []check.Edit{}, Hover: []check.Edit{}, Even: []check.Edit{}, Other: []ThrottlePoint{}, Points: throttlePoints(k.Sheet, d, mass), Packs: throttlePacks(k)}
	out := motors.OutputOf(&k.Sheet)
	if hover, ok := d.Hover(mass); ok {
		v.Counts = math.Round(100*out.Slope(hover.Duty)) / 100
	}
	v.Idles, v.Fully = round1(100*out.Duty(0)), round1(100*out.Duty(1))
	if f.ThrottleLimit < 100 {
		other := k.Sheet
		other.Feel.ThrottleCut = !f.ThrottleCut
		v.Other = throttlePoints(other, d, mass)
		if f.ThrottleCut && !k.Sheet.Motors.Reversible {
			v.Dead = math.Round(100 * (1 - feel.CurveOf(f).Stick(f.ThrottleLimit/100)))
		}
	}
	if k.Sheet.Motors.Reversible {
		v.HoverWhy = "With reversible thrust the throttle rests in its middle, and the board bends nothing."
		return v, nil
	}
	thrust := func(throttle float64) float64 { return d.At(out.Duty(throttle)).Thrust }
	curve := feel.CurveOf(f)
	v.Uneven = math.Round(100 * curve.Uneven(thrust))
	straight := feel.Straightest(thrust)
	v.StraightLeft = math.Round(100 * straight.Uneven(thrust))
	if v.StraightLeft < v.Uneven {
		v.Straight = curveEdits(straight.Middle, straight.Bend)
	}
	to, left := flight.EvenOut(out, curve, d)
	v.EvenTo, v.EvenLeft = math.Round(100*to), math.Round(100*left)
	if v.EvenTo != k.Sheet.Motors.Linear && v.EvenLeft < v.Uneven {
		v.Even = []check.Edit{{Path: "sheet.motors.linear", Value: quad.Number(v.EvenTo)}}
	}
	v.hover(d, mass, out, f, ask.HoverAt/100)
	return v, nil
}

func (v *FeelThrottleView) hover(d airframe.Drive, mass float64, out motors.Output, f quad.FeelSheet, at float64) {
	if at == 0 {
		return
	}
	p, ok := d.Hover(mass)
	if throttle := out.Throttle(p.Duty); !ok || throttle > 1 {
		v.HoverWhy = "It does not hover under this limit."
	} else if middle, fits := feel.MiddleFor(at, throttle, f.ThrottleBend/100); fits {
		v.Hover = curveEdits(math.Round(100*middle)/100, f.ThrottleBend/100)
	} else {
		v.HoverWhy = "No middle of the throttle puts its hover there."
	}
}

func curveEdits(middle, bend float64) []check.Edit {
	return []check.Edit{{Path: "sheet.feel.throttleMiddle", Value: quad.Number(math.Round(100*middle) - 50)}, {Path: "sheet.feel.throttleBend", Value: quad.Number(math.Round(100 * bend))}}
}

func throttlePoints(s quad.Sheet, d airframe.Drive, mass float64) []ThrottlePoint {
	out := make([]ThrottlePoint, throttleSteps+1)
	for i := range out {
		stick := float64(i) / throttleSteps
		throttle, duty := stick, 0.0
		if s.Motors.Reversible { // the upper half of the stick is what flies it
			duty = motors.OutputOf(&s).Duty(stick)
		} else {
			throttle, duty = feel.CurveOf(s.Feel).At(stick), flight.DutyOf(&s, stick)
		}
		out[i] = ThrottlePoint{round1(100 * stick), round1(100 * throttle), round1(100 * duty), math.Round(1000*d.Lifts(duty, mass)) / 1000}
	}
	return out
}

func round1(x float64) float64 { return math.Round(10*x) / 10 }

func throttlePacks(k quad.Known) []ThrottlePack {
	out := []ThrottlePack{}
	most := motors.OutputOf(&k.Sheet).Duty(1)
	for _, name := range quad.SortedKeys(k.Parts.Packs) {
		p := k.Parts.Packs[name]
		for _, cell := range []float64{airframe.FullCell, airframe.LowCell} {
			d, err := airframe.NewDrive(k.Parts, p, cell*float64(p.Cells), airframe.Density)
			if err != nil || p.Cells == 0 {
				continue
			}
			mass := packMass(k, name)
			one := ThrottlePack{Pack: name, Full: cell == airframe.FullCell, Stick: 101, Lifts: math.Round(100*d.Lifts(most, mass)) / 100, All: math.Round(100*d.Lifts(1, mass)) / 100}
			if h, ok := d.Hover(mass); ok {
				one.Duty, one.Stick = round1(100*h.Duty), min(101, round1(100*flight.StickOf(&k.Sheet, h.Duty)))
			}
			one.Hangs = one.Lifts < feel.LeastLimitedRatio
			out = append(out, one)
		}
	}
	return out
}
