package standin

import (
	"maps"
	"slices"
	"strings"
	"testing"
	"time"

	"vividperch/bench/protocol"
	"vividperch/core/firmware"
)

// pipe lets a conversation and a board's console talk until the conversation has nothing more to say, by the bench's clock.
func pipe(t *testing.T, d *Device, c *firmware.Conversation, from time.Duration) time.Duration {
	t.Helper()
	at, send := from, ""
	for ; at < from+5*time.Minute; at += 20 * time.Millisecond {
		d.Advance(20)
		answer, err := d.serial(protocol.Serial{Text: send})
		if err != nil || answer.Gone {
			if c.Closed(); c.Apart() {
				c.Opened() // its socket is there all the time
			}
		}
		send = c.Step(at, []byte(answer.Text))
		if c.Fault() != nil || c.Stage() == firmware.StageDone && send == "" {
			return at
		}
	}
	t.Fatal("it never ends")
	return at
}

// Both families that have a console are identified, read, written and kept by their own descriptions; what was written and not kept is undone
// when the board starts anew, and without the cable nothing is said.
func TestConsoles(t *testing.T) {
	for _, c := range []struct {
		line, version, setting, to string
	}{{"Marram", "6.4.0", "hear.dead", "7"}, {"Marram", "7.0.2", "gate.arm", "5:140:220"}, {"Spindrift", "8.4.1", "stick-rest-us", "9"}, {"Spindrift", "9.0.2", "arm-when", "5 170 250"}} {
		t.Run(c.line+" "+c.version, func(t *testing.T) {
			line, _ := firmware.FindLine(c.line)
			k := kit()
			k.Line, k.Version, k.Settings, k.Serial = c.line, c.version, nil, "4711"
			d, err := New(k, 1)
			if err != nil {
				t.Fatal(err)
			}
			if _, err := d.serial(protocol.Serial{Text: "hello"}); err == nil {
				t.Error("it talks without a cable")
			}
			d.usb, d.pack = true, true
			d.power(false)
			d.Advance(1000)
			talk, err := firmware.Converse(line)
			if err != nil {
				t.Fatal(err)
			}
			at := pipe(t, d, talk, 0)
			if f := talk.Fault(); f != nil {
				t.Fatal(f)
			}
			is := talk.Is()
			if is.Line != c.line || is.Version != c.version || is.Target != k.Target || is.Serial != "4711" {
				t.Errorf("it is %+v", is)
			}
			held := talk.Settings()
			if !maps.Equal(held, d.settings) {
				t.Fatalf("read otherwise than it is held: %d settings of %d", len(held), len(d.settings))
			}
			if held[c.setting] == c.to {
				t.Fatal("nothing to change")
			}
			// Written by hand and not kept, it is gone with the power.
			for _, x := range d.dialect(c.setting, c.to) {
				if _, err := d.serial(protocol.Serial{Text: x}); err != nil {
					t.Fatal(err)
				}
			}
			if d.settings[c.setting] != c.to {
				t.Fatalf("it did not take %s", c.to)
			}
			d.usb, d.pack = false, false
			d.power(true)
			d.usb, d.pack = true, true
			d.power(false)
			if d.settings[c.setting] != held[c.setting] {
				t.Errorf("not kept, it is still %s", d.settings[c.setting])
			}
			// In a conversation it is kept.
			talk, _ = firmware.Converse(line)
			at = pipe(t, d, talk, at)
			if err := talk.Write(is, held, []firmware.Change{{Name: c.setting, Before: held[c.setting], After: c.to}}); err != nil {
				t.Fatal(err)
			}
			pipe(t, d, talk, at)
			if f := talk.Fault(); f != nil {
				t.Fatal(f)
			}
			d.usb, d.pack = false, false
			d.power(true)
			d.usb = true
			d.power(false)
			if d.settings[c.setting] != c.to {
				t.Errorf("kept, it is %s", d.settings[c.setting])
			}
		})
	}
}

// dialect is how a setting is written by hand over the console, from waking it on.
func (d *Device) dialect(name, value string) []string {
	t := consoles[d.build.Line.Name]
	return []string{t.wake + t.end, name + t.between + value + t.end}
}

// A console that is late says all that it would have said, later; one that is later than anybody waits ends the conversation.
func TestALateConsole(t *testing.T) {
	for late, want := range map[int64]string{1500: "", 5500: "no-answer"} {
		k := kit()
		k.Console.Late, k.Serial = late, "4711"
		d, err := New(k, 1)
		if err != nil {
			t.Fatal(err)
		}
		d.usb = true
		d.power(false)
		d.Advance(1000)
		line, _ := firmware.FindLine(k.Line)
		talk, err := firmware.Converse(line)
		if err != nil {
			t.Fatal(err)
		}
		took := pipe(t, d, talk, 0)
		switch f := talk.Fault(); {
		case want == "" && (f != nil || took < 3*time.Duration(late)*time.Millisecond || len(talk.Settings()) == 0):
			t.Errorf("%d ms late: %v after %v", late, f, took)
		case want != "" && (f == nil || f.Code != want):
			t.Errorf("%d ms late: %v", late, f)
		}
	}
}

// What a console cannot take it says, and changes nothing; asleep it says nothing.
func TestConsoleRefuses(t *testing.T) {
	d, err := New(kit(), 1)
	if err != nil {
		t.Fatal(err)
	}
	d.usb = true
	d.power(false)
	says := func(text string) string {
		t.Helper()
		answer, err := d.serial(protocol.Serial{Text: text})
		if err != nil {
			t.Fatal(err)
		}
		return answer.Text
	}
	if got := says("which\r"); got != "" {
		t.Errorf("asleep it says %q", got)
	}
	before := maps.Clone(d.settings)
	for _, x := range [][2]string{{"#\r", "=>"}, {"nonsense\r", "cannot find nonsense"}, {"no.such = 1\r", "cannot find no.such"}, {"hear.dead = 9999\r", "cannot: "}} {
		text, want := x[0], x[1]
		if got := says(text); !strings.Contains(got, want) || !strings.HasSuffix(got, "=>") {
			t.Errorf("%q is answered %q", text, got)
		}
	}
	if !maps.Equal(before, d.settings) {
		t.Error("something was changed")
	}
	if got := says("whi") + says("ch\r"); !strings.Contains(got, d.kit.Target) {
		t.Errorf("in two halves it is answered %q", got)
	}
	says(strings.Repeat("x", 70<<10))
	if got := says("which\r"); strings.Count(got, "x") > 100 && !slices.Contains([]string{""}, got) {
		t.Errorf("after nonsense without end: %d bytes", len(got))
	}
}
