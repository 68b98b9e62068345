package app

import (
	"context"
	"fmt"
	"slices"

	"vividperch/bench/client"
	"vividperch/bench/protocol"
	"vividperch/core/book"
	"vividperch/core/check"
	"vividperch/core/power"
	"vividperch/core/quad"
)

// Probes of the meter on the bench are held somewhere, or taken away.
func (b *Bench) Probes(ctx context.Context, p protocol.Probes) error {
	return b.call(ctx, protocol.MethodProbes, p)
}

// Drain what is left in the capacitor, by a resistor across the lead.
func (b *Bench) Drain(ctx context.Context) error { return b.call(ctx, protocol.MethodDrain, nil) }

// Plug a device of the quad on the bench in, or pull it.
func (b *Bench) Plug(ctx context.Context, p protocol.Plug) error {
	return b.call(ctx, protocol.MethodPlug, p)
}

// beforePower are the rules that must be content before a pack goes in for the first time.
var beforePower = []string{"first-power.safe-to-connect", "first-power.lead-short", "first-power.frame-short", "first-power.polarity"}

// PowerOn puts the pack in for the quad's first power. Who does not know that the propellers are off, every antenna is on and the lead is sound does not get it: what is missing is
// said. A current that burns something pulls the pack again at once, and that is an interruption.
func (a *App) PowerOn(ctx context.Context, id int64) (*QuadView, error) {
	b, o, err := a.atBench(ctx, id)
	if err != nil {
		return nil, err
	}
	device, err := a.own(ctx, b, o)
	if err != nil {
		return nil, err
	}
	first := slices.DeleteFunc(check.Rules(), func(r check.Rule) bool { return !slices.Contains(beforePower, r.ID) })
	report := check.Run(first, o.known, check.Context{Now: a.now(), Events: o.events})
	for _, f := range report.Findings {
		if f.Weight == check.Stop {
			return nil, quad.Faultf("not-yet", f.Rule, "the pack stays out while this stands: %s", f.Title)
		}
	}
	if len(report.Asks) > 0 {
		return nil, quad.Faultf("not-yet", string(report.Asks[0].Path), "the pack stays out until this is told: %s", report.Asks[0].Label)
	}
	live, err := b.callOn(ctx, device, protocol.MethodLook, nil)
	if err != nil {
		return nil, err
	}
	if live.Propellers || !live.Antenna { // it was otherwise when it was confirmed
		return a.Interrupted(ctx, id, "a look at the bench found a propeller on, or an antenna off")
	}
	yes := true
	if live, err = b.callOn(ctx, device, protocol.MethodSet, protocol.Things{Pack: &yes}); err != nil {
		return nil, err
	}
	if burns(live) {
		if err := b.Cut(ctx); err != nil {
			return nil, err
		}
		return a.Interrupted(ctx, id, fmt.Sprintf("the pack was pulled at %.0f A at rest", live.Amps))
	}
	return a.Quad(ctx, id)
}

// burns says that a current flows which nothing at rest should take.
func burns(l protocol.Live) bool {
	return l.Pack && l.Motion == "" && turning(l) == 0 && l.Amps > power.Burns
}

// pullsWhatBurns pulls the pack of whatever lies on the bench, whoever put it in: nobody is quick enough. The caller holds the lock.
func (b *Bench) pullsWhatBurns(l protocol.Live) {
	if !burns(l) || b.pulling || b.life == nil {
		return
	}
	b.pulling = true
	go func() {
		ctx, cancel := context.WithTimeout(b.life, client.Patience)
		defer cancel()
		_ = b.Cut(ctx) // the next message tells whether it came off; while it did not, this is tried again
		b.mu.Lock()
		defer b.mu.Unlock()
		b.pulling = false
	}()
}

// Interrupted notes that the first power was interrupted: what was confirmed before is asked anew.
func (a *App) Interrupted(ctx context.Context, id int64, why string) (*QuadView, error) {
	e, err := a.entry(book.KindEvent, string(check.Interruption), check.Happened{Event: check.Interruption, At: a.now(), Note: why})
	if err != nil {
		return nil, err
	}
	return a.draft(ctx, id, book.Change{Entries: []book.Entry{e}})
}
