package main

import (
	"os"
	"strings"
	"testing"
)

const sandbar = "../../core/firmware/testdata/sandbar"

// A list of a family that is not shipped goes through its dictionary and comes back as it was; one setting changed is one line changed, in
// the family's own words.
func TestListThroughADictionary(t *testing.T) {
	t.Parallel()
	raw, err := os.ReadFile(sandbar + ".list")
	if err != nil {
		t.Fatal(err)
	}
	code, out, said := perch(t, "list", sandbar+".list", "--dictionary", sandbar+".dictionary.yaml")
	if code != 0 || out != string(raw) {
		t.Errorf("exit %d, said %q; it came back otherwise", code, said)
	}
	code, out, said = perch(t, "list", sandbar+".list", "--dictionary", sandbar+".dictionary.yaml", "--set", "sheet.motors.idle=6", "--set", "sheet.loss.guard=1.5 s")
	if code != 0 {
		t.Fatalf("exit %d, said %q", code, said)
	}
	var changed []string
	was := strings.Split(string(raw), "\n")
	for i, line := range strings.Split(out, "\n") {
		if i >= len(was) || line != was[i] {
			changed = append(changed, line)
		}
	}
	if got := strings.Join(changed, "; "); got != "motorIdle = 60; failsafeDelay = 1500" {
		t.Errorf("changed are %s", got)
	}
	code, out, said = perch(t, "list", sandbar+".list", "--dictionary", sandbar+".dictionary.yaml", "--json")
	if code != 0 || !strings.Contains(out, `"idle": 4.8`) {
		t.Errorf("exit %d, said %q, printed %.200q", code, said, out)
	}
}
