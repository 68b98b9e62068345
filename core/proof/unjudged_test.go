package proof

import (
	"testing"

	"vividperch/core/check"
	"vividperch/core/quad"
)

// A new field that no rule reads could be changed under a proof without anybody noticing.
func TestEveryLeafIsJudgedOrExcused(t *testing.T) {
	excused := map[quad.Path]int{}
	for _, s := range quad.Shape() {
		judged := false
		for _, r := range check.Rules() {
			for _, p := range r.Sees() {
				judged = judged || s.Path.Matches(p)
			}
		}
		reason := false
		for p, why := range Unjudged {
			if s.Path.Matches(p) {
				reason = true
				excused[p]++
				if judged {
					t.Errorf("%s is read by a rule and listed as unjudged (%s)", s.Path, why.Why)
				}
				if why.Why == "" {
					t.Errorf("%s is unjudged without a reason", p)
				}
			}
		}
		if !judged && !reason {
			t.Errorf("%s is read by no rule; add a rule, or list it in unjudged.go with the reason", s.Path)
		}
	}
	for p := range Unjudged {
		if excused[p] == 0 {
			t.Errorf("unjudged.go lists %s, which does not exist", p)
		}
	}
}
