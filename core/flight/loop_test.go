package flight

import (
	"math"
	"testing"

	"vividperch/core/feel"
	"vividperch/core/quad"
)

// A small step about roll against the analytic solution of the linearised axis. With a proportional gain K (duty per rad/s), rotors that
// follow a duty with lag tau, and A the rotation's change per duty at hover, it is
//
//	w'' + (1/tau + d) w' + (A K + d)/tau w = A K/tau r
//
// where d is what the rotors' own motion damps: a second-order system with a closed form.
func TestStepOfTheLinearisedAxis(t *testing.T) {
	in := sample()
	in.Noise, in.Rate, in.Ideal = 0, 8000, true
	in.Parts.Frame.DragArea = 0
	in.Settings.SelfLevel = quad.Range{}
	const gain = 0.03 // %/(deg/s)
	for i := range in.Settings.Gains {
		in.Settings.Gains[i] = quad.Gains{Proportional: gain}
	}
	s := mustNew(t, in)
	p := newFlyer(in, HoverCard, Steady)
	p.hover, _ = s.hovers(in.Mass)
	s.begin(1000, 0, p)
	d := s.drive
	hover, _ := d.Hover(in.Mass)
	w := hover.Rotation
	// The slope of rotation over duty by differences of the closed form, with a pack that does not sag.
	slope := (d.At(hover.Duty+1e-4).Rotation - d.At(hover.Duty-1e-4).Rotation) / 2e-4
	arms := 0.0
	for i := range s.rotors {
		arms += math.Abs(s.rotors[i].y)
	}
	a := 2 * d.ThrustPer * w * slope * arms / s.body.ix
	damp := 0.0
	for i := range s.rotors {
		damp += s.rotors[i].loss * w * s.rotors[i].y * s.rotors[i].y / s.body.ix
	}
	k := gain / 100 * degrees
	tau := in.Parts.Motor.TimeConst / 1000
	asked := 0.05 // of the stick
	r := feel.Rate(in.Settings.Family, in.Settings.Rates[0], asked) / degrees
	wn := math.Sqrt((a*k + damp) / tau)
	zeta := (1/tau + damp) / (2 * wn)
	end := a * k / (a*k + damp) * r
	step := in.frame(asked, p.hover)
	step.Channels[4] = 1900
	worst := 0.0
	for n := 1; n <= 8000*3/10; n++ {
		s.Step(step)
		x := float64(n) / 8000
		var want float64
		if zeta < 1 {
			wd := wn * math.Sqrt(1-zeta*zeta)
			want = end * (1 - math.Exp(-zeta*wn*x)*(math.Cos(wd*x)+zeta*wn/wd*math.Sin(wd*x)))
		} else {
			b := wn * math.Sqrt(zeta*zeta-1)
			p1, p2 := -zeta*wn+b, -zeta*wn-b
			want = end * (1 + (p2*math.Exp(p1*x)-p1*math.Exp(p2*x))/(p1-p2))
		}
		worst = math.Max(worst, math.Abs(s.now.wx-want)/end)
	}
	t.Logf("natural frequency %.1f rad/s, damping %.2f; at most %.2f %% of the step off", wn, zeta, 100*worst)
	if worst > 0.02 {
		t.Errorf("the step is off by %.1f %% of its size", 100*worst)
	}
}

// Held at full stick it turns at its peak rate about every axis.
func TestRatesAreTracked(t *testing.T) {
	for axis := range 3 {
		in := sample()
		in.Noise = 0
		in.Settings.SelfLevel = quad.Range{}
		s := mustNew(t, in)
		p := newFlyer(in, HoverCard, Steady)
		p.hover, _ = s.hovers(in.Mass)
		s.begin(1000, 0, p)
		f := in.frame(0, p.hover)
		f.Channels[4] = 1900
		which := [3]quad.Axis{quad.Roll, quad.Pitch, quad.Yaw}[axis]
		f.Channels[quad.ChannelIn("AETR", which)-1] = 2000
		for range 2 * Rate {
			s.Step(f)
		}
		got := math.Abs([3]float64{s.now.wx, s.now.wy, s.now.wz}[axis]) * degrees
		want := feel.Rate(in.Settings.Family, in.Settings.Rates[axis], 1)
		near(t, string(which)+", deg/s at full stick", got, want, 0.02*want)
	}
}

// The fast arcs are the slow ones, to far below what a sensor sees.
func TestArcsNearLevel(t *testing.T) {
	for i := -100; i <= 100; i++ {
		x := float64(i) / 100 * 1.2 * nearLevel
		near(t, "arc sine", arcSine(x), math.Asin(x), 2e-11)
		for _, c := range []float64{-0.8, 0.3, 1} {
			near(t, "arc tangent", arcTangent(x*c, c), math.Atan2(x*c, c), 2e-11)
		}
	}
}

// A throttle curve bends the throttle and nothing else; its inverse brings it back.
func TestThrottleCurve(t *testing.T) {
	in := sample()
	in.Settings.Curve = feel.ThrottleCurve{Middle: 0.3, Bend: 0.5}
	s := mustNew(t, in)
	arm(s)
	s.Step(stick(1500, true))
	near(t, "throttle at half stick", s.control.asked.throttle, 0.3, 1e-9)
	if run := mustFly(t, in); run.Summary.Outcome != string(Landed) {
		t.Errorf("with a bent throttle: %+v", run.Summary)
	}
}

// The loop runs as often as it was told: at a quarter of the model's rate its output changes in every fourth step only.
func TestLoopRate(t *testing.T) {
	in := sample()
	in.Rate, in.Settings.LoopRate = 4000, 1000
	s := mustNew(t, in)
	for range 4 {
		s.Step(stick(1000, false))
	}
	for range 4 {
		s.Step(stick(1000, true))
	}
	for s.steps%4 != 0 {
		s.Step(stick(1300, true))
	}
	changes := 0
	for range 400 {
		was := s.asked
		s.Step(stick(1300, true))
		if s.asked != was {
			changes++
		}
	}
	if changes != 100 {
		t.Errorf("%d loops in a tenth of a second at 1 kHz", changes)
	}
}

// The whole, controller and hand and all, hardly changes with the model's step: the same hover and the same punch-out at 1 and 4 kHz.
func TestStepsOfTheWholeConverge(t *testing.T) {
	for _, scenario := range []Scenario{FirstHover, PunchOut, FlipsAndRolls} {
		var flown [3]*Run
		for i, rate := range []int{1000, 4000, 8000} {
			in := sample()
			in.Noise, in.Rate, in.Settings.LoopRate = 0, rate, 1000
			run, err := Fly(in, scenario.Steady(), Watching{})
			if err != nil {
				t.Fatal(err)
			}
			flown[i] = run
		}
		apart := func(a, b *Run) (most float64) {
			for i := range min(len(a.Frames), len(b.Frames)) {
				for k := range 3 {
					most = math.Max(most, math.Abs(a.Frames[i].Place[k]-b.Frames[i].Place[k]))
				}
			}
			return most
		}
		coarse, fine := apart(flown[0], flown[2]), apart(flown[1], flown[2])
		t.Logf("%s: places at 1 and 4 kHz are at most %.4f and %.4f m from those at 8 kHz", scenario, coarse, fine)
		if coarse > 0.5 || fine > 0.25 || flown[0].Summary.Outcome != flown[2].Summary.Outcome {
			t.Errorf("%s: %.3f m at 1 kHz, %.3f at 4; %s and %s", scenario, coarse, fine, flown[0].Summary.Outcome, flown[2].Summary.Outcome)
		}
	}
}

// What carries it costs no less than momentum theory says: the induced power of four discs, and a usual figure of merit.
func TestHoverPower(t *testing.T) {
	in := sample()
	in.Noise = 0
	s := mustNew(t, in)
	p := newFlyer(in, HoverCard, Steady)
	p.hover, _ = s.hovers(in.Mass)
	s.begin(1000, 0, p)
	f := in.frame(0, p.hover)
	f.Channels[4], f.Channels[5] = 1900, 2000
	for range 100 {
		s.Step(f)
	}
	w := s.rotors[0].speed
	shaft := 4 * s.drive.TorquePer * w * w * w
	thrust := 4 * s.drive.ThrustPer * w * w
	ideal := thrust * math.Sqrt(thrust/(2*s.density*s.wake.area))
	merit := ideal / shaft
	t.Logf("%.1f W at the shafts, %.1f W by momentum theory: figure of merit %.2f", shaft, ideal, merit)
	if merit < 0.3 || merit > 0.8 {
		t.Errorf("figure of merit %.2f", merit)
	}
	electric := s.State().Volts * s.packAmp
	if electric < shaft || electric > 2*shaft {
		t.Errorf("%.1f W out of the pack for %.1f W at the shafts", electric, shaft)
	}
}
