// Package power knows what a pack, its rails and its alarms should show.
package power

import "vividperch/core/quad"

// Least and greatest sensible thresholds per cell under load, V.
const (
	WarnLow, WarnHigh = 3.3, 3.8
	LandLow           = 3.1
)

// IdleCurrent is what the whole quad should draw at rest, disarmed, in A: each device's draw from the pack
// as its data has it.
func IdleCurrent(p quad.Parts) float64 {
	ma := p.Board.IdleDraw + p.SpeedController.IdleDraw + p.Receiver.IdleDraw
	if p.Video.Fitted {
		ma += p.Video.IdleDraw
	}
	return ma / 1000
}

// Shares by which a measured idle current may exceed the expected one.
const (
	IdleFix  = 1.3
	IdleStop = 2.0
)

// Short is the resistance after ten seconds under which a power lead is shorted, Ω: a capacitor climbs past
// it.
const Short = 100.0

// Shorted judges an ohmmeter on a power lead with a capacitor: low after ten seconds and not rising.
func Shorted(r quad.Resistance) bool { return r.After < Short && r.After <= r.AtOnce*1.2+1 }

// FrameShort is the resistance between lead and frame under which carbon conducts to the pack, kΩ.
const FrameShort = 10.0

// VoltError is how far the board's voltage may be from the meter's, as a share.
const VoltError = 0.02
