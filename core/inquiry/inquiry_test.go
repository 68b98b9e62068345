package inquiry_test

import (
	"maps"
	"slices"
	"testing"

	"vividperch/core/inquiry"
	"vividperch/core/link"
	"vividperch/core/wiring"
)

// inquiries that the product makes, each with how many causes it knows at the least, and how many questions it may take.
func inquiries(t *testing.T) map[string]struct {
	questions   []inquiry.Question
	causes      []inquiry.Cause
	least, most int
} {
	t.Helper()
	out := map[string]struct {
		questions   []inquiry.Question
		causes      []inquiry.Cause
		least, most int
	}{"why a computer does not see a board": {wiring.UnseenQuestions, wiring.UnseenCauses, 10, 6}}
	for _, name := range link.Shipped() {
		g, known := link.GearOf(name, nil)
		if !known {
			t.Fatal(name)
		}
		var causes []inquiry.Cause
		for _, c := range link.CausesFor(g) {
			causes = append(causes, c.Cause)
		}
		out["why "+name+" does not bind"] = struct {
			questions   []inquiry.Question
			causes      []inquiry.Cause
			least, most int
		}{link.QuestionsFor(g), causes, 14, 6}
	}
	return out
}

// Whatever the cause and however it lets its questions be answered, the questions lead to it, and to it alone.
func TestEveryCauseIsReached(t *testing.T) {
	for name, x := range inquiries(t) {
		if len(x.causes) < x.least {
			t.Errorf("%s: %d causes", name, len(x.causes))
		}
		worst := 0
		for _, cause := range x.causes {
			var ask func(given map[inquiry.QuestionID]string)
			ask = func(given map[inquiry.QuestionID]string) {
				in, err := inquiry.Inquire(x.questions, x.causes, given)
				if err != nil {
					t.Fatalf("%s, %s, after %v: %v", name, cause.ID, given, err)
				}
				if !slices.ContainsFunc(in.Causes, func(c inquiry.Cause) bool { return c.ID == cause.ID }) {
					t.Fatalf("%s: %s was ruled out by %v", name, cause.ID, given)
				}
				if in.Next == nil {
					if len(in.Causes) != 1 {
						t.Errorf("%s: %v leave %d causes", name, given, len(in.Causes))
					}
					worst = max(worst, len(given))
					return
				}
				for _, a := range in.Next.Answers {
					if cause.May(*in.Next, a.ID) {
						next := maps.Clone(given)
						next[in.Next.ID] = a.ID
						ask(next)
					}
				}
			}
			ask(map[inquiry.QuestionID]string{})
		}
		t.Logf("%s: %d causes, at most %d questions", name, len(x.causes), worst)
		if worst > x.most {
			t.Errorf("%s needs up to %d questions", name, worst)
		}
	}
}

// The question asked is one of those that leave the fewest causes on the average, counted here cause by cause and answer by
// answer over all ways it can go.
func TestAsksTheBestQuestion(t *testing.T) {
	expected := func(q inquiry.Question, left []inquiry.Cause) float64 {
		sum := 0.0
		for _, truth := range left {
			answers := []string{}
			for _, a := range q.Answers {
				if truth.May(q, a.ID) {
					answers = append(answers, a.ID)
				}
			}
			for _, a := range answers {
				stay := 0
				for _, c := range left {
					if c.May(q, a) {
						stay++
					}
				}
				sum += float64(stay) / float64(len(answers)) / float64(len(left))
			}
		}
		return sum
	}
	for name, x := range inquiries(t) {
		for _, truth := range x.causes {
			given := map[inquiry.QuestionID]string{}
			for {
				in, err := inquiry.Inquire(x.questions, x.causes, given)
				if err != nil {
					t.Fatalf("%s, %v: %v", name, given, err)
				}
				if in.Of != len(x.causes) || in.Asked != len(given) {
					t.Errorf("%s: %d of %d, asked %d", name, len(in.Causes), in.Of, in.Asked)
				}
				if in.Next == nil {
					break
				}
				best := expected(*in.Next, in.Causes)
				for _, q := range x.questions {
					if _, asked := given[q.ID]; !asked && expected(q, in.Causes) < best-1e-9 {
						t.Errorf("%s: after %v it asks %s (%.2f left), %s leaves %.2f", name, given, in.Next.ID, best, q.ID, expected(q, in.Causes))
					}
				}
				i := slices.IndexFunc(in.Next.Answers, func(a inquiry.Choice) bool { return truth.May(*in.Next, a.ID) })
				given[in.Next.ID] = in.Next.Answers[i].ID
			}
		}
	}
}

// Every cause says what it is and what to do, every question how one looks; none is there twice.
func TestInquiriesAreWhole(t *testing.T) {
	for name, x := range inquiries(t) {
		said := map[string]bool{}
		for _, c := range x.causes {
			if c.Words == "" || c.Remedy == "" || said[c.Words] || said[string(c.ID)] {
				t.Errorf("%s: %+v", name, c)
			}
			said[c.Words], said[string(c.ID)] = true, true
			for id, answers := range c.Shows {
				i := slices.IndexFunc(x.questions, func(q inquiry.Question) bool { return q.ID == id })
				if i < 0 {
					t.Errorf("%s: %s shows itself by %s, which nobody asks", name, c.ID, id)
					continue
				}
				for _, a := range answers {
					if !slices.ContainsFunc(x.questions[i].Answers, func(choice inquiry.Choice) bool { return choice.ID == a }) {
						t.Errorf("%s: %s answers %s with %s", name, c.ID, id, a)
					}
				}
			}
		}
		for _, q := range x.questions {
			if q.Words == "" || q.How == "" || len(q.Answers) < 2 {
				t.Errorf("%s: %+v", name, q)
			}
		}
	}
}
