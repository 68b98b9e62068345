//go:build !long

package main

// long is false in the everyday run; see long_test.go.
const long = false
