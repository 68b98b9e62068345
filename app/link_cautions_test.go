package app

import (
	"slices"
	"testing"

	"vividperch/bench/protocol"
	"vividperch/core/quad"
	"vividperch/core/sticks"
)

// Before a link is given power it is said what would turn by itself: with reversible thrust the throttle rests in its middle, and its low
// end is no rest.
func TestCautionsBeforePower(t *testing.T) {
	t.Parallel()
	at := func(throttle float64) protocol.Live {
		return protocol.Live{Sticks: map[quad.Axis]float64{quad.Throttle: throttle}}
	}
	for _, c := range []struct {
		name       string
		live       protocol.Live
		reversible bool
		want       []string
	}{
		{"all the way down", at(-1), false, []string{}},
		{"a little up", at(-0.9), false, []string{"Put the throttle all the way down."}},
		{"in the middle", at(0), false, []string{"Put the throttle all the way down."}},
		{"in the middle, where it rests", at(0.02), true, []string{}},
		{"all the way down, which is full thrust at the ground", at(-1), true, []string{"Put the throttle in its middle."}},
		{"propellers on", protocol.Live{Propellers: true, Sticks: map[quad.Axis]float64{quad.Throttle: -1}}, false, []string{"Take the propellers off."}},
		{"armed by its switch", protocol.Live{Channels: []float64{1500}, Gates: []sticks.Gate{{Name: "switch"}}, Sticks: map[quad.Axis]float64{quad.Throttle: -1}}, false, []string{"Put the arm switch off."}},
	} {
		if got := cautions(c.live, c.reversible); !slices.Equal(got, c.want) {
			t.Errorf("%s: %q, want %q", c.name, got, c.want)
		}
	}
}
