package app_test

import (
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"vividperch/app"
	"vividperch/bench/client"
	"vividperch/bench/protocol"
	"vividperch/core/check"
	"vividperch/core/quad"
	"vividperch/core/sticks"
	"vividperch/demo/benchtest"
)

// hands are at a bench beside the program: they hold what they are told, and see how it lies.
type hands struct {
	*world
	id    int64
	bench *app.Bench
	eyes  *client.Device
}

// atBench puts Dunlin on a bench with its travel mended, pack in and radio on.
func atBench(t *testing.T) *hands {
	w := newWorld(t)
	h := &hands{world: w, id: w.dunlin()}
	address := benchtest.Serve(t, benchtest.Dunlin(t), false)
	h.bench, h.eyes = w.benchAt(address)
	full := 100.0
	if err := h.bench.Adjust(t.Context(), protocol.Adjust{Travel: &full}); err != nil {
		t.Fatal(err)
	}
	w.set(h.bench, protocol.Things{Pack: yes(), Radio: yes()})
	w.until("ready to arm", func() bool {
		l := h.look()
		return l.Board == "running" && len(l.Channels) > 0 && !slices.ContainsFunc(l.Gates, func(g sticks.Gate) bool { return g.Holds && g.Name != "switch" })
	})
	return h
}

func (h *hands) look() protocol.Live {
	h.t.Helper()
	l, err := h.eyes.Call(h.t.Context(), protocol.MethodLook, nil)
	if err != nil {
		h.t.Fatal(err)
	}
	return l
}

// holding renews a motion until something is so.
func (h *hands) holding(m protocol.Motion, until func() bool) {
	h.t.Helper()
	for end := time.Now().Add(60 * time.Second); !until(); time.Sleep(50 * time.Millisecond) {
		_ = h.Hold(h.t.Context(), h.id, m)
		if time.Now().After(end) {
			h.t.Fatalf("never so: %+v", h.look())
		}
	}
}

// arms and keeps it armed for as long as the next hold comes soon. A board that was just restarted wants to see the switch off first: a hand
// that is refused lets go, and holds again.
func (h *hands) arms(m protocol.Motion, so func() bool) {
	h.t.Helper()
	for range 20 {
		patience := time.Now().Add(3 * time.Second)
		h.holding(m, func() bool { return so() || time.Now().After(patience) })
		if so() {
			return
		}
		h.until("the hand let go", func() bool { return h.look().Motion == "" })
		time.Sleep(300 * time.Millisecond) // the board hears the switch off
	}
	h.t.Fatalf("it does not arm: %+v", h.look())
}

// taking a reading while a hand holds. A hold that a busy machine broke is made anew, as the answer asks for: armed again where it was.
func (h *hands) taking(m protocol.Motion, path quad.Path) error {
	h.t.Helper()
	var err error
	for range 5 {
		done := make(chan error, 1)
		go func() {
			_, err := h.Take(h.t.Context(), h.id, path)
			done <- err
		}()
		h.holding(m, func() bool {
			select {
			case err = <-done:
				return true
			default:
				return false
			}
		})
		if c := code(err); c != "let-go" && c != "not-armed" {
			break
		}
		h.until("the radio is back", func() bool { return h.look().Radio })
		atRest := m
		atRest.Level = 0
		if m.Kind == protocol.MotionArm {
			h.arms(atRest, func() bool { return h.look().Armed })
		}
	}
	return err
}

// kept is a reading's words, or nothing.
func (h *hands) kept(path quad.Path) string {
	h.t.Helper()
	for _, p := range h.view(h.id).Line {
		for _, r := range p.Readings {
			if r.Path == path {
				return r.Words
			}
		}
	}
	return ""
}

var armed = protocol.Motion{Kind: protocol.MotionArm, Switch: "left shoulder", Position: "armed"}

// What a receiver puts out without a radio is looked at with the radio off, and the radio is on again after, whatever it was.
func TestWhatAReceiverPutsOutIsTaken(t *testing.T) {
	t.Parallel()
	h := atBench(t)
	for _, out := range []quad.LossOutput{quad.LossHold, quad.LossPreset, quad.LossSilence} {
		if err := h.bench.Adjust(t.Context(), protocol.Adjust{OnLoss: &out}); err != nil {
			t.Fatal(err)
		}
		if out == quad.LossPreset { // its presets have the throttle low: where it is anyhow, a preset looks like a hold
			if err := h.bench.Stick(t.Context(), protocol.Stick{Axis: quad.Roll, Place: 0.8}); err != nil {
				t.Fatal(err)
			}
			h.until("the stick is seen", func() bool { return h.look().Sticks[quad.Roll] > 0.5 })
		}
		if _, err := h.Take(t.Context(), h.id, "readings.loss.output"); err != nil {
			t.Fatalf("%s: %v", out, err)
		}
		if got := h.kept("readings.loss.output"); got != string(out) {
			t.Errorf("%s is kept as %q", out, got)
		}
		h.until("the radio is on again", func() bool { return h.look().Radio && len(h.look().Channels) > 0 })
	}
	h.set(h.bench, protocol.Things{Radio: no()})
	if _, err := h.Take(t.Context(), h.id, "readings.loss.output"); code(err) != "no-link" {
		t.Errorf("with the radio off: %v", err)
	}
}

// A gate is looked at while the throttle is up, and at no other time; the output that turns is waited for.
func TestGateAndOutputAreTakenWhileHeld(t *testing.T) {
	t.Parallel()
	h := atBench(t)
	if err := h.taking(armed, "readings.benchProof.gateRefuses"); code(err) != "not-held" {
		t.Errorf("with the throttle down: %v", err)
	}
	raised := armed
	raised.Level = 25
	if err := h.bench.Rest(t.Context()); err != nil {
		t.Fatal(err)
	}
	h.until("let go", func() bool { l := h.look(); return l.Motion == "" && !l.Armed && !turns(l) })
	if err := h.taking(raised, "readings.benchProof.gateRefuses"); err != nil {
		t.Fatal(err)
	}
	if got := h.kept("readings.benchProof.gateRefuses"); got != "yes" {
		t.Errorf("the gate is kept as %q", got)
	}
	if err := h.bench.Rest(t.Context()); err != nil {
		t.Fatal(err)
	}
	h.until("still", func() bool { l := h.look(); return l.Motion == "" && !turns(l) })

	// The hand holds a while after the look began.
	done := make(chan error, 1)
	go func() {
		_, err := h.Take(t.Context(), h.id, "readings.motors.outputs.A")
		done <- err
	}()
	time.Sleep(150 * time.Millisecond) // less than the look waits
	var err error
	h.holding(protocol.Motion{Kind: protocol.MotionSpin, Output: "A", Level: 8}, func() bool {
		select {
		case err = <-done:
			return true
		default:
			return false
		}
	})
	if err != nil || h.kept("readings.motors.outputs.A") == "" {
		t.Errorf("an output that began to turn meanwhile: %v", err)
	}
}

// How the board lies is found by moving the frame: whatever it was told, and at no time while something may turn.
func TestHowTheBoardLiesIsFound(t *testing.T) {
	t.Parallel()
	h := atBench(t)
	take := func(want string) {
		t.Helper()
		if _, err := h.Take(t.Context(), h.id, "readings.senses.boardLies"); err != nil {
			t.Fatal(err)
		}
		if got := h.kept("readings.senses.boardLies"); got != want {
			t.Errorf("it lies %q, want %q", got, want)
		}
	}
	lying := 20.0 // on a cushion: what counts is how the lean changes
	if err := h.bench.Set(t.Context(), protocol.Things{TiltRoll: &lying}); err != nil {
		t.Fatal(err)
	}
	take("pitched -1°, rolled 3°")
	flat := 0.0
	if err := h.bench.Set(t.Context(), protocol.Things{TiltRoll: &flat}); err != nil {
		t.Fatal(err)
	}
	var err error
	for range 5 { // a hold that a busy machine broke is made anew
		h.arms(armed, func() bool { return h.look().Armed })
		if err = h.taking(armed, "readings.senses.boardLies"); err != nil {
			break
		}
	}
	if code(err) != "armed" {
		t.Errorf("the frame was tilted while it was armed: %v", err)
	}
	if err := h.bench.Rest(t.Context()); err != nil {
		t.Fatal(err)
	}
	h.until("let go", func() bool { return h.look().Motion == "" && !h.look().Armed })
	// Told otherwise, it shows the same tilt as another one, and is found where it was.
	h.edit(h.id, "sheet.senses.boardYaw", "90")
	if _, err := h.WriteBoard(t.Context(), h.id); err != nil {
		t.Fatal(err)
	}
	take("pitched -1°, rolled 3°")
	found := false
	for _, f := range h.view(h.id).Line[check.Senses.Number()-1].Findings {
		if f.Rule == "senses.board-lies" {
			found = f.Weight == check.Stop
		}
	}
	if !found {
		t.Error("that it lies otherwise than it was told is no stop")
	}
}

// Where it is to land, the motors go to the landing throttle when the radio is off: that is what was set, and it has not armed by itself.
func TestALandingIsTaken(t *testing.T) {
	t.Parallel()
	h := atBench(t)
	silent := quad.LossSilence
	if err := h.bench.Adjust(t.Context(), protocol.Adjust{OnLoss: &silent}); err != nil {
		t.Fatal(err)
	}
	h.edit(h.id, "sheet.loss.policy", `"land"`)
	h.edit(h.id, "sheet.loss.landThrottle", "30")
	if _, err := h.WriteBoard(t.Context(), h.id); err != nil {
		t.Fatal(err)
	}
	h.arms(armed, func() bool { l := h.look(); return l.Armed && turns(l) })
	if err := h.taking(armed, "readings.loss.response"); err != nil {
		t.Fatal(err)
	}
	for path, want := range map[quad.Path]string{"readings.loss.response": "went to landing throttle", "readings.benchProof.radioOff": "yes", "readings.loss.rearms": "no", "readings.loss.output": "silence"} {
		if got := h.kept(path); got != want {
			t.Errorf("%s is kept as %q, want %q", path, got, want)
		}
	}
}

// Motors that are still coming up to speed as the radio goes off are waited for: their gain of speed is no landing throttle.
func TestMotorsComingUpToSpeedAreNoLanding(t *testing.T) {
	t.Parallel()
	h := atBench(t)
	holds := quad.LossHold
	if err := h.bench.Adjust(t.Context(), protocol.Adjust{OnLoss: &holds}); err != nil {
		t.Fatal(err)
	}
	h.edit(h.id, "sheet.loss.guard", "0.1") // after which it is looked at how fast they turn
	if _, err := h.WriteBoard(t.Context(), h.id); err != nil {
		t.Fatal(err)
	}
	h.arms(armed, func() bool { return h.look().Armed })
	fast := armed
	fast.Level = 60
	if err := h.taking(fast, "readings.loss.response"); err != nil {
		t.Fatal(err)
	}
	if got := h.kept("readings.loss.response"); got != "never stopped" {
		t.Errorf("a receiver that holds what it heard last: the motors %s", got)
	}
}

// A receiver that puts out the arm switch off stops the motors, and as the radio comes back with the switch still on it arms by itself:
// both are seen.
func TestArmingAnewIsSeen(t *testing.T) {
	t.Parallel()
	h := atBench(t)
	preset := quad.LossPreset
	if err := h.bench.Adjust(t.Context(), protocol.Adjust{OnLoss: &preset}); err != nil {
		t.Fatal(err)
	}
	h.arms(armed, func() bool { l := h.look(); return l.Armed && turns(l) })
	if err := h.taking(armed, "readings.loss.response"); err != nil {
		t.Fatal(err)
	}
	if got := h.kept("readings.loss.response"); !strings.HasPrefix(got, "stopped after") {
		t.Errorf("the motors %s", got)
	}
	if got := h.kept("readings.loss.rearms"); got != "yes" {
		t.Errorf("it arms by itself: %q", got)
	}
}

// Across the lead it is measured twice, and both are kept.
func TestTheLeadIsMeasuredTwice(t *testing.T) {
	t.Parallel()
	h := atBench(t)
	off := false
	if err := h.bench.Set(t.Context(), protocol.Things{Pack: &off}); err != nil {
		t.Fatal(err)
	}
	if _, err := h.Take(t.Context(), h.id, "readings.firstPower.leadResistance"); err != nil {
		t.Fatal(err)
	}
	if got := h.kept("readings.firstPower.leadResistance"); !regexp.MustCompile(`^\d+.* Ω.*\d+`).MatchString(got) || strings.Contains(got, "0 Ω at once") {
		t.Errorf("kept as %q", got)
	}
}

// The throttle at which the slowest starts is kept to a tenth.
func TestTheSlowestStartIsTaken(t *testing.T) {
	t.Parallel()
	h := atBench(t)
	raise := func(output string) {
		for level := 2.0; ; level += 0.5 {
			m := protocol.Motion{Kind: protocol.MotionSpin, Output: output, Level: level}
			if err := h.Hold(t.Context(), h.id, m); err != nil {
				t.Fatal(err)
			}
			h.until("seen", func() bool { return h.look().Level == level || h.look().Motion == "" })
			time.Sleep(60 * time.Millisecond) // a few moments of the bench, which the program notes
			if turns(h.look()) || level > 12 {
				break
			}
		}
		if err := h.bench.Rest(t.Context()); err != nil {
			t.Fatal(err)
		}
		h.until("still", func() bool { return !turns(h.look()) })
	}
	var err error
	for range 8 { // a hold that a busy machine broke tells nothing, and is made anew
		for _, output := range []string{"A", "B", "C", "D"} {
			raise(output)
		}
		if _, err = h.Take(t.Context(), h.id, "readings.motors.startsAt"); code(err) != "not-all-started" {
			break
		}
	}
	if err != nil {
		t.Fatal(err)
	}
	if got := h.kept("readings.motors.startsAt"); !regexp.MustCompile(`^[3-7](\.\d)? %$`).MatchString(got) {
		t.Errorf("the slowest starts at %q", got)
	}
}

// A hold that was just let go is no motor that turns by itself; one that still holds is told so.
func TestRestIsLookedAtOnceTheHandLetGo(t *testing.T) {
	t.Parallel()
	h := atBench(t)
	spin := protocol.Motion{Kind: protocol.MotionSpin, Output: "A", Level: 8}
	h.holding(spin, func() bool { return turns(h.look()) })
	if _, err := h.Take(t.Context(), h.id, "readings.motors.restStill"); err != nil {
		t.Fatal(err)
	}
	if got := h.kept("readings.motors.restStill"); got != "yes" {
		t.Errorf("what coasted is kept as rest: %q", got)
	}
	var err error
	for range 8 { // a busy machine may break the hold in the middle of it, and then it is at rest
		if err = h.taking(spin, "readings.motors.restStill"); err != nil {
			break
		}
	}
	if code(err) != "not-at-rest" {
		t.Errorf("while it is held: %v", err)
	}
}

// Motors that stop later than the sheet says were not stopped by what is set there: a board that holds another time is seen by it.
func TestAStopThatComesLateIsNotAsSet(t *testing.T) {
	t.Parallel()
	h := atBench(t)
	silent := quad.LossSilence
	if err := h.bench.Adjust(t.Context(), protocol.Adjust{OnLoss: &silent}); err != nil {
		t.Fatal(err)
	}
	h.edit(h.id, "sheet.loss.guard", "2")
	if _, err := h.WriteBoard(t.Context(), h.id); err != nil {
		t.Fatal(err)
	}
	h.edit(h.id, "sheet.loss.guard", "0.2")
	h.arms(armed, func() bool { l := h.look(); return l.Armed && turns(l) })
	if err := h.taking(armed, "readings.loss.response"); err != nil {
		t.Fatal(err)
	}
	if response, asSet := h.kept("readings.loss.response"), h.kept("readings.benchProof.radioOff"); !strings.HasPrefix(response, "stopped after") || asSet != "no" {
		t.Errorf("the motors %s, as set: %s", response, asSet)
	}
}

// Who clicks at something else while a reading is under way waits for it, and is not refused.
func TestReadingsWaitForEachOther(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	b := w.attach()
	w.set(b, protocol.Things{Pack: yes(), Radio: yes()})
	w.until("channels arrive", func() bool { _, err := w.Take(t.Context(), id, "readings.sticks.axes.pitch"); return err == nil })
	paths := []quad.Path{"readings.sticks.axes.roll", "readings.sticks.axes.yaw", "readings.sticks.switches.left face"}
	errs := make(chan error, len(paths))
	for _, p := range paths {
		go func() {
			errs <- w.captures(id, p)
		}()
	}
	for range paths {
		if err := <-errs; err != nil {
			t.Error(err)
		}
	}
	for _, p := range paths {
		if w.reading(id, check.Sticks, p) == "" {
			t.Errorf("%s was not kept", p)
		}
	}
}
