package proof

import (
	"slices"
	"strings"
	"testing"

	"vividperch/core/check"
)

// What a station relies on is told in a pilot's words: each once, and none as the model addresses it.
func TestSubjects(t *testing.T) {
	for _, info := range check.Line {
		list := Subjects(info.ID)
		if len(list) == 0 {
			t.Errorf("%s relies on nothing", info.Name)
		}
		for i, word := range list {
			if strings.ContainsAny(word, ".*ABCDEFGHIJKLMNOPQRSTUVWXYZ") || slices.Contains(list[:i], word) {
				t.Errorf("%s relies on %q", info.Name, word)
			}
		}
	}
	for station, want := range map[check.Station]string{
		check.FirstPower: "board type, capacitor, devices, receiver, speed controller, video, first power",
		check.Picture:    "what the board holds, local limits, video, picture",
	} {
		if got := strings.Join(Subjects(station), ", "); got != want {
			t.Errorf("%s: %q, want %q", station, got, want)
		}
	}
}
