// Package link knows whether a radio and a receiver can talk.
package link

import (
	"math"

	"github.com/Masterminds/semver/v3"

	"vividperch/core/quad"
)

// Major of a version such as "5.3.1"; ok is false when it cannot be read.
func Major(version string) (major uint64, ok bool) {
	v, err := semver.NewVersion(version)
	if err != nil {
		return 0, false
	}
	return v.Major(), true
}

// Agreement between a radio module and a receiver.
type Agreement struct {
	SameLink, SameBand, MajorsKnown, SameMajor bool
	Older                                      string // "receiver" or "radio module", the one to update
}

// Compare a radio module with a receiver.
func Compare(m quad.RadioModule, r quad.Receiver) Agreement {
	a := Agreement{SameLink: m.Link == r.Link, SameBand: m.Band == r.Band}
	mm, ok1 := Major(m.Version)
	rm, ok2 := Major(r.Version)
	a.MajorsKnown = ok1 && ok2
	a.SameMajor = a.MajorsKnown && mm == rm
	if a.MajorsKnown && mm != rm {
		a.Older = "receiver"
		if mm < rm {
			a.Older = "radio module"
		}
	}
	return a
}

// FreeSpaceLoss in dB over d km at f MHz: 32.45 + 20 log10 f + 20 log10 d.
func FreeSpaceLoss(f, d float64) float64 { return 32.45 + 20*math.Log10(f) + 20*math.Log10(d) }

// Range in km at which power (mW) plus gains (dBi, both ends) less a margin (dB) just meets a sensitivity
// (dBm) at f MHz, in free space.
func Range(power, gains, sensitivity, margin, f float64) float64 {
	left := 10*math.Log10(power) + gains - sensitivity - margin - 32.45 - 20*math.Log10(f)
	return math.Pow(10, left/20)
}

// QualityLeast is the link quality (%) that thirty paces at lowest power must still show.
const QualityLeast = 70.0
