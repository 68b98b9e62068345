package app

import (
	"context"
	"encoding/json"
	"slices"

	"vividperch/core/link"
	"vividperch/core/quad"
)

// GearView is what is known of one link, and whose word it is.
type GearView struct {
	Link    string     `json:"link"`
	Shipped bool       `json:"shipped"` // the product knows it by itself
	Own     bool       `json:"own"`     // the pilot changed it or added it
	File    string     `json:"file"`
	Gear    *link.Gear `json:"gear"`
	Broken  string     `json:"broken"` // why the pilot's file cannot be read any more, or nothing
}

// GearList is every link that is known, with the version of the pilot's wants for changing one.
type GearList struct {
	Version int64      `json:"version"`
	Links   []GearView `json:"links"`
}

// mostGear is how many links a pilot may describe.
const mostGear = 20

func (a *App) ownGear(ctx context.Context) (map[string]string, error) {
	p, _, err := a.wants(ctx)
	return p.Gear, err
}

// Gear lists the links that are known.
func (a *App) Gear(ctx context.Context) (*GearList, error) {
	p, version, err := a.wants(ctx)
	if err != nil {
		return nil, err
	}
	out := &GearList{Version: version, Links: []GearView{}}
	names := link.Shipped()
	for _, name := range quad.SortedKeys(p.Gear) {
		if !slices.Contains(names, name) {
			names = append(names, name)
		}
	}
	for _, name := range names {
		v := GearView{Link: name, Shipped: link.ShippedFile(name) != "", File: link.ShippedFile(name)}
		if text, own := p.Gear[name]; own {
			v.Own, v.File = true, text
			if _, err := link.ReadGear([]byte(text)); err != nil {
				v.Broken = quad.Explain(err)
			}
		}
		if g, known := link.GearOf(name, p.Gear); known {
			v.Gear = &g
		}
		out.Links = append(out.Links, v)
	}
	return out, nil
}

// ReadGear says what a file describes, and keeps nothing.
func (a *App) ReadGear(_ context.Context, file string) (*link.Gear, error) {
	g, err := link.ReadGear([]byte(file))
	if err != nil {
		return nil, err
	}
	return &g, nil
}

// SetGear keeps the pilot's own facts of a link, under the name the file gives it. version is that of the wants he saw.
func (a *App) SetGear(ctx context.Context, version int64, file string) (*GearList, error) {
	g, err := link.ReadGear([]byte(file))
	if err != nil {
		return nil, err
	}
	return a.changeGear(ctx, version, func(own map[string]string) error {
		if own[g.Link] = file; len(own) > mostGear {
			return quad.Faultf("too-many", "", "more than %d links are described; forget one first", mostGear)
		}
		return nil
	})
}

// ForgetGear takes the pilot's own facts of a link away; what the product knows by itself counts again.
func (a *App) ForgetGear(ctx context.Context, version int64, name string) (*GearList, error) {
	return a.changeGear(ctx, version, func(own map[string]string) error {
		if _, there := own[name]; !there {
			return quad.Faultf("no-gear", name, "is not your own")
		}
		delete(own, name)
		return nil
	})
}

func (a *App) changeGear(ctx context.Context, version int64, change func(map[string]string) error) (*GearList, error) {
	err := a.want(ctx, version, func(p *quad.Pilot) error {
		if p.Gear == nil {
			p.Gear = map[string]string{}
		}
		return change(p.Gear)
	})
	if err != nil {
		return nil, err
	}
	return a.Gear(ctx)
}

// wants of the pilot, and their version.
func (a *App) wants(ctx context.Context) (p quad.Pilot, version int64, err error) {
	raw, version, err := a.keep.Wants(ctx, a.pilot)
	if err != nil {
		return p, 0, err
	}
	return p, version, json.Unmarshal(raw, &p)
}

// want changes what the pilot wants, as he saw it.
func (a *App) want(ctx context.Context, version int64, change func(*quad.Pilot) error) error {
	p, _, err := a.wants(ctx)
	if err != nil {
		return err
	}
	if err := change(&p); err != nil {
		return err
	}
	raw, err := json.Marshal(p)
	if err != nil {
		return err
	}
	return a.keep.SetWants(ctx, a.pilot, version, raw)
}
