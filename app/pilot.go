package app

import (
	"cmp"
	"context"
	"encoding/json"

	"vividperch/core/check"
	"vividperch/core/quad"
)

// LimitView is one threshold of judgement: where it usually stands, where this pilot and this quad have it.
type LimitView struct {
	Key     string        `json:"key"`
	Path    quad.Path     `json:"path"` // where the quad's own is set
	Station check.Station `json:"station"`
	Label   string        `json:"label"`
	Unit    string        `json:"unit"`
	Allowed *quad.Allowed `json:"allowed"`
	Usual   float64       `json:"usual"`
	Pilot   quad.Own      `json:"pilot"`
	Quad    quad.Own      `json:"quad"`
	Stands  string        `json:"stands"` // in words, what is judged by now
}

// limitsOf the stations: all of them, or those of one.
func limitsOf(k quad.Known, station check.Station) []LimitView {
	out := []LimitView{}
	for _, t := range check.Thresholds {
		if station != "" && t.Station != station {
			continue
		}
		path := quad.Path("limits.thresholds." + t.Key)
		f, err := quad.FieldAt(path)
		if err != nil {
			panic(err) // the keys are the program's own
		}
		stands, _ := check.Limit(k, t.Key)
		out = append(out, LimitView{
			Key: t.Key, Path: path, Station: t.Station, Label: f.Label, Unit: f.Unit, Allowed: f.Allowed, Usual: t.Usual,
			Pilot: check.OwnAt(k.Pilot.Thresholds, t.Key), Quad: check.OwnAt(k.Limits.Thresholds, t.Key), Stands: quad.Quantity(stands, f.Unit),
		})
	}
	return out
}

// PilotView is what one pilot wants of every quad.
type PilotView struct {
	Name    string      `json:"name"`
	Version int64       `json:"version"`
	Limits  []LimitView `json:"limits"`
	Shows   quad.Shows  `json:"shows"`
	// CompassBy is when a compass is to be found anew.
	CompassBy quad.Renewal `json:"compassBy"`
	Mass      quad.Scale   `json:"mass"`   // of figures kept in g
	Length    quad.Scale   `json:"length"` // of figures kept in mm
}

// Pilot shows what the pilot wants of every quad.
func (a *App) Pilot(ctx context.Context) (*PilotView, error) {
	p, version, err := a.wants(ctx)
	if err != nil {
		return nil, err
	}
	k := quad.Known{Pilot: p}
	return &PilotView{Name: a.who, Version: version, Limits: limitsOf(k, ""), Shows: p.Shows, CompassBy: cmp.Or(p.CompassBy, quad.ByDate), Mass: p.Shows.Scale("g"), Length: p.Shows.Scale("mm")}, nil
}

// SetCompassBy says when a compass is to be found anew, for all of the pilot's quads.
func (a *App) SetCompassBy(ctx context.Context, version int64, by quad.Renewal) (*PilotView, error) {
	if by != quad.ByDate && by != quad.ByEvent {
		return nil, quad.Faultf("unknown-school", "", "a compass is renewed by date or by event")
	}
	err := a.want(ctx, version, func(p *quad.Pilot) error {
		p.CompassBy = by
		return nil
	})
	if err != nil {
		return nil, err
	}
	return a.Pilot(ctx)
}

// SetLimit moves a threshold for all of the pilot's quads, with the reason; a value of 0 puts the usual one back.
// version is the one the pilot saw. The value may be typed as a quantity.
func (a *App) SetLimit(ctx context.Context, version int64, key string, own json.RawMessage) (*PilotView, error) {
	path := quad.Path("pilot.thresholds." + key)
	own, err := quad.Typed(path, own)
	if err != nil {
		return nil, err
	}
	if err := quad.Fits(path, own); err != nil {
		return nil, err
	}
	err = a.want(ctx, version, func(p *quad.Pilot) error {
		k := quad.Known{Pilot: *p}
		if err := quad.Set(&k, path, own); err != nil {
			return err
		}
		*p = k.Pilot
		return p.Thresholds.Reasoned("pilot.thresholds")
	})
	if err != nil {
		return nil, err
	}
	return a.Pilot(ctx)
}
