package flight

import (
	"testing"

	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// byStick is a quad without an arm switch, held still, and a hand at its sticks.
func byStick(t *testing.T) (s *Stepper, hold func(yaw float64, ms int, moved bool)) {
	t.Helper()
	in := sample()
	in.Settings.Arm, in.Settings.ByStick, in.Noise = quad.Range{}, true, 0
	s = mustNew(t, in)
	hold = func(yaw float64, ms int, moved bool) {
		f := Sticks{Heard: true, Channels: quad.Pulses{1500, 1500, 1000, 1500 + 500*yaw, 1000, 2000, 1000, 1000}}
		for i := range ms {
			var rates [3]float64
			if moved && i == ms/2 {
				rates[0] = 40
			}
			s.Hold(0, 0, rates)
			s.Step(f)
		}
	}
	return s, hold
}

// A second of yaw to the right, a second and a half of calibration: it arms after both, and not before.
func TestArmedByStick(t *testing.T) {
	s, hold := byStick(t)
	hold(0, 300, false)
	hold(1, 990, false)
	if s.Armed() || s.Calibration() != "" {
		t.Error("it began before a second was over")
	}
	hold(1, 100, false)
	if s.Calibration() != sticks.CalibrationRuns {
		t.Errorf("calibration: %q", s.Calibration())
	}
	hold(1, 1300, false)
	if s.Armed() {
		t.Error("armed before the gyro was calibrated")
	}
	hold(1, 200, false)
	if !s.Armed() {
		t.Fatal("it did not arm")
	}
	hold(0, 2000, false)
	if !s.Armed() {
		t.Error("it disarmed when the stick was let go")
	}
	hold(-1, 900, false)
	if !s.Armed() {
		t.Error("disarmed before a second was over")
	}
	hold(-1, 200, false)
	if s.Armed() {
		t.Error("yaw to the left did not disarm it")
	}
}

// Moved while it calibrates, it does not arm, however long the stick is held; let go and made again, it does.
func TestMovedWhileCalibrated(t *testing.T) {
	s, hold := byStick(t)
	hold(0, 300, false)
	hold(1, 1100, false)
	hold(1, 400, true)
	if s.Calibration() != sticks.CalibrationFailed {
		t.Fatalf("calibration: %q", s.Calibration())
	}
	hold(1, 5000, false)
	if s.Armed() || s.Calibration() != sticks.CalibrationFailed {
		t.Error("it went on by itself")
	}
	hold(0, 100, false)
	hold(1, 2700, false)
	if !s.Armed() {
		t.Error("the gesture made again does not arm")
	}
}

// Without the setting no gesture arms; with the throttle up neither.
func TestNoGesture(t *testing.T) {
	in := sample()
	in.Settings.Arm, in.Noise = quad.Range{}, 0
	for byStick, us := range map[bool]float64{false: 1000, true: 1200} {
		in.Settings.ByStick = byStick
		s := mustNew(t, in)
		for range 4000 {
			s.Hold(0, 0, [3]float64{})
			s.Step(Sticks{Heard: true, Channels: quad.Pulses{1500, 1500, us, 2000, 1000, 2000, 1000, 1000}})
		}
		if s.Armed() {
			t.Errorf("by stick %v, throttle at %v µs: it armed", byStick, us)
		}
	}
}

// When the radio goes, a quad that was armed by stick drops like any other, and does not arm by itself when it comes back.
func TestGestureEndsWithTheRadio(t *testing.T) {
	s, hold := byStick(t)
	hold(0, 300, false)
	hold(1, 2700, false)
	for range 1500 {
		s.Hold(0, 0, [3]float64{})
		s.Step(Sticks{})
	}
	if s.Armed() {
		t.Error("it is armed without a radio")
	}
	hold(0, 1000, false)
	if s.Armed() {
		t.Error("it armed by itself when the radio came back")
	}
}

// With reversible thrust the throttle rests in its middle: the same hover is flown from there, and a throttle at its low end is no
// rest any more.
func TestReversibleThrottleRestsInItsMiddle(t *testing.T) {
	in := sample()
	in.Settings.Reverses = true
	bothWays(&in)
	run, err := Rehearse(in, HoverCard, nil)
	if err != nil || run.Summary.Outcome != string(Landed) {
		t.Fatalf("%+v, %v", run.Summary, err)
	}
	in.Noise = 0
	for us, want := range map[float64]bool{1000: false, 1500: true, 1551: false} {
		s := mustNew(t, in)
		f := Sticks{Heard: true, Channels: quad.Pulses{1500, 1500, us, 1500, 1000, 2000, 1000, 1000}}
		s.Step(f)
		f.Channels[4] = 1900
		s.Step(f)
		if s.Armed() != want {
			t.Errorf("throttle at %v µs: armed %v", us, s.Armed())
		}
	}
}
