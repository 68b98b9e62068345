package app

import (
	"cmp"
	"context"
	"encoding/json"
	"slices"
	"strings"
	"time"

	"vividperch/core/book"
	"vividperch/core/check"
	"vividperch/core/proof"
	"vividperch/core/quad"
)

// Flight as the book has it. What nobody told of it is left out.
type Flight struct {
	At      time.Time `json:"at"`
	Site    string    `json:"site"`
	Pack    string    `json:"pack"`
	Minutes float64   `json:"minutes" unit:"min" minimum:"0" maximum:"600"`
	Drawn   *float64  `json:"drawn,omitempty" unit:"mAh" minimum:"0" maximum:"100000"`
	Lowest  *float64  `json:"lowest,omitempty" unit:"V" minimum:"0" maximum:"100"`
	Notes   string    `json:"notes"`
	Scope   string    `json:"scope"` // of the release it was flown under, or none
}

// pageLength is how much of what gathers is shown at a time.
const pageLength = 25

// page of a list that gathers, newest first, and whether there is more of it before.
func page[T any](list []T) (shown []T, more bool) {
	if len(list) > pageLength {
		return list[:pageLength], true
	}
	return nonNil(list), false
}

// FlightsPage is a page of the flights, newest first.
type FlightsPage struct {
	Flights []FlightView `json:"flights"`
	More    bool         `json:"more"` // there are flights before these
}

// FlightView is one flight with its number in the book, as it was corrected last.
type FlightView struct {
	ID int64 `json:"id"`
	Flight
	Corrected *WithdrawnView `json:"corrected"` // when, by whom and why it was corrected last
	Struck    bool           `json:"struck"`    // it was no flight of this quad; it stays to be seen
	Open      bool           `json:"open"`      // it is of today, and may be corrected
}

// correction of a flight, as it is kept.
type correction struct {
	Flight Flight    `json:"flight"`
	Struck bool      `json:"struck"`
	Why    string    `json:"why"`
	By     string    `json:"by"`
	At     time.Time `json:"at"`
}

// flightName names a flight among the corrections.
func flightName(f Flight) string { return f.At.UTC().Format(time.RFC3339Nano) }

// Flights of a quad before the one of that number, newest first; before 0 stands for the newest.
func (a *App) Flights(ctx context.Context, id, before int64) (*FlightsPage, error) {
	list, err := a.keep.Entries(ctx, a.pilot, id, book.KindFlight, before, pageLength+1)
	if err != nil {
		return nil, err
	}
	list, more := page(list)
	v := &FlightsPage{Flights: make([]FlightView, len(list)), More: more}
	names := make([]string, len(list))
	for i, e := range list {
		if err := json.Unmarshal(e.Body, &v.Flights[i].Flight); err != nil {
			return nil, err
		}
		v.Flights[i].ID, v.Flights[i].Open = e.ID, a.ofToday(v.Flights[i].Flight)
		names[i] = flightName(v.Flights[i].Flight)
	}
	corrected, err := a.keep.NewestNamed(ctx, a.pilot, id, book.KindCorrection, names)
	if err != nil {
		return nil, err
	}
	for _, e := range corrected {
		var c correction
		if err := json.Unmarshal(e.Body, &c); err != nil {
			return nil, err
		}
		i := slices.Index(names, e.Name)
		v.Flights[i].Flight, v.Flights[i].Struck = c.Flight, c.Struck
		v.Flights[i].Corrected = &WithdrawnView{c.Why, c.By, c.At}
	}
	return v, nil
}

func (a *App) ofToday(f Flight) bool {
	return a.now().Before(proof.Midnight(f.At.In(a.now().Location())))
}

// CorrectFlight puts another account of a flight of today in the place of the one in the book, or strikes it. What was noted first is kept.
func (a *App) CorrectFlight(ctx context.Context, id, flight int64, f Flight, struck bool, why string) (*QuadView, error) {
	why = strings.TrimSpace(why)
	if why == "" || quad.Longer(why, 200) {
		return nil, quad.Faultf("no-reason", "why", "say in up to 200 characters what was wrong")
	}
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	e, err := a.keep.Entry(ctx, a.pilot, id, flight)
	if err != nil {
		return nil, err
	}
	if e.Kind != book.KindFlight {
		return nil, book.ErrNoEntry
	}
	var was Flight
	if err := json.Unmarshal(e.Body, &was); err != nil {
		return nil, err
	}
	if !a.ofToday(was) {
		return nil, quad.Faultf("not-today", "", "a flight is corrected on its own day; write what you know now beside the next one")
	}
	if struck {
		f = was
	}
	if err := book.Believable(o.known.Parts.Packs[f.Pack], f.Drawn, f.Lowest); err != nil {
		return nil, err
	}
	f.At, f.Scope = was.At, was.Scope
	c, err := a.entry(book.KindCorrection, flightName(was), correction{Flight: f, Struck: struck, Why: why, By: a.who, At: a.now()})
	if err != nil {
		return nil, err
	}
	return a.draft(ctx, id, book.Change{Entries: []book.Entry{c}})
}

// EventsPage is a page of what happened to a quad, newest first.
type EventsPage struct {
	Events []HappenedView `json:"events"`
	More   bool           `json:"more"`
}

// HappenedView is one thing that happened.
type HappenedView struct {
	ID int64 `json:"id"`
	check.Happened
	Withdrawn *WithdrawnView `json:"withdrawn"`
	Counts    bool           `json:"counts"` // it is the newest of its kind that stands: it can be withdrawn
}

// Events that happened to a quad, as Flights.
func (a *App) Events(ctx context.Context, id, before int64) (*EventsPage, error) {
	list, err := a.keep.Entries(ctx, a.pilot, id, book.KindEvent, before, pageLength+1)
	if err != nil {
		return nil, err
	}
	list, more := page(list)
	byName := map[string][]book.Entry{}
	for _, e := range list {
		byName[e.Name] = append(byName[e.Name], e)
	}
	v := &EventsPage{Events: []HappenedView{}, More: more}
	for _, name := range quad.SortedKeys(byName) {
		past, err := book.History(byName[name])
		if err != nil {
			return nil, err
		}
		stands := before == 0 // the newest of a kind may be on a page before this one
		for _, p := range past {
			h := HappenedView{ID: p.ID, Withdrawn: withdrawnView(p.Withdrawn)}
			if err := json.Unmarshal(p.Body, &h.Happened); err != nil {
				return nil, err
			}
			if h.Withdrawn == nil {
				h.Counts, stands = stands && h.Event != check.NewBoard, false
			}
			v.Events = append(v.Events, h)
		}
	}
	slices.SortFunc(v.Events, func(x, y HappenedView) int { return cmp.Compare(y.ID, x.ID) })
	return v, nil
}

// Note an event that makes readings void.
func (a *App) Note(ctx context.Context, id int64, event check.Event, note string) (*QuadView, error) {
	if !slices.Contains(check.Events, event) { // another board is noted by adopting it
		return nil, quad.Faultf("no-event", string(event), "there is no such event")
	}
	e, err := a.entry(book.KindEvent, string(event), check.Happened{Event: event, At: a.now(), Note: note})
	if err != nil {
		return nil, err
	}
	return a.draft(ctx, id, book.Change{Entries: []book.Entry{e}})
}

// Fly notes a flight in the book.
func (a *App) Fly(ctx context.Context, id int64, f Flight) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	if err := book.Believable(o.known.Parts.Packs[f.Pack], f.Drawn, f.Lowest); err != nil {
		return nil, err
	}
	f.At, f.Scope = a.now(), "none"
	if r := a.standing(o, a.standings(o)); r != nil {
		f.Scope = string(r.Scope)
	}
	e, err := a.entry(book.KindFlight, "flight", f)
	if err != nil {
		return nil, err
	}
	return a.draft(ctx, id, book.Change{Entries: []book.Entry{e}})
}
