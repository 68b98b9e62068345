package sticks

import (
	"maps"
	"math"
	"slices"

	"vividperch/core/quad"
)

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
			for _, m := range goingRound(left) {
				b.Loop = append(b.Loop, m.name)
			}
			return
		}
		b.mixes = append(b.mixes, left[i])
		left = slices.Delete(left, i, i+1)
	}
}

// goingRound keeps those mixes that go round: whatever leads nowhere is taken off from the other end too.
func goingRound(left []named) []named {
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

const (
	SelfLevel Mode = "self-level"
	Blended   Mode = "blended"
	Acro      Mode = "acro"
)
