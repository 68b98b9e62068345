package api

import (
	"bytes"
	"context"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/core/flight"
)

// WishOn a quad: what to fly with it in the model.
type WishOn struct {
	OnQuad
	Shows    string `query:"shows" maxLength:"20" doc:"The fault to show; nothing is everything that is known."`
	Scenario string `query:"scenario" maxLength:"20" doc:"The scenario to fly it in; nothing is the one that shows it."`
	Beginner bool   `query:"beginner" doc:"Flown by a beginner's hand."`
}

func (w WishOn) wish() app.Wish {
	return app.Wish{Shows: flight.Fault(w.Shows), Scenario: flight.Scenario(w.Scenario), Beginner: w.Beginner}
}

func rehearsalOperations(h huma.API, a *app.App) {
	get(h, "rehearse", "/api/quads/{id}/rehearsal", "Fly a scenario in the model, with what is wrong and without", func(ctx context.Context, in *WishOn) (*out[*app.RehearsalView], error) {
		return answer(a.Rehearse(ctx, in.ID, in.wish()))
	})
	download(h, "trace", "/api/quads/{id}/rehearsal/trace", "The trace of a flight in the model, as CSV", "text/csv", func(ctx context.Context, in *struct {
		WishOn
		Sound bool    `query:"sound" doc:"The sound quad, not the one with the fault."`
		Rate  float64 `query:"rate" minimum:"10" maximum:"2000" default:"500" doc:"Rows a second."`
	}) (*raw, error) {
		var body bytes.Buffer
		err := a.TraceOf(ctx, in.ID, in.wish(), in.Sound, in.Rate, &body)
		return file("rehearsal.csv", "text/csv", body.Bytes(), err)
	})
	post(h, "keepRehearsal", "/api/quads/{id}/rehearsal", "Fly the hover card and keep what came of it", func(ctx context.Context, in *OnQuad) (*out[*app.QuadView], error) {
		return answer(a.KeepRehearsal(ctx, in.ID))
	})
}
