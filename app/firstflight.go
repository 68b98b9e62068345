package app

import (
	"context"
	"slices"
	"strings"
	"time"

	"vividperch/core/book"
	"vividperch/core/check"
	"vividperch/core/flight"
	"vividperch/core/motors"
	"vividperch/core/proof"
	"vividperch/core/quad"
)

// Release of a scope for one day.
type Release struct {
	Scope proof.Scope `json:"scope"`
	Site  string      `json:"site"`
	By    string      `json:"by"`
	At    time.Time   `json:"at"`
	Until time.Time   `json:"until"`
}

// SiteView is what the quad needs of a place for its first hover; zero when it is not known, as the radius is until it was rehearsed.
type SiteView struct {
	ClearRadius float64 `json:"clearRadius" unit:"m"`
	WindMost    float64 `json:"windMost" unit:"m/s"` // for a first hover, gusts included
	// Clear tells how the paced radius stands against it; wanted when it is not paced or has aged, untried when nobody knows yet how far it gets.
	Clear Clearing `json:"clear" enum:"wanted,short,enough,untried"`
}

// Clearing of a place: how the paced radius stands against what the quad needs.
type Clearing string

const (
	ClearWanted Clearing = "wanted"
	ClearShort  Clearing = "short"
	ClearEnough Clearing = "enough"
	// ClearUntried says that it was paced, and nobody knows yet how far the quad gets.
	ClearUntried Clearing = "untried"
)

// FirstFlightView is what the station of the first flight draws.
type FirstFlightView struct {
	Site    SiteView             `json:"site"`
	Corners []motors.CornerState `json:"corners"`
}

// FirstFlight of a quad.
func (a *App) FirstFlight(ctx context.Context, id int64) (*FirstFlightView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	return firstFlightOf(o.known, a.standings(o)), nil
}

func firstFlightOf(k quad.Known, st []proof.Standing) *FirstFlightView {
	return &FirstFlightView{Site: siteOf(k, st), Corners: motors.Corners(k)}
}

func siteOf(k quad.Known, st []proof.Standing) SiteView {
	here := st[check.FirstFlight.Number()-1]
	v := SiteView{WindMost: check.WindMost(k), Clear: clearOf(here)}
	if r := k.Readings.FirstFlight.Rehearsal; r != nil && !slices.ContainsFunc(here.Asks, func(a check.Ask) bool { return a.Path == modelReading }) {
		v.ClearRadius = flight.Circle(r.Value)
	}
	if v.ClearRadius == 0 && v.Clear != ClearWanted {
		v.Clear = ClearUntried
	}
	return v
}

// clearOf tells what the rule on the clear radius found.
func clearOf(s proof.Standing) Clearing {
	if slices.ContainsFunc(s.Findings, func(f proof.Judged) bool { return f.Rule == "first-flight.clear-radius" }) {
		return ClearShort
	}
	if slices.ContainsFunc(s.Asks, func(a check.Ask) bool { return a.Path == "readings.firstFlight.clear" }) {
		return ClearWanted
	}
	return ClearEnough
}

var errRetired = quad.Faultf("retired", "", "it is retired; bring it back in the hangar first")

// ReleaseFor gives a release for today at a site, or says what stands against it. seen is as for Sign. It ends at midnight where the quad is;
// nil is where this program is.
func (a *App) ReleaseFor(ctx context.Context, id int64, scope proof.Scope, site, seen string, where *time.Location) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	if err := o.asSeen(seen); err != nil {
		return nil, err
	}
	if strings.TrimSpace(site) == "" {
		return nil, quad.Faultf("no-site", "site", "say where; a release is for one site and day")
	}
	if o.file.Retired {
		return nil, errRetired
	}
	if err := proof.MayRelease(scope, a.standings(o)); err != nil {
		return nil, err
	}
	now := a.now()
	if where != nil {
		now = now.In(where)
	}
	e, err := a.entry(book.KindRelease, string(scope), Release{Scope: scope, Site: site, By: a.who, At: a.now(), Until: proof.Midnight(now)})
	if err != nil {
		return nil, err
	}
	return a.draft(ctx, id, book.Change{Seen: seen, Entries: []book.Entry{e}})
}
