package oracle

import (
	"testing"
	"time"

	"vividperch/core/check"
	"vividperch/demo"
)

// What is drawn from is sound: no stop, no fix, and nothing asked that nobody answers.
func TestKindsAreSound(t *testing.T) {
	k, err := demo.Sound(time.Date(2026, 5, 4, 10, 0, 0, 0, time.UTC))
	if err != nil {
		t.Fatal(err)
	}
	kinds, err := kindsOf([]Base{{"Dunlin", k}})
	if err != nil {
		t.Fatal(err)
	}
	for _, one := range kinds {
		w := one.world.clone()
		report, err := w.judged()
		if err != nil {
			t.Fatal(err)
		}
		for _, f := range report.Findings {
			// One throttle for every pack and charge never lands softly: that it is known is all that can be wished for.
			if f.Weight != check.Note && f.Rule != "link-loss.land-throttle" {
				t.Errorf("%s: %s %s: %s", one.name, f.Weight, f.Title, f.Figures)
			}
		}
		for _, a := range report.Asks {
			t.Errorf("%s: asks %s", one.name, a.Path)
		}
	}
}
