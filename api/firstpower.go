package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/bench/protocol"
	"vividperch/core/power"
)

type measuredBody struct {
	Measured []float64 `json:"measured" maxItems:"60" unit:"A" doc:"What the lead carried as each device came on, in their order."`
}

type seenOnLead struct {
	Figures []power.Ohm `json:"figures" maxItems:"2000" doc:"In the order of their time."`
}

type interruptedBody struct {
	Why string `json:"why" maxLength:"200"`
}

func firstPowerOperations(h huma.API, a *app.App) {
	get(h, "firstPower", "/api/quads/{id}/first-power", "What a meter should show before and as the pack goes in", func(ctx context.Context, in *OnQuad) (*out[*app.FirstPowerView], error) {
		return answer(a.FirstPower(ctx, in.ID))
	})
	post(h, "deviation", "/api/quads/{id}/first-power/deviation", "Name the first device that draws what it should not", func(ctx context.Context, in *quadWith[measuredBody]) (*out[*app.DeviationView], error) {
		return answer(a.Deviation(ctx, in.ID, in.Body.Measured))
	})
	post(h, "leadLooks", "/api/quads/{id}/first-power/lead", "What an ohmmeter's figures on the lead look like", func(ctx context.Context, in *quadWith[seenOnLead]) (*out[*app.LeadLook], error) {
		return answer(a.LeadLooks(ctx, in.ID, in.Body.Figures))
	})
	post(h, "powerOn", "/api/quads/{id}/first-power/on", "Put the pack in on the bench, where nothing stands against it", func(ctx context.Context, in *OnQuad) (*out[*app.QuadView], error) {
		return answer(a.PowerOn(ctx, in.ID))
	})
	post(h, "interrupted", "/api/quads/{id}/first-power/interrupted", "The first power was interrupted: what was confirmed is asked anew", func(ctx context.Context, in *quadWith[interruptedBody]) (*out[*app.QuadView], error) {
		return answer(a.Interrupted(ctx, in.ID, in.Body.Why))
	})
	post(h, "probes", "/api/bench/probes", "Hold the meter's probes somewhere, or take them away", func(ctx context.Context, in *struct{ Body protocol.Probes }) (*out[done], error) {
		return onBench(a, func(b *app.Bench) error { return b.Probes(ctx, in.Body) })
	})
	post(h, "drain", "/api/bench/drain", "Take what is left in the capacitor out by a resistor", func(ctx context.Context, _ *struct{}) (*out[done], error) {
		return onBench(a, func(b *app.Bench) error { return b.Drain(ctx) })
	})
	post(h, "plug", "/api/bench/plug", "Plug a device in, or pull it", func(ctx context.Context, in *struct{ Body protocol.Plug }) (*out[done], error) {
		return onBench(a, func(b *app.Bench) error { return b.Plug(ctx, in.Body) })
	})
}
