package app

import (
	"context"
	"math"

	"vividperch/bench/protocol"
	"vividperch/core/columns"
	"vividperch/core/quad"
	"vividperch/core/senses"
)

// FacesView is how far an accelerometer was laid on its six faces, with the table that it came from.
type FacesView struct {
	senses.Laid
	Table *TableRead `json:"table,omitempty"`
}

var accelFields = []columns.Heading{
	{Key: "x", Label: "Ahead", Unit: "1", Words: []string{"ax", "acc x", "accx", "accel x", "x"}, Needed: true},
	{Key: "y", Label: "Right", Unit: "1", Words: []string{"ay", "acc y", "accy", "accel y", "y"}, Needed: true},
	{Key: "z", Label: "Down", Unit: "1", Words: []string{"az", "acc z", "accz", "accel z", "z"}, Needed: true},
}

// Faces is what samples of an accelerometer come to, in g, or in m/s² where they are about ten.
func (a *App) Faces(_ context.Context, ask SamplesAsk) (*FacesView, error) {
	v := &FacesView{}
	if ask.Text != "" {
		table, rows, err := readSamples(ask, accelFields)
		if err != nil {
			return nil, err
		}
		v.Table = table
		for _, r := range rows {
			ask.Samples = append(ask.Samples, senses.Vector{r.Figures["x"], r.Figures["y"], r.Figures["z"]})
		}
		senses.InGravities(ask.Samples)
	}
	laid, err := senses.LaidOnFaces(ask.Samples)
	if err != nil {
		return nil, err
	}
	v.Laid = laid
	return v, nil
}

// LayOnFaces has the hand at the bench lay a quad on each of its six faces.
func (a *App) LayOnFaces(ctx context.Context, id int64) error {
	return a.handMoves(ctx, id, protocol.Sweep{Faces: true})
}

// handMoves has the hand at the bench move a quad.
func (a *App) handMoves(ctx context.Context, id int64, move protocol.Sweep) error {
	b, o, err := a.atBench(ctx, id)
	if err != nil {
		return err
	}
	d, err := a.own(ctx, b, o)
	if err != nil {
		return err
	}
	_, err = b.callOn(ctx, d, protocol.MethodSweep, move)
	return err
}

// MountAsk is how a board's lie on the frame was looked at: by three moves of a hand, or by eye.
type MountAsk struct {
	Moves []senses.Move `json:"moves,omitempty" maxItems:"3" doc:"Nose down, right side down, turned to the right, in this order."`
	Eye   *MountSeen    `json:"eye,omitempty"`
}

// MountSeen is a board as an eye sees it.
type MountSeen struct {
	Arrow     float64 `json:"arrow" minimum:"0" maximum:"360" unit:"deg" doc:"Where its arrow points, clockwise from the nose."`
	OnItsBack bool    `json:"onItsBack"`
}

// MountView is how it lies, as far as that is told.
type MountView struct {
	// Shown is what the board said of each move, in words with its angle; nothing of one that was too small.
	Shown [3]string   `json:"shown"`
	Lies  *quad.Mount `json:"lies,omitempty"`
	Tell  *quad.Mount `json:"tell,omitempty"`
	Told  quad.Mount  `json:"told"`
	Off   float64     `json:"off" unit:"deg"` // of how it lies from what it is told
	Says  string      `json:"says"`           // what keeps it from being told
}

// Mount finds how a board lies on its frame. Nothing is kept.
func (a *App) Mount(ctx context.Context, id int64, ask MountAsk) (*MountView, error) {
	o, err := a.open(ctx, id)
	if err != nil {
		return nil, err
	}
	// The board turns what it feels by what it is told now, which need not be what it is to be told.
	v := &MountView{Told: o.known.Sheet.Senses.Mount()}
	told := v.Told
	if o.known.Board.Read() {
		told = o.known.Board.Sheet.Senses.Mount()
	}
	var lies quad.Mount
	switch {
	case ask.Eye != nil:
		lies, err = senses.MountByEye(ask.Eye.Arrow, ask.Eye.OnItsBack)
	default:
		var turned [3][3]float64
		for i, m := range ask.Moves[:min(len(ask.Moves), len(turned))] {
			turned[i] = m.Most()
			if words, by := senses.About(turned[i]); by >= 5 {
				v.Shown[i] = words + ", " + quad.Quantity(math.Round(by), "deg")
			}
		}
		lies, err = senses.Lies(turned[0], turned[1], turned[2], told)
	}
	if err != nil {
		v.Says = quad.Sentence(quad.AsFault(err).Sentence)
		return v, nil
	}
	found, tell := senses.Rounded(lies), senses.Mounted(lies)
	v.Lies, v.Tell, v.Off = &found, &tell, math.Round(10*senses.AngleBetween(lies, v.Told))/10
	return v, nil
}

// MoveFrame has the hand at the bench move a quad one of three ways, to see how its board lies.
func (a *App) MoveFrame(ctx context.Context, id int64, way string) error {
	moves := map[string]protocol.Sweep{"nose": {Nose: true}, "side": {Side: true}, "turn": {Frame: true}}
	move, known := moves[way]
	if !known {
		return quad.Faultf("no-move", "", "the hand puts its nose down, its right side down, or turns it")
	}
	return a.handMoves(ctx, id, move)
}
