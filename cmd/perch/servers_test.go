package main

import (
	"strings"
	"testing"
	"time"

	"vividperch/app"
	"vividperch/demo/benchtest"
	"vividperch/store/mariadb/mariadbtest"
)

// Two programs on one database with one bench: one holds it, the other says so, both see the same quads; when
// the holder is killed the other takes the bench over.
func TestTwoProgramsHandTheBenchOver(t *testing.T) {
	t.Parallel()
	db := mariadbtest.Fresh(t)
	bench := benchtest.Serve(t, benchtest.Dunlin(t), false)
	args := []string{"--database", db, "--bench", bench, "--token", benchtest.Token}
	first := start(t, t.TempDir(), args...)
	status := func(p *program) app.BenchStatus {
		var s app.BenchStatus
		if code, err := p.ask("GET", "/api/bench", nil, &s); err != nil || code != 200 {
			t.Fatalf("%d, %v", code, err)
		}
		return s
	}
	until := func(what string, so func() bool) {
		t.Helper()
		for end := time.Now().Add(40 * time.Second); !so(); time.Sleep(20 * time.Millisecond) {
			if time.Now().After(end) {
				t.Fatalf("never %s", what)
			}
		}
	}
	until("connected", func() bool { return status(first).Connected })
	second := start(t, t.TempDir(), args...)
	until("told that it is taken", func() bool { return strings.Contains(status(second).Says, "another server has the bench") })
	if code, err := second.ask("POST", "/api/bench/things", map[string]any{"pack": true}, nil); err != nil || code != 503 {
		t.Errorf("the second program reached the bench: %d, %v", code, err)
	}
	// What is written through one stands in the other at once.
	var q shownQuad
	if _, err := first.ask("GET", "/api/quads/1", nil, &q); err != nil {
		t.Fatal(err)
	}
	edit := func(p *program, version int64, idle float64) int {
		code, err := p.ask("POST", "/api/quads/1/edit", map[string]any{"version": version, "values": []any{map[string]any{"path": "sheet.motors.idle", "value": idle}}}, nil)
		if err != nil {
			t.Fatal(err)
		}
		return code
	}
	if code := edit(first, q.Version, 6.25); code != 200 {
		t.Fatalf("edit: %d", code)
	}
	if code := edit(second, q.Version, 7.5); code != 409 {
		t.Errorf("the second program wrote over the first: %d", code)
	}
	if _, err := second.ask("GET", "/api/quads/1", nil, &q); err != nil || q.Meant.Sheet.Motors.Idle != 6.25 {
		t.Errorf("the second sees idle %v, %v", q.Meant.Sheet.Motors.Idle, err)
	}
	began := time.Now()
	first.kill()
	until("taken over", func() bool { return status(second).Connected })
	t.Logf("taken over after %.1f s", time.Since(began).Seconds())
	if code, err := second.ask("POST", "/api/bench/things", map[string]any{"pack": true}, nil); err != nil || code != 200 {
		t.Errorf("after the hand-over the bench answers %d, %v", code, err)
	}
}
