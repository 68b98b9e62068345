package standin

import (
	"vividperch/core/feel"
	"vividperch/core/flight"
	"vividperch/core/quad"
)

var (
	spindriftCorners = map[string]quad.Corner{"front-left": quad.FrontLeft, "front-right": quad.FrontRight, "rear-left": quad.RearLeft, "rear-right": quad.RearRight}
	spindriftJobs    = map[string]string{"0": "none", "1": "setup", "2": "receiver", "4": "satellite", "8": "video", "16": "display"}
	spindriftTongues = map[string]string{"frame": "frame", "two-way": "both", "pulses": "train"}
	spindriftSignals = map[string]string{"slow": "pulse", "quick": "short", "frames": "bits"}
)

// spindriftMeaning: from version 9 on ranges count 5 µs from 800 instead of 25 from 900, turns deg/s instead of tens of
// them.
func spindriftMeaning(r raws, after func(string) bool) meaning {
	nine := after("9.0.2")
	window := func(name string) quad.Range {
		p := r.parts(name)
		if nine {
			return quad.Range{Channel: int(p[0]), From: 800 + 5*p[1], To: 800 + 5*p[2]}
		}
		return quad.Range{Channel: int(p[0]), From: 900 + 25*p[1], To: 900 + 25*p[2]}
	}
	turn := func(name string) quad.Rates {
		p := r.parts(name)
		if !nine {
			p[0], p[1] = 10*p[0], 10*p[1]
		}
		return quad.Rates{Centre: p[0], Peak: p[1], Bend: p[2] / 100}
	}
	hold := func(name string) quad.Gains {
		p := r.parts(name)
		return quad.Gains{Proportional: p[0] / 1e4, Integral: p[1] / 1e3, Derivative: p[2] / 1e6}
	}
	m := meaning{
		bauds: map[string]float64{}, language: spindriftTongues[r.word("receiver-language")], strength: r.word("receiver-strength-from"), strengthOn: int(r.number("receiver-strength-on")),
		ports: map[string]string{}, telemetry: r.bit("receiver-options", 0), inverted: r.bit("receiver-options", 1), beeper: window("beep-when"),
		cells: int(r.number("cell-count")), warn: r.number("cell-warn-cv") / 100, land: r.number("cell-land-cv") / 100, scale: r.number("volt-gain") / 1100,
		video: r.number("video-mhz"), milliwatt: r.number("video-mw"),
		levelRoll: r.number("level-roll-cd") / 100, levelPitch: r.number("level-pitch-cd") / 100,
		reversed: map[string]bool{}, protocol: spindriftSignals[r.word("throttle-signal")], loop: r.number("loop-hz"), poles: int(r.number("motor-poles")),
		barometer: r.bit("sensors", 0), satellite: r.bit("sensors", 1), compass: r.bit("sensors", 2),
		frame: digital(r.number("frames-kbit"), r.bit("motor-options", 0)),
	}
	m.figures = map[string]float64{"kick, share": r.number("motor-start") / 100, "home from, m": r.number("loss-near-m"), "arms after a loss, s": r.number("loss-rearm-s"), "declination, deg": r.number("compass-away") / 10, "compass turned, deg": r.number("compass-turned-deg")}
	m.words, m.windows = map[string]string{"wants a fix": r.word("when-fixed-arm")}, map[string]quad.Range{}
	for _, name := range []string{"hold", "home", "mission", "height", "heading", "mark", "camera", "lamp", "quiet"} {
		m.windows[name] = window("when-" + name)
	}
	for i, job := range r.words("serial-jobs") {
		port := string(rune('1' + i))
		m.ports[port], m.bauds[port] = spindriftJobs[job], usualSpeed(r.number("serial-"+port+"-kbaud"))
	}
	m.control = flight.Settings{
		ArmTilt: boardTilt, Blended: window("when-blend"), Blend: 0.75,
		Order: r.word("stick-order"), Arm: window("arm-when"), SelfLevel: window("level-when"),
		Ranges:   quad.StickRanges{Roll: r.span("roll-travel"), Pitch: r.span("pitch-travel"), Throttle: r.span("throttle-travel"), Yaw: r.span("yaw-travel")},
		Deadband: r.number("stick-rest-us"), IdleBelow: r.number("throttle-low-us"),
		Places: map[string]quad.Corner{}, Idle: r.number("idle-share") / 10000, Limit: r.number("throttle-most") / 100,
		Rates:      [3]quad.Rates{turn("roll-turn"), turn("pitch-turn"), turn("yaw-turn")},
		Gains:      [3]quad.Gains{hold("roll-hold"), hold("pitch-hold"), hold("yaw-hold")},
		AngleLimit: r.number("lean-most") / 10, Pull: r.number("level-pull") / 10, Board: quad.Mount{Roll: r.number("board-lean-roll"), Pitch: r.number("board-lean-pitch"), Yaw: r.number("board-turned-deg")},
		Guard: r.number("loss-wait-s") + r.number("loss-wait-cs")/100, LandPush: (r.number("loss-throttle-us") - 1000) / 1000,
		Family: quad.CentrePeak, Layout: quad.LayoutX, Rotation: quad.FrontLeftClockwise, Policy: quad.PolicyLand,
	}
	if nine {
		for _, n := range []string{"2", "3"} {
			name := map[string]string{"2": "second", "3": "third"}[n]
			m.answers(window("when-"+name), turn("roll-turn-"+n), turn("pitch-turn-"+n), turn("yaw-turn-"+n), r.number("lean-most-deg-"+n), r.number("throttle-most-"+n)/100)
		}
		m.control.IdleBelow, m.control.AngleLimit, m.control.LandPush = r.number("throttle-rest-below"), r.number("lean-most-deg"), r.number("loss-push")/100
	}
	if r.word("turn-curve") == "plain" {
		m.control.Family = quad.StraightExpo
	}
	switch r.word("craft-kind") {
	case "quad-wide":
		m.control.Layout = quad.LayoutWide
	case "quad-plus":
		m.control.Layout = quad.LayoutPlus
	}
	if r.word("turning-plan") == "right-first" {
		m.control.Rotation = quad.FrontLeftCounterClockwise
	}
	switch r.word("loss-plan") {
	case "drop":
		m.control.Policy = quad.PolicyDrop
	case "home":
		m.control.Policy = quad.PolicyReturn
	}
	for i, axis := range []string{"roll", "pitch", "yaw"} {
		m.control.Gains[i].FeedForward = r.number(axis+"-ahead") / 1e6
	}
	m.control.Curve = feel.ThrottleCurve{Middle: r.number("throttle-mid") / 100, Bend: r.number("throttle-bend") / 100}
	m.control.Filters = quad.Filters{
		Gyro: quad.LowPass{Cutoff: r.number("smooth-gyro-hz")}, Change: quad.LowPass{Cutoff: r.number("smooth-slope-hz")},
		Notch:     quad.Notch{On: onOff(r.word("smooth-notch") == "yes"), Centre: r.number("smooth-notch-hz")},
		Following: quad.RotorNotches{On: onOff(r.word("smooth-turning") == "yes"), Tones: int(r.number("smooth-turning-tones")), Least: r.number("smooth-turning-least")},
	}
	m.control.Nav = flight.Navigation{
		Hold: m.windows["hold"], ComeHome: m.windows["home"], WayHeight: r.number("home-height-m"), Speed: r.number("home-speed-cms") / 100, AtHome: quad.HomeLands,
		Near: r.number("loss-near-m"), Satellites: int(r.number("fix-satellites")),
		Way: map[string]quad.HomeWay{"here": quad.WayAsIs, "height": quad.WaySet, "highest": quad.WayHighest}[r.word("home-height-from")],
	}
	if r.word("home-then") == "sink" {
		m.control.Nav.AtHome = quad.HomeDrops
	}
	for i, letter := range []string{"A", "B", "C", "D"} {
		m.control.Places[letter] = spindriftCorners[r.word("seat-"+letter)]
		m.reversed[letter] = r.bit("motors-turned", i)
		m.figures["ahead on "+letter+", deg"] = r.number("motor-" + letter + "-lead")
	}
	return m
}

func onOff(is bool) quad.OnOff {
	if is {
		return quad.On
	}
	return quad.Off
}

func spindriftLevels(roll, pitch float64) map[string]string {
	return map[string]string{"level-roll-cd": whole(100 * roll), "level-pitch-cd": whole(100 * pitch), "level-found": "1"}
}
