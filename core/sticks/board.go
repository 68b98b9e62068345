package sticks

import (
	"cmp"
	"maps"
	"math"
	"slices"
	"strings"

	"vividperch/core/quad"
)

// FunctionID names what a switch can decide.
type FunctionID string

const (
	Arm           FunctionID = "arm"
	LevelSelf     FunctionID = "selfLevel"
	LevelBlended  FunctionID = "blended"
	Beep          FunctionID = "beeper"
	IdleAuthority FunctionID = "authority"
)

// Function that the board does while a channel is inside a range.
type Function struct {
	ID   FunctionID `json:"id" enum:"arm,selfLevel,blended,beeper,authority"`
	Path quad.Path  `json:"path"`
	Name string     `json:"name"`
	On   string     `json:"on"` // in words, what it does inside the range, and outside
	Off  string     `json:"off"`
	Rng  quad.Range `json:"range"`
}

// everyFunction that a sheet may put on a channel, in the order of their weight.
func everyFunction(s quad.SticksSheet) []Function {
	return []Function{
		{Arm, "sheet.sticks.arm", "arm", "armed", "safe", s.Arm},
		{LevelSelf, "sheet.sticks.selfLevel", "self-level", "self-level", "acro", s.SelfLevel},
		{LevelBlended, "sheet.sticks.blended", "blended", "blended", "acro", s.Blended},
		{Beep, "sheet.sticks.beeper", "the beeper", "beeper", "quiet", s.Beeper},
		{IdleAuthority, "sheet.sticks.authority", "authority at idle", "authority at idle", "still at idle", s.Authority},
	}
}

// Functions that a sheet has on some channel, in the order of their weight.
func Functions(s quad.SticksSheet) []Function {
	return slices.DeleteFunc(everyFunction(s), func(f Function) bool { return !f.Rng.Used() })
}

// Switchboard is everything of the radio that stands between a switch and what the board hears: which switch drives which
// channel, by how much, and what is mixed onto it.
type Switchboard struct {
	switches map[string]quad.SwitchSeen
	order    []string // of the switches, sorted
	mixes    []named  // in an order in which every mix comes after those onto the channel it takes from
	Loop     []string `json:"loop"` // names of mixes that go round; nothing is mixed then
}

type named struct {
	name string
	quad.MixPlan
}

// NewSwitchboard of what was captured; a switch that was not captured sends what its plan says.
func NewSwitchboard(k quad.Known) Switchboard {
	b := Switchboard{switches: map[string]quad.SwitchSeen{}}
	for name, plan := range k.Radio.Switches {
		if plan.Channel > 0 && len(plan.Positions) > 0 {
			b.switches[name] = Planned(plan)
		}
	}
	maps.Copy(b.switches, Captured(k))
	b.order = quad.SortedKeys(b.switches)
	b.sortMixes(k.Radio.Mixes)
	return b
}

// Planned is what a switch sends by its plan: its positions evenly over its travel, the first one lowest.
func Planned(p quad.SwitchPlan) quad.SwitchSeen {
	travel := p.Travel
	if travel == 0 {
		travel = 100
	}
	out := quad.SwitchSeen{Channel: p.Channel, Positions: map[string]float64{}}
	for i, position := range p.Positions {
		share := 0.0
		if n := len(p.Positions); n > 1 {
			share = 2*float64(i)/float64(n-1) - 1
		}
		out.Positions[position] = math.Round(Centre + share*(High-Centre)*travel/100)
	}
	return out
}

// sortMixes by what they need (Kahn); what is left goes round.
func (b *Switchboard) sortMixes(plans map[string]quad.MixPlan) {
	var left []named
	for _, name := range quad.SortedKeys(plans) {
		if m := plans[name]; m.From > 0 && m.To > 0 {
			left = append(left, named{name, m})
		}
	}
	for len(left) > 0 {
		i := slices.IndexFunc(left, func(m named) bool {
			return m.From != m.To && !slices.ContainsFunc(left, func(o named) bool { return o.To == m.From })
		})
		if i < 0 {
			b.mixes = nil
			for _, m := range round(left) {
				b.Loop = append(b.Loop, m.name)
			}
			return
		}
		b.mixes = append(b.mixes, left[i])
		left = slices.Delete(left, i, i+1)
	}
}

// round keeps those mixes that go round: whatever leads nowhere is taken off from the other end too.
func round(left []named) []named {
	for {
		i := slices.IndexFunc(left, func(m named) bool {
			return !slices.ContainsFunc(left, func(o named) bool { return o.From == m.To })
		})
		if i < 0 {
			return left
		}
		left = slices.Delete(left, i, i+1)
	}
}

// Pulse that arrives on a channel: what its switch sends, unless a mix takes its place, and all that is mixed onto it,
// with the switches in these positions; and whether anything drives it at all. A switch that stands nowhere sends its middle. Of
// two switches on one channel the last by name is heard.
func (b Switchboard) Pulse(channel int, at map[string]string) (us float64, driven bool) {
	out := map[int]float64{}
	for _, name := range b.order {
		s := b.switches[name]
		if us, ok := s.Positions[at[name]]; ok {
			out[s.Channel] = us
		} else {
			out[s.Channel] = Centre
		}
	}
	of := func(c int) float64 {
		if us, ok := out[c]; ok {
			return us
		}
		return Centre
	}
	for _, m := range b.mixes {
		if m.Alone {
			out[m.To] = Centre
		}
	}
	for _, m := range b.mixes {
		out[m.To] = of(m.To) + m.Weight/100*(of(m.From)-Centre)
	}
	us, driven = out[channel]
	if !driven {
		return Centre, false
	}
	return max(800, min(2200, us)), true // no radio sends pulses beyond
}

// AtRest is what arrives on each channel that a switch drives while every switch lies where the plan has it at power-up; 0 where none
// drives it, or nobody told where it lies. Nothing is mixed onto it.
func (b Switchboard) AtRest(plan quad.RadioPlan) (out quad.Pulses) {
	for _, name := range b.order {
		s := b.switches[name]
		if us := s.Positions[plan.Switches[name].Rest]; us > 0 && s.Channel >= 1 && s.Channel <= len(out) {
			out[s.Channel-1] = us
		}
	}
	return out
}

// Mixes in an order in which each comes after those onto the channel it takes from.
func (b Switchboard) Mixes() []quad.MixPlan {
	var out []quad.MixPlan
	for _, m := range b.mixes {
		if m.From <= quad.MostChannels && m.To <= quad.MostChannels {
			out = append(out, m.MixPlan)
		}
	}
	return out
}

// Drivers names the switches that have a say on a channel, directly or through mixes, sorted.
func (b Switchboard) Drivers(channel int) []string {
	channels := map[int]bool{channel: true}
	for i := len(b.mixes) - 1; i >= 0; i-- {
		if m := b.mixes[i]; channels[m.To] {
			channels[m.From] = true
		}
	}
	var out []string
	for _, name := range b.order {
		if channels[b.switches[name].Channel] {
			out = append(out, name)
		}
	}
	return out
}

// Onto lists what drives a channel by itself: switches, and mixes by name. More than one may be one too many.
func (b Switchboard) Onto(channel int) (switches, mixes []string) {
	for _, name := range b.order {
		if b.switches[name].Channel == channel {
			switches = append(switches, name)
		}
	}
	for _, m := range b.mixes {
		if m.To == channel {
			mixes = append(mixes, m.name)
		}
	}
	return switches, mixes
}

// Place of one or more switches that matter for a channel, what arrives, and how far it is from the edges of a range.
type Place struct {
	At     map[string]string `json:"at"`
	Pulse  float64           `json:"pulse" unit:"µs"`
	Inside bool              `json:"inside"`
	Margin float64           `json:"margin" unit:"µs"`
}

// mostPlaces that are looked at of one channel: eight switches of three positions.
const mostPlaces = 6561

// Places that the switches with a say on a range's channel can take, by pulse.
func (b Switchboard) Places(r quad.Range) []Place {
	var out []Place
	b.each(b.Drivers(r.Channel), func(at map[string]string) {
		us, driven := b.Pulse(r.Channel, at)
		if driven {
			out = append(out, Place{At: maps.Clone(at), Pulse: us, Inside: r.Holds(us), Margin: Margin(r, us)})
		}
	})
	slices.SortStableFunc(out, func(a, b Place) int {
		switch {
		case a.Pulse < b.Pulse:
			return -1
		case a.Pulse > b.Pulse:
			return 1
		}
		return 0
	})
	return out
}

// each combination of positions of some switches, in the order of their names and positions, up to mostPlaces.
func (b Switchboard) each(names []string, do func(map[string]string)) {
	at, n := map[string]string{}, 0
	var next func(i int)
	next = func(i int) {
		if n >= mostPlaces {
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

// Margin of a pulse to the nearest edge of a range, µs, whichever side it is on. An edge at the very end of travel (900 and
// 2100 µs) is none: nothing lies beyond it.
func Margin(r quad.Range, us float64) float64 {
	low, high := us-r.From, r.To-us
	if r.From <= 900 {
		low = math.Inf(1)
	}
	if r.To >= 2100 {
		high = math.Inf(1)
	}
	if m := math.Min(low, high); !math.IsInf(m, 1) {
		return m
	}
	return 1200
}

// Mode that flies.
type Mode string

const (
	SelfLevel Mode = "self-level"
	Blended   Mode = "blended"
	Acro      Mode = "acro"
)

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
	return list, len(list) >= mostPlaces
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
		if on[f.ID] && (f.ID == Beep || f.ID == IdleAuthority) {
			c.Also = append(c.Also, f.On)
		}
	}
	if s.AuthorityAlways && !on[IdleAuthority] {
		c.Also = append(c.Also, "authority at idle")
	}
	return c
}

// Overlap of two ranges on one channel: pulses that are in both.
type Overlap struct {
	A, B     Function
	From, To float64 // µs
}

// Overlaps of the functions' ranges, where they are on one channel.
func Overlaps(functions []Function) []Overlap {
	var out []Overlap
	for i, a := range functions {
		for _, b := range functions[i+1:] {
			from, to := max(a.Rng.From, b.Rng.From), min(a.Rng.To, b.Rng.To)
			if a.Rng.Channel == b.Rng.Channel && from <= to {
				out = append(out, Overlap{a, b, from, to})
			}
		}
	}
	return out
}

// Words of where switches stand.
func (p Place) Words() string {
	var out []string
	for _, name := range quad.SortedKeys(p.At) {
		out = append(out, name+" at "+p.At[name])
	}
	return strings.Join(out, ", ")
}

// Strip is one channel of the switch map: what arrives on it, by what, and what the board does there.
type Strip struct {
	Channel   int        `json:"channel"`
	Switches  []string   `json:"switches"` // that drive it by themselves
	Mixes     []string   `json:"mixes"`
	Places    []Place    `json:"places"`
	Functions []Function `json:"functions"`
	Captured  bool       `json:"captured"` // as measured, not as planned
	Gaps      []Gap      `json:"gaps"`     // in which nothing is on
}

// Gap of a channel, µs, ends excluded.
type Gap struct {
	From float64 `json:"from" unit:"µs"`
	To   float64 `json:"to" unit:"µs"`
}

// Gaps between 900 and 2100 µs that none of some ranges holds.
func Gaps(ranges []quad.Range) []Gap {
	sorted := slices.SortedFunc(slices.Values(ranges), func(a, b quad.Range) int { return cmp.Compare(a.From, b.From) })
	out, at := []Gap{}, 900.0
	for _, r := range sorted {
		if r.From > r.To {
			continue // holds nothing; a rule of its own says so
		}
		if r.From > at {
			out = append(out, Gap{at, min(r.From, 2100)})
		}
		at = max(at, r.To)
	}
	if at < 2100 {
		out = append(out, Gap{at, 2100})
	}
	return out
}

// Strips of all channels that a switch drives or a function looks at, by channel.
func (b Switchboard) Strips(k quad.Known) []Strip {
	functions := Functions(k.Sheet.Sticks)
	channels := map[int]bool{}
	for _, f := range functions {
		channels[f.Rng.Channel] = true
	}
	for _, name := range b.order {
		channels[b.switches[name].Channel] = true
	}
	for _, m := range b.mixes {
		channels[m.To] = channels[m.To] || m.To > 4
	}
	captured := Captured(k)
	out := []Strip{}
	for c := 1; c <= 18; c++ {
		if !channels[c] {
			continue
		}
		s := Strip{Channel: c, Places: b.Places(quad.Range{Channel: c, From: 900, To: 2100}), Functions: []Function{}, Captured: true}
		s.Switches, s.Mixes = b.Onto(c)
		for _, name := range b.Drivers(c) {
			_, seen := captured[name]
			s.Captured = s.Captured && seen
		}
		var ranges []quad.Range
		for _, f := range functions {
			if f.Rng.Channel == c {
				s.Functions, ranges = append(s.Functions, f), append(ranges, f.Rng)
			}
		}
		s.Gaps = Gaps(ranges)
		if s.Switches == nil {
			s.Switches = []string{}
		}
		if s.Mixes == nil {
			s.Mixes = []string{}
		}
		if s.Places == nil {
			s.Places = []Place{}
		}
		out = append(out, s)
	}
	return out
}
