package app

import (
	"context"
	"encoding/json"
	"slices"
	"strings"
	"time"

	"vividperch/bench/client"
	"vividperch/core/book"
	"vividperch/core/firmware"
	"vividperch/core/quad"
)

// BackupView is one saved settings list, whole and as what differs from the line's defaults.
type BackupView struct {
	ID   int64     `json:"id"`
	Name string    `json:"name"`
	Why  string    `json:"why"` // the pilot's words, or what it was saved before
	At   time.Time `json:"at"`
	quad.Identity
	Fingerprint string `json:"fingerprint"`
	Settings    int    `json:"settings"`
	Own         int    `json:"own"` // of these that differ from the defaults; all of them for a line whose defaults are not known
	All         string `json:"all"`
	Changed     string `json:"changed"` // the same as All for a line whose defaults are not known
	// Step from it to what the board runs now, and whether it can be put back as it is.
	Step     firmware.VersionStep `json:"step" enum:"same,within,major,back,line"`
	Subjects []string             `json:"subjects"` // in which it can be put back in part
}

// backupEntry is how a saved settings list is kept.
type backupEntry struct {
	boardEntry
	Why string `json:"why,omitempty"`
	// Text of the list as a pilot brought it in, so that it can be printed back as it was; up to longestText.
	Text string `json:"text,omitempty"`
}

// longestText of a list that is kept as it was brought in, bytes; of a longer one only its settings are.
const longestText = 300_000

// BackupsPage is a page of the saved settings lists, newest first.
type BackupsPage struct {
	Backups []BackupView `json:"backups"`
	More    bool         `json:"more"`
}

// Backups of a quad's board before the one of that number, newest first; before 0 stands for the newest.
func (a *App) Backups(ctx context.Context, id, before int64) (*BackupsPage, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	list, err := a.keep.Entries(ctx, a.pilot, id, book.KindBackup, before, pageLength+1)
	if err != nil {
		return nil, err
	}
	list, more := page(list)
	out := &BackupsPage{Backups: make([]BackupView, len(list)), More: more}
	for i, e := range list {
		if out.Backups[i], _, err = readBackup(o, e); err != nil {
			return nil, err
		}
	}
	return out, nil
}

func readBackup(o *opened, e book.Entry) (BackupView, backupEntry, error) {
	var b backupEntry
	if err := json.Unmarshal(e.Body, &b); err != nil {
		return BackupView{}, b, err
	}
	v := BackupView{ID: e.ID, Name: e.Name, Why: b.Why, At: e.At, Identity: b.Identity, Fingerprint: firmware.Fingerprint(b.Settings), Settings: len(b.Settings), Subjects: []string{}}
	v.All = string(firmware.Headed(b.Identity, firmware.WriteList(b.Settings, nil)))
	v.Own, v.Changed, v.Step = len(b.Settings), v.All, firmware.StepBetween(b.Line, b.Version, o.known.Board.Line, o.known.Board.Version)
	build, err := firmware.For(b.board(o.file.Taught, e.At))
	if err != nil {
		return v, b, nil
	}
	v.Changed = string(firmware.Headed(b.Identity, firmware.WriteList(b.Settings, build.Facts.Defaults())))
	v.Own = len(build.Changes(build.Facts.Defaults(), b.Settings))
	for name := range b.Settings {
		if s := build.Facts.Find(name); s != nil && !slices.Contains(v.Subjects, s.Subject) {
			v.Subjects = append(v.Subjects, s.Subject)
		}
	}
	slices.Sort(v.Subjects)
	return v, b, nil
}

// SaveBoard saves what is on the board, under the pilot's own words.
func (a *App) SaveBoard(ctx context.Context, id int64, why string) (*QuadView, error) {
	why = strings.TrimSpace(why)
	if quad.Longer(why, 120) {
		return nil, quad.Faultf("too-long", "why", "a few words: up to 120 characters")
	}
	b, err := a.Bench()
	if err != nil {
		return nil, err
	}
	done, err := b.turn(ctx, "board", queue)
	if err != nil {
		return nil, err
	}
	defer done()
	if err := a.saveBoard(ctx, b, id, why); err != nil {
		return nil, err
	}
	return a.Quad(ctx, id)
}

// saveBoard saves what the board on the bench holds, with the reading that says so, before anything else happens to
// it. The caller holds the bench.
func (a *App) saveBoard(ctx context.Context, b *Bench, id int64, why string) error {
	t, err := a.taking(ctx, b, id, "readings.firmware.backup")
	if err != nil {
		return err
	}
	t.why = why
	if err := takeBackup(ctx, t); err != nil {
		return err
	}
	if err := b.holds(t.device); err != nil {
		return err
	}
	return a.keepWith(ctx, id, "reading", t.entries, t.readings...)
}

// RestoreBackup puts a saved list back on the board, whole or only some of its subjects: for a board of the same target and
// line within one major version. What was measured goes back to the very board only. What is on the board is saved
// before; everything is read back and compared.
func (a *App) RestoreBackup(ctx context.Context, id, entry int64, subjects []string) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	e, err := a.keep.Entry(ctx, a.pilot, id, entry)
	if err != nil {
		return nil, err
	}
	if e.Kind != book.KindBackup {
		return nil, book.ErrNoEntry
	}
	_, saved, err := readBackup(o, e)
	if err != nil {
		return nil, err
	}
	return a.writing(ctx, id, o, "before putting back "+e.Name, func(build *firmware.Build, now quad.Board) ([]firmware.Change, error) {
		switch step := firmware.StepBetween(saved.Line, saved.Version, now.Line, now.Version); {
		case saved.Target != now.Target:
			return nil, quad.Faultf("other-board", "board", "it was saved from a %s, the board is a %s; what names pins means others here", saved.Target, now.Target)
		case step != firmware.SameVersion && step != firmware.Within:
			return nil, quad.Faultf("other-version", "board", "it was saved from %s %s, the board runs %s %s, where the same figures mean other things; carry it over setting by setting", saved.Line, saved.Version, now.Line, now.Version)
		}
		want := map[string]string{}
		for name, raw := range saved.Settings {
			s := build.Facts.Find(name)
			if s == nil || len(subjects) > 0 && !slices.Contains(subjects, s.Subject) || s.Bound != "" && !saved.SameBoard(now.Is()) {
				continue
			}
			if _, held := now.Settings[name]; s.Speed && !held {
				return nil, quad.Faultf("pack-out", name, "the speed controllers' settings are among these, and they answer only while the pack is in")
			}
			want[name] = raw
		}
		changes := build.Changes(now.Settings, want)
		if len(changes) == 0 {
			return nil, errNothingToWrite
		}
		return changes, nil
	})
}

// writing to the board: what it is and holds is asked anew, saved, changed as decide says, read back and compared raw.
// Whatever the board holds then is kept, also when a write was refused half way.
func (a *App) writing(ctx context.Context, id int64, o *opened, why string, decide func(*firmware.Build, quad.Board) ([]firmware.Change, error)) (*QuadView, error) {
	b, err := a.Bench()
	if err != nil {
		return nil, err
	}
	done, err := b.turn(ctx, "board", queue)
	if err != nil {
		return nil, err
	}
	defer done()
	d, err := a.own(ctx, b, o)
	if err != nil {
		return nil, err
	}
	is, err := d.Identify(ctx, "")
	if err != nil {
		return nil, err
	}
	if is.Bootloader || !identity(is).Same(o.known.Board.Is()) {
		return nil, quad.Faultf("other-board", "board", "the board on the bench is not the one that was read back; identify it first")
	}
	now := o.known.Board
	if now.Settings, err = d.Settings(ctx); err != nil {
		return nil, err
	}
	build, err := firmware.For(now)
	if err != nil {
		return nil, err
	}
	changes, err := decide(build, now)
	if err != nil {
		return nil, err
	}
	if err := a.saveBoard(ctx, b, id, why); err != nil {
		return nil, err
	}
	if err := b.holds(d); err != nil {
		return nil, err
	}
	failed := writeAll(ctx, d, changes)
	after, err := d.Settings(ctx)
	if err != nil {
		if failed != nil {
			err = failed // the first thing that went wrong tells more
		}
		return nil, err
	}
	if o, err = a.open(ctx, id); err != nil { // saving may have made a revision
		return nil, err
	}
	build.AddSpeed(after, o.known.Board.Settings)
	var c book.Change
	if _, err := a.settle(o, &c, "before writing to the board"); err != nil {
		return nil, err
	}
	e, err := a.entry(book.KindBoard, "board", boardEntry{Identity: identity(is), Settings: after, Before: o.before})
	if err != nil {
		return nil, err
	}
	c.Entries = []book.Entry{e}
	v, err := a.draft(ctx, id, c)
	if err == nil {
		err = failed
	}
	for _, w := range changes {
		if err == nil && after[w.Name] != w.After {
			err = quad.Faultf("not-written", w.Name, "the board still holds %s after %s was written", after[w.Name], w.After)
		}
	}
	if err != nil {
		return nil, err
	}
	return v, nil
}

// writeAll changes one after the other; the first that is refused ends it and is named.
func writeAll(ctx context.Context, d *client.Device, changes []firmware.Change) error {
	for i, c := range changes {
		if err := d.Write(ctx, c.Name, c.After); err != nil {
			f := quad.AsFault(err)
			return quad.Faultf(f.Code, c.Name, "%s; %d of %d settings were written before", f.Sentence, i, len(changes))
		}
	}
	return nil
}
