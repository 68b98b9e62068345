package app_test

import (
	"encoding/json"
	"testing"

	"vividperch/app"
	"vividperch/core/check"
	"vividperch/core/quad"
)

// What is typed on one sheet is kept as one act: all of it or nothing, and taken back as one.
func TestReadingsAreTypedTogether(t *testing.T) {
	t.Parallel()
	w := newWorld(t)
	id := w.dunlin()
	value := func(path quad.Path, v string) app.SetValue {
		return app.SetValue{Path: path, Value: json.RawMessage(v)}
	}
	const volts, meter, heard = "readings.watch.boardVolts", "readings.watch.meterVolts", "readings.watch.heard"
	had := w.reading(id, check.PowerWatch, heard)
	before := w.view(id).Seen
	for name, c := range map[string]struct {
		values []app.SetValue
		want   string
	}{
		"nothing":          {nil, "no-reading"},
		"one out of range": {[]app.SetValue{value(volts, `"16.1 V"`), value(meter, `"900 V"`)}, "out-of-range"},
		"one that is none": {[]app.SetValue{value(volts, `16.1`), value("sheet.motors.idle", `5`)}, "not-a-reading"},
		"one twice":        {[]app.SetValue{value(volts, `16.1`), value(volts, `16.2`)}, "twice"},
		"a rehearsal":      {[]app.SetValue{value(volts, `16.1`), value("readings.firstFlight.rehearsal", `{}`)}, "not-typed"},
		"the saved list":   {[]app.SetValue{value(volts, `16.1`), value("readings.firmware.backup", `{}`)}, "not-typed"},
	} {
		if _, err := w.TypeAll(t.Context(), id, c.values); code(err) != c.want {
			t.Errorf("%s: %v, want %s", name, err, c.want)
		}
	}
	if now := w.view(id).Seen; now != before {
		t.Error("something of what was refused was kept")
	}
	w.later()
	if _, err := w.TypeAll(t.Context(), id, []app.SetValue{value(volts, `"24.1 V"`), value(meter, `24.2`), value(heard, `false`)}); err != nil {
		t.Fatal(err)
	}
	for path, want := range map[quad.Path]string{volts: "24.1 V", meter: "24.2 V", heard: "no"} {
		if got := w.reading(id, check.PowerWatch, path); got != want {
			t.Errorf("%s is %q, want %q", path, got, want)
		}
	}
	w.back(id, "")
	if got := w.reading(id, check.PowerWatch, heard); got != had {
		t.Errorf("taken back it is %q, was %q", got, had)
	}
	if got := w.reading(id, check.PowerWatch, volts); got == "24.1 V" {
		t.Error("only one of them was taken back")
	}
}
