package linkloss

import (
	"math"
	"strings"
	"testing"

	"vividperch/core/quad"
)

const g = 9.80665

func near(t *testing.T, what string, got, want, tolerance float64) {
	t.Helper()
	if !(math.Abs(got-want) <= tolerance) {
		t.Errorf("%s is %.5g, want %.5g", what, got, want)
	}
}

func TestDropWorkedValue(t *testing.T) {
	f := Drop(14, 35, 0.72, 1.225*0.012/2, g)
	near(t, "ahead", f.Ahead, 32.5, 0.05)
	near(t, "time", f.Time, 2.90, 0.005)
	near(t, "speed", f.Speed, 23.2, 0.05)
	near(t, "energy", f.Energy, 194, 0.5)
}

// Without drag the fall is the school's parabola.
func TestDropWithoutDrag(t *testing.T) {
	for _, c := range [][2]float64{{14, 35}, {0, 2}, {30, 120}} {
		v, h := c[0], c[1]
		f := Drop(v, h, 0.72, 0, g)
		near(t, "time", f.Time, math.Sqrt(2*h/g), 1e-6)
		near(t, "ahead", f.Ahead, v*math.Sqrt(2*h/g), 1e-5)
		near(t, "speed", f.Speed, math.Sqrt(v*v+2*g*h), 1e-5)
	}
}

// Straight down with quadratic drag: z = (m/k) ln cosh(sqrt(gk/m) t), w = sqrt(mg/k) tanh(...).
func TestDropStraightDownWithDrag(t *testing.T) {
	m, k, h := 0.72, 0.00735, 80.0
	f := Drop(0, h, m, k, g)
	terminal := math.Sqrt(m * g / k)
	near(t, "time", f.Time, math.Acosh(math.Exp(h*k/m))*math.Sqrt(m/(g*k)), 1e-5)
	near(t, "speed", f.Speed, terminal*math.Sqrt(1-math.Exp(-2*h*k/m)), 1e-5)
}

func TestOnlySilenceIsNoticed(t *testing.T) {
	for out, want := range map[quad.LossOutput]bool{quad.LossSilence: true, quad.LossHold: false, quad.LossPreset: false} {
		if Notices(out) != want {
			t.Errorf("%s noticed: %v", out, !want)
		}
	}
}

func TestStages(t *testing.T) {
	var k quad.Known
	k.Sheet.Loss = quad.LossSheet{Guard: 0.7, Policy: quad.PolicyLand, LandThrottle: 24}
	k.Radio.Order = "AETR"
	text := ""
	for _, st := range Stages(quad.LossSilence, k) {
		if st.Dangerous {
			t.Errorf("%q is called dangerous", st.Sentence)
		}
		if st.From > 0 && st.From != 0.7 {
			t.Errorf("a stage begins at %v, not at the failsafe delay", st.From)
		}
		text += st.Sentence + "; "
	}
	if !strings.Contains(text, "hold 24 %") {
		t.Errorf("the landing throttle is not said: %s", text)
	}
	for _, out := range []quad.LossOutput{quad.LossHold, quad.LossPreset} {
		for _, st := range Stages(out, k) {
			if !st.Dangerous || st.To != 0 {
				t.Errorf("%s: %+v must be dangerous and without end", out, st)
			}
		}
	}
	if got := Stages(quad.LossPreset, k)[2].Sentence; !strings.Contains(got, "1000 µs") {
		t.Errorf("on a preset the motors %s; its throttle is low", got)
	}
}

// Presets that are told to take the arm switch off stop the motors; those that nobody told, or that leave it on, do not.
func TestPresetsDisarm(t *testing.T) {
	var k quad.Known
	k.Radio.Order = "AETR"
	k.Sheet.Sticks.Arm = quad.Range{Channel: 5, From: 1700, To: 2100}
	for _, c := range []struct {
		lost string
		want bool
	}{{"safe", true}, {"armed", false}, {"", false}} {
		k.Radio.Switches = map[string]quad.SwitchPlan{"left": {Channel: 5, Positions: []string{"safe", "armed"}, Rest: "safe", Lost: c.lost}}
		if got := Disarms(k); got != c.want {
			t.Errorf("put out %q: disarms %v", c.lost, got)
		}
	}
	// A switch of less travel sends less: half of it is 1750, and this board arms from 1800 on.
	k.Radio.Switches = map[string]quad.SwitchPlan{"left": {Channel: 5, Positions: []string{"safe", "armed"}, Lost: "armed", Travel: 50}}
	k.Sheet.Sticks.Arm.From = 1800
	if !Disarms(k) || Presets(k)[4] != 1750 {
		t.Errorf("with half its travel channel 5 is put out at %v: disarms %v", Presets(k)[4], Disarms(k))
	}
	k.Sheet.Sticks.Arm.From = 1700
	k.Radio.Switches = map[string]quad.SwitchPlan{"left": {Channel: 5, Positions: []string{"safe", "armed"}, Lost: "safe"}}
	k.Sheet.Loss.Policy = quad.PolicyLand
	if st := Stages(quad.LossPreset, k); !st[1].Dangerous || st[2].Sentence != "stop at once" {
		t.Errorf("set to land it is dropped: %+v", st)
	}
	k.Radio.Switches = map[string]quad.SwitchPlan{}
	if Disarms(k) {
		t.Error("no switch is on the arm channel, and nothing is told of it")
	}
}

// A way home is told as far as it is, and what it does where it cannot.
func TestWayHomeIsTold(t *testing.T) {
	for _, c := range []struct {
		set  func(s *quad.LossSheet)
		want string
	}{
		{func(*quad.LossSheet) {}, "come home, nobody told how high"},
		{func(s *quad.LossSheet) { s.Way, s.AtHome = quad.WayAsIs, quad.HomeDrops }, "keep their height, come home, come down"},
		{func(s *quad.LossSheet) {
			s.Way, s.WayHeight, s.HomeSpeed, s.AtHome = quad.WaySet, 40, 5, quad.HomeLands
		}, "climb to 40 m, come home at 5 m/s, land"},
		{func(s *quad.LossSheet) { s.Way = quad.WayHighest }, "climb to their highest, come home"},
	} {
		var k quad.Known
		k.Sheet.Loss = quad.LossSheet{Guard: 1, Policy: quad.PolicyReturn, LandThrottle: 30}
		c.set(&k.Sheet.Loss)
		st := Stages(quad.LossSilence, k)
		if last := st[len(st)-1]; last.Sentence != c.want || last.From != 1 {
			t.Errorf("%+v, want %q", last, c.want)
		}
		if !strings.Contains(st[2].Sentence, "without a position or a home, down where it is at 30 %") {
			t.Errorf("%q", st[2].Sentence)
		}
	}
}
