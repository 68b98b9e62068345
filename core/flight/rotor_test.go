package flight

import (
	"fmt"
	"maps"
	"math"
	"testing"

	"vividperch/core/airframe"
	"vividperch/core/motors"
	"vividperch/core/quad"
)

// Spinning up in a vacuum the frame turns the other way: what turns and what holds it have no angular momentum together.
func TestReactionOfSpinningUp(t *testing.T) {
	s := aloft(t, noDrag)
	for i := range s.rotors {
		r := &s.rotors[i]
		r.torque, r.forward, r.loss = 0, 0, 0 // no air to push against
	}
	duty := [4]float64{0.4, 0.1, 0.3, 0.2}
	for range 200 {
		s.Spin(duty)
		sum := s.body.iz * s.now.wz
		for i := range s.rotors {
			sum += s.rotors[i].inertia * s.rotors[i].speed
		}
		near(t, "angular momentum about yaw", sum, 0, 1e-9)
	}
	if math.Abs(s.now.wz) < 0.01 {
		t.Error("the frame did not turn at all")
	}
}

// What turns makes a top of the frame: tipped, a symmetric frame's rotation goes round at H/I.
func TestGyroscopicTorque(t *testing.T) {
	s := aloft(t, noDrag)
	b := &s.body
	b.iy, b.invY = b.ix, b.invX
	h := 0.0
	for i := range s.rotors {
		r := &s.rotors[i]
		r.inertia = math.Abs(r.inertia) // all the same way
		r.torque, r.forward, r.loss = 0, 0, 0
		r.speed = s.drive.At(0.3).Rotation
		h += r.inertia * r.speed
	}
	const w0 = 0.3
	s.now.wx = w0
	duty := [4]float64{0.3, 0.3, 0.3, 0.3}
	run(s, 0.5, duty)
	angle := h / b.ix * 0.5
	near(t, "rotation about roll", s.now.wx, w0*math.Cos(angle), 1e-6)
	near(t, "rotation about pitch", s.now.wy, w0*math.Sin(angle), 1e-6)
}

// Climbing takes thrust away in proportion to the way through the disc, and at the speed of no thrust none is left.
func TestThrustFallsWithTheWayThroughTheDisc(t *testing.T) {
	for _, share := range []float64{0, 0.25, 0.5, 1} {
		s := aloft(t, noDrag)
		s.still = true // the rotors keep their speed
		w := s.drive.At(0.3).Rotation
		for i := range s.rotors {
			s.rotors[i].speed = w
		}
		none := w / (2 * math.Pi) * s.drive.Diameter * zeroThrust
		s.now.vz = -share * none
		before := s.now.vz
		s.Spin([4]float64{0.3, 0.3, 0.3, 0.3})
		thrust := (airframe.Gravity - (s.now.vz-before)/s.h) * s.body.mass
		near(t, "thrust, N", thrust, 4*s.drive.ThrustPer*w*w*(1-share), 0.06)
	}
}

// The rotors damp a roll by their own motion through the air: the torque is the sum over them of thrust lost times arm squared.
func TestRotorsDampARoll(t *testing.T) {
	s := aloft(t, noDrag)
	s.still = true
	w := s.drive.At(0.3).Rotation
	arm := 0.0
	for i := range s.rotors {
		s.rotors[i].speed = w
		arm += s.rotors[i].y * s.rotors[i].y
	}
	s.now.wx = 0.01
	s.Spin([4]float64{0.3, 0.3, 0.3, 0.3})
	want := -s.rotors[0].loss * w * arm * 0.01 / s.body.ix
	near(t, "rotation's change, rad/s²", (s.now.wx-0.01)/s.h, want, 0.01*math.Abs(want))
}

// Below where it stops a motor falls out of step in air that comes from behind, and starts again only after it has had the throttle for
// it; with idle well above it never does.
func TestMotorStandsInADive(t *testing.T) {
	for _, c := range []struct {
		idle   float64
		stands bool
	}{{0.037, true}, {0.051, false}} {
		in := sample()
		for letter, a := range in.Actual.Outputs {
			a.StopsAt = 3.6
			in.Actual.Outputs[letter] = a
		}
		s := mustNew(t, in)
		s.now.pz = -500
		idle := [4]float64{c.idle, c.idle, c.idle, c.idle}
		run(s, 0.5, idle)
		s.now.vz = 20
		run(s, 1, idle)
		if s.rotors[0].standing != c.stands {
			t.Fatalf("idle at %v: standing %v", c.idle, s.rotors[0].standing)
		}
		if !c.stands {
			continue
		}
		open := [4]float64{0.3, 0.3, 0.3, 0.3}
		s.rotors[0].standing, s.rotors[0].trying = true, 0
		run(s, restartTime-0.01, open)
		if !s.rotors[0].standing {
			t.Error("it turned again at once")
		}
		run(s, 0.3, open)
		if s.rotors[0].standing || s.rotors[0].speed < 500 {
			t.Errorf("with throttle it does not start again: %v rad/s", s.rotors[0].speed)
		}
	}
}

// A propeller that reaches into the ground stops, and what it gives after that is little.
func TestPropellerStrike(t *testing.T) {
	s := mustNew(t, sample())
	duty := [4]float64{0.2, 0.2, 0.2, 0.2}
	run(s, 0.3, duty)
	if s.struck != 0 {
		t.Fatal("standing level no propeller strikes")
	}
	r := 40 / degrees
	s.now = rigid{qw: math.Cos(r / 2), qx: -math.Sin(r / 2), pz: -(math.Sin(r)*0.08 + math.Cos(r)*0.025)} // on its left feet
	run(s, 0.02, duty)
	if s.struck == 0 || !s.rotors[quad.FrontLeft.Index()].struck || !s.rotors[quad.RearLeft.Index()].struck || s.rotors[quad.FrontRight.Index()].struck {
		t.Fatalf("struck at %v: %+v", s.struck, s.rotors)
	}
	before := sample()
	d := mustNew(t, before).rotors[quad.RearLeft.Index()].forward
	near(t, "what is left of it", s.rotors[quad.RearLeft.Index()].forward, broken*d, 1e-12)
	if s.bladeEnergy <= 0 {
		t.Error("there was no energy in it")
	}
}

// What reaches the speed controllers comes in steps, late, and over slow pulses not in every loop.
func TestSignal(t *testing.T) {
	digital := newSignal(Settings{Protocol: quad.ProtocolDigital}, 4000)
	var sent [4]float64
	asked := [4]float64{0.12345, 0.5, 1, 0}
	for i := range 8 {
		digital.carry(&sent, &asked, 1.0/4000)
		if sent[0] != 0 {
			t.Fatalf("it arrives after %d steps of a quarter millisecond", i)
		}
	}
	digital.carry(&sent, &asked, 1.0/4000)
	if sent != [4]float64{247.0 / 2000, 0.5, 1, 0} {
		t.Errorf("in 2,000 steps: %v", sent)
	}
	pulse := newSignal(Settings{Protocol: quad.ProtocolPulse}, 4000)
	changes := 0
	for i := range 400 { // a tenth of a second
		was := sent[0]
		asked[0] = float64(i) / 400
		pulse.carry(&sent, &asked, 1.0/4000)
		if sent[0] != was {
			changes++
		}
	}
	if changes < 37 || changes > 41 {
		t.Errorf("%d new pulses in a tenth of a second, 400 a second can", changes)
	}
	both := newSignal(Settings{Protocol: quad.ProtocolDigital, Reverses: true}, 1000)
	asked = [4]float64{-0.1234, -1, 0, 0.5}
	for range 3 {
		both.carry(&sent, &asked, 1.0/1000)
	}
	if sent != [4]float64{-0.123, -1, 0, 0.5} {
		t.Errorf("both ways: %v", sent)
	}
}

// An unbalanced propeller shows in the gyro as a line at its rotation, as high as mass, arm and inertia have it.
func TestVibrationAtTheRotation(t *testing.T) {
	in := sample()
	in.Rate, in.Noise, in.Ideal = 4000, 0, true
	in.Actual.Imbalance = map[quad.Corner]float64{quad.RearLeft: 2}
	s := mustNew(t, in)
	s.now.pz = -1000
	w := s.drive.At(0.3).Rotation
	k := quad.RearLeft.Index()
	s.rotors[k].speed, s.rotors[k].target = w, w
	var series []float64
	for range 1 << 15 {
		before := s.now
		s.Spin([4]float64{0.3, 0.3, 0.3, 0.3})
		s.now = before // held
		s.sensors.read(s)
		series = append(series, s.sensors.gyro[2])
	}
	// Correlation with the two phases of the line.
	a, b := 0.0, 0.0
	for i, x := range series {
		sin, cos := math.Sincos(w * float64(i) / 4000)
		a, b = a+x*cos, b+x*sin
	}
	got := 2 * math.Hypot(a, b) / float64(len(series))
	arm := math.Hypot(0.08, 0.08)
	near(t, "amplitude at the rotation, rad/s", got, 2e-6*w*arm/s.body.iz, 0.02*2e-6*w*arm/s.body.iz)
}

// A speed controller that switches faster brakes less: running down, the rotor's speed falls with a time constant longer by as much, and
// running up is as before.
func TestSwitchingLeavesLessBraking(t *testing.T) {
	for _, kilohertz := range []float64{0, 24, 48, 96} {
		in := sample()
		in.Ideal = true
		in.Actual.Outputs = maps.Clone(in.Actual.Outputs)
		for letter, a := range in.Actual.Outputs {
			a.Switching = kilohertz
			in.Actual.Outputs[letter] = a
		}
		s, err := New(in)
		if err != nil {
			t.Fatal(err)
		}
		s.now.pz = -1000
		lag := math.Max(in.Parts.Motor.TimeConst/1000, 0.005)
		steps := int(math.Round(lag * Rate))
		for range steps {
			s.Spin([4]float64{0.3, 0.3, 0.3, 0.3})
		}
		near(t, "share of the final speed, up", s.rotors[0].speed/s.drive.At(0.3).Rotation, 1-math.Exp(-float64(steps)/Rate/lag), 1e-6)
		s.rotors[0].speed = 1000
		for range steps {
			s.Spin([4]float64{})
		}
		near(t, "share left, down", s.rotors[0].speed/1000, math.Exp(-motors.Braking(kilohertz)*float64(steps)/Rate/lag), 2e-3)
	}
}

// What the pack gives is one figure, not two that take turns from step to step: with any pack, at any duty, it is what the steady state of the drive
// comes to, which is found there by halving.
func TestPackDoesNotSwing(t *testing.T) {
	for _, ohm := range []float64{5, 20, 60, 141} { // mΩ
		in := sample()
		in.Pack.Resistance = ohm
		s, err := New(in)
		if err != nil {
			t.Fatal(err)
		}
		for _, duty := range []float64{0.3, 0.6, 1} {
			var last, swing float64
			for i := range 3 * Rate {
				s.Hold(0, 0, [3]float64{})
				s.Spin([4]float64{duty, duty, duty, duty})
				if i > 2*Rate {
					swing = math.Max(swing, math.Abs(s.packAmp-last))
				}
				last = s.packAmp
			}
			want := s.drive.At(duty).PackCurrent
			near(t, fmt.Sprintf("%v mΩ at %v, A", ohm, duty), s.packAmp, want, 0.02*want)
			if swing > 0.01*want {
				t.Errorf("%v mΩ at %v: it swings by %.1f A from step to step", ohm, duty, swing)
			}
		}
	}
}
