package motors

import (
	"math"
	"testing"

	"vividperch/core/quad"
)

// The braking that is left, against a period walked through microsecond by microsecond.
func TestBrakingWalksThePeriod(t *testing.T) {
	walked := func(kilohertz float64) float64 {
		const fine = 1000 // steps to a microsecond
		period := int(math.Round(1000 / kilohertz * fine))
		on := 0
		for i := range period {
			half := i % (period / 2)
			if half >= deadTime*fine { // each edge begins with a gap
				on++
			}
		}
		return float64(on) / float64(period)
	}
	for _, f := range []float64{8, 16, 24, 48, 96, 128} {
		if got, want := Braking(f), walked(f)/walked(24); !(math.Abs(got-want) <= 1e-3) {
			t.Errorf("%v kHz: %v, walked %v", f, got, want)
		}
	}
	if Braking(0) != 1 || Braking(24) != 1 || Braking(1000) != 0 {
		t.Errorf("unknown %v, usual %v, absurd %v", Braking(0), Braking(24), Braking(1000))
	}
}

func TestSwitchingChoices(t *testing.T) {
	for _, c := range SwitchingChoices([]float64{0, 12, 48, 600}, 40) {
		switch c.Frequency {
		case 12:
			if !c.Heard || c.Ripple != 200 || c.Slows > 40 {
				t.Errorf("low: %+v", c)
			}
		case 48:
			if c.Heard || c.Ripple != 50 || c.Slows < 42 || c.Slows > 43 || !(math.Abs(c.Dead-9.6) <= 1e-9) {
				t.Errorf("high: %+v", c)
			}
		case 600:
			if c.Braking != 0 || c.Slows != 0 || c.Dead != 100 {
				t.Errorf("absurd: %+v", c)
			}
		default:
			t.Errorf("%v is no frequency", c.Frequency)
		}
	}
}

func TestCompared(t *testing.T) {
	for _, c := range []struct {
		was, is       float64
		flown, helped bool
	}{{0, 0, false, false}, {20, 0, false, false}, {20, 18, true, true}, {20, 19, true, false}, {20, 30, true, false}} {
		if flown, helped := Compared(quad.SwitchingTrial{Before: 24, Tried: 48, Was: c.was, Is: c.is}); flown != c.flown || helped != c.helped {
			t.Errorf("%v to %v: flown %v, helped %v", c.was, c.is, flown, helped)
		}
	}
}

// One motor that needs half as much again as the mean of the others is late; an even set, and two alone, are not.
func TestLate(t *testing.T) {
	for _, c := range []struct {
		starts []float64
		late   string
	}{{[]float64{3, 3.1, 3, 5}, "D"}, {[]float64{3, 3.1, 3, 4}, ""}, {[]float64{6, 3, 3}, "A"}, {[]float64{3, 6}, ""}, {nil, ""}, {[]float64{0, 0, 0, 0}, ""}} {
		at := map[string]*quad.Reading[quad.MotorStart]{"X": nil}
		for i, s := range c.starts {
			at[string(rune('A'+i))] = &quad.Reading[quad.MotorStart]{Value: quad.MotorStart{Starts: s}}
		}
		if got := Late(at); got != c.late {
			t.Errorf("%v: %q is late, want %q", c.starts, got, c.late)
		}
	}
}

// What is meant alike, what a trial goes back to, and which trial counts.
func TestSwitchedOf(t *testing.T) {
	quadWith := func(says float64, trial *quad.SwitchingTrial, meant ...float64) quad.Known {
		var k quad.Known
		k.Sheet.Motors.Outputs = map[string]quad.OutputPlan{}
		k.Readings.Firmware.SpeedControllers = map[string]*quad.Reading[quad.SpeedIdentity]{}
		for i, f := range meant {
			letter := string(rune('A' + i))
			k.Sheet.Motors.Outputs[letter] = quad.OutputPlan{Switching: f}
			if says > 0 {
				k.Readings.Firmware.SpeedControllers[letter] = &quad.Reading[quad.SpeedIdentity]{Value: quad.SpeedIdentity{Switching: says}}
			}
		}
		if trial != nil {
			k.Readings.Motors.Trial = &quad.Reading[quad.SwitchingTrial]{Value: *trial}
		}
		return k
	}
	tried := &quad.SwitchingTrial{Before: 24, Tried: 48, Was: 20, Is: 10}
	for _, c := range []struct {
		why         string
		k           quad.Known
		alike       bool
		now, before float64
		trial       bool
	}{
		{"nothing planned", quadWith(0, tried), true, 0, 24, false},
		{"as delivered, not asked", quadWith(0, nil, 0, 0), true, 0, 24, false},
		{"as delivered, asked", quadWith(96, nil, 0, 0), true, 0, 96, false},
		{"meant", quadWith(96, nil, 48, 48), true, 48, 48, false},
		{"tried", quadWith(24, tried, 48, 48), true, 48, 48, true},
		{"tried, and put back", quadWith(24, tried, 24, 24), true, 24, 24, false},
		{"tried on one of two", quadWith(24, tried, 48, 24), false, 0, 24, false},
	} {
		got := SwitchedOf(c.k)
		if got.Alike != c.alike || got.Now != c.now || got.Before != c.before || (got.Trial != nil) != c.trial {
			t.Errorf("%s: %+v", c.why, got)
		}
		if got.Trial != nil && (!got.Trial.Flown || !got.Trial.Helped || got.Trial.Before != 24) {
			t.Errorf("%s: %+v", c.why, got.Trial)
		}
	}
}
