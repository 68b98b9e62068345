package app_test

import (
	"encoding/json"
	"errors"
	"strings"
	"testing"

	"vividperch/core/book"
	"vividperch/core/quad"
	"vividperch/core/site"
)

// Today's line of a quad that stops its motors: more and more losses are asked for and what was flown before counts; it is kept as it comes out, on
// the card with its map, and the card says when it is not what it was kept with any more.
func TestTodaysLine(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.ready()
	ctx := t.Context()
	people := site.Area{Kind: site.People, Name: "path", Corners: []site.Offset{{East: 40, North: -50}, {East: 80, North: -50}, {East: 80, North: 50}, {East: 40, North: 50}}}
	m := site.Map{Areas: []site.Area{people}, Lines: []site.Line{{Name: "out", Points: []site.Offset{{}, {East: 100}}, Height: 20, Speed: 6}}}
	s, err := w.AddSite(ctx, " spit ", m)
	if err != nil || s.Name != "spit" {
		t.Fatalf("%+v, %v", s, err)
	}
	few, err := w.LineLosses(ctx, id, s.ID, "out", 90, 40)
	if err != nil || few.Flown != 40 || len(few.Losses) != 2 {
		t.Fatalf("%+v, %v", few, err)
	}
	more, err := w.LineLosses(ctx, id, s.ID, "out", 90, 20)
	if err != nil || more.Flown != 40 {
		t.Errorf("what was flown is forgotten: %d, %v", more.Flown, err)
	}
	for _, c := range []struct {
		site int64
		line string
		from float64
		code string
	}{{s.ID + 999, "out", 90, "no-site"}, {s.ID, "home", 90, "no-line"}, {s.ID, "out", 500, "no-direction"}} {
		if _, err := w.LineLosses(ctx, id, c.site, c.line, c.from, 10); quad.AsFault(err) == nil || quad.AsFault(err).Code != c.code {
			t.Errorf("%s: %v", c.code, err)
		}
	}
	set := w.view(id).Meant.Sheet.Loss.Policy
	whole, err := w.LineLosses(ctx, id, s.ID, "out", 90, 1000)
	if err != nil {
		t.Fatal(err)
	}
	why := ""
	if whole.Advice.Policy != set {
		if _, err := w.KeepLine(ctx, id, s.ID, "out", 90, ""); quad.AsFault(err) == nil || quad.AsFault(err).Code != "no-reason" {
			t.Errorf("kept against the advice without a reason: %v", err)
		}
		why = "it is cut off there"
	}
	if _, err := w.KeepLine(ctx, id, s.ID, "out", 90, why); err != nil {
		t.Fatal(err)
	}
	card, err := w.Card(ctx, id)
	if err != nil || card.Today == nil || card.Today.Old {
		t.Fatalf("%+v, %v", card.Today, err)
	}
	f := card.Today.Flown
	if f.Site != "spit" || f.Line != "out" || f.Losses != 1000 || f.Policy != set || f.Why != why || f.People < 30 || f.People > 50 || card.Today.Line.Height != 20 {
		t.Errorf("%+v", f)
	}
	if !strings.Contains(f.Words(), "1000 losses") {
		t.Error(f.Words())
	}
	if _, err := w.Type(ctx, id, "readings.loss.line", json.RawMessage(`{"site":"spit"}`)); quad.AsFault(err) == nil || quad.AsFault(err).Code != "not-typed" {
		t.Errorf("typed what the model gives: %v", err)
	}
	// The path is fenced off: the map is another, and the card says so.
	m.Areas = nil
	if _, err := w.ChangeSite(ctx, s.ID, s.Version, m); err != nil {
		t.Fatal(err)
	}
	if card, err = w.Card(ctx, id); err != nil || card.Today == nil || !card.Today.Old || card.Today.View.Losses[0].Share("people") != 0 {
		t.Errorf("%+v, %v", card.Today, err)
	}
	// Without its site there is nothing to print.
	if _, err := w.ForgetSite(ctx, s.ID, s.Version); !errors.Is(err, book.ErrSiteChanged) {
		t.Errorf("forgotten unseen: %v", err)
	}
	if left, err := w.ForgetSite(ctx, s.ID, s.Version+1); err != nil || len(left) != 0 {
		t.Errorf("%+v, %v", left, err)
	}
	if card, err = w.Card(ctx, id); err != nil || card.Today != nil {
		t.Errorf("%+v, %v", card.Today, err)
	}
}

func TestSitesThatCannotBe(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	ctx := t.Context()
	if _, err := w.AddSite(ctx, "  ", site.Map{}); quad.AsFault(err) == nil || quad.AsFault(err).Code != "no-name" {
		t.Errorf("no name: %v", err)
	}
	if _, err := w.AddSite(ctx, "x", site.Map{Areas: []site.Area{{Kind: site.Water}}}); quad.AsFault(err) == nil || quad.AsFault(err).Code != "no-area" {
		t.Errorf("no area: %v", err)
	}
	// A quad that was told where it takes off gives the file its home; its coordinates are nowhere in the map.
	line := `{"type":"FeatureCollection","features":[{"type":"Feature","properties":{"name":"out","height":20,"speed":5},"geometry":{"type":"LineString","coordinates":[[7.25,54.5],[7.251,54.5]]}}]}`
	if _, err := w.ReadMap(ctx, id, line); quad.AsFault(err) == nil || quad.AsFault(err).Code != "no-home" {
		t.Errorf("no home: %v", err)
	}
	if _, err := w.Type(ctx, id, "readings.firstFlight.home", json.RawMessage(`{"latitude":54.5,"longitude":7.25}`)); err != nil {
		t.Fatal(err)
	}
	read, err := w.ReadMap(ctx, id, line)
	if err != nil || len(read.Map.Lines) != 1 || read.Map.Lines[0].Points[0] != (site.Offset{}) || read.Map.Lines[0].Points[1].East < 64 || read.Map.Lines[0].Points[1].East > 65 {
		t.Errorf("%+v, %v", read, err)
	}
}
