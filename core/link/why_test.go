package link

import (
	"testing"

	"vividperch/core/quad"
)

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
