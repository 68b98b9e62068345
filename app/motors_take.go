package app

import (
	"context"
	"math"
	"time"

	"vividperch/bench/protocol"
	"vividperch/core/quad"
)

func takeOutput(ctx context.Context, t *taking) error {
	l, ok, err := t.until(ctx, 800*time.Millisecond, func(l protocol.Live) bool {
		return l.Motion == protocol.MotionSpin && l.Output == t.key() && turning(l) > 0
	})
	if err != nil {
		return err
	}
	if !ok {
		return quad.Faultf("nothing-turned", string(t.path), "output %s was not seen to turn anything; hold to spin while it is read", t.key())
	}
	if n := turning(l); n > 1 {
		return quad.Faultf("several-turn", string(t.path), "%d corners turn at once; wait until the others stand still", n)
	}
	for c, s := range l.Corners {
		if s.Turning {
			return t.put(t.path, quad.MotorSeen{Corner: c, Spin: s.Spin, Reversible: t.known.Sheet.Motors.Reversible})
		}
	}
	return nil
}

func turning(l protocol.Live) int {
	n := 0
	for _, c := range l.Corners {
		if c.Turning {
			n++
		}
	}
	return n
}

func takeStartsAt(_ context.Context, t *taking) error {
	t.bench.mu.Lock()
	defer t.bench.mu.Unlock()
	worst := 0.0
	for _, output := range t.device.Welcome().Outputs {
		at, ok := t.bench.starts[raised{output: output}]
		if !ok {
			return quad.Faultf("not-all-started", string(t.path), "output %s was not yet raised from standstill to turning", output)
		}
		worst = math.Max(worst, at)
	}
	return t.put(t.path, math.Round(worst*10)/10)
}

// takeStart keeps where one motor was seen to start and, lowered again, to stop.
func takeStart(_ context.Context, t *taking) error {
	t.bench.mu.Lock()
	defer t.bench.mu.Unlock()
	output := t.key()
	var seen quad.MotorStart
	ways := []struct {
		backward      bool
		starts, stops *float64
		words         string
	}{{false, &seen.Starts, &seen.Stops, ""}, {true, &seen.BackStarts, &seen.BackStops, " backward"}}
	if !t.known.Board.Sheet.Motors.Reversible {
		ways = ways[:1]
	}
	for _, way := range ways {
		on := raised{output, way.backward}
		starts, up := t.bench.starts[on]
		stops, down := t.bench.stops[on]
		if !up || !down {
			return quad.Faultf("not-run-down", string(t.path), "output %s was not yet raised%s until it turned and lowered until it stood", output, way.words)
		}
		*way.starts, *way.stops = math.Round(starts*10)/10, math.Round(stops*10)/10
	}
	return t.put(t.path, seen)
}

// takeLoad reads what the board shows of its processor while it flies as far as a bench lets it.
func takeLoad(_ context.Context, t *taking) error {
	if !t.live.Armed {
		return quad.Faultf("not-armed", string(t.path), "arm it at idle, propellers off: what flies takes more than what waits")
	}
	return t.put(t.path, quad.LoopLoad{Load: t.live.Load, Loop: t.known.Board.Sheet.Motors.LoopRate})
}

// takeRestStill looks at motors that nothing drives.
func takeRestStill(ctx context.Context, t *taking) error {
	now, err := t.letGo(ctx)
	if err != nil {
		return err
	}
	if !now.Pack || now.Armed || now.Motion != "" {
		return quad.Faultf("not-at-rest", string(t.path), "pack in, disarmed, nothing held: then look")
	}
	_, moved, err := t.until(ctx, 700*time.Millisecond, func(l protocol.Live) bool { return turning(l) > 0 })
	if err != nil {
		return err
	}
	return t.put(t.path, !moved)
}
