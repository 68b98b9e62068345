package app_test

import (
	"bytes"
	"context"
	"fmt"
	"maps"
	"slices"
	"strings"
	"testing"

	"vividperch/app"
	"vividperch/bench/client"
	"vividperch/bench/protocol"
	"vividperch/bench/standin"
	"vividperch/core/check"
	"vividperch/core/firmware"
	"vividperch/core/proof"
	"vividperch/demo"
	"vividperch/demo/benchtest"
)

func imageFor(t testing.TB, target, line, version string, size int) []byte {
	t.Helper()
	img, err := firmware.MadeUp(firmware.Header{Target: target, Line: line, Version: version}, size)
	if err != nil {
		t.Fatal(err)
	}
	return firmware.WriteHex(img)
}

// bench of a kit, with the program attached to it and a second hand on the device.
func (w *world) bench(kit standin.Kit) (*app.Bench, *client.Device) {
	w.t.Helper()
	return w.benchAt(benchtest.Serve(w.t, kit, false))
}

func (w *world) benchAt(address string) (*app.Bench, *client.Device) {
	w.t.Helper()
	ctx, cancel := context.WithCancel(context.Background())
	b := w.attachTo(ctx, cancel, address)
	d, err := client.Dial(ctx, address, benchtest.Token, func(protocol.Live) {})
	if err != nil {
		w.t.Fatal(err)
	}
	w.t.Cleanup(d.Close)
	return b, d
}

func (w *world) set(b *app.Bench, t protocol.Things) {
	w.t.Helper()
	if err := b.Set(w.t.Context(), t); err != nil {
		w.t.Fatal(err)
	}
}

// bare is Dunlin as it is meant, with nothing read or measured yet.
func (w *world) bare() int64 {
	w.t.Helper()
	q, err := demo.Load("dunlin")
	if err != nil {
		w.t.Fatal(err)
	}
	id, err := w.Create(w.t.Context(), q.Name, q.Words, q.Meant)
	if err != nil {
		w.t.Fatal(err)
	}
	return id
}

func (w *world) settings(d *client.Device) map[string]string {
	w.t.Helper()
	s, err := d.Settings(w.t.Context())
	if err != nil {
		w.t.Fatal(err)
	}
	return s
}

func (w *world) saved(id int64) []app.BackupView {
	w.t.Helper()
	list, err := w.Backups(w.t.Context(), id, 0)
	if err != nil {
		w.t.Fatal(err)
	}
	return list.Backups
}

// savedWhole says whether some saved list holds all of these settings.
func (w *world) savedWhole(id int64, settings map[string]string) bool {
	return slices.ContainsFunc(w.saved(id), func(b app.BackupView) bool {
		list, err := firmware.ReadList([]byte(b.All))
		if err != nil {
			w.t.Fatal(err)
		}
		held := map[string]string{}
		for _, l := range list.Settings {
			held[l.Name] = l.Value
		}
		return maps.Equal(held, settings)
	})
}

// Whatever goes wrong at whichever step, the settings are on the board or saved, the board can be flashed again, and
// its settings can be put back as they were.
func TestFlashSurvivesEveryFaultAtEveryStepUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	const size = 5000 // three blocks: with erasing, verifying and restarting six calls
	for _, kind := range []string{"cable", "power", "bit"} {
		for at := 1; at <= 6; at++ {
			for _, erase := range []bool{false, true} {
				t.Run(fmt.Sprintf("%s at %d, erased whole %v", kind, at, erase), func(t *testing.T) {
					t.Parallel()
					if kind == "bit" && (at < 2 || at > 4) {
						t.Skip("only a block can be written wrong")
					}
					w := newWorld(t)
					id := w.bare()
					kit := benchtest.Dunlin(t)
					kit.Fault = standin.KitFault{Kind: kind, At: at}
					b, d := w.bench(kit)
					w.set(b, protocol.Things{USB: yes()})
					before := w.settings(d)
					ask := app.FlashAsk{Image: imageFor(t, "HARRIER4", "Marram", "7.0.2", size), Whole: erase}
					if _, err := w.Flash(t.Context(), id, ask); err == nil {
						t.Fatal("the fault did not come")
					}
					if !w.savedWhole(id, before) {
						t.Fatal("the settings were not saved before anything happened")
					}
					w.set(b, protocol.Things{USB: yes()})
					is, err := d.Identify(t.Context(), "")
					if err != nil || is.Target != "HARRIER4" {
						t.Fatalf("the board does not say what it is: %+v, %v", is, err)
					}
					if !is.Bootloader && !maps.Equal(w.settings(d), before) {
						t.Error("it runs, and its settings are not what they were")
					}
					if _, err := w.Flash(t.Context(), id, ask); err != nil {
						t.Fatalf("flashed again: %v", err)
					}
					if b := w.board(id); b.Version != "7.0.2" {
						t.Errorf("identified as %s", b.Version)
					}
					saved := w.saved(id)
					if erase {
						if got := w.settings(d); got["volt.cells"] != "0" {
							t.Errorf("erased whole, it still counts on %s cells", got["volt.cells"])
						}
						if _, err := w.RestoreBackup(t.Context(), id, saved[len(saved)-1].ID, nil); err != nil {
							t.Fatalf("put back: %v", err)
						}
					}
					if got := w.settings(d); !maps.Equal(got, before) {
						t.Errorf("in the end the settings are not what they were: %v", firmware.WriteList(got, before))
					}
				})
			}
		}
	}
}

// A flash that is stopped goes on where it ended; one that cannot be what it says goes nowhere.
func TestFlashStopsAndGoesOn(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.bare()
	b, d := w.bench(benchtest.Dunlin(t))
	w.set(b, protocol.Things{USB: yes()})
	before := w.settings(d)
	large := imageFor(t, "HARRIER4", "Marram", "7.0.2", 400_000)
	flipped := bytes.Clone(large)
	flipped[bytes.IndexByte(flipped, '\n')+20] ^= 1
	low, err := firmware.BuildImage(firmware.Header{Target: "HARRIER4", Line: "Marram", Version: "7.0.2"}, 0x08000000, []byte("over the bootloader"))
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct {
		name  string
		image []byte
		want  string
	}{
		{"another board's image", imageFor(t, "OLDPIER", "Shingle", "2.4.0", 5000), "target-mismatch"},
		{"a flipped bit", flipped, "hex-checksum"},
		{"over the bootloader", firmware.WriteHex(low), "hex-bootloader"},
		{"too large", imageFor(t, "HARRIER4", "Marram", "7.0.2", 0x80000), "hex-range"},
		{"cut short", large[:len(large)/2], "hex-"},
		{"no image at all", []byte("good morning"), "hex-mark"},
	} {
		if _, err := w.Flash(t.Context(), id, app.FlashAsk{Image: c.image}); !strings.HasPrefix(code(err), c.want) {
			t.Errorf("%s: %v", c.name, err)
		}
	}
	if len(w.saved(id)) != 0 || !maps.Equal(w.settings(d), before) {
		t.Error("what was refused has touched something")
	}
	if err := b.StopFlash(); code(err) != "nothing-runs" {
		t.Errorf("stopping what does not run: %v", err)
	}
	frames, leave := b.Subscribe()
	defer leave()
	resumed := make(chan float64, 1)
	go func() {
		stopped := false
		for f := range frames {
			switch {
			case f.Flash == nil || f.Flash.Step != "writing":
			case !stopped && f.Flash.Percent > 40:
				stopped = true
				_ = b.StopFlash()
			case f.Flash.Resumed:
				resumed <- f.Flash.Percent
				return
			}
		}
	}()
	if _, err := w.Flash(t.Context(), id, app.FlashAsk{Image: large}); err == nil {
		t.Fatal("it was not stopped")
	}
	if is, err := d.Identify(t.Context(), ""); err != nil || !is.Bootloader {
		t.Fatalf("stopped half way it must wait in its bootloader: %+v, %v", is, err)
	}
	if _, err := w.Take(t.Context(), id, "readings.firmware.identity"); code(err) != "in-bootloader" {
		t.Errorf("half flashed: %v", err)
	}
	if _, err := w.Flash(t.Context(), id, app.FlashAsk{Image: large}); err != nil {
		t.Fatal(err)
	}
	if at := <-resumed; at < 40 {
		t.Errorf("it went on at %.0f %%, not where it was stopped", at)
	}
	if !maps.Equal(w.settings(d), before) {
		t.Error("the settings are not what they were")
	}
	if w.state(id, check.Firmware) == proof.Proven {
		t.Error("a flash must make Firmware stale until it is saved anew")
	}
}

// A flash that fails by itself is told as failed, and not as stopped by the pilot.
func TestAFailureIsNoStop(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.bare()
	kit := benchtest.Dunlin(t)
	kit.Fault = standin.KitFault{Kind: "cable", At: 3}
	b, _ := w.bench(kit)
	w.set(b, protocol.Things{USB: yes()})
	if s := b.Status(); len(s.Outputs) != 4 || len(s.Switches) != 3 {
		t.Errorf("the bench tells of outputs %v and switches %v", s.Outputs, s.Switches)
	}
	frames, leave := b.Subscribe()
	defer leave()
	last := make(chan app.FlashState, 1)
	go func() {
		for f := range frames {
			if f.Flash != nil && (f.Flash.Step == app.FlashFailed || f.Flash.Step == app.FlashStopped) {
				last <- *f.Flash
				return
			}
		}
	}()
	if _, err := w.Flash(t.Context(), id, app.FlashAsk{Image: imageFor(t, "HARRIER4", "Marram", "7.0.2", 5000)}); err == nil {
		t.Fatal("the fault did not come")
	}
	if got := <-last; got.Step != app.FlashFailed || strings.Contains(got.Says, "because you said so") {
		t.Errorf("%+v", got)
	}
}

// A board that was found in its bootloader, and of which nothing was ever saved, keeps its settings.
func TestNothingIsErasedThatWasNotSaved(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.bare()
	b, d := w.bench(benchtest.Dunlin(t))
	w.set(b, protocol.Things{USB: yes()})
	before := w.settings(d)
	if err := d.Do(t.Context(), protocol.MethodBoot, protocol.Which{}); err != nil {
		t.Fatal(err)
	}
	ask := app.FlashAsk{Image: imageFor(t, "HARRIER4", "Marram", "7.0.2", 5000), Whole: true}
	if _, err := w.Flash(t.Context(), id, ask); code(err) != "not-saved" {
		t.Fatalf("%v", err)
	}
	ask.Whole = false
	if _, err := w.Flash(t.Context(), id, ask); err != nil {
		t.Fatal(err)
	}
	if !maps.Equal(w.settings(d), before) {
		t.Error("the settings are not what they were")
	}
}

// Speed controllers are saved, flashed and identified one by one; until all are alike, that is a finding.
func TestSpeedControllersOneByOne(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	b, d := w.bench(benchtest.Dunlin(t))
	unlike := func() bool {
		return slices.ContainsFunc(w.view(id).Line[check.Firmware.Number()-1].Findings, func(f proof.Judged) bool {
			return strings.Contains(f.Title, "unlike versions")
		})
	}
	image := imageFor(t, "CW60", "Causeway", "3.2.0", 9000)
	w.set(b, protocol.Things{USB: yes()})
	if _, err := w.Flash(t.Context(), id, app.FlashAsk{Image: image, Output: "A"}); code(err) != "device-refused" || !strings.Contains(err.Error(), "pack") {
		t.Errorf("without the pack: %v", err)
	}
	w.set(b, protocol.Things{Pack: yes(), Propellers: yes()})
	if _, err := w.Flash(t.Context(), id, app.FlashAsk{Image: image, Output: "A"}); code(err) != "propellers-on" {
		t.Errorf("with propellers: %v", err)
	}
	w.set(b, protocol.Things{Propellers: no()})
	before := w.settings(d)
	if _, err := w.Flash(t.Context(), id, app.FlashAsk{Image: imageFor(t, "CW45", "Causeway", "3.2.0", 9000), Output: "A"}); code(err) != "target-mismatch" {
		t.Errorf("an image for another layout: %v", err)
	}
	for _, letter := range []string{"A", "B", "C", "D"} {
		v, err := w.Flash(t.Context(), id, app.FlashAsk{Image: image, Output: letter})
		if err != nil {
			t.Fatalf("%s: %v", letter, err)
		}
		if v.Revision == 0 || unlike() != (letter != "D") {
			t.Errorf("after %s, unlike: %v", letter, unlike())
		}
	}
	if !w.savedWhole(id, before) || before["esc.B.turn"] == "" {
		t.Error("the speed controllers' settings were not saved before")
	}
	if !maps.Equal(w.settings(d), before) {
		t.Error("the settings are not what they were")
	}
	if _, err := w.Flash(t.Context(), id, app.FlashAsk{Image: image, Output: "E"}); code(err) != "device-refused" {
		t.Errorf("a speed controller that is not there: %v", err)
	}
}

// A saved list goes back whole or in part, to the board that it fits.
func TestRestoreInPart(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.bare()
	b, d := w.bench(benchtest.Dunlin(t))
	w.set(b, protocol.Things{USB: yes()})
	if _, err := w.Take(t.Context(), id, "readings.firmware.identity"); err != nil {
		t.Fatal(err)
	}
	if _, err := w.SaveBoard(t.Context(), id, "as it flew"); err != nil {
		t.Fatal(err)
	}
	saved := w.saved(id)[0]
	if saved.Why != "as it flew" || saved.Target != "HARRIER4" || saved.Version != "7.0.2" || saved.Serial != "2041" || len(saved.Fingerprint) != 8 || saved.At != w.now {
		t.Errorf("saved as %+v", saved)
	}
	for name, value := range map[string]string{"push.most": "80", "volt.cells": "4", "view.mw": "200"} {
		if err := d.Write(t.Context(), name, value); err != nil {
			t.Fatal(err)
		}
	}
	if _, err := w.RestoreBackup(t.Context(), id, saved.ID, []string{"feel"}); err != nil {
		t.Fatal(err)
	}
	if s := w.settings(d); s["push.most"] != "60" || s["volt.cells"] != "4" {
		t.Errorf("only what it feels like was to go back: push %s, cells %s", s["push.most"], s["volt.cells"])
	}
	if !slices.ContainsFunc(w.saved(id), func(b app.BackupView) bool { return strings.Contains(b.All, "push.most = 80\n") }) {
		t.Error("what was on the board was not saved before")
	}
	if _, err := w.RestoreBackup(t.Context(), id, saved.ID, nil); err != nil {
		t.Fatal(err)
	}
	if s := w.settings(d); s["volt.cells"] != "6" || s["view.mw"] != "25" {
		t.Errorf("all of it was to go back: cells %s, power %s", s["volt.cells"], s["view.mw"])
	}
	if _, err := w.RestoreBackup(t.Context(), id, saved.ID, nil); code(err) != "nothing-to-write" {
		t.Errorf("once more: %v", err)
	}
	if _, err := w.RestoreBackup(t.Context(), id, 1<<40, nil); code(err) != "no-entry" {
		t.Errorf("a list that is not there: %v", err)
	}
}

// Over a major step a saved list is not put back as it was, and to another board not what was measured.
func TestRestoreKnowsItsBoard(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.bare()
	kit := benchtest.Dunlin(t)
	kit.Version, kit.Settings = "6.4.0", map[string]string{"volt.cells": "6", "found.level.roll": "12", "found.level.done": "1", "gate.arm": "5:1885:2100"}
	b, d := w.bench(kit)
	w.set(b, protocol.Things{USB: yes()})
	ask := app.FlashAsk{Image: imageFor(t, "HARRIER4", "Marram", "7.0.2", 5000), Whole: true}
	_, err := w.Flash(t.Context(), id, ask)
	if err != nil {
		t.Fatal(err)
	}
	old := w.saved(id)[0]
	if old.Step != firmware.Major || old.Version != "6.4.0" {
		t.Errorf("saved %+v", old)
	}
	if _, err := w.RestoreBackup(t.Context(), id, old.ID, nil); code(err) != "other-version" {
		t.Errorf("an old list over a major step: %v", err)
	}
	if got := w.settings(d)["volt.cells"]; got != "0" || w.board(id).Version != "7.0.2" {
		t.Errorf("erased whole it counts on %s cells", got)
	}
	// Another board of the same kind, on the version that the list is from.
	other := benchtest.Dunlin(t)
	other.Serial, other.Version, other.Settings = "3000", "6.4.0", nil
	b, d = w.bench(other)
	w.set(b, protocol.Things{USB: yes()})
	if _, err := w.Adopt(t.Context(), id, ""); err != nil {
		t.Fatal(err)
	}
	if _, err := w.Take(t.Context(), id, "readings.firmware.identity"); err != nil {
		t.Fatal(err)
	}
	if _, err := w.RestoreBackup(t.Context(), id, old.ID, nil); err != nil {
		t.Fatal(err)
	}
	if s := w.settings(d); s["volt.cells"] != "6" || s["found.level.roll"] != "0" || s["found.level.done"] != "0" {
		t.Errorf("put back on another board: cells %s, level %s, measured %s", s["volt.cells"], s["found.level.roll"], s["found.level.done"])
	}
}

// An image tells without any board whose memory it is for.
func TestAnImageTellsWhatItIsFor(t *testing.T) {
	for target, speed := range map[string]bool{"HARRIER4": false, "CW60": true} {
		at := map[bool]uint32{false: 0x08008000, true: 0x1000}[speed]
		img, err := firmware.BuildImage(firmware.Header{Target: target, Line: "Marram", Version: "7.0.2"}, at, bytes.Repeat([]byte("shingle "), 64))
		if err != nil {
			t.Fatal(err)
		}
		if v := app.DescribeImage(img); v.Speed != speed || !v.Fits || v.Target != target {
			t.Errorf("%s: %+v", target, v)
		}
	}
}

// A flash waits for the reading that goes on, and is not begun twice.
func TestAFlashWaitsForAReading(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	b := w.attach()
	w.set(b, protocol.Things{USB: yes(), Pack: yes(), Radio: yes()})
	w.until("channels arrive", func() bool { _, err := w.Take(t.Context(), id, "readings.sticks.axes.pitch"); return err == nil })
	image := imageFor(t, "HARRIER4", "Marram", "7.0.2", 5000)
	errs := make(chan error, 3)
	go func() {
		errs <- w.captures(id, "readings.sticks.axes.roll") // moves the stick for seconds
	}()
	for range 2 {
		go func() {
			_, err := w.Flash(t.Context(), id, app.FlashAsk{Image: image})
			errs <- err
		}()
	}
	refused := 0
	for range 3 {
		if err := <-errs; code(err) == "busy" {
			refused++
		} else if err != nil {
			t.Error(err)
		}
	}
	if refused != 1 {
		t.Errorf("%d of two flashes were refused, want one", refused)
	}
	if w.reading(id, check.Sticks, "readings.sticks.axes.roll") == "" {
		t.Error("the reading was not kept")
	}
}
