package flight

import (
	"math"
	"math/rand/v2"
	"sync"
	"testing"

	"vividperch/core/airframe"
	"vividperch/core/quad"
	"vividperch/core/site"
)

// drawnLoss is a quad and a loss of its radio, drawn wide.
func drawnLoss(r *rand.Rand) (Input, Gone) {
	in := navigating()
	between := func(low, high float64) float64 { return low + (high-low)*r.Float64() }
	in.Mass *= between(0.85, 1.15)
	in.Parts.Frame.DragArea *= between(0.6, 1.6)
	in.CellVolt = between(airframe.LowCell, airframe.FullCell)
	wind, from := between(0, 7), between(0, 2*math.Pi)
	in.Site.WindNorth, in.Site.WindEast = -wind*math.Cos(from), -wind*math.Sin(from)
	in.Site.Gust = between(0, 0.3) * wind
	in.Settings.Guard = between(0.3, 1.5)
	m, err := newPathModel(in)
	if err != nil {
		panic(err)
	}
	in.Settings.LandPush = m.hover * between(0.55, 0.9)
	in.Settings.Policy = policies[r.IntN(3)]
	in.Settings.Nav.Way = []quad.HomeWay{quad.WayAsIs, quad.WaySet, quad.WayHighest}[r.IntN(3)]
	in.Settings.Nav.Speed = between(3, 10)
	in.Settings.Nav.AtHome = []quad.AtHome{quad.HomeLands, quad.HomeDrops}[r.IntN(2)]
	in.Actual.Place.Dilution, in.Actual.Place.HeadingOff = between(0.6, 2), between(-12, 12)
	in.Actual.TiltRoll, in.Actual.TiltPitch = between(-1.5, 1.5), between(-1.5, 1.5)
	g := Gone{At: site.Offset{East: between(-150, 150), North: between(-150, 150)}, Height: between(4, 60), Course: between(0, 360), Speed: between(0, 12)}
	g.Top = g.Height + between(0, 15)
	return in, g
}

// The path model against the whole one, on 200 drawn losses: within 5 m or 5 % of the way, half a second or 6 % of the time, and a tenth of the speed at the
// ground and of the charge. Every other one is flown with gusts and errors of the receiver, which both draw alike when the path model looks at the air as often
// as the whole one does; the others without, and with the steps that are used.
func TestPathModelIsAsGoodAsItSays(t *testing.T) {
	const drawn = 200
	type both struct {
		in          Input
		g           Gone
		path, whole Down
	}
	cases := make([]both, drawn)
	r := rand.New(rand.NewPCG(18, 1))
	for i := range cases {
		cases[i].in, cases[i].g = drawnLoss(r)
		if i%2 == 1 {
			cases[i].in.Site.Gust, cases[i].in.Actual.Place.Dilution = 0, 0
		}
	}
	var all sync.WaitGroup
	for half := range 2 {
		all.Go(func() {
			for i := half * drawn / 2; i < (half+1)*drawn/2; i++ {
				c := &cases[i]
				m, err := newPathModel(c.in)
				if err != nil {
					t.Error(err)
					return
				}
				if i%2 == 0 {
					m.step = 1.0 / airRate
				}
				c.path = m.lose(c.g, uint64(i), nil)
				if c.whole, err = loseWhole(c.in, c.g, uint64(i)); err != nil {
					t.Error(err)
					return
				}
			}
		})
	}
	all.Wait()
	for i, c := range cases {
		way := math.Hypot(c.whole.At.East-c.g.At.East, c.whole.At.North-c.g.At.North)
		off := math.Hypot(c.whole.At.East-c.path.At.East, c.whole.At.North-c.path.At.North)
		if c.whole.Up != c.path.Up || off > math.Max(5, 0.05*way) || !(math.Abs(c.whole.After-c.path.After) <= math.Max(0.5, 0.06*c.whole.After)) ||
			math.Abs(c.whole.Speed-c.path.Speed) > math.Max(0.8, 0.1*c.whole.Speed) || math.Abs(c.whole.Charge-c.path.Charge) > math.Max(1, 0.1*c.whole.Charge) {
			t.Errorf("%d: %s %s, off %.1f of %.0f m, after %.1f and %.1f s, at %.2f and %.2f m/s, up %v %v, charge %.1f %.1f, wind %.1f", i, c.in.Settings.Policy, c.in.Settings.Nav.AtHome, off, way, c.whole.After, c.path.After, c.whole.Speed, c.path.Speed, c.whole.Up, c.path.Up, c.whole.Charge, c.path.Charge, math.Hypot(c.in.Site.WindNorth, c.in.Site.WindEast))
		}
	}
}

func BenchmarkPath(b *testing.B) {
	for _, p := range policies {
		b.Run(string(p), func(b *testing.B) {
			in := navigating()
			in.Settings.Policy, in.Settings.LandPush = p, 0.12
			in.Site.WindNorth, in.Site.Gust = -4, 1
			m, _ := newPathModel(in)
			d := m.lose(Gone{At: site.Offset{East: 60, North: 60}, Height: 25, Course: 90, Speed: 8, Top: 25}, 1, nil)
			b.ReportMetric(d.After, "s")
			for i := range b.N {
				m.lose(Gone{At: site.Offset{East: 60, North: 60}, Height: 25, Course: 90, Speed: 8, Top: 25}, uint64(i), nil)
			}
		})
	}
}

// loseWhole flies what the path model does by the whole one.
func loseWhole(in Input, g Gone, seed uint64) (Down, error) {
	m, err := newPathModel(in)
	if err != nil {
		return Down{}, err
	}
	in.Seed, in.OnLoss = seed, quad.LossSilence
	s, err := New(in)
	if err != nil {
		return Down{}, err
	}
	course := g.Course / degrees
	sin, cos := math.Sincos(course)
	start := m.trim(g.Speed*cos, g.Speed*sin, course)
	p := newFlyer(in, HoverCard, Hand{Delay: Steady.Delay, Bandwidth: Steady.Bandwidth})
	p.hover, p.backHover = s.hovers(in.Mass)
	s.begin(g.Height, 0, p)
	set := &in.Settings
	s.settle(set.output().Throttle(start.duty))
	s.steps, s.charge = 0, 0
	n := &s.now
	n.px, n.py, n.vx, n.vy = g.At.North-lossLead*g.Speed*cos, g.At.East-lossLead*g.Speed*sin, g.Speed*cos, g.Speed*sin
	n.qw, n.qx, n.qy, n.qz = turned(start.roll, start.pitch, start.yaw)
	if nav := s.control.nav; nav != nil {
		nav.home = [2]float64{nav.off[0], nav.off[1]}
		nav.top = g.Top
	}
	limit := set.AngleLimit / degrees
	p.want = wants{
		level: true, arm: true, throttle: set.Curve.Stick(set.output().Throttle(start.duty)),
		roll: (start.roll + in.Actual.TiltRoll/degrees) / limit, pitch: -(start.pitch + in.Actual.TiltPitch/degrees) / limit,
	}
	p.moved = [4]float64{p.want.roll, p.want.pitch, p.want.throttle*2 - 1, 0}
	sticks := p.frame()
	var out Down
	was := *n
	lasts, charge, per := longestLoss(&in, g), 0.0, in.rate()/handRate
	for i := 0; ; i++ {
		t := float64(i)*s.h - lossLead
		if t > lasts {
			out.Up = true
			break
		}
		if i%per == 0 {
			if t >= 0 {
				sticks = in.Gone(sticks)
			}
			if -n.pz-s.body.feet < touching {
				out.After = t
				break
			}
			was = *n
		}
		if t <= 0 {
			charge = s.charge
		}
		s.Step(sticks)
	}
	out.At = site.Offset{East: was.py, North: was.px}
	out.Speed = math.Sqrt(was.vx*was.vx + was.vy*was.vy + was.vz*was.vz)
	out.Charge = (s.charge - charge) / 3.6
	return out, nil
}
