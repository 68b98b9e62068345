package standin

import (
	"math"
	"testing"

	"vividperch/bench/protocol"
	"vividperch/core/quad"
	"vividperch/core/senses"
)

// A bench that leans shows its lean one way as the quad stands and the other way once it is turned half round; shims of the right height take it away, and stay
// where they are when the quad is turned on them. What is left is the board's own.
func TestPlateOnALeaningBench(t *testing.T) {
	b := homer(t, KitSenses{})
	b.kit.Bench = KitBench{Roll: 1.4, Pitch: -0.8}
	ownRoll, ownPitch := 0.0, 0.0
	look := func(nose float64) (roll, pitch float64) {
		if err := b.set(protocol.Things{Nose: &nose}); err != nil {
			t.Fatal(err)
		}
		b.Advance(20)
		l := b.live()
		return l.Roll, l.Pitch
	}
	r0, p0 := look(0)
	r1, p1 := look(180)
	ownRoll, ownPitch = (r0+r1)/2, (p0+p1)/2
	if !(math.Abs((r0-r1)/2-1.4) <= 0.11) || !(math.Abs((p0-p1)/2+0.8) <= 0.11) {
		t.Errorf("it leans by %v %v", (r0-r1)/2, (p0-p1)/2)
	}
	look(0)
	// Right side down by 1.4 degrees over 250 mm: as much under the right side; the nose down by 0.8 over 200: under the front.
	shims := protocol.Shims{Roll: -250 * math.Tan(1.4*math.Pi/180), Pitch: 200 * math.Tan(0.8*math.Pi/180), Across: 250, Along: 200}
	if err := b.set(protocol.Things{Shims: &shims}); err != nil {
		t.Fatal(err)
	}
	for _, nose := range []float64{0, 90, 180, 270} {
		if r, p := look(nose); !(math.Abs(r-ownRoll) <= 0.11) || !(math.Abs(p-ownPitch) <= 0.11) {
			t.Errorf("with shims, at %v°: %v %v, its own %v %v", nose, r, p, ownRoll, ownPitch)
		}
	}
	if err := b.set(protocol.Things{Shims: &protocol.Shims{Across: 0, Along: 200}}); err == nil {
		t.Error("a plate of no width")
	}
}

// laidOn is what an accelerometer shows while the hand lays it on its faces.
func laidOn(t *testing.T, b *benchUnderTest) senses.Laid {
	t.Helper()
	if err := b.startSweep(protocol.Sweep{Faces: true}); err != nil {
		t.Fatal(err)
	}
	var list []senses.Vector
	for range len(faces)*faceTime/50 + 20 {
		b.Advance(50)
		if a := b.live().Accel; len(a) == 3 {
			list = append(list, senses.Vector{a[0], a[1], a[2]})
		}
	}
	laid, err := senses.LaidOnFaces(list)
	if err != nil || laid.Fit == nil {
		t.Fatalf("%+v, %v", laid, err)
	}
	return laid
}

// Laid on its six faces an accelerometer tells what it is really like; a board of the family that wants them takes them in, and shows level rightly from
// then on, whichever way it is laid. Others hold on to what they had.
func TestSixFacesAreTold(t *testing.T) {
	with := KitAccel{Offset: [3]float64{0.05, -0.03, 0.02}, Gain: [3]float64{0.02, -0.01, 0.015}}
	for _, c := range []struct {
		kit, version string
		learns       bool
	}{{"Shingle", "2.4.0", true}, {"Spindrift", "9.1.0", false}} {
		was := under
		under.line, under.version = c.kit, c.version
		k := kit()
		k.Accel = with
		b := written(t, k, nil)
		under = was
		first := laidOn(t, b)
		for i := range 3 {
			if !(math.Abs(first.Fit.Offset[i]-with.Offset[i]) <= 0.004) || !(math.Abs(math.Abs(first.Fit.Scale[i])-1-with.Gain[i]) <= 0.004) {
				t.Errorf("%s, axis %d: %v and %v", c.kit, i, first.Fit.Offset[i], first.Fit.Scale[i])
			}
		}
		second := laidOn(t, b)
		left := math.Max(math.Abs(second.Fit.Offset[0]), math.Abs(second.Fit.Offset[1]))
		if c.learns != (left < 0.005) || c.learns != (b.settings["AccelDone"] == "1") {
			t.Errorf("%s: %v g is left, learned %q", c.kit, left, b.settings["AccelDone"])
		}
	}
}

// What the gyro feels while it is turned every way belongs to what the compass sees: the mount is found from both.
func TestCompassMountIsFeltByTheGyro(t *testing.T) {
	for _, with := range []KitSenses{{Iron: [3]float64{14, -9, 22}, Turned: 90}, {Iron: [3]float64{3, 5, 2}, Turned: 225}, {Turned: 180, OnItsBack: true}} {
		b := homer(t, with)
		if err := b.startSweep(protocol.Sweep{Every: true}); err != nil {
			t.Fatal(err)
		}
		var list []senses.Vector
		var moved []senses.Moved
		for range everyWay / 50 {
			b.Advance(50)
			l := b.live()
			list = append(list, senses.Vector{l.Compass[0], l.Compass[1], l.Compass[2]})
			moved = append(moved, senses.Moved{Time: float64(l.Time) / 1000, Compass: list[len(list)-1], Turns: l.Turns})
		}
		fit, err := senses.FitCompass(list)
		if err != nil {
			t.Fatal(err)
		}
		m, err := senses.MountByMotion(moved, &fit)
		if err != nil || m.Tell != with.Turned || m.OnItsBack != with.OnItsBack || m.Askew > 4 {
			t.Errorf("%+v: %+v, %v", with, m, err)
		}
	}
}

// Lost on the bench a return begins with a climb where the board knew its place as it was armed, and its home with it; with too few satellites, with a home
// that was never set, and with another policy it goes to the landing throttle, or stops.
func TestEachPolicyOnTheBench(t *testing.T) {
	for _, c := range []struct {
		name   string
		policy quad.Policy
		armsAt int // s after power-up
		with   KitSenses
		pace   string // after the loss: rises, lands, stops
		home   bool   // it says, armed, that it knows home
	}{
		{"home known", quad.PolicyReturn, 40, KitSenses{}, "rises", true},
		{"armed before a position was known", quad.PolicyReturn, 2, KitSenses{}, "lands", false},
		{"too few satellites", quad.PolicyReturn, 60, KitSenses{Satellites: 5}, "lands", true}, // it solves a place by them, and wants more to fly by
		{"descends", quad.PolicyLand, 40, KitSenses{}, "lands", false},
		{"stops", quad.PolicyDrop, 40, KitSenses{}, "stops", false},
	} {
		b := policed(t, c.with, c.policy)
		b.set(protocol.Things{Pack: off()})
		b.Advance(50)
		b.set(protocol.Things{Pack: on()})
		b.Advance(1000 * c.armsAt)
		hold := func(ms int) {
			for range ms / 100 {
				if err := b.move(protocol.Motion{Kind: protocol.MotionArm, Switch: "arm", Position: "armed", Level: 30}); err != nil {
					t.Fatalf("%s: %v", c.name, err)
				}
				b.Advance(100)
			}
		}
		pace := func() float64 {
			sum := 0.0
			for _, r := range b.body.State().Rotors {
				sum += math.Abs(r)
			}
			return sum
		}
		if err := b.move(protocol.Motion{Kind: protocol.MotionArm, Switch: "arm", Position: "armed"}); err != nil {
			t.Fatal(err)
		}
		b.Advance(100)
		hold(25_000) // until any sky that comes has come
		before := pace()
		if home := b.live().Home; home != c.home {
			t.Errorf("%s: it says that it knows home: %v", c.name, home)
		}
		if before < 1000 {
			t.Fatalf("%s: it does not turn: %+v", c.name, b.live().Gates)
		}
		b.set(protocol.Things{Radio: off()})
		hold(2500)
		after, got := pace(), "lands"
		switch {
		case after < 500:
			got = "stops"
		case after > before:
			got = "rises"
		}
		if got != c.pace {
			t.Errorf("%s: from %.0f to %.0f rpm", c.name, before, after)
		}
	}
}

// policed is a board of the navigation line with a policy on radio loss, its landing throttle low.
func policed(t *testing.T, with KitSenses, policy quad.Policy) *benchUnderTest {
	t.Helper()
	b := homer(t, with)
	raw, err := b.build.Dictionary.Encode(func() quad.Sheet {
		s := b.sheet
		s.Loss.Policy, s.Loss.LandThrottle, s.Loss.Way, s.Loss.WayHeight, s.Loss.AtHome = policy, 12, quad.WaySet, 30, quad.HomeLands
		return s
	}(), b.settings)
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range b.build.Changes(b.settings, raw) {
		if err := b.write(protocol.Write{Name: c.Name, Value: c.After}); err != nil {
			t.Fatal(err)
		}
	}
	return b
}

func on() *bool  { yes := true; return &yes }
func off() *bool { no := false; return &no }
