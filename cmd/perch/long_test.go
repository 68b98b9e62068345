//go:build long

package main

// long runs what takes too long for every change: bin/test --long.
const long = true
