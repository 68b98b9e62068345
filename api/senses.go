package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/core/senses"
)

func sensesOperations(h huma.API, a *app.App) {
	post(h, "levelPlate", "/api/senses/plate", "Level a plate with the shims at hand, and tell the board's own error from it", func(ctx context.Context, in *struct{ Body senses.PlateAsk }) (*out[*senses.Plate], error) {
		return answer(a.LevelPlate(ctx, in.Body))
	})
}
