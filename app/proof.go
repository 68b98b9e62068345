package app

import (
	"context"

	"vividperch/core/book"
	"vividperch/core/check"
	"vividperch/core/proof"
	"vividperch/core/quad"
)

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
