package app

import (
	"encoding/json"
	"fmt"
	"reflect"
	"testing"
	"time"

	"vividperch/core/book"
	"vividperch/core/quad"
	"vividperch/demo"
)

// A file may hold any figure at any place. The quad is shown all the same: no rule stumbles, and what is not
// a number never reaches the page.
func TestAnyFigureAnywhereIsShownUnraced(t *testing.T) {
	t.Parallel()
	if raced {
		t.Skip("one thing after another: run without the race detector")
	}
	q, err := demo.Load("dunlin")
	if err != nil {
		t.Fatal(err)
	}
	now := time.Date(2026, 5, 4, 9, 0, 0, 0, time.UTC)
	k, err := demo.Sound(now)
	if err != nil {
		t.Fatal(err)
	}
	a := &App{now: func() time.Time { return now }, who: "a pilot"}
	body, err := quad.Canonical(q.Meant)
	if err != nil {
		t.Fatal(err)
	}
	looks := 0
	look := func(what string, k quad.Known) {
		t.Helper()
		looks++
		defer func() {
			if p := recover(); p != nil {
				t.Errorf("%s: %v", what, p)
			}
		}()
		o := &opened{file: book.File{Quad: book.Quad{Head: 1}, Body: body}, saved: k.Meant(), known: k}
		v, err := a.view(o)
		if err != nil {
			t.Errorf("%s: %v", what, err)
			return
		}
		st := a.standings(o)
		for _, shown := range []any{
			v, airframeOf(k), firmwareOf(k), wiringOf(k), sticksOf(k), motorsOf(k), stagesOf(k), firstFlightOf(k, st), cardOf(k, st),
		} {
			if _, err := json.Marshal(shown); err != nil {
				t.Errorf("%s: %T: %v", what, shown, err)
			}
		}
	}
	for _, l := range quad.Leaves(k, "") {
		if l.Path.Under("board.settings") || l.Path.Under("board.readAt") || l.Path.Under("board.unmapped") {
			continue
		}
		kind := reflect.TypeOf(l.Value).Kind()
		var values []string
		switch kind {
		case reflect.Float64:
			values = []string{"-1e9", "1e300", "1e-300"}
		case reflect.Int:
			values = []string{"0", "-1000000", "1000000000"}
		case reflect.String:
			values = []string{`""`, `"nonsense"`}
		case reflect.Struct:
			values = []string{
				`{"corner":"nonsense","spin":"nonsense"}`,
				`{"channel":-7,"positions":{"nonsense":1e300}}`,
				`{"channel":99,"ends":{"low":1e300,"centre":-1e300,"high":0},"jitter":1e300,"hysteresis":-1}`,
				`{"atOnce":1e300,"after":-1e300}`, `{"outcome":"nonsense","deviation":1e300}`, `{"target":"","line":"nonsense"}`,
			}
		}
		for _, value := range values {
			changed := k
			var err error
			if l.Read {
				err = quad.Enter(&changed, l.Path, json.RawMessage(value), now)
			} else {
				err = quad.Set(&changed, l.Path, []byte(value))
			}
			if err != nil {
				continue
			}
			look(fmt.Sprintf("%s = %s", l.Path, value), changed)
		}
	}
	if looks < 300 {
		t.Errorf("only %d quads were looked at", looks)
	}
}
