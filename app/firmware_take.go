package app

import (
	"context"

	"vividperch/bench/protocol"
	"vividperch/core/book"
	"vividperch/core/firmware"
	"vividperch/core/quad"
)

func takeIdentity(ctx context.Context, t *taking) error {
	id, err := t.device.Identify(ctx, "")
	if err != nil {
		return err
	}
	if id.Bootloader {
		return quad.Faultf("in-bootloader", string(t.path), "the board (%s) waits in its bootloader; flash it to go on", id.Target)
	}
	settings, err := t.device.Settings(ctx)
	if err != nil {
		return err
	}
	is := identity(id)
	e, err := t.app.boardRead(t.opened, is, settings)
	if err != nil {
		return err
	}
	mark, err := t.app.markEntry(t.opened, t.device.Welcome().Board)
	if err != nil {
		return err
	}
	t.entries = append(append(t.entries, e), mark...)
	return t.put(t.path, is)
}

// boardRead is the entry of a board that says what it is and gave its settings, which are filled up with what its speed controllers held
// before where they did not answer. Of another firmware than before it remembers what that held.
func (a *App) boardRead(o *opened, is quad.Identity, settings map[string]string) (book.Entry, error) {
	b := boardEntry{Identity: is, Settings: settings, Before: o.before}
	was := o.known.Board
	if was.Is().Same(is) {
		if build, err := firmware.For(was); err == nil {
			build.AddSpeed(settings, was.Settings)
		}
	} else if was.Read() {
		b.Before = &firmware.Before{Is: was.Is(), Settings: was.Settings}
	}
	return a.entry(book.KindBoard, "board", b)
}

func identity(id protocol.Identity) quad.Identity {
	return quad.Identity{Target: id.Target, Line: id.Line, Version: id.Version, Serial: id.Serial}
}

// takeLayout looks at the frame from above.
func takeLayout(_ context.Context, t *taking) error { return t.put(t.path, t.device.Welcome().Layout) }

// takeSpeed asks one speed controller what it is.
func takeSpeed(ctx context.Context, t *taking) error {
	if !t.live.Pack {
		return quad.Faultf("pack-out", string(t.path), "the speed controllers answer only while the pack is in; propellers off")
	}
	id, err := t.device.Identify(ctx, t.key())
	if err != nil {
		return err
	}
	if id.Bootloader {
		return quad.Faultf("in-bootloader", string(t.path), "speed controller %s (%s) waits in its bootloader; flash it to go on", t.key(), id.Target)
	}
	return t.put(t.path, quad.SpeedIdentity{Layout: id.Target, Version: id.Version, Switching: id.Switching, Replies: id.Replies})
}

func takeBackup(ctx context.Context, t *taking) error {
	settings, err := t.device.Settings(ctx)
	if err != nil {
		return err
	}
	id, err := t.device.Identify(ctx, "")
	if err != nil {
		return err
	}
	kept, e, err := t.app.backup(identity(id), settings, t.opened.file.Taught, t.why, nil)
	if err != nil {
		return err
	}
	t.entries = append(t.entries, e)
	return t.put(t.path, kept)
}

// backup of what a board holds, and its row. Text is the list as a pilot brought it in, if one did.
func (a *App) backup(is quad.Identity, settings, taught map[string]string, why string, text []byte) (quad.Backup, book.Entry, error) {
	changed := len(settings)
	if build, err := firmware.For(quad.Board{Line: is.Line, Version: is.Version, Dictionary: taught[is.Line]}); err == nil {
		changed = len(build.Changes(build.Facts.Defaults(), settings))
	}
	kept := quad.Backup{Name: is.Target + " " + is.Line + " " + is.Version + ", " + a.now().Format("2006-01-02 15:04"), Settings: len(settings), Changed: changed, Hash: firmware.Fingerprint(settings)}
	if len(text) > longestText {
		text = nil
	}
	e, err := a.entry(book.KindBackup, kept.Name, backupEntry{boardEntry{Identity: is, Settings: settings}, why, string(text)})
	return kept, e, err
}
