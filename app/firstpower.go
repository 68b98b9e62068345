package app

import (
	"context"
	"math"
	"slices"

	"vividperch/core/picture"
	"vividperch/core/power"
	"vividperch/core/quad"
	"vividperch/core/wiring"
)

// FirstPowerView is what the station of the first power draws.
type FirstPowerView struct {
	// Good is what an ohmmeter shows of a sound lead with this capacitor, over ten seconds; Taken what it showed, and Shape what that is.
	Capacitance float64         `json:"capacitance" unit:"µF"` // 0 is not told
	Short       float64         `json:"short" unit:"Ω"`        // under which a lead that does not climb is shorted
	Good        []power.Ohm     `json:"good"`
	Taken       []power.Ohm     `json:"taken"`
	Shape       power.LeadShape `json:"shape,omitempty" enum:",climbs,shorted,charged,flat,open,jumps"`
	Says        string          `json:"says"`
	// Steps of current as the devices come on, in the order in which they should; Idle what was measured with all of them, absent where nobody did.
	Steps []power.ComesOn `json:"steps"`
	Idle  *float64        `json:"idle,omitempty" unit:"A"`
	Fix   float64         `json:"fix" unit:"1"` // times the sum at which it is a fix, and a stop
	Stop  float64         `json:"stop" unit:"1"`
	// Video is how long its transmitter may send on the bench by its power; nothing where none is fitted.
	Video []BenchTime `json:"video"`
	// Channel says on what the video would come on, and whether that is allowed here.
	Channel string `json:"channel"`
	Allowed bool   `json:"allowed"`
	// Rails with what hangs on them, and what USB alone feeds.
	Rails []wiring.RailState `json:"rails"`
}

// BenchTime of a video transmitter at one power, min; 0 is as long as one likes.
type BenchTime struct {
	Power float64 `json:"power" unit:"mW"`
	Still float64 `json:"still" unit:"min"`
	Fan   float64 `json:"fan" unit:"min"`
	Set   bool    `json:"set"` // what the sheet has
}

// usualPowers of video transmitters, mW.
var usualPowers = []float64{25, 200, 400, 800, 1600}

// FirstPower of a quad.
func (a *App) FirstPower(ctx context.Context, id int64) (*FirstPowerView, error) {
	return figures(ctx, a, id, firstPowerOf)
}

func firstPowerOf(k quad.Known) *FirstPowerView {
	p := k.Parts
	farad := p.Capacitor.Together()
	v := &FirstPowerView{
		Capacitance: farad, Short: power.Short, Good: []power.Ohm{}, Taken: []power.Ohm{}, Steps: power.Steps(p), Fix: power.IdleFix, Stop: power.IdleStop, Video: []BenchTime{},
		Rails: wiring.Rails(p),
	}
	if farad > 0 {
		for t := 0.0; t <= 10; t += 0.25 {
			v.Good = append(v.Good, power.Ohm{Time: t, Ohms: power.GoodLead(farad, t)})
		}
	}
	r := k.Readings.FirstPower
	if m := r.LeadResistance; m != nil {
		v.Taken = power.OhmsOf(m.Value)
		v.Shape = power.ShapeOf(v.Taken, farad)
		v.Says = v.Shape.Words()
	}
	if m := r.IdleCurrent; m != nil {
		v.Idle = &m.Value
	}
	if !p.Video.Fitted {
		return v
	}
	v.Channel, v.Allowed = channelWords(k)
	set := k.Sheet.Picture.Power
	for _, mw := range usualPowers {
		v.Video = append(v.Video, benchTime(mw, mw == set))
	}
	if set > 0 && !slices.Contains(usualPowers, set) {
		v.Video = append(v.Video, benchTime(set, true))
	}
	return v
}

// channelWords tell on what the video comes on as it is set.
func channelWords(k quad.Known) (words string, allowed bool) {
	if len(quad.Untold(&k, []quad.Path{"sheet.picture.frequency", "sheet.picture.power", "limits.videoLow", "limits.videoHigh", "limits.videoPower"})) > 0 {
		return "Nobody told its channel, its power, or what is allowed here.", false
	}
	s := k.Sheet.Picture
	frequency, watts := picture.Allowed(s, k.Limits)
	words = "It comes on at " + quad.Quantity(s.Frequency, "MHz") + " with " + quad.Quantity(s.Power, "mW") + ": "
	switch {
	case !frequency:
		return words + "that frequency is not allowed here.", false
	case !watts:
		return words + "allowed are " + quad.Quantity(k.Limits.VideoPower, "mW") + ".", false
	}
	return words + "allowed here. Ask whoever flies nearby whether it is free.", true
}

// LeadLooks judges an ohmmeter's figures on a lead while they come in.
func (a *App) LeadLooks(ctx context.Context, id int64, list []power.Ohm) (*LeadLook, error) {
	return figures(ctx, a, id, func(k quad.Known) *LeadLook {
		shape := power.ShapeOf(list, k.Parts.Capacitor.Together())
		return &LeadLook{shape, shape.Words()}
	})
}

// LeadLook is what a lead's figures look like.
type LeadLook struct {
	Shape power.LeadShape `json:"shape" enum:"climbs,shorted,charged,flat,open,jumps"`
	Says  string          `json:"says"`
}

func benchTime(mw float64, set bool) BenchTime {
	minutes := func(fan bool) float64 {
		m := power.BenchMinutes(mw, fan)
		if math.IsInf(m, 1) {
			return 0
		}
		return math.Round(10*m) / 10
	}
	return BenchTime{mw, minutes(false), minutes(true), set}
}

// Deviation of the current as devices came on, from what was measured at each, A.
func (a *App) Deviation(ctx context.Context, id int64, measured []float64) (*DeviationView, error) {
	return figures(ctx, a, id, func(k quad.Known) *DeviationView {
		steps := power.Steps(k.Parts)
		if d, ok := power.FirstDeviation(steps, measured); ok {
			return &DeviationView{Step: d.Step, Says: d.Words}
		}
		v := &DeviationView{Step: -1, Says: "All of them draw what they should, so far."}
		if len(measured) >= len(steps) && len(steps) > 0 {
			v.Says = "All of them draw what they should."
		}
		return v
	})
}

// DeviationView names the first device that draws what it should not; Step is -1 where none does.
type DeviationView struct {
	Step int    `json:"step"`
	Says string `json:"says"`
}
