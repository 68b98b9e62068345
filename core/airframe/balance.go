package airframe

import (
	"math"

	"vividperch/core/quad"
)

// spins of the corners in the order of quad.Corners as their torques go: those across a diagonal turn alike.
var spins = [4]float64{1, -1, -1, 1}

// BalanceWithin is how far (mm) where it balances by its parts may be from where it was measured: fingertips find it to a few millimetres.
const BalanceWithin = 8.0

// Loads are the shares of its weight that the four rotors carry in a level hover, at places from the centre of gravity: they add up to one, turn it
// about no axis of the frame, and their torques cancel. One under nothing cannot be flown; ok is false where the places lie on a line.
func Loads(places [4]Spot) (share [4]float64, ok bool) {
	var m [4][5]float64
	for k, p := range places {
		m[0][k], m[1][k], m[2][k], m[3][k] = 1, p.X, p.Y, spins[k]
	}
	m[0][4] = 1
	for i := range m { // Gauss, the largest first
		most := i
		for r := i; r < 4; r++ {
			if math.Abs(m[r][i]) > math.Abs(m[most][i]) {
				most = r
			}
		}
		if math.Abs(m[most][i]) < 1e-9 {
			return share, false
		}
		m[i], m[most] = m[most], m[i]
		for r := range m {
			if r == i {
				continue
			}
			by := m[r][i] / m[i][i]
			for c := i; c < 5; c++ {
				m[r][c] -= by * m[i][c]
			}
		}
	}
	for i := range share {
		share[i] = m[i][4] / m[i][i]
	}
	return share, true
}

// Carried is what each rotor carries of a weight, in the order of quad.Corners, with the ones that carry the most and the least.
type Carried struct {
	Share         [4]float64
	Hardest, Ease int
}

// Over an even load is what the hardest carries, as a factor.
func (c Carried) Over() float64 { return 4 * c.Share[c.Hardest] }

// Carries a frame its weight with its centre of gravity somewhere (mm); ok is false where its arms are not told.
func Carries(layout quad.Layout, f quad.Frame, centre quad.Balance) (c Carried, ok bool) {
	c.Share, ok = Loads(FromCentre(Spots(layout, f), centre))
	for i, s := range c.Share {
		if s > c.Share[c.Hardest] {
			c.Hardest = i
		}
		if s < c.Share[c.Ease] {
			c.Ease = i
		}
	}
	return c, ok
}

// FromCentre are the rotors' places from a centre of gravity (mm).
func FromCentre(places [4]Spot, centre quad.Balance) [4]Spot {
	for i := range places {
		places[i].X -= centre.Ahead / 1000
		places[i].Y -= centre.Right / 1000
	}
	return places
}

// Tilted is what it costs each motor to carry a weight that does not lie in the middle.
type Tilted struct {
	Carried
	Duty    [4]float64 // in hover; above 1 cannot be given
	Current [4]float64 // A, of each motor
	// Costs is how many times the current from the pack of one that lies in the middle it draws.
	Costs float64
}

// Tilts tells what a centre of gravity costs in a hover with a mass in kg; ok is false where it cannot hover level.
func (d Drive) Tilts(layout quad.Layout, f quad.Frame, centre quad.Balance, mass float64) (out Tilted, ok bool) {
	if out.Carried, ok = Carries(layout, f, centre); !ok {
		return out, false
	}
	even, ok := d.Hover(mass)
	if !ok {
		return out, false
	}
	total := 0.0
	for i, s := range out.Share {
		if s <= 0 {
			return out, false
		}
		// The pack sags by what all four draw, which hardly changes; so each is fed by the voltage of the even hover.
		one := d
		one.PackVoltage, one.PackOhm = even.PackVoltage, 0
		p, able := one.ForThrust(s * mass * Gravity)
		ok = ok && able
		out.Duty[i], out.Current[i] = p.Duty, p.Current
		total += p.Duty * p.Current
	}
	out.Costs = total / even.PackCurrent
	return out, ok
}
