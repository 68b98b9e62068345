// Package sticks knows channel order, stick ends, what each switch position means and what keeps a quad
// from arming.
package sticks

import (
	"math"
	"slices"

	"vividperch/core/quad"
)

// Expected ends of a stick in µs.
const (
	Low, Centre, High = 1000.0, 1500.0, 2000.0
	// EndTolerance is how far an end may be off before travel is lost that the pilot would miss, µs.
	EndTolerance = 12.0
	// CentreTolerance is how far a centre may be off, µs.
	CentreTolerance = 4.0
	// EdgeMargin is how far a switch position should lie inside its range, µs.
	EdgeMargin = 50.0
	// EdgeStop is the margin at which a position counts as on the edge: a warm radio moves by as much, µs.
	EdgeStop = 15.0
)

// ValidOrder says whether an order is a permutation of A, E, T and R.
func ValidOrder(order string) bool {
	got := []byte(order)
	slices.Sort(got)
	return string(got) == "AERT"
}

// OrderOf builds the order that captured channels make, or "" when they are not a permutation of the first
// four.
func OrderOf(axes map[string]quad.StickAxis) string {
	order := []byte("????")
	for _, a := range quad.Axes {
		seen, ok := axes[string(a)]
		if !ok || seen.Channel < 1 || seen.Channel > 4 {
			return ""
		}
		order[seen.Channel-1] = a.Letter()
	}
	if !ValidOrder(string(order)) {
		return ""
	}
	return string(order)
}

// Through maps a pulse piecewise linearly: the low end to 1000 µs, the centre to 1500, the high end to 2000.
// Ends that are not in order map nothing.
func Through(e quad.Ends, us float64) float64 {
	if !(e.Low < e.Centre && e.Centre < e.High) {
		return us
	}
	if us < e.Centre {
		return Centre + (us-e.Centre)*(Centre-Low)/(e.Centre-e.Low)
	}
	return Centre + (us-e.Centre)*(High-Centre)/(e.High-e.Centre)
}

// Mapped is what the board makes of captured ends through a range.
func Mapped(rng, e quad.Ends) quad.Ends {
	return quad.Ends{Low: Through(rng, e.Low), Centre: Through(rng, e.Centre), High: Through(rng, e.High)}
}

// Lost is the share of a stick's steps that are missing when it travels between these ends only, and a range
// mapping stretches them: 0.12 means that an eighth of its resolution is gone.
func Lost(e quad.Ends) float64 { return math.Max(0, 1-(e.High-e.Low)/(High-Low)) }

// DeadbandFor is the dead band (whole µs) that hides a jitter of one sigma.
func DeadbandFor(jitter float64) float64 { return math.Ceil(3 * jitter) }

// Reaches says whether both ends of a stick come close enough to what the board expects.
func Reaches(e quad.Ends) bool {
	return math.Abs(e.Low-Low) <= EndTolerance && math.Abs(e.High-High) <= EndTolerance
}

// FarBeyond says whether a stick runs so far beyond what the board expects that it answers much more than it is asked.
func FarBeyond(e quad.Ends) bool { return e.Low < Low-farBeyond || e.High > High+farBeyond }

// farBeyond the ends, µs: three tenths of a stick's way. Ends a quarter beyond fly well in the model; half beyond tips it over.
const farBeyond = 150.0

// Hold is how surely a switch position is on its side of a range's edges.
type Hold string

const (
	Sure Hold = "sure"
	Near Hold = "near" // under EdgeMargin
	Edge Hold = "edge" // under EdgeStop
)

// HoldOf a margin in µs; the sign does not matter.
func HoldOf(margin float64) Hold {
	switch m := math.Abs(margin); {
	case m < EdgeStop:
		return Edge
	case m < EdgeMargin:
		return Near
	}
	return Sure
}

// Position is one switch position against one range.
type Position struct {
	Switch   string  `json:"switch"`
	Position string  `json:"position"`
	Pulse    float64 `json:"pulse" unit:"µs"`
	Inside   bool    `json:"inside"`
	Margin   float64 `json:"margin" unit:"µs"` // to the nearest edge of the range, negative outside
}

// Against lists every captured position of the switches on the range's channel, in the order of their
// pulse, with its distance to the range's nearest edge.
func Against(r quad.Range, switches map[string]quad.SwitchSeen) []Position {
	var out []Position
	for _, name := range quad.SortedKeys(switches) {
		s := switches[name]
		if s.Channel != r.Channel {
			continue
		}
		for _, pos := range quad.SortedKeys(s.Positions) {
			us := s.Positions[pos]
			out = append(out, Position{Switch: name, Position: pos, Pulse: us, Inside: r.Holds(us), Margin: Margin(r, us)})
		}
	}
	slices.SortStableFunc(out, func(a, b Position) int {
		switch {
		case a.Pulse < b.Pulse:
			return -1
		case a.Pulse > b.Pulse:
			return 1
		}
		return 0
	})
	return out
}

// CentredRange proposes a range around the pulses that should be inside: halfway to the nearest position
// that should be outside, out to the end of travel where there is none.
func CentredRange(channel int, inside, outside []float64) quad.Range {
	low, high := slices.Min(inside), slices.Max(inside)
	from, to := 900.0, 2100.0
	for _, o := range outside {
		if o < low {
			from = math.Max(from, (o+low)/2)
		}
		if o > high {
			to = math.Min(to, (o+high)/2)
		}
	}
	return quad.Range{Channel: channel, From: math.Round(from/5) * 5, To: math.Round(to/5) * 5}
}

// ArmRange proposes a range for arming, as [CentredRange] does, that keeps clear of the middle as well: a channel that nobody drives, or
// that is missing, sends that. ok is false where a position that should arm lies too near it.
func ArmRange(channel int, inside, outside []float64) (r quad.Range, ok bool) {
	r = CentredRange(channel, inside, append(slices.Clone(outside), Centre))
	ok = !slices.ContainsFunc(inside, func(us float64) bool { return !r.Holds(us) || HoldOf(Margin(r, us)) != Sure })
	return r, ok && math.Abs(Margin(r, Centre)) >= EdgeMargin && !r.Holds(Centre)
}

// Rest is where the throttle counts as at rest, µs, both ends included.
type Rest struct{ From, To float64 }

// RestOf a sheet: up to its limit, or, with reversible thrust, as far on both sides of the middle as that is above the low end.
func RestOf(s quad.SticksSheet, reversible bool) Rest {
	if reversible {
		by := s.IdleBelow - Low
		return Rest{Centre - by, Centre + by}
	}
	return Rest{0, s.IdleBelow}
}

// RestWords say where the throttle is put to rest, as a sentence about it goes on.
func RestWords(reversible bool) string {
	if reversible {
		return "in its middle"
	}
	return "all the way down"
}

// RestPlace is where a hand puts the throttle to rest, -1 at its low end to 1.
func RestPlace(reversible bool) float64 {
	if reversible {
		return 0 // its low end is full thrust downward
	}
	return -1
}

// Holds says whether a throttle that arrives counts as at rest.
func (r Rest) Holds(us float64) bool { return us >= r.From && us <= r.To }

// Words of where it rests.
func (r Rest) Words() string {
	if r.From > 0 {
		return quad.Number(r.From) + " to " + quad.Quantity(r.To, "µs")
	}
	return "up to " + quad.Quantity(r.To, "µs")
}

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
		{Name: "hold", Group: Hands, Holds: m.HoldOn, Sentence: "A position hold is switched on already.", Remedy: "Put its switch off; switch it on in the air."},
		{Name: "selfRight", Group: Hands, Holds: m.SelfRight, Sentence: "Self-righting is switched on.", Remedy: "Put its switch off."},
		{Name: "usb", Group: Machine, Holds: m.USB, Sentence: "USB is attached.", Remedy: "Pull the cable; it must not be tied to a computer when it arms."},
		{Name: "expired", Group: Machine, Holds: m.Expired, Sentence: "Its build has expired.", Remedy: "Flash a newer one, at Firmware."},
		{Name: "overload", Group: Machine, Holds: m.Overload, Sentence: "The board cannot keep its loop rate.", Remedy: "Set a slower loop, at Motors."},
	}
	if s.ArmByStick && !armOn {
		return append(out, Gate{Name: "gesture", Group: Hands, Holds: m.Linked && !m.Armed, Sentence: "It is armed by stick.", Remedy: "Throttle down and yaw to the right, for a second; then leave it untouched."})
	}
	return append(out, Gate{Name: "switch", Group: Hands, Holds: m.Linked && !armOn, Sentence: "The arm switch is not inside its range.", Remedy: "Put the switch on; if it is on, widen the range."})
}

// Map turns a pulse into -1..1 the way the board does, between 1000, 1500 and 2000 µs, with a dead band (µs
// each side of the centre).
func Map(us, deadband float64) float64 {
	d := us - Centre
	if math.Abs(d) <= deadband {
		return 0
	}
	d -= math.Copysign(deadband, d)
	return max(-1, min(1, d/(High-Centre-deadband)))
}

// MapThrottle turns a pulse into 0..1.
func MapThrottle(us float64) float64 { return max(0, min(1, (us-Low)/(High-Low))) }
