package app

import (
	"context"
	"strings"

	"vividperch/core/book"
	"vividperch/core/quad"
	"vividperch/core/site"
)

// SiteNamed is one of the pilot's sites.
type SiteNamed struct {
	ID      int64  `json:"id"`
	Name    string `json:"name"`
	Version int64  `json:"version"`
}

// SiteMapped is a site with its map.
type SiteMapped struct {
	SiteNamed
	Map   site.Map `json:"map"`
	Lacks []string `json:"lacks"` // heights that nobody told
}

func mapped(s book.Site) *SiteMapped {
	m := s.Map
	m.Areas, m.Safe, m.Lines = nonNil(m.Areas), nonNil(m.Safe), nonNil(m.Lines)
	return &SiteMapped{SiteNamed: SiteNamed{s.ID, s.Name, s.Version}, Map: m, Lacks: nonNil(m.Lacks())}
}

// Sites of the pilot, by name.
func (a *App) Sites(ctx context.Context) ([]SiteNamed, error) {
	list, err := a.keep.Sites(ctx, a.pilot)
	if err != nil {
		return nil, err
	}
	out := make([]SiteNamed, len(list))
	for i, s := range list {
		out[i] = SiteNamed{s.ID, s.Name, s.Version}
	}
	return out, nil
}

// Site with its map.
func (a *App) Site(ctx context.Context, id int64) (*SiteMapped, error) {
	s, err := a.keep.Site(ctx, a.pilot, id)
	if err != nil {
		return nil, err
	}
	return mapped(s), nil
}

// AddSite keeps a new one.
func (a *App) AddSite(ctx context.Context, name string, m site.Map) (*SiteMapped, error) {
	name = strings.TrimSpace(name)
	if name == "" || quad.Longer(name, 40) {
		return nil, quad.Faultf("no-name", "name", "a site has a name of 1 to 40 characters")
	}
	if err := m.Check(); err != nil {
		return nil, err
	}
	id, err := a.keep.AddSite(ctx, a.pilot, name, m)
	if err != nil {
		return nil, err
	}
	return a.Site(ctx, id)
}

// ChangeSite puts another map in the place of a site's, of which the pilot saw a version.
func (a *App) ChangeSite(ctx context.Context, id, version int64, m site.Map) (*SiteMapped, error) {
	if err := m.Check(); err != nil {
		return nil, err
	}
	if err := a.keep.ChangeSite(ctx, a.pilot, id, version, m); err != nil {
		return nil, err
	}
	return a.Site(ctx, id)
}

// ForgetSite takes one away, of which the pilot saw a version.
func (a *App) ForgetSite(ctx context.Context, id, version int64) ([]SiteNamed, error) {
	if err := a.keep.ForgetSite(ctx, a.pilot, id, version); err != nil {
		return nil, err
	}
	return a.Sites(ctx)
}

// MapRead is a map that was read from a file, and what was left out of it or taken for something. It is not kept.
type MapRead struct {
	Map     site.Map `json:"map"`
	Remarks []string `json:"remarks"`
}

// ReadMap reads GeoJSON, about where a quad takes off where the file does not tell.
func (a *App) ReadMap(ctx context.Context, id int64, file string) (*MapRead, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	var home *quad.Place
	if h := o.known.Readings.FirstFlight.Home; h != nil {
		home = &h.Value
	}
	m, remarks, err := site.Read([]byte(file), home)
	if err != nil {
		return nil, err
	}
	return &MapRead{Map: *m, Remarks: nonNil(remarks)}, nil
}
