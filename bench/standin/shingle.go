package standin

import (
	"math"
	"strconv"

	"vividperch/core/flight"
	"vividperch/core/quad"
)

var (
	shingleSeats   = map[string]quad.Corner{"1": quad.FrontRight, "2": quad.RearLeft, "3": quad.FrontLeft, "4": quad.RearRight}
	shingleJobs    = map[string]string{"0": "none", "2": "setup", "3": "receiver", "5": "satellite", "7": "video", "9": "display"}
	shingleTongues = map[string]string{"0": "frame", "1": "both", "2": "train"}
	shingleSources = map[string]string{"0": "none", "1": "channel", "2": "pin", "3": "frame"}
	shingleSignals = map[string]string{"0": "pulse", "1": "short", "2": "bits"}
)

// shingleMeaning: from version 2 on rotation counts radians, throttle shares of full.
func shingleMeaning(r raws, after func(string) bool) meaning {
	two := after("2.2.0")
	degrees := 1.0
	if two {
		degrees = 180 / math.Pi
	}
	window := func(name string) quad.Range {
		return quad.Range{Channel: int(r.number(name + "Channel")), From: r.number(name + "From"), To: r.number(name + "To")}
	}
	span := func(name string) quad.Ends {
		return quad.Ends{Low: r.number(name + "Low"), Centre: r.number(name + "Centre"), High: r.number(name + "High")}
	}
	turn := func(name string) quad.Rates {
		p := r.parts(name)
		return quad.Rates{Centre: p[0] * degrees, Peak: p[1] * degrees, Bend: p[2]}
	}
	// A share of full throttle per radian is that many per cent times 100 per 57.3 degrees.
	perRadian := 100 * math.Pi / 180
	hold := func(name string) quad.Gains {
		return quad.Gains{Proportional: r.number(name+"HoldP") * perRadian, Integral: r.number(name+"HoldI") * perRadian, Derivative: r.number(name+"HoldD") * perRadian}
	}
	m := meaning{
		ports: map[string]string{"1": shingleJobs[r.word("SerialJob1")], "2": shingleJobs[r.word("SerialJob2")], "3": shingleJobs[r.word("SerialJob3")], "4": shingleJobs[r.word("SerialJob4")], "5": shingleJobs[r.word("SerialJob5")], "6": shingleJobs[r.word("SerialJob6")]},
		bauds: map[string]float64{}, language: shingleTongues[r.word("LinkLanguage")], strength: shingleSources[r.word("LinkStrengthFrom")], strengthOn: int(r.number("LinkStrengthChannel")),
		inverted: r.bit("LinkFlags", 0), telemetry: r.bit("LinkFlags", 1), beeper: window("Beep"),
		cells: int(r.number("CellCount")), warn: r.number("WarnVolts"), land: r.number("LandVolts") + r.number("LandHundredths")/100, scale: r.number("VoltGain") / 11,
		video: r.number("VideoMhz"), levelRoll: r.number("LevelRoll") * 180 / math.Pi, levelPitch: r.number("LevelPitch") * 180 / math.Pi,
		reversed: map[string]bool{}, protocol: shingleSignals[r.word("MotorSignal")], loop: r.number("LoopHz"), poles: int(r.number("MotorPoles")),
		barometer: r.bit("SensorFlags", 0), satellite: r.bit("SensorFlags", 1), compass: r.bit("SensorFlags", 2),
		frame: digital(r.number("MotorKbit"), r.bit("MotorFlags", 0)),
	}
	m.figures = map[string]float64{
		"up to, share": r.number("MotorCurveMost"), "from, share": r.number("MotorCurveLeast"), "late, share": r.number("MotorCurveLag"),
		"bus, kbit/s": r.number("CanBitrate"), "bus, own number": r.number("CanNode"), "bus, first": r.number("CanEsc"), "bus, how many": r.number("CanMotors"), "bus, silent ms": r.number("CanTimeout"),
		"goes on": r.number("LossOptions"), "compass turned, deg": r.number("CompassTurned"),
	}
	m.words = map[string]string{
		"bus": r.word("CanOn"), "checks": r.word("ArmChecks"), "crash": r.word("LossCrash"), "pack empty": r.word("LossBattery"), "lost its place": r.word("LossEstimate"),
		"at the fence": r.word("LossFenceAction"), "ground lost": r.word("LossGroundAction"),
	}
	m.windows = map[string]quad.Range{"camera": window("AuxCamera")}
	for setting, name := range map[string]string{"Hold": "hold", "Home": "home", "Height": "height", "Mission": "mission"} {
		m.windows[name] = window("Mode" + setting)
	}
	for port := range m.ports {
		m.bauds[port] = usualSpeed(r.number("SerialBaud" + port))
	}
	m.control = flight.Settings{
		ArmTilt: boardTilt,
		Order:   r.word("ChannelOrder"), Arm: window("Arm"), SelfLevel: window("Level"),
		Ranges:   quad.StickRanges{Roll: span("Roll"), Pitch: span("Pitch"), Throttle: span("Throttle"), Yaw: span("Yaw")},
		Deadband: r.number("StickDeadband"), IdleBelow: r.number("ThrottleRest"),
		Places: map[string]quad.Corner{}, Idle: r.number("MotorIdlePercent") / 100, Limit: r.number("ThrottleMost"),
		Rates:      [3]quad.Rates{turn("RollTurn"), turn("PitchTurn"), turn("YawTurn")},
		Gains:      [3]quad.Gains{hold("Roll"), hold("Pitch"), hold("Yaw")},
		AngleLimit: r.number("LeanMost") / 100, Pull: r.number("LevelPull"), Board: quad.Mount{Roll: r.number("BoardRolled"), Pitch: r.number("BoardPitched"), Yaw: r.number("BoardTurned")},
		Guard: r.number("LossWait"), LandPush: r.number("LossThrottle"),
		Family: quad.StraightExpo, Layout: quad.LayoutX, Rotation: quad.FrontLeftCounterClockwise, Policy: quad.PolicyLand,
	}
	for i, axis := range []string{"Roll", "Pitch", "Yaw"} {
		m.control.Gains[i].FeedForward = r.number(axis+"HoldAhead") * perRadian
	}
	m.control.Filters = quad.Filters{
		Gyro: quad.LowPass{Cutoff: r.number("FilterGyro")}, Change: quad.LowPass{Cutoff: r.number("FilterSlope")},
		Notch:     quad.Notch{On: onOff(r.word("FilterNotchOn") == "1"), Centre: r.number("FilterNotchHertz"), Width: r.number("FilterNotchWidth")},
		Following: quad.RotorNotches{On: onOff(r.word("FilterTurningOn") == "1"), Tones: int(r.number("FilterTurningTones")), Least: r.number("FilterTurningLeast")},
	}
	m.control.ByStick, m.control.Even = r.word("ArmGesture") == "1", r.number("MotorCurveBend")
	if r.word("ArmChecks") == "0" { // it arms at any throttle and at any lean
		m.control.IdleBelow, m.control.ArmTilt = 3000, 180
	}
	if two {
		for _, other := range []string{"Second", "Third"} {
			m.answers(window("Mode"+other), turn("Roll"+other+"Turn"), turn("Pitch"+other+"Turn"), turn("Yaw"+other+"Turn"), r.number("Lean"+other+"Most")*180/math.Pi, r.number("Turn"+other+"Throttle"))
		}
		m.control.ByStick = r.word("ArmByStick") == "yes"
		m.control.Idle, m.control.AngleLimit = r.number("MotorIdle"), r.number("LeanMost")*180/math.Pi
	} else {
		m.warn += r.number("WarnHundredths") / 100
	}
	switch r.word("TurnFamily") {
	case "0":
		m.control.Family = quad.CentrePeak
	case "1":
		m.control.Family = quad.Compounding
	}
	switch r.word("FrameKind") {
	case "0":
		m.control.Layout = quad.LayoutPlus
	case "2":
		m.control.Layout = quad.LayoutWide
	}
	if r.word("SpinPlan") == "1" {
		m.control.Rotation = quad.FrontLeftClockwise
	}
	switch r.word("LossPlan") {
	case "0":
		m.control.Policy = quad.PolicyDrop
	case "2":
		m.control.Policy = quad.PolicyReturn
	}
	m.control.Nav = flight.Navigation{Hold: m.windows["hold"], ComeHome: m.windows["home"], WayHeight: r.number("HomeHeight") / 100, Speed: r.number("HomeSpeed") / 100, AtHome: quad.HomeDrops}
	switch r.word("HomeHeightKind") {
	case "0":
		m.control.Nav.Way = quad.WayAsIs
	case "1":
		m.control.Nav.Way = quad.WaySet
	default:
		m.control.Nav.Way = quad.WayHighest
	}
	if r.word("HomeThen") == "1" {
		m.control.Nav.AtHome = quad.HomeLands
	}
	for i, seat := range r.words("MotorSeat") {
		letter := string(rune('A' + i))
		m.control.Places[letter] = shingleSeats[seat]
		m.reversed[letter] = r.bit("EscTurned", i)
		m.figures["more on "+letter+", share"], m.figures["ahead on "+letter+", deg"] = r.number("MotorTrim"+letter), r.number("EscLead"+letter)
	}
	return m
}

func shingleLevels(roll, pitch float64) map[string]string {
	radians := func(deg float64) string { return strconv.FormatFloat(math.Round(deg*math.Pi/180*1e4)/1e4, 'f', -1, 64) }
	return map[string]string{"LevelRoll": radians(roll), "LevelPitch": radians(pitch), "LevelDone": "1"}
}

func shingleFaces(told toldFaces) map[string]string {
	four := func(x float64) string { return strconv.FormatFloat(math.Round(x*1e4)/1e4, 'f', -1, 64) }
	out := map[string]string{"AccelDone": "1"}
	for i, axis := range [3]string{"X", "Y", "Z"} {
		out["AccelZero"+axis], out["AccelScale"+axis] = four(told.zero[i]), four(told.gain[i])
	}
	return out
}
