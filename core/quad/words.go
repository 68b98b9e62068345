package quad

import "strings"

// Corner is one of the four rotor places, named as the pilot stands behind the quad. In the plus layout the
// four names stand for the arms met going clockwise from the front: front left is the front arm, front right
// the right arm, rear right the rear arm, rear left the left arm.
type Corner string

const (
	FrontLeft  Corner = "frontLeft"
	FrontRight Corner = "frontRight"
	RearLeft   Corner = "rearLeft"
	RearRight  Corner = "rearRight"
)

// Corners in reading order.
var Corners = [4]Corner{FrontLeft, FrontRight, RearLeft, RearRight}

// Index of the corner in Corners, or -1.
func (c Corner) Index() int {
	for i, k := range Corners {
		if k == c {
			return i
		}
	}
	return -1
}

// Words for a sentence.
func (c Corner) Words() string {
	switch c {
	case FrontLeft:
		return "front left"
	case FrontRight:
		return "front right"
	case RearLeft:
		return "rear left"
	case RearRight:
		return "rear right"
	}
	return "an unknown corner"
}

// Spin is a turning direction as seen from above. A propeller's hand is the direction it must turn to push
// air down, so a hand is a Spin too.
type Spin string

const (
	Clockwise        Spin = "clockwise"
	CounterClockwise Spin = "counterClockwise"
)

// Opposite direction; the empty spin stays empty.
func (s Spin) Opposite() Spin {
	switch s {
	case Clockwise:
		return CounterClockwise
	case CounterClockwise:
		return Clockwise
	}
	return s
}

// Words for a sentence.
func (s Spin) Words() string {
	switch s {
	case Clockwise:
		return "clockwise"
	case CounterClockwise:
		return "counter-clockwise"
	}
	return "in an unknown direction"
}

// Layout of the arms.
type Layout string

const (
	LayoutX    Layout = "x"
	LayoutWide Layout = "wideX"
	LayoutPlus Layout = "plus"
)

// Rotation is the direction the front left rotor turns; its diagonal turns alike, the other two the other way.
type Rotation string

const (
	FrontLeftClockwise        Rotation = "frontLeftClockwise"
	FrontLeftCounterClockwise Rotation = "frontLeftCounterClockwise"
)

// Wants is the direction the rotation plan asks of a corner.
func (r Rotation) Wants(c Corner) Spin {
	if r == "" || c.Index() < 0 {
		return ""
	}
	diagonal := c == FrontLeft || c == RearRight
	if diagonal == (r == FrontLeftClockwise) {
		return Clockwise
	}
	return CounterClockwise
}

// Axis is one of the four stick functions.
type Axis string

const (
	Roll     Axis = "roll"
	Pitch    Axis = "pitch"
	Throttle Axis = "throttle"
	Yaw      Axis = "yaw"
)

// Axes in the order a pilot names them.
var Axes = [4]Axis{Roll, Pitch, Throttle, Yaw}

// Letter of the axis in a channel order, as everywhere in the field: aileron, elevator, throttle, rudder. 0
// for an unknown axis.
func (a Axis) Letter() byte {
	switch a {
	case Roll:
		return 'A'
	case Pitch:
		return 'E'
	case Throttle:
		return 'T'
	case Yaw:
		return 'R'
	}
	return 0
}

// ChannelIn is the channel of an axis in an order such as "AETR", counted from 1; 0 when the order does not
// have it.
func ChannelIn(order string, axis Axis) int { return strings.IndexByte(order, axis.Letter()) + 1 }

// HomeWay is how high a quad comes home.
type HomeWay string

const (
	WayAsIs    HomeWay = "asIs"
	WaySet     HomeWay = "set"
	WayHighest HomeWay = "highest"
)

// Words of how high.
func (w HomeWay) Words() string {
	switch w {
	case WayAsIs:
		return "as high as it is"
	case WaySet:
		return "at the height set for it, or higher"
	case WayHighest:
		return "as high as it was at its highest"
	}
	return string(w)
}

// AtHome is what a quad does when it has come home.
type AtHome string

const (
	HomeLands AtHome = "lands"
	HomeDrops AtHome = "comesDown"
)

// Words of what it does.
func (a AtHome) Words() string {
	switch a {
	case HomeLands:
		return "lands by itself"
	case HomeDrops:
		return "comes near, then down at the landing throttle"
	}
	return string(a)
}

// Policy is what the controller does once it believes the radio is gone.
type Policy string

const (
	PolicyDrop   Policy = "drop"
	PolicyLand   Policy = "land"
	PolicyReturn Policy = "return"
)

// Descends says whether it may come down by the landing throttle: a return that it refuses, or that ends near home, does too.
func (p Policy) Descends() bool { return p == PolicyLand || p == PolicyReturn }

// Words of what it does.
func (p Policy) Words() string {
	switch p {
	case PolicyDrop:
		return "stop motors"
	case PolicyLand:
		return "descend"
	case PolicyReturn:
		return "come home"
	}
	return Words(string(p), "")
}

// Reaction of a board to something other than a lost radio.
type Reaction string

const (
	ReactNothing Reaction = "nothing"
	ReactLand    Reaction = "land"
	ReactReturn  Reaction = "return"
	ReactDrop    Reaction = "drop"
)

// Words of what it does.
func (r Reaction) Words() string {
	if r == ReactNothing || r == "" {
		return "nothing"
	}
	return Policy(r).Words()
}

// During is what a channel counts for while a board waits for its radio.
type During string

const (
	DuringKeep During = "keep" // what came last
	DuringRest During = "rest" // as if the stick were let go
	DuringSet  During = "set"  // a figure of the board's own
)

// LossOutput is what a receiver puts out when it hears no radio.
type LossOutput string

const (
	LossSilence LossOutput = "silence"
	LossHold    LossOutput = "hold"
	LossPreset  LossOutput = "preset"
)

// AlarmRoute is by what a pilot hears of his pack.
type AlarmRoute string

const (
	RouteTelemetry AlarmRoute = "telemetry" // the radio speaks
	RouteDisplay   AlarmRoute = "display"   // in the goggles
	RouteSounder   AlarmRoute = "sounder"   // on board
)

// LowPassKind is how steeply a low-pass falls; nothing is left to the firmware.
type LowPassKind string

const (
	LowPassOff    LowPassKind = "off"
	LowPassFirst  LowPassKind = "first"  // order
	LowPassSecond LowPassKind = "second" // order
)

// OnOff is a switch that is left to the firmware where nobody told it.
type OnOff string

const (
	On  OnOff = "on"
	Off OnOff = "off"
)

// RecordMedium is what a board writes its flights on.
type RecordMedium string

const (
	RecordNothing RecordMedium = "nothing"
	RecordChip    RecordMedium = "chip" // soldered to the board
	RecordCard    RecordMedium = "card"
)

// RecordPurpose is what a recording is meant to show.
type RecordPurpose string

const (
	RecordsGains   RecordPurpose = "gains"   // how it answers a step
	RecordsFilters RecordPurpose = "filters" // what shakes, and what the filters leave of it
	RecordsFlights RecordPurpose = "flights" // what happened
)

// MotorsStop is what the motors did once the radio was gone.
type MotorsStop string

const (
	StoppedAfter MotorsStop = "stopped"
	NeverStopped MotorsStop = "neverStopped"
	Rose         MotorsStop = "rose"          // as to climb, which is how a way home begins
	WentOver     MotorsStop = "wentToLanding" // to a throttle of their own, as a landing has it
)

// HotMotor is the corner whose motor was hotter than the others, or none.
type HotMotor string

// HotNone says that no motor was hotter than the others.
const HotNone HotMotor = "none"

// StrengthSource is how the strength of the control link reaches the board.
type StrengthSource string

const (
	StrengthNone    StrengthSource = "none"
	StrengthChannel StrengthSource = "channel" // on a spare channel
	StrengthAnalog  StrengthSource = "analog"  // as a voltage on a pin
	StrengthSerial  StrengthSource = "serial"  // within the serial protocol
)

// Language is what a receiver speaks to the board.
type Language string

const (
	SerialFrame  Language = "serialFrame"  // frames one way
	TwoWaySerial Language = "twoWaySerial" // frames both ways, telemetry on the same wires
	PulseTrain   Language = "pulseTrain"   // all channels as pulses one after another, on one wire
)

// Words of it.
func (l Language) Words() string {
	switch l {
	case SerialFrame:
		return "serial frame"
	case TwoWaySerial:
		return "two-way serial"
	case PulseTrain:
		return "pulse train"
	}
	return "nothing"
}

// Speed at which boards listen to a language, kBd; 0 is none: pulses have no bits.
func (l Language) Speed() float64 {
	switch l {
	case SerialFrame:
		return 100
	case TwoWaySerial:
		return 420
	}
	return 0
}

// ModulesOn says which of the radio's modules a model has on.
type ModulesOn string

const (
	ModuleInternal ModulesOn = "internal"
	ModuleExternal ModulesOn = "external"
	ModuleBoth     ModulesOn = "both"
	ModuleNone     ModulesOn = "none"
)

// Polarisation of an antenna, as it is carried: linear upright, linear lying across, or circular.
type Polarisation string

const (
	Linear    Polarisation = "linear"
	Crossed   Polarisation = "crossed"
	RightHand Polarisation = "rightHand"
	LeftHand  Polarisation = "leftHand"
)

// ThrottleProtocol is how the controller talks to the speed controllers.
type ThrottleProtocol string

const (
	ProtocolPulse   ThrottleProtocol = "pulse"      // 1 to 2 ms pulses
	ProtocolShort   ThrottleProtocol = "shortPulse" // 125 to 250 µs pulses
	ProtocolDigital ThrottleProtocol = "digital"    // 16-bit frames at a bit rate
)

// RateFamily names the shape of the stick-to-rate curve.
type RateFamily string

const (
	CentrePeak   RateFamily = "centrePeak"
	Compounding  RateFamily = "compounding"
	StraightExpo RateFamily = "straightExpo"
)

// PortFunction is what a serial port is told to do.
type PortFunction string

const (
	PortNothing   PortFunction = "nothing"
	PortReceiver  PortFunction = "receiver"
	PortSatellite PortFunction = "satellite"
	PortVideo     PortFunction = "video"
	PortDisplay   PortFunction = "display"
	PortTelemetry PortFunction = "telemetry"
	PortConfigure PortFunction = "configure"
)

// Renewal is a pilot's school of when to calibrate again.
type Renewal string

const (
	ByDate  Renewal = "date"  // once its days are over, and after what moves parts
	ByEvent Renewal = "event" // only after what moves parts, or once a hold circles
)

// Words for it.
func (r Renewal) Words() string {
	if r == ByEvent {
		return "after what moves parts alone"
	}
	return "by date"
}
