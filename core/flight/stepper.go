package flight

import (
	"math"

	"vividperch/core/airframe"
	"vividperch/core/quad"
)

// Stepper flies one quad.
type Stepper struct {
	body     body
	drive    airframe.Drive
	winding  winding
	control  controller
	sensors  sensors
	gusts    gusts
	wake     wake
	density  float64
	noThrust float64  // m/s of the air through a disc at which it does not push any more, per rad/s of all four
	still    bool     // the air does not answer: for comparison with closed forms
	rotors   [4]rotor // by corner
	dead     int      // of which one has failed; -1 none
	push     pushes
	places   [4]int // output in alphabetical order -> index of the corner it really drives
	now      rigid
	steps    int
	packAmp  float64
	charge   float64 // A·s drawn
	cells    cells
	heat     airframe.Heat
	warmth   [4]airframe.Warmth // by corner
	asked    [4]float64         // duty by output that the controller asked for last
	sent     [4]float64         // duty by output that has reached the speed controllers
	duty     [4]float64         // by corner

	h             float64
	half, full    float64 // share of a rotor's lag left after half a step and a whole one
	rate          float64 // inverse of that lag, 1/s
	every         int     // steps to one loop of the controller
	airEvery      int     // steps to one look at the air
	toLoop, toAir int     // steps that are left to the next of them
	brake         float64 // what the ground leaves of a rotor's speed in one step
	signal        signal
	reverses      bool // the board drives both ways

	aside float64 // m above the ground, where it is held in a hand; for its height that is none

	struck      float64 // s, when the first propeller hit the ground; 0 none did
	struckAt    int     // at which corner
	bladeEnergy float64 // J in the propellers that struck
}

// New prepares a flight at rest on its feet, nose north, disarmed. An airframe that cannot be computed is a
// Fault at the part to blame.
func New(in Input) (*Stepper, error) {
	if err := in.check(); err != nil {
		return nil, err
	}
	pack := in.Pack
	if in.Ideal {
		pack.Resistance = 0
	}
	d, err := airframe.NewDrive(in.Parts, pack, in.CellVolt*float64(in.Pack.Cells), in.Site.Density)
	if err != nil {
		return nil, err
	}
	arms := airframe.Spots(in.Actual.Layout, in.Parts.Frame)
	places := airframe.FromCentre(arms, in.Actual.Centre)
	lag := lagOf(in.Parts.Motor)
	s := &Stepper{
		cells: newCells(in), heat: airframe.NewHeat(d, airframe.MotorMass(in.Parts)),
		body: newBody(in, arms, places), drive: d, winding: newWinding(d), sensors: newSensors(in), gusts: newGusts(in.Site, in.Seed),
		wake: wake{noise: newNoise(in.Seed, 3), area: discArea(d)}, density: in.Site.Density, still: in.Ideal, reverses: in.Settings.Reverses, dead: -1,
	}
	s.noThrust = d.Diameter * zeroThrust / (2 * math.Pi) / 4
	rate := in.rate()
	s.signal = newSignal(in.Settings, rate)
	s.every = max(1, int(math.Round(float64(rate)/in.Settings.loopRate())))
	s.airEvery = max(1, rate/airRate)
	s.setStep(1/float64(rate), lag)
	s.control = newController(in, d, s.h*float64(s.every))
	for i, letter := range quad.SortedKeys(in.Settings.Places) {
		a := in.Actual.Outputs[letter]
		k := a.Corner.Index()
		s.places[i] = k
		s.rotors[k] = newRotor(d, places[k], a, &in, lag)
	}
	for i := range s.warmth {
		s.warmth[i] = airframe.Warmth{Winding: airframe.AirTemperature, Iron: airframe.AirTemperature}
	}
	s.now = rigid{qw: 1, pz: -s.body.feet + contactSink}
	return s, nil
}

// lagOf a motor, s: no rotor follows faster than the least of it.
func lagOf(m quad.Motor) float64 { return math.Max(m.TimeConst/1000, 0.005) }

func (s *Stepper) setStep(h, lag float64) {
	s.h, s.half, s.full, s.rate = h, math.Exp(-h/2/lag), math.Exp(-h/lag), 1/lag
	s.brake = math.Exp(-h / strikeTime)
}

// Step flies on by one step of 1/Rate seconds.
func (s *Stepper) Step(in Sticks) {
	s.control.hear(&in)
	s.fly()
}

// fly on by one step, with the sticks where they were heard last.
func (s *Stepper) fly() {
	if s.toLoop--; s.toLoop <= 0 {
		s.toLoop = s.every
		s.control.loop(s, &s.asked)
	} else {
		s.sensors.read(s)
	}
	s.signal.carry(&s.sent, &s.asked, s.h)
	s.spin(&s.sent)
}

// spin flies one step with given duties per output, -1..1.
func (s *Stepper) spin(duty *[4]float64) {
	if s.toAir--; s.toAir <= 0 {
		s.toAir = s.airEvery
		s.breathe()
		s.warm()
		if volts, fell := s.cells.volts(s.charge, float64(s.steps)*s.h); fell {
			s.drive.PackVoltage = s.cells.count * volts
		}
	}
	if s.gusts.on {
		s.gusts.now(&s.body.wind, 1-float64(s.toAir)/float64(s.airEvery))
	}
	n := &s.now
	u := 0.0
	if !s.still {
		u = 2*(n.qx*n.qz+n.qw*n.qy)*(s.body.wind[0]-n.vx) + 2*(n.qy*n.qz-n.qw*n.qx)*(s.body.wind[1]-n.vy) + (1-2*(n.qx*n.qx+n.qy*n.qy))*(s.body.wind[2]-n.vz)
	}
	u *= s.winding.advance
	for i, x := range duty {
		k := s.places[i]
		if s.rotors[k].bothWays != s.reverses && x != 0 {
			x = mistaken(x, s.reverses)
		}
		if k == s.dead {
			x = 0
		}
		s.duty[k] = x
	}
	volts, amps := s.sagged(), 0.0
	for k := range s.rotors {
		amps += s.rotors[k].drive(&s.winding, s.duty[k], volts, u, s.h)
	}
	s.packAmp = amps
	s.charge += amps * s.h
	pace := (math.Abs(s.rotors[0].speed) + math.Abs(s.rotors[1].speed) + math.Abs(s.rotors[2].speed) + math.Abs(s.rotors[3].speed)) * s.noThrust
	s.body.slowest, s.body.fastest = stalledDown*pace, stalledUp*pace
	s.push.turn(&s.rotors, s.half, s.full, s.rate)
	if s.body.advance(n, &s.push, s.h) {
		s.strike()
	}
	n.bound()
	s.steps++
}

// sagged is the pack's voltage under the present duties. What a motor draws grows with the voltage, and takes from it for all: with the pack's resistance R
// and the conductance G of a winding, V = (V0 + R G Σ d k w) / (1 + R G Σ d²) over the motors that draw at all, which those of the step before tell.
// Taken from the step before altogether, V would swing from step to step where R G Σ d² is more than 1, as on a worn pack.
func (s *Stepper) sagged() float64 {
	was := s.drive.PackVoltage - s.drive.PackOhm*s.packAmp
	rg := s.drive.PackOhm * s.winding.conductance
	above, below := s.drive.PackVoltage, 1.0
	for k := range s.rotors {
		d, back := math.Abs(s.duty[k]), s.winding.constant*s.rotors[k].speed
		if s.duty[k] < 0 {
			back = -back
		}
		if d*was > back {
			above, below = above+rg*d*back, below+rg*d*d
		}
	}
	return above / below
}

// mistaken is what a speed controller makes of a duty when only one of the two ends was told of reversible thrust.
// The signal's middle is neutral for one and half throttle for the other.
func mistaken(x float64, board bool) float64 {
	if board {
		return 0.5 + x/2
	}
	return 2*x - 1
}

func (s *Stepper) tilt() (roll, pitch float64) {
	q := &s.now
	return arcTangent(2*(q.qw*q.qx+q.qy*q.qz), 1-2*(q.qx*q.qx+q.qy*q.qy)), arcSine(max(-1, min(1, 2*(q.qw*q.qy-q.qz*q.qx))))
}

// Near level, where a quad is nearly always, the series of both to the eighth term are as good to 1e-11 and several times faster.
const nearLevel = 0.2

func arcTangent(y, x float64) float64 {
	if x <= 0 || y > nearLevel*x || y < -nearLevel*x {
		return math.Atan2(y, x)
	}
	t := y / x
	z := t * t
	return t * (1 - z*(1./3-z*(1./5-z*(1./7-z*(1./9-z*(1./11-z*(1./13-z/15)))))))
}

func arcSine(x float64) float64 {
	if x > nearLevel || x < -nearLevel {
		return math.Asin(x)
	}
	z := x * x
	return x * (1 + z*(1./6+z*(3./40+z*(15./336+z*(105./3456+z*(945./42240+z*(10395./599040+z*135135./9676800)))))))
}

// State is what can be seen of a flight at one moment.
type State struct {
	Time     float64    `json:"time" unit:"s"`
	North    float64    `json:"north" unit:"m"`
	East     float64    `json:"east" unit:"m"`
	Height   float64    `json:"height" unit:"m"`     // of the feet above the ground, when upright
	Velocity [3]float64 `json:"velocity" unit:"m/s"` // north, east, up
	Attitude [4]float64 `json:"attitude" unit:"1"`   // w, x, y, z; body to world
	Roll     float64    `json:"roll" unit:"deg"`
	Pitch    float64    `json:"pitch" unit:"deg"`
	Tilt     float64    `json:"tilt" unit:"deg"` // from upright, 0 to 180
	Rates    [3]float64 `json:"rates" unit:"deg/s"`
	Rotors   [4]float64 `json:"rotors" unit:"rpm"` // by corner
	Duty     [4]float64 `json:"duty" unit:"1"`     // by corner
	Thrusts  [4]float64 `json:"thrusts" unit:"1"`  // by corner, along the frame's up axis, as shares of the weight
	Gyro     [3]float64 `json:"gyro" unit:"deg/s"` // as the sensor shows it, before any filter
	Filtered [3]float64 `json:"filtered" unit:"deg/s"`
	Setpoint [3]float64 `json:"setpoint" unit:"deg/s"` // that the controller follows: right side down, nose up, clockwise
	Accel    [3]float64 `json:"accel" unit:"m/s²"`     // ahead, right, down, as the sensor shows it; at rest it shows -g down
	Throttle float64    `json:"throttle" unit:"1"`     // as the controller understands it
	Volts    float64    `json:"volts" unit:"V"`
	Amps     float64    `json:"amps" unit:"A"`
	Charge   float64    `json:"charge" unit:"mAh"`  // drawn
	Left     float64    `json:"left" unit:"%"`      // of the pack's charge
	Windings [4]float64 `json:"windings" unit:"°C"` // by corner
	Armed    bool       `json:"armed"`
}

// State of the flight now.
func (s *Stepper) State() State {
	out := s.seen()
	out.Accel = s.sensors.accel(s)
	return out
}

// seen is what can be seen from outside: the state but for the accelerometer, which is dear.
func (s *Stepper) seen() State {
	roll, pitch := s.tilt()
	n := &s.now
	out := State{
		Time: float64(s.steps) * s.h, North: n.px, East: n.py, Height: -n.pz - s.body.feet,
		Velocity: [3]float64{n.vx, n.vy, -n.vz}, Attitude: [4]float64{n.qw, n.qx, n.qy, n.qz},
		Roll: roll * degrees, Pitch: pitch * degrees,
		Tilt:  math.Acos(max(-1, min(1, 1-2*(n.qx*n.qx+n.qy*n.qy)))) * degrees,
		Rates: [3]float64{n.wx * degrees, n.wy * degrees, n.wz * degrees},
		Duty:  s.duty, Amps: s.packAmp, Volts: s.drive.PackVoltage - s.drive.PackOhm*s.packAmp,
		Charge: s.charge / 3.6, Left: math.Round(1000*s.cells.left(s.charge)) / 10, Armed: s.control.armed, Throttle: s.control.asked.throttle,
	}
	for i := range out.Gyro {
		out.Gyro[i], out.Filtered[i], out.Setpoint[i] = s.sensors.gyro[i]*degrees, s.control.seen[i]*degrees, s.control.want[i]
	}
	for i := range s.rotors {
		r := &s.rotors[i]
		out.Rotors[i] = r.speed * 30 / math.Pi
		out.Windings[i] = s.warmth[i].Winding
		k := r.forward
		if r.speed < 0 {
			k = r.backward
		}
		out.Thrusts[i] = k * r.speed * r.speed / (s.body.mass * airframe.Gravity)
	}
	return out
}

// Hold puts the stepper's attitude (roll and pitch in deg) and rotation aside from the ground, for a board
// in a hand: the bench tilts it so. The body does not move by itself until the next Hold.
func (s *Stepper) Hold(roll, pitch float64, rates [3]float64) {
	cr, sr := math.Cos(roll/degrees/2), math.Sin(roll/degrees/2)
	cp, sp := math.Cos(pitch/degrees/2), math.Sin(pitch/degrees/2)
	s.aside = 1000
	s.now = rigid{qw: cr * cp, qx: sr * cp, qy: cr * sp, qz: -sr * sp, pz: -s.aside, wx: rates[0] / degrees, wy: rates[1] / degrees, wz: rates[2] / degrees}
}

// KnowsHome says whether a board that navigates knew its place when it was armed.
func (s *Stepper) KnowsHome() bool { return s.control.nav != nil && s.control.nav.knowsHome }

// Sense puts what a board that navigates learns of its place from now on.
func (s *Stepper) Sense(is quad.PlaceActual) {
	if n := s.control.nav; n != nil {
		n.is = is
	}
}

// Spin runs the outputs (in alphabetical order) at given duties for one step, past the controller, as a
// board does when a bench asks for one motor.
func (s *Stepper) Spin(duty [4]float64) { s.spin(&duty) }

// Disarm stops the controller as a power cycle would.
func (s *Stepper) Disarm() {
	c := &s.control
	c.armed, c.heard, c.wantedOff, c.inLoss, c.lost, c.gesture = false, false, false, false, 0, gesture{}
}

// InLoss says whether the controller believes the radio is gone.
func (s *Stepper) InLoss() bool { return s.control.inLoss }

// Phase in which it navigates; nothing while the sticks fly it.
func (s *Stepper) Phase() Phase {
	if s.control.nav == nil {
		return ByHand
	}
	return s.control.nav.phase
}

// Hinder keeps the controller from arming while on, as an attached USB cable does.
func (s *Stepper) Hinder(on bool) { s.control.hindered = on }

// OnAtStart says whether the arm switch was on in the first frame after power-up and has not been off since.
func (s *Stepper) OnAtStart() bool { return s.control.heard && !s.control.wantedOff }

// Armed says whether the controller is armed.
func (s *Stepper) Armed() bool { return s.control.armed }
