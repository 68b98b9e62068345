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
	Far   bool    `json:"far"`            // they do not follow down to it
}

// RecordView is what a recording shows.
type RecordView struct {
	feel.Recorded
	Lasts float64 `json:"lasts" unit:"min"` // the longest hover
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
	_, change := set.Fixed(v.Rate)
	at, whole := math.Max(1, v.Worst.Crossing), filter.Chain{}
	for _, stage := range set.Stages(hang, v.Rate) {
		if len(stage.Chain) > 0 {
			v.Delays = append(v.Delays, FilterAt{stage.Words, late(stage.Chain, at, v.Rate)})
			whole = append(whole, stage.Chain...)
		}
	}
	v.Total = late(whole, at, v.Rate)
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
	v.Follows.Far = !feel.FollowsIdle(v.Follows.Least, v.Follows.Idle)
	return v, nil
}

// late is the delay of a chain in ms, as it is told.
func late(c filter.Chain, hertz, rate float64) float64 {
	return math.Round(1e5*c.Delay(hertz, rate)) / 100
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
	}
	worst, axis, _ := flight.SlowestFilters(flight.LoopsOfEach(&k, k.Weight(), airframe.FullCell))
	v.Worst, v.Axis, v.Slow = shown(worst), motors.Turns[axis], worst.Slow()
	lasts, _ := airframe.LongestHover(k.Parts, k.Weight(), k.Sheet.Watch.LandPerCell)
	v.Records = RecordView{feel.RecordedOf(k.Sheet.Feel.Recording, k.Sheet.Motors.LoopRate, k.Parts.Board.Memory, fastest, lasts/60), round1(lasts / 60)}
	return hang
}
