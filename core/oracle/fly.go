package oracle

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"

	"vividperch/core/airframe"
	"vividperch/core/check"
	"vividperch/core/flight"
	"vividperch/core/linkloss"
	"vividperch/core/quad"
)

// Limits beyond which a flight has ended badly.
const (
	strikeMost = 3.0  // m/s
	farMost    = 60.0 // m
	highMost   = 30.0 // m
	climbMost  = 1.0  // m above where the radio was lost
)

// sortie is one flight of a quad.
type sortie struct {
	flight.Flight
	hand string
	pack string
	cell float64
	seed uint64
	wind float64 // where it comes from, rad
}

// flights of one quad: the hover by both hands, with packs full and low, and the radio lost with both.
func (w *world) flights(r *rand.Rand) []sortie {
	names := quad.SortedKeys(w.k.Parts.Packs)
	if len(names) == 0 {
		return nil
	}
	any := func() string { return names[r.IntN(len(names))] }
	heaviest, _, _ := airframe.Heaviest(w.k.Parts)
	most, _, _ := airframe.MostCells(w.k.Parts)
	steady := sortie{Flight: flight.Hover(flight.HoverCard), hand: "steady", pack: any(), cell: flight.LowCell}
	beginner := sortie{Flight: flight.Hover(flight.HoverCard), hand: "beginner", pack: most, cell: airframe.FullCell}
	beginner.Hand = flight.Beginner
	if r.IntN(2) == 0 {
		steady.pack, beginner.pack = most, heaviest
		steady.cell, beginner.cell = airframe.FullCell, flight.LowCell
	}
	out := []sortie{beginner, steady}
	if w.k.Board.Sheet.Loss.Policy != quad.PolicyReturn {
		out = append(out,
			sortie{Flight: flight.RadioLost.Steady(), hand: "steady", pack: most, cell: airframe.FullCell},
			sortie{Flight: flight.RadioLost.Steady(), hand: "steady", pack: any(), cell: flight.LowCell})
	}
	for i := range out {
		out[i].seed, out[i].wind = 1+r.Uint64N(1<<40), 2*math.Pi*r.Float64()
	}
	return out
}

// flown is a flight with what the table counts.
type flown struct {
	Flown
	lasted     float64
	neverArmed bool
}

// track watches a flight for what its summary does not tell.
type track struct {
	last        flight.State
	far, top    float64   // m
	heights     []float64 // m, at the rate of recording
	strike      float64   // m/s at the first touch
	sinks       float64   // m/s of it downward
	touched, in bool
}

func (t *track) see(s flight.State) {
	t.far, t.top = math.Max(t.far, math.Hypot(s.North, s.East)), math.Max(t.top, s.Height)
	t.heights = append(t.heights, s.Height)
	t.in = t.in || s.Height > 0.15
	if t.in && !t.touched && s.Height < 0.02 {
		v := t.last.Velocity
		t.touched, t.strike, t.sinks = true, math.Sqrt(v[0]*v[0]+v[1]*v[1]+v[2]*v[2]), -v[2]
	}
	t.last = s
}

// recorded is how often a flight is looked at, Hz.
const recorded = 200

// climbed is how far above where the radio was lost it got, m.
func (t *track) climbed(lost float64) float64 {
	i := min(len(t.heights)-1, int(lost*recorded))
	if i < 0 || lost == 0 {
		return 0
	}
	return slices.Max(t.heights[i:]) - t.heights[i]
}

// fly one sortie of the quad as it really is, and say how it ended where that was badly.
func (w *world) fly(s sortie) (Ending, flown, error) {
	out := flown{Flown: Flown{Scenario: string(s.Scenario), Hand: s.hand, Pack: s.pack, CellVolt: s.cell, Seed: s.seed}}
	in, err := w.input(w.k.Parts.Packs[s.pack], s.cell, s.seed)
	if err != nil {
		return "", out, err
	}
	in.Site.WindNorth, in.Site.WindEast = -w.is.wind*math.Cos(s.wind), -w.is.wind*math.Sin(s.wind)
	var t track
	lost := s.Scenario == flight.RadioLost
	run, err := flight.Fly(in, s.Flight, flight.Watching{Rate: recorded, Record: t.see})
	if err != nil {
		return "", out, err
	}
	out.lasted, out.Sentence = t.last.Time, run.Summary.Sentence
	outcome := flight.Outcome(run.Summary.Outcome)
	out.neverArmed = outcome == flight.NeverArmed
	held := w.k.Board.Sheet
	if lost {
		climbed, told := t.climbed(run.Lost), w.hardestDescent(s)
		switch {
		case climbed > climbMost:
			out.Sentence = fmt.Sprintf("%.1f m above where the radio was lost. ", climbed) + out.Sentence
			return Climbs, out, nil
		case t.far > farMost || t.top > highMost:
			return FliesAway, out, nil
		case held.Loss.Policy == quad.PolicyLand && w.is.onLoss == quad.LossSilence && t.sinks > told:
			out.Sentence = fmt.Sprintf("It comes down at %.1f m/s, %.1f were told. ", t.sinks, told) + out.Sentence
			return StrikesHard, out, nil
		case held.Loss.Policy != quad.PolicyLand && t.far > w.is.clear:
			return LeavesCircle, out, nil
		}
		return "", out, nil
	}
	switch {
	case outcome == flight.TippedOver || outcome == flight.Tumbled || outcome == flight.Crashed:
		return TipsOver, out, nil
	case outcome == flight.FlewAway && t.far > 24 || t.far > farMost || t.top > 11: // the card's own end
		return FliesAway, out, nil
	case t.strike > strikeMost:
		out.Sentence = fmt.Sprintf("It comes down at %.1f m/s. ", t.strike) + out.Sentence
		return StrikesHard, out, nil
	case t.far > w.is.clear:
		return LeavesCircle, out, nil
	}
	return "", out, nil
}

// hardestDescent is the hardest that a descent after a loss may be, m/s: what is told of it, and what gusts add to that.
func (w *world) hardestDescent(s sortie) float64 {
	held := w.k.Board.Sheet
	most := linkloss.LandsHard
	for _, l := range flight.Landings(w.k.Parts, w.weighed(), held.Loss.LandThrottle, held.Motors.Idle, held.Feel.ThrottleLimit) {
		if l.Pack == s.pack && l.Cell == s.cell {
			most = math.Max(most, l.Speed)
		}
	}
	return 1.15*most + 0.5
}

// alarms flies the consequence of each stop that names one: with the fault and, where that ends well, nothing was shown.
func (w *world) alarms(seed uint64, stops []check.Finding) (out []FalseAlarm, named int, seconds float64) {
	flownFault := map[flight.Fault]string{}
	for _, f := range stops {
		if f.Shows == "" || len(flownFault) > 2 {
			continue
		}
		if _, again := flownFault[f.Shows]; again {
			continue
		}
		named++
		why := ""
		if c, err := flight.Consider(w.k, f.Shows, nil); err != nil {
			why = err.Error()
		} else if run, err := flight.Fly(c.Faulty, c.Flight, flight.Watching{}); err != nil {
			why = err.Error()
		} else {
			if n := len(run.Frames); n > 0 {
				seconds += run.Frames[n-1].Time
			}
			if run.Good {
				why = run.Summary.Sentence
			}
		}
		if flownFault[f.Shows] = why; why != "" {
			out = append(out, FalseAlarm{Seed: seed, Kind: w.kind, Changes: w.changes, Rule: f.Rule, Title: f.Title, Shows: string(f.Shows), Flown: why})
		}
	}
	return out, named, seconds
}
