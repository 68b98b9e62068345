// Package picture knows what a video transmitter may do where it flies.
package picture

import "vividperch/core/quad"

// Allowed says whether a frequency (MHz) and a power (mW) are inside the limits; a limit of zero is unknown
// and allows nothing.
func Allowed(s quad.PictureSheet, l quad.Limits) (frequency, power bool) {
	return s.Frequency >= l.VideoLow && s.Frequency <= l.VideoHigh && l.VideoHigh > 0, s.Power <= l.VideoPower
}
