package app

import (
	"context"
	"math"
	"slices"
	"time"

	"vividperch/bench/client"
	"vividperch/bench/protocol"
	"vividperch/core/link"
	"vividperch/core/quad"
)

// Looked is what the bench showed for a question of why it will not bind.
type Looked struct {
	Answer string `json:"answer"`
	Says   string `json:"says"` // what was seen
}

// glimpse is one state of light and call, as it began.
type glimpse struct {
	at      int64 // device time, ms
	light   []int
	calling bool
}

// mostGlimpses are kept: more than an attempt to bind shows.
const mostGlimpses = 200

// glance remembers when the light or the call changed. The caller holds the lock.
func (b *Bench) glance(l protocol.Live) {
	if n := len(b.glimpses); n > 0 && b.glimpses[n-1].calling == l.Link.Calling && slices.Equal(b.glimpses[n-1].light, l.Link.Light) {
		return
	}
	b.glimpses = append(b.glimpses, glimpse{l.Time, l.Link.Light, l.Link.Calling})
	if over := len(b.glimpses) - mostGlimpses; over > 0 {
		b.glimpses = b.glimpses[over:]
	}
}

// calledWhile the light was like that: for how long in all since the light last was anything else before it, ms, and whether it was so at all.
func (b *Bench) calledWhile(light []int, now int64) (ms int64, waited bool) {
	b.mu.Lock()
	defer b.mu.Unlock()
	until := now
	for i := len(b.glimpses) - 1; i >= 0; i-- {
		g := b.glimpses[i]
		if !slices.Equal(g.light, light) {
			break
		}
		waited = true
		if g.calling {
			ms += until - g.at
		}
		until = g.at
	}
	return ms, waited
}

// looking answers one question at the bench. Hands move pack, radio and button for it and put them back.
type looking struct {
	taking
	gear link.Gear
}

// lookers by question.
var lookers = map[link.QuestionID]func(context.Context, *looking) (Looked, error){
	"light": lookAtLight, "modules": lookAtModules, "labels": lookAtLabels, "versions": lookAtVersions, "phrase": lookAtPhrases, "number": lookAtNumber,
	"mode": lookAtMode, "power": lookAtPower, "own": lookAtOwn, "enters": lookWhetherItEnters, "calls": lookAtCalls, "far": lookFromAfar, "near": lookFromNear,
}

// LookFor an answer to a question of why it will not bind, at the bench.
func (a *App) LookFor(ctx context.Context, id int64, question link.QuestionID) (*Looked, error) {
	b, err := a.Bench()
	if err != nil {
		return nil, err
	}
	look, known := lookers[question]
	if !known {
		return nil, quad.Faultf("unknown-question", string(question), "is no question here")
	}
	done, err := b.turn(ctx, string(question), queue)
	if err != nil {
		return nil, err
	}
	defer done()
	t, err := a.taking(ctx, b, id, quad.Path(question))
	if err != nil {
		return nil, err
	}
	g, err := gearOf(t.known)
	if err != nil {
		return nil, err
	}
	l, err := look(ctx, &looking{*t, g})
	if err != nil {
		return nil, err
	}
	return &l, nil
}

// state that the light tells, once the receiver has had the time to start.
func (l *looking) state(ctx context.Context) (link.State, error) {
	if !l.live.Pack && !l.live.USB {
		return "", quad.Faultf("no-power", "light", "nothing is powered: pack in, propellers off")
	}
	now, _, err := l.until(ctx, time.Duration(l.gear.Timing.Start*float64(time.Second))+200*time.Millisecond, func(v protocol.Live) bool {
		s, known := l.gear.Told(v.Link.Light)
		return known && s != link.Off
	})
	if err != nil {
		return "", err
	}
	s, known := l.gear.Told(now.Link.Light)
	if !known {
		return "", quad.Faultf("unknown-light", "light", "the receiver blinks in a way that this link's gear does not know: %v ms", now.Link.Light)
	}
	return s, nil
}

func (l *looking) saw(answer link.State) Looked {
	return Looked{string(answer), l.gear.Light(answer).Words}
}

func lookAtLight(ctx context.Context, l *looking) (Looked, error) {
	s, err := l.state(ctx)
	return l.saw(s), err
}

func lookAtModules(_ context.Context, l *looking) (Looked, error) {
	if !l.live.Radio {
		return Looked{}, radioOff("modules")
	}
	on, right := l.live.Link.Modules, quad.ModuleInternal
	if l.known.Parts.RadioModule.External {
		right = quad.ModuleExternal
	}
	words := map[quad.ModulesOn]string{quad.ModuleInternal: "The built-in one is on.", quad.ModuleExternal: "The one in the bay is on.", quad.ModuleBoth: "Both are on.", quad.ModuleNone: "None is on."}[on]
	switch on {
	case right:
		return Looked{"right", words}, nil
	case quad.ModuleBoth, quad.ModuleNone:
		return Looked{string(on), words}, nil
	}
	return Looked{"other", words}, nil
}

func radioOff(at string) error {
	return quad.Faultf("radio-off", at, "the radio is off: switch it on")
}

func lookAtLabels(ctx context.Context, l *looking) (Looked, error) {
	m, r, err := l.device.Labels(ctx)
	if err != nil {
		return Looked{}, err
	}
	is := link.Compare(asModule(m), asReceiver(r))
	says := func(a, b string) string { return "Module: " + orNothing(a) + "; receiver: " + orNothing(b) + "." }
	switch {
	case !is.SameLink:
		return Looked{"link", says(m.Link, r.Link)}, nil
	case !is.SameBand:
		return Looked{"band", says(m.Band, r.Band)}, nil
	case !is.SameRegion:
		return Looked{"region", says(m.Region, r.Region)}, nil
	}
	return Looked{"same", "Both: " + m.Link + ", " + m.Band + "."}, nil
}

func asModule(x quad.LinkIdentity) quad.RadioModule {
	return quad.RadioModule{Link: x.Link, Version: x.Version, Band: x.Band, Region: x.Region}
}

func asReceiver(x quad.LinkIdentity) quad.Receiver {
	return quad.Receiver{Link: x.Link, Version: x.Version, Band: x.Band, Region: x.Region}
}

func orNothing(s string) string {
	if s == "" {
		return "says nothing"
	}
	return s
}

func lookAtVersions(ctx context.Context, l *looking) (Looked, error) {
	m, r, err := l.device.Labels(ctx)
	if err != nil {
		return Looked{}, err
	}
	says := "Module " + orNothing(m.Version) + ", receiver " + orNothing(r.Version) + "."
	switch is := link.Compare(asModule(m), asReceiver(r)); {
	case !is.MajorsKnown:
		return Looked{link.Unsure, says}, nil
	case is.SameMajor:
		return Looked{"same", says}, nil
	}
	return Looked{"other", says}, nil
}

func lookAtPhrases(ctx context.Context, l *looking) (Looked, error) {
	m, r, err := l.device.Prints(ctx)
	if err != nil {
		return Looked{}, err
	}
	if m.Exact == "" || r.Exact == "" {
		return Looked{link.Unsure, "One of them holds no phrase."}, nil
	}
	return Looked{string(link.Alike(m, r)), "Fingerprints " + m.Exact + " and " + r.Exact + "."}, nil
}

func lookAtNumber(_ context.Context, l *looking) (Looked, error) {
	if !l.live.Radio {
		return Looked{}, radioOff("number")
	}
	noted, is := l.known.Radio.Number, l.live.Link.Number
	if noted == 0 {
		return Looked{link.Unsure, "The radio has " + quad.Number(float64(is)) + "; the radio's plan notes none."}, nil
	}
	says := "The radio has " + quad.Number(float64(is)) + "; it was bound with " + quad.Number(float64(noted)) + "."
	if is == noted {
		return Looked{"same", says}, nil
	}
	return Looked{"other", says}, nil
}

func lookAtMode(_ context.Context, l *looking) (Looked, error) {
	if !l.live.Radio {
		return Looked{}, radioOff("mode")
	}
	is := l.live.Link
	says := "The model asks for " + quad.Number(float64(is.Channels)) + " channels"
	if is.Telemetry {
		says += " with telemetry"
	}
	if link.Can(l.gear, l.known.Parts.Receiver, is.Channels, is.Telemetry) {
		return Looked{"can", says + "; the receiver can."}, nil
	}
	return Looked{"cannot", says + "; the receiver cannot."}, nil
}

// hands move things of the bench and give back how they lay. What turns or sends is never begun by them: without propellers, or not at all.
func (l *looking) hands(ctx context.Context, f func() (Looked, error)) (Looked, error) {
	if l.live.Propellers {
		return Looked{}, quad.Faultf("propellers-on", string(l.path), "the propellers are on; nobody moves the pack until they are off")
	}
	out, err := f()
	back, cancel := context.WithTimeout(context.WithoutCancel(ctx), client.Patience)
	defer cancel()
	if putBack := l.set(back, protocol.Things{Pack: &l.live.Pack, USB: &l.live.USB, Radio: &l.live.Radio}); err == nil {
		err = putBack
	}
	return out, err
}

// do something with the hands at the device that is looked at.
func (l *looking) do(ctx context.Context, method string, params any) error {
	_, err := l.call(ctx, method, params)
	return err
}

// pause for so long of the device's own time.
func (l *looking) pause(ctx context.Context, d time.Duration) (protocol.Live, error) {
	v, _, err := l.until(ctx, d, func(protocol.Live) bool { return false })
	return v, err
}

var yes, no = true, false

// fed is the least voltage at which a receiver counts as fed, V.
const fed = 3.5

func lookAtPower(ctx context.Context, l *looking) (Looked, error) {
	now, err := l.device.Meter(ctx, "receiver")
	if err != nil {
		return Looked{}, err
	}
	volts := func(x float64) string { return quad.Quantity(math.Round(x*10)/10, "V") }
	if now >= fed {
		return Looked{"volts", volts(now) + "."}, nil
	}
	return l.hands(ctx, func() (Looked, error) {
		if err := l.set(ctx, protocol.Things{Pack: &yes}); err != nil {
			return Looked{}, err
		}
		with, err := l.device.Meter(ctx, "receiver")
		if err != nil {
			return Looked{}, err
		}
		says := "As it was " + volts(now) + ", with the pack in " + volts(with) + "."
		if with >= fed {
			return Looked{"packOnly", says}, nil
		}
		return Looked{"none", says}, nil
	})
}

func lookAtOwn(ctx context.Context, l *looking) (Looked, error) {
	if !l.live.Radio {
		return Looked{}, radioOff("own")
	}
	return l.hands(ctx, func() (Looked, error) {
		before := l.live.Link.Light
		if err := l.set(ctx, protocol.Things{Radio: &no}); err != nil {
			return Looked{}, err
		}
		_, changed, err := l.until(ctx, 2*time.Second, func(v protocol.Live) bool { return !slices.Equal(v.Link.Light, before) })
		if err != nil {
			return Looked{}, err
		}
		if changed {
			return Looked{"changes", "Its light changes when your radio goes."}, nil
		}
		return Looked{"stays", "It stays as it is without your radio: it hears another one."}, nil
	})
}

// enter puts the receiver into binding as its card says, and tells whether its light shows it. A hand may be too slow once.
func (l *looking) enter(ctx context.Context) (bool, error) {
	entered, err := l.tryToEnter(ctx)
	if err != nil || entered {
		return entered, err
	}
	return l.tryToEnter(ctx)
}

func (l *looking) tryToEnter(ctx context.Context) (bool, error) {
	t := l.gear.Timing
	packs := []bool{false}
	for range max(1, t.Cycles) {
		packs = append(packs, true, false)
	}
	packs = packs[:len(packs)-1] // the last one stays in
	button := t.Button > 0
	if err := l.set(ctx, protocol.Things{USB: &no, Pack: &no}); err != nil {
		return false, err
	}
	// Longer than what it may live on, and so long that no start from before is counted.
	if _, err := l.pause(ctx, time.Duration(max(1.5, t.CycleOff+0.2)*float64(time.Second))); err != nil {
		return false, err
	}
	if button {
		if err := l.do(ctx, protocol.MethodReceiver, protocol.ReceiverSet{Button: &yes}); err != nil {
			return false, err
		}
		defer func() {
			back, cancel := context.WithTimeout(context.WithoutCancel(ctx), client.Patience)
			defer cancel()
			_ = l.do(back, protocol.MethodReceiver, protocol.ReceiverSet{Button: &no}) // a bench that is gone holds no button
		}()
	}
	for i, pack := range packs[1:] {
		if err := l.set(ctx, protocol.Things{Pack: &pack}); err != nil {
			return false, err
		}
		if i < len(packs)-2 {
			// Half of what it allows at most, so that a slow hand is no reason.
			allowed := t.CycleOff
			if pack {
				allowed = t.CycleOn
			}
			if _, err := l.pause(ctx, time.Duration(min(allowed/2, 0.7)*float64(time.Second))); err != nil {
				return false, err
			}
		}
	}
	wait := time.Duration((t.Start+t.Button)*float64(time.Second)) + 500*time.Millisecond
	_, entered, err := l.until(ctx, wait, func(v protocol.Live) bool { return l.shows(v, link.Binding) })
	return entered, err
}

func (l *looking) shows(v protocol.Live, s link.State) bool {
	told, known := l.gear.Told(v.Link.Light)
	return known && told == s
}

func lookWhetherItEnters(ctx context.Context, l *looking) (Looked, error) {
	return l.hands(ctx, func() (Looked, error) {
		entered, err := l.enter(ctx)
		if err != nil {
			return Looked{}, err
		}
		l.live.Pack, l.live.USB = true, false // it is left waiting
		if entered {
			return Looked{"yes", "It goes into binding."}, nil
		}
		return Looked{"no", "Its light does not change."}, nil
	})
}

func lookAtCalls(_ context.Context, l *looking) (Looked, error) {
	ms, waited := l.bench.calledWhile(l.gear.Light(link.Binding).Blink, l.live.Time)
	if !waited {
		return Looked{}, quad.Faultf("not-waiting", "calls", "the receiver is not in binding: put it there, have the radio call, then look")
	}
	// It must have been called for as long as two hands need to see that nothing comes of it.
	if ms >= 1000 || l.live.Link.Calling {
		return Looked{"calls", "It called while the receiver waited."}, nil
	}
	return Looked{"stopped", "It does not call any more while the receiver waits."}, nil
}

func lookFromAfar(ctx context.Context, l *looking) (Looked, error) {
	if !l.live.Radio {
		return Looked{}, radioOff("far")
	}
	away, was := 3.0, l.live.Link.Distance
	return l.hands(ctx, func() (Looked, error) {
		if err := l.do(ctx, protocol.MethodRadio, protocol.RadioSet{Distance: &away}); err != nil {
			return Looked{}, err
		}
		if !l.shows(l.live, link.Binding) {
			if _, err := l.enter(ctx); err != nil {
				return Looked{}, err
			}
		}
		if err := l.do(ctx, protocol.MethodRadio, protocol.RadioSet{Call: &yes}); err != nil {
			return Looked{}, err
		}
		_, bound, err := l.until(ctx, 2*time.Second, func(v protocol.Live) bool { return l.shows(v, link.Bound) })
		if err != nil {
			return Looked{}, err
		}
		if bound {
			l.live.Pack = true
			return Looked{"binds", "From three paces it binds."}, nil
		}
		return Looked{"no", "From three paces it is the same."}, l.do(ctx, protocol.MethodRadio, protocol.RadioSet{Distance: &was})
	})
}

func lookFromNear(ctx context.Context, l *looking) (Looked, error) {
	if !l.live.Radio {
		return Looked{}, radioOff("near")
	}
	hand, was := 0.1, l.live.Link.Distance
	return l.hands(ctx, func() (Looked, error) {
		before := l.live.Link.Light
		if err := l.do(ctx, protocol.MethodRadio, protocol.RadioSet{Distance: &hand}); err != nil {
			return Looked{}, err
		}
		_, changed, err := l.until(ctx, time.Second, func(v protocol.Live) bool { return !slices.Equal(v.Link.Light, before) })
		if err != nil {
			return Looked{}, err
		}
		if err := l.do(ctx, protocol.MethodRadio, protocol.RadioSet{Distance: &was}); err != nil {
			return Looked{}, err
		}
		if changed {
			return Looked{"changes", "At a hand's breadth it hears the radio."}, nil
		}
		return Looked{"no", "At a hand's breadth it is the same."}, nil
	})
}
