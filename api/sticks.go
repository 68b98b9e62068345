package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/core/flight"
	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// Bodies of requests about sticks and switches.
type (
	captureBody struct {
		Path     string          `json:"path" maxLength:"100" doc:"Of the reading: a stick or a switch."`
		Samples  []sticks.Sample `json:"samples" maxItems:"4000"`
		Spinning []int           `json:"spinning,omitempty" maxItems:"18" doc:"Channels that move by themselves."`
	}
	healthBody struct {
		Rest  []sticks.Sample `json:"rest" maxItems:"4000" doc:"With the hands off."`
		Moved []sticks.Sample `json:"moved" maxItems:"4000" doc:"While everything was moved."`
	}
	assignBody struct {
		Version   int64             `json:"version"`
		Function  sticks.FunctionID `json:"function"`
		Switch    string            `json:"switch,omitempty" maxLength:"40"`
		Positions []string          `json:"positions" maxItems:"12" doc:"That lie together; none takes the meaning off every channel."`
	}
	tasteQuery struct {
		OnQuad
		LevelAtTop bool `query:"levelAtTop"`
		Blended    bool `query:"blended"`
	}
	sceneQuery struct {
		OnQuad
		Scene flight.Scene `query:"scene" enum:"trace,catch,hang"`
	}
	cardBody struct {
		Version int64  `json:"version" doc:"Of the quad that the pilot saw."`
		Text    string `json:"text" maxLength:"102400" doc:"CSV or JSON."`
	}
	// RadioCard is a radio plan to be set by hand.
	RadioCard struct {
		Text string `json:"text"`
	}
)

func sticksOperations(h huma.API, a *app.App) {
	get(h, "sticks", "/api/quads/{id}/sticks", "Sticks and switches as they were captured, and what they decide", func(ctx context.Context, in *OnQuad) (*out[*app.SticksView], error) {
		return answer(a.Sticks(ctx, in.ID))
	})
	post(h, "capture", "/api/quads/{id}/sticks/capture", "Capture from a radio that the browser sees", func(ctx context.Context, in *quadWith[captureBody]) (*out[*app.QuadView], error) {
		return answer(a.Capture(ctx, in.ID, quad.Path(in.Body.Path), in.Body.Samples, in.Body.Spinning))
	})
	post(h, "radioHealth", "/api/radio/health", "Which channels of a radio at the browser are sound", func(ctx context.Context, in *struct{ Body healthBody }) (*out[[]sticks.Health], error) {
		return answer(a.RadioHealth(ctx, in.Body.Rest, in.Body.Moved))
	})
	post(h, "assign", "/api/quads/{id}/sticks/assign", "Put a meaning on positions of a switch", func(ctx context.Context, in *quadWith[assignBody]) (*out[*app.QuadView], error) {
		return answer(a.Assign(ctx, in.ID, in.Body.Version, in.Body.Function, in.Body.Switch, in.Body.Positions))
	})
	get(h, "proposePlan", "/api/quads/{id}/sticks/proposal", "A plan for the switches, by taste", func(ctx context.Context, in *tasteQuery) (*out[*sticks.Proposal], error) {
		return answer(a.ProposePlan(ctx, in.ID, sticks.Taste{LevelAtTop: in.LevelAtTop, Blended: in.Blended}))
	})
	get(h, "modes", "/api/quads/{id}/modes", "One scene flown in several modes", func(ctx context.Context, in *sceneQuery) (*out[*flight.ModesRun], error) {
		return answer(a.FlyModes(ctx, in.ID, in.Scene))
	})
	get(h, "radioCard", "/api/quads/{id}/radio/card", "The radio's plan as a table", func(ctx context.Context, in *OnQuad) (*out[RadioCard], error) {
		text, err := a.RadioCard(ctx, in.ID)
		return answer(RadioCard{text}, err)
	})
	post(h, "takeRadioCard", "/api/quads/{id}/radio/card", "Put a radio's plan into the draft", func(ctx context.Context, in *quadWith[cardBody]) (*out[*app.QuadView], error) {
		return answer(a.TakeRadioCard(ctx, in.ID, in.Body.Version, []byte(in.Body.Text)))
	})
}
