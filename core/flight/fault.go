package flight

import (
	"fmt"
	"maps"
	"math"

	"vividperch/core/motors"
	"vividperch/core/quad"
	"vividperch/core/senses"
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
	FaultBalance   Fault = "balance"   // its weight does not lie between the motors
	FaultArmSwitch Fault = "armSwitch" // the arm switch is on, or never reaches, at power-up
	FaultLoss      Fault = "loss"      // what the receiver puts out hides that the radio is gone
	FaultHeading   Fault = "heading"   // what it takes for its heading is not
	FaultOneWay    Fault = "oneWay"    // reversible thrust told to some of the speed controllers, or to the board alone
	FaultWhole     Fault = "whole"     // everything that is known against it, together
)

// faultRow is all there is to know of a fault: its title, the scenario that shows it (the hover card where none is named), and how it is
// put, alone, into a quad that is sound otherwise. isolate is handed a consequence whose two inputs are the sound quad's, and the input as
// it was observed; it says whether that has the fault at all.
type faultRow struct {
	fault    Fault
	title    string
	scenario Scenario
	isolate  func(c *Consequence, in Input, rotation quad.Rotation) (differs bool, err error)
}

// faultRows in the order of their stations.
var faultRows []faultRow

// The rows fly, and flying looks at the rows: they are put together once everything is there.
func init() {
	faultRows = []faultRow{
		{FaultWhole, "Everything known against it, at once", "", func(c *Consequence, in Input, _ quad.Rotation) (bool, error) {
			c.Faulty, c.With, c.Without = clone(in), "as it was observed", "corrected in everything"
			return true, nil
		}},
		{FaultThrust, "Too little thrust for the wind", ForwardFlight, isolateThrust},
		{FaultBalance, "A weight that does not lie in the middle", "", func(c *Consequence, in Input, _ quad.Rotation) (bool, error) {
			c.Faulty.Actual.Centre = in.Actual.Centre
			c.With, c.Without = "it balances "+in.Actual.Centre.Words(), "it balances in the middle"
			return in.Actual.Centre != quad.Balance{}, nil
		}},
		{FaultCell, "One cell more", ForwardFlight, isolateCell},
		{FaultLayout, "Mixed for another layout", "", func(c *Consequence, in Input, rotation quad.Rotation) (bool, error) {
			c.Faulty.Settings.Layout, c.Faulty.Settings.Rotation = in.Settings.Layout, in.Settings.Rotation
			c.With, c.Without = "the board mixes for "+string(in.Settings.Layout), "it mixes for what is built"
			return in.Settings.Layout != in.Actual.Layout || in.Settings.Rotation != rotation, nil
		}},
		{FaultChannels, "Sticks on other channels than the board expects", "", func(c *Consequence, in Input, _ quad.Rotation) (bool, error) {
			c.Faulty.Actual.Channels = maps.Clone(in.Actual.Channels)
			c.With, c.Without = "the sticks arrive where they do", "they arrive where the board expects them"
			return !maps.Equal(in.Actual.Channels, c.Sound.Actual.Channels), nil
		}},
		{FaultDirection, "A stick that runs backwards or falls short", "", func(c *Consequence, in Input, _ quad.Rotation) (bool, error) {
			c.Faulty.Actual.Sticks = maps.Clone(in.Actual.Sticks)
			c.With, c.Without = "the sticks run as captured", "they run from end to end the right way"
			return !maps.Equal(in.Actual.Sticks, c.Sound.Actual.Sticks), nil
		}},
		{FaultArmSwitch, "The arm switch at power-up", "", isolateArmSwitch},
		{FaultOrder, "Outputs on other corners than the board thinks", "", isolateOrder},
		{FaultSpin, "Motors that turn against the plan", "", isolateSpin},
		{FaultHand, "Propellers of the wrong hand", "", func(c *Consequence, in Input, _ quad.Rotation) (bool, error) {
			c.Faulty.Actual.Hands = maps.Clone(in.Actual.Hands)
			c.With, c.Without = "the propellers as noted", "each of the hand its motor wants"
			return !maps.Equal(in.Actual.Hands, c.Sound.Actual.Hands), nil
		}},
		{FaultRotation, "All four turn against the declared rotation", "", isolateRotation},
		{FaultIdle, "Idle too low in a dive", DiveRecovery, isolateIdle},
		{FaultOneWay, "Reversible thrust told to one end only", "", isolateOneWay},
		{FaultMount, "The board turned on its mount", "", func(c *Consequence, in Input, _ quad.Rotation) (bool, error) {
			// It is looked at alone: its level shows what it shows by lying as it lies.
			other := senses.Between(in.Settings.Board, in.Actual.Board)
			c.Faulty.Actual.Board = in.Actual.Board
			c.Faulty.Actual.TiltRoll, c.Faulty.Actual.TiltPitch = other.Shows(0, 0)
			c.With, c.Without = "the board lies "+in.Actual.Board.Words()+"; told "+in.Settings.Board.Words(), "told as it is"
			return other.Angle() > 0.5, nil
		}},
		{FaultLevel, "A level that is not level", "", func(c *Consequence, in Input, _ quad.Rotation) (bool, error) {
			// What it shows comes of how it lies, too.
			roll, pitch := in.Actual.TiltRoll, in.Actual.TiltPitch
			c.Faulty.Actual.TiltRoll, c.Faulty.Actual.TiltPitch, c.Faulty.Actual.Board = roll, pitch, in.Actual.Board
			c.With, c.Without = fmt.Sprintf("level shows %.1f° of roll and %.1f° of pitch", roll, pitch), "level shows level"
			return math.Hypot(roll, pitch) > 0, nil
		}},
		{FaultGains, "Gains too high for its thrust", ForwardFlight, isolateGains},
		{FaultHeading, "A heading that is off", PositionHold, func(c *Consequence, in Input, _ quad.Rotation) (bool, error) {
			c.Faulty.Actual.Place.HeadingOff, c.Faulty.Actual.Place.Backwards = in.Actual.Place.HeadingOff, in.Actual.Place.Backwards
			c.With, c.Without = fmt.Sprintf("it takes its heading to be %.0f° more than it is", in.Actual.Place.HeadingOff), "it knows its heading"
			if in.Actual.Place.Backwards {
				c.With = "its heading runs the other way round"
			}
			for _, one := range []*Input{&c.Faulty, &c.Sound} { // flown with a hold, whatever is on a switch
				one.Settings = WithHold(one.Settings)
			}
			return in.Actual.Place.HeadingOff != 0 || in.Actual.Place.Backwards, nil
		}},
		{FaultLoss, "The radio is lost, and nothing notices", RadioLost, func(c *Consequence, _ Input, _ quad.Rotation) (bool, error) {
			c.Sound.OnLoss = quad.LossSilence
			c.With, c.Without = "the receiver puts out "+lossWords[c.Faulty.OnLoss], "it falls silent, and the board notices"
			return c.Faulty.OnLoss != quad.LossSilence, nil
		}},
	}
}

// Faults in the order of their stations.
func Faults() []Fault {
	out := make([]Fault, len(faultRows))
	for i, r := range faultRows {
		out[i] = r.fault
	}
	return out
}

func rowOf(f Fault) *faultRow {
	for i := range faultRows {
		if faultRows[i].fault == f {
			return &faultRows[i]
		}
	}
	return nil
}

func isolateThrust(c *Consequence, _ Input, _ quad.Rotation) (bool, error) {
	f, s := &c.Faulty, &c.Sound
	if f.Site.WindNorth == 0 && f.Site.WindEast == 0 {
		f.Site.WindNorth, f.Site.Gust = -CalmEnough, GustShare*CalmEnough
		s.Site = f.Site
		c.Supposed = append(c.Supposed, fmt.Sprintf("a wind of %.0f m/s, gusts and all", float64(CalmEnough)))
	}
	s.Parts.Propeller.Thrust *= 2
	s.Parts.Propeller.Power *= 1.4
	c.With, c.Without = "as it is", "with twice the thrust at the same throttle"
	return true, nil
}

func isolateCell(c *Consequence, in Input, _ quad.Rotation) (bool, error) {
	f := &c.Faulty
	f.Pack.Cells++
	if !quad.Plausible("parts.packs.any.cells", float64(f.Pack.Cells)) {
		return false, quad.Faultf("no-consequence", "parts.packs", "no pack has %d cells", f.Pack.Cells)
	}
	c.With, c.Without = fmt.Sprintf("%d cells, the gains as they are", f.Pack.Cells), fmt.Sprintf("%d cells", in.Pack.Cells)
	return true, nil
}

func isolateArmSwitch(c *Consequence, in Input, _ quad.Rotation) (bool, error) {
	f := &c.Faulty
	f.Settings.Arm = in.Settings.Arm
	if in.Settings.Arm.Used() {
		// As it is at power-up: the range also holds where the switch rests.
		f.Settings.Arm.From, f.Settings.Arm.To = 0, 2500
	}
	c.With, c.Without = "the arm range holds at power-up", "the switch is off at power-up"
	return in.Settings.Arm.Used(), nil
}

func isolateOrder(c *Consequence, in Input, rotation quad.Rotation) (differs bool, err error) {
	outputs := c.Faulty.Actual.Outputs
	for letter, a := range in.Actual.Outputs {
		if corner := in.Settings.Places[letter]; a.Corner != corner {
			differs = true
			moved := outputs[letter]
			// Only the place: which way it turns is right for where it is.
			moved.Corner, moved.Spin = a.Corner, rotation.Wants(a.Corner)
			outputs[letter] = moved
		}
	}
	if doubled(outputs) {
		return false, quad.Faultf("no-consequence", "readings.motors.outputs", "two outputs are said to drive one corner")
	}
	c.With, c.Without = "the outputs drive what was seen", "they drive what the board thinks"
	return differs, nil
}

func isolateSpin(c *Consequence, in Input, _ quad.Rotation) (differs bool, err error) {
	for letter, a := range c.Faulty.Actual.Outputs {
		for _, seen := range in.Actual.Outputs {
			if seen.Corner == a.Corner && seen.Spin != a.Spin {
				differs = true
				a.Spin = seen.Spin
				c.Faulty.Actual.Outputs[letter] = a
			}
		}
	}
	c.With, c.Without = "the motors turn as seen, propellers as the plan wants", "all turn as the plan wants"
	return differs, nil
}

func isolateRotation(c *Consequence, in Input, rotation quad.Rotation) (bool, error) {
	a := &c.Faulty.Actual
	for letter, o := range a.Outputs {
		o.Spin = o.Spin.Opposite()
		a.Outputs[letter] = o
	}
	for corner, hand := range a.Hands {
		a.Hands[corner] = hand.Opposite()
	}
	c.With, c.Without = "all four turn the other way, with propellers to match", "the rotation declared as they turn"
	return opposite(in, rotation), nil
}

func isolateIdle(c *Consequence, in Input, _ quad.Rotation) (differs bool, err error) {
	f, s := &c.Faulty.Settings, &c.Sound.Settings
	worst := 0.0
	for _, a := range in.Actual.Outputs {
		worst = math.Max(worst, a.StopsAt)
	}
	if worst > 0 {
		s.Idle = math.Max(s.Idle, (worst+motors.IdleMargin)/100)
		differs = s.Idle > f.Idle
	}
	c.With, c.Without = fmt.Sprintf("idle at %.1f %%", 100*f.Idle), fmt.Sprintf("idle at %.1f %%", 100*s.Idle)
	return differs, nil
}

func isolateOneWay(c *Consequence, in Input, _ quad.Rotation) (differs bool, err error) {
	for letter, a := range c.Faulty.Actual.Outputs {
		if told := in.Actual.Outputs[letter].BothWays; told != in.Settings.Reverses {
			differs = true
			a.BothWays = told
			c.Faulty.Actual.Outputs[letter] = a
		}
	}
	c.With, c.Without = "the speed controllers as they were told", "all of them and the board told alike"
	return differs, nil
}

func isolateGains(c *Consequence, _ Input, _ quad.Rotation) (bool, error) {
	scale, err := SteadyGains(c.Sound)
	if err != nil {
		return false, err
	}
	if scale < 1 {
		c.Sound.Settings.Gains = scaled(c.Sound.Settings.Gains, scale)
	}
	c.With, c.Without = "the gains as they are", fmt.Sprintf("all gains at %.0f %% of that", 100*scale)
	return scale < 1, nil
}

var lossWords = map[quad.LossOutput]string{quad.LossHold: "the last it heard", quad.LossPreset: "its presets", quad.LossSilence: "nothing"}
