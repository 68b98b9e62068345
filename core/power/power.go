// Package power knows what a pack, its rails and its alarms should show.
package power

import "vividperch/core/quad"

// Least and greatest sensible thresholds per cell under load, V.
const (
	WarnLow, WarnHigh = 3.3, 3.8
	LandLow           = 3.1
)

// How long a full pack hovers until it is to land, s: under LastsStop the first card is not flown to its end, under LastsHome no way home is, and under LastsFix
// nothing is left for a second try.
const (
	LastsStop = 60.0
	LastsHome = 150.0
	LastsFix  = 180.0
)

// DelayMost is how long an alarm may wait for a sag to pass, s.
const DelayMost = 10.0

// CellLeast and CellMost are between what a cell at rest has, V: below it is empty and harmed, above no charger leaves it.
const (
	CellLeast = 3.3
	CellMost  = 4.4
)

// Shares by which a measured idle current may exceed the expected one.
const (
	IdleFix  = 1.3
	IdleStop = 2.0
)

// Burns is a current at rest that nothing on a quad takes and stays whole, A.
const Burns = 10.0

// Short is the resistance after ten seconds under which a power lead that did not climb is shorted, Ω.
const Short = 100.0

// climbShare of the climb that its capacitor makes by itself is the least that counts as one.
const climbShare = 0.02

// Climb of an ohmmeter on a capacitor of so many µF in the ten seconds between the two readings, Ω. The meter sends a steady current: the
// voltage, and with it the figure shown, grows by 1/C a second, until what is beside the capacitor takes all of it.
func Climb(capacitance float64) float64 { return 10 / (capacitance * 1e-6) }

// Shorted judges an ohmmeter on a power lead: low after ten seconds, and without the climb that its capacitor (µF; 0 is not known, and then any) makes.
// What is low and climbs all the same is a large capacitor that fills beside what draws a little.
func Shorted(r quad.Resistance, capacitance float64) bool {
	if r.After < Short {
		return capacitance <= 0 || r.After-r.AtOnce < climbShare*Climb(capacitance)
	}
	return false
}

// FrameShort is the resistance between lead and frame under which carbon conducts to the pack, kΩ.
const FrameShort = 10.0

// VoltError is how far the board's voltage may be from the meter's, as a share.
const VoltError = 0.02
