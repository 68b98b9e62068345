package flight

import (
	"math"

	"vividperch/core/airframe"
	"vividperch/core/power"
)

// cells follow what is left of a pack: its open-circuit voltage falls as its charge goes. A flight ends where a cell is at [airframe.LowCell]; what begins there, or
// below, keeps the voltage that it begins with, so that what is asked of a low pack is asked of one that is low all the time.
type cells struct {
	count    float64
	capacity float64 // A·s; 0 where nobody told it, or where the air does not answer: it never falls
	begins   float64 // share of the charge
	least    float64 // V, each
	lowAt    float64 // s, when they came down to that; 0 not yet
}

func newCells(in Input) cells {
	c := cells{count: float64(in.Pack.Cells), capacity: in.Pack.Capacity * 3.6, begins: power.Left(in.CellVolt), least: math.Min(in.CellVolt, airframe.LowCell)}
	if in.Ideal || in.CellVolt <= airframe.LowCell {
		c.capacity = 0
	}
	return c
}

// left is the share of the charge that is left when some has been drawn (A·s).
func (c *cells) left(drawn float64) float64 {
	if c.capacity == 0 {
		return math.Max(0, c.begins)
	}
	return math.Max(0, c.begins-drawn/c.capacity)
}

// volts of each after some charge (A·s) at a time (s); fell says that they fall at all.
func (c *cells) volts(drawn, now float64) (volts float64, fell bool) {
	if c.capacity == 0 {
		return 0, false
	}
	if volts = power.OpenVolts(c.begins - drawn/c.capacity); volts <= c.least {
		if volts = c.least; c.lowAt == 0 {
			c.lowAt = math.Max(now, 1e-3)
		}
	}
	return volts, true
}

// warm the motors by what they drew since they were looked at last. Resistance that grows with the warmth heats them the more; it takes nothing from the
// thrust here, as the figures of a drive are those of a warm motor.
func (s *Stepper) warm() {
	dt := float64(s.airEvery) * s.h
	for i := range s.rotors {
		r := &s.rotors[i]
		s.heat.Step(&s.warmth[i], r.squares/float64(s.airEvery), r.speed, dt)
		r.squares = 0
	}
}
