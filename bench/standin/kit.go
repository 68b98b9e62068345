// Package standin is a simulated bench: a controller board with bootloader and settings, receiver, radio,
// speed controllers with motors, pack and meter, video transmitter. It holds a quad's true Actual, with
// whatever faults its kit hides, and gives away only what an eye, an ear or a meter would get.
package standin

import (
	"maps"

	"vividperch/core/quad"
)

// Kit is how a simulated quad really is, faults included.
type Kit struct {
	Name     string                       `json:"name"`
	Target   string                       `json:"target"`
	Line     string                       `json:"line"`
	Version  string                       `json:"version"`
	Serial   string                       `json:"serial"`   // the board's own number
	Settings map[string]string            `json:"settings"` // differing from the line's defaults
	Wired    map[string]quad.OutputActual `json:"wired"`    // as soldered, before any reversal
	StartsAt map[string]float64           `json:"startsAt"` // throttle at which each motor starts, per cent
	// BackStartsAt is the same turning backward, where it is another.
	BackStartsAt map[string]float64 `json:"backStartsAt"`
	// StopsAt is where each stops as its throttle is lowered, %; a little below its start where it is not told.
	StopsAt map[string]float64 `json:"stopsAt"`
	Built   quad.Layout        `json:"built"` // how its arms stand, an X where it is not told
	Mount   quad.Mount         `json:"mount"` // how the board lies on the frame
	Gyro    float64            `json:"gyro"`  // rotation shown at rest, deg/s
	Radio   struct {
		Order    string                `json:"order"`
		Travel   float64               `json:"travel"` // per cent
		Centre   map[quad.Axis]float64 `json:"centre"` // µs at rest where not 1500
		Short    []quad.Axis           `json:"short"`  // axes that Travel is about; the others reach their ends
		Jitter   float64               `json:"jitter"` // µs, one sigma
		Slack    float64               `json:"slack"`  // µs between the centres it returns to from its two ends
		Switches []KitSwitch           `json:"switches"`
	} `json:"radio"`
	Receiver struct {
		OnLoss   quad.LossOutput `json:"onLoss"`
		Port     string          `json:"port"`
		Inverted bool            `json:"inverted"`
		// Language it speaks, and its speed in kBd where that is not the usual one; where it is not told, it speaks whatever the board wants.
		Language quad.Language `json:"language"`
		Speed    float64       `json:"speed"`
	} `json:"receiver"`
	Link   KitLink   `json:"link"`
	Senses KitSenses `json:"senses"`
	Accel  KitAccel  `json:"accel"`
	Bench  KitBench  `json:"bench"` // that the plate stands on
	// Wires as they are really soldered, by device; the receiver's is on its port when it is not among them.
	Wires map[string]quad.Wire `json:"wires"`
	Meter struct {
		Frame float64 `json:"frame"` // kΩ
		Idle  float64 `json:"idle"`
		Volts float64 `json:"volts"`
	} `json:"meter"`
	// Supply is what is wrong between plug and devices.
	Supply KitSupply `json:"supply"`
	// VoltScale is the share of the line's usual scale with which the board shows the true voltage.
	VoltScale float64 `json:"voltScale"`
	// LoopLoad is what each 1 kHz of the control loop takes of the board's processor, %; 0 is the usual.
	LoopLoad float64 `json:"loopLoad"`
	// SpeedControllers by output, as their firmware is; none cannot be asked.
	SpeedControllers map[string]KitSpeed `json:"speedControllers"`
	// Fault that comes once, while something is flashed.
	Fault KitFault `json:"fault"`
	// Hinders are gates of arming that hold for a reason of their own, by name: calibration, fix, hold, expired, selfRight, overload.
	Hinders []string `json:"hinders"`
	Console struct {
		Late int64 `json:"late"` // ms that every answer over the USB cable takes to come
	} `json:"console"`
	Parts quad.Parts `json:"parts"`
	Cells int        `json:"cells"`
}

// KitLink is how the two ends of the control link really are; what is empty is as the parts and a sound bench have it.
type KitLink struct {
	Module         quad.LinkIdentity `json:"module"`
	Receiver       quad.LinkIdentity `json:"receiver"`
	Number         int               `json:"number"`
	Phrase         string            `json:"phrase"`         // of the radio
	ReceiverPhrase string            `json:"receiverPhrase"` // of the receiver, where it differs
	// Fault is the cause of why it will not bind, by its name in the questions of why; "drawn" has the seed draw one.
	Fault string `json:"fault"`
}

// KitSpeed is the firmware of one speed controller.
type KitSpeed struct {
	Layout    string  `json:"layout"`
	Line      string  `json:"line"`
	Version   string  `json:"version"`
	Switching float64 `json:"switching"` // kHz
	Replies   bool    `json:"replies"`
}

// KitFault is what goes wrong at one call of a bootloader.
type KitFault struct {
	Kind string `json:"kind"` // cable: pulled; power: all of it gone, a block half written; bit: one is written wrong
	At   int    `json:"at"`   // the how-manieth call, from 1
}

// KitSwitch is a physical switch.
type KitSwitch struct {
	Name      string             `json:"name"`
	Channel   int                `json:"channel"`
	Positions []string           `json:"positions"`
	Pulses    map[string]float64 `json:"pulses"`
	Rest      string             `json:"rest"`
}

// ReadKit from YAML.
func ReadKit(raw []byte) (Kit, error) {
	var k Kit
	if err := quad.ReadYAML(raw, &k); err != nil {
		return Kit{}, err
	}
	if k.VoltScale == 0 {
		k.VoltScale = 1
	}
	if k.Built == "" {
		k.Built = quad.LayoutX
	}
	if len(k.Wired) != 4 {
		return Kit{}, quad.Faultf("kit", "wired", "a kit has four outputs, not %d", len(k.Wired))
	}
	return k, nil
}

func (k Kit) clone() Kit {
	k.Settings = maps.Clone(k.Settings)
	return k
}

// usualLoopLoad leaves a loop of 4 kHz well under seven tenths, and one of 8 kHz above.
const usualLoopLoad = 8.5

func (k *Kit) loopLoad() float64 {
	if k.LoopLoad > 0 {
		return k.LoopLoad
	}
	return usualLoopLoad
}
