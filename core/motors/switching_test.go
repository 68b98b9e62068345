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
		if got, want := Braking(f), walked(f)/walked(24); math.Abs(got-want) > 1e-3 {
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
			if c.Heard || c.Ripple != 50 || c.Slows < 42 || c.Slows > 43 || math.Abs(c.Dead-9.6) > 1e-9 {
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
