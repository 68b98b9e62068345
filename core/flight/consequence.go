package flight

import (
	"maps"
	"math"
	"time"

	"vividperch/core/airframe"
	"vividperch/core/linkloss"
	"vividperch/core/quad"
)

// Consequence is a fault as it is flown: the same quad with it and without it, everything else sound.
type Consequence struct {
	Fault    Fault    `json:"fault"`
	Title    string   `json:"title"`
	With     string   `json:"with"`    // what stands in the way, in words
	Without  string   `json:"without"` // what was changed in the other
	Flight   Flight   `json:"flight"`
	Faulty   Input    `json:"-"`
	Sound    Input    `json:"-"`
	Supposed []string `json:"supposed"` // what is not so yet, and was taken to be so to show it
}

// NewLossInput is [NewInput] with what the receiver puts out once the radio is gone: as read, and its presets as the radio plan has
// them.
func NewLossInput(k quad.Known) (Input, error) {
	in, err := NewInput(k)
	in.OnLoss = quad.LossSilence
	if r := k.Readings.Loss.Output; r != nil {
		in.OnLoss = r.Value
	}
	in.Preset = linkloss.Presets(k)
	return in, err
}

// Consider isolates one fault of a quad: as it would fly with what its board holds, or, where that is sound, with the sheet as it
// would be written. What is known may be changed by suppose before it is flown; it may be nil.
func Consider(k quad.Known, fault Fault, suppose func(*Input)) (*Consequence, error) {
	isolate := func(k quad.Known) (*Consequence, error) {
		in, err := NewLossInput(k)
		if err != nil {
			return nil, err
		}
		if fault == FaultGains {
			in = in.WithMostCells(k.Parts) // with which they were tried
		}
		if suppose != nil {
			suppose(&in)
		}
		return Isolate(in, k.Sheet.Craft.Rotation, fault)
	}
	c, err := isolate(k)
	if err == nil || !k.Board.Read() || quad.AsFault(err) == nil || quad.AsFault(err).Code != "no-consequence" {
		return c, err
	}
	written := k
	written.Board = quad.Board{}
	if w, err := isolate(written); err == nil {
		w.Supposed = append(w.Supposed, "your settings written to the board as they stand now")
		return w, nil
	}
	return nil, err
}

// Isolate puts one fault of an input, as it was observed, into a quad that is sound otherwise; rotation is the plan. One that it does not
// have is a [quad.Fault] with the code no-consequence.
func Isolate(in Input, rotation quad.Rotation, fault Fault) (*Consequence, error) {
	row := rowOf(fault)
	if row == nil {
		return nil, quad.Faultf("no-consequence", "fault", "there is no consequence %q", string(fault))
	}
	sound := Corrected(in, rotation)
	c := &Consequence{Fault: fault, Title: row.title, Flight: Hover(HoverCard), Faulty: clone(sound), Sound: clone(sound), Supposed: []string{}}
	if row.scenario != "" {
		c.Flight = row.scenario.Steady()
	}
	differs, err := row.isolate(c, in, rotation)
	if err != nil {
		return nil, err
	}
	if !differs {
		return nil, quad.Faultf("no-consequence", "fault", "nothing known of this quad is wrong in that way")
	}
	return c, nil
}

func doubled(outputs map[string]quad.OutputActual) bool {
	seen := map[quad.Corner]bool{}
	for _, a := range outputs {
		if seen[a.Corner] {
			return true
		}
		seen[a.Corner] = true
	}
	return false
}

// opposite says whether all four turn against a plan.
func opposite(in Input, rotation quad.Rotation) bool {
	for _, a := range in.Actual.Outputs {
		if a.Spin == rotation.Wants(a.Corner) {
			return false
		}
	}
	return true
}

func clone(in Input) Input {
	in.Settings.Places = maps.Clone(in.Settings.Places)
	a := &in.Actual
	a.Outputs, a.Hands, a.Sticks, a.Channels, a.Imbalance = maps.Clone(a.Outputs), maps.Clone(a.Hands), maps.Clone(a.Sticks), maps.Clone(a.Channels), maps.Clone(a.Imbalance)
	return in
}

func scaled(g [3]quad.Gains, by float64) [3]quad.Gains {
	for i := range g {
		g[i] = quad.Gains{Proportional: by * g[i].Proportional, Integral: by * g[i].Integral, Derivative: by * g[i].Derivative, FeedForward: g[i].FeedForward}
	}
	return g
}

// Oscillates says whether a quad shakes, or drives its motors up and down, hovering in still air with a hand that does nothing, after a
// small blow: what its gains do by themselves.
func Oscillates(in Input) (bool, error) {
	in = clone(in)
	in.Site = Site{Density: in.Site.Density}
	in.Settings = in.Settings.answering(&in.AtRest)
	in.Settings.ByStick, in.Settings.Others = false, nil // no switch moves
	whole := quad.Range{Channel: aside, From: 900, To: 2100}
	in.Settings.Arm, in.Settings.SelfLevel, in.Settings.Blended = whole, whole, quad.Range{}
	s, err := New(in)
	if err != nil {
		return false, err
	}
	hover, _ := s.hovers(in.Mass)
	p := newFlyer(in, HoverCard, Steady)
	p.hover = hover
	s.begin(100, 0, p)
	s.now.wx, s.now.wy, s.now.wz = 0.5, 0.5, 0.2
	f := in.frame(0, hover)
	var sum [3]float64
	var mean, squares [4]float64
	n := 0.0
	for i := range 2 * in.rate() {
		s.Step(f)
		if i > in.rate() {
			w := [3]float64{s.now.wx, s.now.wy, s.now.wz}
			for k := range sum {
				sum[k] += w[k] * w[k]
			}
			for k, x := range s.duty {
				mean[k] += x
				squares[k] += x * x
			}
			n++
		}
	}
	worst, hunts := 0.0, 0.0
	for _, x := range sum {
		worst = math.Max(worst, math.Sqrt(x/n)*degrees)
	}
	for k := range mean {
		hunts += (squares[k]/n - mean[k]/n*mean[k]/n) / 4
	}
	return worst >= shaking || hunts > hunting*hunting, nil
}

// shaking is how much of it (deg/s) counts as oscillating: far above what the gyro's noise leaves.
const shaking = 12.0

// SteadyGains is the largest share of its gains, in steps of a tenth down from all of them, with which a quad does not oscillate
// and has a third in hand; 1 when it has that with all of them.
func SteadyGains(in Input) (float64, error) {
	for scale := 1.0; scale > 0.15; scale -= 0.1 {
		try := clone(in)
		try.Settings.Gains = scaled(in.Settings.Gains, scale*gainReserve)
		does, err := Oscillates(try)
		if err != nil {
			return 0, err
		}
		if !does {
			return math.Round(scale*10) / 10, nil
		}
	}
	return 0.1, nil
}

// gainReserve is how much higher the gains could be before it oscillates.
const gainReserve = 1.33

// Kept is the summary of a run as it is kept with its quad: with what a trial came to, where it landed; stop ends that early.
func Kept(run *Run, in Input, k quad.Known, stop func() bool) (quad.Rehearsal, error) {
	out, err := untried(run, in, k)
	if err != nil || run.Summary.Outcome != string(Landed) {
		return out, err
	}
	t, err := Try(k, 1, stop)
	if err != nil {
		return out, err
	}
	return t.In(out), nil
}

// untried is the summary of a run with how steady its gains are, everything else sound, with the assigned pack of the most cells.
func untried(run *Run, in Input, k quad.Known) (quad.Rehearsal, error) {
	out := run.Summary
	with := in.WithMostCells(k.Parts)
	share, err := SteadyGains(Corrected(with, k.Sheet.Craft.Rotation))
	out.Steady, out.Cells = math.Round(100*share), with.Pack.Cells
	return out, err
}

// Rehearsed is the reading that a first hover in the model and its trial leave, with what is known of a quad.
func Rehearsed(k quad.Known, at time.Time) (*quad.Reading[quad.Rehearsal], error) {
	return rehearsed(k, at, func(run *Run, in Input) (quad.Rehearsal, error) { return Kept(run, in, k, nil) })
}

// RehearsedWith is the same with a trial that is known already, and not flown.
func RehearsedWith(k quad.Known, at time.Time, t Trial) (*quad.Reading[quad.Rehearsal], error) {
	return rehearsed(k, at, func(run *Run, in Input) (quad.Rehearsal, error) {
		r, err := untried(run, in, k)
		return t.In(r), err
	})
}

func rehearsed(k quad.Known, at time.Time, sum func(*Run, Input) (quad.Rehearsal, error)) (*quad.Reading[quad.Rehearsal], error) {
	in, err := NewInput(k)
	if err != nil {
		return nil, err
	}
	run, err := Rehearse(in, HoverCard, nil)
	if err != nil {
		return nil, err
	}
	summary, err := sum(run, in)
	if err != nil {
		return nil, err
	}
	return &quad.Reading[quad.Rehearsal]{Value: summary, Origin: quad.OriginModel, Input: Fingerprint(in, HoverCard), At: at, Revision: 1}, nil
}

// KeepsSteady says whether the gains that [SteadyGains] gives this share of do not oscillate as they are, with nothing in hand.
func KeepsSteady(share float64) bool { return share*gainReserve >= 1 }

// FirstGains is the share of a reference's gains that gives the same loop gain with another drive, by thrust per duty at hover over the
// inertia: what to begin with after one cell more, another propeller or motor.
func FirstGains(reference, now Input) (float64, error) {
	a, err := authority(reference)
	if err != nil {
		return 0, err
	}
	b, err := authority(now)
	if err != nil {
		return 0, err
	}
	return a / b, nil
}

// Regain is what another drive does to the gains that were right for the one before.
type Regain struct {
	// Share of the gains that gives the same loop gain as before.
	Share float64 `json:"share" unit:"1"`
	// Shakes says that with the gains as they are it oscillates in the model with a full pack, Settled that with the share of them it does not.
	Shakes  bool `json:"shakes"`
	Settled bool `json:"settled"`
}

// Regained compares two quads and flies the second, on a full pack, with the gains as they are and with the share of them that [FirstGains] gives.
func Regained(before, after Input) (*Regain, error) {
	share, err := FirstGains(before, after)
	if err != nil {
		return nil, err
	}
	full := clone(after)
	full.CellVolt = airframe.FullCell
	out := &Regain{Share: math.Round(100*share) / 100}
	if out.Shakes, err = Oscillates(full); err != nil {
		return nil, err
	}
	full.Settings.Gains = scaled(full.Settings.Gains, out.Share)
	shakes, err := Oscillates(full)
	out.Settled = !shakes
	return out, err
}

// authority about roll at hover: rotation's change per command, rad/s².
func authority(in Input) (float64, error) {
	s, err := New(in)
	if err != nil {
		return 0, err
	}
	about, ok := Authority(in.Settings.output(), s.drive, in.Actual.Layout, in.Parts.Frame, in.Mass)
	if !ok {
		return 0, quad.Faultf("too-heavy", "readings.airframe.weight", "it does not hover at full throttle")
	}
	return about[0], nil
}
