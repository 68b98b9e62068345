package app

import (
	"context"
	"math"
	"time"

	"vividperch/bench/protocol"
	"vividperch/core/quad"
	"vividperch/core/senses"
)

// framesMoved is how often the frame is moved at most, and frameLooked how long each move is watched: until it lies flat again.
const (
	framesMoved = 3
	frameLooked = 1800 * time.Millisecond
)

// takeLevel reads both ways of the level at once.
func takeLevel(_ context.Context, t *taking) error {
	if t.live.Board != "running" {
		return quad.Faultf("board-off", string(t.path), "the board does not run: connect USB or the pack")
	}
	return t.put(t.path, quad.Level{Roll: t.live.Roll, Pitch: t.live.Pitch})
}

// takeBoardLies has the hand put the nose down, the right side down, and turn the frame to the right, and takes from the turns that the
// board shows how it lies. A move that was not seen whole, as on a busy machine, is made again.
func takeBoardLies(ctx context.Context, t *taking) error {
	if t.live.Board != "running" {
		return quad.Faultf("board-off", string(t.path), "the board does not run: connect USB or the pack")
	}
	now, err := t.letGo(ctx)
	if err != nil {
		return err
	}
	if now.Armed || now.Motion != "" {
		return quad.Faultf("armed", string(t.path), "let go first: nothing may turn while the frame is tilted")
	}
	var moved [3][3]float64
	var lies quad.Mount
	for range framesMoved {
		for i, move := range []protocol.Sweep{{Nose: true}, {Side: true}, {Frame: true}} {
			if moved[i], err = t.turned(ctx, move); err != nil {
				return err
			}
		}
		if lies, err = senses.Lies(moved[0], moved[1], moved[2], t.known.Board.Sheet.Senses.Mount()); err == nil {
			return t.put(t.path, senses.Rounded(lies))
		}
	}
	return err
}

// turned is how far the frame had turned at most about what the board takes for ahead, right and down, deg, while the hand moved it.
func (t *taking) turned(ctx context.Context, move protocol.Sweep) ([3]float64, error) {
	seen := senses.Move{Turns: []senses.Vector{t.live.Turns}, Times: []float64{float64(t.live.Time) / 1000}}
	if _, err := t.call(ctx, protocol.MethodSweep, move); err != nil {
		return [3]float64{}, err
	}
	_, _, err := t.until(ctx, frameLooked, func(l protocol.Live) bool {
		seen.Turns, seen.Times = append(seen.Turns, l.Turns), append(seen.Times, float64(l.Time)/1000)
		return false
	})
	return seen.Most(), err
}

// everyWayTakes is how long the hand takes to turn the frame through every direction, and some.
const everyWayTakes = 20 * time.Second

// compassShown of a live frame, or a Fault where the board shows none.
func (t *taking) compassShown() error {
	switch {
	case t.live.Board != "running":
		return quad.Faultf("board-off", string(t.path), "the board does not run: connect USB or the pack")
	case len(t.live.Compass) != 3:
		return quad.Faultf("no-compass", string(t.path), "the board shows no compass: switch it on in the settings, and write them")
	}
	return nil
}

// takeCompass has the hand turn the frame through every direction, and fits what the compass shows meanwhile.
func takeCompass(ctx context.Context, t *taking) error {
	if err := t.compassShown(); err != nil {
		return err
	}
	if _, err := t.letGo(ctx); err != nil {
		return err
	}
	if _, err := t.call(ctx, protocol.MethodSweep, protocol.Sweep{Every: true}); err != nil {
		return err
	}
	var list []senses.Vector
	still := 0
	if _, _, err := t.until(ctx, everyWayTakes, func(l protocol.Live) bool {
		if len(l.Compass) == 3 {
			next := senses.Vector{l.Compass[0], l.Compass[1], l.Compass[2]}
			if n := len(list); n > 0 && near(list[n-1], next) {
				still++ // the hand has come to rest
			} else {
				still = 0
			}
			list = append(list, next)
		}
		return still > 25 && len(list) > senses.LeastSamples
	}); err != nil {
		return err
	}
	v := senses.TurnedEveryWay(list, t.known.Limits.FieldThere())
	if v.Reading == nil {
		return quad.Faultf("no-fit", string(t.path), "%s", v.Says)
	}
	return t.put(t.path, *v.Reading)
}

// near says whether a compass shows the same twice, but for its noise, µT.
func near(a, b senses.Vector) bool {
	sum := 0.0
	for i := range a {
		sum += (a[i] - b[i]) * (a[i] - b[i])
	}
	return sum < 4
}

// takeHeading has the hand point the nose in a known direction and reads what the board makes of it, over a second.
func takeHeading(known float64) taker {
	return func(ctx context.Context, t *taking) error {
		if err := t.compassShown(); err != nil {
			return err
		}
		if err := t.set(ctx, protocol.Things{Nose: &known}); err != nil {
			return err
		}
		north, east, n := 0.0, 0.0, 0
		_, enough, err := t.until(ctx, 3*time.Second, func(l protocol.Live) bool {
			if l.Nose == known && len(l.Compass) == 3 {
				s, c := math.Sincos(l.Heading * math.Pi / 180)
				north, east, n = north+c, east+s, n+1
			}
			return n >= 15
		})
		if err != nil {
			return err
		}
		if !enough {
			return quad.Faultf("no-heading", string(t.path), "the board shows no heading")
		}
		told := t.known.Board.Sheet.Senses
		if !t.known.Board.Read() {
			told = t.known.Sheet.Senses
		}
		shown := math.Mod(math.Atan2(east, north)*180/math.Pi+360, 360)
		return t.put(t.path, quad.HeadingSeen{Shown: math.Round(10*shown) / 10, Known: known, Turned: told.CompassTurned, Added: told.Declination})
	}
}

// takeSky waits until the count of satellites stays, and notes it.
func takeSky(ctx context.Context, t *taking) error {
	if !t.live.Pack {
		return quad.Faultf("no-pack", string(t.path), "no pack is connected: the satellite receiver has no supply")
	}
	var counts []float64
	sum, dilution := 0.0, 0.0
	_, stays, err := t.until(ctx, 40*time.Second, func(l protocol.Live) bool {
		counts = append(counts, float64(l.Satellites))
		const window = 60
		if len(counts) < 2*window {
			return false
		}
		before, now := mean(counts[len(counts)-2*window:len(counts)-window]), mean(counts[len(counts)-window:])
		sum, dilution = now, l.Dilution
		return now >= 4 && math.Abs(now-before) < 0.25
	})
	if err != nil {
		return err
	}
	if !stays {
		return quad.Faultf("no-sky", string(t.path), "the count of satellites does not come to rest; let it look at the open sky for longer")
	}
	return t.put(t.path, quad.Sky{Satellites: int(math.Round(sum)), Dilution: dilution})
}

func mean(list []float64) float64 {
	sum := 0.0
	for _, x := range list {
		sum += x
	}
	return sum / float64(max(1, len(list)))
}

// facesTake is how long the hand takes to lay the frame on its six faces, and some.
const facesTake = 18 * time.Second

// takeFaces has the hand lay the frame on its six faces, and judges what the accelerometer shows meanwhile.
func takeFaces(ctx context.Context, t *taking) error {
	if t.live.Board != "running" || len(t.live.Accel) != 3 {
		return quad.Faultf("board-off", string(t.path), "the board does not run: connect USB or the pack")
	}
	if _, err := t.letGo(ctx); err != nil {
		return err
	}
	if _, err := t.call(ctx, protocol.MethodSweep, protocol.Sweep{Faces: true}); err != nil {
		return err
	}
	var list []senses.Vector
	if _, _, err := t.until(ctx, facesTake, func(l protocol.Live) bool {
		if len(l.Accel) == 3 {
			list = append(list, senses.Vector{l.Accel[0], l.Accel[1], l.Accel[2]})
		}
		return false
	}); err != nil {
		return err
	}
	laid, err := senses.LaidOnFaces(list)
	if err != nil {
		return err
	}
	if laid.Reading == nil {
		return quad.Faultf("no-faces", string(t.path), "%s", laid.Next)
	}
	return t.put(t.path, *laid.Reading)
}
