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

func linklossOperations(h huma.API, a *app.App) {
	get(h, "linkLoss", "/api/quads/{id}/link-loss", "What happens when the radio goes quiet, stage by stage", func(ctx context.Context, in *OnQuad) (*out[[]linkloss.Stage], error) {
		return answer(a.LinkLoss(ctx, in.ID))
	})
	post(h, "losses", "/api/quads/{id}/losses", "Fly the loss of the radio at a place, again and again, by each policy", func(ctx context.Context, in *quadWith[lossesBody]) (*out[*app.LossesView], error) {
		b := in.Body
		return answer(a.Losses(ctx, in.ID, flight.Out{Away: b.Away, Height: b.Height}, b.From, flight.Ground{People: b.People, Roof: b.Roof, Soft: b.Soft}))
	})
}
