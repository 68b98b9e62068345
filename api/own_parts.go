package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/core/catalogue"
)

// Bodies of requests about the pilot's own parts.
type (
	PartsBody struct {
		Kind    catalogue.Kind    `json:"kind,omitempty" enum:"frame,motor,propeller,speedController,board,pack,receiver,radioModule,video,satellite" doc:"Of a table's parts, or of one that is typed; a file says it of each."`
		Text    string            `json:"text,omitempty" maxLength:"2000000" doc:"A table with one line of heads, or a file of parts."`
		Columns []string          `json:"columns,omitempty" maxItems:"100" doc:"What each column is, by the keys of the fields; left out it is as said before of the same heads, or guessed."`
		Typed   map[string]string `json:"typed,omitempty" maxProperties:"60" doc:"One part instead of a text: cells by the keys of the kind's fields."`
	}
	keepPartsBody struct {
		Version int64 `json:"version" doc:"Of one's own parts, as they were seen."`
		PartsBody
	}
	forgetPartBody struct {
		Version int64          `json:"version"`
		Kind    catalogue.Kind `json:"kind" enum:"frame,motor,propeller,speedController,board,pack,receiver,radioModule,video,satellite"`
		Name    string         `json:"name" minLength:"1" maxLength:"60"`
	}
)

func ownPartsOperations(h huma.API, a *app.App) {
	get(h, "ownParts", "/api/parts", "The pilot's own parts", func(ctx context.Context, _ *struct{}) (*out[*app.ShelfView], error) {
		return answer(a.OwnParts(ctx))
	})
	post(h, "readParts", "/api/parts/read", "What a table, a file or a typed part would become", func(ctx context.Context, in *struct{ Body PartsBody }) (*out[*app.PartsRead], error) {
		return answer(a.ReadParts(ctx, app.PartsAsk(in.Body)))
	})
	post(h, "keepParts", "/api/parts", "Keep parts of a table, a file, or one that is typed", func(ctx context.Context, in *struct{ Body keepPartsBody }) (*out[*app.ShelfView], error) {
		return answer(a.KeepParts(ctx, in.Body.Version, app.PartsAsk(in.Body.PartsBody)))
	})
	post(h, "forgetPart", "/api/parts/forget", "Take a part out of one's own; quads that have it keep theirs", func(ctx context.Context, in *struct{ Body forgetPartBody }) (*out[*app.ShelfView], error) {
		return answer(a.ForgetPart(ctx, in.Body.Version, in.Body.Kind, in.Body.Name))
	})
	download(h, "partsFile", "/api/parts/file", "The pilot's own parts as a file", "application/json", func(ctx context.Context, _ *struct{}) (*raw, error) {
		body, err := a.PartsFile(ctx)
		return file("parts.json", "application/json", body, err)
	})
}
