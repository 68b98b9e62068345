package book

import (
	"encoding/json"
	"time"

	"vividperch/core/quad"
)

// Pack of a pilot: what is printed on it or was told of it, and what was measured of it, newest first. Quads that fly with it hold a copy
// under its name.
type Pack struct {
	Name   string
	Told   quad.Pack
	Health []PackHealth
}

// PackHealth is what was measured of a pack at one time; 0 was not.
type PackHealth struct {
	ID int64     `json:"id"`
	At time.Time `json:"at"`
	PackMeasured
	// Withdrawn says why it does not count.
	Withdrawn string `json:"withdrawn"`
}

// PackMeasured are the figures of one measurement; 0 was not measured.
type PackMeasured struct {
	Resistance float64 `json:"resistance,omitempty" unit:"mΩ"` // of the whole pack, with its leads
	Capacity   float64 `json:"capacity,omitempty" unit:"mAh"`  // that a charger put back after it was flown down to its landing voltage
	Spread     float64 `json:"spread,omitempty" unit:"mV"`     // between its highest and its lowest cell, at rest
	Mass       float64 `json:"mass,omitempty" unit:"g"`
	Stored     float64 `json:"stored,omitempty" unit:"V"` // of a cell at rest, as it was put away
}

// ErrPacksChanged is returned where somebody else changed a pilot's packs since they were read.
var ErrPacksChanged = quad.Faultf("changed", "", "your packs were changed in another window; look at them again")

// ErrNoPack is returned where the pilot has no such pack.
var ErrNoPack = quad.Faultf("no-pack", "", "you have no pack of that name")

// mostSpread between two cells that still are cells, mV.
const mostSpread = 3000

// Check refuses figures that cannot be a pack's, and a measurement of nothing.
func (m PackMeasured) Check() error {
	if m == (PackMeasured{}) {
		return quad.Faultf("nothing-measured", "", "say at least one figure that was measured")
	}
	if !(m.Spread >= 0 && m.Spread <= mostSpread) {
		return quad.Faultf("out-of-range", "spread", "its cells are at most %s apart: beyond that one of them is dead", quad.Quantity(mostSpread, "mV"))
	}
	if !(m.Stored == 0 || m.Stored >= 2 && m.Stored <= 4.5) {
		return quad.Faultf("out-of-range", "stored", "a cell that is put away has 2 to 4.5 V; say it for one cell")
	}
	for leaf, x := range map[string]float64{"resistance": m.Resistance, "capacity": m.Capacity, "mass": m.Mass} {
		raw, err := json.Marshal(x)
		if err != nil {
			return quad.Faultf("not-a-number", leaf, "is not a figure")
		}
		if x != 0 {
			if err := quad.Fits(quad.Path("parts.packs.one."+leaf), raw); err != nil {
				return err
			}
		}
	}
	return nil
}

// Now is what the pack is taken to be: as it was told, and where something was measured since, as the newest measurement that counts has it.
func (p Pack) Now() quad.Pack {
	now := p.Told
	for _, of := range []struct {
		into *float64
		is   func(PackMeasured) float64
	}{
		{&now.Resistance, func(m PackMeasured) float64 { return m.Resistance }},
		{&now.Capacity, func(m PackMeasured) float64 { return m.Capacity }},
		{&now.Mass, func(m PackMeasured) float64 { return m.Mass }},
	} {
		for _, h := range p.Health {
			if x := of.is(h.PackMeasured); x > 0 && h.Withdrawn == "" {
				*of.into = x
				break
			}
		}
	}
	return now
}

// PackDifference is one figure in which a quad's copy of a pack is not what the pack is.
type PackDifference struct {
	Label string `json:"label"`
	Pack  string `json:"pack"`
	Copy  string `json:"copy"`
}

// Differences of a pack and a quad's copy of it. What nobody told of the pack is no difference: the copy may know it, or estimate it.
func Differences(pack, copied quad.Pack) []PackDifference {
	there := quad.Leaves(copied, "")
	var out []PackDifference
	for i, l := range quad.Leaves(pack, "") {
		if !l.Untold && l.Value != there[i].Value {
			out = append(out, PackDifference{Label: l.Label, Pack: l.Words(), Copy: there[i].Words()})
		}
	}
	return out
}

// Taken is a quad's copy of a pack with what the pack tells put in the place of what differs.
func Taken(pack, copied quad.Pack) (quad.Pack, error) {
	all := map[string]quad.Pack{"one": copied}
	k := quad.Known{Parts: quad.Parts{Packs: all}}
	for _, l := range quad.Leaves(pack, "parts.packs.one") {
		if l.Untold {
			continue
		}
		raw, err := json.Marshal(l.Value)
		if err != nil {
			return quad.Pack{}, err
		}
		if err := quad.Set(&k, l.Path, raw); err != nil {
			return quad.Pack{}, err
		}
	}
	return k.Parts.Packs["one"], nil
}
