package quad

import "strings"

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
	// Gaps are the places of all these that nobody told.
	Gaps Gaps `json:"gaps,omitempty"`
}

type FirmwareSheet struct {
	Line    string `json:"line" label:"Firmware family"`
	Version string `json:"version" label:"Firmware version"`
	Target  string `json:"target" label:"Board target"`
	// Other settings of the line that have no subject of their own on the sheet, as lines of a settings list.
	Other []string `json:"other,omitempty" label:"Settings without a subject"`
}

// Is the identity that a board with this firmware has.
func (f FirmwareSheet) Is() Identity {
	return Identity{Target: f.Target, Line: f.Line, Version: f.Version}
}

type CraftSheet struct {
	Layout   Layout   `json:"layout" asked:"yes" label:"Layout"`
	Rotation Rotation `json:"rotation" asked:"yes" label:"Rotation plan"`
}

type PortPlan struct {
	Function PortFunction `json:"function" label:"Function"`
	Baud     float64      `json:"baud" asked:"later" unit:"kBd" label:"Speed; 0 is left to the firmware" least:"0" most:"10000" because:"no serial port here is faster than 10 MBd"`
}

type WiringSheet struct {
	Ports map[string]PortPlan `json:"ports" label:"Port"`
}

type LinkSheet struct {
	// Language that the board takes the receiver to speak; not told, it is left to the board.
	Language  Language `json:"language,omitempty" asked:"later" label:"Language of the receiver, for the board"`
	Inverted  bool     `json:"inverted" gap:"yes" label:"Receiver's serial frame inverted"`
	Telemetry bool     `json:"telemetry" gap:"yes" label:"Telemetry wanted"`
	// Phrase that radio and receiver share. Whoever has it can fly the quad.
	Phrase string `json:"phrase" label:"Shared phrase" private:"phrase"`
	// Strength is where the board looks for the link's strength, and on which channel when it is a spare one.
	Strength        StrengthSource `json:"strength" asked:"later" label:"Strength of the link, for the board"`
	StrengthChannel int            `json:"strengthChannel" asked:"later" unit:"count" label:"Channel the board takes for the strength" least:"0" most:"18" because:"a link carries 18 channels at most; 0 is unused"`
}

// MostChannels that a control link carries.
const MostChannels = 18

// Pulses that arrive, µs by channel, the first at 0.
type Pulses [MostChannels]float64

// Range of a channel in which something is on. Both ends belong to it.
type Range struct {
	Channel int     `json:"channel" unit:"count" label:"Channel" least:"0" most:"18" because:"a link carries 18 channels at most; 0 is unused"`
	From    float64 `json:"from" unit:"µs" label:"Range from" least:"0" most:"3000" because:"pulses are between 800 and 2200 µs; 0 is unset"`
	To      float64 `json:"to" unit:"µs" label:"Range to" least:"0" most:"3000" because:"pulses are between 800 and 2200 µs; 0 is unset"`
}

// Used says whether the range is on a channel at all.
func (r Range) Used() bool { return r.Channel > 0 }

// Holds says whether a pulse is inside.
func (r Range) Holds(us float64) bool { return r.Used() && us >= r.From && us <= r.To }

// On says whether what arrives on its channel is inside; on a channel that no link has it never is.
func (r Range) On(arrives *Pulses) bool {
	return r.Channel >= 1 && r.Channel <= len(arrives) && r.Holds(arrives[r.Channel-1])
}

type SticksSheet struct {
	Order string `json:"order" asked:"yes" label:"Channel order the board expects"`
	Arm   Range  `json:"arm" gap:"yes" label:"Arm"`
	// ArmByStick arms by throttle down and yaw to the right for a second, and disarms by yaw to the left.
	ArmByStick bool  `json:"armByStick" gap:"yes" label:"Armed by stick"`
	SelfLevel  Range `json:"selfLevel" gap:"yes" label:"Self-level"`
	Beeper     Range `json:"beeper" gap:"yes" label:"Beeper"`
	// Blended levels near the centre of the sticks and lets go near their ends. Self-level wins over it where both are on.
	Blended Range `json:"blended" gap:"yes" label:"Blended"`
	// Authority is full authority at idle: with the throttle at rest the controller still corrects.
	Authority       Range `json:"authority" gap:"yes" label:"Authority at idle"`
	AuthorityAlways bool  `json:"authorityAlways" gap:"yes" label:"Authority at idle, always"`
	// Ranges the board maps to 1000, 1500 and 2000 µs, for a radio whose travel cannot be mended. One of
	// zeros maps nothing.
	Ranges    StickRanges `json:"ranges" gap:"yes" label:"Range mapping"`
	Deadband  float64     `json:"deadband" gap:"yes" unit:"µs" label:"Deadband" least:"0" most:"100" because:"more than 100 µs is a tenth of the stick"`
	IdleBelow float64     `json:"idleBelow" asked:"yes" unit:"µs" label:"Throttle counts as at rest below" least:"0" most:"1500" because:"above the middle it would never count as flying"`
	// ArmTilt is the lean beyond which it does not arm; 0 was never told.
	ArmTilt float64 `json:"armTilt" unit:"deg" label:"Arms up to this lean; 0 is left to the firmware" least:"0" most:"180" because:"180° is upside down"`
	// ArmPause is how long after disarming it does not arm again; ArmFix wants a position first; ArmUnchecked arms whatever its own checks say.
	ArmPause     float64 `json:"armPause,omitempty" unit:"s" label:"Does not arm again for; 0 is left to the firmware" least:"0" most:"60" because:"a minute is no pause but a refusal"`
	ArmFix       bool    `json:"armFix,omitempty" label:"Arms only with a position"`
	ArmUnchecked bool    `json:"armUnchecked,omitempty" label:"Arms without its own checks"`
	// What else a switch can mean: modes that lean on more senses than the gyro, and what is beside flying.
	Hold        Range `json:"hold,omitzero" label:"Position hold"`
	ComeHome    Range `json:"comeHome,omitzero" label:"Come home"`
	HeightHold  Range `json:"heightHold,omitzero" label:"Height hold"`
	HeadingHold Range `json:"headingHold,omitzero" label:"Heading hold"`
	Mission     Range `json:"mission,omitzero" label:"Mission"`
	SelfRight   Range `json:"selfRight,omitzero" label:"Self-right after a crash"`
	Sounder     Range `json:"sounder,omitzero" label:"Sounder through the motors"`
	Lamp        Range `json:"lamp,omitzero" label:"Lamp"`
	Record      Range `json:"record,omitzero" label:"Camera records"`
	Mark        Range `json:"mark,omitzero" label:"Mark in the recording"`
	Quiet       Range `json:"quiet,omitzero" label:"Sounds and lamp off"`
	// Where another profile than the first answers the hands, see [FeelSheet]; where both are on, the third.
	SecondProfile Range `json:"secondProfile,omitzero" label:"Second profile"`
	ThirdProfile  Range `json:"thirdProfile,omitzero" label:"Third profile"`
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
	Corner   Corner `json:"corner" asked:"yes" label:"Corner it drives"`
	Reversed bool   `json:"reversed" gap:"yes" label:"Reversed in its speed controller"`
	// BothWays says that its speed controller is told of reversible thrust.
	BothWays bool `json:"bothWays,omitempty" label:"Told of reversible thrust"`
	// Switching is how often its speed controller switches the winding; 0 is left to it.
	Switching float64 `json:"switching,omitempty" unit:"kHz" label:"Switching frequency" least:"0" most:"200" because:"they switch at 8 to 128 kHz"`
	// Trim is added to its throttle; Lead is how far ahead of the rotor its winding is switched, 0 is left to the speed controller.
	Trim float64 `json:"trim,omitempty" unit:"%" label:"Throttle trim" least:"-10" most:"10" because:"a motor that needs more is another motor"`
	Lead float64 `json:"lead,omitempty" unit:"deg" label:"Timing advance" least:"0" most:"30" because:"a third of a step is all there is"`
}

type MotorsSheet struct {
	// Reversible motors turn both ways in flight: then the throttle rests in its middle.
	Reversible bool                  `json:"reversible" gap:"yes" label:"Reversible thrust: the throttle rests in its middle"`
	Outputs    map[string]OutputPlan `json:"outputs" label:"Motor on output *"`
	Protocol   ThrottleProtocol      `json:"protocol" asked:"yes" label:"Throttle protocol"`
	BitRate    float64               `json:"bitRate" gap:"yes" unit:"kbit/s" label:"Digital throttle bit rate" least:"0" most:"2400" because:"the fastest digital throttle sends 2400 kbit/s"`
	TwoWay     bool                  `json:"twoWay" gap:"yes" label:"Speed controllers answer with their rotation"`
	LoopRate   float64               `json:"loopRate" asked:"yes" unit:"Hz" label:"Control loop rate" least:"0" most:"32000" because:"no gyro is read faster than 32 kHz"`
	Poles      int                   `json:"poles" asked:"yes" unit:"count" label:"Motor poles" least:"0" most:"60" because:"motors have 2 to 60 poles"`
	Idle       float64               `json:"idle" asked:"yes" unit:"%" label:"Idle throttle" least:"0" most:"30" because:"above 30 % a quad flies by itself"`
	// What else a firmware does between the throttle and the motors; 0 is left to it.
	Sag       float64  `json:"sag,omitempty" unit:"%" label:"Share of a sagging pack made up for" least:"0" most:"150" because:"more than all of it winds itself up"`
	Linear    float64  `json:"linear,omitempty" unit:"%" label:"Thrust evened out over the throttle" least:"0" most:"100" because:"a share of full"`
	Room      float64  `json:"room,omitempty" unit:"%" label:"Room that the mixer keeps" least:"0" most:"50" because:"half of the throttle is no room but a limit"`
	Boost     float64  `json:"boost,omitempty" unit:"%" label:"Push at which a motor is started" least:"0" most:"100" because:"a share of full"`
	Least     float64  `json:"least,omitempty" unit:"%" label:"Lowest throttle the mixer gives" least:"0" most:"100" because:"a share of full"`
	Most      float64  `json:"most,omitempty" unit:"%" label:"Highest throttle the mixer gives" least:"0" most:"100" because:"a share of full"`
	Lag       float64  `json:"lag,omitempty" unit:"%" label:"Lag of the motors made up for" least:"0" most:"100" because:"a share of full"`
	LoopSpare float64  `json:"loopSpare,omitempty" unit:"%" label:"Processor time kept free of the loop" least:"0" most:"100" because:"a share of full"`
	LoopShare int      `json:"loopShare,omitempty" unit:"count" label:"Gyro readings to one round of the loop" least:"0" most:"64" because:"one in 64 is no control"`
	Beeps     float64  `json:"beeps,omitempty" unit:"%" label:"Loudness of the motors' beeps" least:"0" most:"100" because:"a share of full"`
	Bus       MotorBus `json:"bus,omitzero" label:"Bus to the speed controllers"`
}

// MotorBus carries the throttle to speed controllers that hang on one bus, instead of a wire each.
type MotorBus struct {
	Used    bool    `json:"used" label:"Used"`
	BitRate float64 `json:"bitRate" unit:"kbit/s" label:"Bit rate" least:"0" most:"10000" because:"no bus here is faster"`
	Node    int     `json:"node" unit:"count" label:"Number of the board" least:"0" most:"1000" because:"numbers have three digits"`
	First   int     `json:"first" unit:"count" label:"Number of the first speed controller" least:"0" most:"1000" because:"numbers have three digits"`
	Count   int     `json:"count" unit:"count" label:"Speed controllers" least:"0" most:"1000" because:"numbers have three digits"`
	Timeout float64 `json:"timeout" unit:"ms" label:"Stops without a word after" least:"0" most:"10000" because:"ten seconds are no safety"`
}

type SensesSheet struct {
	BoardRoll  float64 `json:"boardRoll" gap:"yes" unit:"deg" label:"Board rolled on its mount, right side down" least:"-180" most:"180" because:"half a turn either way"`
	BoardPitch float64 `json:"boardPitch" gap:"yes" unit:"deg" label:"Board pitched on its mount, nose up" least:"-180" most:"180" because:"half a turn either way"`
	BoardYaw   float64 `json:"boardYaw" gap:"yes" unit:"deg" label:"Board turned on its mount, clockwise" least:"-360" most:"360" because:"one turn"`
	Barometer  bool    `json:"barometer" gap:"yes" label:"Barometer used"`
	Satellite  bool    `json:"satellite" gap:"yes" label:"Satellite receiver used"`
	Compass    bool    `json:"compass,omitempty" gap:"yes" label:"Compass used"`
	// CompassTurned is how the compass stands on its mount, as seen from above. Declination is what the board adds to what the compass shows, where it
	// does not know that from where it is: east positive.
	CompassTurned float64 `json:"compassTurned,omitempty" gap:"yes" unit:"deg" label:"Compass turned on its mount, clockwise" least:"-360" most:"360" because:"one turn"`
	Declination   float64 `json:"declination,omitempty" gap:"yes" unit:"deg" label:"Declination that the board adds, east positive" least:"-180" most:"180" because:"half a turn either way"`
}

// Mount of the board as the sheet tells it.
func (s SensesSheet) Mount() Mount { return Mount{s.BoardRoll, s.BoardPitch, s.BoardYaw} }

// Mount is how a board lies on its frame: turned clockwise, then pitched nose up, then rolled right side down, each about its own axis,
// from lying flat with its arrow ahead.
type Mount struct {
	Roll  float64 `json:"roll" unit:"deg" label:"Rolled, right side down (180 is on its back)" least:"-180" most:"180" because:"half a turn either way"`
	Pitch float64 `json:"pitch" unit:"deg" label:"Pitched, nose up" least:"-180" most:"180" because:"half a turn either way"`
	Yaw   float64 `json:"yaw" unit:"deg" label:"Turned, clockwise" least:"-360" most:"360" because:"one turn"`
}

// Words of it.
func (m Mount) Words() string {
	if m == (Mount{}) {
		return "flat, its arrow ahead"
	}
	var parts []string
	for _, of := range []struct {
		word string
		deg  float64
	}{{"turned", m.Yaw}, {"pitched", m.Pitch}, {"rolled", m.Roll}} {
		if of.deg != 0 {
			parts = append(parts, of.word+" "+Quantity(of.deg, "deg"))
		}
	}
	return strings.Join(parts, ", ")
}

// Rates of one axis in its family; see core/feel for the meaning of each number.
type Rates struct {
	Centre float64 `json:"centre" asked:"yes" unit:"deg/s" label:"Centre sensitivity" least:"0" most:"2000" because:"no gyro measures more than 2000 °/s"`
	Peak   float64 `json:"peak" asked:"yes" unit:"deg/s" label:"Peak rate" least:"0" most:"2000" because:"no gyro measures more than 2000 °/s"`
	Bend   float64 `json:"bend" gap:"yes" unit:"1" label:"Bend" least:"0" most:"1" because:"a share"`
}

// Gains of one axis: differential throttle, in per cent of full, per rotation error, its integral and the
// rotation's change.
type Gains struct {
	Proportional float64 `json:"proportional" asked:"yes" unit:"%/(deg/s)" label:"Proportional gain" least:"0" most:"10" because:"at 10 every degree per second asks for a tenth of full throttle"`
	Integral     float64 `json:"integral" gap:"yes" unit:"%/deg" label:"Integral gain" least:"0" most:"50" because:"at 50 a degree of error takes half the throttle"`
	Derivative   float64 `json:"derivative" gap:"yes" unit:"%/(deg/s²)" label:"Derivative gain" least:"0" most:"1" because:"noise alone would saturate the motors"`
	// FeedForward is on the change of what the sticks ask for, so that it does not wait for an error.
	FeedForward float64 `json:"feedForward,omitempty" unit:"%/(deg/s²)" label:"Feed-forward gain" least:"0" most:"1" because:"every twitch of a stick would saturate the motors"`
}

// Filters are what the board puts on what its gyro shows, and on the change of that.
type Filters struct {
	Gyro         LowPass       `json:"gyro,omitzero" label:"Low-pass of the gyro"`
	GyroSecond   LowPass       `json:"gyroSecond,omitzero" label:"Second low-pass of the gyro"`
	Change       LowPass       `json:"change,omitzero" label:"Low-pass of the derivative"`
	ChangeSecond LowPass       `json:"changeSecond,omitzero" label:"Second low-pass of the derivative"`
	Notch        Notch         `json:"notch,omitzero" label:"Notch"`
	NotchSecond  Notch         `json:"notchSecond,omitzero" label:"Second notch"`
	Following    RotorNotches  `json:"following,omitzero" label:"Notches that follow rotation"`
	Searching    SearchNotches `json:"searching,omitzero" label:"Notches that search"`
}

// LowPass of a board.
type LowPass struct {
	Kind   LowPassKind `json:"kind,omitempty" asked:"later" label:"Kind"`
	Cutoff float64     `json:"cutoff,omitempty" unit:"Hz" label:"Cutoff; 0 is left to the firmware" least:"0" most:"2000" because:"no loop here is filtered faster"`
}

// Notch at one frequency.
type Notch struct {
	On     OnOff   `json:"on,omitempty" asked:"later" label:"On or off"`
	Centre float64 `json:"centre,omitempty" unit:"Hz" label:"Centre" least:"0" most:"2000" because:"no loop here is filtered faster"`
	Width  float64 `json:"width,omitempty" unit:"Hz" label:"Width; 0 is left to the firmware" least:"0" most:"2000" because:"no loop here is filtered faster"`
}

// RotorNotches sit at the rotation of every rotor and at its multiples, as the speed controllers tell it.
type RotorNotches struct {
	On    OnOff   `json:"on,omitempty" asked:"later" label:"On or off"`
	Tones int     `json:"tones,omitempty" unit:"count" label:"Multiples of each rotor; 0 is left to the firmware" least:"0" most:"5" because:"nothing is left between more"`
	Least float64 `json:"least,omitempty" unit:"Hz" label:"Lowest followed; 0 is left to the firmware" least:"0" most:"1000" because:"no rotor here idles faster"`
	Width float64 `json:"width,omitempty" unit:"%" label:"Width, of where it sits; 0 is left to the firmware" least:"0" most:"200" because:"twice as wide as it is high up is no notch"`
}

// SearchNotches look for the strongest vibration in a band, and sit there.
type SearchNotches struct {
	Count int     `json:"count,omitempty" unit:"count" label:"How many" least:"0" most:"8" because:"nothing is left between more"`
	From  float64 `json:"from,omitempty" unit:"Hz" label:"From; 0 is left to the firmware" least:"0" most:"2000" because:"no loop here is filtered faster"`
	To    float64 `json:"to,omitempty" unit:"Hz" label:"To; 0 is left to the firmware" least:"0" most:"2000" because:"no loop here is filtered faster"`
}

// Recording is what the board writes down of a flight.
type Recording struct {
	Purpose RecordPurpose `json:"purpose,omitempty" asked:"later" label:"What it is for"`
	Medium  RecordMedium  `json:"medium,omitempty" asked:"later" label:"Where to"`
	Share   int           `json:"share,omitempty" unit:"count" label:"Rounds of the loop to one record; 0 is left to the firmware" least:"0" most:"256" because:"one in 256 shows nothing"`
	Raw     OnOff         `json:"raw,omitempty" asked:"later" label:"Unfiltered gyro"`
}

// Profile is how the quad answers other hands, or the same ones elsewhere: indoors, a guest's. A switch chooses it; what it does not name is as in
// the first one, and so is all of it while the radio is lost.
type Profile struct {
	Name          string  `json:"name,omitempty" label:"Name"`
	Roll          Rates   `json:"roll" label:"Roll"`
	Pitch         Rates   `json:"pitch" label:"Pitch"`
	Yaw           Rates   `json:"yaw" label:"Yaw"`
	AngleLimit    float64 `json:"angleLimit" asked:"yes" unit:"deg" label:"Angle limit of self-level" least:"0" most:"89" because:"at 90° nothing carries the weight"`
	ThrottleLimit float64 `json:"throttleLimit" asked:"yes" unit:"%" label:"Throttle limit, compressed" least:"0" most:"100" because:"a share of full"`
}

// Rates about roll, pitch and yaw.
func (p Profile) Rates() [3]Rates { return [3]Rates{p.Roll, p.Pitch, p.Yaw} }

// Rates about roll, pitch and yaw in the first profile.
func (f FeelSheet) Rates() [3]Rates { return [3]Rates{f.Roll, f.Pitch, f.Yaw} }

// Gains about roll, pitch and yaw.
func (f FeelSheet) Gains() [3]Gains { return [3]Gains{f.RollGains, f.PitchGains, f.YawGains} }

// FeelSheet is how the quad answers the hands. Its rates, its angle limit and its throttle limit are those of the first profile.
type FeelSheet struct {
	Family        RateFamily `json:"family" asked:"yes" label:"Rate family"`
	Roll          Rates      `json:"roll" label:"Roll"`
	Pitch         Rates      `json:"pitch" label:"Pitch"`
	Yaw           Rates      `json:"yaw" label:"Yaw"`
	RollGains     Gains      `json:"rollGains" label:"Roll"`
	PitchGains    Gains      `json:"pitchGains" label:"Pitch"`
	YawGains      Gains      `json:"yawGains" label:"Yaw"`
	AngleLimit    float64    `json:"angleLimit" asked:"yes" unit:"deg" label:"Angle limit of self-level" least:"0" most:"89" because:"at 90° nothing carries the weight"`
	LevelStrength float64    `json:"levelStrength" asked:"yes" unit:"1/s" label:"Self-level strength" least:"0" most:"50" because:"faster than the motors can follow"`
	Blend         float64    `json:"blend" unit:"%" label:"Stick at which blended lets go; 0 is left to the firmware" least:"0" most:"100" because:"a share of full stick"`
	ThrottleLimit float64    `json:"throttleLimit" asked:"yes" unit:"%" label:"Throttle limit, compressed" least:"0" most:"100" because:"a share of full"`
	// ThrottleMiddle and ThrottleBend bend the throttle: how much more than half the stick gives in its middle, and how flat it is there.
	ThrottleMiddle float64 `json:"throttleMiddle,omitempty" unit:"%" label:"Throttle in the middle of the stick, above half" least:"-50" most:"50" because:"half above or below"`
	ThrottleBend   float64 `json:"throttleBend,omitempty" unit:"%" label:"Throttle bend, flatter about the middle" least:"0" most:"100" because:"a share of full"`
	// ThrottleCut stops the throttle short at its limit instead of making the whole stick finer.
	ThrottleCut bool      `json:"throttleCut,omitempty" label:"Throttle limit cut off instead"`
	Filters     Filters   `json:"filters,omitzero" label:"Filters"`
	Recording   Recording `json:"recording,omitzero" label:"Recording"`
	// Profile names the first; Second and Third are what a switch puts in its place.
	Profile string  `json:"profile,omitempty" label:"Name of the first profile"`
	Second  Profile `json:"second,omitzero" label:"Second profile"`
	Third   Profile `json:"third,omitzero" label:"Third profile"`
}

type WatchSheet struct {
	Cells       int     `json:"cells" gap:"yes" unit:"count" label:"Cells the alarm counts on" least:"0" most:"12" because:"packs have 1 to 12 cells; 0 counts by itself"`
	WarnPerCell float64 `json:"warnPerCell" asked:"yes" unit:"V" label:"Warn below, per cell" least:"0" most:"4.4" because:"a full cell has at most 4.35 V"`
	LandPerCell float64 `json:"landPerCell" asked:"yes" unit:"V" label:"Land below, per cell" least:"0" most:"4.4" because:"a full cell has at most 4.35 V"`
}

type LossSheet struct {
	Guard        float64 `json:"guard" asked:"yes" unit:"s" label:"Failsafe delay" least:"0" most:"60" because:"a minute without a radio is no failsafe"`
	Policy       Policy  `json:"policy" asked:"yes" label:"Policy on radio loss"`
	LandThrottle float64 `json:"landThrottle" asked:"yes" unit:"%" label:"Throttle while landing" least:"0" most:"100" because:"a share of full"`
	// How long it descends before the motors stop, how long the radio must be back before it is believed, how long it then does not arm, and
	// how far away it must be to come home; 0 is left to the firmware.
	LandTime float64 `json:"landTime,omitempty" unit:"s" label:"Stops the motors after descending for" least:"0" most:"600" because:"ten minutes of descent come from nowhere"`
	Back     float64 `json:"back,omitempty" unit:"s" label:"The radio counts as back after" least:"0" most:"60" because:"a minute is no delay but a refusal"`
	Rearm    float64 `json:"rearm,omitempty" unit:"s" label:"Does not arm after a loss for" least:"0" most:"600" because:"ten minutes are no pause but a refusal"`
	Near     float64 `json:"near,omitempty" unit:"m" label:"Comes home only from beyond" least:"0" most:"10000" because:"beyond ten kilometres nothing comes home"`
	// How it comes home: how high on the way, how high where that is set, how fast, what it does there, and how many satellites it wants before it
	// counts as knowing where it is.
	Way        HomeWay `json:"way,omitempty" asked:"later" label:"Height on the way home"`
	WayHeight  float64 `json:"wayHeight,omitempty" unit:"m" label:"Height set for the way home" least:"0" most:"1000" because:"a kilometre is no height for a quad"`
	HomeSpeed  float64 `json:"homeSpeed,omitempty" unit:"m/s" label:"Speed on the way home" least:"0" most:"40" because:"nothing comes home faster than 40 m/s"`
	AtHome     AtHome  `json:"atHome,omitempty" asked:"later" label:"At home"`
	Satellites int     `json:"satellites,omitempty" unit:"count" label:"Satellites that it wants at least" least:"0" most:"40" because:"no sky has more than forty"`
	// During the failsafe delay each stick is taken so.
	During LossDuring `json:"during,omitzero" label:"During the failsafe delay"`
	// CarriesOn flies a mission to its end without the radio. CrashStops stops the motors where it takes a knock for a crash.
	CarriesOn  bool `json:"carriesOn,omitempty" label:"A mission goes on without the radio"`
	CrashStops bool `json:"crashStops,omitempty" label:"Stops the motors after a crash"`
	// What it does when something else is lost.
	Battery  Reaction `json:"battery,omitempty" asked:"later" label:"When the pack is empty"`
	Estimate Reaction `json:"estimate,omitempty" asked:"later" label:"When it does not know where it is"`
	Fence    Reaction `json:"fence,omitempty" asked:"later" label:"At the fence"`
	Ground   Reaction `json:"ground,omitempty" asked:"later" label:"When the ground station is lost"`
}

// LossDuring is what each channel counts for between the last frame and the moment at which the board believes in a loss.
type LossDuring struct {
	Roll     During `json:"roll" asked:"later" label:"Roll"`
	Pitch    During `json:"pitch" asked:"later" label:"Pitch"`
	Throttle During `json:"throttle" asked:"later" label:"Throttle"`
	Yaw      During `json:"yaw" asked:"later" label:"Yaw"`
	Switches During `json:"switches" asked:"later" label:"Switches"`
}

type PictureSheet struct {
	Frequency float64 `json:"frequency" asked:"yes" unit:"MHz" label:"Video frequency" least:"0" most:"7000" because:"video is sent between 900 and 6100 MHz"`
	Power     float64 `json:"power" asked:"yes" unit:"mW" label:"Video power" least:"0" most:"10000" because:"10 W is more than any unit sends"`
}

// RadioPlan is how the radio turns hands into channels, and how its model for this quad is set to send them.
type RadioPlan struct {
	Model     string     `json:"model" label:"Name of its model in the radio"`
	Modules   ModulesOn  `json:"modules" label:"Modules that the model has on"`
	Number    int        `json:"number" unit:"count" label:"Receiver number" least:"0" most:"63" because:"radios number up to 63 receivers; 0 is none"`
	Channels  int        `json:"channels" unit:"count" label:"Channels sent; 0 is as many as the link carries" least:"0" most:"18" because:"a link carries 18 channels at most"`
	Telemetry bool       `json:"telemetry" label:"Telemetry asked of the receiver"`
	Rate      float64    `json:"rate" unit:"Hz" label:"Packet rate; 0 is left to the link" least:"0" most:"2000" because:"no control link sends 2000 packets a second"`
	Phrase    string     `json:"phrase" label:"Shared phrase of the radio" private:"phrase"`
	Alarms    LinkAlarms `json:"alarms"`
	// AlarmDelay is for how long the pack's voltage must be low until the radio speaks, AlarmRepeat how long until it says so again.
	AlarmDelay  float64               `json:"alarmDelay,omitempty" unit:"s" label:"Delay of the pack's alarm" least:"0" most:"60" because:"after a minute the pack is empty"`
	AlarmRepeat float64               `json:"alarmRepeat,omitempty" unit:"s" label:"Repeat of the pack's alarm; 0 says it once" least:"0" most:"120" because:"two minutes apart nobody takes it for the same"`
	Trims       StickTrims            `json:"trims"`
	Mixes       map[string]MixPlan    `json:"mixes,omitempty" label:"Mix"`
	Order       string                `json:"order" asked:"yes" label:"Channel order the radio sends"`
	Travel      float64               `json:"travel" unit:"%" label:"Travel of the stick channels" least:"0" most:"150" because:"radios stop at 150 %"`
	Switches    map[string]SwitchPlan `json:"switches" label:"Switch"`
}

// LinkAlarms are what the radio warns of by itself. 0 leaves an alarm off.
type LinkAlarms struct {
	Strength     float64 `json:"strength" unit:"dBm" label:"Warn below this strength" least:"-140" most:"0" because:"no receiver hears less than -140 dBm"`
	StrengthLast float64 `json:"strengthLast" unit:"dBm" label:"Last warning below this strength" least:"-140" most:"0" because:"no receiver hears less than -140 dBm"`
	Quality      float64 `json:"quality" unit:"%" label:"Warn below this link quality" least:"0" most:"100" because:"a share of full"`
	QualityLast  float64 `json:"qualityLast" unit:"%" label:"Last warning below this link quality" least:"0" most:"100" because:"a share of full"`
}

// SwitchPlan is one physical switch.
type SwitchPlan struct {
	Channel   int      `json:"channel" unit:"count" label:"Channel" least:"0" most:"18" because:"a link carries 18 channels at most; 0 is unused"`
	Positions []string `json:"positions" label:"Positions, as they lie"`
	Rest      string   `json:"rest" label:"Position at power-up"`
	// Lost is the position whose pulse the receiver puts out when the radio is gone, where it puts out any.
	Lost string `json:"lost,omitempty" label:"Position put out when the radio is gone"`
	// Travel of its channel; 0 is the 100 % that every radio begins with.
	Travel float64 `json:"travel,omitempty" unit:"%" label:"Travel; 0 is 100 %" least:"0" most:"150" because:"radios stop at 150 %"`
	// Gain says that an old board takes this channel's travel for its main gain: then full travel is not what is wanted.
	Gain bool `json:"gain,omitempty" label:"The board takes its travel for the gain"`
	// Springs says that it goes back to its rest when it is let go.
	Springs bool `json:"springs,omitempty" label:"Springs back when it is let go"`
}

// StickTrims are what the radio adds to its sticks at rest.
type StickTrims struct {
	Roll     float64 `json:"roll" unit:"µs" label:"Trim of roll" least:"-250" most:"250" because:"trims reach a quarter of the stick"`
	Pitch    float64 `json:"pitch" unit:"µs" label:"Trim of pitch" least:"-250" most:"250" because:"trims reach a quarter of the stick"`
	Throttle float64 `json:"throttle" unit:"µs" label:"Trim of throttle" least:"-250" most:"250" because:"trims reach a quarter of the stick"`
	Yaw      float64 `json:"yaw" unit:"µs" label:"Trim of yaw" least:"-250" most:"250" because:"trims reach a quarter of the stick"`
}

// Of an axis.
func (t StickTrims) Of(a Axis) float64 {
	return map[Axis]float64{Roll: t.Roll, Pitch: t.Pitch, Throttle: t.Throttle, Yaw: t.Yaw}[a]
}

// MixPlan adds a share of one channel to another, before it is sent. A weight of 100 % carries its whole swing over.
type MixPlan struct {
	From   int     `json:"from" unit:"count" label:"From channel" least:"0" most:"18" because:"a link carries 18 channels at most; 0 is unused"`
	To     int     `json:"to" unit:"count" label:"To channel" least:"0" most:"18" because:"a link carries 18 channels at most; 0 is unused"`
	Weight float64 `json:"weight" unit:"%" label:"Weight" least:"-200" most:"200" because:"more than twice leaves every channel at its ends"`
	// Alone takes the place of what drives the channel instead of adding to it.
	Alone bool `json:"alone,omitempty" label:"Takes the channel's place"`
}

// Limits are what the country and the pilot's own rules allow.
type Limits struct {
	Country      string  `json:"country" label:"Where it flies"`
	VideoPower   float64 `json:"videoPower" asked:"yes" unit:"mW" label:"Allowed video power" least:"0" most:"10000" because:"10 W is more than any unit sends"`
	VideoLow     float64 `json:"videoLow" asked:"yes" unit:"MHz" label:"Lowest allowed video frequency" least:"0" most:"7000" because:"video is sent between 900 and 6100 MHz"`
	VideoHigh    float64 `json:"videoHigh" asked:"yes" unit:"MHz" label:"Highest allowed video frequency" least:"0" most:"7000" because:"video is sent between 900 and 6100 MHz"`
	ControlPower float64 `json:"controlPower" asked:"yes" unit:"mW" label:"Allowed control power" least:"0" most:"10000" because:"10 W is more than any module sends"`
	// Registration is what the place wants on the quad, RemoteID how it tells who it is in flight; in the pilot's words.
	Registration string  `json:"registration,omitempty" label:"Registration that it carries"`
	RemoteID     string  `json:"remoteId,omitempty" label:"Remote identification"`
	Height       float64 `json:"height" unit:"m" label:"Allowed height" least:"0" most:"5000" because:"the model knows no thinner air"`
	Field        float64 `json:"field" unit:"µT" label:"Horizontal field of the earth there; 0 is 20 µT" least:"0" most:"70" because:"the earth has at most 66 µT"`
	// Thresholds of this quad take the place of the pilot\'s and of the usual ones.
	Thresholds Thresholds `json:"thresholds"`
}

// usualField of the earth along the ground where none is noted, µT.
const usualField = 20.0

// FieldWords say of the field along the ground what it is taken as, and that nobody told it where nobody did.
func (l Limits) FieldWords() string {
	if l.Field > 0 {
		return Quantity(l.Field, "µT") + " along the ground"
	}
	return Quantity(usualField, "µT") + " along the ground, as is usual: nobody told it for this place"
}

// FieldThere is the horizontal field of the earth where it flies, µT.
func (l Limits) FieldThere() float64 {
	if l.Field > 0 {
		return l.Field
	}
	return usualField
}

// Own is a threshold that a pilot set himself, and why. A value of 0 leaves the usual one in place.
type Own struct {
	Value  float64 `json:"value" unit:"inherit" label:"limit"`
	Reason string  `json:"reason" label:"reason"`
}

// Set says whether there is one.
func (o Own) Set() bool { return o.Value != 0 }

// Thresholds that are a matter of judgement. What can injure has none here.
type Thresholds struct {
	CurrentSpare Own `json:"currentSpare" unit:"1" label:"Spare current of the speed controllers, as a factor" least:"1" most:"3" because:"below 1 the rating is exceeded, above 3 nothing passes"`
	TipSpeed     Own `json:"tipSpeed" unit:"1" label:"Propeller tip speed, of the speed of sound" least:"0.4" most:"0.95" because:"close to 1 a propeller only makes noise"`
	LinkQuality  Own `json:"linkQuality" unit:"%" label:"Link quality at thirty paces" least:"50" most:"100" because:"below half of the packets a link is failing"`
	Level        Own `json:"level" unit:"deg" label:"Level error" least:"0.1" most:"5" because:"at 5° it drifts 10 m in 5 s"`
	Wind         Own `json:"wind" unit:"m/s" label:"Wind for a first hover" least:"0.5" most:"12" because:"at 12 m/s it is no first hover but a storm flight"`
	Drift        Own `json:"drift" unit:"m" label:"Drift in the rehearsal" least:"0.5" most:"10" because:"beyond 10 m it leaves the clear circle"`
}
