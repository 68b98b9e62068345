package flight

import (
	"math"

	"vividperch/core/airframe"
	"vividperch/core/feel"
	"vividperch/core/motors"
	"vividperch/core/quad"
)

// Lent is a feel as one quad has it: what is meant of it, and what is not known of it. Without its parts its gains mean nothing.
type Lent struct {
	Known quad.Known
	Whole bool // its parts are told, so that it can be flown
}

// Left is one thing of a borrowed feel that is not carried, and why.
type Left struct {
	What string `json:"what"`
	Why  string `json:"why"`
}

// Borrowed is another quad's feel as this one would have it.
type Borrowed struct {
	Feel  quad.FeelSheet // this quad's, with what was carried
	Apart [3]feel.Apart  // of the curves, theirs to ours
	// Authority of the lender over this quad's, about roll, pitch and yaw; 0 where it is not known.
	Authority [3]float64
	Left      []Left
}

// Borrow the feel of another quad. The curves come into this quad's family; gains are scaled by how strongly each quad turns for a step of duty, so that an error is taken back as quickly
// as there; the throttle limit leaves as much thrust for its weight, and the middle of the throttle puts the hover where it is there. What depends on what shakes is left: filters belong
// to the motors, propellers and frame that they were tuned on.
func Borrow(from Lent, own quad.Known) Borrowed {
	theirs, ours := from.Known.Sheet.Feel, own.Sheet.Feel
	out := Borrowed{Feel: ours}
	leave := func(what, why string) { out.Left = append(out.Left, Left{what, why}) }
	for i, r := range [3]*quad.Rates{&theirs.Roll, &theirs.Pitch, &theirs.Yaw} {
		into := [3]*quad.Rates{&out.Feel.Roll, &out.Feel.Pitch, &out.Feel.Yaw}[i]
		if r.Peak > 0 && theirs.Family != "" && ours.Family != "" {
			*into, out.Apart[i] = feel.Convert(theirs.Family, *r, ours.Family)
		}
	}
	switch {
	case theirs.Family == "" || theirs.Roll.Peak == 0:
		leave("The curves", "Its rates are not told.")
	case ours.Family == "":
		leave("The curves", "The rate family of this quad is not told.")
	}
	if theirs.AngleLimit > 0 {
		out.Feel.AngleLimit = theirs.AngleLimit
	}
	a, d, mass, lends := strength(from.Known, from.Whole)
	b, e, weighs, takes := strength(own, true)
	out.gains(theirs, ours, a, b, lends, takes, leave)
	if lends && takes {
		out.throttle(from.Known, own, d, e, mass, weighs, leave)
	} else {
		leave("The throttle", "How strongly one of the two lifts is not known: a limit in per cent is another one there.")
	}
	if theirs.Filters != ours.Filters {
		leave("The filters", "They keep out what shakes on that quad: its motors, propellers and frame. A flight of this one shows what it needs.")
	}
	if x, y := from.Known.Sheet.Motors.LoopRate, own.Sheet.Motors.LoopRate; x != y && x > 0 {
		leave("The loop rate", "Its loop runs at "+quad.Quantity(x, "Hz")+", this one at "+quad.Quantity(y, "Hz")+", which its board and its motors decide.")
	}
	if theirs.LevelStrength > 0 && takes && theirs.LevelStrength*airframe.Lag(own.Parts)/1000 > feel.LevelLagSoft {
		leave("The strength of self-level", "It would pull faster than these motors follow.")
	} else if theirs.LevelStrength > 0 {
		out.Feel.LevelStrength = theirs.LevelStrength
	}
	return out
}

// strength of a quad: authority about each axis, its drive with the heaviest pack at rest voltage, and its mass, kg.
func strength(k quad.Known, whole bool) (about [3]float64, d airframe.Drive, mass float64, ok bool) {
	if !whole {
		return about, d, 0, false
	}
	_, pack, ok := airframe.Heaviest(k.Parts)
	if !ok || pack.Cells == 0 {
		return about, d, 0, false
	}
	d, err := airframe.NewDrive(k.Parts, pack, airframe.RestCell*float64(pack.Cells), airframe.Density)
	if err != nil {
		return about, d, 0, false
	}
	if mass = airframe.Mass(k.Parts, pack, k.Weight()); mass <= 0 {
		return about, d, 0, false
	}
	about, ok = Authority(motors.OutputOf(&k.Sheet), d, k.Sheet.Craft.Layout, k.Parts.Frame, mass)
	return about, d, mass, ok
}

func (b *Borrowed) gains(theirs, ours quad.FeelSheet, a, own [3]float64, lends, takes bool, leave func(what, why string)) {
	switch {
	case theirs.RollGains.Proportional == 0:
		leave("The gains", "They are not told.")
		return
	case !lends:
		leave("The gains", "Its parts are not told, and a gain means nothing without the quad that it turns.")
		return
	case !takes:
		leave("The gains", "The parts of this quad are not told, or it does not hover.")
		return
	}
	for i, g := range [3]quad.Gains{theirs.RollGains, theirs.PitchGains, theirs.YawGains} {
		b.Authority[i] = math.Round(1000*a[i]/own[i]) / 1000
		into := [3]*quad.Gains{&b.Feel.RollGains, &b.Feel.PitchGains, &b.Feel.YawGains}[i]
		g = scaled([3]quad.Gains{g}, a[i]/own[i])[0]
		g.FeedForward *= a[i] / own[i]
		*into = rounded(g)
	}
}

func (b *Borrowed) throttle(from, own quad.Known, d, e airframe.Drive, mass, weighs float64, leave func(what, why string)) {
	theirs := from.Sheet.Feel
	if theirs.ThrottleLimit > 0 {
		lifts := d.Lifts(motors.OutputOf(&from.Sheet).Duty(1), mass)
		if p, ok := e.ForThrust(lifts * weighs * airframe.Gravity / e.Motors); ok {
			b.Feel.ThrottleLimit = math.Round(100 * motors.OutputOf(&own.Sheet).LimitFor(p.Duty))
		} else {
			b.Feel.ThrottleLimit = 100
			leave("All of its thrust", "It lifts "+quad.Quantity(round1(lifts), "")+" times its weight; this one no more than "+quad.Quantity(round1(e.Lifts(1, weighs)), "")+" times.")
		}
	}
	hover, ok := d.Hover(mass)
	here, able := e.Hover(weighs)
	if !ok || !able {
		return
	}
	stick := StickOf(&from.Sheet, hover.Duty)
	sheet := own.Sheet
	sheet.Feel = b.Feel
	throttle := motors.OutputOf(&sheet).Throttle(here.Duty)
	middle, fits := feel.MiddleFor(stick, throttle, b.Feel.ThrottleBend/100)
	if percent := math.Round(100*middle) - 50; fits && math.Abs(percent) <= 40 && !own.Sheet.Motors.Reversible {
		b.Feel.ThrottleMiddle = percent
	} else {
		leave("Where it hovers", "There at "+quad.Quantity(math.Round(100*stick), "%")+" of the stick, which no middle of the throttle does here.")
	}
}

// rounded gains, to three figures.
func rounded(g quad.Gains) quad.Gains {
	return quad.Gains{
		Proportional: quad.Significant(g.Proportional), Integral: quad.Significant(g.Integral), Derivative: quad.Significant(g.Derivative), FeedForward: quad.Significant(g.FeedForward),
	}
}

// OneStick is a hand that moves a stick to and fro about roll, the same for whatever quad: half out and back the other way, then to its stop. -1..1 at a moment in s.
func OneStick(t float64) float64 {
	switch {
	case t < 0.1:
		return 0
	case t < 0.5:
		return 0.5
	case t < 0.9:
		return -0.5
	case t < 1.2:
		return 1
	}
	return 0
}

// OneStickLasts as long, s.
const OneStickLasts = 1.6

// OnOneStick is the rotation about roll (deg/s), every so many seconds, with which what is meant of a quad answers [OneStick].
func OnOneStick(k quad.Known, every float64) ([]float64, error) {
	in, err := Meant(k)
	if err != nil {
		return nil, err
	}
	set := &in.Settings
	got, err := Followed(in, func(t float64) [3]float64 { return [3]float64{feel.Rate(set.Family, set.Rates[0], OneStick(t))} }, OneStickLasts, every)
	out := make([]float64, len(got))
	for i := range got {
		out[i] = got[i][0]
	}
	return out, err
}

// WithPreset is the feel of a quad with a starting point on it: its rates in the quad's own family, its lean, and a throttle limit with which full stick lifts as many times its weight as
// the preset has it, with the heaviest pack. A quad whose rate family, parts or weight are not told is a Fault.
func WithPreset(k quad.Known, p feel.Preset) (quad.FeelSheet, error) {
	out := k.Sheet.Feel
	if out.Family == "" {
		return out, quad.Faultf("not-told", "sheet.feel.family", "its rate family is not told, and a rate means nothing without one")
	}
	rates := p.Rates(out.Family)
	out.Roll, out.Pitch, out.Yaw = rates[0], rates[1], rates[2]
	out.AngleLimit, out.ThrottleLimit, out.ThrottleCut = p.Lean, 100, false
	if p.Lifts == 0 {
		return out, nil
	}
	_, d, mass, ok := strength(k, true)
	if !ok {
		return out, quad.Faultf("not-told", "parts", "what it lifts is not known: parts or a pack are not told, or it does not hover")
	}
	if at, ok := d.ForThrust(p.Lifts * mass * airframe.Gravity / d.Motors); ok {
		out.ThrottleLimit = max(20, math.Round(100*motors.OutputOf(&k.Sheet).LimitFor(at.Duty))) // no firmware here holds less
	}
	return out, nil
}
