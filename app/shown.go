package app

import (
	"slices"

	"context"

	"vividperch/core/quad"
)

// in shows a quad in the units that its pilot wants: words, and the units in which a bare figure is typed.
func (v *QuadView) in(s quad.Shows) {
	if s == (quad.Shows{}) {
		return
	}
	say := func(list ...*string) {
		for _, words := range list {
			*words = s.Reword(*words)
		}
	}
	say(&v.Draft.Redo, &v.Back.Words, &v.Against)
	for i := range v.Draft.Words {
		say(&v.Draft.Words[i])
	}
	for i := range v.Next {
		say(&v.Next[i].Words)
	}
	for i := range v.Line {
		p := &v.Line[i]
		for j := range p.Findings {
			f := &p.Findings[j]
			say(&f.Title, &f.Figures, &f.Why)
			f.Estimates = slices.Clone(f.Estimates)
			for k := range f.Estimates {
				say(&f.Estimates[k])
			}
			remedies := append(f.Remedies[:0:0], f.Remedies...) // a rule may give the same to every quad
			for k := range remedies {
				say(&remedies[k].Words)
			}
			f.Remedies = remedies
		}
		for j := range p.Estimates {
			say(&p.Estimates[j])
		}
		for j := range p.Asks {
			say(&p.Asks[j].How, &p.Asks[j].Good, &p.Asks[j].Why)
			p.Asks[j].Slots = slotsIn(s, p.Asks[j].Slots)
		}
		for j := range p.Noted {
			p.Noted[j].Slots = slotsIn(s, p.Noted[j].Slots)
		}
		for j := range p.Readings {
			say(&p.Readings[j].Words)
			p.Readings[j].Slots = slotsIn(s, p.Readings[j].Slots)
		}
		for j := range p.Limits {
			say(&p.Limits[j].Stands)
		}
	}
	for path, leaf := range v.Leaves {
		say(&leaf.Words)
		v.Leaves[path] = leaf
	}
}

// slotsIn are slots whose figures are typed in the units that are wanted.
func slotsIn(s quad.Shows, list []quad.Slot) []quad.Slot {
	out := make([]quad.Slot, len(list))
	for i, slot := range list {
		out[i] = slot.In(s)
	}
	return out
}

// Slots of what is typed at a path, in the units that the pilot wants.
func (a *App) Slots(ctx context.Context, p quad.Path) ([]quad.Slot, error) {
	list, err := quad.Slots(p)
	if err != nil {
		return nil, err
	}
	wants, _, err := a.wants(ctx)
	if err != nil {
		return nil, err
	}
	return slotsIn(wants.Shows, list), nil
}

// SetShows changes the units that the pilot wants figures shown in; version is the one he saw.
func (a *App) SetShows(ctx context.Context, version int64, s quad.Shows) (*PilotView, error) {
	err := a.want(ctx, version, func(p *quad.Pilot) error {
		p.Shows = s
		return nil
	})
	if err != nil {
		return nil, err
	}
	return a.Pilot(ctx)
}
