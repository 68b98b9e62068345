package check

import (
	"fmt"
	"math"

	"vividperch/core/airframe"
	"vividperch/core/feel"
	"vividperch/core/flight"
	"vividperch/core/motors"
	"vividperch/core/quad"
)

var firstFlightRules = []Rule{
	{
		ID:      "first-flight.propellers",
		Station: FirstFlight,
		Reads:   []quad.Path{"readings.firstFlight.propellers", "readings.motors.outputs", "sheet.craft.rotation"},
		Voids:   []Event{Crash, Repair},
		Ages:    []quad.Path{"readings.firstFlight.propellers"},
		Judge: func(k quad.Known) Result {
			var r Result
			spins := map[quad.Corner]quad.Spin{}
			for _, m := range k.Readings.Motors.Outputs {
				if m != nil {
					spins[m.Value.Corner] = m.Value.Spin
				}
			}
			for _, c := range quad.Corners {
				path := quad.Path("readings.firstFlight.propellers." + string(c))
				m := k.Readings.FirstFlight.Propellers[string(c)]
				if m == nil || !m.Value.PackOut {
					r.ask(path)
					continue
				}
				hand := m.Value.Hand
				spin, seen := spins[c]
				want := k.Sheet.Craft.Rotation.Wants(c)
				if !seen {
					spin = want
				}
				if spin == "" {
					continue // neither seen nor planned, which Motors says: no hand is right or wrong
				}
				if e := motors.EffectOf(want, spin, hand); !e.PushesUp {
					r.find(Finding{
						Weight:   Stop,
						Title:    quad.Upper(c.Words()) + ": the propeller pushes down",
						Figures:  "It is made to turn " + hand.Words() + ", the motor turns " + spin.Words() + ".",
						Why:      "The quad tips over to the " + c.Words() + " before it lifts.",
						Remedies: by("Fit one made to turn " + spin.Words() + ", lettering up"),
						Paths:    []quad.Path{path, "readings.motors.outputs"},
						Shows:    handOrSpin(hand, want),
					})
				}
			}
			return r
		},
	},
	{
		ID:      "first-flight.wind",
		Station: FirstFlight,
		Reads:   judgedBy("wind", append(profilesOf("angleLimit"), "readings.firstFlight.wind", "readings.firstFlight.gust", "sheet.feel.angleLimit", "parts.frame.dragArea", "readings.airframe.weight")...),
		Days:    1,
		Ages:    []quad.Path{"readings.firstFlight.wind", "readings.firstFlight.gust"},
		Judge: func(k quad.Known) Result {
			var r Result
			wind, gust := k.Readings.FirstFlight.Wind, k.Readings.FirstFlight.Gust
			if wind == nil {
				r.ask("readings.firstFlight.wind")
			}
			if gust == nil {
				r.ask("readings.firstFlight.gust")
			}
			if wind == nil || gust == nil {
				return r
			}
			weight, ok := r.weighed(k)
			untold := quad.Untold(&k, []quad.Path{"sheet.feel.angleLimit", "parts.frame.dragArea"})
			if r.ask(untold...); !ok || len(untold) > 0 {
				return r
			}
			lean := feel.LeastLean(feel.Profiles(&k.Sheet))
			able := flight.LevelSpeed(k.Parts, weight, lean)
			most, whose := Limit(k, "wind")
			holds := flight.HoldsAgainst(k.Parts, weight, lean)
			strongest := math.Max(wind.Value, gust.Value)
			f := Finding{
				Title:    "The wind is strong for a first hover",
				Figures:  fmt.Sprintf("%s with gusts of %s; above %s the drag of its frame alone carries it away.", q(wind.Value, "m/s"), q(gust.Value, "m/s"), q(math.Round(able), "m/s")),
				Why:      "A first hover should show the quad's faults, not the weather's.",
				Remedies: by("Wait, or find a lee"),
				Paths:    []quad.Path{"readings.firstFlight.wind", "readings.firstFlight.gust"},
			}
			switch {
			case strongest > holds:
				f.Weight, f.Title = Stop, "It cannot hold its place in this wind"
				r.find(f)
			case strongest > most:
				f.Weight, f.Figures = Fix, f.Figures+whose
				r.find(f)
			}
			return r
		},
	},
	{
		ID:      "first-flight.clear-radius",
		Station: FirstFlight,
		Reads:   []quad.Path{"readings.firstFlight.clear", "readings.firstFlight.rehearsal"},
		Days:    1,
		Ages:    []quad.Path{"readings.firstFlight.clear"},
		Judge: func(k quad.Known) Result {
			var r Result
			clear, flown := k.Readings.FirstFlight.Clear, k.Readings.FirstFlight.Rehearsal
			if clear == nil {
				r.ask("readings.firstFlight.clear")
			}
			if flown == nil { // what else is wrong with it, its own rule says
				r.ask("readings.firstFlight.rehearsal")
			}
			if clear == nil || flown == nil {
				return r
			}
			far := flight.Circle(flown.Value)
			if clear.Value < far {
				r.find(Finding{
					Weight:   Stop,
					Title:    "It is too narrow here",
					Figures:  fmt.Sprintf("%s are clear; %s are wanted: of %s flights in today's wind, some with a failure in the air, the farthest got %s before a slow hand had cut its power and it lay.", q(clear.Value, "m"), q(math.Ceil(far), "m"), q(float64(flown.Value.Tried), "count"), q(flown.Value.Farthest, "m")),
					Why:      "Propellers cut.",
					Remedies: by("Move away, or move people away"),
					Paths:    []quad.Path{"readings.firstFlight.clear"},
				})
			}
			return r
		},
	},
	{
		ID:      "first-flight.local-rules",
		Station: FirstFlight,
		Reads:   []quad.Path{"readings.firstFlight.rules", "limits.country", "limits.height"},
		Days:    1,
		Judge: func(k quad.Known) Result {
			var r Result
			confirm(&r, k.Readings.FirstFlight.Rules, "readings.firstFlight.rules", true, Finding{
				Weight:   Stop,
				Title:    "You say the local rules do not allow it",
				Figures:  k.Limits.Country,
				Why:      "The local authority's rules decide.",
				Remedies: by("Fly where and when they do"),
			})
			if most := k.Limits.Height; most > 0 && flight.HoverCard.Height > most {
				r.find(Finding{
					Weight:   Stop,
					Title:    "The card climbs higher than is allowed",
					Figures:  q(flight.HoverCard.Height, "m") + " on the card, " + q(most, "m") + " allowed.",
					Why:      "The local authority's rules decide.",
					Remedies: by("Fly where it may climb as high"),
					Paths:    []quad.Path{"limits.height"},
				})
			}
			return r
		},
	},
	{
		ID:      "first-flight.rehearsal",
		Station: FirstFlight,
		Days:    1,
		Ages:    []quad.Path{"readings.firstFlight.rehearsal"},
		Reads:   judgedBy("drift", reads("readings.firstFlight.rehearsal", "readings.firstFlight.wind", "readings.firstFlight.gust", "readings.firstFlight.propellers", "readings.motors.outputs", "readings.motors.starts", "readings.motors.startsAt", "readings.firmware.speedControllers", "sheet.firmware.line", "readings.sticks.axes", "readings.sticks.switches", "readings.senses.level", "readings.senses.boardLies", "readings.motors.layout", "radio.order", "radio.switches", "radio.mixes", "readings.airframe.weight", "readings.airframe.balance", "parts.placed", "parts.motor.mass", "sheet.craft", "sheet.motors", "sheet.sticks", "sheet.feel", "sheet.senses.boardRoll", "sheet.senses.boardPitch", "sheet.senses.boardYaw", "sheet.loss", "board.line", "board.sheet", "parts.frame.armFront", "parts.frame.armSide", "parts.frame.legHeight", "parts.frame.dragArea", "parts.frame.mass", "parts.motor.timeConstant", "parts.propeller.reversed")...),
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.FirstFlight.Rehearsal
			if m == nil {
				r.ask("readings.firstFlight.rehearsal")
				return r
			}
			in, err := flight.NewInput(k)
			if err != nil {
				r.find(Finding{
					Weight:   Stop,
					Title:    "This quad cannot be rehearsed",
					Figures:  quad.Explain(err),
					Why:      "What cannot be computed cannot be trusted.",
					Remedies: by("Fill in what is missing"),
					Paths:    []quad.Path{quad.Path(quad.AsFault(err).Place)},
				})
				return r
			}
			if changed, what := flight.Since(m.Input, in, flight.HoverCard); changed {
				r.ask("readings.firstFlight.rehearsal")
				r.Again = "what it flew with has changed since the last one"
				if len(what) > 0 {
					r.Again = quad.And(what) + " changed since the last one"
				}
				return r
			}
			landed := m.Value.Outcome == string(flight.Landed)
			switch {
			case !landed:
				r.find(Finding{
					Weight:   Stop,
					Title:    "The rehearsal does not end on its feet",
					Figures:  m.Value.Sentence,
					Why:      "The real one would not either.",
					Remedies: by("Mend what makes it so; the replay shows when"),
					Paths:    []quad.Path{"readings.firstFlight.rehearsal"},
					Shows:    flight.FaultWhole,
				})
			case m.Value.Tried == 0:
				r.ask("readings.firstFlight.rehearsal") // it was kept before flights were tried
			case m.Value.Ended > 0:
				r.find(Finding{
					Weight:   Stop,
					Title:    "A beginner's first hover may end badly today",
					Figures:  fmt.Sprintf("%s of the flights tried in the wind of today. %s", q(float64(m.Value.Ended), "count"), m.Value.How),
					Why:      "One in a hundred is too many.",
					Remedies: by("Wait for less wind, or find a lee; then rehearse again"),
					Paths:    []quad.Path{"readings.firstFlight.rehearsal", "readings.firstFlight.wind", "readings.firstFlight.gust"},
				})
			}
			if most, whose := Limit(k, "drift"); landed && m.Value.Deviation > most {
				r.find(Finding{
					Weight:   Fix,
					Title:    "It drifts far in the rehearsal",
					Figures:  q(m.Value.Deviation, "m") + " from where it stood; " + q(most, "m") + " is the most." + whose,
					Why:      "A first hover should stay where you can see it.",
					Remedies: by("Level it better, or wait for less wind"),
					Paths:    []quad.Path{"readings.firstFlight.rehearsal"},
				})
			}
			judgeGains(&r, k, m.Value, in.Settings.Gains)
			return r
		},
	},
}

// handOrSpin is which of the two a propeller that pushes down shows: one of the hand that is wanted is on a motor that turns against
// the plan.
func handOrSpin(hand, want quad.Spin) flight.Fault {
	if hand == want {
		return flight.FaultSpin
	}
	return flight.FaultHand
}

// judgeGains looks how much of the gains that were flown is steady with the assigned pack of the most cells, as a rehearsal found.
func judgeGains(r *Result, k quad.Known, flown quad.Rehearsal, gains [3]quad.Gains) {
	name, pack, ok := airframe.MostCells(k.Parts)
	if !ok || flown.Cells == 0 {
		return // rehearsed before that was looked at
	}
	if pack.Cells != flown.Cells {
		r.ask("readings.firstFlight.rehearsal")
		return
	}
	share := flown.Steady / 100
	if share >= 1 {
		return
	}
	f := Finding{
		Weight:   Fix,
		Title:    "The gains have too little in hand with " + q(float64(pack.Cells), "") + " cells",
		Figures:  "With " + name + " in, " + q(flown.Steady, "%") + " of them would keep a third in hand before it oscillates.",
		Why:      "What just does not shake at hover shakes at full throttle.",
		Remedies: []Remedy{{Words: "All gains at " + q(flown.Steady, "%") + " of what was flown", Edits: gainsAt(gains, share)}},
		Paths:    []quad.Path{"readings.firstFlight.rehearsal", "parts.packs", "sheet.feel.rollGains", "sheet.feel.pitchGains", "sheet.feel.yawGains"},
		Shows:    flight.FaultGains,
	}
	if !flight.KeepsSteady(share) {
		f.Weight, f.Title = Stop, "The gains oscillate with "+q(float64(pack.Cells), "")+" cells"
		f.Why = "It shakes by itself as it leaves the ground, and cooks its motors."
	}
	if _, heavy, _ := airframe.Heaviest(k.Parts); heavy.Cells < pack.Cells {
		f.Shows = flight.FaultCell
	}
	r.find(f)
}

// gainsAt puts all gains on the sheet at a share of what was flown, to the fourth significant figure.
func gainsAt(flown [3]quad.Gains, share float64) []Edit {
	var edits []Edit
	for i, axis := range axes {
		edits = append(edits, GainsAt("sheet.feel."+quad.Path(axis)+"Gains", flown[i], share, 4)...)
	}
	return edits
}

// WindMost is the most wind, gusts included, that first-flight.wind lets pass, m/s: what the pilot or the product calls calm enough, and never
// more than what the quad keeps its place in. 0 when that is not known, as before it was weighed.
func WindMost(k quad.Known) float64 {
	w := k.Readings.Airframe.Weight
	if w == nil {
		return 0
	}
	most, _ := Limit(k, "wind")
	return math.Min(most, flight.HoldsAgainst(k.Parts, w.Value, feel.LeastLean(feel.Profiles(&k.Sheet))))
}
