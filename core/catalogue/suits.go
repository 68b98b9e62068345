package catalogue

import (
	"math"

	"vividperch/core/quad"
)

// Wish is what a pilot said of a quad that he begins; 0 was not said.
type Wish struct {
	Diameter float64 // of its propellers, mm
	Cells    int
}

const (
	// fullCell is the voltage of a full cell, V, and sound its speed in air, m/s.
	fullCell, sound = 4.2, 343.0
	// A motor suits where the tips of the propeller would run at this share of the speed of sound with nothing to push: slower, it is lame;
	// faster, it is all heat and noise.
	slowTip, fastTip = 0.4, 0.95
	// Its stator is as wide as this for each mm of the propeller to this power, within a factor.
	statorWide, statorPower, statorMost = 0.33, 0.87, 1.4
	// Beside each other propellers leave at least this many mm, and less than this share of their diameter.
	tipsApart, armsLong = 2.0, 1.75
)

// Suits says whether a part suits what was wished for, as far as both tell enough: its size, and the cells that it bears. What is not told
// speaks against nothing.
func (e Entry) Suits(w Wish) bool {
	part, ok := e.decoded()
	if !ok {
		return false
	}
	bears := func(least, most int) bool { return w.Cells == 0 || w.Cells >= least && (most == 0 || w.Cells <= most) }
	switch p := part.(type) {
	case quad.Pack:
		return bears(p.Cells, p.Cells)
	case quad.SpeedController:
		return bears(p.CellsMin, p.CellsMax)
	case quad.BoardPart:
		return bears(0, p.CellsMax)
	case quad.Video:
		return bears(0, p.CellsMax)
	case quad.Propeller:
		return w.Diameter == 0 || p.Diameter == 0 || math.Abs(p.Diameter-w.Diameter) < 0.05*w.Diameter
	case quad.Frame:
		beside := 2 * math.Min(p.ArmFront, p.ArmSide)
		return w.Diameter == 0 || beside == 0 || beside >= w.Diameter+tipsApart && beside < armsLong*w.Diameter
	case quad.Motor:
		if w.Diameter == 0 {
			return true
		}
		if wide := statorWide * math.Pow(w.Diameter, statorPower); e.Stator.Width > 0 && (e.Stator.Width > statorMost*wide || e.Stator.Width < wide/statorMost) {
			return false
		}
		tip := p.KV / 60 * fullCell * float64(w.Cells) * math.Pi * w.Diameter / 1000 / sound
		return w.Cells == 0 || p.KV == 0 || tip >= slowTip && tip <= fastTip
	}
	return true
}
