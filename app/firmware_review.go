package app

import (
	"context"
	"encoding/json"
	"fmt"
	"strings"

	"vividperch/core/book"
	"vividperch/core/firmware"
	"vividperch/core/quad"
)

// ReviewAsk names a review: from a saved list to a line and version.
type ReviewAsk struct {
	Backup  int64  `json:"backup"`
	Line    string `json:"line"`
	Version string `json:"version"`
}

// ReviewRow is one setting of a review, with what the pilot decided.
type ReviewRow struct {
	firmware.Row
	Label   string `json:"label"`   // of its place on the sheet, or nothing
	Decided bool   `json:"decided"` // the pilot chose a value, or took note
	Chosen  string `json:"chosen"`  // what it shall be; of a setting that is gone, nothing
}

// ReviewView is a three-way review: what was, what is proposed, and what the pilot decided.
type ReviewView struct {
	ReviewAsk
	From      quad.Identity        `json:"from"`
	SavedAs   string               `json:"savedAs"`
	Step      firmware.VersionStep `json:"step" enum:"same,within,major,back,line"`
	SameBoard bool                 `json:"sameBoard"`
	Rows      []ReviewRow          `json:"rows"`
	Undecided int                  `json:"undecided"`
	Taken     bool                 `json:"taken"` // the sheet says all of it already
	With      []string             `json:"with"`
}

// choiceEntry is how one decision is kept; its name is the review's and the setting's.
type choiceEntry struct {
	Value *string `json:"value"` // nothing takes the decision back
}

type review struct {
	view   ReviewView
	build  *firmware.Build
	key    string // of its decisions: by what was saved, not by the number of its row, so that it goes along with an archive
	rows   []firmware.Row
	chosen map[string]string
	sheet  quad.Sheet // what comes of it
}

func (a *App) review(ctx context.Context, o *opened, ask ReviewAsk) (*review, error) {
	e, err := a.keep.Entry(ctx, a.pilot, o.file.ID, ask.Backup)
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
	if ask.Line == "" {
		is := boardOf(o.known)
		ask.Line, ask.Version = is.Line, is.Version
	}
	r := &review{view: ReviewView{ReviewAsk: ask, From: saved.Identity, SavedAs: e.Name, With: []string{}, Rows: []ReviewRow{}}}
	v := &r.view
	v.SameBoard = saved.SameBoard(o.known.Board.Is())
	v.Step = firmware.StepBetween(saved.Line, saved.Version, ask.Line, ask.Version)
	if r.build, err = firmware.For(quad.Board{Line: ask.Line, Version: ask.Version, Dictionary: o.file.Taught[ask.Line]}); err != nil {
		return nil, err
	}
	if v.Step == firmware.Back || v.Step == firmware.Other {
		from, err := firmware.For(saved.board(o.file.Taught, e.At))
		if err != nil {
			return nil, err
		}
		r.rows, err = firmware.Across(from, r.build, o.known.Sheet, saved.Settings)
		if err != nil {
			return nil, err
		}
	} else if r.rows, err = r.build.Line.Carry(saved.Version, ask.Version, saved.Settings, v.SameBoard); err != nil {
		return nil, err
	}
	r.key = fmt.Sprintf("%s %s %s to %s %s ", firmware.Fingerprint(saved.Settings), saved.Line, saved.Version, ask.Line, ask.Version)
	if r.chosen, err = a.choices(ctx, o.file.ID, r.key); err != nil {
		return nil, err
	}
	for _, row := range r.rows {
		name := choiceName(row)
		one := ReviewRow{Row: row, Chosen: row.Proposal}
		one.Paths = nonNil(row.Paths)
		if own, ok := r.chosen[name]; ok {
			one.Decided = true
			if row.Name != "" {
				one.Chosen = own
			}
		}
		if len(row.Paths) > 0 {
			if f, err := quad.FieldAt(row.Paths[0]); err == nil {
				one.Label = f.Label
				if len(row.Paths) > 1 {
					one.Label, _, _ = strings.Cut(f.Label, ", ") // what all of them begin with
				}
			}
		}
		if row.Decide && !one.Decided {
			v.Undecided++
		}
		v.Rows = append(v.Rows, one)
	}
	held := map[string]string{}
	if o.known.Board.Line == ask.Line && o.known.Board.Version == ask.Version {
		held = o.known.Board.Settings
	}
	if r.sheet, err = r.build.Take(o.known.Sheet, r.rows, r.chosen, held); err != nil {
		return nil, err
	}
	meant := o.known.Meant()
	meant.Sheet = r.sheet
	v.Taken = len(quad.Changes(o.known.Meant(), meant)) == 0
	return r, nil
}

// choiceName of a row: the setting's own, or that of one that is gone.
func choiceName(row firmware.Row) string {
	if row.Name == "" {
		return "gone " + row.Was
	}
	return row.Name
}

func (a *App) choices(ctx context.Context, id int64, key string) (map[string]string, error) {
	list, err := a.keep.NewestOf(ctx, a.pilot, id, book.KindChoice, key)
	if err != nil {
		return nil, err
	}
	out := map[string]string{}
	for _, e := range list {
		var c choiceEntry
		if err := json.Unmarshal(e.Body, &c); err != nil {
			return nil, err
		}
		if c.Value != nil {
			out[strings.TrimPrefix(e.Name, key)] = *c.Value
		}
	}
	return out, nil
}

// Review shows how the settings of a saved list go along to what the board runs, or to what is asked for.
func (a *App) Review(ctx context.Context, id int64, ask ReviewAsk) (*ReviewView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	r, err := a.review(ctx, o, ask)
	if err != nil {
		return nil, err
	}
	return &r.view, nil
}

// Choose decides one or several settings of a review: the value that each shall have, an empty one for what is gone, nothing to take the
// decision back. All of them or none.
func (a *App) Choose(ctx context.Context, id int64, ask ReviewAsk, choices map[string]*string) (*ReviewView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	r, err := a.review(ctx, o, ask)
	if err != nil {
		return nil, err
	}
	rows := map[string]firmware.Row{}
	for _, row := range r.rows {
		rows[choiceName(row)] = row
	}
	var c book.Change
	for _, name := range quad.SortedKeys(choices) {
		row, ok := rows[name]
		if !ok {
			return nil, quad.Faultf("unknown-setting", name, "is not in this review")
		}
		value := choices[name]
		if value != nil && row.Name != "" {
			raw, err := r.build.Facts.Find(row.Name).Canonical(strings.TrimSpace(*value))
			if err != nil {
				return nil, err
			}
			value = &raw
		}
		e, err := a.entry(book.KindChoice, r.key+name, choiceEntry{value})
		if err != nil {
			return nil, err
		}
		c.Entries = append(c.Entries, e)
	}
	if err := a.write(ctx, id, c); err != nil {
		return nil, err
	}
	return a.Review(ctx, id, ask)
}

// TakeReview puts a review's outcome on the sheet, in one act that can be undone. It is refused while something that
// the pilot must look at is undecided. Writing it to the board is another act.
func (a *App) TakeReview(ctx context.Context, id, version int64, ask ReviewAsk) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	r, err := a.review(ctx, o, ask)
	if err != nil {
		return nil, err
	}
	if n := r.view.Undecided; n > 0 {
		return nil, quad.Faultf("undecided", "", "%s still to be decided", quad.Count(n, "setting is", "settings are"))
	}
	return a.takeSheet(ctx, o, version, r.sheet)
}

// takeSheet makes the draft say what a sheet says, in one act.
func (a *App) takeSheet(ctx context.Context, o *opened, version int64, s quad.Sheet) (*QuadView, error) {
	meant := o.known.Meant()
	meant.Sheet = s
	return a.takeMeant(ctx, o, version, meant)
}
