package check

import (
	"fmt"
	"math"

	"vividperch/core/firmware"
	"vividperch/core/flight"
	"vividperch/core/quad"
	"vividperch/core/senses"
)

// navigating are the places that say whether it is to hold its place or to come home.
var navigating = []quad.Path{"sheet.loss.policy", "sheet.sticks.hold", "sheet.sticks.comeHome"}

func returns(k quad.Known) bool {
	return k.Sheet.Loss.Policy == quad.PolicyReturn || k.Sheet.Sticks.ComeHome.Used()
}

func navigates(k quad.Known) bool { return returns(k) || k.Sheet.Sticks.Hold.Used() }

// Shares of the heading error from which on a hold circles: half of it is left for what else is late or off, and what is left of it after that is no
// reserve but a fault that shows.
const circlesReserve = 0.5

var navigationRules = []Rule{
	{
		ID:      "senses.return-leans",
		Station: Senses,
		Reads:   append([]quad.Path{"sheet.senses.satellite", "sheet.senses.barometer", "sheet.senses.compass", "parts.wires.satellite.port"}, navigating...),
		Judge: func(k quad.Known) Result {
			var r Result
			if !navigates(k) {
				return r
			}
			var lacks []string
			if k.Parts.Wires["satellite"].Port == "" {
				lacks = append(lacks, "no satellite receiver is soldered on")
			} else if !k.Sheet.Senses.Satellite {
				lacks = append(lacks, "the satellite receiver is switched off")
			}
			if !k.Sheet.Senses.Barometer {
				lacks = append(lacks, "the barometer is switched off")
			}
			if !k.Sheet.Senses.Compass {
				lacks = append(lacks, "the compass is switched off")
			}
			if len(lacks) == 0 {
				return r
			}
			f := Finding{
				Weight:  Stop,
				Title:   "Return leans on a sense it does not have",
				Figures: quad.Upper(quad.And(lacks)) + ".",
				Why:     "It would fly off to nowhere, or not hold its height on the way.",
				Paths:   append([]quad.Path{"sheet.senses.satellite", "sheet.senses.barometer", "sheet.senses.compass"}, navigating...),
			}
			if k.Sheet.Loss.Policy == quad.PolicyReturn {
				f.Remedies = []Remedy{{Words: "Drop on a loss instead", Edits: []Edit{{"sheet.loss.policy", `"drop"`}}}}
			} else {
				f.Title, f.Why = "A switch holds its place or brings it home, by a sense it does not have", "Thrown in the air, it lets go of the sticks and knows nothing better."
				f.Remedies = []Remedy{{Words: "Take hold and come home off the switches", Edits: []Edit{{"sheet.sticks.hold.channel", "0"}, {"sheet.sticks.comeHome.channel", "0"}}}}
			}
			r.find(f)
			return r
		},
	},
	{
		ID:      "senses.faces",
		Station: Senses,
		Reads:   []quad.Path{"readings.senses.faces", "sheet.firmware.line"},
		Voids:   []Event{Crash, Repair, NewMount},
		Ages:    []quad.Path{"readings.senses.faces"},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.Senses.Faces
			if m == nil {
				if l, ok := firmware.FindLine(k.Sheet.Firmware.Line); ok && l.Control.Faces {
					r.ask("readings.senses.faces")
				}
				return r
			}
			f := m.Value
			if f.Offset > senses.FaceOffset || f.Scale > senses.FaceScale || f.Cross > senses.FaceCross {
				r.find(Finding{
					Weight:   Fix,
					Title:    "The accelerometer is off on one of its faces",
					Figures:  quad.Upper(f.Words()) + "; " + q(senses.FaceOffset, "m/s²") + " and " + q(senses.FaceScale, "%") + " are the most.",
					Why:      "Level is right where it was set, and wrong once it leans: a hold slides away in a turn.",
					Remedies: by("Lay it on all six faces again, against something square"),
					Paths:    []quad.Path{"readings.senses.faces"},
				})
			}
			return r
		},
	},
	{
		ID:      "senses.compass",
		Station: Senses,
		Reads:   append([]quad.Path{"readings.senses.compass", "sheet.senses.compass"}, navigating...),
		Days:    compassDays,
		Renewed: true,
		By:      renewedBy,
		Voids:   CompassVoids,
		Judge: func(k quad.Known) Result {
			var r Result
			if !navigates(k) || !k.Sheet.Senses.Compass {
				return r
			}
			m := k.Readings.Senses.Compass
			if m == nil {
				r.ask("readings.senses.compass")
				return r
			}
			c := m.Value
			f := Finding{Weight: Fix, Remedies: by("Turn it through every direction again, outdoors, away from cars, fences and what you carry"), Paths: []quad.Path{"readings.senses.compass"}}
			if c.Field < senses.FieldLeast || c.Field > senses.FieldMost {
				g := f
				g.Title, g.Figures = "The compass does not measure the earth", q(round1(c.Field), "µT")+"; the earth has "+q(senses.FieldLeast, "")+" to "+q(senses.FieldMost, "µT")+"."
				g.Why = "Something magnetic sits beside it, or its scale is another sensor's."
				r.find(g)
			}
			if share := c.Residual / max(c.Field, 1e-9); share > senses.ResidualMost {
				g := f
				g.Title, g.Figures = "The compass's samples lie on no sphere", fmt.Sprintf("%s off, %.0f %% of the field; %.0f %% is the most.", q(round2(c.Residual), "µT"), 100*share, 100*senses.ResidualMost)
				g.Why = "Something moved with it or near it while it was turned, and the heading will be wrong in some directions."
				r.find(g)
			}
			if c.Covered < 100*senses.CoveredLeast {
				g := f
				g.Title, g.Figures = "The compass was turned on one side only", fmt.Sprintf("%.0f %% of all directions seen; %.0f %% is the least.", c.Covered, 100*senses.CoveredLeast)
				g.Why = "What was not seen is a guess: the heading may be off once it leans."
				r.find(g)
			}
			return r
		},
	},
	{
		ID:      "senses.heading",
		Station: Senses,
		Reads:   append([]quad.Path{"readings.senses.heading", "readings.senses.headingAside", "sheet.senses.compass", "sheet.senses.compassTurned", "sheet.senses.declination", "sheet.feel.levelStrength"}, navigating...),
		Days:    compassDays,
		Renewed: true,
		By:      renewedBy,
		Voids:   []Event{Crash, Repair, NewMount, Flash},
		Judge: func(k quad.Known) Result {
			var r Result
			if !navigates(k) || !k.Sheet.Senses.Compass {
				return r
			}
			m, aside := k.Readings.Senses.Heading, k.Readings.Senses.HeadingAside
			if m == nil || aside == nil {
				if m == nil {
					r.ask("readings.senses.heading")
				}
				if aside == nil {
					r.ask("readings.senses.headingAside")
				}
				return r
			}
			paths := []quad.Path{"readings.senses.heading", "readings.senses.headingAside"}
			if quad.RunsBackwards(m.Value, aside.Value) {
				r.find(Finding{
					Weight:   Stop,
					Title:    "The compass lies on its back",
					Figures:  "From " + q(m.Value.Known, "deg") + " to " + q(aside.Value.Known, "deg") + " the heading went from " + q(m.Value.Shown, "deg") + " to " + q(aside.Value.Shown, "deg") + ": the other way round.",
					Why:      "It turns away from where it should go: it flies off.",
					Remedies: by("Fit it with its top up, or tell the board how it lies, then read both directions again"),
					Paths:    paths,
					Shows:    flight.FaultHeading,
				})
				return r
			}
			off, across := m.Value.Off(k.Sheet.Senses), aside.Value.Off(k.Sheet.Senses)
			worst := off
			if math.Abs(across) > math.Abs(off) {
				worst = across
			}
			edge := flight.CirclesFrom(k.Sheet.Feel.LevelStrength)
			if math.Abs(worst) <= senses.HeadingTolerance {
				return r
			}
			f := Finding{
				Weight:  Fix,
				Title:   "The heading is off",
				Figures: "It shows " + q(round1(m.Value.Shown), "deg") + " for " + q(round1(m.Value.Known), "deg") + ": " + q(round1(math.Abs(worst)), "deg") + " off; " + q(senses.HeadingTolerance, "deg") + " is the most.",
				Why:     "A hold corrects aside of where it should, and comes to rest slowly.",
				Paths:   append(paths, "sheet.senses.compassTurned"),
			}
			if math.Abs(math.Remainder(off-across, 360)) > 2*senses.HeadingTolerance {
				f.Title = "The heading is off, and not alike in both directions"
				f.Figures += " Across it, " + q(round1(across), "deg") + "."
				f.Remedies = by("Turn the compass through every direction anew: iron or a wire beside it pulls it one way")
			} else if told, turned := senses.TurnedOnMount(off, k.Sheet.Senses.CompassTurned); turned {
				f.Title = "The compass is turned on its mount otherwise than it was told"
				f.Remedies = []Remedy{{Words: "Tell it that the compass is turned by " + q(told, "deg"), Edits: []Edit{{"sheet.senses.compassTurned", q(told, "")}}}}
			} else {
				f.Remedies = by("Turn the compass through every direction anew, away from metal; look whether the declination is the place's, and added once")
			}
			if math.Abs(worst) > circlesReserve*edge {
				f.Weight, f.Why = Stop, "From "+q(round1(edge), "deg")+" on a hold circles ever wider, and a return never comes to rest over home."
				if math.Abs(worst) > edge+circlesSurely && math.Abs(math.Remainder(off-across, 360)) <= 2*senses.HeadingTolerance {
					f.Shows = flight.FaultHeading
				}
			}
			r.find(f)
			return r
		},
	},
	{
		ID:      "senses.interference",
		Station: Senses,
		Reads:   append([]quad.Path{"readings.senses.interference", "readings.senses.heading", "limits.field", "sheet.senses.compass", "sheet.feel.levelStrength"}, navigating...),
		Days:    compassDays,
		Renewed: true,
		By:      renewedBy,
		Voids:   []Event{Repair, NewMount},
		Judge: func(k quad.Known) Result {
			var r Result
			if !navigates(k) || !k.Sheet.Senses.Compass {
				return r
			}
			m := k.Readings.Senses.Interference
			if m == nil {
				r.ask("readings.senses.interference")
				return r
			}
			there := k.Limits.FieldThere()
			share := m.Value.AtHover / there
			if share <= senses.DisturbsMost {
				return r
			}
			turns, off := senses.HeadingWithin(m.Value.AtHover, there), 0.0
			if h := k.Readings.Senses.Heading; h != nil {
				off = math.Abs(h.Value.Off(k.Sheet.Senses))
			}
			f := Finding{
				Weight:   Fix,
				Title:    "The motors' current turns the heading",
				Figures:  fmt.Sprintf("%s in hover, %.0f %% of %s: up to %s of heading; %.0f %% is the most.", q(round2(m.Value.AtHover), "µT"), 100*share, k.Limits.FieldWords(), q(round1(turns), "deg"), 100*senses.DisturbsMost),
				Why:      "The more throttle, the more it is off: it circles in a climb, not on the ground where you looked.",
				Remedies: by("Move the compass up and away, twist the battery lead and lead it off, then measure again"),
				Paths:    []quad.Path{"readings.senses.interference"},
			}
			if edge := flight.CirclesFrom(k.Sheet.Feel.LevelStrength); turns+off > circlesReserve*edge {
				f.Weight, f.Why = Stop, "With what the heading is off at rest it comes near "+q(round1(edge), "deg")+", from which on a hold circles ever wider."
			}
			r.find(f)
			return r
		},
	},
	{
		ID:      "senses.sky",
		Station: Senses,
		Reads:   append([]quad.Path{"readings.senses.satellites", "readings.senses.videoTrial", "sheet.senses.satellite", "sheet.loss.satellites"}, navigating...),
		Days:    1,
		Judge: func(k quad.Known) Result {
			var r Result
			if !navigates(k) || !k.Sheet.Senses.Satellite {
				return r
			}
			m := k.Readings.Senses.Satellites
			if m == nil {
				r.ask("readings.senses.satellites")
				return r
			}
			paths := []quad.Path{"readings.senses.satellites"}
			s := m.Value
			wants := max(senses.Solves, k.Sheet.Loss.Satellites)
			switch {
			case s.Satellites < wants:
				r.find(Finding{
					Weight:   Stop,
					Title:    "It does not know where it is",
					Figures:  q(float64(s.Satellites), "") + " satellites; it wants " + q(float64(wants), "") + ".",
					Why:      "It refuses to hold or to come home: after a loss it comes down where it is.",
					Remedies: by("Wait, with an open sky and the video off; or do not lean on it today"),
					Paths:    append(paths, "sheet.loss.satellites"),
				})
			case s.Dilution > senses.DilutionMost:
				r.find(Finding{
					Weight:   Stop,
					Title:    "Its position wanders too much to fly by",
					Figures:  "A dilution of " + q(s.Dilution, "") + "; " + q(senses.DilutionMost, "") + " is the most.",
					Why:      "It runs after a place that jumps, and touches down sideways.",
					Remedies: by("Wait for a better sky, with nothing over it and the video off; or do not lean on it today"),
					Paths:    paths,
				})
			case s.Satellites < senses.LeastSatellites:
				r.find(Finding{
					Weight:   Fix,
					Title:    "Few satellites",
					Figures:  q(float64(s.Satellites), "") + "; " + q(senses.LeastSatellites, "") + " is the least: four to solve, four to lose.",
					Why:      "As it leans or turns it loses some, and with them its place.",
					Remedies: by("Wait; try without the video; move the receiver up and away from the transmitter"),
					Paths:    paths,
				})
			}
			if v := k.Readings.Senses.VideoTrial; v != nil && v.Value.Least > 0 && v.Value.Lost >= 1 {
				r.find(Finding{
					Weight:   Fix,
					Title:    "The video costs satellites",
					Figures:  q(round1(v.Value.Lost), "") + " of them, " + q(round1(v.Value.Least), "") + " to " + q(round1(v.Value.Most), "") + ", over " + q(float64(v.Value.Pairs), "") + " pairs.",
					Why:      "It is fewest when it flies and you look through it.",
					Remedies: by("Move the receiver away from the transmitter and its antenna, or put a grounded sheet between them, then count again by turns"),
					Paths:    []quad.Path{"readings.senses.videoTrial"},
				})
			}
			return r
		},
	},
	{
		ID:      "senses.home",
		Station: Senses,
		Reads:   append([]quad.Path{"readings.senses.homeKnown"}, "sheet.loss.policy", "sheet.sticks.comeHome"),
		Days:    1,
		Voids:   []Event{Flash},
		Judge: func(k quad.Known) Result {
			var r Result
			if !returns(k) {
				return r
			}
			confirm(&r, k.Readings.Senses.HomeKnown, "readings.senses.homeKnown", true, Finding{
				Weight:   Stop,
				Title:    "It takes off before it knows home",
				Why:      "What it never knew it does not come back to: lost far out, it comes down there.",
				Remedies: by("Wait for a position before you arm, and let it arm with a position alone"),
			})
			return r
		},
	},
	{
		ID:      "senses.height",
		Station: Senses,
		Reads:   append([]quad.Path{"readings.senses.heights", "sheet.senses.barometer"}, navigating...),
		Days:    90,
		Voids:   []Event{Repair, NewMount},
		Judge: func(k quad.Known) Result {
			var r Result
			if !navigates(k) || !k.Sheet.Senses.Barometer {
				return r
			}
			m := k.Readings.Senses.Heights
			if m == nil {
				r.ask("readings.senses.heights")
				return r
			}
			h := m.Value
			for _, of := range []struct {
				is, most          float64
				title, figure, do string
			}{
				{h.Noise, senses.HeightNoiseMost, "The height trembles", "by " + q(round2(h.Noise), "m"), "Put open foam over the barometer: wind and propellers blow into it"},
				{math.Abs(h.Drift), senses.HeightDriftMost, "The height drifts", "by " + q(round1(math.Abs(h.Drift)), "m") + " in five minutes", "Let it warm up, keep sun and light off the barometer, then look again"},
				{math.Abs(h.Jump), senses.HeightJumpMost, "The height jumps as the motors spin up", "by " + q(round1(math.Abs(h.Jump)), "m"), "Close the board in, or put open foam over the barometer"},
			} {
				if of.is > of.most {
					r.find(Finding{
						Weight:   Fix,
						Title:    of.title,
						Figures:  quad.Upper(of.figure) + "; " + q(of.most, "m") + " is the most.",
						Why:      "It holds its height, and comes down slowly near the ground, by that figure.",
						Remedies: by(of.do),
						Paths:    []quad.Path{"readings.senses.heights"},
					})
				}
			}
			return r
		},
	},
}

// circlesSurely is how far beyond the edge every hold of the model circles, deg.
const circlesSurely = 8.0
