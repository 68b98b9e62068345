package app

import (
	"context"
	"encoding/json"
	"time"

	"vividperch/core/book"
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
	Whole    bool   `json:"whole"`   // the list that the board holds was brought in as text, and can be printed with the changes in it
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
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	v := firmwareOf(o.known)
	if len(v.Board.Changes) == 0 {
		return v, nil
	}
	text, err := a.broughtIn(ctx, o)
	v.Board.Whole = text != nil
	return v, err
}

// broughtIn is the text of the list that tells what the board holds now, as the pilot brought it in and saved it; nil where there is none.
func (a *App) broughtIn(ctx context.Context, o *opened) ([]byte, error) {
	saved := o.known.Readings.Firmware.Backup
	if saved == nil || !o.known.Board.Read() || saved.Value.Hash != firmware.Fingerprint(o.known.Board.Settings) {
		return nil, nil
	}
	list, err := a.keep.NewestNamed(ctx, a.pilot, o.file.ID, book.KindBackup, []string{saved.Value.Name})
	if err != nil {
		return nil, err
	}
	for _, e := range list {
		var b backupEntry
		if json.Unmarshal(e.Body, &b) == nil && b.Text != "" && firmware.Fingerprint(b.Settings) == saved.Value.Hash {
			return []byte(b.Text), nil
		}
	}
	return nil, nil
}

// WholeList is the list that the board holds, as it was brought in, with your settings in it: every other line as it was. Its name is that of
// the quad.
func (a *App) WholeList(ctx context.Context, id int64) (name string, text []byte, err error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return "", nil, err
	}
	if text, err = a.broughtIn(ctx, o); err != nil {
		return "", nil, err
	}
	if text == nil {
		return "", nil, quad.Faultf("no-list", "", "no list tells what the board holds now; bring in what it gives, and it is printed back with your settings in it")
	}
	changes, err := toWrite(o.known)
	if err != nil {
		return "", nil, err
	}
	build, err := firmware.For(o.known.Board)
	if err != nil {
		return "", nil, err
	}
	set := map[string]string{}
	for _, c := range changes {
		set[c.Name] = c.After
	}
	text, err = build.EditList(text, set)
	return o.file.Name, text, err
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
