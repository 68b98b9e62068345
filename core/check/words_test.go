package check

import (
	"slices"
	"testing"
)

// A list is cut only where that makes it shorter: one that is left out would take as much room as "1 more".
func TestShortened(t *testing.T) {
	all := []string{"a", "b", "c", "d", "e", "f"}
	for n, want := range map[int][]string{0: {}, 3: {"a", "b", "c"}, 4: {"a", "b", "c", "d"}, 5: {"a", "b", "c", "2 more"}, 6: {"a", "b", "c", "3 more"}} {
		if got := shortened(all[:n], 4); !slices.Equal(got, want) {
			t.Errorf("of %d: %q, want %q", n, got, want)
		}
	}
}

// An abbreviation keeps its capitals inside a sentence.
func TestLower(t *testing.T) {
	for said, want := range map[string]string{"Rear left": "rear left", "USB": "USB", "ZA": "ZA", "AA": "AA", "A lead": "a lead", "R2": "r2", "A": "a", "x": "x"} {
		if got := lower(said); got != want {
			t.Errorf("%q: %q, want %q", said, got, want)
		}
	}
}
