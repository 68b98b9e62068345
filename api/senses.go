package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/core/quad"
	"vividperch/core/senses"
)

type samplesBody struct {
	Samples []senses.Vector `json:"samples,omitempty" maxItems:"20000" unit:"1"`
	Text    string          `json:"text,omitempty" maxLength:"2000000"`
	Columns []string        `json:"columns,omitempty" maxItems:"100"`
	Spun    float64         `json:"spun,omitempty" unit:"s"`
	Turns   []senses.Vector `json:"turns,omitempty" maxItems:"20000" unit:"deg/s" doc:"What the gyro felt with each sample."`
	Times   []float64       `json:"times,omitempty" maxItems:"20000" unit:"s"`
}

func (b samplesBody) ask() app.SamplesAsk {
	return app.SamplesAsk{Samples: b.Samples, Text: b.Text, Columns: b.Columns, Spun: b.Spun, Turns: b.Turns, Times: b.Times}
}

func sensesOperations(h huma.API, a *app.App) {
	post(h, "levelPlate", "/api/senses/plate", "Level a plate with the shims at hand, and tell the board's own error from it", func(ctx context.Context, in *struct{ Body senses.PlateAsk }) (*out[*senses.Plate], error) {
		return answer(a.LevelPlate(ctx, in.Body))
	})
	post(h, "turning", "/api/quads/{id}/senses/turning", "Fit a compass that was turned, and say what is missing", func(ctx context.Context, in *quadWith[samplesBody]) (*out[*app.TurningView], error) {
		return answer(a.Turning(ctx, in.ID, in.Body.ask()))
	})
	post(h, "turnEveryWay", "/api/quads/{id}/bench/turn", "Have the hand at the bench turn the quad through every direction", func(ctx context.Context, in *OnQuad) (*out[done], error) {
		return answer(done{}, a.TurnEveryWay(ctx, in.ID))
	})
	post(h, "mount", "/api/quads/{id}/senses/mount", "Find how the board lies on its frame", func(ctx context.Context, in *quadWith[app.MountAsk]) (*out[*app.MountView], error) {
		return answer(a.Mount(ctx, in.ID, in.Body))
	})
	post(h, "moveFrame", "/api/quads/{id}/bench/move", "Have the hand at the bench move the frame and back", func(ctx context.Context, in *quadWith[struct {
		Way string `json:"way" maxLength:"4" doc:"nose, side or turn."`
	}]) (*out[done], error) {
		return answer(done{}, a.MoveFrame(ctx, in.ID, in.Body.Way))
	})
	post(h, "faces", "/api/senses/faces", "Judge an accelerometer that was laid on its six faces", func(ctx context.Context, in *struct{ Body samplesBody }) (*out[*app.FacesView], error) {
		return answer(a.Faces(ctx, in.Body.ask()))
	})
	post(h, "layOnFaces", "/api/quads/{id}/bench/faces", "Have the hand at the bench lay the quad on each of its six faces", func(ctx context.Context, in *OnQuad) (*out[done], error) {
		return answer(done{}, a.LayOnFaces(ctx, in.ID))
	})
	get(h, "renewal", "/api/quads/{id}/senses/renewal", "When its compass is to be found anew, by either school", func(ctx context.Context, in *OnQuad) (*out[*app.RenewalView], error) {
		return answer(a.Renewal(ctx, in.ID))
	})
	post(h, "heading", "/api/quads/{id}/senses/heading", "Judge a heading against known directions, and fly a hold with it", func(ctx context.Context, in *quadWith[app.HeadingAsk]) (*out[*app.HeadingView], error) {
		return answer(a.Heading(ctx, in.ID, in.Body))
	})
	post(h, "sky", "/api/senses/sky", "Compare counts of satellites that were taken by turns", func(ctx context.Context, in *struct {
		Body struct {
			Counts []senses.Count `json:"counts" maxItems:"60"`
		}
	}) (*out[*app.SkyView], error) {
		return answer(a.Sky(ctx, in.Body.Counts))
	})
	post(h, "skyJudged", "/api/quads/{id}/senses/sky", "Judge a sky by count and by dilution", func(ctx context.Context, in *quadWith[quad.Sky]) (*out[*senses.SkyJudged], error) {
		return answer(a.SkyJudged(ctx, in.ID, in.Body))
	})
	post(h, "currents", "/api/quads/{id}/senses/currents", "Fit what a compass showed over the current", func(ctx context.Context, in *quadWith[samplesBody]) (*out[*app.CurrentsView], error) {
		return answer(a.Currents(ctx, in.ID, in.Body.ask()))
	})
	post(h, "heights", "/api/senses/heights", "Judge heights that were recorded at rest", func(ctx context.Context, in *struct{ Body samplesBody }) (*out[*app.HeightsView], error) {
		return answer(a.Heights(ctx, in.Body.ask()))
	})
}
