//go:build !long

package oracle

const long = false

// drawn quads of every run of the tests.
const drawn = 199
