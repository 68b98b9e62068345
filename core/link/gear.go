package link

import (
	"embed"
	"fmt"
	"math"
	"slices"
	"strings"
	"sync"

	"vividperch/core/quad"
)

// Gear is what is known of one kind of control link: how it is bound, how fast it sends, what its lights and beeps say. It is
// data; a pilot may change it for the gear at hand.
type Gear struct {
	Link      string    `json:"link"`
	Words     string    `json:"words"`
	Numbers   int       `json:"numbers"` // highest receiver number that its radio gives; 0: receivers have none
	Update    Update    `json:"update" enum:"page,radio,wire"`
	Bands     []Band    `json:"bands"`
	Rates     []Rate    `json:"rates"` // slowest first
	Telemetry Telemetry `json:"telemetry"`
	Timing    Timing    `json:"timing"`
	Lights    []Light   `json:"lights"`
	Beeps     []Beep    `json:"beeps"`
	Ways      []Way     `json:"ways"`
	// Images are the ways in which firmware gets onto its receivers and radio modules.
	Images []FlashWay `json:"images,omitempty"`
}

// Update is how a receiver's firmware is changed.
type Update string

const (
	ByPage  Update = "page"  // over its wireless page, whatever the radio is
	ByRadio Update = "radio" // through the radio, while the two hear each other
	ByWire  Update = "wire"  // at a cable, whatever the radio is
)

// Band with the frequency that figures are worked out at.
type Band struct {
	Name      string  `json:"name"`
	Frequency float64 `json:"frequency" unit:"MHz"`
}

// Rate at which a link sends, with what it costs.
type Rate struct {
	Hertz       float64 `json:"hertz" unit:"Hz"`
	Sensitivity float64 `json:"sensitivity" unit:"dBm"` // weakest that a receiver still follows
	// First and Others are how many positions channel 5 and the ones after it can tell apart; 0 is as many as there are µs.
	First    int `json:"first"`
	Others   int `json:"others"`
	Channels int `json:"channels"`
}

// StickStep is the least move of a stick that every link here carries, µs.
const StickStep = 1.0

// Positions that a channel can tell apart at this rate; 0 is as many as there are µs. The four stick channels always can.
func (r Rate) Positions(channel int) int {
	switch {
	case channel < 5:
		return 0
	case channel == 5:
		return r.First
	}
	return r.Others
}

// Telemetry says with how many channels a receiver that has it can send it.
type Telemetry struct {
	Any  bool `json:"any"`
	Most int  `json:"most"`
}

// Timing of a receiver and a radio module, in seconds.
type Timing struct {
	Start       float64 `json:"start" unit:"s"`    // from power to listening
	Button      float64 `json:"button" unit:"s"`   // how long its button must stay down after the power has come
	Cycles      int     `json:"cycles"`            // power cycles that make it bind, 0: none do
	CycleOn     float64 `json:"cycleOn" unit:"s"`  // at most, each time
	CycleOff    float64 `json:"cycleOff" unit:"s"` // at most, each time
	Window      float64 `json:"window" unit:"s"`   // of the receiver's binding, 0: until its power goes
	RadioWindow float64 `json:"radioWindow" unit:"s"`
	Page        float64 `json:"page" unit:"s"` // without a radio until it opens its wireless page, 0: it has none
}

// State of a receiver, as its light tells it.
type State string

const (
	Off       State = "off"
	Searching State = "searching" // hears nothing of its link
	Stranger  State = "stranger"  // hears a radio of its link that is not its own
	Binding   State = "binding"
	OnPage    State = "page"
	Bound     State = "bound" // has its radio
)

// States of a receiver.
var States = []State{Off, Searching, Stranger, Binding, OnPage, Bound}

// Light of a receiver in one state. Blink are ms, lit and dark in turn; a single one is steady, none is dark.
type Light struct {
	State State  `json:"state" enum:"off,searching,stranger,binding,page,bound"`
	Words string `json:"words"`
	Blink []int  `json:"blink"`
}

// Call is what a radio sounds.
type Call string

const (
	Calling   Call = "calling" // it binds
	CallBound Call = "bound"
	CallLost  Call = "lost"
)

// Beep of a radio. Beats are ms, sounding and silent in turn.
type Beep struct {
	State Call   `json:"state" enum:"calling,bound,lost"`
	Words string `json:"words"`
	Beats []int  `json:"beats"`
}

//go:embed gear/*.yaml
var files embed.FS

// shipped gear by link, read once.
var shipped = sync.OnceValue(func() map[string]Gear {
	out := map[string]Gear{}
	list, err := files.ReadDir("gear")
	if err != nil {
		panic(err) // it is in the program itself
	}
	for _, f := range list {
		raw, err := files.ReadFile("gear/" + f.Name())
		if err != nil {
			panic(err)
		}
		g, err := ReadGear(raw)
		if err != nil {
			panic(fmt.Sprint(f.Name(), ": ", err))
		}
		out[g.Link] = g
	}
	return out
})

// Shipped links, sorted.
func Shipped() []string { return quad.SortedKeys(shipped()) }

// ShippedFile is the file of a link as it is shipped, or nothing.
func ShippedFile(link string) string {
	raw, err := files.ReadFile("gear/" + strings.ToLower(link) + ".yaml")
	if err != nil {
		return ""
	}
	return string(raw)
}

// GearOf a link: the pilot's own, else the shipped one; ok is false when there is neither. own are files that were read before
// they were kept; one that cannot be read any more counts as none.
func GearOf(link string, own map[string]string) (g Gear, ok bool) {
	if text := own[link]; text != "" {
		if g, err := ReadGear([]byte(text)); err == nil {
			return g, true
		}
	}
	g, ok = shipped()[link]
	return g, ok
}

// ReadGear from YAML or JSON, and check that all of it can be: a Fault names the place.
func ReadGear(raw []byte) (Gear, error) {
	if len(raw) > 64<<10 {
		return Gear{}, quad.Faultf("too-large", "", "is larger than 64 kB")
	}
	var g Gear
	if err := quad.ReadYAML(raw, &g); err != nil {
		return Gear{}, err
	}
	return g, g.check()
}

func (g Gear) check() error {
	wrong := func(at, format string, args ...any) error { return quad.Faultf("bad-gear", at, format, args...) }
	within := func(at string, x, least, most float64, unit string) error {
		if !(x >= least && x <= most) {
			return wrong(at, "is %s, but must be from %s to %s", quad.Quantity(x, unit), quad.Number(least), quad.Quantity(most, unit))
		}
		return nil
	}
	if g.Link == "" || quad.Longer(g.Link, 40) {
		return wrong("link", "needs a name of 1 to 40 characters")
	}
	if len(g.Rates) == 0 || len(g.Bands) == 0 || len(g.Ways) == 0 {
		return wrong("link", "needs at least one band, one rate and one way of binding")
	}
	if len(g.Rates)+len(g.Bands)+len(g.Ways)+len(g.Lights)+len(g.Beeps) > 100 {
		return wrong("link", "lists more than any link has")
	}
	t := g.Timing
	for _, c := range []struct {
		at          string
		x           float64
		least, most float64
		unit        string
	}{
		{"numbers", float64(g.Numbers), 0, 63, ""}, {"telemetry.most", float64(g.Telemetry.Most), 0, 18, ""},
		{"timing.start", t.Start, 0, 20, "s"}, {"timing.button", t.Button, 0, 20, "s"}, {"timing.cycles", float64(t.Cycles), 0, 10, ""},
		{"timing.cycleOn", t.CycleOn, 0, 30, "s"}, {"timing.cycleOff", t.CycleOff, 0, 30, "s"}, {"timing.window", t.Window, 0, 600, "s"},
		{"timing.radioWindow", t.RadioWindow, 0, 600, "s"}, {"timing.page", t.Page, 0, 600, "s"},
	} {
		if err := within(c.at, c.x, c.least, c.most, c.unit); err != nil {
			return err
		}
	}
	if !slices.Contains([]Update{ByPage, ByRadio, ByWire}, g.Update) {
		return wrong("update", "is %q, but must be page, radio or wire", g.Update)
	}
	for i, b := range g.Bands {
		if err := within(fmt.Sprintf("bands.%d.frequency", i+1), b.Frequency, 20, 10000, "MHz"); err != nil {
			return err
		}
	}
	for i, r := range g.Rates {
		at := fmt.Sprintf("rates.%d.", i+1)
		for _, err := range []error{
			within(at+"hertz", r.Hertz, 1, 2000, "Hz"), within(at+"sensitivity", r.Sensitivity, -140, -40, "dBm"),
			within(at+"first", float64(r.First), 0, 4096, ""), within(at+"others", float64(r.Others), 0, 4096, ""), within(at+"channels", float64(r.Channels), 4, 18, ""),
		} {
			if err != nil {
				return err
			}
		}
		if i > 0 && r.Hertz <= g.Rates[i-1].Hertz {
			return wrong(at+"hertz", "comes after a faster one; list the slowest first")
		}
	}
	if err := g.checkLights(); err != nil {
		return err
	}
	if err := g.checkImages(); err != nil {
		return err
	}
	return g.checkWays()
}

func (g Gear) checkLights() error {
	beats := func(at string, list []int) error {
		for _, ms := range list {
			if ms < 20 || ms > 10000 {
				return quad.Faultf("bad-gear", at, "has a beat of %d ms; an eye or an ear needs 20 to 10,000", ms)
			}
		}
		if len(list) > 16 {
			return quad.Faultf("bad-gear", at, "has %d beats; nobody counts more than 16", len(list))
		}
		return nil
	}
	seen := map[string]string{}
	for i, l := range g.Lights {
		at := fmt.Sprintf("lights.%d", i+1)
		if !slices.Contains(States, l.State) {
			return quad.Faultf("bad-gear", at+".state", "is %q, which no receiver is in", l.State)
		}
		if err := beats(at+".blink", l.Blink); err != nil {
			return err
		}
		if n := len(l.Blink); n > 1 && n%2 == 1 {
			return quad.Faultf("bad-gear", at+".blink", "has %d beats: lit and dark in turn, or a single one for steady", n)
		}
		key := fmt.Sprint(l.Blink)
		if other := seen[key]; other != "" {
			return quad.Faultf("bad-gear", at+".blink", "is the same as when it is %s; no eye can tell them apart", other)
		}
		seen[key] = string(l.State)
	}
	for i, b := range g.Beeps {
		at := fmt.Sprintf("beeps.%d", i+1)
		if !slices.Contains([]Call{Calling, CallBound, CallLost}, b.State) {
			return quad.Faultf("bad-gear", at+".state", "is %q, which no radio sounds", b.State)
		}
		if err := beats(at+".beats", b.Beats); err != nil {
			return err
		}
	}
	return nil
}

// Light of a state.
func (g Gear) Light(s State) Light {
	for _, l := range g.Lights {
		if l.State == s {
			return l
		}
	}
	return Light{State: s}
}

// Told by the light is the state that a blinking means; ok is false when this gear has no such light.
func (g Gear) Told(blink []int) (s State, ok bool) {
	for _, l := range g.Lights {
		if slices.Equal(l.Blink, blink) {
			return l.State, true
		}
	}
	return "", false
}

// Beep of a call.
func (g Gear) Beep(c Call) Beep {
	for _, b := range g.Beeps {
		if b.State == c {
			return b
		}
	}
	return Beep{State: c}
}

// Rate that is set, or the one that the link takes by itself for a number of channels: the fastest that carries them all.
func (g Gear) Rate(hertz float64, channels int) Rate {
	best := g.Rates[0]
	for _, r := range g.Rates {
		if hertz > 0 && math.Abs(r.Hertz-hertz) < math.Abs(best.Hertz-hertz) || hertz == 0 && r.Channels >= channels {
			best = r
		}
	}
	return best
}

// Carries says whether a receiver that has telemetry can send it beside that many channels.
func (t Telemetry) Carries(channels int) bool { return t.Any || channels <= t.Most }

// Can a receiver do what a model asks for: so many channels, and telemetry beside them.
func Can(g Gear, r quad.Receiver, channels int, telemetry bool) bool {
	return !telemetry || r.Telemetry && g.Telemetry.Carries(channels)
}

// Frequency that figures of a band are worked out at, MHz; 2440 for one that is not named.
func (g Gear) Frequency(band string) float64 {
	for _, b := range g.Bands {
		if b.Name == band {
			return b.Frequency
		}
	}
	return 2440
}

// Has a way of binding.
func (g Gear) Has(kind WayKind) bool {
	return slices.ContainsFunc(g.Ways, func(w Way) bool { return w.Kind == kind })
}
