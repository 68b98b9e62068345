package check

import (
	"fmt"
	"math"

	"vividperch/core/airframe"
	"vividperch/core/flight"
	"vividperch/core/quad"
	"vividperch/core/senses"
)

// mounted is where the sheet says how the board lies.
var mounted = []quad.Path{"sheet.senses.boardRoll", "sheet.senses.boardPitch", "sheet.senses.boardYaw"}

var sensesRules = []Rule{
	{
		ID:      "senses.level",
		Station: Senses,
		Reads:   judgedBy("level", "readings.senses.level"),
		Voids:   []Event{Crash, Repair, Flash, NewMount},
		Judge: func(k quad.Known) Result {
			var r Result
			level := k.Readings.Senses.Level
			if level == nil {
				r.ask("readings.senses.level")
				return r
			}
			shown := level.Value.Words()
			tilt := senses.Tilt(level.Value.Roll, level.Value.Pitch)
			most, whose := Limit(k, "level")
			if tilt > min(most, senses.LeanMost) {
				drift := senses.Drift(tilt, airframe.Gravity)
				f := Finding{
					Weight:   Fix,
					Title:    "Level is not level",
					Figures:  fmt.Sprintf("On the plate it shows %s, %s in all: %s of drift, %s in 5 s.", shown, q(round1(tilt), "deg"), q(round2(drift), "m/s²"), q(round1(drift*12.5), "m")) + whose,
					Why:      "In self-level it leans by as much and drifts off; trims only hide it.",
					Remedies: []Remedy{{Words: "Set as level on the plate, and read it back", Level: true}},
					Paths:    []quad.Path{"readings.senses.level"},
					Shows:    flight.FaultLevel,
				}
				switch {
				case tilt > senses.TurnedFrom:
					f.Weight, f.Title = Stop, "The board does not lie as the quad does"
					f.Figures = "On the plate it shows " + shown + "."
					f.Why = "No calibration takes up as much: it was mounted otherwise than it was told."
					if tilt > 90 {
						f.Title = "The board lies on its back"
					}
					f.Remedies = by("Look how the board lies, tell the board so, then read its level again")
				case tilt > senses.LeanMost:
					f.Weight = Stop
					f.Why = "In self-level it leans by as much: it slides off, and may tip over before it has left its feet."
					if tilt < senses.LeanSurely {
						f.Shows = "" // a steady hand may still hold it
					}
				}
				r.find(f)
			}
			return r
		},
	},
	{
		ID:      "senses.board-lies",
		Station: Senses,
		Reads:   append([]quad.Path{"readings.senses.boardLies"}, mounted...),
		Voids:   []Event{Crash, Repair, NewMount},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.Senses.BoardLies
			if m == nil {
				r.ask("readings.senses.boardLies")
				return r
			}
			told := k.Sheet.Senses.Mount()
			off := senses.AngleBetween(m.Value, told)
			if off <= senses.TurnedNote {
				return r
			}
			to := senses.Mounted(m.Value)
			tell := Remedy{Words: "Tell it how it lies: " + to.Words()}
			for _, of := range []struct {
				path    quad.Path
				was, is float64
			}{{mounted[0], told.Roll, to.Roll}, {mounted[1], told.Pitch, to.Pitch}, {mounted[2], told.Yaw, to.Yaw}} {
				if of.is != of.was {
					tell.Edits = append(tell.Edits, Edit{of.path, q(of.is, "")})
				}
			}
			f := Finding{
				Weight:   Fix,
				Title:    "The board lies otherwise than it was told",
				Figures:  "It lies " + senses.Rounded(m.Value).Words() + "; told " + told.Words() + ": " + q(math.Round(off), "deg") + " apart.",
				Why:      "Part of what it takes for one axis is another: it leans aside as it is corrected.",
				Remedies: []Remedy{tell, {Words: "Or put the board as it was told to lie"}},
				Paths:    append([]quad.Path{"readings.senses.boardLies"}, mounted...),
			}
			if off > senses.TurnedMost {
				f.Weight, f.Why = Stop, "Its corrections push the wrong corners: it tips over as it lifts, or circles away."
				if off > senses.TurnedShows {
					f.Shows = flight.FaultMount
				}
			}
			r.find(f)
			return r
		},
	},
	{
		ID:      "senses.gyro-still",
		Station: Senses,
		Reads:   []quad.Path{"readings.senses.gyroStill"},
		Voids:   []Event{Crash, Flash, NewMount},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.Senses.GyroStill
			if m == nil {
				r.ask("readings.senses.gyroStill")
				return r
			}
			if m.Value > senses.GyroTolerance {
				r.find(Finding{
					Weight:   Stop,
					Title:    "The gyro turns while the quad stands still",
					Figures:  q(m.Value, "deg/s") + " at rest; 1 is the most.",
					Why:      "It rotates to cancel a turn that is not there.",
					Remedies: by("Power up untouched; if it stays, the sensor is hurt"),
					Paths:    []quad.Path{"readings.senses.gyroStill"},
				})
			}
			return r
		},
	},
}
