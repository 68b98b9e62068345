package proof

import (
	"slices"
	"strings"
	"sync"

	"vividperch/core/check"
	"vividperch/core/quad"
)

// plainly are subjects whose name in paths is not what a pilot calls them.
var plainly = map[string]string{"craft": "layout and rotation"}

// Subjects of what a station relies on, in words, each once. The list is shared: do not change it.
func Subjects(s check.Station) []string { return subjects()[s] }

var subjects = sync.OnceValue(func() map[check.Station][]string {
	out := map[check.Station][]string{}
	for _, info := range check.Line {
		for _, p := range Relies(info.ID) {
			if word := subjectOf(p); !slices.Contains(out[info.ID], word) {
				out[info.ID] = append(out[info.ID], word)
			}
		}
	}
	return out
})

func subjectOf(p quad.Path) string {
	names := strings.Split(string(p), ".")
	switch {
	case p.Under("board"):
		return "what the board holds"
	case p.Under("pilot") || p.Under("limits.thresholds"):
		return "your own limits"
	case p.Under("limits"):
		return "local limits"
	case p.Under("parts.board"):
		return "board type"
	case len(names) < 2:
		return quad.Spelled(names[0])
	}
	if word, known := plainly[names[1]]; known {
		return word
	}
	return quad.Spelled(names[1])
}
