package app

import (
	"context"
	"encoding/json"
	"maps"
	"slices"
	"strings"

	"vividperch/core/book"
	"vividperch/core/catalogue"
	"vividperch/core/quad"
)

// PacksView are the pilot's packs.
type PacksView struct {
	Version int64      `json:"version"`
	Packs   []PackView `json:"packs"`
}

// PackView is one of them: what was told of it, what it is taken to be by what was measured since, and the quads that hold a copy.
type PackView struct {
	Name    string              `json:"name"`
	Told    quad.Pack           `json:"told"`
	Now     quad.Pack           `json:"now"`
	Figures []PackFigure        `json:"figures"` // of Now, as far as they are known
	Health  []book.PackHealth   `json:"health"`  // newest first
	Fresh   *catalogue.Estimate `json:"fresh,omitempty"`
	Wear    book.Wear           `json:"wear"`
	On      []PackOn            `json:"on"`
}

// PackFigure is one figure of a pack in words.
type PackFigure struct {
	Label    string `json:"label"`
	Words    string `json:"words"`
	Measured bool   `json:"measured"`
}

// PackOn is a quad that has a copy of a pack, and in what that differs from the pack.
type PackOn struct {
	ID      int64                 `json:"id"`
	Name    string                `json:"name"`
	Version int64                 `json:"version"`
	Differs []book.PackDifference `json:"differs"`
}

// Packs of the pilot, each with the quads that hold a copy of it.
func (a *App) Packs(ctx context.Context) (*PacksView, error) {
	list, version, lenders, err := a.packs(ctx)
	if err != nil {
		return nil, err
	}
	out := &PacksView{Version: version, Packs: []PackView{}}
	for _, p := range list {
		now := p.Now()
		v := PackView{Name: p.Name, Told: p.Told, Now: now, Figures: packFigures(p.Told, now), Health: nonNil(p.Health), Wear: p.Worn(), On: []PackOn{}}
		if fresh, ok := catalogue.PackResistance(now.Cells, p.Told.Capacity, p.Told.Discharge); ok {
			v.Fresh = &fresh
		}
		for _, q := range lenders {
			if copied, has := q.parts.Packs[p.Name]; has {
				v.On = append(v.On, PackOn{q.id, q.name, q.version, nonNil(book.Differences(now, copied))})
			}
		}
		out.Packs = append(out.Packs, v)
	}
	return out, nil
}

func packFigures(told, now quad.Pack) []PackFigure {
	out, before := []PackFigure{}, quad.Leaves(told, "")
	for i, l := range quad.Leaves(now, "") {
		if !l.Untold {
			out = append(out, PackFigure{l.Label, l.Words(), l.Value != before[i].Value})
		}
	}
	return out
}

// SetPack keeps what is told of a pack: a new one, or one that the pilot has.
func (a *App) SetPack(ctx context.Context, version int64, name string, told quad.Pack) (*PacksView, error) {
	name = strings.TrimSpace(name)
	raw, err := json.Marshal(told)
	if err != nil {
		return nil, quad.Faultf("not-a-number", "", "is not a figure")
	}
	if err := (catalogue.Entry{Kind: catalogue.Pack, Name: name, Part: raw}).Check(); err != nil {
		return nil, err
	}
	if err := a.keep.SetPack(ctx, a.pilot, version, name, told); err != nil {
		return nil, err
	}
	return a.Packs(ctx)
}

// MeasurePack notes what was measured of a pack just now.
func (a *App) MeasurePack(ctx context.Context, version int64, name string, m book.PackMeasured) (*PacksView, error) {
	if err := m.Check(); err != nil {
		return nil, err
	}
	if p, ok, err := a.packNamed(ctx, name); err != nil {
		return nil, err
	} else if ok {
		if err := p.Believes(m); err != nil {
			return nil, err
		}
	}
	if err := a.keep.MeasurePack(ctx, a.pilot, version, name, m, a.now()); err != nil {
		return nil, err
	}
	return a.Packs(ctx)
}

// WithdrawPackReading says why a measurement of a pack does not count.
func (a *App) WithdrawPackReading(ctx context.Context, version int64, name string, reading int64, why string) (*PacksView, error) {
	why = strings.TrimSpace(why)
	if why == "" || quad.Longer(why, 200) {
		return nil, quad.Faultf("no-reason", "why", "say in 1 to 200 characters why it does not count")
	}
	if err := a.keep.WithdrawPackReading(ctx, a.pilot, version, name, reading, why); err != nil {
		return nil, err
	}
	return a.Packs(ctx)
}

// ForgetPack takes a pack away with what was measured of it. Quads keep their copies.
func (a *App) ForgetPack(ctx context.Context, version int64, name string) (*PacksView, error) {
	if err := a.keep.ForgetPack(ctx, a.pilot, version, name); err != nil {
		return nil, err
	}
	return a.Packs(ctx)
}

// TakePack puts what a pack is now into a quad's copy of it, in the draft.
func (a *App) TakePack(ctx context.Context, id, version int64, name string) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	p, mine, err := a.packNamed(ctx, name)
	if err != nil {
		return nil, err
	}
	copied, has := o.known.Parts.Packs[name]
	if !mine || !has {
		return nil, book.ErrNoPack
	}
	next, err := book.Taken(p.Now(), copied)
	if err != nil {
		return nil, err
	}
	if next == copied {
		return nil, quad.Faultf("nothing-new", "parts.packs."+name, "it is there already as the pack is")
	}
	raw, err := json.Marshal(next)
	if err != nil {
		return nil, err
	}
	return a.Edit(ctx, id, version, []SetValue{{Path: quad.Path("parts.packs." + name), Value: raw}})
}

// packs of the pilot, as of a version, and his quads. What nobody told of a pack is what the first of his quads with a copy says of it.
func (a *App) packs(ctx context.Context) ([]book.Pack, int64, []lender, error) {
	list, version, err := a.keep.Packs(ctx, a.pilot)
	if err != nil {
		return nil, 0, nil, err
	}
	lenders, err := a.lenders(ctx)
	if err != nil {
		return nil, 0, nil, err
	}
	for i := range list {
		for _, q := range lenders {
			copied, has := toldPacks(q.parts)[list[i].Name]
			if !has {
				continue
			}
			if list[i].Told, err = book.Taken(list[i].Told, copied); err != nil {
				return nil, 0, nil, err
			}
		}
	}
	return list, version, lenders, nil
}

// packNamed is one of the pilot's packs.
func (a *App) packNamed(ctx context.Context, name string) (book.Pack, bool, error) {
	list, _, _, err := a.packs(ctx)
	if err != nil {
		return book.Pack{}, false, err
	}
	i := slices.IndexFunc(list, func(p book.Pack) bool { return p.Name == name })
	if i < 0 {
		return book.Pack{}, false, nil
	}
	return list[i], true, nil
}

// toldPacks are a quad's packs as far as somebody told them: what is an estimate there is none of theirs.
func toldPacks(p quad.Parts) map[string]quad.Pack {
	out := maps.Clone(p.Packs)
	for _, e := range p.Estimated() {
		k := quad.Known{Parts: quad.Parts{Packs: out}}
		if e.Path.Under("parts.packs") && quad.Set(&k, e.Path, []byte("0")) == nil {
			out = k.Parts.Packs
		}
	}
	return out
}
