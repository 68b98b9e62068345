package app

import (
	"testing"

	"vividperch/bench/protocol"
	"vividperch/core/quad"
)

func TestWhereAMotorStartsAndStops(t *testing.T) {
	t.Parallel()
	at := func(level float64, turning bool) protocol.Live {
		return protocol.Live{Pack: true, Motion: "spin", Output: "A", Level: level, Corners: map[quad.Corner]protocol.CornerSeen{quad.FrontLeft: {Turning: turning}}}
	}
	rest := func(turning bool) protocol.Live {
		return protocol.Live{Pack: true, Corners: map[quad.Corner]protocol.CornerSeen{quad.FrontLeft: {Turning: turning}}}
	}
	for _, c := range []struct {
		name          string
		seen          []protocol.Live
		starts, stops float64 // per cent; 0 is not known
	}{
		{"raised and run down", []protocol.Live{at(4, false), at(5, true), at(4, true), at(3.5, false)}, 5, 3.5},
		{"turned already when it was first looked at", []protocol.Live{at(5, true), at(3.5, false)}, 0, 0},
		{"broken off before it turned", []protocol.Live{at(2, false), at(4, false), rest(false), at(3.6, false), at(5, true)}, 5, 0},
		{"broken off on the way down, raised again: what stands at the foot was not run down", []protocol.Live{at(4, false), at(5, true), at(4, true), rest(true), rest(false), at(2, false)}, 5, 0},
		{"and a second start is the one that counts", []protocol.Live{at(4, false), at(5, true), rest(false), at(4.5, false), at(5.2, true), at(4.2, true), at(3.4, false)}, 5.2, 3.4},
		{"backward only", []protocol.Live{at(-4, false), at(-5, true), at(-3.5, false)}, 0, 0},
		{"one way, then the other", []protocol.Live{at(4, false), at(5, true), at(3.5, false), at(-5, false), at(-6, true), at(-5, false)}, 5, 3.5},
		{"the pack was out in between", []protocol.Live{at(4, false), at(5, true), {}}, 0, 0},
		{"looked at too seldom on the way up", []protocol.Live{at(2, false), at(5, true), at(4, true), at(3.5, false)}, 0, 0},
		{"and on the way down", []protocol.Live{at(4, false), at(5, true), at(3.4, false)}, 5, 0},
		{"held anew each time, so that nobody saw it stand at any", []protocol.Live{rest(false), at(4, false), rest(false), at(4.5, false), rest(false), at(9, true)}, 0, 0},
		{"spun at once later: what was measured stands", []protocol.Live{at(4, false), at(5, true), at(4, true), at(3.5, false), rest(false), at(8, true), rest(false)}, 5, 3.5},
	} {
		b := &Bench{}
		b.forgetStarts()
		for _, l := range c.seen {
			b.noteStart(l)
		}
		if b.starts[raised{output: "A"}] != c.starts || b.stops[raised{output: "A"}] != c.stops {
			t.Errorf("%s: starts at %g, stops at %g", c.name, b.starts[raised{output: "A"}], b.stops[raised{output: "A"}])
		}
	}
}

// Each way counts by itself, and no figure of one stands for the other.
func TestWhereAMotorStartsBackward(t *testing.T) {
	t.Parallel()
	b := &Bench{}
	b.forgetStarts()
	for _, x := range []struct {
		level   float64
		turning bool
	}{{4, false}, {5, true}, {3.5, false}, {-5, false}, {-6, true}, {-5, true}, {-4, false}} {
		b.noteStart(protocol.Live{Pack: true, Motion: "spin", Output: "A", Level: x.level, Corners: map[quad.Corner]protocol.CornerSeen{quad.FrontLeft: {Turning: x.turning}}})
	}
	back := raised{"A", true}
	if b.starts[back] != 6 || b.stops[back] != 4 {
		t.Errorf("backward it starts at %g and stops at %g", b.starts[back], b.stops[back])
	}
}
