package linkloss

import (
	"math"
	"math/rand/v2"
	"testing"

	"vividperch/core/site"
)

// The area that holds a share q of a normal distribution is an ellipse of -2π ln(1-q) σx σy.
func TestRegionsOfANormalDistribution(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 3))
	for _, c := range []struct{ east, north, turn float64 }{{10, 10, 0}, {30, 6, 0.6}, {4, 40, 0}} {
		sin, cos := math.Sincos(c.turn)
		points := make([]site.Offset, 1000)
		for i := range points {
			x, y := c.east*r.NormFloat64(), c.north*r.NormFloat64()
			points[i] = site.Offset{East: 100 + cos*x - sin*y, North: -50 + sin*x + cos*y}
		}
		for _, a := range Regions(points, 50, 95) {
			want := -2 * math.Pi * math.Log(1-a.Share/100) * c.east * c.north
			if !(math.Abs(a.Size-want) <= 0.2*want) {
				t.Errorf("σ %v and %v: %v %% lie in %v m², want %.0f", c.east, c.north, a.Share, a.Size, want)
			}
			// As many of others drawn alike lie inside.
			in, n := 0, 4000
			for range n {
				x, y := c.east*r.NormFloat64(), c.north*r.NormFloat64()
				if within(a, site.Offset{East: 100 + cos*x - sin*y, North: -50 + sin*x + cos*y}) {
					in++
				}
			}
			if got := 100 * float64(in) / float64(n); !(math.Abs(got-a.Share) <= 4) {
				t.Errorf("σ %v and %v: %v %% of others lie in the area of %v %%", c.east, c.north, got, a.Share)
			}
		}
	}
}

// within an area, by how often a ray crosses its outlines.
func within(a Region, p site.Offset) bool {
	in := false
	for _, ring := range a.Rings {
		one := site.Area{Corners: ring}
		in = in != one.Holds(p)
	}
	return in
}

// Two heaps are two rings, and a ring of points has a hole.
func TestRegionsOfOtherShapes(t *testing.T) {
	r := rand.New(rand.NewPCG(4, 4))
	var heaps, round []site.Offset
	for i := range 800 {
		heaps = append(heaps, site.Offset{East: 100*float64(i%2) + 3*r.NormFloat64(), North: 3 * r.NormFloat64()})
		at := 2 * math.Pi * r.Float64()
		round = append(round, site.Offset{East: 60*math.Cos(at) + 2*r.NormFloat64(), North: 60*math.Sin(at) + 2*r.NormFloat64()})
	}
	if a := Regions(heaps, 95)[0]; within(a, site.Offset{East: 50}) || !within(a, site.Offset{}) || !within(a, site.Offset{East: 100}) {
		t.Errorf("two heaps: %d rings", len(a.Rings))
	}
	if a := Regions(round, 95)[0]; within(a, site.Offset{}) || !within(a, site.Offset{East: 60}) || !(math.Abs(a.Size-2*math.Pi*60*8) <= 2*math.Pi*60*4) {
		t.Errorf("a ring: %v m²", a.Size)
	}
	if len(Regions(heaps[:5], 95)) != 0 {
		t.Error("five points have an area")
	}
	same := make([]site.Offset, 50) // all in one place
	if a := Regions(same, 95)[0]; a.Size > 40 || !within(a, site.Offset{}) {
		t.Errorf("one place: %v m²", a.Size)
	}
}

// The density on the grid against the plain sum of kernels at a point, and the room around it: all of what is there lies on the grid.
func TestDensityAgainstThePlainSum(t *testing.T) {
	r := rand.New(rand.NewPCG(6, 6))
	points := make([]site.Offset, 60)
	for i := range points {
		points[i] = site.Offset{East: 300 + 20*r.NormFloat64(), North: -200 + 7*r.NormFloat64()}
	}
	const width = 5.0
	g := newGrid(points, width)
	all := 0.0
	for _, x := range g.density {
		all += x
	}
	if !(math.Abs(all-60) <= 1e-9) {
		t.Errorf("%v of 60 points are on the grid", all)
	}
	peak := 0.0
	for _, p := range points {
		sum := 0.0
		for _, q := range points {
			away := math.Hypot(p.East-q.East, p.North-q.North)
			sum += math.Exp(-away * away / (2 * width * width))
		}
		// A cell holds its area's share of a kernel that holds one.
		want := sum * g.cell * g.cell / (2 * math.Pi * width * width)
		peak = math.Max(peak, want)
		if got := g.at(p); !(math.Abs(got-want) <= 0.05*want) {
			t.Errorf("at %v the density is %v, by the plain sum %v", p, got, want)
		}
	}
	for i := range g.wide {
		for _, j := range []int{0, 1, g.high - 2, g.high - 1} {
			if g.density[j*g.wide+i] > 1e-3*peak {
				t.Fatalf("at the rim, row %d, there is %v of a peak of %v", j, g.density[j*g.wide+i], peak)
			}
		}
	}
	for j := range g.high {
		for _, i := range []int{0, 1, g.wide - 2, g.wide - 1} {
			if g.density[j*g.wide+i] > 1e-3*peak {
				t.Fatalf("at the rim, column %d, there is %v of a peak of %v", i, g.density[j*g.wide+i], peak)
			}
		}
	}
	// So fine that a kernel is seen, and so coarse that the work is bounded.
	if far := newGrid([]site.Offset{{}, {East: 5000}}, 1); far.wide > gridMost+10 || far.high > gridMost+10 {
		t.Errorf("over five kilometres the grid has %d by %d cells", far.wide, far.high)
	}
	if g.cell != width/2.5 {
		t.Errorf("cells of %v m for a kernel of %v m", g.cell, width)
	}
}
