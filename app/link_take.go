package app

import (
	"context"
	"math"

	"vividperch/bench/protocol"
	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// Thirty paces, m, and the most that a module sends on its lowest power, mW: what a range check is taken at.
const (
	thirtyPaces = 20.0
	lowestPower = 25.0
)

func takeChannelsMove(ctx context.Context, t *taking) error {
	samples, err := t.sweep(ctx, protocol.Sweep{Axis: quad.Roll})
	if err != nil {
		return err
	}
	_, moved := sticks.Mover(samples)
	return t.put(t.path, moved > 100)
}

// takeLabel asks both ends of the link what they are and keeps the one that is asked for.
func takeLabel(ctx context.Context, t *taking) error {
	module, receiver, err := t.device.Labels(ctx)
	if err != nil {
		return err
	}
	if t.key() == "module" {
		return t.put(t.path, module)
	}
	return t.put(t.path, receiver)
}

func takePrint(ctx context.Context, t *taking) error {
	module, receiver, err := t.device.Prints(ctx)
	if err != nil {
		return err
	}
	if t.key() == "receiverPhrase" {
		module = receiver
	}
	if module.Exact == "" {
		return quad.Faultf("no-phrase", string(t.path), "it holds no phrase")
	}
	return t.put(t.path, module)
}

func takeRange(_ context.Context, t *taking) error {
	l := t.live.Link
	switch {
	case !t.live.Radio || len(t.live.Channels) == 0:
		return quad.Faultf("no-link", string(t.path), "no channels arrive: pack in, radio on")
	case l.Distance < thirtyPaces:
		return quad.Faultf("too-near", string(t.path), "the radio is %s away; carry it thirty paces (%s) from the quad", quad.Quantity(math.Round(l.Distance*10)/10, "m"), quad.Quantity(thirtyPaces, "m"))
	case l.Power > lowestPower:
		return quad.Faultf("too-strong", string(t.path), "the module sends with %s; put it to its lowest power, %s at most", quad.Quantity(l.Power, "mW"), quad.Quantity(lowestPower, "mW"))
	}
	return t.put(t.path, l.Quality)
}
