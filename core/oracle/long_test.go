//go:build long

package oracle

// long runs what takes too long for every change: bin/test --long.
const long = true

// drawn quads: as many as must show that no passing one ends badly.
const drawn = 20000
