package flight

import (
	"math"
	"math/cmplx"
	"testing"

	"vividperch/core/quad"
)

// navigating is a sample with a hold and a return, that knows where it is.
func navigating() Input {
	in := sample()
	in.Settings.Policy, in.Settings.LandPush = quad.PolicyReturn, 0.2
	in.Settings.Nav = Navigation{Hold: quad.Range{Channel: 9, From: 1700, To: 2100}, Way: quad.WaySet, WayHeight: 25, Speed: 6, AtHome: quad.HomeLands}
	in.Actual.Place = quad.PlaceActual{Fixed: true, Satellites: 14, Dilution: 0.8, HeightNoise: 0.2, Horizontal: 20}
	return in
}

// The edge of circling is where the loop, written with complex numbers and no closed form, turns from dying away to growing: the point -1 of its
// frequency response is met.
func TestCirclesFromIsWhereTheLoopIsOnTheEdge(t *testing.T) {
	for _, pull := range []float64{3, 5, 8, 20} {
		edge := CirclesFrom(pull) / degrees
		nearest := math.Inf(1)
		for w := 0.05; w < 20; w *= 1.0005 {
			s := complex(0, w)
			loop := cmplx.Exp(complex(0, -edge)) * (perSpeed + sumSpeed/s) * (perPlace + s) / (s * s) / (1 + s/complex(pull, 0)) * cmplx.Exp(-s*8.5/50)
			nearest = math.Min(nearest, cmplx.Abs(loop+1))
		}
		if nearest > 2e-3 || edge <= 0 {
			t.Errorf("pull %v: at %.2f° the loop passes -1 at %v", pull, edge*degrees, nearest)
		}
	}
}

// Flown in the whole model, a hold with less error than that comes to rest, with more it does not; it circles with the frequency of the edge.
func TestHoldCirclesAsTheLoopSays(t *testing.T) {
	for _, pull := range []float64{5, 8} {
		in := navigating()
		in.Settings.Pull, in.Actual.Place.Dilution = pull, 0 // what the satellites add is not looked at here
		edge := CirclesFrom(pull)
		for _, c := range []struct {
			off  float64
			ends Outcome
		}{{0, Flown}, {edge - 6, Flown}, {-(edge - 6), Flown}, {edge + 8, Circles}, {-(edge + 8), Circles}} {
			in.Actual.Place.HeadingOff = c.off
			in.Site.WindNorth = -2 // which gets it going
			run, err := Fly(in, PositionHold.Steady(), Watching{})
			if err != nil {
				t.Fatal(err)
			}
			if run.Summary.Outcome != string(c.ends) {
				t.Errorf("pull %v, edge %.1f°, %.1f° off: %s", pull, edge, c.off, run.Summary.Sentence)
			}
		}
	}
}

// Home: up to the height, along, down. The time is that of the three ways, by hand.
func TestReturnTakesItsTime(t *testing.T) {
	in := navigating()
	in.Actual.Place.Dilution, in.Actual.Place.HeightNoise = 0, 0
	var last State
	top := 0.0
	run, err := Fly(in, LostFarOut.Steady(), Watching{Rate: 50, Record: func(s State) { last, top = s, math.Max(top, s.Height) }})
	if err != nil {
		t.Fatal(err)
	}
	near(t, "highest, m", top, 25, 0.6)
	near(t, "from home, m", math.Hypot(last.North, last.East), 0, 1)
	// Climb 5 m, the last metres of them slower; 80 m at 6 m/s, the last 6.7 of them slower; 17 m down at 2 m/s, 8 at 0.6.
	want := in.Settings.Guard + 5/2.5 + 1 + 80/6.0 + 1/perPlace*math.Log(6.0/1) + 17/2.0 + 8/sinkSlow
	near(t, "time, s", run.Summary.Moment-run.Lost, want, 0.08*want)
	if Outcome(run.Summary.Outcome) != Landed || last.Armed {
		t.Errorf("%+v", run.Summary)
	}
}

// Every way of going about height, arrival and refusal, from loss to rest.
func TestReturns(t *testing.T) {
	for _, c := range []struct {
		name     string
		set      func(in *Input)
		ends     Outcome
		from, to float64 // m from home at the end
		top      float64 // m
	}{
		{"as high as it is", func(in *Input) { in.Settings.Nav.Way = quad.WayAsIs }, Landed, 0, 4, 20},
		{"set lower than it is", func(in *Input) { in.Settings.Nav.WayHeight = 10 }, Landed, 0, 4, 20},
		{"the highest so far", func(in *Input) { in.Settings.Nav.Way = quad.WayHighest }, Landed, 0, 4, 20},
		{"comes near, then down hard", func(in *Input) { in.Settings.Nav.AtHome = quad.HomeDrops }, Crashed, 0, 8, 25},
		{"near enough to land where it is", func(in *Input) { in.Settings.Nav.Near = 150 }, Landed, 70, 90, 20},
		{"no home", func(in *Input) { in.Actual.Place.Fixed = false }, Crashed, 70, 95, 20},
		{"too few satellites", func(in *Input) { in.Settings.Nav.Satellites = 20 }, Crashed, 70, 95, 20},
		{"a compass back to front", func(in *Input) { in.Actual.Place.HeadingOff = 180 }, Crashed, 95, 240, 26},
		{"fifteen degrees off", func(in *Input) { in.Actual.Place.HeadingOff = 15 }, Landed, 0, 5, 25},
		{"in a breeze", func(in *Input) { in.Site.WindNorth, in.Site.Gust = 6, 1.2 }, Landed, 0, 5, 26},
		{"in more wind than it can lean against", func(in *Input) { in.Site.WindNorth = 40 }, FlewAway, 200, 400, 26},
		{"a barometer that drifts", func(in *Input) { in.Actual.Place.HeightDrift = 30 }, Landed, 0, 4, 24.5},
	} {
		in := navigating()
		c.set(&in)
		var last State
		top := 0.0
		run, err := Fly(in, LostFarOut.Steady(), Watching{Rate: 50, Record: func(s State) { last, top = s, math.Max(top, s.Height) }})
		if err != nil {
			t.Fatal(err)
		}
		far := math.Hypot(last.North, last.East)
		if Outcome(run.Summary.Outcome) != c.ends || far < c.from || far > c.to || top > c.top+1 || top < c.top-1.5 && c.ends == Landed {
			t.Errorf("%s: %s (%.0f m from home, %.1f m high): %s", c.name, run.Summary.Outcome, far, top, run.Summary.Sentence)
		}
	}
}

// The hand has the last word: the arm switch ends a hold, and a hold that stands on the ground stays there.
func TestHandEndsAHold(t *testing.T) {
	in := navigating()
	s, err := New(in)
	if err != nil {
		t.Fatal(err)
	}
	on := func(arm, hold bool, throttle float64) Sticks {
		f := in.frame(0, throttle)
		put := func(r quad.Range, yes bool) {
			f.Channels[r.Channel-1] = outside(r)
			if yes {
				f.Channels[r.Channel-1] = middle(r)
			}
		}
		put(in.Settings.Arm, arm)
		put(in.Settings.Nav.Hold, hold)
		return f
	}
	fly := func(f Sticks, seconds float64) {
		for range int(seconds * Rate) {
			s.Step(f)
		}
	}
	fly(on(false, true, 0), 0.2)
	if fly(on(true, true, 0), 0.5); s.State().Armed {
		t.Fatal("it arms while a hold is on")
	}
	fly(on(false, false, 0), 0.2)
	fly(on(true, false, 0), 0.5)
	fly(on(true, true, 0), 3)
	if now := s.State(); !now.Armed || now.Height > 0.05 || s.Phase() != ByHand {
		t.Fatalf("armed, the hold on and the throttle at rest: %v m up, %q", now.Height, s.Phase())
	}
	fly(on(true, true, 0.9), 3)
	if now := s.State(); now.Height < 2 || s.Phase() != Holding {
		t.Fatalf("throttle up in a hold: %v m up, %q", now.Height, s.Phase())
	}
	fly(on(true, true, 0.5), 4)
	was := s.State()
	fly(on(true, true, 0.5), 4)
	if now := s.State(); !(math.Abs(now.Height-was.Height) <= 0.5) {
		t.Errorf("with the throttle in its middle it goes from %v to %v m", was.Height, now.Height)
	}
	fly(on(false, true, 0.5), 0.1)
	if s.State().Armed {
		t.Error("the arm switch does not end a hold")
	}
}

// What the motors' current adds to the right of the nose turns the heading by the arcsine of its share at most, when the nose points north or south.
func TestInterferenceTurnsTheHeading(t *testing.T) {
	in := navigating()
	in.Actual.Place.Disturbs = 5
	s, err := New(in)
	if err != nil {
		t.Fatal(err)
	}
	n := s.control.nav
	n.amps = 20
	for _, c := range []struct{ heading, amps, off float64 }{{0, 20, -14.036}, {180, 20, 14.036}, {90, 20, 0}, {0, 0, 0}} {
		half := c.heading / degrees / 2
		s.now.qw, s.now.qz, s.packAmp = math.Cos(half), math.Sin(half), c.amps
		near(t, "heading off, deg", math.Remainder(n.heading(s.sensed())*degrees-c.heading, 360), c.off, 0.01)
	}
}
