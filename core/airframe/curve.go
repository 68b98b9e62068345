package airframe

import (
	"math"

	"vividperch/core/power"
	"vividperch/core/quad"
)

// CurveSteps of duty that a curve has, from none to full.
const CurveSteps = 50

// Figures of a drive at one duty, all four motors together.
type Figures struct {
	Thrust  float64 `json:"thrust" unit:"g"`
	Current float64 `json:"current" unit:"A"` // from the pack, the electronics included
	Rpm     float64 `json:"rpm" unit:"rpm"`
	Mach    float64 `json:"mach" unit:"1"`      // of the tips
	Minutes float64 `json:"minutes" unit:"min"` // to 80 % of the capacity; 0 where that is not told
}

// CurvePoint is what a drive does at a duty, and between what that lies by the bands of estimated figures.
type CurvePoint struct {
	Duty float64 `json:"duty" unit:"%"`
	Is   Figures `json:"is"`
	Low  Figures `json:"low"`
	High Figures `json:"high"`
}

// HoverPoint is where a curve carries the quad.
type HoverPoint struct {
	CurvePoint
	// LeastDuty and MostDuty are between what it hovers by the bands; MostDuty is 0 where by some of them it does not.
	LeastDuty float64 `json:"leastDuty" unit:"%"`
	MostDuty  float64 `json:"mostDuty" unit:"%"`
}

// Curve of a quad over its duty with one pack.
type Curve struct {
	Pack  string  `json:"pack"`
	Cell  float64 `json:"cell" unit:"V"` // open circuit
	Cells int     `json:"cells"`
	Mass  float64 `json:"mass" unit:"g"` // with this pack in
	// Points from no duty to full one.
	Points []CurvePoint `json:"points"`
	Hover  *HoverPoint  `json:"hover,omitempty"` // absent where it does not
}

// banded are the figures of a drive that a curve leans on.
var banded = []quad.Path{"parts.propeller.thrust", "parts.propeller.power", "parts.motor.resistance", "parts.motor.idleCurrent"}

// variants are the parts with each estimated figure at either end of its band, in every combination: the parts as they are come first. Thrust and power
// of a propeller are estimated from one another, so they go together.
func variants(p quad.Parts, name string) []quad.Parts {
	out := []quad.Parts{p}
	spread := func(low, high func(*quad.Parts)) {
		var more []quad.Parts
		for _, v := range out[1:] {
			a, b := v, v
			low(&a)
			high(&b)
			more = append(more, a, b)
		}
		if len(out) == 1 {
			a, b := p, p
			low(&a)
			high(&b)
			more = append(more, a, b)
		}
		out = append(out[:1], more...)
	}
	at := map[quad.Path]quad.Estimate{}
	for _, e := range p.Estimated() {
		at[e.Path] = e
	}
	if t, ok := at[banded[0]]; ok {
		w, both := at[banded[1]]
		spread(func(v *quad.Parts) {
			if v.Propeller.Thrust = t.Low; both {
				v.Propeller.Power = w.Low
			}
		}, func(v *quad.Parts) {
			if v.Propeller.Thrust = t.High; both {
				v.Propeller.Power = w.High
			}
		})
	} else if w, ok := at[banded[1]]; ok {
		spread(func(v *quad.Parts) { v.Propeller.Power = w.Low }, func(v *quad.Parts) { v.Propeller.Power = w.High })
	}
	if r, ok := at[banded[2]]; ok {
		spread(func(v *quad.Parts) { v.Motor.Resistance = r.Low }, func(v *quad.Parts) { v.Motor.Resistance = r.High })
	}
	if i, ok := at[banded[3]]; ok {
		spread(func(v *quad.Parts) { v.Motor.IdleCurrent = i.Low }, func(v *quad.Parts) { v.Motor.IdleCurrent = i.High })
	}
	if r, ok := at[quad.Path("parts.packs."+name+".resistance")]; ok {
		with := func(v *quad.Parts, ohm float64) {
			pack := v.Packs[name]
			pack.Resistance = ohm
			v.Packs = map[string]quad.Pack{name: pack}
		}
		spread(func(v *quad.Parts) { with(v, r.Low) }, func(v *quad.Parts) { with(v, r.High) })
	}
	return out
}

// Figures of a point of the drive on a pack, extra beside the motors, A.
func (d Drive) Figures(p Point, pack quad.Pack, extra float64) Figures {
	f := Figures{Thrust: d.Motors * p.Thrust / Gravity * 1000, Current: p.PackCurrent + extra, Rpm: p.Rotation * 30 / math.Pi, Mach: d.TipMach(p.Rotation)}
	if f.Current > 0 {
		f.Minutes = Minutes(pack, f.Current)
	}
	return f
}

func (f Figures) least(o Figures) Figures {
	return Figures{min(f.Thrust, o.Thrust), min(f.Current, o.Current), min(f.Rpm, o.Rpm), min(f.Mach, o.Mach), min(f.Minutes, o.Minutes)}
}

func (f Figures) most(o Figures) Figures {
	return Figures{max(f.Thrust, o.Thrust), max(f.Current, o.Current), max(f.Rpm, o.Rpm), max(f.Mach, o.Mach), max(f.Minutes, o.Minutes)}
}

// CurveWith one of the assigned packs at some volts a cell, for a quad that was weighed (g; 0 is by its parts) with the heaviest; ok is false where parts are
// missing, or nobody told what it weighs.
func CurveWith(p quad.Parts, name string, cell, weighed float64) (out Curve, ok bool) {
	pack, told := p.Packs[name]
	if !told || pack.Cells == 0 || weighed == 0 && p.Frame.Mass == 0 {
		return out, false
	}
	mass := Mass(p, pack, 0)
	if weighed > 0 {
		mass = MassWith(p, pack, weighed)
	}
	extra := power.IdleCurrent(p)
	out = Curve{Pack: name, Cell: cell, Cells: pack.Cells, Mass: 1000 * mass, Points: make([]CurvePoint, CurveSteps+1)}
	always := true
	for i, v := range variants(p, name) {
		d, err := NewDrive(v, v.Packs[name], cell*float64(pack.Cells), Density)
		if err != nil {
			return Curve{}, false
		}
		for n := range out.Points {
			duty := float64(n) / CurveSteps
			at := &out.Points[n]
			f := d.Figures(d.At(duty), pack, extra)
			if i == 0 {
				*at = CurvePoint{100 * duty, f, f, f}
			}
			at.Low, at.High = at.Low.least(f), at.High.most(f)
		}
		h, able := d.Hover(mass)
		if always = always && able; !able {
			continue
		}
		f := d.Figures(h, pack, extra)
		if i == 0 {
			out.Hover = &HoverPoint{CurvePoint{100 * h.Duty, f, f, f}, 100 * h.Duty, 100 * h.Duty}
		}
		if at := out.Hover; at != nil {
			at.Low, at.High = at.Low.least(f), at.High.most(f)
			at.LeastDuty, at.MostDuty = min(at.LeastDuty, 100*h.Duty), max(at.MostDuty, 100*h.Duty)
		}
	}
	if out.Hover != nil && !always {
		out.Hover.MostDuty = 0
	}
	return out, true
}

// ThrustByHover is the propeller's thrust coefficient by a hover that was measured: at a duty of 0 to 1, off by no more than within, four rotors carry a mass
// in kg. What a rotor turns at a duty its power decides alone, so that its thrust follows in one step: Ct' = Ct m g / (4 T).
func (d Drive) ThrustByHover(was, mass, duty, within float64) (e quad.Estimate, ok bool) {
	by := func(duty float64) float64 {
		t := d.At(duty).Thrust
		if t <= 0 {
			return 0
		}
		return was * mass * Gravity / (d.Motors * t)
	}
	e = quad.Estimate{Path: banded[0], Value: by(duty), Low: by(duty + within), High: by(duty - within), By: quad.ByHover}
	return e, e.Value > 0 && e.High > 0 && quad.Plausible(banded[0], e.Value)
}
