package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/core/flight"
	"vividperch/core/linkloss"
)

type lossesBody struct {
	Away   float64 `json:"away" minimum:"0" maximum:"2000" unit:"m"`
	Height float64 `json:"height" minimum:"1" maximum:"500" unit:"m"`
	From   float64 `json:"from" minimum:"0" maximum:"360" unit:"deg"`
	People bool    `json:"people,omitempty"`
	Roof   bool    `json:"roof,omitempty"`
	Soft   bool    `json:"soft,omitempty"`
}

// LineBody is a line of a site, in a wind.
type LineBody struct {
	Site int64   `json:"site" minimum:"1"`
	Line string  `json:"line" minLength:"1" maxLength:"40"`
	From float64 `json:"from" minimum:"0" maximum:"360" unit:"deg" doc:"Where the wind comes from, clockwise from north."`
}

type (
	lineLossesBody struct {
		LineBody
		Times int `json:"times" minimum:"1" maximum:"1000" doc:"Of each policy; what was flown before counts with it."`
	}
	keepLineBody struct {
		LineBody
		Why string `json:"why,omitempty" maxLength:"200" doc:"Why it is flown with another policy than is advised."`
	}
	mapBody struct {
		File string `json:"file" maxLength:"2000000" doc:"GeoJSON."`
	}
)

func linklossOperations(h huma.API, a *app.App) {
	get(h, "linkLoss", "/api/quads/{id}/link-loss", "What happens when the radio goes quiet, stage by stage", func(ctx context.Context, in *OnQuad) (*out[[]linkloss.Stage], error) {
		return answer(a.LinkLoss(ctx, in.ID))
	})
	post(h, "losses", "/api/quads/{id}/losses", "Fly the loss of the radio at a place, again and again, by each policy", func(ctx context.Context, in *quadWith[lossesBody]) (*out[*app.LossesView], error) {
		b := in.Body
		return answer(a.Losses(ctx, in.ID, flight.Out{Away: b.Away, Height: b.Height}, b.From, flight.Ground{People: b.People, Roof: b.Roof, Soft: b.Soft}))
	})
	post(h, "lineLosses", "/api/quads/{id}/line-losses", "Lose the radio along a line of a site, again and again, by each policy", func(ctx context.Context, in *quadWith[lineLossesBody]) (*out[*app.LineLossesView], error) {
		b := in.Body
		return answer(a.LineLosses(ctx, in.ID, b.Site, b.Line, b.From, b.Times))
	})
	post(h, "keepLine", "/api/quads/{id}/line", "Keep what came of a line as today's", func(ctx context.Context, in *quadWith[keepLineBody]) (*out[*app.QuadView], error) {
		b := in.Body
		return answer(a.KeepLine(ctx, in.ID, b.Site, b.Line, b.From, b.Why))
	})
	post(h, "readMap", "/api/quads/{id}/map", "Read a map from a file, about where the quad takes off; it is not kept", func(ctx context.Context, in *quadWith[mapBody]) (*out[*app.MapRead], error) {
		return answer(a.ReadMap(ctx, in.ID, in.Body.File))
	})
}
