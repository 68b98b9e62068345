package app_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"math"
	"net"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"
	"vividperch/core/flight"

	"vividperch/app"
	"vividperch/bench/client"
	"vividperch/bench/protocol"
	"vividperch/core/check"
	"vividperch/core/firmware"
	"vividperch/core/proof"
	"vividperch/core/quad"
	"vividperch/core/sticks"
	"vividperch/demo"
	"vividperch/demo/benchtest"
	"vividperch/store"
	"vividperch/store/mariadb/mariadbtest"
)

func TestMain(m *testing.M) { mariadbtest.Main(m) }

// world is one pilot's program over the real database, with a clock that the test moves.
type world struct {
	*app.App
	t     testing.TB
	keep  *store.Store
	pilot int64
	now   time.Time
}

// onlyUnraced leaves a test to the run without the race detector: nothing in it is done at the same time, or it flies too much.
func onlyUnraced(t *testing.T) {
	t.Helper()
	if raced {
		t.Skip("one thing after another: run without the race detector")
	}
}

var firstDay = time.Date(2026, 5, 4, 9, 0, 0, 0, time.UTC)

func newWorld(t testing.TB) *world {
	t.Helper()
	keep, err := store.Open(t.Context(), mariadbtest.Server.DSN, nil)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(keep.Close)
	pilot, err := keep.Pilot(t.Context(), "pilot "+quad.HashValue(t.Name())) // a name has eighty characters at most
	if err != nil {
		t.Fatal(err)
	}
	w := &world{t: t, keep: keep, pilot: pilot, now: firstDay}
	w.App = app.New(keep, pilot, "a pilot", func() time.Time { return w.now })
	return w
}

// dunlins is the archive of the first Dunlin that was made on the first day, act by act.
var dunlins struct {
	sync.Mutex
	raw []byte
}

// dunlin of the demo world, half set up. It is made act by act once; whoever wants one on the first day gets it from its archive, with all
// that was read and signed, which takes a twentieth of the time.
func (w *world) dunlin() int64 {
	w.t.Helper()
	if !w.now.Equal(firstDay) {
		return w.dunlinByActs()
	}
	dunlins.Lock()
	defer dunlins.Unlock()
	if dunlins.raw == nil {
		id := w.dunlinByActs()
		var err error
		if _, dunlins.raw, err = w.Archive(w.t.Context(), id, true); err != nil {
			w.t.Fatal(err)
		}
		return id
	}
	id, err := w.Import(w.t.Context(), dunlins.raw, "Dunlin")
	if err != nil {
		w.t.Fatal(err)
	}
	return id
}

func (w *world) dunlinByActs() int64 {
	w.t.Helper()
	q, err := demo.Load("dunlin")
	if err != nil {
		w.t.Fatal(err)
	}
	id, err := w.Create(w.t.Context(), q.Name, q.Words, q.Meant)
	if err != nil {
		w.t.Fatal(err)
	}
	if _, err := w.ReadList(w.t.Context(), id, q.List(), false); err != nil {
		w.t.Fatal(err)
	}
	for _, r := range q.Readings {
		if _, err := w.Told(w.t.Context(), id, r.Path, r.Value); err != nil {
			w.t.Fatal(err)
		}
	}
	for _, s := range q.Signed {
		if _, err := w.Sign(w.t.Context(), id, s, ""); err != nil {
			w.t.Fatal(err)
		}
	}
	return id
}

func (w *world) view(id int64) *app.QuadView {
	w.t.Helper()
	v, err := w.Quad(w.t.Context(), id)
	if err != nil {
		w.t.Fatal(err)
	}
	return v
}

// figures that a station draws.
func figures[T any](w *world, id int64, of func(context.Context, int64) (T, error)) T {
	w.t.Helper()
	v, err := of(w.t.Context(), id)
	if err != nil {
		w.t.Fatal(err)
	}
	return v
}

// board as it was read last.
func (w *world) board(id int64) app.BoardView {
	w.t.Helper()
	return figures(w, id, w.Firmware).Board
}

func (w *world) state(id int64, s check.Station) proof.State {
	w.t.Helper()
	return w.view(id).Line[s.Number()-1].State
}

func (w *world) edit(id int64, path quad.Path, value string) *app.QuadView {
	w.t.Helper()
	v, err := w.Edit(w.t.Context(), id, w.view(id).Version, []app.SetValue{{Path: path, Value: json.RawMessage(value)}})
	if err != nil {
		w.t.Fatal(err)
	}
	return v
}

func code(err error) string {
	if f := quad.AsFault(err); f != nil {
		return f.Code
	}
	return fmt.Sprint(err)
}

func TestEditUndoRedoUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	v := w.edit(id, "parts.propeller.diameter", `"5.1 in"`)
	if got := v.Meant.Parts.Propeller.Diameter; got != 5.1*25.4 {
		t.Errorf("5.1 in are %v mm", got)
	}
	v = w.edit(id, "sheet.motors.idle", "6")
	if len(v.Draft.Words) != 2 || v.Back.Words != "Idle throttle: 5.5 % becomes 6 %" {
		t.Errorf("draft %+v", v.Draft)
	}
	v, err := w.Undo(t.Context(), id, v.Version)
	if err != nil || v.Meant.Sheet.Motors.Idle != 5.5 || v.Draft.Redo != "Idle throttle: 5.5 % becomes 6 %" {
		t.Errorf("undone: %+v, %v", v.Draft, err)
	}
	v, err = w.Redo(t.Context(), id, v.Version)
	if err != nil || v.Meant.Sheet.Motors.Idle != 6 {
		t.Errorf("made again: %v", err)
	}
	if _, err := w.Undo(t.Context(), id, v.Version-1); code(err) != "changed" {
		t.Errorf("undo from a tab that saw an older version: %v", err)
	}
	// A fresh edit after an undo begins anew.
	if _, err = w.Undo(t.Context(), id, v.Version); err != nil {
		t.Fatal(err)
	}
	v = w.edit(id, "sheet.motors.idle", "7")
	if _, err := w.Redo(t.Context(), id, v.Version); code(err) != "nothing-to-redo" {
		t.Errorf("redo after a fresh edit: %v", err)
	}
}

func TestEditRefusesAndChangesNothingUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	before := w.view(id)
	for _, c := range []struct{ path, value, want string }{
		{"sheet.motors.idle", `"5 V"`, "wrong-unit"},
		{"sheet.motors.idle", `"fast"`, "not-a-quantity"},
		{"sheet.motors.idle", `[5]`, "wrong-type"},
		{"sheet.craft.layout", `"ring"`, "not-one-of"},
		{"sheet.motors.speed", `5`, "unknown-path"},
		{"readings.airframe.weight", `700`, "not-settable"},
		{"board.version", `"9"`, "not-settable"},
	} {
		_, err := w.Edit(t.Context(), id, before.Version, []app.SetValue{{Path: "sheet.motors.poles", Value: json.RawMessage("12")}, {Path: quad.Path(c.path), Value: json.RawMessage(c.value)}})
		if code(err) != c.want {
			t.Errorf("%s = %s: %v, want %s", c.path, c.value, err, c.want)
		}
	}
	if after := w.view(id); after.Version != before.Version || len(after.Draft.Words) > 0 {
		t.Errorf("something changed: %+v", after.Draft)
	}
}

// Signing on an edited draft saves a revision first, and the revision says what changed in words.
func TestSigningSavesTheDraftUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	w.edit(id, "sheet.feel.angleLimit", "45")
	list, err := w.Revisions(t.Context(), id, 0)
	if err != nil || len(list.Revisions) != 1 || list.More {
		t.Fatalf("%+v, %v", list, err)
	}
	if _, err := w.Sign(t.Context(), id, check.Picture, ""); code(err) != "reading-missing" {
		t.Errorf("signing with a check missing: %v", err)
	}
	if _, err := w.Sign(t.Context(), id, "nowhere", ""); code(err) != "no-station" {
		t.Errorf("no such station: %v", err)
	}
	if _, err := w.Type(t.Context(), id, "readings.motors.startsAt", json.RawMessage("3.6")); err != nil {
		t.Fatal(err)
	}
	list, err = w.Revisions(t.Context(), id, 0)
	if err != nil || len(list.Revisions) != 2 || len(list.Revisions[0].Words) != 1 || !strings.Contains(list.Revisions[0].Words[0], "50° becomes 45°") {
		t.Errorf("%+v, %v", list, err)
	}
	if v := w.view(id); len(v.Draft.Words) > 0 || v.Revision != 2 {
		t.Errorf("the draft is not saved: %+v", v.Draft)
	}
}

func TestTypedReadingsUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	for _, c := range []struct{ path, value, want string }{
		{"readings.airframe.weight", `"0.7 kg"`, "<nil>"},
		{"readings.airframe.weight", `"heavy"`, "not-a-quantity"},
		{"readings.airframe.weight", `true`, "wrong-type"},
		{"readings.motors.outputs.A", `{"corner":"frontRight","spin":"clockwise"}`, "<nil>"},
		{"readings.motors.outputs.A", `{"corner":"middle","spin":"clockwise"}`, "not-one-of"},
		{"readings.firstFlight.propellers.rearLeft", `"sideways"`, "not-one-of"},
		{"readings.loss.output", `"noise"`, "not-one-of"},
		{"readings.firstFlight.rehearsal", `{"outcome":"landed"}`, "not-typed"},
		{"readings.firmware.backup", `{"name":"saved","settings":54,"changed":3,"hash":"3f0c7b12"}`, "not-typed"},
		{"readings.airframe.weight", `null`, "missing"},
		{"readings.firstPower.leadResistance", `{"atOnce":140}`, "missing"},
		{"readings.sticks.axes.roll", `{"channel":1,"ends":{"low":1000,"centre":1500}}`, "missing"},
		{"readings.sticks.axes.roll", `{"channel":1,"ends":{"low":1000,"centre":1500,"high":2000}}`, "<nil>"},
		{"readings.motors.outputs." + strings.Repeat("A", 41), `{"corner":"frontRight","spin":"clockwise"}`, "bad-name"},
		{"readings.airframe", `{}`, "not-a-reading"},
		{"sheet.motors.idle", `5`, "not-a-reading"},
		{"readings.nothing", `5`, "unknown-path"},
	} {
		if _, err := w.Type(t.Context(), id, quad.Path(c.path), json.RawMessage(c.value)); code(err) != c.want {
			t.Errorf("%s = %s: %v, want %s", c.path, c.value, err, c.want)
		}
	}
	for _, p := range w.view(id).Line {
		for _, r := range p.Readings {
			if r.Origin != quad.OriginTyped {
				t.Errorf("%s says it comes from %s", r.Path, r.Origin)
			}
		}
	}
}

// A whole line typed in, as for a real quad: released for the day, grounded by an event, gone at midnight.
func TestReleaseForTheDayUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	w.now = time.Date(2026, 5, 4, 21, 0, 0, 0, time.FixedZone("spit", 2*3600))
	id := w.dunlin()
	w.edit(id, "sheet.sticks.arm.from", "1650")
	k, err := demo.Sound(w.now)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := w.ReadList(t.Context(), id, firmware.WriteList(k.Board.Settings, nil), false); err != nil {
		t.Fatal(err)
	}
	for _, l := range quad.Leaves(k.Readings, "readings") {
		if l.Path == "readings.firstFlight.rehearsal" {
			continue
		}
		raw, _ := json.Marshal(l.Value)
		if _, err := w.Told(t.Context(), id, l.Path, raw); err != nil {
			t.Fatalf("%s: %v", l.Path, err)
		}
	}
	if _, err := w.KeepRehearsal(t.Context(), id); err != nil {
		t.Fatal(err)
	}
	if _, err := w.ReleaseFor(t.Context(), id, proof.Hover, "the gravel field", "", nil); code(err) != "not-proven" {
		t.Errorf("released unsigned: %v", err)
	}
	for _, s := range check.Line {
		if _, err := w.Sign(t.Context(), id, s.ID, ""); err != nil {
			t.Fatalf("%s: %v", s.ID, err)
		}
	}
	if _, err := w.ReleaseFor(t.Context(), id, proof.Hover, "  ", "", nil); code(err) != "no-site" {
		t.Errorf("released nowhere: %v", err)
	}
	if _, err := w.ReleaseFor(t.Context(), id, proof.Free, "the gravel field", "", nil); code(err) != "not-proven-in-flight" {
		t.Errorf("free flight: %v", err)
	}
	v, err := w.ReleaseFor(t.Context(), id, proof.Hover, "the gravel field", "", nil)
	if err != nil || v.Release == nil || v.Against != "" {
		t.Fatalf("not released: %v, %s", err, v.Against)
	}
	newest := func() app.FlightView {
		t.Helper()
		return figures(w, id, func(ctx context.Context, id int64) (*app.FlightsPage, error) { return w.Flights(ctx, id, 0) }).Flights[0]
	}
	if _, err = w.Fly(t.Context(), id, app.Flight{Site: "the gravel field", Pack: "grey", Minutes: 3}); err != nil || newest().Scope != "hover" {
		t.Errorf("the flight is noted under %+v, %v", newest(), err)
	}
	tooMuch := 99999.0
	if _, err := w.Fly(t.Context(), id, app.Flight{Site: "the gravel field", Pack: "grey", Minutes: 3, Drawn: &tooMuch}); code(err) != "too-much" {
		t.Errorf("more than the pack holds: %v", err)
	}
	hangar := func() app.HangarQuad {
		list, err := w.Hangar(t.Context())
		if err != nil || len(list.Quads) != 1 {
			t.Fatalf("%v", err)
		}
		return list.Quads[0]
	}
	if h := hangar(); h.State != "released" || h.Flights != 1 {
		t.Errorf("the hangar says %s", h.State)
	}
	w.now = w.now.Add(2*time.Hour + 59*time.Minute)
	if w.view(id).Release == nil {
		t.Error("the release ended before midnight")
	}
	evening := w.now
	w.now = w.now.Add(2 * time.Minute)
	if v := w.view(id); v.Release != nil || v.Against == "" {
		t.Error("the release outlived its day")
	}
	w.now = evening
	v, err = w.Note(t.Context(), id, check.Crash, "into the poplars")
	if err != nil || v.Release != nil || w.state(id, check.Airframe) != proof.Stale || w.state(id, check.Feel) != proof.Proven {
		t.Errorf("after a crash: release %v, airframe %s, feel %s, %v", v.Release, w.state(id, check.Airframe), w.state(id, check.Feel), err)
	}
	if _, err := w.Note(t.Context(), id, "earthquake", ""); code(err) != "no-event" {
		t.Errorf("an event that is none: %v", err)
	}
	if _, err := w.Fly(t.Context(), id, app.Flight{Site: "elsewhere"}); err != nil || newest().Scope != "none" {
		t.Errorf("a flight without a release is noted under %s, %v", newest().Scope, err)
	}
}

func TestRehearsalShowsBothQuadsUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	if _, err := w.Type(t.Context(), id, "readings.motors.outputs.B", json.RawMessage(`{"corner":"rearLeft","spin":"clockwise"}`)); err != nil {
		t.Fatal(err)
	}
	v, err := w.Rehearse(t.Context(), id, app.Wish{})
	if err != nil || v.AsIs.Summary.Outcome != "tippedOver" || v.Corrected.Summary.Outcome != "landed" {
		t.Fatalf("as is %+v, corrected %+v, %v", v.AsIs.Summary, v.Corrected.Summary, err)
	}
	if !(math.Abs(v.Radius-0.0635) <= 1e-9) {
		t.Errorf("its propellers of 127 mm are drawn with a radius of %v m", v.Radius)
	}
	if len(v.Assumed) == 0 {
		t.Error("most of this quad is not read, but nothing was assumed")
	}
	again, err := w.Rehearse(t.Context(), id, app.Wish{})
	if err != nil || again.AsIs != v.AsIs {
		t.Error("the same card was flown twice instead of once")
	}
	// One fault alone, in the scenario that shows it, and in another; what the quad does not have is refused.
	spin, err := w.Rehearse(t.Context(), id, app.Wish{Shows: flight.FaultSpin})
	if err != nil || !strings.Contains(spin.AsIs.Summary.Sentence, "rear left") || spin.Title == "" || spin.With == spin.Without {
		t.Errorf("%+v, %v", spin, err)
	}
	if !slices.ContainsFunc(spin.Faults, func(f app.FaultShown) bool { return f.Fault == flight.FaultSpin && f.Known }) || slices.ContainsFunc(spin.Faults, func(f app.FaultShown) bool { return f.Fault == flight.FaultOrder }) {
		t.Errorf("offered are %+v", spin.Faults)
	}
	if tour, err := w.Rehearse(t.Context(), id, app.Wish{Shows: flight.FaultSpin, Scenario: flight.ModeTour}); err != nil || tour.Scenario != flight.ModeTour || !tour.Corrected.Good {
		t.Errorf("%+v, %v", tour, err)
	}
	if _, err := w.Rehearse(t.Context(), id, app.Wish{Shows: flight.FaultOrder}); quad.AsFault(err) == nil || quad.AsFault(err).Code != "no-consequence" {
		t.Errorf("outputs that are right: %v", err)
	}
	var trace bytes.Buffer
	if err := w.TraceOf(t.Context(), id, app.Wish{Scenario: flight.PunchOut}, true, 200, &trace); err != nil || strings.Count(trace.String(), "\n") != 1401 {
		t.Errorf("a trace of %d lines, %v", strings.Count(trace.String(), "\n"), err)
	}
	gone, cancel := context.WithCancel(t.Context())
	cancel()
	w.edit(id, "parts.propeller.thrust", "0.19")
	if _, err := w.Rehearse(gone, id, app.Wish{}); err == nil {
		t.Error("a rehearsal nobody waits for was flown to its end")
	}
}

func TestReadListIsAllOrNothingUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	_, err := w.ReadList(t.Context(), id, []byte("out.rest = 60\nnope = 1\nlean.limit = 9999\n"), false)
	if f := quad.AsFault(err); f == nil || f.Place != "line 2" || !strings.Contains(f.Sentence, "nothing was taken") || !strings.Contains(f.Sentence, "1 more") {
		t.Errorf("%v", err)
	}
	if b := w.board(id); len(b.Changes) != 0 {
		t.Errorf("the board's read-back changed: %v", b.Changes)
	}
}

func TestWithoutABench(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	if _, err := w.Take(t.Context(), id, "readings.firmware.identity"); code(err) != "no-bench" {
		t.Errorf("%v", err)
	}
	if _, err := w.Quad(t.Context(), 1<<40); code(err) != "no-quad" {
		t.Errorf("%v", err)
	}
}

// attach the app to Dunlin's bench, and give its hold on it once it is connected.
func (w *world) attach() *app.Bench {
	w.t.Helper()
	ctx, cancel := context.WithCancel(context.Background())
	return w.attachTo(ctx, cancel, benchtest.Serve(w.t, benchtest.Dunlin(w.t), false))
}

func (w *world) attachTo(ctx context.Context, cancel func(), address string) *app.Bench {
	w.t.Helper()
	b := w.AttachBench(ctx, address, benchtest.Token)
	w.t.Cleanup(func() { cancel(); b.Wait() })
	w.until("connected", func() bool { return b.Status().Connected })
	return b
}

func (w *world) until(what string, so func() bool) {
	w.t.Helper()
	for end := time.Now().Add(60 * time.Second); !so(); time.Sleep(5 * time.Millisecond) {
		if time.Now().After(end) {
			w.t.Fatalf("not %s within a minute", what)
		}
	}
}

// captures a stick or a switch at the bench; what a busy machine did not hear whole is captured again, as the answer asks for.
func (w *world) captures(id int64, path quad.Path) error {
	for again := 1; ; again++ {
		_, err := w.Take(w.t.Context(), id, path)
		if f := quad.AsFault(err); f == nil || again == 8 || !strings.Contains(f.Sentence, "capture again") {
			return err
		}
	}
}

func yes() *bool { b := true; return &b }
func no() *bool  { b := false; return &b }

func TestTakeFromTheBench(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	b := w.attach()
	take := func(p quad.Path) error {
		_, err := w.Take(t.Context(), id, p)
		return err
	}
	if err := take("readings.watch.boardVolts"); code(err) != "pack-out" {
		t.Errorf("volts without a pack: %v", err)
	}
	if err := take("readings.airframe.weight"); code(err) != "not-from-device" {
		t.Errorf("a weight from the bench: %v", err)
	}
	if err := b.Set(t.Context(), protocol.Things{Pack: yes(), Radio: yes()}); err != nil {
		t.Fatal(err)
	}
	if err := take("readings.motors.outputs.A"); code(err) != "nothing-turned" {
		t.Errorf("an output that nobody spins: %v", err)
	}
	if err := take("readings.loss.response"); code(err) != "not-armed" {
		t.Errorf("a response without arming: %v", err)
	}
	if err := take("readings.motors.startsAt"); code(err) != "not-all-started" {
		t.Errorf("where it starts without having been raised: %v", err)
	}
	if err := take("readings.sticks.axes.throttle"); err != nil {
		t.Fatal(err)
	}
	if err := take("readings.watch.heard"); err != nil {
		t.Fatal(err)
	}
	v := w.view(id)
	throttle := figures(w, id, w.Sticks).Axes[2]
	if !throttle.Captured || throttle.Channel != 3 || throttle.Reaches || throttle.Ends.Low < 1055 || throttle.Ends.Low > 1065 {
		t.Errorf("throttle %+v", throttle)
	}
	for _, r := range v.Line[check.Sticks.Number()-1].Readings {
		if r.Origin != quad.OriginDevice || !r.Bench {
			t.Errorf("%s must be marked as taken from a stand-in: %s, %v", r.Path, r.Origin, r.Bench)
		}
	}
	// The alarm's threshold was raised to be heard, and is back.
	if err := take("readings.firmware.identity"); err != nil {
		t.Fatal(err)
	}
	if b := w.board(id); len(b.Changes) != 0 {
		t.Errorf("after the alarm was heard the board differs: %v", b.Changes)
	}
	if err := take("readings.firmware.backup"); err != nil {
		t.Fatal(err)
	}
	saved := w.saved(id)
	if len(saved) != 1 || !strings.Contains(saved[0].All, "lean.limit = 500") || strings.Contains(saved[0].Changed, "lean.limit") || !strings.Contains(saved[0].Changed, "gate.arm = 5:177:220") {
		t.Errorf("saved %+v", saved)
	}
}

func TestWriteBoardReadsBack(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	b := w.attach()
	w.edit(id, "sheet.motors.outputs.B.reversed", "true")
	w.edit(id, "sheet.feel.angleLimit", "40")
	if _, err := w.WriteBoard(t.Context(), id); code(err) != "device-refused" {
		t.Errorf("writing without power: %v", err)
	}
	// On USB alone the speed controllers are silent: what could be written is known, what could not is named.
	if err := b.Set(t.Context(), protocol.Things{USB: yes()}); err != nil {
		t.Fatal(err)
	}
	_, err := w.WriteBoard(t.Context(), id)
	if f := quad.AsFault(err); f == nil || f.Place != "esc.B.turn" || !strings.Contains(f.Sentence, "only while the pack is in") {
		t.Errorf("%v", err)
	}
	if err := b.Set(t.Context(), protocol.Things{USB: no(), Pack: yes()}); err != nil {
		t.Fatal(err)
	}
	v, err := w.WriteBoard(t.Context(), id)
	if b := w.board(id); err != nil || len(b.Changes) != 0 || v.Revision != 2 {
		t.Errorf("written: %+v, revision %d, %v", b.Changes, v.Revision, err)
	}
}

// Only one server holds a device; the second says so and gets it when the first lets go.
func TestTwoServersOneBench(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	address := benchtest.Serve(t, benchtest.Dunlin(t), false)
	ctx, cancel := context.WithCancel(context.Background())
	defer cancel()
	first, letGo := context.WithCancel(ctx)
	b := w.AttachBench(first, address, benchtest.Token)
	w.until("connected", func() bool { return b.Status().Connected })
	other := app.New(w.keep, w.pilot, "a pilot", time.Now)
	b2 := other.AttachBench(ctx, address, benchtest.Token)
	w.until("told that it is taken", func() bool { return strings.Contains(b2.Status().Says, "another server") })
	if err := b2.Cut(t.Context()); code(err) != "device-away" {
		t.Errorf("the second server reached the device: %v", err)
	}
	letGo()
	b.Wait()
	w.until("connected after the first let go", func() bool { return b2.Status().Connected })
	cancel()
	b2.Wait()
}

// A device that lies: a clear sentence, within the time limit, and nothing changed.
func TestLyingDeviceChangesNothing(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	ctx, cancel := context.WithCancel(context.Background())
	context.AfterFunc(ctx, func() { l.Close() })
	go func() {
		for {
			conn, err := l.Accept()
			if err != nil {
				return
			}
			go func() {
				defer conn.Close()
				dec := json.NewDecoder(conn)
				for {
					var call struct {
						ID     json.RawMessage `json:"id"`
						Method string          `json:"method"`
					}
					if dec.Decode(&call) != nil {
						return
					}
					body := map[string]string{
						"hello": `{"device":"a liar","protocol":1,"outputs":["A"],"switches":[],"board":{"target":"HARRIER4","serial":"2041"}}`, "look": `{"mark":{"target":"HARRIER4","serial":"2041"},"board":"running","pack":true,"radio":true,"roll":99999,"pitch":0.5,"gyro":1e4}`,
						"identify": `{"target":"X","line":"Marram","version":"7.0.2"}`, "settings": `{"settings":{"lean.limit":"many","<b>":"\u0000"}}`, "meter": `{"value":"lots"}`,
					}[call.Method]
					if body == "" {
						continue // never answers
					}
					fmt.Fprintf(conn, `{"jsonrpc":"2.0","id":%s,"result":%s}`+"\n", call.ID, body)
				}
			}()
		}
	}()
	b := w.attachTo(ctx, cancel, l.Addr().String())
	before := w.view(id)
	for _, c := range []struct {
		act  func() error
		want string
	}{
		{func() error { _, err := w.Take(t.Context(), id, "readings.firstPower.idleCurrent"); return err }, "device-nonsense"},
		{func() error { _, err := w.WriteBoard(t.Context(), id); return err }, "device-nonsense"},
		{func() error { return b.Set(t.Context(), protocol.Things{Pack: yes()}) }, "device-slow"},
		{func() error { _, err := w.Take(t.Context(), id, "readings.sticks.axes.roll"); return err }, "no-link"},
	} {
		began := time.Now()
		if err := c.act(); code(err) != c.want {
			t.Errorf("got %v, want %s", err, c.want)
		}
		if took := time.Since(began); took > 6*time.Second {
			t.Errorf("%s took %v", c.want, took)
		}
	}
	if after := w.view(id); after.Version != before.Version || fmt.Sprint(after.Line) != fmt.Sprint(before.Line) {
		t.Error("something changed")
	}
	// A board that says it is another one than its label does is not believed.
	if _, err := w.Take(t.Context(), id, "readings.firmware.identity"); code(err) != "device-nonsense" {
		t.Errorf("an identity of another board: %v", err)
	}
}

// The circle on the page is coloured by what the rule found, a reading that has aged included.
func TestClearCircleFollowsTheRuleUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.ready()
	paced := func(metres string) {
		t.Helper()
		if _, err := w.Type(t.Context(), id, "readings.firstFlight.clear", json.RawMessage(metres)); err != nil {
			t.Fatal(err)
		}
	}
	at := func(want app.Clearing, when string) {
		t.Helper()
		if got := figures(w, id, w.FirstFlight).Site.Clear; got != want {
			t.Errorf("%s the radius is %q, want %q", when, got, want)
		}
	}
	paced("2")
	at(app.ClearUntried, "before it is known how far it gets")
	if _, err := w.KeepRehearsal(t.Context(), id); err != nil {
		t.Fatal(err)
	}
	at(app.ClearShort, "at 2 m")
	paced("60")
	at(app.ClearEnough, "at 60 m")
	// What made a rehearsal void is said.
	asks := func() (why string) {
		for _, a := range w.view(id).Line[check.FirstFlight.Number()-1].Asks {
			if a.Path == "readings.firstFlight.rehearsal" {
				why = a.Why
			}
		}
		return why
	}
	if got := asks(); got != "" {
		t.Errorf("asked at once, because %s", got)
	}
	for path, value := range map[quad.Path]string{"readings.airframe.weight": `"740 g"`, "readings.firstFlight.wind": `"4 m/s"`} {
		if _, err := w.Type(t.Context(), id, path, json.RawMessage(value)); err != nil {
			t.Fatal(err)
		}
	}
	if got := asks(); got != "the weight and the wind changed since the last one" {
		t.Errorf("asked again because %q", got)
	}
	w.now = w.now.Add(48 * time.Hour)
	at(app.ClearWanted, "two days later")
}

// Who signs or releases answers for what he saw: anything that has changed since refuses it.
func TestNobodySignsWhatHeDidNotSeeUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	saw := w.view(id).Seen
	if _, err := w.Type(t.Context(), id, "readings.link.range", json.RawMessage("95")); err != nil {
		t.Fatal(err)
	}
	if _, err := w.Sign(t.Context(), id, check.Link, saw); code(err) != "changed" {
		t.Errorf("a reading came in between: %v", err)
	}
	saw = w.view(id).Seen
	w.edit(id, "sheet.feel.angleLimit", "44")
	if _, err := w.Sign(t.Context(), id, check.Link, saw); code(err) != "changed" {
		t.Errorf("the sheet changed in between: %v", err)
	}
	if w.state(id, check.Link) == proof.Proven {
		t.Error("it is signed all the same")
	}
	if _, err := w.Sign(t.Context(), id, check.Link, w.view(id).Seen); err != nil || w.state(id, check.Link) != proof.Proven {
		t.Errorf("what was seen cannot be signed: %v", err)
	}
}

// What nothing judges can still be told: a reading nobody asks for is noted, a phrase is kept and not shown.
func TestUnjudgedIsToldAtItsStationUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	w := newWorld(t)
	id := w.dunlin()
	flight := func() app.Perch { return w.view(id).Line[check.FirstFlight.Number()-1] }
	if n := flight().Noted; len(n) != 1 || n[0].Path != "readings.firstFlight.home" || len(n[0].Slots) != 2 {
		t.Errorf("may be noted: %+v", n)
	}
	if _, err := w.Type(t.Context(), id, "readings.firstFlight.home", json.RawMessage(`{"latitude":54.5,"longitude":8.25}`)); err != nil {
		t.Fatal(err)
	}
	if n := flight().Noted; len(n) != 0 {
		t.Errorf("noted, and still offered: %+v", n)
	}
	v := w.edit(id, "sheet.link.phrase", `"curlew at dawn"`)
	for _, p := range v.Line[check.Link.Number()-1].Meant {
		if m := v.Leaves[p]; p == "sheet.link.phrase" {
			if m.Label == "" || m.Words != "kept, not shown" || len(m.Falls) != 0 {
				t.Errorf("%+v", m)
			}
			return
		}
	}
	t.Error("the phrase is told nowhere")
}

// A hold that is broken while the loss is timed stops the motors by itself. Taken up again at once, it must
// not pass for the board's own doing: nothing is kept.
func TestBrokenHoldMeasuresNothing(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	address := benchtest.Serve(t, benchtest.Dunlin(t), false)
	ctx, cancel := context.WithCancel(context.Background())
	b := w.attachTo(ctx, cancel, address)
	watcher, err := client.Dial(t.Context(), address, benchtest.Token, nil)
	if err != nil {
		t.Fatal(err)
	}
	defer watcher.Close()
	full := 100.0
	if err := b.Adjust(t.Context(), protocol.Adjust{Travel: &full}); err != nil {
		t.Fatal(err)
	}
	if err := b.Set(t.Context(), protocol.Things{Pack: yes(), Radio: yes()}); err != nil {
		t.Fatal(err)
	}
	arm := protocol.Motion{Kind: "arm", Switch: "left shoulder", Position: "armed"}
	look := func() protocol.Live {
		t.Helper()
		l, err := watcher.Call(t.Context(), protocol.MethodLook, nil)
		if err != nil {
			t.Fatal(err)
		}
		return l
	}
	hold := func(until func(protocol.Live) bool) {
		t.Helper()
		for end := time.Now().Add(60 * time.Second); !until(look()); time.Sleep(50 * time.Millisecond) {
			_ = w.Hold(t.Context(), id, arm)
			if time.Now().After(end) {
				t.Fatalf("never so: %+v", look().Gates)
			}
		}
	}
	w.until("ready to arm", func() bool {
		l := look()
		return l.Board == "running" && !slices.ContainsFunc(l.Gates, func(g sticks.Gate) bool { return g.Holds && g.Name != "switch" })
	})
	if _, err := w.Take(t.Context(), id, "readings.motors.load"); code(err) != "not-armed" {
		t.Errorf("the load of a board that waits: %v", err)
	}
	hold(func(l protocol.Live) bool { return l.Armed })
	// What the board shows of its processor while it flies, foreseen at other loops.
	hold(func(protocol.Live) bool {
		_, err := w.Take(t.Context(), id, "readings.motors.load")
		if err == nil {
			for _, l := range figures(w, id, w.Motors).Timing.Loops {
				if want := map[float64]float64{4000: 44, 8000: 78}[l.Rate]; want > 0 && (l.Load != want || l.Busy != (want > 70)) {
					t.Errorf("at %v Hz: %+v", l.Rate, l)
				}
			}
		}
		return err == nil
	})
	taken := make(chan error, 1)
	go func() {
		_, err := w.Take(t.Context(), id, "readings.loss.response")
		taken <- err
	}()
	hold(func(l protocol.Live) bool { return !l.Radio })
	holds := look().Holds
	for look().Motion != "" { // no renewal: the lease runs out
		time.Sleep(5 * time.Millisecond)
	}
	if err := w.Hold(t.Context(), id, arm); err != nil { // taken up again, whoever was first to notice
		t.Fatal(err)
	}
	hold(func(protocol.Live) bool {
		select {
		case err = <-taken:
			return true
		default:
			return false
		}
	})
	if code(err) != "let-go" {
		t.Errorf("a broken hold measured something: %v", err)
	}
	if now := look().Holds; now <= holds {
		t.Errorf("holds went from %d to %d", holds, now)
	}
	for _, r := range w.view(id).Line[check.LinkLoss.Number()-1].Readings {
		t.Errorf("%s was kept: %s", r.Path, r.Words)
	}
}
