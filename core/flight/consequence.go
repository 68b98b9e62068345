package flight

import (
	"fmt"
	"maps"
	"math"

	"vividperch/core/airframe"
	"vividperch/core/linkloss"
	"vividperch/core/motors"
	"vividperch/core/quad"
)

// Fault is one thing about a quad that flight would show.
type Fault string

// Faults.
const (
	FaultOrder     Fault = "order"     // outputs drive other corners than the board thinks
	FaultSpin      Fault = "spin"      // motors turn against the plan
	FaultHand      Fault = "hand"      // propellers of the wrong hand
	FaultRotation  Fault = "rotation"  // all four turn against the declared rotation, propellers matched
	FaultLayout    Fault = "layout"    // the board mixes for another layout
	FaultChannels  Fault = "channels"  // sticks arrive on other channels than the board expects
	FaultDirection Fault = "direction" // a stick runs backwards, or falls short
	FaultMount     Fault = "mount"     // the board is turned on its mount otherwise than it was told
	FaultLevel     Fault = "level"     // the board's level is not level
	FaultGains     Fault = "gains"     // gains too high for its thrust
	FaultCell      Fault = "cell"      // one cell more
	FaultIdle      Fault = "idle"      // idle too low to keep turning in a dive
	FaultThrust    Fault = "thrust"    // too little thrust for the wind
	FaultArmSwitch Fault = "armSwitch" // the arm switch is on, or never reaches, at power-up
	FaultLoss      Fault = "loss"      // what the receiver puts out hides that the radio is gone
	FaultOneWay    Fault = "oneWay"    // reversible thrust told to some of the speed controllers, or to the board alone
	FaultWhole     Fault = "whole"     // everything that is known against it, together
)

// Faults in the order of their stations.
var Faults = []Fault{FaultWhole, FaultThrust, FaultCell, FaultLayout, FaultChannels, FaultDirection, FaultArmSwitch, FaultOrder, FaultSpin, FaultHand, FaultRotation, FaultIdle, FaultOneWay, FaultMount, FaultLevel, FaultGains, FaultLoss}

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

var faultTitles = map[Fault]string{
	FaultWhole: "Everything known against it, at once", FaultThrust: "Too little thrust for the wind", FaultCell: "One cell more",
	FaultLayout: "Mixed for another layout", FaultChannels: "Sticks on other channels than the board expects", FaultDirection: "A stick that runs backwards or falls short",
	FaultArmSwitch: "The arm switch at power-up", FaultOrder: "Outputs on other corners than the board thinks", FaultSpin: "Motors that turn against the plan",
	FaultHand: "Propellers of the wrong hand", FaultRotation: "All four turn against the declared rotation", FaultIdle: "Idle too low in a dive",
	FaultOneWay: "Reversible thrust told to one end only", FaultMount: "The board turned on its mount", FaultLevel: "A level that is not level",
	FaultGains: "Gains too high for its thrust", FaultLoss: "The radio is lost, and nothing notices",
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
		w.Supposed = append(w.Supposed, "the sheet written to the board, as it stands now")
		return w, nil
	}
	return nil, err
}

// Isolate puts one fault of an input, as it was observed, into a quad that is sound otherwise; rotation is the plan. One that it does not
// have is a [quad.Fault] with the code no-consequence.
func Isolate(in Input, rotation quad.Rotation, fault Fault) (*Consequence, error) {
	title, known := faultTitles[fault]
	if !known {
		return nil, quad.Faultf("no-consequence", "fault", "there is no consequence %q", string(fault))
	}
	sound := Corrected(in, rotation)
	c := &Consequence{Fault: fault, Title: title, Flight: Hover(HoverCard), Faulty: clone(sound), Sound: clone(sound), Supposed: []string{}}
	f, s := &c.Faulty, &c.Sound
	differs := true
	switch fault {
	case FaultWhole:
		c.Faulty, c.With, c.Without = clone(in), "as it was observed", "corrected in everything"
	case FaultOrder:
		differs = false
		for letter, a := range in.Actual.Outputs {
			if corner := in.Settings.Places[letter]; a.Corner != corner {
				differs = true
				moved := f.Actual.Outputs[letter]
				// Only the place: which way it turns is right for where it is.
				moved.Corner, moved.Spin = a.Corner, rotation.Wants(a.Corner)
				f.Actual.Outputs[letter] = moved
			}
		}
		if doubled(f.Actual.Outputs) {
			return nil, quad.Faultf("no-consequence", "readings.motors.outputs", "two outputs are said to drive one corner")
		}
		c.With, c.Without = "the outputs drive what was seen", "they drive what the board thinks"
	case FaultSpin:
		differs = false
		for letter, a := range f.Actual.Outputs {
			for _, seen := range in.Actual.Outputs {
				if seen.Corner == a.Corner && seen.Spin != a.Spin {
					differs = true
					a.Spin = seen.Spin
					f.Actual.Outputs[letter] = a
				}
			}
		}
		c.With, c.Without = "the motors turn as seen, propellers as the plan wants", "all turn as the plan wants"
	case FaultHand:
		differs = !maps.Equal(in.Actual.Hands, s.Actual.Hands)
		f.Actual.Hands = maps.Clone(in.Actual.Hands)
		c.With, c.Without = "the propellers as noted", "each of the hand its motor wants"
	case FaultRotation:
		for letter, a := range f.Actual.Outputs {
			a.Spin = a.Spin.Opposite()
			f.Actual.Outputs[letter] = a
		}
		for corner, hand := range f.Actual.Hands {
			f.Actual.Hands[corner] = hand.Opposite()
		}
		differs = opposite(in, rotation)
		c.With, c.Without = "all four turn the other way, with propellers to match", "the rotation declared as they turn"
	case FaultLayout:
		differs = in.Settings.Layout != in.Layout || in.Settings.Rotation != rotation
		f.Settings.Layout, f.Settings.Rotation = in.Settings.Layout, in.Settings.Rotation
		c.With, c.Without = "the board mixes for "+string(in.Settings.Layout), "it mixes for what is built"
	case FaultChannels:
		differs = !maps.Equal(in.Actual.Channels, s.Actual.Channels)
		f.Actual.Channels = maps.Clone(in.Actual.Channels)
		c.With, c.Without = "the sticks arrive where they do", "they arrive where the board expects them"
	case FaultDirection:
		differs = !maps.Equal(in.Actual.Sticks, s.Actual.Sticks)
		f.Actual.Sticks = maps.Clone(in.Actual.Sticks)
		c.With, c.Without = "the sticks run as captured", "they run from end to end the right way"
	case FaultMount:
		differs = math.Abs(math.Remainder(in.Actual.BoardYaw-in.Settings.BoardYaw, 360)) > 0.5
		f.Actual.BoardYaw = in.Actual.BoardYaw
		c.With, c.Without = fmt.Sprintf("the board is turned by %s, told %s", quad.Quantity(in.Actual.BoardYaw, "deg"), quad.Quantity(in.Settings.BoardYaw, "deg")), "told as it is"
	case FaultLevel:
		differs = math.Hypot(in.Actual.TiltRoll, in.Actual.TiltPitch) > 0
		f.Actual.TiltRoll, f.Actual.TiltPitch = in.Actual.TiltRoll, in.Actual.TiltPitch
		c.With, c.Without = fmt.Sprintf("level shows %.1f° of roll and %.1f° of pitch", in.Actual.TiltRoll, in.Actual.TiltPitch), "level shows level"
	case FaultGains:
		c.Flight = ForwardFlight.Steady()
		scale, err := SteadyGains(sound)
		if err != nil {
			return nil, err
		}
		if differs = scale < 1; differs {
			s.Settings.Gains = scaled(s.Settings.Gains, scale)
		}
		c.With, c.Without = "the gains as they are", fmt.Sprintf("all gains at %.0f %% of that", 100*scale)
	case FaultCell:
		c.Flight = ForwardFlight.Steady()
		f.Pack.Cells++
		if !quad.Plausible("parts.packs.any.cells", float64(f.Pack.Cells)) {
			return nil, quad.Faultf("no-consequence", "parts.packs", "no pack has %d cells", f.Pack.Cells)
		}
		c.With, c.Without = fmt.Sprintf("%d cells, the gains as they are", f.Pack.Cells), fmt.Sprintf("%d cells", in.Pack.Cells)
	case FaultIdle:
		c.Flight = DiveRecovery.Steady()
		worst := 0.0
		for _, a := range in.Actual.Outputs {
			worst = math.Max(worst, a.StopsAt)
		}
		if differs = worst > 0; differs {
			s.Settings.Idle = math.Max(s.Settings.Idle, (worst+motors.IdleMargin)/100)
			differs = s.Settings.Idle > f.Settings.Idle
		}
		c.With, c.Without = fmt.Sprintf("idle at %.1f %%", 100*f.Settings.Idle), fmt.Sprintf("idle at %.1f %%", 100*s.Settings.Idle)
	case FaultThrust:
		c.Flight = ForwardFlight.Steady()
		if f.Site.WindNorth == 0 && f.Site.WindEast == 0 {
			f.Site.WindNorth, f.Site.Gust = -CalmEnough, GustShare*CalmEnough
			s.Site = f.Site
			c.Supposed = append(c.Supposed, fmt.Sprintf("a wind of %.0f m/s, gusts and all", float64(CalmEnough)))
		}
		s.Parts.Propeller.Thrust *= 2
		s.Parts.Propeller.Power *= 1.4
		c.With, c.Without = "as it is", "with twice the thrust at the same throttle"
	case FaultArmSwitch:
		f.Settings.Arm = in.Settings.Arm
		if r := in.Settings.Arm; r.Used() {
			// As it is at power-up: the range also holds where the switch rests.
			f.Settings.Arm.From, f.Settings.Arm.To = 0, 2500
		}
		differs = in.Settings.Arm.Used()
		c.With, c.Without = "the arm range holds at power-up", "the switch is off at power-up"
	case FaultLoss:
		c.Flight = RadioLost.Steady()
		s.OnLoss = quad.LossSilence
		differs = f.OnLoss != quad.LossSilence
		c.With, c.Without = "the receiver puts out "+lossWords[f.OnLoss], "it falls silent, and the board notices"
	case FaultOneWay:
		differs = false
		for letter, a := range f.Actual.Outputs {
			if told := in.Actual.Outputs[letter].BothWays; told != in.Settings.Reverses {
				differs = true
				a.BothWays = told
				f.Actual.Outputs[letter] = a
			}
		}
		c.With, c.Without = "the speed controllers as they were told", "all of them and the board told alike"
	}
	if !differs {
		return nil, quad.Faultf("no-consequence", "fault", "nothing known of this quad is wrong in that way")
	}
	return c, nil
}

var lossWords = map[quad.LossOutput]string{quad.LossHold: "the last it heard", quad.LossPreset: "its presets", quad.LossSilence: "nothing"}

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
		g[i] = quad.Gains{Proportional: by * g[i].Proportional, Integral: by * g[i].Integral, Derivative: by * g[i].Derivative}
	}
	return g
}

// Oscillates gives how much a quad shakes (deg/s, one sigma) about the axis that shakes most, hovering in still air with a hand that
// does nothing, after a small blow: what its gains do by themselves.
func Oscillates(in Input) (float64, error) {
	in = clone(in)
	in.Site = Site{Density: in.Site.Density}
	in.Settings.ByStick = false
	whole := quad.Range{Channel: aside, From: 900, To: 2100}
	in.Settings.Arm, in.Settings.SelfLevel, in.Settings.Blended = whole, whole, quad.Range{}
	s, err := New(in)
	if err != nil {
		return 0, err
	}
	hover, _ := s.hovers(in.Mass)
	p := newFlyer(in, HoverCard, Steady)
	p.hover = hover
	s.begin(100, p)
	s.now.wx, s.now.wy, s.now.wz = 0.5, 0.5, 0.2
	f := in.frame(0, hover)
	var sum [3]float64
	n := 0
	for i := range 2 * in.rate() {
		s.Step(f)
		if i > in.rate() {
			w := [3]float64{s.now.wx, s.now.wy, s.now.wz}
			for k := range sum {
				sum[k] += w[k] * w[k]
			}
			n++
		}
	}
	worst := 0.0
	for _, x := range sum {
		worst = math.Max(worst, math.Sqrt(x/float64(n))*degrees)
	}
	return worst, nil
}

// shaking is how much of it (deg/s) counts as oscillating: far above what the gyro's noise leaves.
const shaking = 12.0

// SteadyGains is the largest share of its gains, in steps of a tenth down from all of them, with which a quad does not oscillate
// and has a third in hand; 1 when it has that with all of them.
func SteadyGains(in Input) (float64, error) {
	for scale := 1.0; scale > 0.15; scale -= 0.1 {
		try := clone(in)
		try.Settings.Gains = scaled(in.Settings.Gains, scale*gainReserve)
		by, err := Oscillates(try)
		if err != nil {
			return 0, err
		}
		if by < shaking {
			return math.Round(scale*10) / 10, nil
		}
	}
	return 0.1, nil
}

// gainReserve is how much higher the gains could be before it oscillates.
const gainReserve = 1.33

// Kept is the summary of a run as it is kept with its quad: with how steady its gains are, everything else sound, with the assigned
// pack of the most cells.
func Kept(run *Run, in Input, k quad.Known) (quad.Rehearsal, error) {
	out := run.Summary
	with := in.WithMostCells(k.Parts)
	share, err := SteadyGains(Corrected(with, k.Sheet.Craft.Rotation))
	out.Steady, out.Cells = math.Round(100*share), with.Pack.Cells
	return out, err
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

// authority about roll at hover: rotation's change per duty, rad/s².
func authority(in Input) (float64, error) {
	s, err := New(in)
	if err != nil {
		return 0, err
	}
	p, ok := s.drive.Hover(in.Mass)
	if !ok {
		return 0, quad.Faultf("too-heavy", "readings.airframe.weight", "it does not hover at full throttle")
	}
	const step = 0.01
	slope := (s.drive.At(p.Duty+step).Thrust - s.drive.At(p.Duty-step).Thrust) / (2 * step)
	lever := 0.0
	for _, at := range airframe.Places(in.Layout, in.Parts.Frame) {
		lever += math.Abs(at.Y)
	}
	return slope * lever * s.body.invX, nil
}
