package quad

import (
	"encoding/json"
	"math"
	"math/rand/v2"
	"reflect"
	"testing"
	"time"
)

func sampleKnown() Known {
	at := time.Date(2026, 5, 4, 10, 0, 0, 0, time.UTC)
	k := Known{Sheet: Sheet{
		Craft:  CraftSheet{Layout: LayoutX, Rotation: FrontLeftClockwise},
		Motors: MotorsSheet{Outputs: map[string]OutputPlan{"A": {Corner: FrontRight}, "B": {Corner: RearLeft, Reversed: true}}, Idle: 5.5, Poles: 14},
		Sticks: SticksSheet{Order: "AETR", Arm: Range{Channel: 5, From: 1700, To: 2100}},
	}}
	k.Parts.Packs = map[string]Pack{"grey": {Cells: 6, Mass: 215}}
	k.Readings.Airframe.Weight = &Reading[float64]{Value: 715, Origin: OriginTyped, At: at, Revision: 1}
	k.Readings.Motors.Outputs = map[string]*Reading[MotorSeen]{"B": {Value: MotorSeen{Corner: RearLeft, Spin: Clockwise}, Origin: OriginDevice, Bench: true, At: at}}
	return k
}

func TestGet(t *testing.T) {
	k := sampleKnown()
	for _, c := range []struct {
		path Path
		want any
	}{
		{"sheet.motors.idle", 5.5},
		{"sheet.motors.outputs.B.reversed", true},
		{"sheet.motors.outputs.Z.reversed", nil}, // a key that is not there is not an error: it is unknown
		{"parts.packs.grey.cells", 6},
		{"sheet.sticks.arm.channel", 5},
	} {
		got, err := Get(k, c.path)
		if err != nil || !reflect.DeepEqual(got, c.want) {
			t.Errorf("%s: got %v, %v; want %v", c.path, got, err, c.want)
		}
	}
	for _, p := range []Path{"sheet.motor.idle", "nothing", "sheet.motors.idle.more", "sheet..idle"} {
		if _, err := Get(k, p); AsFault(err) == nil || AsFault(err).Code != "unknown-path" {
			t.Errorf("%q: got %v, want a fault that the path is unknown", p, err)
		}
	}
}

func TestSet(t *testing.T) {
	for _, c := range []struct {
		path Path
		raw  string
		code string // of the fault, empty when it must work
	}{
		{"sheet.motors.idle", "6.25", ""},
		{"sheet.motors.outputs.C.corner", `"rearRight"`, ""}, // creates the item
		{"sheet.motors.outputs.B", "null", ""},               // removes it
		{"readings.airframe.weight", `{"value": 700, "origin": "typed", "at": "2026-05-04T10:00:00Z", "revision": 2}`, ""},
		{"sheet.motors.idle", `"fast"`, "wrong-type"},
		{"sheet.motors.poles", "14.5", "wrong-type"},
		{"sheet.motors.idle", "1 2", "bad-value"},
		{"sheet.motors.idle", "null", "bad-value"},
		{"sheet.craft", "null", "bad-value"},
		{"readings.airframe.weight", "null", ""},
		{"sheet.motors.idle", "{", "bad-value"},
		{"sheet.sticks.arm", `{"channel": 5, "colour": 1}`, "unknown-name"},
		{"sheet.motors.speed", "1", "unknown-path"},
	} {
		k := sampleKnown()
		before := sampleKnown()
		err := Set(&k, c.path, []byte(c.raw))
		switch {
		case c.code == "" && err != nil:
			t.Errorf("%s = %s: %v", c.path, c.raw, err)
		case c.code == "" && reflect.DeepEqual(k, before):
			t.Errorf("%s = %s changed nothing", c.path, c.raw)
		case c.code != "" && (AsFault(err) == nil || AsFault(err).Code != c.code):
			t.Errorf("%s = %s: got %v, want a fault %s", c.path, c.raw, err, c.code)
		case c.code != "" && !reflect.DeepEqual(k, before):
			t.Errorf("%s = %s was refused but changed something", c.path, c.raw)
		}
	}
}

// Snapshots share their maps: a change in one must never be seen in another.
func TestSetLeavesSharedMapsAlone(t *testing.T) {
	k := sampleKnown()
	shared := k
	if err := Set(&k, "sheet.motors.outputs.A.corner", []byte(`"frontLeft"`)); err != nil {
		t.Fatal(err)
	}
	if shared.Sheet.Motors.Outputs["A"].Corner != FrontRight {
		t.Error("the other snapshot changed too")
	}
	DropReadings(&k, []Path{"readings"}, func(time.Time) bool { return false })
	if shared.Readings.Motors.Outputs["B"] == nil {
		t.Error("dropping readings took them from the other snapshot")
	}
}

func TestMask(t *testing.T) {
	k := sampleKnown()
	paths := []Path{"sheet.motors.outputs.B.corner", "readings.airframe", "parts.packs.none", "no.such.path", "sheet.motors.idle.deeper"}
	m := Mask(k, paths)
	var placed Known
	if MaskTo(&placed, &k, AddressesOf(paths)); !reflect.DeepEqual(placed, m) {
		t.Errorf("by addresses: %+v", placed)
	}
	var want Known
	want.Sheet.Motors.Outputs = map[string]OutputPlan{"B": {Corner: RearLeft}}
	want.Readings.Airframe = k.Readings.Airframe
	if !reflect.DeepEqual(m, want) {
		t.Errorf("got %+v", m)
	}
	if full := Mask(k, []Path{"sheet", "parts", "radio", "limits", "board", "readings"}); !reflect.DeepEqual(full, k) {
		t.Error("a mask of everything loses something")
	}
}

func TestDropReadings(t *testing.T) {
	k := sampleKnown()
	kept := k
	DropReadings(&kept, []Path{"readings.motors"}, func(time.Time) bool { return false })
	if len(kept.Readings.Motors.Outputs) != 0 || kept.Readings.Airframe.Weight == nil {
		t.Errorf("want the motor readings gone and the weight kept, got %+v", kept.Readings)
	}
	all := k
	if DropReadings(&all, []Path{"readings"}, func(at time.Time) bool { return at.Year() == 2026 }); !reflect.DeepEqual(all, k) {
		t.Error("readings that may stay did not")
	}
}

// Every leaf can be found, described, read and written back by its own path.
func TestLeavesGetAndSetAgree(t *testing.T) {
	k := sampleKnown()
	for _, l := range Leaves(k, "") {
		f, err := FieldAt(l.Path)
		if err != nil {
			t.Errorf("%s cannot be described: %v", l.Path, err)
			continue
		}
		if f.Label != l.Label || f.Unit != l.Unit || f.Read != l.Read {
			t.Errorf("%s: described as %q %q %v, listed as %q %q %v", l.Path, f.Label, f.Unit, f.Read, l.Label, l.Unit, l.Read)
		}
		got, err := Get(k, l.Path)
		if err != nil {
			t.Errorf("%s: %v", l.Path, err)
			continue
		}
		raw, err := json.Marshal(got)
		if err != nil {
			t.Fatal(err)
		}
		var empty Known
		if err := Set(&empty, l.Path, raw); err != nil {
			t.Errorf("%s cannot be written back: %v", l.Path, err)
		}
		if again, _ := Get(empty, l.Path); !reflect.DeepEqual(again, got) {
			t.Errorf("%s: wrote %v, read %v", l.Path, got, again)
		}
	}
}

func TestLabelsTellWhatTheyBelongTo(t *testing.T) {
	for path, want := range map[Path]string{
		"sheet.sticks.arm.from":                         "Arm, range from",
		"sheet.motors.outputs.B.reversed":               "Motor on output B, reversed in its speed controller",
		"parts.motor.kv":                                "Motor, speed constant KV",
		"readings.motors.outputs.B":                     "Motor on output B",
		"readings.firstFlight.propellers.frontLeft":     "Propeller front left",
		"readings.sticks.switches.left shoulder":        "Switch left shoulder",
		"sheet.feel.rollGains.proportional":             "Roll, proportional gain",
		"board.sheet.motors.idle":                       "Idle throttle",
		"sheet.motors.outputs.B.corner":                 "Motor on output B, corner it drives",
		"readings.firmware.identity":                    "What the board says it is",
		"parts.packs.grey.capacity":                     "Pack grey, capacity",
		"sheet.wiring.ports.2.function":                 "Port 2, function",
		"radio.switches.left shoulder.rest":             "Switch left shoulder, position at power-up",
		"readings.sticks.axes.throttle":                 "Throttle stick",
		"sheet.firmware.other":                          "Settings without a subject",
		"parts.packs.gr.ey.mass":                        "",
		"readings.firstPower.leadResistance":            "Resistance across the battery lead",
		"readings.firstFlight.propellers.somewhereElse": "Propeller somewhereElse",
	} {
		f, err := FieldAt(path)
		if want == "" {
			if err == nil {
				t.Errorf("%s: a key with a dot must not be found", path)
			}
			continue
		}
		if err != nil || f.Label != want {
			t.Errorf("%s is labelled %q (%v), want %q", path, f.Label, err, want)
		}
	}
}

// A figure without a unit cannot be typed, converted or shown.
func TestEveryNumberHasAUnit(t *testing.T) {
	numbers := 0
	var look func(at Path, typ reflect.Type, unit string)
	look = func(at Path, typ reflect.Type, unit string) {
		switch typ.Kind() {
		case reflect.Float64, reflect.Int:
			numbers++
			if _, known := scales[unit]; !known {
				t.Errorf("%s has the unit %q, which is not one", at, unit)
			}
		case reflect.Map:
			look(at+".*", typ.Elem(), unit)
		case reflect.Struct:
			if typ == timeType {
				return
			}
			for i := range typ.NumField() {
				f := typ.Field(i)
				look(at+"."+Path(jsonName(f)), f.Type, f.Tag.Get("unit"))
			}
		}
	}
	for _, s := range Shape() {
		look(s.Path, s.Type, s.Unit)
	}
	for _, root := range []reflect.Type{reflect.TypeFor[Actual]()} {
		for i := range root.NumField() {
			if f := root.Field(i); f.Type.Kind() != reflect.Map {
				look(Path(f.Name), f.Type, f.Tag.Get("unit"))
			}
		}
	}
	if numbers < 100 {
		t.Errorf("looked at %d numbers only: the walk does not reach the leaves", numbers)
	}
}

func TestPathUnder(t *testing.T) {
	for _, c := range []struct {
		p, root Path
		want    bool
	}{{"a.b", "a", true}, {"a", "a", true}, {"ab", "a", false}, {"a", "a.b", false}} {
		if got := c.p.Under(c.root); got != c.want {
			t.Errorf("%q under %q: %v", c.p, c.root, got)
		}
	}
	if !Path("a").Touches("a.b") || Path("a.b").Touches("a.c") {
		t.Error("touches must hold both ways, and only along one line")
	}
	if !Path("sheet.motors.outputs.*.corner").Matches("sheet.motors.outputs.B") || Path("sheet.motors").Matches("sheet.motors.idle") {
		t.Error("a star stands for any key, and a subtree does not lie under its own leaf")
	}
}

func FuzzSet(f *testing.F) {
	f.Add("sheet.motors.idle", "6")
	f.Add("sheet.motors.outputs.B", "null")
	f.Add("readings.motors.outputs.Q", `{"value":{"corner":"rearLeft"},"at":"2026-01-01T00:00:00Z"}`)
	f.Add("..", "[]")
	f.Fuzz(func(t *testing.T, path, raw string) {
		k, before := sampleKnown(), sampleKnown()
		if err := Set(&k, Path(path), []byte(raw)); err != nil {
			if AsFault(err) == nil {
				t.Errorf("%q = %q: %v is not a fault", path, raw, err)
			}
			if !reflect.DeepEqual(k, before) {
				t.Errorf("%q = %q was refused but changed something", path, raw)
			}
		}
	})
}

func TestObserveNamesWhatItHadToAssume(t *testing.T) {
	k := sampleKnown()
	o := Observe(k)
	if o.Sources["outputs.A"] != Assumed || o.Sources["outputs.B"] != Measured || o.Sources["board"] != Declared {
		t.Errorf("sources %v", o.Sources)
	}
	// A is assumed, and so are four propellers, the level, the balance and four sticks.
	if len(o.Assumed) != 1+4+1+1+4 {
		t.Errorf("assumed %q", o.Assumed)
	}
	if o.Outputs["B"].Spin != Clockwise {
		t.Error("what was seen must count, not what the layout wants")
	}
	k.Readings.Sticks.Axes = map[string]*Reading[StickAxis]{"roll": {Value: StickAxis{Channel: 2, Ends: Ends{Low: 1010, Centre: 1500, High: 1990}, Reversed: true}}}
	if o = Observe(k); o.Sticks[Roll].Low != 1990 || o.Channels[Roll] != 2 {
		t.Errorf("a stick that runs backwards has its low end above: %+v on %d", o.Sticks[Roll], o.Channels[Roll])
	}
}

// The same seed gives the same quads in every run.
func randomLeaf(r *rand.Rand, v any) any {
	switch x := v.(type) {
	case float64:
		return math.Round(x*(0.5+r.Float64())*100) / 100
	case int:
		return x + r.IntN(3)
	case bool:
		return r.IntN(2) == 0
	}
	return v
}

// An address gives what its path gives, for every leaf and every address that is none.
func TestAddressIsItsPath(t *testing.T) {
	k := sampleKnown()
	paths := []Path{"sheet.motors.outputs.Z.corner", "readings.motors.hot", "no", "sheet.motors.idle.deeper", "parts.packs"}
	for _, l := range Leaves(k, "") {
		paths = append(paths, l.Path)
	}
	for _, p := range paths {
		want, err := Get(&k, p)
		at, ok := AddressOf(p)
		if !ok {
			if err == nil {
				t.Errorf("%s has no address, and holds %v", p, want)
			}
			continue
		}
		if got := at.In(&k); !reflect.DeepEqual(got, want) {
			t.Errorf("%s: %v, by its path %v", p, got, want)
		}
	}
}
