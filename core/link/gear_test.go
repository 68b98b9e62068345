package link

import (
	"math"
	"strings"
	"testing"

	"vividperch/core/quad"
)

func gear(t testing.TB, link string) Gear {
	t.Helper()
	g, ok := GearOf(link, nil)
	if !ok {
		t.Fatalf("no gear %s", link)
	}
	return g
}

// The shipped gear is whole: a light for every state it can be in, each told apart, and rates that follow the rule of 3 dB for
// each doubling.
func TestShippedGear(t *testing.T) {
	if got := strings.Join(Shipped(), " "); got != "Groyne Tidewire" {
		t.Errorf("shipped %s", got)
	}
	for _, name := range Shipped() {
		g := gear(t, name)
		for _, s := range []State{Off, Searching, Stranger, Binding, Bound} {
			l := g.Light(s)
			if got, ok := g.Told(l.Blink); l.Words == "" || !ok || got != s {
				t.Errorf("%s: the light of %s (%q) tells %s", name, s, l.Words, got)
			}
		}
		for i := 1; i < len(g.Rates); i++ {
			a, b := g.Rates[i-1], g.Rates[i]
			if want := 3 * math.Log2(b.Hertz/a.Hertz); !(math.Abs(b.Sensitivity-a.Sensitivity-want) <= 0.6) {
				t.Errorf("%s: from %v to %v Hz the sensitivity changes by %v dB, 3 dB a doubling are %.1f", name, a.Hertz, b.Hertz, b.Sensitivity-a.Sensitivity, want)
			}
		}
		if ShippedFile(name) == "" || g.Beep(Calling).Words == "" {
			t.Errorf("%s has no file or does not say how it calls", name)
		}
	}
	if _, ok := GearOf("Unheard", nil); ok {
		t.Error("gear of a link that nobody told")
	}
}

// A pilot's own gear stands in for the shipped one; one that cannot be read does not.
func TestOwnGear(t *testing.T) {
	own := strings.Replace(ShippedFile("Groyne"), "button: 0.8", "button: 2.5", 1)
	if g, _ := GearOf("Groyne", map[string]string{"Groyne": own}); g.Timing.Button != 2.5 {
		t.Errorf("button %v", g.Timing.Button)
	}
	if g, _ := GearOf("Groyne", map[string]string{"Groyne": "link: ["}); g.Timing.Button != 0.8 {
		t.Errorf("button %v", g.Timing.Button)
	}
}

func TestReadGearRefuses(t *testing.T) {
	sound := ShippedFile("Tidewire")
	for _, c := range []struct{ old, new, place, says string }{
		{"link: Tidewire", "link: \"\"", "link", "needs a name"},
		{"cycles: 4", "cycles: 40", "timing.cycles", "from 0 to 10"},
		{"page: 40", "page: -1", "timing.page", "from 0 to 600 s"},
		{"sensitivity: -108", "sensitivity: 8", "rates.3.sensitivity", "-140 to -40 dBm"},
		{"hertz: 250", "hertz: 90", "rates.3.hertz", "slowest first"},
		{"blink: [70, 70]", "blink: [7, 70]", "lights.4.blink", "beat of 7 ms"},
		{"blink: [70, 70]", "blink: [120, 1280]", "lights.4.blink", "no eye can tell them apart"},
		{"state: page", "state: asleep", "lights.4.state", "which no receiver is in"},
		{"beats: [900]", "beats: [1, 2, 3]", "beeps.3.beats", "beat of 1 ms"},
		{"until: packOut", "until: packSomewhere", "ways.1.steps.2.until", "nobody can see"},
		{"back: 2", "back: 9", "ways.1.steps.4.traps.2.back", "leads to step 9"},
		{"where: quad", "where: pocket", "ways.1.steps.2.where", "radio, receiver or quad"},
		{"kind: cycles", "kind: magic", "ways.2.kind", "phrase, button or cycles"},
		{"update: page", "update: wish", "update", "page, radio or wire"},
		{"numbers: 0", "numbers: 64", "numbers", "0 to 63"},
		{"numbers: 0", "numbrs: 0", "", "numbrs"},
	} {
		if !strings.Contains(sound, c.old) {
			t.Fatalf("the shipped file has no %q", c.old)
		}
		_, err := ReadGear([]byte(strings.Replace(sound, c.old, c.new, 1)))
		f := quad.AsFault(err)
		if f == nil || !strings.Contains(f.Place, c.place) || !strings.Contains(f.Sentence+f.Place, c.says) {
			t.Errorf("%s: %+v, want %q at %s", c.new, err, c.says, c.place)
		}
	}
}

func FuzzReadGear(f *testing.F) {
	f.Add([]byte(ShippedFile("Tidewire")))
	f.Add([]byte(ShippedFile("Groyne")))
	f.Add([]byte("{}"))
	f.Fuzz(func(t *testing.T, raw []byte) {
		g, err := ReadGear(raw)
		if err != nil {
			if quad.AsFault(err) == nil {
				t.Fatalf("%v is no sentence for a pilot", err)
			}
			return
		}
		// What was read can be worked with.
		g.Rate(250, 16)
		if _, err := Inquire(g, nil); err != nil {
			t.Fatal(err)
		}
		for _, w := range g.Ways {
			w.Follow(Progress{}, Seen{Light: Bound, Pack: true})
		}
	})
}

func TestRateOf(t *testing.T) {
	g := gear(t, "Tidewire")
	for _, c := range []struct {
		hertz    float64
		channels int
		want     float64
	}{{250, 8, 250}, {240, 8, 250}, {0, 8, 500}, {0, 16, 50}, {2000, 8, 500}} {
		if got := g.Rate(c.hertz, c.channels).Hertz; got != c.want {
			t.Errorf("%v Hz with %d channels: %v, want %v", c.hertz, c.channels, got, c.want)
		}
	}
	r := g.Rate(500, 8)
	if r.Positions(3) != 0 || r.Positions(5) != 2 || r.Positions(7) != 3 {
		t.Errorf("positions %d %d %d", r.Positions(3), r.Positions(5), r.Positions(7))
	}
	if groyne := gear(t, "Groyne"); groyne.Telemetry.Carries(16) || !groyne.Telemetry.Carries(8) || !g.Telemetry.Carries(16) {
		t.Error("telemetry")
	}
}

func TestPrint(t *testing.T) {
	print := func(s string) quad.PhrasePrint {
		p, err := Print(s)
		if err != nil {
			t.Fatal(err)
		}
		return p
	}
	a := print("grey plover 7")
	for phrase, want := range map[string]Likeness{"grey plover 7": Same, "Grey plover 7": LooselySo, "greyplover7": LooselySo, "grey  plover 7": LooselySo, "grey plover 8": Unlike, "7 grey plover": Unlike} {
		if got := Alike(a, print(phrase)); got != want {
			t.Errorf("%q: %s, want %s", phrase, got, want)
		}
	}
	if len(a.Exact) != 4 || strings.Contains("grey plover 7", strings.ToLower(a.Exact)) {
		t.Errorf("fingerprint %q", a.Exact)
	}
	if _, err := Print("  "); err == nil {
		t.Error("a fingerprint of nothing")
	}
	if _, err := Print(strings.Repeat("a", 201)); err == nil {
		t.Error("a phrase without end")
	}
}
