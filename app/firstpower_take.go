package app

import (
	"context"

	"vividperch/core/quad"
)

func metered(where string) taker {
	return func(ctx context.Context, t *taking) error {
		x, err := t.device.Meter(ctx, where)
		if err != nil {
			return err
		}
		return t.put(t.path, x)
	}
}

func takeLead(ctx context.Context, t *taking) error {
	first, err := t.device.Meter(ctx, "leadAtOnce")
	if err != nil {
		return err
	}
	after, err := t.device.Meter(ctx, "leadAfter")
	if err != nil {
		return err
	}
	return t.put(t.path, quad.Resistance{AtOnce: first, After: after})
}

// throughLead is the most that a meter shows along a pole of a lead, Ω.
const throughLead = 10

func takePolarity(ctx context.Context, t *taking) error {
	x, err := t.device.Meter(ctx, "polarity")
	if err != nil {
		return err
	}
	return t.put(t.path, x < throughLead)
}
