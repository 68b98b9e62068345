package app_test

import (
	"encoding/json"
	"testing"

	"vividperch/core/book"
	"vividperch/core/check"
	"vividperch/core/proof"
	"vividperch/core/quad"
)

// What an earlier program kept of the level as two readings counts as one, and a proof that relied on the two stands for as long as they are
// what it relied on.
func TestReadingsOfAnEarlierProgramUnraced(t *testing.T) {
	t.Parallel()
	onlyUnraced(t)
	for _, x := range []struct {
		name        string
		roll, pitch string
		state       proof.State
		shown       string
		old         int
	}{
		{"as it was signed", "0.1", "-0.1", proof.Proven, "roll 0.1°, pitch -0.1°", 0},
		{"measured anew after it was signed", "0.1", "0.2", proof.Stale, "roll 0.1°, pitch 0.2°", 0},
		{"of one way alone", "0.1", "", proof.Stale, "", 1},
	} {
		t.Run(x.name, func(t *testing.T) {
			w := newWorld(t)
			id := w.signed()
			file, err := w.keep.Load(t.Context(), w.pilot, id)
			if err != nil {
				t.Fatal(err)
			}
			var signature proof.Signature
			for _, e := range file.Newest {
				if e.Kind == book.KindSignature && e.Name == string(check.Senses) {
					if err := json.Unmarshal(e.Body, &signature); err != nil {
						t.Fatal(err)
					}
				}
			}
			delete(signature.Relied, "readings.senses.level")
			signature.Relied["readings.senses.levelRoll"] = quad.HashValue(0.1)
			signature.Relied["readings.senses.levelPitch"] = quad.HashValue(-0.1)
			keep := func(kind, name string, body any) {
				t.Helper()
				raw, err := json.Marshal(body)
				if err != nil {
					t.Fatal(err)
				}
				if _, _, err := w.keep.Act(t.Context(), w.pilot, id, book.Change{Entries: []book.Entry{{Kind: kind, Name: name, Body: raw, At: w.now}}}); err != nil {
					t.Fatal(err)
				}
			}
			keep(book.KindReading, "readings.senses.level", map[string]any{"withdrawal": book.Withdrawal{At: w.now}})
			for name, value := range map[string]string{"levelRoll": x.roll, "levelPitch": x.pitch} {
				if value != "" {
					keep(book.KindReading, "readings.senses."+name, map[string]any{"value": json.RawMessage(value), "origin": quad.OriginTyped, "at": w.now, "revision": 1})
				}
			}
			keep(book.KindSignature, string(check.Senses), signature)

			if got := w.reading(id, check.Senses, "readings.senses.level"); got != x.shown {
				t.Errorf("it shows %q, want %q", got, x.shown)
			}
			if got := w.state(id, check.Senses); got != x.state {
				t.Errorf("Senses is %s, want %s", got, x.state)
			}
			if got := len(w.view(id).Line[check.Senses.Number()-1].Old); got != x.old {
				t.Errorf("%d readings no longer fit, want %d", got, x.old)
			}
		})
	}
}
