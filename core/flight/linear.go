package flight

import (
	"math"

	"vividperch/core/airframe"
	"vividperch/core/feel"
	"vividperch/core/filter"
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

// Looped is a pack as it feeds a quad, with the rate loops that it makes.
type Looped struct {
	airframe.Fed
	Mass  float64 // kg
	Loops [3]feel.Loop
}

// LoopsOfEach pack of what is meant at a voltage per cell at rest, in the order of their names; weight in g with the heaviest, 0 where nobody weighed it. Packs with which it does not hover are left out.
func LoopsOfEach(k *quad.Known, weight, cell float64) []Looped {
	list, _ := airframe.FedByEach(k.Parts, cell)
	var out []Looped
	for _, f := range list {
		mass := airframe.MassOf(k.Parts, f.Pack, weight)
		if loops, ok := LoopsOfSheet(k, f.Drive, mass); ok {
			out = append(out, Looped{f, mass, loops})
		}
	}
	return out
}

// Strongest of the packs about an axis: what oscillates with any of them does with this one first, and it crosses the highest.
func Strongest(list []Looped, axis int) (out Looped, ok bool) {
	for _, f := range list {
		if !ok || f.Loops[axis].Authority > out.Loops[axis].Authority {
			out, ok = f, true
		}
	}
	return out, ok
}

// InHand about an axis is the margin with the pack that turns it the hardest, and that pack.
func InHand(list []Looped, axis int) (m feel.Margin, with Looped, ok bool) {
	if with, ok = Strongest(list, axis); ok {
		m = with.Loops[axis].Margins()
	}
	return m, with, ok
}

// SlowestFilters is the margin of which the filters take the most, about which axis and with which pack: of those that are too slow for their loop, and where none is of all.
func SlowestFilters(list []Looped) (worst feel.Margin, axis int, with Looped) {
	for i := range 3 {
		m, f, ok := InHand(list, i)
		if ok && (m.Slow() && !worst.Slow() || m.Slow() == worst.Slow() && m.Filters > worst.Filters) {
			worst, axis, with = m, i, f
		}
	}
	return worst, axis, with
}

// LoopsOfSheet are the same of what is meant, with a drive as it is fed and a mass in kg; ok is false where that does not hover.
func LoopsOfSheet(k *quad.Known, d airframe.Drive, mass float64) ([3]feel.Loop, bool) {
	s := SettingsOf(k.Sheet)
	return loops(&s, k.Sheet.Craft.Layout, k.Parts, d, mass, Rate)
}

// Authority about roll, pitch and yaw at hover with a mass in kg, rad/s² for a whole step of what the controller commands: the drive's for a whole step of duty, by how much the duty moves
// for the command. ok is false when it does not hover.
func Authority(out motors.Output, d airframe.Drive, layout quad.Layout, f quad.Frame, mass float64) (about [3]float64, ok bool) {
	p, ok := d.Hover(mass)
	if !ok {
		return about, false
	}
	return AuthorityAt(out, d, layout, f, mass, p.Duty), true
}

// AuthorityAt is the same at another duty, a share.
func AuthorityAt(out motors.Output, d airframe.Drive, layout quad.Layout, f quad.Frame, mass, duty float64) [3]float64 {
	about := d.AuthorityAt(layout, f, mass, duty)
	for i := range about {
		about[i] *= out.Slope(duty)
	}
	return about
}

func loops(s *Settings, layout quad.Layout, p quad.Parts, d airframe.Drive, mass float64, steps int) (out [3]feel.Loop, ok bool) {
	about, ok := Authority(s.output(), d, layout, p.Frame, mass)
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
	_, change := s.Fixed(rate)
	rotation := filter.Chain{}
	for _, stage := range s.Stages(w/(2*math.Pi), rate) {
		rotation = append(rotation, stage.Chain...)
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
