//go:build !race

package standin

// raced is false in a run without the race detector; see raced_test.go.
const raced = false
