package app

import (
	"context"
	"encoding/json"
	"errors"
	"slices"
	"strings"
	"sync"

	"vividperch/core/book"
	"vividperch/core/flight"
	"vividperch/core/quad"
	"vividperch/core/site"
)

// lineCache keeps the newest lines that were flown, by the hash of what they were flown with. Bounded; they can be flown again.
type lineCache struct {
	mu   sync.Mutex
	runs map[string]*cachedLine
	ring []string
}

type cachedLine struct {
	mu  sync.Mutex // of whoever flies it on
	run *flight.LineRun
}

// cachedLines of half a megabyte each.
const cachedLines = 8

// of an input and a line: the run that is kept, or a new one.
func (c *lineCache) of(in flight.Input, ask flight.LineAsk) (*cachedLine, error) {
	key := flight.LineHash(in, ask)
	c.mu.Lock()
	defer c.mu.Unlock()
	if kept, ok := c.runs[key]; ok && key != "" {
		return kept, nil
	}
	run, err := flight.NewLineRun(in, ask)
	if err != nil {
		return nil, err
	}
	fresh := &cachedLine{run: run}
	if c.runs == nil {
		c.runs = map[string]*cachedLine{}
	}
	c.runs[key] = fresh
	if c.ring = append(c.ring, key); len(c.ring) > cachedLines {
		delete(c.runs, c.ring[0])
		c.ring = c.ring[1:]
	}
	return fresh, nil
}

// flyTo flies a line on and sums it up.
func (c *cachedLine) flyTo(ctx context.Context, times int) (flight.LineView, error) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if err := c.run.FlyTo(times, func() bool { return ctx.Err() != nil }); err != nil {
		return flight.LineView{}, err
	}
	return c.run.View(), nil
}

// LineLossesView is what comes of losing the radio along a line.
type LineLossesView struct {
	flight.LineView
	Wind float64 `json:"wind" unit:"m/s"`
	Told bool    `json:"told"` // somebody told the wind
}

// askOf a line of a site.
func askOf(s book.Site, line string, from float64, set quad.Policy) (flight.LineAsk, error) {
	i := slices.IndexFunc(s.Map.Lines, func(l site.Line) bool { return l.Name == line })
	if i < 0 {
		return flight.LineAsk{}, quad.Faultf("no-line", "", "there is no line of this name at %s", s.Name)
	}
	m := s.Map
	l := m.Lines[i]
	m.Lines = nil // the others change nothing of it
	return flight.LineAsk{Map: m, Line: l, From: from, Set: set}, nil
}

// flyLine of a site with a quad as it is observed, so many times by each policy.
func (a *App) flyLine(ctx context.Context, k quad.Known, s book.Site, line string, from float64, times int) (*LineLossesView, string, error) {
	in, err := flight.NewInput(k)
	if err != nil {
		return nil, "", err
	}
	ask, err := askOf(s, line, from, k.Sheet.Loss.Policy)
	if err != nil {
		return nil, "", err
	}
	run, err := a.lines.of(in, ask)
	if err != nil {
		return nil, "", err
	}
	v := &LineLossesView{}
	if w := k.Readings.FirstFlight.Wind; w != nil {
		v.Wind, v.Told = w.Value, true
	}
	v.LineView, err = run.flyTo(ctx, times)
	return v, flight.LineHash(in, ask), err
}

// LineLosses flies the loss of the radio along a line of a site, so many times by each policy, in the wind of the day from a direction. What was flown
// before counts with it: a page that asks for more and more sees it grow, and one that stops asking has cancelled it.
func (a *App) LineLosses(ctx context.Context, id, siteID int64, line string, from float64, times int) (*LineLossesView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	s, err := a.keep.Site(ctx, a.pilot, siteID)
	if err != nil {
		return nil, err
	}
	v, _, err := a.flyLine(ctx, o.known, s, line, from, times)
	return v, err
}

// wholeLine is as many losses as are kept, and printed.
const wholeLine = 1000

// KeepLine flies a line whole and keeps what came of it as today's line, with why it is flown with another policy than is advised.
func (a *App) KeepLine(ctx context.Context, id, siteID int64, line string, from float64, why string) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	s, err := a.keep.Site(ctx, a.pilot, siteID)
	if err != nil {
		return nil, err
	}
	v, hash, err := a.flyLine(ctx, o.known, s, line, from, wholeLine)
	if err != nil {
		return nil, err
	}
	i := slices.IndexFunc(v.Losses, func(l flight.LineLosses) bool { return l.Set })
	if i < 0 {
		return nil, quad.Faultf("no-policy", "sheet.loss.policy", "what is set cannot be flown: write it to the board first, or read it back")
	}
	why = strings.TrimSpace(why)
	switch {
	case quad.Longer(why, 200):
		return nil, quad.Faultf("long-reason", "why", "say it in 200 characters")
	case v.Losses[i].Policy == v.Advice.Policy:
		why = ""
	case why == "":
		return nil, quad.Faultf("no-reason", "why", "it is set to something else than is advised: say why")
	}
	raw, err := json.Marshal(lineFlown(s.Name, line, from, why, v, v.Losses[i]))
	if err != nil {
		return nil, err
	}
	if err := a.keepReadings(ctx, id, "line", newReading{path: lineReading, value: raw, origin: quad.OriginModel, input: hash}); err != nil {
		return nil, err
	}
	return a.Quad(ctx, id)
}

func lineFlown(at, line string, from float64, why string, v *LineLossesView, l flight.LineLosses) quad.LineFlown {
	return quad.LineFlown{
		Site: at, Line: line, From: from, Wind: v.Wind, Policy: l.Policy, Losses: v.Flown, People: l.Share(flight.OnPeople),
		Lost: l.Share(flight.OnObstacle, flight.OnRoof, flight.InWater, flight.InTheAir), Harmless: l.HarmlessShare(), Drifts: l.Drifts, Energy: l.Energy, Advised: v.Advice.Policy, Why: why,
	}
}

// CardLine is today's line as it is printed.
type CardLine struct {
	Flown quad.LineFlown  `json:"flown"`
	Map   site.Map        `json:"map"`
	Line  site.Line       `json:"line"`
	View  *LineLossesView `json:"view"`
	// Old says that the site, the quad or the wind is not what it was flown with.
	Old bool `json:"old"`
}

// cardLine is today's line, as it comes out now; nil where none was kept or its site is gone.
func (a *App) cardLine(ctx context.Context, k quad.Known) (*CardLine, error) {
	m := k.Readings.Loss.Line
	if m == nil {
		return nil, nil
	}
	s, err := a.keep.SiteNamed(ctx, a.pilot, m.Value.Site)
	if errors.Is(err, book.ErrNoSite) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	v, hash, err := a.flyLine(ctx, k, s, m.Value.Line, m.Value.From, wholeLine)
	if quad.AsFault(err) != nil {
		return nil, nil // the line is gone, or the quad cannot be flown as it is
	}
	if err != nil {
		return nil, err
	}
	out := &CardLine{Flown: m.Value, Map: mapped(s).Map, View: v, Old: hash != m.Input}
	for _, l := range s.Map.Lines {
		if l.Name == m.Value.Line {
			out.Line = l
		}
	}
	return out, nil
}
