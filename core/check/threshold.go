package check

import (
	"slices"

	"vividperch/core/airframe"
	"vividperch/core/flight"
	"vividperch/core/link"
	"vividperch/core/quad"
	"vividperch/core/senses"
)

// Threshold is a limit of judgement that a pilot may move, for all quads or for one, with a reason. Its key is
// its name in quad.Thresholds.
type Threshold struct {
	Key     string
	Station Station
	Usual   float64
}

// Thresholds that may be moved, by station. What can injure is not among them.
var Thresholds = []Threshold{
	{"currentSpare", Airframe, airframe.Spare},
	{"tipSpeed", Airframe, airframe.TipMachFix},
	{"linkQuality", Link, link.QualityLeast},
	{"level", Senses, senses.LevelTolerance},
	{"wind", FirstFlight, flight.CalmEnough},
	{"drift", FirstFlight, flight.DriftMost},
}

// Limit that a threshold stands at for a quad, and, where it is not the usual one, whose it is and why, to be
// put behind a finding's figures. The quad's own goes before the pilot's.
func Limit(k quad.Known, key string) (value float64, says string) {
	if own := OwnAt(k.Limits.Thresholds, key); own.Set() {
		return own.Value, " This quad's own limit: " + own.Reason + "."
	}
	if own := OwnAt(k.Pilot.Thresholds, key); own.Set() {
		return own.Value, " Your own limit: " + own.Reason + "."
	}
	for _, t := range Thresholds {
		if t.Key == key {
			return t.Usual, ""
		}
	}
	panic("no threshold " + key)
}

// OwnAt is what a pilot or a quad has set for a threshold, by its key.
func OwnAt(t quad.Thresholds, key string) quad.Own {
	v, err := quad.Get(t, quad.Path(key))
	if err != nil {
		panic(err) // the keys are ours
	}
	return v.(quad.Own)
}

// judgedBy adds where a threshold is kept to what a rule reads.
func judgedBy(key string, paths ...quad.Path) []quad.Path {
	return append(slices.Clone(paths), "limits.thresholds."+quad.Path(key), "pilot.thresholds."+quad.Path(key))
}
