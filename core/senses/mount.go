package senses

import (
	"math"

	"vividperch/core/quad"
)

// Rotation turns figures along the frame's axes (ahead, to the right, down) into those that a board takes for them: its rows are the
// axes that the board takes for ahead, right and down, seen along the frame's own.
type Rotation [3][3]float64

// facing is a board's axes seen along the frame's: each column is one of them. Turned, pitched and rolled in this order, each about the
// axis that the ones before have left it: Rz(yaw) Ry(pitch) Rx(roll), as in every textbook of flight dynamics.
func facing(m quad.Mount) Rotation {
	sr, cr := sincos(m.Roll)
	sp, cp := sincos(m.Pitch)
	sy, cy := sincos(m.Yaw)
	return Rotation{
		{cy * cp, cy*sp*sr - sy*cr, cy*sp*cr + sy*sr},
		{sy * cp, sy*sp*sr + cy*cr, sy*sp*cr - cy*sr},
		{-sp, cp * sr, cp * cr},
	}
}

// sincos of an angle in deg, without the dust that an eighth of a turn would leave of a right angle.
func sincos(deg float64) (sin, cos float64) {
	sin, cos = math.Sincos(deg * math.Pi / 180)
	if math.Abs(sin) < 1e-15 {
		sin = 0
	}
	if math.Abs(cos) < 1e-15 {
		cos = 0
	}
	return sin, cos
}

func (r Rotation) times(o Rotation) Rotation {
	var out Rotation
	for i := range 3 {
		for j := range 3 {
			out[i][j] = r[i][0]*o[0][j] + r[i][1]*o[1][j] + r[i][2]*o[2][j]
		}
	}
	return out
}

func (r Rotation) back() Rotation {
	return Rotation{{r[0][0], r[1][0], r[2][0]}, {r[0][1], r[1][1], r[2][1]}, {r[0][2], r[1][2], r[2][2]}}
}

// Between is what a board that was told to lie one way and lies another makes of what it senses: told times the inverse of lies.
func Between(told, lies quad.Mount) Rotation { return facing(told).times(facing(lies).back()) }

// Turn gives what the board takes a turning of the frame (about its axes ahead, right and down) for.
func (r Rotation) Turn(v [3]float64) [3]float64 {
	return [3]float64{
		r[0][0]*v[0] + r[0][1]*v[1] + r[0][2]*v[2],
		r[1][0]*v[0] + r[1][1]*v[1] + r[1][2]*v[2],
		r[2][0]*v[0] + r[2][1]*v[1] + r[2][2]*v[2],
	}
}

// Shows is the roll and pitch (deg) that an uncalibrated board shows for those of the frame: which way down is, seen from where it lies.
func (r Rotation) Shows(roll, pitch float64) (float64, float64) {
	sr, cr := sincos(roll)
	sp, cp := sincos(pitch)
	down := r.Turn([3]float64{-sp, cp * sr, cp * cr})
	if math.Hypot(down[1], down[2]) < 1e-9 { // it stands on its nose or its tail: no roll can be told
		return 0, math.Copysign(90, -down[0])
	}
	return math.Atan2(down[1], down[2]) * 180 / math.Pi, math.Asin(max(-1, min(1, -down[0]))) * 180 / math.Pi
}

// Angle of the rotation as a whole, deg, 0 to 180: by its trace, 1 + 2 cos, and near none by the part that turns over, 2 sin.
func (r Rotation) Angle() float64 {
	sin := math.Hypot(math.Hypot(r[2][1]-r[1][2], r[0][2]-r[2][0]), r[1][0]-r[0][1]) / 2
	return math.Atan2(sin, (r[0][0]+r[1][1]+r[2][2]-1)/2) * 180 / math.Pi
}

// AngleBetween is the angle between two mounts, deg, 0 to 180.
func AngleBetween(a, b quad.Mount) float64 { return Between(a, b).Angle() }

// mountOf the axes of a board.
func mountOf(f Rotation) quad.Mount {
	const d = 180 / math.Pi
	pitch := math.Asin(max(-1, min(1, -f[2][0]))) * d
	if math.Abs(pitch) > 89.9999 { // turned and rolled are then about the same axis: all of it is told as turned
		return quad.Mount{Pitch: pitch, Yaw: math.Atan2(-f[0][1], f[1][1]) * d}
	}
	return quad.Mount{Roll: math.Atan2(f[2][1], f[2][2]) * d, Pitch: pitch, Yaw: math.Atan2(f[1][0], f[0][0]) * d}
}

// movedLeast is how far a hand must have moved the frame each time for the board to tell about which axis, deg; askewMost how far the
// three axes may be from standing square on each other.
const (
	movedLeast = 10.0
	askewMost  = 25.0
)

// Lies finds how a board lies from the turns that it showed (deg about what it takes for ahead, right and down) while the hand pointed
// the frame's nose down, put its right side down, and turned it to the right; told is what it was told. Two of the three would do: the
// third says whether the moves were those that were asked for. Code "not-moved" when one was too small, "not-square" when the three do
// not belong together, as when a move was made the other way.
func Lies(nose, side, turn [3]float64, told quad.Mount) (quad.Mount, error) {
	// What the board takes for the frame's axes: nose down is a turn about the axis to the right, backwards.
	axes := [3][3]float64{side, {-nose[0], -nose[1], -nose[2]}, turn}
	for i, what := range []string{"right side down", "nose down", "to the right"} {
		n := math.Sqrt(dot(axes[i], axes[i]))
		if !(n >= movedLeast) || math.IsInf(n, 0) {
			return quad.Mount{}, quad.Faultf("not-moved", "readings.senses.boardLies", "the board did not say that it moved %s; about thirty degrees is enough", what)
		}
		for j := range axes[i] {
			axes[i][j] /= n
		}
	}
	for i := range axes {
		// Each stands square on the two others and closes the hand with them.
		closed := cross(axes[(i+1)%3], axes[(i+2)%3])
		if dot(closed, axes[i]) < math.Cos(askewMost*math.Pi/180) {
			return quad.Mount{}, quad.Faultf("not-square", "readings.senses.boardLies", "the three moves do not belong together: nose down, right side down, turned to the right, one after the other")
		}
	}
	// Of three axes nearly square, the square ones that favour none: each is taken together with what the two others say it is.
	for range 20 {
		var next [3][3]float64
		for i := range axes {
			closed := cross(axes[(i+1)%3], axes[(i+2)%3])
			for j := range closed {
				next[i][j] = axes[i][j] + closed[j]
			}
			n := math.Sqrt(dot(next[i], next[i]))
			for j := range next[i] {
				next[i][j] /= n
			}
		}
		axes = next
	}
	// The frame's axes as the board takes them are the columns of told times the inverse of lies; here they are rows, its inverse.
	return mountOf(Rotation(axes).times(facing(told))), nil
}

func dot(a, b [3]float64) float64 { return a[0]*b[0] + a[1]*b[1] + a[2]*b[2] }

func cross(a, b [3]float64) [3]float64 {
	return [3]float64{a[1]*b[2] - a[2]*b[1], a[2]*b[0] - a[0]*b[2], a[0]*b[1] - a[1]*b[0]}
}

// Mounted is what a board is to be told that was found to lie some way: the eighths of a turn next to it, as boards are mounted, or
// else the angles themselves in whole degrees; none is -0, turned is 0 to 359.
func Mounted(lies quad.Mount) quad.Mount {
	near := quad.Mount{Roll: 45 * math.Round(lies.Roll/45), Pitch: 45 * math.Round(lies.Pitch/45), Yaw: 45 * math.Round(lies.Yaw/45)}
	if AngleBetween(lies, near) >= TurnedNote {
		near = Rounded(lies)
	}
	near.Yaw = math.Mod(near.Yaw+360, 360)
	if near.Roll == -180 {
		near.Roll = 180
	}
	return quad.Mount{Roll: near.Roll + 0, Pitch: near.Pitch + 0, Yaw: near.Yaw + 0}
}

// Rounded to whole degrees.
func Rounded(m quad.Mount) quad.Mount {
	return quad.Mount{Roll: math.Round(m.Roll) + 0, Pitch: math.Round(m.Pitch) + 0, Yaw: math.Round(m.Yaw) + 0}
}
