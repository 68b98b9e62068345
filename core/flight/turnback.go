package flight

import (
	"math"

	"vividperch/core/quad"
	"vividperch/core/site"
)

// LineBack is how far along the line it can still be brought home against the wind, with a fifth of the pack left.
type LineBack struct {
	Told  bool        `json:"told"`           // enough is known to say
	Along float64     `json:"along" unit:"m"` // from there on it does not get back; the whole length where it always does
	Whole bool        `json:"whole"`          // it always does
	At    site.Offset `json:"at"`
	Words string      `json:"words"`
}

// back home along the line: the charge that it takes out to a point and straight home from there, at the speed of its way home, against what a pack holds.
func (r *LineRun) back() LineBack {
	m := r.by[0].models[voltLevels/2]
	line := &r.ask.Line
	length := line.Length()
	if r.in.Pack.Capacity <= 0 {
		return LineBack{Words: "Nobody told how much its pack holds: how far it gets and back is not known."}
	}
	if line.Speed < 0.5 {
		return LineBack{Words: "It hovers on this line: how long nobody told."}
	}
	amps := func(north, east, course float64) float64 {
		t := m.trim(north, east, course)
		return m.lookedUp(t.duty, 0).amps
	}
	speed := math.Max(line.Speed, 1) // by hand, as it is flown
	if r.in.Settings.Policy == quad.PolicyReturn {
		speed = r.in.Settings.Nav.homeSpeed()
	}
	most := math.Min(leansMost, r.in.Settings.AngleLimit)
	through := LevelSpeed(r.in.Parts, r.in.Mass*1000, most)
	left, used := usable*r.in.Pack.Capacity*3.6, 0.0 // A·s
	steps := int(math.Max(100, math.Min(1000, length/2)))
	was := LineBack{Told: true}
	there, drawn := math.NaN(), 0.0 // the course flown before, and what that draws
	for i := range steps + 1 {
		along := length * float64(i) / float64(steps)
		at, course := line.At(float64(i) / float64(steps))
		s, c := math.Sincos(course / degrees)
		if course != there {
			there, drawn = course, amps(line.Speed*c, line.Speed*s, course/degrees)
		}
		if i > 0 {
			used += drawn * length / float64(steps) / line.Speed
		}
		away := math.Hypot(at.East, at.North)
		home := 0.0
		if away > atHome {
			bn, be := -at.North/away, -at.East/away
			// Over ground, with the wind's part along the way and across it.
			along, across := r.in.Site.WindNorth*bn+r.in.Site.WindEast*be, r.in.Site.WindEast*bn-r.in.Site.WindNorth*be
			able := 0.0
			if math.Abs(across) < through {
				able = math.Sqrt(through*through-across*across) + along
			}
			v := math.Min(speed, holdsOf*able)
			if v <= 0.3 {
				was.Words = "From here on the wind carries it off: it does not come home against it."
				return r.turnsBack(was)
			}
			home = amps(v*bn, v*be, math.Atan2(be, bn)) * away / v
		}
		if used+home > left {
			was.Words = "From here on it does not get home with a fifth of its pack left."
			return r.turnsBack(was)
		}
		was.Along, was.At = math.Round(along), site.Offset{East: round1(at.East), North: round1(at.North)}
	}
	was.Whole = true
	was.Words = "It gets home from all of the line with a fifth of its pack left."
	return was
}

// turnsBack adds the safe place that is nearest from there.
func (r *LineRun) turnsBack(b LineBack) LineBack {
	if name, away := r.ask.Map.Nearest(b.At); name != "" {
		b.Words += " The nearest safe place is " + name + ", " + quad.Quantity(math.Round(away), "m") + " away."
	}
	return b
}
