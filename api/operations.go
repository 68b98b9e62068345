package api

import (
	"bytes"
	"context"
	"encoding/json"
	"io"
	"net/http"
	"reflect"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/bench/protocol"
	"vividperch/core/check"
	"vividperch/core/flight"
	"vividperch/core/proof"
	"vividperch/core/quad"
	"vividperch/core/trace"
)

type out[T any] struct{ Body T }

func answer[T any](v T, err error) (*out[T], error) {
	if err != nil {
		return nil, problem(err)
	}
	return &out[T]{v}, nil
}

// tracesAt is where recorded flights are sent, row by row; they may be longer than [BodyLimit].
const tracesAt = "/api/traces/"

// traceBody is read while it arrives, and never kept.
type traceBody struct{ rows io.Reader }

// Resolve implements huma.Resolver.
func (in *traceBody) Resolve(ctx huma.Context) []error {
	in.rows = ctx.BodyReader()
	return nil
}

// OnQuad names a quad in the path.
type OnQuad struct {
	ID int64 `path:"id" minimum:"1"`
}

// WishOn a quad: what to fly with it in the model.
type WishOn struct {
	OnQuad
	Shows    string `query:"shows" maxLength:"20" doc:"The fault to show; nothing is everything that is known."`
	Scenario string `query:"scenario" maxLength:"20" doc:"The scenario to fly it in; nothing is the one that shows it."`
	Beginner bool   `query:"beginner" doc:"Flown by a beginner's hand."`
}

func (w WishOn) wish() app.Wish {
	return app.Wish{Shows: flight.Fault(w.Shows), Scenario: flight.Scenario(w.Scenario), Beginner: w.Beginner}
}

type outputBody struct {
	Output string `json:"output" maxLength:"4"`
}

type quadWith[B any] struct {
	OnQuad
	Body B
}

type done struct {
	Done bool `json:"done"`
}

// Bodies of requests.
type (
	valueAt struct {
		Path  string `json:"path" maxLength:"200"`
		Value any    `json:"value"`
	}
	editBody struct {
		Version int64     `json:"version"`
		Values  []valueAt `json:"values" minItems:"1" maxItems:"100"`
	}
	versionBody struct {
		Version int64 `json:"version"`
	}
	pathBody struct {
		Path string `json:"path" maxLength:"200"`
	}
	stationBody struct {
		Station string `json:"station" maxLength:"40"`
		Seen    string `json:"seen,omitempty" maxLength:"40" doc:"What the pilot saw who signs: seen of the quad. Empty is whatever stands."`
	}
	seenBody struct {
		Seen string `json:"seen,omitempty" maxLength:"40" doc:"As for signing."`
	}
	eventBody struct {
		Event check.Event `json:"event"`
		Note  string      `json:"note,omitempty" maxLength:"500"`
	}
	acceptBody struct {
		Rule    string `json:"rule" maxLength:"80"`
		Subject string `json:"subject" maxLength:"600"`
		Reason  string `json:"reason" maxLength:"600"`
	}
	releaseBody struct {
		Scope proof.Scope `json:"scope" enum:"hover,free,return"`
		Site  string      `json:"site" maxLength:"120"`
		Seen  string      `json:"seen,omitempty" maxLength:"40" doc:"As for signing."`
	}
	flightBody struct {
		Site    string  `json:"site" maxLength:"120"`
		Pack    string  `json:"pack" maxLength:"60"`
		Minutes float64 `json:"minutes" minimum:"0" maximum:"600"`
		Drawn   float64 `json:"drawn" minimum:"0" maximum:"100000"`
		Lowest  float64 `json:"lowest" minimum:"0" maximum:"100"`
		Notes   string  `json:"notes" maxLength:"4000"`
	}
	imageBody struct {
		Text string `json:"text" maxLength:"2000000"`
	}
	flashBody struct {
		Text   string `json:"text" maxLength:"2000000"`
		Whole  bool   `json:"whole,omitempty" doc:"Erase the settings along with the program."`
		Output string `json:"output,omitempty" maxLength:"8" doc:"Whose speed controller; empty is the board."`
	}
	placeBody struct {
		Quad string `json:"quad" maxLength:"80"`
	}
	whyBody struct {
		Why string `json:"why" maxLength:"200"`
	}
	backupBody struct {
		Backup   int64    `json:"backup" minimum:"1"`
		Subjects []string `json:"subjects,omitempty" maxItems:"40" doc:"What to put back; none is all of it."`
	}
)

func post[I, O any](h huma.API, id, path, summary string, f func(context.Context, *I) (*out[O], error)) {
	huma.Register(h, huma.Operation{OperationID: id, Method: http.MethodPost, Path: path, Summary: summary, MaxBodyBytes: BodyLimit}, f)
}

func get[I, O any](h huma.API, id, path, summary string, f func(context.Context, *I) (*out[O], error)) {
	huma.Register(h, huma.Operation{OperationID: id, Method: http.MethodGet, Path: path, Summary: summary}, f)
}

func operations(h huma.API, a *app.App) {
	hangarOperations(h, a)
	quadOperations(h, a)
	historyOperations(h, a)
	settingsOperations(h, a)
	linkOperations(h, a)
	stickOperations(h, a)
	benchOperations(h, a)
	// The socket's messages are not operations, but their types cross here too.
	h.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[app.LiveFrame](), true, "")
	h.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[Said](), true, "")
	// Nor are the values of readings, of which the page draws some.
	h.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[quad.Fitted](), true, "")
	h.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[quad.LossResponse](), true, "")
	unite(h.OpenAPI().Components.Schemas)
	h.OpenAPI().Components.Schemas.Map()["QuadPath"] = quadPaths()
}

func quadOperations(h huma.API, a *app.App) {
	get(h, "quad", "/api/quads/{id}", "Everything the line of one quad shows", func(ctx context.Context, in *OnQuad) (*out[*app.QuadView], error) {
		return answer(a.Quad(ctx, in.ID))
	})
	post(h, "edit", "/api/quads/{id}/edit", "Change the draft", func(ctx context.Context, in *quadWith[editBody]) (*out[*app.QuadView], error) {
		values, err := setValues(in.Body.Values)
		if err != nil {
			return nil, problem(err)
		}
		return answer(a.Edit(ctx, in.ID, in.Body.Version, values))
	})
	post(h, "undo", "/api/quads/{id}/undo", "Take the last edit back", func(ctx context.Context, in *quadWith[versionBody]) (*out[*app.QuadView], error) {
		return answer(a.Undo(ctx, in.ID, in.Body.Version))
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
	post(h, "take", "/api/quads/{id}/take", "Take a reading from the bench", func(ctx context.Context, in *quadWith[pathBody]) (*out[*app.QuadView], error) {
		return answer(a.Take(ctx, in.ID, quad.Path(in.Body.Path)))
	})
	post(h, "sign", "/api/quads/{id}/sign", "Sign a station's proof", func(ctx context.Context, in *quadWith[stationBody]) (*out[*app.QuadView], error) {
		return answer(a.Sign(ctx, in.ID, check.Station(in.Body.Station), in.Body.Seen))
	})
	post(h, "note", "/api/quads/{id}/event", "Note an event that makes readings void", func(ctx context.Context, in *quadWith[eventBody]) (*out[*app.QuadView], error) {
		return answer(a.Note(ctx, in.ID, in.Body.Event, in.Body.Note))
	})
	post(h, "accept", "/api/quads/{id}/accept", "Accept a fix with a reason, or take the acceptance back", func(ctx context.Context, in *quadWith[acceptBody]) (*out[*app.QuadView], error) {
		return answer(a.Accept(ctx, in.ID, in.Body.Rule, in.Body.Subject, in.Body.Reason))
	})
	post(h, "release", "/api/quads/{id}/release", "Release a scope for today", func(ctx context.Context, in *quadWith[releaseBody]) (*out[*app.QuadView], error) {
		return answer(a.ReleaseFor(ctx, in.ID, in.Body.Scope, in.Body.Site, in.Body.Seen))
	})
	post(h, "fly", "/api/quads/{id}/flights", "Note a flight in the book", func(ctx context.Context, in *quadWith[flightBody]) (*out[*app.QuadView], error) {
		b := in.Body
		return answer(a.Fly(ctx, in.ID, app.Flight{Site: b.Site, Pack: b.Pack, Minutes: b.Minutes, Drawn: b.Drawn, Lowest: b.Lowest, Notes: b.Notes}))
	})
	get(h, "rehearse", "/api/quads/{id}/rehearsal", "Fly a scenario in the model, with what is wrong and without", func(ctx context.Context, in *WishOn) (*out[*app.RehearsalView], error) {
		return answer(a.Rehearse(ctx, in.ID, in.wish()))
	})
	download(h, "trace", "/api/quads/{id}/rehearsal/trace", "The trace of a flight in the model, as CSV", "text/csv", func(ctx context.Context, in *struct {
		WishOn
		Sound bool    `query:"sound" doc:"The sound quad, not the one with the fault."`
		Rate  float64 `query:"rate" minimum:"10" maximum:"2000" default:"500" doc:"Rows a second."`
	}) (*raw, error) {
		var body bytes.Buffer
		err := a.TraceOf(ctx, in.ID, in.wish(), in.Sound, in.Rate, &body)
		return file("rehearsal.csv", "text/csv", body.Bytes(), err)
	})
	huma.Register(h, huma.Operation{
		OperationID: "afterCuts", Method: http.MethodPost, Path: tracesAt + "cuts", Summary: "How a recorded flight, a CSV trace, shakes after its hard throttle cuts",
		RequestBody: &huma.RequestBody{Required: true, Content: map[string]*huma.MediaType{"text/csv": {Schema: &huma.Schema{Type: "string", Format: "binary"}}}},
	}, func(_ context.Context, in *traceBody) (*out[trace.Cuts], error) {
		return answer(trace.AfterCuts(in.rows))
	})
	post(h, "keepRehearsal", "/api/quads/{id}/rehearsal", "Fly the hover card and keep what came of it", func(ctx context.Context, in *OnQuad) (*out[*app.QuadView], error) {
		return answer(a.KeepRehearsal(ctx, in.ID))
	})
	get(h, "motors", "/api/quads/{id}/motors", "The sign table for the quad's layout, and throttle frames against its loop", func(ctx context.Context, in *OnQuad) (*out[*app.MotorsView], error) {
		return answer(a.Motors(ctx, in.ID))
	})
	get(h, "backups", "/api/quads/{id}/backups", "Saved settings lists, newest first", func(ctx context.Context, in *OnQuad) (*out[[]app.BackupView], error) {
		return answer(a.Backups(ctx, in.ID))
	})
	post(h, "saveBoard", "/api/quads/{id}/backups", "Save what is on the board", func(ctx context.Context, in *quadWith[whyBody]) (*out[*app.QuadView], error) {
		return answer(a.SaveBoard(ctx, in.ID, in.Body.Why))
	})
	post(h, "restoreBackup", "/api/quads/{id}/backups/restore", "Put a saved list back on the board, whole or in part", func(ctx context.Context, in *quadWith[backupBody]) (*out[*app.QuadView], error) {
		return answer(a.RestoreBackup(ctx, in.ID, in.Body.Backup, in.Body.Subjects))
	})
	post(h, "writeBoard", "/api/quads/{id}/board/write", "Write the sheet to the board", func(ctx context.Context, in *OnQuad) (*out[*app.QuadView], error) {
		return answer(a.WriteBoard(ctx, in.ID))
	})
	post(h, "writeOutput", "/api/quads/{id}/board/write-output", "Write the sheet to the speed controller of one output", func(ctx context.Context, in *quadWith[outputBody]) (*out[*app.QuadView], error) {
		return answer(a.WriteOutput(ctx, in.ID, in.Body.Output))
	})
	post(h, "checkImage", "/api/quads/{id}/image", "Check an Intel HEX image", func(ctx context.Context, in *quadWith[imageBody]) (*out[*app.ImageView], error) {
		return answer(a.CheckImage(ctx, in.ID, []byte(in.Body.Text)))
	})
	post(h, "flash", "/api/quads/{id}/flash", "Write an image to the board on the bench, or to one of its speed controllers", func(ctx context.Context, in *quadWith[flashBody]) (*out[*app.QuadView], error) {
		return answer(a.Flash(ctx, in.ID, app.FlashAsk{Image: []byte(in.Body.Text), Whole: in.Body.Whole, Output: in.Body.Output}))
	})
}

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

type things struct{ Body protocol.Things }
type stickMove struct{ Body protocol.Stick }
type adjustment struct{ Body protocol.Adjust }

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
	post(h, "setThings", "/api/bench/things", "Plug, fit, switch or tilt", func(ctx context.Context, in *things) (*out[done], error) {
		return onBench(a, func(b *app.Bench) error { return b.Set(ctx, in.Body) })
	})
	post(h, "moveStick", "/api/bench/stick", "Move a stick or a switch", func(ctx context.Context, in *stickMove) (*out[done], error) {
		return onBench(a, func(b *app.Bench) error { return b.Stick(ctx, in.Body) })
	})
	post(h, "adjust", "/api/bench/adjust", "Adjust the radio or the receiver", func(ctx context.Context, in *adjustment) (*out[done], error) {
		return onBench(a, func(b *app.Bench) error { return b.Adjust(ctx, in.Body) })
	})
	get(h, "benchFor", "/api/quads/{id}/bench", "Whether what lies on the bench is the quad's own", func(ctx context.Context, in *OnQuad) (*out[*app.BenchFor], error) {
		return answer(a.BenchFor(ctx, in.ID))
	})
	post(h, "adopt", "/api/quads/{id}/bench/adopt", "Take the board on the bench for the quad's own: its first, or one that replaced it", func(ctx context.Context, in *quadWith[seenBody]) (*out[*app.QuadView], error) {
		return answer(a.Adopt(ctx, in.ID, in.Body.Seen))
	})
	post(h, "level", "/api/quads/{id}/bench/level", "Take the attitude of the quad's board on the bench for level", func(ctx context.Context, in *OnQuad) (*out[done], error) {
		err := a.Level(ctx, in.ID)
		return answer(done{err == nil}, err)
	})
	post(h, "place", "/api/bench/place", "Put another quad on the bench", func(ctx context.Context, in *struct{ Body placeBody }) (*out[done], error) {
		return onBench(a, func(b *app.Bench) error { return b.Place(ctx, in.Body.Quad) })
	})
	post(h, "stopFlash", "/api/bench/flash/stop", "Stop what is being flashed", func(_ context.Context, _ *struct{}) (*out[done], error) {
		return onBench(a, (*app.Bench).StopFlash)
	})
	post(h, "cut", "/api/bench/cut", "Cut the bench power", func(ctx context.Context, _ *struct{}) (*out[done], error) {
		return onBench(a, func(b *app.Bench) error { return b.Cut(ctx) })
	})
}
