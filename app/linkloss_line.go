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

// lineCache keeps the newest lines that were flown, by the hash of what they were flown with. They can be flown again.
type lineCache struct{ newest[*cachedLine] }

type cachedLine struct {
	mu   sync.Mutex // of whoever flies it on
	run  *flight.LineRun
	view flight.LineView // of what is flown
}

// cachedLines of half a megabyte each.
const cachedLines = 8

// of an input and a line: the run that is kept, or a new one, and its key.
func (c *lineCache) of(in flight.Input, ask flight.LineAsk) (line *cachedLine, key string, err error) {
	key = flight.LineHash(in, ask)
	if kept, ok := c.get(key); ok {
		return kept, key, nil
	}
	run, err := flight.NewLineRun(in, ask)
	if err != nil {
		return nil, "", err
	}
	return c.put(key, &cachedLine{run: run}, cachedLines), key, nil
}

// flyTo flies a line on and sums it up, once for as many as are flown.
func (c *cachedLine) flyTo(ctx context.Context, times int) (flight.LineView, error) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.view.Flown < times {
		if err := c.run.FlyTo(times, func() bool { return ctx.Err() != nil }); err != nil {
			return flight.LineView{}, err
		}
		c.view = c.run.View()
	}
	return c.view, nil
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

// flyLine of a site with a quad as it is observed, so many times by each policy; key is of what it was flown with.
func (a *App) flyLine(ctx context.Context, k quad.Known, s book.Site, line string, from float64, times int) (v *LineLossesView, ask flight.LineAsk, key string, err error) {
	in, err := flight.NewInput(k)
	if err != nil {
		return nil, ask, "", err
	}
	if ask, err = askOf(s, line, from, k.Sheet.Loss.Policy); err != nil {
		return nil, ask, "", err
	}
	run, key, err := a.lines.of(in, ask)
	if err != nil {
		return nil, ask, "", err
	}
	v = &LineLossesView{}
	v.Wind, v.Told = windOf(k)
	v.LineView, err = run.flyTo(ctx, times)
	return v, ask, key, err
}

// lineAt flies a line of one of the pilot's sites.
func (a *App) lineAt(ctx context.Context, id, siteID int64, line string, from float64, times int) (s book.Site, v *LineLossesView, key string, err error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return s, nil, "", err
	}
	if s, err = a.keep.Site(ctx, a.pilot, siteID); err != nil {
		return s, nil, "", err
	}
	v, _, key, err = a.flyLine(ctx, o.known, s, line, from, times)
	return s, v, key, err
}

// LineLosses flies the loss of the radio along a line of a site, so many times by each policy, in the wind of the day from a direction. What was flown
// before counts with it: a page that asks for more and more sees it grow, and one that stops asking has cancelled it.
func (a *App) LineLosses(ctx context.Context, id, siteID int64, line string, from float64, times int) (*LineLossesView, error) {
	_, v, _, err := a.lineAt(ctx, id, siteID, line, from, times)
	return v, err
}

// KeepLine flies a line whole and keeps what came of it as today's line, with why it is flown with another policy than is advised.
func (a *App) KeepLine(ctx context.Context, id, siteID int64, line string, from float64, why string) (*QuadView, error) {
	s, v, key, err := a.lineAt(ctx, id, siteID, line, from, flight.MostLosses)
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
	if err := a.keepReadings(ctx, id, "line", newReading{path: lineReading, value: raw, origin: quad.OriginModel, input: key}); err != nil {
		return nil, err
	}
	return a.Quad(ctx, id)
}

func lineFlown(at, line string, from float64, why string, v *LineLossesView, l flight.LineLosses) quad.LineFlown {
	return quad.LineFlown{
		Site: at, Line: line, From: from, Wind: v.Wind, Policy: l.Policy, Losses: v.Flown, People: l.Share(flight.OnPeople),
		Lost: l.Share(flight.OnObstacle, flight.OnRoof, flight.InWater, flight.InTheAir), Harmless: l.Unharmed, Drifts: l.Drifts, Energy: l.Energy, Advised: v.Advice.Policy, Why: why,
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
	v, ask, key, err := a.flyLine(ctx, k, s, m.Value.Line, m.Value.From, flight.MostLosses)
	if quad.AsFault(err) != nil {
		return nil, nil // the line is gone, or the quad cannot be flown as it is
	}
	if err != nil {
		return nil, err
	}
	return &CardLine{Flown: m.Value, Map: mapped(s).Map, Line: ask.Line, View: v, Old: key != m.Input}, nil
}
