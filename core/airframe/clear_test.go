package airframe

import (
	"math"
	"testing"

	"vividperch/core/quad"
)

// Every pair of points of a disc and of a box, on a grid: the least distance.
func TestClearancesAgainstAllPoints(t *testing.T) {
	p := quad.Parts{Frame: quad.Frame{ArmFront: 80, ArmSide: 95}, Propeller: quad.Propeller{Diameter: 127}, Placed: map[string]quad.Thing{
		"camera":  {Ahead: 70, Right: 0, Above: -12, Long: 22, Wide: 19, High: 19},
		"antenna": {Ahead: -60, Right: 40, Above: 0, Long: 4, Wide: 30, High: 6},
		"strap":   {Ahead: 0, Right: 0, Above: 20, Long: 20, Wide: 60, High: 30},
		"guard":   {Ahead: 80, Right: -95, Above: -40, Long: 140, Wide: 140, High: 10},
	}}
	gaps := map[string]Gap{}
	pairs := 0
	for _, g := range Clearances(p, quad.LayoutX) {
		if g.Thing == "" {
			pairs++
			continue
		}
		gaps[g.Thing] = g
	}
	if pairs != 6 {
		t.Errorf("%d pairs of four", pairs)
	}
	for name, x := range p.Placed {
		least := math.Inf(1)
		for _, s := range Spots(quad.LayoutX, p.Frame) {
			for a := 0; a < 720; a += 2 {
				for r := 0.0; r <= 63.5; r += 63.5 / 40 {
					sin, cos := math.Sincos(float64(a) * math.Pi / 360)
					px, py := 1000*s.X+r*cos, 1000*s.Y+r*sin
					dx := math.Max(0, math.Abs(px-x.Ahead)-x.Long/2)
					dy := math.Max(0, math.Abs(py-x.Right)-x.Wide/2)
					dz := math.Max(0, math.Abs(x.Above)-x.High/2)
					least = math.Min(least, math.Sqrt(dx*dx+dy*dy+dz*dz))
				}
			}
		}
		if got := gaps[name].Gap; !(math.Abs(math.Max(0, got)-least) <= 0.3) || least < 1e-9 && got > 0 {
			t.Errorf("%s: %.2f mm, by all points %.2f", name, got, least)
		}
	}
	// Neighbours beside each other: 190 mm apart, a diameter between their tips less.
	for _, g := range Clearances(p, quad.LayoutX) {
		if g.Corner == quad.FrontLeft && g.Other == quad.FrontRight {
			near(t, "front tips", g.Gap, 190-127, 1e-9)
			near(t, "from the left one's edge", g.From[1], -95+63.5, 1e-9)
		}
	}
	if Clearances(quad.Parts{}, quad.LayoutX) != nil {
		t.Error("of what is not told there is a gap")
	}
}

func TestBudgetAddsUp(t *testing.T) {
	p := quad.Parts{Frame: quad.Frame{Mass: 500}, Motor: quad.Motor{Mass: 33}, Placed: map[string]quad.Thing{"stack": {Mass: 40}, "guards": {Mass: 60, Protects: true}, "pack": {Mass: 999}}}
	list, left := Budget(p, quad.Pack{Mass: 215})
	sum := left
	for _, w := range list {
		sum += w.Mass
	}
	near(t, "all of it", sum, 715, 1e-9)
	near(t, "what nobody told apart", left, 500-4*33-100, 1e-9)
}

func TestProtectionCosts(t *testing.T) {
	p := quad.Parts{
		Frame: quad.Frame{Mass: 500}, Motor: quad.Motor{KV: 1700, Resistance: 55, IdleCurrent: 1.1}, Propeller: quad.Propeller{Diameter: 127, Thrust: 0.18, Power: 0.12},
		Packs:  map[string]quad.Pack{"grey": {Cells: 6, Capacity: 1300, Resistance: 18, Mass: 220}},
		Placed: map[string]quad.Thing{"guards": {Mass: 60, Protects: true}, "stack": {Mass: 50}},
	}
	got, ok := Protects(p, 720)
	if !ok || got.Mass != 60 || got.Duty[0] <= got.Duty[1] || got.Minutes[0] >= got.Minutes[1] {
		t.Errorf("%+v %v", got, ok)
	}
	// A hover's power goes about as the mass to three halves.
	near(t, "minutes", got.Minutes[0]/got.Minutes[1], math.Pow(660./720, 1.45), 0.02)
	p.Placed = nil
	if _, ok := Protects(p, 720); ok {
		t.Error("what is not on it costs nothing")
	}
}

func TestMisfits(t *testing.T) {
	p := quad.Parts{
		Frame: quad.Frame{StackHoles: 30.5, StackRoom: 20, CameraRoom: 19, MotorCircle: 16, ArmThick: 5}, Board: quad.BoardPart{Holes: 30.5}, SpeedController: quad.SpeedController{Holes: 30.5},
		Motor: quad.Motor{Circle: 16, Screw: 8}, Video: quad.Video{CameraWide: 19}, Placed: map[string]quad.Thing{"stack": {High: 18}},
	}
	if got := Misfits(p); len(got) != 0 {
		t.Errorf("it all fits: %+v", got)
	}
	p.Board.Holes, p.SpeedController.Holes, p.Motor.Circle, p.Video.CameraWide, p.Placed["stack"] = 20, 25.5, 12, 22, quad.Thing{High: 28}
	if got := Misfits(p); len(got) != 5 {
		t.Errorf("%d of five misfits: %+v", len(got), got)
	}
	if into, ok := Screws(p); !ok || into != 3 {
		t.Errorf("screws go %.1f mm in", into)
	}
	if len(Misfits(quad.Parts{Frame: p.Frame})) != 0 {
		t.Error("what is not told does not fit")
	}
}

// What is offered to a bare quad is clear of its propellers, whatever its size, and is offered no more once it has its place.
func TestOffersAreClear(t *testing.T) {
	for _, size := range []struct{ arm, across float64 }{{80, 127}, {52, 76}, {26.5, 40}, {145, 229}} {
		p := quad.Parts{Frame: quad.Frame{ArmFront: size.arm, ArmSide: size.arm}, Propeller: quad.Propeller{Diameter: size.across}, Placed: map[string]quad.Thing{}}
		for _, o := range Offers(p) {
			p.Placed[o.Name] = o.Thing
		}
		if len(p.Placed) != 6 || len(Offers(p)) != 0 {
			t.Errorf("without video %d things are offered, then %d", len(p.Placed), len(Offers(p)))
		}
		for _, g := range Clearances(p, quad.LayoutX) {
			if g.Gap < 1 {
				t.Errorf("arms of %g mm: %s %s is %.1f mm from a propeller", size.arm, g.Thing, g.Other, g.Gap)
			}
		}
		p.Video.Fitted = true
		if len(Offers(p)) != 2 {
			t.Error("with video there are a camera and what sends its picture")
		}
	}
}
