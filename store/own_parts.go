package store

import (
	"context"
	"errors"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"vividperch/core/book"
)

type ownPartRow struct {
	ID        int64
	PilotID   int64
	Kind      string
	Name      string
	Body      string
	ChangedAt time.Time
}

func (ownPartRow) TableName() string { return "own_part" }

type columnsRow struct {
	ID        int64
	PilotID   int64
	Purpose   string
	Heads     string
	Body      string
	ChangedAt time.Time
}

func (columnsRow) TableName() string { return "known_columns" }

// mostKnownColumns are remembered of one pilot; the oldest go first.
const mostKnownColumns = 200

// PartsVersion counts the changes to a pilot's own parts.
func (s *Store) PartsVersion(ctx context.Context, pilot int64) (_ int64, err error) {
	defer away(&err)
	var row pilotRow
	err = s.db.WithContext(ctx).Select("parts_version").Take(&row, pilot).Error
	return row.PartsVersion, err
}

// OwnParts of a pilot, by kind and name, as of a version.
func (s *Store) OwnParts(ctx context.Context, pilot int64) (out []book.OwnPart, version int64, err error) {
	defer away(&err)
	err = s.whole(ctx, func(tx *gorm.DB) error {
		var owner pilotRow
		if err := tx.Take(&owner, pilot).Error; err != nil {
			return err
		}
		var rows []ownPartRow
		if err := tx.Where("pilot_id = ?", pilot).Order("kind, name").Find(&rows).Error; err != nil {
			return err
		}
		out, version = make([]book.OwnPart, len(rows)), owner.PartsVersion
		for i, r := range rows {
			out[i] = book.OwnPart{Kind: r.Kind, Name: r.Name, Body: r.Body, At: r.ChangedAt}
		}
		return nil
	}, snapshot)
	return out, version, err
}

// ChangeOwnParts keeps parts in a pilot's own catalogue, each in the place of one of the same kind and name, and takes others away, all or
// nothing. Version is the one that he saw; when another stands there it is book.ErrPartsChanged.
func (s *Store) ChangeOwnParts(ctx context.Context, pilot, version int64, put, drop []book.OwnPart) (err error) {
	defer away(&err)
	return s.whole(ctx, func(tx *gorm.DB) error {
		var owner pilotRow
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Take(&owner, pilot).Error; err != nil {
			return err
		}
		if owner.PartsVersion != version {
			return book.ErrPartsChanged
		}
		for _, p := range drop {
			if err := tx.Where("pilot_id = ? AND kind = ? AND name = ?", pilot, p.Kind, p.Name).Delete(&ownPartRow{}).Error; err != nil {
				return err
			}
		}
		rows := make([]ownPartRow, len(put))
		for i, p := range put {
			rows[i] = ownPartRow{PilotID: pilot, Kind: p.Kind, Name: p.Name, Body: p.Body, ChangedAt: now()}
		}
		if len(rows) > 0 {
			same := clause.OnConflict{DoUpdates: clause.AssignmentColumns([]string{"body", "changed_at"})}
			if err := tx.Clauses(same).CreateInBatches(&rows, 500).Error; err != nil {
				return err
			}
		}
		return tx.Model(&owner).Update("parts_version", version+1).Error
	})
}

// KnownColumns is what a pilot said last that the columns under these heads are, for a purpose; nil where he never did.
func (s *Store) KnownColumns(ctx context.Context, pilot int64, purpose, heads string) (_ []byte, err error) {
	defer away(&err)
	var row columnsRow
	err = s.db.WithContext(ctx).Where("pilot_id = ? AND purpose = ? AND heads = ?", pilot, purpose, heads).Take(&row).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return nil, nil
	}
	return []byte(row.Body), err
}

// LearnColumns remembers what columns are, by their heads; what was said before of the same heads is forgotten.
func (s *Store) LearnColumns(ctx context.Context, pilot int64, purpose, heads string, columns []byte) (err error) {
	defer away(&err)
	return s.whole(ctx, func(tx *gorm.DB) error {
		row := columnsRow{PilotID: pilot, Purpose: purpose, Heads: heads, Body: string(columns), ChangedAt: now()}
		same := clause.OnConflict{DoUpdates: clause.AssignmentColumns([]string{"body", "changed_at"})}
		if err := tx.Clauses(same).Create(&row).Error; err != nil {
			return err
		}
		var old []int64
		if err := tx.Model(&columnsRow{}).Where("pilot_id = ?", pilot).Order("changed_at DESC, id DESC").Offset(mostKnownColumns).Limit(mostKnownColumns).Pluck("id", &old).Error; err != nil || len(old) == 0 {
			return err
		}
		return tx.Delete(&columnsRow{}, old).Error
	})
}
