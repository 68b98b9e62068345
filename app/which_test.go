package app_test

import (
	"strings"
	"testing"
)

// Which quad has a part, a link or a firmware: by its name, by a version, by words in any order; what nobody typed finds nothing.
func TestWhichQuadHasIt(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	parts := w.view(w.dunlin()).Meant.Parts
	w.create("godwit")
	all := func(typed string) string {
		t.Helper()
		list, err := w.Which(t.Context(), typed)
		if err != nil {
			t.Fatal(err)
		}
		var out []string
		for _, q := range list {
			one := q.Name + ":"
			for _, h := range q.Has {
				one += " " + h.Kind
			}
			out = append(out, one)
		}
		return strings.Join(out, ", ")
	}
	for _, typed := range []string{"", "   ", "no such thing", parts.Motor.Name + " and more"} {
		if got := all(typed); got != "" {
			t.Errorf("%q finds %q", typed, got)
		}
	}
	for typed, want := range map[string]string{
		parts.Motor.Name:       "Dunlin: motor",
		"marram 7.0":           "Dunlin: firmware",
		"7.0.2 MARR":           "Dunlin: firmware",
		parts.Receiver.Link:    "receiver",
		parts.Receiver.Version: "receiver",
		parts.Board.Target:     "board",
		parts.RadioModule.Link: "radioModule",
	} {
		if got := all(typed); !strings.Contains(got, want) {
			t.Errorf("%q finds %q, want %q", typed, got, want)
		}
	}
}
