package sticks

import (
	"maps"
	"slices"

	"vividperch/core/quad"
)

// mostArrivals that are looked at of one channel: eight switches of three positions.
const mostArrivals = 6561

// each combination of positions of some switches, in the order of their names and positions, up to mostArrivals.
func (b Switchboard) each(names []string, do func(map[string]string)) {
	at, n := map[string]string{}, 0
	var next func(i int)
	next = func(i int) {
		if n >= mostArrivals {
			return
		}
		if i == len(names) {
			n++
			do(at)
			return
		}
		for _, position := range quad.SortedKeys(b.switches[names[i]].Positions) {
			at[names[i]] = position
			next(i + 1)
		}
		delete(at, names[i])
	}
	next(0)
}

// Mode that flies.
type Mode string

// Combination of all switches that have a say on something, and what the board makes of it.
type Combination struct {
	At    map[string]string `json:"at"`
	Armed bool              `json:"armed"`
	Flies Mode              `json:"flies" enum:"self-level,blended,acro"`
	// Over are modes that are asked for too and lose: self-level wins over blended, and both over acro.
	Over []Mode   `json:"over"`
	Also []string `json:"also"` // other functions that are on
}

// Deciders are the switches that have a say on some function of a sheet, sorted.
func (b Switchboard) Deciders(s quad.SticksSheet) []string {
	var names []string
	for _, f := range Functions(s) {
		names = append(names, b.Drivers(f.Rng.Channel)...)
	}
	slices.Sort(names)
	return slices.Compact(names)
}

// Combinations of every switch that has a say on some function, and whether there were too many to list.
func (b Switchboard) Combinations(s quad.SticksSheet) (list []Combination, more bool) {
	functions := Functions(s)
	b.each(b.Deciders(s), func(at map[string]string) {
		list = append(list, b.combination(s, functions, maps.Clone(at)))
	})
	return list, len(list) >= mostArrivals
}

func (b Switchboard) combination(s quad.SticksSheet, functions []Function, at map[string]string) Combination {
	c := Combination{At: at, Flies: Acro, Over: []Mode{}, Also: []string{}}
	on := map[FunctionID]bool{}
	for _, f := range functions {
		us, driven := b.Pulse(f.Rng.Channel, at)
		on[f.ID] = driven && f.Rng.Holds(us)
	}
	c.Armed = on[Arm]
	for _, m := range []struct {
		id   FunctionID
		mode Mode
	}{{LevelSelf, SelfLevel}, {LevelBlended, Blended}} {
		switch {
		case !on[m.id]:
		case c.Flies == Acro:
			c.Flies = m.mode
		default:
			c.Over = append(c.Over, m.mode)
		}
	}
	for _, f := range functions {
		if on[f.ID] && f.ID != Arm && f.ID != LevelSelf && f.ID != LevelBlended {
			c.Also = append(c.Also, f.On)
		}
	}
	if s.AuthorityAlways && !on[IdleAuthority] {
		c.Also = append(c.Also, "authority at idle")
	}
	return c
}
