package store

import (
	"context"
	"errors"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"vividperch/core/book"
)

type dictionaryRow struct {
	ID        int64
	PilotID   int64
	Line      string
	Body      string
	Version   int64
	ChangedAt time.Time
}

func (dictionaryRow) TableName() string { return "dictionary" }

// Dictionaries that a pilot taught, by their lines' names.
func (s *Store) Dictionaries(ctx context.Context, pilot int64) (_ []book.Dictionary, err error) {
	defer away(&err)
	rows, err := dictionaries(s.db.WithContext(ctx), pilot)
	out := make([]book.Dictionary, len(rows))
	for i, r := range rows {
		out[i] = book.Dictionary{Line: r.Line, Body: r.Body, Version: r.Version, At: r.ChangedAt}
	}
	return out, err
}

func dictionaries(tx *gorm.DB, pilot int64) (rows []dictionaryRow, err error) {
	return rows, tx.Where("pilot_id = ?", pilot).Order("line").Find(&rows).Error
}

// SetDictionary keeps a dictionary that a pilot taught. Version is the one that he saw, 0 for one that is new; when
// another stands there it is book.ErrChanged. An empty body takes it away.
func (s *Store) SetDictionary(ctx context.Context, pilot int64, d book.Dictionary) (err error) {
	defer away(&err)
	return s.whole(ctx, func(tx *gorm.DB) error {
		// The pilot's row is what one waits for: to lock a line that is not there would lock the gap that other pilots' lines go into.
		var owner pilotRow
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Take(&owner, pilot).Error; err != nil {
			return err
		}
		var row dictionaryRow
		err := tx.Where("pilot_id = ? AND line = ?", pilot, d.Line).Take(&row).Error
		if err != nil && !errors.Is(err, gorm.ErrRecordNotFound) {
			return err
		}
		if row.Version != d.Version {
			return book.ErrDictionaryChanged
		}
		if d.Body == "" {
			return tx.Delete(&row).Error
		}
		row.PilotID, row.Line, row.Body, row.ChangedAt = pilot, d.Line, d.Body, now()
		row.Version++
		err = tx.Save(&row).Error
		if errors.Is(err, gorm.ErrDuplicatedKey) {
			return book.ErrDictionaryChanged // another window was first with a new one
		}
		return err
	})
}
