package feel

import (
	"math"

	"vividperch/core/quad"
)

// Of a recording: how often the least is that shows what it is for, and how much one record takes.
const (
	GainsRate   = 500.0  // Hz, ten points to a rise of a fiftieth of a second
	FiltersRate = 1000.0 // Hz
	FlightsRate = 50.0   // Hz
	recordBytes = 28.0   // motors, sticks, gyro, voltage, packed
	rawBytes    = 6.0    // more, for the unfiltered gyro
)

// RecordRate of a recording, Hz, with a loop in Hz; 0 where nobody told how many rounds make one record.
func RecordRate(r quad.Recording, loop float64) float64 {
	if r.Share <= 0 || loop <= 0 {
		return 0
	}
	return loop / float64(r.Share)
}

// NeedsRate is the least rate (Hz) that shows what a recording is for. What shakes must be caught at more than twice its frequency: fastest is the rotation at full throttle, Hz.
func NeedsRate(p quad.RecordPurpose, fastest float64) float64 {
	switch p {
	case quad.RecordsGains:
		return GainsRate
	case quad.RecordsFilters:
		return math.Max(FiltersRate, 2.5*fastest)
	case quad.RecordsFlights:
		return FlightsRate
	}
	return 0
}

// RecordMinutes that fit into so many MB; 0 where that or the rate is not known.
func RecordMinutes(r quad.Recording, loop, megabytes float64) float64 {
	bytes := recordBytes
	if r.Raw == quad.On {
		bytes += rawBytes
	}
	rate := RecordRate(r, loop)
	if rate == 0 {
		return 0
	}
	return megabytes * 1e6 / (bytes * rate) / 60
}
