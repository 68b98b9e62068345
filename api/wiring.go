package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/core/inquiry"
	"vividperch/core/quad"
)

// Bodies of requests about the wiring.
type (
	moveBody struct {
		Version int64  `json:"version"`
		Device  string `json:"device" maxLength:"40"`
		Port    string `json:"port,omitempty" maxLength:"20"`
		Out     string `json:"out,omitempty" maxLength:"20" doc:"Pad of its output; empty is the port's own."`
		In      string `json:"in,omitempty" maxLength:"20"`
		Bus     string `json:"bus,omitempty" maxLength:"20"`
		Rail    string `json:"rail,omitempty" maxLength:"20"`
	}
	deviceBody struct {
		Device string `json:"device" maxLength:"40"`
	}
)

func wiringOperations(h huma.API, a *app.App) {
	post(h, "unseen", "/api/unseen", "Why a computer does not see a board: where the answers lead", func(_ context.Context, in *struct{ Body whyAsk }) (*out[*inquiry.Inquiry], error) {
		return answer(a.Unseen(in.Body.answers()))
	})
	get(h, "wiring", "/api/quads/{id}/wiring", "Pads, devices, leads and rails", func(ctx context.Context, in *OnQuad) (*out[*app.WiringView], error) {
		return answer(a.Wiring(ctx, in.ID))
	})
	get(h, "planWiring", "/api/quads/{id}/wiring/plan", "The way to wire the quad that moves the fewest devices", func(ctx context.Context, in *OnQuad) (*out[*app.PlanView], error) {
		return answer(a.PlanWiring(ctx, in.ID))
	})
	post(h, "takePlan", "/api/quads/{id}/wiring/plan", "Put the plan on the drawing and the ports", func(ctx context.Context, in *quadWith[versionBody]) (*out[*app.QuadView], error) {
		return answer(a.TakePlan(ctx, in.ID, in.Body.Version))
	})
	post(h, "moveWire", "/api/quads/{id}/wiring/move", "Move a device's wires on the drawing", func(ctx context.Context, in *quadWith[moveBody]) (*out[*app.QuadView], error) {
		w := quad.Wire{Port: in.Body.Port, Out: in.Body.Out, In: in.Body.In, Bus: in.Body.Bus, Rail: in.Body.Rail}
		return answer(a.Move(ctx, in.ID, in.Body.Version, in.Body.Device, w))
	})
	post(h, "solder", "/api/quads/{id}/wiring/solder", "Solder a device on the bench like it is drawn", func(ctx context.Context, in *quadWith[deviceBody]) (*out[done], error) {
		err := a.Solder(ctx, in.ID, in.Body.Device)
		return answer(done{err == nil}, err)
	})
}
