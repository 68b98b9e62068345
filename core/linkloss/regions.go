package linkloss

import (
	"math"
	"slices"

	"vividperch/core/site"
)

// Region is the smallest in which a share of what came down came down, estimated from where it did.
type Region struct {
	Share float64         `json:"share" unit:"%"`
	Size  float64         `json:"size" unit:"m²"`
	Rings [][]site.Offset `json:"rings"` // its outlines; one inside another is a hole
}

const (
	fewest    = 8    // points that tell anything about an area
	narrowest = 1.0  // m, of the kernel
	gridMost  = 160  // cells along the longer side
	kernels   = 3.0  // widths of the kernel around the outermost points
	sampled   = 60   // points at which the kernel's width is looked for
	inWidth   = 0.55 // of the distance to the √n-th neighbour
)

// Regions in which shares (%) of some points lie: those where their density is highest. The density is a sum of normal kernels as wide as the points lie apart: the
// median distance to the √n-th neighbour, shrunk. It is at its bound where that share of the points lie at a higher one (Hyndman, Computing and graphing
// highest density regions, 1996). Fewer than eight points have none.
func Regions(points []site.Offset, shares ...float64) []Region {
	if len(points) < fewest {
		return []Region{}
	}
	width := kernelWidth(points)
	g := newGrid(points, width)
	heights := make([]float64, len(points))
	for i, p := range points {
		heights[i] = g.at(p)
	}
	slices.Sort(heights)
	peak := slices.Max(g.density)
	out := make([]Region, 0, len(shares))
	for _, share := range shares {
		level := heights[min(len(heights)-1, int(float64(len(heights))*(1-share/100)))]
		level = math.Min(level, math.Exp(-0.5)*peak) // never narrower than the kernel
		a := Region{Share: share, Rings: g.outlines(level)}
		for _, ring := range a.Rings {
			a.Size += site.Enclosed(ring)
		}
		a.Size = math.Round(math.Abs(a.Size))
		out = append(out, a)
	}
	return out
}

func kernelWidth(points []site.Offset) float64 {
	step := max(1, len(points)/sampled)
	k := int(math.Sqrt(float64(len(points))))
	var near []float64
	away := make([]float64, len(points))
	for i := 0; i < len(points); i += step {
		for j, p := range points {
			away[j] = math.Hypot(p.East-points[i].East, p.North-points[i].North)
		}
		slices.Sort(away)
		near = append(near, away[k])
	}
	slices.Sort(near)
	return math.Max(narrowest, inWidth*near[len(near)/2])
}

// grid of a density over the ground; its rim is empty.
type grid struct {
	low        site.Offset
	cell       float64 // m
	wide, high int
	density    []float64
}

func newGrid(points []site.Offset, width float64) *grid {
	low, high := points[0], points[0]
	for _, p := range points {
		low = site.Offset{East: math.Min(low.East, p.East), North: math.Min(low.North, p.North)}
		high = site.Offset{East: math.Max(high.East, p.East), North: math.Max(high.North, p.North)}
	}
	rim := (kernels + 1) * width
	long := math.Max(high.East-low.East, high.North-low.North) + 2*rim
	g := &grid{cell: math.Max(width/2.5, long/gridMost)}
	rim += 2 * g.cell
	g.low = site.Offset{East: low.East - rim, North: low.North - rim}
	g.wide, g.high = int((high.East-low.East+2*rim)/g.cell)+2, int((high.North-low.North+2*rim)/g.cell)+2
	g.density = make([]float64, g.wide*g.high)
	for _, p := range points { // shared among the four nodes around it
		x, y := (p.East-g.low.East)/g.cell, (p.North-g.low.North)/g.cell
		i, j := int(x), int(y)
		x, y = x-float64(i), y-float64(j)
		at := j*g.wide + i
		g.density[at] += (1 - x) * (1 - y)
		g.density[at+1] += x * (1 - y)
		g.density[at+g.wide] += (1 - x) * y
		g.density[at+g.wide+1] += x * y
	}
	g.smooth(width / g.cell)
	return g
}

// smooth by a normal kernel of a width in cells, first along and then up.
func (g *grid) smooth(width float64) {
	n := int(math.Ceil(kernels * width))
	kernel, sum := make([]float64, 2*n+1), 0.0
	for i := range kernel {
		x := float64(i-n) / width
		kernel[i] = math.Exp(-x * x / 2)
		sum += kernel[i]
	}
	pass := func(from []float64, count, step, lines, between int) []float64 {
		to := make([]float64, len(from))
		for l := range lines {
			for i := range count {
				x := from[l*between+i*step]
				if x == 0 {
					continue
				}
				for k := max(0, i-n); k <= min(count-1, i+n); k++ {
					to[l*between+k*step] += x * kernel[k-i+n] / sum
				}
			}
		}
		return to
	}
	g.density = pass(g.density, g.wide, 1, g.high, g.wide)
	g.density = pass(g.density, g.high, g.wide, g.wide, 1)
}

// at a point, between the nodes.
func (g *grid) at(p site.Offset) float64 {
	x, y := (p.East-g.low.East)/g.cell, (p.North-g.low.North)/g.cell
	i, j := int(x), int(y)
	x, y = x-float64(i), y-float64(j)
	at := j*g.wide + i
	return (1-x)*(1-y)*g.density[at] + x*(1-y)*g.density[at+1] + (1-x)*y*g.density[at+g.wide] + x*y*g.density[at+g.wide+1]
}

// outlines where the density is at a level, by marching squares: closed rings with the higher side on their left.
func (g *grid) outlines(level float64) [][]site.Offset {
	// An edge between two nodes is known by its lower node, doubled, and whether it goes up.
	type crossing = int
	next := map[crossing]crossing{}
	var order []crossing
	along := func(i, j int) crossing { return 2 * (j*g.wide + i) }
	up := func(i, j int) crossing { return 2*(j*g.wide+i) + 1 }
	for j := range g.high - 1 {
		for i := range g.wide - 1 {
			a, b := g.density[j*g.wide+i] >= level, g.density[j*g.wide+i+1] >= level
			d, c := g.density[(j+1)*g.wide+i] >= level, g.density[(j+1)*g.wide+i+1] >= level
			south, east, north, west := along(i, j), up(i+1, j), along(i, j+1), up(i, j)
			link := func(from, to crossing) { next[from] = to; order = append(order, from) }
			code := 0
			for n, in := range [4]bool{a, b, c, d} {
				if in {
					code |= 1 << n
				}
			}
			switch code { // the higher side is on the left of the way
			case 1:
				link(south, west)
			case 2:
				link(east, south)
			case 3:
				link(east, west)
			case 4:
				link(north, east)
			case 5: // a and c: two corners apart
				link(south, west)
				link(north, east)
			case 6:
				link(north, south)
			case 7:
				link(north, west)
			case 8:
				link(west, north)
			case 9:
				link(south, north)
			case 10:
				link(east, south)
				link(west, north)
			case 11:
				link(east, north)
			case 12:
				link(west, east)
			case 13:
				link(south, east)
			case 14:
				link(west, south)
			}
		}
	}
	place := func(e crossing) site.Offset {
		at := e / 2
		i, j := at%g.wide, at/g.wide
		to, di, dj := at+1, 1.0, 0.0
		if e%2 == 1 {
			to, di, dj = at+g.wide, 0, 1
		}
		share := 0.5
		if d := g.density[to] - g.density[at]; d != 0 {
			share = (level - g.density[at]) / d
		}
		round := func(x float64) float64 { return math.Round(x*10) / 10 }
		return site.Offset{East: round(g.low.East + (float64(i)+share*di)*g.cell), North: round(g.low.North + (float64(j)+share*dj)*g.cell)}
	}
	rings := [][]site.Offset{}
	for _, from := range order {
		var ring []site.Offset
		for e, ok := from, true; ok; {
			to, there := next[e]
			if !there {
				break
			}
			ring = append(ring, place(e))
			delete(next, e)
			e, ok = to, to != from
		}
		if len(ring) > 2 {
			rings = append(rings, ring)
		}
	}
	return rings
}
