package firmware

import (
	"encoding/json"
	"sync"

	"github.com/goccy/go-yaml"

	"vividperch/core/quad"
)

// taughtLines keeps what was read last, because a read-back is put together whenever a quad is looked at.
var taughtLines = struct {
	sync.Mutex
	byText map[string]*Line
}{byText: map[string]*Line{}}

const mostTaught = 32

// Taught reads a dictionary that a pilot taught: facts and entries of one line in one YAML file. See
// docs/dictionaries.md. A line of the product's own cannot be taught again.
func Taught(text string) (*Line, error) {
	taughtLines.Lock()
	defer taughtLines.Unlock()
	if l, ok := taughtLines.byText[text]; ok {
		return l, nil
	}
	l := &Line{}
	if err := quad.ReadYAML([]byte(text), l); err != nil {
		return nil, err
	}
	if err := noNaught([]byte(text)); err != nil {
		return nil, err
	}
	if err := l.build(); err != nil {
		return nil, err
	}
	if _, shipped := FindLine(l.Name); shipped {
		return nil, quad.Faultf("known-line", "line", "%s is a firmware family that the program knows itself", l.Name)
	}
	if len(taughtLines.byText) >= mostTaught {
		clear(taughtLines.byText)
	}
	taughtLines.byText[text] = l
	return l, nil
}

// noNaught refuses a factor, or a per, that is told as 0: it would lose every figure, and left out it means 1.
func noNaught(text []byte) error {
	type told struct {
		Factor *float64 `json:"factor"`
		Per    *float64 `json:"per"`
	}
	var file struct {
		Settings []struct {
			Name string `json:"name"`
			Was  *struct {
				told
				Fields []told `json:"fields"`
			} `json:"was"`
		} `json:"settings"`
		Entries []struct {
			Setting string `json:"setting"`
			told
			Fields []told `json:"fields"`
		} `json:"entries"`
	}
	converted, err := yaml.YAMLToJSON(text)
	if err != nil {
		converted = text // it is JSON itself
	}
	if json.Unmarshal(converted, &file) != nil {
		return nil // it was read before; only factors are looked at here
	}
	naught := func(at string, list ...told) error {
		for _, t := range list {
			if t.Factor != nil && *t.Factor == 0 || t.Per != nil && *t.Per == 0 {
				return quad.Faultf("bad-entry", at, "has a factor or a per of 0, which loses every figure; leave it out where there is none")
			}
		}
		return nil
	}
	for _, e := range file.Entries {
		if err := naught(e.Setting, append(e.Fields, e.told)...); err != nil {
			return err
		}
	}
	for _, s := range file.Settings {
		if s.Was != nil {
			if err := naught(s.Name, append(s.Was.Fields, s.Was.told)...); err != nil {
				return err
			}
		}
	}
	return nil
}
