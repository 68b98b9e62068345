package app_test

import (
	"context"
	"encoding/json"
	"strconv"
	"strings"
	"testing"
	"time"

	"vividperch/app"
	"vividperch/bench/client"
	"vividperch/bench/protocol"
	"vividperch/bench/standin"
	"vividperch/core/check"
	"vividperch/core/link"
	"vividperch/core/proof"
	"vividperch/core/quad"
	"vividperch/demo/benchtest"
)

// shelf is a bench on which each of some kits can be put.
func (w *world) shelf(kits ...standin.Kit) (*app.Bench, *client.Device) {
	w.t.Helper()
	return w.benchAt(benchtest.ServeShelf(w.t, kits...))
}

func (w *world) place(b *app.Bench, quad string) {
	w.t.Helper()
	w.set(b, protocol.Things{Pack: no(), USB: no()})
	if err := b.Place(w.t.Context(), quad); err != nil {
		w.t.Fatal(err)
	}
	w.until("placed", func() bool { return b.Status().Connected && b.Status().Board.Quad == quad })
}

// refusedFor wants an act refused with a sentence that names both quads and the way out.
func refusedFor(t *testing.T, what string, err error, words ...string) {
	t.Helper()
	if code(err) != "other-quad" {
		t.Errorf("%s: %v", what, err)
		return
	}
	for _, word := range words {
		if !strings.Contains(err.Error(), word) {
			t.Errorf("%s: %q does not say %q", what, err, word)
		}
	}
}

// With Dunlin on the bench nothing of it becomes Magpie's: no reading, no hold, no write, no flash, no level, no binding, no solder.
// What is typed is kept all the same.
func TestOnlyItsOwnQuadUsesTheBench(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	w.dunlin()
	magpie := w.create("godwit")
	b, hand := w.bench(benchtest.Dunlin(t))
	w.set(b, protocol.Things{Pack: yes(), USB: yes(), Radio: yes()})
	before := w.view(magpie)
	for _, path := range []quad.Path{"readings.firstPower.propellersOff", "readings.firstPower.idleCurrent", "readings.firmware.identity", "readings.motors.outputs.A", "readings.loss.output", "readings.sticks.axes.roll", "readings.watch.heard"} {
		_, err := w.Take(t.Context(), magpie, path)
		refusedFor(t, string(path), err, "on the bench is Dunlin", "Put Godwit there, or type it")
	}
	ctx := t.Context()
	refusedFor(t, "hold", w.Hold(ctx, magpie, protocol.Motion{Kind: "spin", Output: "A", Level: 6}), "Dunlin")
	_, err := w.Level(ctx, magpie)
	refusedFor(t, "level", err)
	_, err = w.WriteBoard(ctx, magpie)
	refusedFor(t, "write", err)
	_, err = w.WriteOutput(ctx, magpie, "A")
	refusedFor(t, "write one", err)
	_, err = w.SaveBoard(ctx, magpie, "")
	refusedFor(t, "save", err)
	_, err = w.Flash(ctx, magpie, app.FlashAsk{Image: imageFor(t, "SLIPWAY9", "Shingle", "2.4.0", 2000)})
	refusedFor(t, "flash", err)
	_, err = w.LookFor(ctx, magpie, "light")
	refusedFor(t, "look", err)
	refusedFor(t, "solder", w.Solder(ctx, magpie, "receiver"))
	_, err = w.Bind(ctx, magpie, link.Button)
	refusedFor(t, "bind", err)
	_, err = w.Adopt(ctx, magpie, "")
	refusedFor(t, "adopt another quad's board", err)
	if after := w.view(magpie); after.Seen != before.Seen {
		t.Errorf("something was kept: %s, before %s", after.Seen, before.Seen)
	}
	if l, err := hand.Call(ctx, protocol.MethodLook, nil); err != nil || l.Motion != "" {
		t.Errorf("something turns: %+v, %v", l, err)
	}
	if _, err := w.Type(ctx, magpie, "readings.firstPower.propellersOff", json.RawMessage("true")); err != nil {
		t.Errorf("typed: %v", err)
	}
}

// Board by board: what a quad and a bench know of each other, and what comes of it.
func TestWhoseBoardItIs(t *testing.T) {
	t.Parallel()
	magpie := func(kit standin.Kit, number, name string) standin.Kit {
		kit.Serial, kit.Name = number, name
		return kit
	}
	for _, c := range []struct {
		name          string
		quad          string // begun as
		identity      string // typed before
		number, bench string // of what lies there
		same          bool
		claim         app.Claim
		says          string
	}{
		{"the one of its name, nothing known before", "Magpie", "", "1", "Magpie", true, app.ClaimNone, ""},
		{"of its name in other letters", "magpie", "", "", "Magpie", true, app.ClaimNone, ""},
		{"another's name, nothing known before", "Magpie", "", "1", "Curlew", false, app.ClaimFirst, "say that this is Magpie"},
		{"its number under another name", "Magpie", `{"target":"HARRIER4","line":"Marram","version":"7.0.2","serial":"1"}`, "1", "Curlew", true, app.ClaimNone, ""},
		{"another number under its name", "Magpie", `{"target":"HARRIER4","line":"Marram","version":"7.0.2","serial":"1"}`, "2", "Magpie", false, app.ClaimReplaced, "board 2; Magpie has board 1"},
		{"its number on another kind of board", "Magpie", `{"target":"OLDPIER","line":"Marram","version":"7.0.2","serial":"1"}`, "1", "Magpie", false, app.ClaimReplaced, "replaced"},
		{"no number where it has one", "Magpie", `{"target":"HARRIER4","line":"Marram","version":"7.0.2","serial":"1"}`, "", "Magpie", false, app.ClaimReplaced, "replaced"},
		{"nothing told at all", "Magpie", "", "", "", false, app.ClaimNone, "does not tell"},
		{"an identity without a number is none", "Magpie", `{"target":"HARRIER4","line":"Marram","version":"7.0.2"}`, "1", "Magpie", true, app.ClaimNone, ""},
	} {
		t.Run(c.name, func(t *testing.T) {
			w := newWorld(t)
			id, err := w.Create(t.Context(), c.quad, "", quad.Meant{})
			if err != nil {
				t.Fatal(err)
			}
			if c.identity != "" {
				if _, err := w.Type(t.Context(), id, "readings.firmware.identity", json.RawMessage(c.identity)); err != nil {
					t.Fatal(err)
				}
			}
			w.bench(magpie(benchtest.Dunlin(t), c.number, c.bench))
			got, err := w.BenchFor(t.Context(), id)
			if err != nil {
				t.Fatal(err)
			}
			if got.Same != c.same || got.Claim != c.claim || !strings.Contains(got.Says, c.says) || got.Same != (got.Says == "") {
				t.Errorf("%+v", got)
			}
		})
	}
}

// A board that nobody knows becomes a quad's own when its pilot says so; one that replaced it too, and then what was measured on
// the one before is asked for again, exactly where the matrix says so.
func TestAdoptingABoard(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	other := benchtest.Dunlin(t)
	other.Serial, other.Name = "3000", "Dunlin, another board"
	b, _ := w.shelf(benchtest.Dunlin(t), other)
	w.set(b, protocol.Things{Pack: yes(), USB: yes()})
	if _, err := w.Take(t.Context(), id, "readings.firmware.identity"); err != nil {
		t.Fatal(err)
	}
	if _, err := w.Adopt(t.Context(), id, ""); code(err) != "own-already" {
		t.Errorf("its own: %v", err)
	}
	proven := map[string]bool{}
	for _, p := range w.view(id).Line {
		if p.State == proof.Proven {
			proven[p.Name] = true
		}
	}
	w.place(b, other.Name)
	said, err := w.BenchFor(t.Context(), id)
	if err != nil || said.Claim != app.ClaimReplaced || said.Place != "Dunlin" {
		t.Fatalf("%+v, %v", said, err)
	}
	seen := w.view(id).Seen
	w.now = w.now.Add(time.Minute)
	if _, err := w.Adopt(t.Context(), id, "0.0"); code(err) != "changed" {
		t.Errorf("adopted by a page that saw something else: %v", err)
	}
	v, err := w.Adopt(t.Context(), id, seen)
	if err != nil {
		t.Fatal(err)
	}
	if b := w.board(id); b.Read {
		t.Errorf("what the board before held still counts: %+v", b)
	}
	for _, p := range v.Line {
		falls := false
		for _, name := range said.Falls {
			falls = falls || name == p.Name
		}
		if fell := proven[p.Name] && p.State != proof.Proven; fell != falls {
			t.Errorf("%s fell: %v, foretold: %v", p.Name, fell, falls)
		}
	}
	events, err := w.Events(t.Context(), id, 0)
	if err != nil {
		t.Fatal(err)
	}
	if last := events.Events[0]; last.Event != check.NewBoard || !strings.Contains(last.Note, "2041") || !strings.Contains(last.Note, "3000") {
		t.Errorf("noted %+v", last)
	}
	w.set(b, protocol.Things{Pack: yes(), USB: yes()})
	if _, err = w.Take(t.Context(), id, "readings.firmware.identity"); err != nil || w.board(id).Serial != "3000" {
		t.Fatalf("identified: %+v, %v", w.board(id), err)
	}
	w.place(b, "Dunlin")
	if _, err := w.Take(t.Context(), id, "readings.firstPower.propellersOff"); code(err) != "other-quad" {
		t.Errorf("the board that was replaced: %v", err)
	}
}

// Another quad in the place of the one that is read: nothing of either is kept, though the name of what is read stays the same.
func TestAnotherQuadInTheMiddleOfAReading(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	first := benchtest.Kit(t, "dunlin-first")
	b, hand := w.shelf(benchtest.Dunlin(t), first)
	w.set(b, protocol.Things{Pack: yes(), Radio: yes()})
	w.until("linked", func() bool {
		l, err := hand.Call(t.Context(), protocol.MethodLook, nil)
		return err == nil && len(l.Channels) > 0
	})
	before := w.view(id).Seen
	taken := make(chan error, 1)
	go func() {
		_, err := w.Take(context.WithoutCancel(t.Context()), id, "readings.sticks.axes.roll")
		taken <- err
	}()
	w.until("in the middle of it", func() bool {
		l, err := hand.Call(t.Context(), protocol.MethodLook, nil)
		return err == nil && l.Sticks[quad.Roll] > 0.5
	})
	off := false
	if _, err := hand.Call(t.Context(), protocol.MethodSet, protocol.Things{Pack: &off}); err != nil {
		t.Fatal(err)
	}
	if err := hand.Place(t.Context(), first.Name); err != nil {
		t.Fatal(err)
	}
	if err := <-taken; code(err) != "device-away" {
		t.Errorf("what was read while another came: %v", err)
	}
	if now := w.view(id).Seen; now != before {
		t.Errorf("kept: %s, before %s", now, before)
	}
}

// Propellers are fitted with the pack out: the bench knows where the quad lies on it, elsewhere the pilot says so.
func TestPropellersAreFittedWithThePackOut(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id, other := w.dunlin(), w.create("godwit")
	path := quad.Path("readings.firstFlight.propellers.frontLeft")
	fit := func(id int64, raw string) error {
		_, err := w.Type(t.Context(), id, path, json.RawMessage(raw))
		return err
	}
	if err := fit(id, `{"hand":"clockwise","packOut":false}`); code(err) != "pack-in" {
		t.Errorf("without a bench, without a word: %v", err)
	}
	if err := fit(id, `{"hand":"clockwise"}`); code(err) != "missing" {
		t.Errorf("the word left out: %v", err)
	}
	if err := fit(id, `{"hand":"clockwise","packOut":true}`); err != nil {
		t.Errorf("by the pilot's word: %v", err)
	}
	b, _ := w.bench(benchtest.Dunlin(t))
	w.set(b, protocol.Things{Pack: yes()})
	if err := fit(id, `{"hand":"counterClockwise","packOut":true}`); code(err) != "pack-in" {
		t.Errorf("the pack is in on the bench, whatever is said: %v", err)
	}
	if err := fit(other, `{"hand":"clockwise","packOut":true}`); err != nil {
		t.Errorf("the bench's pack is another quad's: %v", err)
	}
	w.set(b, protocol.Things{Pack: no()})
	if err := fit(id, `{"hand":"counterClockwise","packOut":false}`); err != nil {
		t.Errorf("the bench knows that it is out: %v", err)
	}
	for _, r := range w.view(id).Line[check.FirstFlight.Number()-1].Readings {
		if r.Path == path && r.Words != "counter-clockwise, pack out" {
			t.Errorf("kept as %q", r.Words)
		}
	}
}

// Held armed in the hand, the frame turned and the yaw stick pushed: both are seen on the bench, on a sound quad and on one that has
// them wrong.
func TestYawIsLookedAtOnTheBenchUnraced(t *testing.T) {
	onlyUnraced(t)
	t.Parallel()
	for _, c := range []struct {
		name         string
		spoil        func(*standin.Kit)
		frame, stick bool
	}{
		{"sound", func(k *standin.Kit) {
			b := k.Wired["B"]
			b.Spin = quad.CounterClockwise
			k.Wired["B"] = b
		}, true, true},
		{"all turn the other way", func(k *standin.Kit) {
			for letter, o := range k.Wired {
				if letter != "B" {
					o.Spin = o.Spin.Opposite()
				}
				k.Wired[letter] = o
			}
		}, false, false},
	} {
		t.Run(c.name, func(t *testing.T) {
			w := newWorld(t)
			id := w.dunlin()
			kit := benchtest.Dunlin(t)
			kit.Radio.Travel = 100
			c.spoil(&kit)
			b, hand := w.bench(kit)
			w.set(b, protocol.Things{Pack: yes(), Radio: yes()})
			got := map[quad.Path]any{}
			for _, path := range []quad.Path{"readings.benchProof.frameYaw", "readings.benchProof.stickYaw"} {
				if _, err := w.Take(t.Context(), id, path); code(err) != "not-armed" {
					t.Errorf("%s with nothing held: %v", path, err)
				}
				w.holding(id, hand, 12, func() error {
					v, err := w.Take(t.Context(), id, path)
					if err != nil {
						return err
					}
					for _, r := range v.Line[check.BenchProof.Number()-1].Readings {
						got[r.Path] = r.Value
					}
					return nil
				})
			}
			if got["readings.benchProof.frameYaw"] != c.frame || got["readings.benchProof.stickYaw"] != c.stick {
				t.Errorf("%v", got)
			}
		})
	}
}

// holding keeps the arm switch held, the throttle at rest until it is armed, while something is read; a hold that a busy machine breaks
// is taken up again.
func (w *world) holding(id int64, hand *client.Device, level float64, read func() error) {
	w.t.Helper()
	ctx, stop := context.WithCancel(w.t.Context())
	held := make(chan struct{})
	go func() {
		defer close(held)
		for ctx.Err() == nil {
			m := protocol.Motion{Kind: "arm", Switch: "left shoulder", Position: "armed"}
			if l, err := hand.Call(ctx, protocol.MethodLook, nil); err == nil && l.Armed {
				m.Level = level
			}
			_ = w.Hold(ctx, id, m)
			select {
			case <-ctx.Done():
			case <-time.After(50 * time.Millisecond):
			}
		}
	}()
	var err error
	w.until("read", func() bool {
		err = read()
		return err == nil || code(err) != "not-armed" && code(err) != "let-go" && code(err) != "restless" && code(err) != "unheard"
	})
	stop()
	<-held
	w.until("at rest", func() bool {
		l, err := hand.Call(w.t.Context(), protocol.MethodLook, nil)
		return err == nil && l.Motion == ""
	})
	if err != nil {
		w.t.Fatal(err)
	}
}

// Where a quad's own bench is on the shelf, it is offered, and no other.
func TestItsOwnPlaceIsOffered(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	var kits []standin.Kit
	for i, name := range []string{"Curlew", "Magpie", "Ruff"} {
		kit := benchtest.Dunlin(t)
		kit.Serial, kit.Name = strconv.Itoa(i+1), name
		kits = append(kits, kit)
	}
	w.shelf(kits...)
	for name, want := range map[string]string{"magpie": "Magpie", "Knot": ""} {
		id, err := w.Create(t.Context(), name, "", quad.Meant{})
		if err != nil {
			t.Fatal(err)
		}
		if got, err := w.BenchFor(t.Context(), id); err != nil || got.Place != want {
			t.Errorf("%s is offered the place of %q, want %q (%v)", name, got.Place, want, err)
		}
	}
}
