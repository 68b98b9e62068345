package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/bench/protocol"
)

// Bodies of requests about the bench.
type (
	things     struct{ Body protocol.Things }
	stickMove  struct{ Body protocol.Stick }
	adjustment struct{ Body protocol.Adjust }
	placeBody  struct {
		Quad string `json:"quad" maxLength:"80"`
	}
)

// onBench does something with the bench, if there is one.
func onBench(a *app.App, f func(*app.Bench) error) (*out[done], error) {
	b, err := a.Bench()
	if err == nil {
		err = f(b)
	}
	return answer(done{err == nil}, err)
}

func benchOperations(h huma.API, a *app.App) {
	get(h, "bench", "/api/bench", "Whether there is a bench, and whose", func(_ context.Context, _ *struct{}) (*out[app.BenchStatus], error) {
		b, err := a.Bench()
		if err != nil {
			return nil, problem(err)
		}
		return answer(b.Status(), nil)
	})
	get(h, "benchFor", "/api/quads/{id}/bench", "Whether what lies on the bench is the quad's own", func(ctx context.Context, in *OnQuad) (*out[*app.BenchFor], error) {
		return answer(a.BenchFor(ctx, in.ID))
	})
	post(h, "adopt", "/api/quads/{id}/bench/adopt", "Take the board on the bench for the quad's own: its first, or one that replaced it", func(ctx context.Context, in *quadWith[seenBody]) (*out[*app.QuadView], error) {
		return answer(a.Adopt(ctx, in.ID, in.Body.Seen))
	})
	post(h, "level", "/api/quads/{id}/bench/level", "Set how the quad stands on the bench as level, and read it back", func(ctx context.Context, in *OnQuad) (*out[*app.QuadView], error) {
		return answer(a.Level(ctx, in.ID))
	})
	post(h, "setThings", "/api/bench/things", "Plug, fit, switch or tilt", func(ctx context.Context, in *things) (*out[done], error) {
		return onBench(a, func(b *app.Bench) error { return b.Set(ctx, in.Body) })
	})
	post(h, "moveStick", "/api/bench/stick", "Move a stick or a switch", func(ctx context.Context, in *stickMove) (*out[done], error) {
		return onBench(a, func(b *app.Bench) error { return b.Stick(ctx, in.Body) })
	})
	post(h, "adjust", "/api/bench/adjust", "Adjust the radio or the receiver", func(ctx context.Context, in *adjustment) (*out[done], error) {
		return onBench(a, func(b *app.Bench) error { return b.Adjust(ctx, in.Body) })
	})
	post(h, "place", "/api/bench/place", "Put another quad on the bench", func(ctx context.Context, in *struct{ Body placeBody }) (*out[done], error) {
		return onBench(a, func(b *app.Bench) error { return b.Place(ctx, in.Body.Quad) })
	})
	post(h, "cut", "/api/bench/cut", "Cut the bench power", func(ctx context.Context, _ *struct{}) (*out[done], error) {
		return onBench(a, func(b *app.Bench) error { return b.Cut(ctx) })
	})
}
