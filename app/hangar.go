package app

import (
	"context"
	"encoding/json"
	"runtime"
	"slices"
	"sync"
	"time"

	"vividperch/core/book"
	"vividperch/core/check"
	"vividperch/core/proof"
	"vividperch/core/quad"
)

// FlightState of a quad: whether it may fly today.
type FlightState string

const (
	Released FlightState = "released"
	Grounded FlightState = "grounded" // a stop stands against it
	Working  FlightState = "working"  // on the way
)

// HangarView is all of a pilot's quads.
type HangarView struct {
	Line  []StationName `json:"line"`
	Quads []HangarQuad  `json:"quads"`
}

// StationName is a station as it is called.
type StationName struct {
	Station check.Station `json:"station"`
	Name    string        `json:"name"`
}

// HangarQuad is one quad among the others.
type HangarQuad struct {
	ID      int64        `json:"id"`
	Name    string       `json:"name"`
	Words   string       `json:"words"`
	State   FlightState  `json:"state" enum:"released,grounded,working"`
	Says    string       `json:"says"`
	Perches []PerchState `json:"perches"`
	Next    []proof.Todo `json:"next"` // the first of what to do, in order
	ToDo    int          `json:"toDo"` // how much there is to do in all
	Flights int          `json:"flights"`
	Version int64        `json:"version"`
	Retired bool         `json:"retired"` // it flies no more
}

// PerchState is one bird of the hangar's small wires.
type PerchState struct {
	Station check.Station `json:"station"`
	State   proof.State   `json:"state" enum:"notBegun,open,fix,stop,ready,proven,stale,skipped"`
	Word    string        `json:"word"`
}

// firstOfNext is how much of what to do the hangar shows of each quad.
const firstOfNext = 3

// judgedQuads remembers how each quad was judged for the hangar, under all that its judgement rests on. What is kept in the database is the
// truth; this only saves judging it again.
type judgedQuads struct {
	mu sync.Mutex
	by map[int64]judgedQuad
}

type judgedQuad struct {
	rests grounds
	until time.Time // it is judged anew then, whatever has not changed
	is    HangarQuad
}

// grounds are all that the judgement of a quad rests on beside the time of day: what is kept of it, what is the pilot's own, the facts that
// concern other quads, and the day, because what ages does so at midnight.
type grounds struct{ seen, own, fleet, day string }

// Hangar lists the pilot's quads. One that has not changed since it was judged is not judged again.
func (a *App) Hangar(ctx context.Context) (*HangarView, error) {
	covers, err := a.keep.Covers(ctx, a.pilot)
	if err != nil {
		return nil, err
	}
	fleet, err := a.fleetOf(ctx, covers)
	if err != nil {
		return nil, err
	}
	out := &HangarView{Line: []StationName{}, Quads: make([]HangarQuad, len(covers))}
	for _, s := range check.Line {
		out.Line = append(out.Line, StationName{s.ID, s.Name})
	}
	now, known := a.now(), a.judged.all()
	fresh := make([]judgedQuad, len(covers))
	var all sync.WaitGroup
	var failed error
	var once sync.Once
	slots := make(chan struct{}, runtime.GOMAXPROCS(0))
	for i, c := range covers {
		rests := grounds{c.Seen(), c.Rests, fleet, now.Format(time.DateOnly)}
		if j, there := known[c.ID]; there && j.rests == rests && now.Before(j.until) {
			fresh[i] = j
			continue
		}
		all.Go(func() {
			slots <- struct{}{}
			defer func() { <-slots }()
			j, err := a.judgeForHangar(ctx, c.ID, now)
			if err != nil {
				once.Do(func() { failed = err })
				return
			}
			j.rests = rests
			fresh[i] = *j
		})
	}
	if all.Wait(); failed != nil {
		return nil, failed
	}
	by := make(map[int64]judgedQuad, len(covers))
	for i, c := range covers {
		by[c.ID] = fresh[i]
		q := fresh[i].is
		q.ID, q.Name, q.Words, q.Flights, q.Version, q.Retired = c.ID, c.Name, c.Words, c.Flights, c.Version, c.Retired
		out.Quads[i] = q
	}
	a.judged.set(by)
	return out, nil
}

func (j *judgedQuads) all() map[int64]judgedQuad {
	j.mu.Lock()
	defer j.mu.Unlock()
	return j.by
}

func (j *judgedQuads) set(by map[int64]judgedQuad) {
	j.mu.Lock()
	defer j.mu.Unlock()
	j.by = by
}

func (a *App) judgeForHangar(ctx context.Context, id int64, now time.Time) (*judgedQuad, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	st := o.standingsAt(now)
	next := proof.Next(st)
	for i := range next {
		next[i].Words = o.known.Pilot.Shows.Reword(next[i].Words)
	}
	v := HangarQuad{State: Working, Next: next[:min(len(next), firstOfNext)], ToDo: len(next)}
	stops, proven := 0, 0
	for _, s := range st {
		v.Perches = append(v.Perches, PerchState{s.Station, s.State, s.Word})
		stops += s.Stops
		if s.State == proof.Proven || s.State == proof.Skipped {
			proven++
		}
	}
	j := &judgedQuad{until: proof.Midnight(now)}
	switch r := a.standing(o, st); {
	case r != nil:
		v.State, v.Says = Released, "Released for hover in sight until midnight there"
		if r.Until.Before(j.until) {
			j.until = r.Until
		}
	case stops > 0:
		v.State, v.Says = Grounded, quad.Count(stops, "stop is open", "stops are open")
	default:
		v.Says = quad.Number(float64(proven)) + " of " + quad.Number(float64(len(check.Line))) + " stations proven"
	}
	j.is = v
	return j, nil
}

// fleetOf names how the quads look to one another: it changes when something does that a rule about another quad looks at.
func (a *App) fleetOf(ctx context.Context, covers []book.Cover) (string, error) {
	members, _, err := a.fleet.members(ctx, asOthers(covers), a.others)
	if err != nil {
		return "", err
	}
	raw, err := json.Marshal(members)
	return quad.Hash(raw), err
}

// standing release, or nil: given today, and everything still proven.
func (a *App) standing(o *opened, st []proof.Standing) *Release {
	if o.file.Retired || proof.MayRelease(proof.Hover, st) != nil {
		return nil
	}
	for _, r := range slices.Backward(o.releases) {
		if a.now().Before(r.Until) {
			return &r
		}
	}
	return nil
}
