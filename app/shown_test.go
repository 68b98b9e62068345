package app_test

import (
	"encoding/json"
	"strings"
	"testing"
	"time"

	"vividperch/core/check"
	"vividperch/core/proof"
	"vividperch/core/quad"
)

// Figures are shown in the units that a pilot wants, in the ledger, in the hangar and where they are typed; what is kept stays as it was.
func TestUnitsAsThePilotWantsUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	const weight = "readings.airframe.weight"
	p, err := w.Pilot(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	if _, err := w.SetShows(t.Context(), p.Version+1, quad.Shows{}); code(err) != "changed" {
		t.Errorf("by who saw something else: %v", err)
	}
	if p, err = w.SetShows(t.Context(), p.Version, quad.Shows{Mass: quad.Ounces, Length: quad.Inches}); err != nil || p.Shows.Mass != quad.Ounces {
		t.Fatalf("%+v, %v", p, err)
	}
	v := w.view(id)
	if was, is := w.reading(id, check.Airframe, weight), "25.2 oz"; was != is {
		t.Errorf("it weighs %s, wanted %s", was, is)
	}
	leaf := v.Leaves["parts.propeller.diameter"]
	slots, err := w.Slots(t.Context(), "parts.propeller.diameter")
	if err != nil || leaf.Words != "5 in" || len(slots) != 1 || slots[0].Unit != "in" || slots[0].Allowed == nil || slots[0].Allowed.Most != 39.4 {
		t.Errorf("the propeller is %+v, typed in %+v: %v", leaf, slots, err)
	}
	for _, nowhere := range []quad.Path{"sheet.nowhere", "parts.packs"} {
		if slots, err := w.Slots(t.Context(), nowhere); err == nil && len(slots) > 0 {
			t.Errorf("at %q it types %+v", nowhere, slots)
		}
	}
	for _, p := range v.Line {
		for _, f := range p.Findings {
			if strings.Contains(f.Figures, " mm") && !strings.Contains(f.Figures, "mm²") {
				t.Errorf("%s", f.Figures)
			}
		}
	}
	if _, err := w.Type(t.Context(), id, weight, json.RawMessage(`"26 oz"`)); err != nil {
		t.Fatal(err)
	}
	w.edit(id, "parts.propeller.diameter", `"5.1 in"`)
	v = w.view(id)
	if v.Meant.Parts.Propeller.Diameter != 5.1*25.4 || !strings.Contains(v.Back.Words, "5 in becomes 5.1 in") {
		t.Errorf("%v mm, %q", v.Meant.Parts.Propeller.Diameter, v.Back.Words)
	}
	if _, err := w.SetShows(t.Context(), p.Version, quad.Shows{}); err != nil {
		t.Fatal(err)
	}
	if got := w.reading(id, check.Airframe, weight); got != "737.1 g" {
		t.Errorf("in grams it is %s", got)
	}
}

// A release ends at midnight where the quad is, whatever the clock of the program's own place says.
func TestAReleaseEndsAtMidnightThereUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.signed()
	// At nine universal time it is 19:30 half a zone east of the tenth, and the day ends four and a half hours later.
	v, err := w.ReleaseFor(t.Context(), id, proof.Hover, "the dyke", "", time.FixedZone("", (10*60+30)*60))
	if err != nil || v.Release == nil || !v.Release.Until.Equal(firstDay.Add(4*time.Hour+30*time.Minute)) {
		t.Fatalf("%+v, %v", v.Release, err)
	}
	w.now = firstDay.Add(4*time.Hour + 31*time.Minute)
	if v := w.view(id); v.Release != nil {
		t.Error("it is past midnight there, and it is released")
	}
}
