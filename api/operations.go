package api

import (
	"context"
	"fmt"
	"net/http"
	"reflect"
	"strings"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/core/quad"
)

type out[T any] struct{ Body T }

func answer[T any](v T, err error) (*out[T], error) {
	if err != nil {
		return nil, problem(err)
	}
	return &out[T]{v}, nil
}

// OnQuad names a quad in the path.
type OnQuad struct {
	ID int64 `path:"id" minimum:"1"`
}

// Bodies that several rooms share.
type (
	versionBody struct {
		Version int64 `json:"version"`
	}
	seenBody struct {
		Seen string `json:"seen,omitempty" maxLength:"40" doc:"As for signing."`
	}
)

type quadWith[B any] struct {
	OnQuad
	Body B
}

type done struct {
	Done bool `json:"done"`
}

func post[I, O any](h huma.API, id, path, summary string, f func(context.Context, *I) (*out[O], error)) {
	huma.Register(h, huma.Operation{OperationID: id, Method: http.MethodPost, Path: path, Summary: summary, MaxBodyBytes: BodyLimit}, f)
}

func get[I, O any](h huma.API, id, path, summary string, f func(context.Context, *I) (*out[O], error)) {
	huma.Register(h, huma.Operation{OperationID: id, Method: http.MethodGet, Path: path, Summary: summary}, f)
}

func operations(h huma.API, a *app.App) {
	for _, room := range []func(huma.API, *app.App){
		hangarOperations, ownPartsOperations, packsOperations, sitesOperations, cableOperations, lineOperations, bookOperations, cardOperations, rehearsalOperations, dictionaryOperations, benchOperations,
		airframeOperations, firstPowerOperations, powerWatchOperations, firmwareOperations, wiringOperations, sensesOperations, feelOperations, linkOperations, sticksOperations, motorsOperations, linklossOperations, firstflightOperations,
	} {
		room(h, a)
	}
	// The socket's messages are not operations, but their types cross here too.
	h.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[app.LiveFrame](), true, "")
	h.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[Said](), true, "")
	h.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[app.CableView](), true, "")
	h.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[CableSaid](), true, "")
	// Nor are the values of readings, of which the page draws some.
	h.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[quad.Fitted](), true, "")
	h.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[quad.LossResponse](), true, "")
	unite(h.OpenAPI().Components.Schemas)
	h.OpenAPI().Components.Schemas.Map()["QuadPath"] = quadPaths()
}

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
