package app

import (
	"context"
	"time"

	"vividperch/core/firmware"
	"vividperch/core/quad"
)

// FirmwareView is what the station of the firmware draws: the board as it was read last, and its speed controllers.
type FirmwareView struct {
	Board BoardView `json:"board"`
	// Controllers are the speed controllers as they were asked; none when they cannot be.
	Controllers []firmware.ControllerState `json:"controllers"`
}

// BoardView is the last read-back.
type BoardView struct {
	Read    bool        `json:"read"`
	Target  string      `json:"target"`
	Line    string      `json:"line"`
	Version string      `json:"version"`
	At      time.Time   `json:"at"`
	Serial  string      `json:"serial"`
	Changes []WriteView `json:"changes"` // what must be written so that it holds the sheet
	// Commands are the changes as lines to type elsewhere, in the shape of the family's own lists; the line that saves comes last, apart.
	Commands string `json:"commands"`
	Hinders  string `json:"hinders"` // why the sheet cannot be written to it, or nothing
}

// WriteView is one setting to be written.
type WriteView struct {
	Name   string `json:"name"`
	Before string `json:"before"`
	After  string `json:"after"`
}

// Firmware of a quad.
func (a *App) Firmware(ctx context.Context, id int64) (*FirmwareView, error) {
	return figures(ctx, a, id, firmwareOf)
}

func firmwareOf(k quad.Known) *FirmwareView {
	b := k.Board
	v := &FirmwareView{
		Board:       BoardView{Read: b.Read(), Target: b.Target, Line: b.Line, Version: b.Version, Serial: b.Serial, At: b.ReadAt},
		Controllers: nonNil(firmware.Controllers(k)),
	}
	v.Board.Changes, v.Board.Hinders = writes(k)
	v.Board.Commands = commands(k, v.Board.Changes)
	return v
}
