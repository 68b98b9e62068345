package app

import (
	"context"
	"encoding/json"
	"math"
	"strings"

	"vividperch/core/flight"
	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// SticksView is what the station of the sticks draws.
type SticksView struct {
	Axes     []sticks.AxisState `json:"axes"`
	Switches SwitchesView       `json:"switches"`
	Profiles []ProfileView      `json:"profiles"` // the first, and those that its firmware can hold
}

// Sticks of a quad.
func (a *App) Sticks(ctx context.Context, id int64) (*SticksView, error) {
	return figures(ctx, a, id, sticksOf)
}

func sticksOf(k quad.Known) *SticksView {
	is, own := k.Sheet.Firmware, ""
	if k.Board.Line == is.Line {
		own = k.Board.Dictionary
	}
	holds := holdsOf(is, own)
	return &SticksView{Axes: sticks.Axes(k), Switches: switchesView(k, holds), Profiles: profilesOf(k, holds)}
}

// SwitchesView is everything that the switches decide, one by one and all together.
type SwitchesView struct {
	Map          sticks.SwitchMap     `json:"map"`
	Combinations []sticks.Combination `json:"combinations"`
	More         bool                 `json:"more"`  // there are more than are listed
	Loop         []string             `json:"loop"`  // mixes that go round
	Taste        sticks.Taste         `json:"taste"` // of the plan as it is
}

// mostCombinations are listed: more than an eye takes in.
const mostCombinations = 64

func switchesView(k quad.Known, holds func(quad.Path) bool) SwitchesView {
	b := sticks.NewSwitchboard(k)
	v := SwitchesView{Map: b.Map(k, holds), Loop: nonNil(b.Loop), Taste: sticks.TasteOf(k)}
	v.Combinations, v.More = b.Combinations(k.Sheet.Sticks)
	if len(v.Combinations) > mostCombinations {
		v.Combinations, v.More = v.Combinations[:mostCombinations], true
	}
	v.Combinations = nonNil(v.Combinations)
	return v
}

// Most that a capture from a radio at the browser may hold: a minute of it, and every channel there is.
const (
	mostSamples  = 4000
	mostChannels = 18
)

// Capture a stick or a switch from what a radio sent that the pilot's browser sees.
// path is the reading that it is for; channels that spin are left out.
func (a *App) Capture(ctx context.Context, id int64, path quad.Path, samples []sticks.Sample, spinning []int) (*QuadView, error) {
	if err := pulses(path, samples); err != nil {
		return nil, err
	}
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	value, err := captured(o.known, path, sticks.Without(samples, spinning))
	if err != nil {
		return nil, err
	}
	raw, err := asReading(path, value)
	if err != nil {
		return nil, err
	}
	if err := a.keepReadings(ctx, id, "capture", newReading{path: path, value: raw, origin: quad.OriginRadio}); err != nil {
		return nil, err
	}
	return a.Quad(ctx, id)
}

// RadioHealth tells which channels of a radio at the browser are sound, dead or move by themselves.
func (a *App) RadioHealth(_ context.Context, rest, moved []sticks.Sample) ([]sticks.Health, error) {
	for _, list := range [][]sticks.Sample{rest, moved} {
		if err := pulses("", list); err != nil {
			return nil, err
		}
	}
	return sticks.HealthOf(rest, moved)
}

// Assign a meaning to positions of a switch, in the draft; to none takes it off every channel.
func (a *App) Assign(ctx context.Context, id, version int64, function sticks.FunctionID, name string, positions []string) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	e, err := sticks.Assign(o.known, function, name, positions)
	if err != nil {
		return nil, err
	}
	return a.Edit(ctx, id, version, []SetValue{{Path: e.Path, Value: e.Value}})
}

// pulses that a radio can send, one after the other, and no more of them than a capture holds.
func pulses(path quad.Path, samples []sticks.Sample) error {
	if len(samples) > mostSamples {
		return quad.Faultf("too-many", string(path), "more than %d samples; capture again, and shorter", mostSamples)
	}
	for i, s := range samples {
		if len(s.Channels) > mostChannels {
			return quad.Faultf("too-many", string(path), "no radio sends more than %d channels", mostChannels)
		}
		if math.IsNaN(s.At) || math.IsInf(s.At, 0) || i > 0 && s.At < samples[i-1].At {
			return quad.Faultf("no-time", string(path), "the samples do not follow each other in time; capture again")
		}
		for _, us := range s.Channels {
			if math.IsNaN(us) || us < 700 || us > 2300 {
				return quad.Faultf("no-pulse", string(path), "%v µs is no pulse; radios send 800 to 2200", us)
			}
		}
	}
	return nil
}

func captured(k quad.Known, path quad.Path, samples []sticks.Sample) (any, error) {
	if axis, ok := strings.CutPrefix(string(path), "readings.sticks.axes."); ok {
		for _, known := range quad.Axes {
			if quad.Axis(axis) == known {
				return sticks.Capture(samples, known)
			}
		}
	}
	if name, ok := strings.CutPrefix(string(path), "readings.sticks.switches."); ok {
		plan, known := k.Radio.Switches[name]
		if !known {
			return nil, quad.Faultf("no-switch", string(path), "the radio's plan has no such switch")
		}
		return sticks.CaptureSwitch(samples, plan.Positions)
	}
	return nil, quad.Faultf("unknown-path", string(path), "is no stick and no switch")
}

// ProposePlan for the quad's switches by the pilot's taste; nothing is changed by it.
func (a *App) ProposePlan(ctx context.Context, id int64, t sticks.Taste) (*sticks.Proposal, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	p, err := sticks.Propose(o.known, t)
	if err != nil {
		return nil, err
	}
	return &p, nil
}

// RadioCard is the radio plan as a table, to be set at the radio by hand.
func (a *App) RadioCard(ctx context.Context, id int64) (string, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return "", err
	}
	return string(sticks.WriteCard(o.known.Radio)), nil
}

// TakeRadioCard puts a radio plan from CSV or JSON into the draft. What it does not tell stays; nothing is changed when a line of
// it cannot be.
func (a *App) TakeRadioCard(ctx context.Context, id, version int64, raw []byte) (*QuadView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	plan, err := sticks.ReadCard(raw, o.known.Radio)
	if err != nil {
		return nil, err
	}
	was := o.known.Radio
	var values []SetValue
	for _, part := range []struct {
		path     quad.Path
		was, now any
	}{
		{"radio.model", was.Model, plan.Model}, {"radio.order", was.Order, plan.Order}, {"radio.travel", was.Travel, plan.Travel}, {"radio.trims", was.Trims, plan.Trims},
		{"radio.switches", was.Switches, plan.Switches}, {"radio.mixes", was.Mixes, plan.Mixes},
	} {
		before, err := json.Marshal(part.was)
		if err != nil {
			return nil, err
		}
		now, err := json.Marshal(part.now)
		if err != nil {
			return nil, err
		}
		if string(before) != string(now) {
			values = append(values, SetValue{Path: part.path, Value: now})
		}
	}
	if len(values) == 0 {
		return nil, quad.Faultf("nothing-new", "", "it says what is there already")
	}
	return a.Edit(ctx, id, version, values)
}

// FlyModes flies a scene in several modes with this board's rates and gains, on a quad without its faults: what is compared are the
// modes.
func (a *App) FlyModes(ctx context.Context, id int64, scene flight.Scene) (*flight.ModesRun, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	in, err := flight.NewInput(o.known)
	if err != nil {
		return nil, err
	}
	return flight.FlyModes(flight.Corrected(in, o.known.Sheet.Craft.Rotation), scene)
}
