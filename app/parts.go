package app

import (
	"context"
	"encoding/json"
	"slices"
	"strings"

	"vividperch/core/book"
	"vividperch/core/catalogue"
	"vividperch/core/quad"
)

// PartView is one kind of part as it is on a quad.
type PartView struct {
	Kind catalogue.Kind `json:"kind" enum:"frame,motor,propeller,speedController,board,pack,receiver,radioModule,video,satellite"`
	Name string         `json:"name"` // empty where nobody told what it is
	Path quad.Path      `json:"path"` // of the part, for what can be taken off: a pack, a device
	// Also names the pilot's other quads that have one of the same name.
	Also []string `json:"also"`
	// Figures of it, each with where it came from.
	Figures []catalogue.Sourced `json:"figures"`
	// Differs says in what this quad's copy of a pack is not what the pilot's pack is now.
	Differs []book.PackDifference `json:"differs"`
}

// partsNamed are the parts of each kind that some parts have, in the order of the kinds.
func partsNamed(p quad.Parts) []PartView {
	var out []PartView
	for _, kind := range catalogue.Kinds {
		one := func(name string, path quad.Path) {
			out = append(out, PartView{Kind: kind, Name: name, Path: path, Also: []string{}, Figures: []catalogue.Sourced{}, Differs: []book.PackDifference{}})
		}
		if name, single := catalogue.NameOf(p, kind); single {
			one(name, "")
			continue
		}
		several := func(names []string, at quad.Path) {
			for _, name := range names {
				one(name, at+quad.Path(name))
			}
			if len(names) == 0 {
				one("", "")
			}
		}
		switch kind {
		case catalogue.Pack:
			several(quad.SortedKeys(p.Packs), "parts.packs.")
		case catalogue.Satellite:
			several(quad.SortedKeys(p.Devices), "parts.devices.")
		}
	}
	return out
}

// Parts of a quad, each with which of the pilot's other quads has the same.
func (a *App) Parts(ctx context.Context, id int64) ([]PartView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	out := partsNamed(o.known.Parts)
	packs, _, lenders, err := a.packs(ctx)
	if err != nil {
		return nil, err
	}
	own, _, err := a.onShelf(ctx)
	if err != nil {
		return nil, err
	}
	for i, p := range out {
		if p.Name == "" {
			continue
		}
		// What stands on a quad alone nobody sells: its figures were typed.
		var from *catalogue.Entry
		if e, there := soldAs(own, p.Kind, p.Name); there {
			from = &e
		}
		out[i].Figures = nonNil(catalogue.Sources(o.known.Parts, p.Kind, p.Name, from))
		for _, pack := range packs {
			if p.Kind == catalogue.Pack && p.Name == pack.Name {
				out[i].Differs = nonNil(book.Differences(pack.Now(), o.known.Parts.Packs[p.Name]))
			}
		}
	}
	for _, other := range lenders {
		if other.id == id {
			continue
		}
		theirs := partsNamed(other.parts)
		for i := range out {
			same := func(p PartView) bool { return p.Kind == out[i].Kind && p.Name == out[i].Name }
			if out[i].Name != "" && slices.ContainsFunc(theirs, same) {
				out[i].Also = append(out[i].Also, other.name)
			}
		}
	}
	return out, nil
}

// Fit a part on a quad, in the draft: a copy of what the catalogue has under that name, or one of the pilot's own of which nothing is known yet.
// A pack and a device are added to those that are there.
func (a *App) Fit(ctx context.Context, id, version int64, kind catalogue.Kind, name string) (*QuadView, error) {
	name = strings.TrimSpace(name)
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	m := o.known.Meant()
	if err := a.choose(ctx, &m, kind, name); err != nil {
		return nil, err
	}
	var values []SetValue
	put := func(path quad.Path, value any) error {
		raw, err := json.Marshal(value)
		values = append(values, SetValue{Path: path, Value: raw})
		return err
	}
	switch kind {
	case catalogue.Pack:
		if err := a.keep.AdoptPacks(ctx, a.pilot, map[string]quad.Pack{name: toldPacks(m.Parts)[name]}); err != nil {
			return nil, err
		}
		err = put(quad.Path("parts.packs."+name), m.Parts.Packs[name])
	case catalogue.Satellite:
		for _, device := range quad.SortedKeys(m.Parts.Devices) {
			if _, had := o.known.Parts.Devices[device]; !had && err == nil {
				err = put(quad.Path("parts.devices."+device), m.Parts.Devices[device])
			}
		}
	default:
		var part any
		if part, err = quad.Get(quad.Known{Parts: m.Parts}, quad.Path("parts."+string(kind))); err == nil {
			err = put(quad.Path("parts."+string(kind)), part)
		}
	}
	if err == nil && !slices.Equal(m.Parts.Estimates, o.known.Parts.Estimates) {
		err = put("parts.estimates", m.Parts.Estimates)
	}
	if kind == catalogue.Board && err == nil {
		m.FollowBoard()
		if err = put("sheet.motors.outputs", m.Sheet.Motors.Outputs); err == nil && m.Sheet.Wiring.Ports != nil {
			err = put("sheet.wiring.ports", m.Sheet.Wiring.Ports)
		}
	}
	if err != nil {
		return nil, err
	}
	if len(values) == 0 {
		return nil, quad.Faultf("nothing-new", string(kind), "it is there already")
	}
	return a.Edit(ctx, id, version, values)
}
