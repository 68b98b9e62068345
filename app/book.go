package app

import (
	"context"
	"encoding/json"
	"slices"
	"time"

	"vividperch/core/book"
	"vividperch/core/check"
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

// FlightView is one flight with its number in the book.
type FlightView struct {
	ID int64 `json:"id"`
	Flight
}

// Flights of a quad before the one of that number, newest first; before 0 stands for the newest.
func (a *App) Flights(ctx context.Context, id, before int64) (*FlightsPage, error) {
	list, err := a.keep.Entries(ctx, a.pilot, id, book.KindFlight, before, pageLength+1)
	if err != nil {
		return nil, err
	}
	list, more := page(list)
	v := &FlightsPage{Flights: make([]FlightView, len(list)), More: more}
	for i, e := range list {
		if err := json.Unmarshal(e.Body, &v.Flights[i].Flight); err != nil {
			return nil, err
		}
		v.Flights[i].ID = e.ID
	}
	return v, nil
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
}

// Events that happened to a quad, as Flights.
func (a *App) Events(ctx context.Context, id, before int64) (*EventsPage, error) {
	list, err := a.keep.Entries(ctx, a.pilot, id, book.KindEvent, before, pageLength+1)
	if err != nil {
		return nil, err
	}
	list, more := page(list)
	v := &EventsPage{Events: make([]HappenedView, len(list)), More: more}
	for i, e := range list {
		if err := json.Unmarshal(e.Body, &v.Events[i].Happened); err != nil {
			return nil, err
		}
		v.Events[i].ID = e.ID
	}
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
