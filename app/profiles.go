package app

import (
	"reflect"
	"strings"

	"vividperch/core/feel"
	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// ProfileView is how the quad answers the hands in one profile.
type ProfileView struct {
	At    quad.Path `json:"at"`    // of its figures
	Named quad.Path `json:"named"` // of its name
	Words string    `json:"words"` // "the second profile (guest)"
	Name  string    `json:"name"`  // the pilot's, or nothing
	When  quad.Path `json:"when"`  // of the range that chooses it; nothing for the first
	Used  bool      `json:"used"`  // it is the first, or on a channel
	// Chosen says where switches stand for it; of the first, nowhere else.
	Chosen  []string        `json:"chosen"`
	Rest    bool            `json:"rest"` // it answers at power-up
	Figures []ProfileFigure `json:"figures"`
	// Curves of roll, pitch and yaw, deg/s at even steps from the stick's centre to its end; none of an axis that nobody told.
	Curves [][]float64 `json:"curves" unit:"deg/s"`
}

// ProfileFigure is one figure of a profile; the same place in the list is the same figure in every profile.
type ProfileFigure struct {
	Path    quad.Path   `json:"path"`
	Label   string      `json:"label"`
	Words   string      `json:"words"`
	Differs bool        `json:"differs"` // from the first
	Slots   []quad.Slot `json:"slots"`
}

// curveSteps from the centre of a stick to its end.
const curveSteps = 20

// profilesOf a quad: the first, and those that its firmware can hold or that are told. One alone where there is no other.
func profilesOf(k quad.Known, holds func(quad.Path) bool) []ProfileView {
	used := feel.Profiles(&k.Sheet)
	all := k.Sheet
	for _, r := range []*quad.Range{&all.Sticks.SecondProfile, &all.Sticks.ThirdProfile} {
		if !r.Used() {
			r.Channel = 1 // so that it is listed; it is not looked at
		}
	}
	b := sticks.NewSwitchboard(k)
	rest := feel.Chosen(used, b.AtRest(k.Radio))
	var out []ProfileView
	for i, hands := range feel.Profiles(&all) {
		v := ProfileView{At: hands.At, Named: hands.At + ".name", Words: hands.Words, Name: hands.Name, Used: i == 0, Chosen: []string{}, Figures: []ProfileFigure{}}
		if i == 0 {
			v.Named = "sheet.feel.profile"
		} else {
			v.When = [2]quad.Path{"sheet.sticks.secondProfile", "sheet.sticks.thirdProfile"}[i-1]
			for _, u := range used[1:] {
				v.Used = v.Used || u.At == hands.At
			}
			if !v.Used && (holds == nil || !holds(hands.At+".angleLimit")) {
				continue
			}
		}
		if v.Used {
			v.Rest = used[rest].At == hands.At
			for _, a := range b.Arrivals(hands.When) {
				if a.Inside && len(a.At) > 0 {
					v.Chosen = append(v.Chosen, a.Words())
				}
			}
		}
		first := feel.Profiles(&all)[0]
		before := quad.Leaves(first.Profile, "")
		for n, l := range quad.Leaves(hands.Profile, hands.At) {
			if l.Path == hands.At+".name" {
				continue
			}
			slots, err := quad.Slots(l.Path)
			if err != nil {
				continue
			}
			if path, bend := strings.CutSuffix(string(l.Path), ".bend"); bend {
				if peak, err := quad.Get(k, quad.Path(path+".peak")); err == nil && peak == 0.0 {
					l.Untold = true // of an axis of which nothing is told
				}
			}
			v.Figures = append(v.Figures, ProfileFigure{Path: l.Path, Label: before[n].Label, Words: l.Words(), Differs: i > 0 && !l.Untold && !reflect.DeepEqual(l.Value, before[n].Value), Slots: slots})
		}
		for _, rates := range []quad.Rates{hands.Roll, hands.Pitch, hands.Yaw} {
			curve := []float64{}
			if rates.Peak > 0 {
				for s := range curveSteps + 1 {
					curve = append(curve, feel.Rate(k.Sheet.Feel.Family, rates, float64(s)/curveSteps))
				}
			}
			v.Curves = append(v.Curves, curve)
		}
		out = append(out, v)
	}
	return out
}
