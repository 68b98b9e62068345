package feel

import (
	"slices"

	"vividperch/core/quad"
)

// Hands are what one profile makes of the sticks.
type Hands struct {
	Words string     // "the first profile (race)"
	Name  string     // the pilot's, or nothing
	At    quad.Path  // of its figures
	Named quad.Path  // of its name
	When  quad.Range // that chooses it; that of the first holds nothing
	Path  quad.Path  // of that range; nothing for the first
	quad.Profile
}

// Used says whether it is the first, or on a channel.
func (h Hands) Used() bool { return h.Path == "" || h.When.Used() }

// Profiles of a sheet: the first, and behind it those that are on a channel. Of several that are on, the last counts.
func Profiles(s *quad.Sheet) []Hands {
	return slices.DeleteFunc(AllProfiles(s), func(h Hands) bool { return !h.Used() })
}

// AllProfiles of a sheet, in their order, on a channel or not.
func AllProfiles(s *quad.Sheet) []Hands {
	f := &s.Feel
	first := quad.Profile{Name: f.Profile, Roll: f.Roll, Pitch: f.Pitch, Yaw: f.Yaw, AngleLimit: f.AngleLimit, ThrottleLimit: f.ThrottleLimit}
	out := []Hands{
		{"the first profile", f.Profile, "sheet.feel", "sheet.feel.profile", quad.Range{}, "", first},
		{"the second profile", f.Second.Name, "sheet.feel.second", "sheet.feel.second.name", s.Sticks.SecondProfile, "sheet.sticks.secondProfile", f.Second},
		{"the third profile", f.Third.Name, "sheet.feel.third", "sheet.feel.third.name", s.Sticks.ThirdProfile, "sheet.sticks.thirdProfile", f.Third},
	}
	for i := range out {
		if out[i].Name != "" {
			out[i].Words += " (" + out[i].Name + ")"
		}
	}
	return out
}

// Chosen is the place in a list of profiles of the one that counts while some pulses arrive.
func Chosen(list []Hands, arrives quad.Pulses) int {
	at := 0
	for i, p := range list {
		if p.When.On(&arrives) {
			at = i
		}
	}
	return at
}

// Difference between two profiles in one figure.
type Difference struct {
	Place quad.Path // within each of them
	Label string
	Unit  string
	First float64
	Other float64
}

// Differ lists what one profile has otherwise than the first, in the order of the sheet. What nobody told of it is left out.
func Differ(first, other Hands) []Difference {
	out := []Difference{}
	before := quad.Leaves(first.Profile, "")
	for i, l := range quad.Leaves(other.Profile, "") {
		y, figure := l.Value.(float64)
		if x, same := before[i].Value.(float64); figure && same && x != y && !l.Untold {
			out = append(out, Difference{l.Path, l.Label, l.Unit, x, y})
		}
	}
	return out
}

// LeastLean is the least angle limit of some profiles, deg, and MostLean the greatest; one that nobody told is left out.
func LeastLean(list []Hands) float64 {
	least := list[0].AngleLimit
	for _, p := range list {
		if p.AngleLimit > 0 {
			least = min(least, p.AngleLimit)
		}
	}
	return least
}

// MostLean is the greatest angle limit of some profiles, deg.
func MostLean(list []Hands) float64 {
	most := 0.0
	for _, p := range list {
		most = max(most, p.AngleLimit)
	}
	return most
}
