package flight

import (
	"math"
	"strings"
	"testing"

	"vividperch/core/feel"
	"vividperch/core/quad"
)

// A hand sees what was so a reaction ago, moves towards what it wants with its bandwidth, and trembles by as much as it is said to.
func TestHandIsLateSlowAndTrembles(t *testing.T) {
	in := sample()
	for _, who := range []Hand{Steady, Beginner} {
		p := newFlyer(in, HoverCard, who)
		for n := range 100 {
			seen := p.sees(State{Time: float64(n) / handRate})
			if n >= len(p.seen) {
				near(t, "seen, s ago", float64(n)/handRate-seen.Time, who.Delay, 0.5/handRate)
			}
		}
		// A step of the stick: 1 - 1/e of it after 1/(2 pi f).
		still := who
		still.Tremor = 0
		p = newFlyer(in, HoverCard, still)
		p.want = wants{arm: true, throttle: 0.5, roll: 0.5}
		arrived := 0.0
		for n := range 200 {
			f := p.frame()
			if x := (f.Channels[0] - 1500) / 500; x >= 0.5*(1-math.Exp(-1)) && arrived == 0 {
				arrived = float64(n+1) / handRate
			}
		}
		near(t, "time constant of the fingers, s", arrived, 1/(2*math.Pi*who.Bandwidth), 1.0/handRate)
		p = newFlyer(in, HoverCard, who)
		p.want = wants{arm: true, throttle: 0.5}
		squares, n := 0.0, 20000
		for range n {
			x := (p.frame().Channels[0] - 1500) / 500
			squares += x * x
		}
		sigma := math.Sqrt(squares / float64(n))
		near(t, "trembling, of a stick", sigma, who.Tremor, 0.1*who.Tremor)
	}
}

// A closed throttle is closed, however slow the fingers; sticks that arrive on no channel are not sent.
func TestHandAtTheEndsOfTheStick(t *testing.T) {
	in := clone(sample())
	in.Actual.Channels[quad.Yaw] = 0
	p := newFlyer(in, HoverCard, Beginner)
	p.want = wants{arm: true, throttle: 0.8}
	for range 200 {
		p.frame()
	}
	p.want.throttle = 0
	if f := p.frame(); f.Channels[2] != 1000 || f.Channels[3] != 1500 {
		t.Errorf("closed: %v", f.Channels)
	}
}

// The hand is startled sooner near the ground, and cuts a while later, once.
func TestHandIsStartled(t *testing.T) {
	p := newFlyer(sample(), HoverCard, Steady)
	p.startles(1, State{Height: 0.1, Tilt: cutLow + 1})
	p.startles(1+startled-0.01, State{Height: 0.1})
	if p.cutOff {
		t.Error("it cuts before it can")
	}
	if p.startles(1+startled+0.01, State{}); !p.cutOff {
		t.Error("it does not cut")
	}
	high := newFlyer(sample(), HoverCard, Steady)
	high.startles(1, State{Height: 2, Tilt: cut - 5})
	high.startles(5, State{Height: 2, Tilt: cut - 5})
	if high.cutOff {
		t.Error("in the air it cuts at a lean that a turn has")
	}
}

// The card that a pilot prints names all that the model flies of it: nudges while it stands, a yaw each way, a push of throttle.
func TestCardNamesWhatIsFlown(t *testing.T) {
	in := ready(FirstHover)
	s, err := New(in)
	if err != nil {
		t.Fatal(err)
	}
	p := newFlyer(in, HoverCard, Steady)
	p.hover, _ = s.hovers(in.Mass)
	var nudged, yawed, pushed, hovered bool
	var frame Sticks
	for n := range 25 * Rate {
		if n%(Rate/handRate) == 0 {
			p.firstHover(float64(n)/Rate, 1.0/handRate, p.sees(s.seen()))
			frame = p.frame()
			nudged = nudged || !p.lifted && p.want.roll != 0
			yawed = yawed || p.lifted && p.want.yaw != 0
			hovered = hovered || p.settled > 0
			pushed = pushed || p.settled > 0 && p.want.throttle > 1.15*p.trim
		}
		s.Step(frame)
	}
	card := strings.Join(HoverCard.Steps(false), " ")
	for word, flown := range map[string]bool{"nudge": nudged, "yaw": yawed, "brief push of throttle": pushed, "Hold it there": hovered} {
		if flown != strings.Contains(card, word) {
			t.Errorf("%s: flown %v, on the card %v", word, flown, !flown)
		}
	}
}

// A throttle that answers thrice as strongly about the hover is held as steadily: the hand has learned it, and chases no height.
func TestHandLearnsABentThrottle(t *testing.T) {
	for _, curve := range []feel.ThrottleCurve{{Middle: 0.5}, {Middle: 0.15}, {Middle: 0.25, Bend: 0.3}} {
		in := sample()
		in.Settings.Curve, in.Pack.Capacity = curve, 5000
		s := mustNew(t, in)
		p := newFlyer(in, HoverCard, Steady)
		p.hover, p.backHover = s.hovers(in.Mass)
		s.begin(20, 0, p)
		for i := range p.seen {
			p.seen[i] = s.seen()
		}
		worst := 0.0
		for n := range 30 * in.rate() {
			if n%(in.rate()/handRate) == 0 {
				now := s.seen()
				p.caught(20, p.sees(now), 1.0/handRate)
				moved := p.frame()
				s.control.hear(&moved)
				if now.Time > 5 {
					worst = math.Max(worst, math.Abs(now.Velocity[2]))
				}
			}
			s.fly()
		}
		if worst > 0.35 {
			t.Errorf("%+v: it rises and falls at %.2f m/s", curve, worst)
		}
	}
}
