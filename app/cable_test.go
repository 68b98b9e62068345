package app_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"vividperch/app"
	"vividperch/bench/protocol"
	"vividperch/core/check"
	"vividperch/core/firmware"
	"vividperch/core/quad"
	"vividperch/demo/benchtest"
)

// overCable lets a conversation go on over the bench's port until it has nothing more to say.
func (w *world) overCable(c *app.Cable, v *app.CableView) *app.CableView {
	w.t.Helper()
	for until := time.Now().Add(60 * time.Second); ; {
		answer, err := w.BenchSerial(w.t.Context(), v.Send)
		if v, err = c.Step(w.t.Context(), []byte(answer.Text), err != nil || answer.Gone); err != nil {
			w.t.Fatal(err)
		}
		if v.Apart {
			if v.Kept {
				w.t.Error("said to keep it before it was read again")
			}
			if v, err = c.Opened(w.t.Context()); err != nil {
				w.t.Fatal(err)
			}
		}
		if v.Says != "" || v.Stage == firmware.StageDone && v.Send == "" {
			return v
		}
		if time.Now().After(until) {
			w.t.Fatalf("it never ends: %+v", v)
		}
		time.Sleep(10 * time.Millisecond)
	}
}

// A board behind a port is read whole and kept as the quad's own, with where it was read; what the sheet has otherwise is written, read back and
// kept by the board. Nothing begins without the pilot's word, with a family that nobody described, or with another quad's board.
func TestABoardByCableUnraced(t *testing.T) {
	onlyUnraced(t)
	t.Parallel()
	w := newWorld(t)
	id, other := w.dunlin(), w.create("turnstone")
	b, d := w.bench(benchtest.Dunlin(t))
	w.set(b, protocol.Things{USB: yes()})
	for _, c := range []struct {
		ask  app.CableAsk
		code string
	}{
		{app.CableAsk{Family: "Marram"}, "propellers"}, {app.CableAsk{Family: "Nobody", PropellersOff: true}, "no-dictionary"}, {app.CableAsk{Family: "Shingle", PropellersOff: true}, "no-console"},
	} {
		if _, _, err := w.Cable(t.Context(), id, c.ask); code(err) != c.code {
			t.Errorf("%+v: %v", c.ask, err)
		}
	}
	open := func(id int64) (*app.Cable, *app.CableView) {
		t.Helper()
		c, v, err := w.Cable(t.Context(), id, app.CableAsk{Family: "Marram", Bench: true, PropellersOff: true})
		if err != nil {
			t.Fatal(err)
		}
		if got := strings.Join(v.Sends, ", "); got != "#, which, every setting" {
			t.Errorf("would send %s", got)
		}
		c.Begin()
		return c, v
	}
	c, v := open(id)
	v = w.overCable(c, v)
	if v.Says != "" || v.Read < 150 || v.Is == nil || v.Is.Serial != "2041" {
		t.Fatalf("read: %+v", v)
	}
	read := w.view(id).Line[check.Firmware.Number()-1].Readings
	is := slices.IndexFunc(read, func(r app.ReadingView) bool { return r.Path == "readings.firmware.identity" })
	if is < 0 || read[is].Origin != quad.OriginCable || !read[is].Bench || w.board(id).Serial != "2041" || len(w.saved(id)) == 0 {
		t.Errorf("kept: %+v of %+v", read, w.board(id))
	}
	// Another quad's page learns nothing of it.
	stranger, sv := open(other)
	for range 400 {
		answer, err := w.BenchSerial(t.Context(), sv.Send)
		if err != nil {
			t.Fatal(err)
		}
		if sv, err = stranger.Step(t.Context(), []byte(answer.Text), false); err != nil {
			if code(err) != "other-board" || !strings.Contains(err.Error(), "2041") {
				t.Errorf("another quad's board: %v", err)
			}
			break
		}
		time.Sleep(10 * time.Millisecond)
	}
	if w.board(other).Serial == "2041" {
		t.Error("another quad took the board for its own")
	}

	w.edit(id, "sheet.sticks.deadband", "5")
	c, v = open(id)
	v = w.overCable(c, v)
	if len(v.Changes) == 0 || !strings.Contains(strings.Join(v.Lines, "|"), "hear.dead = 5|") || !strings.HasSuffix(strings.Join(v.Lines, "|"), "|keep|#|which|every setting") {
		t.Fatalf("would write %+v by %q", v.Changes, v.Lines)
	}
	if _, err := c.Write(t.Context(), "0.0"); code(err) != "changed" {
		t.Errorf("over what was not seen: %v", err)
	}
	v, err := c.Write(t.Context(), v.Seen)
	if err != nil {
		t.Fatal(err)
	}
	v = w.overCable(c, v)
	if v.Says != "" || !v.Kept || len(v.Changes) != 0 || w.settings(d)["hear.dead"] != "5" {
		t.Errorf("written: %+v", v)
	}
}
