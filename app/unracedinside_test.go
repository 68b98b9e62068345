//go:build !race

package app

// raced is false in a run without the race detector; see raced_test.go.
const raced = false
