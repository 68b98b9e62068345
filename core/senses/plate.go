package senses

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"vividperch/core/quad"
)

// Bench is a bench top and a board on it, told apart by looking twice: once as it stands, once turned half round on the same spot. What turns
// with the quad is the board's, what stays is the bench's.
type Bench struct {
	Board quad.Level `json:"board"` // the board's own level error
	Plate quad.Level `json:"plate"` // of the bench top, as seen by the quad as it stood first
}

// Turned tells a bench from a board by what the board shows in both directions, deg; small angles, so that they add.
func Turned(stands, turned quad.Level) Bench {
	half := func(a, b float64) float64 { return (a + b) / 2 }
	return Bench{
		Board: quad.Level{Roll: half(stands.Roll, turned.Roll), Pitch: half(stands.Pitch, turned.Pitch)},
		Plate: quad.Level{Roll: half(stands.Roll, -turned.Roll), Pitch: half(stands.Pitch, -turned.Pitch)},
	}
}

// Shim is what goes under the low side of a plate in one direction.
type Shim struct {
	Wanted float64   `json:"wanted" unit:"mm"` // height that would make it level
	Pieces []float64 `json:"pieces" unit:"mm"` // of those at hand, thickest first
	Height float64   `json:"height" unit:"mm"` // of them together
	Left   float64   `json:"left" unit:"deg"`  // tilt that remains, signed as the tilt was
}

// mostPieces of shims on each other: a taller stack rocks.
const mostPieces = 3

// ShimFor a tilt (deg) over a width (mm) between plate's feet, from thicknesses at hand (mm), each of which there is more than one. With fewer
// pieces where that is as good to a hundredth of a degree. Figures that cannot be are a Fault.
func ShimFor(tilt, width float64, atHand []float64) (Shim, error) {
	switch {
	case !(math.Abs(tilt) <= 20):
		return Shim{}, quad.Faultf("bad-tilt", "tilt", "no bench leans more than 20°")
	case !(width >= 20 && width <= 5000):
		return Shim{}, quad.Faultf("bad-width", "width", "is between 20 mm and 5 m")
	case len(atHand) > 12:
		return Shim{}, quad.Faultf("too-many", "shims", "12 thicknesses are enough")
	}
	for _, x := range atHand {
		if !(x > 0 && x <= 100) {
			return Shim{}, quad.Faultf("bad-shim", "shims", "a shim is up to 100 mm thick")
		}
	}
	best := Shim{Wanted: width * math.Tan(math.Abs(tilt)*math.Pi/180), Pieces: []float64{}, Left: tilt}
	left := func(height float64) float64 {
		return math.Copysign(1, tilt) * (math.Abs(tilt) - math.Atan(height/width)*180/math.Pi)
	}
	thick := slices.Clone(atHand)
	slices.SortFunc(thick, func(a, b float64) int { return cmp.Compare(b, a) })
	for count := 1; count <= mostPieces; count++ {
		stack := best
		eachStack(thick, count, func(pieces []float64, height float64) {
			if l := left(height); math.Abs(l) < math.Abs(stack.Left) {
				stack.Pieces, stack.Height, stack.Left = slices.Clone(pieces), height, l
			}
		})
		if math.Abs(stack.Left) < math.Abs(best.Left)-0.01 { // one piece more must be worth it
			best = stack
		}
	}
	return best, nil
}

// eachStack of so many pieces of some thicknesses, thickest first, with its height. What it is given is its own until it returns.
func eachStack(thick []float64, count int, look func(pieces []float64, height float64)) {
	var pile func(from int, pieces []float64, height float64)
	pile = func(from int, pieces []float64, height float64) {
		if len(pieces) == count {
			look(pieces, height)
			return
		}
		for i := from; i < len(thick); i++ {
			pile(i, append(pieces, thick[i]), height+thick[i])
		}
	}
	pile(0, make([]float64, 0, count), 0)
}

// AngleOfDrift is the level error (deg) that carries a quad off by some metres in some seconds from rest, in still air and before drag tells: the
// way back from a drift that was seen to the angle behind it. 2 d / t² = g tan(angle).
func AngleOfDrift(metres, seconds, gravity float64) float64 {
	return math.Atan(2*metres/(seconds*seconds)/gravity) * 180 / math.Pi
}

// PlateAsk is what was seen of a quad on a plate, and what is at hand to level the plate with.
type PlateAsk struct {
	Stands quad.Level `json:"stands"` // what the board shows as it stands
	Turned quad.Level `json:"turned"` // and turned half round on the same spot
	// Across and Along are how far apart the plate's feet are, from left to right and from front to rear, as the quad stood first.
	Across float64   `json:"across" unit:"mm"`
	Along  float64   `json:"along" unit:"mm"`
	Shims  []float64 `json:"shims" unit:"mm"` // thicknesses at hand
}

// Plate is what makes it level, and what the board's own error costs.
type Plate struct {
	Bench
	Sides []PlateSide `json:"sides"` // roll, then pitch
	// Error is the board's whole level error, Drift what it costs while hovering, and AfterFive how far that carries it in five seconds.
	Error     float64 `json:"error" unit:"deg"`
	Drift     float64 `json:"drift" unit:"m/s²"`
	AfterFive float64 `json:"afterFive" unit:"m"`
	Within    bool    `json:"within"` // each way within Most, as a level is wanted
	Most      float64 `json:"most" unit:"deg"`
}

// PlateSide is one direction of a plate.
type PlateSide struct {
	Shim
	Tilt  float64 `json:"tilt" unit:"deg"`
	Width float64 `json:"width" unit:"mm"`
	Under string  `json:"under"` // the side that the shims go under; nothing where none is wanted
	Words string  `json:"words"` // what to put where
}

// levelEnough is a tilt under which nobody looks for shims, deg.
const levelEnough = 0.05

// words of what to put where.
func (s PlateSide) words() string {
	switch {
	case len(s.Pieces) > 0:
		var of []string
		for _, p := range s.Pieces {
			of = append(of, quad.Quantity(p, "mm"))
		}
		return strings.Join(of, " + ") + " under the " + s.Under
	case math.Abs(s.Tilt) < levelEnough:
		return "level as it stands"
	}
	return "nothing at hand makes it better"
}

// Level a plate, and tell the board's own error from it.
func (a PlateAsk) Level(gravity float64) (Plate, error) {
	for _, x := range []float64{a.Stands.Roll, a.Stands.Pitch, a.Turned.Roll, a.Turned.Pitch} {
		if !(math.Abs(x) <= 45) {
			return Plate{}, quad.Faultf("bad-tilt", "stands", "more than 45° is no plate but a fall; is the board turned on its mount?")
		}
	}
	p := Plate{Bench: Turned(a.Stands, a.Turned)}
	for _, side := range []struct {
		tilt, width float64
		low, other  string
	}{{p.Plate.Roll, a.Across, "right", "left"}, {p.Plate.Pitch, a.Along, "rear", "front"}} {
		shim, err := ShimFor(side.tilt, side.width, a.Shims)
		if err != nil {
			return Plate{}, err
		}
		out := PlateSide{Shim: shim, Tilt: side.tilt, Width: side.width}
		if len(shim.Pieces) > 0 {
			if out.Under = side.low; side.tilt < 0 {
				out.Under = side.other
			}
		}
		out.Words = out.words()
		p.Sides = append(p.Sides, out)
	}
	p.Error = Tilt(p.Board.Roll, p.Board.Pitch)
	p.Most = LevelTolerance
	p.Drift = Drift(p.Error, gravity)
	p.AfterFive = p.Drift * 25 / 2
	p.Within = math.Abs(p.Board.Roll) <= LevelTolerance && math.Abs(p.Board.Pitch) <= LevelTolerance
	return p, nil
}
