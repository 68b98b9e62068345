package app

import (
	"testing"

	"vividperch/bench/protocol"
)

// Every change of light or call is remembered as it begins, and what is so still is not remembered again; how long it called is counted while
// the light was the same.
func TestGlancesAreChanges(t *testing.T) {
	t.Parallel()
	dark, lit := []int{0}, []int{1}
	var b Bench
	for _, l := range []struct {
		at      int64
		light   []int
		calling bool
	}{
		{100, dark, true}, {200, dark, true}, {300, lit, true}, {400, lit, false}, {450, lit, false}, {500, lit, true}, {600, lit, true},
	} {
		b.glance(protocol.Live{Time: l.at, Link: protocol.LinkSeen{Light: l.light, Calling: l.calling}})
	}
	var at []int64
	for _, g := range b.glimpses {
		at = append(at, g.at)
	}
	if len(at) != 4 || at[0] != 100 || at[1] != 300 || at[2] != 400 || at[3] != 500 {
		t.Errorf("it changed at %v", at)
	}
	if ms, waited := b.calledWhile(lit, 700); ms != 100+200 || !waited {
		t.Errorf("called %d ms while lit, waited %v", ms, waited)
	}
	if ms, waited := b.calledWhile(dark, 700); ms != 0 || waited {
		t.Errorf("called %d ms while dark, waited %v", ms, waited)
	}
	for i := range 3 * mostGlimpses {
		b.glance(protocol.Live{Time: int64(1000 + i), Link: protocol.LinkSeen{Light: lit, Calling: i%2 == 0}})
	}
	if len(b.glimpses) != mostGlimpses || b.glimpses[mostGlimpses-1].at != int64(999+3*mostGlimpses) {
		t.Errorf("%d are kept, the last of %d", len(b.glimpses), b.glimpses[len(b.glimpses)-1].at)
	}
}
