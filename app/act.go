package app

import (
	"context"
	"encoding/json"
	"slices"
	"strings"

	"vividperch/core/book"
	"vividperch/core/check"
	"vividperch/core/proof"
	"vividperch/core/quad"
)

// Type keeps a reading that the pilot took by himself.
func (a *App) Type(ctx context.Context, id int64, path quad.Path, value json.RawMessage) (*QuadView, error) {
	if path == modelReading {
		return nil, quad.Faultf("not-typed", string(path), "a rehearsal is flown in the model, not typed")
	}
	raw, err := quad.Typed(path, value)
	if err != nil {
		return nil, err
	}
	if err := quad.Admit(path, raw); err != nil {
		return nil, err
	}
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	if raw, err = a.propellers(ctx, o, path, raw); err != nil {
		return nil, err
	}
	mark, err := a.typedMark(o, path, raw)
	if err != nil {
		return nil, err
	}
	if err := a.keepWith(ctx, id, "typed reading", mark, newReading{path: path, value: raw, origin: quad.OriginTyped}); err != nil {
		return nil, err
	}
	return a.Quad(ctx, id)
}

type newReading struct {
	path   quad.Path
	value  json.RawMessage
	origin quad.Origin
	bench  bool
	input  string
}

// keepReadings writes readings, with more entries beside them, in one act.
func (a *App) keepReadings(ctx context.Context, id int64, why string, list ...newReading) error {
	return a.keepWith(ctx, id, why, nil, list...)
}

func (a *App) keepWith(ctx context.Context, id int64, why string, more []book.Entry, list ...newReading) error {
	o, err := a.open(ctx, id)
	if err != nil {
		return err
	}
	c := book.Change{Entries: more}
	revision, err := a.settle(o, &c, "before a "+why)
	if err != nil {
		return err
	}
	for _, r := range list {
		e, err := a.readingEntry(r, revision)
		if err != nil {
			return err
		}
		c.Entries = append(c.Entries, e)
	}
	return a.write(ctx, id, c)
}

func (a *App) readingEntry(r newReading, revision int) (book.Entry, error) {
	if err := quad.Admit(r.path, r.value); err != nil {
		return book.Entry{}, err
	}
	return a.entry(book.KindReading, string(r.path), map[string]any{
		"value": r.value, "origin": r.origin, "bench": r.bench, "input": r.input, "at": a.now(), "revision": revision,
	})
}

// asSeen refuses an act on a quad that has changed since the pilot saw it, before anything that stands against
// the act is told. The store looks once more as it writes.
func (o *opened) asSeen(seen string) error {
	if seen != "" && seen != o.file.Seen() {
		return book.ErrChanged
	}
	return nil
}

// Sign a station's proof. seen is what the pilot saw who signs: if anything has changed since, it is refused, so
// that nobody answers for what he did not see. Empty is whatever stands.
func (a *App) Sign(ctx context.Context, id int64, station check.Station, seen string) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	if err := o.asSeen(seen); err != nil {
		return nil, err
	}
	n := station.Number()
	if n == 0 {
		return nil, quad.Faultf("no-station", string(station), "there is no such station")
	}
	if err := proof.MaySign(a.standings(o)[n-1]); err != nil {
		return nil, err
	}
	c := book.Change{Seen: seen}
	revision, err := a.settle(o, &c, "before signing "+station.Info().Name)
	if err != nil {
		return nil, err
	}
	e, err := a.entry(book.KindSignature, string(station), proof.Sign(station, o.known, a.now(), a.who, revision))
	if err != nil {
		return nil, err
	}
	c.Entries = []book.Entry{e}
	return a.draft(ctx, id, c)
}

// Accept a fix that stands, with the reason; no reason takes an acceptance back.
func (a *App) Accept(ctx context.Context, id int64, rule, subject, reason string) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	f, err := a.finding(o, rule, subject)
	if err != nil {
		return nil, err
	}
	acceptance := proof.Acceptance{Rule: rule, Subject: subject, Title: f.Title, By: a.who, At: a.now()}
	if f.Accepted == nil || reason != "" {
		if acceptance, err = proof.Accept(f.Finding, o.known, a.now(), a.who, reason); err != nil {
			return nil, err
		}
	}
	e, err := a.entry(book.KindAcceptance, rule+" "+quad.HashValue(subject), acceptance)
	if err != nil {
		return nil, err
	}
	return a.draft(ctx, id, book.Change{Entries: []book.Entry{e}})
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

// ReleaseFor gives a release for today at a site, or says what stands against it. seen is as for Sign.
func (a *App) ReleaseFor(ctx context.Context, id int64, scope proof.Scope, site, seen string) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	if err := o.asSeen(seen); err != nil {
		return nil, err
	}
	if strings.TrimSpace(site) == "" {
		return nil, quad.Faultf("no-site", "site", "say where; a release is for one site and day")
	}
	if err := proof.MayRelease(scope, a.standings(o)); err != nil {
		return nil, err
	}
	e, err := a.entry(book.KindRelease, string(scope), Release{Scope: scope, Site: site, By: a.who, At: a.now(), Until: proof.Midnight(a.now())})
	if err != nil {
		return nil, err
	}
	return a.draft(ctx, id, book.Change{Seen: seen, Entries: []book.Entry{e}})
}

// Fly notes a flight in the book.
func (a *App) Fly(ctx context.Context, id int64, f Flight) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
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
