// Package ui is the built page, carried by the program.
package ui

import (
	"embed"
	"io/fs"
)

//go:embed all:built
var built embed.FS

// Page as it was built before the program was; nil where it was not.
func Page() fs.FS {
	if _, err := fs.Stat(built, "built/page/index.html"); err != nil {
		return nil
	}
	page, err := fs.Sub(built, "built/page")
	if err != nil {
		return nil
	}
	return page
}
