package api

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/core/book"
	"vividperch/core/quad"
)

type made struct {
	ID int64 `json:"id"`
}

type (
	nameBody struct {
		Name string `json:"name" minLength:"1" maxLength:"80"`
	}
	beginBody struct {
		Name    string      `json:"name" minLength:"1" maxLength:"80"`
		Words   string      `json:"words" maxLength:"200"`
		Parts   app.PartsOf `json:"parts"`
		List    string      `json:"list" maxLength:"2000000"`
		Line    string      `json:"line" maxLength:"40"`
		Version string      `json:"version" maxLength:"40"`
		Target  string      `json:"target" maxLength:"40"`
	}
	limitBody struct {
		Version int64  `json:"version"`
		Key     string `json:"key" maxLength:"40" pattern:"^[a-zA-Z]+$"`
		Value   any    `json:"value"` // a figure, or text with a unit
		Reason  string `json:"reason" maxLength:"500"`
	}
)

// raw is an answer that is no JSON of ours: a file.
type raw struct {
	ContentType        string `header:"Content-Type"`
	ContentDisposition string `header:"Content-Disposition"`
	Body               []byte
}

// file answers with bytes that a browser keeps as a file and never shows as a page.
func file(name, kind string, body []byte, err error) (*raw, error) {
	if err != nil {
		return nil, problem(err)
	}
	safe := strings.Map(func(r rune) rune {
		if r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r >= '0' && r <= '9' || r == '-' || r == '.' {
			return r
		}
		return '-'
	}, name)
	return &raw{kind, fmt.Sprintf("attachment; filename=%q", safe), body}, nil
}

func download[I any](h huma.API, id, path, summary, kind string, f func(context.Context, *I) (*raw, error)) {
	huma.Register(h, huma.Operation{
		OperationID: id, Method: http.MethodGet, Path: path, Summary: summary,
		Responses: map[string]*huma.Response{"200": {Description: "The file", Content: map[string]*huma.MediaType{kind: {Schema: &huma.Schema{Type: "string", Format: "binary"}}}}},
	}, f)
}

func hangarOperations(h huma.API, a *app.App) {
	get(h, "hangar", "/api/hangar", "The pilot's quads", func(ctx context.Context, _ *struct{}) (*out[[]app.HangarView], error) {
		return answer(a.Hangar(ctx))
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
	post(h, "begin", "/api/quads", "Make a quad from chosen parts and a pasted settings list", func(ctx context.Context, in *struct{ Body beginBody }) (*out[made], error) {
		id, err := a.Begin(ctx, app.NewQuad(in.Body))
		return answer(made{id}, err)
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
		Private bool `query:"private" doc:"With binding phrases and home coordinates."`
	}) (*raw, error) {
		name, body, err := a.Archive(ctx, in.ID, in.Private)
		return file(name+".quad.json", "application/json", body, err)
	})
	download(h, "sheetSchema", "/api/sheet.schema.json", "JSON Schema of a sheet with parts, radio plan and limits", "application/schema+json", func(context.Context, *struct{}) (*raw, error) {
		body, err := quad.Schema()
		return file("sheet.schema.json", "application/schema+json", body, err)
	})
}

type (
	numbered struct {
		OnQuad
		Number int `path:"number" minimum:"1"`
	}
	apartBody struct {
		Seen   any       `json:"seen"`
		Values []valueAt `json:"values" maxItems:"100"`
	}
	restoreBody struct {
		Version int64    `json:"version"`
		Number  int      `json:"number" minimum:"1"`
		Paths   []string `json:"paths,omitempty" maxItems:"500"`
	}
	saveBody struct {
		Version int64  `json:"version"`
		Why     string `json:"why" maxLength:"200"`
	}
	tagBody struct {
		Number int    `json:"number" minimum:"1"`
		Tag    string `json:"tag" maxLength:"60"`
	}
	photoBody struct {
		Picture []byte `json:"picture" maxLength:"2000000"`
		Note    string `json:"note" maxLength:"190"`
	}
)

func historyOperations(h huma.API, a *app.App) {
	get(h, "revisions", "/api/quads/{id}/revisions", "Saved states, newest first", func(ctx context.Context, in *OnQuad) (*out[[]app.RevisionView], error) {
		return answer(a.Revisions(ctx, in.ID))
	})
	get(h, "compare", "/api/quads/{id}/compare", "Two states compared; 0 is the draft", func(ctx context.Context, in *struct {
		OnQuad
		From int `query:"from" minimum:"0"`
		To   int `query:"to" minimum:"0"`
	}) (*out[*app.Comparison], error) {
		return answer(a.Compare(ctx, in.ID, in.From, in.To))
	})
	post(h, "restore", "/api/quads/{id}/restore", "Bring the draft back to a revision, whole or in part", func(ctx context.Context, in *quadWith[restoreBody]) (*out[*app.QuadView], error) {
		paths := make([]quad.Path, len(in.Body.Paths))
		for i, p := range in.Body.Paths {
			paths[i] = quad.Path(p)
		}
		return answer(a.Restore(ctx, in.ID, in.Body.Version, in.Body.Number, paths))
	})
	post(h, "save", "/api/quads/{id}/save", "Make a revision of the draft, with a reason", func(ctx context.Context, in *quadWith[saveBody]) (*out[*app.QuadView], error) {
		return answer(a.Save(ctx, in.ID, in.Body.Version, in.Body.Why))
	})
	post(h, "tag", "/api/quads/{id}/tag", "Tag a revision", func(ctx context.Context, in *quadWith[tagBody]) (*out[[]app.RevisionView], error) {
		return answer(a.Tag(ctx, in.ID, in.Body.Number, in.Body.Tag))
	})
	post(h, "reconcile", "/api/quads/{id}/apart", "Where what was seen and what stands now have gone apart", func(ctx context.Context, in *quadWith[apartBody]) (*out[[]quad.Apart], error) {
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
	post(h, "addPhoto", "/api/quads/{id}/photos", "Put a photo into the book", func(ctx context.Context, in *quadWith[photoBody]) (*out[[]app.PhotoView], error) {
		return answer(a.AddPhoto(ctx, in.ID, in.Body.Picture, in.Body.Note))
	})
	get(h, "photos", "/api/quads/{id}/photos", "Photos in the book, newest first", func(ctx context.Context, in *OnQuad) (*out[[]app.PhotoView], error) {
		return answer(a.Photos(ctx, in.ID))
	})
	download(h, "photo", "/api/quads/{id}/photos/{number}", "A photo", "image/jpeg", func(ctx context.Context, in *numbered) (*raw, error) {
		body, err := a.Photo(ctx, in.ID, int64(in.Number))
		return file("photo.jpg", "image/jpeg", body, err)
	})
}
