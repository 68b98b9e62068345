package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
)

func cardOperations(h huma.API, a *app.App) {
	get(h, "card", "/api/quads/{id}/card", "What the field card says beside the line", func(ctx context.Context, in *OnQuad) (*out[*app.CardView], error) {
		return answer(a.Card(ctx, in.ID))
	})
}
