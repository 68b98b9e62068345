package flight

import (
	"math"

	"vividperch/core/airframe"
)

// noise is a seeded source of normal values, picked from a table: xorshift64*.
type noise uint64

func newNoise(seed, stream uint64) noise {
	return noise((seed*0x9E3779B97F4A7C15 ^ stream*0xD1B54A32D192ED03) | 1)
}

func (n *noise) bits() uint64 {
	s := uint64(*n)
	s ^= s >> 12
	s ^= s << 25
	s ^= s >> 27
	*n = noise(s)
	return s * 0x2545F4914F6CDD1D
}

func (n *noise) normal() float64 { return normal[n.bits()>>52] }

// Turbulence close to the ground after Dryden, as the low-altitude model of the flying-qualities standard has it: at
// three metres the eddies that carry it are 23 m long along the wind and across it, 3 m up and down, and vertically
// half as strong as along it.
const (
	GustLength   = 23.0 // m, along and across
	GustUpLength = 3.0  // m
	GustUpShare  = 0.51 // of the strength along the wind
	// GustShare of the wind is the strength (one sigma) of its gusts where nobody measured them.
	GustShare = 0.2
	// gustPeak is how many sigmas the strongest gust of five minutes stands above the mean wind.
	gustPeak = 3.0
	airRate  = 100 // Hz at which the air is worked out; between, it goes straight
)

// gusts of a frozen field that is carried by the wind: what is met depends on the way through it.
type gusts struct {
	noise noise
	sigma float64
	// States: first order along the wind, second order across it and up.
	along      float64
	across, up [2]float64
	at, next   [3]float64 // along, across, down
	wind       [2]float64 // mean, north and east
	east       float64    // direction of the wind: cosine to north, sine to east
	north      float64
	on         bool
}

func newGusts(site Site, seed uint64) gusts {
	g := gusts{noise: newNoise(seed, 2), sigma: site.Gust, wind: [2]float64{site.WindNorth, site.WindEast}, north: 1}
	if w := math.Hypot(site.WindNorth, site.WindEast); w > 0 {
		g.north, g.east = site.WindNorth/w, site.WindEast/w
	}
	if g.on = g.sigma > 0; g.on {
		g.along = g.noise.normal()
		for _, s := range []*[2]float64{&g.across, &g.up} {
			// In its steady state from the beginning: both parts of a second-order filter, see meet.
			a, b := g.noise.normal()*math.Sqrt(0.5), g.noise.normal()
			s[0], s[1] = a, a/2+b*math.Sqrt(0.125)
		}
		g.meet(0)
		g.at = g.next
	}
	return g
}

// meet what lies a way of ds metres further. Along the wind the spectrum is that of exponential correlation,
// exp(-s/L), across and up that of a flat spectrum through (1 + sqrt(3) L s)/(1 + L s)²; both are stepped exactly.
func (g *gusts) meet(ds float64) {
	g.at = g.next
	a := math.Exp(-ds / GustLength)
	g.along = a*g.along + math.Sqrt(1-a*a)*g.noise.normal()
	second := func(s *[2]float64, length float64) float64 {
		// States x1' = -x1 + n, x2' = x1 - x2 over s/L, with the covariances 1/2, 1/4, 1/4 in the long run.
		d := ds / length
		e := math.Exp(-d)
		e2 := e * e
		q11 := (1 - e2) / 2
		q12 := 0.25 - e2*(0.25+d/2)
		q22 := 0.25 - e2*(0.25+d/2+d*d/2)
		l11 := math.Sqrt(q11)
		l21, l22 := 0.0, 0.0
		if l11 > 0 {
			l21 = q12 / l11
			l22 = math.Sqrt(max(0, q22-l21*l21))
		}
		n1, n2 := g.noise.normal(), g.noise.normal()
		x1 := e*s[0] + l11*n1
		x2 := e*(s[1]+d*s[0]) + l21*n1 + l22*n2
		s[0], s[1] = x1, x2
		return (1-math.Sqrt(3))*x2 + math.Sqrt(3)*x1
	}
	g.next = [3]float64{g.sigma * g.along, g.sigma * second(&g.across, GustLength), g.sigma * GustUpShare * second(&g.up, GustUpLength)}
}

// now puts the wind, mean and gusts, into the body's air; share is how far it is to the next meeting.
func (g *gusts) now(to *[3]float64, share float64) {
	u := g.at[0] + share*(g.next[0]-g.at[0])
	v := g.at[1] + share*(g.next[1]-g.at[1])
	to[0] = g.wind[0] + u*g.north - v*g.east
	to[1] = g.wind[1] + u*g.east + v*g.north
	to[2] = g.at[2] + share*(g.next[2]-g.at[2])
}

// wake is what the rotors' own downwash does when the quad sinks into it: as it comes near the speed of the
// downwash the air goes round in a ring, lift is lost and shaken.
type wake struct {
	noise noise
	area  float64    // m², of the four discs
	shake [4]float64 // unit noise for each rotor, some hertz wide
}

const (
	wakeLoss  = 0.2 // of the lift, at its worst
	wakeShake = 0.2 // of the lift, one sigma at its worst
	wakeWidth = 6.0 // Hz
)

// depth of the ring, 0..1, when sinking at v and going sideways at s, both as shares of the downwash's own speed at
// hover. It begins at 0.3 of it, is worst at 1, has passed at 1.7, and going sideways leaves it behind.
func depth(v, s float64) float64 {
	if v <= 0.3 || v >= 1.7 || s >= 1 {
		return 0
	}
	x := (v - 0.3) / 0.7
	if v > 1 {
		x = (1.7 - v) / 0.7
	}
	return x * x * (3 - 2*x) * (1 - s)
}

// overGround is the gain of the thrust of a rotor of a radius as high over the ground (m), after Cheeseman and Bennett.
func overGround(radius, up float64) float64 {
	q := radius / (4 * math.Max(up, radius/2))
	return 1 / (1 - q*q)
}

// breathe works out the rotors' gains and their share of the wind every hundredth of a second.
func (s *Stepper) breathe() {
	n, b := &s.now, &s.body
	vx, vy, vz := n.vx-b.wind[0], n.vy-b.wind[1], n.vz-b.wind[2]
	if s.gusts.on {
		mx, my := n.vx-s.gusts.wind[0], n.vy-s.gusts.wind[1]
		s.gusts.meet(math.Sqrt(mx*mx+my*my+n.vz*n.vz) / airRate)
	}
	if s.still {
		return
	}
	w, x, y, z := n.qw, n.qx, n.qy, n.qz
	r13, r23, r33 := 2*(x*z+w*y), 2*(y*z-w*x), 1-2*(x*x+y*y)
	nx, ny := 2*(x*z-w*y), 2*(y*z+w*x)
	thrust := 0.0
	for i := range s.rotors {
		r := &s.rotors[i]
		r.gain = 1
		thrust += math.Max(0, r.forward) * r.speed * r.speed
		if up := -(n.pz + nx*r.x + ny*r.y); r33 > 0.5 && up < 4*b.radius {
			r.gain = overGround(b.radius, up)
		}
	}
	sink := r13*vx + r23*vy + r33*vz
	if sink <= 0 || thrust <= 0 {
		return
	}
	down := math.Sqrt(thrust / (2 * s.density * s.wake.area))
	side := math.Sqrt(math.Max(0, vx*vx+vy*vy+vz*vz-sink*sink))
	deep := depth(sink/down, side/down)
	if deep == 0 {
		return
	}
	a := math.Exp(-2 * math.Pi * wakeWidth / airRate)
	fresh := math.Sqrt(1 - a*a)
	for i := range s.rotors {
		s.wake.shake[i] = a*s.wake.shake[i] + fresh*s.wake.noise.normal()
		s.rotors[i].gain *= math.Max(0, 1-deep*(wakeLoss+wakeShake*s.wake.shake[i]))
	}
}

// strike stops propellers that reach into the ground, and remembers it.
func (s *Stepper) strike() {
	n := &s.now
	w, x, y, z := n.qw, n.qx, n.qy, n.qz
	nx, ny := 2*(x*z-w*y), 2*(y*z+w*x)
	lean := math.Sqrt(nx*nx + ny*ny)
	reach := s.body.radius * lean
	if n.pz+s.body.reach*lean+reach <= 0 {
		return // not even the lowest
	}
	for i := range s.rotors {
		r := &s.rotors[i]
		if n.pz+nx*r.x+ny*r.y+reach <= 0 {
			continue
		}
		if math.Abs(r.speed) > 30 && !r.struck {
			if s.struck == 0 {
				s.struck, s.struckAt = float64(s.steps)*s.h, i
			}
			s.bladeEnergy += math.Abs(r.inertia) * r.speed * r.speed / 2
			r.struck = true
			r.forward *= broken
			r.backward *= broken
		}
		r.speed *= s.brake
	}
}

func discArea(d airframe.Drive) float64 { return math.Pi * d.Diameter * d.Diameter }
