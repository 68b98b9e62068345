package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
)

func feelOperations(h huma.API, a *app.App) {
	get(h, "feel", "/api/quads/{id}/feel", "What the station of the feel offers: families, curves to hold against, starting points, leans", func(ctx context.Context, in *OnQuad) (*out[*app.FeelView], error) {
		return answer(a.Feel(ctx, in.ID))
	})
	post(h, "feelCurves", "/api/quads/{id}/feel/curves", "Bend, convert and compare the curves of a profile", func(ctx context.Context, in *quadWith[app.CurveAsk]) (*out[*app.CurvesOf], error) {
		return answer(a.FeelCurves(ctx, in.ID, in.Body))
	})
	post(h, "feelThrottle", "/api/quads/{id}/feel/throttle", "What the throttle stick does: throttle, duty and thrust over it", func(ctx context.Context, in *quadWith[app.FeelThrottleAsk]) (*out[*app.FeelThrottleView], error) {
		return answer(a.FeelThrottle(ctx, in.ID, in.Body))
	})
	post(h, "gains", "/api/quads/{id}/feel/gains", "Fly a step with every pack, and tell how much the gains keep in hand", func(ctx context.Context, in *quadWith[app.GainsAsk]) (*out[*app.GainsView], error) {
		return answer(a.Gains(ctx, in.ID, in.Body))
	})
	post(h, "feelFilters", "/api/quads/{id}/feel/filters", "What the filters hold up and take away", func(ctx context.Context, in *quadWith[app.FiltersAsk]) (*out[*app.FiltersView], error) {
		return answer(a.FeelFilters(ctx, in.ID, in.Body))
	})
	post(h, "borrow", "/api/quads/{id}/feel/borrow", "Convert another quad's feel for this one, and fly both on one stick", func(ctx context.Context, in *quadWith[app.BorrowAsk]) (*out[*app.BorrowView], error) {
		return answer(a.Borrow(ctx, in.ID, in.Body))
	})
}
