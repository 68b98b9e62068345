package book

import (
	"bytes"
	"encoding/json"
	"slices"
	"strings"
	"testing"
	"time"

	"vividperch/core/quad"
)

var noon = time.Date(2026, 5, 4, 12, 0, 0, 0, time.UTC)

func sample(t testing.TB) Whole {
	t.Helper()
	var m quad.Meant
	m.Sheet.Link.Phrase = "curlew at dawn"
	m.Limits.Country = "<north & west>"
	body, err := quad.Canonical(m)
	if err != nil {
		t.Fatal(err)
	}
	return Whole{
		Quad: Quad{Name: "Dunlin", Words: "a wader", Head: 1, Edits: []quad.Edit{
			{Path: "sheet.link", Before: json.RawMessage(`{"inverted":false,"telemetry":false,"phrase":"curlew at dawn"}`), After: json.RawMessage(`{"inverted":true,"telemetry":false,"phrase":"godwit at dusk"}`)},
		}},
		Made:      noon,
		Revisions: []Revision{{Number: 1, Hash: quad.Hash(body), Why: "made", Who: "a pilot", At: noon, Body: body}},
		Entries: []Entry{
			{Kind: KindReading, Name: "readings.firstFlight.home", At: noon.Add(time.Hour), Body: json.RawMessage(`{"value":{"latitude":54.5,"longitude":8.25}}`)},
			{Kind: KindFlight, Name: "flight", At: noon.Add(2 * time.Hour), Body: json.RawMessage(`{"notes":"<b>"}`)},
		},
	}
}

func write(t testing.TB, w Whole, private bool) []byte {
	t.Helper()
	if !private {
		var err error
		if w, err = w.WithoutPrivate(); err != nil {
			t.Fatal(err)
		}
	}
	raw, err := NewArchive(w, nil).Write()
	if err != nil {
		t.Fatal(err)
	}
	return raw
}

func TestArchiveComesBack(t *testing.T) {
	for _, private := range []bool{true, false} {
		raw := write(t, sample(t), private)
		w, err := ReadArchive(raw)
		if err != nil {
			t.Fatalf("private %v: %v", private, err)
		}
		if again := write(t, w, private); !bytes.Equal(raw, again) {
			t.Errorf("private %v: came back different\n%s\n%s", private, raw, again)
		}
		for _, secret := range []string{"curlew", "godwit", "54.5"} {
			if bytes.Contains(raw, []byte(secret)) != private {
				t.Errorf("private %v, and %q is there: %v", private, secret, !private)
			}
		}
	}
}

func TestReadArchiveRefuses(t *testing.T) {
	sound := string(write(t, sample(t), true))
	for _, c := range []struct{ name, old, new, code, place string }{
		{"no archive", `"archive":"quad"`, `"archive":"boat"`, "no-archive", "archive"},
		{"newer", `"format":3`, `"format":4`, "newer-format", "format"},
		{"a name that is none", `"name":"Dunlin"`, `"name":""`, "bad-name", "name"},
		{"a head that is not there", `"head":1`, `"head":2`, "no-revision", "head"},
		{"changed content", `north`, `south`, "damaged", "revisions.0.hash"},
		{"an unknown kind", `"kind":"flight"`, `"kind":"wish"`, "unknown-kind", "entries.1.kind"},
		{"an unknown name", `"words"`, `"verses"`, "unknown-name", ""},
		{"the year 1", `2026-05-04T14`, `0001-05-04T14`, "bad-time", "entries.1.at"},
		{"text after its end", "}\n", "}\n{}", "not-json", ""},
	} {
		raw := strings.Replace(sound, c.old, c.new, 1)
		if raw == sound {
			t.Fatalf("%s: %q is not in the archive", c.name, c.old)
		}
		_, err := ReadArchive([]byte(raw))
		if f := quad.AsFault(err); f == nil || f.Code != c.code || c.place != "" && f.Place != c.place {
			t.Errorf("%s: %v, want %s at %s", c.name, err, c.code, c.place)
		}
	}
}

// What counts of the entries is the newest of each name; flights are left in the book.
func TestFileOfAWhole(t *testing.T) {
	w := sample(t)
	w.Entries = append(w.Entries,
		Entry{Kind: KindReading, Name: "readings.a", Body: json.RawMessage("1")}, Entry{Kind: KindEvent, Name: "crash", Body: json.RawMessage("1")},
		Entry{Kind: KindReading, Name: "readings.a", Body: json.RawMessage("2")}, Entry{Kind: KindEvent, Name: "crash", Body: json.RawMessage("2")})
	f := w.File()
	if len(f.Newest) != 3 || string(f.Newest[1].Body) != "2" || string(f.Newest[2].Body) != "2" {
		t.Errorf("newest %+v", f.Newest)
	}
	if got := w.Until(); !got.Equal(noon.Add(2 * time.Hour)) {
		t.Errorf("the newest thing is of %v", got)
	}
}

// Whatever is read can be written and read again, and says the same.
func FuzzReadArchive(f *testing.F) {
	f.Add(write(f, sample(f), true))
	f.Add(write(f, sample(f), false))
	f.Add([]byte(`{"archive":"quad","format":1,"name":"a","head":0,"revisions":[]}`))
	f.Fuzz(func(t *testing.T, raw []byte) {
		w, err := ReadArchive(raw)
		if err != nil {
			if quad.AsFault(err) == nil {
				t.Fatalf("%v is no sentence for a pilot", err)
			}
			return
		}
		first := write(t, w, true)
		back, err := ReadArchive(first)
		if err != nil {
			t.Fatalf("what was written is not read: %v", err)
		}
		if again := write(t, back, true); !bytes.Equal(first, again) {
			t.Fatalf("came back different\n%s\n%s", first, again)
		}
		w.File()
	})
}

// What an archive may hold: 32 MiB of 5 000 revisions, 50 000 entries and 20 dictionaries, and not one more.
func TestArchiveLimits(t *testing.T) {
	got := func(raw []byte) string {
		_, err := ReadArchive(raw)
		if f := quad.AsFault(err); f != nil {
			return f.Code
		}
		return ""
	}
	small := write(t, sample(t), true)
	for more, want := range map[int]string{0: "", 1: "too-large"} {
		if code := got(append(slices.Clone(small), bytes.Repeat([]byte(" "), 32<<20+more-len(small))...)); code != want {
			t.Errorf("%d bytes over: %q", more, code)
		}
		w := sample(t)
		for len(w.Entries) < 50_000+more {
			w.Entries = append(w.Entries, Entry{Kind: KindFlight, Name: "flight", At: noon, Body: json.RawMessage(`{}`)})
		}
		if code := got(write(t, w, true)); code != want {
			t.Errorf("%d entries over: %q", more, code)
		}
		w = sample(t)
		for i := len(w.Revisions) + 1; i <= 5_000+more; i++ {
			r := w.Revisions[0]
			r.Number, w.Quad.Head = i, i
			w.Revisions = append(w.Revisions, r)
		}
		if code := got(write(t, w, true)); code != want {
			t.Errorf("%d revisions over: %q", more, code)
		}
	}
}
