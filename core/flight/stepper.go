package flight

import (
	"math"

	"vividperch/core/airframe"
	"vividperch/core/quad"
)

// Stepper flies one quad.
type Stepper struct {
	body       body
	drive      airframe.Drive
	control    controller
	gyro       gyro
	rotors     [4]rotor // by corner
	places     [4]int   // output in alphabetical order -> index of the corner it really drives
	now        rigid
	steps      int
	packAmp    float64
	charge     float64 // A·s drawn
	duty       [4]float64
	half, full float64 // share of a rotor's lag left after half a step and a whole one
	h          float64
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
	places := airframe.Places(in.Layout, in.Parts.Frame)
	lag := math.Max(in.Parts.Motor.TimeConst/1000, 0.005)
	s := &Stepper{body: newBody(in, places), drive: d, control: newController(in), gyro: newGyro(in.Seed, in.Noise), h: 1.0 / Rate}
	s.setStep(s.h, lag)
	for i, letter := range quad.SortedKeys(in.Settings.Places) {
		a := in.Actual.Outputs[letter]
		k := a.Corner.Index()
		s.places[i] = k
		s.rotors[k] = newRotor(d, places[k], a.Spin, in.Actual.Hands[a.Corner], in.Parts.Propeller.Reversed)
	}
	s.now = rigid{qw: 1, pz: -s.body.contacts[0].z + contactSink}
	return s, nil
}

func (s *Stepper) setStep(h, lag float64) {
	s.h, s.half, s.full = h, math.Exp(-h/2/lag), math.Exp(-h/lag)
}

// Step flies on by one step of 1/Rate seconds.
func (s *Stepper) Step(in Sticks) {
	roll, pitch := s.tilt()
	duty := s.control.loop(&in, roll, pitch, s.gyro.read(s.now.wx, s.now.wy, s.now.wz), s.h)
	s.spin(duty)
}

// spin flies one step with given duties per output.
func (s *Stepper) spin(duty [4]float64) {
	volts := s.drive.PackVoltage - s.drive.PackOhm*s.packAmp
	amps := 0.0
	d := &s.drive
	a := d.Resistance * d.TorquePer / d.Constant
	for i, u := range duty {
		r := &s.rotors[s.places[i]]
		s.duty[s.places[i]] = u
		c := d.Resistance*d.NoLoad - u*volts
		r.target = 0
		if c < 0 {
			r.target = (-d.Constant + math.Sqrt(d.Constant*d.Constant-4*a*c)) / (2 * a)
		}
		if i := (u*volts - d.Constant*r.speed) / d.Resistance; i > 0 {
			amps += u * i
		}
	}
	s.packAmp = amps
	s.charge += amps * s.h
	begin, middle, end := pushOf(&s.rotors, 1), pushOf(&s.rotors, s.half), pushOf(&s.rotors, s.full)
	s.body.advance(&s.now, &begin, &middle, &end, s.h)
	for i := range s.rotors {
		r := &s.rotors[i]
		r.speed = r.target + (r.speed-r.target)*s.full
	}
	s.steps++
}

func (s *Stepper) tilt() (roll, pitch float64) {
	q := &s.now
	roll = math.Atan2(2*(q.qw*q.qx+q.qy*q.qz), 1-2*(q.qx*q.qx+q.qy*q.qy))
	pitch = math.Asin(max(-1, min(1, 2*(q.qw*q.qy-q.qz*q.qx))))
	return roll, pitch
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
	Volts    float64    `json:"volts" unit:"V"`
	Amps     float64    `json:"amps" unit:"A"`
	Charge   float64    `json:"charge" unit:"mAh"` // drawn
	Armed    bool       `json:"armed"`
}

// State of the flight now.
func (s *Stepper) State() State {
	roll, pitch := s.tilt()
	n := &s.now
	out := State{
		Time: float64(s.steps) * s.h, North: n.px, East: n.py, Height: -n.pz - s.body.contacts[0].z,
		Velocity: [3]float64{n.vx, n.vy, -n.vz}, Attitude: [4]float64{n.qw, n.qx, n.qy, n.qz},
		Roll: roll * degrees, Pitch: pitch * degrees,
		Tilt:  math.Acos(max(-1, min(1, 1-2*(n.qx*n.qx+n.qy*n.qy)))) * degrees,
		Rates: [3]float64{n.wx * degrees, n.wy * degrees, n.wz * degrees},
		Duty:  s.duty, Amps: s.packAmp, Volts: s.drive.PackVoltage - s.drive.PackOhm*s.packAmp,
		Charge: s.charge / 3.6, Armed: s.control.armed,
	}
	for i := range s.rotors {
		out.Rotors[i] = s.rotors[i].speed * 30 / math.Pi
	}
	return out
}

// Hold puts the stepper's attitude (roll and pitch in deg) and rotation aside from the ground, for a board
// in a hand: the bench tilts it so. The body does not move by itself until the next Hold.
func (s *Stepper) Hold(roll, pitch float64, rates [3]float64) {
	cr, sr := math.Cos(roll/degrees/2), math.Sin(roll/degrees/2)
	cp, sp := math.Cos(pitch/degrees/2), math.Sin(pitch/degrees/2)
	s.now = rigid{qw: cr * cp, qx: sr * cp, qy: cr * sp, qz: -sr * sp, pz: -1000, wx: rates[0] / degrees, wy: rates[1] / degrees, wz: rates[2] / degrees}
}

// Spin runs the outputs (in alphabetical order) at given duties for one step, past the controller, as a
// board does when a bench asks for one motor.
func (s *Stepper) Spin(duty [4]float64) { s.spin(duty) }

// Disarm stops the controller as a power cycle would.
func (s *Stepper) Disarm() {
	c := &s.control
	c.armed, c.heard, c.wantedOff, c.inLoss, c.lost, c.gesture = false, false, false, false, 0, gesture{}
}

// InLoss says whether the controller believes the radio is gone.
func (s *Stepper) InLoss() bool { return s.control.inLoss }

// Hinder keeps the controller from arming while on, as an attached USB cable does.
func (s *Stepper) Hinder(on bool) { s.control.hindered = on }

// OnAtStart says whether the arm switch was on in the first frame after power-up and has not been off since.
func (s *Stepper) OnAtStart() bool { return s.control.heard && !s.control.wantedOff }

// Armed says whether the controller is armed.
func (s *Stepper) Armed() bool { return s.control.armed }
