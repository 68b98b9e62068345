package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/core/check"
	"vividperch/core/quad"
)

// Bodies of requests about the book.
type (
	// before pages through what gathers.
	before struct {
		OnQuad
		Before int64 `query:"before" minimum:"0" doc:"Number of the last one shown; 0 is the newest page."`
	}
	numbered struct {
		OnQuad
		Number int `path:"number" minimum:"1"`
	}
	eventBody struct {
		Event check.Event `json:"event"`
		Note  string      `json:"note,omitempty" maxLength:"500"`
	}
	flightBody struct {
		Site    string   `json:"site" maxLength:"120"`
		Pack    string   `json:"pack" maxLength:"60"`
		Minutes float64  `json:"minutes" minimum:"0" maximum:"600"`
		Drawn   *float64 `json:"drawn,omitempty" minimum:"0" maximum:"100000"`
		Lowest  *float64 `json:"lowest,omitempty" minimum:"0" maximum:"100"`
		Notes   string   `json:"notes" maxLength:"4000"`
	}
	correctionBody struct {
		Told   flightBody `json:"told" doc:"As it was."`
		Struck bool       `json:"struck,omitempty" doc:"It was no flight of this quad."`
		Why    string     `json:"why" maxLength:"300"`
	}
	correctionOf struct {
		OnQuad
		Flight int64 `path:"flight"`
		Body   correctionBody
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

func (b flightBody) flight() app.Flight {
	return app.Flight{Site: b.Site, Pack: b.Pack, Minutes: b.Minutes, Drawn: b.Drawn, Lowest: b.Lowest, Notes: b.Notes}
}

func bookOperations(h huma.API, a *app.App) {
	get(h, "flights", "/api/quads/{id}/flights", "Flights in the book, newest first", func(ctx context.Context, in *before) (*out[*app.FlightsPage], error) {
		return answer(a.Flights(ctx, in.ID, in.Before))
	})
	get(h, "events", "/api/quads/{id}/events", "What happened to the quad, newest first", func(ctx context.Context, in *before) (*out[*app.EventsPage], error) {
		return answer(a.Events(ctx, in.ID, in.Before))
	})
	post(h, "fly", "/api/quads/{id}/flights", "Note a flight in the book", func(ctx context.Context, in *quadWith[flightBody]) (*out[*app.QuadView], error) {
		return answer(a.Fly(ctx, in.ID, in.Body.flight()))
	})
	post(h, "correctFlight", "/api/quads/{id}/flights/{flight}", "Correct a flight of today, or strike it", func(ctx context.Context, in *correctionOf) (*out[*app.QuadView], error) {
		return answer(a.CorrectFlight(ctx, in.ID, in.Flight, in.Body.Told.flight(), in.Body.Struck, in.Body.Why))
	})
	post(h, "note", "/api/quads/{id}/event", "Note an event that makes readings void", func(ctx context.Context, in *quadWith[eventBody]) (*out[*app.QuadView], error) {
		return answer(a.Note(ctx, in.ID, in.Body.Event, in.Body.Note))
	})
	get(h, "photos", "/api/quads/{id}/photos", "Photos in the book, newest first", func(ctx context.Context, in *OnQuad) (*out[[]app.PhotoView], error) {
		return answer(a.Photos(ctx, in.ID))
	})
	post(h, "addPhoto", "/api/quads/{id}/photos", "Put a photo into the book", func(ctx context.Context, in *quadWith[photoBody]) (*out[[]app.PhotoView], error) {
		return answer(a.AddPhoto(ctx, in.ID, in.Body.Picture, in.Body.Note))
	})
	download(h, "photo", "/api/quads/{id}/photos/{number}", "A photo", "image/jpeg", func(ctx context.Context, in *numbered) (*raw, error) {
		body, err := a.Photo(ctx, in.ID, int64(in.Number))
		return file("photo.jpg", "image/jpeg", body, err)
	})
	get(h, "revisions", "/api/quads/{id}/revisions", "Saved states, newest first", func(ctx context.Context, in *before) (*out[*app.RevisionsPage], error) {
		return answer(a.Revisions(ctx, in.ID, int(in.Before)))
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
	post(h, "tag", "/api/quads/{id}/tag", "Tag a revision", func(ctx context.Context, in *quadWith[tagBody]) (*out[done], error) {
		err := a.Tag(ctx, in.ID, in.Body.Number, in.Body.Tag)
		return answer(done{err == nil}, err)
	})
}
