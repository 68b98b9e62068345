package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/core/choice"
	"vividperch/core/quad"
)

type (
	placedBody struct {
		Placed map[string]quad.Thing `json:"placed,omitempty" doc:"Where things are tried; nothing is where they are."`
	}
	capacitorBody struct {
		Capacitor *quad.Capacitor `json:"capacitor,omitempty" doc:"One that is tried; nothing is the one that is on it."`
	}
	keepStandBody struct {
		Version int64    `json:"version"`
		Text    string   `json:"text" maxLength:"2000000"`
		Columns []string `json:"columns,omitempty" maxItems:"100"`
	}
)

func airframeOperations(h huma.API, a *app.App) {
	get(h, "airframe", "/api/quads/{id}/airframe", "What the parts come to", func(ctx context.Context, in *OnQuad) (*out[*app.AirframeView], error) {
		return answer(a.Airframe(ctx, in.ID))
	})
	post(h, "apart", "/api/quads/{id}/airframe/apart", "The quad taken apart: where things sit, what is clear, where it balances and what that costs", func(ctx context.Context, in *quadWith[placedBody]) (*out[*app.ApartView], error) {
		return answer(a.Apart(ctx, in.ID, in.Body.Placed))
	})
	get(h, "curves", "/api/quads/{id}/airframe/curves", "What the drive does over its duty, with every pack", func(ctx context.Context, in *OnQuad) (*out[*app.CurvesView], error) {
		return answer(a.Curves(ctx, in.ID))
	})
	post(h, "stand", "/api/quads/{id}/airframe/stand", "Fit coefficients to a thrust stand's table", func(ctx context.Context, in *quadWith[app.StandAsk]) (*out[*app.StandView], error) {
		return answer(a.Stand(ctx, in.ID, in.Body))
	})
	post(h, "keepStand", "/api/quads/{id}/airframe/stand/keep", "Take what a thrust stand's table comes to into the parts", func(ctx context.Context, in *quadWith[keepStandBody]) (*out[*app.QuadView], error) {
		return answer(a.KeepStand(ctx, in.ID, in.Body.Version, app.StandAsk{Text: in.Body.Text, Columns: in.Body.Columns}))
	})
	post(h, "takeHover", "/api/quads/{id}/airframe/hover/keep", "Take the propeller's thrust as a measured hover has it", func(ctx context.Context, in *quadWith[versionBody]) (*out[*app.QuadView], error) {
		return answer(a.TakeHover(ctx, in.ID, in.Body.Version))
	})
	post(h, "lead", "/api/quads/{id}/airframe/lead", "How far the power lead's voltage runs over the pack's", func(ctx context.Context, in *quadWith[capacitorBody]) (*out[*app.LeadView], error) {
		return answer(a.Lead(ctx, in.ID, in.Body.Capacitor))
	})
	post(h, "whatIf", "/api/quads/{id}/airframe/what-if", "Judge the quad as it would be with other parts, beside what it is", func(ctx context.Context, in *quadWith[app.WhatIfAsk]) (*out[*app.WhatIfView], error) {
		return answer(a.WhatIf(ctx, in.ID, in.Body))
	})
	post(h, "searchParts", "/api/quads/{id}/airframe/search", "Search motors, propellers and packs for a wish", func(ctx context.Context, in *quadWith[choice.Wish]) (*out[*choice.Choices], error) {
		return answer(a.SearchParts(ctx, in.ID, in.Body))
	})
}
