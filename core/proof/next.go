package proof

import (
	"cmp"
	"slices"

	"vividperch/core/check"
	"vividperch/core/quad"
)

// TodoKind is why something is to be done.
type TodoKind string

const (
	TodoStop    TodoKind = "stop" // a stop stands
	TodoFix     TodoKind = "fix"
	TodoProve   TodoKind = "prove" // a proof fell
	TodoReading TodoKind = "reading"
	TodoSign    TodoKind = "sign"
)

// Todo is one thing to do next.
type Todo struct {
	Station check.Station `json:"station"`
	Kind    TodoKind      `json:"kind" enum:"stop,fix,prove,reading,sign"`
	Words   string        `json:"words"`
	// Path of the reading that is wanted, Rule of the finding; one of them or none.
	Path quad.Path `json:"path,omitempty"`
	Rule string    `json:"rule,omitempty"`
}

// urgency of the kinds: what can injure first, then what fell, then the way along the line.
var urgency = map[TodoKind]int{TodoStop: 0, TodoProve: 1, TodoFix: 2, TodoReading: 2, TodoSign: 2}

// Next lists everything that is to be done over all stations, in the order to do it in: stops first, then
// proofs that fell, then along the line what is to be fixed, read and signed.
func Next(st []Standing) []Todo {
	out := []Todo{}
	told := map[string]bool{} // what several stations find, such as a board that differs, is done once
	for _, s := range st {
		name := s.Station.Info().Name
		for _, f := range s.Findings {
			if f.Accepted == nil && f.Weight != check.Note && !told[f.Title] {
				told[f.Title] = true
				out = append(out, Todo{Station: s.Station, Kind: TodoKind(f.Weight), Words: f.Title, Rule: f.Rule})
			}
		}
		switch {
		case s.State == Stale && len(s.Asks) == 0:
			out = append(out, Todo{Station: s.Station, Kind: TodoProve, Words: "Look at " + name + " again and sign it: " + s.Why[0]})
		case s.MaySign && s.State != Proven:
			out = append(out, Todo{Station: s.Station, Kind: TodoSign, Words: "Sign " + name})
		}
		for _, a := range s.Asks {
			kind := TodoReading
			if s.State == Stale {
				kind = TodoProve
			}
			out = append(out, Todo{Station: s.Station, Kind: kind, Words: a.Label, Path: a.Path})
		}
	}
	slices.SortStableFunc(out, func(a, b Todo) int {
		return cmp.Or(cmp.Compare(urgency[a.Kind], urgency[b.Kind]), cmp.Compare(a.Station.Number(), b.Station.Number()))
	})
	return out
}
