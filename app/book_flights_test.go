package app_test

import (
	"testing"
	"time"

	"vividperch/app"
	"vividperch/core/quad"
)

// A flight of today is told anew, or struck; what it was flown under and when stays, and the day after nothing is changed any more.
func TestAFlightOfTodayIsCorrectedUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	pack := quad.SortedKeys(w.view(id).Meant.Parts.Packs)[0]
	drawn := 900.0
	fly := func(minutes float64) {
		t.Helper()
		w.later()
		if _, err := w.Fly(t.Context(), id, app.Flight{Site: "the meadow", Pack: pack, Minutes: minutes, Drawn: &drawn}); err != nil {
			t.Fatal(err)
		}
	}
	fly(4)
	fly(5)
	flights := func() []app.FlightView {
		t.Helper()
		p, err := w.Flights(t.Context(), id, 0)
		if err != nil {
			t.Fatal(err)
		}
		return p.Flights
	}
	before := flights()
	first := before[1]
	correct := func(f app.Flight, struck bool, why string) error {
		_, err := w.CorrectFlight(t.Context(), id, first.ID, f, struck, why)
		return err
	}
	tooMuch := 90_000.0
	for _, c := range []struct {
		f    app.Flight
		why  string
		want string
	}{
		{app.Flight{Site: "the dyke", Pack: pack, Minutes: 4.5}, " ", "no-reason"},
		{app.Flight{Site: "the dyke", Pack: pack, Minutes: 4.5, Drawn: &tooMuch}, "read wrongly", "too-much"},
	} {
		if err := correct(c.f, false, c.why); code(err) != c.want {
			t.Errorf("%+v: %v, wanted %s", c.f, err, c.want)
		}
	}
	if _, err := w.CorrectFlight(t.Context(), id, 1<<40, app.Flight{}, false, "which?"); code(err) != "no-entry" {
		t.Errorf("a flight that is none: %v", err)
	}
	if err := correct(app.Flight{Site: "the dyke", Pack: pack, Minutes: 4.5, Scope: "hover", At: firstDay.Add(-time.Hour)}, false, "wrong site"); err != nil {
		t.Fatal(err)
	}
	got := flights()
	if c := got[1]; c.Site != "the dyke" || c.Minutes != 4.5 || c.Drawn != nil || c.Scope != first.Scope || !c.At.Equal(first.At) || c.Corrected == nil || c.Corrected.Why != "wrong site" || !c.Open {
		t.Errorf("%+v", c)
	}
	if got[0] != before[0] && (got[0].Minutes != 5 || got[0].Corrected != nil) {
		t.Errorf("the other one changed: %+v", got[0])
	}
	if err := correct(app.Flight{}, true, "it was Turnstone"); err != nil {
		t.Fatal(err)
	}
	if c := flights()[1]; !c.Struck || c.Minutes != 4 || c.Corrected.Why != "it was Turnstone" {
		t.Errorf("%+v", c)
	}
	other, err := w.Import(t.Context(), w.archive(id, false), "Dunlin from elsewhere")
	if err != nil {
		t.Fatal(err)
	}
	if p, err := w.Flights(t.Context(), other, 0); err != nil || len(p.Flights) != 2 || !p.Flights[1].Struck {
		t.Errorf("the archive lost it: %+v, %v", p, err)
	}
	w.now = w.now.Add(24 * time.Hour)
	if err := correct(app.Flight{Site: "the dyke", Pack: pack, Minutes: 3}, false, "later"); code(err) != "not-today" || flights()[1].Open {
		t.Errorf("the day after: %v", err)
	}
}
