package proof

import (
	"vividperch/core/check"
	"vividperch/core/quad"
)

// Excuse of a leaf that no rule reads: the station it is told at, if any, and why nothing judges it.
type Excuse struct {
	Station check.Station
	Why     string
}

// Unjudged lists the leaves and subtrees of what is known that no rule reads, each with the reason. A proof
// does not rely on them. A test fails when a leaf is neither read by a rule nor listed here, or both.
var Unjudged = map[quad.Path]Excuse{
	"radio.travel":               {check.Sticks, "what was set at the radio; what came of it is judged by the captured ends"},
	"board.settings":             {"", "raw; judged through board.sheet, board.unmapped and, where measured, through readings"},
	"limits.registration":        {check.FirstFlight, "what the place asks for; the pilot states that it is in order"},
	"limits.remoteId":            {check.FirstFlight, "as the registration"},
	"parts.frame.name":           {check.Airframe, "a name"},
	"parts.motor.name":           {check.Airframe, "a name"},
	"parts.propeller.name":       {check.Airframe, "a name"},
	"parts.speedController.name": {check.Airframe, "a name"},
	"parts.board.name":           {check.Firmware, "a name"},
	"parts.receiver.name":        {check.Link, "a name"},
	"parts.receiver.target":      {check.Link, "images are judged by it before they are put on"},
	"parts.radioModule.target":   {check.Link, "as the receiver's"},
	"parts.video.name":           {check.Picture, "a name"},
	"parts.video.cameraTilt":     {check.Airframe, "taste; what it is good for is told where the quad is taken apart"},
	"parts.video.cameraView":     {check.Airframe, "as the tilt"},
	"parts.estimates":            {"", "told wherever its figures are leaned on; the figures themselves are judged"},
	"parts.propeller.nutTorque":  {check.FirstFlight, "told to the pilot who fits the propellers; nothing is computed from it"},
	"sheet.link.phrase":          {check.Link, "whoever has it can fly the quad; whether both ends share it is told by their fingerprints, and by channels that move"},
	"radio.alarmRepeat":          {check.PowerWatch, "how often it is said again is the pilot's ear"},
	"radio.phrase":               {check.Link, "as the one of the sheet"},
	"parts.receiver.gain":        {check.Link, "told in the budget; what came of it is judged by the walk and the track"},
	"parts.radioModule.gain":     {check.Link, "as the receiver's"},
	"parts.receiver.frame":       {check.Link, "told in the budget, as delay"},
	"readings.firstFlight.home":  {check.FirstFlight, "where it stands; a return is judged once one can be released"},
	"pilot.shows":                {"", "how figures are written"},
	"board.readAt":               {"", "changes with every read-back and means nothing by itself"},
}
