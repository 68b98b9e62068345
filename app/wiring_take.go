package app

import (
	"context"

	"vividperch/core/quad"
)

// takeAnswer looks whether the board hears a device.
func takeAnswer(_ context.Context, t *taking) error {
	if !t.live.Pack || t.live.Board != "running" {
		return quad.Faultf("pack-out", string(t.path), "connect the pack, propellers off")
	}
	answers, there := t.live.Answers[t.key()]
	if !there {
		return quad.Faultf("not-from-device", string(t.path), "the bench has no %s; type what you found", t.key())
	}
	return t.put(t.path, answers)
}
