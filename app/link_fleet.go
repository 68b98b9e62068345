package app

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"sync"

	"vividperch/core/book"
	"vividperch/core/link"
	"vividperch/core/quad"
)

// neighbours remembers how each quad looks to the others, until it changes.
type neighbours struct {
	mu sync.Mutex
	by map[int64]neighbour
}

type neighbour struct {
	version  int64
	is       quad.FleetQuad
	lends    lender
	readable bool
}

// lender is what a quad lends to another one, and is found by: its parts and its firmware as they are meant now, and what its saved state
// says is allowed where it flies.
type lender struct {
	id       int64
	name     string
	version  int64
	parts    quad.Parts
	limits   quad.Limits
	firmware quad.FirmwareSheet
}

// fetch reads what is kept of some quads.
type fetch func(ctx context.Context, ids ...int64) ([]book.Other, error)

// of each quad, by name.
func (n *neighbours) of(ctx context.Context, list []book.Other, get fetch) (map[string]quad.FleetQuad, error) {
	members, _, err := n.members(ctx, list, get)
	out := make(map[string]quad.FleetQuad, len(members))
	for _, m := range members {
		out[m.Name] = m.FleetQuad
	}
	return out, err
}

// members of a fleet in their order, and their numbers by name. A second quad of the same name has its number with it. One that
// cannot be read any more is left out: it is told where it is opened. Only those are fetched that have changed.
func (n *neighbours) members(ctx context.Context, list []book.Other, get fetch) (out []link.Member, ids map[string]int64, err error) {
	n.mu.Lock()
	defer n.mu.Unlock()
	if err := n.renew(ctx, list, get); err != nil {
		return nil, nil, err
	}
	ids = make(map[string]int64, len(list))
	for _, o := range list {
		is := n.by[o.ID]
		if !is.readable {
			continue
		}
		name := o.Name
		if _, taken := ids[name]; taken {
			name = fmt.Sprintf("%s (%d)", name, o.ID)
		}
		ids[name] = o.ID
		out = append(out, link.Member{Name: name, FleetQuad: is.is})
	}
	return out, ids, nil
}

// lenders among some quads, in their order.
func (n *neighbours) lenders(ctx context.Context, list []book.Other, get fetch) ([]lender, error) {
	n.mu.Lock()
	defer n.mu.Unlock()
	if err := n.renew(ctx, list, get); err != nil {
		return nil, err
	}
	var out []lender
	for _, o := range list {
		if one := n.by[o.ID]; one.readable {
			one.lends.id, one.lends.name, one.lends.version = o.ID, o.Name, o.Version
			out = append(out, one.lends)
		}
	}
	return out, nil
}

// renew what is remembered of those that have changed.
func (n *neighbours) renew(ctx context.Context, list []book.Other, get fetch) error {
	var changed []int64
	for _, o := range list {
		if known, ok := n.by[o.ID]; !ok || known.version != o.Version {
			changed = append(changed, o.ID)
		}
	}
	if len(changed) == 0 {
		return nil
	}
	return n.learn(ctx, changed, get)
}

func (n *neighbours) learn(ctx context.Context, changed []int64, get fetch) error {
	list, err := get(ctx, changed...)
	if err != nil {
		return err
	}
	if n.by == nil {
		n.by = map[int64]neighbour{}
	}
	for _, o := range list {
		one := neighbour{version: o.Version}
		if saved, err := quad.ReadMeant(o.Body); err == nil {
			if meant, err := quad.Apply(saved, o.Edits); err == nil {
				one.is, one.readable = meant.Neighbour(), true
				one.lends = lender{parts: meant.Parts, limits: saved.Limits, firmware: meant.Sheet.Firmware}
			}
		}
		n.by[o.ID] = one
	}
	return nil
}

// asOthers are the quads of some covers that are not retired, without what they hold.
func asOthers(covers []book.Cover) []book.Other {
	var out []book.Other
	for _, c := range covers {
		if !c.Retired {
			out = append(out, book.Other{ID: c.ID, Name: c.Name, Version: c.Version})
		}
	}
	return out
}

// others of the pilot's quads, with what they hold.
func (a *App) others(ctx context.Context, ids ...int64) ([]book.Other, error) {
	return a.keep.Fleet(ctx, a.pilot, ids...)
}

// lenders are all quads of the pilot that can be read, retired ones too.
func (a *App) lenders(ctx context.Context) ([]lender, error) {
	covers, err := a.keep.Covers(ctx, a.pilot)
	if err != nil {
		return nil, err
	}
	list := make([]book.Other, len(covers))
	for i, c := range covers {
		list[i] = book.Other{ID: c.ID, Name: c.Name, Version: c.Version}
	}
	slices.SortFunc(list, func(a, b book.Other) int { return cmp.Compare(a.ID, b.ID) }) // the oldest lends first
	return a.fleet.lenders(ctx, list, a.others)
}

// FleetView is every link that the pilot flies: modules of radios, and who hears them.
type FleetView struct {
	Modules []ModuleView `json:"modules"`
	Without []string     `json:"without"` // quads that name no link
}

// ModuleView is one module with the quads that fly with it.
type ModuleView struct {
	Name     string       `json:"name"`
	Link     string       `json:"link"`
	Version  string       `json:"version"`
	External bool         `json:"external"`
	Differ   bool         `json:"differ"` // the quads do not agree on its version
	Update   string       `json:"update"` // in words, how its receivers are updated
	Numbers  int          `json:"numbers"`
	Members  []MemberView `json:"members"`
	Clashes  []link.Clash `json:"clashes"`
}

// MemberView is one quad of a module.
type MemberView struct {
	ID      int64  `json:"id"`
	Name    string `json:"name"`
	Number  int    `json:"number"`
	Version string `json:"version"`
	Band    string `json:"band"`
	Region  string `json:"region"`
	Hears   bool   `json:"hears"`
}

var updateWords = map[link.Update]string{
	link.ByPage: "Receivers are updated over their own wireless page, whatever the radio is.", link.ByRadio: "Receivers are updated through the radio, while they hear it.", link.ByWire: "Receivers are updated at a cable, whatever the radio is.",
}

// members of the pilot's fleet.
func (a *App) members(ctx context.Context) ([]link.Member, map[string]int64, error) {
	covers, err := a.keep.Covers(ctx, a.pilot)
	if err != nil {
		return nil, nil, err
	}
	return a.fleet.members(ctx, asOthers(covers), a.others)
}

// Fleet shows the links of all quads with what clashes.
func (a *App) Fleet(ctx context.Context) (*FleetView, error) {
	members, ids, err := a.members(ctx)
	if err != nil {
		return nil, err
	}
	own, err := a.ownGear(ctx)
	if err != nil {
		return nil, err
	}
	v := &FleetView{Modules: []ModuleView{}, Without: []string{}}
	for _, m := range members {
		if m.Link == "" {
			v.Without = append(v.Without, m.Name)
		}
	}
	for _, m := range link.Modules(members) {
		one := ModuleView{Name: m.Name, Link: m.Link, Version: m.Version, External: m.External, Differ: m.Differ, Clashes: link.Clashes(m), Members: []MemberView{}}
		if g, known := link.GearOf(m.Link, own); known {
			one.Update, one.Numbers = updateWords[g.Update], g.Numbers
		}
		for _, q := range m.Members {
			one.Members = append(one.Members, MemberView{ID: ids[q.Name], Name: q.Name, Number: q.Number, Version: q.Version, Band: q.Band, Region: q.Region, Hears: q.HearsItsModule()})
		}
		v.Modules = append(v.Modules, one)
	}
	return v, nil
}

// PlanAsk names a module and the version it is to have.
type PlanAsk struct {
	Name     string
	Link     string
	External bool
	To       string
}

// UpdatePlan of a module and the receivers that fly with it.
func (a *App) UpdatePlan(ctx context.Context, ask PlanAsk) (*link.UpdatePlan, error) {
	members, _, err := a.members(ctx)
	if err != nil {
		return nil, err
	}
	own, err := a.ownGear(ctx)
	if err != nil {
		return nil, err
	}
	g, known := link.GearOf(ask.Link, own)
	if !known {
		return nil, unknownLink(ask.Link)
	}
	modules := link.Modules(members)
	i := slices.IndexFunc(modules, func(m link.Module) bool {
		return m.Name == ask.Name && m.Link == ask.Link && m.External == ask.External
	})
	if i < 0 {
		return nil, quad.Faultf("no-module", "", "no quad flies with that module any more; look again")
	}
	p, err := link.PlanOf(g, modules[i], ask.To)
	return &p, err
}

func unknownLink(name string) error {
	if name == "" {
		return quad.Faultf("no-link", "parts.receiver.link", "the receiver's link is not told; name it among the parts")
	}
	return quad.Faultf("unknown-link", "parts.receiver.link", "nothing is known of a link named %q; describe it at Own gear", name)
}
