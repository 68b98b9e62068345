package store

import (
	"context"
	"encoding/json"
	"errors"
	"slices"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"vividperch/core/book"
	"vividperch/core/quad"
)

type packRow struct {
	ID        int64
	PilotID   int64
	Name      string
	Body      string
	ChangedAt time.Time
}

func (packRow) TableName() string { return "pack" }

type packReadingRow struct {
	ID        int64
	PilotID   int64
	PackID    int64
	Body      string
	At        time.Time
	Withdrawn string
}

func (packReadingRow) TableName() string { return "pack_reading" }

// mostPackReadings are told of one pack, the newest; older ones stay kept.
const mostPackReadings = 60

// Packs of a pilot by name, each with its newest measurements, as of a version.
func (s *Store) Packs(ctx context.Context, pilot int64) (out []book.Pack, version int64, err error) {
	defer away(&err)
	err = s.whole(ctx, func(tx *gorm.DB) error {
		var owner pilotRow
		if err := tx.Take(&owner, pilot).Error; err != nil {
			return err
		}
		version = owner.PacksVersion
		var rows []packRow
		if err := tx.Where("pilot_id = ?", pilot).Order("name").Find(&rows).Error; err != nil {
			return err
		}
		out = make([]book.Pack, len(rows))
		for i, r := range rows {
			out[i].Name = r.Name
			if err := json.Unmarshal([]byte(r.Body), &out[i].Told); err != nil {
				return err
			}
			var measured []packReadingRow
			if err := tx.Where("pack_id = ?", r.ID).Order("id DESC").Limit(mostPackReadings).Find(&measured).Error; err != nil {
				return err
			}
			for _, m := range measured {
				h := book.PackHealth{ID: m.ID, At: m.At, Withdrawn: m.Withdrawn}
				if err := json.Unmarshal([]byte(m.Body), &h.PackMeasured); err != nil {
					return err
				}
				out[i].Health = append(out[i].Health, h)
			}
		}
		return nil
	}, snapshot)
	return out, version, err
}

// AdoptPacks makes packs the pilot's where he has none of the name yet.
func (s *Store) AdoptPacks(ctx context.Context, pilot int64, packs map[string]quad.Pack) (err error) {
	defer away(&err)
	return s.whole(ctx, func(tx *gorm.DB) error { return adoptPacks(tx, pilot, packs) })
}

func adoptPacks(tx *gorm.DB, pilot int64, packs map[string]quad.Pack) error {
	var had []string
	if err := tx.Model(&packRow{}).Where("pilot_id = ?", pilot).Pluck("name", &had).Error; err != nil {
		return err
	}
	var rows []packRow
	for _, name := range quad.SortedKeys(packs) {
		if slices.Contains(had, name) {
			continue
		}
		body, err := json.Marshal(packs[name])
		if err != nil {
			return err
		}
		rows = append(rows, packRow{PilotID: pilot, Name: name, Body: string(body), ChangedAt: now()})
	}
	if len(rows) == 0 {
		return nil
	}
	// Another window may have been first: then its pack stays.
	if err := tx.Clauses(clause.OnConflict{DoNothing: true}).CreateInBatches(&rows, 500).Error; err != nil {
		return err
	}
	return tx.Model(&pilotRow{ID: pilot}).Update("packs_version", gorm.Expr("packs_version + 1")).Error
}

// SetPack keeps what is told of a pack, a new one or one of the pilot's.
func (s *Store) SetPack(ctx context.Context, pilot, version int64, name string, told quad.Pack) error {
	body, err := json.Marshal(told)
	if err != nil {
		return err
	}
	return s.changePacks(ctx, pilot, version, func(tx *gorm.DB) error {
		same := clause.OnConflict{DoUpdates: clause.AssignmentColumns([]string{"body", "changed_at"})}
		return tx.Clauses(same).Create(&packRow{PilotID: pilot, Name: name, Body: string(body), ChangedAt: now()}).Error
	})
}

// MeasurePack adds what was measured of a pack at a time.
func (s *Store) MeasurePack(ctx context.Context, pilot, version int64, name string, m book.PackMeasured, at time.Time) error {
	body, err := json.Marshal(m)
	if err != nil {
		return err
	}
	return s.changePacks(ctx, pilot, version, func(tx *gorm.DB) error {
		row, err := packNamed(tx, pilot, name)
		if err != nil {
			return err
		}
		return tx.Create(&packReadingRow{PilotID: pilot, PackID: row.ID, Body: string(body), At: at.UTC()}).Error
	})
}

// WithdrawPackReading says why a measurement of a pack does not count; it stays.
func (s *Store) WithdrawPackReading(ctx context.Context, pilot, version int64, name string, reading int64, why string) error {
	return s.changePacks(ctx, pilot, version, func(tx *gorm.DB) error {
		row, err := packNamed(tx, pilot, name)
		if err != nil {
			return err
		}
		done := tx.Model(&packReadingRow{}).Where("pack_id = ? AND id = ? AND withdrawn = ''", row.ID, reading).Update("withdrawn", why)
		if done.Error == nil && done.RowsAffected == 0 {
			return book.ErrNoEntry
		}
		return done.Error
	})
}

// ForgetPack takes a pack and what was measured of it away. Quads keep their copies.
func (s *Store) ForgetPack(ctx context.Context, pilot, version int64, name string) error {
	return s.changePacks(ctx, pilot, version, func(tx *gorm.DB) error {
		row, err := packNamed(tx, pilot, name)
		if err != nil {
			return err
		}
		return tx.Delete(&row).Error
	})
}

func packNamed(tx *gorm.DB, pilot int64, name string) (packRow, error) {
	var row packRow
	err := tx.Where("pilot_id = ? AND name = ?", pilot, name).Take(&row).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return row, book.ErrNoPack
	}
	return row, err
}

// changePacks of a pilot, all or nothing. Version is the one that he saw; when another stands there it is book.ErrPacksChanged.
func (s *Store) changePacks(ctx context.Context, pilot, version int64, do func(tx *gorm.DB) error) (err error) {
	defer away(&err)
	return s.whole(ctx, func(tx *gorm.DB) error {
		var owner pilotRow
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Take(&owner, pilot).Error; err != nil {
			return err
		}
		if owner.PacksVersion != version {
			return book.ErrPacksChanged
		}
		if err := do(tx); err != nil {
			return err
		}
		return tx.Model(&owner).Update("packs_version", version+1).Error
	})
}
