package airframe

import (
	"math"

	"vividperch/core/quad"
)

// Cruise of a mass (kg) with a drag (N for each (m/s)²) at a steady airspeed (m/s): the rotors carry the weight and the drag, T² = (mg)² + (D v²)². What the stream through the rotors changes is left
// out: with speeds of a slow quad it is a few per cent. ok is false where they cannot.
func (d Drive) Cruise(mass, drag, speed float64) (p Point, ok bool) {
	return d.ForThrust(math.Hypot(mass*Gravity, drag*speed*speed) / d.Motors)
}

// Turn is where a quad has to turn: how far it can go and come home again by its charge.
type Turn struct {
	Towards string  `json:"towards"` // it goes out into the wind, with it, or across
	Out     float64 `json:"out" unit:"mAh/km"`
	Back    float64 `json:"back" unit:"mAh/km"`
	Metres  float64 `json:"metres" unit:"m"` // from home, where it has to turn
	Minutes float64 `json:"minutes" unit:"min"`
}

// Reaches of a mass (kg) at an airspeed in a steady wind (both m/s), out along a straight line and back along it: where what is left, less a reserve (a share of the capacity), is what
// the way home takes. extra is what the electronics draw, A. A wind as fast as it flies lets it reach nothing: those ways are left out.
func (d Drive) Reaches(pack quad.Pack, mass, drag, speed, wind, extra, reserve float64) []Turn {
	out := []Turn{}
	p, ok := d.Cruise(mass, drag, speed)
	if !ok || !(speed > 0) || !(pack.Capacity > 0) || !(reserve >= 0 && reserve < 1) {
		return out
	}
	amps := p.PackCurrent + extra
	usable := pack.Capacity * (1 - reserve)
	across := speed*speed - wind*wind
	if across > 0 {
		across = math.Sqrt(across)
	}
	for _, way := range []struct {
		name      string
		out, back float64 // m/s over the ground
	}{{"into the wind", speed - wind, speed + wind}, {"across it", across, across}, {"with the wind", speed + wind, speed - wind}} {
		if way.out <= 0 || way.back <= 0 {
			continue
		}
		r := Turn{Towards: way.name, Out: amps / way.out / 3.6 * 1000, Back: amps / way.back / 3.6 * 1000}
		km := usable / (r.Out + r.Back)
		r.Metres, r.Minutes = 1000*km, usable/1000/amps*60
		out = append(out, r)
		if wind == 0 {
			out[0].Towards = "in still air"
			break
		}
	}
	return out
}
