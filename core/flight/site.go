package flight

import (
	"math"

	"vividperch/core/airframe"
	"vividperch/core/feel"
	"vividperch/core/quad"
)

// blowsFrom is the same air with its wind out of a direction, deg clockwise from north.
func (s Site) blowsFrom(deg float64) Site {
	wind := math.Hypot(s.WindNorth, s.WindEast)
	sin, cos := math.Sincos(deg / degrees)
	s.WindNorth, s.WindEast = -wind*cos, -wind*sin
	return s
}

const (
	// holdsOf is the share of the wind it could just hold against up to which a quad still keeps its place in
	// gusts and turns.
	holdsOf = 0.6
	// CalmEnough for a first hover, m/s: a fresh breeze begins there.
	CalmEnough = 8
	// DriftMost of a first hover from where it stood, m.
	DriftMost = 3
)

// LevelSpeed is the wind (m/s) that self-level can just hold against at an angle limit (deg) by the drag of its frame alone, for a weight
// in g; see feel.LevelSpeed. 0 when nothing is known.
func LevelSpeed(p quad.Parts, weight, limit float64) float64 {
	k := airframe.DragOf(p.Frame, airframe.Density)
	if !(k > 0) || !quad.Plausible("readings.airframe.weight", weight) || !(limit > 0) || limit >= 90 {
		return 0
	}
	return feel.LevelSpeed(limit, weight/1000, k, airframe.Gravity)
}

// HoldsAgainst is the wind (m/s) up to which a quad keeps its place by self-level at an angle limit (deg), for a weight in g: [holdsOf] of
// [LevelSpeed]. 0 when nothing is known.
func HoldsAgainst(p quad.Parts, weight, limit float64) float64 {
	return holdsOf * LevelSpeed(p, weight, limit)
}

// HomeAgainst is the wind (m/s) against which a quad still comes home: as [HoldsAgainst], but leaning no further than it does by itself.
func HomeAgainst(p quad.Parts, weight, limit float64) float64 {
	return HoldsAgainst(p, weight, math.Min(limit, leansMost))
}

// HomeSpeed is how fast (m/s over ground) it comes home against a wind, leaning as far as it does by itself.
func HomeSpeed(p quad.Parts, weight, limit, wind float64) float64 {
	return math.Max(0, LevelSpeed(p, weight, math.Min(limit, leansMost))-wind)
}
