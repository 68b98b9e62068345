package catalogue

import (
	"math"

	"vividperch/core/airframe"
	"vividperch/core/quad"
)

// Estimate is a figure that nobody measured or printed, with how far it may be off; its Path is told once it stands on a quad.
type Estimate = quad.Estimate

func within(value, share float64) Estimate {
	return Estimate{Value: value, Low: value * (1 - share), High: value * (1 + share)}
}

// Shape of a propeller as it is printed on it.
type Shape struct {
	Diameter float64 `json:"diameter" unit:"mm"`
	Pitch    float64 `json:"pitch" unit:"mm"` // how far it would screw itself ahead in one turn
	Blades   int     `json:"blades"`
}

const (
	// chord of a blade over the radius, the mean of what such propellers have.
	chord = 0.18
	// liftSlope of a small blade at the angles at which it works, per radian: well under the 2π of theory.
	liftSlope = 4.0
	// noLift is the angle below its pitch at which a cambered blade stops lifting, rad.
	noLift = 0.05
	// ends is the share of thrust that is left by the losses at tips and roots, and by blades that stall at their roots.
	ends = 0.9
	// merit is how much of the power lifts: the figure of merit of small propellers.
	merit = 0.52
)

// Thrust coefficient of a propeller standing still, T = Ct ρ n² D⁴ with n in turns a second, by combined momentum and blade-element theory
// for blades of constant pitch: CT = (σ a / 4) (θ - √(CT/2)), with θ = pitch / (π D) at the tip, σ the solidity, and CT over ρ A (Ω R)²
// (Glauert; see any text on the aerodynamics of helicopters); a cambered blade counts by noLift steeper. Within 35 %.
func (s Shape) Thrust() (Estimate, bool) {
	if !(s.Diameter > 0) || !(s.Pitch > 0) || s.Blades < 1 || s.Blades > 12 || s.Pitch > 3*s.Diameter {
		return Estimate{}, false
	}
	angle := s.Pitch/(math.Pi*s.Diameter) + noLift
	k := float64(s.Blades) * chord / math.Pi * liftSlope / 4
	// x + k √(x/2) - k θ = 0 for x = CT: a quadratic in √x.
	root := (-k/math.Sqrt2 + math.Sqrt(k*k/2+4*k*angle)) / 2
	return within(ends*root*root*math.Pow(math.Pi, 3)/4, 0.35), true
}

// Power coefficient that goes with a thrust coefficient, P = Cp ρ n³ D⁵: the ideal power T^1.5 / √(2 ρ A) over the figure of merit.
func Power(thrust Estimate) Estimate {
	of := func(ct float64) float64 { return math.Pow(ct, 1.5) * math.Sqrt(2/math.Pi) / merit }
	return Estimate{Value: of(thrust.Value), Low: of(thrust.Low), High: of(thrust.High)}
}

// Stator of a motor as it is printed on it: 2207 is 22 mm wide and 7 mm high.
type Stator struct {
	Width  float64 `json:"width" unit:"mm"`
	Height float64 `json:"height" unit:"mm"`
}

// motorConstant is torque per root of the heat, N·m/√W: it grows a little slower than the volume of the stator. The figures are those of a
// fit through motors of 14 to 31 mm.
func (s Stator) motorConstant() float64 {
	return 0.0198 * math.Pow(s.Width*s.Width*s.Height/3388, 0.86)
}

// Resistance of the winding, mΩ, by size and speed constant (rpm/V): R = (Kt / Km)², Kt = 60 / (2π KV). Within 50 %.
func (s Stator) Resistance(kv float64) (Estimate, bool) {
	if !(s.Width > 0) || !(s.Height > 0) || !(kv > 0) {
		return Estimate{}, false
	}
	r := 60 / (2 * math.Pi * kv) / s.motorConstant()
	return within(1000*r*r, 0.5), true
}

// IdleCurrent without a propeller, A: what friction and iron take, which grows with the size. Within 50 %.
func (s Stator) IdleCurrent(kv float64) (Estimate, bool) {
	if !(s.Width > 0) || !(s.Height > 0) || !(kv > 0) {
		return Estimate{}, false
	}
	const lost = 0.0062 // N·m of a motor of 3388 mm³
	return within(lost*math.Pow(s.Width*s.Width*s.Height/3388, 0.8)*2*math.Pi*kv/60, 0.5), true
}

// TimeConstant of a motor with a propeller of some diameter (mm), ms: how much inertia it has to bring up to speed, by its size alone; see
// [airframe.UsualLag]. Within 45 %.
func TimeConstant(diameter float64) (Estimate, bool) {
	return within(airframe.UsualLag(diameter), airframe.LagBand), diameter > 0
}

// PackResistance, mΩ, of so many cells of so many mAh: thicker plates and a higher rating resist less. Within 50 %.
func PackResistance(cells int, capacity, discharge float64) (Estimate, bool) {
	if cells < 1 || !(capacity > 0) {
		return Estimate{}, false
	}
	if !(discharge > 0) {
		discharge = 75
	}
	return within(float64(cells)*4.5*(1300/capacity)*math.Sqrt(100/discharge), 0.5), true
}

// PackMass, g: cells hold about 140 Wh in a kilogram, leads and plug add a little. Within 20 %.
func PackMass(cells int, capacity float64) (Estimate, bool) {
	if cells < 1 || !(capacity > 0) {
		return Estimate{}, false
	}
	return within(float64(cells)*3.7*capacity/1000/0.14+2*float64(cells)+3, 0.2), true
}

// filling puts an estimate, to three digits, where nobody told a figure, and notes it in out.
func filling(out map[quad.Path]Estimate) func(path quad.Path, into *float64, e Estimate, ok bool) {
	return func(path quad.Path, into *float64, e Estimate, ok bool) {
		if *into == 0 && ok {
			*into = quad.Significant(e.Value)
			out[path] = Estimate{Path: path, Value: *into, Low: quad.Significant(e.Low), High: quad.Significant(e.High)}
		}
	}
}

// Filled is a drive's parts with what nobody told estimated, and the paths of that, each with its band. What is told stays.
func Filled(p quad.Parts, shape Shape, stator Stator) (quad.Parts, map[quad.Path]Estimate) {
	out := map[quad.Path]Estimate{}
	fill := filling(out)
	if p.Propeller.Diameter > 0 {
		shape.Diameter = p.Propeller.Diameter
	}
	fill("parts.propeller.diameter", &p.Propeller.Diameter, Estimate{Value: shape.Diameter}, shape.Diameter > 0)
	delete(out, "parts.propeller.diameter") // printed on it
	thrust, ok := shape.Thrust()
	fill("parts.propeller.thrust", &p.Propeller.Thrust, thrust, ok)
	told := within(p.Propeller.Thrust, 0)
	if band, estimated := out["parts.propeller.thrust"]; estimated {
		told = band
	}
	fill("parts.propeller.power", &p.Propeller.Power, Power(told), ok)
	r, ok := stator.Resistance(p.Motor.KV)
	fill("parts.motor.resistance", &p.Motor.Resistance, r, ok)
	i, ok := stator.IdleCurrent(p.Motor.KV)
	fill("parts.motor.idleCurrent", &p.Motor.IdleCurrent, i, ok)
	lag, known := TimeConstant(p.Propeller.Diameter)
	fill(lagPath, &p.Motor.TimeConst, lag, known && p.Motor.KV > 0)
	return p, out
}

// filledPack is a pack with what nobody told estimated, as Filled does it.
func filledPack(p quad.Parts, name string) (quad.Parts, map[quad.Path]Estimate) {
	out := map[quad.Path]Estimate{}
	pack := p.Packs[name]
	fill, at := filling(out), quad.Path("parts.packs."+name)
	r, ok := PackResistance(pack.Cells, pack.Capacity, pack.Discharge)
	fill(at+".resistance", &pack.Resistance, r, ok)
	m, ok := PackMass(pack.Cells, pack.Capacity)
	fill(at+".mass", &pack.Mass, m, ok)
	p.Packs = with(p.Packs, name, pack)
	return p, out
}
