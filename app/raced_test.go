//go:build race

package app

// raced is true under the race detector, which has nothing to find in what runs alone and takes ten times as
// long for it.
const raced = true
