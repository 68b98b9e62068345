package app

import (
	"context"
	"encoding/json"
	"slices"

	"vividperch/core/airframe"
	"vividperch/core/columns"
	"vividperch/core/quad"
)

// StandAsk is the table of a thrust stand as text, with what its columns are; empty where that is known of its heads, or to be guessed.
type StandAsk struct {
	Text    string   `json:"text" maxLength:"2000000"`
	Columns []string `json:"columns,omitempty" maxItems:"100"`
}

// StandView is what a thrust stand's table comes to.
type StandView struct {
	Table TableRead `json:"table"`
	Known bool      `json:"known"` // the columns are as the pilot said before of the same heads
	// Sorted is not so where its rows were not in the order of rotation; they are put in it.
	Sorted bool            `json:"sorted"`
	Stand  *airframe.Stand `json:"stand,omitempty"`
	Says   string          `json:"says"` // why there is no fit
	// Is is what the parts tell now, by the places of the fits.
	Is map[quad.Path]float64 `json:"is" unit:"inherit"`
}

// ofStand names what a stand's columns are remembered for.
const ofStand = "stand"

func (a *App) readStand(ctx context.Context, o *opened, ask StandAsk) (*StandView, string, error) {
	t, err := columns.Read([]byte(ask.Text))
	if err != nil {
		return nil, "", err
	}
	v := &StandView{Is: map[quad.Path]float64{}}
	if len(ask.Columns) == 0 {
		if ask.Columns, v.Known, err = a.columnsOf(ctx, ofStand, t, airframe.StandColumns); err != nil {
			return nil, "", err
		}
	}
	read, rows := sampled(t, ask.Columns, airframe.StandColumns)
	v.Table = *read
	list, sorted := airframe.StandRows(rows)
	v.Sorted = sorted
	if v.Stand, err = airframe.FitStand(o.known.Parts, list, airframe.Density); err != nil {
		f := quad.AsFault(err)
		if f == nil {
			return nil, "", err
		}
		v.Says = quad.Sentence(f.Sentence)
		return v, t.Known(), nil
	}
	for _, f := range v.Stand.Fits {
		if is, err := quad.Get(o.known, f.Path); err == nil {
			v.Is[f.Path], _ = is.(float64)
		}
	}
	return v, t.Known(), nil
}

// Stand fits what a thrust stand measured, and keeps nothing.
func (a *App) Stand(ctx context.Context, id int64, ask StandAsk) (*StandView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	v, _, err := a.readStand(ctx, o, ask)
	return v, err
}

// KeepStand takes what a thrust stand's table comes to into the parts, as one act, and remembers what its columns are.
func (a *App) KeepStand(ctx context.Context, id, version int64, ask StandAsk) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	v, heads, err := a.readStand(ctx, o, ask)
	if err != nil {
		return nil, err
	}
	if v.Stand == nil {
		return nil, quad.Faultf("no-fit", "text", "nothing is taken: %s", v.Says)
	}
	raw, err := json.Marshal(v.Table.Columns)
	if err != nil {
		return nil, err
	}
	if err := a.keep.LearnColumns(ctx, a.pilot, ofStand, heads, raw); err != nil {
		return nil, err
	}
	return a.takeFigures(ctx, o, version, v.Stand.Fits)
}

// TakeHover takes the propeller's thrust as a measured hover has it into the parts.
func (a *App) TakeHover(ctx context.Context, id, version int64) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	c := curvesOf(o.known).Corrected
	if c == nil {
		return nil, quad.Faultf("no-hover", "readings.firstFlight.hover", "no hover was measured with this quad's parts and weight")
	}
	c.Told.Value, c.Told.Low, c.Told.High = quad.Significant(c.Told.Value), quad.Significant(c.Told.Low), quad.Significant(c.Told.High)
	return a.takeFigures(ctx, o, version, []quad.Estimate{c.Told})
}

// takeFigures of parts with their bands, in place of what was told or estimated there.
func (a *App) takeFigures(ctx context.Context, o *opened, version int64, fits []quad.Estimate) (*QuadView, error) {
	var values []SetValue
	list := slices.Clone(o.known.Parts.Estimates)
	for _, f := range fits {
		raw, err := json.Marshal(f.Value)
		if err != nil {
			return nil, err
		}
		values = append(values, SetValue{f.Path, raw})
		list = slices.DeleteFunc(list, func(e quad.Estimate) bool { return e.Path == f.Path })
		list = append(list, f)
	}
	raw, err := json.Marshal(list)
	if err != nil {
		return nil, err
	}
	return a.Edit(ctx, o.file.ID, version, append(values, SetValue{"parts.estimates", raw}))
}
