package standin

import (
	"vividperch/core/feel"
	"vividperch/core/flight"
	"vividperch/core/quad"
)

var marramCorners = map[string]quad.Corner{"fl": quad.FrontLeft, "fr": quad.FrontRight, "rl": quad.RearLeft, "rr": quad.RearRight}

// marramMeaning: from version 7 on gains, leans, ranges and alarms count in finer steps.
func marramMeaning(r raws, after func(string) bool) meaning {
	seven := after("7.0.2")
	// A switch range counts microseconds, or half per cent of travel from 1000 µs: then one count is 5 µs.
	window := func(name string) quad.Range {
		p := r.parts(name)
		if seven {
			p[1], p[2] = 1000+5*p[1], 1000+5*p[2]
		}
		return quad.Range{Channel: int(p[0]), From: p[1], To: p[2]}
	}
	// The curves take deg/s at the centre, deg/s at the end, per cent of bend.
	curve := func(name string) quad.Rates {
		p := r.parts(name)
		return quad.Rates{Centre: p[0], Peak: p[1], Bend: p[2] / 100}
	}
	// Gains count thousandths of a per cent per deg/s and per deg, hundred-thousandths per deg/s²; ten times as much
	// before version 7.
	fine := 10.0
	if seven {
		fine = 1
	}
	hold := func(name string) quad.Gains {
		p := r.parts(name)
		return quad.Gains{Proportional: p[0] * fine / 1000, Integral: p[1] * fine / 1000, Derivative: p[2] * fine / 100000}
	}
	m := meaning{
		ports: map[string]string{"1": r.word("port.1"), "2": r.word("port.2"), "3": r.word("port.3"), "4": r.word("port.4"), "5": r.word("port.5"), "6": r.word("port.6")},
		bauds: map[string]float64{}, language: r.word("hear.tongue"), strength: "frame", strengthOn: int(r.number("hear.strength")),
		inverted: r.bit("hear.flags", 0), telemetry: r.bit("hear.flags", 1), beeper: window("gate.beep"),
		cells: int(r.number("volt.cells")), warn: r.number("volt.warn") / 100, land: r.number("volt.land") / 100, scale: r.number("volt.scale") / 1100,
		video: r.number("view.mhz"), milliwatt: r.number("view.mw"),
		levelRoll: r.number("found.level.roll") / 10, levelPitch: r.number("found.level.pitch") / 10,
		reversed: map[string]bool{}, bothWays: map[string]bool{}, switching: map[string]float64{}, protocol: r.word("out.wire"), loop: 100 * r.number("loop.rate"), poles: int(r.number("out.poles")),
		barometer: r.bit("sense.flags", 0), satellite: r.bit("sense.flags", 1),
	}
	for port := range m.ports {
		m.bauds[port] = r.number("port."+port+".baud") / 1000
	}
	if m.strengthOn > 0 {
		m.strength = "channel"
	}
	m.frame = digital(r.number("out.bits"), r.bit("out.flags", 0))
	m.control = flight.Settings{
		Order: r.word("hear.order"), Arm: window("gate.arm"), SelfLevel: window("gate.level"),
		Ranges:   quad.StickRanges{Roll: r.span("hear.span.roll"), Pitch: r.span("hear.span.pitch"), Throttle: r.span("hear.span.push"), Yaw: r.span("hear.span.yaw")},
		Deadband: r.number("hear.dead"), IdleBelow: r.number("hear.low"),
		Places: map[string]quad.Corner{}, Idle: r.number("out.idle") / 10000, Limit: r.number("push.most") / 100,
		Rates:      [3]quad.Rates{curve("turn.roll"), curve("turn.pitch"), curve("turn.yaw")},
		Gains:      [3]quad.Gains{hold("hold.roll"), hold("hold.pitch"), hold("hold.yaw")},
		AngleLimit: r.number("lean.limit"), Pull: r.number("lean.pull") / 10, Board: quad.Mount{Roll: r.number("mount.roll"), Pitch: r.number("mount.pitch"), Yaw: r.number("mount.yaw")},
		Guard: r.number("quiet.guard") * 0.05, LandPush: r.number("quiet.push") / 100,
		Family: quad.CentrePeak, Layout: quad.LayoutX, Rotation: quad.FrontLeftClockwise, Policy: quad.PolicyDrop,
	}
	m.control.ArmTilt = r.number("gate.tilt")
	m.control.Cut, m.control.Even = r.word("push.how") == "short", r.number("out.lift")/100
	for i, ahead := range r.parts("hold.ahead") {
		m.control.Gains[i].FeedForward = ahead / 1e6
	}
	m.control.Filters = marramFilters(r)
	m.control.Curve = feel.ThrottleCurve{Middle: r.number("push.mid") / 100, Bend: r.number("push.bend") / 100}
	m.figures = map[string]float64{
		"arms again, s": r.number("gate.pause") / 10, "settles for, s": r.number("quiet.time") / 10, "believes after, s": r.number("quiet.back") / 10,
		"sag, share": r.number("out.sag") / 100, "room, share": r.number("out.stretch") / 100,
		"loud, share": r.number("esc.beep") / 100, "spare, share": r.number("loop.spare") / 100, "once in": r.number("loop.share"),
	}
	m.words, m.windows = map[string]string{"writes to": r.word("note.log"), "keeps unfiltered": r.word("note.keep.raw")}, map[string]quad.Range{}
	m.figures["writes one of"] = r.number("note.log.share")
	for _, stick := range []string{"roll", "pitch", "push", "yaw", "aux"} {
		m.words["while silent, "+stick] = r.word("quiet.hold." + stick)
	}
	if seven {
		for gate, name := range map[string]string{"upside": "self-right", "beacon": "sounder", "mark": "mark", "light": "lamp", "hush": "quiet", "cam": "camera"} {
			m.windows[name] = window("gate." + gate)
		}
		m.control.Reverses = r.word("out.ways") == "both"
		for _, other := range []string{"second", "third"} {
			m.answers(window("gate."+other), curve(other+".roll"), curve(other+".pitch"), curve(other+".yaw"), r.number(other+".lean")/10, r.number(other+".push")/100)
		}
		m.control.Blended, m.control.Blend = window("gate.blend"), r.number("lean.blend")/100
		m.control.Authority, m.control.Firm = window("gate.firm"), r.word("push.firm") == "yes"
		m.warn, m.land = r.number("volt.warn")+r.number("volt.warn.part")/100, r.number("volt.land")+r.number("volt.land.part")/100
		m.poles, m.control.Idle = int(2*r.number("out.pairs")), r.number("out.rest")/1000
		m.control.AngleLimit, m.control.IdleBelow = r.number("lean.limit")/10, 1000+5*r.number("hear.low")
	}
	switch r.word("turn.shape") {
	case "stack":
		m.control.Family = quad.Compounding
	case "cube":
		m.control.Family = quad.StraightExpo
	}
	switch r.word("craft.shape") {
	case "wide":
		m.control.Layout = quad.LayoutWide
	case "plus":
		m.control.Layout = quad.LayoutPlus
	}
	if r.word("craft.whirl") == "widdershins" {
		m.control.Rotation = quad.FrontLeftCounterClockwise
	}
	if r.word("quiet.then") == "settle" {
		m.control.Policy = quad.PolicyLand
	}
	for i, word := range r.words("out.places") {
		letter := string(rune('A' + i))
		m.control.Places[letter] = marramCorners[word]
		m.reversed[letter] = r.word("esc."+letter+".turn") == "reversed"
		m.switching[letter] = r.number("esc." + letter + ".kilohertz")
		m.figures["more on "+letter+", share"], m.figures["ahead on "+letter+", deg"] = r.number("out."+letter+".trim")/1000, r.number("esc."+letter+".lead")
		m.bothWays[letter] = seven && r.word("esc."+letter+".ways") == "both"
	}
	return m
}

// marramFilters: each has its switch and its frequency; the second of a kind falls twice as steeply.
func marramFilters(r raws) quad.Filters {
	low := func(name string, kind quad.LowPassKind) quad.LowPass {
		if r.word("calm."+name+".on") != "yes" {
			kind = quad.LowPassOff
		}
		return quad.LowPass{Kind: kind, Cutoff: r.number("calm." + name + ".hertz")}
	}
	on := func(name string) quad.OnOff { return onOff(r.word("calm."+name+".on") == "yes") }
	return quad.Filters{
		Gyro: low("gyro1", quad.LowPassFirst), GyroSecond: low("gyro2", quad.LowPassSecond), Change: low("slope1", quad.LowPassFirst), ChangeSecond: low("slope2", quad.LowPassSecond),
		Notch: quad.Notch{On: on("notch1"), Centre: r.number("calm.notch1.hertz")}, NotchSecond: quad.Notch{On: on("notch2"), Centre: r.number("calm.notch2.hertz")},
		Following: quad.RotorNotches{On: on("turning"), Tones: int(r.number("calm.turning.tones")), Least: r.number("calm.turning.least"), Width: r.number("calm.turning.width")},
		Searching: quad.SearchNotches{Count: int(r.number("calm.seek")), From: r.number("calm.seek.low"), To: r.number("calm.seek.high")},
	}
}

func marramLevels(roll, pitch float64) map[string]string {
	return map[string]string{"found.level.roll": whole(10 * roll), "found.level.pitch": whole(10 * pitch), "found.level.done": "1"}
}
