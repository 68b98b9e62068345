package power

import (
	"math"

	"vividperch/core/quad"
)

// Ohm is one figure of an ohmmeter on a power lead.
type Ohm struct {
	Time float64 `json:"time" unit:"s"` // since its probes were put on
	Ohms float64 `json:"ohms" unit:"Ω"`
}

// usualLeak is what the electronics of a sound quad let through beside its capacitor, Ω: a meter comes to rest there, if anybody waits for it.
const usualLeak = 25_000.0

// GoodLead is what an ohmmeter shows of a sound lead some seconds after its probes were put on, Ω: its steady current charges a capacitor of so many µF at I/C volts a second
// until a resistance beside it takes all of it, R (1 - e^(-t/RC)).
func GoodLead(capacitance, t float64) float64 {
	if !(capacitance > 0) {
		return usualLeak
	}
	return usualLeak * (1 - math.Exp(-t/(usualLeak*capacitance*1e-6)))
}

// LeadShape is what an ohmmeter's figures on a power lead look like.
type LeadShape string

const (
	LeadClimbs  LeadShape = "climbs"  // as its capacitor has it
	LeadShorted LeadShape = "shorted" // low, and stays there
	LeadCharged LeadShape = "charged" // it falls: charge was left in the capacitor
	LeadFlat    LeadShape = "flat"    // high, and does not climb: no capacitor is there
	LeadOpen    LeadShape = "open"    // nothing conducts at all
	LeadJumps   LeadShape = "jumps"   // the meter changed its range in the middle
)

// Words for what it means, and what to do next.
func (s LeadShape) Words() string {
	switch s {
	case LeadShorted:
		return "It stays low: the lead is shorted. Connect nothing; look for the bridge."
	case LeadCharged:
		return "It falls: charge was left in the capacitor. Hold a resistor across the lead for ten seconds, and measure again."
	case LeadFlat:
		return "It is high and does not climb: the meter sees no capacitor. Is it soldered, and are the probes on the lead?"
	case LeadOpen:
		return "Nothing conducts: the probes do not touch, or the lead goes nowhere."
	case LeadJumps:
		return "It jumps: the meter changed its range. Set the range by hand, and measure again."
	}
	return "It climbs, then stays: as it should."
}

const (
	openLead = 5e6  // Ω from which nothing conducts
	fallen   = 0.9  // share of the first figure under which it has fallen
	jumped   = 4.0  // times what a capacitor alone climbs between two figures
	wanders  = 0.02 // share of a figure by which a meter's display wanders
)

// ShapeOf an ohmmeter's figures on a lead, in the order of their time, with a capacitor of so many µF (0 is not told). Two figures, at once and after ten seconds, tell the most of it.
func ShapeOf(list []Ohm, capacitance float64) LeadShape {
	if len(list) < 2 {
		return LeadOpen
	}
	first, last := list[0], list[len(list)-1]
	climb := 1 / (usualIfUntold(capacitance) * 1e-6) // Ω each second
	for i := 1; i < len(list) && len(list) > 2; i++ {
		// Between two of many figures it climbs no faster than its capacitor alone lets it, and does not fall back to go on climbing.
		rose, could := list[i].Ohms-list[i-1].Ohms, climb*(list[i].Time-list[i-1].Time)
		if rose > jumped*could+Short+wanders*list[i-1].Ohms || rose < -0.3*list[i-1].Ohms && last.Ohms > list[i].Ohms*1.5 {
			return LeadJumps
		}
	}
	switch {
	case first.Ohms >= openLead:
		return LeadOpen
	case Shorted(quad.Resistance{AtOnce: first.Ohms, After: last.Ohms}, capacitance):
		return LeadShorted
	case last.Ohms < fallen*first.Ohms:
		return LeadCharged
	case capacitance > 0 && last.Ohms-first.Ohms < climbShare*climb*(last.Time-first.Time):
		return LeadFlat
	}
	return LeadClimbs
}

// usualIfUntold is a capacitance in µF, the usual one where nobody told it.
func usualIfUntold(capacitance float64) float64 {
	if capacitance > 0 {
		return capacitance
	}
	return 470
}

// OhmsOf a lead as it is noted: at once, and ten seconds after.
func OhmsOf(r quad.Resistance) []Ohm { return []Ohm{{0, r.AtOnce}, {10, r.After}} }
