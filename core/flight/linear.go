package flight

import (
	"math"

	"vividperch/core/airframe"
	"vividperch/core/feel"
	"vividperch/core/motors"
	"vividperch/core/quad"
)

// LoopsOf are the rate loops about roll, pitch and yaw for small movements in a hover, at the rate at which the flight steps them: a board's own where that is slower. Run faster than a
// rehearsal flies it, a loop has up to a sixth more in hand; what is judged is what a rehearsal would show. A quad that does not hover, or an airframe
// that cannot be computed, is a Fault.
func LoopsOf(in Input) (out [3]feel.Loop, err error) {
	d, err := airframe.NewDrive(in.Parts, in.Pack, in.CellVolt*float64(in.Pack.Cells), in.Site.Density)
	if err != nil {
		return out, err
	}
	out, ok := loops(&in.Settings, in.Actual.Layout, in.Parts, d, in.Mass, in.rate())
	if !ok {
		return out, quad.Faultf("too-heavy", "readings.airframe.weight", "it does not hover at full throttle")
	}
	return out, nil
}

// LoopsOfSheet are the same of what is meant, with a drive as it is fed and a mass in kg; ok is false where that does not hover.
func LoopsOfSheet(k *quad.Known, d airframe.Drive, mass float64) ([3]feel.Loop, bool) {
	s := SettingsOf(k.Sheet)
	return loops(&s, k.Sheet.Craft.Layout, k.Parts, d, mass, Rate)
}

func loops(s *Settings, layout quad.Layout, p quad.Parts, d airframe.Drive, mass float64, steps int) (out [3]feel.Loop, ok bool) {
	about, ok := d.Authority(layout, p.Frame, mass)
	if !ok {
		return out, false
	}
	hover, _ := d.Hover(mass)
	w, lag := hover.Rotation, lagOf(quad.Motor{TimeConst: airframe.Lag(p)})
	places := airframe.Spots(layout, p.Frame)
	inertia := airframe.Inertia(mass, places)
	var ahead, aside float64 // m²
	for _, at := range places {
		ahead, aside = ahead+at.X*at.X, aside+at.Y*at.Y
	}
	// What a rotor's own inertia gives while it speeds up, beside what the air takes: I s w against 2 Q w.
	lead := inertiaShare * lag * d.Constant * d.Constant / d.Resistance / (2 * d.TorquePer * w)
	damping := [3]float64{lossPer(d) * w * aside / inertia[0], lossPer(d) * w * ahead / inertia[1], 0}
	rate := min(s.loopRate(), float64(steps))
	rotation, change := s.Fixed(rate)
	rotation = append(rotation, s.Searching(w/(2*math.Pi), rate)...)
	for range 4 {
		rotation = append(rotation, s.Following(w/(2*math.Pi), rate)...)
	}
	wait := 0.0
	if motors.SignalSteps(s.Protocol) > 0 {
		wait = commandDelay
		if period := motors.SignalPeriod(s.Protocol); period > 1/rate {
			wait += (period - 1/rate) / 2 // a pulse may be on its way
		}
	}
	for i := range out {
		out[i] = feel.Loop{Authority: about[i], Lag: lag, Damping: damping[i], Gains: s.Gains[i], Rate: rate, Wait: wait, Rotation: rotation, Change: change}
	}
	out[2].Lead = lead
	return out, true
}
