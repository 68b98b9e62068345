package app

import (
	"context"
	"math"

	"vividperch/core/airframe"
	"vividperch/core/book"
	"vividperch/core/firmware"
	"vividperch/core/power"
	"vividperch/core/quad"
)

// PowerWatchView is what the station of the power watch draws.
type PowerWatchView struct {
	Packs []WatchedPack `json:"packs"`
	// Warn and Land are the thresholds of the sheet, and Cells what it counts on; 0 counts by itself.
	Warn   float64 `json:"warn" unit:"V"`
	Land   float64 `json:"land" unit:"V"`
	Cells  int     `json:"cells" unit:"count"`
	Delay  float64 `json:"delay" unit:"s"`
	Repeat float64 `json:"repeat" unit:"s"`
	// Leave is what an alarm should leave, s: a way home where it comes home by itself, and a landing else.
	Leave  float64     `json:"leave" unit:"s"`
	Routes []RouteView `json:"routes"`
	Reach  *ReachView  `json:"reach,omitempty"`
	Meter  MeterView   `json:"meter"`
	Heat   *HeatView   `json:"heat,omitempty"`
}

// WatchedPack is an assigned pack under watch. Hover is in mAh a minute; 0 where it does not hover, or parts are missing.
type WatchedPack struct {
	Name     string    `json:"name"`
	Pack     quad.Pack `json:"pack"`
	Hover    float64   `json:"hover" unit:"mAh/min"`
	Seconds  float64   `json:"seconds" unit:"s"` // from full until it is to land
	Wear     book.Wear `json:"wear"`
	Fits     bool      `json:"fits"` // what the alarm counts on
	Warns    float64   `json:"warns" unit:"V"`
	LandsAt  float64   `json:"landsAt" unit:"V"`
	Heaviest bool      `json:"heaviest"`
}

// RouteView is a route of the alarm: whether it can be, and why not.
type RouteView struct {
	Route  quad.AlarmRoute `json:"route" enum:"telemetry,display,sounder"`
	There  bool            `json:"there"`
	Words  string          `json:"words"`
	Proven bool            `json:"proven"`
}

// ReachView is how far it gets with the heaviest pack.
type ReachView struct {
	Pack    string          `json:"pack"`
	Speed   float64         `json:"speed" unit:"m/s"`
	Wind    float64         `json:"wind" unit:"m/s"`
	Told    bool            `json:"told"` // the wind was measured; else the air is still
	Reserve float64         `json:"reserve" unit:"%"`
	Minute  float64         `json:"minute" unit:"mAh/min"`
	Ways    []airframe.Turn `json:"ways"`
}

// MeterView is how the board knows what flows.
type MeterView struct {
	Told     bool                `json:"told"` // the line says how
	Setting  string              `json:"setting"`
	Unit     string              `json:"unit"`
	Kind     power.ScaleKind     `json:"kind,omitempty" enum:",multiplies,divides"`
	Held     *float64            `json:"held,omitempty" unit:"1"` // of the scale, as it was read
	Idle     float64             `json:"idle" unit:"A"`           // expected
	Bend     float64             `json:"bend" unit:"1"`           // of the line's model
	Steps    []power.Drawn       `json:"steps"`                   // what is expected, output by output, for a quad that is strapped down
	Seen     *quad.CurrentSeen   `json:"seen,omitempty"`
	Model    *power.CurrentModel `json:"model,omitempty"` // of what was seen
	Expected []power.Drawn       `json:"expected"`        // over the whole output
}

// HeatView is how warm the motors came home, beside what the model says of a hover.
type HeatView struct {
	Air   float64          `json:"air" unit:"°C"`
	Bells [4]airframe.Bell `json:"bells"`
	Hover float64          `json:"hover" unit:"°C"` // of a winding in a steady hover; 0 is not known
}

// usualReserve is the share of a pack that stays in it, and usualCruise an airspeed where nobody told one, m/s.
const (
	usualReserve = 0.2
	usualCruise  = 10.0
	usualLeave   = 45.0 // s, to land from wherever it is
)

// PowerWatch of a quad.
func (a *App) PowerWatch(ctx context.Context, id int64) (*PowerWatchView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	v := powerWatchOf(o.known)
	own, _, err := a.keep.Packs(ctx, a.pilot)
	if err != nil {
		return nil, err
	}
	for i := range v.Packs {
		for _, p := range own {
			if p.Name == v.Packs[i].Name {
				v.Packs[i].Wear = p.Worn()
			}
		}
	}
	return v, nil
}

func powerWatchOf(k quad.Known) *PowerWatchView {
	w := k.Sheet.Watch
	v := &PowerWatchView{
		Packs: []WatchedPack{}, Warn: w.WarnPerCell, Land: w.LandPerCell, Cells: w.Cells, Delay: k.Radio.AlarmDelay, Repeat: k.Radio.AlarmRepeat, Leave: usualLeave,
		Routes: routesOf(k),
	}
	if k.Sheet.Loss.Policy == quad.PolicyReturn {
		v.Leave = power.LastsHome / 2
	}
	extra := power.IdleCurrent(k.Parts)
	heaviest, _, _ := airframe.Heaviest(k.Parts)
	for _, name := range quad.SortedKeys(k.Parts.Packs) {
		p := k.Parts.Packs[name]
		one := WatchedPack{Name: name, Pack: p, Fits: w.Cells == 0 || w.Cells == p.Cells, Warns: w.WarnPerCell * float64(p.Cells), LandsAt: w.LandPerCell * float64(p.Cells), Heaviest: name == heaviest}
		mass := packMass(k, name)
		if d, err := airframe.NewDrive(k.Parts, p, airframe.RestCell*float64(p.Cells), airframe.Density); err == nil && p.Cells > 0 {
			if h, able := d.Hover(mass); able {
				one.Hover = math.Round((h.PackCurrent + extra) * 1000 / 60)
			}
			one.Seconds, _ = d.Lasts(p, mass, extra, w.LandPerCell)
			if name == heaviest {
				v.Reach = reachOf(k, name, d, mass, extra)
				v.Reach.Minute = one.Hover
			}
		}
		v.Packs = append(v.Packs, one)
	}
	v.Meter = meterOf(k)
	if m := k.Readings.Watch.Heat; m != nil {
		v.Heat = &HeatView{Air: m.Value.Air, Bells: airframe.Bells(m.Value)}
		if d, ok := restDrive(k); ok {
			if h, ok := d.Heats(k.Parts, packMass(k, heaviest)); ok {
				v.Heat.Hover = math.Round(h.Hover.Winding - airframe.AirTemperature + m.Value.Air)
			}
		}
	}
	return v
}

func routesOf(k quad.Known) []RouteView {
	w := k.Readings.Watch
	out := []RouteView{
		{Route: quad.RouteTelemetry, Words: "The radio speaks: it must have discovered the pack's voltage."},
		{Route: quad.RouteDisplay, Words: "In the goggles, where the eyes are anyway."},
		{Route: quad.RouteSounder, Words: "On board: heard as far as its horn and your ears reach."},
	}
	for i := range out {
		r := &out[i]
		why, _ := power.RouteLacks(r.Route, k.Parts, k.Sheet.Link)
		if r.There = why == ""; !r.There {
			r.Words = why
		}
		r.Proven = w.Heard != nil && w.Heard.Value && w.Route != nil && w.Route.Value == r.Route
	}
	return out
}

func reachOf(k quad.Known, name string, d airframe.Drive, mass, extra float64) *ReachView {
	r := &ReachView{Pack: name, Speed: k.Sheet.Loss.HomeSpeed, Reserve: 100 * usualReserve}
	if r.Speed == 0 {
		r.Speed = usualCruise
	}
	if m := k.Readings.FirstFlight.Wind; m != nil {
		r.Wind, r.Told = m.Value, true
	}
	r.Ways = d.Reaches(k.Parts.Packs[name], mass, airframe.DragOf(k.Parts.Frame, airframe.Density), r.Speed, r.Wind, extra, usualReserve)
	for i := range r.Ways {
		w := &r.Ways[i]
		w.Out, w.Back, w.Metres, w.Minutes = math.Round(w.Out), math.Round(w.Back), math.Round(w.Metres/10)*10, math.Round(10*w.Minutes)/10
	}
	return r
}

// restDrive is the drive with the heaviest pack at rest voltage; ok is false where parts are missing.
func restDrive(k quad.Known) (d airframe.Drive, ok bool) {
	_, p, ok := airframe.Heaviest(k.Parts)
	if !ok || p.Cells == 0 {
		return d, false
	}
	d, err := airframe.NewDrive(k.Parts, p, airframe.RestCell*float64(p.Cells), airframe.Density)
	return d, err == nil
}

// strapped are the outputs (%) at which a quad that is strapped down is read: no higher, as what holds it must hold all four.
var strapped = []float64{10, 15, 20, 25, 30}

// expectedAt some outputs (%), with the heaviest pack at rest voltage: what the motors draw with what the electronics do.
func expectedAt(k quad.Known, outputs []float64) []power.Drawn {
	out := []power.Drawn{}
	d, ok := restDrive(k)
	if !ok {
		return out
	}
	extra := power.IdleCurrent(k.Parts)
	for _, u := range outputs {
		out = append(out, power.Drawn{Output: u, Amps: math.Round(100*(d.At(u/100).PackCurrent+extra)) / 100})
	}
	return out
}

func meterOf(k quad.Known) MeterView {
	v := MeterView{Idle: math.Round(100*power.IdleCurrent(k.Parts)) / 100, Steps: expectedAt(k, strapped), Bend: 1}
	var whole []float64
	for u := 5.0; u <= 100; u += 5 {
		whole = append(whole, u)
	}
	v.Expected = expectedAt(k, whole)
	if l, err := firmware.LineFor(k.Sheet.Firmware.Line, k.Board.Dictionary); err == nil && l.Current.Told() {
		c := l.Current
		v.Told, v.Setting, v.Unit, v.Kind, v.Bend = true, c.Scale, c.Unit, c.Kind, c.Bend
		if x, ok := c.Held(k.Board, c.Scale); ok {
			v.Held = &x
		}
	}
	if m := k.Readings.Watch.Current; m != nil {
		v.Seen = &m.Value
		if model, err := power.FitCurrent(m.Value.Idle, []power.Drawn{{Output: m.Value.Output, Amps: m.Value.Amps}}, v.Bend); err == nil {
			v.Model = model
		}
	}
	return v
}
