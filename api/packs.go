package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/core/book"
	"vividperch/core/quad"
)

// Bodies of requests about the pilot's packs. The version is of his packs, as they were seen.
type (
	setPackBody struct {
		Version int64     `json:"version"`
		Name    string    `json:"name" minLength:"1" maxLength:"60"`
		Told    quad.Pack `json:"told"`
	}
	measurePackBody struct {
		Version int64  `json:"version"`
		Name    string `json:"name" minLength:"1" maxLength:"60"`
		book.PackMeasured
	}
	withdrawPackBody struct {
		Version int64  `json:"version"`
		Name    string `json:"name" minLength:"1" maxLength:"60"`
		ID      int64  `json:"id" doc:"Of the measurement."`
		Why     string `json:"why" minLength:"1" maxLength:"200"`
	}
	forgetPackBody struct {
		Version int64  `json:"version"`
		Name    string `json:"name" minLength:"1" maxLength:"60"`
	}
	takePackBody struct {
		Version int64  `json:"version" doc:"Of the quad, as it was seen."`
		Name    string `json:"name" minLength:"1" maxLength:"60"`
	}
)

func packsOperations(h huma.API, a *app.App) {
	get(h, "packs", "/api/packs", "The pilot's packs, and the quads that hold a copy of each", func(ctx context.Context, _ *struct{}) (*out[*app.PacksView], error) {
		return answer(a.Packs(ctx))
	})
	post(h, "setPack", "/api/packs", "Keep what is told of a pack", func(ctx context.Context, in *struct{ Body setPackBody }) (*out[*app.PacksView], error) {
		return answer(a.SetPack(ctx, in.Body.Version, in.Body.Name, in.Body.Told))
	})
	post(h, "measurePack", "/api/packs/measured", "Note what was measured of a pack", func(ctx context.Context, in *struct{ Body measurePackBody }) (*out[*app.PacksView], error) {
		return answer(a.MeasurePack(ctx, in.Body.Version, in.Body.Name, in.Body.PackMeasured))
	})
	post(h, "withdrawPackReading", "/api/packs/withdrawn", "Say why a measurement of a pack does not count", func(ctx context.Context, in *struct{ Body withdrawPackBody }) (*out[*app.PacksView], error) {
		return answer(a.WithdrawPackReading(ctx, in.Body.Version, in.Body.Name, in.Body.ID, in.Body.Why))
	})
	post(h, "forgetPack", "/api/packs/forget", "Take a pack away; quads keep their copies", func(ctx context.Context, in *struct{ Body forgetPackBody }) (*out[*app.PacksView], error) {
		return answer(a.ForgetPack(ctx, in.Body.Version, in.Body.Name))
	})
	post(h, "takePack", "/api/quads/{id}/packs", "Put what a pack is now into a quad's copy of it, in the draft", func(ctx context.Context, in *struct {
		ID   int64 `path:"id"`
		Body takePackBody
	}) (*out[*app.QuadView], error) {
		return answer(a.TakePack(ctx, in.ID, in.Body.Version, in.Body.Name))
	})
}
