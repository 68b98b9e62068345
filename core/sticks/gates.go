package sticks

import (
	"math"
	"slices"

	"vividperch/core/quad"
)

// Group of gates, by what is to be done about them.
type Group string

const (
	Hands   Group = "hands"   // sticks, switches, the radio
	Body    Group = "body"    // how the quad lies and is fed
	Senses  Group = "senses"  // what it must know before it flies
	Machine Group = "machine" // the board itself
)

// Gate is one reason a quad will not arm.
type Gate struct {
	Name     string `json:"name"`
	Group    Group  `json:"group" enum:"hands,body,senses,machine"`
	Holds    bool   `json:"holds"` // it holds the quad back
	Sentence string `json:"sentence"`
	Remedy   string `json:"remedy"`
	Signal   string `json:"signal"` // what lights or tones of the line tell, or nothing
}

// Gyro calibration that a gesture begins.
const (
	CalibrationRuns   = "running"
	CalibrationFailed = "failed" // it was moved; the gesture must be made again
)

// Moment is what the arming gates look at.
type Moment struct {
	Channels    []float64 // µs, as they arrive; empty without a link
	Linked      bool
	Tilt        float64 // deg
	Still       bool    // gyro calibrated and still
	USB         bool
	Pack        bool
	ArmAtStart  bool // the arm switch was on at power-up and has not been off since
	InLoss      bool
	Armed       bool
	Reversible  bool   // thrust: the throttle rests in its middle
	Calibration string // of the gyro, begun by a gesture: nothing, CalibrationRuns, CalibrationFailed
	// What a board may miss or suffer besides.
	NeverCalibrated, NoFix, HoldOn, Expired, SelfRight, Overload bool
}

// IdleBelowUsual is under which pulse a throttle usually counts as closed, µs, and IdleBelowMost the most that is any use: an eighth of
// its way.
const (
	IdleBelowUsual = 1050.0
	IdleBelowMost  = 1120.0
)

// UsualArmTilt is the lean over which a board refuses to arm that was told nothing else, deg; ArmTiltMost is the most that is any use.
const (
	UsualArmTilt = 25.0
	ArmTiltMost  = 45.0
)

// ArmTilt is the lean over which the board refuses to arm, deg.
func ArmTilt(s quad.SticksSheet) float64 {
	if s.ArmTilt > 0 {
		return s.ArmTilt
	}
	return UsualArmTilt
}

// Gates lists every arming gate in the order that most boards look at them; a line has an order of its own.
func Gates(s quad.SticksSheet, m Moment) []Gate {
	rest, lower := RestOf(s, m.Reversible), "Lower the throttle; if it is low, mend its low end at the radio."
	throttle := Low
	if m.Reversible {
		throttle, lower = Centre, "Put the throttle in its middle; if it is there, mend its centre at the radio."
	}
	armOn := false
	if m.Linked {
		if c := quad.ChannelIn(s.Order, quad.Throttle); c > 0 && c <= len(m.Channels) {
			throttle = Through(s.Ranges.Throttle, m.Channels[c-1])
		}
		if s.Arm.Used() && s.Arm.Channel <= len(m.Channels) {
			armOn = s.Arm.Holds(m.Channels[s.Arm.Channel-1])
		}
	}
	on := func(ids ...FunctionID) bool {
		return m.Linked && slices.ContainsFunc(Functions(s), func(f Function) bool {
			return slices.Contains(ids, f.ID) && f.Rng.Channel <= len(m.Channels) && f.Rng.Holds(m.Channels[f.Rng.Channel-1])
		})
	}
	us := func(x float64) string { return quad.Quantity(math.Round(x), "µs") }
	deg := func(x float64) string { return quad.Quantity(math.Round(x), "deg") }
	still := Gate{Name: "still", Group: Senses, Holds: !m.Still, Sentence: "The gyro is still settling, or it was moved.", Remedy: "Leave it untouched for two seconds."}
	switch m.Calibration {
	case CalibrationRuns:
		still.Holds, still.Sentence, still.Remedy = true, "The gyro is being calibrated.", "Leave it untouched until the tone."
	case CalibrationFailed:
		still.Holds, still.Sentence, still.Remedy = true, "It was moved while its gyro was calibrated.", "Let the sticks go, put it down, and make the gesture again."
	}
	out := []Gate{
		{Name: "pack", Group: Body, Holds: !m.Pack, Sentence: "No pack is connected.", Remedy: "Connect the pack, propellers off."},
		{Name: "link", Group: Hands, Holds: !m.Linked, Sentence: "No radio is heard.", Remedy: "Turn the radio on."},
		{Name: "loss", Group: Hands, Holds: m.InLoss, Sentence: "The board is still in its loss stage.", Remedy: "Put the arm switch off, then wait a second."},
		{Name: "start", Group: Hands, Holds: m.ArmAtStart, Sentence: "The arm switch was already on when the board started.", Remedy: "Put the arm switch off once."},
		{Name: "throttle", Group: Hands, Holds: m.Linked && !rest.Holds(throttle), Sentence: "The throttle is not at rest: " + us(throttle) + " arrives, at rest is " + rest.Words() + ".", Remedy: lower},
		{Name: "tilt", Group: Body, Holds: m.Tilt > ArmTilt(s), Sentence: "It leans by " + deg(m.Tilt) + "; over " + deg(ArmTilt(s)) + " it will not arm.", Remedy: "Put it upright, or calibrate its level."},
		still,
		{Name: "calibration", Group: Senses, Holds: m.NeverCalibrated, Sentence: "Its level was never calibrated, and it wants that.", Remedy: "Lay it level and calibrate, at Senses."},
		{Name: "fix", Group: Senses, Holds: m.NoFix, Sentence: "It wants a satellite fix before it arms, and has none.", Remedy: "Wait under open sky, or fly without a return."},
		{Name: "hold", Group: Hands, Holds: m.HoldOn || on(holding...), Sentence: "A position hold, a way home or a mission is switched on already.", Remedy: "Put its switch off; switch it on in the air."},
		{Name: "selfRight", Group: Hands, Holds: m.SelfRight || on(RightItself), Sentence: "Self-righting is switched on.", Remedy: "Put its switch off."},
		{Name: "usb", Group: Machine, Holds: m.USB, Sentence: "USB is attached.", Remedy: "Pull the cable; it must not be tied to a computer when it arms."},
		{Name: "expired", Group: Machine, Holds: m.Expired, Sentence: "Its build has expired.", Remedy: "Flash a newer one, at Firmware."},
		{Name: "overload", Group: Machine, Holds: m.Overload, Sentence: "The board cannot keep its loop rate.", Remedy: "Set a slower loop, at Motors."},
	}
	if s.ArmByStick && !armOn {
		return append(out, Gate{Name: "gesture", Group: Hands, Holds: m.Linked && !m.Armed, Sentence: "It is armed by stick.", Remedy: "Throttle down and yaw to the right, for a second; then leave it untouched."})
	}
	return append(out, Gate{Name: "switch", Group: Hands, Holds: m.Linked && !armOn, Sentence: "The arm switch is not inside its range.", Remedy: "Put the switch on; if it is on, widen the range."})
}
