package link

import (
	"maps"
	"slices"
	"testing"

	"vividperch/core/quad"
)

// Whatever the cause and however it lets its questions be answered, the questions lead to it, and to it alone, within six.
func TestEveryCauseIsReachedWithinSixQuestions(t *testing.T) {
	for _, name := range Shipped() {
		g := gear(t, name)
		causes := CausesFor(g)
		if len(causes) < 14 {
			t.Errorf("%s has %d causes", name, len(causes))
		}
		worst := 0
		for _, cause := range causes {
			var ask func(given map[QuestionID]string)
			ask = func(given map[QuestionID]string) {
				in, err := Inquire(g, given)
				if err != nil {
					t.Fatalf("%s, %s, after %v: %v", name, cause.ID, given, err)
				}
				if !slices.ContainsFunc(in.Causes, func(c Cause) bool { return c.ID == cause.ID }) {
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
					if cause.may(*in.Next, a.ID) {
						next := maps.Clone(given)
						next[in.Next.ID] = a.ID
						ask(next)
					}
				}
			}
			ask(map[QuestionID]string{})
		}
		t.Logf("%s: %d causes, at most %d questions", name, len(causes), worst)
		if worst > 6 {
			t.Errorf("%s needs up to %d questions", name, worst)
		}
	}
}

// The question asked is one of those that leave the fewest causes on the average, counted here cause by cause and answer by
// answer over all ways it can go.
func TestAsksTheBestQuestion(t *testing.T) {
	g := gear(t, "Tidewire")
	causes := CausesFor(g)
	expected := func(q Question, left []Cause) float64 {
		sum := 0.0
		for _, truth := range left {
			answers := []string{}
			for _, a := range q.Answers {
				if truth.may(q, a.ID) {
					answers = append(answers, a.ID)
				}
			}
			for _, a := range answers {
				stay := 0
				for _, c := range left {
					if c.may(q, a) {
						stay++
					}
				}
				sum += float64(stay) / float64(len(answers)) / float64(len(left))
			}
		}
		return sum
	}
	for _, given := range []map[QuestionID]string{{}, {"light": "stranger"}, {"light": "searching"}, {"light": "binding"}, {"light": Unsure}, {"light": "stranger", "phrase": "same"}} {
		in, err := Inquire(g, given)
		if err != nil || in.Next == nil {
			t.Fatalf("%v: %v", given, err)
		}
		best := expected(*in.Next, in.Causes)
		for _, q := range QuestionsFor(g) {
			if _, asked := given[q.ID]; !asked && expected(q, in.Causes) < best-1e-9 {
				t.Errorf("after %v it asks %s (%.2f left), %s leaves %.2f", given, in.Next.ID, best, q.ID, expected(q, in.Causes))
			}
		}
	}
	if in, _ := Inquire(g, nil); in.Of != len(causes) || len(in.Causes) != len(causes) {
		t.Errorf("%+v", in)
	}
}

func TestInquireRefuses(t *testing.T) {
	g := gear(t, "Tidewire")
	for code, given := range map[string]map[QuestionID]string{
		"unknown-question": {"weather": "wet"},
		"unknown-answer":   {"light": "green"},
		"contradiction":    {"light": "page", "labels": "band"},
	} {
		if _, err := Inquire(g, given); quad.AsFault(err) == nil || quad.AsFault(err).Code != code {
			t.Errorf("%v: %v, want %s", given, err, code)
		}
	}
	// A number is no matter of a link without numbers.
	if _, err := Inquire(g, map[QuestionID]string{"number": "other"}); err == nil {
		t.Error("Tidewire was asked for a receiver number")
	}
}

// Whoever cannot tell loses no cause by it.
func TestUnsureRulesNothingOut(t *testing.T) {
	g := gear(t, "Groyne")
	given := map[QuestionID]string{}
	for {
		in, err := Inquire(g, given)
		if err != nil || len(in.Causes) != in.Of {
			t.Fatalf("%v: %d of %d causes, %v", given, len(in.Causes), in.Of, err)
		}
		if in.Next == nil {
			break
		}
		given[in.Next.ID] = Unsure
	}
}
