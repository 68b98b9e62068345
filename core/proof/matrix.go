package proof

import (
	"slices"

	"vividperch/core/check"
	"vividperch/core/quad"
)

// Row of the matrix: a change, an event or the passing of time, and the stations it makes stale.
type Row struct {
	Kind     string          `json:"kind"` // change, event, days
	What     string          `json:"what"`
	Stations []check.Station `json:"stations"`
}

// Matrix lists which change makes which station stale, from what the rules declare.
func Matrix() []Row {
	var paths []quad.Path
	for _, info := range check.Line {
		for _, p := range Relies(info.ID) {
			if !slices.Contains(paths, p) {
				paths = append(paths, p)
			}
		}
	}
	slices.Sort(paths)
	var out []Row
	for _, p := range paths {
		out = append(out, Row{"change", string(p), Falls(p)})
	}
	for _, e := range append(slices.Clone(check.Events), check.NewBoard) {
		out = append(out, Row{"event", string(e), FallsBy(e)})
	}
	days := map[int][]check.Station{}
	for _, r := range check.Rules() {
		if r.Days > 0 && !slices.Contains(days[r.Days], r.Station) {
			days[r.Days] = append(days[r.Days], r.Station)
		}
	}
	var lengths []int
	for n := range days {
		lengths = append(lengths, n)
	}
	slices.Sort(lengths)
	for _, n := range lengths {
		out = append(out, Row{"days", quad.Number(float64(n)), days[n]})
	}
	return out
}

// FallsBy lists the stations whose proof an event makes stale.
func FallsBy(e check.Event) []check.Station {
	var hit []check.Station
	for _, r := range check.Rules() {
		if r.VoidedBy(e) && hasReading(r) && !slices.Contains(hit, r.Station) {
			hit = append(hit, r.Station)
		}
	}
	return hit
}

func hasReading(r check.Rule) bool {
	return slices.ContainsFunc(r.Reads, func(p quad.Path) bool { return p.Under("readings") })
}

// Falls lists the stations whose proof a change at a path makes stale.
func Falls(p quad.Path) []check.Station {
	var hit []check.Station
	for _, info := range check.Line {
		if slices.ContainsFunc(Relies(info.ID), func(q quad.Path) bool { return p.Touches(q) }) {
			hit = append(hit, info.ID)
		}
	}
	return hit
}
