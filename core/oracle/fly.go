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
	"vividperch/core/motors"
	"vividperch/core/power"
	"vividperch/core/quad"
	"vividperch/core/senses"
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
	steady := sortie{Flight: flight.Hover(flight.HoverCard), hand: "steady", pack: any(), cell: airframe.LowCell}
	beginner := sortie{Flight: flight.Hover(flight.HoverCard), hand: "beginner", pack: most, cell: airframe.FullCell}
	beginner.Hand = flight.Beginner
	if r.IntN(2) == 0 {
		steady.pack, beginner.pack = most, heaviest
		steady.cell, beginner.cell = airframe.FullCell, airframe.LowCell
	}
	out := []sortie{beginner, steady}
	lost := flight.RadioLost
	if w.k.Board.Sheet.Loss.Policy == quad.PolicyReturn {
		lost = flight.LostFarOut
	}
	out = append(out,
		sortie{Flight: lost.Steady(), hand: "steady", pack: most, cell: airframe.FullCell},
		sortie{Flight: lost.Steady(), hand: "steady", pack: any(), cell: airframe.LowCell})
	if w.k.Board.Sheet.Sticks.Hold.Used() {
		out = append(out, sortie{Flight: flight.PositionHold.Steady(), hand: "steady", pack: any(), cell: airframe.FullCell})
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
	late        float64 // m from where it began, the most of the end of a hold
	under       float64 // m, the lowest on the way home, between what it left and home
	warmest     float64 // °C, of a winding
	cell, held  float64 // V of a cell under load, without what is faster than a second; s for which it was below land
	land, cells float64 // V of a cell at which it is to land; cells
}

func (t *track) see(s flight.State) {
	t.far, t.top = math.Max(t.far, math.Hypot(s.North, s.East)), math.Max(t.top, s.Height)
	t.heights = append(t.heights, s.Height)
	t.in = t.in || s.Height > 0.15
	from := math.Hypot(s.North, s.East)
	if s.Time > 30 {
		t.late = math.Max(t.late, from)
	}
	if between := from > 20 && from < 65 && s.Armed; between && (t.under == 0 || s.Height < t.under) {
		t.under = s.Height
	}
	if t.in && !t.touched && s.Height < 0.02 {
		v := t.last.Velocity
		t.touched, t.strike, t.sinks = true, math.Sqrt(v[0]*v[0]+v[1]*v[1]+v[2]*v[2]), -v[2]
	}
	t.warmest = math.Max(t.warmest, slices.Max(s.Windings[:]))
	// A pack sags with every gust; at its landing voltage it is where it stays there.
	if t.cell == 0 {
		t.cell = s.Volts / t.cells
	}
	if t.cell += (s.Volts/t.cells - t.cell) / recorded; s.Armed && t.in && (t.cell <= t.land || s.Left <= spent) {
		t.held += 1.0 / recorded
	}
	t.last = s
}

// worn says whether the flight took more of a motor or of a full pack than either has.
func (t *track) worn(s sortie) (Ending, string) {
	switch {
	case t.warmest > airframe.WindingMost:
		return Overheats, fmt.Sprintf("A winding comes to %.0f °C. ", t.warmest)
	case s.cell == airframe.FullCell && t.held > 1:
		return RunsLow, fmt.Sprintf("After %.0f s its pack is at %.2f V a cell. ", t.last.Time, t.cell)
	}
	return "", ""
}

// spent is what is left in a pack at rest that is to land, %.
var spent = 100*power.Left(airframe.LowCell) + 0.1

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
	t := track{cells: float64(in.Pack.Cells), land: w.k.Board.Sheet.Watch.LandPerCell}
	run, err := flight.Fly(in, s.Flight, flight.Watching{Rate: recorded, Record: t.see})
	if err != nil {
		return "", out, err
	}
	out.lasted, out.Sentence = t.last.Time, run.Summary.Sentence
	outcome := flight.Outcome(run.Summary.Outcome)
	out.neverArmed = outcome == flight.NeverArmed
	end, why := w.ended(&t, s, run, outcome)
	if end == "" && s.cell == airframe.FullCell { // what shakes cooks its motors, too
		still := flight.Corrected(in, w.k.Sheet.Craft.Rotation)
		still.Actual.Imbalance = nil // what its gains do by themselves
		shakes, err := flight.Oscillates(still)
		if err != nil {
			return "", out, err
		}
		if shakes {
			end, why = Shakes, "Hovering, it shakes by itself. "
		}
	}
	if end == "" { // what tips over first works against it
		end, why = t.worn(s)
	}
	out.Sentence = why + out.Sentence
	return end, out, nil
}

// ended says how a flight ended where that was badly, and what its summary does not tell of it.
func (w *world) ended(t *track, s sortie, run *flight.Run, outcome flight.Outcome) (Ending, string) {
	held := w.k.Board.Sheet
	lost := s.Scenario == flight.RadioLost || s.Scenario == flight.LostFarOut
	switch s.Scenario {
	case flight.LostFarOut:
		return w.homed(t, s, outcome)
	case flight.PositionHold:
		if within := senses.HorizontalWithin(w.is.place.Dilution); t.late > 6+2*within || t.top > highMost {
			return FliesAway, fmt.Sprintf("At the end of a hold it is %.0f m away. ", t.late)
		}
		return "", ""
	}
	if lost {
		climbed, told := t.climbed(run.Lost), w.hardestDescent(s)
		switch {
		case climbed > climbMost:
			return Climbs, fmt.Sprintf("%.1f m above where the radio was lost. ", climbed)
		case t.far > farMost || t.top > highMost:
			return FliesAway, ""
		case held.Loss.Policy == quad.PolicyLand && w.is.onLoss == quad.LossSilence && t.sinks > told:
			return StrikesHard, fmt.Sprintf("It comes down at %.1f m/s, %.1f were told. ", t.sinks, told)
		case held.Loss.Policy != quad.PolicyLand && t.far > w.is.clear:
			return LeavesCircle, ""
		}
		return "", ""
	}
	switch {
	case outcome == flight.TippedOver || outcome == flight.Tumbled || outcome == flight.Crashed:
		return TipsOver, ""
	case outcome == flight.FlewAway && t.far > 24 || t.far > farMost || t.top > 11: // the card's own end
		return FliesAway, ""
	case t.strike > strikeMost:
		return StrikesHard, fmt.Sprintf("It comes down at %.1f m/s. ", t.strike)
	case t.far > w.is.clear:
		return LeavesCircle, ""
	}
	return "", ""
}

// homed says how the loss far out of a quad that is to come home ended, where that was badly. Home is where the track counts from.
func (w *world) homed(t *track, s sortie, outcome flight.Outcome) (Ending, string) {
	held := w.k.Board.Sheet.Loss
	script, _ := flight.ScriptOf(s.Scenario)
	within, from := senses.HorizontalWithin(w.is.place.Dilution), math.Hypot(t.last.North, t.last.East)
	highest := script.Begins
	if held.Way == quad.WaySet {
		highest = math.Max(highest, held.WayHeight)
	}
	speed := held.HomeSpeed
	if speed == 0 {
		speed = flight.UsualHomeSpeed
	}
	slow := script.Away/speed+highest > 0.6*script.Lasts // it has no time to come down
	down := outcome == flight.Landed || outcome == flight.Crashed
	near := held.Near > script.Away-2*within // it is to land where it is
	switch {
	case t.top > highest+4+2*math.Abs(w.is.place.HeightDrift)+3*w.is.place.HeightNoise+math.Abs(w.is.place.HeightJump):
		return Climbs, fmt.Sprintf("It climbs to %.0f m. ", t.top)
	case t.far > script.Away+farMost || !down && !slow:
		return FliesAway, fmt.Sprintf("At the end it is %.0f m from home. ", from)
	case !near && t.under > 0 && t.under < w.is.obstacle:
		return StrikesHard, fmt.Sprintf("It comes home %.0f m high, where something stands %.0f m high. ", t.under, w.is.obstacle)
	case !near && down && from > math.Max(w.is.clear, 1.5*within)+10:
		return LeavesCircle, fmt.Sprintf("It comes down %.0f m from home. ", from)
	case held.AtHome == quad.HomeLands && t.strike > strikeMost:
		return StrikesHard, fmt.Sprintf("It comes down at %.1f m/s. ", t.strike)
	case held.AtHome == quad.HomeDrops && t.sinks > w.hardestDescent(s):
		return StrikesHard, fmt.Sprintf("It comes down at %.1f m/s, %.1f were told. ", t.sinks, w.hardestDescent(s))
	}
	return "", ""
}

// hardestDescent is the hardest that a descent after a loss may be, m/s: what is told of it, and what gusts add to that.
func (w *world) hardestDescent(s sortie) float64 {
	held := w.k.Board.Sheet
	most := linkloss.LandsHard
	for _, l := range flight.Landings(w.k.Parts, w.weighed(), held.Loss.LandThrottle, motors.OutputOf(&held)) {
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
