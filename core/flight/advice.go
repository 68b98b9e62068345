package flight

import (
	"vividperch/core/quad"
)

// doing of a policy, as it is told in a reason.
var doing = map[quad.Policy]string{quad.PolicyDrop: "it stops its motors", quad.PolicyLand: "it descends", quad.PolicyReturn: "it comes home"}

// RecommendLine is the policy with the fewest that come down among people; where that makes no difference, the one with the most that come down harmlessly.
func RecommendLine(list []LineLosses) Advice {
	if len(list) == 0 || len(list[0].Ends) == 0 {
		return Advice{}
	}
	total := list[0].count()
	least := total
	for i := range list {
		least = min(least, list[i].count(OnPeople))
	}
	slack := total / 100
	best, worst := -1, -1
	for i := range list {
		n := list[i].count(OnPeople)
		if n <= least+slack && (best < 0 || list[i].Harmless > list[best].Harmless) {
			best = i
		}
		if worst < 0 || n > list[worst].count(OnPeople) {
			worst = i
		}
	}
	b, w := &list[best], &list[worst]
	all := quad.Count(total, "loss", "losses")
	out := Advice{Policy: b.Policy}
	if n := w.count(OnPeople); n > b.count(OnPeople)+slack {
		out.Why = "Of " + all + " " + people(b.count(OnPeople)) + " where " + doing[b.Policy] + "; where " + doing[w.Policy] + ", " + quad.Number(float64(n)) + "."
	} else {
		next := -1
		for i := range list {
			if i != best && (next < 0 || list[i].Harmless > list[next].Harmless) {
				next = i
			}
		}
		out.Why = "Of " + all + " " + quad.Number(float64(b.Harmless)) + " end harmlessly where " + doing[b.Policy]
		if next >= 0 {
			out.Why += "; where " + doing[list[next].Policy] + ", " + quad.Number(float64(list[next].Harmless))
		}
		out.Why += "."
	}
	if n := b.count(OnPeople); n > 0 {
		out.Why += " Better still: another line, for no policy keeps it away from people altogether."
	}
	return out
}

func people(n int) string {
	if n == 0 {
		return "none comes down among people"
	}
	return quad.Count(n, "comes down among people", "come down among people")
}
