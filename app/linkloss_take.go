package app

import (
	"context"
	"math"
	"time"

	"vividperch/bench/protocol"
	"vividperch/core/linkloss"
	"vividperch/core/quad"
	"vividperch/core/sticks"
)

func takeLossOutput(ctx context.Context, t *taking) error {
	if !t.live.Radio || len(t.live.Channels) == 0 {
		return quad.Faultf("no-link", string(t.path), "no channels arrive: pack in, radio on")
	}
	if t.live.Armed {
		return quad.Faultf("armed", string(t.path), "disarm first: this looks at the channels only")
	}
	off, on := false, true
	if err := t.set(ctx, protocol.Things{Radio: &off}); err != nil {
		return err
	}
	defer t.set(context.WithoutCancel(ctx), protocol.Things{Radio: &on})
	l, _, err := t.until(ctx, 900*time.Millisecond, func(l protocol.Live) bool { return len(l.Channels) == 0 })
	if err != nil {
		return err
	}
	return t.put(t.path, lossOutput(t.live.Channels, l.Channels))
}

// lossOutput judges what arrives without a radio against what arrived last with one.
func lossOutput(before, after []float64) quad.LossOutput {
	if len(after) == 0 {
		return quad.LossSilence
	}
	for i := range after {
		if i < len(before) && math.Abs(after[i]-before[i]) > 20 {
			return quad.LossPreset
		}
	}
	return quad.LossHold
}

// takeLossResponse turns the radio off while the pilot holds it armed, times the motors, turns it on again
// and watches whether it arms by itself.
func takeLossResponse(ctx context.Context, t *taking) error {
	l, ok, err := t.until(ctx, time.Second, func(l protocol.Live) bool { return l.Motion == protocol.MotionArm && l.Armed && turning(l) > 0 })
	if err != nil {
		return err
	}
	if !ok {
		return quad.Faultf("not-armed", string(t.path), "hold it armed, motors turning, then measure%s", heldBack(l))
	}
	// Motors that still come up to speed would seem to go to another throttle once they have; their pace is held against the steady one.
	held, pace, since := l, paceOf(l), l.Time
	if l, ok, err = t.until(ctx, steadies, func(l protocol.Live) bool {
		if now := paceOf(l); math.Abs(now-pace) > overBy/5*pace {
			pace, since = now, l.Time
		}
		return !sameHold(held, l) || l.Time-since >= 250
	}); err != nil {
		return err
	}
	switch {
	case !sameHold(held, l):
		return quad.Faultf("let-go", string(t.path), "you let go before the radio was off: nothing is known; hold until it says so")
	case !ok:
		return quad.Faultf("restless", string(t.path), "the motors do not turn steadily: hold the throttle still, then measure")
	}
	before := l.Channels
	off, on := false, true
	if err := t.set(ctx, protocol.Things{Radio: &off}); err != nil {
		return err
	}
	defer t.set(context.WithoutCancel(ctx), protocol.Things{Radio: &on})
	start, _, err := t.bench.look()
	if err != nil {
		return err
	}
	if !sameHold(l, start) {
		return quad.Faultf("let-go", string(t.path), "you let go as the radio went off: nothing is known; hold until it says so")
	}
	guard := time.Duration(t.known.Sheet.Loss.Guard * float64(time.Second))
	released := false
	var emits quad.LossOutput
	over, rose := 0, 0 // moments since the guard time at which they turned otherwise than before, and at which faster
	stood := int64(0)
	_, stopped, err := t.until(ctx, guard+2500*time.Millisecond, func(l protocol.Live) bool {
		released = released || !sameHold(start, l)
		if now := paceOf(l); l.Time-start.Time > guard.Milliseconds()+settles.Milliseconds() && math.Abs(now-pace) > overBy*pace {
			if over++; now > pace {
				rose++
			}
		}
		if emits == "" && l.Time-start.Time > 250 {
			emits = lossOutput(before, l.Channels)
		}
		if stood == 0 && turning(l) == 0 {
			stood = l.Time
		}
		return stood > 0 && emits != "" || released // motors that stop at once are watched on, until it is known what arrives
	})
	if err != nil {
		return err
	}
	if released {
		return quad.Faultf("let-go", string(t.path), "you let go before the motors had stopped: nothing is known; hold until it says so")
	}
	response := quad.LossResponse{Motors: quad.NeverStopped}
	switch {
	case stopped:
		response = quad.LossResponse{Motors: quad.StoppedAfter, After: max(0.01, math.Round(float64(stood-start.Time)/10)/100)}
	case over > 3:
		response = quad.LossResponse{Motors: quad.WentOver}
		// A landing throttle may lie above the one it was held at; only a way home begins with a climb.
		if t.known.Sheet.Loss.Policy == quad.PolicyReturn && rose == over {
			response.Motors = quad.Rose
		}
	}
	if err := t.put("readings.loss.response", response); err != nil {
		return err
	}
	if err := t.put("readings.loss.output", emits); err != nil {
		return err
	}
	if t.known.Sheet.Loss.Policy == quad.PolicyReturn {
		// What its display says of home, looked at while it was armed.
		if err := t.put("readings.senses.homeKnown", start.Home); err != nil {
			return err
		}
	}
	asSet := stopped && response.After <= t.known.Sheet.Loss.Guard+linkloss.Stop
	lands := t.known.Sheet.Loss.Policy.Descends()
	if lands {
		asSet = response.Motors == quad.WentOver || response.Motors == quad.Rose
	}
	if err := t.put("readings.benchProof.radioOff", asSet); err != nil {
		return err
	}
	if !stopped {
		if asSet {
			return t.put("readings.loss.rearms", false) // it has never disarmed, and lands until the switch goes off
		}
		return nil // whether it re-arms cannot be seen while it never disarmed
	}
	if err := t.set(ctx, protocol.Things{Radio: &on}); err != nil {
		return err
	}
	_, rearmed, err := t.until(ctx, 1200*time.Millisecond, func(l protocol.Live) bool {
		released = released || !sameHold(start, l)
		return l.Armed || released
	})
	if err != nil {
		return err
	}
	if released {
		return quad.Faultf("let-go", string(t.path), "you let go before the radio was back: hold until it says so")
	}
	return t.put("readings.loss.rearms", rearmed)
}

// How long motors take to settle at another throttle, and by what share of their pace they must differ to be at one.
const (
	settles  = 500 * time.Millisecond
	steadies = 3 * time.Second // at most, until the motors have come up to one speed
	overBy   = 0.25
)

// paceOf all four together.
func paceOf(l protocol.Live) float64 {
	sum := 0.0
	for _, c := range l.Corners {
		sum += c.Pace
	}
	return sum
}

// sameHold says whether the hand that armed it still does, without having let go in between: a hold that was
// broken and taken up again stops the motors by itself, which must not pass for what the board did.
func sameHold(began, now protocol.Live) bool {
	return now.Motion == protocol.MotionArm && now.Holds == began.Holds
}

func heldBack(l protocol.Live) string {
	for _, g := range l.Gates {
		if g.Holds {
			return ". " + g.Sentence
		}
	}
	return ""
}

// takeGate looks whether a raised throttle keeps it from arming, while the pilot holds the switch on.
func takeGate(ctx context.Context, t *taking) error {
	began, ok, err := t.until(ctx, time.Second, func(l protocol.Live) bool { return l.Motion == protocol.MotionArm && l.Level >= 20 })
	if err != nil {
		return err
	}
	if !ok {
		return quad.Faultf("not-held", string(t.path), "hold the arm switch on with the throttle up")
	}
	released := false
	_, armed, err := t.until(ctx, 700*time.Millisecond, func(l protocol.Live) bool {
		released = released || !sameHold(began, l)
		return l.Armed || turning(l) > 0 || released
	})
	if err != nil {
		return err
	}
	if released {
		return quad.Faultf("let-go", string(t.path), "you let go before it was seen whether it arms: hold until it says so")
	}
	return t.put(t.path, !armed)
}

// A yaw that is looked at: how long the hand takes over it, after how long a silence nobody knows any more what it did, how fast the motors must differ and how firmly the frame must pull to be
// noticed.
const (
	yawStill    = 4 * time.Second
	yawCalm     = 300 * time.Millisecond
	yawLooked   = 700 * time.Millisecond
	yawGap      = 130 * time.Millisecond
	paceNoticed = 0.004
	pullNoticed = 0.05
)

// yawed has the hand do something, and again where a silence hid what came of it.
func yawed(ctx context.Context, t *taking, hand protocol.Sweep, anew, seen func(protocol.Live)) error {
	for again := 1; ; again++ {
		err := yawing(ctx, t, hand, anew, seen)
		if f := quad.AsFault(err); f == nil || f.Code != sticks.Unheard || again == sweeps {
			return err
		}
	}
}

// yawing has the hand do something while the pilot holds it armed, and looks at what comes of it, by the bench's clock. anew is called with
// how it lies still, before the hand begins, seen with every moment from then on.
func yawing(ctx context.Context, t *taking, hand protocol.Sweep, anew, seen func(protocol.Live)) error {
	began, ok, err := t.until(ctx, time.Second, func(l protocol.Live) bool {
		return l.Motion == protocol.MotionArm && l.Armed && turning(l) == len(quad.Corners)
	})
	if err != nil {
		return err
	}
	if !ok {
		return quad.Faultf("not-armed", string(t.path), "hold it armed, motors turning, then look%s", heldBack(began))
	}
	// Until it lies still in the hand, what it does may come from what the hand did before.
	released, stillFrom := false, began.Time
	still, ok, err := t.until(ctx, yawStill, func(l protocol.Live) bool {
		if math.Abs(l.Twist) > pullNoticed/2 {
			stillFrom = l.Time
		}
		released = released || !sameHold(began, l)
		return released || l.Time-stillFrom >= yawCalm.Milliseconds()
	})
	if err != nil {
		return err
	}
	if !ok && !released {
		return quad.Faultf("restless", string(t.path), "it pulls in the hand by itself; let go, and hold it anew")
	}
	anew(still)
	from, err := t.call(ctx, protocol.MethodSweep, hand)
	if err != nil {
		return err
	}
	last, gap := from.Time, int64(0)
	_, ok, err = t.until(ctx, 5*yawLooked, func(l protocol.Live) bool {
		if released = released || !sameHold(began, l); released || l.Time <= last {
			return released
		}
		gap, last = max(gap, l.Time-last), l.Time
		if l.Time-from.Time <= yawLooked.Milliseconds() {
			seen(l)
		}
		return l.Time-from.Time >= yawLooked.Milliseconds()
	})
	switch {
	case err != nil:
		return err
	case released:
		return quad.Faultf("let-go", string(t.path), "you let go before it was seen: hold until it says so")
	case !ok || gap > yawGap.Milliseconds():
		return quad.Faultf(sticks.Unheard, string(t.path), "for a moment nothing arrived from the bench, and nobody knows what it did then: hold it once more")
	}
	return nil
}

// takeFrameYaw has the hand turn the frame clockwise, and looks whether the motors that turn clockwise speed up: by their reaction they
// twist the frame back.
func takeFrameYaw(ctx context.Context, t *taking) error {
	ahead := func(l protocol.Live) float64 {
		x := 0.0
		for _, c := range l.Corners {
			switch c.Spin {
			case quad.Clockwise:
				x += c.Pace / 2
			case quad.CounterClockwise:
				x -= c.Pace / 2
			}
		}
		return x
	}
	// By how much clockwise ones ran ahead of the others while it lay still: the longer it is held, the more the controller has wound up.
	// What the turn adds to that, of either sign, is its answer.
	before, most := 0.0, 0.0
	err := yawed(ctx, t, protocol.Sweep{Frame: true}, func(still protocol.Live) { before, most = ahead(still), 0 }, func(l protocol.Live) {
		if x := ahead(l) - before; math.Abs(x) > math.Abs(most) {
			most = x
		}
	})
	if err != nil {
		return err
	}
	return t.put(t.path, most > paceNoticed)
}

// takeStickYaw has the hand push the yaw stick to the right, and feels whether the frame pulls clockwise.
func takeStickYaw(ctx context.Context, t *taking) error {
	first := 0.0 // as the stick goes out; as it comes back the frame pulls the other way
	err := yawed(ctx, t, protocol.Sweep{Axis: quad.Yaw}, func(protocol.Live) { first = 0 }, func(l protocol.Live) {
		if first == 0 && l.Sticks[quad.Yaw] > 0.05 && math.Abs(l.Twist) > pullNoticed {
			first = l.Twist
		}
	})
	if err != nil {
		return err
	}
	return t.put(t.path, first > 0)
}

// takeBeeper puts the beeper's switch where it sounds, listens, and puts it back.
func takeBeeper(ctx context.Context, t *taking) error {
	if !t.live.Radio || len(t.live.Channels) == 0 {
		return quad.Faultf("no-link", string(t.path), "no channels arrive: pack in, radio on")
	}
	if t.live.Beeping {
		return quad.Faultf("sounds", string(t.path), "it sounds already, as for a low pack: charge that first")
	}
	best := sticks.Arrival{}
	for _, a := range sticks.NewSwitchboard(t.known).Arrivals(t.known.Sheet.Sticks.Beeper) {
		if a.Inside && (best.At == nil || a.Margin > best.Margin) {
			best = a
		}
	}
	if best.At == nil {
		return quad.Faultf("no-switch", string(t.path), "no switch of the radio reaches its range")
	}
	put := func(ctx context.Context, at map[string]string) error {
		for _, name := range quad.SortedKeys(best.At) {
			if _, err := t.call(ctx, protocol.MethodStick, protocol.Stick{Switch: name, Position: at[name]}); err != nil {
				return err
			}
		}
		return nil
	}
	before := t.live.Switches
	if err := put(ctx, best.At); err != nil {
		return err
	}
	defer put(context.WithoutCancel(ctx), before)
	_, heard, err := t.until(ctx, 1500*time.Millisecond, func(l protocol.Live) bool { return l.Beeping })
	if err != nil {
		return err
	}
	return t.put(t.path, heard)
}
