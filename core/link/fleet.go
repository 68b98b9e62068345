package link

import (
	"fmt"
	"slices"
	"strings"

	"vividperch/core/quad"
)

// Member of a pilot's fleet.
type Member struct {
	Name string `json:"name"`
	quad.FleetQuad
}

// HearsItsModule says whether its receiver hears the module that it flies with, once they are bound.
func (m Member) HearsItsModule() bool { return m.heardAt(m.Module) }

func (m Member) receiver() quad.Receiver {
	return quad.Receiver{Link: m.Link, Version: m.Version, Band: m.Band, Region: m.Region}
}

// heardAt a version of the radio module that the member flies with.
func (m Member) heardAt(version string) bool {
	return Compare(quad.RadioModule{Link: m.Link, Version: version, Band: m.Band, Region: m.Region}, m.receiver()).Hears()
}

// Module of a radio, with those that fly with it.
type Module struct {
	Name     string   `json:"name"`
	Link     string   `json:"link"`
	Version  string   `json:"version"` // as the quads have it; the newest where they differ
	External bool     `json:"external"`
	Members  []Member `json:"members"`
	Differ   bool     `json:"differ"` // the quads do not agree on its version
}

// Modules of a fleet, by name and link. Quads without a link are left out.
func Modules(fleet []Member) []Module {
	var out []Module
	for _, m := range fleet {
		if m.Link == "" {
			continue
		}
		i := slices.IndexFunc(out, func(x Module) bool { return x.Name == m.Radio && x.Link == m.Link && x.External == m.External })
		if i < 0 {
			out, i = append(out, Module{Name: m.Radio, Link: m.Link, Version: m.Module, External: m.External}), len(out)
		}
		x := &out[i]
		x.Differ = x.Differ || m.Module != x.Version
		if newer(m.Module, x.Version) {
			x.Version = m.Module
		}
		x.Members = append(x.Members, m)
	}
	return out
}

// Clash of two models in one radio.
type Clash struct {
	Number int      `json:"number"`
	Quads  []string `json:"quads"`
}

// Clashes lists receiver numbers that several quads of one module have, in order. Whichever model is chosen, all of them obey.
func Clashes(m Module) []Clash {
	by := map[int][]string{}
	for _, q := range m.Members {
		if q.Number > 0 {
			by[q.Number] = append(by[q.Number], q.Name)
		}
	}
	out := []Clash{}
	for n := range 64 {
		if len(by[n]) > 1 {
			out = append(out, Clash{Number: n, Quads: by[n]})
		}
	}
	return out
}

// FreeNumber is the lowest receiver number that nobody of some quads on a link and module has, or 0 when all are taken.
func FreeNumber(g Gear, own quad.FleetQuad, fleet map[string]quad.FleetQuad) int {
	for n := 1; n <= g.Numbers; n++ {
		own.Number = n
		if len(SameNumber(own, fleet)) == 0 {
			return n
		}
	}
	return 0
}

// SameNumber names the quads of a fleet that have the receiver number of one on the same link and radio module.
func SameNumber(own quad.FleetQuad, fleet map[string]quad.FleetQuad) []string {
	var out []string
	for _, name := range quad.SortedKeys(fleet) {
		if o := fleet[name]; own.Number > 0 && o.Number == own.Number && o.Link == own.Link && o.Radio == own.Radio && o.External == own.External {
			out = append(out, name)
		}
	}
	return out
}

// UpdateStep is one step of bringing a module and its receivers to another version.
type UpdateStep struct {
	Quad  string `json:"quad"` // whose receiver; nothing for the module
	Words string `json:"words"`
	// Heard and Deaf name the quads that can be heard, and not, once the step is done.
	Heard []string `json:"heard"`
	Deaf  []string `json:"deaf"`
}

// UpdatePlan of bringing a module to a version.
type UpdatePlan struct {
	To string `json:"to"`
	// Orphans are the quads that hear the module now and would not once it alone has been updated.
	Orphans []string     `json:"orphans"`
	Moves   []UpdateStep `json:"moves"`
}

// PlanOf bringing a module to a version: what must go along, in an order that never needs a radio that no longer talks to
// the receiver. Receivers that are updated through the radio go first, while they are still heard; then the module; then those
// that are updated over their own page or a cable. Those that would understand the new version stay as they are.
func PlanOf(g Gear, m Module, to string) (UpdatePlan, error) {
	if _, ok := Major(to); !ok {
		return UpdatePlan{}, quad.Faultf("bad-version", "to", "%q is no version; they look like 6.0.1", to)
	}
	p := UpdatePlan{To: to, Orphans: []string{}, Moves: []UpdateStep{}}
	var follow []string
	for _, q := range m.Members {
		if q.heardAt(m.Version) && !q.heardAt(to) {
			p.Orphans = append(p.Orphans, q.Name)
		}
		if !q.heardAt(to) {
			follow = append(follow, q.Name)
		}
	}
	members, module := slices.Clone(m.Members), m.Version
	act := func(name, words string) {
		if name == "" {
			module = to
		}
		for i := range members {
			if members[i].Name == name {
				members[i].Version = to
			}
		}
		move := UpdateStep{Quad: name, Words: words, Heard: []string{}, Deaf: []string{}}
		for _, q := range members {
			if q.heardAt(module) {
				move.Heard = append(move.Heard, q.Name)
			} else {
				move.Deaf = append(move.Deaf, q.Name)
			}
		}
		p.Moves = append(p.Moves, move)
	}
	if g.Update == ByRadio {
		for _, name := range follow {
			act(name, "Update the receiver of "+name+" to "+to+" through the radio, which still hears it.")
		}
	}
	if m.Version != to {
		act("", "Update "+orModule(m.Name)+" from "+m.Version+" to "+to+".")
	}
	if g.Update != ByRadio {
		how := " at a cable"
		if g.Update == ByPage {
			how = " over its wireless page"
		}
		for _, name := range follow {
			act(name, "Update the receiver of "+name+" to "+to+how+", bind it again, and watch a channel move.")
		}
	}
	return p, nil
}

func orModule(name string) string {
	if name == "" {
		return "the radio module"
	}
	return name
}

func newer(a, b string) bool {
	va, vb := version(a), version(b)
	return va != nil && (vb == nil || va.GreaterThan(vb))
}

// Words of a clash for a sentence.
func (c Clash) Words() string {
	return fmt.Sprintf("%s have receiver number %d", strings.Join(c.Quads, " and "), c.Number)
}
