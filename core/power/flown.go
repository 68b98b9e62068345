package power

import (
	"cmp"
	"slices"

	"vividperch/core/columns"
	"vividperch/core/quad"
)

// FlownColumns are what the columns of a recorded flight's table can be.
var FlownColumns = []columns.Heading{
	{Key: "time", Label: "Time", Unit: "s", Needed: true, Words: []string{"time", "t", "seconds"}},
	{Key: "volts", Label: "Pack voltage", Unit: "V", Needed: true, Words: []string{"pack", "voltage", "volts", "v", "battery voltage"}},
	{Key: "amps", Label: "Current", Unit: "A", Words: []string{"pack", "current", "amps", "a", "battery current"}},
}

// ReadFlown is what a table of a recorded flight gave: its samples in the order of their time, from 0, ten a second at most. Sorted is not so where its rows were in another order.
func ReadFlown(rows []columns.Row) (out []Given, sorted bool, err error) {
	for _, r := range rows {
		out = append(out, Given{r.Figures["time"], r.Figures["volts"], r.Figures["amps"]})
	}
	by := func(a, b Given) int { return cmp.Compare(a.Time, b.Time) }
	sorted = slices.IsSortedFunc(out, by)
	slices.SortStableFunc(out, by)
	if len(out) < 2 || out[len(out)-1].Time-out[0].Time < shortestFlown {
		return nil, sorted, quad.Faultf("too-short", "text", "a flight of %s at least tells something: is its time in seconds?", quad.Quantity(shortestFlown, "s"))
	}
	if lasts := out[len(out)-1].Time - out[0].Time; lasts > longestFlown {
		return nil, sorted, quad.Faultf("too-long", "text", "it would last %s; is its time in milliseconds? Say so in its head, as time (ms)", quad.Quantity(round(lasts/3600), "h"))
	}
	began, kept := out[0].Time, out[:0]
	for _, s := range out {
		if !(s.Volts > 0) || s.Amps < 0 {
			continue // a moment at which nothing was measured
		}
		if s.Time -= began; len(kept) == 0 || s.Time-kept[len(kept)-1].Time >= 0.0999 {
			kept = append(kept, s)
		}
	}
	if len(kept) < 20 {
		return nil, sorted, quad.Faultf("no-volts", "text", "it has hardly a voltage above 0: is that the column of the pack?")
	}
	return kept, sorted, nil
}

// Of a recorded flight, s.
const (
	shortestFlown = 20.0
	longestFlown  = 7200.0
)

// OfCells refuses a flight that was not flown with a pack of so many cells: by its highest voltage.
func OfCells(flight []Given, cells int) error {
	if cells <= 0 {
		return quad.Faultf("no-cells", "parts.packs", "a pack of no cells has no threshold; say how many it has")
	}
	most := 0.0
	for _, s := range flight {
		most = max(most, s.Volts)
	}
	if cell := most / float64(cells); cell < CellLeast || cell > CellMost {
		return quad.Faultf("other-cells", "pack", "its highest voltage is %s, which is %s a cell of %s: it was flown with another pack", quad.Quantity(round(most), "V"), quad.Quantity(round(cell), "V"), quad.Count(cells, "cell", "cells"))
	}
	return nil
}

// Thin a flight to so many samples at most, for a drawing: of each stretch the one with the lowest voltage, so that no sag is lost.
func Thin(flight []Given, most int) []Given {
	if len(flight) <= most {
		return flight
	}
	out := make([]Given, 0, most)
	for i := range most {
		from, to := i*len(flight)/most, (i+1)*len(flight)/most
		out = append(out, slices.MinFunc(flight[from:to], func(a, b Given) int { return cmp.Compare(a.Volts, b.Volts) }))
	}
	return out
}
