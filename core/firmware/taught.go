package firmware

import (
	"sync"

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
