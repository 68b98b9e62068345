package app

import (
	"context"
	"math"

	"vividperch/bench/protocol"
	"vividperch/core/airframe"
	"vividperch/core/columns"
	"vividperch/core/flight"
	"vividperch/core/quad"
	"vividperch/core/senses"
)

// LevelPlate makes a plate level with the shims at hand, and tells the board's own error from it. Nothing is kept.
func (a *App) LevelPlate(_ context.Context, ask senses.PlateAsk) (*senses.Plate, error) {
	p, err := ask.Level(airframe.Gravity)
	if err != nil {
		return nil, err
	}
	return &p, nil
}

// SamplesAsk is a run of samples: as the bench showed them, or as a table with one line of heads.
type SamplesAsk struct {
	Samples []senses.Vector
	Text    string
	// Columns says what each column of the text is, by the keys of its fields; empty where that is to be guessed.
	Columns []string
	// Turns are the rotations that the board showed with each of the samples, deg/s, and Times when, s; empty where that is not known.
	Turns []senses.Vector
	Times []float64
	// Spun is when the motors were spun up, s; negative where they were not.
	Spun float64
}

// TableRead is a table as it was read: what its columns are, its first rows, and what of it cannot be read.
type TableRead struct {
	Fields  []columns.Heading `json:"fields"`
	Head    []string          `json:"head"`
	Columns []string          `json:"columns"`
	Rows    [][]string        `json:"rows"`
	Faults  []LineFault       `json:"faults"`
}

// readSamples of a text, by some fields.
func readSamples(ask SamplesAsk, fields []columns.Heading) (*TableRead, []columns.Row, error) {
	t, err := columns.Read([]byte(ask.Text))
	if err != nil {
		return nil, nil, err
	}
	v, rows := sampled(t, ask.Columns, fields)
	return v, rows, nil
}

// sampled rows of a table, by some fields; columns that nobody said are guessed.
func sampled(t columns.Table, said []string, fields []columns.Heading) (*TableRead, []columns.Row) {
	v := &TableRead{Fields: fields, Head: t.Head, Rows: t.Rows[:min(len(t.Rows), 3)], Columns: said, Faults: []LineFault{}}
	if len(v.Columns) != len(t.Head) {
		v.Columns = columns.Guess(t.Head, fields)
	}
	rows, faults := t.Take(fields, v.Columns)
	for _, f := range faults[:min(len(faults), mostFaults)] {
		v.Faults = append(v.Faults, LineFault{quad.Upper(f.Place), quad.Sentence(f.Sentence)})
	}
	return v, rows
}

var fieldFields = []columns.Heading{
	{Key: "x", Label: "Ahead", Unit: "µT", Words: []string{"x", "mag x", "magx", "compass x", "forward"}, Needed: true},
	{Key: "y", Label: "Right", Unit: "µT", Words: []string{"y", "mag y", "magy", "compass y"}, Needed: true},
	{Key: "z", Label: "Down", Unit: "µT", Words: []string{"z", "mag z", "magz", "compass z"}, Needed: true},
	{Key: "time", Label: "Time", Unit: "s", Words: []string{"time", "t", "seconds"}},
	{Key: "wx", Label: "Rotation about ahead", Unit: "deg/s", Words: []string{"gyro x", "gyrox", "gx", "roll rate"}},
	{Key: "wy", Label: "Rotation about right", Unit: "deg/s", Words: []string{"gyro y", "gyroy", "gy", "pitch rate"}},
	{Key: "wz", Label: "Rotation about down", Unit: "deg/s", Words: []string{"gyro z", "gyroz", "gz", "yaw rate"}},
}

// TurningView is how far a compass was turned, with the table that it came from.
type TurningView struct {
	senses.Turning
	// Mount is how it lies by what the gyro felt meanwhile, and Motion why that is not told.
	Mount  *senses.CompassMount `json:"mount,omitempty"`
	Motion string               `json:"motion"`
	Ground string               `json:"ground"` // the field along the ground that headings are worked out by, in words
	Table  *TableRead           `json:"table,omitempty"`
}

// Turning is what samples of a compass come to, for a quad's place.
func (a *App) Turning(ctx context.Context, id int64, ask SamplesAsk) (*TurningView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	v := &TurningView{Ground: o.known.Limits.FieldWords()}
	if ask.Text != "" {
		table, rows, err := readSamples(ask, fieldFields)
		if err != nil {
			return nil, err
		}
		v.Table = table
		for _, r := range rows {
			ask.Samples = append(ask.Samples, senses.Vector{r.Figures["x"], r.Figures["y"], r.Figures["z"]})
			if at, timed := r.Figures["time"]; timed {
				ask.Times = append(ask.Times, at)
			}
			wx, rolls := r.Figures["wx"]
			wy, pitches := r.Figures["wy"]
			wz, turns := r.Figures["wz"]
			if rolls && pitches && turns {
				ask.Turns = append(ask.Turns, senses.Vector{wx, wy, wz})
			}
		}
	}
	v.Turning = senses.TurnedEveryWay(ask.Samples, o.known.Limits.FieldThere())
	if n := len(ask.Samples); v.Fit != nil && n > 0 && len(ask.Turns) == n && len(ask.Times) == n {
		moved := make([]senses.Moved, n)
		for i := range moved {
			moved[i] = senses.Moved{Time: ask.Times[i], Compass: ask.Samples[i], Turns: ask.Turns[i]}
		}
		m, err := senses.MountByMotion(moved, v.Fit)
		if err != nil {
			v.Motion = quad.Explain(err)
		} else {
			v.Mount = &m
		}
	}
	return v, nil
}

// TurnEveryWay has the hand at the bench turn a quad through every direction.
func (a *App) TurnEveryWay(ctx context.Context, id int64) error {
	return a.handMoves(ctx, id, protocol.Sweep{Every: true})
}

// HeadingAsk is a heading that was looked at in one direction, and across it.
type HeadingAsk struct {
	Heading quad.HeadingSeen  `json:"heading"`
	Aside   *quad.HeadingSeen `json:"aside,omitempty"`
}

// HeadingView is what it comes to.
type HeadingView struct {
	Off       float64  `json:"off" unit:"deg"`
	Aside     *float64 `json:"aside,omitempty" unit:"deg"`
	Tolerance float64  `json:"tolerance" unit:"deg"`
	Circles   float64  `json:"circles" unit:"deg"` // from where on a hold circles ever wider
	Backwards bool     `json:"backwards"`
	// Tell is what to tell the board of how its compass is turned, where that is what is wrong.
	Tell *float64 `json:"tell,omitempty" unit:"deg"`
	// Hold is what a hold of the model does with it, in words.
	Hold string `json:"hold"`
	// Track is where it goes meanwhile, north and east, m, ten times a second.
	Track [][2]float64 `json:"track" unit:"m"`
}

// Heading judges a heading against known directions, and flies a hold with it.
func (a *App) Heading(ctx context.Context, id int64, ask HeadingAsk) (*HeadingView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	for _, h := range []*quad.HeadingSeen{&ask.Heading, ask.Aside} {
		if h == nil {
			continue
		}
		for _, x := range []float64{h.Shown, h.Known} {
			if !(x >= 0 && x <= 360) {
				return nil, quad.Faultf("no-direction", "", "a direction is 0 to 360°, not %s", quad.Number(x))
			}
		}
		if math.Abs(h.Declination) > 180 || math.IsNaN(h.Declination) {
			return nil, quad.Faultf("no-direction", "", "no place has a declination of %s°", quad.Number(h.Declination))
		}
	}
	k := o.known
	told := k.Sheet.Senses
	v := &HeadingView{Off: ask.Heading.Off(told), Tolerance: senses.HeadingTolerance, Circles: flight.CirclesFrom(max(0.5, k.Sheet.Feel.LevelStrength)), Track: [][2]float64{}}
	k.Readings.Senses.Heading = &quad.Reading[quad.HeadingSeen]{Value: ask.Heading}
	k.Readings.Senses.HeadingAside = nil
	if ask.Aside != nil {
		across := ask.Aside.Off(told)
		v.Aside, v.Backwards = &across, quad.RunsBackwards(ask.Heading, *ask.Aside)
		k.Readings.Senses.HeadingAside = &quad.Reading[quad.HeadingSeen]{Value: *ask.Aside}
	}
	if tell, turned := senses.TurnedOnMount(v.Off, told.CompassTurned); turned && !v.Backwards {
		v.Tell = &tell
	}
	v.Hold, v.Track = holdWith(ctx, k)
	return v, nil
}

// holdWith flies a position hold of a quad as it is observed, everything else sound; in words what keeps it from being flown.
func holdWith(ctx context.Context, k quad.Known) (string, [][2]float64) {
	in, err := flight.NewInput(k)
	if err != nil {
		return quad.Explain(err), [][2]float64{}
	}
	place := in.Actual.Place
	in = flight.Corrected(in, k.Sheet.Craft.Rotation)
	in.Actual.Place.HeadingOff, in.Actual.Place.Backwards = place.HeadingOff, place.Backwards
	in.Actual.Place.Disturbs, in.Actual.Place.HeightNoise, in.Actual.Place.HeightDrift = place.Disturbs, place.HeightNoise, place.HeightDrift
	if place.Dilution > 0 {
		in.Actual.Place.Dilution = place.Dilution
	}
	in.Settings = flight.WithHold(in.Settings)
	run, err := flight.Fly(in, flight.PositionHold.Steady(), flight.Watching{Stop: func() bool { return ctx.Err() != nil }})
	if err != nil {
		return quad.Explain(err), [][2]float64{}
	}
	track := [][2]float64{}
	for i, f := range run.Frames {
		if i%5 == 0 {
			track = append(track, [2]float64{math.Round(f.Place[0]*100) / 100, math.Round(f.Place[1]*100) / 100})
		}
	}
	return run.Summary.Sentence, track
}

// SkyView is what counts by turns come to.
type SkyView struct {
	senses.Compared
	Trial quad.VideoTrial `json:"trial"`
	Words string          `json:"words"`
}

// Sky compares counts of satellites that were taken by turns, with the video off and on.
func (a *App) Sky(_ context.Context, counts []senses.Count) (*SkyView, error) {
	c, err := senses.Alternated(counts)
	if err != nil {
		return nil, err
	}
	return &SkyView{Compared: c, Trial: c.Trial(), Words: c.Words()}, nil
}

var heightFields = []columns.Heading{
	{Key: "at", Label: "Time", Unit: "s", Words: []string{"time", "t", "at"}, Needed: true},
	{Key: "height", Label: "Height", Unit: "m", Words: []string{"height", "altitude", "alt", "baro"}, Needed: true},
}

// HeightsView is what a height did that should have stayed.
type HeightsView struct {
	senses.Heights
	Reading quad.HeightRest       `json:"reading"`
	Drawn   []senses.HeightSample `json:"drawn"`
	Table   *TableRead            `json:"table,omitempty"`
}

// Heights judges heights that were recorded at rest: samples hold time and height.
func (a *App) Heights(_ context.Context, ask SamplesAsk) (*HeightsView, error) {
	v := &HeightsView{Drawn: []senses.HeightSample{}}
	list := make([]senses.HeightSample, 0, len(ask.Samples))
	for _, s := range ask.Samples {
		list = append(list, senses.HeightSample{At: s[0], Height: s[1]})
	}
	if ask.Text != "" {
		table, rows, err := readSamples(ask, heightFields)
		if err != nil {
			return nil, err
		}
		v.Table = table
		for _, r := range rows {
			list = append(list, senses.HeightSample{At: r.Figures["at"], Height: r.Figures["height"]})
		}
	}
	h, err := senses.AtRest(list, ask.Spun)
	if err != nil {
		return nil, err
	}
	v.Heights, v.Reading = h, h.Reading()
	for i := 0; i < len(list); i += max(1, len(list)/400) {
		v.Drawn = append(v.Drawn, list[i])
	}
	return v, nil
}

var currentFields = []columns.Heading{
	{Key: "amps", Label: "Current", Unit: "A", Words: []string{"current", "amps", "amperes", "a"}, Needed: true},
	fieldFields[0], fieldFields[1], fieldFields[2],
}

// CurrentsView is how far the motors' current moves a compass.
type CurrentsView struct {
	senses.Interference
	Reading quad.Disturbance `json:"reading"`
	Hover   float64          `json:"hover" unit:"A"`
	There   float64          `json:"there" unit:"µT"` // field along the ground
	Ground  string           `json:"ground"`          // that, in words
	Turns   float64          `json:"turns" unit:"deg"`
	Most    float64          `json:"most" unit:"deg"` // that the motors may turn the heading by in hover
	Drawn   []senses.Current `json:"drawn"`
	Table   *TableRead       `json:"table,omitempty"`
}

// Currents fits what a compass showed over the current, for a hover of the quad.
func (a *App) Currents(ctx context.Context, id int64, ask SamplesAsk) (*CurrentsView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	table, rows, err := readSamples(ask, currentFields)
	if err != nil {
		return nil, err
	}
	v := &CurrentsView{Table: table, There: o.known.Limits.FieldThere(), Ground: o.known.Limits.FieldWords(), Drawn: []senses.Current{}}
	var list []senses.Current
	for _, r := range rows {
		list = append(list, senses.Current{Amperes: r.Figures["amps"], Shown: senses.Vector{r.Figures["x"], r.Figures["y"], r.Figures["z"]}})
	}
	if v.Hover, err = hoverCurrent(o.known); err != nil {
		return nil, err
	}
	if v.Interference, err = senses.Disturbs(list); err != nil {
		return nil, err
	}
	v.Reading = v.Interference.InHover(v.Hover)
	v.Turns, v.Most = senses.HeadingWithin(v.Reading.AtHover, v.There), senses.HeadingWithin(senses.DisturbsMost*v.There, v.There)
	for i := 0; i < len(list); i += max(1, len(list)/200) {
		v.Drawn = append(v.Drawn, list[i])
	}
	return v, nil
}

// hoverCurrent of a quad with its heaviest pack, A; a Fault where it cannot be worked out.
func hoverCurrent(k quad.Known) (float64, error) {
	_, pack, ok := airframe.Heaviest(k.Parts)
	if !ok {
		return 0, quad.Faultf("no-pack", "parts.packs", "no pack is assigned: nobody knows what a hover draws")
	}
	d, err := airframe.NewDrive(k.Parts, pack, airframe.RestCell*float64(pack.Cells), airframe.Density)
	if err != nil {
		return 0, err
	}
	p, able := d.Hover(airframe.Mass(k.Parts, pack, k.Weight()))
	if !able {
		return 0, quad.Faultf("too-heavy", "readings.airframe.weight", "it does not hover at full throttle")
	}
	return p.PackCurrent, nil
}

// SkyJudged is a sky by both schools, for a quad's place today.
func (a *App) SkyJudged(ctx context.Context, id int64, s quad.Sky) (*senses.SkyJudged, error) {
	if s.Satellites < 0 || s.Satellites > 80 || !(s.Dilution >= 0 && s.Dilution <= 100) {
		return nil, quad.Faultf("no-sky", "", "a sky has up to 80 satellites, and a dilution up to 100")
	}
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	clear := 0.0
	if m := o.known.Readings.FirstFlight.Clear; m != nil {
		clear = m.Value
	}
	j := senses.JudgeSky(s, clear)
	return &j, nil
}
