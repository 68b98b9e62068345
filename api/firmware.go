package api

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"vividperch/app"
	"vividperch/core/quad"
)

// Bodies of requests about the firmware.
type (
	imageBody struct {
		Text string `json:"text" maxLength:"2000000"`
	}
	flashBody struct {
		Text   string `json:"text" maxLength:"2000000"`
		Whole  bool   `json:"whole,omitempty" doc:"Erase the settings along with the program."`
		Output string `json:"output,omitempty" maxLength:"8" doc:"Whose speed controller; empty is the board."`
	}
	whyBody struct {
		Why string `json:"why" maxLength:"200"`
	}
	backupBody struct {
		Backup   int64    `json:"backup" minimum:"1"`
		Subjects []string `json:"subjects,omitempty" maxItems:"40" doc:"What to put back; none is all of it."`
	}
	outputBody struct {
		Output string `json:"output" maxLength:"4"`
	}
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
)

func (b ReviewTo) ask() app.ReviewAsk {
	return app.ReviewAsk{Backup: b.Backup, Line: b.Line, Version: b.Version}
}

func firmwareOperations(h huma.API, a *app.App) {
	get(h, "firmware", "/api/quads/{id}/firmware", "The board as it was read last, and the speed controllers", func(ctx context.Context, in *OnQuad) (*out[*app.FirmwareView], error) {
		return answer(a.Firmware(ctx, in.ID))
	})
	get(h, "backups", "/api/quads/{id}/backups", "Saved settings lists, newest first", func(ctx context.Context, in *before) (*out[*app.BackupsPage], error) {
		return answer(a.Backups(ctx, in.ID, in.Before))
	})
	post(h, "saveBoard", "/api/quads/{id}/backups", "Save what is on the board", func(ctx context.Context, in *quadWith[whyBody]) (*out[*app.QuadView], error) {
		return answer(a.SaveBoard(ctx, in.ID, in.Body.Why))
	})
	post(h, "restoreBackup", "/api/quads/{id}/backups/restore", "Put a saved list back on the board, whole or in part", func(ctx context.Context, in *quadWith[backupBody]) (*out[*app.QuadView], error) {
		return answer(a.RestoreBackup(ctx, in.ID, in.Body.Backup, in.Body.Subjects))
	})
	post(h, "writeBoard", "/api/quads/{id}/board/write", "Write your settings to the board", func(ctx context.Context, in *OnQuad) (*out[*app.QuadView], error) {
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
	post(h, "stopFlash", "/api/bench/flash/stop", "Stop what is being flashed", func(_ context.Context, _ *struct{}) (*out[done], error) {
		return onBench(a, (*app.Bench).StopFlash)
	})
	post(h, "readList", "/api/quads/{id}/list", "Take a settings list as the board's read-back", func(ctx context.Context, in *quadWith[imageBody]) (*out[*app.QuadView], error) {
		return answer(a.ReadList(ctx, in.ID, []byte(in.Body.Text), true))
	})
	download(h, "wholeList", "/api/quads/{id}/list/whole", "The list that the board holds, as it was brought in, with your settings in it", "text/plain", func(ctx context.Context, in *OnQuad) (*raw, error) {
		name, body, err := a.WholeList(ctx, in.ID)
		return file(name+".list.txt", "text/plain; charset=utf-8", body, err)
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
}
