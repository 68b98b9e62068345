// Package link knows whether a radio and a receiver can talk.
package link

import (
	"github.com/Masterminds/semver/v3"

	"vividperch/core/quad"
)

// Major of a version such as "5.3.1"; ok is false when it cannot be read.
func Major(text string) (major uint64, ok bool) {
	v := version(text)
	if v == nil {
		return 0, false
	}
	return v.Major(), true
}

// version read, or nil.
func version(text string) *semver.Version {
	v, err := semver.NewVersion(text)
	if err != nil {
		return nil
	}
	return v
}

// Agreement between a radio module and a receiver.
type Agreement struct {
	SameLink, SameBand, SameRegion, MajorsKnown, SameMajor bool
	Older                                                  string // "receiver" or "radio module", the one to update
}

// Compare a radio module with a receiver.
func Compare(m quad.RadioModule, r quad.Receiver) Agreement {
	a := Agreement{SameLink: m.Link == r.Link, SameBand: m.Band == r.Band, SameRegion: m.Region == r.Region || m.Region == "" || r.Region == ""}
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

// Hears says whether the two can hear each other at all, once they are bound. A version that cannot be read stands in nobody's
// way: it is asked for elsewhere.
func (a Agreement) Hears() bool {
	return a.SameLink && a.SameBand && a.SameRegion && (!a.MajorsKnown || a.SameMajor)
}

// QualityLeast is the link quality (%) that thirty paces at lowest power must still show.
const QualityLeast = 70.0
