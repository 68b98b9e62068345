package quad

import (
	"bytes"
	"encoding/json"
	"math/rand/v2"
	"testing"
)

// thinned leaves out some items of the maps, with a seed.
func thinned(m Meant, seed uint64) Meant {
	r := rand.New(rand.NewPCG(seed, 7))
	for _, item := range []Path{"sheet.motors.outputs.A", "sheet.motors.outputs.B", "parts.packs.grey", "radio.switches.left", "sheet.wiring.ports.R2"} {
		if v, err := Get(m, item); err == nil && v != nil && r.IntN(2) == 0 {
			if err := Set(&m, item, []byte("null")); err != nil {
				panic(err)
			}
		}
	}
	return m
}

// plain bytes of a quad, without the difference between no map and an empty one.
func plainBytes(t *testing.T, m Meant) []byte {
	t.Helper()
	raw, err := Canonical(m)
	if err != nil {
		t.Fatal(err)
	}
	return bytes.ReplaceAll(raw, []byte("{}"), []byte("null"))
}

// The edits between two quads, made on the first, give the second; made backwards, the first again.
func TestChangesLeadFromOneToTheOther(t *testing.T) {
	for seed := range uint64(200) {
		a, b := thinned(randomMeant(seed), seed), thinned(randomMeant(seed+1000), seed+5)
		edits := Changes(a, b)
		got, err := Apply(a, edits)
		if err != nil {
			t.Fatalf("seed %d: %v", seed, err)
		}
		if !bytes.Equal(plainBytes(t, got), plainBytes(t, b)) {
			t.Fatalf("seed %d: the edits lead elsewhere", seed)
		}
		for i := range edits {
			edits[i].Before, edits[i].After = edits[i].After, edits[i].Before
		}
		if back, err := Apply(got, edits); err != nil || !bytes.Equal(plainBytes(t, back), plainBytes(t, a)) {
			t.Fatalf("seed %d: backwards they lead elsewhere (%v)", seed, err)
		}
		if len(Changes(a, a)) != 0 {
			t.Fatalf("seed %d: a quad differs from itself", seed)
		}
	}
}

func TestReconcile(t *testing.T) {
	base := sampleKnown().Meant()
	edit := func(p Path, value string) Edit { return Edit{Path: p, After: json.RawMessage(value)} }
	apply := func(edits ...Edit) Meant {
		m, err := Apply(base, edits)
		if err != nil {
			t.Fatal(err)
		}
		return m
	}
	now := apply(edit("sheet.motors.idle", "7"), edit("sheet.loss.guard", "2"), edit("sheet.motors.outputs.A", "null"))
	rows, err := Reconcile(base, now, []Edit{edit("sheet.motors.idle", "9"), edit("sheet.feel.angleLimit", "44"), edit("sheet.motors.outputs.A.reversed", "true")})
	if err != nil {
		t.Fatal(err)
	}
	byPath := map[Path]Disagreement{}
	for _, r := range rows {
		byPath[r.Path] = r
	}
	for _, c := range []struct {
		path         Path
		theirs, mine string
		why          string
	}{
		{"sheet.motors.idle", "7 %", "9 %", "both changed it"},
		{"sheet.loss.guard", "2 s", "", "only they did"},
		{"sheet.feel.angleLimit", Words(base.Sheet.Feel.AngleLimit, "deg"), "44°", "only I did"},
		{"sheet.motors.outputs.A", "nothing", "corner it drives " + base.Sheet.Motors.Outputs["A"].Corner.Words() + ", reversed in its speed controller yes, told of reversible thrust no, switching frequency 0 kHz, throttle trim 0 %, timing advance 0°", "they removed what I changed"},
	} {
		if r := byPath[c.path]; r.Theirs != c.theirs || r.Mine != c.mine {
			t.Errorf("%s, %s: %+v", c.path, c.why, r)
		}
	}
	if len(rows) != 4 {
		t.Errorf("%d places are apart, want 4: %+v", len(rows), rows)
	}
	// Choosing mine everywhere must give what I wanted on top of theirs.
	var put []Edit
	for _, r := range rows {
		if r.Put != nil {
			put = append(put, Edit{Path: r.Path, After: r.Put})
		}
	}
	got, err := Apply(now, put)
	if err != nil || got.Sheet.Motors.Idle != 9 || got.Sheet.Loss.Guard != 2 || !got.Sheet.Motors.Outputs["A"].Reversed {
		t.Errorf("mine everywhere gave %+v, %v", got.Sheet.Motors, err)
	}
}

// What is private is told apart without being shown.
func TestPrivateStaysOutOfDifferences(t *testing.T) {
	var a, b Meant
	a.Sheet.Link.Phrase, b.Sheet.Link.Phrase = "curlew at dawn", "Curlew at dawn"
	list := Compare(a, b)
	if len(list) != 1 || list[0].Words() != "Shared phrase: kept, not shown becomes another" {
		t.Errorf("a phrase that differs in case only: %+v", list)
	}
	if list = Compare(Meant{}, b); len(list) != 1 || list[0].Words() != "Shared phrase: nothing becomes kept, not shown" {
		t.Errorf("a new phrase: %+v", list)
	}
}
