package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/core/linkloss"
)

func linklossOperations(h huma.API, a *app.App) {
	get(h, "linkLoss", "/api/quads/{id}/link-loss", "What happens when the radio goes quiet, stage by stage", func(ctx context.Context, in *OnQuad) (*out[[]linkloss.Stage], error) {
		return answer(a.LinkLoss(ctx, in.ID))
	})
}
