package link

import (
	"slices"

	"vividperch/core/inquiry"
)

// Why it will not bind is asked as [inquiry] asks.
type (
	QuestionID = inquiry.QuestionID
	Question   = inquiry.Question
	Choice     = inquiry.Choice
	CauseID    = inquiry.CauseID
	Inquiry    = inquiry.Inquiry
)

// Unsure is the answer of somebody who cannot tell.
const Unsure = inquiry.Unsure

// Questions, the cheapest to look at first.
var Questions = []Question{
	{ID: "light", Words: "What does the receiver's light do?", How: "Pack in, radio on with this model chosen, and you have tried to bind."}, // its answers come from the gear's lights
	{ID: "modules", Words: "Which modules does this model have on, in the radio?", How: "The model's page in the radio.", Answers: []Choice{
		{ID: "right", Words: "the one this receiver belongs to"}, {ID: "other", Words: "the other one"}, {ID: "both", Words: "both"}, {ID: "none", Words: "none"},
	}},
	{ID: "labels", Words: "Do link, band and region of module and receiver agree?", How: "The label of each, or its own page.", Answers: []Choice{
		{ID: "same", Words: "all three"}, {ID: "link", Words: "another link"}, {ID: "band", Words: "another band"}, {ID: "region", Words: "another region"},
	}},
	{ID: "versions", Words: "Are both of the same major version?", How: "The module's page in the radio; the receiver's label or page.", Answers: []Choice{
		{ID: "same", Words: "the same"}, {ID: "other", Words: "another major"},
	}},
	{ID: "phrase", Words: "How do the two phrases compare?", How: "By their fingerprints, below.", Answers: []Choice{
		{ID: "same", Words: "the same fingerprint"}, {ID: "loose", Words: "but for capitals or spaces"}, {ID: "other", Words: "different altogether"},
	}},
	{ID: "number", Words: "Is the model's receiver number the one it was bound with?", How: "The model's page in the radio; what you noted when you bound it.", Answers: []Choice{
		{ID: "same", Words: "yes"}, {ID: "other", Words: "no, or nobody knows"},
	}},
	{ID: "mode", Words: "Can the receiver do what the model asks: channels, telemetry?", How: "The model's page in the radio; the receiver's card.", Answers: []Choice{
		{ID: "can", Words: "yes"}, {ID: "cannot", Words: "no"},
	}},
	{ID: "power", Words: "Is there a voltage at the receiver's supply pads?", How: "Meter across its supply pads as it is now; where there is none, once more with the pack in.", Answers: []Choice{
		{ID: "volts", Words: "yes"}, {ID: "packOnly", Words: "only once the pack is in"}, {ID: "none", Words: "no"},
	}},
	{ID: "own", Words: "Switch your radio off. Does the light change?", How: "Give it two seconds.", Answers: []Choice{
		{ID: "changes", Words: "it changes"}, {ID: "stays", Words: "it stays lit"},
	}},
	{ID: "enters", Words: "Put it into binding once more. Does its light change?", How: "By its button or by power cycles, as its card says.", Answers: []Choice{
		{ID: "yes", Words: "yes"}, {ID: "no", Words: "no"},
	}},
	{ID: "calls", Words: "While the receiver waits, does the radio still call?", How: "It sounds and shows it.", Answers: []Choice{
		{ID: "calls", Words: "it calls"}, {ID: "stopped", Words: "it has stopped"},
	}},
	{ID: "far", Words: "Carry the radio three paces away and try. Does it bind now?", How: "Two aerials nearly touching deafen each other.", Answers: []Choice{
		{ID: "no", Words: "no"}, {ID: "binds", Words: "it binds"},
	}},
	{ID: "near", Words: "Hold the radio's antenna a hand's breadth from the receiver. Does its light change?", How: "Lowest power.", Answers: []Choice{
		{ID: "no", Words: "no"}, {ID: "changes", Words: "it changes"},
	}},
}

// Cause of why it will not bind, and with which gear it can be.
type Cause struct {
	inquiry.Cause
	With func(Gear) bool // nil: with any gear
}

func lit(states ...State) []string {
	out := make([]string, len(states))
	for i, s := range states {
		out[i] = string(s)
	}
	return out
}

func one(answer string) []string { return []string{answer} }

// Causes of why it will not bind.
var Causes = []Cause{
	{inquiry.Cause{ID: "noSupply", Words: "No supply reaches the receiver", Remedy: "A broken wire, a cold joint, or the wrong rail: look at Wiring.", Shows: map[QuestionID][]string{"light": lit(Off), "power": one("none")}, Open: []QuestionID{"near", "far", "own", "enters"}}, nil},
	{inquiry.Cause{ID: "packOnly", Words: "The receiver's rail is fed by the pack alone, and the pack is out", Remedy: "Pack in, propellers off.", Shows: map[QuestionID][]string{"light": lit(Off), "power": one("packOnly")}, Open: []QuestionID{"near", "far", "own", "enters"}}, nil},
	{inquiry.Cause{ID: "dead", Words: "The receiver has its supply and stays dark: its firmware is gone, or it is broken", Remedy: "Flash it by its page or a cable; if it stays dark, replace it.", Shows: map[QuestionID][]string{"light": lit(Off), "power": one("volts")}, Open: []QuestionID{"near", "far", "own", "enters"}}, nil},
	{inquiry.Cause{ID: "page", Words: "It sits on its wireless page, where it listens to no radio", Remedy: "Take its power and give it again with the radio already on.", Shows: map[QuestionID][]string{"light": lit(OnPage)}, Open: []QuestionID{"enters"}}, func(g Gear) bool { return g.Timing.Page > 0 }},
	{inquiry.Cause{ID: "elsewhere", Words: "It is bound to another radio, which is on", Remedy: "Switch that radio off, and bind it to yours.", Shows: map[QuestionID][]string{"light": lit(Bound), "own": one("stays")}, Open: []QuestionID{"phrase", "number", "near", "far", "enters"}}, nil},
	{inquiry.Cause{ID: "unheard", Words: "It is bound, and the board does not hear it", Remedy: "Not the link: its port, its wire or its inversion. Look at Wiring.", Shows: map[QuestionID][]string{"light": lit(Bound)}, Open: []QuestionID{"enters"}}, nil},
	{inquiry.Cause{ID: "otherLink", Words: "Module and receiver speak different links", Remedy: "Choose the module of the receiver's link, or fit a receiver of the module's.", Shows: map[QuestionID][]string{"light": lit(Searching), "labels": one("link")}, Open: []QuestionID{"versions"}}, nil},
	{inquiry.Cause{ID: "otherBand", Words: "Module and receiver are on different bands", Remedy: "They never meet: fit a receiver of the module's band.", Shows: map[QuestionID][]string{"light": lit(Searching), "labels": one("band")}}, nil},
	{inquiry.Cause{ID: "otherRegion", Words: "Module and receiver carry firmware for different regions", Remedy: "Flash one of them for the region you fly in, with the other's major version.", Shows: map[QuestionID][]string{"light": lit(Searching), "labels": one("region")}}, nil},
	{inquiry.Cause{ID: "wrongModule", Words: "The model has the other module on", Remedy: "Switch it off in the model and the right one on.", Shows: map[QuestionID][]string{"light": lit(Searching), "modules": one("other")}}, nil},
	{inquiry.Cause{ID: "moduleOff", Words: "The model has no module on: nothing is sent", Remedy: "Switch the right module on in the model.", Shows: map[QuestionID][]string{"light": lit(Searching), "modules": one("none")}, Open: []QuestionID{"calls"}}, nil},
	{inquiry.Cause{ID: "bothModules", Words: "The model has both modules on, and they drown each other", Remedy: "Switch the other one off.", Shows: map[QuestionID][]string{"light": lit(Searching, Stranger, Binding), "modules": one("both")}}, nil},
	{inquiry.Cause{ID: "noAntenna", Words: "An antenna is off or broken: they hear each other at a hand's breadth only", Remedy: "Look at both antennas and their connectors before the module sends again.", Shows: map[QuestionID][]string{"light": lit(Searching), "near": one("changes")}}, nil},
	{inquiry.Cause{ID: "phraseLoose", Words: "The phrases differ in capitals or spaces only", Remedy: "Copy one to the other, letter by letter, and power-cycle the receiver.", Shows: map[QuestionID][]string{"light": lit(Stranger), "phrase": one("loose")}}, func(g Gear) bool { return g.Has(Phrase) }},
	{inquiry.Cause{ID: "phraseOther", Words: "The phrases are different", Remedy: "Give both the same phrase, and power-cycle the receiver.", Shows: map[QuestionID][]string{"light": lit(Stranger), "phrase": one("other")}}, func(g Gear) bool { return g.Has(Phrase) }},
	{inquiry.Cause{ID: "major", Words: "Module and receiver are of different major versions", Remedy: "Update the older one.", Shows: map[QuestionID][]string{"light": lit(Stranger), "versions": one("other")}}, nil},
	{inquiry.Cause{ID: "numberOther", Words: "The model has another receiver number than the one it was bound with", Remedy: "Put the number back, or bind it anew with this one.", Shows: map[QuestionID][]string{"light": lit(Stranger), "number": one("other")}}, func(g Gear) bool { return g.Numbers > 0 }},
	{inquiry.Cause{ID: "mode", Words: "The model asks for channels or telemetry that the receiver cannot do", Remedy: "Choose what its card allows, and bind again.", Shows: map[QuestionID][]string{"light": lit(Stranger), "mode": one("cannot")}}, func(g Gear) bool { return g.Has(Button) }},
	{inquiry.Cause{ID: "tooNear", Words: "Radio and receiver stand so near that they deafen each other", Remedy: "Bind from three paces, on the lowest power.", Shows: map[QuestionID][]string{"light": lit(Binding), "far": one("binds")}}, func(g Gear) bool { return g.Has(Button) || g.Has(Cycles) }},
	{inquiry.Cause{ID: "windowPast", Words: "The radio has stopped calling before the receiver was ready", Remedy: "Have it call again once the receiver waits, within its window.", Shows: map[QuestionID][]string{"light": lit(Binding), "calls": one("stopped")}}, func(g Gear) bool { return g.Has(Button) || g.Has(Cycles) }},
	{inquiry.Cause{ID: "buttonShort", Words: "The button does not hold: worn, or let go too soon", Remedy: "Hold it down hard, from before the power comes until the light changes.", Shows: map[QuestionID][]string{"light": lit(Stranger), "enters": one("no")}}, func(g Gear) bool { return g.Has(Button) }},
	{inquiry.Cause{ID: "cyclesSlow", Words: "The power cycles are not counted: the capacitors keep the receiver alive through a short off", Remedy: "Leave the pack out longer each time, but within its limit; or power the receiver alone.", Shows: map[QuestionID][]string{"light": lit(Stranger), "enters": one("no")}, Open: []QuestionID{"phrase"}}, func(g Gear) bool { return g.Has(Cycles) }},
}

// QuestionsFor a gear, in order: those that tell some of its causes apart, with the answers that it can give.
func QuestionsFor(g Gear) []Question {
	causes := CausesFor(g)
	var out []Question
	for _, q := range Questions {
		if q.ID == "light" {
			for _, l := range g.Lights {
				q.Answers = append(q.Answers, Choice{ID: string(l.State), Words: l.Words})
			}
		}
		if slices.ContainsFunc(causes, func(c Cause) bool { return c.Shows[q.ID] != nil }) {
			out = append(out, q)
		}
	}
	return out
}

// CausesFor a gear: those that it can have.
func CausesFor(g Gear) []Cause {
	return slices.DeleteFunc(slices.Clone(Causes), func(c Cause) bool { return c.With != nil && !c.With(g) })
}

// Inquire takes the answers given so far, and asks what leaves the fewest causes, see [inquiry.Inquire].
func Inquire(g Gear, given map[QuestionID]string) (Inquiry, error) {
	var causes []inquiry.Cause
	for _, c := range CausesFor(g) {
		causes = append(causes, c.Cause)
	}
	return inquiry.Inquire(QuestionsFor(g), causes, given)
}
