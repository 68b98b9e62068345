package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
)

func powerWatchOperations(h huma.API, a *app.App) {
	get(h, "powerWatch", "/api/quads/{id}/power-watch", "How its pack is watched, and how far it reaches", func(ctx context.Context, in *OnQuad) (*out[*app.PowerWatchView], error) {
		return answer(a.PowerWatch(ctx, in.ID))
	})
	post(h, "alarm", "/api/quads/{id}/power-watch/alarm", "Replay an alarm over a flight", func(ctx context.Context, in *quadWith[app.AlarmAsk]) (*out[*app.AlarmView], error) {
		return answer(a.Alarm(ctx, in.ID, in.Body))
	})
	post(h, "currentScale", "/api/quads/{id}/power-watch/scale", "Find a current sensor's scale from charger figures", func(ctx context.Context, in *quadWith[app.ScaleAsk]) (*out[*app.ScaleView], error) {
		return answer(a.CurrentScale(ctx, in.ID, in.Body))
	})
	post(h, "currentModel", "/api/quads/{id}/power-watch/model", "Find a board's model of the current from readings", func(ctx context.Context, in *quadWith[app.ModelAsk]) (*out[*app.ModelView], error) {
		return answer(a.CurrentModel(ctx, in.ID, in.Body))
	})
}
