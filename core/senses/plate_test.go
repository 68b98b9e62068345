package senses

import (
	"math"
	"math/rand/v2"
	"testing"

	"vividperch/core/quad"
)

// A quad whose board is off by one angle stands on a bench that leans by another: what the board shows is worked out with whole rotations, and
// looking twice, turned half round between, tells the two apart.
func TestTurnedTellsBenchFromBoard(t *testing.T) {
	r := rand.New(rand.NewPCG(2, 8))
	for range 300 {
		board, plate := quad.Mount{Roll: 3 * r.NormFloat64(), Pitch: 3 * r.NormFloat64()}, quad.Mount{Roll: 2 * r.NormFloat64(), Pitch: 2 * r.NormFloat64()}
		shows := func(turn float64) quad.Level {
			// Gravity in the world, through the bench, the quad's heading on it, and the board's own error.
			stands := facing(quad.Mount{Yaw: turn}).back().times(facing(plate)).times(facing(quad.Mount{Yaw: turn}))
			down := facing(board).back().times(stands.back()).Turn([3]float64{0, 0, 1})
			return quad.Level{Roll: degreesOf(math.Atan2(down[1], down[2])), Pitch: degreesOf(-math.Asin(down[0]))}
		}
		at, half := shows(0), shows(180)
		// The bench under the turned quad leans the other way as the quad sees it.
		got := Turned(at, half)
		if d := math.Max(math.Abs(got.Board.Roll-board.Roll), math.Abs(got.Board.Pitch-board.Pitch)); d > 0.35 {
			t.Fatalf("board %+v on %+v: told %+v", board, plate, got)
		}
		if d := math.Abs(math.Hypot(got.Plate.Roll, got.Plate.Pitch) - math.Hypot(plate.Roll, plate.Pitch)); d > 0.35 {
			t.Fatalf("bench %+v under %+v: told %+v", plate, board, got)
		}
	}
}

// Of all stacks of up to three of the shims at hand, written out by loops here, none leaves less tilt than the one that is chosen by more than a
// hundredth of a degree.
func TestShimsAreTheBest(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 9))
	for range 500 {
		width, tilt := 80+400*r.Float64(), 3*r.NormFloat64()
		hand := make([]float64, 1+r.IntN(6))
		for i := range hand {
			hand[i] = 0.1 + 4*r.Float64()
		}
		got, err := ShimFor(tilt, width, hand)
		if err != nil {
			t.Fatal(err)
		}
		stacks, best := append([]float64{0}, hand...), math.Inf(1)
		for _, a := range stacks {
			for _, b := range stacks {
				for _, c := range stacks {
					best = math.Min(best, math.Abs(math.Abs(tilt)-degreesOf(math.Atan((a+b+c)/width))))
				}
			}
		}
		sum := 0.0
		for _, p := range got.Pieces {
			sum += p
		}
		if !(math.Abs(got.Left) <= best+0.0301) || !(math.Abs(sum-got.Height) <= 1e-9) || len(got.Pieces) > 3 {
			t.Fatalf("%v° over %v mm with %v: %+v, but %v° can be left", tilt, width, hand, got, best)
		}
		if !(math.Abs(math.Abs(tilt)-degreesOf(math.Atan(sum/width))-math.Abs(got.Left)) <= 1e-9) && math.Signbit(got.Left) == math.Signbit(tilt) {
			t.Fatalf("%+v does not leave what it says", got)
		}
	}
}

// Published: 1° costs 0.17 m/s²; the way back from metres and seconds is against a flight integrated here.
func TestDriftAndAngle(t *testing.T) {
	if a := Drift(1, 9.81); !(math.Abs(a-0.171) <= 0.001) {
		t.Errorf("1° costs %v m/s²", a)
	}
	for _, angle := range []float64{0.5, 2, 7} {
		x, v, h := 0.0, 0.0, 1e-4
		for range 30000 {
			v += h * 9.81 * math.Tan(angle*math.Pi/180)
			x += h * v
		}
		if got := AngleOfDrift(x, 3, 9.81); !(math.Abs(got-angle) <= 0.001) {
			t.Errorf("%v m in 3 s: %v°, flown with %v", x, got, angle)
		}
	}
}

// Figures that cannot be are refused.
func TestShimsThatCannotBe(t *testing.T) {
	for code, c := range map[string]struct {
		tilt, width float64
		hand        []float64
	}{
		"bad-tilt": {math.NaN(), 200, nil}, "bad-width": {1, 0, nil}, "bad-shim": {1, 200, []float64{-1}}, "too-many": {1, 200, make([]float64, 13)},
	} {
		if _, err := ShimFor(c.tilt, c.width, c.hand); err == nil || quad.AsFault(err).Code != code {
			t.Errorf("%s: %v", code, err)
		}
	}
	if s, err := ShimFor(0.02, 200, []float64{1}); err != nil || len(s.Pieces) != 0 {
		t.Errorf("a bench that is level: %+v, %v", s, err)
	}
}

// The low side is raised: a quad that shows right side down on a sound board stands on a bench that is low to its right.
func TestPlateIsRaisedWhereItIsLow(t *testing.T) {
	for _, c := range []struct {
		roll, pitch float64
		under       [2]string
	}{{1.2, 0.8, [2]string{"right", "rear"}}, {-1.2, -0.8, [2]string{"left", "front"}}, {0, 0, [2]string{"", ""}}} {
		p, err := PlateAsk{Stands: quad.Level{Roll: c.roll + 0.3, Pitch: c.pitch - 0.2}, Turned: quad.Level{Roll: -c.roll + 0.3, Pitch: -c.pitch - 0.2}, Across: 250, Along: 200, Shims: []float64{0.2, 0.5, 1.7}}.Level(9.81)
		if err != nil {
			t.Fatal(err)
		}
		if p.Sides[0].Under != c.under[0] || p.Sides[1].Under != c.under[1] {
			t.Errorf("%+v: under %s and %s", c, p.Sides[0].Under, p.Sides[1].Under)
		}
		if !(math.Abs(p.Board.Roll-0.3) <= 1e-9) || !(math.Abs(p.Board.Pitch+0.2) <= 1e-9) || !p.Within || !(math.Abs(p.Drift-9.81*math.Tan(Tilt(0.3, 0.2)*math.Pi/180)) <= 1e-9) {
			t.Errorf("board: %+v", p)
		}
	}
	if _, err := (PlateAsk{Stands: quad.Level{Roll: 90}, Across: 200, Along: 200}).Level(9.81); err == nil {
		t.Error("a quad on its side was levelled")
	}
}
