package app

import (
	"context"

	"vividperch/core/linkloss"
	"vividperch/core/quad"
)

// LinkLoss is what happens to a quad when the radio goes quiet, stage by stage.
func (a *App) LinkLoss(ctx context.Context, id int64) ([]linkloss.Stage, error) {
	return figures(ctx, a, id, stagesOf)
}

// stagesOf a loss, with what the receiver was seen to do. Until it was seen it does what it should.
func stagesOf(k quad.Known) []linkloss.Stage {
	emits := quad.LossSilence
	if m := k.Readings.Loss.Output; m != nil {
		emits = m.Value
	}
	return linkloss.Stages(emits, k)
}
