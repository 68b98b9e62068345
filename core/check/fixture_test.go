package check_test

import (
	"encoding/json"
	"sync"
	"testing"
	"time"

	"vividperch/core/quad"
	"vividperch/demo"
)

var today = time.Date(2026, 5, 4, 11, 0, 0, 0, time.UTC)

// put writes a value at a path; a reading is wrapped as one taken this morning. "null" clears it.
func put(t testing.TB, k *quad.Known, path quad.Path, raw string) {
	t.Helper()
	f, err := quad.FieldAt(path)
	if err != nil {
		t.Fatal(err)
	}
	if f.Read && raw != "null" {
		err = quad.Enter(k, path, json.RawMessage(raw), today.Add(-time.Hour))
	} else {
		err = quad.Set(k, path, []byte(raw))
	}
	if err != nil {
		t.Fatalf("%s = %s: %v", path, raw, err)
	}
}

// sound is a quad on which nothing is wrong.
func sound(t testing.TB) quad.Known {
	t.Helper()
	k, err := soundOnce()
	if err != nil {
		t.Fatal(err)
	}
	return k
}

// soundOnce is rehearsed once for all tests; what they change is changed in copies.
var soundOnce = sync.OnceValues(func() (quad.Known, error) { return demo.Sound(today.Add(-time.Hour)) })
