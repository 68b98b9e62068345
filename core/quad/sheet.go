package quad

// Sheet is the firmware-neutral description of how the quad is set up, one subject per field.
type Sheet struct {
	Firmware FirmwareSheet `json:"firmware"`
	Craft    CraftSheet    `json:"craft"`
	Wiring   WiringSheet   `json:"wiring"`
	Link     LinkSheet     `json:"link"`
	Sticks   SticksSheet   `json:"sticks"`
	Motors   MotorsSheet   `json:"motors"`
	Senses   SensesSheet   `json:"senses"`
	Feel     FeelSheet     `json:"feel"`
	Watch    WatchSheet    `json:"watch"`
	Loss     LossSheet     `json:"loss"`
	Picture  PictureSheet  `json:"picture"`
}

type FirmwareSheet struct {
	Line    string `json:"line" label:"Firmware line"`
	Version string `json:"version" label:"Firmware version"`
	Target  string `json:"target" label:"Board target"`
	// Other settings of the line that have no subject of their own on the sheet, as lines of a settings list.
	Other []string `json:"other,omitempty" label:"Settings without a subject"`
}

type CraftSheet struct {
	Layout   Layout   `json:"layout" label:"Layout" oneof:"x wideX plus"`
	Rotation Rotation `json:"rotation" label:"Rotation plan" oneof:"frontLeftClockwise frontLeftCounterClockwise"`
}

type PortPlan struct {
	Function PortFunction `json:"function" label:"Function" oneof:"nothing receiver satellite video configure"`
}

type WiringSheet struct {
	Ports map[string]PortPlan `json:"ports" label:"Port"`
}

type LinkSheet struct {
	Inverted  bool `json:"inverted" label:"Receiver's serial frame inverted"`
	Telemetry bool `json:"telemetry" label:"Telemetry wanted"`
}

// Range of a channel in which something is on. Both ends belong to it.
type Range struct {
	Channel int     `json:"channel" unit:"count" label:"Channel"`
	From    float64 `json:"from" unit:"µs" label:"Range from"`
	To      float64 `json:"to" unit:"µs" label:"Range to"`
}

// Used says whether the range is on a channel at all.
func (r Range) Used() bool { return r.Channel > 0 }

// Holds says whether a pulse is inside.
func (r Range) Holds(us float64) bool { return r.Used() && us >= r.From && us <= r.To }

type SticksSheet struct {
	Order     string `json:"order" label:"Channel order the board expects"`
	Arm       Range  `json:"arm" label:"Arm"`
	SelfLevel Range  `json:"selfLevel" label:"Self-level"`
	Beeper    Range  `json:"beeper" label:"Beeper"`
	// Ranges the board maps to 1000, 1500 and 2000 µs, for a radio whose travel cannot be mended. One of
	// zeros maps nothing.
	Ranges    StickRanges `json:"ranges" label:"Range mapping"`
	Deadband  float64     `json:"deadband" unit:"µs" label:"Deadband"`
	IdleBelow float64     `json:"idleBelow" unit:"µs" label:"Throttle counts as at rest below"`
}

// StickRanges has the range mapping of each stick channel.
type StickRanges struct {
	Roll     Ends `json:"roll" label:"Roll"`
	Pitch    Ends `json:"pitch" label:"Pitch"`
	Throttle Ends `json:"throttle" label:"Throttle"`
	Yaw      Ends `json:"yaw" label:"Yaw"`
}

// Of an axis.
func (r StickRanges) Of(a Axis) Ends {
	switch a {
	case Roll:
		return r.Roll
	case Pitch:
		return r.Pitch
	case Throttle:
		return r.Throttle
	case Yaw:
		return r.Yaw
	}
	return Ends{}
}

type OutputPlan struct {
	Corner   Corner `json:"corner" label:"Corner it drives" oneof:"frontLeft frontRight rearLeft rearRight"`
	Reversed bool   `json:"reversed" label:"Reversed in its speed controller"`
}

type MotorsSheet struct {
	Outputs  map[string]OutputPlan `json:"outputs" label:"Output"`
	Protocol ThrottleProtocol      `json:"protocol" label:"Throttle protocol" oneof:"pulse shortPulse digital"`
	BitRate  float64               `json:"bitRate" unit:"kbit/s" label:"Digital throttle bit rate"`
	TwoWay   bool                  `json:"twoWay" label:"Speed controllers answer with their rotation"`
	LoopRate float64               `json:"loopRate" unit:"Hz" label:"Control loop rate"`
	Poles    int                   `json:"poles" unit:"count" label:"Motor poles"`
	Idle     float64               `json:"idle" unit:"%" label:"Idle throttle"`
}

type SensesSheet struct {
	BoardYaw  float64 `json:"boardYaw" unit:"deg" label:"Board turned on its mount, clockwise"`
	Barometer bool    `json:"barometer" label:"Barometer used"`
	Satellite bool    `json:"satellite" label:"Satellite receiver used"`
}

// Rates of one axis in its family; see core/feel for the meaning of each number.
type Rates struct {
	Centre float64 `json:"centre" unit:"deg/s" label:"Centre sensitivity"`
	Peak   float64 `json:"peak" unit:"deg/s" label:"Peak rate"`
	Bend   float64 `json:"bend" unit:"1" label:"Bend"`
}

// Gains of one axis: differential throttle, in per cent of full, per rotation error, its integral and the
// rotation's change.
type Gains struct {
	Proportional float64 `json:"proportional" unit:"%/(deg/s)" label:"Proportional gain"`
	Integral     float64 `json:"integral" unit:"%/deg" label:"Integral gain"`
	Derivative   float64 `json:"derivative" unit:"%/(deg/s²)" label:"Derivative gain"`
}

type FeelSheet struct {
	Family        RateFamily `json:"family" label:"Rate family" oneof:"centrePeak compounding straightExpo"`
	Roll          Rates      `json:"roll" label:"Roll"`
	Pitch         Rates      `json:"pitch" label:"Pitch"`
	Yaw           Rates      `json:"yaw" label:"Yaw"`
	RollGains     Gains      `json:"rollGains" label:"Roll"`
	PitchGains    Gains      `json:"pitchGains" label:"Pitch"`
	YawGains      Gains      `json:"yawGains" label:"Yaw"`
	AngleLimit    float64    `json:"angleLimit" unit:"deg" label:"Angle limit of self-level"`
	LevelStrength float64    `json:"levelStrength" unit:"1/s" label:"Self-level strength"`
	ThrottleLimit float64    `json:"throttleLimit" unit:"%" label:"Throttle limit, by scaling"`
}

type WatchSheet struct {
	Cells       int     `json:"cells" unit:"count" label:"Cells the alarm counts on"`
	WarnPerCell float64 `json:"warnPerCell" unit:"V" label:"Warn below, per cell"`
	LandPerCell float64 `json:"landPerCell" unit:"V" label:"Land below, per cell"`
}

type LossSheet struct {
	Guard        float64 `json:"guard" unit:"s" label:"Guard time"`
	Policy       Policy  `json:"policy" label:"Policy on radio loss" oneof:"drop land return"`
	LandThrottle float64 `json:"landThrottle" unit:"%" label:"Throttle while landing"`
}

type PictureSheet struct {
	Frequency float64 `json:"frequency" unit:"MHz" label:"Video frequency"`
	Power     float64 `json:"power" unit:"mW" label:"Video power"`
}

// RadioPlan is how the radio turns hands into channels.
type RadioPlan struct {
	Order    string                `json:"order" label:"Channel order the radio sends"`
	Travel   float64               `json:"travel" unit:"%" label:"Travel of the stick channels"`
	Switches map[string]SwitchPlan `json:"switches" label:"Switch"`
}

// SwitchPlan is one physical switch.
type SwitchPlan struct {
	Channel   int      `json:"channel" unit:"count" label:"Channel"`
	Positions []string `json:"positions" label:"Positions, as they lie"`
	Rest      string   `json:"rest" label:"Position at power-up"`
}

// Limits are what the country and the pilot's own rules allow.
type Limits struct {
	Country      string  `json:"country" label:"Where it flies"`
	VideoPower   float64 `json:"videoPower" unit:"mW" label:"Allowed video power"`
	VideoLow     float64 `json:"videoLow" unit:"MHz" label:"Lowest allowed video frequency"`
	VideoHigh    float64 `json:"videoHigh" unit:"MHz" label:"Highest allowed video frequency"`
	ControlPower float64 `json:"controlPower" unit:"mW" label:"Allowed control power"`
	Height       float64 `json:"height" unit:"m" label:"Allowed height"`
}
