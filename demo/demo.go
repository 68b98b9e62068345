// Package demo is the demo world as data: invented quads around an invented spit of shingle, with what is
// known about each and, for the bench, how each really is.
package demo

import (
	"embed"
	"encoding/json"
	"time"

	"vividperch/bench/standin"
	"vividperch/core/check"
	"vividperch/core/firmware"
	"vividperch/core/flight"
	"vividperch/core/quad"
	"vividperch/core/site"
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
	Serial   string            `json:"serial"` // number of its board
	Board    map[string]string `json:"board"`  // settings differing from defaults, as read back; none: no board
	Readings []Reading         `json:"readings"`
	Signed   []check.Station   `json:"signed"`
}

// Names of the quads, in the order of the hangar.
var Names = []string{"dunlin", "sanderling", "whimbrel", "godwit", "turnstone", "knot"}

// Load a quad by file name.
func Load(name string) (Quad, error) {
	raw, err := files.ReadFile(name + ".yaml")
	if err != nil {
		return Quad{}, err
	}
	var q Quad
	return q, quad.ReadYAML(raw, &q)
}

// List is the settings list that was read from its board.
func (q Quad) List() []byte {
	return firmware.Headed(quad.Identity{Serial: q.Serial}, firmware.WriteList(q.Board, nil))
}

// Known puts together what is known of a quad, as if it had all been read at one time.
func (q Quad) Known(at time.Time) (quad.Known, error) {
	k := quad.Known{Sheet: q.Meant.Sheet, Parts: q.Meant.Parts, Radio: q.Meant.Radio, Limits: q.Meant.Limits}
	if q.Board != nil {
		b, faults := firmware.BoardFromList(k.Sheet.Firmware.Is(), "", q.List(), at)
		if len(faults) > 0 {
			return k, faults[0]
		}
		k.Board = b
	}
	for _, r := range q.Readings {
		if err := quad.Enter(&k, r.Path, r.Value, at); err != nil {
			return k, err
		}
	}
	return k, nil
}

// Sound is Dunlin as it will be in the end: everything read, written to the board and rehearsed, and nothing
// against it. Tests spoil it.
func Sound(at time.Time) (quad.Known, error) {
	q, err := Load("dunlin")
	if err != nil {
		return quad.Known{}, err
	}
	raw, err := files.ReadFile("dunlin.sound.yaml")
	if err != nil {
		return quad.Known{}, err
	}
	q.Readings = nil
	if err := quad.ReadYAML(raw, &q.Readings); err != nil {
		return quad.Known{}, err
	}
	q.Meant.Sheet.Sticks.Arm.From = 1650
	k, err := q.Known(at)
	if err != nil {
		return k, err
	}
	if err := Write(&k, at); err != nil {
		return k, err
	}
	k.Readings.FirstFlight.Rehearsal, err = flight.RehearsedWith(k, at, SoundTrial)
	return k, err
}

// SoundTrial is what the trial of the sound quad comes to, which need not be flown anew whenever it is asked for; a test of the oracle
// flies it.
var SoundTrial = flight.Trial{Flown: 220, Farthest: 9.2913629554943}

// Write makes the board hold the sheet.
func Write(k *quad.Known, at time.Time) error {
	b, err := firmware.Written(*k, at)
	if err == nil {
		k.Board = b
	}
	return err
}

// Site of the demo world.
type Site struct {
	Name string   `json:"name"`
	Map  site.Map `json:"map"`
}

// Sites where its pilots fly.
func Sites() ([]Site, error) {
	raw, err := files.ReadFile("sites.yaml")
	if err != nil {
		return nil, err
	}
	var out []Site
	return out, quad.ReadYAML(raw, &out)
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
	q, err := Load(kits[name])
	if err != nil {
		return k, err
	}
	k.Parts = q.Meant.Parts
	for _, p := range q.Meant.Parts.Packs {
		k.Cells = p.Cells
	}
	return k, nil
}

// Soldered are the bench's quads that are as another one, but for what is wrong behind their plug.
func Soldered() ([]standin.Kit, error) {
	raw, err := files.ReadFile("soldered.yaml")
	if err != nil {
		return nil, err
	}
	var list []struct {
		Name   string            `json:"name"`
		Like   string            `json:"like"`
		Supply standin.KitSupply `json:"supply"`
	}
	if err := quad.ReadYAML(raw, &list); err != nil {
		return nil, err
	}
	out := make([]standin.Kit, len(list))
	for i, s := range list {
		if out[i], err = Kit(s.Like); err != nil {
			return nil, err
		}
		out[i].Name, out[i].Supply = s.Name, s.Supply
	}
	return out, nil
}

// kits by name, each with the quad whose parts it has.
var kits = map[string]string{"dunlin": "dunlin", "dunlin-first": "dunlin", "whimbrel": "whimbrel", "whimbrel-new": "whimbrel", "godwit": "godwit", "sanderling": "sanderling", "turnstone": "turnstone", "knot": "knot"}

// Kits are the benches' quads, in the order in which they are offered.
var Kits = []string{"dunlin", "dunlin-first", "whimbrel", "whimbrel-new", "godwit", "sanderling", "turnstone", "knot"}
