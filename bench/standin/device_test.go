package standin

import (
	"bytes"
	"math"
	"reflect"
	"testing"

	"vividperch/bench/protocol"
	"vividperch/core/firmware"
	"vividperch/core/quad"
	"vividperch/core/sticks"
)

func refused(t *testing.T, what string, err error) {
	t.Helper()
	if err == nil {
		t.Errorf("%s must be refused", what)
	}
}

// 250 ms after the last renewal the commanded output is zero, to the millisecond.
func TestLeaseEnds(t *testing.T) {
	for _, m := range []protocol.Motion{{Kind: "spin", Output: "A", Level: 8}, armMotion} {
		b := written(t, kit(), nil)
		b.hold(m, 600)
		if b.body.State().Duty == [4]float64{} {
			t.Fatalf("%s: nothing runs while it is held", m.Kind)
		}
		if err := b.move(m); err != nil {
			t.Fatal(err)
		}
		b.Advance(protocol.LeaseMillis - 1)
		if b.body.State().Duty == [4]float64{} {
			t.Errorf("%s: it stopped before its lease ended", m.Kind)
		}
		b.Advance(1)
		if got := b.body.State().Duty; got != [4]float64{} || b.live().Motion != "" || b.live().Armed {
			t.Errorf("%s: 250 ms after the last renewal the duty is %v", m.Kind, got)
		}
		b.Advance(1500)
		for c, seen := range b.live().Corners {
			if seen.Turning {
				t.Errorf("%s: %s still turns", m.Kind, c)
			}
		}
	}
}

// Whatever the switches say, nothing turns that nobody holds.
func TestNothingTurnsThatNobodyHolds(t *testing.T) {
	b := written(t, kit(), nil)
	b.switches["arm"] = "armed"
	b.Advance(2000)
	if b.live().Armed || b.body.State().Duty != [4]float64{} {
		t.Error("it armed from a switch that lies on")
	}
	refused(t, "latching the arm switch", b.stick(protocol.Stick{Switch: "arm", Position: "armed"}))
}

func TestCutStopsAtOnce(t *testing.T) {
	b := written(t, kit(), nil)
	b.hold(armMotion, 500)
	b.pack = false
	b.power(true)
	b.Advance(1)
	if b.body.State().Duty != [4]float64{} || b.live().Armed || b.live().Board != "off" {
		t.Error("the pack is out and something runs")
	}
	refused(t, "a motion without a pack", b.move(armMotion))
}

// What the pilot sees of a spin: the corner that really moves, and the way it really turns.
func TestSpinShowsTheTruth(t *testing.T) {
	k := kit()
	k.Wired["B"] = quad.OutputActual{Corner: quad.RearLeft, Spin: quad.Clockwise}
	b := written(t, k, nil)
	for letter, w := range k.Wired {
		l := b.hold(protocol.Motion{Kind: "spin", Output: letter, Level: 5}, 400)
		for c, seen := range l.Corners {
			if seen.Turning != (c == w.Corner) || seen.Turning && seen.Spin != w.Spin {
				t.Errorf("output %s: %s is seen as %+v", letter, c, seen)
			}
		}
		b.rest()
		b.Advance(1500)
		below := b.hold(protocol.Motion{Kind: "spin", Output: letter, Level: k.StartsAt[letter] - 0.1}, 400)
		if below.Corners[w.Corner].Turning {
			t.Errorf("output %s turns below where it starts", letter)
		}
		b.rest()
		b.Advance(100)
	}
	refused(t, "an output that is not there", b.move(protocol.Motion{Kind: "spin", Output: "Q"}))
	refused(t, "a motion that is none", b.move(protocol.Motion{Kind: "fly"}))
	b.hold(armMotion, 300)
	refused(t, "spinning one motor while armed", b.move(protocol.Motion{Kind: "spin", Output: "A", Level: 5}))
}

// A frame a page may see holds nothing that an eye, an ear, a meter or the board would not give: the kit's
// faults cannot be read out of it at rest.
func TestLiveDoesNotLeakTheFaults(t *testing.T) {
	honest, faulty := kit(), kit()
	faulty.Wired = map[string]quad.OutputActual{"A": {Corner: quad.RearLeft, Spin: quad.Clockwise}, "B": {Corner: quad.FrontRight, Spin: quad.Clockwise}, "C": {Corner: quad.RearRight, Spin: quad.Clockwise}, "D": {Corner: quad.FrontLeft, Spin: quad.Clockwise}}
	faulty.StartsAt = map[string]float64{"A": 9, "B": 9, "C": 9, "D": 9}
	faulty.VoltScale = 1000.0 / 1100
	see := func(k Kit) protocol.Live {
		d, err := New(k, 1)
		if err != nil {
			t.Fatal(err)
		}
		d.Advance(500)
		return d.live()
	}
	if a, b := see(honest), see(faulty); !reflect.DeepEqual(a, b) {
		t.Errorf("without power they look different:\n%+v\n%+v", a, b)
	}
}

func TestReceiverOnLoss(t *testing.T) {
	for out, want := range map[quad.LossOutput]string{quad.LossSilence: "silent", quad.LossHold: "the same", quad.LossPreset: "other"} {
		k := kit()
		k.Receiver.OnLoss = out
		b := written(t, k, nil)
		b.place[quad.Roll] = 0.6
		b.Advance(50)
		before := b.live().Channels
		b.radio = false
		b.Advance(50)
		after := b.live().Channels
		got := "other"
		switch {
		case len(after) == 0:
			got = "silent"
		case math.Abs(after[0]-before[0]) < 1:
			got = "the same"
		}
		if got != want {
			t.Errorf("%s: channels are %s, want %s", out, got, want)
		}
	}
}

func TestGatesHoldOnTheBoard(t *testing.T) {
	b := written(t, kit(), map[quad.Path]string{"sheet.sticks.armTilt": "25"})
	b.usb = true
	if l := b.hold(armMotion, 400); l.Armed {
		t.Error("it armed with USB attached")
	}
	b.usb = false
	b.rest()
	b.Advance(100)
	b.tilt = [2]float64{40, 0}
	b.Advance(500) // moved, it settles anew
	if l := b.hold(armMotion, 400); l.Armed {
		t.Error("it armed leaning by 40°")
	}
	holds := ""
	for _, g := range b.live().Gates {
		if g.Holds {
			holds += g.Name + " "
		}
	}
	if holds != "tilt " {
		t.Errorf("gates that hold: %q", holds)
	}
	b.tilt = [2]float64{}
	b.rest()
	b.Advance(100)
	if l := b.hold(armMotion, 400); !l.Armed {
		t.Error("upright and unplugged it must arm")
	}
}

func TestLevelIsTakenOnThePlate(t *testing.T) {
	k := kit()
	k.Mount.Roll, k.Mount.Pitch = 2.6, -1.4
	b := written(t, k, nil)
	if l := b.live(); l.Roll != 2.6 || l.Pitch != -1.4 {
		t.Errorf("on the plate it shows %v, %v", l.Roll, l.Pitch)
	}
	if err := b.level(nothing{}); err != nil {
		t.Fatal(err)
	}
	b.Advance(10)
	if l := b.live(); l.Roll != 0 || l.Pitch != 0 {
		t.Errorf("after taking level it shows %v, %v", l.Roll, l.Pitch)
	}
	b.tilt = [2]float64{10, 0}
	b.Advance(10)
	if l := b.live(); !(math.Abs(l.Roll-10) <= 0.05) {
		t.Errorf("tilted by 10 it shows %v", l.Roll)
	}
}

func TestMeter(t *testing.T) {
	k := kit()
	k.Meter.Frame, k.Parts.Capacitor.Capacitance = 2200, 1000
	b := written(t, k, nil)
	_, err := b.meter(protocol.Probe{Where: "leadAtOnce"})
	refused(t, "an ohmmeter on a live lead", err)
	b.pack = false
	b.power(true)
	got, err := b.meter(protocol.Probe{Where: "leadAfter"})
	if err != nil || !(math.Abs(got.Value-8200) <= 200) {
		t.Errorf("%v, %v", got, err)
	}
	_, err = b.meter(protocol.Probe{Where: "current"})
	refused(t, "a current without a pack", err)
	_, err = b.meter(protocol.Probe{Where: "the moon"})
	refused(t, "a place that is none", err)
}

// The same seed gives the same bench, another seed another noise.
func TestSeeded(t *testing.T) {
	channels := func(seed uint64) [][]float64 {
		k := kit()
		k.Radio.Jitter = 0.5
		d, err := New(k, seed)
		if err != nil {
			t.Fatal(err)
		}
		d.pack, d.radio = true, true
		var out [][]float64
		for range 20 {
			d.Advance(25)
			out = append(out, d.live().Channels)
		}
		return out
	}
	if !reflect.DeepEqual(channels(3), channels(3)) || reflect.DeepEqual(channels(3), channels(4)) {
		t.Error("noise does not follow its seed")
	}
}

func image(t *testing.T, target, version string) firmware.Image {
	t.Helper()
	img, err := firmware.BuildImage(firmware.Header{Target: target, Line: "Marram", Version: version}, 0x08008000, bytes.Repeat([]byte{1, 2, 3, 4}, 3000))
	if err != nil {
		t.Fatal(err)
	}
	return img
}

// flash writes an image until a share of it is written, and then does whatever then says.
func flash(t *testing.T, b *benchUnderTest, img firmware.Image, share float64, then func()) error {
	t.Helper()
	if err := b.enterBoot(protocol.Which{}); err != nil {
		return err
	}
	if err := b.erase(protocol.Erase{Keep: true}); err != nil {
		return err
	}
	data := img.Segments[0].Data
	for at := 0; at < len(data); at += 1000 {
		if float64(at) >= share*float64(len(data)) {
			then()
		}
		if err := b.block(protocol.Block{Address: img.Segments[0].Address + uint32(at), Data: data[at:min(at+1000, len(data))]}); err != nil {
			return err
		}
	}
	return b.reboot(protocol.Which{})
}

func TestSettingsSurviveACablePulledAtHalf(t *testing.T) {
	b := written(t, kit(), map[quad.Path]string{"sheet.motors.idle": "7.5"})
	refused(t, "a bootloader without USB", b.enterBoot(protocol.Which{}))
	b.pack, b.usb = false, true
	before, err := b.list(nothing{})
	if err != nil {
		t.Fatal(err)
	}
	img := image(t, "HARRIER4", "7.0.3")
	pull := func() { b.usb = false; b.power(true) }
	refused(t, "a block over a pulled cable", flash(t, b, img, 0.5, pull))
	b.usb = true
	b.power(false)
	if id, _ := b.identify(protocol.Which{}); !id.Bootloader || id.Target != "HARRIER4" || id.Version != "" {
		t.Errorf("half flashed it must wait in its bootloader and know its target: %+v", id)
	}
	refused(t, "leaving the bootloader half flashed", b.reboot(protocol.Which{}))
	if err := flash(t, b, img, 2, func() {}); err != nil {
		t.Fatalf("flashing again: %v", err)
	}
	if id, _ := b.identify(protocol.Which{}); id.Bootloader || id.Version != "7.0.3" {
		t.Errorf("flashed: %+v", id)
	}
	after, err := b.list(nothing{})
	if err != nil || !reflect.DeepEqual(before, after) {
		t.Errorf("the saved settings are not what they were: %v", err)
	}
}

func TestBoardKeepsWrongImagesOut(t *testing.T) {
	b := written(t, kit(), nil)
	b.usb = true
	refused(t, "another board's image", flash(t, b, image(t, "OLDPIER", "1"), 2, func() {}))
	if id, _ := b.identify(protocol.Which{}); !id.Bootloader {
		t.Error("it runs another board's image")
	}
	refused(t, "a block over the bootloader", b.block(protocol.Block{Address: 0x08000000, Data: []byte{1}}))
	if err := flash(t, b, image(t, "HARRIER4", "7.0.2"), 2, func() {}); err != nil {
		t.Errorf("the right one afterwards: %v", err)
	}
}

func TestWriteRefuses(t *testing.T) {
	b := written(t, kit(), nil)
	for name, w := range map[string]protocol.Write{
		"a name that is none": {Name: "no.such", Value: "1"}, "out of range": {Name: "lean.limit", Value: "9000"},
		"a word that is none": {Name: "craft.shape", Value: "ring"}, "an order that is none": {Name: "hear.order", Value: "AAAA"},
	} {
		before := b.settings[w.Name]
		refused(t, name, b.write(w))
		if b.settings[w.Name] != before {
			t.Errorf("%s was refused and written", name)
		}
	}
	b.pack, b.usb = false, true
	refused(t, "a speed controller's setting without the pack", b.write(protocol.Write{Name: "esc.B.turn", Value: "reversed"}))
	if list, _ := b.list(nothing{}); list.Settings["esc.B.turn"] != "" || list.Settings["out.rest"] == "" {
		t.Error("speed controllers must be silent without the pack, the board not")
	}
}

// Whatever may hinder arming does, is told by its gate and by no other, and no motor turns.
func TestEveryHindranceHolds(t *testing.T) {
	for _, name := range []string{"calibration", "fix", "hold", "expired", "selfRight", "overload"} {
		k := kit()
		k.Hinders = []string{name}
		b := written(t, k, nil)
		l := b.hold(armMotion, 800)
		holds := ""
		for _, g := range l.Gates {
			if g.Holds {
				holds += g.Name + " "
			}
		}
		if l.Armed || holds != name+" " {
			t.Errorf("%s: armed %v, gates that hold: %q", name, l.Armed, holds)
		}
	}
}

// Armed by stick on the bench: the frame moved while the gyro is calibrated keeps it from arming and is told with its signal; made
// again it arms; nothing turns when the hand lets go.
func TestSanderlingIsArmedByStick(t *testing.T) {
	k := kit()
	k.Line, k.Version, k.Settings = "Shingle", "2.4.0", map[string]string{"ArmByStick": "yes", "SerialJob2": "3", "LevelDone": "1"}
	d, err := New(k, 1)
	if err != nil {
		t.Fatal(err)
	}
	d.pack, d.radio = true, true
	d.power(false)
	d.Advance(1000)
	hold := func(ms int) {
		t.Helper()
		for range ms / 100 {
			if err := d.move(protocol.Motion{Kind: "gesture"}); err != nil {
				t.Fatal(err)
			}
			d.Advance(100)
		}
	}
	gate := func(name string) sticks.Gate {
		for _, g := range d.live().Gates {
			if g.Name == name {
				return g
			}
		}
		t.Fatalf("no gate %s", name)
		return sticks.Gate{}
	}
	if g := gate("gesture"); !g.Holds {
		t.Errorf("%+v", g)
	}
	hold(1500)
	d.tilt[0] = 8
	hold(500)
	if l := d.live(); l.Armed || l.Calibration != sticks.CalibrationFailed {
		t.Fatalf("moved, it is armed %v, calibration %q", l.Armed, l.Calibration)
	}
	if g := gate("still"); !g.Holds || g.Signal == "" || d.live().Gates[0].Name != "still" {
		t.Errorf("%+v", g)
	}
	d.rest()
	d.Advance(800)
	hold(3200)
	if !d.live().Armed {
		t.Fatal("made again, it does not arm")
	}
	d.Advance(400) // nobody holds
	if l := d.live(); l.Armed || l.Motion != "" {
		t.Errorf("nobody holds, and it is armed: %v", l.Armed)
	}
}

// A hand that holds a board with reversible thrust armed leaves the throttle in its middle: all the way down is full thrust at the ground.
func TestHoldRestsTheThrottleWhereTheBoardDoes(t *testing.T) {
	for reversible, want := range map[string]float64{"false": 1000, "true": 1500} {
		d := written(t, kit(), map[quad.Path]string{
			"sheet.motors.reversible": reversible, "sheet.motors.outputs.A.bothWays": reversible, "sheet.motors.outputs.B.bothWays": reversible,
			"sheet.motors.outputs.C.bothWays": reversible, "sheet.motors.outputs.D.bothWays": reversible,
		})
		d.travel = 100
		for _, level := range []float64{0, 50} {
			if err := d.move(protocol.Motion{Kind: protocol.MotionArm, Switch: "arm", Position: "armed", Level: level}); err != nil {
				t.Fatal(err)
			}
			d.Advance(200)
			if got := d.channels[2]; !(math.Abs(got-(want+(2000-want)*level/100)) <= 5) {
				t.Errorf("reversible %s: held at %v %% the throttle sends %v µs", reversible, level, got)
			}
		}
		d.rest()
		d.Advance(200)
		if got := d.channels[2]; !(math.Abs(got-want) <= 5) {
			t.Errorf("reversible %s: let go, the throttle sends %v µs", reversible, got)
		}
	}
}
