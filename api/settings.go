package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/core/firmware"
	"vividperch/core/quad"
)

// Bodies of requests about settings lists, reviews and dictionaries.
type (
	// ReviewTo names a review.
	ReviewTo struct {
		Backup  int64  `json:"backup" minimum:"1"`
		Line    string `json:"line,omitempty" maxLength:"16" doc:"Where to; empty is what the board runs."`
		Version string `json:"version,omitempty" maxLength:"20"`
	}
	chooseBody struct {
		ReviewTo
		Choices map[string]*string `json:"choices" doc:"Raw value by setting; nothing takes the decision back."`
	}
	takeReviewBody struct {
		ReviewTo
		Draft int64 `json:"draft" doc:"Version of the quad that the pilot saw."`
	}
	takeListBody struct {
		Text     string `json:"text" maxLength:"2000000"`
		Version  int64  `json:"version"`
		LeaveOut bool   `json:"leaveOut,omitempty" doc:"Leave out the lines that do not fit."`
	}
	keepListBody struct {
		Text    string `json:"text" maxLength:"2000000"`
		Target  string `json:"target,omitempty" maxLength:"20"`
		Line    string `json:"line,omitempty" maxLength:"16"`
		Version string `json:"version,omitempty" maxLength:"20"`
		Why     string `json:"why,omitempty" maxLength:"200"`
	}
	lessonBody struct {
		Line      string         `json:"line" maxLength:"16"`
		Version   string         `json:"version" maxLength:"20"`
		Separator string         `json:"separator,omitempty" maxLength:"1"`
		List      string         `json:"list" maxLength:"1000000"`
		Entries   []mappingEntry `json:"entries" maxItems:"2000"`
	}
	mappingEntry struct {
		Kind     firmware.EntryKind `json:"kind" enum:"scalar,enumeration,bits,list,record,several"`
		Setting  string             `json:"setting" maxLength:"80"`
		Fraction string             `json:"fraction,omitempty" maxLength:"80"`
		Path     string             `json:"path,omitempty" maxLength:"120"`
		Factor   float64            `json:"factor,omitempty"`
		Offset   float64            `json:"offset,omitempty"`
		Words    map[string]string  `json:"words,omitempty"`
		Paths    []string           `json:"paths,omitempty" maxItems:"64"`
		Fields   []mappingField     `json:"fields,omitempty" maxItems:"64"`
	}
	mappingField struct {
		Path   string  `json:"path" maxLength:"120"`
		Factor float64 `json:"factor,omitempty"`
		Offset float64 `json:"offset,omitempty"`
	}
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
	teachBody struct {
		Version int64  `json:"version" doc:"Of the dictionary that the pilot saw; 0 is a new one."`
		File    string `json:"file" maxLength:"500000"`
	}
	forgetBody struct {
		Version int64  `json:"version"`
		Line    string `json:"line" maxLength:"16"`
	}
)

func (b ReviewTo) ask() app.ReviewAsk {
	return app.ReviewAsk{Backup: b.Backup, Line: b.Line, Version: b.Version}
}

func (b lessonBody) ask() app.TeachAsk {
	ask := app.TeachAsk{Line: b.Line, Version: b.Version, Separator: b.Separator, List: b.List}
	for _, e := range b.Entries {
		one := firmware.Entry{Kind: e.Kind, Setting: e.Setting, Fraction: e.Fraction, Path: quad.Path(e.Path), Factor: e.Factor, Offset: e.Offset, Words: e.Words}
		for _, p := range e.Paths {
			one.Paths = append(one.Paths, quad.Path(p))
		}
		for _, f := range e.Fields {
			one.Fields = append(one.Fields, firmware.Field{Path: quad.Path(f.Path), Factor: f.Factor, Offset: f.Offset})
		}
		ask.Entries = append(ask.Entries, one)
	}
	return ask
}

func settingsOperations(h huma.API, a *app.App) {
	post(h, "readList", "/api/quads/{id}/list", "Take a settings list as the board's read-back", func(ctx context.Context, in *quadWith[imageBody]) (*out[*app.QuadView], error) {
		return answer(a.ReadList(ctx, in.ID, []byte(in.Body.Text)))
	})
	post(h, "reviewList", "/api/quads/{id}/list/review", "Read a settings list whole against the board, and take nothing", func(ctx context.Context, in *quadWith[imageBody]) (*out[*app.ListView], error) {
		return answer(a.ReviewList(ctx, in.ID, []byte(in.Body.Text)))
	})
	post(h, "takeList", "/api/quads/{id}/list/take", "Put a settings list on the sheet", func(ctx context.Context, in *quadWith[takeListBody]) (*out[*app.QuadView], error) {
		return answer(a.TakeList(ctx, in.ID, in.Body.Version, []byte(in.Body.Text), in.Body.LeaveOut))
	})
	post(h, "keepList", "/api/quads/{id}/list/keep", "Save a settings list beside those saved from the board", func(ctx context.Context, in *quadWith[keepListBody]) (*out[*app.QuadView], error) {
		is := quad.Identity{Target: in.Body.Target, Line: in.Body.Line, Version: in.Body.Version}
		return answer(a.KeepList(ctx, in.ID, []byte(in.Body.Text), is, in.Body.Why))
	})
	post(h, "review", "/api/quads/{id}/review", "How the settings of a saved list go along", func(ctx context.Context, in *quadWith[ReviewTo]) (*out[*app.ReviewView], error) {
		return answer(a.Review(ctx, in.ID, in.Body.ask()))
	})
	post(h, "choose", "/api/quads/{id}/review/choose", "Decide settings of a review", func(ctx context.Context, in *quadWith[chooseBody]) (*out[*app.ReviewView], error) {
		return answer(a.Choose(ctx, in.ID, in.Body.ask(), in.Body.Choices))
	})
	post(h, "takeReview", "/api/quads/{id}/review/take", "Put a review's outcome on the sheet", func(ctx context.Context, in *quadWith[takeReviewBody]) (*out[*app.QuadView], error) {
		return answer(a.TakeReview(ctx, in.ID, in.Body.Draft, in.Body.ask()))
	})
	get(h, "planWiring", "/api/quads/{id}/wiring", "The way to wire the quad that moves the fewest devices", func(ctx context.Context, in *OnQuad) (*out[*app.PlanView], error) {
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
	get(h, "dictionaries", "/api/dictionaries", "Firmware lines that are known or taught", func(ctx context.Context, _ *struct{}) (*out[[]app.DictionaryView], error) {
		return answer(a.Dictionaries(ctx))
	})
	post(h, "lesson", "/api/quads/{id}/lesson", "What a lesson about an unknown line would become", func(ctx context.Context, in *quadWith[lessonBody]) (*out[*app.TeachView], error) {
		return answer(a.Lesson(ctx, in.ID, in.Body.ask()))
	})
	post(h, "teach", "/api/dictionaries", "Keep a dictionary", func(ctx context.Context, in *struct{ Body teachBody }) (*out[[]app.DictionaryView], error) {
		return answer(a.Teach(ctx, in.Body.Version, in.Body.File))
	})
	post(h, "forget", "/api/dictionaries/forget", "Take a taught dictionary away", func(ctx context.Context, in *struct{ Body forgetBody }) (*out[[]app.DictionaryView], error) {
		return answer(a.Forget(ctx, in.Body.Version, in.Body.Line))
	})
}
