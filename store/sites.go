package store

import (
	"context"
	"encoding/json"
	"errors"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"vividperch/core/book"
	"vividperch/core/site"
)

type siteRow struct {
	ID        int64
	PilotID   int64
	Name      string
	Version   int64
	Body      string
	ChangedAt time.Time
}

func (siteRow) TableName() string { return "site" }

// Sites of a pilot by name, without their maps.
func (s *Store) Sites(ctx context.Context, pilot int64) (out []book.Site, err error) {
	defer away(&err)
	var rows []siteRow
	if err := s.db.WithContext(ctx).Select("id, name, version").Where("pilot_id = ?", pilot).Order("name").Limit(book.MostSites).Find(&rows).Error; err != nil {
		return nil, err
	}
	out = make([]book.Site, len(rows))
	for i, r := range rows {
		out[i] = book.Site{ID: r.ID, Name: r.Name, Version: r.Version}
	}
	return out, nil
}

// Site of a pilot with its map, or book.ErrNoSite.
func (s *Store) Site(ctx context.Context, pilot, id int64) (out book.Site, err error) {
	defer away(&err)
	return siteIn(s.db.WithContext(ctx), "id = ? AND pilot_id = ?", id, pilot)
}

// SiteNamed is a pilot's site of a name with its map, or book.ErrNoSite.
func (s *Store) SiteNamed(ctx context.Context, pilot int64, name string) (out book.Site, err error) {
	defer away(&err)
	return siteIn(s.db.WithContext(ctx), "pilot_id = ? AND name = ?", pilot, name)
}

func siteIn(tx *gorm.DB, where string, args ...any) (book.Site, error) {
	var r siteRow
	if err := tx.Where(where, args...).Take(&r).Error; err != nil {
		if errors.Is(err, gorm.ErrRecordNotFound) {
			return book.Site{}, book.ErrNoSite
		}
		return book.Site{}, err
	}
	out := book.Site{ID: r.ID, Name: r.Name, Version: r.Version}
	return out, json.Unmarshal([]byte(r.Body), &out.Map)
}

// AddSite keeps a new site; a name that the pilot has is book.ErrSiteNamed.
func (s *Store) AddSite(ctx context.Context, pilot int64, name string, m site.Map) (id int64, err error) {
	defer away(&err)
	body, err := json.Marshal(m)
	if err != nil {
		return 0, err
	}
	err = s.whole(ctx, func(tx *gorm.DB) error {
		// Whoever adds one holds the pilot's row, so that two windows do not count past the bound.
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Take(&pilotRow{}, pilot).Error; err != nil {
			return err
		}
		var have, same int64
		if err := tx.Model(&siteRow{}).Where("pilot_id = ?", pilot).Count(&have).Error; err != nil {
			return err
		}
		if err := tx.Model(&siteRow{}).Where("pilot_id = ? AND name = ?", pilot, name).Count(&same).Error; err != nil {
			return err
		}
		switch {
		case same > 0:
			return book.ErrSiteNamed
		case have >= book.MostSites:
			return book.ErrManySites
		}
		row := siteRow{PilotID: pilot, Name: name, Version: 1, Body: string(body), ChangedAt: now()}
		if err := tx.Create(&row).Error; err != nil {
			return err
		}
		id = row.ID
		return nil
	})
	return id, err
}

// ChangeSite puts another map in the place of a site's. Version is the one that the pilot saw; when another stands there it is book.ErrSiteChanged.
func (s *Store) ChangeSite(ctx context.Context, pilot, id, version int64, m site.Map) (err error) {
	defer away(&err)
	body, err := json.Marshal(m)
	if err != nil {
		return err
	}
	return s.changeSite(ctx, pilot, id, version, func(tx *gorm.DB) *gorm.DB {
		return tx.Updates(map[string]any{"body": string(body), "version": version + 1, "changed_at": now()})
	})
}

// ForgetSite takes a site away.
func (s *Store) ForgetSite(ctx context.Context, pilot, id, version int64) (err error) {
	defer away(&err)
	return s.changeSite(ctx, pilot, id, version, func(tx *gorm.DB) *gorm.DB { return tx.Delete(&siteRow{}) })
}

func (s *Store) changeSite(ctx context.Context, pilot, id, version int64, do func(tx *gorm.DB) *gorm.DB) error {
	return s.whole(ctx, func(tx *gorm.DB) error {
		done := do(tx.Model(&siteRow{}).Where("id = ? AND pilot_id = ? AND version = ?", id, pilot, version))
		if done.Error != nil || done.RowsAffected == 1 {
			return done.Error
		}
		if _, err := siteIn(tx, "id = ? AND pilot_id = ?", id, pilot); err != nil {
			return err
		}
		return book.ErrSiteChanged
	})
}
