package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/core/firmware"
	"vividperch/core/quad"
)

// Bodies of requests about dictionaries.
type (
	lessonBody struct {
		Line      string                       `json:"line" maxLength:"16"`
		Version   string                       `json:"version" maxLength:"20"`
		Separator string                       `json:"separator,omitempty" maxLength:"1"`
		List      string                       `json:"list" maxLength:"2000000"`
		Shape     string                       `json:"shape,omitempty" maxLength:"8000" doc:"How its lines look, as the shape of a dictionary file; the usual one, or a guess, where it is left out."`
		Entries   []mappingEntry               `json:"entries" maxItems:"2000"`
		Bound     map[string]firmware.Measured `json:"bound,omitempty" maxProperties:"2000" doc:"Settings that are measured on this very board, each with what gives them: level, gyro, compass, volts, current."`
	}
	mappingEntry struct {
		Kind     firmware.EntryKind `json:"kind" enum:"scalar,enumeration,bits,list,record,several,table"`
		Setting  string             `json:"setting" maxLength:"80"`
		Fraction string             `json:"fraction,omitempty" maxLength:"80"`
		Path     string             `json:"path,omitempty" maxLength:"120"`
		Factor   float64            `json:"factor,omitempty"`
		Offset   float64            `json:"offset,omitempty"`
		Per      float64            `json:"per,omitempty"`
		Table    map[string][]any   `json:"table,omitempty"`
		Words    map[string]string  `json:"words,omitempty"`
		Paths    []string           `json:"paths,omitempty" maxItems:"64"`
		Fields   []mappingField     `json:"fields,omitempty" maxItems:"64"`
	}
	mappingField struct {
		Path   string  `json:"path" maxLength:"120"`
		Factor float64 `json:"factor,omitempty"`
		Offset float64 `json:"offset,omitempty"`
		Per    float64 `json:"per,omitempty"`
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

func (b lessonBody) ask() app.TeachAsk {
	ask := app.TeachAsk{Line: b.Line, Version: b.Version, Separator: b.Separator, List: b.List, Shape: b.Shape, Bound: b.Bound}
	for _, e := range b.Entries {
		one := firmware.Entry{Kind: e.Kind, Setting: e.Setting, Fraction: e.Fraction, Path: quad.Path(e.Path), Factor: e.Factor, Offset: e.Offset, Per: e.Per, Table: e.Table, Words: e.Words}
		for _, p := range e.Paths {
			one.Paths = append(one.Paths, quad.Path(p))
		}
		for _, f := range e.Fields {
			one.Fields = append(one.Fields, firmware.Field{Path: quad.Path(f.Path), Factor: f.Factor, Offset: f.Offset, Per: f.Per})
		}
		ask.Entries = append(ask.Entries, one)
	}
	return ask
}

func dictionaryOperations(h huma.API, a *app.App) {
	get(h, "dictionaries", "/api/dictionaries", "Firmware families that are known or taught", func(ctx context.Context, _ *struct{}) (*out[[]app.DictionaryView], error) {
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
