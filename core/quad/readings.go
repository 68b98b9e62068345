package quad

import (
	"encoding/json"
	"math"
	"slices"
	"strings"
	"time"
)

// Origin of a reading.
type Origin string

const (
	OriginDevice Origin = "device" // taken by the server from a device; Bench marks a stand-in
	OriginTyped  Origin = "typed"
	OriginCable  Origin = "cable" // read from a board through the browser's serial port
	OriginRadio  Origin = "radio" // a radio attached to the browser
	OriginModel  Origin = "model" // computed by the flight model from a hashed input
)

// Reading is one fact about the real quad.
type Reading[T any] struct {
	Value    T         `json:"value"`
	Origin   Origin    `json:"origin"`
	Bench    bool      `json:"bench,omitempty"` // the device was a stand-in
	Input    string    `json:"input,omitempty"` // hash of what a model reading was computed from
	At       time.Time `json:"at"`
	Revision int       `json:"revision"`
}

// reading is implemented by every *Reading[T]; it lets paths treat a reading as one leaf.
type reading interface {
	taken() time.Time
	payload() any
	origin() (Origin, bool)
}

func (r *Reading[T]) taken() time.Time       { return r.At }
func (r *Reading[T]) payload() any           { return r.Value }
func (r *Reading[T]) origin() (Origin, bool) { return r.Origin, r.Bench }

// Enter puts a reading that a pilot took by himself into what is known. The value is JSON; a path that is no
// reading, or a value that does not fit it, is a Fault.
func Enter(k *Known, path Path, value json.RawMessage, at time.Time) error {
	if err := Admit(path, value); err != nil {
		return err
	}
	raw, err := json.Marshal(map[string]any{"value": value, "origin": OriginTyped, "at": at, "revision": 1})
	if err != nil {
		return Faultf("bad-value", string(path), "cannot be read: %v", err)
	}
	return Set(k, path, raw)
}

// Readings are the newest reading at each path.
type Readings struct {
	Airframe    AirframeReadings    `json:"airframe"`
	FirstPower  FirstPowerReadings  `json:"firstPower"`
	Firmware    FirmwareReadings    `json:"firmware"`
	Wiring      WiringReadings      `json:"wiring"`
	Link        LinkReadings        `json:"link"`
	Sticks      SticksReadings      `json:"sticks"`
	Motors      MotorsReadings      `json:"motors"`
	Senses      SensesReadings      `json:"senses"`
	Watch       WatchReadings       `json:"watch"`
	Loss        LossReadings        `json:"loss"`
	Picture     PictureReadings     `json:"picture"`
	BenchProof  BenchProofReadings  `json:"benchProof"`
	FirstFlight FirstFlightReadings `json:"firstFlight"`
}

type AirframeReadings struct {
	Weight  *Reading[float64] `json:"weight,omitempty" unit:"g" label:"Weight with pack and propellers" how:"Put the quad on a scale with the heaviest assigned pack strapped on." good:"Within a tenth of the sum of its parts." least:"1" most:"30000" because:"25 kg is where another class begins"`
	Balance *Reading[Balance] `json:"balance,omitempty" label:"Where it balances" how:"Heaviest pack strapped on, propellers on. Lift it on two fingertips under the top plate, one at either side, and shift them until it hangs level: that far ahead of the middle between the motors. Then the same for right and left." good:"In the middle, within a few millimetres."`
	Screws  *Reading[bool]    `json:"screws,omitempty" label:"Motor screws are locked, and none reaches a winding" how:"Thread lock on every screw that holds a motor. Look under the arm: each screw ends before the winding; turn the bell by hand, nothing grates." good:"All of them tight, and a gap to see between each and the copper."`
	Tidy    *Reading[bool]    `json:"tidy,omitempty" label:"Signal wires run apart from motor wires" how:"Follow each signal wire: twisted with its ground, or away from the three wires of every motor. Camera and video on one supply and one ground." good:"No signal wire lies along a motor wire."`
	Clear   *Reading[bool]    `json:"clear,omitempty" label:"Propeller arcs clear of antenna, strap and wires" how:"Turn each propeller by hand through a full circle; nothing may be within a finger's width." good:"Nothing within a finger's width of any of the four circles."`
}

type FirstPowerReadings struct {
	PropellersOff   *Reading[bool]       `json:"propellersOff,omitempty" label:"Propellers are off" how:"Look at all four motors." good:"Four bare shafts."`
	AntennasOn      *Reading[bool]       `json:"antennasOn,omitempty" label:"An antenna on every transmitter" how:"Video transmitter and receiver: a transmitter without one destroys itself." good:"Each screwed or clicked home, none by its thread alone."`
	LeadResistance  *Reading[Resistance] `json:"leadResistance,omitempty" label:"Resistance across the battery lead" how:"Pack out. Ohmmeter across the lead; note the figure at once and again after 10 s." good:"It climbs while you watch, then stays: more after 10 s than at once, and over 100 Ω."`
	FrameResistance *Reading[float64]    `json:"frameResistance,omitempty" unit:"kΩ" label:"Resistance from lead to frame" how:"Either pole of the lead against bare carbon." good:"No reading at all, or hundreds of kilohms." least:"0" most:"100000" because:"a meter shows nothing above 100 MΩ"`
	Polarity        *Reading[bool]       `json:"polarity,omitempty" label:"Plus of the plug is on plus of the board" how:"Pack out, meter on the lowest ohms: from the plug's marked plus to the board's pad marked plus, then minus to minus." good:"Less than an ohm both times; crossed, it would burn the moment the pack goes in."`
	IdleCurrent     *Reading[float64]    `json:"idleCurrent,omitempty" unit:"A" label:"Idle current" how:"Pack on through a current-limited supply or a meter in series, props off, disarmed." good:"About the sum of what its devices draw, steady, and nothing gets warm." least:"0" most:"50" because:"at 50 A something burns"`
}

// Resistance of a lead with a capacitor on it, at once and after ten seconds.
type Resistance struct {
	AtOnce float64 `json:"atOnce" unit:"Ω" label:"At once" least:"0" most:"100000000" because:"a meter shows nothing above 100 MΩ"`
	After  float64 `json:"after" unit:"Ω" label:"After 10 s" least:"0" most:"100000000" because:"a meter shows nothing above 100 MΩ"`
}

type FirmwareReadings struct {
	Identity *Reading[Identity] `json:"identity,omitempty" label:"What the board says it is" how:"USB in. Ask the board for target, line and version." good:"Target, family and version as your settings have them."`
	Backup   *Reading[Backup]   `json:"backup,omitempty" label:"What was on the board is saved" how:"Save the full list: from the bench, or brought in as your board gave it." good:"The whole list, of today, under a name that you will know again."`
	// SpeedControllers by the letter of their output.
	SpeedControllers map[string]*Reading[SpeedIdentity] `json:"speedControllers,omitempty" label:"What the speed controller says it is, output" how:"Pack in, propellers off: speed controllers answer only then. Ask each for its layout, version and switching rate." good:"All four alike: one layout, one version, one switching rate."`
}

// SwitchingTrial is a switching frequency tried on all speed controllers, beside the one before.
type SwitchingTrial struct {
	Before float64 `json:"before" unit:"kHz" label:"Before" least:"1" most:"200" because:"they switch at 8 to 128 kHz"`
	Tried  float64 `json:"tried" unit:"kHz" label:"Tried" least:"1" most:"200" because:"they switch at 8 to 128 kHz"`
	Was    float64 `json:"was" unit:"deg/s" label:"Shaking after a throttle cut, before" least:"0" most:"2000" because:"no gyro measures more than 2000 °/s"`
	Is     float64 `json:"is" unit:"deg/s" label:"The same with the one tried" least:"0" most:"2000" because:"no gyro measures more than 2000 °/s"`
}

// Identity of a controller board.
type Identity struct {
	Target  string `json:"target" label:"Target"`
	Line    string `json:"line" label:"Line"`
	Version string `json:"version" label:"Version"`
	// Serial is the board's own number, which tells one board from another of its kind; empty when not told.
	Serial string `json:"serial,omitempty" label:"Number" optional:"yes"`
}

// Same says whether two identities can be those of one board. One that does not tell its number may be any.
func (i Identity) Same(other Identity) bool {
	if i.Serial == "" || other.Serial == "" {
		i.Serial, other.Serial = "", ""
	}
	return i == other
}

// SameBoard says whether two identities are one very board's: what was measured on it may stay. Two boards without a number
// are not the same.
func (i Identity) SameBoard(other Identity) bool {
	return i.Serial != "" && i.Mark().Is(other.Mark())
}

// Mark of the identity's board.
func (i Identity) Mark() Mark { return Mark{Target: i.Target, Serial: i.Serial} }

// SpeedIdentity is what the firmware of one speed controller says.
type SpeedIdentity struct {
	Layout    string  `json:"layout" label:"Hardware layout"`
	Version   string  `json:"version" label:"Version"`
	Switching float64 `json:"switching" unit:"kHz" label:"Switching rate" least:"1" most:"200" because:"they switch at 8 to 128 kHz"`
	Replies   bool    `json:"replies" label:"Can reply with its rotation"`
}

// Backup of a board's settings; the list itself is kept with the reading's row.
type Backup struct {
	Name     string `json:"name" label:"Name"`
	Settings int    `json:"settings" unit:"count" label:"Settings" least:"0" most:"10000" because:"no list is as long"`
	Changed  int    `json:"changed" unit:"count" label:"Differing from defaults" least:"0" most:"10000" because:"no list is as long"`
	Hash     string `json:"hash" label:"Fingerprint"`
}

type WiringReadings struct {
	// Answers by device other than the receiver.
	Answers         map[string]*Reading[bool] `json:"answers,omitempty" label:"It answers: the" how:"Give it its power. The board lists it, or shows what it says." good:"It is listed within a few seconds, and its figures move."`
	ReceiverAnswers *Reading[bool]            `json:"receiverAnswers,omitempty" label:"The receiver answers on its port" how:"Pack on. The board lists a receiver on the port you gave it." good:"It is listed, and the channels show figures."`
}

type LinkReadings struct {
	ChannelsMove *Reading[bool] `json:"channelsMove,omitempty" label:"Channels move with the sticks" how:"Radio on, props off. A solid light is not proof: watch a channel move." good:"All four sticks move a channel each, without a jump or a stop."`
	// Module and Receiver are what the two say they are.
	Module   *Reading[LinkIdentity] `json:"module,omitempty" label:"What the radio module says it is" how:"The radio's own page on its module: link, version, band, region." good:"The same link, major version, band and region as the receiver's."`
	Receiver *Reading[LinkIdentity] `json:"receiver,omitempty" label:"What the receiver says it is" how:"Its label, its wireless page, or its page in the radio once it is bound." good:"The same link, major version, band and region as the module's."`
	// ModulePhrase and ReceiverPhrase are fingerprints: the phrases themselves are not kept with readings.
	ModulePhrase   *Reading[PhrasePrint] `json:"modulePhrase,omitempty" label:"Fingerprint of the radio's phrase" how:"Type the phrase at the comparison on the station's page: only its fingerprint is kept." good:"The same as the receiver's, letter by letter."`
	ReceiverPhrase *Reading[PhrasePrint] `json:"receiverPhrase,omitempty" label:"Fingerprint of the receiver's phrase" how:"Type what the receiver was given at the comparison on the station's page: only its fingerprint is kept." good:"The same as the radio's, letter by letter."`
	Antennas       *Reading[bool]        `json:"antennas,omitempty" label:"Antennas free, apart, and their connectors relieved" how:"Ends clear of carbon, battery lead and propellers, a finger's width at least; two of them at right angles; nothing pulls at a connector." good:"Two free ends at right angles, seen from every side."`
	Track          *Reading[LinkTrack]   `json:"track,omitempty" label:"Strength measured over distance" how:"Give a track with strength or link quality, as CSV or GPX, at the reach on the station's page." good:"Within 6 dB of what free space promises, all the way."`
	Range          *Reading[float64]     `json:"range,omitempty" unit:"%" label:"Link quality at thirty paces, lowest power" how:"Walk thirty paces away with the module on its lowest power and read the link quality." good:"At least 70 %, in whichever direction you stand." least:"0" most:"100" because:"a share of full"`
}

// LinkIdentity is what one end of the control link says it is.
type LinkIdentity struct {
	Link    string `json:"link" label:"Link"`
	Version string `json:"version" label:"Version" optional:"yes"`
	Band    string `json:"band" label:"Band"`
	Region  string `json:"region" label:"Region" optional:"yes"`
}

// Words of what it says, as far as it says it.
func (l LinkIdentity) Words() string {
	said := slices.DeleteFunc([]string{l.Link + " " + l.Version, l.Band, l.Region}, func(s string) bool { return strings.TrimSpace(s) == "" })
	return strings.TrimSpace(strings.Join(said, ", "))
}

// Words of it: what two people read to each other.
func (p PhrasePrint) Words() string { return p.Exact }

// Words of it: how far it was from what was promised.
func (t LinkTrack) Words() string {
	than := "less than predicted"
	if t.Missing < 0 {
		than = "more than predicted"
	}
	return Quantity(math.Abs(t.Missing), "dB") + " " + than + ", over " + Quantity(float64(t.Points), "count") + " points to " + Quantity(math.Round(t.Farthest), "m")
}

// PhrasePrint is the fingerprint of a binding phrase. Loose is that of the phrase without its spaces and without regard to
// capitals: two whose Exact differ and whose Loose agree were meant to be the same.
type PhrasePrint struct {
	Exact string `json:"exact" label:"Fingerprint"`
	Loose string `json:"loose" label:"Without capitals and spaces"`
}

// LinkTrack sums up the strength along one flight against what free space and the parts promise.
type LinkTrack struct {
	Points   int     `json:"points" unit:"count" label:"Points used" least:"0" most:"10000000" because:"no track is as long"`
	Farthest float64 `json:"farthest" unit:"m" label:"Farthest" least:"0" most:"200000" because:"beyond the radio horizon of any hill"`
	Missing  float64 `json:"missing" unit:"dB" label:"Weaker than predicted by" least:"-100" most:"200" because:"no path loses more and is heard"`
	Spread   float64 `json:"spread" unit:"dB" label:"Scatter about that, one sigma" least:"0" most:"100" because:"no path scatters more"`
	Slope    float64 `json:"slope" unit:"dB" label:"Lost for each ten times as far, beyond free space" least:"-200" most:"200" because:"no path loses more and is heard"`
}

// StickAxis is what guided capture found for one stick function.
type StickAxis struct {
	Channel  int     `json:"channel" unit:"count" label:"Arrives on channel" least:"0" most:"18" because:"a link carries 18 channels at most"`
	Ends     Ends    `json:"ends"`
	Reversed bool    `json:"reversed" label:"Runs backwards" optional:"yes"`
	Jitter   float64 `json:"jitter" unit:"µs" label:"Jitter, one sigma" optional:"yes" least:"0" most:"500" because:"more is no stick"`
	// Hysteresis is how far apart the centres are to which the stick returns from its two ends.
	Hysteresis float64 `json:"hysteresis" unit:"µs" label:"Centre after either end, apart by" optional:"yes" least:"0" most:"1000" because:"more is no stick"`
}

// SwitchSeen is what each position of a physical switch sends.
type SwitchSeen struct {
	Channel   int                `json:"channel" unit:"count" label:"Channel" least:"0" most:"18" because:"a link carries 18 channels at most"`
	Positions map[string]float64 `json:"positions" unit:"µs" label:"Sent in each position" least:"0" most:"3000" because:"pulses are between 800 and 2200 µs"`
}

type SticksReadings struct {
	Axes     map[string]*Reading[StickAxis]  `json:"axes,omitempty" keys:"axis" label:"* stick" how:"Move this stick from end to end, then let it rest." good:"Ends at 1000 and 2000 µs, the centre at 1500, both sides alike."`
	Switches map[string]*Reading[SwitchSeen] `json:"switches,omitempty" label:"Switch" how:"Put the switch through its positions in their order, beginning at the first." good:"One steady figure in each position, 50 µs and more from every edge."`
}

// MotorSeen is which corner moved when one output ran, and which way it turned.
type MotorSeen struct {
	Corner Corner `json:"corner" label:"Corner that moved"`
	Spin   Spin   `json:"spin" label:"Direction, from above"`
	// Reversible says that it was seen with reversible thrust on: what was seen without proves nothing about it.
	Reversible bool `json:"reversible,omitempty" label:"Seen with reversible thrust" optional:"yes"`
}

// MotorStart is where one motor starts as its throttle is raised slowly, and where it stops as it is lowered.
type MotorStart struct {
	Starts float64 `json:"starts" unit:"%" label:"Starts at" least:"0" most:"100" because:"a share of full"`
	Stops  float64 `json:"stops" unit:"%" label:"Stops at" least:"0" most:"100" because:"a share of full"`
	// The same turning backward, where thrust is reversible; 0 was not seen.
	BackStarts float64 `json:"backStarts,omitempty" unit:"%" label:"Starts backward at" optional:"yes" least:"0" most:"100" because:"a share of full"`
	BackStops  float64 `json:"backStops,omitempty" unit:"%" label:"Stops backward at" optional:"yes" least:"0" most:"100" because:"a share of full"`
}

// Words of it.
func (m MotorStart) Words() string {
	s := "starts at " + Quantity(m.Starts, "%") + ", stops at " + Quantity(m.Stops, "%")
	if m.BackStarts > 0 {
		s += "; backward at " + Quantity(m.BackStarts, "%") + " and " + Quantity(m.BackStops, "%")
	}
	return s
}

// Least throttle at which it both starts and keeps turning.
func (m MotorStart) Least() float64 { return max(m.Starts, m.Stops, m.BackStarts, m.BackStops) }

// LoopLoad is how busy a board's processor is at a loop rate.
type LoopLoad struct {
	Load float64 `json:"load" unit:"%" label:"Load" least:"0" most:"100" because:"a share of full"`
	Loop float64 `json:"loop" unit:"Hz" label:"At a loop of" least:"100" most:"32000" because:"no board here loops faster"`
}

// Words of it.
func (l LoopLoad) Words() string {
	return Quantity(l.Load, "%") + " at " + Quantity(l.Loop, "Hz")
}

type MotorsReadings struct {
	Outputs   map[string]*Reading[MotorSeen]  `json:"outputs,omitempty" label:"Motor on output *" how:"Props off. Hold to spin, watch which corner moves; a strip of paper shows the direction." good:"The corner and the direction that your settings have for it."`
	StartsAt  *Reading[float64]               `json:"startsAt,omitempty" unit:"%" label:"Lowest throttle at which all four start and keep turning" how:"Props off. Raise one output slowly until it turns, then lower it until it stops; the worst of four counts." good:"A little below your idle throttle." least:"0" most:"100" because:"a share of full"`
	Starts    map[string]*Reading[MotorStart] `json:"starts,omitempty" label:"Start and run-down of" how:"Props off. Raise it slowly until it turns, then lower it as slowly until it stops." good:"All four within one per cent of each other, below your idle throttle."`
	Hot       *Reading[HotMotor]              `json:"hot,omitempty" label:"Motor hotter than the others after a minute" how:"Props off. A minute at idle, pack out, then touch each motor with the back of a finger." good:"None: all four as warm as your hand at most."`
	Load      *Reading[LoopLoad]              `json:"load,omitempty" label:"Processor load" how:"Armed at idle, props off, everything that flies switched on: the board shows its load." good:"Under 70 %."`
	Trial     *Reading[SwitchingTrial]        `json:"trial,omitempty" label:"Switching frequency tried" how:"Fly the same hard throttle cut twice, recorded: before, and with the frequency tried. From each trace the rotation that nobody asked for in the second after the cut, one sigma; 0 is not flown yet." good:"Less shaking with the one tried; else put the old one back."`
	Layout    *Reading[Layout]                `json:"layout,omitempty" label:"How its arms stand" how:"From above, the nose away from you: an X, an X wider than it is long, or a plus with one arm ahead." good:"As your settings have it."`
	RestStill *Reading[bool]                  `json:"restStill,omitempty" label:"Nothing spins at rest" how:"Pack on, disarmed, props off: all four motors stand still." good:"Four motors that do not even twitch."`
}

type SensesReadings struct {
	Level     *Reading[Level]    `json:"level,omitempty" label:"Roll and pitch shown on the level plate" how:"Motor plane parallel to a plate made level both ways: the roll and the pitch that the board shows." good:"Within half a degree of 0 and 0."`
	BoardLies *Reading[Mount]    `json:"boardLies,omitempty" label:"How the board lies on the frame" how:"Three moves by hand, about thirty degrees each and back: nose down, right side down, turned to the right. Which way the board says that it turned tells how it lies. By eye: where its arrow points, and which face is up." good:"As your settings have it, to a few degrees."`
	Faces     *Reading[FacesRun] `json:"faces,omitempty" label:"Accelerometer on its six faces" how:"Laid on its feet, its back, its nose, its tail and both sides, two seconds each, in any order." good:"Off by less than 0.3 m/s² on every axis, the axes alike to 3 %."`
	GyroStill *Reading[float64]  `json:"gyroStill,omitempty" unit:"deg/s" label:"Rotation shown at rest" how:"Leave it untouched for ten seconds after power-up; the largest axis counts." good:"Under 1 °/s, on every axis." least:"0" most:"2000" because:"no gyro measures more than 2000 °/s"`
	// What a hold or a return leans on.
	Compass      *Reading[CompassRun]  `json:"compass,omitempty" label:"Compass turned every way" how:"Outdoors, ten metres from cars and fences, nothing magnetic on you: turn the quad slowly through every direction for a minute, nose, tail, sides, belly and back to the north and to the south." good:"A field of 22 to 67 µT, the samples within 4 % of it, four fifths of all directions seen."`
	Heading      *Reading[HeadingSeen] `json:"heading,omitempty" label:"Heading against a known direction" how:"Outdoors, pack on, motors off: point the nose at something whose direction you know from a map, level, and read the heading that the board shows." good:"Within 5° of it."`
	HeadingAside *Reading[HeadingSeen] `json:"headingAside,omitempty" label:"Heading against a second direction, across the first" how:"Turn the nose to something about a right angle aside, and read the heading again: a compass that lies on its back is right one way and wrong across it." good:"Off by as much as at the first, to 5°."`
	Interference *Reading[Disturbance] `json:"interference,omitempty" label:"Compass moved by the motors' current in hover" how:"Strapped down outdoors, nose still, or in a hover that was recorded: how far what the compass shows moves from rest to the current of a hover." good:"Under 8 % of the field along the ground: under 5° of heading."`
	Satellites   *Reading[Sky]         `json:"satellites,omitempty" label:"Satellites at the site" how:"Pack on, open sky: wait until the count stays for a minute, then note it and the horizontal dilution." good:"Eight or more, and a dilution that the clear radius allows."`
	HomeKnown    *Reading[bool]        `json:"homeKnown,omitempty" label:"It knows home before it takes off" how:"Armed at the place where it is to come back to, look at what the board says of home: its distance is 0 to 3 m, its arrow swings as you turn." good:"Yes, each time, before the throttle is opened."`
	VideoTrial   *Reading[VideoTrial]  `json:"videoTrial,omitempty" label:"Satellites with and without the video" how:"On one spot, equal waits: count with the video off, on, off, on. What climbs by itself falls out of it." good:"No fewer with it than without."`
	Heights      *Reading[HeightRest]  `json:"heights,omitempty" label:"Height shown at rest" how:"Five minutes untouched, out of sun and wind, then spun up: how much the height shown trembles, drifts and jumps." good:"Trembles by less than 0.3 m, drifts less than 2 m, jumps less than 1 m."`
}

// FacesRun is what an accelerometer that was laid on its six faces came to: the worst of its axes.
type FacesRun struct {
	Offset float64 `json:"offset" unit:"m/s²" label:"Off by" least:"0" most:"100" because:"no sensor that works is off by more"`
	Scale  float64 `json:"scale" unit:"%" label:"Shows too much or too little by" least:"0" most:"100" because:"a share of what is there"`
	Cross  float64 `json:"cross" unit:"%" label:"Share of another axis" least:"0" most:"100" because:"a share of what is there"`
	Left   float64 `json:"left,omitempty" unit:"m/s²" label:"What the fit leaves open" optional:"yes" least:"0" most:"100" because:"no sensor that works is off by more"`
}

// Words of it.
func (f FacesRun) Words() string {
	return "off by " + Quantity(f.Offset, "m/s²") + " and " + Quantity(f.Scale, "%") + ", " + Quantity(f.Cross, "%") + " across"
}

// Level is what a board shows while the frame stands on a plate that is level both ways.
type Level struct {
	Roll  float64 `json:"roll" unit:"deg" label:"Roll, right side down is positive" least:"-180" most:"180" because:"half a turn either way"`
	Pitch float64 `json:"pitch" unit:"deg" label:"Pitch, nose up is positive" least:"-180" most:"180" because:"half a turn either way"`
}

// Words for it.
func (l Level) Words() string {
	return "roll " + Quantity(l.Roll, "deg") + ", pitch " + Quantity(l.Pitch, "deg")
}

type WatchReadings struct {
	BoardVolts *Reading[float64] `json:"boardVolts,omitempty" unit:"V" label:"Pack voltage the board shows" how:"Pack on, nothing running." good:"The meter's figure, to two per cent." least:"0" most:"60" because:"twelve full cells have 52 V"`
	MeterVolts *Reading[float64] `json:"meterVolts,omitempty" unit:"V" label:"Pack voltage by meter" how:"Meter at the balance lead." good:"About 3.8 to 4.2 V for each cell, all cells alike." least:"0" most:"60" because:"twelve full cells have 52 V"`
	Heard      *Reading[bool]    `json:"heard,omitempty" label:"The alarm was heard" how:"Raise the threshold above the present voltage, hear it, put it back." good:"Heard or seen from where you will stand, within seconds."`
	// Route by which it came; Discovered is asked for where it is the radio that speaks.
	Route      *Reading[AlarmRoute] `json:"route,omitempty" label:"By what the alarm came" how:"Say which of them you heard or saw: the radio, the display in the goggles, or the sounder on board." good:"One of the three is enough; two are better."`
	Discovered *Reading[bool]       `json:"discovered,omitempty" label:"The radio lists the pack's voltage among its sensors" how:"In the radio's telemetry page, pack in: have it discover its sensors, and look for the pack's voltage." good:"There, and it moves as you plug the pack in and out."`
	// What follows needs a flight, or motors under load.
	Current *Reading[CurrentSeen] `json:"current,omitempty" label:"Current at rest and under load" how:"A meter in the lead or a charger's figure: at rest, disarmed; then under load, with the output at which it was read." good:"At rest about what its devices draw; under load what the rehearsal says for that output."`
	Heat    *Reading[MotorHeat]   `json:"heat,omitempty" label:"How warm the motors are after a flight" how:"Within a minute of landing, by a thermometer or the back of a finger on each motor bell, and the air beside it." good:"All four alike, and none too hot to touch."`
}

// CurrentSeen is what a quad was seen to draw, at rest and at one output of its motors.
type CurrentSeen struct {
	Idle   float64 `json:"idle" unit:"A" label:"At rest, disarmed" least:"0" most:"50" because:"at 50 A at rest something burns"`
	Output float64 `json:"output" unit:"%" label:"Output when it was read" least:"1" most:"100" because:"a share of full"`
	Amps   float64 `json:"amps" unit:"A" label:"Under load" least:"0" most:"500" because:"no pack that flies gives 500 A"`
}

// Words of it.
func (c CurrentSeen) Words() string {
	return Quantity(c.Idle, "A") + " at rest, " + Quantity(c.Amps, "A") + " at " + Quantity(c.Output, "%")
}

// MotorHeat is how warm the motors are after a flight, by corner.
type MotorHeat struct {
	FrontLeft  float64 `json:"frontLeft" unit:"°C" label:"Front left" least:"-20" most:"250" because:"a winding is gone long before 250 °C"`
	FrontRight float64 `json:"frontRight" unit:"°C" label:"Front right" least:"-20" most:"250" because:"a winding is gone long before 250 °C"`
	RearLeft   float64 `json:"rearLeft" unit:"°C" label:"Rear left" least:"-20" most:"250" because:"a winding is gone long before 250 °C"`
	RearRight  float64 `json:"rearRight" unit:"°C" label:"Rear right" least:"-20" most:"250" because:"a winding is gone long before 250 °C"`
	Air        float64 `json:"air" unit:"°C" label:"Air" least:"-30" most:"55" because:"nobody flies in that"`
}

// At a corner, °C.
func (h MotorHeat) At(c Corner) float64 {
	return map[Corner]float64{FrontLeft: h.FrontLeft, FrontRight: h.FrontRight, RearLeft: h.RearLeft, RearRight: h.RearRight}[c]
}

// Words of it.
func (h MotorHeat) Words() string {
	return "front " + Number(h.FrontLeft) + " and " + Quantity(h.FrontRight, "°C") + ", rear " + Number(h.RearLeft) + " and " + Quantity(h.RearRight, "°C") + " in air of " + Quantity(h.Air, "°C")
}

type LossReadings struct {
	Output   *Reading[LossOutput]   `json:"output,omitempty" label:"What the receiver puts out without a radio" how:"Props off. Radio off, watch the channels: gone, frozen, or jumped to a preset." good:"Gone: a receiver that falls silent hides nothing."`
	Response *Reading[LossResponse] `json:"response,omitempty" label:"What the motors do when the radio is off" how:"Props off, Finger on Cut power, armed at idle: radio off. Time it until the last motor stops; where it is to land, all four go to the landing throttle instead." good:"As your failsafe says, each time you try it."`
	Rearms   *Reading[bool]         `json:"rearms,omitempty" label:"It arms by itself when the radio comes back" how:"Radio on again with the arm switch still on: watch whether anything turns." good:"No: nothing turns until the switch was off once."`
	Beeper   *Reading[bool]         `json:"beeper,omitempty" label:"The beeper is heard" how:"Pack on, props off: its switch to the beeper, and back. Go as far away as the grass is high that it may fall into." good:"Heard from ten paces, and silent again."`
	Obstacle *Reading[float64]      `json:"obstacle,omitempty" unit:"m" label:"Highest thing between it and home" how:"Look over the ground that you mean to fly over, and what stands between: trees, masts, roofs. Tell the highest, above where it takes off; 0 where nothing does." good:"Ten metres and more below the height of the way home." least:"0" most:"1000" because:"nothing higher stands near a quad"`
	Line     *Reading[LineFlown]    `json:"line,omitempty" label:"Today's line" how:"Draw the place and the line that you mean to fly, and have the radio lost along it a thousand times." good:"Wherever the radio goes, it comes down away from people, water and what stands there."`
}

// LineFlown is what came of losing the radio along a line again and again, with the policy that is set.
type LineFlown struct {
	Site     string  `json:"site" label:"Site"`
	Line     string  `json:"line" label:"Line"`
	From     float64 `json:"from" unit:"deg" label:"The wind comes from" least:"0" most:"360" because:"once around"`
	Wind     float64 `json:"wind" unit:"m/s" label:"Wind" least:"0" most:"60" because:"60 m/s is a hurricane"`
	Policy   Policy  `json:"policy" label:"Policy on radio loss"`
	Losses   int     `json:"losses" unit:"count" label:"Losses flown" least:"1" most:"1000" because:"more are never flown"`
	People   float64 `json:"people" unit:"%" label:"Come down among people" least:"0" most:"100" because:"a share of all"`
	Lost     float64 `json:"lost" unit:"%" label:"Strike something, end in water or on a roof, or stay up" least:"0" most:"100" because:"a share of all"`
	Harmless float64 `json:"harmless" unit:"%" label:"Come down harmlessly" least:"0" most:"100" because:"a share of all"`
	Drifts   float64 `json:"drifts" unit:"m" label:"95 % come down within, of where the radio went" least:"0" most:"100000" because:"it cannot get further on one pack"`
	Energy   float64 `json:"energy" unit:"J" label:"At the ground, the median" least:"0" most:"1000000" because:"no quad has more"`
	Advised  Policy  `json:"advised" label:"Advised"`
	// Why the pilot flies it with another policy than is advised.
	Why string `json:"why,omitempty" label:"Why another than advised" optional:"yes"`
}

// Words of it.
func (l LineFlown) Words() string {
	return l.Line + " at " + l.Site + ": of " + Count(l.Losses, "loss", "losses") + " " + Quantity(l.Harmless, "%") + " end harmlessly, " + Quantity(l.People, "%") + " among people"
}

// CompassRun is what a fit of a compass that was turned every way came to.
type CompassRun struct {
	Field    float64 `json:"field" unit:"µT" label:"Field" least:"0" most:"1000" because:"only a magnet has more"`
	Residual float64 `json:"residual" unit:"µT" label:"Samples off it by, one sigma" least:"0" most:"1000" because:"only a magnet has more"`
	Covered  float64 `json:"covered" unit:"%" label:"Of all directions seen" least:"0" most:"100" because:"a share of all"`
}

// Words for it.
func (c CompassRun) Words() string {
	return Quantity(c.Field, "µT") + " to " + Quantity(c.Residual, "µT") + ", " + Quantity(c.Covered, "%") + " of all directions"
}

// HeadingSeen is what a board showed with its nose pointed in a known direction.
type HeadingSeen struct {
	Shown float64 `json:"shown" unit:"deg" label:"Heading shown" least:"0" most:"360" because:"one turn"`
	Known float64 `json:"known" unit:"deg" label:"Direction that it pointed in" least:"0" most:"360" because:"one turn"`
	// Needle says that the direction is by a compass needle, which points to magnetic north; Declination is then that of the place, east positive.
	Needle      bool    `json:"needle,omitempty" label:"By a compass needle, not a map" optional:"yes"`
	Declination float64 `json:"declination,omitempty" unit:"deg" label:"Declination there, east positive" optional:"yes" least:"-180" most:"180" because:"half a turn either way"`
	// Turned and Added are what the board was told of its compass then.
	Turned float64 `json:"turned,omitempty" unit:"deg" label:"The compass was told as turned by" optional:"yes" least:"-360" most:"360" because:"one turn"`
	Added  float64 `json:"added,omitempty" unit:"deg" label:"The board then added a declination of" optional:"yes" least:"-180" most:"180" because:"half a turn either way"`
}

// Words for it.
func (h HeadingSeen) Words() string {
	return Quantity(h.Shown, "deg") + " shown for " + Quantity(h.Known, "deg")
}

// Off is how far clockwise of where its nose points a board takes itself to point (-180 to 180), once it is told what some settings tell it of its
// compass.
func (h HeadingSeen) Off(s SensesSheet) float64 {
	known := h.Known
	if h.Needle {
		known += h.Declination
	}
	return math.Remainder(h.Shown-known-(s.CompassTurned-h.Turned)+(s.Declination-h.Added), 360)
}

// Disturbance of a compass by a current.
type Disturbance struct {
	AtHover float64 `json:"atHover" unit:"µT" label:"In hover" least:"0" most:"1000" because:"only a magnet moves it more"`
	Within  float64 `json:"within,omitempty" unit:"µT" label:"To within, 95 %" optional:"yes" least:"0" most:"1000" because:"only a magnet moves it more"`
}

// Words for it.
func (d Disturbance) Words() string {
	w := Quantity(d.AtHover, "µT")
	if d.Within > 0 {
		w += ", to " + Quantity(d.Within, "µT")
	}
	return w
}

// Sky is what a satellite receiver showed once its count had settled.
type Sky struct {
	Satellites int     `json:"satellites" unit:"count" label:"Satellites" least:"0" most:"80" because:"no sky has more than eighty"`
	Dilution   float64 `json:"dilution" unit:"1" label:"Horizontal dilution" least:"0" most:"100" because:"a hundred is no position"`
	After      float64 `json:"after,omitempty" unit:"s" label:"First position after" optional:"yes" least:"0" most:"3600" because:"after an hour it has none"`
}

// Words for it.
func (s Sky) Words() string {
	return Count(s.Satellites, "satellite", "satellites") + ", dilution " + Number(s.Dilution)
}

// VideoTrial of satellites by turns.
type VideoTrial struct {
	Pairs int     `json:"pairs" unit:"count" label:"Pairs" least:"0" most:"100" because:"a hundred pairs take hours"`
	Lost  float64 `json:"lost" unit:"count" label:"Lost to the video" least:"-80" most:"80" because:"no sky has more than eighty"`
	Least float64 `json:"least" unit:"count" label:"At least" least:"-1000" most:"1000" because:"no sky has as many"`
	Most  float64 `json:"most" unit:"count" label:"At most" least:"-1000" most:"1000" because:"no sky has as many"`
}

// Words for it.
func (v VideoTrial) Words() string {
	return Number(v.Lost) + " lost to the video, " + Number(v.Least) + " to " + Number(v.Most)
}

// HeightRest is what a height did that should have stayed.
type HeightRest struct {
	Noise float64 `json:"noise" unit:"m" label:"Trembles by, one sigma" least:"0" most:"100" because:"more is no height"`
	Drift float64 `json:"drift" unit:"m" label:"Drifts in five minutes" least:"-1000" most:"1000" because:"more is no height"`
	Jump  float64 `json:"jump,omitempty" unit:"m" label:"Jumps at spin-up" optional:"yes" least:"-1000" most:"1000" because:"more is no height"`
}

// Words for it.
func (h HeightRest) Words() string {
	return "trembles " + Quantity(h.Noise, "m") + ", drifts " + Quantity(h.Drift, "m") + ", jumps " + Quantity(h.Jump, "m")
}

// LossResponse is what the motors did after the radio was gone.
type LossResponse struct {
	Motors MotorsStop `json:"motors" label:"The motors"`
	After  float64    `json:"after,omitempty" unit:"s" label:"Stopped after" optional:"yes" least:"0.01" most:"600" because:"after ten minutes nobody waits"`
}

// Words of it.
func (l LossResponse) Words() string {
	switch {
	case l.Motors == NeverStopped:
		return "never stopped"
	case l.Motors == WentOver:
		return "went to landing throttle"
	case l.Motors == Rose:
		return "rose, as to climb"
	case l.After > 0:
		return "stopped after " + Quantity(l.After, "s")
	}
	return "stopped"
}

// UnmarshalJSON reads it, and the bare seconds as which it was kept before: 0 stood for never.
func (l *LossResponse) UnmarshalJSON(raw []byte) error {
	var seconds float64
	if json.Unmarshal(raw, &seconds) == nil {
		*l = LossResponse{Motors: NeverStopped}
		if seconds > 0 {
			*l = LossResponse{Motors: StoppedAfter, After: seconds}
		}
		return nil
	}
	type plain LossResponse
	if err := ReadJSON(raw, (*plain)(l)); err != nil {
		return err
	}
	if l.Motors == StoppedAfter && l.After == 0 {
		return Faultf("missing", "after", "after how long they stopped is missing")
	}
	return nil
}

type PictureReadings struct {
	Seen      *Reading[bool]    `json:"seen,omitempty" label:"A clear picture in the goggles" how:"Pack on, antenna on, lowest power, at arm's length and at ten paces." good:"Sharp, without bars or snow, also when you cover the antenna with a hand."`
	Frequency *Reading[float64] `json:"frequency,omitempty" unit:"MHz" label:"Frequency set on the unit" how:"Read it from the unit, not from memory." good:"The one in your settings, and nobody else on it." least:"0" most:"7000" because:"video is sent between 900 and 6100 MHz"`
}

type BenchProofReadings struct {
	GateRefuses *Reading[bool] `json:"gateRefuses,omitempty" label:"Raised throttle refuses to arm" how:"Props off. Throttle up a quarter, arm switch on: nothing may turn." good:"Nothing turns, and the board says why."`
	FrameYaw    *Reading[bool] `json:"frameYaw,omitempty" label:"Turning the frame is answered against" how:"Armed at idle, props off: turn the frame clockwise by hand; the clockwise motors must speed up." good:"Two diagonal motors get louder as you turn, and calm down when you stop."`
	StickYaw    *Reading[bool] `json:"stickYaw,omitempty" label:"The yaw stick twists the frame its own way" how:"Armed at idle in your hand, props off: yaw right, and the frame twists clockwise." good:"A gentle twist the way of the stick, both ways alike."`
	RadioOff    *Reading[bool] `json:"radioOff,omitempty" label:"Radio off does what was set" how:"Armed at idle, props off: radio off. All four stop within the failsafe delay, or, where it is to land, go to the landing throttle." good:"Just what your failsafe says, every time."`
}

// Rehearsal is the summary of one modelled flight of the card.
type Rehearsal struct {
	Outcome    string  `json:"outcome" label:"Outcome"` // landed, tippedOver, flewAway, neverLifted
	Moment     float64 `json:"moment" unit:"s" label:"Moment" least:"0" most:"3600" because:"a rehearsal ends within the hour"`
	Sentence   string  `json:"sentence" label:"In words"`
	Deviation  float64 `json:"deviation" unit:"m" label:"Farthest from where it took off" least:"0" most:"100000" because:"it cannot get further on one pack"`
	HoverShare float64 `json:"hoverShare" unit:"%" label:"Throttle stick at hover" least:"0" most:"100" because:"a share of full"`
	// Steady is the largest share of its gains that leaves it a third in hand before it oscillates, with the pack of the most cells.
	Steady float64 `json:"steady,omitempty" unit:"%" label:"Gains that keep a third in hand" optional:"yes" least:"0" most:"100" because:"a share of those set"`
	// Cells of that pack.
	Cells int `json:"cells,omitempty" unit:"count" label:"Cells of the pack tested with" optional:"yes" least:"0" most:"14" because:"no pack has more"`
	// Tried is how many more flights were flown, by a beginner's hand with every pack in the wind of the day, and with failures in the air;
	// Ended how many of those without a failure ended badly, How the first of them; Farthest is how far any of them got.
	Tried    int     `json:"tried,omitempty" unit:"count" label:"Flights tried" optional:"yes" least:"0" most:"100000" because:"more are never flown"`
	Ended    int     `json:"ended,omitempty" unit:"count" label:"That ended badly" optional:"yes" least:"0" most:"100000" because:"more are never flown"`
	How      string  `json:"how,omitempty" label:"How the first of them ended" optional:"yes"`
	Farthest float64 `json:"farthest,omitempty" unit:"m" label:"Farthest of all" optional:"yes" least:"0" most:"100000" because:"it cannot get further on one pack"`
}

// Fitted is one propeller as it was fitted.
type Fitted struct {
	Hand Spin `json:"hand" label:"Made to turn, from above"`
	// PackOut says that the pack was out at that moment: by the bench, or by the pilot's word.
	PackOut bool `json:"packOut" label:"The pack was out"`
}

// Words of it.
func (f Fitted) Words() string {
	if !f.PackOut {
		return f.Hand.Words() + ", whether the pack was out is not told"
	}
	return f.Hand.Words() + ", pack out"
}

// UnmarshalJSON reads it, and the bare hand as which it was kept before.
func (f *Fitted) UnmarshalJSON(raw []byte) error {
	var hand Spin
	if json.Unmarshal(raw, &hand) == nil {
		*f = Fitted{Hand: hand}
		return nil
	}
	type plain Fitted
	return ReadJSON(raw, (*plain)(f))
}

type FirstFlightReadings struct {
	Propellers map[string]*Reading[Fitted] `json:"propellers,omitempty" keys:"corner" label:"Propeller" how:"Pack out. Fit it lettering up; which way must it turn so that the high edge leads?" good:"Lettering up, the high edge leading the way it must turn, nut tight."`
	Wind       *Reading[float64]           `json:"wind,omitempty" unit:"m/s" label:"Wind at the site" how:"At chest height, averaged over a minute." good:"Leaves move, branches do not." least:"0" most:"60" because:"60 m/s is a hurricane"`
	Gust       *Reading[float64]           `json:"gust,omitempty" unit:"m/s" label:"Strongest gust" how:"The highest figure within five minutes." good:"Not much over the mean: half as much again." least:"0" most:"80" because:"80 m/s is a hurricane"`
	Clear      *Reading[float64]           `json:"clear,omitempty" unit:"m" label:"Clear radius" how:"Pace the distance from take-off to the nearest person, animal or thing you would mind hitting." good:"More than the crash distance that is worked out here." least:"0" most:"10000" because:"no further than you can see it"`
	Rules      *Reading[bool]              `json:"rules,omitempty" label:"Local rules allow it" how:"Your own statement: registration, place and height are in order today." good:"You could show it to whoever asks."`
	Hover      *Reading[HoverSeen]         `json:"hover,omitempty" label:"Hover measured in flight" how:"In still air, half a minute steady: where the throttle stick stands, and what the display shows of the pack meanwhile." good:"Within a few percent of what the rehearsal says."`
	Home       *Reading[Place]             `json:"home,omitempty" label:"Where it takes off" private:"home" how:"Stand there and read it from a satellite receiver." good:"Five decimals, the same twice."`
	Rehearsal  *Reading[Rehearsal]         `json:"rehearsal,omitempty" label:"Rehearsal of the card" how:"Fly the card in the model with this quad as observed." good:"It lands where it took off, with every pack and either hand."`
}

// HoverSeen is a hover that was measured in flight.
type HoverSeen struct {
	Stick float64 `json:"stick" unit:"%" label:"Throttle stick" least:"1" most:"100" because:"a share of full"`
	Volts float64 `json:"volts" unit:"V" label:"Pack, under that load" least:"1" most:"60" because:"twelve full cells have 52 V"`
	Pack  string  `json:"pack" label:"Pack that was in"`
}

// Words of it.
func (h HoverSeen) Words() string {
	return Quantity(h.Stick, "%") + " of the stick at " + Quantity(h.Volts, "V") + " with " + h.Pack
}

// Place on the earth.
type Place struct {
	Latitude  float64 `json:"latitude" unit:"deg" label:"Latitude, north positive" least:"-90" most:"90" because:"pole to pole"`
	Longitude float64 `json:"longitude" unit:"deg" label:"Longitude, east positive" least:"-180" most:"180" because:"once around"`
}
