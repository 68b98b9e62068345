package app

import (
	"context"
	"encoding/json"
	"slices"

	"vividperch/core/book"
	"vividperch/core/quad"
)

// savedList is the reading that comes with the list itself; no pilot types it.
const savedList = quad.Path("readings.firmware.backup")

// Type keeps a reading that the pilot took by himself.
func (a *App) Type(ctx context.Context, id int64, path quad.Path, value json.RawMessage) (*QuadView, error) {
	return a.TypeAll(ctx, id, []SetValue{{Path: path, Value: value}})
}

// mostTyped readings are kept at a time.
const mostTyped = 100

// TypeAll keeps several readings as typed by hand, in one act: all of them or none. The Fault names the place of the one that cannot be.
func (a *App) TypeAll(ctx context.Context, id int64, values []SetValue) (*QuadView, error) {
	if len(values) == 0 || len(values) > mostTyped {
		return nil, quad.Faultf("no-reading", "", "type from 1 to %d readings at a time", mostTyped)
	}
	for _, v := range values {
		switch v.Path {
		case modelReading:
			return nil, quad.Faultf("not-typed", string(v.Path), "a rehearsal is flown in the model, not typed")
		case lineReading:
			return nil, quad.Faultf("not-typed", string(v.Path), "losses along a line are flown in the model, not typed")
		case savedList:
			return nil, quad.Faultf("not-typed", string(v.Path), "bring its list in at Firmware: it is saved with that")
		}
	}
	return a.told(ctx, id, values)
}

// Told keeps a reading that somebody else's record tells of, as a file of the demo world does.
func (a *App) Told(ctx context.Context, id int64, path quad.Path, value json.RawMessage) (*QuadView, error) {
	return a.told(ctx, id, []SetValue{{Path: path, Value: value}})
}

func (a *App) told(ctx context.Context, id int64, values []SetValue) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	var marks []book.Entry
	list := make([]newReading, len(values))
	for i, v := range values {
		raw, err := quad.Typed(v.Path, v.Value)
		if err != nil {
			return nil, err
		}
		if slices.ContainsFunc(list[:i], func(r newReading) bool { return r.path == v.Path }) {
			return nil, quad.Faultf("twice", string(v.Path), "is typed twice")
		}
		if err := quad.Admit(v.Path, raw); err != nil {
			return nil, err
		}
		if raw, err = a.propellers(ctx, o, v.Path, raw); err != nil {
			return nil, err
		}
		mark, err := a.typedMark(o, v.Path, raw)
		if err != nil {
			return nil, err
		}
		marks = append(marks, mark...)
		list[i] = newReading{path: v.Path, value: raw, origin: quad.OriginTyped}
	}
	if err := a.keepWith(ctx, id, "typed reading", marks, list...); err != nil {
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
