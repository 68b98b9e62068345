package app

import (
	"context"
	"encoding/json"
	"io"

	"vividperch/core/airframe"
	"vividperch/core/flight"
	"vividperch/core/quad"
)

// runCache keeps the newest flown runs by the hash of their input. Results can be flown again.
type runCache struct{ newest[*flight.Run] }

// cachedRuns of some hundred kilobytes each.
const cachedRuns = 48

func (c *runCache) fly(ctx context.Context, in flight.Input, f flight.Flight) (*flight.Run, error) {
	key := flight.Hash(in, f)
	if run, ok := c.get(key); ok {
		return run, nil
	}
	run, err := flight.Fly(in, f, flight.Watching{Stop: func() bool { return ctx.Err() != nil }})
	if err != nil {
		return nil, err
	}
	return c.put(key, run, cachedRuns), nil
}

// Wish is what a pilot wants to see flown.
type Wish struct {
	// Shows is one fault of the quad, flown with it and without it. Nothing, or whole, is everything at once.
	Shows flight.Fault
	// Scenario to fly it in; nothing is the one that shows it.
	Scenario flight.Scenario
	// Beginner flies it with a beginner's hand.
	Beginner bool
}

// RehearsalView is a flight with the quad as observed, or with one fault of it, beside the sound one.
type RehearsalView struct {
	Scenario  flight.Scenario `json:"scenario"`
	Shows     flight.Fault    `json:"shows"`
	Title     string          `json:"title"`
	Words     string          `json:"words"` // what the hand does
	With      string          `json:"with"`
	Without   string          `json:"without"`
	Supposed  []string        `json:"supposed"` // what is not so yet, and was taken to be so to show it
	AsIs      *flight.Run     `json:"asIs"`
	Corrected *flight.Run     `json:"corrected"`
	Assumed   []string        `json:"assumed"`
	Places    [4][2]float64   `json:"places"` // of the corners in the body, m: ahead, right
	Radius    float64         `json:"radius" unit:"m"`
	Card      flight.Card     `json:"card"`
	Scripts   []flight.Script `json:"scripts"`
	Faults    []FaultShown    `json:"faults"`
}

// FaultShown is a fault that can be flown with this quad.
type FaultShown struct {
	Fault flight.Fault `json:"fault"`
	Title string       `json:"title"`
	// Known says that it is one that the readings show; the others ask what would be.
	Known bool `json:"known"`
}

// asking are the faults that any quad can be asked about, whether it has them or not.
var asking = map[flight.Fault]bool{flight.FaultWhole: true, flight.FaultCell: true, flight.FaultThrust: true, flight.FaultArmSwitch: true}

// Rehearse flies what is wished with this board and the observed quad, beside the sound one.
func (a *App) Rehearse(ctx context.Context, id int64, wish Wish) (*RehearsalView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	return a.runs.rehearse(ctx, o.known, wish)
}

// flight of a wish with a quad: the quad with what is to be shown and without it, and what is flown with both.
func (w Wish) flight(k quad.Known) (*flight.Consequence, flight.Flight, error) {
	if w.Shows == "" {
		w.Shows = flight.FaultWhole
	}
	pair, err := flight.Consider(k, w.Shows, nil)
	if err != nil {
		return nil, flight.Flight{}, err
	}
	f := pair.Flight
	if w.Scenario != "" {
		f.Scenario = w.Scenario
	}
	if w.Beginner {
		f.Hand = flight.Beginner
	}
	return pair, f, nil
}

func (c *runCache) rehearse(ctx context.Context, k quad.Known, wish Wish) (*RehearsalView, error) {
	pair, f, err := wish.flight(k)
	if err != nil {
		return nil, err
	}
	script, known := flight.ScriptOf(f.Scenario)
	if !known {
		return nil, quad.Faultf("no-scenario", "scenario", "there is no scenario %q", string(f.Scenario))
	}
	v := &RehearsalView{
		Scenario: f.Scenario, Shows: pair.Fault, Title: pair.Title, Words: script.Words, With: pair.With, Without: pair.Without, Supposed: nonNil(pair.Supposed),
		Assumed: nonNil(quad.Observe(k).Assumed), Card: f.Card, Places: flight.Corners(pair.Faulty), Radius: pair.Faulty.Parts.Propeller.Diameter / 2000,
	}
	if k.Parts.Motor.TimeConst == 0 {
		v.Assumed = append(v.Assumed, "the motors follow as fast as is usual for their propellers, within "+quad.Quantity(airframe.UsualLag(k.Parts.Propeller.Diameter), "ms")+" (estimate)")
	}
	for _, s := range flight.Scripts {
		if s.Scenario != flight.InvertedHover || pair.Faulty.Settings.Reverses {
			v.Scripts = append(v.Scripts, s)
		}
	}
	for _, fault := range flight.Faults() {
		if other, err := flight.Consider(k, fault, nil); err == nil {
			v.Faults = append(v.Faults, FaultShown{Fault: fault, Title: other.Title, Known: !asking[fault]})
		}
	}
	if v.AsIs, err = c.fly(ctx, pair.Faulty, f); err != nil {
		return nil, err
	}
	v.Corrected, err = c.fly(ctx, pair.Sound, f)
	return v, err
}

// TraceOf flies what is wished and writes it as the trace of a recorded flight, at a rate in Hz: the one with the fault, or the sound one.
func (a *App) TraceOf(ctx context.Context, id int64, wish Wish, sound bool, rate float64, w io.Writer) error {
	o, err := a.open(ctx, id)
	if err != nil {
		return err
	}
	pair, f, err := wish.flight(o.known)
	if err != nil {
		return err
	}
	in := pair.Faulty
	if sound {
		in = pair.Sound
	}
	return WriteTrace(ctx, in, f, rate, w)
}

// WriteTrace flies and writes the trace of it.
func WriteTrace(ctx context.Context, in flight.Input, f flight.Flight, rate float64, w io.Writer) error {
	if !(rate >= 10 && rate <= 4000) {
		return quad.Faultf("bad-rate", "rate", "a trace is recorded 10 to 4000 times a second")
	}
	if rate > flight.Rate {
		in.Rate = 4000
	}
	t, err := flight.NewTrace(w)
	if err != nil {
		return err
	}
	if _, err := flight.Fly(in, f, flight.Watching{Stop: func() bool { return ctx.Err() != nil }, Record: t.Row, Rate: rate}); err != nil {
		return err
	}
	return t.Close()
}

// KeepRehearsal flies the card and keeps its summary as a model reading, with how much of its gains is steady with the pack of
// the most cells, and what a trial by beginners in the wind of the day came to.
func (a *App) KeepRehearsal(ctx context.Context, id int64) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	in, err := flight.NewInput(o.known)
	if err != nil {
		return nil, err
	}
	run, err := a.runs.fly(ctx, in, flight.Hover(flight.HoverCard))
	if err != nil {
		return nil, err
	}
	summary, err := flight.Kept(run, in, o.known, func() bool { return ctx.Err() != nil })
	if err != nil {
		return nil, err
	}
	raw, err := json.Marshal(summary)
	if err != nil {
		return nil, err
	}
	if err := a.keepReadings(ctx, id, "rehearsal", newReading{path: modelReading, value: raw, origin: quad.OriginModel, input: flight.Fingerprint(in, flight.HoverCard)}); err != nil {
		return nil, err
	}
	return a.Quad(ctx, id)
}
