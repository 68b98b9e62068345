package check

import (
	"math"

	"vividperch/core/power"
	"vividperch/core/quad"
)

var firstPowerRules = []Rule{
	{
		ID:      "first-power.safe-to-connect",
		Station: FirstPower,
		Reads:   []quad.Path{"readings.firstPower.propellersOff", "readings.firstPower.antennasOn"},
		Voids:   []Event{Crash, Repair, Solder, Interruption},
		Judge: func(k quad.Known) Result {
			var r Result
			p := k.Readings.FirstPower
			confirm(&r, p.PropellersOff, "readings.firstPower.propellersOff", true, Finding{
				Weight:   Stop,
				Title:    "Propellers are on",
				Why:      "A first power-up with propellers has cost fingers.",
				Remedies: by("Take all four off"),
			})
			confirm(&r, p.AntennasOn, "readings.firstPower.antennasOn", true, Finding{
				Weight:   Stop,
				Title:    "A transmitter has no antenna",
				Why:      "It destroys its own output stage within seconds.",
				Remedies: by("Screw the antenna on before power"),
			})
			return r
		},
	},
	{
		ID:      "first-power.lead-short",
		Station: FirstPower,
		Reads:   []quad.Path{"readings.firstPower.leadResistance", "parts.capacitor.capacitance", "parts.capacitor.count"},
		Voids:   []Event{Crash, Repair, Solder},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.FirstPower.LeadResistance
			if m == nil {
				r.ask("readings.firstPower.leadResistance")
				return r
			}
			switch shape := power.ShapeOf(power.OhmsOf(m.Value), k.Parts.Capacitor.Together()); shape {
			case power.LeadCharged, power.LeadFlat, power.LeadOpen:
				r.find(Finding{
					Weight:   Fix,
					Title:    "The meter did not see the battery lead as it is",
					Subject:  string(shape),
					Figures:  q(m.Value.AtOnce, "Ω") + " at once, " + q(m.Value.After, "Ω") + " after 10 s.",
					Why:      "What it hides may be a short.",
					Remedies: by(shape.Words()),
					Paths:    []quad.Path{"readings.firstPower.leadResistance"},
				})
			case power.LeadShorted:
				r.find(Finding{
					Weight:   Stop,
					Title:    "The battery lead is shorted",
					Figures:  q(m.Value.AtOnce, "Ω") + " at once, " + q(m.Value.After, "Ω") + " after 10 s; a sound lead climbs as its " + q(k.Parts.Capacitor.Together(), "µF") + " fill.",
					Why:      "A pack on a short burns.",
					Remedies: by("Find the bridge: unsolder the lead, then one speed controller after the other"),
					Paths:    []quad.Path{"readings.firstPower.leadResistance"},
				})
			}
			return r
		},
	},
	{
		ID:      "first-power.frame-short",
		Station: FirstPower,
		Reads:   []quad.Path{"readings.firstPower.frameResistance"},
		Voids:   []Event{Crash, Repair, Solder},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.FirstPower.FrameResistance
			if m == nil {
				r.ask("readings.firstPower.frameResistance")
				return r
			}
			if m.Value < power.FrameShort {
				r.find(Finding{
					Weight:   Stop,
					Title:    "The frame is connected to the battery lead",
					Figures:  q(m.Value, "kΩ") + "; carbon conducts.",
					Why:      "A screw or a pinched wire feeds the frame; the next touch is a short.",
					Remedies: by("Look at motor screws and wires under clamps"),
					Paths:    []quad.Path{"readings.firstPower.frameResistance"},
				})
			}
			return r
		},
	},
	{
		ID:      "first-power.polarity",
		Station: FirstPower,
		Reads:   []quad.Path{"readings.firstPower.polarity"},
		Voids:   []Event{Repair, Solder},
		Judge: func(k quad.Known) Result {
			var r Result
			confirm(&r, k.Readings.FirstPower.Polarity, "readings.firstPower.polarity", true, Finding{
				Weight:   Stop,
				Title:    "The battery lead is soldered the wrong way round",
				Why:      "Everything behind it burns the moment the pack goes in.",
				Remedies: by("Unsolder both poles, and put plus on plus"),
			})
			return r
		},
	},
	{
		ID:      "first-power.video",
		Station: FirstPower,
		Reads:   []quad.Path{"parts.video.fitted"},
		By:      []quad.Path{"sheet.picture.power"}, // proven where the picture is
		Judge: func(k quad.Known) Result {
			var r Result
			mw := k.Sheet.Picture.Power
			if !k.Parts.Video.Fitted || mw <= 0 {
				return r // the station of the picture asks for it
			}
			if minutes := power.BenchMinutes(mw, false); minutes < power.BenchShort {
				r.find(Finding{
					Weight:   Note,
					Title:    "The video transmitter comes on hot",
					Figures:  q(mw, "mW") + " are set: " + q(math.Round(10*minutes)/10, "min") + " on the bench until it is too hot, with no air about it.",
					Why:      "It turns itself down, or is harmed, before the first power is done.",
					Remedies: by("Set its lowest power and an allowed, free channel for the bench, or point a fan at it"),
					Paths:    []quad.Path{"sheet.picture.power"},
				})
			}
			return r
		},
	},
	{
		ID:      "first-power.idle-current",
		Station: FirstPower,
		Reads:   []quad.Path{"readings.firstPower.idleCurrent", "parts.board.idleDraw", "parts.speedController.idleDraw", "parts.receiver.idleDraw", "parts.video.fitted", "parts.video.idleDraw", "parts.devices"},
		By:      []quad.Path{"parts.wires", "parts.board.rails", "parts.packs"}, // through which regulator a device draws
		Voids:   []Event{Crash, Repair, Solder},
		Judge: func(k quad.Known) Result {
			var r Result
			m := k.Readings.FirstPower.IdleCurrent
			if m == nil {
				r.ask("readings.firstPower.idleCurrent")
				return r
			}
			want := power.IdleCurrent(k.Parts)
			if want <= 0 || m.Value <= want*power.IdleFix {
				return r
			}
			f := Finding{
				Weight:   Fix,
				Title:    "It draws more at rest than its devices should",
				Figures:  q(m.Value, "A") + " measured, " + q(round2(want), "A") + " expected.",
				Why:      "Something is half shorted, or a device is hurt.",
				Remedies: by("Unplug devices one at a time; the one whose going brings the sum down is it"),
				Paths:    []quad.Path{"readings.firstPower.idleCurrent"},
			}
			if m.Value > want*power.IdleStop {
				f.Weight = Stop
			}
			r.find(f)
			return r
		},
	},
}
