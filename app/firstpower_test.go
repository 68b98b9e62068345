package app_test

import (
	"encoding/json"
	"strings"
	"testing"

	"vividperch/core/power"
)

// What is drawn at the first power is what the rules judge by: the same shape, the same sum, and the first device that is off by name.
func TestFirstPowerIsDrawnAsItIsJudged(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	v := figures(w, id, w.FirstPower)
	if v.Shape != power.LeadClimbs || len(v.Good) != 41 || len(v.Taken) != 2 || v.Idle == nil || len(v.Steps) != 4 {
		t.Fatalf("%+v", v)
	}
	for _, b := range v.Video {
		if b.Set != (b.Power == 25) || b.Still > 0 && b.Fan > 0 && b.Fan < b.Still {
			t.Errorf("%+v", b)
		}
	}
	if _, err := w.Told(t.Context(), id, "readings.firstPower.leadResistance", json.RawMessage(`{"atOnce":1.2,"after":1.5}`)); err != nil {
		t.Fatal(err)
	}
	if v = figures(w, id, w.FirstPower); v.Shape != power.LeadShorted || !strings.Contains(v.Says, "Connect nothing") {
		t.Errorf("%s: %s", v.Shape, v.Says)
	}
	d, err := w.Deviation(t.Context(), id, []float64{0.11, 0.2, 0.7})
	if err != nil || d.Step != 2 || !strings.Contains(d.Says, "receiver") {
		t.Errorf("%+v, %v", d, err)
	}
	if d, err = w.Deviation(t.Context(), id, []float64{0.11, 0.2, 0.25, 0.44}); err != nil || d.Step != -1 || d.Says != "All of them draw what they should." {
		t.Errorf("%+v, %v", d, err)
	}
}
