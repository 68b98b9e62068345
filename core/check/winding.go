package check

import (
	"maps"
	"slices"
	"strings"

	"vividperch/core/motors"
	"vividperch/core/quad"
)

// judgeSwitching looks whether all speed controllers switch alike, as the sheet says, and whether what was tried is worth keeping.
func judgeSwitching(k quad.Known) Result {
	var r Result
	letters := quad.SortedKeys(k.Sheet.Motors.Outputs)
	all := func(to float64) (edits []Edit) {
		for _, l := range letters {
			edits = append(edits, Edit{quad.Path("sheet.motors.outputs." + l + ".switching"), q(to, "")})
		}
		return edits
	}
	meant := map[float64][]string{}
	most := 0.0
	for _, l := range letters {
		f := k.Sheet.Motors.Outputs[l].Switching
		meant[f] = append(meant[f], l)
		if f > 0 && len(meant[f]) > len(meant[most]) || most == 0 {
			most = f
		}
	}
	if len(meant) > 1 {
		var parts []string
		for _, f := range slices.Sorted(maps.Keys(meant)) {
			how := q(f, "kHz")
			if f == 0 {
				how = "as delivered"
			}
			parts = append(parts, join(meant[f])+" "+how)
		}
		r.find(Finding{
			Weight:   Fix,
			Title:    "The motors are meant to be switched unlike",
			Figures:  upper(strings.Join(parts, "; ")) + ".",
			Why:      "The corner that switches slower brakes harder than the others.",
			Remedies: []Remedy{{Words: "All at " + q(most, "kHz"), Edits: all(most)}},
			Paths:    []quad.Path{"sheet.motors.outputs"},
		})
	}
	for _, l := range letters {
		want, says := k.Sheet.Motors.Outputs[l].Switching, k.Readings.Firmware.SpeedControllers[l]
		if want == 0 || says == nil || says.Value.Switching == want {
			continue
		}
		at := quad.Path("readings.firmware.speedControllers." + l)
		switch held := k.Board.Sheet.Motors.Outputs[l].Switching; {
		case k.Board.Read() && held == want:
			r.ask(at) // it was written since
		case !k.Board.Read() || held == 0:
			r.find(Finding{
				Weight:   Fix,
				Title:    "Speed controller " + l + " switches otherwise than the sheet says",
				Figures:  "It says " + q(says.Value.Switching, "kHz") + ", the sheet " + q(want, "kHz") + ".",
				Why:      "It brakes and sounds as it is set, not as it is meant.",
				Remedies: []Remedy{{Words: "Set it in the speed controller, and ask it again"}, {Words: "Or mean what it says", Edits: []Edit{{quad.Path("sheet.motors.outputs." + l + ".switching"), q(says.Value.Switching, "")}}}},
				Paths:    []quad.Path{at, quad.Path("sheet.motors.outputs." + l)},
			})
		}
	}
	if t := k.Readings.Motors.Trial; t != nil && len(letters) > 0 && len(meant[t.Value.Tried]) == len(letters) && t.Value.Before != t.Value.Tried {
		switch flown, helped := motors.Compared(t.Value); {
		case !flown:
			r.ask("readings.motors.trial")
		case !helped:
			r.find(Finding{
				Weight:   Note,
				Title:    "Switching at " + q(t.Value.Tried, "kHz") + " did not help",
				Figures:  "After a throttle cut it shakes by " + q(t.Value.Is, "deg/s") + ", before by " + q(t.Value.Was, "deg/s") + "; a tenth less is the least worth having.",
				Why:      "What does not help costs braking or quiet for nothing.",
				Remedies: []Remedy{{Words: "Back to " + q(t.Value.Before, "kHz"), Edits: all(t.Value.Before)}},
				Paths:    []quad.Path{"readings.motors.trial", "sheet.motors.outputs"},
			})
		}
	}
	return r
}
