package app_test

import (
	"context"
	"encoding/json"
	"testing"
	"time"

	"vividperch/app"
	"vividperch/core/book"
	"vividperch/core/check"
	"vividperch/core/proof"
	"vividperch/core/quad"
	"vividperch/demo/worldtest"
)

// meddler is a keeper that lets another act in between the load of one act and its write.
type meddler struct {
	app.Keeper
	between func()
}

func (m *meddler) Act(ctx context.Context, pilot, id int64, c book.Change) (int64, int, error) {
	if f := m.between; f != nil {
		m.between = nil
		f()
	}
	return m.Keeper.Act(ctx, pilot, id, c)
}

// ready brings a quad in on which everything is read, so that any station can be signed.
func (w *world) ready() int64 {
	w.t.Helper()
	id, err := w.keep.Bring(w.t.Context(), w.pilot, worldtest.Sound(w.t, "Dunlin", w.now))
	if err != nil {
		w.t.Fatal(err)
	}
	return id
}

// signed brings the same quad in, keeps its rehearsal and signs every station, so that it can be released.
func (w *world) signed() int64 {
	w.t.Helper()
	id := w.ready()
	if _, err := w.KeepRehearsal(w.t.Context(), id); err != nil {
		w.t.Fatal(err)
	}
	for _, info := range check.Line {
		if w.view(id).Line[info.ID.Number()-1].MaySign {
			if _, err := w.Sign(w.t.Context(), id, info.ID, ""); err != nil {
				w.t.Fatalf("%s: %v", info.Name, err)
			}
		}
	}
	return id
}

// Nobody answers for what he did not see: an act that comes in between the load and the write of a signature, a release or an adoption is
// told, and nothing is kept. Without meddling the same is kept.
func TestAnotherActInBetweenIsToldUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.ready()
	m := &meddler{Keeper: w.keep}
	mine := app.New(m, w.pilot, "a pilot", func() time.Time { return w.now })
	crash := func() {
		if _, err := w.Note(t.Context(), id, check.Repair, ""); err != nil {
			t.Error(err)
		}
	}
	if _, err := w.KeepRehearsal(t.Context(), id); err != nil {
		t.Fatal(err)
	}
	for _, info := range check.Line {
		if v := w.view(id); !v.Line[info.ID.Number()-1].MaySign {
			continue
		}
		if _, err := mine.Sign(t.Context(), id, info.ID, w.view(id).Seen); err != nil {
			t.Fatalf("%s: %v", info.Name, err)
		}
	}
	v := w.view(id)
	if v.Against != "" {
		t.Fatalf("not ready for a release: %s", v.Against)
	}
	m.between = crash
	if _, err := mine.ReleaseFor(t.Context(), id, proof.Hover, "Gravel field", v.Seen, nil); code(err) != "changed" {
		t.Errorf("a release over a repair that came in between: %v", err)
	}
	events, err := w.Events(t.Context(), id, 0)
	if v := w.view(id); v.Release != nil || err != nil || len(events.Events) != 1 {
		t.Errorf("released %+v with events %v, %v", v.Release, events, err)
	}
	m.between = crash
	if _, err := mine.Sign(t.Context(), id, check.Feel, w.view(id).Seen); code(err) != "changed" {
		t.Errorf("a signature over a repair that came in between: %v", err)
	}
}

// Signing on an edited draft makes the revision that the signature names, and the signature stands for what is in it.
func TestSignatureNamesTheRevisionItMadeUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.ready()
	w.edit(id, "sheet.feel.angleLimit", "45")
	if _, err := w.WriteBoard(t.Context(), id); code(err) != "no-bench" {
		t.Fatal(err)
	}
	w.edit(id, "parts.frame.name", `"Tern Six"`)
	v := w.view(id)
	station := check.Wiring
	if !v.Line[station.Number()-1].MaySign {
		t.Fatalf("%+v", v.Line[station.Number()-1].Standing)
	}
	after, err := w.Sign(t.Context(), id, station, v.Seen)
	if err != nil || after.Revision != 2 || len(after.Draft.Words) > 0 {
		t.Fatalf("revision %d, draft %v, %v", after.Revision, after.Draft.Words, err)
	}
	kept, err := w.keep.Entries(t.Context(), w.pilot, id, book.KindSignature, 0, 9)
	if err != nil || len(kept) != 1 {
		t.Fatalf("%v, %v", kept, err)
	}
	var s proof.Signature
	if err := json.Unmarshal(kept[0].Body, &s); err != nil || s.Revision != 2 || s.Station != station || s.By != "a pilot" || !s.At.Equal(w.now) {
		t.Errorf("signed %+v, %v", s, err)
	}
	r, err := w.keep.Revision(t.Context(), w.pilot, id, s.Revision)
	if err != nil {
		t.Fatal(err)
	}
	m, err := quad.ReadMeant(r.Body)
	if err != nil || m.Parts.Frame.Name != "Tern Six" || m.Sheet.Feel.AngleLimit != 45 || r.Why != "before signing Wiring" {
		t.Errorf("revision %d holds %q, %v, made %q, %v", r.Number, m.Parts.Frame.Name, m.Sheet.Feel.AngleLimit, r.Why, err)
	}
	if after.Line[station.Number()-1].State != proof.Proven {
		t.Errorf("signed, it is %s", after.Line[station.Number()-1].State)
	}
}
