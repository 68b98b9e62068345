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
	Settings map[string]string            `json:"settings"` // differing from the line's defaults
	Wired    map[string]quad.OutputActual `json:"wired"`    // as soldered, before any reversal
	StartsAt map[string]float64           `json:"startsAt"` // throttle at which each motor starts, per cent
	Mount    struct {
		Roll  float64 `json:"roll"` // the board's own lean on the airframe, deg
		Pitch float64 `json:"pitch"`
		Yaw   float64 `json:"yaw"` // turned clockwise, deg
	} `json:"mount"`
	Gyro  float64 `json:"gyro"` // rotation shown at rest, deg/s
	Radio struct {
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
	} `json:"receiver"`
	Meter struct {
		LeadAtOnce float64 `json:"leadAtOnce"`
		LeadAfter  float64 `json:"leadAfter"`
		Frame      float64 `json:"frame"`
		Idle       float64 `json:"idle"`
		Volts      float64 `json:"volts"`
	} `json:"meter"`
	VoltScale float64    `json:"voltScale"` // what the board must hold to show the true voltage
	Parts     quad.Parts `json:"parts"`
	Cells     int        `json:"cells"`
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
	if len(k.Wired) != 4 {
		return Kit{}, quad.Faultf("kit", "wired", "a kit has four outputs, not %d", len(k.Wired))
	}
	return k, nil
}

func (k Kit) clone() Kit {
	k.Settings = maps.Clone(k.Settings)
	return k
}
