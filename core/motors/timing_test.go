package motors

import (
	"testing"

	"vividperch/core/quad"
)

// A protocol laid against a loop: stretches that follow each other and end where the worked frame does, and what fits.
func TestTiming(t *testing.T) {
	for _, c := range []struct {
		m     quad.MotorsSheet
		takes float64
		fits  bool
		loop  float64 // that it may have
		parts int
	}{
		{quad.MotorsSheet{Protocol: quad.ProtocolDigital, BitRate: 300, TwoWay: true, LoopRate: 4000}, 139.3, true, 4000, 4},
		{quad.MotorsSheet{Protocol: quad.ProtocolDigital, BitRate: 300, TwoWay: true, LoopRate: 8000}, 139.3, false, 4000, 3},
		{quad.MotorsSheet{Protocol: quad.ProtocolDigital, BitRate: 150, TwoWay: true, LoopRate: 2000}, 248.7, true, 2000, 4},
		{quad.MotorsSheet{Protocol: quad.ProtocolDigital, BitRate: 600, LoopRate: 8000}, 26.7, true, 4000, 2},
		{quad.MotorsSheet{Protocol: quad.ProtocolPulse, LoopRate: 1000}, 2000, false, 0, 1},
		{quad.MotorsSheet{Protocol: quad.ProtocolShort, LoopRate: 2000}, 250, true, 2000, 2},
	} {
		got := TimingOf(c.m, 0)
		near(t, "takes", got.Takes, c.takes, 0.05)
		if got.Fits != c.fits || got.LoopFor() != c.loop || len(got.Stretches) != c.parts {
			t.Errorf("%+v: %+v, loop for it %v", c.m, got, got.LoopFor())
		}
		at := 0.0
		for _, s := range got.Stretches {
			near(t, "a stretch begins where the last ended", s.From, at, 1e-9)
			at = s.To
		}
	}
	// 74 % at 4 kHz: of that 64 are the loop's, so 2 kHz takes 42, and the loop to have is that one.
	got := TimingOf(quad.MotorsSheet{Protocol: quad.ProtocolDigital, BitRate: 600, LoopRate: 4000}, 74)
	if got.LoopFor() != 2000 || got.Loops[1].Load != 42 || got.Loops[3].Load != 138 {
		t.Errorf("%+v", got.Loops)
	}
	if TimingOf(quad.MotorsSheet{}, 0).Fits {
		t.Error("nothing is said to fit nothing")
	}
}

func TestIdleSearch(t *testing.T) {
	k := quad.Known{}
	k.Sheet.Motors.Idle = 5.5
	k.Sheet.Motors.Outputs = map[string]quad.OutputPlan{"A": {}, "B": {}}
	if IdleOf(k).Known {
		t.Error("nothing was tried")
	}
	k.Readings.Motors.StartsAt = &quad.Reading[float64]{Value: 3.6}
	if got := IdleOf(k); !got.Known || got.Wanted != 5.1 {
		t.Errorf("from the worst of all: %+v", got)
	}
	k.Readings.Motors.Starts = map[string]*quad.Reading[quad.MotorStart]{"A": {Value: quad.MotorStart{Starts: 3, Stops: 2.5}}}
	if got := IdleOf(k); got.Least != 3.6 || got.Worst != "" {
		t.Errorf("one of two was run down: %+v", got)
	}
	k.Readings.Motors.Starts["B"] = &quad.Reading[quad.MotorStart]{Value: quad.MotorStart{Starts: 3.2, Stops: 2.8, BackStarts: 4.1, BackStops: 3.9}}
	if got := IdleOf(k); got.Least != 4.1 || got.Worst != "B" || got.Wanted != 5.6 {
		t.Errorf("each run down, one of them backward too: %+v", got)
	}
}

// Every line of the sign table shows somewhere: a command that is not answered as planned, or a corner that pushes down; for both layouts
// and both rotations, and the two rotations are mirror images.
func TestSignTable(t *testing.T) {
	for _, layout := range []quad.Layout{quad.LayoutX, quad.LayoutPlus} {
		one, other := SignTable(layout, quad.FrontLeftClockwise, 0.5), SignTable(layout, quad.FrontLeftCounterClockwise, 0.5)
		for i, s := range one {
			good := true
			for _, a := range s.Answers {
				good = good && a.Good
			}
			if good || s.Words == "" || len(s.Corners) != 4 {
				t.Errorf("%s: %+v", s.Title, s)
			}
			for k, c := range s.Corners {
				if o := other[i].Corners[k]; o.Spin == c.Spin || o.Hand == c.Hand || o.Up != c.Up || o.Wrong != c.Wrong || o.From != c.From {
					t.Errorf("%s, %s: %+v one way, %+v the other", s.Title, quad.Corners[k], c, o)
				}
			}
		}
	}
	if got := FrameChoices(quad.MotorsSheet{LoopRate: 8000, TwoWay: true}, 0); got[1].Timing.Fits || !got[2].Timing.Fits || got[3].BitRate != 1200 {
		t.Errorf("%+v", got)
	}
}
