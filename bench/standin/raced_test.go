//go:build race

package standin

// raced is true under the race detector. What does one thing after another has nothing to show it and takes ten times as long: such tests
// end in Unraced, and are run without it.
const raced = true
