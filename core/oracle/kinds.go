package oracle

import (
	"fmt"
	"maps"
	"math"
	"slices"

	"vividperch/core/airframe"
	"vividperch/core/check"
	"vividperch/core/flight"
	"vividperch/core/motors"
	"vividperch/core/quad"
)

// kind is a sound quad of one sort, to be drawn from.
type kind struct {
	name  string
	world world
}

// size of a quad: its parts, as far as they differ.
type size struct {
	name               string
	arm, legs, drag    float64 // mm, mm, cm²
	frame              float64 // g without pack
	kv, ohm, free, lag float64 // rpm/V, mΩ, A, ms
	peak               float64 // A
	prop               float64 // mm
	thrust, power      float64
	pack               quad.Pack
	carries            float64 // A each
	capacitor          float64 // µF
	rating             float64 // V
	limit              float64 // % of throttle
}

var sizes = []size{
	{"5 in", 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, quad.Pack{}, 0, 0, 0, 0},
	{"3 in", 52, 18, 55, 148, 3600, 120, 0.7, 22, 22, 76, 0.12, 0.075, quad.Pack{Cells: 4, Capacity: 650, Discharge: 95, Resistance: 28, Mass: 78}, 35, 470, 25, 100},
	{"7 in", 112, 30, 190, 640, 1150, 48, 1, 42, 46, 178, 0.12, 0.06, quad.Pack{Cells: 6, Capacity: 2200, Discharge: 95, Resistance: 16, Mass: 330}, 60, 1500, 35, 80},
}

// sorts of quads besides their size, each a change of the sound one that leaves it sound.
var sorts = []struct {
	name string
	make func(w *world) error
}{
	{"", func(*world) error { return nil }},
	{"the other rotation", func(w *world) error { w.turnRound(); return nil }},
	{"wide", func(w *world) error {
		w.k.Sheet.Craft.Layout = quad.LayoutWide
		w.k.Parts.Frame.ArmSide *= 1.25
		return nil
	}},
	{"plus", func(w *world) error {
		w.k.Sheet.Craft.Layout = quad.LayoutPlus
		w.k.Parts.Frame.ArmFront *= 1.4 // else its neighbours would overlap
		w.k.Parts.Placed = nil          // a rotor turns where the camera sat
		return nil
	}},
	{"throttle first", func(w *world) error { w.k.Sheet.Sticks.Order, w.k.Radio.Order = "TAER", "TAER"; return nil }},
	{"profiles", func(w *world) error { // it flies with the second: its switch rests there
		f := &w.k.Sheet.Feel
		f.Second = quad.Profile{Roll: f.Roll, Pitch: f.Pitch, Yaw: f.Yaw, AngleLimit: f.AngleLimit, ThrottleLimit: f.ThrottleLimit}
		f.Second.Roll.Peak, f.Second.Pitch.Peak = 0.8*f.Roll.Peak, 0.8*f.Pitch.Peak
		f.Third = f.Second
		f.Third.ThrottleLimit = 0.9 * f.ThrottleLimit
		w.k.Sheet.Sticks.SecondProfile, w.k.Sheet.Sticks.ThirdProfile = quad.Range{Channel: 7, From: 900, To: 1400}, quad.Range{Channel: 7, From: 1700, To: 2100}
		return nil
	}},
	{"homing", func(w *world) error { // it comes home, and holds its place by a switch
		s, p := &w.k.Sheet, &w.k.Parts
		s.Firmware.Line, s.Firmware.Version = "Spindrift", "9.1.0"
		w.truths.Firmware.Identity = reading(quad.Identity{Target: s.Firmware.Target, Line: "Spindrift", Version: "9.1.0", Serial: w.truths.Firmware.Identity.Value.Serial})
		s.Senses.Satellite, s.Senses.Barometer, s.Senses.Compass = true, true, true
		p.Wires, s.Wiring.Ports = maps.Clone(p.Wires), maps.Clone(s.Wiring.Ports)
		p.Wires["satellite"] = quad.Wire{Port: "4"}
		s.Wiring.Ports["4"] = quad.PortPlan{Function: quad.PortSatellite}
		s.Sticks.Hold = quad.Range{Channel: 8, From: 1700, To: 2100}
		w.k.Radio.Switches = maps.Clone(w.k.Radio.Switches)
		w.k.Radio.Switches["right face"] = quad.SwitchPlan{Channel: 8, Positions: []string{"free", "held"}, Rest: "free"}
		s.Loss.Policy, s.Loss.Way, s.Loss.WayHeight, s.Loss.HomeSpeed, s.Loss.AtHome, s.Loss.Satellites = quad.PolicyReturn, quad.WaySet, 30, 6, quad.HomeLands, 8
		s.Sticks.Authority, s.Sticks.ArmTilt = quad.Range{}, 0 // which that firmware does not have
		w.truths.Wiring.Answers = map[string]*quad.Reading[bool]{"satellite": reading(true)}
		w.k.Board.Settings = map[string]string{"compass-found": "1", "level-found": "1"}
		w.truths.Senses.Compass = reading(quad.CompassRun{Field: 48, Residual: 0.5, Covered: 92})
		w.landsSoftly()
		return nil
	}},
	{"evened out", func(w *world) error { w.k.Sheet.Motors.Linear = 65; w.landsSoftly(); return nil }},
	{"landing", func(w *world) error { w.k.Sheet.Loss.Policy = quad.PolicyLand; w.landsSoftly(); return nil }},
	{"reversible", func(w *world) error {
		w.k.Sheet.Motors.Reversible, w.k.Parts.Propeller.Reversed = true, 0.95
		for letter, o := range w.k.Sheet.Motors.Outputs {
			o.BothWays = true
			w.k.Sheet.Motors.Outputs[letter] = o
		}
		w.k.Sheet.Feel.ThrottleLimit = 100
		w.truths.Motors.Hot = reading(quad.HotNone)
		return nil
	}},
}

// kindsOf every sort and size that the bases can be made into. Each is sound: what a test holds.
func kindsOf(bases []Base) ([]kind, error) {
	var out []kind
	for _, b := range bases {
		for _, s := range sizes {
			for _, sort := range sorts {
				w := newWorld(b.Known)
				w.kind = b.Name + ", " + s.name
				if sort.name != "" {
					w.kind += ", " + sort.name
				}
				if err := w.grow(s, b.Known); err != nil {
					return nil, fmt.Errorf("%s: %w", w.kind, err)
				}
				if err := sort.make(&w); err != nil {
					return nil, fmt.Errorf("%s: %w", w.kind, err)
				}
				if err := w.write(); err != nil {
					return nil, fmt.Errorf("%s: %w", w.kind, err)
				}
				if err := w.learnAsked(); err != nil {
					return nil, fmt.Errorf("%s: %w", w.kind, err)
				}
				out = append(out, kind{w.kind, w})
			}
		}
	}
	return out, nil
}

// newWorld in which everything is as it was read.
func newWorld(k quad.Known) world {
	seen := quad.Observe(k).Actual
	w := world{k: k, truths: k.Readings, is: actual{
		wired: seen.Outputs, hands: seen.Hands, tilt: [2]float64{seen.TiltRoll, seen.TiltPitch}, board: k.Sheet.Senses.Mount(),
		switches: map[string]quad.SwitchSeen{}, channels: map[quad.Axis]int{}, ends: map[quad.Axis]quad.Ends{},
		place: quad.PlaceActual{Fixed: true, Satellites: 14, Dilution: 0.9, Disturbs: 0.4, HeightNoise: 0.15, HeightDrift: 0.8, HeightJump: 0.3},
		wind:  k.Readings.FirstFlight.Wind.Value, gust: k.Readings.FirstFlight.Gust.Value, clear: k.Readings.FirstFlight.Clear.Value, onLoss: k.Readings.Loss.Output.Value,
	}}
	for name, s := range k.Readings.Sticks.Switches {
		w.is.switches[name] = s.Value
	}
	for letter, o := range w.is.wired {
		if k.Sheet.Motors.Outputs[letter].Reversed {
			o.Spin = o.Spin.Opposite()
			w.is.wired[letter] = o
		}
	}
	_, pack, _ := airframe.Heaviest(k.Parts)
	w.is.weight = k.Readings.Airframe.Weight.Value - pack.Mass
	w.k.Sheet.Motors.Outputs = maps.Clone(k.Sheet.Motors.Outputs)
	w.k.Readings = quad.Readings{}
	return w
}

// clone of a world, to be spoiled.
func (w *world) clone() world {
	out := *w
	out.is = w.is.clone()
	return out
}

// grow a quad to a size, with gains that suit it as the base's suit the base.
func (w *world) grow(s size, base quad.Known) error {
	if s.arm == 0 {
		return nil
	}
	p := &w.k.Parts
	p.Frame.ArmFront, p.Frame.ArmSide, p.Frame.LegHeight, p.Frame.DragArea, p.Frame.Mass = s.arm, s.arm, s.legs, s.drag, s.frame
	p.Motor.KV, p.Motor.Resistance, p.Motor.IdleCurrent, p.Motor.TimeConst, p.Motor.PeakCurrent = s.kv, s.ohm, s.free, s.lag, s.peak
	p.Propeller.Diameter, p.Propeller.Thrust, p.Propeller.Power = s.prop, s.thrust, s.power
	p.Placed, p.Motor.Mass, p.Motor.Screw, p.BatteryLead.Plug, p.BatteryLead.Area = nil, airframe.UsualMotorMass(s.prop), 0, 0, 0 // where things sit is drawn of the 5-inch ones
	p.SpeedController.Continuous, p.Capacitor.Capacitance, p.Capacitor.Rating = s.carries, s.capacitor, s.rating
	p.Packs = map[string]quad.Pack{"blue": s.pack}
	w.is.weight = s.frame
	w.k.Sheet.Feel.ThrottleLimit, w.k.Sheet.Watch.Cells = s.limit, s.pack.Cells
	reference, err := flight.NewInput(base)
	if err != nil {
		return err
	}
	if err := w.write(); err != nil {
		return err
	}
	now, err := w.input(s.pack, airframe.RestCell, 1)
	if err != nil {
		return err
	}
	scale, err := flight.FirstGains(reference, now)
	if err != nil {
		return err
	}
	f := &w.k.Sheet.Feel
	for _, g := range []*quad.Gains{&f.RollGains, &f.PitchGains, &f.YawGains} {
		*g = quad.Gains{Proportional: quad.Significant(g.Proportional * scale), Integral: quad.Significant(g.Integral * scale), Derivative: quad.Significant(g.Derivative * scale)}
	}
	w.is.clear = math.Max(w.is.clear, 60)
	w.landsSoftly()
	return nil
}

// landsSoftly sets the highest landing throttle that brings it down with every pack.
func (w *world) landsSoftly() {
	w.k.Sheet.Loss.LandThrottle = flight.Softest(w.k.Parts, w.weighed(), motors.OutputOf(&w.k.Sheet))
}

// turnRound declares the other rotation, with motors and propellers to match.
func (w *world) turnRound() {
	w.k.Sheet.Craft.Rotation = motors.Other(w.k.Sheet.Craft.Rotation)
	for letter, o := range w.is.wired {
		o.Spin = o.Spin.Opposite()
		w.is.wired[letter] = o
	}
	for c, hand := range w.is.hands {
		w.is.hands[c] = hand.Opposite()
	}
}

// learnAsked notes what a sound quad is asked.
func (w *world) learnAsked() error {
	if _, err := w.judged(); err != nil {
		return err
	}
	w.k.Readings = quad.Readings{}
	return nil
}

// judged by the rules, with every question answered truthfully. The rehearsal is flown only where no stop stands without it.
func (w *world) judged() (check.Report, error) {
	answers := w.answers()
	full := quad.Known{Readings: answers}
	w.k.Readings = quad.Readings{}
	quad.MaskTo(&w.k, &full, quad.AddressesOf(w.asked))
	for range 12 {
		report := check.All(w.k, check.Context{Now: today})
		rehearse, news := false, false
		for _, a := range report.Asks {
			if a.Path == "readings.firstFlight.rehearsal" {
				rehearse = true
				continue
			}
			if known(&w.k, a.Path) {
				continue // asked for again: what there is does not answer it
			}
			quad.MaskTo(&w.k, &full, quad.AddressesOf([]quad.Path{a.Path}))
			if known(&w.k, a.Path) {
				w.asked, news = append(w.asked, a.Path), true
			}
		}
		if news {
			continue
		}
		if !rehearse || w.k.Readings.FirstFlight.Rehearsal != nil || len(stopsOf(report)) > 0 {
			return report, nil
		}
		r, err := w.rehearsed()
		if err != nil {
			return report, nil // a rule says what keeps it from being flown
		}
		w.k.Readings.FirstFlight.Rehearsal = r
	}
	return check.All(w.k, check.Context{Now: today}), nil
}

func stopsOf(r check.Report) []check.Finding {
	return slices.DeleteFunc(slices.Clone(r.Findings), func(f check.Finding) bool { return f.Weight != check.Stop })
}

func known(k *quad.Known, p quad.Path) bool {
	v, err := quad.Get(k, p)
	return err == nil && v != nil
}
