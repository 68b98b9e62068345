package check_test

import (
	"math/rand/v2"
	"testing"

	"vividperch/core/check"
)

// Two findings of one rule are about two things, whatever else is wrong: an acceptance of one must never stand for the other.
func TestFindingsAreToldApartByTheirSubject(t *testing.T) {
	base := sound(t)
	byRule := map[string][]fixture{}
	for _, f := range fixtures {
		if !f.fly && f.weight != "" {
			byRule[f.rule] = append(byRule[f.rule], f)
		}
	}
	rng := rand.New(rand.NewPCG(12, 7))
	told := map[string]bool{}
	for range 1500 {
		first := fixtures[rng.IntN(len(fixtures))]
		mine := byRule[first.rule]
		if len(mine) == 0 {
			continue
		}
		k := base
		what := ""
		for range 1 + rng.IntN(4) { // several things wrong that one rule looks at
			f := mine[rng.IntN(len(mine))]
			k = f.known(t, k)
			what += f.name + "; "
		}
		seen := map[string]string{}
		for _, x := range check.Run([]check.Rule{ruleByID(t, first.rule)}, k, check.Context{Now: today}).Findings {
			id := x.Rule + ", " + x.Subject
			if other, twice := seen[id]; twice && !told[id] {
				told[id] = true
				t.Errorf("%s: %q and %q (%s)", id, other, x.Title, what)
			}
			seen[id] = x.Title
			if x.Subject == "" {
				t.Errorf("%s: %q is about nothing", x.Rule, x.Title)
			}
		}
	}
}
