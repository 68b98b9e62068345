package app

import (
	"context"
	"math"
	"math/cmplx"

	"vividperch/core/airframe"
	"vividperch/core/feel"
	"vividperch/core/filter"
	"vividperch/core/flight"
	"vividperch/core/motors"
	"vividperch/core/quad"
)

// FiltersAsk is filters that are tried.
type FiltersAsk struct {
	Tried Tried `json:"tried" maxItems:"60"`
}

// FiltersView is what the filters hold up and take away.
type FiltersView struct {
	Rate    float64      `json:"rate" unit:"Hz"` // of the loop, for which they are reckoned
	Worst   feel.Margin  `json:"worst"`
	Axis    motors.Turn  `json:"axis" enum:"roll,pitch,yaw"` // of the worst
	Slow    bool         `json:"slow"`                       // they take more than the loop can spare
	Delays  []FilterAt   `json:"delays"`
	Others  []FilterAt   `json:"others"` // what else comes late: the loop, the protocol, the motors
	Total   float64      `json:"total" unit:"ms"`
	Hertz   []float64    `json:"hertz" unit:"Hz"` // at which the shares are
	Gyro    []float64    `json:"gyro" unit:"1"`   // of a swing, that comes through to proportional and integral
	Change  []float64    `json:"change" unit:"1"` // and to the derivative
	Rotors  []RotorsTurn `json:"rotors"`
	Spectra *SpectrumOf  `json:"spectra,omitempty"`
	Sits    []NotchSits  `json:"sits"`
	Records RecordView   `json:"records"`
	Follows FollowView   `json:"follows"`
}

// FilterAt is one filter.
type FilterAt struct {
	Words string  `json:"words"`
	Delay float64 `json:"delay" unit:"ms"` // of a slow movement
}

// NotchKind is what a notch goes by.
type NotchKind string

const (
	NotchFixed     NotchKind = "fixed"
	NotchFollowing NotchKind = "following"
	NotchSearching NotchKind = "searching"
)

// NotchSits is where a notch sits in a hover, with the heaviest pack full.
type NotchSits struct {
	Kind  NotchKind `json:"kind" enum:"fixed,following,searching"`
	Hertz float64   `json:"hertz" unit:"Hz"`
}

// RotorsTurn is how fast the rotors turn with a pack, full.
type RotorsTurn struct {
	Pack string  `json:"pack"`
	Idle float64 `json:"idle" unit:"Hz"`
	Hang float64 `json:"hang" unit:"Hz"` // in a hover
	Full float64 `json:"full" unit:"Hz"`
}

// SpectrumOf is what shakes in a hover of the model.
type SpectrumOf struct {
	flight.Spectrum
	// Seen says that the imbalance was measured; else new propellers are taken to be on.
	Seen bool `json:"seen"`
}

// FollowView is how far down notches that follow get.
type FollowView struct {
	On    bool    `json:"on"`
	Told  bool    `json:"told"` // the speed controllers tell the rotation
	Least float64 `json:"least" unit:"Hz"`
	Idle  float64 `json:"idle" unit:"Hz"` // the slowest
}

// RecordView is what a recording shows.
type RecordView struct {
	quad.Recording
	Rate    float64 `json:"rate" unit:"Hz"`  // 0 is not known
	Needs   float64 `json:"needs" unit:"Hz"` // for its purpose
	Minutes float64 `json:"minutes" unit:"min"`
	Memory  float64 `json:"memory" unit:"MB"`
	Lasts   float64 `json:"lasts" unit:"min"` // the longest hover
}

// FeelFilters of a quad as they are tried.
func (a *App) FeelFilters(ctx context.Context, id int64, ask FiltersAsk) (*FiltersView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	k, err := o.trying(ask.Tried)
	if err != nil {
		return nil, err
	}
	in, err := flight.Meant(k)
	if err != nil {
		return nil, err
	}
	set := in.Settings
	v := &FiltersView{Rate: set.LoopRate, Axis: motors.TurnRoll, Delays: []FilterAt{}, Others: []FilterAt{}, Rotors: []RotorsTurn{}, Sits: []NotchSits{}}
	if v.Rate <= 0 {
		v.Rate = flight.Rate
	}
	hang := v.packs(k, in)
	f := &set.Filters
	rotation, change := set.Fixed(v.Rate)
	named := []struct {
		words string
		chain filter.Chain
	}{
		{"Low-pass of the gyro", onlyLow(set, v.Rate, func(x *quad.Filters) { x.Gyro = f.Gyro }, true)},
		{"Second low-pass of the gyro", onlyLow(set, v.Rate, func(x *quad.Filters) { x.GyroSecond = f.GyroSecond }, false)},
		{"Notch", onlyLow(set, v.Rate, func(x *quad.Filters) { x.Notch = f.Notch }, false)},
		{"Second notch", onlyLow(set, v.Rate, func(x *quad.Filters) { x.NotchSecond = f.NotchSecond }, false)},
		{"Notches that search", set.Searching(hang, v.Rate)},
		{"Notches that follow the rotors", fourTimes(set.Following(hang, v.Rate))},
	}
	at := math.Max(1, v.Worst.Crossing)
	whole := append(filter.Chain{}, rotation...)
	whole = append(append(whole, named[4].chain...), named[5].chain...)
	for _, n := range named {
		if len(n.chain) > 0 {
			v.Delays = append(v.Delays, FilterAt{n.words, math.Round(100000*n.chain.Delay(at, v.Rate)) / 100})
		}
	}
	v.Total = math.Round(100000*whole.Delay(at, v.Rate)) / 100
	v.Others = append(v.Others, FilterAt{"One round of the loop", math.Round(1e5/v.Rate) / 100})
	if period := motors.SignalPeriod(set.Protocol); period > 0 {
		v.Others = append(v.Others, FilterAt{"One throttle pulse", math.Round(1e5*period) / 100})
	}
	v.Others = append(v.Others, FilterAt{"The motors, until they follow", math.Round(10*airframe.Lag(k.Parts)) / 10})
	v.Gyro, v.Change = []float64{}, []float64{}
	for hertz := 2.0; hertz < math.Min(1000, 0.45*v.Rate); hertz *= 1.06 {
		v.Hertz = append(v.Hertz, round1(hertz))
		g := cmplx.Abs(whole.At(hertz, v.Rate))
		v.Gyro = append(v.Gyro, math.Round(1000*g)/1000)
		v.Change = append(v.Change, math.Round(1000*g*cmplx.Abs(change.At(hertz, v.Rate)))/1000)
	}
	if s, err := flight.SpectrumOf(in); err == nil {
		v.Spectra = &SpectrumOf{*s, len(in.Actual.Imbalance) > 0}
	}
	for _, n := range []quad.Notch{f.Notch, f.NotchSecond} {
		if n.On == quad.On && n.Centre > 0 {
			v.Sits = append(v.Sits, NotchSits{NotchFixed, n.Centre})
		}
	}
	for _, hertz := range set.FollowAt(hang) {
		v.Sits = append(v.Sits, NotchSits{NotchFollowing, round1(hertz)})
	}
	for _, hertz := range set.SearchAt(hang) {
		v.Sits = append(v.Sits, NotchSits{NotchSearching, round1(hertz)})
	}
	v.Follows.On, v.Follows.Told, v.Follows.Least = f.Following.On == quad.On, set.Follows, f.Following.Least
	return v, nil
}

// onlyLow is the chain of one filter alone.
func onlyLow(set flight.Settings, rate float64, put func(*quad.Filters), usual bool) filter.Chain {
	set.Filters = quad.Filters{}
	put(&set.Filters)
	if !usual {
		set.GyroCutoff = 0
	}
	out, _ := set.Fixed(rate)
	return out
}

func fourTimes(c filter.Chain) (out filter.Chain) {
	for range 4 {
		out = append(out, c...)
	}
	return out
}

// packs: how fast the rotors turn, the worst of the margins, and what a recording holds; hang is the rotation in a hover with the heaviest, Hz.
func (v *FiltersView) packs(k quad.Known, in flight.Input) (hang float64) {
	heaviest, _, _ := airframe.Heaviest(k.Parts)
	fastest := 0.0
	for _, name := range quad.SortedKeys(k.Parts.Packs) {
		p := k.Parts.Packs[name]
		with := in.With(p, airframe.FullCell)
		d, err := airframe.NewDrive(k.Parts, p, airframe.FullCell*float64(p.Cells), airframe.Density)
		if err != nil {
			continue
		}
		turns := func(duty float64) float64 { return math.Round(d.At(duty).Rotation / (2 * math.Pi)) }
		one := RotorsTurn{Pack: name, Idle: turns(k.Sheet.Motors.Idle / 100), Full: turns(1)}
		if h, ok := d.Hover(with.Mass); ok {
			one.Hang = turns(h.Duty)
			if name == heaviest {
				hang = h.Rotation / (2 * math.Pi)
			}
		}
		fastest = math.Max(fastest, d.At(1).Rotation/(2*math.Pi))
		if v.Follows.Idle == 0 || one.Idle < v.Follows.Idle {
			v.Follows.Idle = one.Idle
		}
		v.Rotors = append(v.Rotors, one)
		if loops, err := flight.LoopsOf(with); err == nil {
			for i, l := range loops {
				if m := l.Margins(); m.Filters > v.Worst.Filters || m.Slow() && !v.Slow {
					v.Worst, v.Axis, v.Slow = shown(m), motors.Turns[i], m.Slow() || v.Slow
				}
			}
		}
		if seconds, ok := d.Lasts(p, with.Mass, 0, airframe.LowCell); ok {
			v.Records.Lasts = math.Max(v.Records.Lasts, round1(seconds/60))
		}
	}
	rec := k.Sheet.Feel.Recording
	r := &v.Records
	r.Recording, r.Memory = rec, k.Parts.Board.Memory
	r.Rate, r.Needs, r.Minutes = math.Round(feel.RecordRate(rec, k.Sheet.Motors.LoopRate)), math.Round(feel.NeedsRate(rec.Purpose, fastest)), round1(feel.RecordMinutes(rec, k.Sheet.Motors.LoopRate, r.Memory))
	return hang
}
