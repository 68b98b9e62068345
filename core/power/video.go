package power

import "math"

// How a small video transmitter warms where nothing blows at it: a builder's figures, with the case as one mass.
const (
	videoAlone  = 1.0  // W that it takes however little it sends
	videoSends  = 0.2  // share of what it takes beyond that which leaves by its antenna
	videoHolds  = 12.0 // J/K
	videoStill  = 0.04 // W/K to still air
	videoFanned = 0.2  // W/K in front of a fan
	videoAir    = 25.0 // °C about it
	videoMost   = 80.0 // °C at which it turns itself down, or is harmed
)

// BenchShort is less than a first power takes, min.
const BenchShort = 8.0

// BenchMinutes of a video transmitter that sends with some power (mW) and does not fly: until it is too hot to touch, min; infinite where it never gets there. One mass that
// gives away as it warms: t = -C/G ln(1 - G ΔT/P).
func BenchMinutes(power float64, fan bool) float64 {
	watts := videoAlone + power/1000/videoSends - power/1000
	gives := videoStill
	if fan {
		gives = videoFanned
	}
	share := gives * (videoMost - videoAir) / watts
	if share >= 1 {
		return math.Inf(1)
	}
	return -videoHolds / gives * math.Log(1-share) / 60
}
