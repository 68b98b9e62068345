package airframe

import (
	"math"

	"vividperch/core/quad"
)

// Spot of a rotor in body axes, metres: X ahead, Y to the right.
type Spot struct{ X, Y float64 }

// Spots of the four rotors in the order of quad.Corners. In the plus layout the arms are ArmFront long and
// the corners' names go round with them, see quad.Corner.
func Spots(layout quad.Layout, f quad.Frame) [4]Spot {
	a, s := f.ArmFront/1000, f.ArmSide/1000
	if layout == quad.LayoutPlus {
		return [4]Spot{{a, 0}, {0, a}, {0, -a}, {-a, 0}}
	}
	return [4]Spot{{a, -s}, {a, s}, {-a, -s}, {-a, s}}
}

// Mass of the flying quad in kg: as weighed (g) when there is a weight, else by parts with the pack.
func Mass(p quad.Parts, pack quad.Pack, weighed float64) float64 {
	if weighed > 0 {
		return weighed / 1000
	}
	return (p.Frame.Mass + pack.Mass) / 1000
}

// LeanLeast is how far a quad that stands must be able to lean before a propeller strikes the ground, deg. In the flight model a nudge on
// its feet leans one by up to ten; of those that strike at 15 and less some tip over.
const LeanLeast = 16.0

// StrikesAt is the lean at which a propeller strikes the ground, deg, about the foot below its motor: arc tangent of legs over
// radius. 0 where one of the two is not told.
func StrikesAt(p quad.Parts) float64 {
	legs, radius := p.Frame.LegHeight, p.Propeller.Diameter/2
	if !(legs > 0) || !(radius > 0) {
		return 0
	}
	return math.Atan(legs/radius) * 180 / math.Pi
}

// TipsApart is the least between the tips of two propellers, mm: arms bend in flight.
const TipsApart = 3.0

// BetweenMotors is how far the nearest two motors stand from each other, mm; 0 where the arms are not told.
func BetweenMotors(layout quad.Layout, f quad.Frame) float64 {
	near := math.Inf(1)
	places := Spots(layout, f)
	for i, a := range places {
		for _, b := range places[:i] {
			near = math.Min(near, 1000*math.Hypot(a.X-b.X, a.Y-b.Y))
		}
	}
	return near
}

// LegsMost is how many times its shortest arm a quad may stand high: beyond, its middle comes to lie outside its feet by a lean of
// half a right angle and less, and a nudge tips it over in the flight model.
const LegsMost = 1.5

// How far, as a share, what was weighed may be from the sum of the parts, and from where on one of them is another quad's.
const (
	WeighsAlike = 0.1
	WeighsOther = 0.35
)

// MassWith is the mass in kg with a pack in, of a quad that was weighed (g) with its heaviest.
func MassWith(p quad.Parts, pack quad.Pack, weighed float64) float64 {
	_, heaviest, _ := Heaviest(p)
	return (weighed - heaviest.Mass + pack.Mass) / 1000
}

// MassOf is the mass in kg with a pack in: by what was weighed (g) with the heaviest, and by parts where nobody weighed it.
func MassOf(p quad.Parts, pack quad.Pack, weighed float64) float64 {
	if weighed > 0 {
		return MassWith(p, pack, weighed)
	}
	return Mass(p, pack, 0)
}

// DragOf a frame in air of a density (kg/m³): half of density times drag area, N for each (m/s)².
func DragOf(f quad.Frame, density float64) float64 { return density * f.DragArea * 1e-4 / 2 }

// OverloadStop is how many times its rating a part may be asked for before that is no load but the wrong part, or a slipped digit.
const OverloadStop = 2.0

// PackOverloadStop is the same for a pack, whose rating is for as long as it lasts and not for a punch-out.
const PackOverloadStop = 4.0

// Heaviest of the assigned packs, by name; ok is false when none is assigned. The heaviest is what
// judgements about lifting and hovering must hold for.
func Heaviest(p quad.Parts) (string, quad.Pack, bool) { return p.Heaviest() }

// MostCells is the assigned pack with the most cells, by name; of several the lightest. With it motors answer the most to the same
// throttle, so it is what gains must be steady with.
func MostCells(p quad.Parts) (string, quad.Pack, bool) {
	var best string
	for _, name := range quad.SortedKeys(p.Packs) {
		a, b := p.Packs[name], p.Packs[best]
		if best == "" || a.Cells > b.Cells || a.Cells == b.Cells && a.Mass < b.Mass {
			best = name
		}
	}
	return best, p.Packs[best], best != ""
}

// armShare of the mass sits at the rotors: motors, propellers and arm ends of a usual build.
const armShare = 0.32

// lagPerSize is how long a motor takes over two thirds of a step of its speed, ms for each mm of its propeller. Of drives that are scaled
// alike, with tips as fast as each other's, what turns holds energy as the cube of the size and the power to change it grows as its square: the
// time grows as the size. The figure is that of 5-inch drives, which take 30 ms.
const lagPerSize = 30.0 / 127

// LagBand is how far a motor of some size may be off what is usual, as a share.
const LagBand = 0.45

// UsualLag of a motor that turns a propeller of that diameter (mm): its time constant in ms, as far as size alone tells it; 0 where the
// diameter is not known.
func UsualLag(diameter float64) float64 { return lagPerSize * diameter }

// Lag of the motors in ms: as told, or as is usual for their propellers' size.
func Lag(p quad.Parts) float64 {
	if p.Motor.TimeConst > 0 {
		return p.Motor.TimeConst
	}
	return UsualLag(p.Propeller.Diameter)
}

// Inertia about the body axes in kg·m², estimated: armShare of the mass at the rotors, the rest a slab half
// as long as the arms are apart and a third as wide.
func Inertia(mass float64, places [4]Spot) [3]float64 {
	var xx, yy float64
	for _, p := range places {
		xx += armShare * mass / 4 * p.Y * p.Y
		yy += armShare * mass / 4 * p.X * p.X
	}
	span := 0.0
	for _, p := range places {
		span = math.Max(span, math.Hypot(p.X, p.Y))
	}
	long, wide, high := span, span*0.66, span*0.4
	rest := (1 - armShare) * mass / 12
	body := [3]float64{rest * (wide*wide + high*high), rest * (long*long + high*high), rest * (long*long + wide*wide)}
	return [3]float64{xx + body[0], yy + body[1], xx + yy + body[2]}
}
