package oracle

import (
	"math"
	"runtime"
	"testing"

	"vividperch/core/airframe"
	"vividperch/core/flight"
	"vividperch/core/quad"
	"vividperch/demo"
)

// windy is a drawn kind in a wind, with everything answered that a flight goes by.
func windy(w world, wind, gust float64) world {
	w = w.clone()
	w.is.wind, w.is.gust = wind, gust
	w.k.Readings = w.answers()
	return w
}

// The sound quad's trial is the one that is kept of it, which was flown on all processors: on one it comes to the same.
func TestTheSoundQuadsTrialIsTheOneThatIsKept(t *testing.T) {
	k, err := demo.Sound(today)
	if err != nil {
		t.Fatal(err)
	}
	defer runtime.GOMAXPROCS(runtime.GOMAXPROCS(1))
	if one, err := flight.Try(k, 1, nil); err != nil || one != demo.SoundTrial {
		t.Errorf("on one processor %+v, kept is %+v (%v)", one, demo.SoundTrial, err)
	}
	if demo.SoundTrial.Ended > 0 || demo.SoundTrial.Flown < 100 {
		t.Errorf("a sound quad in a light wind: %+v", demo.SoundTrial)
	}
	if _, err := flight.Try(k, 1, func() bool { return true }); err == nil {
		t.Error("a trial that is to stop does not")
	}
}

// Of two hundred fresh flights at most one gets beyond the circle that a trial tells: without a failure and with each, in still air and
// in wind. The long run looks at every kind of quad.
func TestFreshFlightsStayInsideTheCircle(t *testing.T) {
	kinds, winds, flights := kindsFor(t), []float64{0, 5}, 200
	if !long {
		kinds, winds, flights = kinds[:1], winds[1:], 100
	}
	for _, k := range kinds {
		for _, wind := range winds {
			w := windy(k.world, wind, 1.3*wind)
			trial, err := flight.Try(w.k, 1, nil)
			if err != nil {
				t.Fatal(err)
			}
			circle := flight.Circle(trial.In(quad.Rehearsal{}))
			beyond, farthest := 0, 0.0
			for i := range flights {
				s := sortie{Flight: flight.Hover(flight.HoverCard), hand: "beginner"}
				s.Hand, s.Failure = flight.Beginner, []flight.Failure{"", "", flight.MotorStops, flight.LevelStrays}[i%4]
				far := w.farthest(t, s, uint64(500000+i), float64(i))
				farthest = math.Max(farthest, far)
				if far > circle {
					beyond++
				}
			}
			if beyond > 1 {
				t.Errorf("%s in %v m/s: %d of %d get beyond the %.1f m that are told, the farthest to %.1f m", k.name, wind, beyond, flights, circle, farthest)
			}
			if circle > 4*farthest {
				t.Errorf("%s in %v m/s: %.1f m are told, and nothing gets further than %.1f m", k.name, wind, circle, farthest)
			}
		}
	}
}

// farthest that one flight gets, m, with the wind from some way round (rad).
func (w *world) farthest(t *testing.T, s sortie, seed uint64, from float64) float64 {
	t.Helper()
	_, pack, _ := airframe.Heaviest(w.k.Parts)
	in, err := w.input(pack, airframe.FullCell, seed)
	if err != nil {
		t.Fatal(err)
	}
	in.Site.WindNorth, in.Site.WindEast = w.is.wind*math.Cos(from), w.is.wind*math.Sin(from)
	var seen track
	if _, err := flight.Fly(in, s.Flight, flight.Watching{Rate: recorded, Record: seen.see}); err != nil {
		t.Fatal(err)
	}
	return seen.far
}

// What fails in the air ends the flight: it tips, and the hand cuts as late as it sees (0.4 s for a beginner) and is startled (0.7 s).
func TestAFailureInTheAirIsCut(t *testing.T) {
	w := windy(kindsFor(t)[0].world, 0, 0)
	_, pack, _ := airframe.Heaviest(w.k.Parts)
	for _, failure := range []flight.Failure{flight.MotorStops, flight.LevelStrays} {
		for seed := range uint64(12) {
			in, err := w.input(pack, airframe.FullCell, 40+seed)
			if err != nil {
				t.Fatal(err)
			}
			tipped, stopped, high := 0.0, 0.0, 0.0
			armed := false
			run, err := flight.Fly(in, flight.Flight{Scenario: flight.FirstHover, Card: flight.HoverCard, Hand: flight.Beginner, Failure: failure}, flight.Watching{Rate: recorded, Record: func(s flight.State) {
				high = math.Max(high, s.Height)
				if s.Tilt > 55 && tipped == 0 {
					tipped = s.Time
				}
				if armed && !s.Armed && stopped == 0 {
					stopped = s.Time
				}
				armed = s.Armed
			}})
			if err != nil {
				t.Fatal(err)
			}
			if high < 0.8*flight.HoverCard.Height || tipped == 0 {
				t.Errorf("%s, seed %d: at most %.2f m up, tipped at %.2f s: %s", failure, seed, high, tipped, run.Summary.Sentence)
			}
			if late := stopped - tipped; stopped > 0 && (late < 1.05 || late > 1.35) {
				t.Errorf("%s, seed %d: cut %.2f s after it tipped, want 1.1 s", failure, seed, late)
			}
		}
	}
}

// In a wind that throws first hovers over, a trial says so; and it carries further.
func TestATrialKnowsTooMuchWind(t *testing.T) {
	w := windy(kindsFor(t)[0].world, 12, 20)
	if trial, err := flight.Try(w.k, 1, nil); err != nil || trial.Ended == 0 || trial.How == "" || trial.Farthest < 2*demo.SoundTrial.Farthest {
		t.Errorf("%+v (%v)", trial, err)
	}
}
