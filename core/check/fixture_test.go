package check

import (
	"encoding/json"
	"os"
	"testing"
	"time"

	"vividperch/core/firmware"
	"vividperch/core/flight"
	"vividperch/core/quad"
)

var today = time.Date(2026, 5, 4, 11, 0, 0, 0, time.UTC)

func readYAML(t testing.TB, path string, into any) {
	t.Helper()
	raw, err := os.ReadFile(path)
	if err != nil {
		t.Fatal(err)
	}
	if err := quad.ReadYAML(raw, into); err != nil {
		t.Fatalf("%s: %v", path, err)
	}
}

// put writes a value at a path; a reading is wrapped as one taken this morning. "null" clears it.
func put(t testing.TB, k *quad.Known, path quad.Path, raw string) {
	t.Helper()
	f, err := quad.FieldAt(path)
	if err != nil {
		t.Fatal(err)
	}
	if f.Read && raw != "null" {
		wrapped, err := json.Marshal(map[string]any{"value": json.RawMessage(raw), "origin": quad.OriginTyped, "at": today.Add(-time.Hour), "revision": 1})
		if err != nil {
			t.Fatal(err)
		}
		raw = string(wrapped)
	}
	if err := quad.Set(k, path, []byte(raw)); err != nil {
		t.Fatalf("%s = %s: %v", path, raw, err)
	}
}

// sound is a quad on which nothing is wrong: Dunlin as it will be in the end.
func sound(t testing.TB) quad.Known {
	t.Helper()
	var world struct {
		Name     string          `json:"name"`
		Words    string          `json:"words"`
		Meant    quad.Meant      `json:"meant"`
		Board    json.RawMessage `json:"board"`
		Readings json.RawMessage `json:"readings"`
		Signed   json.RawMessage `json:"signed"`
	}
	readYAML(t, "../../demo/dunlin.yaml", &world)
	k := quad.Known{Sheet: world.Meant.Sheet, Parts: world.Meant.Parts, Radio: world.Meant.Radio, Limits: world.Meant.Limits}
	k.Sheet.Sticks.Arm.From = 1450
	var readings []struct {
		Path  quad.Path       `json:"path"`
		Value json.RawMessage `json:"value"`
	}
	readYAML(t, "testdata/sound.readings.yaml", &readings)
	for _, r := range readings {
		put(t, &k, r.Path, string(r.Value))
	}
	writeBoard(t, &k)
	rehearse(t, &k)
	return k
}

// writeBoard makes the board hold the sheet.
func writeBoard(t testing.TB, k *quad.Known) {
	t.Helper()
	line, ok := firmware.FindLine(k.Sheet.Firmware.Line)
	if !ok {
		t.Fatal("no such line")
	}
	settings := line.Facts.Defaults()
	written, err := line.Dictionary.Encode(k.Sheet)
	if err != nil {
		t.Fatal(err)
	}
	for name, raw := range written {
		settings[name] = raw
	}
	k.Board = firmware.Board(k.Sheet.Firmware.Target, k.Sheet.Firmware.Line, k.Sheet.Firmware.Version, settings, today)
}

// rehearse flies the card with what is known and keeps what came of it.
func rehearse(t testing.TB, k *quad.Known) {
	t.Helper()
	in, err := flight.NewInput(*k)
	if err != nil {
		t.Fatal(err)
	}
	run, err := flight.Rehearse(in, flight.HoverCard, nil)
	if err != nil {
		t.Fatal(err)
	}
	k.Readings.FirstFlight.Rehearsal = &quad.Reading[quad.Rehearsal]{Value: run.Summary, Origin: quad.OriginModel, Input: run.Input, At: today.Add(-time.Hour)}
}
