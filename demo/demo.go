// Package demo is the demo world as data: invented quads around an invented spit of shingle, with what is
// known about each and, for the bench, how each really is.
package demo

import (
	"embed"
	"encoding/json"

	"vividperch/bench/standin"
	"vividperch/core/check"
	"vividperch/core/quad"
)

//go:embed *.yaml
var files embed.FS

// Reading to be typed in when the world is loaded.
type Reading struct {
	Path  quad.Path       `json:"path"`
	Value json.RawMessage `json:"value"`
}

// Quad of the demo world.
type Quad struct {
	Name     string            `json:"name"`
	Words    string            `json:"words"` // one line for the hangar
	Meant    quad.Meant        `json:"meant"`
	Board    map[string]string `json:"board"` // settings differing from defaults, as read back; none: no board
	Readings []Reading         `json:"readings"`
	Signed   []check.Station   `json:"signed"`
}

// Names of the quads, in the order of the hangar.
var Names = []string{"dunlin", "sanderling"}

// Load a quad by file name.
func Load(name string) (Quad, error) {
	raw, err := files.ReadFile(name + ".yaml")
	if err != nil {
		return Quad{}, err
	}
	var q Quad
	return q, quad.ReadYAML(raw, &q)
}

// Kit of the bench that belongs to a quad.
func Kit(name string) (standin.Kit, error) {
	raw, err := files.ReadFile(name + ".bench.yaml")
	if err != nil {
		return standin.Kit{}, err
	}
	k, err := standin.ReadKit(raw)
	if err != nil {
		return k, err
	}
	q, err := Load(name)
	k.Parts, k.Cells = q.Meant.Parts, 6
	return k, err
}
