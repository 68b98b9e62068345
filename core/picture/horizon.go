package picture

import "math"

// Horizon is what a camera that looks up by some angle sees of the world.
type Horizon struct {
	// Hover is where the horizon lies in the picture while it stands level in the air: 0 in the middle, -1 at the lower edge, 1 at the upper one. Beyond these it is out of the
	// picture.
	Hover float64 `json:"hover" unit:"1"`
	// Nearest is how far ahead the nearest ground is that the picture shows in a hover two metres high, m; 0 where it shows none at all.
	Nearest float64 `json:"nearest" unit:"m"`
}

// hoverHigh is how high it stands for that, m.
const hoverHigh = 2.0

// HorizonOf a camera that looks up by tilt and sees view from top to bottom, both in degrees: through a lens that draws straight lines straight, what lies an angle from the
// middle lies tan(angle) / tan(view/2) of half the picture from it. ok is false where the view is not told.
func HorizonOf(tilt, view float64) (h Horizon, ok bool) {
	if !(view > 0) || view >= 179 {
		return h, false
	}
	rad := math.Pi / 180
	h.Hover = -math.Tan(tilt*rad) / math.Tan(view/2*rad)
	if down := view/2 - tilt; down > 0 {
		h.Nearest = hoverHigh / math.Tan(math.Min(89.9, down)*rad)
	}
	return h, true
}
