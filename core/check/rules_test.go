package check_test

import (
	"fmt"
	"math/rand/v2"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"

	"vividperch/core/check"
	"vividperch/core/quad"
	"vividperch/demo"
)

// fixture changes the sound quad and says what one rule must make of it.
type fixture struct {
	rule  string
	name  string
	set   map[quad.Path]string // JSON by path; readings are wrapped
	board bool                 // write the changed sheet to the board
	fly   bool                 // rehearse what came of it
	// What must come: a finding of this weight whose title or figures hold says, or an ask for this path, or,
	// with neither, nothing at all.
	weight check.Weight
	says   string
	ask    quad.Path
}

func set(pairs ...string) map[quad.Path]string {
	out := map[quad.Path]string{}
	for i := 0; i < len(pairs); i += 2 {
		out[quad.Path(pairs[i])] = pairs[i+1]
	}
	return out
}

// Three for each rule that reads a reading (it fires, it is silent, it asks), two for the others. Silence on
// the sound quad is checked for all of them beside the ones that are silent here in spite of a change.
var fixtures = []fixture{
	{rule: "airframe.cells-in-range", name: "7 cells on parts for 6", set: set("parts.packs.grey.cells", "7"), weight: check.Stop, says: "more cells than the speed controllers"},
	{rule: "airframe.cells-in-range", name: "too few cells", set: set("parts.packs.green.cells", "2"), weight: check.Fix, says: "fewer cells"},
	{rule: "airframe.cells-in-range", name: "a pack for every part", set: set("parts.packs.green.cells", "4")},
	{rule: "airframe.cells-in-range", name: "no pack", set: set("parts.packs", "{}"), weight: check.Stop, says: "No pack"},
	{rule: "airframe.cells-in-range", name: "video that takes less", set: set("parts.video.cellsMax", "4"), weight: check.Stop, says: "video transmitter"},
	{rule: "airframe.cells-in-range", name: "board that takes less", set: set("parts.board.cellsMax", "4"), weight: check.Stop, says: "board"},
	{rule: "airframe.motor-current", name: "weak speed controllers", set: set("parts.speedController.continuous", "35"), weight: check.Fix, says: "43.7 A"},
	{rule: "airframe.motor-current", name: "motors over their rating", set: set("parts.motor.peakCurrent", "40"), weight: check.Fix, says: "rated 40 A"},
	{rule: "airframe.motor-current", name: "strong ones", set: set("parts.speedController.continuous", "80")},
	{rule: "airframe.motor-current", name: "no motor data", set: set("parts.motor.kv", "0"), weight: check.Stop, says: "speed constant"},
	{rule: "airframe.pack-current", name: "a soft pack", set: set("parts.packs.grey.discharge", "60"), weight: check.Note, says: "more of the pack"},
	{rule: "airframe.pack-current", name: "a strong pack", set: set("parts.packs.grey.discharge", "200")},
	{rule: "airframe.thrust-to-weight", name: "five times its weight", set: set("readings.airframe.weight", "3600"), weight: check.Fix, says: "hardly lift"},
	{rule: "airframe.thrust-to-weight", name: "heavy", set: set("readings.airframe.weight", "2000"), weight: check.Note, says: "modest"},
	{rule: "airframe.thrust-to-weight", name: "light", set: set("readings.airframe.weight", "600")},
	{rule: "airframe.thrust-to-weight", name: "not weighed", set: set("readings.airframe.weight", "null"), ask: "readings.airframe.weight"},
	{rule: "airframe.tip-speed", name: "long blades", set: set("parts.propeller.diameter", "152", "parts.propeller.power", "0.05"), weight: check.Fix, says: "tips run fast"},
	{rule: "airframe.tip-speed", name: "short blades", set: set("parts.propeller.diameter", "76")},
	{rule: "airframe.capacitor", name: "none", set: set("parts.capacitor.capacitance", "0"), weight: check.Fix, says: "too little capacitor"},
	{rule: "airframe.capacitor", name: "rated too low", set: set("parts.capacitor.rating", "25"), weight: check.Fix, says: "35 V needed"},
	{rule: "airframe.capacitor", name: "of high resistance", set: set("parts.capacitor.resistance", "40"), weight: check.Fix, says: "own resistance"},
	{rule: "airframe.capacitor", name: "a better one", set: set("parts.capacitor.capacitance", "2200", "parts.capacitor.rating", "50")},
	{rule: "airframe.propellers-clear", name: "touches", set: set("readings.airframe.clear", "false"), weight: check.Stop, says: "can touch"},
	{rule: "airframe.propellers-clear", name: "tips too near", set: set("parts.frame.tipGap", "2"), weight: check.Fix, says: "nearly meet"},
	{rule: "airframe.propellers-clear", name: "wide gap", set: set("parts.frame.tipGap", "20")},
	{rule: "airframe.propellers-clear", name: "not looked at", set: set("readings.airframe.clear", "null"), ask: "readings.airframe.clear"},

	{rule: "first-power.safe-to-connect", name: "propellers on", set: set("readings.firstPower.propellersOff", "false"), weight: check.Stop, says: "Propellers are on"},
	{rule: "first-power.safe-to-connect", name: "no antenna", set: set("readings.firstPower.antennasOn", "false"), weight: check.Stop, says: "no antenna"},
	{rule: "first-power.safe-to-connect", name: "not confirmed", set: set("readings.firstPower.antennasOn", "null"), ask: "readings.firstPower.antennasOn"},
	{rule: "first-power.lead-short", name: "bridge", set: set("readings.firstPower.leadResistance", `{"atOnce":0.4,"after":0.4}`), weight: check.Stop, says: "1000 µF"},
	{rule: "first-power.lead-short", name: "low but rising", set: set("readings.firstPower.leadResistance", `{"atOnce":2,"after":95}`)},
	{rule: "first-power.lead-short", name: "not measured", set: set("readings.firstPower.leadResistance", "null"), ask: "readings.firstPower.leadResistance"},
	{rule: "first-power.frame-short", name: "frame live", set: set("readings.firstPower.frameResistance", "0.2"), weight: check.Stop, says: "0.2 kΩ"},
	{rule: "first-power.frame-short", name: "just above", set: set("readings.firstPower.frameResistance", "12")},
	{rule: "first-power.frame-short", name: "not measured", set: set("readings.firstPower.frameResistance", "null"), ask: "readings.firstPower.frameResistance"},
	{rule: "first-power.idle-current", name: "half again", set: set("readings.firstPower.idleCurrent", "0.6"), weight: check.Fix, says: "0.44 A expected"},
	{rule: "first-power.idle-current", name: "more than double", set: set("readings.firstPower.idleCurrent", "0.9"), weight: check.Stop, says: "0.9 A"},
	{rule: "first-power.idle-current", name: "without video the same is too much", set: set("parts.video.fitted", "false"), weight: check.Fix, says: "0.25 A expected"},
	{rule: "first-power.idle-current", name: "less than expected", set: set("readings.firstPower.idleCurrent", "0.4")},
	{rule: "first-power.idle-current", name: "not measured", set: set("readings.firstPower.idleCurrent", "null"), ask: "readings.firstPower.idleCurrent"},

	{rule: "firmware.right-board", name: "another board", set: set("readings.firmware.identity", `{"target":"OLDPIER","line":"Marram","version":"7.0.2"}`), weight: check.Stop, says: "another one than the parts say"},
	{rule: "firmware.right-board", name: "another version", set: set("sheet.firmware.version", `"7.1.0"`), weight: check.Stop, says: "7.1.0"},
	{rule: "firmware.right-board", name: "both changed alike", set: set("sheet.firmware.version", `"7.1.0"`, "readings.firmware.identity", `{"target":"HARRIER4","line":"Marram","version":"7.1.0"}`)},
	{rule: "firmware.right-board", name: "not identified", set: set("readings.firmware.identity", "null"), ask: "readings.firmware.identity"},
	{rule: "firmware.read-back-agrees", name: "read from another version", set: set("board.version", `"6.2.0"`), weight: check.Stop, says: "6.2.0"},
	{rule: "firmware.read-back-agrees", name: "read from another board", set: set("board.target", `"OLDPIER"`), weight: check.Stop, says: "OLDPIER"},
	{rule: "firmware.read-back-agrees", name: "never read", set: set("board.target", `""`, "board.line", `""`), ask: "readings.firmware.identity"},
	{rule: "firmware.saved", name: "saved", set: set("readings.firmware.backup", `{"name":"x","settings":1,"changed":0,"hash":"a"}`)},
	{rule: "firmware.saved", name: "not saved", set: set("readings.firmware.backup", "null"), ask: "readings.firmware.backup"},
	{rule: "firmware.unmapped", name: "a setting of another version", set: set("board.unmapped", `["from.the.future = 1"]`), weight: check.Stop, says: "from.the.future"},
	{rule: "firmware.unmapped", name: "another than the sheet names", set: set("sheet.firmware.other", `["note.light = 5"]`), weight: check.Stop, says: "Sheet: 5. Board: 3"},
	{rule: "firmware.unmapped", name: "as the sheet names it", set: set("sheet.firmware.other", `["note.light = 3"]`)},
	{rule: "firmware.unmapped", name: "no dictionary", set: set("board.line", `"Unheard"`), weight: check.Note, says: "No dictionary"},
	{rule: "firmware.unmapped", name: "unreadable", set: set("sheet.firmware.other", `["five"]`), weight: check.Stop, says: "cannot be read"},

	{rule: "wiring.ports-match-solder", name: "nobody listens", set: set("parts.wires.receiver.port", `"3"`), weight: check.Stop, says: "Nobody listens"},
	{rule: "wiring.ports-match-solder", name: "listens for nothing", set: set("sheet.wiring.ports.4.function", `"satellite"`), weight: check.Fix, says: "not there"},
	{rule: "wiring.ports-match-solder", name: "two want it", set: set("sheet.wiring.ports.3.function", `"receiver"`), weight: check.Stop, says: "Two ports"},
	{rule: "wiring.ports-match-solder", name: "moved at both ends", set: set("parts.wires.receiver.port", `"3"`, "sheet.wiring.ports.3.function", `"receiver"`, "sheet.wiring.ports.2.function", `"nothing"`)},
	{rule: "wiring.inversion", name: "port cannot", set: set("parts.receiver.inverted", "true"), weight: check.Stop, says: "cannot invert"},
	{rule: "wiring.inversion", name: "sheet disagrees", set: set("sheet.link.inverted", "true"), weight: check.Stop, says: "disagree about inversion"},
	{rule: "wiring.inversion", name: "inverted on a port that can", set: set("parts.receiver.inverted", "true", "sheet.link.inverted", "true", "parts.wires.receiver.port", `"3"`)},
	{rule: "wiring.receiver-answers", name: "silent", set: set("readings.wiring.receiverAnswers", "false"), weight: check.Stop, says: "silent"},
	{rule: "wiring.receiver-answers", name: "not looked at", set: set("readings.wiring.receiverAnswers", "null"), ask: "readings.wiring.receiverAnswers"},

	{rule: "link.versions", name: "a major apart", set: set("parts.receiver.version", `"5.3.0"`), weight: check.Stop, says: "different major versions"},
	{rule: "link.versions", name: "another link", set: set("parts.receiver.link", `"Groyne"`), weight: check.Stop, says: "different links"},
	{rule: "link.versions", name: "another band", set: set("parts.radioModule.band", `"900 MHz"`), weight: check.Stop, says: "different bands"},
	{rule: "link.versions", name: "not read", set: set("parts.receiver.version", `""`), weight: check.Fix, says: "not known"},
	{rule: "link.versions", name: "minor apart", set: set("parts.receiver.version", `"6.9.1"`)},
	{rule: "link.legal-power", name: "too much", set: set("parts.radioModule.power", "250"), weight: check.Fix, says: "100 mW allowed"},
	{rule: "link.legal-power", name: "less is fine", set: set("limits.controlPower", "500")},
	{rule: "link.telemetry", name: "wanted, not sent", set: set("parts.receiver.telemetry", "false"), weight: check.Fix, says: "sends none"},
	{rule: "link.telemetry", name: "not wanted", set: set("parts.receiver.telemetry", "false", "sheet.link.telemetry", "false")},
	{rule: "link.channels-move", name: "light on, nothing moves", set: set("readings.link.channelsMove", "false"), weight: check.Stop, says: "No channel moves"},
	{rule: "link.channels-move", name: "not tried", set: set("readings.link.channelsMove", "null"), ask: "readings.link.channelsMove"},
	{rule: "link.quality", name: "weak", set: set("readings.link.range", "55"), weight: check.Fix, says: "55 %"},
	{rule: "link.quality", name: "just good enough", set: set("readings.link.range", "70")},
	{rule: "link.quality", name: "not walked", set: set("readings.link.range", "null"), ask: "readings.link.range"},

	{rule: "sticks.order", name: "another order", set: set("sheet.sticks.order", `"TAER"`), weight: check.Stop, says: "sends AETR, the board expects TAER"},
	{rule: "sticks.order", name: "two on one channel", set: set("readings.sticks.axes.roll", `{"channel":2}`), weight: check.Stop, says: "Two sticks"},
	{rule: "sticks.order", name: "backwards", set: set("readings.sticks.axes.pitch", `{"channel":2,"ends":{"low":1000,"centre":1500,"high":2000},"reversed":true}`), weight: check.Stop, says: "Pitch runs backwards"},
	{rule: "sticks.order", name: "not captured", set: set("readings.sticks.axes.yaw", "null"), ask: "readings.sticks.axes.yaw"},
	{rule: "sticks.radio-plan", name: "planned otherwise", set: set("radio.order", `"TAER"`), weight: check.Note, says: "planned TAER"},
	{rule: "sticks.radio-plan", name: "not captured", set: set("readings.sticks.axes.roll", "null"), ask: "readings.sticks.axes.roll"},
	{rule: "sticks.ends", name: "short", set: set("readings.sticks.axes.yaw", `{"channel":4,"ends":{"low":1060,"centre":1500,"high":1940}}`), weight: check.Fix, says: "Yaw does not reach its ends"},
	{rule: "sticks.ends", name: "a little short", set: set("readings.sticks.axes.yaw", `{"channel":4,"ends":{"low":1008,"centre":1500,"high":1992}}`)},
	{rule: "sticks.ends", name: "not captured", set: set("readings.sticks.axes", "{}"), ask: "readings.sticks.axes.pitch"},
	{rule: "sticks.centre", name: "off", set: set("readings.sticks.axes.roll", `{"channel":1,"ends":{"low":1000,"centre":1509,"high":2000}}`), weight: check.Fix, says: "1509 µs at rest"},
	{rule: "sticks.ends", name: "short, and stretched by the board", set: set("readings.sticks.axes.yaw", `{"channel":4,"ends":{"low":1060,"centre":1500,"high":1940}}`, "sheet.sticks.ranges.yaw", `{"low":1060,"centre":1500,"high":1940}`)},
	{rule: "sticks.ends", name: "stretched too far", set: set("sheet.sticks.ranges.roll", `{"low":1100,"centre":1500,"high":1900}`), weight: check.Fix, says: "Roll 875 to 2125 µs"},
	{rule: "sticks.centre", name: "two centres", set: set("readings.sticks.axes.roll", `{"channel":1,"ends":{"low":1000,"centre":1500,"high":2000},"hysteresis":14}`), weight: check.Note, says: "14 µs apart"},
	{rule: "sticks.centre", name: "off, but mapped to the middle", set: set("readings.sticks.axes.roll", `{"channel":1,"ends":{"low":1000,"centre":1520,"high":2000}}`, "sheet.sticks.ranges.roll", `{"low":1000,"centre":1520,"high":2000}`)},
	{rule: "sticks.centre", name: "off inside its dead band", set: set("readings.sticks.axes.roll", `{"channel":1,"ends":{"low":1000,"centre":1509,"high":2000}}`, "sheet.sticks.deadband", "12")},
	{rule: "sticks.centre", name: "trembles", set: set("readings.sticks.axes.roll", `{"channel":1,"ends":{"low":1000,"centre":1500,"high":2000},"jitter":2.5}`), weight: check.Note, says: "2.5 µs"},
	{rule: "sticks.centre", name: "not captured", set: set("readings.sticks.axes.pitch", "null"), ask: "readings.sticks.axes.pitch"},
	{rule: "sticks.arm-range", name: "on the edge", set: set("sheet.sticks.arm.from", "1885"), weight: check.Stop, says: "8 µs from the range's edge"},
	{rule: "sticks.arm-range", name: "near the edge", set: set("sheet.sticks.arm.from", "1860"), weight: check.Fix, says: "33 µs"},
	{rule: "sticks.arm-range", name: "never reached", set: set("sheet.sticks.arm.from", "1950"), weight: check.Stop, says: "cannot be reached"},
	{rule: "sticks.arm-range", name: "always on", set: set("sheet.sticks.arm.from", "900"), weight: check.Stop, says: "in every position"},
	{rule: "sticks.arm-range", name: "nothing arms it", set: set("sheet.sticks.arm.channel", "0"), weight: check.Stop, says: "Nothing arms it"},
	{rule: "sticks.arm-range", name: "no switch there", set: set("sheet.sticks.arm.channel", "8"), weight: check.Stop, says: "no switch drives"},
	{rule: "sticks.arm-range", name: "wide inside", set: set("sheet.sticks.arm.from", "1600")},
	{rule: "sticks.arm-range", name: "not captured", set: set("readings.sticks.switches.left shoulder", "null"), ask: "readings.sticks.switches.left shoulder"},
	{rule: "sticks.level-range", name: "never reached", set: set("sheet.sticks.selfLevel.from", "2050"), weight: check.Stop, says: "Self-level cannot be reached"},
	{rule: "sticks.level-range", name: "not used", set: set("sheet.sticks.selfLevel.channel", "0")},
	{rule: "sticks.level-range", name: "not captured", set: set("readings.sticks.switches.right shoulder", "null"), ask: "readings.sticks.switches.right shoulder"},
	{rule: "sticks.arm-alone", name: "shares with self-level", set: set("sheet.sticks.selfLevel.channel", "5"), weight: check.Fix, says: "with self-level"},
	{rule: "sticks.arm-alone", name: "shares with the beeper", set: set("sheet.sticks.beeper.channel", "5"), weight: check.Fix, says: "with the beeper"},
	{rule: "sticks.arm-alone", name: "moved to one of its own", set: set("sheet.sticks.arm.channel", "8")},
	{rule: "sticks.throttle-rest", name: "never at rest", set: set("readings.sticks.axes.throttle", `{"channel":3,"ends":{"low":1058,"centre":1500,"high":1942}}`), weight: check.Fix, says: "1058 µs"},
	{rule: "sticks.throttle-rest", name: "never at rest, but stretched", set: set("readings.sticks.axes.throttle", `{"channel":3,"ends":{"low":1058,"centre":1500,"high":1942}}`, "sheet.sticks.ranges.throttle", `{"low":1058,"centre":1500,"high":1942}`)},
	{rule: "sticks.throttle-rest", name: "wider at-rest", set: set("sheet.sticks.idleBelow", "1070")},
	{rule: "sticks.throttle-rest", name: "not captured", set: set("readings.sticks.axes.throttle", "null"), ask: "readings.sticks.axes.throttle"},

	{rule: "motors.order", name: "exchanged", set: set("readings.motors.outputs.A", `{"corner":"frontLeft","spin":"clockwise"}`, "readings.motors.outputs.C", `{"corner":"frontRight","spin":"counterClockwise"}`), weight: check.Stop, says: "A moves front left, the sheet has it front right"},
	{rule: "motors.order", name: "two on one corner", set: set("readings.motors.outputs.A", `{"corner":"rearLeft","spin":"clockwise"}`), weight: check.Stop, says: "Two outputs were seen to move rear left"},
	{rule: "motors.order", name: "turning wrong is not its subject", set: set("readings.motors.outputs.A", `{"corner":"frontRight","spin":"clockwise"}`)},
	{rule: "motors.order", name: "not seen", set: set("readings.motors.outputs.D", "null"), ask: "readings.motors.outputs.D"},
	{rule: "motors.spin", name: "one turns against", set: set("readings.motors.outputs.B", `{"corner":"rearLeft","spin":"clockwise"}`), weight: check.Stop, says: "Rear left turns clockwise, your layout wants counter-clockwise"},
	{rule: "motors.spin", name: "all four: one declaration", set: set("sheet.craft.rotation", `"frontLeftCounterClockwise"`), weight: check.Stop, says: "All four turn against"},
	{rule: "motors.spin", name: "turned and declared alike", set: set("sheet.motors.outputs.A.reversed", "true")},
	{rule: "motors.spin", name: "not seen", set: set("readings.motors.outputs.B", "null"), ask: "readings.motors.outputs.B"},
	{rule: "motors.protocol-fits-loop", name: "frame too long", set: set("sheet.motors.loopRate", "8000"), weight: check.Fix, says: "A frame takes 139 µs, the loop leaves 100 µs"},
	{rule: "motors.protocol-fits-loop", name: "faster wire", set: set("sheet.motors.loopRate", "8000", "sheet.motors.bitRate", "600")},
	{rule: "motors.protocol-fits-loop", name: "one way fits", set: set("sheet.motors.loopRate", "8000", "sheet.motors.twoWay", "false")},
	{rule: "motors.protocol-fits-loop", name: "pulses", set: set("sheet.motors.protocol", `"pulse"`), weight: check.Note, says: "4000 Hz against 400 Hz"},
	{rule: "motors.two-way-able", name: "one end only", set: set("parts.speedController.twoWay", "false"), weight: check.Stop, says: "cannot answer"},
	{rule: "motors.two-way-able", name: "off at both", set: set("parts.speedController.twoWay", "false", "sheet.motors.twoWay", "false")},
	{rule: "motors.idle", name: "below the start", set: set("sheet.motors.idle", "3"), weight: check.Stop, says: "do not turn"},
	{rule: "motors.idle", name: "little above", set: set("sheet.motors.idle", "4.5"), weight: check.Fix, says: "little above"},
	{rule: "motors.idle", name: "high", set: set("sheet.motors.idle", "12"), weight: check.Note, says: "high"},
	{rule: "motors.idle", name: "enough above", set: set("sheet.motors.idle", "5.1")},
	{rule: "motors.idle", name: "not tried", set: set("readings.motors.startsAt", "null"), ask: "readings.motors.startsAt"},
	{rule: "motors.still-at-rest", name: "spins", set: set("readings.motors.restStill", "false"), weight: check.Stop, says: "spins at rest"},
	{rule: "motors.still-at-rest", name: "not looked at", set: set("readings.motors.restStill", "null"), ask: "readings.motors.restStill"},
	{rule: "motors.outputs-on-board", name: "a letter the board does not have", set: set("parts.board.outputs", `["A","B","C"]`), weight: check.Stop, says: "no output D"},
	{rule: "motors.outputs-on-board", name: "more than are used", set: set("parts.board.outputs", `["A","B","C","D","E"]`)},
	{rule: "motors.poles", name: "12 set, 14 real", set: set("sheet.motors.poles", "12"), weight: check.Fix, says: "16.7 % off"},
	{rule: "motors.poles", name: "both 12", set: set("sheet.motors.poles", "12", "parts.motor.poles", "12")},

	{rule: "senses.level", name: "off", set: set("readings.senses.levelRoll", "1.7"), weight: check.Fix, says: "0.29 m/s² of drift, 3.6 m in 5 s"},
	{rule: "senses.level", name: "close enough", set: set("readings.senses.levelPitch", "0.4")},
	{rule: "senses.level", name: "not read", set: set("readings.senses.levelPitch", "null"), ask: "readings.senses.levelPitch"},
	{rule: "senses.gyro-still", name: "turns", set: set("readings.senses.gyroStill", "4"), weight: check.Stop, says: "4 deg/s"},
	{rule: "senses.gyro-still", name: "still enough", set: set("readings.senses.gyroStill", "0.9")},
	{rule: "senses.gyro-still", name: "not read", set: set("readings.senses.gyroStill", "null"), ask: "readings.senses.gyroStill"},
	{rule: "senses.return-leans", name: "nothing to lean on", set: set("sheet.loss.policy", `"return"`), weight: check.Stop, says: "No satellite receiver is soldered on and the barometer is switched off"},
	{rule: "senses.return-leans", name: "switched off", set: set("sheet.loss.policy", `"return"`, "parts.wires.satellite.port", `"4"`, "sheet.senses.barometer", "true"), weight: check.Stop, says: "The satellite receiver is switched off"},
	{rule: "senses.return-leans", name: "both there and on", set: set("sheet.loss.policy", `"return"`, "parts.wires.satellite.port", `"4"`, "sheet.senses.satellite", "true", "sheet.senses.barometer", "true")},

	{rule: "feel.throttle-limit", name: "too low", set: set("sheet.feel.throttleLimit", "25"), weight: check.Fix, says: "1.4 is the least"},
	{rule: "feel.throttle-limit", name: "higher", set: set("sheet.feel.throttleLimit", "80")},
	{rule: "feel.throttle-limit", name: "not weighed", set: set("readings.airframe.weight", "null"), ask: "readings.airframe.weight"},
	{rule: "feel.rates-alike", name: "unlike", set: set("sheet.feel.roll.peak", "900"), weight: check.Note, says: "900 deg/s against 670 deg/s"},
	{rule: "feel.rates-alike", name: "hardly turns", set: set("sheet.feel.yaw.peak", "50", "sheet.feel.yaw.centre", "40"), weight: check.Fix, says: "Yaw hardly turns"},
	{rule: "feel.rates-alike", name: "alike enough", set: set("sheet.feel.roll.peak", "700")},
	{rule: "feel.gains-present", name: "none", set: set("sheet.feel.pitchGains.proportional", "0"), weight: check.Stop, says: "Pitch has no gain"},
	{rule: "feel.gains-present", name: "level without strength", set: set("sheet.feel.levelStrength", "0"), weight: check.Fix, says: "set to do nothing"},
	{rule: "feel.gains-present", name: "not on a switch", set: set("sheet.feel.levelStrength", "0", "sheet.sticks.selfLevel.channel", "0")},

	{rule: "power-watch.cells", name: "another pack", set: set("parts.packs.green.cells", "4"), weight: check.Fix, says: "Set for 6 cells, the pack has 4"},
	{rule: "power-watch.cells", name: "all alike", set: set("sheet.watch.cells", "4", "parts.packs.green.cells", "4", "parts.packs.grey.cells", "4")},
	{rule: "power-watch.thresholds", name: "too late", set: set("sheet.watch.warnPerCell", "3.1"), weight: check.Fix, says: "helps nobody"},
	{rule: "power-watch.thresholds", name: "landing above the warning", set: set("sheet.watch.landPerCell", "3.6"), weight: check.Fix, says: "not below the warning"},
	{rule: "power-watch.thresholds", name: "earlier", set: set("sheet.watch.warnPerCell", "3.7")},
	{rule: "power-watch.volts-agree", name: "apart", set: set("readings.watch.boardVolts", "23.1"), weight: check.Fix, says: "23.1 V on the board, 23.9 V by meter"},
	{rule: "power-watch.volts-agree", name: "within two per cent", set: set("readings.watch.meterVolts", "24.2")},
	{rule: "power-watch.volts-agree", name: "not metered", set: set("readings.watch.meterVolts", "null"), ask: "readings.watch.meterVolts"},
	{rule: "power-watch.heard", name: "not heard", set: set("readings.watch.heard", "false"), weight: check.Fix, says: "not heard"},
	{rule: "power-watch.heard", name: "not tried", set: set("readings.watch.heard", "null"), ask: "readings.watch.heard"},

	{rule: "link-loss.noticed", name: "holds", set: set("readings.loss.output", `"hold"`), weight: check.Stop, says: "hides a loss"},
	{rule: "link-loss.noticed", name: "preset", set: set("readings.loss.output", `"preset"`), weight: check.Stop, says: "hides a loss"},
	{rule: "link-loss.noticed", name: "not tried", set: set("readings.loss.output", "null"), ask: "readings.loss.output"},
	{rule: "link-loss.guard", name: "too long", set: set("sheet.loss.guard", "2"), weight: check.Fix, says: "2 s"},
	{rule: "link-loss.guard", name: "short but useful", set: set("sheet.loss.guard", "0.4")},
	{rule: "link-loss.response", name: "never stopped", set: set("readings.loss.response", "0"), weight: check.Stop, says: "went on"},
	{rule: "link-loss.response", name: "late", set: set("readings.loss.response", "2.4"), weight: check.Fix, says: "2.4 s measured"},
	{rule: "link-loss.response", name: "late, but within a longer guard", set: set("readings.loss.response", "2.4", "sheet.loss.guard", "1.5")},
	{rule: "link-loss.response", name: "land does not stop", set: set("readings.loss.response", "0", "sheet.loss.policy", `"land"`)},
	{rule: "link-loss.response", name: "not measured", set: set("readings.loss.response", "null"), ask: "readings.loss.response"},
	{rule: "link-loss.land-throttle", name: "climbs away", set: set("sheet.loss.policy", `"land"`, "sheet.loss.landThrottle", "40"), weight: check.Fix, says: "40 % set"},
	{rule: "link-loss.land-throttle", name: "falls", set: set("sheet.loss.policy", `"land"`, "sheet.loss.landThrottle", "5"), weight: check.Fix, says: "5 % set"},
	{rule: "link-loss.land-throttle", name: "lands", set: set("sheet.loss.policy", `"land"`, "sheet.loss.landThrottle", "20")},
	{rule: "link-loss.land-throttle", name: "not weighed", set: set("sheet.loss.policy", `"land"`, "readings.airframe.weight", "null"), ask: "readings.airframe.weight"},
	{rule: "link-loss.no-rearm", name: "arms itself", set: set("readings.loss.rearms", "true"), weight: check.Stop, says: "arms by itself"},
	{rule: "link-loss.no-rearm", name: "not tried", set: set("readings.loss.rearms", "null"), ask: "readings.loss.rearms"},

	{rule: "picture.legal", name: "outside the band", set: set("sheet.picture.frequency", "5920"), weight: check.Stop, says: "5920 MHz"},
	{rule: "picture.legal", name: "too strong", set: set("sheet.picture.power", "200"), weight: check.Fix, says: "25 mW allowed"},
	{rule: "picture.legal", name: "no limits stated", set: set("limits.videoHigh", "0"), weight: check.Stop, says: "not allowed"},
	{rule: "picture.legal", name: "another channel of the band", set: set("sheet.picture.frequency", "5800")},
	{rule: "picture.unit-agrees", name: "elsewhere", set: set("readings.picture.frequency", "5800"), weight: check.Fix, says: "5800 MHz on the unit"},
	{rule: "picture.unit-agrees", name: "no picture", set: set("readings.picture.seen", "false"), weight: check.Fix, says: "no clear picture"},
	{rule: "picture.unit-agrees", name: "no video", set: set("parts.video.fitted", "false", "readings.picture.seen", "null")},
	{rule: "picture.unit-agrees", name: "not read", set: set("readings.picture.frequency", "null"), ask: "readings.picture.frequency"},

	{rule: "bench-proof.gates", name: "arms with throttle", set: set("readings.benchProof.gateRefuses", "false"), weight: check.Stop, says: "1050 µs"},
	{rule: "bench-proof.gates", name: "not tried", set: set("readings.benchProof.gateRefuses", "null"), ask: "readings.benchProof.gateRefuses"},
	{rule: "bench-proof.answers", name: "frame not answered", set: set("readings.benchProof.frameYaw", "false"), weight: check.Stop, says: "not answered"},
	{rule: "bench-proof.answers", name: "stick the other way", set: set("readings.benchProof.stickYaw", "false"), weight: check.Stop, says: "the other way"},
	{rule: "bench-proof.answers", name: "radio off", set: set("readings.benchProof.radioOff", "false"), weight: check.Stop, says: "does not stop"},
	{rule: "bench-proof.answers", name: "not tried", set: set("readings.benchProof.stickYaw", "null"), ask: "readings.benchProof.stickYaw"},

	{rule: "first-flight.propellers", name: "wrong hand", set: set("readings.firstFlight.propellers.rearLeft", `"clockwise"`), weight: check.Stop, says: "Rear left: the propeller pushes down"},
	{rule: "first-flight.propellers", name: "hand follows a motor that turns against the plan", set: set("readings.firstFlight.propellers.rearLeft", `"clockwise"`, "readings.motors.outputs.B", `{"corner":"rearLeft","spin":"clockwise"}`)},
	{rule: "first-flight.propellers", name: "motor not seen: the plan counts", set: set("readings.motors.outputs.B", "null", "sheet.craft.rotation", `"frontLeftCounterClockwise"`), weight: check.Stop, says: "Rear left"},
	{rule: "first-flight.propellers", name: "not fitted", set: set("readings.firstFlight.propellers.frontRight", "null"), ask: "readings.firstFlight.propellers.frontRight"},
	{rule: "first-flight.wind", name: "strong", set: set("readings.firstFlight.gust", "11"), weight: check.Fix, says: "gusts of 11 m/s"},
	{rule: "first-flight.wind", name: "cannot hold", set: set("readings.firstFlight.gust", "25"), weight: check.Stop, says: "25 m/s"},
	{rule: "first-flight.wind", name: "breeze", set: set("readings.firstFlight.wind", "5", "readings.firstFlight.gust", "7")},
	{rule: "first-flight.wind", name: "not measured", set: set("readings.firstFlight.gust", "null"), ask: "readings.firstFlight.gust"},
	{rule: "first-flight.clear-radius", name: "narrow", set: set("readings.firstFlight.clear", "3"), weight: check.Stop, says: "3 m are clear"},
	{rule: "first-flight.clear-radius", name: "wide", set: set("readings.firstFlight.clear", "60")},
	{rule: "first-flight.clear-radius", name: "not paced", set: set("readings.firstFlight.clear", "null"), ask: "readings.firstFlight.clear"},
	{rule: "first-flight.local-rules", name: "not allowed", set: set("readings.firstFlight.rules", "false"), weight: check.Stop, says: "Sallow Spit"},
	{rule: "first-flight.local-rules", name: "lower than the card", set: set("limits.height", "0.5"), weight: check.Stop, says: "0.5 m allowed"},
	{rule: "first-flight.local-rules", name: "not stated", set: set("readings.firstFlight.rules", "null"), ask: "readings.firstFlight.rules"},
	{rule: "first-flight.rehearsal", name: "tips over", set: set("readings.motors.outputs.B", `{"corner":"rearLeft","spin":"clockwise"}`), fly: true, weight: check.Stop, says: "tips to the rear left"},
	{rule: "first-flight.rehearsal", name: "something changed since", set: set("readings.firstFlight.wind", "6"), ask: "readings.firstFlight.rehearsal"},
	{rule: "first-flight.rehearsal", name: "flown again after the change", set: set("readings.firstFlight.wind", "5"), fly: true},
	{rule: "first-flight.rehearsal", name: "flown by the mass of the parts", set: set("readings.airframe.weight", "null"), fly: true},
	{rule: "first-flight.rehearsal", name: "flown by the radio plan", set: set("readings.sticks.axes", "{}"), fly: true},
	{rule: "first-flight.rehearsal", name: "flown by the sheet, the board not read", set: set("board.line", `""`), fly: true},
	{rule: "first-flight.rehearsal", name: "flown by what the board holds, whatever the sheet says", set: set("sheet.feel.levelStrength", "9"), fly: true},
	{rule: "first-flight.rehearsal", name: "not flown", set: set("readings.firstFlight.rehearsal", "null"), ask: "readings.firstFlight.rehearsal"},
	{rule: "first-flight.rehearsal", name: "cannot be flown", set: set("parts.frame.armFront", "0"), weight: check.Stop, says: "cannot be rehearsed"},
	{rule: "first-flight.rehearsal", name: "drifts far", set: set("readings.senses.levelRoll", "9"), fly: true, weight: check.Fix, says: "from where it stood"},

	// One board rule a station: it compares what the board holds where the station's rules look.
	{rule: "motors.board-differs", name: "not written", set: set("sheet.motors.outputs.B.reversed", "true"), weight: check.Stop, says: "Sheet: yes. Board: no."},
	{rule: "motors.board-differs", name: "written", set: set("sheet.motors.outputs.B.reversed", "true"), board: true},
	{rule: "motors.board-differs", name: "never read", set: set("board.target", `""`, "board.line", `""`), ask: "readings.firmware.identity"},
	{rule: "sticks.board-differs", name: "not written", set: set("sheet.sticks.arm.from", "1600"), weight: check.Stop, says: "arm, range from"},
	{rule: "sticks.board-differs", name: "less than the line can hold", set: set("sheet.sticks.arm.from", "1452")},
	{rule: "wiring.board-differs", name: "not written", set: set("sheet.wiring.ports.4.function", `"video"`), weight: check.Stop, says: "video"},
	{rule: "wiring.board-differs", name: "never read", set: set("board.target", `""`, "board.line", `""`), ask: "readings.firmware.identity"},
	{rule: "link.board-differs", name: "not written", set: set("sheet.link.telemetry", "false"), weight: check.Stop, says: "Board: yes"},
	{rule: "senses.board-differs", name: "not written", set: set("sheet.senses.barometer", "true"), weight: check.Stop, says: "barometer used"},
	{rule: "feel.board-differs", name: "not written", set: set("sheet.feel.roll.peak", "700"), weight: check.Stop, says: "700 deg/s. Board: 670 deg/s"},
	{rule: "power-watch.board-differs", name: "not written", set: set("sheet.watch.warnPerCell", "3.6"), weight: check.Stop, says: "3.6 V. Board: 3.5 V"},
	{rule: "link-loss.board-differs", name: "not written", set: set("sheet.loss.guard", "0.8"), weight: check.Stop, says: "0.8 s. Board: 1 s"},
	{rule: "picture.board-differs", name: "not written", set: set("sheet.picture.power", "10"), weight: check.Stop, says: "10 mW. Board: 25 mW"},
	{rule: "bench-proof.board-differs", name: "not written", set: set("sheet.sticks.idleBelow", "1060"), weight: check.Stop, says: "1060 µs. Board: 1050 µs"},
	{rule: "first-flight.board-differs", name: "not written", set: set("sheet.feel.levelStrength", "7"), weight: check.Stop, says: "7 1/s. Board: 6 1/s"},
}

func ruleByID(t testing.TB, id string) check.Rule {
	t.Helper()
	i := slices.IndexFunc(check.Rules(), func(r check.Rule) bool { return r.ID == id })
	if i < 0 {
		t.Fatalf("there is no rule %s", id)
	}
	return check.Rules()[i]
}

func (f fixture) known(t testing.TB, from quad.Known) quad.Known {
	t.Helper()
	k := from
	for _, p := range quad.SortedKeys(f.set) {
		put(t, &k, p, f.set[p])
	}
	if f.board {
		must(t, demo.Write(&k, today))
	}
	if f.fly {
		must(t, demo.Rehearse(&k, today.Add(-time.Hour)))
	}
	return k
}

func must(t testing.TB, err error) {
	t.Helper()
	if err != nil {
		t.Fatal(err)
	}
}

func TestFixtures(t *testing.T) {
	base := sound(t)
	for _, f := range fixtures {
		report := check.Run([]check.Rule{ruleByID(t, f.rule)}, f.known(t, base), check.Context{Now: today})
		what := f.rule + ", " + f.name
		switch {
		case f.weight != "":
			if !slices.ContainsFunc(report.Findings, func(x check.Finding) bool {
				return x.Weight == f.weight && strings.Contains(x.Title+"\n"+x.Figures, f.says)
			}) {
				t.Errorf("%s: want a %s with %q, got %s", what, f.weight, f.says, describe(report))
			}
		case f.ask != "":
			if !slices.ContainsFunc(report.Asks, func(a check.Ask) bool { return a.Path == f.ask }) {
				t.Errorf("%s: want an ask for %s, got %s", what, f.ask, describe(report))
			}
		case len(report.Findings)+len(report.Asks) > 0:
			t.Errorf("%s: want silence, got %s", what, describe(report))
		}
	}
}

func describe(r check.Report) string {
	var out []string
	for _, f := range r.Findings {
		out = append(out, fmt.Sprintf("%s %q %q", f.Weight, f.Title, f.Figures))
	}
	for _, a := range r.Asks {
		out = append(out, "ask "+string(a.Path))
	}
	if len(out) == 0 {
		return "silence"
	}
	return strings.Join(out, "; ")
}

// Every rule fires and, where it reads a reading, asks in some fixture; on the sound quad all are silent but
// the two notes that Dunlin's motors and propellers earn.
func TestEveryRuleHasItsFixtures(t *testing.T) {
	fires, asks := map[string]bool{}, map[string]bool{}
	for _, f := range fixtures {
		fires[f.rule] = fires[f.rule] || f.weight != ""
		asks[f.rule] = asks[f.rule] || f.ask != ""
	}
	stations := map[check.Station]bool{}
	comparing := 0
	for _, r := range check.Rules() {
		stations[r.Station] = true
		if subjects(r) > 1 {
			comparing++
		}
		if !fires[r.ID] && r.ID != "firmware.saved" { // it can only ask
			t.Errorf("%s fires in no fixture", r.ID)
		}
		if slices.ContainsFunc(r.Reads, func(p quad.Path) bool { return p.Under("readings") }) && !asks[r.ID] && !strings.HasSuffix(r.ID, ".board-differs") {
			t.Errorf("%s reads a reading and asks in no fixture", r.ID)
		}
	}
	if len(check.Rules()) < 25 || comparing < 10 || len(stations) != len(check.Line) {
		t.Errorf("%d rules, %d of them comparing two subjects, over %d stations", len(check.Rules()), comparing, len(stations))
	}
	report := check.All(sound(t), check.Context{Now: today})
	for _, f := range report.Findings {
		if f.Rule != "airframe.pack-current" && f.Rule != "airframe.tip-speed" {
			t.Errorf("on the sound quad %s says %s: %s", f.Rule, f.Title, f.Figures)
		}
	}
	if len(report.Asks) > 0 {
		t.Errorf("on the sound quad something is asked: %s", describe(report))
	}
}

// subjects a rule reads: the second part of each path, such as motors or firmware.
func subjects(r check.Rule) int {
	seen := map[string]bool{}
	for _, p := range r.Reads {
		parts := strings.Split(string(p), ".")
		if len(parts) > 1 {
			seen[parts[1]] = true
		}
	}
	return len(seen)
}

// candidates to put at a leaf, as JSON.
func candidates(l quad.Leaf, r *rand.Rand) []string {
	switch x := l.Value.(type) {
	case float64:
		return []string{"0", "1", fmt.Sprint(x * 3), fmt.Sprint(x / 3), fmt.Sprint(-x - 1), fmt.Sprintf("%.3f", x*(0.7+0.6*r.Float64()))}
	case int:
		return []string{"0", "1", fmt.Sprint(x + 1), fmt.Sprint(x * 3), "5", "7", "2"}
	case bool:
		return []string{"true", "false"}
	}
	if f, err := quad.FieldAt(l.Path); err == nil && len(f.OneOf) > 0 && f.Type.Kind() == reflect.String {
		var out []string
		for _, w := range f.OneOf {
			out = append(out, `"`+w+`"`)
		}
		return out
	}
	switch l.Value.(type) {
	case string:
		return []string{`""`, `"x"`, `"3"`, `"5.0.0"`}
	case []string:
		return []string{`[]`, `["x = 1"]`, `["note.light = 1"]`}
	case time.Time:
		return nil
	}
	return []string{"null", "{}"}
}

// mutate puts random values at random leaves.
func mutate(k quad.Known, r *rand.Rand) quad.Known {
	leaves := quad.Leaves(k, "")
	for range 1 + r.IntN(6) {
		l := leaves[r.IntN(len(leaves))]
		list := candidates(l, r)
		if l.Read {
			list = append(list, "null")
		}
		if len(list) == 0 {
			continue
		}
		raw := list[r.IntN(len(list))]
		if l.Read && raw != "null" {
			raw = `{"value":` + raw + `,"origin":"typed","at":"2026-05-04T10:00:00Z","revision":1}`
		}
		_ = quad.Set(&k, l.Path, []byte(raw)) // a value that does not fit is left out
	}
	return k
}

// A rule that looked at something it does not declare would make a proof rely on less than it does.
func TestRulesSeeOnlyWhatTheyDeclare(t *testing.T) {
	base := sound(t)
	r := rand.New(rand.NewPCG(5, 5))
	for n := range 1000 {
		k := mutate(base, r)
		for _, rule := range check.Rules() {
			full, masked := rule.Judge(k), rule.Judge(quad.Mask(k, rule.Reads))
			if !reflect.DeepEqual(full, masked) {
				t.Fatalf("quad %d: %s judges %s, masked to what it declares %s", n, rule.ID, describe(report(full)), describe(report(masked)))
			}
		}
	}
}

func report(r check.Result) check.Report {
	out := check.Report{Findings: r.Findings}
	for _, p := range r.Asks {
		out.Asks = append(out.Asks, check.Ask{Path: p})
	}
	return out
}

// A path that no change can make matter makes proofs stale for nothing.
func TestEveryDeclaredPathMatters(t *testing.T) {
	base := sound(t)
	r := rand.New(rand.NewPCG(6, 6))
	for _, rule := range check.Rules() {
		bases := []quad.Known{base}
		for _, f := range fixtures {
			if f.rule == rule.ID {
				bases = append(bases, f.known(t, base))
			}
		}
		for _, p := range rule.Reads {
			if !matters(rule, p, bases, r) {
				t.Errorf("%s declares %s, but no change there changes what it says in any fixture", rule.ID, p)
			}
		}
	}
}

func matters(rule check.Rule, p quad.Path, bases []quad.Known, r *rand.Rand) bool {
	for _, k := range bases {
		before := rule.Judge(quad.Mask(k, rule.Reads))
		differs := func(path quad.Path, raw string) bool {
			changed := k
			return quad.Set(&changed, path, []byte(raw)) == nil && !reflect.DeepEqual(rule.Judge(quad.Mask(changed, rule.Reads)), before)
		}
		if differs(p, "null") {
			return true
		}
		for _, l := range quad.Leaves(k, "") {
			if !l.Path.Under(p) {
				continue
			}
			for _, raw := range candidates(l, r) {
				if l.Read && raw != "null" {
					raw = `{"value":` + raw + `,"origin":"typed","at":"2026-05-04T10:00:00Z","revision":1}`
				}
				if differs(l.Path, raw) {
					return true
				}
			}
			if l.Read && differs(l.Path, "null") {
				return true
			}
		}
	}
	return false
}

func TestReadingsAgeByTimeAndEvent(t *testing.T) {
	k := sound(t)
	asked := func(c check.Context) []quad.Path {
		var out []quad.Path
		for _, a := range check.All(k, c).Asks {
			out = append(out, a.Path)
			if a.Why == "" {
				t.Errorf("%s is asked again without saying why", a.Path)
			}
		}
		return out
	}
	if got := asked(check.Context{Now: today}); len(got) > 0 {
		t.Errorf("today nothing is old, but %v", got)
	}
	// Readings good for a day end at local midnight, not after 24 hours.
	zone := time.FixedZone("spit", 2*3600)
	night := time.Date(2026, 5, 4, 23, 59, 0, 0, zone)
	if got := asked(check.Context{Now: night}); len(got) > 0 {
		t.Errorf("just before midnight nothing is old, but %v", got)
	}
	got := asked(check.Context{Now: night.Add(2 * time.Minute)})
	for _, p := range []quad.Path{"readings.loss.response", "readings.benchProof.frameYaw", "readings.firstFlight.wind", "readings.firstFlight.rehearsal"} {
		if !slices.Contains(got, p) {
			t.Errorf("after midnight %s must be taken again; asked were %v", p, got)
		}
	}
	if slices.Contains(got, "readings.loss.output") || slices.Contains(got, "readings.motors.outputs.A") {
		t.Errorf("what is good for longer is asked again: %v", got)
	}
	if got := asked(check.Context{Now: today, Events: []check.Happened{{Event: check.Solder, At: today.Add(-time.Minute)}}}); !slices.Contains(got, "readings.firstPower.leadResistance") || slices.Contains(got, "readings.senses.gyroStill") {
		t.Errorf("soldering makes asked %v", got)
	}
	if got := asked(check.Context{Now: today, Events: []check.Happened{{Event: check.Solder, At: today.Add(-2 * time.Hour)}}}); len(got) > 0 {
		t.Errorf("soldering before the readings were taken changes nothing, but %v", got)
	}
}

func BenchmarkFindings(b *testing.B) {
	k := sound(b)
	c := check.Context{Now: today}
	for b.Loop() {
		check.All(k, c)
	}
	b.ReportMetric(float64(b.Elapsed().Microseconds())/1000/float64(b.N), "ms/check")
}
