package app_test

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"testing"
	"time"

	"vividperch/app"
	"vividperch/core/book"
	"vividperch/core/check"
	"vividperch/core/proof"
	"vividperch/core/quad"
	"vividperch/demo/worldtest"
)

// counter is a keeper that notes which quads were opened.
type counter struct {
	app.Keeper
	opened chan int64
}

func (c *counter) Load(ctx context.Context, pilot, id int64) (book.File, error) {
	c.opened <- id
	return c.Keeper.Load(ctx, pilot, id)
}

func (c *counter) drain() []int64 {
	var list []int64
	for len(c.opened) > 0 {
		list = append(list, <-c.opened)
	}
	slices.Sort(list)
	return list
}

// Only what a quad's judgement rests on makes the hangar judge it anew; and whatever it judged before, it shows what judging all of it afresh
// shows.
func TestHangarJudgesAnewWhatChanged(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	var ids []int64
	for _, name := range []string{"Dunlin", "Knot", "Ruff"} {
		id, err := w.keep.Bring(t.Context(), w.pilot, worldtest.Sound(t, name, w.now))
		if err != nil {
			t.Fatal(err)
		}
		ids = append(ids, id)
	}
	c := &counter{Keeper: w.keep, opened: make(chan int64, 1000)}
	looks := app.New(c, w.pilot, "a pilot", func() time.Time { return w.now })
	look := func(when string, want ...int64) *app.HangarView {
		t.Helper()
		v, err := looks.Hangar(t.Context())
		if err != nil {
			t.Fatal(err)
		}
		if got := c.drain(); !slices.Equal(got, want) {
			t.Errorf("%s it judged %v anew, want %v", when, got, want)
		}
		afresh, err := app.New(w.keep, w.pilot, "a pilot", func() time.Time { return w.now }).Hangar(t.Context())
		if err != nil {
			t.Fatal(err)
		}
		if a, b := fmt.Sprintf("%+v", v), fmt.Sprintf("%+v", afresh); a != b {
			t.Errorf("%s it shows\n%s\nand afresh\n%s", when, a, b)
		}
		return v
	}
	look("at first", ids...)
	look("with nothing changed")
	w.edit(ids[1], "sheet.motors.idle", "5")
	look("after an edit that concerns no other quad", ids[1])
	w.edit(ids[1], "sheet.motors.outputs.A.corner", `"rearLeft"`)
	stops := 0
	for _, p := range w.view(ids[1]).Line {
		stops += p.Stops
	}
	if q := look("after an edit that grounds it", ids[1]).Quads[1]; stops < 2 || q.State != app.Grounded || q.Says != fmt.Sprint(stops, " stops are open") {
		t.Errorf("%d stops: %s, %q", stops, q.State, q.Says)
	}
	w.edit(ids[2], "radio.number", "9")
	look("after an edit that a rule about others looks at", ids...)
	if _, err := w.Type(t.Context(), ids[0], "readings.airframe.weight", json.RawMessage("640")); err != nil {
		t.Fatal(err)
	}
	look("after a reading", ids[0])
	if _, err := w.Fly(t.Context(), ids[0], app.Flight{Site: "the dunes"}); err != nil {
		t.Fatal(err)
	}
	if v := look("after a flight", ids[0]); v.Quads[0].Flights != 1 || v.Quads[1].Flights != 0 {
		t.Errorf("flights %+v", v.Quads)
	}
	pilot, err := w.Pilot(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	if _, err := w.SetLimit(t.Context(), pilot.Version, "tipSpeed", json.RawMessage(`{"value":"0.5","reason":"neighbours"}`)); err != nil {
		t.Fatal(err)
	}
	look("after the pilot's own limit moved", ids...)
	w.now = time.Date(2026, 5, 5, 0, 0, 0, 0, time.UTC).Add(-time.Second)
	look("a second before midnight")
	w.now = w.now.Add(time.Second)
	look("at midnight", ids...)
}

// A release that ends in the middle of a day, as one that came in an archive may, does not stand in the hangar any longer than it stands.
func TestHangarLetsAReleaseEnd(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.signed()
	until := w.now.Add(time.Hour)
	e := worldtest.Entry(t, book.KindRelease, string(proof.Hover), w.now, app.Release{Scope: proof.Hover, Site: "the dunes", By: "a pilot", At: w.now, Until: until})
	if _, _, err := w.keep.Act(t.Context(), w.pilot, id, book.Change{Entries: []book.Entry{e}}); err != nil {
		t.Fatal(err)
	}
	state := func() app.FlightState {
		v, err := w.Hangar(t.Context())
		if err != nil {
			t.Fatal(err)
		}
		return v.Quads[0].State
	}
	if s := state(); s != app.Released {
		t.Fatalf("it is %s", s)
	}
	w.now = until
	if s := state(); s == app.Released {
		t.Error("the release outlived its end")
	}
}

// What gathers is turned page by page: nothing is lost, nothing comes twice, and it ends.
func TestPagesLoseNothing(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	whole := worldtest.Sound(t, "Dunlin", w.now)
	const many = 60
	for i := range many {
		whole.Entries = append(whole.Entries,
			worldtest.Entry(t, book.KindFlight, "flight", w.now, app.Flight{Site: "the dunes", Minutes: float64(i)}),
			worldtest.Entry(t, book.KindEvent, "crash", w.now, check.Happened{Event: check.Crash, At: w.now, Note: fmt.Sprint(i)}))
	}
	first := whole.Revisions[0]
	for whole.Head < many {
		m, err := quad.ReadMeant(first.Body)
		if err != nil {
			t.Fatal(err)
		}
		whole.Head++
		m.Sheet.Motors.Idle = float64(whole.Head) / 10
		r := first
		if r.Body, err = quad.Canonical(m); err != nil {
			t.Fatal(err)
		}
		r.Number = whole.Head
		whole.Revisions = append(whole.Revisions, r)
	}
	id, err := w.keep.Bring(t.Context(), w.pilot, whole)
	if err != nil {
		t.Fatal(err)
	}
	turn := func(what string, page func(before int64) (notes []string, last int64, more bool)) {
		t.Helper()
		var all []string
		for before, more := int64(0), true; more; {
			notes, last, again := page(before)
			if all = append(all, notes...); len(all) > many {
				break
			}
			before, more = last, again
		}
		for i, n := range all {
			if want := fmt.Sprint(many - 1 - i); n != want {
				t.Errorf("%s: %s stands where %s belongs", what, n, want)
			}
		}
		if len(all) != many {
			t.Errorf("%s: %d of %d", what, len(all), many)
		}
	}
	turn("flights", func(before int64) (notes []string, last int64, more bool) {
		v, err := w.Flights(t.Context(), id, before)
		if err != nil {
			t.Fatal(err)
		}
		for _, f := range v.Flights {
			notes, last = append(notes, fmt.Sprint(f.Minutes)), f.ID
		}
		return notes, last, v.More
	})
	turn("events", func(before int64) (notes []string, last int64, more bool) {
		v, err := w.Events(t.Context(), id, before)
		if err != nil {
			t.Fatal(err)
		}
		for _, e := range v.Events {
			notes, last = append(notes, e.Note), e.ID
		}
		return notes, last, v.More
	})
	turn("revisions", func(before int64) (notes []string, last int64, more bool) {
		v, err := w.Revisions(t.Context(), id, int(before))
		if err != nil {
			t.Fatal(err)
		}
		for _, r := range v.Revisions {
			// Each but the first says what it changed, the last of a page too.
			if len(r.Words) != min(1, r.Number-1) {
				t.Errorf("revision %d: %q", r.Number, r.Words)
			}
			notes, last = append(notes, fmt.Sprint(r.Number-1)), int64(r.Number)
		}
		return notes, last, v.More
	})
	// The newest crash is what readings fall by, however many there were.
	if v := w.view(id); v.Line[check.Airframe.Number()-1].State == proof.Proven {
		t.Error("proven over a crash")
	}
}
