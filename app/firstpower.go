package app

import (
	"context"
	"math"

	"vividperch/core/power"
	"vividperch/core/quad"
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
	set := k.Sheet.Picture.Power
	for _, mw := range usualPowers {
		v.Video = append(v.Video, benchTime(mw, mw == set))
	}
	if set > 0 && !usual(set) {
		v.Video = append(v.Video, benchTime(set, true))
	}
	return v
}

func usual(mw float64) bool {
	for _, u := range usualPowers {
		if u == mw {
			return true
		}
	}
	return false
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
