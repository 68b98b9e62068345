//go:build race

package api_test

// underRace is true under the race detector, for which what runs alone is done in a sample: it has nothing to find there
// and takes several times as long.
const underRace = true
