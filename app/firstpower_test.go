package app_test

import (
	"encoding/json"
	"strings"
	"testing"
	"time"

	"vividperch/app"
	"vividperch/bench/client"
	"vividperch/bench/protocol"
	"vividperch/bench/standin"
	"vividperch/core/power"
	"vividperch/core/quad"
	"vividperch/demo/benchtest"
)

// What is drawn at the first power is what the rules judge by: the same shape, the same sum, and the first device that is off by name.
func TestFirstPowerIsDrawnAsItIsJudged(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	v := figures(w, id, w.FirstPower)
	if v.Shape != power.LeadClimbs || len(v.Good) != 41 || len(v.Taken) != 2 || v.Idle == nil || len(v.Steps) != 4 {
		t.Fatalf("%+v", v)
	}
	for _, b := range v.Video {
		if b.Set != (b.Power == 25) || b.Still > 0 && b.Fan > 0 && b.Fan < b.Still {
			t.Errorf("%+v", b)
		}
	}
	if _, err := w.Told(t.Context(), id, "readings.firstPower.leadResistance", json.RawMessage(`{"atOnce":1.2,"after":1.5}`)); err != nil {
		t.Fatal(err)
	}
	if v = figures(w, id, w.FirstPower); v.Shape != power.LeadShorted || !strings.Contains(v.Says, "Connect nothing") {
		t.Errorf("%s: %s", v.Shape, v.Says)
	}
	if !v.Allowed || v.Channel != "It comes on at 5780 MHz with 25 mW: allowed here. Ask whoever flies nearby whether it is free." {
		t.Errorf("its channel: %v, %q", v.Allowed, v.Channel)
	}
	w.edit(id, "sheet.picture.frequency", "5600")
	if v = figures(w, id, w.FirstPower); v.Allowed || !strings.Contains(v.Channel, "that frequency is not allowed here") {
		t.Errorf("on a frequency that is not allowed: %v, %q", v.Allowed, v.Channel)
	}
	w.edit(id, "sheet.picture.frequency", "5780")
	if look, err := w.LeadLooks(t.Context(), id, []power.Ohm{{Time: 0, Ohms: 60000}, {Time: 5, Ohms: 41000}, {Time: 10, Ohms: 30000}}); err != nil || look.Shape != power.LeadCharged {
		t.Errorf("figures that fall: %+v, %v", look, err)
	}
	d, err := w.Deviation(t.Context(), id, []float64{0.11, 0.2, 0.7})
	if err != nil || d.Step != 2 || !strings.Contains(d.Says, "receiver") {
		t.Errorf("%+v, %v", d, err)
	}
	if d, err = w.Deviation(t.Context(), id, []float64{0.11, 0.2, 0.25, 0.44}); err != nil || d.Step != -1 || d.Says != "All of them draw what they should." {
		t.Errorf("%+v, %v", d, err)
	}
}

// A pack goes in where nothing stands against it, and no other; what burns is pulled before it has burnt, and that is an interruption.
func TestPackOfAFirstPower(t *testing.T) {
	t.Parallel()
	ctx := t.Context()
	w := newWorld(t)
	id := w.dunlin()
	soldered := func(wrong standin.KitSupply) (*app.Bench, *client.Device) {
		kit := benchtest.Dunlin(t)
		kit.Supply = wrong
		return w.bench(kit)
	}
	off := false

	b, eyes := soldered(standin.KitSupply{Reversed: true})
	if err := b.Set(ctx, protocol.Things{Propellers: &off}); err != nil {
		t.Fatal(err)
	}
	if _, err := w.Take(ctx, id, "readings.firstPower.polarity"); err != nil {
		t.Fatal(err)
	}
	if _, err := w.PowerOn(ctx, id); err == nil || !strings.Contains(err.Error(), "soldered the wrong way round") {
		t.Fatalf("plus on minus goes in: %v", err)
	}
	// A pilot who says otherwise, without a limiter, has it pulled for him.
	if _, err := w.Told(ctx, id, "readings.firstPower.polarity", json.RawMessage("true")); err != nil {
		t.Fatal(err)
	}
	w.now = w.now.Add(time.Minute)
	v, err := w.PowerOn(ctx, id)
	if err != nil {
		t.Fatal(err)
	}
	if l, err := eyes.Call(ctx, protocol.MethodLook, nil); err != nil || l.Pack || l.Smoke {
		t.Errorf("the pack is in: %v, smoke: %v, %v", l.Pack, l.Smoke, err)
	}
	asks := v.Line[1].Asks
	if len(asks) != 2 || asks[0].Path != "readings.firstPower.propellersOff" || asks[1].Path != "readings.firstPower.antennasOn" || !strings.Contains(asks[0].Why, "an interruption") {
		t.Errorf("asked anew: %+v", asks)
	}
	if _, err := w.PowerOn(ctx, id); err == nil || !strings.Contains(err.Error(), "Propellers are off") {
		t.Errorf("after the interruption: %v", err)
	}
	// Whoever else puts it in, it is pulled all the same.
	on := true
	if err := b.Set(ctx, protocol.Things{Pack: &on}); err != nil {
		t.Fatal(err)
	}
	for end := time.Now().Add(20 * time.Second); ; time.Sleep(10 * time.Millisecond) {
		l, err := eyes.Call(ctx, protocol.MethodLook, nil)
		if err != nil || l.Smoke || time.Now().After(end) {
			t.Fatalf("not pulled: %v A, smoke %v, %v", l.Amps, l.Smoke, err)
		}
		if !l.Pack {
			break
		}
	}

	b, eyes = soldered(standin.KitSupply{})
	w.now = w.now.Add(time.Minute)
	for _, path := range []quad.Path{"readings.firstPower.propellersOff", "readings.firstPower.antennasOn"} {
		if _, err := w.Told(ctx, id, path, json.RawMessage("true")); err != nil {
			t.Fatal(err)
		}
	}
	w.now = w.now.Add(time.Minute)
	if _, err := w.PowerOn(ctx, id); err != nil {
		t.Fatal(err)
	}
	if l, err := eyes.Call(ctx, protocol.MethodLook, nil); err != nil || !l.Pack || l.Board != "running" {
		t.Errorf("a sound quad: pack %v, %s, %v", l.Pack, l.Board, err)
	}
	if err := b.Cut(ctx); err != nil {
		t.Fatal(err)
	}
	if err := b.Set(ctx, protocol.Things{Propellers: &on}); err != nil {
		t.Fatal(err)
	}
	if v, err = w.PowerOn(ctx, id); err != nil || len(v.Line[1].Asks) != 2 {
		t.Errorf("with the propellers on, which it sees itself: %v, %+v", err, v.Line[1].Asks)
	}
	if l, err := eyes.Call(ctx, protocol.MethodLook, nil); err != nil || l.Pack {
		t.Errorf("and the pack is in all the same: %v, %v", l.Pack, err)
	}
}
