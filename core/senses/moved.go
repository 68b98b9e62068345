package senses

import (
	"math"

	"vividperch/core/quad"
)

// Move is what a board showed while a hand moved the frame one way and back.
type Move struct {
	Turns []Vector  `json:"turns" maxItems:"2000" unit:"deg/s"` // about what it takes for ahead, right and down
	Times []float64 `json:"times" maxItems:"2000" unit:"s"`
}

// Most is how far it had turned about each axis when it had turned farthest, deg: the rotation over time by trapezoids, less what it showed at rest in the
// beginning. What cannot be a move is none.
func (m Move) Most() [3]float64 {
	var now, most [3]float64
	if len(m.Turns) != len(m.Times) || len(m.Turns) == 0 {
		return most
	}
	rest := m.Turns[0]
	for i := 1; i < len(m.Turns); i++ {
		dt := m.Times[i] - m.Times[i-1]
		if !(dt > 0 && dt < 1) || !m.Turns[i].finite() {
			continue
		}
		for j := range now {
			now[j] += ((m.Turns[i][j]+m.Turns[i-1][j])/2 - rest[j]) * dt
		}
		if dot(now, now) > dot(most, most) {
			most = now
		}
	}
	return most
}

// About is the axis, as the board takes it, about which a move turned it most, and how far, deg: "roll to the right", "nose up", "turn to the right" and their opposites.
func About(turned [3]float64) (words string, by float64) {
	k := 0
	for i := range turned {
		if math.Abs(turned[i]) > math.Abs(turned[k]) {
			k = i
		}
	}
	names := [3][2]string{{"right side down", "left side down"}, {"nose up", "nose down"}, {"turned to the right", "turned to the left"}}
	if by = turned[k]; by < 0 {
		return names[k][1], -by
	}
	return names[k][0], by
}

// MountByEye is how a board lies flat on the frame: where its arrow points, deg clockwise from the nose as seen from above, and whether its top faces the ground.
// A code "no-direction" is a Fault for what is none.
func MountByEye(arrow float64, onItsBack bool) (quad.Mount, error) {
	if !(arrow >= 0 && arrow <= 360) {
		return quad.Mount{}, quad.Faultf("no-direction", "", "an arrow is told in degrees from the nose, up to 360")
	}
	m := quad.Mount{Yaw: math.Mod(arrow, 360)}
	if onItsBack {
		m.Roll = 180
	}
	return m, nil
}
