package sticks

import (
	"math"
	"testing"

	"vividperch/core/quad"
)

// A channel that moves by itself, one that nothing moves and sound ones with jitter are told apart, and a capture that leaves the
// spinning one out takes the stick that was moved.
func TestDeadAndSpinningChannels(t *testing.T) {
	var rest, moved []Sample
	for i := range 200 {
		jitter := float64(i%3) - 1
		spin := 1500 + 400*math.Sin(float64(i)/9)
		rest = append(rest, Sample{float64(20 * i), []float64{1500 + jitter, 1500, spin, 1500}})
		at := 1500.0
		switch i / 50 {
		case 0:
			at = 1800
		case 2:
			at = 1200
		}
		moved = append(moved, Sample{float64(20 * i), []float64{at + jitter, 1500, spin, 1500 + 10*jitter}})
	}
	got, err := HealthOf(rest, moved)
	if err != nil {
		t.Fatal(err)
	}
	for i, want := range []ChannelState{Sound, Dead, Spinning, Sound} {
		if i == 3 {
			want = Dead // 20 µs of jitter are no stick
			if got[3].High-got[3].Low >= stays {
				want = Sound
			}
		}
		if got[i].State != want {
			t.Errorf("channel %d: %+v, wanted %s", i+1, got[i], want)
		}
	}
	if c, _ := Mover(moved); c != 2 {
		t.Errorf("channel %d moved most; the spinning one did", c+1)
	}
	if s, err := Capture(moved, quad.Roll); quad.AsFault(err) == nil || quad.AsFault(err).Code != "not-let-go" {
		t.Errorf("one that never rests is no stick: %+v, %v", s, err)
	}
	if s, err := Capture(Without(moved, []int{3, 99, 0}), quad.Roll); err != nil || s.Channel != 1 {
		t.Errorf("without it: %+v, %v", s, err)
	}
	if _, err := HealthOf(nil, moved); err == nil {
		t.Error("nothing was seen at rest")
	}
}
