package api

import (
	"context"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/core/proof"
)

// Bodies of requests about the first flight.
type (
	releaseBody struct {
		Scope proof.Scope `json:"scope" enum:"hover,free,return"`
		Site  string      `json:"site" maxLength:"120"`
		Seen  string      `json:"seen,omitempty" maxLength:"40" doc:"As for signing."`
		East  *int        `json:"east,omitempty" minimum:"-900" maximum:"900" doc:"Minutes by which the clock is ahead of universal time where the quad is."`
	}
)

// where a clock is ahead of universal time by so many minutes; nil where nobody told.
func where(east *int) *time.Location {
	if east == nil {
		return nil
	}
	return time.FixedZone("", 60**east)
}

func firstflightOperations(h huma.API, a *app.App) {
	get(h, "firstFlight", "/api/quads/{id}/first-flight", "What the quad needs of a place, and its propellers", func(ctx context.Context, in *OnQuad) (*out[*app.FirstFlightView], error) {
		return answer(a.FirstFlight(ctx, in.ID))
	})
	post(h, "release", "/api/quads/{id}/release", "Release a scope for today", func(ctx context.Context, in *quadWith[releaseBody]) (*out[*app.QuadView], error) {
		return answer(a.ReleaseFor(ctx, in.ID, in.Body.Scope, in.Body.Site, in.Body.Seen, where(in.Body.East)))
	})
}
