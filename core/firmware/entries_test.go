package firmware

import (
	"math/rand/v2"
	"strconv"
	"testing"

	"vividperch/core/quad"
)

const unlike = `line: Unlike
versions: [{version: 1.0.0}]
settings:
  - {name: pause, kind: whole, min: 0, max: 60000, default: "125"}
  - {name: lean, kind: whole, min: 0, max: 900, default: "450"}
  - {name: speech, kind: word, words: [pulse, quick, "115", "115200"], default: pulse}
  - {name: rates, kind: list, items: 4, places: 1, min: 0, max: 2000, default: "100:500:30.5:7.5"}
entries:
  - {kind: scalar, setting: pause, path: sheet.motors.loopRate, per: 1000000}
  - {kind: scalar, setting: lean, paths: [sheet.feel.roll.peak, sheet.feel.pitch.peak, sheet.feel.yaw.peak]}
  - kind: table
    setting: speech
    paths: [sheet.motors.protocol, sheet.motors.idle]
    table: {pulse: [pulse, 5], quick: [shortPulse, 4.5], "115": [digital, 5], "115200": [digital, 5]}
  - kind: record
    setting: rates
    fields: [{path: sheet.feel.roll.centre}, {}, {path: sheet.feel.roll.bend, factor: 100}, {}]
`

func unlikeBuild(t testing.TB) *Build {
	t.Helper()
	l, err := Taught(unlike)
	if err != nil {
		t.Fatal(err)
	}
	return l.Newest()
}

// A pause in microseconds is a rate in hertz: every pause that the line can hold comes back, and is the rate that a division gives.
func TestAReciprocalComesBack(t *testing.T) {
	d := unlikeBuild(t).Dictionary
	for pause := range 60001 {
		raw := strconv.Itoa(pause)
		settings := map[string]string{"pause": raw}
		s, err := d.Decode(settings)
		if err != nil {
			t.Fatal(err)
		}
		if pause > 0 {
			if off := s.Motors.LoopRate*float64(pause) - 1e6; off > 1e-3 || off < -1e-3 {
				t.Fatalf("%d µs is %g Hz", pause, s.Motors.LoopRate)
			}
		}
		back, err := d.Encode(s, settings)
		if err != nil || back["pause"] != raw {
			t.Fatalf("%d µs comes back as %s, %v", pause, back["pause"], err)
		}
	}
}

// One figure for several places is read into all of them, and written when they agree; where nobody told one of them the others do.
func TestOneFigureForSeveralPlaces(t *testing.T) {
	d := unlikeBuild(t).Dictionary
	s, err := d.Decode(map[string]string{"lean": "620"})
	if err != nil || s.Feel.Roll.Peak != 620 || s.Feel.Pitch.Peak != 620 || s.Feel.Yaw.Peak != 620 {
		t.Fatalf("%v: %+v", err, s.Feel)
	}
	for name, c := range map[string]struct {
		roll, pitch, yaw float64
		want             string // the raw figure, or the fault
	}{
		"all alike":               {500, 500, 500, "500"},
		"alike as the line holds": {500, 500.3, 500, "500"},
		"one of them not told":    {0, 510, 510, "510"},
		"none of them told":       {0, 0, 0, "620"},
		"one of them another":     {500, 400, 500, "not-one-figure sheet.feel.pitch.peak"},
		"the last another":        {500, 500, 400, "not-one-figure sheet.feel.yaw.peak"},
	} {
		s.Feel.Roll.Peak, s.Feel.Pitch.Peak, s.Feel.Yaw.Peak = c.roll, c.pitch, c.yaw
		raw, err := d.Encode(s, map[string]string{"lean": "620"})
		if got := raw["lean"]; err == nil && got != c.want || err != nil && code(err) != c.want {
			t.Errorf("%s: %q, %v", name, got, err)
		}
	}
	s.Feel.Roll.Peak, s.Feel.Pitch.Peak, s.Feel.Yaw.Peak = 500, 400, 500
	_, err = d.Encode(s, nil)
	if want := `Pitch, peak rate: is 400 °/s, but "Roll, peak rate" is 500 °/s; this firmware has one figure for both.`; quad.Explain(err) != want {
		t.Errorf("it says %q", quad.Explain(err))
	}
}

// A value that stands for more than one place says all of them, and one that says the same in another way stays as it was written.
func TestTables(t *testing.T) {
	d := unlikeBuild(t).Dictionary
	for _, c := range []struct {
		held     string
		protocol quad.ThrottleProtocol
		idle     float64
		want     string
	}{
		{"115", "digital", 5, "115"},
		{"115200", "digital", 5, "115200"},
		{"pulse", "digital", 5, "115"},
		{"115", "pulse", 5, "pulse"},
		{"115", "shortPulse", 0, "quick"}, // the idle is not told
		{"115", "", 0, "115"},
		{"115", "shortPulse", 5, "no-counterpart sheet.motors.protocol"},
	} {
		s, err := d.Decode(map[string]string{"speech": c.held})
		if err != nil {
			t.Fatal(err)
		}
		if back, err := d.Encode(s, map[string]string{"speech": c.held}); err != nil || back["speech"] != c.held {
			t.Errorf("%s comes back as %s, %v", c.held, back["speech"], err)
		}
		s.Motors.Protocol, s.Motors.Idle = c.protocol, c.idle
		raw, err := d.Encode(s, map[string]string{"speech": c.held})
		if got := raw["speech"]; err == nil && got != c.want || err != nil && code(err) != c.want {
			t.Errorf("%s, then %s and %g: %q, %v", c.held, c.protocol, c.idle, got, err)
		}
	}
}

// Parts of a record that are of no interest stay as they are, decimals too.
func TestPartsOfNoInterest(t *testing.T) {
	d := unlikeBuild(t).Dictionary
	r := rand.New(rand.NewPCG(4, 4))
	for range 500 {
		part := func() string { return plain(float64(r.IntN(20000))/10, 1) }
		a, b, c, e := part(), part(), part(), part()
		settings := map[string]string{"rates": a + ":" + b + ":" + c + ":" + e}
		s, err := d.Decode(settings)
		if err != nil {
			t.Fatal(err)
		}
		back, err := d.Encode(s, settings)
		if err != nil || back["rates"] != settings["rates"] {
			t.Fatalf("%s comes back as %s, %v", settings["rates"], back["rates"], err)
		}
		s.Feel.Roll.Bend = 0.25
		if back, err = d.Encode(s, settings); err != nil || back["rates"] != a+":"+b+":25:"+e {
			t.Fatalf("%s changed to %s, %v", settings["rates"], back["rates"], err)
		}
	}
}
