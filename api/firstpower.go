package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
)

type measuredBody struct {
	Measured []float64 `json:"measured" maxItems:"60" unit:"A" doc:"What the lead carried as each device came on, in their order."`
}

func firstPowerOperations(h huma.API, a *app.App) {
	get(h, "firstPower", "/api/quads/{id}/first-power", "What a meter should show before and as the pack goes in", func(ctx context.Context, in *OnQuad) (*out[*app.FirstPowerView], error) {
		return answer(a.FirstPower(ctx, in.ID))
	})
	post(h, "deviation", "/api/quads/{id}/first-power/deviation", "Name the first device that draws what it should not", func(ctx context.Context, in *quadWith[measuredBody]) (*out[*app.DeviationView], error) {
		return answer(a.Deviation(ctx, in.ID, in.Body.Measured))
	})
}
