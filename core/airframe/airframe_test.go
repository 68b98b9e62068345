package airframe

import (
	"math"
	"testing"

	"vividperch/core/quad"
)

func near(t *testing.T, what string, got, want, tolerance float64) {
	t.Helper()
	if !(math.Abs(got-want) <= tolerance) {
		t.Errorf("%s is %.6g, want %.6g within %.1g", what, got, want, tolerance)
	}
}

// workedDrive is the drive of the worked values below, which another program computed from the formulas.
func workedDrive(t *testing.T) Drive {
	t.Helper()
	d, err := NewDrive(quad.Parts{
		Motor:     quad.Motor{KV: 1700, Resistance: 55, IdleCurrent: 1.1},
		Propeller: quad.Propeller{Diameter: 127, Thrust: 0.18, Power: 0.12},
	}, quad.Pack{Resistance: 18}, 24.6, Density)
	if err != nil {
		t.Fatal(err)
	}
	return d
}

func TestOperatingPointWorkedValues(t *testing.T) {
	d := workedDrive(t)
	for _, c := range []struct{ duty, rpm, thrust, motor, volts, pack float64 }{
		{0.3, 11868, 2.244, 6.48, 24.46, 7.8},
		{0.5, 19052, 5.783, 14.97, 24.06, 29.9},
		{1, 32738, 17.077, 42.07, 21.57, 168.3},
	} {
		p := d.At(c.duty)
		near(t, "rpm", p.Rotation*30/math.Pi, c.rpm, 1)
		near(t, "thrust", p.Thrust, c.thrust, 1e-3)
		near(t, "motor current", p.Current, c.motor, 0.01)
		near(t, "pack voltage", p.PackVoltage, c.volts, 0.01)
		near(t, "pack current", p.PackCurrent, c.pack, 0.1)
	}
	h, ok := d.Hover(0.72)
	if !ok {
		t.Fatal("it must hover")
	}
	near(t, "hover duty", h.Duty, 0.2647, 1e-4)
	near(t, "thrust to weight", d.ThrustToWeight(0.72), 9.67, 0.01)
}

// The solved point satisfies each of the equations it was eliminated from.
func TestOperatingPointBalances(t *testing.T) {
	d := workedDrive(t)
	for duty := 0.05; duty <= 1; duty += 0.05 {
		p := d.At(duty)
		if p.Rotation == 0 {
			continue
		}
		near(t, "motor equation", p.Current, (duty*p.PackVoltage-p.Rotation*d.Constant)/d.Resistance, 1e-9*math.Max(1, p.Current))
		near(t, "torque balance", d.Constant*(p.Current-d.NoLoad), d.TorquePer*p.Rotation*p.Rotation, 1e-12)
		near(t, "pack equation", p.PackVoltage, d.PackVoltage-d.PackOhm*d.Motors*duty*p.Current, 1e-9)
		back, ok := d.ForThrust(p.Thrust)
		if !ok {
			t.Fatalf("thrust of duty %.2f is said to be out of reach", duty)
		}
		near(t, "duty for that thrust", back.Duty, duty, 1e-9)
	}
	if p := d.At(0.001); p.Thrust != 0 || p.PackCurrent != 0 {
		t.Errorf("a duty that does not overcome the idle current turns nothing: %+v", p)
	}
	if _, ok := d.ForThrust(1000); ok {
		t.Error("a kilonewton is out of reach")
	}
}

func TestNewDriveNamesWhatIsMissing(t *testing.T) {
	whole := quad.Parts{Motor: quad.Motor{KV: 1700, Resistance: 55}, Propeller: quad.Propeller{Diameter: 127, Thrust: 0.18, Power: 0.12}}
	for _, c := range []struct {
		place string
		spoil func(*quad.Parts)
	}{
		{"parts.motor.kv", func(p *quad.Parts) { p.Motor.KV = 0 }},
		{"parts.motor.resistance", func(p *quad.Parts) { p.Motor.Resistance = -1 }},
		{"parts.propeller.diameter", func(p *quad.Parts) { p.Propeller.Diameter = math.NaN() }},
		{"parts.propeller.thrust", func(p *quad.Parts) { p.Propeller.Thrust = math.Inf(1) }},
		{"parts.propeller.power", func(p *quad.Parts) { p.Propeller.Power = 0 }},
	} {
		p := whole
		c.spoil(&p)
		if _, err := NewDrive(p, quad.Pack{}, 24, Density); quad.AsFault(err) == nil || quad.AsFault(err).Place != c.place {
			t.Errorf("want a fault at %s, got %v", c.place, err)
		}
	}
	if _, err := NewDrive(whole, quad.Pack{}, 0, Density); err == nil {
		t.Error("no volts must be a fault")
	}
}

func TestCapacitorWorkedValues(t *testing.T) {
	for _, c := range []struct{ esr, want float64 }{{0, 164}, {0.010, 366}} {
		got, ok := CapacitorNeed(150e-9, 100, 0.12*25.2, c.esr)
		if !ok {
			t.Fatal("it must be possible")
		}
		near(t, "capacitance, µF", got*1e6, c.want, 0.5)
	}
	near(t, "rating", CapacitorRating(25.2, 0.12*25.2), 35, 0)
	if _, ok := CapacitorNeed(150e-9, 100, 3, 0.04); ok {
		t.Error("a series resistance that takes 4 of 3 V cannot be helped by any capacitance")
	}
}

func TestPlacesAndInertia(t *testing.T) {
	f := quad.Frame{ArmFront: 80, ArmSide: 100}
	x := Spots(quad.LayoutX, f)
	if x[0] != (Spot{0.08, -0.1}) || x[3] != (Spot{-0.08, 0.1}) {
		t.Errorf("front left and rear right at %v, %v", x[0], x[3])
	}
	plus := Spots(quad.LayoutPlus, quad.Frame{ArmFront: 225, ArmSide: 225})
	if plus[0] != (Spot{0.225, 0}) || plus[1] != (Spot{0, 0.225}) {
		t.Errorf("in the plus layout the first two are ahead and to the right: %v", plus)
	}
	// Rotors alone, by the definition of a moment of inertia: the estimate can only be larger, and by a
	// known rest.
	m := 0.72
	got := Inertia(m, x)
	near(t, "about roll, rotors' part", got[0]-(1-armShare)*m/12*(0.66*0.66+0.4*0.4)*(0.08*0.08+0.1*0.1), armShare*m*0.1*0.1, 1e-9)
	if got[2] <= got[0] || got[2] >= got[0]+got[1] {
		t.Errorf("a flat body is stiffest about yaw, but not more than both together: %v", got)
	}
}

func TestHeaviestAndMass(t *testing.T) {
	p := quad.Parts{Frame: quad.Frame{Mass: 495}, Packs: map[string]quad.Pack{"a": {Mass: 100}, "b": {Mass: 215}}}
	name, pack, ok := Heaviest(p)
	if name != "b" || !ok {
		t.Errorf("heaviest is %q", name)
	}
	near(t, "by parts", Mass(p, pack, 0), 0.71, 1e-12)
	near(t, "as weighed", Mass(p, pack, 702), 0.702, 1e-12)
	if _, _, ok := Heaviest(quad.Parts{}); ok {
		t.Error("without packs there is no heaviest")
	}
}

func TestSummarizeAgreesWithItsParts(t *testing.T) {
	p := quad.Parts{
		Frame: quad.Frame{Mass: 500}, Motor: quad.Motor{KV: 1700, Resistance: 55, IdleCurrent: 1.1},
		Propeller: quad.Propeller{Diameter: 127, Thrust: 0.18, Power: 0.12},
		Packs:     map[string]quad.Pack{"grey": {Cells: 6, Capacity: 1300, Resistance: 18, Mass: 220}},
	}
	s := Summarize(p, 0)
	if !s.Known || s.Pack != "grey" || s.Mass != 720 || s.Weighed {
		t.Fatalf("%+v", s)
	}
	// Energy: four fifths of 1.3 Ah last that long at the hover's current.
	near(t, "minutes", s.Minutes, 0.8*1.3/s.HoverCurrent*60, 1e-9)
	// The electronics draw beside the motors, and shorten it.
	fed := p
	fed.Board.IdleDraw, fed.Video = 200, quad.Video{Fitted: true, IdleDraw: 300}
	near(t, "current with electronics", Summarize(fed, 0).HoverCurrent, s.HoverCurrent+0.5, 1e-9)
	if s.TipMach < 0.5 || s.TipMach > 0.75 || s.PeakPack < 4*s.PeakMotor-1e-6 {
		t.Errorf("%+v", s)
	}
	if Summarize(quad.Parts{}, 700).Known {
		t.Error("without parts nothing is known")
	}
}

func TestPackThatCounts(t *testing.T) {
	pack := func(cells int, mass float64) quad.Pack { return quad.Pack{Cells: cells, Mass: mass} }
	for _, c := range []struct {
		why             string
		packs           map[string]quad.Pack
		heaviest, cells string
	}{
		{"none", nil, "", ""},
		{"one", map[string]quad.Pack{"a": pack(4, 150)}, "a", "a"},
		{"a light one with a cell more", map[string]quad.Pack{"a": pack(5, 200), "b": pack(6, 180)}, "a", "b"},
		{"of alike the lightest", map[string]quad.Pack{"a": pack(6, 215), "b": pack(6, 211), "c": pack(4, 300)}, "c", "b"},
	} {
		if name, _, ok := Heaviest(quad.Parts{Packs: c.packs}); name != c.heaviest || ok != (c.heaviest != "") {
			t.Errorf("%s: %q is the heaviest", c.why, name)
		}
		if name, _, ok := MostCells(quad.Parts{Packs: c.packs}); name != c.cells || ok != (c.cells != "") {
			t.Errorf("%s: %q has the most cells", c.why, name)
		}
	}
}
