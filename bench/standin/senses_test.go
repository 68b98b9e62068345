package standin

import (
	"math"
	"testing"

	"vividperch/bench/protocol"
	"vividperch/core/quad"
	"vividperch/core/senses"
)

// homer is a board of the navigation line that uses all of its senses, powered a second ago.
func homer(t *testing.T, with KitSenses) *benchUnderTest {
	t.Helper()
	was := under
	under.line, under.version = "Spindrift", "9.1.0"
	defer func() { under = was }()
	k := kit()
	k.Senses = with
	k.Wires = map[string]quad.Wire{"satellite": {Port: "4"}}
	k.Parts.Wires = k.Wires
	return written(t, k, map[quad.Path]string{
		"sheet.senses.compass": "true", "sheet.senses.satellite": "true", "sheet.senses.barometer": "true", "sheet.wiring.ports.4.function": `"satellite"`,
	})
}

// What a board shows of a compass that was turned every way lies on an ellipsoid about the iron's pull, as the fit of the core finds it, written apart;
// learned by the board itself, the heading is right at every direction, and off by as much as it is turned on its mount.
func TestCompassIsLearnedByTurning(t *testing.T) {
	for _, c := range []struct {
		name string
		with KitSenses
		off  float64
	}{
		{"iron", KitSenses{Iron: [3]float64{14, -9, 22}}, 0},
		{"turned on its mount", KitSenses{Iron: [3]float64{-30, 12, 5}, Turned: 90}, 90},
		{"a declination that nobody added", KitSenses{Iron: [3]float64{3, 3, 3}, Declination: 8}, -8},
	} {
		b := homer(t, c.with)
		b.zero = [3]float64{} // never learned
		if err := b.startSweep(protocol.Sweep{Every: true}); err != nil {
			t.Fatal(err)
		}
		var list []senses.Vector
		for range everyWay/20 + 20 {
			b.Advance(20)
			shown := b.live().Compass
			if b.sweep.active {
				list = append(list, senses.Vector{shown[0], shown[1], shown[2]})
			}
		}
		fit, err := senses.FitCompass(list)
		if err != nil {
			t.Fatalf("%s: %v", c.name, err)
		}
		for i := range 3 {
			if !(math.Abs(fit.Offset[i]-c.with.Iron[i]) <= 0.5) || !(math.Abs(b.zero[i]-c.with.Iron[i]) <= 1.5) {
				t.Errorf("%s: the fit finds %v, the board %v, there is %v", c.name, fit.Offset, b.zero, c.with.Iron)
			}
		}
		if !(math.Abs(fit.Field-math.Hypot(18, 45)) <= 0.5) || fit.Covered < 0.9 {
			t.Errorf("%s: a field of %v, %v of all directions", c.name, fit.Field, fit.Covered)
		}
		for _, nose := range []float64{0, 70, 160, 250} {
			if err := b.set(protocol.Things{Nose: &nose}); err != nil {
				t.Fatal(err)
			}
			b.Advance(20)
			sum := 0.0
			for range 20 {
				sum += math.Remainder(b.live().Heading-nose-c.off, 360) / 20
			}
			if !(math.Abs(sum) <= 5) {
				t.Errorf("%s: at %v° it shows %v° besides %v", c.name, nose, sum, c.off)
			}
		}
	}
}

// A compass on its back turns the other way.
func TestCompassOnItsBackRunsBackwards(t *testing.T) {
	b := homer(t, KitSenses{OnItsBack: true})
	look := func(nose float64) float64 {
		if err := b.set(protocol.Things{Nose: &nose}); err != nil {
			t.Fatal(err)
		}
		b.Advance(20)
		return b.live().Heading
	}
	if turned := math.Remainder(look(150)-look(60), 360); !(math.Abs(turned+90) <= 6) {
		t.Errorf("turned by 90° it shows %v°", turned)
	}
}

// Counts climb by themselves after power-up; the video costs some of them for as long as it is on; the height drifts.
func TestSkyAndHeight(t *testing.T) {
	b := homer(t, KitSenses{Satellites: 14, VideoCosts: 4, Drifts: 3, Trembles: 0.05})
	first := b.live().Satellites
	b.Advance(60_000)
	mean := func(video bool) float64 {
		if err := b.set(protocol.Things{Video: &video}); err != nil {
			t.Fatal(err)
		}
		sum := 0.0
		for range 40 {
			sum += float64(b.live().Satellites) / 40
		}
		return sum
	}
	with, without := mean(true), mean(false)
	if first > 5 || !(math.Abs(without-14) <= 0.6) || !(math.Abs(without-with-4) <= 0.6) {
		t.Errorf("%d at first, %v without the video, %v with it", first, without, with)
	}
	if d := b.live().Dilution; d < 0.7 || d > 1.5 {
		t.Errorf("a dilution of %v", d)
	}
	height := func() float64 {
		sum := 0.0
		for range 60 {
			sum += b.live().Height / 60
		}
		return sum
	}
	before := height()
	b.Advance(60_000)
	if d := height() - before; !(math.Abs(d-0.6) <= 0.1) {
		t.Errorf("in a minute it drifts by %v m", d)
	}
}

// A board that uses none of them shows none.
func TestSensesThatAreOffShowNothing(t *testing.T) {
	b := homer(t, KitSenses{})
	b.settings["sensors"] = "0"
	if err := b.mean(); err != nil {
		t.Fatal(err)
	}
	if l := b.live(); l.Compass != nil || l.Satellites != 0 || l.Height != 0 {
		t.Errorf("%v, %d satellites, %v m", l.Compass, l.Satellites, l.Height)
	}
}
