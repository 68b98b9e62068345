// Package worldtest makes whole quads for tests, as they would be kept.
package worldtest

import (
	"encoding/json"
	"testing"
	"time"

	"vividperch/core/book"
	"vividperch/core/quad"
	"vividperch/demo"
)

// Sound is the sound Dunlin under some name with everything read at a time, so that any station can be signed.
func Sound(t testing.TB, name string, at time.Time) book.Whole {
	t.Helper()
	k, err := demo.Sound(at)
	if err != nil {
		t.Fatal(err)
	}
	return Whole(t, name, k, at)
}

// Demo quad of a name as it is known once its list is read.
func Demo(t testing.TB, name string) quad.Known {
	t.Helper()
	q, err := demo.Load(name)
	if err != nil {
		t.Fatal(err)
	}
	k, err := q.Known(time.Now())
	if err != nil {
		t.Fatal(err)
	}
	return k
}

// Whole quad of which all that is known was read at a time.
func Whole(t testing.TB, name string, k quad.Known, at time.Time) book.Whole {
	t.Helper()
	body, err := quad.Canonical(k.Meant())
	if err != nil {
		t.Fatal(err)
	}
	whole := book.Whole{Quad: book.Quad{Name: name, Head: 1}, Made: at, Revisions: []book.Revision{{Number: 1, Body: body, Why: "made", Who: "a pilot", At: at}}}
	for _, l := range quad.Leaves(k.Readings, "readings") {
		whole.Entries = append(whole.Entries, Entry(t, book.KindReading, string(l.Path), at, map[string]any{"value": l.Value, "origin": l.From, "at": at, "revision": 1}))
	}
	is := k.Board.Is()
	board := map[string]any{"target": is.Target, "line": is.Line, "version": is.Version, "serial": is.Serial, "settings": k.Board.Settings}
	whole.Entries = append(whole.Entries, Entry(t, book.KindBoard, "board", at, board))
	return whole
}

// Entry of a kind.
func Entry(t testing.TB, kind, name string, at time.Time, value any) book.Entry {
	t.Helper()
	raw, err := json.Marshal(value)
	if err != nil {
		t.Fatal(err)
	}
	return book.Entry{Kind: kind, Name: name, Body: raw, At: at}
}
