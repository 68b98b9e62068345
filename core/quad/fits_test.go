package quad

import (
	"encoding/json"
	"reflect"
	"strings"
	"testing"
)

// Every figure that a pilot can set or type has a range, and the range a reason.
func TestEveryFigureHasItsRange(t *testing.T) {
	var look func(f Field, at Path)
	figures := 0
	look = func(f Field, at Path) {
		switch f.Type.Kind() {
		case reflect.Float64, reflect.Int:
			if at.Under("board") {
				return // read back, never typed
			}
			figures++
			if a := f.Allowed; a == nil || !(a.Least < a.Most) || a.Because == "" {
				t.Errorf("%s has no range with a reason: %+v", at, a)
			}
		case reflect.Map:
			f.Type = f.Type.Elem()
			look(f, at+".*")
		case reflect.Struct:
			for _, p := range partsOf(f.Type).list {
				if in := f.holds(&p); in.Type != timeType {
					look(in, join(at, Path(p.name)))
				}
			}
		}
	}
	for _, s := range Shape() {
		look(s.Field, s.Path)
	}
	if figures < 90 {
		t.Errorf("only %d figures were looked at", figures)
	}
}

func TestFits(t *testing.T) {
	tests := []struct {
		path  Path
		value string
		place string // where it is refused, or nothing
		says  string
	}{
		{"sheet.motors.idle", "5", "", ""},
		{"sheet.motors.idle", "30", "", "the end belongs to the range"},
		{"sheet.motors.idle", "30.1", "sheet.motors.idle", "from 0 to 30 %"},
		{"sheet.motors.idle", "-1", "sheet.motors.idle", "is -1 %"},
		{"sheet.sticks.arm", `{"channel":5,"from":1700,"to":4000}`, "sheet.sticks.arm.to", "pulses are between"},
		{"sheet.feel", `{"roll":{"bend":2}}`, "sheet.feel.roll.bend", "a share"},
		{"parts.packs.grey", `{"cells":40}`, "parts.packs.grey.cells", "1 to 12 cells"},
		{"parts.packs", `{"grey":{"cells":40}}`, "parts.packs.grey.cells", "1 to 12 cells"},
		{"readings.firstFlight.wind", "61", "readings.firstFlight.wind", "hurricane"},
		{"limits.thresholds.wind", `{"value":0,"reason":""}`, "", "0 is not set"},
		{"limits.thresholds.wind", `{"value":13,"reason":"x"}`, "limits.thresholds.wind.value", "from 0.5 to 12 m/s"},
		{"sheet.motors.idle", `"much"`, "", "decoding refuses it"},
		{"sheet.craft.layout", "3", "", "decoding refuses it"},
	}
	for _, c := range tests {
		err := Fits(c.path, json.RawMessage(c.value))
		if c.place == "" {
			if err != nil {
				t.Errorf("%s %s: %v", c.path, c.value, err)
			}
			continue
		}
		if f := AsFault(err); f == nil || f.Code != "out-of-range" || f.Place != c.place || !strings.Contains(f.Sentence, c.says) {
			t.Errorf("%s %s: %v, want it refused at %s with %q", c.path, c.value, err, c.place, c.says)
		}
	}
	if f := AsFault(Fits("sheet.nothing", json.RawMessage("1"))); f == nil || f.Code != "unknown-path" {
		t.Errorf("a path that is none: %v", f)
	}
}

// A threshold of one's own needs its reason; without a value it needs none.
func TestThresholdsAreReasoned(t *testing.T) {
	var m Meant
	if _, err := NewEdit(m, "limits.thresholds.level", json.RawMessage(`{"value":1,"reason":" "}`)); AsFault(err) == nil || AsFault(err).Code != "no-reason" {
		t.Errorf("without a reason: %v", err)
	}
	if _, err := NewEdit(m, "limits.thresholds.level", json.RawMessage(`{"value":1,"reason":"a whoop indoors"}`)); err != nil {
		t.Errorf("with a reason: %v", err)
	}
	if _, err := NewEdit(m, "limits.thresholds.level", json.RawMessage(`{"value":0,"reason":""}`)); err != nil {
		t.Errorf("back to the usual: %v", err)
	}
}

func TestTypedAtAnyDepth(t *testing.T) {
	tests := []struct {
		path        Path
		value, want string // want is empty where it is refused
	}{
		{"parts.propeller.diameter", `"5 in"`, "127"},
		{"readings.firstPower.leadResistance", `{"atOnce":"1.2 k","after":"0.5 MΩ"}`, `{"after":500000,"atOnce":1200}`},
		{"limits.thresholds.wind", `{"value":"36 km/h","reason":"5 in"}`, `{"reason":"5 in","value":10}`},
		{"parts.packs", `{"grey":{"capacity":"1.3 Ah"}}`, `{"grey":{"capacity":1300}}`},
		{"sheet.motors.idle", `"5 V"`, ""},
		{"sheet.motors.outputs.A.corner", `"frontLeft"`, `"frontLeft"`},
		{"sheet.motors.idle", `12345678901234567890.5`, `12345678901234567890.5`},
	}
	for _, c := range tests {
		got, err := Typed(c.path, json.RawMessage(c.value))
		if c.want == "" {
			if f := AsFault(err); f == nil || f.Place != string(c.path) {
				t.Errorf("%s %s: %v", c.path, c.value, err)
			}
		} else if err != nil || string(got) != c.want {
			t.Errorf("%s %s became %s, want %s (%v)", c.path, c.value, got, c.want, err)
		}
	}
}

// Whatever is typed at whatever path is read or refused with a sentence, and never twice differently.
func FuzzTyped(f *testing.F) {
	f.Add("parts.propeller.diameter", `"5 in"`)
	f.Add("limits.thresholds.wind", `{"value":"36 km/h","reason":"x"}`)
	f.Add("parts.packs", `{"a":{"cells":"six"}}`)
	f.Fuzz(func(t *testing.T, path, value string) {
		got, err := Typed(Path(path), json.RawMessage(value))
		if err != nil {
			if AsFault(err) == nil {
				t.Fatalf("%v is no sentence", err)
			}
			return
		}
		again, err := Typed(Path(path), got)
		if err != nil || string(again) != string(got) {
			t.Fatalf("%s became %s and then %s (%v)", value, got, again, err)
		}
		if err := Fits(Path(path), got); err != nil && AsFault(err) == nil {
			t.Fatalf("%v is no sentence", err)
		}
	})
}

// Whatever is read as YAML is a sheet or a sentence, in bounded time.
func FuzzReadYAML(f *testing.F) {
	f.Add([]byte("sheet:\n  motors:\n    idle: 5\n"))
	f.Add([]byte(`{"sheet":{"motors":{"idle":5}}}`))
	f.Add([]byte("a: &x [1]\nb: *x\n"))
	f.Fuzz(func(t *testing.T, raw []byte) {
		var m Meant
		if err := ReadYAML(raw, &m); err != nil {
			if AsFault(err) == nil {
				t.Fatalf("%v is no sentence", err)
			}
			return
		}
		if _, err := writeYAML(m); err != nil {
			t.Fatal(err)
		}
	})
}
