package oracle_test

import (
	"encoding/json"
	"fmt"
	"testing"
	"time"

	"vividperch/core/oracle"
	"vividperch/demo"
)

func bases(t testing.TB) []oracle.Base {
	t.Helper()
	k, err := demo.Sound(time.Date(2026, 5, 4, 10, 0, 0, 0, time.UTC))
	if err != nil {
		t.Fatal(err)
	}
	return []oracle.Base{{Name: "Dunlin", Known: k}}
}

func TestTry(t *testing.T) {
	began := time.Now()
	table, err := oracle.Run(t.Context(), oracle.Ask{Seed: 1, Count: 300, Bases: bases(t)})
	if err != nil {
		t.Fatal(err)
	}
	for _, m := range table.Misses {
		fmt.Printf("MISS %d %s | %v | %v | %s | %+v\n", m.Seed, m.Kind, m.Changes, m.Judged, m.Ending, m.Flown)
	}
	for _, m := range table.FalseAlarms {
		fmt.Printf("FALSE %d %s | %v | %s | %s | %s | %s\n", m.Seed, m.Kind, m.Changes, m.Rule, m.Title, m.Shows, m.Flown)
	}
	table.Misses, table.FalseAlarms = nil, nil
	raw, _ := json.Marshal(table)
	fmt.Println(string(raw), time.Since(began))
}
