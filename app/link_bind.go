package app

import (
	"context"
	"log/slog"
	"math"
	"slices"
	"time"

	"vividperch/bench/client"
	"vividperch/bench/protocol"
	"vividperch/core/link"
	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// BindingState is how far a guided binding has come.
type BindingState struct {
	Quad int64        `json:"quad"`
	Way  link.WayKind `json:"way" enum:"phrase,button,cycles"`
	Step int          `json:"step"` // that is waited for, from 0; at the number of steps it is done
	Says string       `json:"says"` // why it was led back, or what is in the way
	// Cautions come before everything: while one stands, no step counts.
	Cautions []string   `json:"cautions"`
	Light    link.State `json:"light" enum:"off,searching,stranger,binding,page,bound"`
	Done     bool       `json:"done"`
	Ended    bool       `json:"ended"` // left, done, or the bench went away
}

// moves is how far a channel must go to count as moved by a stick, µs.
const moves = 100.0

// Bind guides one way of binding on the bench, until it is done, is left, or another one begins.
func (a *App) Bind(ctx context.Context, id int64, kind link.WayKind) (*BindingState, error) {
	b, o, err := a.atBench(ctx, id)
	if err != nil {
		return nil, err
	}
	g, err := gearOf(o.known)
	if err != nil {
		return nil, err
	}
	i := slices.IndexFunc(g.Ways, func(w link.Way) bool { return w.Kind == kind })
	if i < 0 {
		return nil, quad.Faultf("no-way", string(kind), "this link is not bound like that")
	}
	device, err := a.own(ctx, b, o)
	if err != nil {
		return nil, err
	}
	guide := &guiding{app: a, bench: b, device: device, gear: g, way: g.Ways[i], known: o.known, state: BindingState{Quad: id, Way: kind, Cautions: []string{}, Light: link.Off}}
	running, stop := context.WithCancel(b.life)
	guide.stop = stop
	b.guideBy(guide)
	first := guide.state
	go guide.run(running)
	return &first, nil
}

// LeaveBinding ends the guide, if one runs. Nothing of the bench is changed by it.
func (b *Bench) LeaveBinding() error {
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.guide == nil || b.guide.state.Ended {
		return quad.Faultf("nothing-runs", "binding", "no binding is being guided")
	}
	b.guide.stop()
	return nil
}

// guideBy another guide; the one before ends and says nothing more.
func (b *Bench) guideBy(g *guiding) {
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.guide != nil {
		b.guide.stop()
	}
	b.guide = g
	s := g.state
	b.send(LiveFrame{Kind: FrameBinding, Binding: &s})
}

// publish to every page how far a guide has come, while it is the one that counts.
func (g *guiding) publish(s BindingState) {
	b := g.bench
	b.mu.Lock()
	defer b.mu.Unlock()
	g.state = s
	if b.guide == g {
		b.send(LiveFrame{Kind: FrameBinding, Binding: &s})
	}
}

// guiding follows one way of binding by what the bench shows.
type guiding struct {
	app    *App
	bench  *Bench
	device *client.Device
	gear   link.Gear
	way    link.Way
	known  quad.Known
	state  BindingState // under the bench's lock
	stop   context.CancelFunc

	least, most []float64 // of each channel since the receiver was bound
	agree       bool
	askedAt     time.Time
}

func (g *guiding) run(ctx context.Context) {
	defer func() {
		g.stop()
		if s := g.state; !s.Ended {
			s.Ended = true
			g.publish(s)
		}
	}()
	for {
		b := g.bench
		b.mu.Lock()
		l, next, away := b.live, b.changed, b.device != g.device
		b.mu.Unlock()
		if away {
			s := g.state
			s.Says = "The bench went away. Begin again when it is back."
			g.publish(s)
			return
		}
		if g.see(ctx, l) {
			return
		}
		select {
		case <-ctx.Done():
			return
		case <-next:
		}
	}
}

// see one moment; true when it is done.
func (g *guiding) see(ctx context.Context, l protocol.Live) bool {
	was := g.state
	s := g.state
	s.Cautions = cautions(l, g.known.Sheet.Motors.Reversible)
	if told, known := g.gear.Told(l.Link.Light); known {
		s.Light = told
	}
	g.watch(l, s.Light)
	if s.Step < len(g.way.Steps) && g.way.Steps[s.Step].Until == link.PhrasesAgree {
		g.compare(ctx, l)
	}
	if len(s.Cautions) == 0 {
		p := g.way.Follow(link.Progress{Step: s.Step, Says: s.Says}, link.Seen{
			Radio: l.Radio, Calling: l.Link.Calling, Pack: l.Pack, Button: l.Link.Button, PhrasesAgree: g.agree, ChannelsMove: g.moved(), Light: s.Light,
		})
		s.Step, s.Says = p.Step, p.Says
	}
	s.Done = g.way.Done(link.Progress{Step: s.Step})
	if s.Done {
		s.Ended = true
		if err := g.keep(ctx); err != nil {
			s.Says = "It is bound, but that a channel moved could not be kept: " + quad.Explain(err)
		}
	}
	if s.Step != was.Step || s.Says != was.Says || s.Light != was.Light || s.Done || !slices.Equal(s.Cautions, was.Cautions) {
		g.publish(s)
	}
	return s.Done
}

// cautions before anything is given power: what turns by itself when the link comes up.
func cautions(l protocol.Live, reversible bool) []string {
	out := []string{}
	if l.Propellers {
		out = append(out, "Take the propellers off.")
	}
	if math.Abs(l.Sticks[quad.Throttle]-sticks.RestPlace(reversible)) > 0.05 {
		out = append(out, "Put the throttle "+sticks.RestWords(reversible)+".")
	}
	for _, gate := range l.Gates {
		if gate.Name == "switch" && !gate.Holds && len(l.Channels) > 0 {
			out = append(out, "Put the arm switch off.")
		}
	}
	return out
}

// watch the channels since the receiver was bound.
func (g *guiding) watch(l protocol.Live, receiver link.State) {
	if receiver != link.Bound || len(l.Channels) == 0 || len(g.least) != len(l.Channels) {
		g.least, g.most = slices.Clone(l.Channels), slices.Clone(l.Channels)
		return
	}
	for i, x := range l.Channels {
		g.least[i], g.most[i] = min(g.least[i], x), max(g.most[i], x)
	}
}

func (g *guiding) moved() bool {
	for i := range g.least {
		if g.most[i]-g.least[i] > moves {
			return true
		}
	}
	return false
}

// compare the phrases: as the two ends hold them, or, where the bench cannot tell, as the pilot typed them.
func (g *guiding) compare(ctx context.Context, l protocol.Live) {
	if !l.Radio {
		g.agree = false
		return
	}
	if time.Since(g.askedAt) < 500*time.Millisecond {
		return
	}
	g.askedAt = time.Now()
	m, r, err := g.device.Prints(ctx)
	if err != nil {
		a, b := g.known.Readings.Link.ModulePhrase, g.known.Readings.Link.ReceiverPhrase
		g.agree = a != nil && b != nil && link.Alike(a.Value, b.Value) == link.Same
		return
	}
	g.agree = m.Exact != "" && link.Alike(m, r) == link.Same
}

// keep that a channel was seen to move.
func (g *guiding) keep(ctx context.Context) error {
	if err := g.bench.holds(g.device); err != nil {
		return err
	}
	path := quad.Path("readings.link.channelsMove")
	raw, err := asReading(path, true)
	if err != nil {
		return err
	}
	err = g.app.keepReadings(ctx, g.state.Quad, "guided binding", newReading{path: path, value: raw, origin: quad.OriginDevice, bench: g.device.Welcome().StandIn})
	if err != nil {
		slog.Warn("keep a guided binding", "error", err)
	}
	return err
}
