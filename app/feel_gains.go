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

// GainsAsk is gains that are tried.
type GainsAsk struct {
	Tried Tried       `json:"tried" maxItems:"60"`
	Axis  motors.Turn `json:"axis" enum:"roll,pitch,yaw"`
}

// GainsView is what the gains do about one axis.
type GainsView struct {
	Axis  motors.Turn `json:"axis" enum:"roll,pitch,yaw"`
	Asked float64     `json:"asked" unit:"deg/s"` // the step
	Packs []GainPack  `json:"packs"`
	// Before is the answer of the settings as they are, with the pack that turns it the hardest; absent where nothing is tried.
	Before *flight.Answered `json:"before,omitempty"`
	// Gains are what each gain changes, with that pack.
	Gains []GainEffect `json:"gains"`
	// Worst is the least of all margins; Weight what the rules say of it: nothing, fix or stop.
	Worst  feel.Margin  `json:"worst"`
	Weight check.Weight `json:"weight" enum:",stop,fix,note"`
	Few    float64      `json:"few" unit:"1"` // the least margin to keep in hand
	// Quick is how quickly an error is taken back with the pack that turns it the least, low, 1/s, and from where on it is flown well.
	Quick float64 `json:"quick" unit:"1/s"`
	Soft  float64 `json:"soft" unit:"1/s"`
	// Throttled is the worst share with three quarters of the throttle open, where a step of duty turns it harder.
	Throttled float64 `json:"throttled" unit:"1"`
	// Start are gains to begin with, where the firmware's usual ones are known and what they are for.
	Start *StartView `json:"start,omitempty"`
}

// GainPack is what the gains do with one pack.
type GainPack struct {
	Pack   string           `json:"pack"`
	Full   bool             `json:"full"`
	Answer *flight.Answered `json:"answer,omitempty"`
	Margin feel.Margin      `json:"margin"`
	// Fails says why it is not flown.
	Fails string `json:"fails"`
}

// GainEffect is what a fourth more of one gain does.
type GainEffect struct {
	Path   quad.Path        `json:"path"`
	Label  string           `json:"label"`
	Value  float64          `json:"value" unit:"inherit"`
	Unit   string           `json:"unit"`
	Words  string           `json:"words"`
	More   *flight.Answered `json:"more,omitempty"` // with a fourth more of it; absent where there is none to have more of
	Margin float64          `json:"margin" unit:"1"`
}

// StartView is gains to begin with.
type StartView struct {
	flight.Starting
	Edits []check.Edit `json:"edits"`
	// Family is whose usual gains they come from.
	Family string `json:"family"`
}

// How a step is flown: how much is asked for and for how long, s.
const (
	stepAsked = 100.0
	stepLasts = 0.6
	gainMore  = 1.25
)

var gainWords = map[string]string{
	"proportional": "How hard an error is answered: more is crisper, until it shakes.",
	"integral":     "How long an error is remembered: more holds an angle in wind and with a weight that lies aside; too much swings slowly.",
	"derivative":   "How hard a change is braked: more takes the overshoot away, and what shakes goes to the motors.",
	"feedForward":  "How much the stick's own way goes straight to the motors: more is quicker in, and does not make it shake.",
}

// Gains of a quad as they are tried.
func (a *App) Gains(ctx context.Context, id int64, ask GainsAsk) (*GainsView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	k, err := o.trying(ask.Tried)
	if err != nil {
		return nil, err
	}
	in, err := flight.Meant(k)
	if err != nil {
		return nil, err
	}
	axis := ask.Axis.Index()
	if axis < 0 {
		return nil, quad.Faultf("no-axis", string(ask.Axis), "it turns about roll, pitch and yaw")
	}
	v := &GainsView{Axis: ask.Axis, Asked: stepAsked, Packs: []GainPack{}, Gains: []GainEffect{}, Few: feel.SharesFew, Quick: math.Inf(1)}
	var hardest flight.Input
	most := 0.0
	for _, name := range quad.SortedKeys(k.Parts.Packs) {
		for _, cell := range []float64{airframe.FullCell, airframe.LowCell} {
			with := in.With(k.Parts.Packs[name], cell)
			one := GainPack{Pack: name, Full: cell == airframe.FullCell}
			loops, err := flight.LoopsOf(with)
			if err == nil {
				one.Answer, err = flight.Answer(with, axis, stepAsked, stepLasts)
			}
			if err != nil {
				one.Fails = quad.Explain(err)
				v.Packs = append(v.Packs, one)
				continue
			}
			l := loops[axis]
			one.Margin = shown(l.Margins())
			thin(one.Answer)
			v.Packs = append(v.Packs, one)
			v.Quick = math.Min(v.Quick, math.Round(10*feel.Quickness(l.Gains.Proportional, l.Authority))/10)
			if l.Authority > most {
				most, hardest = l.Authority, with
			}
		}
	}
	if most == 0 {
		return nil, quad.Faultf("too-heavy", "readings.airframe.weight", "it does not hover with any of its packs")
	}
	worst, with, _ := flight.InHand(flight.LoopsOfEach(&k, k.Weight(), airframe.FullCell), axis)
	v.weigh(k, worst)
	v.Throttled = throttled(&k, with, axis)
	v.effects(hardest, axis)
	if len(ask.Tried) > 0 {
		if was, err := flight.Meant(o.known); err == nil {
			if got, err := flight.Answer(was.With(hardest.Pack, hardest.CellVolt), axis, stepAsked, stepLasts); err == nil {
				v.Before = thin(got)
			}
		}
	}
	if b := a.buildOf(o); b != nil && len(b.Line.Reference) == 3 {
		if usual, err := b.Usual(); err == nil {
			if start, err := flight.StartingGains(k, usual.Feel.Gains(), [3]float64(b.Line.Reference)); err == nil {
				v.Start = &StartView{Starting: *start, Edits: startEdits(start.Gains), Family: b.Line.Name}
			}
		}
	}
	return v, nil
}

// throttled is how much a pack keeps in hand with three quarters of the throttle open.
func throttled(k *quad.Known, with flight.Looped, axis int) float64 {
	l := with.Loops[axis]
	out := motors.OutputOf(&k.Sheet)
	l.Authority = flight.AuthorityAt(out, with.Drive, k.Sheet.Craft.Layout, k.Parts.Frame, with.Mass, out.Duty(0.75))[axis]
	return shown(l.Margins()).Share
}

// weigh what the rules say of the worst margin.
func (v *GainsView) weigh(k quad.Known, worst feel.Margin) {
	v.Worst, v.Soft = shown(worst), feel.QuickOf(quad.Axis(v.Axis), feel.LevelOf(&k.Sheet)).Soft
	switch {
	case worst.Oscillates():
		v.Weight = check.Stop
	case worst.Few():
		v.Weight = check.Fix
	}
}

// effects of a fourth more of each gain.
func (v *GainsView) effects(in flight.Input, axis int) {
	at := "sheet.feel." + quad.Path(motors.Turns[axis]) + "Gains"
	for _, l := range quad.Leaves(in.Settings.Gains[axis], at) {
		name := string(l.Path[len(at)+1:])
		one := GainEffect{Path: l.Path, Label: l.Label, Unit: l.Unit, Words: gainWords[name]}
		one.Value, _ = l.Value.(float64)
		if one.Value > 0 {
			with := in
			g := &with.Settings.Gains[axis]
			switch name {
			case "proportional":
				g.Proportional *= gainMore
			case "integral":
				g.Integral *= gainMore
			case "derivative":
				g.Derivative *= gainMore
			case "feedForward":
				g.FeedForward *= gainMore
			}
			if got, err := flight.Answer(with, axis, stepAsked, stepLasts); err == nil {
				one.More = thin(got)
			}
			if loops, err := flight.LoopsOf(with); err == nil {
				one.Margin = shown(loops[axis].Margins()).Share
			}
		}
		v.Gains = append(v.Gains, one)
	}
}

// shown is a margin as it is told.
func shown(m feel.Margin) feel.Margin {
	m.Share, m.Hertz, m.Crossing = math.Round(100*m.Share)/100, round1(m.Hertz), round1(m.Crossing)
	m.Phase, m.Filters = math.Round(m.Phase), round1(m.Filters)
	return m
}

// thin an answer to every fourth of its rotations, which is as fine as it is drawn.
func thin(a *flight.Answered) *flight.Answered {
	const every = 4
	kept := a.Rotation[:0]
	for i := 0; i < len(a.Rotation); i += every {
		kept = append(kept, a.Rotation[i])
	}
	a.Rotation, a.Every = kept, every*a.Every
	return a
}

// startEdits set every gain, those that are none too.
func startEdits(gains [3]quad.Gains) (out []check.Edit) {
	for i, g := range gains {
		at := "sheet.feel." + quad.Path(motors.Turns[i]) + "Gains."
		out = append(out, check.Edit{Path: at + "proportional", Value: quad.Number(g.Proportional)}, check.Edit{Path: at + "integral", Value: quad.Number(g.Integral)}, check.Edit{Path: at + "derivative", Value: quad.Number(g.Derivative)})
	}
	return out
}
