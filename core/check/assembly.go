package check

import (
	"math"

	"vividperch/core/airframe"
	"vividperch/core/flight"
	"vividperch/core/quad"
)

// Loads of the hardest motor in a level hover, over what it carries of a weight in the middle: from the first on it is worth shifting the pack, from the second on the flight
// model leaves the ground askew, and of the quads that lie further off it tips some over.
const (
	tiltedFix  = 1.2
	tiltedStop = 1.4
	// tiltedOver is where all of them end badly: the lightest corner carries next to nothing.
	tiltedOver = 1.9
)

// Plug and wires carry more than they do all the time for a moment: copper at 15 A/mm² warms by a degree in a second, at two and a half times that by seven, at four times by
// eighteen. From the first on full throttle is worth a word, from the second it softens what is around them within a punch-out.
const (
	leadNote = 2.5
	leadFix  = 4.0
)

// hoverWithin is how far what lifts at a measured hover may be from the weight, as a share: a stick is read to a percent or two, and thrust goes as its square.
const hoverWithin = 0.2

// wireCarries is the current for each mm² of a short copper wire in the air, all the time, A.
const wireCarries = 15.0

// assemblyRules are about how the parts are put together. What was never told of them is not judged, but for what can cost a quad.
var assemblyRules = []Rule{
	{
		ID:      "airframe.balance",
		Station: Airframe,
		Reads:   []quad.Path{"readings.airframe.balance", "parts.placed", "parts.frame.mass", "parts.frame.armFront", "parts.frame.armSide", "parts.packs"},
		By:      []quad.Path{"sheet.craft.layout"},
		Voids:   []Event{Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.Airframe.Balance
			if m == nil {
				r.ask("readings.airframe.balance") // what is placed on it tells where it should balance, fingertips where it does
				return r
			}
			centre := m.Value
			if told, ok := k.Parts.BalanceHeaviest(); ok && math.Hypot(told.Ahead-centre.Ahead, told.Right-centre.Right) > airframe.BalanceWithin {
				r.find(Finding{
					Weight:   Fix,
					Title:    "It balances elsewhere than what is placed on it says",
					Subject:  "placed",
					Figures:  "Measured " + centre.Words() + "; by what is placed on it " + told.Rounded().Words() + ".",
					Why:      "Something was moved since it was measured, or is told in another place or with another mass.",
					Remedies: by("Lift it on two fingertips again, or put the drawing right"),
					Paths:    []quad.Path{"readings.airframe.balance", "parts.placed"},
				})
			}
			c, ok := airframe.Carries(k.Sheet.Craft.Layout, k.Parts.Frame, centre)
			if !ok || c.Over() <= tiltedFix {
				return r // without arms another rule asks
			}
			carries := func(i int) string { return quad.Corners[i].Words() + " carries " + q(math.Round(100*c.Share[i]), "%") }
			f := Finding{
				Weight:   Fix,
				Title:    "Its weight does not lie between the motors",
				Figures:  "Its weight lies " + centre.Rounded().Words() + ": the motor " + carries(c.Hardest) + ", the one " + carries(c.Ease) + "; a quarter each is even.",
				Why:      "It leaves the ground askew, and the hardest motor is the first at its end.",
				Remedies: by("Shift the pack until it hangs level on two fingertips"),
				Paths:    []quad.Path{"readings.airframe.balance", "parts.placed"},
				Shows:    flight.FaultBalance,
			}
			if c.Over() > tiltedStop {
				f.Weight, f.Why = Stop, "It tips over its heavy side as it leaves the ground, or cooks the motor that holds it."
				if c.Over() < tiltedOver {
					f.Shows = "" // some of them still land
				}
			}
			r.find(f)
			return r
		},
	},
	{
		ID:      "airframe.motor-heat",
		Station: Airframe,
		Reads:   reads("readings.airframe.weight", "readings.airframe.balance", "parts.placed", "parts.frame.mass", "parts.motor.mass", "parts.frame.armFront", "parts.frame.armSide"),
		By:      []quad.Path{"sheet.craft.layout"},
		Judge: func(k quad.Known) Result {
			var r Result
			weight, list, ok := r.weighedAndFed(k)
			if !ok {
				return r
			}
			hardest := 1.0
			if c, ok := airframe.Carries(k.Sheet.Craft.Layout, k.Parts.Frame, centreOf(&k)); ok {
				hardest = math.Max(hardest, c.Over())
			}
			grams := airframe.MotorMass(k.Parts)
			of := "motors of " + q(round1(grams), "g") + usualWhere(k.Parts.Motor.Mass == 0)
			for _, f := range list {
				// What the hardest carries is what all carry of a heavier quad.
				h, ok := f.Drive.Heats(k.Parts, hardest*airframe.MassWith(k.Parts, f.Pack, weight))
				if !ok {
					continue // that it does not lift itself another rule says
				}
				found := Finding{
					Weight:   Fix,
					Title:    "Its motors get hot in a hover",
					Subject:  f.Name,
					Figures:  "With " + f.Name + " the windings of " + of + " come to " + warm(h.Hover.Winding) + " in a steady hover on a warm day; " + q(airframe.WindingWarm, "°C") + " is warm, " + q(airframe.WindingMost, "°C") + " is the end.",
					Why:      "Glue and magnets go before the wire does, and every hard turn comes on top.",
					Remedies: by("Lighter, larger motors, or propellers with more bite for fewer turns"),
					Paths:    []quad.Path{"readings.airframe.weight", "parts.motor.mass", "parts.motor.resistance"},
				}
				switch {
				case h.Hover.Winding > airframe.WindingHot:
					found.Weight, found.Title, found.Why = Stop, "Its motors cook in a hover", "A winding that shorts stops its corner in the air."
				case h.Hover.Winding > airframe.WindingWarm:
				case h.Bears < airframe.PunchLeast:
					found.Title = "Full throttle cooks its motors within seconds"
					found.Figures = "With " + f.Name + " full the windings of " + of + " come from " + warm(h.Hover.Winding) + " in a hover to " + q(airframe.WindingMost, "°C") + " in " + q(round1(h.Bears), "s") + "; " + q(airframe.PunchLeast, "s") + " is the least."
					found.Remedies = by("Limit the throttle, fewer cells, or propellers with less bite")
				default:
					continue
				}
				r.find(found)
			}
			return r
		},
	},
	{
		ID:      "airframe.hover-agrees",
		Station: Airframe,
		Reads:   reads("readings.firstFlight.hover", "readings.airframe.weight"),
		By:      []quad.Path{"sheet.motors.idle", "sheet.motors.reversible", "sheet.feel.throttleLimit", "sheet.feel.throttleMiddle", "sheet.feel.throttleBend"}, // what the stick meant then
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.FirstFlight.Hover
			if m == nil {
				return r
			}
			if _, ok := r.weighed(k); !ok {
				return r
			}
			d, mass, duty, ok := flight.HoverMeasured(k)
			if !ok {
				return r
			}
			lifts := d.Lifts(duty, mass)
			if math.Abs(lifts-1) <= hoverWithin {
				return r
			}
			words := "less"
			if lifts < 1 {
				words = "more"
			}
			r.find(Finding{
				Weight:   Fix,
				Title:    "It does not hover where its parts say",
				Figures:  "Measured: " + m.Value.Words() + ". There its motors would lift " + q(round2(lifts), "1") + " times its weight by what is told of them.",
				Why:      "It lifts " + words + " than told, and every figure of thrust, current and minutes is off by as much.",
				Remedies: by("Take the propeller's thrust as the hover has it, at the curves; or weigh it again, or put the parts right"),
				Paths:    []quad.Path{"readings.firstFlight.hover", "parts.propeller.thrust"},
			})
			return r
		},
	},
	{
		ID:      "airframe.fits",
		Station: Airframe,
		Reads: []quad.Path{
			"parts.frame.stackHoles", "parts.frame.stackRoom", "parts.frame.cameraRoom", "parts.frame.motorCircle", "parts.board.holes", "parts.speedController.holes", "parts.motor.circle", "parts.video.cameraWide",
			"parts.placed.stack.high",
		},
		Judge: func(k quad.Known) Result {
			var r Result
			for _, m := range airframe.Misfits(k.Parts) {
				r.find(Finding{
					Weight:   Fix,
					Title:    "The frame does not take " + m.What,
					Subject:  string(m.Path),
					Figures:  q(m.Has, "mm") + "; the frame is for " + q(m.Wants, "mm") + ".",
					Why:      "What is forced in bends, shorts on carbon, or shakes loose.",
					Remedies: by("Another part, or an adapter; or measure both again"),
					Paths:    []quad.Path{m.Path, m.Against},
				})
			}
			return r
		},
	},
	{
		ID:      "airframe.screws",
		Station: Airframe,
		Reads:   []quad.Path{"readings.airframe.screws", "parts.motor.screw", "parts.motor.thread", "parts.frame.armThick"},
		Voids:   []Event{Crash, Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			confirm(&r, k.Readings.Airframe.Screws, "readings.airframe.screws", true, Finding{
				Weight:   Stop,
				Title:    "A motor screw is loose, or reaches a winding",
				Why:      "A loose motor leaves its arm; a screw in the copper shorts it, and the speed controller with it.",
				Remedies: by("Thread lock on each, and shorter ones where they reach too far"),
			})
			into, ok := airframe.Screws(k.Parts)
			deep := k.Parts.Motor.Thread
			f := Finding{
				Figures:  "Screws of " + q(k.Parts.Motor.Screw, "mm") + " through an arm of " + q(k.Parts.Frame.ArmThick, "mm") + " go " + q(round1(into), "mm") + " in.",
				Remedies: by("Screws of another length"),
				Paths:    []quad.Path{"parts.motor.screw", "parts.frame.armThick", "parts.motor.thread"},
			}
			switch {
			case ok && deep > 0 && into > deep:
				f.Weight, f.Title, f.Why = Stop, "The motors' screws reach their windings", "The first power-up finds a winding on the frame."
				f.Figures += " The threads end at " + q(deep, "mm") + "."
				r.find(f)
			case ok && into < airframe.ScrewHolds:
				f.Weight, f.Title, f.Why = Stop, "The motors' screws hardly hold", "A motor leaves its arm in the air."
				f.Figures += " " + q(airframe.ScrewHolds, "mm") + " is the least."
				r.find(f)
			}
			return r
		},
	},
	{
		ID:      "airframe.wires-tidy",
		Station: Airframe,
		Reads:   []quad.Path{"readings.airframe.tidy", "parts.wires.camera.rail", "parts.wires.video.rail"},
		Voids:   []Event{Repair},
		Judge: func(k quad.Known) Result {
			var r Result
			confirm(&r, k.Readings.Airframe.Tidy, "readings.airframe.tidy", true, Finding{
				Weight:   Fix,
				Title:    "Signal wires lie along motor wires",
				Why:      "What a motor draws by thousands of ampere a second gets into the signal: a corner that twitches, a picture with lines.",
				Remedies: by("Twist each with its ground, and lead it away"),
			})
			camera, video := k.Parts.Wires["camera"].Rail, k.Parts.Wires["video"].Rail
			if camera != "" && video != "" && camera != video {
				r.find(Finding{
					Weight:   Note,
					Title:    "Camera and video are fed from two rails",
					Figures:  "The camera from " + camera + ", the video from " + video + ".",
					Why:      "Two grounds at two voltages make lines that move with the throttle.",
					Remedies: by("Feed both from one"),
					Paths:    []quad.Path{"parts.wires.camera.rail", "parts.wires.video.rail"},
				})
			}
			return r
		},
	},
	{
		ID:      "airframe.power-lead",
		Station: Airframe,
		Reads:   reads("parts.batteryLead.plug", "parts.batteryLead.area", "readings.airframe.weight"),
		Judge: func(k quad.Known) Result {
			var r Result
			lead := k.Parts.BatteryLead
			if lead.Plug == 0 && lead.Area == 0 {
				return r
			}
			weight, list, ok := r.weighedAndFed(k)
			if !ok {
				return r
			}
			most := airframe.Most(list, func(f airframe.Fed) float64 { return f.Peak.PackCurrent })
			hover := 0.0
			for _, f := range list {
				if h, ok := f.Drive.Hover(airframe.MassWith(k.Parts, f.Pack, weight)); ok {
					hover = math.Max(hover, h.PackCurrent)
				}
			}
			for _, part := range []struct {
				name    string
				carries float64
				path    quad.Path
			}{{"plug", lead.Plug, "parts.batteryLead.plug"}, {"wires", wireCarries * lead.Area, "parts.batteryLead.area"}} {
				if part.carries == 0 || most.Peak.PackCurrent <= leadNote*part.carries {
					continue
				}
				f := Finding{
					Weight:   Note,
					Title:    "Full throttle asks more of the battery lead's " + part.name + " than they carry all the time",
					Subject:  part.name,
					Figures:  q(math.Round(most.Peak.PackCurrent), "A") + " with " + most.Name + " full, " + q(math.Round(hover), "A") + " in a hover; " + q(math.Round(part.carries), "A") + " all the time.",
					Why:      "Small plugs soften before anything else does.",
					Remedies: by("Keep full throttle short, or fit a larger one"),
					Paths:    []quad.Path{part.path},
				}
				if part.name == "plug" {
					f.Title = "Full throttle asks more of the battery lead's plug than it carries all the time"
				}
				switch {
				case hover > part.carries:
					f.Weight, f.Why = Stop, "It melts in a hover, and lets go."
				case most.Peak.PackCurrent > leadFix*part.carries:
					f.Weight, f.Why = Fix, "It softens within a punch-out, and its contact gets worse each time."
				}
				r.find(f)
			}
			return r
		},
	},
	{
		ID:      "airframe.protection",
		Station: Airframe,
		Reads:   reads("parts.placed", "readings.airframe.weight", "parts.board.idleDraw", "parts.speedController.idleDraw", "parts.receiver.idleDraw", "parts.video.fitted", "parts.video.idleDraw"),
		By:      []quad.Path{"parts.devices", "parts.wires", "parts.board.rails"}, // what they draw is proven where the power comes on
		Judge: func(k quad.Known) Result {
			var r Result
			any := false
			for _, x := range k.Parts.Placed {
				any = any || x.Protects
			}
			if !any {
				return r
			}
			weight, ok := r.weighed(k)
			if !ok {
				return r
			}
			c, ok := airframe.Protects(k.Parts, weight)
			if !ok || c.Minutes[1] == 0 {
				return r
			}
			costs := 1 - c.Minutes[0]/c.Minutes[1]
			f := Finding{
				Weight:   Note,
				Title:    "Its protection costs flying time",
				Figures:  q(round1(c.Mass), "g") + " of it: a hover at " + q(round1(c.Duty[0]), "%") + " duty for " + q(round1(c.Minutes[0]), "min") + ", without it " + q(round1(c.Duty[1]), "%") + " for " + q(round1(c.Minutes[1]), "min") + ".",
				Why:      "What guards it in a fall makes the fall harder.",
				Remedies: by("Keep what has saved a part before, and take the rest off"),
				Paths:    []quad.Path{"parts.placed"},
			}
			if costs > airframe.ProtectionMost {
				f.Weight = Fix
			}
			if costs > airframe.ProtectionShare {
				r.find(f)
			}
			return r
		},
	},
	{
		ID:      "airframe.placed",
		Station: Airframe,
		Reads:   []quad.Path{"parts.placed", "parts.frame.mass", "parts.motor.mass", "parts.frame.armFront", "parts.frame.armSide", "parts.propeller.diameter"},
		By:      []quad.Path{"sheet.craft.layout"},
		Judge: func(k quad.Known) Result {
			var r Result
			if _, left := airframe.Budget(k.Parts, quad.Pack{}); k.Parts.Frame.Mass > 0 && left < 0 {
				r.find(Finding{
					Weight:   Fix,
					Title:    "What is placed on it weighs more than all of it",
					Figures:  "Motors and placed parts come to " + q(math.Round(k.Parts.Frame.Mass-left), "g") + "; without pack it is told to weigh " + q(k.Parts.Frame.Mass, "g") + ".",
					Why:      "A slipped digit, or a part told twice: where it balances goes by it.",
					Remedies: by("Put the masses right"),
					Paths:    []quad.Path{"parts.placed", "parts.frame.mass", "parts.motor.mass"},
				})
			}
			for _, g := range airframe.Clearances(k.Parts, k.Sheet.Craft.Layout) {
				if g.Thing == "" || g.Gap >= airframe.ClearFix {
					continue
				}
				f := Finding{
					Weight:   Fix,
					Title:    "The propeller " + g.Corner.Words() + " runs close to the " + g.Thing,
					Subject:  g.Thing,
					Figures:  q(round1(g.Gap), "mm") + " between them; " + q(airframe.ClearFix, "mm") + " is the least.",
					Why:      "Blades flap and arms bend.",
					Remedies: by("Move it, or take a smaller propeller"),
					Paths:    []quad.Path{quad.Path("parts.placed." + g.Thing)},
				}
				if g.Gap <= airframe.ClearStop {
					f.Weight, f.Title, f.Why = Stop, "The propeller "+g.Corner.Words()+" cuts the "+g.Thing, "It breaks, or pulls it in."
					f.Figures = "It reaches " + q(round1(-g.Gap), "mm") + " into the circle."
				}
				r.find(f)
			}
			return r
		},
	},
}

// centreOf its weight: as measured, or as what is placed on it has it; the middle where nobody told either, which another rule asks for.
func centreOf(k *quad.Known) quad.Balance {
	if m := k.Readings.Airframe.Balance; m != nil {
		return m.Value
	}
	centre, _ := k.Parts.BalanceHeaviest()
	return centre
}

// warm is a temperature in words; one that never settles is far over all of them.
func warm(celsius float64) string {
	if celsius > 400 {
		return "over " + q(400, "°C")
	}
	return q(math.Round(celsius), "°C")
}
