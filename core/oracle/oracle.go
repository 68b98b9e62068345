// Package oracle holds the rules and the flight model against each other. It draws quads, sound ones with up to three changes, has the
// rules judge them, asks answered truthfully, and flies those against which nothing stands, each as it really is. A quad that passes and
// ends badly is a [Miss]; a stop that names a consequence which no flight shows is a [FalseAlarm].
package oracle

import (
	"math/rand/v2"
	"time"

	"vividperch/core/quad"
)

// Change of one quad against the sound one that it was drawn from.
type Change struct {
	Path quad.Path `json:"path"` // of what is meant, or of the reading that would show what is really so
	What string    `json:"what"`
}

// Flown is one flight as far as it tells something.
type Flown struct {
	Scenario string  `json:"scenario"`
	Hand     string  `json:"hand"`
	Pack     string  `json:"pack"`
	CellVolt float64 `json:"cellVolt" unit:"V"`
	Seed     uint64  `json:"seed"`
	Sentence string  `json:"sentence"`
}

// Ending is how a flight ended badly.
type Ending string

const (
	TipsOver     Ending = "tips over"
	StrikesHard  Ending = "strikes hard"
	FliesAway    Ending = "flies away"
	Climbs       Ending = "climbs after a loss"
	LeavesCircle Ending = "leaves the clear circle"
	ArmsByItself Ending = "arms by itself"
	Overheats    Ending = "a winding overheats"
	RunsLow      Ending = "a full pack is at its landing voltage in the air"
	Shakes       Ending = "shakes by itself"
	Unflyable    Ending = "cannot be flown" // the model refuses what the rules pass
)

// Endings in the order of their telling.
var Endings = []Ending{TipsOver, StrikesHard, FliesAway, Climbs, LeavesCircle, ArmsByItself, Overheats, RunsLow, Shakes, Unflyable}

// Miss is a quad against which no stop stood and no ask was open, and that ended badly.
type Miss struct {
	Seed    uint64   `json:"seed"`
	Kind    string   `json:"kind"`
	Changes []Change `json:"changes"`
	Judged  []string `json:"judged"` // titles of the fixes and notes that stood
	Ending  Ending   `json:"ending"`
	Flown   Flown    `json:"flown"`
}

// FalseAlarm is a stop that names a consequence which the flight does not show.
type FalseAlarm struct {
	Seed    uint64   `json:"seed"`
	Kind    string   `json:"kind"`
	Changes []Change `json:"changes"`
	Rule    string   `json:"rule"`
	Title   string   `json:"title"`
	Shows   string   `json:"shows"`
	Flown   string   `json:"flown"`
}

// Table is what came of many quads.
type Table struct {
	Count   int `json:"count"`
	Passed  int `json:"passed"`
	Stopped int `json:"stopped"` // a stop stands
	Open    int `json:"open"`    // no stop, and something is asked for that nothing answers
	// Flown is how many quads were flown; Seconds of flight in all.
	Flown   int     `json:"flown"`
	Seconds float64 `json:"seconds" unit:"s"`
	// NeverArmed of those that passed: no danger, and no first flight either.
	NeverArmed  int            `json:"neverArmed"`
	Named       int            `json:"named"` // stops that name a consequence, as far as they were flown
	Misses      []Miss         `json:"misses"`
	FalseAlarms []FalseAlarm   `json:"falseAlarms"`
	Endings     map[Ending]int `json:"endings"`
}

// Oracle draws from sound quads of every kind.
type Oracle struct{ kinds []kind }

// New oracle that draws from some quads, in every size and of every sort that they can be made into.
func New(bases []Base) (*Oracle, error) {
	kinds, err := kindsOf(bases)
	return &Oracle{kinds}, err
}

// Ask is which quads are drawn and what is flown of them.
type Ask struct {
	Seed uint64
	// MissesOnly leaves the stops' consequences unflown.
	MissesOnly bool
}

// Result of one quad.
type Result struct {
	stopped    bool // a stop stands
	open       bool // none does, and something is asked for that nothing answers
	seconds    float64
	neverArmed bool
	named      int
	misses     []Miss
	alarms     []FalseAlarm
}

// TableOf what came of many quads, in the order in which they were drawn.
func TableOf(results []Result) Table {
	t := Table{Count: len(results), Misses: []Miss{}, FalseAlarms: []FalseAlarm{}, Endings: map[Ending]int{}}
	for _, r := range results {
		switch {
		case r.stopped:
			t.Stopped++
		case r.open:
			t.Open++
		default: // all that pass fly
			t.Passed++
			t.Flown++
		}
		if r.neverArmed {
			t.NeverArmed++
		}
		t.Seconds += r.seconds
		t.Named += r.named
		t.Misses = append(t.Misses, r.misses...)
		t.FalseAlarms = append(t.FalseAlarms, r.alarms...)
		for _, m := range r.misses {
			t.Endings[m.Ending]++
		}
	}
	return t
}

// today of every quad that is drawn.
var today = time.Date(2026, 5, 4, 11, 0, 0, 0, time.UTC)

// seedOf the i-th quad of a run: neighbours have nothing in common.
func seedOf(seed uint64, i int) uint64 {
	return rand.New(rand.NewPCG(seed, uint64(i))).Uint64() >> 11 // what a file of figures holds exactly
}

// Try draws the i-th quad of an ask, has it judged and flies it. The same ask gives the same result, whatever was tried before; several
// may be tried at the same time.
func (o *Oracle) Try(ask Ask, i int) (Result, error) {
	seed := seedOf(ask.Seed, i)
	r := rand.New(rand.NewPCG(seed, 1))
	w := draw(o.kinds, r)
	w.tries = i%triedEach == triedEach-1
	report, err := w.judged()
	if err != nil {
		return Result{}, err
	}
	stops := stopsOf(report)
	out := Result{stopped: len(stops) > 0, open: len(report.Asks) > 0}
	if out.stopped && !ask.MissesOnly {
		out.alarms, out.named, out.seconds = w.alarms(seed, stops)
	}
	if out.stopped || out.open {
		return out, nil
	}
	judged := []string{}
	for _, f := range report.Findings {
		judged = append(judged, f.Title)
	}
	miss := func(end Ending, flown Flown) {
		out.misses = append(out.misses, Miss{Seed: seed, Kind: w.kind, Changes: w.changes, Judged: judged, Ending: end, Flown: flown})
	}
	how, seconds, err := w.armsByItself()
	if err != nil {
		miss(Unflyable, Flown{Sentence: err.Error()})
		return out, nil
	}
	if out.seconds += seconds; how != "" {
		miss(ArmsByItself, Flown{Scenario: "power-up", Sentence: "It arms " + how + "."})
		return out, nil
	}
	for _, f := range w.flights(rand.New(rand.NewPCG(seed, 2))) {
		end, flown, err := w.fly(f)
		if err != nil {
			end, flown.Sentence = Unflyable, err.Error()
		}
		out.seconds += flown.lasted
		out.neverArmed = out.neverArmed || flown.neverArmed
		if end != "" {
			miss(end, flown.Flown)
			break // one is enough to tell what is wrong
		}
	}
	return out, nil
}
