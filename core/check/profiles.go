package check

import (
	"slices"

	"vividperch/core/feel"
	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// profilesOf are the places at which other profiles than the first have some figures, and those of the ranges that choose them.
func profilesOf(figures ...quad.Path) []quad.Path {
	out := []quad.Path{"sheet.sticks.secondProfile", "sheet.sticks.thirdProfile"}
	for _, f := range figures {
		out = append(out, "sheet.feel.second."+f, "sheet.feel.third."+f)
	}
	return out
}

var profileRules = []Rule{
	{
		ID:      "sticks.profiles",
		Station: Sticks,
		Reads: append(profilesOf("roll", "pitch", "yaw", "angleLimit", "throttleLimit"),
			"readings.sticks.switches", "radio.switches", "sheet.feel.roll", "sheet.feel.pitch", "sheet.feel.yaw", "sheet.feel.angleLimit", "sheet.feel.throttleLimit"),
		Judge: func(k quad.Known) Result {
			var r Result
			list := feel.Profiles(&k.Sheet)
			for _, hands := range list[1:] {
				var told []quad.Path
				for _, axis := range []string{"roll", "pitch", "yaw"} {
					told = append(told, hands.At+quad.Path("."+axis+".centre"), hands.At+quad.Path("."+axis+".peak"))
				}
				untold := quad.Untold(&k, append(told, hands.At+".angleLimit", hands.At+".throttleLimit"))
				r.ask(untold...)
				if len(sticks.Against(hands.When, sticks.Captured(k))) == 0 {
					r.ask(plannedOn(k, hands.When.Channel)...)
				}
				if len(untold) == 0 && len(feel.Differ(list[0], hands)) == 0 {
					r.find(Finding{
						Weight:   Note,
						Title:    quad.Upper(hands.Words) + " is as the first",
						Why:      "Its switch changes nothing.",
						Remedies: by("Change what is to be otherwise in it, or take it off its switch"),
						Paths:    slices.Concat([]quad.Path{hands.At + ".angleLimit", hands.At + ".throttleLimit"}, told),
					})
				}
			}
			at := sticks.NewSwitchboard(k).AtRest(k.Radio)
			if i := feel.Chosen(list, at); i > 0 {
				f := Finding{
					Weight:   Note,
					Title:    "At power-up " + list[i].Words + " answers, not the first",
					Figures:  q(round1(at[list[i].When.Channel-1]), "µs") + " on channel " + quad.Number(float64(list[i].When.Channel)) + " at rest.",
					Why:      "Whoever takes off without a look at the switches flies with it.",
					Remedies: by("Put it on a position that the switch does not rest in, or let it be so on purpose"),
					Paths:    []quad.Path{list[i].At + ".throttleLimit", "radio.switches"},
				}
				r.find(f)
			}
			return r
		},
	},
}
