package app

import (
	"context"
	"encoding/json"

	"vividperch/core/book"
	"vividperch/core/quad"
)

// savedList is the reading that comes with the list itself; no pilot types it.
const savedList = quad.Path("readings.firmware.backup")

// Type keeps a reading that the pilot took by himself.
func (a *App) Type(ctx context.Context, id int64, path quad.Path, value json.RawMessage) (*QuadView, error) {
	switch path {
	case modelReading:
		return nil, quad.Faultf("not-typed", string(path), "a rehearsal is flown in the model, not typed")
	case savedList:
		return nil, quad.Faultf("not-typed", string(path), "bring its list in at Firmware: it is saved with that")
	}
	return a.Told(ctx, id, path, value)
}

// Told keeps a reading that somebody else's record tells of, as a file of the demo world does.
func (a *App) Told(ctx context.Context, id int64, path quad.Path, value json.RawMessage) (*QuadView, error) {
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
