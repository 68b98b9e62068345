// Package airframe knows geometry, mass, and the steady state of motor, propeller and pack.
package airframe

import (
	"cmp"
	"math"
	"slices"

	"vividperch/core/power"
	"vividperch/core/quad"
)

const (
	// Gravity is the standard acceleration of free fall, m/s².
	Gravity = 9.80665
	// Density of air at 15 °C and 1013.25 hPa, kg/m³.
	Density = 1.225
	// SoundSpeed at 15 °C, m/s.
	SoundSpeed = 340.3
	// FullCell is the open-circuit voltage of a charged lithium cell, V.
	FullCell = 4.2
	// RestCell is the open-circuit voltage at which a pack spends most of a flight, V.
	RestCell = 3.8
	// LowCell is the resting voltage of a cell at the end of a flight, V.
	LowCell = 3.5
)

// Drive is one motor with its propeller, in SI units, as fed from a pack shared with others.
type Drive struct {
	Constant    float64 // torque per ampere, N·m/A; volts per rad/s is the same number
	Resistance  float64 // winding, Ω
	NoLoad      float64 // current that turns nothing, A
	ThrustPer   float64 // thrust per squared rotation, N/(rad/s)²
	TorquePer   float64 // air torque per squared rotation, N·m/(rad/s)²
	Diameter    float64 // m
	PackVoltage float64 // open circuit, V
	PackOhm     float64 // Ω
	Motors      float64 // how many share the pack
}

// mostVolts of a pack: twelve full cells have 52.
const mostVolts = 60

// NewDrive puts motor, propeller and pack together. The thrust and power coefficients are the usual
// T = Ct rho n² D⁴ and P = Cp rho n³ D⁵ with n in rev/s. volts is the pack's open-circuit voltage; density
// in kg/m³. A part without which nothing can be computed is a Fault at its path.
func NewDrive(p quad.Parts, pack quad.Pack, volts, density float64) (Drive, error) {
	for _, need := range []struct {
		value float64
		path  quad.Path
		what  string
	}{
		{p.Motor.KV, "parts.motor.kv", "the motor's speed constant"},
		{p.Motor.Resistance, "parts.motor.resistance", "the motor's winding resistance"},
		{p.Propeller.Diameter, "parts.propeller.diameter", "the propeller's diameter"},
		{p.Propeller.Thrust, "parts.propeller.thrust", "the propeller's thrust coefficient"},
		{p.Propeller.Power, "parts.propeller.power", "the propeller's power coefficient"},
	} {
		if !(need.value > 0) {
			return Drive{}, quad.Faultf("impossible-airframe", string(need.path), "%s must be above zero", need.what)
		}
		if !quad.Plausible(need.path, need.value) {
			return Drive{}, quad.Faultf("impossible-airframe", string(need.path), "%s cannot be %s", need.what, quad.Number(need.value))
		}
	}
	if !(volts > 0) || volts > mostVolts || pack.Resistance != 0 && !quad.Plausible("parts.packs.any.resistance", pack.Resistance) {
		return Drive{}, quad.Faultf("impossible-airframe", "parts.packs", "a pack with cells, and a resistance that packs have, is needed")
	}
	d := p.Propeller.Diameter / 1000
	return Drive{
		Constant:    60 / (2 * math.Pi * p.Motor.KV),
		Resistance:  p.Motor.Resistance / 1000,
		NoLoad:      p.Motor.IdleCurrent,
		ThrustPer:   p.Propeller.Thrust * density * math.Pow(d, 4) / (4 * math.Pi * math.Pi),
		TorquePer:   p.Propeller.Power * density * math.Pow(d, 5) / (8 * math.Pi * math.Pi * math.Pi),
		Diameter:    d,
		PackVoltage: volts,
		PackOhm:     pack.Resistance / 1000,
		Motors:      4,
	}, nil
}

// Point is a steady state of one drive while all of them run alike.
type Point struct {
	Duty        float64 // 0..1
	Rotation    float64 // rad/s
	Thrust      float64 // N, one rotor
	Current     float64 // A, one motor
	PackCurrent float64 // A
	PackVoltage float64 // V under load
}

// At solves the steady state at a duty of 0..1. Motor current I = (dV - w/Kv)/R, torque Kt (I - I0) equal to
// the propeller's, pack voltage V = Voc - Rpack·N·d·I: eliminating V and I leaves one quadratic in w.
func (d Drive) At(duty float64) Point {
	ohm := d.Resistance + d.Motors*d.PackOhm*duty*duty
	a := ohm * d.TorquePer / d.Constant
	c := ohm*d.NoLoad - duty*d.PackVoltage
	if c >= 0 { // not enough to overcome the idle current
		return Point{Duty: duty, PackVoltage: d.PackVoltage}
	}
	w := (-d.Constant + math.Sqrt(d.Constant*d.Constant-4*a*c)) / (2 * a)
	return d.point(duty, w)
}

func (d Drive) point(duty, w float64) Point {
	current := d.NoLoad + d.TorquePer*w*w/d.Constant
	pack := d.Motors * duty * current
	return Point{Duty: duty, Rotation: w, Thrust: d.ThrustPer * w * w, Current: current, PackCurrent: pack, PackVoltage: d.PackVoltage - d.PackOhm*pack}
}

// ForThrust solves for the duty at which one rotor pushes the given newtons; ok is false when full duty
// does not reach it.
func (d Drive) ForThrust(thrust float64) (p Point, ok bool) {
	if thrust < 0 {
		return Point{}, false
	}
	w := math.Sqrt(thrust / d.ThrustPer)
	current := d.NoLoad + d.TorquePer*w*w/d.Constant
	// d Voc - N Rp I d² = R I + Kt w: the smaller root is the one that grows from zero.
	sag := d.Motors * d.PackOhm * current
	need := d.Resistance*current + d.Constant*w
	var duty float64
	if sag == 0 {
		duty = need / d.PackVoltage
	} else {
		root := d.PackVoltage*d.PackVoltage - 4*sag*need
		if root < 0 {
			return Point{}, false
		}
		duty = (d.PackVoltage - math.Sqrt(root)) / (2 * sag)
	}
	return d.point(duty, w), duty <= 1
}

// Tip speeds over the speed of sound: noise and loss grow from TipMachNote on, thrust falls from TipMachFix on.
const (
	TipMachNote = 0.65
	TipMachFix  = 0.75
)

// Spare is how much more than the highest current a speed controller should be rated for, as a factor: gusts
// and a hot day are not in the steady state.
const Spare = 1.2

// TipMach is the propeller tip's speed at a rotation (rad/s), over the speed of sound at 15 °C.
func (d Drive) TipMach(rotation float64) float64 { return rotation * d.Diameter / 2 / SoundSpeed }

// Hover is the steady state that carries a mass (kg) on four rotors.
func (d Drive) Hover(mass float64) (Point, bool) { return d.ForThrust(mass * Gravity / d.Motors) }

// Lifts is how many times its weight a mass in kg is lifted at a duty of 0..1.
func (d Drive) Lifts(duty, mass float64) float64 {
	return d.Motors * d.At(duty).Thrust / (mass * Gravity)
}

// ThrustToWeight at full duty for a mass in kg.
func (d Drive) ThrustToWeight(mass float64) float64 { return d.Lifts(1, mass) }

// Minutes that a pack gives a current (A) down to a fifth of its capacity.
func Minutes(pack quad.Pack, amps float64) float64 { return 0.8 * pack.Capacity / 1000 / amps * 60 }

// Summary of how motor, propeller, pack and mass go together, with the heaviest pack assigned: hover at
// resting voltage, peaks on a full pack.
type Summary struct {
	Known        bool    `json:"known"` // false when a part is missing; the rest is then zero
	Pack         string  `json:"pack"`
	Mass         float64 `json:"mass" unit:"g"`
	Weighed      bool    `json:"weighed"` // else by parts: an estimate
	HoverDuty    float64 `json:"hoverDuty" unit:"%"`
	HoverCurrent float64 `json:"hoverCurrent" unit:"A"`
	Minutes      float64 `json:"minutes" unit:"min"` // of hover to 80 % of capacity
	Ratio        float64 `json:"ratio" unit:"1"`
	PeakMotor    float64 `json:"peakMotor" unit:"A"`
	PeakPack     float64 `json:"peakPack" unit:"A"`
	TipMach      float64 `json:"tipMach" unit:"1"`
}

// Summarize parts and weight (g, zero when not weighed). Where neither the weight nor the mass of the parts is told, nothing is.
func Summarize(p quad.Parts, weighed float64) Summary {
	if !quad.Plausible("readings.airframe.weight", weighed) {
		weighed = 0
	}
	name, pack, ok := Heaviest(p)
	if !ok || weighed == 0 && p.Frame.Mass == 0 { // of a pack alone nothing is said
		return Summary{}
	}
	rest, err := NewDrive(p, pack, RestCell*float64(pack.Cells), Density)
	if err != nil {
		return Summary{}
	}
	full := rest
	full.PackVoltage = FullCell * float64(pack.Cells)
	mass := Mass(p, pack, weighed)
	s := Summary{Known: true, Pack: name, Mass: mass * 1000, Weighed: weighed > 0, Ratio: rest.ThrustToWeight(mass)}
	if h, able := rest.Hover(mass); able {
		s.HoverDuty, s.HoverCurrent = 100*h.Duty, h.PackCurrent+power.IdleCurrent(p)
		s.Minutes = Minutes(pack, s.HoverCurrent)
	}
	peak := full.At(1)
	s.PeakMotor, s.PeakPack, s.TipMach = peak.Current, peak.PackCurrent, full.TipMach(peak.Rotation)
	return s
}

// Fed is the drive as one of the assigned packs feeds it, and its point at full throttle.
type Fed struct {
	Name  string
	Pack  quad.Pack
	Drive Drive
	Peak  Point
}

// lastingStep is the charge, as a share of the capacity, in steps of which an endurance is summed.
const lastingStep = 0.01

// LongestHover of the assigned packs, s, and with which: each from full until it is to land, at land volts a cell, with what the electronics draw; weight in g with the heaviest, 0 where
// nobody weighed it. 0 where none is known to last.
func LongestHover(p quad.Parts, weight, land float64) (seconds float64, pack string) {
	list, _ := FedByEach(p, RestCell)
	for _, f := range list {
		if s, ok := f.Drive.Lasts(f.Pack, MassOf(p, f.Pack, weight), power.IdleCurrent(p), land); ok && s > seconds {
			seconds, pack = s, f.Name
		}
	}
	return seconds, pack
}

// Lasts is how long (s) a mass in kg hovers from a full pack on until, under that load, a cell has no more than land volts, or at rest [LowCell]; extra
// is what the electronics draw beside the motors, A. ok is false where it does not hover at all, or nobody told the capacity.
func (d Drive) Lasts(pack quad.Pack, mass, extra, land float64) (seconds float64, ok bool) {
	if !(pack.Capacity > 0) || pack.Cells == 0 {
		return 0, false
	}
	cells := float64(pack.Cells)
	for left := 1.0; left > 0; left -= lastingStep {
		open := power.OpenVolts(left - lastingStep/2)
		d.PackVoltage = open * cells
		p, able := d.Hover(mass)
		if !able {
			return seconds, left < 1
		}
		amps := p.PackCurrent + extra
		if open <= LowCell || open-d.PackOhm*amps/cells <= land {
			break
		}
		seconds += lastingStep * pack.Capacity * 3.6 / amps
	}
	return seconds, true
}

// FedByEach of the assigned packs whose cells are told, by name, at some volts a cell; ok is false when there is none, or when parts are
// missing.
func FedByEach(p quad.Parts, cell float64) (list []Fed, ok bool) {
	for _, name := range quad.SortedKeys(p.Packs) {
		pack := p.Packs[name]
		if pack.Cells == 0 {
			continue
		}
		d, err := NewDrive(p, pack, cell*float64(pack.Cells), Density)
		if err != nil {
			return nil, false
		}
		list = append(list, Fed{name, pack, d, d.At(1)})
	}
	return list, len(list) > 0
}

// Most of some, by a figure.
func Most(list []Fed, figure func(Fed) float64) Fed {
	return slices.MaxFunc(list, func(a, b Fed) int { return cmp.Compare(figure(a), figure(b)) })
}
