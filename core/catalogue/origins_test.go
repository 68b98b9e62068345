package catalogue

import (
	"strings"
	"testing"

	"vividperch/core/quad"
)

// A motor from the catalogue with a figure that was typed, one that was estimated and one that a stand gave: each says where it came from.
func TestSourcesOfFigures(t *testing.T) {
	e, ok := Find(Motor, "Sandpiper 2207 1700")
	if !ok {
		t.Fatal("it ships")
	}
	p, err := Put(quad.Parts{Propeller: quad.Propeller{Name: "mine", Diameter: 127, Thrust: 0.19, Power: 0.12}}, e)
	if err != nil {
		t.Fatal(err)
	}
	p.Motor.PeakCurrent = 39
	p.Estimates = append(p.Estimates, quad.Estimate{Path: "parts.motor.idleCurrent", Value: p.Motor.IdleCurrent, Low: 0.5, High: 2})
	p.Estimates = append(p.Estimates, quad.Estimate{Path: "parts.propeller.thrust", Value: 0.19, Low: 0.18, High: 0.2, By: quad.ByStand})
	of := func(kind Kind, entry *Entry) map[string]Sourced {
		out := map[string]Sourced{}
		for _, s := range Sources(p, kind, "", entry) {
			out[s.Label] = s
		}
		return out
	}
	motor := of(Motor, &e)
	for label, want := range map[string]From{"Speed constant KV": FromCatalogue, "Mass, each": FromCatalogue, "Rated peak current": FromPilot, "No-load current": FromEstimate} {
		if motor[label].From != want {
			t.Errorf("%s is %q, want %q", label, motor[label].From, want)
		}
	}
	if s := motor["No-load current"]; !strings.HasPrefix(s.Says, "estimate, ") {
		t.Errorf("its band is not told: %+v", s)
	}
	blades := of(Propeller, nil)
	if s := blades["Thrust coefficient"]; s.From != FromStand || s.Says != "by a thrust stand, 0.18 to 0.2" || blades["Power coefficient"].From != FromPilot {
		t.Errorf("%+v", blades)
	}
	if len(Sources(quad.Parts{}, Motor, "", nil)) != 0 || Sources(p, "lamp", "", nil) != nil {
		t.Error("of what is not told there is a source")
	}
}
