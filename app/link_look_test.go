package app_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"vividperch/app"
	"vividperch/bench/client"
	"vividperch/bench/protocol"
	"vividperch/core/inquiry"
	"vividperch/core/link"
	"vividperch/core/quad"
	"vividperch/demo/benchtest"
)

// linkWorld is a quad on the bench with one kind of control link, whose hands are the test's.
type linkWorld struct {
	*world
	id   int64
	b    *app.Bench
	hand *client.Device
	gear link.Gear
}

// hurry is how many times as fast as the wall's the clocks of these benches run: a binding is mostly waiting.
const hurry = 3

// linked puts a quad with the link's gear on the bench, spoilt by a cause.
func linked(t *testing.T, name, fault string) *linkWorld {
	t.Helper()
	w := newWorld(t)
	kit := benchtest.Dunlin(t)
	parts := map[string]string{"parts.receiver.telemetry": "true"}
	if name == "Groyne" {
		parts = map[string]string{
			"parts.receiver.link": `"Groyne"`, "parts.receiver.version": `"2.0.0"`, "parts.radioModule.link": `"Groyne"`, "parts.radioModule.version": `"2.1.0"`,
			"parts.radioModule.external": "true", "radio.number": "12", "parts.receiver.telemetry": "false",
		}
		kit.Parts.Receiver.Link, kit.Parts.Receiver.Version, kit.Parts.Receiver.Telemetry = "Groyne", "2.0.0", false
		kit.Parts.RadioModule.Link, kit.Parts.RadioModule.Version, kit.Parts.RadioModule.External = "Groyne", "2.1.0", true
		kit.Link.Number = 12
	}
	kit.Link.Fault = fault
	id := w.bare()
	for path, value := range parts {
		w.edit(id, quad.Path(path), value)
	}
	g, _ := link.GearOf(name, nil)
	b, hand := w.benchAt(benchtest.ServeHurried(t, kit, hurry))
	return &linkWorld{w, id, b, hand, g}
}

func (w *linkWorld) things(t protocol.Things) {
	w.t.Helper()
	if err := w.b.Set(w.t.Context(), t); err != nil {
		w.t.Fatal(err)
	}
}

func (w *linkWorld) radio(s protocol.RadioSet) {
	w.t.Helper()
	if err := w.b.Radio(w.t.Context(), s); err != nil {
		w.t.Fatal(err)
	}
}

func (w *linkWorld) receiver(s protocol.ReceiverSet) {
	w.t.Helper()
	if err := w.b.Receiver(w.t.Context(), s); err != nil {
		w.t.Fatal(err)
	}
}

// live now, straight from the device.
func (w *linkWorld) live() protocol.Live {
	w.t.Helper()
	l, err := w.hand.Call(w.t.Context(), protocol.MethodLook, nil)
	if err != nil {
		w.t.Fatal(err)
	}
	return l
}

// pause for so many ms of the device's own clock.
func (w *linkWorld) pause(ms int64) {
	w.t.Helper()
	from := w.live().Time
	w.until("time to pass", func() bool { return w.live().Time-from >= ms })
}

func (w *linkWorld) sees(s link.State, within int64) bool {
	from := w.live().Time
	for {
		l := w.live()
		if told, ok := w.gear.Told(l.Link.Light); ok && told == s {
			return true
		}
		if l.Time-from > within {
			return false
		}
		time.Sleep(10 * time.Millisecond)
	}
}

// enter binding by hand, as the receiver's card says; once more when the hand was too slow.
func (w *linkWorld) enter() {
	if !w.tryToEnter() {
		w.tryToEnter()
	}
}

func (w *linkWorld) tryToEnter() bool {
	w.things(protocol.Things{Pack: no(), USB: no()})
	w.pause(2300) // no start from before is counted
	if w.gear.Has(link.Button) {
		w.receiver(protocol.ReceiverSet{Button: yes()})
		w.things(protocol.Things{Pack: yes()})
		entered := w.sees(link.Binding, 1500)
		w.receiver(protocol.ReceiverSet{Button: no()})
		return entered
	}
	for range w.gear.Timing.Cycles - 1 {
		w.things(protocol.Things{Pack: yes()})
		w.pause(600)
		w.things(protocol.Things{Pack: no()})
		w.pause(600)
	}
	w.things(protocol.Things{Pack: yes()})
	return w.sees(link.Binding, 2000)
}

func (w *linkWorld) cycle() {
	w.things(protocol.Things{Pack: no(), USB: no()})
	w.pause(1300)
	w.things(protocol.Things{Pack: yes()})
}

func (w *linkWorld) bindAnew() {
	w.enter()
	w.radio(protocol.RadioSet{Call: yes()})
}

// mended does what a remedy says.
func (w *linkWorld) mend(cause link.CauseID) {
	w.t.Helper()
	repair := func(what protocol.Mend) {
		w.things(protocol.Things{Pack: no(), USB: no()})
		w.receiver(protocol.ReceiverSet{Repair: what})
		w.things(protocol.Things{Pack: yes()})
	}
	right, eight, three := quad.ModuleInternal, 8, 3.0
	if w.gear.Link == "Groyne" {
		right = quad.ModuleExternal
	}
	switch cause {
	case "noSupply", "unheard":
		repair("supply")
	case "packOnly", "page":
		w.cycle()
	case "dead", "otherLink", "otherBand", "otherRegion":
		repair("receiver")
		if w.gear.Link == "Groyne" {
			w.bindAnew()
		}
	case "elsewhere", "windowPast":
		w.bindAnew()
	case "wrongModule", "moduleOff", "bothModules":
		w.radio(protocol.RadioSet{Modules: &right})
	case "noAntenna":
		repair("antenna")
	case "phraseLoose", "phraseOther":
		phrase := "one for both"
		w.radio(protocol.RadioSet{Phrase: &phrase})
		w.receiver(protocol.ReceiverSet{Phrase: &phrase})
		w.cycle()
	case "major":
		m, _, err := w.hand.Labels(w.t.Context())
		if err != nil {
			w.t.Fatal(err)
		}
		w.receiver(protocol.ReceiverSet{Version: &m.Version})
	case "numberOther":
		number := w.view(w.id).Meant.Radio.Number
		w.radio(protocol.RadioSet{Number: &number})
	case "mode":
		w.radio(protocol.RadioSet{Channels: &eight, Telemetry: no()})
		w.bindAnew()
	case "tooNear":
		w.radio(protocol.RadioSet{Distance: &three})
		w.bindAnew()
	case "buttonShort":
		repair("button")
		w.bindAnew()
	case "cyclesSlow":
		repair("supply")
		w.bindAnew()
	default:
		w.t.Fatalf("nobody knows how to mend %s", cause)
	}
}

// attempt to bind like somebody who does not know what is wrong.
func (w *linkWorld) attempt(cause link.CauseID) {
	w.things(protocol.Things{Radio: yes(), Propellers: no()})
	switch cause {
	case "packOnly":
		w.things(protocol.Things{USB: yes()})
	case "page":
		w.things(protocol.Things{Radio: no(), Pack: yes()})
		w.pause(2000)
		w.things(protocol.Things{Radio: yes()})
	case "windowPast":
		w.radio(protocol.RadioSet{Call: yes()})
		w.pause(3000)
		w.enter()
	case "tooNear":
		w.radio(protocol.RadioSet{Call: yes()})
		w.enter()
		w.pause(2000)
	default:
		w.things(protocol.Things{Pack: yes()})
	}
}

// Every fault that the stand-in's link can have keeps it from binding; the questions, answered by nothing but what the bench
// shows, lead to it and to it alone within six; and what its remedy says has the channels arrive.
func TestEveryReasonIsFoundByLookingUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	newWorld(t) // the tables, before several ask for them at once
	for _, name := range link.Shipped() {
		g, _ := link.GearOf(name, nil)
		for _, cause := range link.CausesFor(g) {
			t.Run(name+"/"+string(cause.ID), func(t *testing.T) {
				t.Parallel()
				w := linked(t, name, string(cause.ID))
				given := map[link.QuestionID]string{}
				var in *inquiry.Inquiry
				// A radio calls for some seconds by the clock. Where others held the machine until it had stopped, that is another cause: it calls again.
				for tries := 0; tries < 4; tries++ {
					clear(given)
					w.attempt(cause.ID)
					w.pause(1500)
					if l := w.live(); len(l.Channels) > 0 {
						t.Fatal("with this fault the channels arrive")
					}
					var err error
					for in, err = w.Why(t.Context(), w.id, given); err == nil && in.Next != nil; in, err = w.Why(t.Context(), w.id, given) {
						looked, err := w.LookFor(t.Context(), w.id, in.Next.ID)
						if err != nil {
							t.Fatalf("after %v, %s: %v", given, in.Next.ID, err)
						}
						given[in.Next.ID] = looked.Answer
					}
					if err != nil {
						t.Fatalf("after %v: %v", given, err)
					}
					if given["calls"] != "stopped" || cause.ID == "windowPast" {
						break
					}
				}
				if len(in.Causes) != 1 || in.Causes[0].ID != cause.ID || len(given) > 6 {
					t.Fatalf("%v lead to %v", given, in.Causes)
				}
				w.mend(cause.ID)
				w.until("the channels arrive", func() bool { return len(w.live().Channels) > 0 })
			})
		}
	}
}

// Each way of binding is followed by what the bench shows, cautions first; wrong orders lead back with a word; at its end it is
// kept that a channel moved.
func TestGuidedBinding(t *testing.T) {
	t.Parallel()
	newWorld(t)
	for _, c := range []struct {
		name  string
		kind  link.WayKind
		fault string
		hands func(w *linkWorld)
		led   bool // it had to be led back
	}{
		{"Tidewire", link.Phrase, "phraseLoose", func(w *linkWorld) {
			w.things(protocol.Things{Pack: yes(), Radio: yes()})
			w.sees(link.Stranger, 2000)
			phrase := "one for both"
			w.radio(protocol.RadioSet{Phrase: &phrase})
			w.receiver(protocol.ReceiverSet{Phrase: &phrase})
			w.pause(900 * hurry) // the guide compares twice a second by the wall
			w.cycle()
		}, false},
		{"Tidewire", link.Cycles, "phraseOther", func(w *linkWorld) {
			w.things(protocol.Things{Radio: yes()})
			w.bindAnew()
		}, false},
		{"Tidewire", link.Cycles, "phraseOther", func(w *linkWorld) { // the window closes before the radio calls
			w.things(protocol.Things{Radio: yes()})
			w.enter()
			w.cycle()
			w.sees(link.Stranger, 2000)
			w.pause(400)
			w.bindAnew()
		}, true},
		{"Groyne", link.Button, "elsewhere", func(w *linkWorld) {
			w.things(protocol.Things{Radio: yes()})
			w.radio(protocol.RadioSet{Call: yes()})
			w.pause(200)
			w.receiver(protocol.ReceiverSet{Button: yes()})
			w.pause(200)
			w.things(protocol.Things{Pack: yes()})
			w.sees(link.Binding, 3000)
			w.pause(100)
			w.receiver(protocol.ReceiverSet{Button: no()})
		}, false},
		{"Groyne", link.Button, "numberOther", func(w *linkWorld) { // the pack before the button
			w.things(protocol.Things{Radio: yes()})
			w.radio(protocol.RadioSet{Call: yes()})
			w.pause(200)
			w.things(protocol.Things{Pack: yes()})
			w.pause(300)
			w.receiver(protocol.ReceiverSet{Button: yes()})
			w.pause(300)
			w.things(protocol.Things{Pack: no()})
			w.pause(300)
			w.things(protocol.Things{Pack: yes()})
			w.sees(link.Binding, 3000)
			w.pause(100)
			w.receiver(protocol.ReceiverSet{Button: no()})
		}, true},
	} {
		t.Run(c.name+"/"+string(c.kind)+"/"+c.fault, func(t *testing.T) {
			t.Parallel()
			w := linked(t, c.name, c.fault)
			frames, leave := w.b.Subscribe()
			defer leave()
			w.things(protocol.Things{Propellers: yes()})
			if _, err := w.Bind(t.Context(), w.id, c.kind); err != nil {
				t.Fatal(err)
			}
			// binding waits for a frame of the guide that satisfies so.
			var seen []app.BindingState
			binding := func(what string, so func(app.BindingState) bool) {
				t.Helper()
				patience := time.After(40 * time.Second)
				for {
					select {
					case f := <-frames:
						if f.Binding == nil {
							continue
						}
						if seen = append(seen, *f.Binding); so(*f.Binding) {
							return
						}
					case <-patience:
						t.Fatalf("%s: %+v", what, seen)
					}
				}
			}
			binding("a caution first", func(s app.BindingState) bool {
				return s.Step == 0 && slices.Contains(s.Cautions, "Take the propellers off.")
			})
			w.things(protocol.Things{Propellers: no()})
			binding("no caution", func(s app.BindingState) bool { return len(s.Cautions) == 0 })
			done := make(chan struct{})
			go func() { defer close(done); c.hands(w) }()
			last := len(w.gear.Ways[slices.IndexFunc(w.gear.Ways, func(y link.Way) bool { return y.Kind == c.kind })].Steps) - 1
			binding("bound", func(s app.BindingState) bool { return s.Step == last })
			<-done
			for moved := false; !moved; {
				if _, err := w.hand.Call(t.Context(), protocol.MethodSweep, protocol.Sweep{Axis: quad.Roll}); err != nil {
					t.Fatal(err)
				}
				binding("a channel moves", func(s app.BindingState) bool { moved = s.Done; return s.Done })
			}
			if led := slices.ContainsFunc(seen, func(s app.BindingState) bool { return s.Says != "" }); led != c.led {
				t.Errorf("led back: %v, wanted %v: %+v", led, c.led, seen)
			}
			r := w.view(w.id)
			i := slices.IndexFunc(r.Line[4].Readings, func(x app.ReadingView) bool { return x.Path == "readings.link.channelsMove" })
			if i < 0 || r.Line[4].Readings[i].Origin != quad.OriginDevice {
				t.Errorf("that a channel moved is not kept as seen on the bench: %+v", r.Line[4].Readings)
			}
		})
	}
}

// A guide that is left, or whose bench goes away, says so; another one takes its place.
func TestGuideEnds(t *testing.T) {
	t.Parallel()
	w := linked(t, "Tidewire", "")
	if err := w.b.LeaveBinding(); code(err) != "nothing-runs" {
		t.Errorf("no guide was left: %v", err)
	}
	if _, err := w.Bind(t.Context(), w.id, link.Button); code(err) != "no-way" {
		t.Errorf("a way that the link does not have: %v", err)
	}
	frames, leave := w.b.Subscribe()
	defer leave()
	ended := func(kind link.WayKind, want bool) {
		t.Helper()
		patience := time.After(30 * time.Second)
		for {
			select {
			case f := <-frames:
				if f.Binding != nil && f.Binding.Way == kind && f.Binding.Ended == want {
					return
				}
			case <-patience:
				t.Fatalf("%s did not come to ended = %v", kind, want)
			}
		}
	}
	for _, kind := range []link.WayKind{link.Phrase, link.Cycles} {
		if _, err := w.Bind(t.Context(), w.id, kind); err != nil {
			t.Fatal(err)
		}
		ended(kind, false)
	}
	if err := w.b.LeaveBinding(); err != nil {
		t.Fatal(err)
	}
	ended(link.Cycles, true)
}

// What is asked at the bench in a state in which it cannot be seen is refused with what to do, and nothing is moved.
func TestLookingNeedsItsMoment(t *testing.T) {
	t.Parallel()
	w := linked(t, "Tidewire", "")
	for question, want := range map[link.QuestionID]string{
		"light": "no-power", "modules": "radio-off", "number": "radio-off", "mode": "radio-off", "own": "radio-off", "far": "radio-off", "near": "radio-off",
		"labels": "device-refused", "phrase": "device-refused", "calls": "not-waiting", "nonsense": "unknown-question",
	} {
		if _, err := w.LookFor(t.Context(), w.id, question); code(err) != want {
			t.Errorf("%s: %v, wanted %s", question, err, want)
		}
	}
	w.things(protocol.Things{Propellers: yes(), Radio: yes()})
	for _, question := range []link.QuestionID{"power", "own", "enters", "far", "near"} {
		if _, err := w.LookFor(t.Context(), w.id, question); code(err) != "propellers-on" {
			t.Errorf("%s with propellers on: %v", question, err)
		}
	}
	before := w.live()
	if before.Pack || before.USB || !before.Radio {
		t.Errorf("something was moved: %+v", before)
	}
	if _, err := w.Why(t.Context(), w.id, map[link.QuestionID]string{"light": "searching", "modules": "right", "labels": "same", "near": "no"}); code(err) != "contradiction" {
		t.Errorf("answers that fit nothing: %v", err)
	}
	seen, err := w.LookFor(t.Context(), w.id, "modules")
	if err != nil || seen.Answer != "right" {
		t.Errorf("modules: %+v, %v", seen, err)
	}
	w.things(protocol.Things{Propellers: no()})
	if seen, err = w.LookFor(t.Context(), w.id, "power"); err != nil || seen.Answer != "packOnly" && seen.Answer != "volts" || !strings.Contains(seen.Says, "5 V.") {
		t.Errorf("power: %+v, %v; the receiver's pads have 5.02 V", seen, err)
	}
	if after := w.live(); after.Pack || after.USB {
		t.Errorf("pack and USB were not put back: %+v", after)
	}
}
