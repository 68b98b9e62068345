package sticks

import (
	"cmp"
	"encoding/json"
	"fmt"
	"slices"

	"vividperch/core/quad"
)

// Taste is what the pilot decides: schools differ, and neither is wrong.
type Taste struct {
	// LevelAtTop puts self-level at the high end of the mode switch; else it is at the low one.
	LevelAtTop bool `json:"levelAtTop"`
	// Blended is flown in the middle of a switch of three positions; else the middle is acro too.
	Blended bool `json:"blended"`
}

// TasteOf a plan as it is: where its mode switch levels, and whether it flies blended.
func TasteOf(k quad.Known) Taste {
	t := Taste{Blended: k.Sheet.Sticks.Blended.Used()}
	for _, plan := range k.Radio.Switches {
		if n := len(plan.Positions); plan.Channel == k.Sheet.Sticks.SelfLevel.Channel && n > 1 {
			t.LevelAtTop = k.Sheet.Sticks.SelfLevel.Holds(Planned(plan).Positions[plan.Positions[n-1]])
		}
	}
	return t
}

// Proposal of what each switch decides.
type Proposal struct {
	Words   []string   `json:"words"`
	Changes []string   `json:"changes"` // what of the sheet becomes another
	Edits   []PlanEdit `json:"edits"`
}

// PlanEdit is one range that the proposal sets, as JSON.
type PlanEdit struct {
	Path  quad.Path       `json:"path"`
	Value json.RawMessage `json:"value"`
}

// Propose a plan for the switches as they are: arm alone on one that stays where it is put, flight modes on the one with the
// most positions, the beeper on what is left, authority at idle with acro. A switch that is used for the same already keeps its
// part. Fewer than two switches, or one channel driven twice, is a Fault.
func Propose(k quad.Known, t Taste) (Proposal, error) {
	b := NewSwitchboard(k)
	if len(b.Loop) > 0 {
		return Proposal{}, quad.Faultf("loop", "radio.mixes", "mixes go round; take one of them out first")
	}
	free := map[string]quad.SwitchPlan{}
	for name, plan := range k.Radio.Switches {
		if switches, mixes := b.Onto(plan.Channel); plan.Channel > 4 && len(plan.Positions) > 1 && len(switches) == 1 && len(mixes) == 0 {
			free[name] = plan
		}
	}
	s := k.Sheet.Sticks
	// pick the switch that suits best: what it is used for now first, then by a measure, then by name.
	pick := func(now int, suits func(quad.SwitchPlan) int) (string, bool) {
		names := quad.SortedKeys(free)
		names = slices.DeleteFunc(names, func(n string) bool { return suits(free[n]) < 0 })
		slices.SortStableFunc(names, func(a, b string) int {
			score := func(n string) int {
				x := suits(free[n])
				if free[n].Channel == now {
					x += 100
				}
				return x
			}
			return cmp.Compare(score(b), score(a))
		})
		if len(names) == 0 {
			return "", false
		}
		return names[0], true
	}
	out := Proposal{Changes: []string{}}
	put := func(path quad.Path, name string, on ...string) error {
		r := b.rangeFor(name, on, path == "sheet.sticks.arm")
		raw, err := json.Marshal(r)
		if err != nil {
			return err
		}
		out.Edits = append(out.Edits, PlanEdit{path, raw})
		return nil
	}
	arm, ok := pick(s.Arm.Channel, func(p quad.SwitchPlan) int {
		if p.Springs || !slices.Contains(p.Positions, p.Rest) {
			return -1
		}
		return 10 - len(p.Positions)
	})
	if !ok {
		return Proposal{}, quad.Faultf("no-switch", "radio.switches", "arm needs a switch of its own that stays where it is put, on a channel from 5 on, with its position at power-up told")
	}
	plan := free[arm]
	delete(free, arm)
	armed := plan.Positions[len(plan.Positions)-1]
	if armed == plan.Rest {
		armed = plan.Positions[0]
	}
	if err := put("sheet.sticks.arm", arm, armed); err != nil {
		return Proposal{}, err
	}
	out.Words = append(out.Words, fmt.Sprintf("%s arms, at %s.", arm, armed))
	mode, ok := pick(s.SelfLevel.Channel, func(p quad.SwitchPlan) int {
		if p.Springs {
			return -1
		}
		return len(p.Positions)
	})
	if !ok {
		return Proposal{}, quad.Faultf("no-switch", "radio.switches", "flight modes need a second switch that stays where it is put, on a channel of its own")
	}
	plan = free[mode]
	delete(free, mode)
	positions := slices.Clone(plan.Positions)
	if t.LevelAtTop {
		slices.Reverse(positions)
	}
	if err := put("sheet.sticks.selfLevel", mode, positions[0]); err != nil {
		return Proposal{}, err
	}
	acro, words := positions[1:], fmt.Sprintf("%s flies self-level at %s", mode, positions[0])
	if t.Blended && len(positions) > 2 {
		if err := put("sheet.sticks.blended", mode, positions[1]); err != nil {
			return Proposal{}, err
		}
		acro, words = positions[2:], words+", blended at "+positions[1]
	} else {
		out.Edits = append(out.Edits, PlanEdit{"sheet.sticks.blended", noRange})
	}
	if err := put("sheet.sticks.authority", mode, acro...); err != nil {
		return Proposal{}, err
	}
	out.Edits = append(out.Edits, PlanEdit{"sheet.sticks.authorityAlways", json.RawMessage("false")})
	out.Words = append(out.Words, words+", acro with authority at idle at "+acro[len(acro)-1]+".")
	if beep, ok := pick(s.Beeper.Channel, func(p quad.SwitchPlan) int { return 10 - len(p.Positions) }); ok {
		plan := free[beep]
		on := plan.Positions[len(plan.Positions)-1]
		if on == plan.Rest {
			on = plan.Positions[0]
		}
		if err := put("sheet.sticks.beeper", beep, on); err != nil {
			return Proposal{}, err
		}
		out.Words = append(out.Words, fmt.Sprintf("%s sounds the beeper, at %s.", beep, on))
	}
	out.Changes = append(out.Changes, changes(s, out.Edits)...)
	return out, nil
}

// changes that some edits make to a sheet, in words.
func changes(s quad.SticksSheet, edits []PlanEdit) (out []string) {
	said := func(r quad.Range) string {
		if !r.Used() {
			return "on no switch"
		}
		return fmt.Sprintf("channel %d, %.0f to %.0f µs", r.Channel, r.From, r.To)
	}
	for _, e := range edits {
		i := slices.IndexFunc(everyFunction(s), func(f Function) bool { return f.Path == e.Path })
		var now quad.Range
		if i < 0 {
			if s.AuthorityAlways {
				out = append(out, "authority at idle no longer in every position")
			}
			continue
		}
		f := everyFunction(s)[i]
		if err := json.Unmarshal(e.Value, &now); err == nil && said(now) != said(f.Rng) {
			out = append(out, fmt.Sprintf("%s: %s, then %s", f.On, said(f.Rng), said(now)))
		}
	}
	return out
}

// rangeFor holds some positions of a switch and none of the others; one that arms keeps clear of the middle where it can.
func (b Switchboard) rangeFor(name string, on []string, arms bool) quad.Range {
	s := b.switches[name]
	var inside, outside []float64
	for position, us := range s.Positions {
		if slices.Contains(on, position) {
			inside = append(inside, us)
		} else {
			outside = append(outside, us)
		}
	}
	if r, ok := ArmRange(s.Channel, inside, outside); arms && ok {
		return r
	}
	return CentredRange(s.Channel, inside, outside)
}

// Assign a function to positions of a switch: its range then holds those and none of the switch's others, as far from each as can be.
// Without positions it is taken off every channel. Where a mix or another switch is on the channel too, a position is no pulse, and that is
// a Fault; so are positions between which lies another one.
func Assign(k quad.Known, function FunctionID, name string, positions []string) (PlanEdit, error) {
	paths := map[FunctionID]quad.Path{}
	for _, f := range everyFunction(k.Sheet.Sticks) {
		paths[f.ID] = f.Path
	}
	path, known := paths[function]
	if !known {
		return PlanEdit{}, quad.Faultf("no-function", string(function), "is nothing that a switch decides")
	}
	if len(positions) == 0 {
		return PlanEdit{path, noRange}, nil
	}
	b := NewSwitchboard(k)
	s, there := b.switches[name]
	if !there {
		return PlanEdit{}, quad.Faultf("no-switch", "radio.switches."+name, "the radio's plan has no such switch on a channel")
	}
	for _, p := range positions {
		if _, there := s.Positions[p]; !there {
			return PlanEdit{}, quad.Faultf("no-position", "radio.switches."+name, "has no position %q", quad.Clip(p, 60))
		}
	}
	if switches, mixes := b.Onto(s.Channel); len(switches)+len(mixes) != 1 {
		return PlanEdit{}, quad.Faultf("not-alone", "radio.switches."+name, "something else drives channel %d too; one position is not one pulse there", s.Channel)
	}
	r := b.rangeFor(name, positions, function == Arm)
	for _, p := range quad.SortedKeys(s.Positions) {
		if r.Holds(s.Positions[p]) && !slices.Contains(positions, p) {
			return PlanEdit{}, quad.Faultf("not-together", "radio.switches."+name, "%s lies between them; a meaning holds positions that lie together", p)
		}
	}
	raw, err := json.Marshal(r)
	return PlanEdit{path, raw}, err
}

// noRange takes a function off every channel.
var noRange = json.RawMessage(`{"channel":0,"from":0,"to":0}`)
