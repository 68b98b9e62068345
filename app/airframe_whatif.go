package app

import (
	"cmp"
	"context"
	"maps"
	"math"
	"slices"

	"vividperch/core/airframe"
	"vividperch/core/catalogue"
	"vividperch/core/check"
	"vividperch/core/choice"
	"vividperch/core/flight"
	"vividperch/core/quad"
)

// WhatIfPart is a part that is tried.
type WhatIfPart struct {
	Kind catalogue.Kind `json:"kind" enum:"frame,motor,propeller,speedController,board,pack,receiver,radioModule,video,satellite"`
	Name string         `json:"name" minLength:"1" maxLength:"60"`
}

// WhatIfAsk is what is tried on a quad: other parts, or some cells more in every pack. A pack that is tried is tried alone.
type WhatIfAsk struct {
	Parts []WhatIfPart `json:"parts" maxItems:"6"`
	Cells int          `json:"cells,omitempty" minimum:"-4" maximum:"4" unit:"count"`
}

// WhatIfFigure is one figure before and after.
type WhatIfFigure struct {
	Label  string  `json:"label"`
	Unit   string  `json:"unit"`
	Before float64 `json:"before" unit:"inherit"`
	After  float64 `json:"after" unit:"inherit"`
	// Better says which way is better: 1 more, -1 less, 0 neither.
	Better int `json:"better"`
}

// WhatIfFinding is one that comes or goes.
type WhatIfFinding struct {
	Weight  check.Weight `json:"weight" enum:"stop,fix,note"`
	Station string       `json:"station"`
	Title   string       `json:"title"`
	Figures string       `json:"figures"`
}

// WhatIfView is what would be, beside what is.
type WhatIfView struct {
	Figures []WhatIfFigure  `json:"figures"` // that differ, the largest difference first
	Comes   []WhatIfFinding `json:"comes"`
	Goes    []WhatIfFinding `json:"goes"`
	Stays   int             `json:"stays"`
	Falls   []string        `json:"falls"` // proven stations that it would make stale
	// Weighs is what the judgement takes it to weigh, g, as long as nobody weighs it: the weight before with the parts' difference. 0 where nobody weighed it before.
	Weighs float64        `json:"weighs" unit:"g"`
	Gains  *flight.Regain `json:"gains,omitempty"`
	Edits  []check.Edit   `json:"edits"` // of the gains, for the same loop gain as before
}

// WhatIf judges a quad as it would be with other parts, beside what it is, and keeps nothing.
func (a *App) WhatIf(ctx context.Context, id int64, ask WhatIfAsk) (*WhatIfView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	if len(ask.Parts) == 0 && ask.Cells == 0 {
		return nil, quad.Faultf("nothing-tried", "", "say what is to be tried")
	}
	m := o.known.Meant()
	for _, part := range ask.Parts {
		if err := a.choose(ctx, &m, part.Kind, part.Name); err != nil {
			return nil, err
		}
		if part.Kind == catalogue.Pack {
			m.Parts.Packs = map[string]quad.Pack{part.Name: m.Parts.Packs[part.Name]}
		}
	}
	if ask.Cells != 0 {
		if m.Parts.Packs, err = withCells(m.Parts.Packs, ask.Cells); err != nil {
			return nil, err
		}
	}
	is, would := o.known, o.known
	would.Sheet, would.Parts = m.Sheet, m.Parts
	v := &WhatIfView{Figures: []WhatIfFigure{}, Comes: []WhatIfFinding{}, Goes: []WhatIfFinding{}, Edits: []check.Edit{}, Falls: a.wouldFall(o, quad.Changes(o.known.Meant(), m))}
	if w := is.Readings.Airframe.Weight; w != nil {
		_, before, _ := is.Parts.Heaviest()
		_, after, _ := would.Parts.Heaviest()
		other := *w
		other.Value += after.Mass - before.Mass + 4*(airframe.MotorMass(would.Parts)-airframe.MotorMass(is.Parts)) + would.Parts.Frame.Mass - is.Parts.Frame.Mass
		would.Readings.Airframe.Weight, v.Weighs = &other, math.Round(other.Value)
	}
	v.compare(is, would)
	v.judge(o, is, would, check.Context{Now: a.now(), Events: o.events})
	v.regain(is, would)
	return v, nil
}

// withCells are packs of as many cells more, each cell as it is.
func withCells(packs map[string]quad.Pack, more int) (map[string]quad.Pack, error) {
	out := maps.Clone(packs)
	for name, p := range out {
		if p.Cells == 0 {
			continue
		}
		by := float64(p.Cells+more) / float64(p.Cells)
		p.Cells += more
		if p.Cells < 1 || !quad.Plausible("parts.packs.any.cells", float64(p.Cells)) {
			return nil, quad.Faultf("impossible", "cells", "no pack has %d cells", p.Cells)
		}
		p.Resistance, p.Mass = quad.Significant(p.Resistance*by), math.Round(p.Mass*by)
		out[name] = p
	}
	return out, nil
}

// compare the figures that a pilot goes by.
func (v *WhatIfView) compare(is, would quad.Known) {
	a, b := airframe.Summarize(is.Parts, is.Weight()), airframe.Summarize(would.Parts, would.Weight())
	type one struct{ hot, bears, stick float64 }
	more := func(k quad.Known, s airframe.Summary) (out one) {
		pack := k.Parts.Packs[s.Pack]
		out.stick = 100 * flight.StickOf(&k.Sheet, s.HoverDuty/100)
		if d, err := airframe.NewDrive(k.Parts, pack, airframe.FullCell*float64(pack.Cells), airframe.Density); err == nil {
			if h, ok := d.Heats(k.Parts, s.Mass/1000); ok {
				out.hot, out.bears = min(h.Hover.Winding, 999), h.Bears
			}
		}
		return out
	}
	x, y := more(is, a), more(would, b)
	for _, f := range []WhatIfFigure{
		{"Mass with the heaviest pack", "g", a.Mass, b.Mass, -1}, {"Hover, duty", "%", a.HoverDuty, b.HoverDuty, 0}, {"Hover, throttle stick", "%", x.stick, y.stick, 0},
		{"Hover, current", "A", a.HoverCurrent, b.HoverCurrent, -1}, {"Minutes of hover to 80 %", "min", a.Minutes, b.Minutes, 1}, {"Lifts its weight, times", "1", a.Ratio, b.Ratio, 1},
		{"Full throttle, each motor", "A", a.PeakMotor, b.PeakMotor, -1}, {"Full throttle, pack", "A", a.PeakPack, b.PeakPack, -1}, {"Tips at full throttle, Mach", "1", a.TipMach, b.TipMach, -1},
		{"Windings in a hover", "°C", x.hot, y.hot, -1}, {"Full throttle is borne for", "s", x.bears, y.bears, 1},
	} {
		if math.Abs(f.After-f.Before) > 0.004*math.Max(math.Abs(f.Before), math.Abs(f.After)) {
			v.Figures = append(v.Figures, f)
		}
	}
	share := func(f WhatIfFigure) float64 {
		return math.Abs(f.After-f.Before) / math.Max(1e-9, math.Max(math.Abs(f.Before), math.Abs(f.After)))
	}
	slices.SortStableFunc(v.Figures, func(a, b WhatIfFigure) int { return cmp.Compare(share(b), share(a)) })
}

// graver findings come first.
var graver = map[check.Weight]int{check.Stop: 0, check.Fix: 1, check.Note: 2}

// judge both, and tell what comes and goes.
func (v *WhatIfView) judge(o *opened, is, would quad.Known, c check.Context) {
	type key struct{ rule, subject string }
	of := func(k quad.Known) map[key]check.Finding {
		out := map[key]check.Finding{}
		for _, f := range check.Run(check.Rules(), k, c).Findings {
			out[key{f.Rule, f.Subject}] = f
		}
		return out
	}
	before, after := of(is), of(would)
	tell := func(from, than map[key]check.Finding) []WhatIfFinding {
		out := []WhatIfFinding{}
		for at, f := range from {
			if other, there := than[at]; !there || other.Weight != f.Weight {
				out = append(out, WhatIfFinding{f.Weight, f.Station.Info().Name, f.Title, f.Figures})
			}
		}
		slices.SortFunc(out, func(a, b WhatIfFinding) int {
			return cmp.Or(cmp.Compare(graver[a.Weight], graver[b.Weight]), cmp.Compare(a.Title, b.Title))
		})
		return out
	}
	v.Comes, v.Goes = tell(after, before), tell(before, after)
	v.Stays = len(after) - len(v.Comes)
}

// regain the loop gain that it had, where the drive's own changes.
func (v *WhatIfView) regain(is, would quad.Known) {
	before, err := flight.NewInput(is)
	if err != nil {
		return // what it lacks is asked for elsewhere
	}
	after, err := flight.NewInput(would)
	if err != nil {
		return
	}
	g, err := flight.Regained(before, after)
	if err != nil || math.Abs(g.Share-1) < 0.02 {
		return
	}
	v.Gains = g
	for axis, gains := range map[quad.Axis]quad.Gains{quad.Roll: would.Sheet.Feel.RollGains, quad.Pitch: would.Sheet.Feel.PitchGains, quad.Yaw: would.Sheet.Feel.YawGains} {
		for name, x := range map[string]float64{"proportional": gains.Proportional, "integral": gains.Integral, "derivative": gains.Derivative} {
			if x != 0 {
				v.Edits = append(v.Edits, check.Edit{Path: quad.Path("sheet.feel." + string(axis) + "Gains." + name), Value: quad.Number(quad.Significant(x * g.Share))})
			}
		}
	}
	slices.SortFunc(v.Edits, func(a, b check.Edit) int { return cmp.Compare(a.Path, b.Path) })
}

// SearchParts of the pilot's own, and of those that ship, for a wish.
func (a *App) SearchParts(ctx context.Context, id int64, w choice.Wish) (*choice.Choices, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	own, _, err := a.onShelf(ctx)
	if err != nil {
		return nil, err
	}
	if own, err = a.withPacks(ctx, catalogue.Pack, own); err != nil {
		return nil, err
	}
	list := own
	for _, e := range catalogue.Shipped() {
		if _, there := entryNamed(own, e.Kind, e.Name); !there {
			list = append(list, e)
		}
	}
	return choice.Search(o.known.Parts, o.known.Sheet.Craft.Layout, o.known.Weight(), list, w)
}
