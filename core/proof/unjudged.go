package proof

import "vividperch/core/quad"

// Unjudged lists the leaves and subtrees of what is known that no rule reads, each with the reason. A proof
// does not rely on them. A test fails when a leaf is neither read by a rule nor listed here, or both.
var Unjudged = map[quad.Path]string{
	"board.settings": "raw; judged through board.sheet, board.unmapped and, where measured, through readings",
	"board.readAt":   "changes with every read-back and means nothing by itself",
}
