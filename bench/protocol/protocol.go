// Package protocol holds the messages between the product and a device on the bench: JSON-RPC 2.0, one JSON
// object to a line, over a loopback TCP socket. docs/bench-protocol.md tells how to write a device.
package protocol

import (
	"io"

	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// Version of the protocol.
const Version = 1

// MaxLine is the longest line either side accepts, bytes.
const MaxLine = 1 << 20

// LeaseMillis is how long after its last renewal a motion ends: the commanded output is zero from then on.
const LeaseMillis = 250

// Methods of a device.
const (
	MethodHello    = "hello"
	MethodLook     = "look"     // -> Live
	MethodSet      = "set"      // Things -> Live
	MethodStick    = "stick"    // Stick -> Live
	MethodSweep    = "sweep"    // Sweep -> Live: the hand moves a stick or switch through its travel
	MethodMotion   = "motion"   // Motion -> Live
	MethodRest     = "rest"     // ends every motion
	MethodCut      = "cut"      // pack out, now
	MethodAdjust   = "adjust"   // Adjust: at the radio and the receiver
	MethodRadio    = "radio"    // RadioSet -> Live: the radio's model and module
	MethodReceiver = "receiver" // ReceiverSet -> Live: hands at the receiver
	MethodLabels   = "labels"   // -> Labels
	MethodPrints   = "prints"   // -> Prints
	MethodLevel    = "level"    // the board takes its attitude for level
	MethodIdentify = "identify" // Which -> Identity
	MethodSettings = "settings" // -> Settings
	MethodWrite    = "write"    // Write
	MethodMeter    = "meter"    // Probe -> Figure
	MethodProbes   = "probes"   // Probes -> Live: the meter's probes are held somewhere, or taken away
	MethodDrain    = "drain"    // a resistor across the lead takes what is left in its capacitor
	MethodPlug     = "plug"     // Plug -> Live: a device is plugged in or out
	MethodBoot     = "boot"     // Which: into the bootloader
	MethodErase    = "erase"    // Erase
	MethodBlock    = "block"    // Block
	MethodVerify   = "verify"   // Which -> Sum
	MethodReboot   = "reboot"   // Which: out of the bootloader
	MethodSolder   = "solder"   // Solder -> Live: everything unplugged
	MethodSerial   = "serial"   // Serial -> Serial: text over the USB cable, and what came back since
	MethodPlace    = "place"    // Place: puts another quad on the bench; ends every other connection, and whoever asked closes his own
	MethodStep     = "step"     // Step: only with a stepped clock
	NotifyLive     = "live"     // device -> product: Live
)

// Hello opens every connection.
type Hello struct {
	Token    string `json:"token"`
	Protocol int    `json:"protocol"`
}

// Welcome answers it.
type Welcome struct {
	Device   string       `json:"device"`
	StandIn  bool         `json:"standIn"`
	Protocol int          `json:"protocol"`
	Outputs  []string     `json:"outputs"`
	Switches []SwitchInfo `json:"switches"`
	// Board that lies there, told by what an eye can read of it without power.
	Board quad.Mark `json:"board"`
	// Layout of its arms, seen from above.
	Layout quad.Layout `json:"layout"`
	// Quads that can lie on this bench; none where there is only one.
	Quads []string `json:"quads,omitempty"`
}

// PutOn puts a quad on the bench.
type PutOn struct {
	Quad string `json:"quad"`
}

// Solder a device to other pads: what is empty is the port's own pad for it.
type Solder struct {
	Device string `json:"device"`
	Port   string `json:"port"`
	Out    string `json:"out,omitempty"`
	In     string `json:"in,omitempty"`
	Rail   string `json:"rail,omitempty"`
}

// SwitchInfo is a physical switch of the radio.
type SwitchInfo struct {
	Name      string   `json:"name"`
	Positions []string `json:"positions"`
}

// CornerSeen is what an eye sees of one corner.
type CornerSeen struct {
	Turning bool      `json:"turning"`
	Spin    quad.Spin `json:"spin,omitempty"`
	// Pace is how fast it looks, 0 to 1.
	Pace float64 `json:"pace"`
}

// Live is what eye, ear, meter and the board itself give at one moment.
type Live struct {
	Sequence   uint64    `json:"sequence"`
	Mark       quad.Mark `json:"mark"` // the board's, as in the welcome; another one ends the connection
	Time       int64     `json:"time"` // device clock, ms
	Pack       bool      `json:"pack"`
	USB        bool      `json:"usb"`
	Propellers bool      `json:"propellers"`
	Antenna    bool      `json:"antenna"`
	Radio      bool      `json:"radio"`
	Volts      float64   `json:"volts" unit:"V"` // at the lead, by meter
	Amps       float64   `json:"amps" unit:"A"`
	Board      string    `json:"board"` // off, running, bootloader
	Armed      bool      `json:"armed"`
	Loss       bool      `json:"loss"`
	Channels   []float64 `json:"channels"`        // µs as the board hears them, empty without a link
	Roll       float64   `json:"roll" unit:"deg"` // as the board shows it
	Pitch      float64   `json:"pitch" unit:"deg"`
	Gyro       float64   `json:"gyro" unit:"deg/s"`
	// Turns is the rotation about what the board takes for ahead, right and down.
	Turns           [3]float64 `json:"turns" unit:"deg/s"`
	BoardVolts      float64    `json:"boardVolts" unit:"V"`
	Load            float64    `json:"load" unit:"%"` // of the board's processor
	Beeping         bool       `json:"beeping"`
	ReceiverAnswers bool       `json:"receiverAnswers"`
	// Answers says of each device that is wired to a port whether the board hears it now.
	Answers        map[string]bool            `json:"answers,omitempty"`
	VideoFrequency float64                    `json:"videoFrequency" unit:"MHz"`
	TiltRoll       float64                    `json:"tiltRoll" unit:"deg"` // as the hand holds it
	TiltPitch      float64                    `json:"tiltPitch" unit:"deg"`
	Sticks         map[quad.Axis]float64      `json:"sticks"` // -1..1, where the hand holds them
	Switches       map[string]string          `json:"switches"`
	Travel         float64                    `json:"travel" unit:"%"`
	OnLoss         quad.LossOutput            `json:"onLoss"`
	Corners        map[quad.Corner]CornerSeen `json:"corners"`
	Gates          []sticks.Gate              `json:"gates"`
	// Calibration of the gyro that arming by stick began: nothing, running, failed.
	Calibration string     `json:"calibration,omitempty"`
	Motion      MotionKind `json:"motion,omitempty" enum:"spin,arm,gesture"` // the leased motion that runs
	Output      string     `json:"output,omitempty"`                         // of a spin
	Level       float64    `json:"level" unit:"%"`                           // of the motion
	Link        LinkSeen   `json:"link"`
	// Holds counts the motions that have begun. A renewal that comes after its lease has run out begins another
	// one: whoever measures while something is held tells by it that the hold was broken in between.
	Holds uint64 `json:"holds"`
	// Twist is how the frame pulls in the hand that holds it, as motors without propellers speed up and slow down: clockwise
	// seen from above is positive, 1 is a firm pull.
	Twist float64 `json:"twist" unit:"1"`
	// What the board makes of the earth's field, the sky and the air's weight, as far as it uses them: the compass in its own axes, empty without one.
	Compass []float64 `json:"compass,omitempty" unit:"µT"`
	// Accel is what its accelerometer shows along what it takes for ahead, right and down; empty without one.
	Accel      []float64 `json:"accel,omitempty" unit:"g"`
	Heading    float64   `json:"heading" unit:"deg"`
	Satellites int       `json:"satellites"`
	Dilution   float64   `json:"dilution" unit:"1"`
	Height     float64   `json:"height" unit:"m"`
	// Home says, while it is armed, that it knew where it was as it was armed.
	Home bool `json:"home"`
	// Nose is where the hand points it, from true north, and Video says whether the transmitter is on.
	Nose  float64 `json:"nose" unit:"deg"`
	Video bool    `json:"video"`
	// Apart is how far the satellite receiver stands from the video transmitter.
	Apart float64 `json:"apart" unit:"mm"`
	// Limiter says that one is in the lead, and Limited that it holds the current back now; Smoke that something has burnt.
	Limiter bool `json:"limiter,omitempty"`
	Limited bool `json:"limited,omitempty"`
	Smoke   bool `json:"smoke,omitempty"`
	// Unplugged devices.
	Unplugged []string `json:"unplugged,omitempty"`
	// Meter shows something while its probes are held.
	Meter *MeterSeen `json:"meter,omitempty"`
}

// MeterSeen is an ohmmeter's display.
type MeterSeen struct {
	Where HeldAt  `json:"where" enum:",lead,frame,polarity"`
	Ohms  float64 `json:"ohms" unit:"Ω"`
	Since int64   `json:"since" unit:"ms"` // that its probes are held there
}

// HeldAt is where an ohmmeter's probes are held; empty is nowhere.
type HeldAt string

const (
	HeldLead     HeldAt = "lead"     // across the power lead
	HeldFrame    HeldAt = "frame"    // from the lead to bare carbon
	HeldPolarity HeldAt = "polarity" // from the plug's plus to the board's
)

// Probes of the ohmmeter. Fixed says that its range is set by hand.
type Probes struct {
	Where HeldAt `json:"where" enum:",lead,frame,polarity"`
	Fixed bool   `json:"fixed,omitempty"`
}

// Plug puts the plug of a device in, or pulls it.
type Plug struct {
	Device string `json:"device" maxLength:"60"`
	In     bool   `json:"in"`
}

// Serial is text over the board's USB cable, one way or the other.
type Serial struct {
	Text string `json:"text" maxLength:"65536"`
	// Gone says that the board ended the connection.
	Gone bool `json:"gone,omitempty"`
}

// LinkSeen is what eye and ear give of the control link, and what the radio's own screen shows.
type LinkSeen struct {
	Light     []int          `json:"light" unit:"ms"` // of the receiver, lit and dark in turn; a single one is steady, none is dark
	Button    bool           `json:"button"`          // of the receiver, held down
	Calling   bool           `json:"calling"`         // the radio binds
	Modules   quad.ModulesOn `json:"modules"`
	Number    int            `json:"number"`
	Channels  int            `json:"channels"`
	Telemetry bool           `json:"telemetry"`
	Rate      float64        `json:"rate" unit:"Hz"`
	Power     float64        `json:"power" unit:"mW"`
	Distance  float64        `json:"distance" unit:"m"` // of the radio from the quad
	Strength  float64        `json:"strength" unit:"dBm"`
	Quality   float64        `json:"quality" unit:"%"` // 0 without a link
}

// RadioSet changes what the radio's model and module are set to; what is nil stays as it is. Version is another firmware in the
// module that is on.
type RadioSet struct {
	Modules   *quad.ModulesOn `json:"modules,omitempty"`
	Number    *int            `json:"number,omitempty" minimum:"0" maximum:"63"`
	Channels  *int            `json:"channels,omitempty" minimum:"4" maximum:"18"`
	Telemetry *bool           `json:"telemetry,omitempty"`
	Phrase    *string         `json:"phrase,omitempty" maxLength:"200"`
	Rate      *float64        `json:"rate,omitempty" minimum:"1" maximum:"2000"`
	Power     *float64        `json:"power,omitempty" minimum:"1" maximum:"2000"`
	Distance  *float64        `json:"distance,omitempty" minimum:"0" maximum:"20000"`
	Call      *bool           `json:"call,omitempty"`
	Version   *string         `json:"version,omitempty" maxLength:"20"`
}

// Mend is what hands mend at a receiver.
type Mend string

const (
	MendSupply   Mend = "supply"
	MendAntenna  Mend = "antenna"
	MendButton   Mend = "button"
	MendReceiver Mend = "receiver" // another, as the parts say
)

// ReceiverSet is what hands do at the receiver. Repair mends its supply, its antenna or its button, or fits another receiver as
// the parts say.
type ReceiverSet struct {
	Button  *bool   `json:"button,omitempty"`
	Phrase  *string `json:"phrase,omitempty" maxLength:"200"`
	Version *string `json:"version,omitempty" maxLength:"20"`
	Repair  Mend    `json:"repair,omitempty" enum:",supply,antenna,button,receiver"`
}

// Labels are what the module's own page and the receiver's label say.
type Labels struct {
	Module   quad.LinkIdentity `json:"module"`
	Receiver quad.LinkIdentity `json:"receiver"`
}

// Prints are the fingerprints of the phrases that the two hold; an end that holds none has an empty one. The phrases
// themselves never leave the device.
type Prints struct {
	Module   quad.PhrasePrint `json:"module"`
	Receiver quad.PhrasePrint `json:"receiver"`
}

// Things of the bench; those that are nil stay as they are.
type Things struct {
	Pack       *bool    `json:"pack,omitempty"`
	USB        *bool    `json:"usb,omitempty"`
	Propellers *bool    `json:"propellers,omitempty"`
	Antenna    *bool    `json:"antenna,omitempty"`
	Radio      *bool    `json:"radio,omitempty"`
	Video      *bool    `json:"video,omitempty"`
	Limiter    *bool    `json:"limiter,omitempty"`                        // in the lead
	Nose       *float64 `json:"nose,omitempty" minimum:"0" maximum:"360"` // deg that it points from true north
	TiltRoll   *float64 `json:"tiltRoll,omitempty" minimum:"-180" maximum:"180"`
	TiltPitch  *float64 `json:"tiltPitch,omitempty" minimum:"-90" maximum:"90"`
	Shims      *Shims   `json:"shims,omitempty"`
	Apart      *float64 `json:"apart,omitempty" minimum:"10" maximum:"500"` // mm from the satellite receiver to the video transmitter
}

// Shims that the hand puts under the plate, for how the quad stands now: mm under its left side (below 0 its right) and under its front (below 0 its rear),
// and how far apart the sides are, mm.
type Shims struct {
	Roll   float64 `json:"roll" minimum:"-100" maximum:"100" unit:"mm"`
	Pitch  float64 `json:"pitch" minimum:"-100" maximum:"100" unit:"mm"`
	Across float64 `json:"across" minimum:"10" maximum:"2000" unit:"mm"`
	Along  float64 `json:"along" minimum:"10" maximum:"2000" unit:"mm"`
}

// Stick puts a stick or a switch somewhere.
type Stick struct {
	Axis     quad.Axis `json:"axis,omitempty"`
	Place    float64   `json:"place,omitempty" minimum:"-1" maximum:"1"`
	Switch   string    `json:"switch,omitempty"`
	Position string    `json:"position,omitempty"`
}

// Sweep asks the hand to move one stick to its high end, back to rest, to its low end and back to rest, or one
// switch through all its positions and back, to turn the frame clockwise and back, to put its nose or its right side down and back, to turn it through every direction, or to lay it on each of its six faces.
type Sweep struct {
	Axis   quad.Axis `json:"axis,omitempty"`
	Switch string    `json:"switch,omitempty"`
	Frame  bool      `json:"frame,omitempty"`
	Nose   bool      `json:"nose,omitempty"`
	Side   bool      `json:"side,omitempty"`
	Every  bool      `json:"every,omitempty"`
	Faces  bool      `json:"faces,omitempty"`
}

// MovesFrame says whether the hand moves the frame, and no stick or switch.
func (s Sweep) MovesFrame() bool { return s.Frame || s.Nose || s.Side || s.Every || s.Faces }

// MotionKind is what hands do for as long as they hold.
type MotionKind string

const (
	MotionSpin    MotionKind = "spin"    // one output, without arming
	MotionArm     MotionKind = "arm"     // by a switch, with the throttle where it is told
	MotionGesture MotionKind = "gesture" // throttle down and yaw to the right, until it is armed
)

// Motion is renewed while the pilot holds; see LeaseMillis.
type Motion struct {
	Kind     MotionKind `json:"kind" enum:"spin,arm,gesture"`
	Output   string     `json:"output,omitempty"`   // spin
	Level    float64    `json:"level"`              // spin: throttle in per cent, below 0 backward; arm: throttle stick above its rest in per cent
	Switch   string     `json:"switch,omitempty"`   // arm: which switch, and
	Position string     `json:"position,omitempty"` // where it is while held
}

// Adjust the radio or the receiver.
type Adjust struct {
	Travel *float64         `json:"travel,omitempty"` // per cent
	OnLoss *quad.LossOutput `json:"onLoss,omitempty"`
}

// Which device a call of the bootloader is about: the board, or the speed controller of an output.
type Which struct {
	Output string `json:"output,omitempty"`
}

// Identity of a board or of a speed controller. In its bootloader it knows only its target; that of a speed
// controller is its hardware layout.
type Identity struct {
	Bootloader bool   `json:"bootloader"`
	Target     string `json:"target"`
	Line       string `json:"line"`
	Version    string `json:"version"`
	// Serial is the board's own number; empty when it has none.
	Serial string `json:"serial,omitempty"`
	// Of a speed controller only.
	Switching float64 `json:"switching,omitempty" unit:"kHz"`
	Replies   bool    `json:"replies,omitempty"` // with its rotation
}

// Settings as the board lists them; those of the speed controllers only with the pack in.
type Settings struct {
	Settings map[string]string `json:"settings"`
}

// Write one setting.
type Write struct {
	Name  string `json:"name"`
	Value string `json:"value"`
}

// Probe of the meter: leadAtOnce, leadAfter, frame, polarity, current, volts.
type Probe struct {
	Where string `json:"where"`
}

// Figure the meter shows, in Ω, kΩ (frame), A or V.
type Figure struct {
	Value float64 `json:"value"`
}

// Erase the program area, and the settings too unless they are kept.
type Erase struct {
	Which
	Keep bool `json:"keep"`
}

// Block of an image, base64 in JSON.
type Block struct {
	Which
	Address uint32 `json:"address"`
	Data    []byte `json:"data"`
}

// Sum over what is written: number of bytes and their CRC-32 in ascending order.
type Sum struct {
	Bytes int    `json:"bytes"`
	CRC   uint32 `json:"crc"`
}

// Pass lets time go by.
type Pass struct {
	Millis int `json:"millis"`
}

// Error codes besides those of JSON-RPC.
const (
	CodeRefused = -32001 // the device will not do this now; the message says why
	CodeToken   = -32002
)

// LineLimit passes a stream through and fails when a line grows beyond MaxLine, so that a peer that never
// ends its line cannot fill the memory.
type LineLimit struct {
	io.ReadWriteCloser
	run int
}

func (l *LineLimit) Read(p []byte) (int, error) {
	n, err := l.ReadWriteCloser.Read(p)
	for _, b := range p[:n] {
		if l.run++; b == '\n' {
			l.run = 0
		}
		if l.run > MaxLine {
			return 0, quad.Faultf("line-too-long", "", "the device sends a line of over %d bytes", MaxLine)
		}
	}
	return n, err
}
