package flight

import (
	"maps"
	"math"
	"reflect"
	"strings"
	"testing"

	"vividperch/core/quad"
)

// wired changes what each output really drives; the letters of sample: A front right, B rear left, C front
// left, D rear right.
func wired(change func(map[string]quad.OutputActual, map[quad.Corner]quad.Spin)) Input {
	in := sample()
	in.Actual.Outputs, in.Actual.Hands = maps.Clone(in.Actual.Outputs), maps.Clone(in.Actual.Hands)
	change(in.Actual.Outputs, in.Actual.Hands)
	return in
}

func swap(outputs map[string]quad.OutputActual, a, b string) {
	outputs[a], outputs[b] = outputs[b], outputs[a]
}

func mustFly(t *testing.T, in Input) *Run {
	t.Helper()
	run, err := Rehearse(in, HoverCard, nil)
	if err != nil {
		t.Fatal(err)
	}
	return run
}

// The sign table, flown: every way a corner or a pair can be wrong, and what the first hover makes of it.
func TestSignTable(t *testing.T) {
	type outputs = map[string]quad.OutputActual
	type hands = map[quad.Corner]quad.Spin
	against := func(o outputs, letter string) {
		o[letter] = quad.OutputActual{Corner: o[letter].Corner, Spin: o[letter].Spin.Opposite()}
	}
	for _, c := range []struct {
		name string
		in   Input
		want []Outcome
		says string
	}{
		{"sound", sample(), []Outcome{Landed}, "lands"},
		{"spin wrong, propeller unchanged: pushes down, tips that way before it lifts", wired(func(o outputs, _ hands) { against(o, "B") }), []Outcome{TippedOver}, "tips to the rear left, still on its feet"},
		{"hand wrong, spin right: pushes down too", wired(func(_ outputs, h hands) { h[quad.FrontRight] = h[quad.FrontRight].Opposite() }), []Outcome{TippedOver}, "tips to the front right, still on its feet"},
		{"like spin exchanged (a diagonal): one axis fed back the wrong way, flips at lift-off", wired(func(o outputs, _ hands) { swap(o, "A", "B") }), []Outcome{TippedOver, Crashed}, ""},
		{"a left-right pair exchanged, spins right at their corners", wired(func(o outputs, _ hands) { swap(o, "A", "C") }), []Outcome{TippedOver, Crashed, FlewAway}, ""},
		{"a front-rear pair exchanged, spins right at their corners", wired(func(o outputs, _ hands) { swap(o, "A", "D") }), []Outcome{TippedOver, Crashed, FlewAway}, ""},
	} {
		run := mustFly(t, c.in)
		ok := false
		for _, w := range c.want {
			ok = ok || run.Summary.Outcome == string(w)
		}
		if !ok || !strings.Contains(run.Summary.Sentence, c.says) {
			t.Errorf("%s: %+v, want one of %v, %q", c.name, run.Summary, c.want, c.says)
		}
	}
}

// A motor turned with its propeller swapped to match pushes up, but its torque is against the plan: it flies,
// and turns slowly though yaw is controlled.
func TestSpinWrongPropellerMatched(t *testing.T) {
	in := wired(func(o map[string]quad.OutputActual, h map[quad.Corner]quad.Spin) {
		o["B"] = quad.OutputActual{Corner: quad.RearLeft, Spin: o["B"].Spin.Opposite()}
		h[quad.RearLeft] = o["B"].Spin
	})
	sound, turned := mustFly(t, sample()), mustFly(t, in)
	if turned.Summary.Outcome == string(TippedOver) {
		t.Fatalf("it must lift: %+v", turned.Summary)
	}
	// The hand turns it too, a while after it has settled: what counts is before.
	yaw := func(r *Run) float64 {
		most := 0.0
		for _, f := range r.Frames {
			if f.Time > 7 {
				break
			}
			q := f.Attitude
			most = math.Max(most, math.Abs(math.Atan2(2*(q[0]*q[3]+q[1]*q[2]), 1-2*(q[2]*q[2]+q[3]*q[3])))*degrees)
		}
		return most
	}
	if a, b := yaw(sound), yaw(turned); a > 8 || b < 30 {
		t.Errorf("a sound quad turns by %.1f°, this one by %.1f; want it to turn visibly", a, b)
	}
}

// All spins reversed with propellers matched and not declared: yaw is fed back the wrong way and runs away.
func TestAllReversedRunsAwayInYaw(t *testing.T) {
	in := wired(func(o map[string]quad.OutputActual, h map[quad.Corner]quad.Spin) {
		for l, a := range o {
			a.Spin = a.Spin.Opposite()
			o[l], h[a.Corner] = a, a.Spin
		}
	})
	s := mustNew(t, in)
	s.now.pz = -100
	s.now.wz = 0.05 // the least disturbance
	arm(s)
	for range 1500 {
		s.Step(stick(1300, true))
	}
	if math.Abs(s.now.wz) < 5 {
		t.Errorf("yaw rate %.2f rad/s after 1.5 s: it does not run away", s.now.wz)
	}
	declared := in
	declared.Settings.Rotation = quad.FrontLeftCounterClockwise
	if run := mustFly(t, declared); run.Summary.Outcome != string(Landed) {
		t.Errorf("declared, it must fly: %+v", run.Summary)
	}
}

// stick is a frame with the throttle at us, sticks centred, armed or not, self-level on.
func stick(us float64, armed bool) Sticks {
	s := Sticks{Heard: true, Channels: quad.Pulses{1500, 1500, us, 1500, 1000, 2000, 1500, 1500}}
	if armed {
		s.Channels[4] = 1900
	}
	return s
}

func arm(s *Stepper) {
	s.Step(stick(1000, false))
	s.Step(stick(1000, true))
}

func TestArming(t *testing.T) {
	for _, c := range []struct {
		name  string
		given func(*Stepper)
		want  bool
	}{
		{"off, then on at rest", arm, true},
		{"on from the first frame", func(s *Stepper) {
			for range 50 {
				s.Step(stick(1000, true))
			}
		}, false},
		{"throttle up", func(s *Stepper) { s.Step(stick(1100, false)); s.Step(stick(1100, true)) }, false},
		{"leaning", func(s *Stepper) { s.Hold(30, 0, [3]float64{}); s.Step(stick(1000, false)); s.Step(stick(1000, true)) }, false},
		{"hindered by a cable", func(s *Stepper) { s.Hinder(true); arm(s) }, false},
		{"after a power cycle with the switch on", func(s *Stepper) { arm(s); s.Disarm(); s.Step(stick(1000, true)) }, false},
	} {
		s := mustNew(t, sample())
		c.given(s)
		if s.Armed() != c.want {
			t.Errorf("%s: armed %v", c.name, s.Armed())
		}
	}
}

// Silence is a loss after the guard time: drop stops, land holds its throttle level, and neither arms again
// by itself when frames come back.
func TestLoss(t *testing.T) {
	for _, policy := range []quad.Policy{quad.PolicyDrop, quad.PolicyLand} {
		in := sample()
		in.Settings.Policy, in.Settings.LandPush = policy, 0.2
		s := mustNew(t, in)
		s.now.pz = -50
		arm(s)
		for range 300 {
			s.Step(stick(1300, true))
		}
		quiet := 0
		for ; quiet < 3000 && !s.InLoss(); quiet++ {
			s.Step(Sticks{})
		}
		near(t, "noticed after, ms", float64(quiet), 1000*in.Settings.Guard, 2)
		for range 200 {
			s.Step(Sticks{})
		}
		if policy == quad.PolicyDrop && (s.Armed() || s.duty != [4]float64{}) {
			t.Errorf("drop must stop the motors: armed %v, duty %v", s.Armed(), s.duty)
		}
		if policy == quad.PolicyLand && !s.Armed() {
			t.Error("land must keep flying")
		}
		if policy == quad.PolicyDrop {
			for range 100 {
				s.Step(stick(1000, true))
			}
			if s.Armed() {
				t.Error("it armed by itself when the radio came back")
			}
			s.Step(stick(1000, false))
			s.Step(stick(1000, true))
			if !s.Armed() {
				t.Error("switched off and on again it must arm")
			}
		}
	}
}

// What was never right is named for what it is.
func TestOtherFaultsShow(t *testing.T) {
	for _, c := range []struct {
		name  string
		spoil func(*Input)
		want  Outcome
	}{
		{"throttle that never comes down", func(in *Input) { in.Actual.Sticks[quad.Throttle] = quad.Ends{Low: 1080, Centre: 1500, High: 2000} }, NeverArmed},
		{"throttle and roll exchanged at the radio", func(in *Input) {
			in.Actual.Channels = map[quad.Axis]int{quad.Roll: 3, quad.Pitch: 2, quad.Throttle: 1, quad.Yaw: 4}
		}, NeverArmed},
		{"far too heavy", func(in *Input) { in.Mass = 9 }, NeverLifted},
		{"board turned a quarter and not told", func(in *Input) { in.Actual.Board.Yaw = 90 }, TippedOver},
	} {
		in := wired(func(map[string]quad.OutputActual, map[quad.Corner]quad.Spin) {})
		in.Actual.Sticks, in.Actual.Channels = maps.Clone(in.Actual.Sticks), maps.Clone(in.Actual.Channels)
		c.spoil(&in)
		if run := mustFly(t, in); run.Summary.Outcome != string(c.want) && !(c.want == TippedOver && run.Summary.Outcome == string(Crashed)) {
			t.Errorf("%s: %+v, want %s", c.name, run.Summary, c.want)
		}
	}
	held := wired(func(map[string]quad.OutputActual, map[quad.Corner]quad.Spin) {})
	held.Actual.Sticks = maps.Clone(held.Actual.Sticks)
	held.Actual.Sticks[quad.Throttle] = quad.Ends{Low: 1080, Centre: 1500, High: 2000}
	if s := mustFly(t, held).Summary.Sentence; !strings.Contains(s, "the throttle is not at rest: 1080 µs arrives") {
		t.Errorf("it does not say what holds it: %s", s)
	}
	in := sample()
	in.Actual.Board.Yaw, in.Settings.Board.Yaw = 90, 90
	if run := mustFly(t, in); run.Summary.Outcome != string(Landed) {
		t.Errorf("turned a quarter and told so, it must fly: %+v", run.Summary)
	}
}

// The drift of a level error follows g tan(error) as long as drag is small.
func TestLevelErrorDrifts(t *testing.T) {
	in := sample()
	in.Actual.TiltRoll = 1.7
	in.Parts.Frame.DragArea = 0
	s := mustNew(t, in)
	s.now.pz = -200
	arm(s)
	hover, _ := s.drive.Hover(in.Mass)
	throttle := 1000 + 1000*(hover.Duty-in.Settings.Idle)/(1-in.Settings.Idle)
	for range 6000 {
		s.Step(stick(throttle, true))
	}
	before := s.now
	for range 2000 {
		s.Step(stick(throttle, true))
	}
	// It believes to lean right, so it leans left by as much. 0.291 m/s² is the worked value for 1.7 deg.
	near(t, "sideways acceleration, m/s²", (s.now.vy-before.vy)/2, -0.291, 0.02)
}

func TestReplayIsDeterministicAndBounded(t *testing.T) {
	a, b := mustFly(t, sample()), mustFly(t, sample())
	if !reflect.DeepEqual(a, b) {
		t.Error("the same input flies two ways")
	}
	if n := len(a.Frames); n < 100 || n > framesPerSecond*longest {
		t.Errorf("%d frames", n)
	}
	if a.Summary.HoverShare < 15 || a.Summary.HoverShare > 35 {
		t.Errorf("hover at %.0f %% of throttle; duty 0.265 with idle 0.055 is 22 %%", a.Summary.HoverShare)
	}
	if _, err := Rehearse(sample(), HoverCard, func() bool { return true }); quad.AsFault(err) == nil || quad.AsFault(err).Code != "cancelled" {
		t.Errorf("a cancelled rehearsal: %v", err)
	}
}

// Everything a flight depends on is in its hash.
func TestHashInputSeesEveryChange(t *testing.T) {
	base := HashInput(sample(), HoverCard)
	for name, spoil := range map[string]func(*Input){
		"mass": func(in *Input) { in.Mass += 0.001 }, "wind": func(in *Input) { in.Site.WindEast = 1 },
		"gain": func(in *Input) { in.Settings.Gains[1].Integral *= 2 }, "hand": func(in *Input) { in.Actual.Hands[quad.RearLeft] = "" },
		"ends": func(in *Input) { in.Actual.Sticks[quad.Yaw] = quad.Ends{} }, "tilt": func(in *Input) { in.Actual.TiltPitch = 1 },
	} {
		in := sample()
		spoil(&in)
		if HashInput(in, HoverCard) == base {
			t.Errorf("the hash does not see %s", name)
		}
	}
	if HashInput(sample(), Card{Height: 2, Hold: 6}) == base {
		t.Error("the hash does not see the card")
	}
}

// A flown wind at the site moves it, and it still comes down where it can be seen.
func TestWindMovesTheHover(t *testing.T) {
	in := sample()
	in.Site.WindEast = 5
	still, windy := mustFly(t, sample()), mustFly(t, in)
	if windy.Summary.Outcome != string(Landed) || windy.Summary.Deviation <= still.Summary.Deviation {
		t.Errorf("in 5 m/s: %+v; in still air %+v", windy.Summary, still.Summary)
	}
}
