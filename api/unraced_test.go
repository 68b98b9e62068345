//go:build !race

package api_test

// raced is false in a run without the race detector; see raced_test.go.
const raced = false
