package flight

import (
	"math"
	"testing"

	"vividperch/core/airframe"
	"vividperch/core/quad"
)

// Each figure that docs/flight-model.md quotes is checked here against a closed form.

func near(t *testing.T, what string, got, want, tolerance float64) {
	t.Helper()
	if !(math.Abs(got-want) <= tolerance) {
		t.Errorf("%s is %.9g, want %.9g within %.1g", what, got, want, tolerance)
	}
}

// aloft is a quad far above the ground, rotors standing.
func aloft(t testing.TB, change func(*Input)) *Stepper {
	t.Helper()
	in := sample()
	in.Ideal = true
	if change != nil {
		change(&in)
	}
	s := mustNew(t, in)
	s.now.pz = -5000
	return s
}

func noDrag(in *Input) { in.Parts.Frame.DragArea = 0 }

func run(s *Stepper, seconds float64, duty [4]float64) {
	for range int(math.Round(seconds / s.h)) {
		s.Spin(duty)
	}
}

func TestFreeFall(t *testing.T) {
	s := aloft(t, noDrag)
	run(s, 3, [4]float64{})
	near(t, "fallen, m", s.now.pz+5000, airframe.Gravity*9/2, 1e-8)
	near(t, "speed, m/s", s.now.vz, airframe.Gravity*3, 1e-9)
}

func TestTerminalSpeed(t *testing.T) {
	s := aloft(t, nil)
	run(s, 30, [4]float64{})
	k := s.body.drag
	near(t, "terminal speed, m/s", s.now.vz, math.Sqrt(s.body.mass*airframe.Gravity/k), 1e-6)
	// On the way there it follows tanh.
	s = aloft(t, nil)
	run(s, 2, [4]float64{})
	v := math.Sqrt(s.body.mass * airframe.Gravity / k)
	near(t, "speed after 2 s", s.now.vz, v*math.Tanh(airframe.Gravity*2/v), 1e-8)
}

// A body without rotors drifts with a steady wind in the end.
func TestWindCarriesIt(t *testing.T) {
	s := aloft(t, func(in *Input) { in.Site.WindNorth, in.Site.WindEast = 3, -4 })
	run(s, 60, [4]float64{})
	near(t, "north", s.now.vx, 3, 1e-6)
	near(t, "east", s.now.vy, -4, 1e-6)
}

// The duty that airframe says carries the mass holds it in the flight model, with the pack's sag.
func TestHoverBalance(t *testing.T) {
	s := aloft(t, func(in *Input) { noDrag(in); in.Ideal, in.Pack.Capacity = false, 0 })
	p, ok := s.drive.Hover(s.body.mass)
	if !ok {
		t.Fatal("it must hover")
	}
	for i := range s.rotors {
		s.rotors[i].speed = p.Rotation
	}
	s.packAmp = p.PackCurrent
	run(s, 10, [4]float64{p.Duty, p.Duty, p.Duty, p.Duty})
	near(t, "climb after 10 s, m/s", s.now.vz, 0, 1e-9)
	near(t, "yaw, rad/s", s.now.wz, 0, 1e-9)
	near(t, "pack current, A", s.packAmp, p.PackCurrent, 1e-6)
	near(t, "drawn, mAh", s.State().Charge, p.PackCurrent*10/3.6, 1e-6)
}

// Clockwise rotors faster than the others turn the frame counter-clockwise by the difference of their air
// torques over the moment of inertia.
func TestYawFromReactionTorque(t *testing.T) {
	s := aloft(t, noDrag)
	fast, slow := s.drive.At(0.32), s.drive.At(0.28)
	var duty [4]float64
	for i := range duty {
		k := s.places[i]
		duty[i] = 0.28
		s.rotors[k].speed = slow.Rotation
		if s.rotors[k].torque < 0 { // clockwise: pushes the frame the other way
			duty[i] = 0.32
			s.rotors[k].speed = fast.Rotation
		}
	}
	run(s, 2, duty)
	turn := -2 * s.drive.TorquePer * (fast.Rotation*fast.Rotation - slow.Rotation*slow.Rotation) / s.body.iz
	near(t, "yaw rate, rad/s", s.now.wz, turn*2, 1e-6*math.Abs(turn))
	if s.now.wz >= 0 {
		t.Error("the frame must turn against the faster rotors")
	}
}

// A rotor follows its duty as a first-order lag: 1 - 1/e of the way after one time constant.
func TestMotorLag(t *testing.T) {
	s := aloft(t, noDrag)
	run(s, 0.03, [4]float64{0.3, 0.3, 0.3, 0.3})
	near(t, "share of the final speed", s.rotors[0].speed/s.drive.At(0.3).Rotation, 1-math.Exp(-1), 1e-9)
}

// Tumbling open loop, nothing adds or takes energy: kinetic, of rotation and of height stay one sum.
func TestEnergyOfTumbling(t *testing.T) {
	s := aloft(t, noDrag)
	s.now.pz, s.now.vz, s.now.vx = -60000, -30, 12
	s.now.wx, s.now.wy, s.now.wz = 9, 0.4, -6 // about the unstable axis too
	energy := func() float64 {
		n, b := &s.now, &s.body
		return b.mass*(n.vx*n.vx+n.vy*n.vy+n.vz*n.vz)/2 - b.mass*airframe.Gravity*n.pz + (b.ix*n.wx*n.wx+b.iy*n.wy*n.wy+b.iz*n.wz*n.wz)/2
	}
	turning := func() float64 {
		n, b := &s.now, &s.body
		return (b.ix*n.wx*n.wx + b.iy*n.wy*n.wy + b.iz*n.wz*n.wz) / 2
	}
	before, spinning := energy(), turning()
	worst := 0.0
	for range 60 {
		run(s, 1, [4]float64{})
		worst = math.Max(worst, math.Abs(energy()/before-1))
		worst = math.Max(worst, math.Abs(turning()/spinning-1))
	}
	t.Logf("largest relative drift in 60 s: %.2g", worst)
	if worst > 1e-6 {
		t.Errorf("energy drifts by %.2g, want under 1e-6", worst)
	}
}

// The angular momentum of a free body stands still in the world.
func TestAngularMomentumOfTumbling(t *testing.T) {
	s := aloft(t, noDrag)
	s.now.wx, s.now.wy, s.now.wz = 3, 8, -5
	momentum := func() [3]float64 {
		n, b := &s.now, &s.body
		v := [3]float64{b.ix * n.wx, b.iy * n.wy, b.iz * n.wz}
		// v + 2w (q x v) + 2 q x (q x v): another way to rotate than the matrix in the model.
		q := [3]float64{n.qx, n.qy, n.qz}
		c := cross(q, v)
		d := cross(q, c)
		for i := range v {
			v[i] += 2*n.qw*c[i] + 2*d[i]
		}
		return v
	}
	before := momentum()
	run(s, 20, [4]float64{})
	for i, x := range momentum() {
		near(t, "angular momentum", x, before[i], 1e-8)
	}
}

func cross(a, b [3]float64) [3]float64 {
	return [3]float64{a[1]*b[2] - a[2]*b[1], a[2]*b[0] - a[0]*b[2], a[0]*b[1] - a[1]*b[0]}
}

// Halving the step must divide the error by nearly 16, as fourth order does. Thrust, drag, wind and a tumble
// are on; contact and the pack's sag (taken from the step before) are not.
func TestOrderOfConvergence(t *testing.T) {
	fly := func(h float64) rigid {
		s := aloft(t, func(in *Input) { in.Site.WindEast = 6 })
		s.setStep(h, 0.03)
		s.now.wx, s.now.wy, s.now.wz = 4, -7, 3
		for i := range s.rotors {
			s.rotors[i].speed = 800
		}
		run(s, 1, [4]float64{0.3, 0.31, 0.33, 0.29})
		return s.now
	}
	exact := fly(1.0 / 16000)
	fault := func(h float64) float64 {
		a := fly(h)
		sum := 0.0
		for _, d := range []float64{a.px - exact.px, a.py - exact.py, a.pz - exact.pz, a.vx - exact.vx, a.qx - exact.qx, a.qy - exact.qy, a.wx - exact.wx, a.wy - exact.wy} {
			sum += d * d
		}
		return math.Sqrt(sum)
	}
	coarse, fine := fault(1.0/125), fault(1.0/250)
	order := math.Log2(coarse / fine)
	t.Logf("observed order %.2f (errors %.3g and %.3g)", order, coarse, fine)
	if order < 3.8 {
		t.Errorf("observed order %.2f, want at least 3.8", order)
	}
}

// At rest the four springs carry the weight, each sunk by the depth it was made for.
func TestStandsOnItsFeet(t *testing.T) {
	s := mustNew(t, sample())
	run(s, 2, [4]float64{})
	st := s.State()
	near(t, "sunk, m", -st.Height, contactSink, 1e-6)
	near(t, "speed", math.Abs(s.now.vz)+math.Abs(s.now.vx), 0, 1e-6)
}

// Sliding on all four feet it is slowed by friction times gravity.
func TestSlides(t *testing.T) {
	s := mustNew(t, sample())
	s.body.drag = 0
	run(s, 1, [4]float64{})
	s.now.vx = 2
	before := s.now.vx
	run(s, 0.1, [4]float64{})
	near(t, "slowed by, m/s²", (before-s.now.vx)/0.1, friction*airframe.Gravity, 0.15)
	run(s, 2, [4]float64{})
	near(t, "speed in the end", s.now.vx, 0, 1e-3)
}

// Lifted on one side past the point where its weight is over the other feet it falls over, before it it
// falls back.
func TestTipsOverWhereItsWeightPassesItsFeet(t *testing.T) {
	in := sample()
	// The weight is over the feet of one side when tan(lean) = half width over height of the middle.
	edge := math.Atan2(in.Parts.Frame.ArmSide, in.Parts.Frame.LegHeight) * degrees
	for _, c := range []struct {
		lean float64
		over bool
	}{{edge - 4, false}, {edge + 4, true}} {
		s := mustNew(t, in)
		r := c.lean / degrees
		s.now.qw, s.now.qx = math.Cos(r/2), math.Sin(r/2)
		// Put the lower feet on the ground.
		side, leg := in.Parts.Frame.ArmSide/1000, in.Parts.Frame.LegHeight/1000
		s.now.pz = -(math.Sin(r)*side + math.Cos(r)*leg)
		run(s, 3, [4]float64{})
		if over := s.State().Tilt > 80; over != c.over {
			t.Errorf("leaning %.1f°, edge at %.1f: ends at a tilt of %.0f", c.lean, edge, s.State().Tilt)
		}
	}
}

func TestNewRefuses(t *testing.T) {
	for _, c := range []struct {
		place string
		spoil func(*Input)
	}{
		{"readings.airframe.weight", func(in *Input) { in.Mass = 0 }},
		{"readings.airframe.weight", func(in *Input) { in.Mass = math.NaN() }},
		{"parts.frame.armFront", func(in *Input) { in.Parts.Frame.ArmFront = -1 }},
		{"parts.frame.armSide", func(in *Input) { in.Parts.Frame.ArmSide = 0 }},
		{"parts.packs", func(in *Input) { in.Pack.Cells = 0 }},
		{"parts.motor.kv", func(in *Input) { in.Parts.Motor.KV = 0 }},
		{"sheet.sticks.order", func(in *Input) { in.Settings.Order = "AETT" }},
		{"sheet.motors.outputs", func(in *Input) { in.Settings.Places = map[string]quad.Corner{"A": quad.RearLeft} }},
		{"sheet.motors.outputs.A.corner", func(in *Input) { in.Settings.Places = map[string]quad.Corner{"A": "", "B": "", "C": "", "D": ""} }},
	} {
		in := sample()
		c.spoil(&in)
		if _, err := New(in); quad.AsFault(err) == nil || quad.AsFault(err).Place != c.place {
			t.Errorf("want a fault at %s, got %v", c.place, err)
		}
	}
}

// The gyro's noise has the sigma that was asked for, no mean, and its three axes have nothing to do with each
// other.
func TestGyroNoise(t *testing.T) {
	in := sample()
	in.Seed, in.Noise = 7, 0.15
	flown := mustNew(t, in)
	const n = 200000
	var sum, squares [3]float64
	cross := 0.0
	for range n {
		flown.sensors.read(flown)
		v := flown.sensors.gyro
		for i := range v {
			sum[i] += v[i] * degrees
			squares[i] += v[i] * v[i] * degrees * degrees
		}
		cross += v[0] * v[1] * degrees * degrees
	}
	for i := range sum {
		near(t, "mean, deg/s", sum[i]/n, 0, 4*0.15/math.Sqrt(n))
		near(t, "sigma, deg/s", math.Sqrt(squares[i]/n), 0.15, 0.001)
	}
	near(t, "correlation", cross/n/0.15/0.15, 0, 4/math.Sqrt(n))
}

// An attitude as a quaternion against three plain turns one after the other: about the nose, then the right, then down.
func TestAttitudeIsThreeTurns(t *testing.T) {
	about := func(axis int, angle float64, v [3]float64) [3]float64 {
		s, c := math.Sincos(angle)
		i, j := (axis+1)%3, (axis+2)%3
		v[i], v[j] = c*v[i]-s*v[j], s*v[i]+c*v[j]
		return v
	}
	for _, a := range [][3]float64{{0.3, 0, 0}, {0, -0.4, 0}, {0, 0, 2}, {0.3, -0.4, 2}, {-1.2, 0.9, -2.5}} {
		w, x, y, z := turned(a[0], a[1], a[2])
		for k := range 3 {
			var v [3]float64
			v[k] = 1
			want := about(2, a[2], about(1, a[1], about(0, a[0], v)))
			got := [3][3]float64{
				{1 - 2*(y*y+z*z), 2 * (x*y + w*z), 2 * (x*z - w*y)},
				{2 * (x*y - w*z), 1 - 2*(x*x+z*z), 2 * (y*z + w*x)},
				{2 * (x*z + w*y), 2 * (y*z - w*x), 1 - 2*(x*x+y*y)},
			}[k]
			for i := range want {
				if !(math.Abs(got[i]-want[i]) <= 1e-12) {
					t.Errorf("rolled, pitched and turned by %v, axis %d of the body points along %v, not %v", a, k, got, want)
				}
			}
		}
	}
}

// A propeller out of balance pulls at the accelerometer along its arm of imbalance, m r w² over the mass, as that turns with it.
func TestImbalanceIsShownByTheAccelerometer(t *testing.T) {
	s := aloft(t, func(in *Input) { in.Actual.Imbalance = map[quad.Corner]float64{quad.FrontRight: 2} })
	still := s.sensors.accel(s)
	for i := range s.rotors {
		r := &s.rotors[i]
		if r.imbalance == 0 {
			continue
		}
		r.speed = 1200
		for _, phase := range []float64{0, 0.7, math.Pi / 2, 4} {
			r.phase = phase
			pull := 2e-6 * 1200 * 1200 * s.body.invMass // g mm are 1e-6 kg m
			got := s.sensors.accel(s)
			near(t, "ahead", got[0]-still[0], pull*math.Cos(phase), 1e-9*pull+1e-12)
			near(t, "to the right", got[1]-still[1], pull*math.Sin(phase), 1e-9*pull+1e-12)
		}
		return
	}
	t.Error("no rotor is out of balance")
}

// A mix adds its share of where another channel stands, from the middle; alone it takes the channel's place.
func TestMixesOntoChannels(t *testing.T) {
	for _, c := range []struct {
		mixes []quad.MixPlan
		want  [3]float64
	}{
		{nil, [3]float64{1700, 1200, 1500}},
		{[]quad.MixPlan{{From: 1, To: 3, Weight: 50}}, [3]float64{1700, 1200, 1600}},
		{[]quad.MixPlan{{From: 1, To: 2, Weight: -100}}, [3]float64{1700, 1000, 1500}},
		{[]quad.MixPlan{{From: 1, To: 2, Weight: 100, Alone: true}}, [3]float64{1700, 1700, 1500}},
		{[]quad.MixPlan{{From: 1, To: 3, Weight: 50}, {From: 2, To: 3, Weight: 10}}, [3]float64{1700, 1200, 1570}},
	} {
		channels := quad.Pulses{1700, 1200, 1500}
		if mix(&channels, c.mixes); [3]float64(channels[:3]) != c.want {
			t.Errorf("%+v: %v, want %v", c.mixes, channels[:3], c.want)
		}
	}
}
