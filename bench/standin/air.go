package standin

import (
	"math/rand/v2"
	"slices"

	"vividperch/bench/protocol"
	"vividperch/core/link"
	"vividperch/core/quad"
)

// air is the control link between the radio's module and the receiver: two state machines with their own windows and lights.
// A kit whose parts name no link that is known has an air through which everything is heard at once.
type air struct {
	gear  link.Gear
	known bool
	parts quad.Parts

	// The radio's end.
	module    quad.LinkIdentity
	modules   quad.ModulesOn
	number    int
	channels  int
	telemetry bool
	phrase    string
	rate      float64
	power     float64 // mW
	distance  float64 // m
	callUntil int64   // ms

	// The receiver's end.
	receiver  quad.LinkIdentity
	its       string // phrase it goes by since its power came
	kept      string // phrase that it will go by at its next start
	learned   learned
	button    bool
	powered   bool
	poweredAt int64
	goneAt    int64 // when its power went
	onFor     int64 // how long it had had power then
	cycles    int
	state     link.State
	since     int64 // when it went into its state
	heardFor  int64 // ms for which it has heard a calling radio
	now       int64

	// What is wrong with it.
	fault  link.CauseID
	mute   bool // bound, and not heard by the board
	dead   bool
	cut    bool // no supply reaches it
	broken bool // antenna
	worn   bool // button
	slow   bool // its capacitors outlast a short off
	closes bool // the radio calls for a short while only
	other  bool // bound to another radio, which is on
	paged  bool // opens its page at once when it hears nothing
}

// learned by binding with a button: the number, and what it was asked for.
type learned struct {
	yes       bool
	number    int
	channels  int
	telemetry bool
}

const (
	learnTime = 500  // ms of hearing a calling radio until it has learned
	outlasts  = 1100 // ms that a slow receiver lives on without power
	shortCall = 2500 // ms that a radio calls which stops before a receiver can have been made ready
	handWide  = 0.15 // m, within which a broken antenna still hears
	tooNear   = 0.5  // m, within which a calling radio deafens a receiver
)

func newAir(k Kit, r *rand.Rand) (*air, error) {
	a := &air{parts: k.Parts, state: link.Off, distance: 1.5, power: k.Parts.RadioModule.Power, channels: 8, telemetry: k.Parts.Receiver.Telemetry, number: k.Link.Number, phrase: k.Link.Phrase, goneAt: -1e9}
	m, v := k.Parts.RadioModule, k.Parts.Receiver
	a.module, a.receiver = k.Link.Module, k.Link.Receiver
	if a.module.Link == "" {
		a.module = quad.LinkIdentity{Link: m.Link, Version: m.Version, Band: m.Band, Region: m.Region}
	}
	if a.receiver.Link == "" {
		a.receiver = quad.LinkIdentity{Link: v.Link, Version: v.Version, Band: v.Band, Region: v.Region}
	}
	if a.gear, a.known = link.GearOf(a.receiver.Link, nil); !a.known {
		return a, nil
	}
	a.modules = a.right()
	a.rate = a.gear.Rate(0, a.channels).Hertz
	if a.power == 0 {
		a.power = 25
	}
	if a.phrase == "" {
		a.phrase = "reed by the boathouse"
	}
	if a.kept = k.Link.ReceiverPhrase; a.kept == "" {
		a.kept = a.phrase
	}
	a.learned = learned{yes: true, number: a.number, channels: a.channels, telemetry: a.telemetry}
	if k.Link.Fault == "" {
		return a, nil
	}
	return a, a.spoil(link.CauseID(k.Link.Fault), r)
}

// right module of the two.
func (a *air) right() quad.ModulesOn {
	if a.parts.RadioModule.External {
		return quad.ModuleExternal
	}
	return quad.ModuleInternal
}

func (a *air) wrong() quad.ModulesOn {
	if a.parts.RadioModule.External {
		return quad.ModuleInternal
	}
	return quad.ModuleExternal
}

// spoil the link by a cause; "drawn" draws one of those that this gear can have.
func (a *air) spoil(cause link.CauseID, r *rand.Rand) error {
	var can []link.CauseID
	for _, c := range link.Causes {
		if c.With == nil || c.With(a.gear) {
			can = append(can, c.ID)
		}
	}
	if cause == "drawn" {
		cause = can[r.IntN(len(can))]
	}
	if !slices.Contains(can, cause) {
		return quad.Faultf("kit", "link.fault", "%s cannot have the fault %q", a.gear.Link, cause)
	}
	a.fault = cause
	stranger := func() { // bound with another radio once, so that it must be bound anew
		a.kept, a.learned = "somebody else's", learned{yes: true, number: 62}
	}
	switch cause {
	case "noSupply":
		a.cut = true
	case "packOnly": // as every receiver here is fed; whoever tries with USB alone finds it dark
	case "dead":
		a.dead = true
	case "page":
		a.paged = true
	case "elsewhere":
		stranger()
		a.other = true
	case "unheard":
		a.mute = true
	case "otherLink":
		a.module.Link = map[string]string{"Tidewire": "Groyne", "Groyne": "Tidewire"}[a.gear.Link]
	case "otherBand":
		a.receiver.Band = "5.9 GHz"
	case "otherRegion":
		a.module.Region, a.receiver.Region = "open", "listening first"
	case "wrongModule":
		a.modules = a.wrong()
	case "moduleOff":
		a.modules = quad.ModuleNone
	case "bothModules":
		a.modules = quad.ModuleBoth
	case "noAntenna":
		a.broken = true
	case "phraseLoose":
		a.phrase, a.kept = "Grey plover 7", "grey plover 7"
	case "phraseOther":
		a.phrase, a.kept = "Grey plover 7", "dunlin on the mud"
	case "major":
		major, _ := link.Major(a.module.Version)
		a.receiver.Version = string(rune('0'+(major+8)%9)) + ".3.0"
	case "numberOther":
		a.number = 1 + (a.number+6)%60
	case "mode":
		a.channels, a.telemetry, a.learned = 16, true, learned{}
	case "tooNear":
		stranger()
		a.distance = 0.3
	case "windowPast":
		stranger()
		a.closes = true
	case "buttonShort":
		stranger()
		a.worn = true
	case "cyclesSlow":
		stranger()
		a.slow = true
	default:
		return quad.Faultf("kit", "link.fault", "the stand-in cannot show the fault %q", cause)
	}
	return nil
}

// carries says whether anything of the radio reaches the receiver as something of its link.
func (a *air) carries(radio bool) bool {
	if !radio || a.modules != a.right() || a.module.Link != a.receiver.Link || a.module.Band != a.receiver.Band {
		return false
	}
	if a.module.Region != a.receiver.Region && a.module.Region != "" && a.receiver.Region != "" {
		return false
	}
	if a.broken && a.distance > handWide {
		return false
	}
	return a.strength() >= a.gear.Rate(a.rate, a.channels).Sensitivity
}

// own says whether the receiver takes the radio that it hears for its own.
func (a *air) own() bool {
	mine, ok1 := link.Major(a.module.Version)
	its, ok2 := link.Major(a.receiver.Version)
	switch {
	case ok1 && ok2 && mine != its:
		return false
	case a.gear.Numbers > 0:
		return a.learned == learned{true, a.number, a.channels, a.telemetry}
	}
	return a.its == a.phrase
}

// able says whether the receiver can do what the radio's model asks for.
func (a *air) able() bool {
	return link.Can(a.gear, a.parts.Receiver, a.channels, a.telemetry)
}

func (a *air) calling() bool { return a.callUntil > a.now }

func (a *air) strength() float64 {
	b, err := link.BudgetOf(a.gear, quad.Known{Parts: a.atPower()}, link.UsualPath)
	if err != nil {
		return -200
	}
	return b.At(a.distance)
}

func (a *air) atPower() quad.Parts {
	p := a.parts
	p.RadioModule.Power = a.power
	return p
}

// linked says whether the receiver follows the radio now.
func (a *air) linked(radio bool) bool {
	if !a.known {
		return radio
	}
	return a.state == link.Bound && !a.other && radio
}

func (a *air) enter(s link.State) {
	if a.state != s {
		a.state, a.since = s, a.now
	}
}

// tick on by a millisecond. fed says whether its supply is there.
func (a *air) tick(now int64, radio, fed bool) {
	a.now = now
	if !a.known {
		return
	}
	fed = fed && !a.cut
	if !radio {
		a.callUntil = 0
	}
	if !fed && a.powered {
		a.powered, a.goneAt, a.onFor = false, now, now-a.poweredAt
	}
	if !fed {
		if !a.slow || now-a.goneAt > outlasts {
			a.enter(link.Off)
		}
		return
	}
	if !a.powered {
		a.powered = true
		if a.slow && now-a.goneAt <= outlasts {
			a.poweredAt = now - a.onFor // it never went out
		} else {
			a.started()
		}
	}
	if a.dead || float64(now-a.poweredAt) < 1000*a.gear.Timing.Start {
		a.enter(link.Off)
		return
	}
	a.listen(radio)
}

// started with its power: it counts cycles, and takes its phrase.
func (a *air) started() {
	t := a.gear.Timing
	if a.cycles > 0 && float64(a.onFor) <= 1000*t.CycleOn && float64(a.now-a.goneAt) <= 1000*t.CycleOff {
		a.cycles++
	} else {
		a.cycles = 1
	}
	a.poweredAt, a.its, a.heardFor = a.now, a.kept, 0
}

func (a *air) listen(radio bool) {
	t, on := a.gear.Timing, a.now-a.poweredAt
	hears := a.carries(radio)
	switch {
	case a.state == link.OnPage:
		return // until its power goes
	case a.state == link.Binding:
		a.bind(hears)
		return
	case t.Cycles > 0 && a.cycles >= t.Cycles:
		a.cycles = 0
		a.enter(link.Binding)
		return
	case t.Button > 0 && a.button && !a.worn && a.state == link.Off:
		// Held since before its power came: its light stays dark until it has counted.
		if float64(on) >= 1000*(t.Start+t.Button) {
			a.enter(link.Binding)
		}
		return
	case a.other:
		a.enter(link.Bound)
		return
	case hears && a.own():
		a.enter(link.Bound)
		return
	}
	after := t.Page
	if a.paged {
		after = 1
	}
	if t.Page > 0 && a.state != link.Bound && a.state != link.Stranger && float64(a.now-max(a.since, a.poweredAt)) >= 1000*after {
		a.enter(link.OnPage)
		return
	}
	if hears {
		a.enter(link.Stranger)
	} else {
		a.enter(link.Searching)
	}
}

// bind while it is in its window.
func (a *air) bind(hears bool) {
	if w := a.gear.Timing.Window; w > 0 && float64(a.now-a.since) >= 1000*w {
		a.enter(link.Searching)
		return
	}
	mine, _ := link.Major(a.module.Version)
	its, _ := link.Major(a.receiver.Version)
	if !hears || !a.calling() || a.distance < tooNear || mine != its || !a.able() || a.button {
		a.heardFor = 0
		return
	}
	if a.heardFor++; a.heardFor < learnTime {
		return
	}
	a.its, a.kept, a.other = a.phrase, a.phrase, false
	a.learned = learned{true, a.number, a.channels, a.telemetry}
	a.callUntil = 0
	a.enter(link.Bound)
}

// seen of it by eye and ear.
func (a *air) seen() protocol.LinkSeen {
	out := protocol.LinkSeen{Light: []int{}, Button: a.button, Calling: a.calling(), Modules: a.modules, Number: a.number, Channels: a.channels, Telemetry: a.telemetry, Rate: a.rate, Power: a.power, Distance: a.distance}
	if !a.known {
		return out
	}
	out.Light = append(out.Light, a.gear.Light(a.state).Blink...)
	if a.state == link.Bound && !a.other {
		out.Strength = round(a.strength(), 1)
		// Packets are lost from 12 dB above the weakest that it follows, half of them at the weakest.
		spare := out.Strength - a.gear.Rate(a.rate, a.channels).Sensitivity
		out.Quality = round(max(0, min(100, 50+50*spare/12)), 0)
	}
	return out
}

func (d *Device) setRadio(s protocol.RadioSet) error {
	a := d.air
	if !d.radio && s.Distance == nil {
		return refuse("the radio is off")
	}
	if s.Modules != nil {
		if !slices.Contains([]quad.ModulesOn{quad.ModuleInternal, quad.ModuleExternal, quad.ModuleBoth, quad.ModuleNone}, *s.Modules) {
			return refuse("the radio cannot have %q on", *s.Modules)
		}
		a.modules = *s.Modules
	}
	within := func(to *float64, x *float64, least, most float64) {
		if x != nil {
			*to = max(least, min(most, *x))
		}
	}
	within(&a.power, s.Power, 1, 2000)
	within(&a.distance, s.Distance, 0, 20000)
	if s.Rate != nil && a.known {
		a.rate = a.gear.Rate(*s.Rate, 0).Hertz
	}
	if s.Number != nil {
		a.number = max(0, min(63, *s.Number))
	}
	if s.Channels != nil {
		a.channels = max(4, min(18, *s.Channels))
	}
	if s.Telemetry != nil {
		a.telemetry = *s.Telemetry
	}
	if s.Phrase != nil {
		a.phrase = *s.Phrase
	}
	if s.Version != nil {
		if _, ok := link.Major(*s.Version); !ok {
			return refuse("%q is no version", *s.Version)
		}
		a.module.Version = *s.Version
	}
	if s.Call != nil {
		a.callUntil = 0
		if *s.Call && a.modules != quad.ModuleNone {
			window := 1000 * a.gear.Timing.RadioWindow
			if a.closes {
				window = shortCall
			}
			a.callUntil = d.now + int64(window)
		}
	}
	return nil
}

func (d *Device) setReceiver(s protocol.ReceiverSet) error {
	a := d.air
	if s.Button != nil {
		if *s.Button && a.gear.Timing.Button == 0 {
			return refuse("this receiver has no button")
		}
		a.button = *s.Button
	}
	if s.Phrase != nil {
		if !a.powered || a.dead {
			return refuse("the receiver has no power to take a phrase")
		}
		a.kept = *s.Phrase // it goes by it from its next start on
	}
	if s.Version != nil {
		if _, ok := link.Major(*s.Version); !ok {
			return refuse("%q is no version", *s.Version)
		}
		a.receiver.Version = *s.Version
	}
	if s.Repair == "" {
		return nil
	}
	if d.pack || d.usb {
		return refuse("take pack and USB out before you mend anything")
	}
	switch s.Repair {
	case protocol.MendSupply:
		a.cut, a.mute, a.slow = false, false, false
	case protocol.MendAntenna:
		a.broken = false
	case protocol.MendButton:
		a.worn = false
	case protocol.MendReceiver:
		m := a.module
		a.dead, a.broken, a.paged, a.receiver = false, false, false, quad.LinkIdentity{Link: a.parts.Receiver.Link, Version: a.parts.Receiver.Version, Band: m.Band, Region: m.Region}
		a.module.Link = a.parts.RadioModule.Link
		a.kept = a.phrase
	default:
		return refuse("there is no %q to mend", s.Repair)
	}
	return nil
}

func (d *Device) labels(nothing) (protocol.Labels, error) {
	if !d.radio {
		return protocol.Labels{}, refuse("the radio is off; its module says nothing")
	}
	return protocol.Labels{Module: d.air.module, Receiver: d.air.receiver}, nil
}

func (d *Device) prints(nothing) (protocol.Prints, error) {
	var out protocol.Prints
	if !d.radio {
		return out, refuse("the radio is off; its module says nothing")
	}
	if !d.air.known || !d.air.gear.Has(link.Phrase) {
		return out, refuse("this link has no phrase")
	}
	out.Module, _ = link.Print(d.air.phrase) // one that is empty has no fingerprint
	out.Receiver, _ = link.Print(d.air.kept)
	return out, nil
}
