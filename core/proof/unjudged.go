package proof

import "vividperch/core/quad"

// Unjudged lists the leaves and subtrees of what is known that no rule reads, each with the reason. A proof
// does not rely on them. A test fails when a leaf is neither read by a rule nor listed here, or both.
var Unjudged = map[quad.Path]string{
	"radio.travel":               "what was set at the radio; what came of it is judged by the captured ends",
	"board.settings":             "raw; judged through board.sheet, board.unmapped and, where measured, through readings",
	"parts.frame.name":           "a name",
	"parts.motor.name":           "a name",
	"parts.propeller.name":       "a name",
	"parts.speedController.name": "a name",
	"parts.board.name":           "a name",
	"parts.receiver.name":        "a name",
	"parts.radioModule.name":     "a name",
	"parts.video.name":           "a name",
	"parts.propeller.nutTorque":  "told to the pilot who fits the propellers; nothing is computed from it",
	"sheet.link.phrase":          "whoever has it can fly the quad; whether both ends share it is told by channels that move",
	"readings.firstFlight.home":  "where it stands; a return is judged once one can be released",
	"board.readAt":               "changes with every read-back and means nothing by itself",
}
