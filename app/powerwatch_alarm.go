package app

import (
	"context"
	"encoding/json"
	"math"

	"vividperch/core/airframe"
	"vividperch/core/columns"
	"vividperch/core/flight"
	"vividperch/core/power"
	"vividperch/core/quad"
)

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
	known := false
	if len(ask.Columns) == 0 {
		if ask.Columns, known, err = a.columnsOf(ctx, ofFlown, t, power.FlownColumns); err != nil {
			return nil, err
		}
	}
	read, rows := sampled(t, ask.Columns, power.FlownColumns)
	v.Table = read
	list, sorted, err := power.ReadFlown(rows)
	if err != nil {
		return nil, err
	}
	if v.Sorted = sorted; known || ask.Brief {
		return list, nil // remembered before, or an alarm is only moved over it
	}
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
	return airframe.MassOf(k.Parts, k.Parts.Packs[name], k.Weight())
}
