package check_test

import (
	"testing"

	"vividperch/core/check"
	"vividperch/core/quad"
)

// What the field card names as the most wind is where the rule begins to speak, whichever of its two bounds is the nearer; of a quad that
// nobody weighed it names none.
func TestWindMostIsWhereTheRuleSpeaks(t *testing.T) {
	t.Parallel()
	speaks := func(k quad.Known, wind float64) bool {
		k.Readings.FirstFlight.Wind = &quad.Reading[float64]{Value: wind, At: k.Readings.FirstFlight.Wind.At}
		k.Readings.FirstFlight.Gust = k.Readings.FirstFlight.Wind
		for _, r := range check.Rules() {
			if r.ID == "first-flight.wind" {
				return len(r.Judge(k).Findings) > 0
			}
		}
		t.Fatal("there is no such rule")
		return false
	}
	for _, drag := range []float64{0, 1000, 5000} { // cm²: as it is, and much more, which carries it away sooner
		k := sound(t)
		if drag > 0 {
			k.Parts.Frame.DragArea = drag
		}
		most := check.WindMost(k)
		if most <= 0 || speaks(k, most) || !speaks(k, most+1e-6) {
			t.Errorf("drag area %v: at most %v m/s; the rule speaks there: %v, a little above: %v", drag, most, speaks(k, most), speaks(k, most+1e-6))
		}
	}
	k := sound(t)
	k.Readings.Airframe.Weight = nil
	if most := check.WindMost(k); most != 0 {
		t.Errorf("not weighed: %v m/s", most)
	}
}
