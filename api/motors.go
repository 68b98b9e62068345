package api

import (
	"context"
	"io"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/core/trace"
)

// tracesAt is where recorded flights are sent, row by row; they may be longer than [BodyLimit].
const tracesAt = "/api/traces/"

// traceBody is read while it arrives, and never kept.
type traceBody struct{ rows io.Reader }

// Resolve implements huma.Resolver.
func (in *traceBody) Resolve(ctx huma.Context) []error {
	in.rows = ctx.BodyReader()
	return nil
}

func motorsOperations(h huma.API, a *app.App) {
	get(h, "drawing", "/api/quads/{id}/drawing", "What a drawing of the quad shows of its corners", func(ctx context.Context, in *OnQuad) (*out[*app.DrawingView], error) {
		return answer(a.Drawing(ctx, in.ID))
	})
	get(h, "motors", "/api/quads/{id}/motors", "Corners as they were seen and what makes them right, signs, frames, idle, both ways, switching", func(ctx context.Context, in *OnQuad) (*out[*app.MotorsView], error) {
		return answer(a.Motors(ctx, in.ID))
	})
	huma.Register(h, huma.Operation{
		OperationID: "afterCuts", Method: http.MethodPost, Path: tracesAt + "cuts", Summary: "How a recorded flight, a CSV trace, shakes after its hard throttle cuts",
		RequestBody: &huma.RequestBody{Required: true, Content: map[string]*huma.MediaType{"text/csv": {Schema: &huma.Schema{Type: "string", Format: "binary"}}}},
	}, func(_ context.Context, in *traceBody) (*out[trace.Cuts], error) {
		return answer(trace.AfterCuts(in.rows))
	})
}
