package sticks

import (
	"slices"

	"vividperch/core/quad"
)

// ValidOrder says whether an order is a permutation of A, E, T and R.
func ValidOrder(order string) bool {
	got := []byte(order)
	slices.Sort(got)
	return string(got) == "AERT"
}

// OrderOf builds the order that captured channels make, or "" when they are not a permutation of the first
// four.
func OrderOf(axes map[string]quad.StickAxis) string {
	order := []byte("????")
	for _, a := range quad.Axes {
		seen, ok := axes[string(a)]
		if !ok || seen.Channel < 1 || seen.Channel > 4 {
			return ""
		}
		order[seen.Channel-1] = a.Letter()
	}
	if !ValidOrder(string(order)) {
		return ""
	}
	return string(order)
}
