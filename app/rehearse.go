package app

import (
	"context"
	"encoding/json"
	"sync"

	"vividperch/core/flight"
	"vividperch/core/quad"
)

// runCache keeps the newest flown runs by the hash of their input. Bounded; results can be flown again.
type runCache struct {
	mu   sync.Mutex
	runs map[string]*flight.Run
	ring []string
}

const cachedRuns = 24

func newRunCache() *runCache { return &runCache{runs: map[string]*flight.Run{}} }

func (c *runCache) fly(ctx context.Context, in flight.Input, card flight.Card) (*flight.Run, error) {
	key := flight.HashInput(in, card)
	c.mu.Lock()
	run, ok := c.runs[key]
	c.mu.Unlock()
	if ok {
		return run, nil
	}
	run, err := flight.Rehearse(in, card, func() bool { return ctx.Err() != nil })
	if err != nil {
		return nil, err
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	if _, ok := c.runs[key]; !ok {
		c.runs[key] = run
		if c.ring = append(c.ring, key); len(c.ring) > cachedRuns {
			delete(c.runs, c.ring[0])
			c.ring = c.ring[1:]
		}
	}
	return run, nil
}

// RehearsalView is a card flown with the quad as observed and as corrected.
type RehearsalView struct {
	AsIs      *flight.Run   `json:"asIs"`
	Corrected *flight.Run   `json:"corrected"`
	Assumed   []string      `json:"assumed"`
	Places    [4][2]float64 `json:"places"` // of the corners in the body, m: ahead, right
	Card      flight.Card   `json:"card"`
}

// Rehearse flies the hover card in the model with this board and the observed quad, beside the corrected
// one.
func (a *App) Rehearse(ctx context.Context, id int64) (*RehearsalView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	in, err := flight.NewInput(o.known)
	if err != nil {
		return nil, err
	}
	v := &RehearsalView{Assumed: nonNil(quad.Observe(o.known).Assumed), Card: flight.HoverCard, Places: flight.Corners(in)}
	if v.AsIs, err = a.runs.fly(ctx, in, flight.HoverCard); err != nil {
		return nil, err
	}
	v.Corrected, err = a.runs.fly(ctx, flight.Corrected(in, o.known.Sheet.Craft.Rotation), flight.HoverCard)
	return v, err
}

// KeepRehearsal flies the card and keeps its summary as a model reading.
func (a *App) KeepRehearsal(ctx context.Context, id int64) (*QuadView, error) {
	v, err := a.Rehearse(ctx, id)
	if err != nil {
		return nil, err
	}
	raw, err := json.Marshal(v.AsIs.Summary)
	if err != nil {
		return nil, err
	}
	if err := a.keepReadings(ctx, id, "rehearsal", newReading{path: modelReading, value: raw, origin: quad.OriginModel, input: v.AsIs.Input}); err != nil {
		return nil, err
	}
	return a.Quad(ctx, id)
}
