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

// Recorded is what a recording comes to.
type Recorded struct {
	Rate    float64 `json:"rate" unit:"Hz"`     // 0 is not known
	Needs   float64 `json:"needs" unit:"Hz"`    // for its purpose
	Minutes float64 `json:"minutes" unit:"min"` // that fit; 0 is not known
	Slow    bool    `json:"slow"`               // it shows what is fast as something slow
	Short   bool    `json:"short"`              // it ends before the flight
}

// RecordedOf a recording with a loop in Hz, into so many MB, of a quad whose rotors turn at most so many Hz and that hovers for so many minutes.
func RecordedOf(r quad.Recording, loop, megabytes, fastest, lasts float64) Recorded {
	out := Recorded{Rate: RecordRate(r, loop), Needs: NeedsRate(r.Purpose, fastest), Minutes: RecordMinutes(r, loop, megabytes)}
	out.Slow = out.Rate > 0 && out.Rate < out.Needs
	out.Short = out.Minutes > 0 && lasts > 0 && out.Minutes < lasts
	return out
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
