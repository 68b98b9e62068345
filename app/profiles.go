package app

import (
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
	Path    quad.Path `json:"path"`
	Label   string    `json:"label"`
	Words   string    `json:"words"`
	Differs bool      `json:"differs"` // from the first
}

// curveSteps from the centre of a stick to its end.
const curveSteps = 20

// profilesOf a quad: the first, and those that its firmware can hold or that are told. One alone where there is no other.
func profilesOf(k quad.Known, holds func(quad.Path) bool) []ProfileView {
	used, b := feel.Profiles(&k.Sheet), sticks.NewSwitchboard(k)
	rest := used[feel.Chosen(used, b.AtRest(k.Radio))].At
	var out []ProfileView
	for _, hands := range feel.AllProfiles(&k.Sheet) {
		if !hands.Used() && (holds == nil || !holds(hands.At+".angleLimit")) {
			continue
		}
		v := ProfileView{
			At: hands.At, Named: hands.Named, Words: hands.Words, Name: hands.Name, When: hands.Path, Used: hands.Used(), Rest: hands.At == rest,
			Chosen: []string{}, Figures: profileFigures(used[0], hands),
		}
		for _, a := range b.Arrivals(hands.When) {
			if a.Inside && len(a.At) > 0 {
				v.Chosen = append(v.Chosen, a.Words())
			}
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

// profileFigures of one profile beside the first. Of an axis without a peak nothing is told, its bend neither.
func profileFigures(first, hands feel.Hands) []ProfileFigure {
	differs := map[quad.Path]bool{}
	for _, d := range feel.Differ(first, hands) {
		differs[hands.At+"."+d.Place] = true
	}
	bare := map[quad.Path]bool{}
	for axis, rates := range map[quad.Path]quad.Rates{".roll": hands.Roll, ".pitch": hands.Pitch, ".yaw": hands.Yaw} {
		bare[hands.At+axis+".bend"] = rates.Peak == 0
	}
	out := []ProfileFigure{}
	for _, l := range quad.Leaves(hands.Profile, hands.At) {
		if l.Path == hands.At+".name" {
			continue
		}
		l.Untold = l.Untold || bare[l.Path]
		out = append(out, ProfileFigure{Path: l.Path, Label: l.Label, Words: l.Words(), Differs: differs[l.Path] && !l.Untold})
	}
	return out
}
