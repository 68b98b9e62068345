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
	now := motors.SwitchedOf(k)
	all := func(to float64) (edits []Edit) {
		for _, o := range now.Outputs {
			edits = append(edits, Edit{quad.Path("sheet.motors.outputs." + o.Output + ".switching"), q(to, "")})
		}
		return edits
	}
	meant := map[float64][]string{}
	most := 0.0
	for _, o := range now.Outputs {
		f := o.Meant
		meant[f] = append(meant[f], o.Output)
		if f > 0 && len(meant[f]) > len(meant[most]) || most == 0 {
			most = f
		}
	}
	if !now.Alike {
		var parts []string
		for _, f := range slices.Sorted(maps.Keys(meant)) {
			how := q(f, "kHz")
			if f == 0 {
				how = "as delivered"
			}
			parts = append(parts, quad.And(meant[f])+" "+how)
		}
		r.find(Finding{
			Weight:   Fix,
			Title:    "The motors are meant to be switched unlike",
			Figures:  quad.Upper(strings.Join(parts, "; ")) + ".",
			Why:      "The corner that switches slower brakes harder than the others.",
			Remedies: []Remedy{{Words: "All at " + q(most, "kHz"), Edits: all(most)}},
			Paths:    []quad.Path{"sheet.motors.outputs"},
		})
	}
	var asSaid []Edit // what every speed controller says, so that taking it leaves none unlike the others
	for _, o := range now.Outputs {
		if o.Says > 0 {
			asSaid = append(asSaid, Edit{quad.Path("sheet.motors.outputs." + o.Output + ".switching"), q(o.Says, "")})
		}
	}
	for _, o := range now.Outputs {
		l, want := o.Output, o.Meant
		if want == 0 || o.Says == 0 || o.Says == want {
			continue
		}
		at := quad.Path("readings.firmware.speedControllers." + l)
		switch held := k.Board.Sheet.Motors.Outputs[l].Switching; {
		case k.Board.Read() && held == want:
			r.ask(at) // it was written since
		case !k.Board.Read() || held == 0:
			r.find(Finding{
				Weight:   Fix,
				Title:    "Speed controller " + l + " switches otherwise than your settings say",
				Figures:  "It says " + q(o.Says, "kHz") + ", the sheet " + q(want, "kHz") + ".",
				Why:      "It brakes and sounds as it is set, not as it is meant.",
				Remedies: []Remedy{{Words: "Set it in the speed controller, and ask it again"}, {Words: "Or mean what they all say", Edits: asSaid}},
				Paths:    []quad.Path{at, quad.Path("sheet.motors.outputs." + l)},
			})
		}
	}
	if t := now.Trial; t != nil {
		switch {
		case !t.Flown:
			r.ask("readings.motors.trial")
		case !t.Helped:
			r.find(Finding{
				Weight:   Note,
				Title:    "Switching at " + q(t.Tried, "kHz") + " did not help",
				Figures:  "After a throttle cut it shakes by " + q(t.Is, "deg/s") + ", before by " + q(t.Was, "deg/s") + "; a tenth less is the least worth having.",
				Why:      "What does not help costs braking or quiet for nothing.",
				Remedies: []Remedy{{Words: "Back to " + q(t.Before, "kHz"), Edits: all(t.Before)}},
				Paths:    []quad.Path{"readings.motors.trial", "sheet.motors.outputs"},
			})
		}
	}
	return r
}
