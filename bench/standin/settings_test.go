package standin

import (
	"math"
	"slices"
	"testing"

	"vividperch/bench/protocol"
	"vividperch/core/firmware"
	"vividperch/core/flight"
	"vividperch/core/quad"
)

// under is the build that the tests of settings are about; they are not run side by side.
var under = struct{ line, version string }{"Marram", "7.0.2"}

// kit of a bench on which nothing is wrong, written out here so that the test depends on no demo data. Its settings
// are those of the build under test.
func kit() Kit {
	k := Kit{Name: "test bench", Target: "HARRIER4", Line: under.line, Version: under.version, Gyro: 0.2, VoltScale: 1, Cells: 6}
	b, err := firmware.Find(under.line, under.version)
	if err != nil {
		panic(err)
	}
	sheet, err := b.Dictionary.Decode(b.Facts.Defaults())
	if err != nil {
		panic(err)
	}
	sheet.Craft = quad.CraftSheet{Layout: quad.LayoutX, Rotation: quad.FrontLeftClockwise}
	for letter, corner := range map[string]quad.Corner{"A": quad.FrontRight, "B": quad.RearLeft, "C": quad.FrontLeft, "D": quad.RearRight} {
		sheet.Motors.Outputs[letter] = quad.OutputPlan{Corner: corner}
	}
	for port, does := range map[string]quad.PortFunction{"1": quad.PortConfigure, "2": quad.PortReceiver, "3": quad.PortNothing, "4": quad.PortNothing} { // the others as the line has them
		sheet.Wiring.Ports[port] = quad.PortPlan{Function: does}
	}
	sheet.Link = quad.LinkSheet{}
	sheet.Sticks.Arm, sheet.Sticks.SelfLevel, sheet.Sticks.Beeper = quad.Range{Channel: 5, From: 1700, To: 2100}, quad.Range{Channel: 6, From: 1700, To: 2100}, quad.Range{Channel: 7, From: 1700, To: 2100}
	sheet.Sticks.Deadband = 0
	sheet.Watch.Cells = 6
	sheet.Motors.Idle = 5.5
	if k.Settings, err = b.Dictionary.Encode(sheet, nil); err != nil {
		panic(err)
	}
	k.Wired = map[string]quad.OutputActual{
		"A": {Corner: quad.FrontRight, Spin: quad.CounterClockwise}, "B": {Corner: quad.RearLeft, Spin: quad.CounterClockwise},
		"C": {Corner: quad.FrontLeft, Spin: quad.Clockwise}, "D": {Corner: quad.RearRight, Spin: quad.Clockwise},
	}
	k.StartsAt = map[string]float64{"A": 3.4, "B": 3.6, "C": 3.3, "D": 3.5}
	k.Radio.Order, k.Radio.Travel, k.Radio.Jitter = "AETR", 100, 0
	k.Radio.Switches = []KitSwitch{
		{Name: "arm", Channel: 5, Positions: []string{"safe", "armed"}, Pulses: map[string]float64{"safe": 1000, "armed": 1900}, Rest: "safe"},
		{Name: "mode", Channel: 6, Positions: []string{"acro", "level"}, Pulses: map[string]float64{"acro": 1000, "level": 2000}, Rest: "acro"},
		{Name: "beep", Channel: 7, Positions: []string{"quiet", "beeper"}, Pulses: map[string]float64{"quiet": 1000, "beeper": 2000}, Rest: "quiet"},
	}
	k.Receiver.OnLoss, k.Receiver.Port = quad.LossSilence, "2"
	k.Meter.Volts, k.Meter.Idle = 24, 0.45
	ports := map[string]quad.PortPart{}
	for _, port := range []string{"1", "2", "3", "4", "5", "6"} {
		ports[port] = quad.PortPart{Send: true, Receive: true, Inverts: true}
	}
	k.Parts = quad.Parts{
		Board:     quad.BoardPart{Ports: ports},
		Frame:     quad.Frame{ArmFront: 80, ArmSide: 80, LegHeight: 25, DragArea: 0.001},
		Motor:     quad.Motor{KV: 1700, Resistance: 55, IdleCurrent: 1.1, Poles: 14, TimeConst: 20},
		Propeller: quad.Propeller{Diameter: 127, Thrust: 0.18, Power: 0.12, Reversed: 0.5},
	}
	return k
}

// bench is a device with a changed sheet written to it through the dictionary, the way a pilot does it.
type benchUnderTest struct {
	*testing.T
	*Device
	sheet quad.Sheet
}

func written(t *testing.T, k Kit, changes map[quad.Path]string) *benchUnderTest {
	t.Helper()
	d, err := New(k, 1)
	if err != nil {
		t.Fatal(err)
	}
	sheet, err := d.build.Dictionary.Decode(d.settings)
	if err != nil {
		t.Fatal(err)
	}
	meant := quad.Meant{Sheet: sheet}
	for _, p := range quad.SortedKeys(changes) {
		if err := quad.Set(&meant, p, []byte(changes[p])); err != nil {
			t.Fatal(err)
		}
	}
	raw, err := d.build.Dictionary.Encode(meant.Sheet, d.settings)
	if f := quad.AsFault(err); f != nil && f.Code == "no-counterpart" {
		t.Skipf("%s cannot say it: %v", under.line, err)
	}
	if err != nil {
		t.Fatal(err)
	}
	d.pack = true // the speed controllers answer only so
	for _, c := range d.build.Changes(d.settings, raw) {
		if err := d.write(protocol.Write{Name: c.Name, Value: c.After}); err != nil {
			t.Fatalf("%s = %s: %v", c.Name, c.After, err)
		}
	}
	d.radio = true
	d.Advance(1000)
	return &benchUnderTest{t, d, meant.Sheet}
}

func (b *benchUnderTest) close(what string, got, want, tolerance float64) {
	b.Helper()
	if !(math.Abs(got-want) <= tolerance) {
		b.Errorf("%s: %.5g, want %.5g", what, got, want)
	}
}

// frame for the body alone: armed, sticks given, level or acro.
func frame(level bool, roll, pitch, throttle, yaw float64) flight.Sticks {
	s := flight.Sticks{Heard: true, Channels: quad.Pulses{1500 + 500*roll, 1500 + 500*pitch, 1000 + 1000*throttle, 1500 + 500*yaw, 1900, 1000, 1000, 1000}}
	if level {
		s.Channels[5] = 2000
	}
	return s
}

// armed board in the air, held where Hold puts it.
func (b *benchUnderTest) arm() *flight.Stepper {
	s := b.body
	off := frame(false, 0, 0, 0, 0)
	off.Channels[4] = 1000
	s.Hold(0, 0, [3]float64{})
	s.Step(off)
	s.Step(frame(false, 0, 0, 0, 0))
	if !s.Armed() {
		b.Fatal("it does not arm")
	}
	return s
}

// turn flies acro from a hand's throw and gives the rotation it settles at for a stick, deg/s.
func (b *benchUnderTest) turn(axis int, stick float64) float64 {
	s := b.arm()
	in := [3]float64{}
	in[axis] = stick
	for range 1500 {
		s.Step(frame(false, in[0], in[1], 0.45, in[2]))
	}
	return s.State().Rates[axis]
}

// duties of the corners with the sticks and rotation given, held still in the air.
func (b *benchUnderTest) duties(steps int, rates func(n int) [3]float64, f flight.Sticks) [4]float64 {
	s := b.arm()
	for n := range steps {
		s.Hold(0, 0, rates(n))
		s.Step(f)
	}
	return s.State().Duty
}

// differential throttle, as a share of full, of an axis: half the difference between its two sides.
func differential(duty [4]float64, axis int) float64 {
	side := [3][4]float64{{1, -1, 1, -1}, {1, 1, -1, -1}, {-1, 1, 1, -1}}[axis] // left, front, counter-clockwise rotors
	sum := 0.0
	for i := range duty {
		sum += side[i] * duty[i]
	}
	return sum / 4
}

func (b *benchUnderTest) hold(m protocol.Motion, ms int) protocol.Live {
	b.Helper()
	for left := ms; left > 0; left -= 100 {
		if err := b.move(m); err != nil {
			b.Fatal(err)
		}
		b.Advance(min(left, 100))
	}
	return b.live()
}

var armMotion = protocol.Motion{Kind: "arm", Switch: "arm", Position: "armed"}

// armsAt says whether the board arms with its switch giving a pulse on a channel.
func armsAt(t *testing.T, changes map[quad.Path]string, channel int, us float64) bool {
	t.Helper()
	k := kit()
	k.Radio.Switches[0].Channel, k.Radio.Switches[0].Pulses = channel, map[string]float64{"safe": 1000, "armed": us}
	if channel == 8 {
		k.Radio.Switches = k.Radio.Switches[:1]
	}
	return written(t, k, changes).hold(armMotion, 300).Armed
}

// Every mapped setting of every version of every line, written through the dictionary, does what the sheet's unit
// says: 670 deg/s written are 670 turned. The dictionaries and this stand-in were written apart; a wrong unit in one
// of them shows here.
func TestEveryMappedSettingDoesWhatTheSheetSaysUnraced(t *testing.T) {
	if raced {
		t.Skip("one thing after another: run without the race detector")
	}
	before := under
	defer func() { under = before }()
	seen := map[quad.Path]bool{}
	for _, name := range firmware.LineNames() {
		line, _ := firmware.FindLine(name)
		builds := line.Builds()
		for i, b := range builds {
			if !long && i > 0 && i < len(builds)-1 {
				continue // what changed at one of these is as it was or as it is now: bin/test --long looks at each
			}
			under.line, under.version = name, b.Version.Version
			for _, p := range b.Dictionary.Paths() {
				check, ok := behaviours[p]
				if !ok {
					t.Errorf("%s is mapped, but nothing is checked that it does", p)
					continue
				}
				seen[p] = true
				t.Run(name+" "+b.Version.Version+" "+string(p), func(t *testing.T) { check(t, p) })
			}
		}
	}
	for p := range behaviours {
		if !seen[p] {
			t.Errorf("%s is checked, but no longer mapped", p)
		}
	}
}

// Every line that ships has one entry that speaks for its boards, and no line has two.
func TestEveryLineHasItsFamily(t *testing.T) {
	var names []string
	for _, f := range families {
		names = append(names, f.line)
	}
	slices.Sort(names)
	if want := firmware.LineNames(); !slices.Equal(names, want) {
		t.Errorf("families %v, lines %v", names, want)
	}
	k := kit()
	k.Line = "Unheard"
	if _, err := New(k, 1); err == nil {
		t.Error("a board of a line that nobody speaks for")
	}
}
