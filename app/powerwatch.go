package app

import (
	"context"
	"encoding/json"
	"math"

	"vividperch/core/airframe"
	"vividperch/core/book"
	"vividperch/core/columns"
	"vividperch/core/firmware"
	"vividperch/core/flight"
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
	Seen  quad.MotorHeat `json:"seen"`
	Hover float64        `json:"hover" unit:"°C"` // of a winding in a steady hover; 0 is not known
	Most  float64        `json:"most" unit:"°C"`
	Apart float64        `json:"apart" unit:"K"`
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
	for i := range v.Packs {
		p, ok, err := a.packNamed(ctx, v.Packs[i].Name)
		if err != nil {
			return nil, err
		}
		if ok {
			v.Packs[i].Wear = p.Worn()
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
	weight := 0.0
	if m := k.Readings.Airframe.Weight; m != nil {
		weight = m.Value
	}
	extra := power.IdleCurrent(k.Parts)
	heaviest, _, _ := airframe.Heaviest(k.Parts)
	for _, name := range quad.SortedKeys(k.Parts.Packs) {
		p := k.Parts.Packs[name]
		one := WatchedPack{Name: name, Pack: p, Fits: w.Cells == 0 || w.Cells == p.Cells, Warns: w.WarnPerCell * float64(p.Cells), LandsAt: w.LandPerCell * float64(p.Cells), Heaviest: name == heaviest}
		mass := airframe.Mass(k.Parts, p, 0)
		if weight > 0 {
			mass = airframe.MassWith(k.Parts, p, weight)
		}
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
		v.Heat = &HeatView{Seen: m.Value, Most: airframe.BellMost, Apart: airframe.BellsApart}
		if _, p, ok := airframe.Heaviest(k.Parts); ok {
			if d, err := airframe.NewDrive(k.Parts, p, airframe.RestCell*float64(p.Cells), airframe.Density); err == nil {
				if h, ok := d.Heats(k.Parts, airframe.Mass(k.Parts, p, weight)); ok {
					v.Heat.Hover = math.Round(h.Hover.Winding - airframe.AirTemperature + m.Value.Air)
				}
			}
		}
	}
	return v
}

func routesOf(k quad.Known) []RouteView {
	proven := func(r quad.AlarmRoute) bool {
		w := k.Readings.Watch
		return w.Heard != nil && w.Heard.Value && w.Route != nil && w.Route.Value == r
	}
	telemetry := RouteView{Route: quad.RouteTelemetry, There: k.Parts.Receiver.Telemetry && k.Sheet.Link.Telemetry, Words: "The radio speaks: it must have discovered the pack's voltage."}
	switch {
	case !k.Parts.Receiver.Telemetry:
		telemetry.Words = "The receiver sends no telemetry."
	case !k.Sheet.Link.Telemetry:
		telemetry.Words = "The board sends no telemetry."
	}
	display := RouteView{Route: quad.RouteDisplay, There: k.Parts.Video.Fitted, Words: "In the goggles, where the eyes are anyway."}
	if !display.There {
		display.Words = "There is no video."
	}
	out := []RouteView{telemetry, display, {Route: quad.RouteSounder, There: true, Words: "On board: heard as far as its horn and your ears reach."}}
	for i := range out {
		out[i].Proven = proven(out[i].Route)
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

// strapped are the outputs (%) at which a quad that is strapped down is read: no higher, as what holds it must hold all four.
var strapped = []float64{10, 15, 20, 25, 30}

// expectedAt some outputs (%), with the heaviest pack at rest voltage: what the motors draw with what the electronics do.
func expectedAt(k quad.Known, outputs []float64) []power.Drawn {
	out := []power.Drawn{}
	_, p, ok := airframe.Heaviest(k.Parts)
	if !ok || p.Cells == 0 {
		return out
	}
	d, err := airframe.NewDrive(k.Parts, p, airframe.RestCell*float64(p.Cells), airframe.Density)
	if err != nil {
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

// AlarmAsk is an alarm to be replayed over a flight: one of the model with an assigned pack, or a table that a pilot brings.
type AlarmAsk struct {
	Pack    string        `json:"pack" maxLength:"60"`
	Effort  flight.Effort `json:"effort" enum:"hovering,cruising,punching"`
	Text    string        `json:"text,omitempty" maxLength:"2000000"`
	Columns []string      `json:"columns,omitempty" maxItems:"100"`
	Alarm   power.Alarm   `json:"alarm"`
	// Leave is what the alarm should leave, s.
	Leave float64 `json:"leave" unit:"s" minimum:"0" maximum:"3600"`
	// Brief leaves the flight and the map out: whoever moves an alarm over them has them.
	Brief bool `json:"brief,omitempty"`
}

// AlarmView is what an alarm would have done.
type AlarmView struct {
	Flight   []power.Given   `json:"flight"` // thinned for a drawing
	Cells    int             `json:"cells" unit:"count"`
	Lasts    float64         `json:"lasts" unit:"s"`
	DownBy   float64         `json:"downBy" unit:"s"`
	Ended    bool            `json:"ended"` // before it had to be down
	Replayed power.Replayed  `json:"replayed"`
	Map      *power.AlarmMap `json:"map,omitempty"`
	// Advised alarm and what it would have done; absent where none of the map leaves enough.
	Advised  *power.Alarm    `json:"advised,omitempty"`
	Advises  *power.Replayed `json:"advises,omitempty"`
	Windings []float64       `json:"windings" unit:"°C"` // at the end of a flight of the model, by corner
	Distance float64         `json:"distance" unit:"m"`
	Table    *TableRead      `json:"table,omitempty"`
	Sorted   bool            `json:"sorted"`
}

// ofFlown names what the columns of a recorded flight are remembered for.
const ofFlown = "flown"

// emptiedCache keeps the newest packs that were flown empty, by the hash of their input. They can be flown again.
type emptiedCache struct{ newest[*flight.Emptied] }

// keptPacks flown empty, of a hundred kilobytes each.
const keptPacks = 24

// Alarm replayed over a flight.
func (a *App) Alarm(ctx context.Context, id int64, ask AlarmAsk) (*AlarmView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	k := o.known
	pack, ok := k.Parts.Packs[ask.Pack]
	if !ok {
		return nil, quad.Faultf("no-pack", "pack", "no pack named %q is assigned", quad.Clip(ask.Pack, 40))
	}
	if pack.Cells == 0 {
		return nil, quad.Faultf("no-cells", "pack", "nobody told how many cells %s has, so nobody knows its threshold", ask.Pack)
	}
	v := &AlarmView{Flight: []power.Given{}, Cells: pack.Cells, Windings: []float64{}, Sorted: true}
	var whole []power.Given
	low := false
	if ask.Text != "" {
		if whole, err = a.flown(ctx, v, ask); err != nil {
			return nil, err
		}
		if err := power.OfCells(whole, pack.Cells); err != nil {
			return nil, err
		}
	} else {
		got, err := a.emptied(ctx, k, ask.Pack, ask.Effort)
		if err != nil {
			return nil, err
		}
		whole, low, v.Distance = got.Samples, got.Low, math.Round(got.Distance)
		v.Windings = append(v.Windings, got.Windings[:]...)
	}
	land := k.Sheet.Watch.LandPerCell
	if land <= 0 {
		land = power.LandLow
	}
	f := power.Flown{Given: whole, Cells: pack.Cells, Land: land, Low: low}
	v.Lasts = whole[len(whole)-1].Time
	v.DownBy, v.Ended = f.DownBy()
	v.Replayed = f.Replay(ask.Alarm)
	if ask.Brief {
		return v, nil
	}
	m := f.Map()
	v.Map = &m
	if best, ok := v.Map.Recommend(ask.Leave); ok {
		r := f.Replay(best)
		v.Advised, v.Advises = &best, &r
	}
	v.Flight = power.Thin(whole, 900)
	return v, nil
}

// flown is a flight that a pilot brings as a table; what its columns are is remembered once it could be read.
func (a *App) flown(ctx context.Context, v *AlarmView, ask AlarmAsk) ([]power.Given, error) {
	t, err := columns.Read([]byte(ask.Text))
	if err != nil {
		return nil, err
	}
	if len(ask.Columns) == 0 {
		if ask.Columns, _, err = a.columnsOf(ctx, ofFlown, t, power.FlownColumns); err != nil {
			return nil, err
		}
	}
	read, rows := sampled(t, ask.Columns, power.FlownColumns)
	v.Table = read
	list, sorted, err := power.ReadFlown(rows)
	if err != nil {
		return nil, err
	}
	v.Sorted = sorted
	raw, err := json.Marshal(read.Columns)
	if err != nil {
		return nil, err
	}
	return list, a.keep.LearnColumns(ctx, a.pilot, ofFlown, t.Known(), raw)
}

// emptied is a pack flown empty in the model, by a quad that is wired, set up and captured as it is meant: what is wrong there other stations say, and the pack is drawn from all the same.
func (a *App) emptied(ctx context.Context, k quad.Known, name string, effort flight.Effort) (*flight.Emptied, error) {
	one := k
	one.Parts.Packs = map[string]quad.Pack{name: k.Parts.Packs[name]}
	in, err := flight.NewInput(one)
	if err != nil {
		return nil, err
	}
	centre := in.Actual.Centre
	in = flight.Corrected(in, k.Sheet.Craft.Rotation)
	in.Mass, in.Actual.Centre = packMass(k, name), centre
	key := flight.Hash(in, flight.FirstHover.Steady()) + " " + string(effort)
	if got, ok := a.emptiedPacks.get(key); ok {
		return got, nil
	}
	got, err := flight.EmptyPack(in, effort, func() bool { return ctx.Err() != nil })
	if err != nil {
		return nil, err
	}
	if got.Fell || len(got.Samples) < 2 {
		return nil, quad.Faultf("no-flight", "pack", "flown like that it does not stay in the air with %s: a rehearsal shows why", name)
	}
	return a.emptiedPacks.put(key, got, keptPacks), nil
}

// packMass is the mass of a quad with one of its packs in, kg.
func packMass(k quad.Known, name string) float64 {
	if m := k.Readings.Airframe.Weight; m != nil {
		return airframe.MassWith(k.Parts, k.Parts.Packs[name], m.Value)
	}
	return airframe.Mass(k.Parts, k.Parts.Packs[name], 0)
}

// ScaleAsk is a current sensor's scale to be found from what chargers put back.
type ScaleAsk struct {
	Was   float64         `json:"was"`
	Kind  power.ScaleKind `json:"kind" enum:"multiplies,divides"`
	Packs []power.Charged `json:"packs" maxItems:"40"`
	Pack  string          `json:"pack,omitempty" maxLength:"60"` // which was flown; empty is the largest
	// Idle is what a board without a sensor adds for itself, A; 0 where it has one.
	Idle float64 `json:"idle,omitempty" unit:"A" minimum:"0" maximum:"50"`
}

// ScaleView is what comes of it, and how the line says it.
type ScaleView struct {
	Scaled  *power.Scaled         `json:"scaled"`
	Setting *firmware.SettingLine `json:"setting,omitempty"`
	Says    string                `json:"says"` // why it cannot be set
}

// CurrentScale from charger figures.
func (a *App) CurrentScale(ctx context.Context, id int64, ask ScaleAsk) (*ScaleView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	capacity := o.known.Parts.Packs[ask.Pack].Capacity
	if ask.Pack == "" {
		for _, p := range o.known.Parts.Packs {
			capacity = math.Max(capacity, p.Capacity)
		}
	}
	s, err := power.ScaleBy(ask.Kind, ask.Was, ask.Packs, capacity, ask.Idle)
	if err != nil {
		return nil, err
	}
	v := &ScaleView{Scaled: s}
	if b, ok := buildOf(o.known); ok {
		line, err := b.ScaleSetting(s.Scale)
		if f := quad.AsFault(err); f != nil {
			v.Says = quad.Sentence(f.Sentence)
		} else if err == nil {
			v.Setting = &line
		}
	}
	return v, nil
}

// buildOf a quad's board, where its line says how it is told what flows.
func buildOf(k quad.Known) (*firmware.Build, bool) {
	board := k.Board
	if !board.Read() {
		board.Line, board.Version = k.Sheet.Firmware.Line, k.Sheet.Firmware.Version
	}
	b, err := firmware.For(board)
	return b, err == nil && b.Line.Current.Told()
}

// ModelAsk is a board's model of the current to be found from readings.
type ModelAsk struct {
	Idle   float64       `json:"idle" unit:"A" minimum:"0" maximum:"50"`
	Loaded []power.Drawn `json:"loaded" maxItems:"40"`
	Free   bool          `json:"free"` // finds the bend too; else it is the line's own
}

// ModelView is the model, how far off it may be, and what a reading may have slipped by.
type ModelView struct {
	Model *power.CurrentModel `json:"model"`
	// Curve over the output, with the band that 95 % of readings lie in.
	Curve    []ModelPoint           `json:"curve"`
	Slips    []power.Slip           `json:"slips"`
	Settings []firmware.SettingLine `json:"settings"`
	Says     string                 `json:"says"` // why they cannot be set
}

// ModelPoint of a curve.
type ModelPoint struct {
	Output float64 `json:"output" unit:"%"`
	Amps   float64 `json:"amps" unit:"A"`
	Least  float64 `json:"least" unit:"A"`
	Most   float64 `json:"most" unit:"A"`
}

// CurrentModel from readings at rest and under load. A decimal that slipped is named, and nothing is kept.
func (a *App) CurrentModel(ctx context.Context, id int64, ask ModelAsk) (*ModelView, error) {
	return figuresOr(ctx, a, id, func(k quad.Known) (*ModelView, error) {
		v := &ModelView{Curve: []ModelPoint{}, Slips: []power.Slip{}, Settings: []firmware.SettingLine{}}
		if s, ok := power.Slipped("at rest it draws", ask.Idle, power.IdleCurrent(k.Parts)); ok {
			v.Slips = append(v.Slips, s)
		}
		for _, d := range ask.Loaded {
			for _, e := range expectedAt(k, []float64{d.Output}) {
				if s, ok := power.Slipped("at "+quad.Quantity(d.Output, "%")+" it draws", d.Amps, e.Amps); ok {
					v.Slips = append(v.Slips, s)
				}
			}
		}
		b, told := buildOf(k)
		bend := 1.0
		if told {
			bend = b.Line.Current.Bend
		}
		if ask.Free {
			bend = math.NaN()
		}
		m, err := power.FitCurrent(ask.Idle, ask.Loaded, bend)
		if err != nil {
			return nil, err
		}
		v.Model = m
		for u := 0.0; u <= 100; u += 4 {
			least, most := m.Band(u / 100)
			v.Curve = append(v.Curve, ModelPoint{u, m.At(u / 100), least, most})
		}
		if !told {
			return v, nil
		}
		own := *m
		if ask.Free { // what its board can hold is its own bend
			if fit, err := power.FitCurrent(ask.Idle, ask.Loaded, b.Line.Current.Bend); err == nil {
				own = *fit
			}
		}
		lines, err := b.ModelSettings(own)
		if f := quad.AsFault(err); f != nil {
			v.Says = quad.Sentence(f.Sentence)
		} else if err == nil {
			v.Settings = lines
		}
		return v, nil
	})
}

// figuresOr is figures of what may refuse.
func figuresOr[T any](ctx context.Context, a *App, id int64, of func(quad.Known) (T, error)) (none T, err error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return none, err
	}
	return of(o.known)
}
