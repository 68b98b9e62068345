package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
)

func airframeOperations(h huma.API, a *app.App) {
	get(h, "airframe", "/api/quads/{id}/airframe", "What the parts come to", func(ctx context.Context, in *OnQuad) (*out[*app.AirframeView], error) {
		return answer(a.Airframe(ctx, in.ID))
	})
}
