package store

import (
	"bytes"
	"context"
	"errors"
	"slices"
	"strconv"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"vividperch/core/book"
	"vividperch/core/quad"
)

// Whole gives everything that is kept of a quad, in one consistent read.
func (s *Store) Whole(ctx context.Context, pilot, id int64) (_ book.Whole, err error) {
	defer away(&err)
	var w book.Whole
	err = s.whole(ctx, func(tx *gorm.DB) error {
		var row quadRow
		if err := tx.Where("pilot_id = ? AND id = ?", pilot, id).Take(&row).Error; err != nil {
			return missing(err)
		}
		q, err := row.quad()
		if err != nil {
			return err
		}
		var saved []revisionRow
		if err := tx.Where("quad_id = ?", id).Order("number").Find(&saved).Error; err != nil {
			return err
		}
		var rows []entryRow
		if err := tx.Where("quad_id = ?", id).Order("id").Find(&rows).Error; err != nil {
			return err
		}
		w = book.Whole{Quad: q, Made: row.CreatedAt, Revisions: revisions(saved), Entries: entries(rows)}
		taught, err := dictionaries(tx, pilot)
		w.Taught = usedBy(w, taught)
		return err
	}, snapshot)
	return w, err
}

// usedBy picks the dictionaries whose line is named in the quad.
func usedBy(w book.Whole, taught []dictionaryRow) map[string]string {
	out := map[string]string{}
	for _, d := range taught {
		named := []byte(strconv.Quote(d.Line))
		used := false
		for _, r := range w.Revisions {
			used = used || bytes.Contains(r.Body, named)
		}
		for _, e := range w.Entries {
			used = used || bytes.Contains(e.Body, named)
		}
		if used {
			out[d.Line] = d.Body
		}
	}
	return out
}

// Bring puts a whole quad in, all of it or nothing, and gives its number. The numbers it had elsewhere do
// not count. Its dictionaries come along for the lines that the pilot has not taught himself, its packs
// under the names that he has no pack of.
func (s *Store) Bring(ctx context.Context, pilot int64, w book.Whole) (_ int64, err error) {
	defer away(&err)
	var id int64
	err = s.whole(ctx, func(tx *gorm.DB) error {
		row := quadRow{PilotID: pilot, Name: w.Name, Words: w.Words, Head: w.Head, Edits: asList(w.Edits), Undone: asList(w.Undone), Version: 1, CreatedAt: w.Made.UTC()}
		if err := tx.Create(&row).Error; err != nil {
			if errors.Is(err, gorm.ErrDuplicatedKey) {
				return quad.Faultf("name-taken", "name", "you have a quad of that name")
			}
			return err
		}
		id = row.ID
		for _, r := range w.Revisions {
			if err := tx.Create(revisionOf(pilot, id, r)).Error; err != nil {
				return err
			}
		}
		for line, body := range w.Taught {
			if err := tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&dictionaryRow{PilotID: pilot, Line: line, Body: body, Version: 1, ChangedAt: now()}).Error; err != nil {
				return err
			}
		}
		if err := adoptPacks(tx, pilot, w.Packs); err != nil {
			return err
		}
		rows := make([]entryRow, len(w.Entries))
		for i, e := range w.Entries {
			rows[i] = entryOf(pilot, id, e)
		}
		if len(rows) == 0 {
			return nil
		}
		if err := tx.CreateInBatches(rows, 100).Error; err != nil {
			return err
		}
		for _, r := range rows {
			row.count(r)
		}
		// The draft is what was done last, whatever numbers the book had where it comes from.
		row.Edits, row.Undone = asList(since(w.Edits, row.Last)), asList(since(w.Undone, row.Last))
		return tx.Save(&row).Error
	})
	return id, err
}

// since gives edits as made after the entry of that number.
func since(edits []quad.Edit, last int64) []quad.Edit {
	out := slices.Clone(edits)
	for i := range out {
		out[i].Since = last
	}
	return out
}

func entryOf(pilot, id int64, e book.Entry) entryRow {
	return entryRow{PilotID: pilot, QuadID: id, Kind: e.Kind, Name: e.Name, Body: string(e.Body), At: e.At.UTC()}
}

// Wants of a pilot, as JSON, and their version.
func (s *Store) Wants(ctx context.Context, pilot int64) (wants []byte, version int64, err error) {
	defer away(&err)
	var row pilotRow
	err = s.db.WithContext(ctx).Take(&row, pilot).Error
	return []byte(row.Wants), row.Version, err
}

// SetWants of a pilot; based on an old version it is book.ErrChanged.
func (s *Store) SetWants(ctx context.Context, pilot, version int64, wants []byte) (err error) {
	defer away(&err)
	done := s.db.WithContext(ctx).Model(&pilotRow{}).Where("id = ? AND version = ?", pilot, version).Updates(map[string]any{"wants": string(wants), "version": version + 1})
	if done.Error == nil && done.RowsAffected == 0 {
		return book.ErrChanged
	}
	return done.Error
}

// Titles of the entries of a kind, newest first, without their bodies.
func (s *Store) Titles(ctx context.Context, pilot, id int64, kind string) (_ []book.Entry, err error) {
	defer away(&err)
	var rows []entryRow
	err = s.db.WithContext(ctx).Select("id", "kind", "name", "at").Where("quad_id = ? AND kind = ? AND EXISTS (?)", id, kind, s.owned(pilot, id)).Order("id DESC").Limit(500).Find(&rows).Error
	return entries(rows), err
}

// Entry by its number.
func (s *Store) Entry(ctx context.Context, pilot, id, entry int64) (_ book.Entry, err error) {
	defer away(&err)
	var row entryRow
	err = s.db.WithContext(ctx).Where("pilot_id = ? AND quad_id = ? AND id = ?", pilot, id, entry).Take(&row).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return book.Entry{}, book.ErrNoEntry
	}
	return entries([]entryRow{row})[0], err
}

// Count of the quads of all pilots.
func (s *Store) Count(ctx context.Context) (n int64, err error) {
	defer away(&err)
	err = s.db.WithContext(ctx).Model(&quadRow{}).Count(&n).Error
	return n, err
}
