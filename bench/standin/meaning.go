package standin

import (
	"strconv"
	"strings"

	"vividperch/core/flight"
	"vividperch/core/quad"
)

// meaning is what Marram's raw settings make the board do. It is written here a second time, apart from the
// dictionary, so that a wrong unit in one of them shows.
type meaning struct {
	control               flight.Settings
	ports                 map[string]string
	inverted              bool
	telemetry             bool
	beeper                quad.Range
	cells                 int
	warn                  float64 // V per cell
	land                  float64
	scale                 float64
	video                 float64 // MHz
	milliwatt             float64
	levelRoll, levelPitch float64 // deg, taken for level
	reversed              map[string]bool
	protocol              string
	frame                 float64 // µs on the throttle wire
	loop                  float64 // Hz
	poles                 int
	barometer, satellite  bool
}

type raws map[string]string

func (r raws) whole(name string) float64 {
	n, err := strconv.Atoi(r[name])
	if err != nil {
		return 0 // writes are checked against the facts, so this cannot hold another text
	}
	return float64(n)
}

func (r raws) parts(name string) []float64 {
	var out []float64
	for _, p := range strings.Split(r[name], ":") {
		n, _ := strconv.Atoi(p)
		out = append(out, float64(n))
	}
	return out
}

func (r raws) bit(name string, bit int) bool { return int(r.whole(name))>>bit&1 == 1 }

// window of a channel: the line counts half per cent of travel from 1000 µs, so one count is 5 µs.
func (r raws) window(name string) quad.Range {
	p := r.parts(name)
	return quad.Range{Channel: int(p[0]), From: 1000 + 5*p[1], To: 1000 + 5*p[2]}
}

// bow, as the line calls its default curve, takes deg/s at the centre, deg/s at the end, per cent of bend.
func (r raws) curve(name string) quad.Rates {
	p := r.parts(name)
	return quad.Rates{Centre: p[0], Peak: p[1], Bend: p[2] / 100}
}

// hold counts thousandths of a per cent per deg/s and per deg, hundred-thousandths per deg/s².
func (r raws) hold(name string) quad.Gains {
	p := r.parts(name)
	return quad.Gains{Proportional: p[0] / 1000, Integral: p[1] / 1000, Derivative: p[2] / 100000}
}

// span of a stick channel: three µs, taken for the low end, the centre and the high end.
func (r raws) span(name string) quad.Ends {
	p := r.parts(name)
	return quad.Ends{Low: p[0], Centre: p[1], High: p[2]}
}

var cornerWord = map[string]quad.Corner{"fl": quad.FrontLeft, "fr": quad.FrontRight, "rl": quad.RearLeft, "rr": quad.RearRight}

func marramMeaning(settings map[string]string) meaning {
	r := raws(settings)
	m := meaning{
		ports:    map[string]string{"1": r["port.1"], "2": r["port.2"], "3": r["port.3"], "4": r["port.4"]},
		inverted: r.bit("hear.flags", 0), telemetry: r.bit("hear.flags", 1), beeper: r.window("gate.beep"),
		cells: int(r.whole("volt.cells")), warn: r.whole("volt.warn") + r.whole("volt.warn.part")/100,
		land: r.whole("volt.land") + r.whole("volt.land.part")/100, scale: r.whole("volt.scale"),
		video: r.whole("view.mhz"), milliwatt: r.whole("view.mw"),
		levelRoll: r.whole("found.level.roll") / 10, levelPitch: r.whole("found.level.pitch") / 10,
		reversed: map[string]bool{}, protocol: r["out.wire"], loop: 100 * r.whole("loop.rate"), poles: int(2 * r.whole("out.pairs")),
		barometer: r.bit("sense.flags", 0), satellite: r.bit("sense.flags", 1),
	}
	m.frame = 16 / r.whole("out.bits") * 1000
	if r.bit("out.flags", 0) {
		m.frame += 30 + 21/(1.25*r.whole("out.bits"))*1000
	}
	m.control = flight.Settings{
		Order: r["hear.order"], Arm: r.window("gate.arm"), SelfLevel: r.window("gate.level"),
		Ranges:   quad.StickRanges{Roll: r.span("hear.span.roll"), Pitch: r.span("hear.span.pitch"), Throttle: r.span("hear.span.push"), Yaw: r.span("hear.span.yaw")},
		Deadband: r.whole("hear.dead"), IdleBelow: 1000 + 5*r.whole("hear.low"),
		Places: map[string]quad.Corner{}, Idle: r.whole("out.rest") / 1000, Limit: r.whole("push.most") / 100,
		Rates: [3]quad.Rates{r.curve("turn.roll"), r.curve("turn.pitch"), r.curve("turn.yaw")},
		Gains: [3]quad.Gains{r.hold("hold.roll"), r.hold("hold.pitch"), r.hold("hold.yaw")},
		Lean:  r.whole("lean.limit") / 10, Pull: r.whole("lean.pull") / 10, BoardYaw: r.whole("mount.yaw"),
		Guard: r.whole("quiet.guard") * 0.05, LandPush: r.whole("quiet.push") / 100,
		Family: quad.CentrePeak, Layout: quad.LayoutX, Rotation: quad.FrontLeftClockwise, Policy: quad.PolicyDrop,
	}
	switch r["turn.shape"] {
	case "stack":
		m.control.Family = quad.Compounding
	case "cube":
		m.control.Family = quad.StraightExpo
	}
	switch r["craft.shape"] {
	case "wide":
		m.control.Layout = quad.LayoutWide
	case "plus":
		m.control.Layout = quad.LayoutPlus
	}
	if r["craft.whirl"] == "widdershins" {
		m.control.Rotation = quad.FrontLeftCounterClockwise
	}
	if r["quiet.then"] == "settle" {
		m.control.Policy = quad.PolicyLand
	}
	for i, word := range strings.Split(r["out.places"], ":") {
		letter := string(rune('A' + i))
		m.control.Places[letter] = cornerWord[word]
		m.reversed[letter] = r["esc."+letter+".turn"] == "reversed"
	}
	return m
}
