package app

import (
	"context"
	"slices"

	"vividperch/bench/protocol"
	"vividperch/core/quad"
	"vividperch/core/sticks"
)

func takeAxis(ctx context.Context, t *taking) error {
	axis := quad.Axis(t.key())
	if !slices.Contains(quad.Axes[:], axis) {
		return quad.Faultf("unknown-path", string(t.path), "there is no stick of that name")
	}
	return t.swept(ctx, protocol.Sweep{Axis: axis}, func(samples []sticks.Sample) (any, error) { return sticks.Capture(samples, axis) })
}

func takeSwitch(ctx context.Context, t *taking) error {
	var positions []string
	for _, s := range t.device.Welcome().Switches {
		if s.Name == t.key() {
			positions = s.Positions
		}
	}
	return t.swept(ctx, protocol.Sweep{Switch: t.key()}, func(samples []sticks.Sample) (any, error) { return sticks.CaptureSwitch(samples, positions) })
}
