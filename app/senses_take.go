package app

import (
	"context"
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
	rest, last := t.live, t.live
	if _, err := t.call(ctx, protocol.MethodSweep, move); err != nil {
		return rest.Turns, err
	}
	var now, most [3]float64
	_, _, err := t.until(ctx, frameLooked, func(l protocol.Live) bool {
		for i := range now {
			now[i] += ((l.Turns[i]+last.Turns[i])/2 - rest.Turns[i]) * float64(l.Time-last.Time) / 1000
		}
		if last = l; square(now) > square(most) {
			most = now
		}
		return false
	})
	return most, err
}

func square(v [3]float64) float64 { return v[0]*v[0] + v[1]*v[1] + v[2]*v[2] }
