// Package inquiry finds which of some causes something has, by asking what tells the most of them apart.
package inquiry

import (
	"math"
	"slices"

	"vividperch/core/quad"
)

// QuestionID of something that can be looked at.
type QuestionID string

// CauseID of what may be behind it.
type CauseID string

// Question with the answers that can be given to it, the first of them as it is where nothing is wrong.
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

// Cause, what to do about it, and what it shows itself by. A question that is not in Shows is answered as when nothing is
// wrong: by its first answer; one that Open names may be answered in any way.
type Cause struct {
	ID     CauseID                 `json:"id"`
	Words  string                  `json:"words"`
	Remedy string                  `json:"remedy"`
	Shows  map[QuestionID][]string `json:"-"`
	Open   []QuestionID            `json:"-"`
}

// May says whether a cause can give an answer to a question.
func (c Cause) May(q Question, answer string) bool {
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
func Inquire(questions []Question, causes []Cause, given map[QuestionID]string) (Inquiry, error) {
	left := slices.Clone(causes)
	in := Inquiry{Of: len(left), Asked: len(given)}
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
		next := slices.DeleteFunc(slices.Clone(left), func(c Cause) bool { return !c.May(q, answer) })
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
			if c.May(q, a.ID) {
				n++
			}
		}
		for i, a := range q.Answers {
			if c.May(q, a.ID) {
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
