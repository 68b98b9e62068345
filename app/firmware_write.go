package app

import (
	"context"
	"fmt"
	"maps"
	"slices"
	"strings"

	"vividperch/core/firmware"
	"vividperch/core/quad"
)

var errNothingToWrite = quad.Faultf("nothing-to-write", "board", "the board holds all of it already")

// toWrite lists what must be written so that the board holds the sheet.
func toWrite(k quad.Known) ([]firmware.Change, error) {
	if !k.Board.Read() {
		return nil, quad.Faultf("no-board", "board", "read the board first")
	}
	build, err := firmware.For(k.Board)
	if err != nil {
		return nil, err
	}
	want, err := build.Dictionary.Encode(k.Sheet, k.Board.Settings)
	if err != nil {
		return nil, err
	}
	return build.Changes(k.Board.Settings, want), nil
}

// WriteBoard writes the sheet's differences to the board, reads everything back and compares raw. What is on the board
// is saved before, and the sheet becomes a revision.
func (a *App) WriteBoard(ctx context.Context, id int64) (*QuadView, error) {
	return a.writeSheet(ctx, id, "before writing the sheet", func(*firmware.Build, firmware.Change) bool { return true })
}

// WriteOutput writes what the sheet has for the speed controller of one output, and nothing else: its settings are saved before, and
// read back after.
func (a *App) WriteOutput(ctx context.Context, id int64, output string) (*QuadView, error) {
	return a.writeSheet(ctx, id, "before writing the speed controller of output "+output, func(build *firmware.Build, c firmware.Change) bool {
		return build.SpeedOf(c.Name) == output
	})
}

// writeSheet writes those of the sheet's changes that are wanted.
func (a *App) writeSheet(ctx context.Context, id int64, why string, wanted func(*firmware.Build, firmware.Change) bool) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	return a.writing(ctx, id, o, why, func(build *firmware.Build, now quad.Board) ([]firmware.Change, error) {
		k := o.known
		k.Board.Settings = maps.Clone(now.Settings)
		build.AddSpeed(k.Board.Settings, o.known.Board.Settings)
		changes, err := toWrite(k)
		if err != nil {
			return nil, err
		}
		changes = slices.DeleteFunc(changes, func(c firmware.Change) bool { return !wanted(build, c) })
		if len(changes) == 0 {
			return nil, errNothingToWrite
		}
		return changes, nil
	})
}

// writes tells what would be written, or why that cannot be said.
func writes(k quad.Known) ([]WriteView, string) {
	out := []WriteView{}
	changes, err := toWrite(k)
	if err != nil {
		if !k.Board.Read() {
			return out, ""
		}
		return out, fmt.Sprintf("Your settings cannot be written to %s %s: %s", k.Board.Line, k.Board.Version, quad.Explain(err))
	}
	for _, c := range changes {
		out = append(out, WriteView(c))
	}
	return out, ""
}

func changesOf(list []WriteView) []firmware.Change {
	out := make([]firmware.Change, len(list))
	for i, c := range list {
		out[i] = firmware.Change(c)
	}
	return out
}

// commands are changes as lines to type, or nothing where the family could not write one of them.
func commands(k quad.Known, changes []WriteView) string {
	build, err := firmware.For(k.Board)
	if err != nil || len(changes) == 0 {
		return ""
	}
	lines, err := build.Commands(changesOf(changes))
	if err != nil {
		return ""
	}
	if build.Line.Shape == nil {
		lines = append(lines, "", "save")
	}
	return strings.Join(lines, "\n") + "\n"
}
