package flight

import (
	"math"
	"runtime"
	"sync"
	"sync/atomic"

	"vividperch/core/airframe"
	"vividperch/core/quad"
)

// Failure is something that no check before a flight can exclude.
type Failure string

const (
	// MotorStops is one motor that stops for good: a screw in the winding, a joint that lets go.
	MotorStops Failure = "motorStops"
	// LevelStrays is a level that goes sixty degrees astray in the air, as when vibration reaches the accelerometer: the quad tips and runs.
	LevelStrays Failure = "levelStrays"
)

// strays is how far, deg: as far as a hand sees it tip.
const strays = 60.0

// fails makes it fail once it has reached the height of the card, at a moment, corner and to a side that go by the seed of the flight.
func (f Failure) fails(s *Stepper, p *flyer, seed uint64, now State, since *float64) {
	if *since < 0 || !p.lifted || p.cutOff {
		return
	}
	if *since == 0 && now.Height < 0.8*p.card.Height {
		return
	}
	if *since == 0 {
		*since = now.Time
	}
	if now.Time-*since < float64(seed%9)/2 {
		return
	}
	*since = -1
	switch f {
	case MotorStops:
		s.dead = int(seed / 9 % 4)
	case LevelStrays:
		sin, cos := math.Sincos(2 * math.Pi * float64(seed/9%16) / 16)
		s.control.tiltRoll, s.control.tiltPitch = s.control.tiltRoll+strays/degrees*sin, s.control.tiltPitch+strays/degrees*cos
	}
}

// How many flights a trial is: a hundred first hovers of a beginner, and of each failure as many as find nearly the farthest. With a
// motor that stops a quad falls within little more than the hover; how far it gets with a level astray depends much on the side and the
// moment, so that most of the failures are that one.
const (
	beginners   = 100
	motorStops  = 24
	levelStrays = 96
)

// Trial is what a hundred first hovers by a beginner come to, with every assigned pack full and low, in the wind of the input from all
// round; and how far it gets when something fails that no check excludes, until a startled hand has cut it and it has fallen.
type Trial struct {
	Flown    int
	Ended    int     // that tipped over, crashed or got away, of those in which nothing failed
	How      string  // the first of them
	Farthest float64 // m, of all
}

// Try flies the trial of what is known of a quad, on all processors; stop is asked often and ends it early with a Fault. The same quad
// gives the same answer.
func Try(k quad.Known, seed uint64, stop func() bool) (Trial, error) {
	in, err := NewInput(k)
	if err != nil {
		return Trial{}, err
	}
	names := quad.SortedKeys(k.Parts.Packs)
	wind := math.Hypot(in.Site.WindNorth, in.Site.WindEast)
	flights := make([]Flight, beginners, beginners+motorStops+levelStrays)
	for i := range flights {
		flights[i] = Flight{Scenario: FirstHover, Card: HoverCard, Hand: Beginner}
	}
	for i := range motorStops + levelStrays {
		f := LevelStrays
		if i < motorStops {
			f = MotorStops
		}
		flights = append(flights, Flight{Scenario: FirstHover, Card: HoverCard, Hand: Beginner, Failure: f})
	}
	ends := make([]end, len(flights))
	var next atomic.Int64
	var wait sync.WaitGroup
	for range min(runtime.GOMAXPROCS(0), len(flights)) {
		wait.Go(func() {
			for i := int(next.Add(1)) - 1; i < len(flights); i = int(next.Add(1)) - 1 {
				its := in
				its.Pack, its.CellVolt = k.Parts.Packs[names[i%len(names)]], []float64{airframe.FullCell, airframe.LowCell}[i/len(names)%2]
				its.Mass += (its.Pack.Mass - in.Pack.Mass) / 1000
				its.Seed = seed + uint64(i)*7919
				sin, cos := math.Sincos(2 * math.Pi * 0.618034 * float64(i)) // from all round, by the golden section
				its.Site.WindNorth, its.Site.WindEast = wind*cos, wind*sin
				if ends[i] = ended(its, flights[i], stop); ends[i].err != nil {
					next.Store(int64(len(flights)))
				}
			}
		})
	}
	wait.Wait()
	out := Trial{Flown: len(flights)}
	for i, e := range ends {
		if e.err != nil {
			return Trial{}, e.err
		}
		out.Farthest = max(out.Farthest, e.far)
		if e.badly && flights[i].Failure == "" {
			if out.Ended++; out.How == "" {
				out.How = e.how
			}
		}
	}
	return out, nil
}

// In a summary: what the trial came to.
func (t Trial) In(r quad.Rehearsal) quad.Rehearsal {
	r.Tried, r.Ended, r.How, r.Farthest = t.Flown, t.Ended, t.How, math.Ceil(10*t.Farthest)/10
	return r
}

// end of one flight.
type end struct {
	far   float64 // m
	badly bool
	how   string
	err   error
}

func ended(in Input, f Flight, stop func() bool) end {
	var e end
	run, err := Fly(in, f, Watching{Stop: stop, Rate: framesPerSecond, Record: func(s State) { e.far = max(e.far, math.Hypot(s.North, s.East)) }})
	if err != nil {
		e.err = err
		return e
	}
	switch Outcome(run.Summary.Outcome) {
	case TippedOver, Tumbled, Crashed, FlewAway:
		e.badly, e.how = true, run.Summary.Sentence
	}
	return e
}

// The circle that is kept clear: a quarter more than the farthest that a trial got, and never under three metres.
const (
	circleReserve = 1.25
	circleLeast   = 3.0 // m
)

// Circle to keep clear (m), from a rehearsal that was tried; 0 where it was not.
func Circle(r quad.Rehearsal) float64 {
	if r.Tried == 0 {
		return 0
	}
	return math.Max(circleLeast, circleReserve*r.Farthest)
}
