package proof

import "vividperch/core/quad"

// Unjudged lists the leaves and subtrees of what is known that no rule reads, each with the reason. A proof
// does not rely on them. A test fails when a leaf is neither read by a rule nor listed here, or both.
var Unjudged = map[quad.Path]string{
	"radio.travel":   "what was set at the radio; what came of it is judged by the captured ends",
	"board.settings": "raw; judged through board.sheet, board.unmapped and, where measured, through readings",
	"board.readAt":   "changes with every read-back and means nothing by itself",
}
