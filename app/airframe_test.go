package app_test

import (
	"encoding/json"
	"math"
	"strings"
	"testing"

	"vividperch/app"
	"vividperch/core/catalogue"
	"vividperch/core/check"
	"vividperch/core/choice"
	"vividperch/core/proof"
	"vividperch/core/quad"
)

// What is tried changes nothing that is kept: another pack and a cell more are judged as if they were on it, with what it then weighs.
func TestWhatIfLeavesTheQuadAsItIs(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	before := w.view(id)
	v, err := w.WhatIf(t.Context(), id, app.WhatIfAsk{Parts: []app.WhatIfPart{{Kind: catalogue.Pack, Name: "4 cells 1300 mAh"}}})
	if err != nil {
		t.Fatal(err)
	}
	alarm := false
	for _, f := range v.Comes {
		alarm = alarm || f.Station == check.PowerWatch.Info().Name && strings.Contains(f.Title, "4 cells 1300 mAh")
	}
	if !alarm || len(v.Figures) < 6 || v.Gains == nil || v.Gains.Share <= 1 || !v.Gains.Settled || len(v.Falls) == 0 {
		t.Errorf("%+v", v)
	}
	if v.Weighs != 715-215+156 {
		t.Errorf("it would weigh %g g", v.Weighs)
	}
	for i := 1; i < len(v.Figures); i++ {
		share := func(f app.WhatIfFigure) float64 { return math.Abs(f.After-f.Before) / math.Max(f.After, f.Before) }
		if share(v.Figures[i]) > share(v.Figures[i-1])+1e-9 {
			t.Errorf("%q differs by more than %q, which stands before it", v.Figures[i].Label, v.Figures[i-1].Label)
		}
	}
	more, err := w.WhatIf(t.Context(), id, app.WhatIfAsk{Cells: 1})
	if err != nil {
		t.Fatal(err)
	}
	if more.Gains == nil || more.Gains.Share >= 1 || more.Comes[0].Weight != check.Stop || len(more.Edits) != 8 {
		t.Errorf("a cell more: %+v", more)
	}
	if after := w.view(id); after.Seen != before.Seen || after.Version != before.Version {
		t.Error("trying changed the quad")
	}
	for _, ask := range []app.WhatIfAsk{{}, {Cells: 4, Parts: []app.WhatIfPart{{Kind: catalogue.Pack, Name: "no.pack"}}}, {Cells: -4, Parts: []app.WhatIfPart{{Kind: catalogue.Pack, Name: "1 cell 450 mAh"}}}} {
		if _, err := w.WhatIf(t.Context(), id, ask); err == nil {
			t.Errorf("%+v is tried", ask)
		}
	}
}

// Figures of a stand are taken as one act, with their band, and undone as one; a table that cannot be takes nothing.
func TestStandIsKeptAsOneAct(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	text := "turns,push (g),gas (%),draw (A),at (V)\n8000,82,20,1.1,24\n15600,312,40,6.4,23.9\n22800,668,60,19.5,23.6\n29000,1080,80,39,23.1\n33500,1440,100,66,22.4\n"
	columns := []string{"rpm", "thrust", "duty", "amps", "volts"}
	if v, err := w.Stand(t.Context(), id, app.StandAsk{Text: text}); err == nil && v.Stand != nil {
		t.Error("columns that nobody said, and nobody could guess, are read")
	}
	v, err := w.KeepStand(t.Context(), id, w.view(id).Version, app.StandAsk{Text: text, Columns: columns})
	if err != nil {
		t.Fatal(err)
	}
	thrust := v.Meant.Parts.Propeller.Thrust
	if thrust < 0.13 || thrust > 0.15 || len(v.Meant.Parts.Estimates) < 2 || v.Meant.Parts.Estimates[0].By != quad.ByStand {
		t.Errorf("thrust %g, %+v", thrust, v.Meant.Parts.Estimates)
	}
	if again, err := w.Stand(t.Context(), id, app.StandAsk{Text: text}); err != nil || !again.Known || again.Stand == nil {
		t.Errorf("the same heads are not known again: %+v, %v", again, err)
	}
	c := figures(w, id, w.Curves)
	if len(c.Estimated) < 2 || c.Curves[0].Hover.MostDuty <= c.Curves[0].Hover.LeastDuty || !strings.Contains(c.Estimated[0], "by a thrust stand") {
		t.Errorf("%v", c.Estimated)
	}
	if v, err = w.Undo(t.Context(), id, v.Version); err != nil || v.Meant.Parts.Propeller.Thrust != 0.18 || len(v.Meant.Parts.Estimates) != 0 {
		t.Errorf("undone: %+v, %v", v.Meant.Parts.Propeller, err)
	}
	if _, err := w.KeepStand(t.Context(), id, v.Version, app.StandAsk{Text: strings.ReplaceAll(text, "push (g)", "push"), Columns: columns}); err == nil || !strings.Contains(err.Error(), "in grams") {
		t.Errorf("grams that nobody said: %v", err)
	}
}

// A hover that was measured corrects the propeller, and then agrees with it.
func TestHoverCorrectsThePropeller(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	if _, err := w.TakeHover(t.Context(), id, w.view(id).Version); err == nil {
		t.Error("a hover that nobody measured is taken")
	}
	if _, err := w.Told(t.Context(), id, "readings.firstFlight.hover", json.RawMessage(`{"stick":48,"volts":22.6,"pack":"grey"}`)); err != nil {
		t.Fatal(err)
	}
	said := func() bool {
		for _, f := range w.view(id).Line[check.Airframe.Number()-1].Findings {
			if f.Rule == "airframe.hover-agrees" {
				return true
			}
		}
		return false
	}
	if !said() {
		t.Error("a hover far over what the parts say is no finding")
	}
	c := figures(w, id, w.Curves)
	if c.Corrected == nil || c.Corrected.Told.Value >= 0.18 || c.Corrected.Told.Low >= c.Corrected.Told.High {
		t.Fatalf("%+v", c.Corrected)
	}
	v, err := w.TakeHover(t.Context(), id, w.view(id).Version)
	if err != nil {
		t.Fatal(err)
	}
	if said() || v.Meant.Parts.Estimates[0].By != quad.ByHover {
		t.Errorf("taken, it still disagrees: %+v", v.Meant.Parts.Propeller)
	}
	if w.state(id, check.Airframe) == proof.Proven {
		t.Error("the airframe's proof stands on a propeller that is another now")
	}
}

// Things are tried elsewhere without being put there; capacitors side by side hold what one does not; what cannot be is refused at its place.
func TestApartAndLeadAreTried(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	is, err := w.Apart(t.Context(), id, nil)
	if err != nil {
		t.Fatal(err)
	}
	if is.Tilted == nil || is.Centre == nil || is.Measured == nil || is.Camera == nil || is.Camera.Speed <= 0 || len(is.Offers) != 0 {
		t.Fatalf("%+v", is)
	}
	if by, _ := w.view(id).Meant.Parts.BalanceHeaviest(); *is.Centre != by || *is.Measured == by {
		t.Errorf("by its parts it balances at %+v, measured %+v; the parts say %+v", *is.Centre, *is.Measured, by)
	}
	placed := map[string]quad.Thing{}
	for name, x := range is.Placed {
		placed[name] = x
	}
	pack := placed["pack"]
	pack.Ahead = -60
	placed["pack"] = pack
	tried, err := w.Apart(t.Context(), id, placed)
	if err != nil {
		t.Fatal(err)
	}
	if tried.Tilted.Share[2] < 30 || tried.Tilted.Costs <= is.Tilted.Costs {
		t.Errorf("the pack 60 mm behind: %+v", tried.Tilted)
	}
	if v := w.view(id); v.Meant.Parts.Placed["pack"].Ahead != 0 {
		t.Error("what was tried is kept")
	}
	one := quad.Capacitor{Capacitance: 220, Resistance: 18, Rating: 35, LeadLength: 9}
	alone, err := w.Lead(t.Context(), id, &one)
	if err != nil {
		t.Fatal(err)
	}
	one.Count = 4
	four, err := w.Lead(t.Context(), id, &one)
	if err != nil {
		t.Fatal(err)
	}
	if a, b := alone.Packs[0], four.Packs[0]; a.Needs != 0 || b.Bound > b.Allowed || b.Peak >= a.Peak || len(b.Curve) < 100 {
		t.Errorf("alone %+v, four %+v", a.Bound, b.Bound)
	}
	one.Capacitance = 1e9
	if _, err := w.Lead(t.Context(), id, &one); quad.AsFault(err) == nil || quad.AsFault(err).Place != "parts.capacitor.capacitance" {
		t.Errorf("a kilofarad: %v", err)
	}
	found, err := w.SearchParts(t.Context(), id, choice.Wish{Minutes: 12})
	if err != nil || found.Tried < 20000 || !found.Front[0].Meets {
		t.Errorf("%+v, %v", found.Front[:1], err)
	}
}
