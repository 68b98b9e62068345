package api

import (
	"context"
	"encoding/json"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/core/check"
	"vividperch/core/quad"
)

// Bodies of requests about the line of a quad.
type (
	valueAt struct {
		Path  string `json:"path" maxLength:"200"`
		Value any    `json:"value"`
	}
	editBody struct {
		Version int64     `json:"version"`
		Values  []valueAt `json:"values" minItems:"1" maxItems:"100"`
	}
	valuesBody struct {
		Values []valueAt `json:"values" minItems:"1" maxItems:"100"`
	}
	pathBody struct {
		Path string `json:"path" maxLength:"200"`
	}
	stationBody struct {
		Station string `json:"station" maxLength:"40"`
		Seen    string `json:"seen,omitempty" maxLength:"40" doc:"What the pilot saw who signs: seen of the quad. Empty is whatever stands."`
	}
	backBody struct {
		Seen string `json:"seen" maxLength:"40" doc:"What the pilot saw of the quad."`
		Why  string `json:"why,omitempty" maxLength:"300"`
	}
	withdrawBody struct {
		Kind app.Did `json:"kind" enum:"reading,signature,event" doc:"Of what is withdrawn."`
		Name string  `json:"name" maxLength:"200" doc:"The reading's path, the station, the event."`
		Seen string  `json:"seen" maxLength:"40" doc:"What the pilot saw of the quad."`
		Why  string  `json:"why" maxLength:"300"`
	}
	AtPlace struct {
		Path string `query:"path" minLength:"1" maxLength:"200" required:"true"`
	}
	historyQuery struct {
		OnQuad
		AtPlace
	}
	acceptBody struct {
		Rule    string `json:"rule" maxLength:"80"`
		Subject string `json:"subject" maxLength:"600"`
		Reason  string `json:"reason" maxLength:"600"`
	}
	reconcileBody struct {
		Seen   any       `json:"seen"`
		Values []valueAt `json:"values" maxItems:"100"`
	}
)

func setValues(list []valueAt) ([]app.SetValue, error) {
	values := make([]app.SetValue, len(list))
	for i, v := range list {
		raw, err := json.Marshal(v.Value)
		if err != nil {
			return nil, err
		}
		values[i] = app.SetValue{Path: quad.Path(v.Path), Value: raw}
	}
	return values, nil
}

func lineOperations(h huma.API, a *app.App) {
	get(h, "quad", "/api/quads/{id}", "The line of a quad: every station with its ledger", func(ctx context.Context, in *OnQuad) (*out[*app.QuadView], error) {
		return answer(a.Quad(ctx, in.ID))
	})
	post(h, "edit", "/api/quads/{id}/edit", "Change the draft", func(ctx context.Context, in *quadWith[editBody]) (*out[*app.QuadView], error) {
		values, err := setValues(in.Body.Values)
		if err != nil {
			return nil, problem(err)
		}
		return answer(a.Edit(ctx, in.ID, in.Body.Version, values))
	})
	post(h, "takeBack", "/api/quads/{id}/back", "Take the last act back, of whatever kind", func(ctx context.Context, in *quadWith[backBody]) (*out[*app.QuadView], error) {
		return answer(a.TakeBack(ctx, in.ID, in.Body.Seen, in.Body.Why))
	})
	post(h, "withdraw", "/api/quads/{id}/withdraw", "Withdraw a reading, a signature or what happened, with a reason", func(ctx context.Context, in *quadWith[withdrawBody]) (*out[*app.QuadView], error) {
		return answer(a.Withdraw(ctx, in.ID, in.Body.Kind, in.Body.Name, in.Body.Seen, in.Body.Why))
	})
	get(h, "slots", "/api/slots", "What is filled in to type a value at one place", func(ctx context.Context, in *AtPlace) (*out[[]quad.Slot], error) {
		return answer(a.Slots(ctx, quad.Path(in.Path)))
	})
	get(h, "history", "/api/quads/{id}/history", "What was measured at one place, newest first", func(ctx context.Context, in *historyQuery) (*out[*app.HistoryPage], error) {
		return answer(a.History(ctx, in.ID, quad.Path(in.Path)))
	})
	post(h, "redo", "/api/quads/{id}/redo", "Make the edit again that was taken back last", func(ctx context.Context, in *quadWith[versionBody]) (*out[*app.QuadView], error) {
		return answer(a.Redo(ctx, in.ID, in.Body.Version))
	})
	post(h, "type", "/api/quads/{id}/type", "Keep a reading the pilot took", func(ctx context.Context, in *quadWith[valueAt]) (*out[*app.QuadView], error) {
		raw, err := json.Marshal(in.Body.Value)
		if err != nil {
			return nil, problem(err)
		}
		return answer(a.Type(ctx, in.ID, quad.Path(in.Body.Path), raw))
	})
	post(h, "typeAll", "/api/quads/{id}/type-all", "Keep several readings the pilot took, all or none", func(ctx context.Context, in *quadWith[valuesBody]) (*out[*app.QuadView], error) {
		values, err := setValues(in.Body.Values)
		if err != nil {
			return nil, problem(err)
		}
		return answer(a.TypeAll(ctx, in.ID, values))
	})
	post(h, "take", "/api/quads/{id}/take", "Take a reading from the bench", func(ctx context.Context, in *quadWith[pathBody]) (*out[*app.QuadView], error) {
		return answer(a.Take(ctx, in.ID, quad.Path(in.Body.Path)))
	})
	post(h, "sign", "/api/quads/{id}/sign", "Sign a station's proof", func(ctx context.Context, in *quadWith[stationBody]) (*out[*app.QuadView], error) {
		return answer(a.Sign(ctx, in.ID, check.Station(in.Body.Station), in.Body.Seen))
	})
	post(h, "accept", "/api/quads/{id}/accept", "Accept a fix with a reason, or take the acceptance back", func(ctx context.Context, in *quadWith[acceptBody]) (*out[*app.QuadView], error) {
		return answer(a.Accept(ctx, in.ID, in.Body.Rule, in.Body.Subject, in.Body.Reason))
	})
	post(h, "reconcile", "/api/quads/{id}/apart", "Where what was seen and what stands now have gone apart", func(ctx context.Context, in *quadWith[reconcileBody]) (*out[[]quad.Disagreement], error) {
		seen, err := json.Marshal(in.Body.Seen)
		if err != nil {
			return nil, problem(err)
		}
		values, err := setValues(in.Body.Values)
		if err != nil {
			return nil, problem(err)
		}
		return answer(a.Reconcile(ctx, in.ID, seen, values))
	})
	download(h, "facts", "/api/quads/{id}/facts", "The facts behind a finding", "application/json", func(ctx context.Context, in *struct {
		OnQuad
		Rule    string `query:"rule" maxLength:"80"`
		Subject string `query:"subject" maxLength:"600"`
	}) (*raw, error) {
		facts, err := a.Facts(ctx, in.ID, in.Rule, in.Subject)
		if err != nil {
			return nil, problem(err)
		}
		body, err := json.MarshalIndent(facts, "", "  ")
		return file(in.Rule+".facts.json", "application/json", body, err)
	})
}
