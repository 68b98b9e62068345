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
	MethodLevel    = "level"    // the board takes its attitude for level
	MethodIdentify = "identify" // -> Identity
	MethodSettings = "settings" // -> Settings
	MethodWrite    = "write"    // Write
	MethodMeter    = "meter"    // Probe -> Figure
	MethodBoot     = "boot"     // into the bootloader
	MethodErase    = "erase"    // Erase
	MethodBlock    = "block"    // Block
	MethodVerify   = "verify"   // -> Sum
	MethodReboot   = "reboot"   // out of the bootloader
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
	Sequence        uint64                     `json:"sequence"`
	Time            int64                      `json:"time"` // device clock, ms
	Pack            bool                       `json:"pack"`
	USB             bool                       `json:"usb"`
	Propellers      bool                       `json:"propellers"`
	Antenna         bool                       `json:"antenna"`
	Radio           bool                       `json:"radio"`
	Volts           float64                    `json:"volts" unit:"V"` // at the lead, by meter
	Amps            float64                    `json:"amps" unit:"A"`
	Board           string                     `json:"board"` // off, running, bootloader
	Armed           bool                       `json:"armed"`
	Loss            bool                       `json:"loss"`
	Channels        []float64                  `json:"channels"`        // µs as the board hears them, empty without a link
	Roll            float64                    `json:"roll" unit:"deg"` // as the board shows it
	Pitch           float64                    `json:"pitch" unit:"deg"`
	Gyro            float64                    `json:"gyro" unit:"deg/s"`
	BoardVolts      float64                    `json:"boardVolts" unit:"V"`
	Beeping         bool                       `json:"beeping"`
	ReceiverAnswers bool                       `json:"receiverAnswers"`
	VideoFrequency  float64                    `json:"videoFrequency" unit:"MHz"`
	TiltRoll        float64                    `json:"tiltRoll" unit:"deg"` // as the hand holds it
	TiltPitch       float64                    `json:"tiltPitch" unit:"deg"`
	Sticks          map[quad.Axis]float64      `json:"sticks"` // -1..1, where the hand holds them
	Switches        map[string]string          `json:"switches"`
	Travel          float64                    `json:"travel" unit:"%"`
	OnLoss          quad.LossOutput            `json:"onLoss"`
	Corners         map[quad.Corner]CornerSeen `json:"corners"`
	Gates           []sticks.Gate              `json:"gates"`
	Motion          string                     `json:"motion,omitempty"` // the leased motion that runs
	Output          string                     `json:"output,omitempty"` // of a spin
	Level           float64                    `json:"level" unit:"%"`   // of the motion
	// Holds counts the motions that have begun. A renewal that comes after its lease has run out begins another
	// one: whoever measures while something is held tells by it that the hold was broken in between.
	Holds uint64 `json:"holds"`
}

// Things of the bench; those that are nil stay as they are.
type Things struct {
	Pack       *bool    `json:"pack,omitempty"`
	USB        *bool    `json:"usb,omitempty"`
	Propellers *bool    `json:"propellers,omitempty"`
	Antenna    *bool    `json:"antenna,omitempty"`
	Radio      *bool    `json:"radio,omitempty"`
	TiltRoll   *float64 `json:"tiltRoll,omitempty" minimum:"-180" maximum:"180"`
	TiltPitch  *float64 `json:"tiltPitch,omitempty" minimum:"-90" maximum:"90"`
}

// Stick puts a stick or a switch somewhere.
type Stick struct {
	Axis     quad.Axis `json:"axis,omitempty"`
	Place    float64   `json:"place,omitempty" minimum:"-1" maximum:"1"`
	Switch   string    `json:"switch,omitempty"`
	Position string    `json:"position,omitempty"`
}

// Sweep asks the hand to move one stick to its high end, back to rest, to its low end and back to rest, or one
// switch through all its positions and back.
type Sweep struct {
	Axis   quad.Axis `json:"axis,omitempty"`
	Switch string    `json:"switch,omitempty"`
}

// Motion is renewed while the pilot holds; see LeaseMillis.
type Motion struct {
	Kind     string  `json:"kind"`               // spin, arm
	Output   string  `json:"output,omitempty"`   // spin
	Level    float64 `json:"level"`              // spin: throttle in per cent; arm: throttle stick in per cent
	Switch   string  `json:"switch,omitempty"`   // arm: which switch, and
	Position string  `json:"position,omitempty"` // where it is while held
}

// Adjust the radio or the receiver.
type Adjust struct {
	Travel *float64         `json:"travel,omitempty"` // per cent
	OnLoss *quad.LossOutput `json:"onLoss,omitempty"`
}

// Identity of a board. In its bootloader it knows only its target.
type Identity struct {
	Bootloader bool   `json:"bootloader"`
	Target     string `json:"target"`
	Line       string `json:"line"`
	Version    string `json:"version"`
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

// Probe of the meter: leadAtOnce, leadAfter, frame, current, volts.
type Probe struct {
	Where string `json:"where"`
}

// Figure the meter shows, in Ω, kΩ (frame), A or V.
type Figure struct {
	Value float64 `json:"value"`
}

// Erase the program area; settings stay.
type Erase struct {
	Keep bool `json:"keep"`
}

// Block of an image, base64 in JSON.
type Block struct {
	Address uint32 `json:"address"`
	Data    []byte `json:"data"`
}

// Sum over what is written: number of bytes and their CRC-32 in ascending order.
type Sum struct {
	Bytes int    `json:"bytes"`
	CRC   uint32 `json:"crc"`
}

// Step the clock.
type Step struct {
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
