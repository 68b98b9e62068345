package app

import (
	"context"

	"vividperch/core/flight"
	"vividperch/core/linkloss"
	"vividperch/core/quad"
)

// LinkLoss is what happens to a quad when the radio goes quiet, stage by stage.
func (a *App) LinkLoss(ctx context.Context, id int64) ([]linkloss.Stage, error) {
	return figures(ctx, a, id, stagesOf)
}

// stagesOf a loss, with what the receiver was seen to do. Until it was seen it does what it should.
func stagesOf(k quad.Known) []linkloss.Stage {
	emits := quad.LossSilence
	if m := k.Readings.Loss.Output; m != nil {
		emits = m.Value
	}
	return linkloss.Stages(emits, k)
}

// lossesEach is how often a loss is flown for each policy.
const lossesEach = 16

// LossesView is a loss of the radio at one place, again and again, by each policy.
type LossesView struct {
	Losses []flight.LossScatter `json:"losses"`
	Wind   float64              `json:"wind" unit:"m/s"`
	Told   bool                 `json:"told"`           // somebody told the wind
	Clear  float64              `json:"clear" unit:"m"` // radius; 0 nobody told
	Advice flight.Advice        `json:"advice"`
	// Lacks says why a return is not among them; nothing where it is.
	Lacks string `json:"lacks"`
}

// Losses flies the loss of the radio at a place with each policy, for a quad as it is observed, and advises one for the ground there.
func (a *App) Losses(ctx context.Context, id int64, out flight.Out, from float64, ground flight.Ground) (*LossesView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	in, err := flight.NewInput(o.known)
	if err != nil {
		return nil, err
	}
	v := &LossesView{}
	v.Wind, v.Told = windOf(o.known)
	if c := o.known.Readings.FirstFlight.Clear; c != nil {
		v.Clear = c.Value
	}
	if in.Settings.Policy != quad.PolicyReturn {
		v.Lacks = flight.NoWayHome
	}
	if v.Losses, err = flight.Losses(in, flight.LossAsk{Out: out, From: from, Times: lossesEach, Set: o.known.Sheet.Loss.Policy}, func() bool { return ctx.Err() != nil }); err != nil {
		return nil, err
	}
	ground.Clear = v.Clear
	v.Advice = flight.Recommend(v.Losses, ground)
	return v, nil
}

// windOf the day, m/s, and whether somebody told it.
func windOf(k quad.Known) (wind float64, told bool) {
	if w := k.Readings.FirstFlight.Wind; w != nil {
		return w.Value, true
	}
	return 0, false
}
