package link

import (
	"math/rand/v2"
	"testing"
)

func way(t *testing.T, link string, kind WayKind) Way {
	t.Helper()
	for _, w := range gear(t, link).Ways {
		if w.Kind == kind {
			return w
		}
	}
	t.Fatalf("%s has no way %s", link, kind)
	return Way{}
}

// Each way, done as its steps say, comes to its end; done in a wrong order it is led back with a word.
func TestFollow(t *testing.T) {
	for _, c := range []struct {
		name, link string
		kind       WayKind
		seen       []Seen
		steps      []int
		says       bool // at the end
	}{
		{"phrase, as it should be", "Tidewire", Phrase,
			[]Seen{{Pack: true, Light: Stranger}, {Pack: true, Radio: true, PhrasesAgree: true, Light: Stranger}, {Radio: true, PhrasesAgree: true, Light: Off}, {Pack: true, Radio: true, PhrasesAgree: true, Light: Off}, {Pack: true, PhrasesAgree: true, Light: Bound}, {Pack: true, PhrasesAgree: true, Light: Bound, ChannelsMove: true}},
			[]int{0, 1, 2, 3, 4, 5}, false},
		{"phrase, without a power cycle", "Tidewire", Phrase,
			[]Seen{{Pack: true, PhrasesAgree: true, Light: Stranger}, {Pack: true, PhrasesAgree: true, Light: Stranger}}, []int{1, 1}, false},
		{"phrase, and a stranger all the same", "Tidewire", Phrase,
			[]Seen{{PhrasesAgree: true, Light: Off}, {Pack: true, PhrasesAgree: true, Light: Off}, {Pack: true, PhrasesAgree: true, Light: Stranger}}, []int{2, 3, 1}, true},
		{"button, as it should be", "Groyne", Button,
			[]Seen{{Light: Off}, {Light: Off, Calling: true}, {Light: Off, Calling: true, Button: true}, {Light: Off, Calling: true, Button: true, Pack: true}, {Light: Binding, Calling: true, Button: true, Pack: true}, {Light: Bound, Calling: true, Pack: true}, {Light: Bound, Pack: true, ChannelsMove: true}},
			[]int{1, 2, 3, 3, 4, 5, 6}, false},
		{"button, power before the button", "Groyne", Button,
			[]Seen{{Light: Off}, {Light: Off, Calling: true}, {Light: Off, Calling: true, Pack: true}}, []int{1, 2, 0}, true},
		{"button, let go too soon", "Groyne", Button,
			[]Seen{{Light: Off, Calling: true}, {Light: Off, Calling: true, Button: true}, {Light: Stranger, Calling: true, Pack: true}}, []int{2, 3, 0}, true},
		{"button, the radio gave up", "Groyne", Button,
			[]Seen{{Light: Off, Calling: true, Button: true}, {Light: Off, Button: true, Pack: true}}, []int{3, 0}, true},
		{"cycles, as it should be", "Tidewire", Cycles,
			[]Seen{{Light: Off}, {Light: Searching, Pack: true}, {Light: Off}, {Light: Binding, Pack: true}, {Light: Binding, Pack: true, Calling: true}, {Light: Bound, Pack: true}, {Light: Bound, Pack: true, ChannelsMove: true}},
			[]int{1, 1, 1, 2, 3, 4, 5}, false},
		{"cycles, too slow at the radio", "Tidewire", Cycles,
			[]Seen{{Light: Off}, {Light: Binding, Pack: true}, {Light: Searching, Pack: true}}, []int{1, 2, 0}, true},
	} {
		w := way(t, c.link, c.kind)
		var p Progress
		for i, s := range c.seen {
			if p = w.Follow(p, s); p.Step != c.steps[i] {
				t.Errorf("%s: after %+v at step %d, want %d", c.name, s, p.Step, c.steps[i])
				break
			}
		}
		if (p.Says != "") != c.says {
			t.Errorf("%s: it says %q", c.name, p.Says)
		}
	}
}

// Nothing that can be seen brings the guide out of its steps, or round and round.
func TestFollowStaysOnItsWay(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 5))
	yes := func() bool { return r.IntN(2) == 1 }
	states := []State{Off, Searching, Stranger, Binding, OnPage, Bound, "unheard"}
	for _, name := range Shipped() {
		for _, w := range gear(t, name).Ways {
			p := Progress{Step: r.IntN(12) - 3}
			for range 20000 {
				p = w.Follow(p, Seen{yes(), yes(), yes(), yes(), yes(), yes(), states[r.IntN(len(states))]})
				if p.Step < 0 || p.Step > len(w.Steps) {
					t.Fatalf("%s by %s is at step %d", name, w.Kind, p.Step)
				}
				if w.Done(p) {
					p = Progress{}
				}
			}
		}
	}
}
