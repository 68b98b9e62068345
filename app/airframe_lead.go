package app

import (
	"context"
	"math"

	"vividperch/core/airframe"
	"vividperch/core/quad"
)

// LeadView is how far the power lead's voltage runs over the pack's when all motors let go at once, with every pack.
type LeadView struct {
	Capacitor quad.Capacitor `json:"capacitor"`
	Bank      float64        `json:"bank" unit:"µF"` // of all of them together
	Ohm       float64        `json:"ohm" unit:"mΩ"`
	Lead      float64        `json:"lead" unit:"nH"`
	Rating    float64        `json:"rating" unit:"V"` // that is needed with the pack of the highest voltage
	Packs     []LeadPack     `json:"packs"`
}

// LeadPack is the same with one pack, full.
type LeadPack struct {
	Pack    string  `json:"pack"`
	Cells   int     `json:"cells"`
	Full    float64 `json:"full" unit:"V"`
	Current float64 `json:"current" unit:"A"` // at full throttle
	Allowed float64 `json:"allowed" unit:"V"` // over the pack's voltage
	Bound   float64 `json:"bound" unit:"V"`   // I (√(L/C) + ESR), what it is judged by; 0 without a capacitor
	Peak    float64 `json:"peak" unit:"V"`    // that the curve reaches
	Needs   float64 `json:"needs" unit:"µF"`  // of this resistance, by the bound; 0 where no capacitance helps
	Curve   []At    `json:"curve"`
}

// At is one point of a curve of voltage.
type At struct {
	Time float64 `json:"time" unit:"µs"`
	Over float64 `json:"over" unit:"V"`
}

const leadPoints = 160

// Lead of a quad with its capacitor, or with one that is tried.
func (a *App) Lead(ctx context.Context, id int64, tried *quad.Capacitor) (*LeadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	p := o.known.Parts
	if tried != nil {
		p.Capacitor = *tried
	}
	for path, x := range map[quad.Path]float64{"parts.capacitor.capacitance": p.Capacitor.Capacitance, "parts.capacitor.resistance": p.Capacitor.Resistance, "parts.capacitor.leadLength": p.Capacitor.LeadLength, "parts.capacitor.count": float64(p.Capacitor.Count)} {
		if x != 0 && !quad.Plausible(path, x) {
			return nil, quad.Faultf("out-of-range", string(path), "cannot be %s", quad.Number(x))
		}
	}
	list, ok := airframe.FedByEach(p, airframe.FullCell)
	if !ok {
		return nil, quad.Faultf("not-told", "parts", "motor, propeller and packs decide what current is let go of; they are not all told")
	}
	farad, ohm := airframe.Bank(p.Capacitor)
	inductance := airframe.LeadInductance(p.Capacitor.LeadLength)
	v := &LeadView{Capacitor: p.Capacitor, Bank: farad * 1e6, Ohm: 1000 * ohm, Lead: inductance * 1e9, Packs: []LeadPack{}}
	lasts := 0.0
	for _, f := range list {
		lasts = math.Max(lasts, airframe.LeadOf(p, f).Lasts())
	}
	for _, f := range list {
		o := airframe.LeadOf(p, f)
		full := airframe.FullCell * float64(f.Pack.Cells)
		one := LeadPack{Pack: f.Name, Cells: f.Pack.Cells, Full: full, Current: f.Peak.PackCurrent, Allowed: airframe.OvershootShare * full, Curve: []At{}}
		if need, able := airframe.CapacitorNeed(inductance, f.Peak.PackCurrent, one.Allowed, ohm); able {
			one.Needs = math.Ceil(need * 1e6)
		}
		if farad > 0 {
			one.Bound = o.Bound()
			one.Peak, _ = o.Peak()
			for i := range leadPoints + 1 {
				t := lasts * float64(i) / leadPoints
				one.Curve = append(one.Curve, At{1e6 * t, o.At(t)})
			}
		}
		v.Rating = math.Max(v.Rating, airframe.CapacitorRating(full, one.Allowed))
		v.Packs = append(v.Packs, one)
	}
	return v, nil
}
