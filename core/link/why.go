package link

import (
	"math"
	"slices"

	"vividperch/core/quad"
)

// QuestionID of something that can be looked at when it will not bind.
type QuestionID string

// Question with the answers that can be given to it.
type Question struct {
	ID      QuestionID `json:"id"`
	Words   string     `json:"words"`
	How     string     `json:"how"`
	Answers []Choice   `json:"answers"`
}

// Choice of an answer to a question.
type Choice struct {
	ID    string `json:"id"`
	Words string `json:"words"`
}

// Questions, the cheapest to look at first.
var Questions = []Question{
	{"light", "What does the receiver's light do?", "Pack in, radio on with this model chosen, and you have tried to bind.", nil}, // its answers come from the gear's lights
	{"modules", "Which modules does this model have on, in the radio?", "The model's page in the radio.", []Choice{
		{"right", "the one this receiver belongs to"}, {"other", "the other one"}, {"both", "both"}, {"none", "none"},
	}},
	{"labels", "Do link, band and region of module and receiver agree?", "The label of each, or its own page.", []Choice{
		{"same", "all three"}, {"link", "another link"}, {"band", "another band"}, {"region", "another region"},
	}},
	{"versions", "Are both of the same major version?", "The module's page in the radio; the receiver's label or page.", []Choice{
		{"same", "the same"}, {"other", "another major"},
	}},
	{"phrase", "How do the two phrases compare?", "By their fingerprints, below.", []Choice{
		{"same", "the same fingerprint"}, {"loose", "but for capitals or spaces"}, {"other", "different altogether"},
	}},
	{"number", "Is the model's receiver number the one it was bound with?", "The model's page in the radio; what you noted when you bound it.", []Choice{
		{"same", "yes"}, {"other", "no, or nobody knows"},
	}},
	{"mode", "Can the receiver do what the model asks: channels, telemetry?", "The model's page in the radio; the receiver's card.", []Choice{
		{"can", "yes"}, {"cannot", "no"},
	}},
	{"power", "Is there a voltage at the receiver's supply pads?", "Meter across its supply pads as it is now; where there is none, once more with the pack in.", []Choice{
		{"volts", "yes"}, {"packOnly", "only once the pack is in"}, {"none", "no"},
	}},
	{"own", "Switch your radio off. Does the light change?", "Give it two seconds.", []Choice{
		{"changes", "it changes"}, {"stays", "it stays lit"},
	}},
	{"enters", "Put it into binding once more. Does its light change?", "By its button or by power cycles, as its card says.", []Choice{
		{"yes", "yes"}, {"no", "no"},
	}},
	{"calls", "While the receiver waits, does the radio still call?", "It sounds and shows it.", []Choice{
		{"calls", "it calls"}, {"stopped", "it has stopped"},
	}},
	{"far", "Carry the radio three paces away and try. Does it bind now?", "Two aerials nearly touching deafen each other.", []Choice{
		{"no", "no"}, {"binds", "it binds"},
	}},
	{"near", "Hold the radio's antenna a hand's breadth from the receiver. Does its light change?", "Lowest power.", []Choice{
		{"no", "no"}, {"changes", "it changes"},
	}},
}

// CauseID of why it will not bind.
type CauseID string

// Cause, what to do about it, and what it shows itself by. A question that is not in Shows is answered as when nothing is
// wrong: by its first answer; one that Open names may be answered in any way.
type Cause struct {
	ID     CauseID                 `json:"id"`
	Words  string                  `json:"words"`
	Remedy string                  `json:"remedy"`
	Shows  map[QuestionID][]string `json:"-"`
	Open   []QuestionID            `json:"-"`
	With   func(Gear) bool         `json:"-"` // nil: with any gear
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
	{"noSupply", "No supply reaches the receiver", "A broken wire, a cold joint, or the wrong rail: look at Wiring.", map[QuestionID][]string{"light": lit(Off), "power": one("none")}, []QuestionID{"near", "far", "own", "enters"}, nil},
	{"packOnly", "The receiver's rail is fed by the pack alone, and the pack is out", "Pack in, propellers off.", map[QuestionID][]string{"light": lit(Off), "power": one("packOnly")}, []QuestionID{"near", "far", "own", "enters"}, nil},
	{"dead", "The receiver has its supply and stays dark: its firmware is gone, or it is broken", "Flash it by its page or a cable; if it stays dark, replace it.", map[QuestionID][]string{"light": lit(Off), "power": one("volts")}, []QuestionID{"near", "far", "own", "enters"}, nil},
	{"page", "It sits on its wireless page, where it listens to no radio", "Take its power and give it again with the radio already on.", map[QuestionID][]string{"light": lit(OnPage)}, []QuestionID{"enters"}, func(g Gear) bool { return g.Timing.Page > 0 }},
	{"elsewhere", "It is bound to another radio, which is on", "Switch that radio off, and bind it to yours.", map[QuestionID][]string{"light": lit(Bound), "own": one("stays")}, []QuestionID{"phrase", "number", "near", "far", "enters"}, nil},
	{"unheard", "It is bound, and the board does not hear it", "Not the link: its port, its wire or its inversion. Look at Wiring.", map[QuestionID][]string{"light": lit(Bound)}, []QuestionID{"enters"}, nil},
	{"otherLink", "Module and receiver speak different links", "Choose the module of the receiver's link, or fit a receiver of the module's.", map[QuestionID][]string{"light": lit(Searching), "labels": one("link")}, []QuestionID{"versions"}, nil},
	{"otherBand", "Module and receiver are on different bands", "They never meet: fit a receiver of the module's band.", map[QuestionID][]string{"light": lit(Searching), "labels": one("band")}, nil, nil},
	{"otherRegion", "Module and receiver carry firmware for different regions", "Flash one of them for the region you fly in, with the other's major version.", map[QuestionID][]string{"light": lit(Searching), "labels": one("region")}, nil, nil},
	{"wrongModule", "The model has the other module on", "Switch it off in the model and the right one on.", map[QuestionID][]string{"light": lit(Searching), "modules": one("other")}, nil, nil},
	{"moduleOff", "The model has no module on: nothing is sent", "Switch the right module on in the model.", map[QuestionID][]string{"light": lit(Searching), "modules": one("none")}, []QuestionID{"calls"}, nil},
	{"bothModules", "The model has both modules on, and they drown each other", "Switch the other one off.", map[QuestionID][]string{"light": lit(Searching, Stranger, Binding), "modules": one("both")}, nil, nil},
	{"noAntenna", "An antenna is off or broken: they hear each other at a hand's breadth only", "Look at both antennas and their connectors before the module sends again.", map[QuestionID][]string{"light": lit(Searching), "near": one("changes")}, nil, nil},
	{"phraseLoose", "The phrases differ in capitals or spaces only", "Copy one to the other, letter by letter, and power-cycle the receiver.", map[QuestionID][]string{"light": lit(Stranger), "phrase": one("loose")}, nil, func(g Gear) bool { return g.Has(Phrase) }},
	{"phraseOther", "The phrases are different", "Give both the same phrase, and power-cycle the receiver.", map[QuestionID][]string{"light": lit(Stranger), "phrase": one("other")}, nil, func(g Gear) bool { return g.Has(Phrase) }},
	{"major", "Module and receiver are of different major versions", "Update the older one.", map[QuestionID][]string{"light": lit(Stranger), "versions": one("other")}, nil, nil},
	{"numberOther", "The model has another receiver number than the one it was bound with", "Put the number back, or bind it anew with this one.", map[QuestionID][]string{"light": lit(Stranger), "number": one("other")}, nil, func(g Gear) bool { return g.Numbers > 0 }},
	{"mode", "The model asks for channels or telemetry that the receiver cannot do", "Choose what its card allows, and bind again.", map[QuestionID][]string{"light": lit(Stranger), "mode": one("cannot")}, nil, func(g Gear) bool { return g.Has(Button) }},
	{"tooNear", "Radio and receiver stand so near that they deafen each other", "Bind from three paces, on the lowest power.", map[QuestionID][]string{"light": lit(Binding), "far": one("binds")}, nil, func(g Gear) bool { return g.Has(Button) || g.Has(Cycles) }},
	{"windowPast", "The radio has stopped calling before the receiver was ready", "Have it call again once the receiver waits, within its window.", map[QuestionID][]string{"light": lit(Binding), "calls": one("stopped")}, nil, func(g Gear) bool { return g.Has(Button) || g.Has(Cycles) }},
	{"buttonShort", "The button does not hold: worn, or let go too soon", "Hold it down hard, from before the power comes until the light changes.", map[QuestionID][]string{"light": lit(Stranger), "enters": one("no")}, nil, func(g Gear) bool { return g.Has(Button) }},
	{"cyclesSlow", "The power cycles are not counted: the capacitors keep the receiver alive through a short off", "Leave the pack out longer each time, but within its limit; or power the receiver alone.", map[QuestionID][]string{"light": lit(Stranger), "enters": one("no")}, []QuestionID{"phrase"}, func(g Gear) bool { return g.Has(Cycles) }},
}

// QuestionsFor a gear, in order: those that tell some of its causes apart, with the answers that it can give.
func QuestionsFor(g Gear) []Question {
	causes := CausesFor(g)
	var out []Question
	for _, q := range Questions {
		if q.ID == "light" {
			for _, l := range g.Lights {
				q.Answers = append(q.Answers, Choice{string(l.State), l.Words})
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

// may says whether a cause can give an answer to a question.
func (c Cause) may(q Question, answer string) bool {
	if list := c.Shows[q.ID]; list != nil {
		return slices.Contains(list, answer)
	}
	return slices.Contains(c.Open, q.ID) || len(q.Answers) > 0 && answer == q.Answers[0].ID
}

// Unsure is the answer of somebody who cannot tell.
const Unsure = "unsure"

// Inquiry is where the questions have led.
type Inquiry struct {
	Next   *Question `json:"next"` // nil when nothing tells any further
	Causes []Cause   `json:"causes"`
	Asked  int       `json:"asked"`
	Of     int       `json:"of"` // causes in all
}

// Inquire takes the answers given so far and asks the question that leaves the fewest causes, on the average. Answers that
// contradict every cause are a Fault at the question that did it. A question or answer that does not exist is a Fault too.
func Inquire(g Gear, given map[QuestionID]string) (Inquiry, error) {
	left := CausesFor(g)
	in := Inquiry{Of: len(left), Asked: len(given)}
	questions := QuestionsFor(g)
	for id := range given {
		if !slices.ContainsFunc(questions, func(q Question) bool { return q.ID == id }) {
			return in, quad.Faultf("unknown-question", string(id), "is no question here")
		}
	}
	for _, q := range questions {
		answer, ok := given[q.ID]
		if !ok || answer == Unsure {
			continue
		}
		if !slices.ContainsFunc(q.Answers, func(a Choice) bool { return a.ID == answer }) {
			return in, quad.Faultf("unknown-answer", string(q.ID), "has no answer %q", answer)
		}
		next := slices.DeleteFunc(slices.Clone(left), func(c Cause) bool { return !c.may(q, answer) })
		if len(next) == 0 {
			return in, quad.Faultf("contradiction", string(q.ID), "no known cause fits this with the other answers; look again, or answer that you cannot tell")
		}
		left = next
	}
	in.Causes = left
	fewest := float64(len(left))
	for _, q := range questions {
		if _, asked := given[q.ID]; asked {
			continue
		}
		if x := remaining(q, left); x < fewest-1e-9 {
			fewest, in.Next = x, &q
		}
	}
	return in, nil
}

// remaining causes to expect after a question, all of them taken for equally likely, and each for giving any of its answers.
func remaining(q Question, left []Cause) float64 {
	weight := make([]float64, len(q.Answers)) // how likely each answer is
	count := make([]float64, len(q.Answers))
	for _, c := range left {
		n := 0.0
		for _, a := range q.Answers {
			if c.may(q, a.ID) {
				n++
			}
		}
		for i, a := range q.Answers {
			if c.may(q, a.ID) {
				weight[i] += 1 / n / float64(len(left))
				count[i]++
			}
		}
	}
	sum := 0.0
	for i := range weight {
		sum += weight[i] * count[i]
	}
	return math.Max(sum, 0)
}
