package flight

import (
	"math"

	"vividperch/core/airframe"
	"vividperch/core/quad"
)

// What a board needs to look for its own gains in flight: air without gusts, which look like its own rocking (m/s), room to rock about in (m), and how often it does so, once about each axis, with
// the minutes of the way up and down.
const (
	tuneWind  = 3.0
	tuneRoom  = 30.0
	tuneAxes  = 3.0
	tuneThere = 2.0
)

// TuneCondition is one thing that must be so before a board looks for its gains in flight.
type TuneCondition struct {
	Words string `json:"words"`
	Is    string `json:"is"`
	Met   bool   `json:"met"`
}

// TuneConditions of a quad whose board takes so many minutes about each axis. What nobody told is not met.
func TuneConditions(k quad.Known, minutes float64) (out []TuneCondition) {
	add := func(words, is string, met bool) { out = append(out, TuneCondition{words, is, met}) }
	first := k.Readings.FirstFlight
	is, flies := "not rehearsed yet", false
	if r := first.Rehearsal; r != nil {
		is, flies = r.Value.Sentence, r.Value.Outcome == string(Landed)
	}
	add("It flies already: a tune makes good gains better, and crashes with bad ones", is, flies)
	is, met := "not measured today", false
	if w := first.Wind; w != nil {
		is, met = quad.Quantity(w.Value, "m/s"), w.Value <= tuneWind
	}
	add("The air is calm, up to "+quad.Quantity(tuneWind, "m/s"), is, met)
	is, met = "not looked at", false
	if c := first.Clear; c != nil {
		is, met = quad.Quantity(c.Value, "m")+" around", c.Value >= tuneRoom
	}
	add("There is room: "+quad.Quantity(tuneRoom, "m")+" around, nobody below", is, met)
	longest, which := airframe.LongestHover(k.Parts, k.Weight(), k.Sheet.Watch.LandPerCell)
	needs := tuneAxes*minutes + tuneThere
	is = "no pack is known to last"
	if which != "" {
		is = which + " hovers for " + quad.Quantity(math.Round(longest/6)/10, "min")
	}
	add("A pack lasts for "+quad.Quantity(needs, "min")+", three axes and the way down; else one axis a pack", is, longest/60 >= needs)
	return out
}
