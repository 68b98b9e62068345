package api

import (
	"context"
	"encoding/json"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/core/book"
	"vividperch/core/catalogue"
	"vividperch/core/quad"
)

// Bodies of requests about the hangar.
type (
	made struct {
		ID int64 `json:"id"`
	}
	nameBody struct {
		Name string `json:"name" minLength:"1" maxLength:"80"`
	}
	beginBody struct {
		Name    string                    `json:"name" minLength:"1" maxLength:"80"`
		Words   string                    `json:"words" maxLength:"200"`
		Parts   app.PartsOf               `json:"parts"`
		Chosen  map[catalogue.Kind]string `json:"chosen,omitempty" maxProperties:"20" doc:"Parts by kind, by their names in the catalogue or by names of their own."`
		List    string                    `json:"list" maxLength:"2000000"`
		Line    string                    `json:"line" maxLength:"40"`
		Version string                    `json:"version" maxLength:"40"`
		Target  string                    `json:"target" maxLength:"40"`
		Country string                    `json:"country,omitempty" maxLength:"80" doc:"Where it flies; what is allowed there comes from a quad that flies there."`
		// What a pilot says of it before any part.
		Diameter     float64 `json:"diameter,omitempty" minimum:"0" maximum:"1000" doc:"Of its propellers, mm."`
		Cells        int     `json:"cells,omitempty" minimum:"0" maximum:"12"`
		Use          string  `json:"use,omitempty" maxLength:"40"`
		Registration string  `json:"registration,omitempty" maxLength:"80"`
		RemoteID     string  `json:"remoteId,omitempty" maxLength:"80"`
	}
	catalogueQuery struct {
		Kind  catalogue.Kind `query:"kind" enum:"frame,motor,propeller,speedController,board,pack,receiver,radioModule,video,satellite"`
		Typed string         `query:"typed" maxLength:"60"`
		// What a quad that is begun shall be: until something is typed, only what suits is given.
		Diameter float64 `query:"diameter" minimum:"0" maximum:"1000" doc:"Of its propellers, mm; 0 is not said."`
		Cells    int     `query:"cells" minimum:"0" maximum:"12" doc:"0 is not said."`
	}
	fitBody struct {
		Version int64          `json:"version"`
		Kind    catalogue.Kind `json:"kind" enum:"frame,motor,propeller,speedController,board,pack,receiver,radioModule,video,satellite"`
		Name    string         `json:"name" minLength:"1" maxLength:"60"`
	}
	retireBody struct {
		Version int64 `json:"version"`
		Retired bool  `json:"retired"`
	}
	showsBody struct {
		Version int64      `json:"version"`
		Shows   quad.Shows `json:"shows"`
	}
	limitBody struct {
		Version int64  `json:"version"`
		Key     string `json:"key" maxLength:"40" pattern:"^[a-zA-Z]+$"`
		Value   any    `json:"value"` // a figure, or text with a unit
		Reason  string `json:"reason" maxLength:"500"`
	}
)

func hangarOperations(h huma.API, a *app.App) {
	get(h, "hangar", "/api/hangar", "The pilot's quads", func(ctx context.Context, _ *struct{}) (*out[*app.HangarView], error) {
		return answer(a.Hangar(ctx))
	})
	get(h, "which", "/api/hangar/which", "Which quads have a part, a link or a firmware", func(ctx context.Context, in *struct {
		Typed string `query:"typed" maxLength:"60"`
	}) (*out[[]app.WhichView], error) {
		return answer(a.Which(ctx, in.Typed))
	})
	get(h, "catalogue", "/api/catalogue", "Parts of the catalogue", func(ctx context.Context, in *catalogueQuery) (*out[[]catalogue.Entry], error) {
		return answer(a.Catalogue(ctx, in.Kind, in.Typed, catalogue.Wish{Diameter: in.Diameter, Cells: in.Cells}))
	})
	get(h, "parts", "/api/quads/{id}/parts", "The parts of a quad, and which other quads have the same", func(ctx context.Context, in *OnQuad) (*out[[]app.PartView], error) {
		return answer(a.Parts(ctx, in.ID))
	})
	post(h, "fit", "/api/quads/{id}/parts", "Fit a part of the catalogue, or one's own by its name", func(ctx context.Context, in *quadWith[fitBody]) (*out[*app.QuadView], error) {
		return answer(a.Fit(ctx, in.ID, in.Body.Version, in.Body.Kind, in.Body.Name))
	})
	get(h, "pilot", "/api/pilot", "What the pilot wants of every quad", func(ctx context.Context, _ *struct{}) (*out[*app.PilotView], error) {
		return answer(a.Pilot(ctx))
	})
	post(h, "setLimit", "/api/pilot/limit", "Move a limit of judgement for all quads, with the reason", func(ctx context.Context, in *struct{ Body limitBody }) (*out[*app.PilotView], error) {
		own, err := json.Marshal(map[string]any{"value": in.Body.Value, "reason": in.Body.Reason})
		if err != nil {
			return nil, problem(err)
		}
		return answer(a.SetLimit(ctx, in.Body.Version, in.Body.Key, own))
	})
	post(h, "setShows", "/api/pilot/shows", "Set the units that figures are shown in", func(ctx context.Context, in *struct{ Body showsBody }) (*out[*app.PilotView], error) {
		return answer(a.SetShows(ctx, in.Body.Version, in.Body.Shows))
	})
	post(h, "setCompassBy", "/api/pilot/compass", "Say when a compass is to be found anew, for all quads", func(ctx context.Context, in *struct {
		Body struct {
			Version int64        `json:"version"`
			By      quad.Renewal `json:"by"`
		}
	}) (*out[*app.PilotView], error) {
		return answer(a.SetCompassBy(ctx, in.Body.Version, in.Body.By))
	})
	post(h, "begin", "/api/quads", "Make a quad from chosen parts and a pasted settings list", func(ctx context.Context, in *struct{ Body beginBody }) (*out[made], error) {
		id, err := a.Begin(ctx, app.NewQuad(in.Body))
		return answer(made{id}, err)
	})
	post(h, "retire", "/api/quads/{id}/retire", "Retire a quad, or bring it back", func(ctx context.Context, in *quadWith[retireBody]) (*out[done], error) {
		return answer(done{}, a.Retire(ctx, in.ID, in.Body.Version, in.Body.Retired))
	})
	post(h, "delete", "/api/quads/{id}/delete", "Delete a quad that never flew, for good", func(ctx context.Context, in *quadWith[versionBody]) (*out[done], error) {
		return answer(done{}, a.Delete(ctx, in.ID, in.Body.Version))
	})
	post(h, "clone", "/api/quads/{id}/clone", "Make another quad that is meant like this one", func(ctx context.Context, in *quadWith[nameBody]) (*out[made], error) {
		id, err := a.Clone(ctx, in.ID, in.Body.Name)
		return answer(made{id}, err)
	})
	huma.Register(h, huma.Operation{OperationID: "import", Method: http.MethodPost, Path: "/api/archive", Summary: "Bring in a whole quad from an archive", MaxBodyBytes: book.ArchiveLimit, SkipValidateBody: true},
		func(ctx context.Context, in *struct {
			Name    string `query:"name" maxLength:"80"`
			RawBody []byte `contentType:"application/json"`
		}) (*out[made], error) {
			id, err := a.Import(ctx, in.RawBody, in.Name)
			return answer(made{id}, err)
		})
	download(h, "archive", "/api/quads/{id}/archive", "A whole quad as one JSON document", "application/json", func(ctx context.Context, in *struct {
		OnQuad
		Private bool `query:"private" doc:"With shared phrases and home coordinates."`
	}) (*raw, error) {
		name, body, err := a.Archive(ctx, in.ID, in.Private)
		return file(name+".quad.json", "application/json", body, err)
	})
	download(h, "sheetSchema", "/api/sheet.schema.json", "JSON Schema of a sheet with parts, radio plan and limits", "application/schema+json", func(context.Context, *struct{}) (*raw, error) {
		body, err := quad.Schema()
		return file("sheet.schema.json", "application/schema+json", body, err)
	})
}
