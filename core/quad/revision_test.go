package quad

import (
	"bytes"
	"encoding/json"
	"math"
	"math/rand/v2"
	"reflect"
	"strings"
	"testing"

	"github.com/goccy/go-yaml"
)

// randomMeant varies every leaf of a sample, with a seed.
func randomMeant(seed uint64) Meant {
	r := rand.New(rand.NewPCG(seed, 1))
	m := sampleKnown().Meant()
	for _, l := range Leaves(m, "") {
		raw, _ := json.Marshal(randomLeaf(r, l.Value))
		if err := Set(&m, l.Path, raw); err != nil {
			panic(err)
		}
	}
	return m
}

func TestCanonicalComesBackEqual(t *testing.T) {
	for seed := range uint64(200) {
		m := randomMeant(seed)
		raw, err := Canonical(m)
		if err != nil {
			t.Fatal(err)
		}
		back, err := ReadMeant(raw)
		if err != nil {
			t.Fatalf("seed %d: %v", seed, err)
		}
		again, _ := Canonical(back)
		if !bytes.Equal(raw, again) {
			t.Fatalf("seed %d: came back different\n%s\n%s", seed, raw, again)
		}
		yaml, err := writeYAML(m)
		if err != nil {
			t.Fatal(err)
		}
		var fromYAML Meant
		if err := ReadYAML(yaml, &fromYAML); err != nil {
			t.Fatalf("seed %d: YAML: %v\n%s", seed, err, yaml)
		}
		if c, _ := Canonical(fromYAML); !bytes.Equal(c, raw) {
			t.Fatalf("seed %d: YAML gives another quad", seed)
		}
	}
}

// The bytes of a format are what hashes were made from: within it they must never change.
func TestCanonicalIsPinned(t *testing.T) {
	raw, err := Canonical(Meant{Sheet: Sheet{Motors: MotorsSheet{Idle: 5.5}}})
	if err != nil {
		t.Fatal(err)
	}
	if !strings.HasPrefix(string(raw), `{"format":4,"sheet":{"firmware":{"line":"","version":"","target":""},"craft":{"layout":"","rotation":""},`) || !strings.Contains(string(raw), `"idle":5.5`) {
		t.Errorf("canonical form changed: %s", raw)
	}
	// From coreutils' sha256sum.
	if got := Hash([]byte("perch")); got != "87fb00d259cbcd67706332f118d16e7068661b5e99ba5bd41f7e9e60f96e6c34" {
		t.Errorf("hash is %s", got)
	}
}

func TestReadMeantRefuses(t *testing.T) {
	sound, _ := Canonical(randomMeant(1))
	edit := func(old, new string) []byte { return bytes.Replace(sound, []byte(old), []byte(new), 1) }
	for _, c := range []struct {
		name  string
		raw   []byte
		code  string
		place string
	}{
		{"a newer format", edit(`"format":4`, `"format":5`), "newer-format", "format"},
		{"no format", edit(`"format":4`, `"format":0`), "no-format", "format"},
		{"an unknown name", edit(`"layout"`, `"shape"`), "unknown-name", ""},
		{"a word that is none", edit(`"layout":"x"`, `"layout":"hexagon"`), "not-one-of", "sheet.craft.layout"},
		{"a wrong type", edit(`"layout":"x"`, `"layout":7`), "wrong-type", "sheet.craft.layout"},
		{"cut short", sound[:len(sound)/2], "bad-value", ""},
		{"text after its end", append(bytes.Clone(sound), 'x'), "not-json", ""},
		{"an item's name with a dot", edit(`"grey"`, `"gr.y"`), "bad-name", "parts.packs"},
	} {
		_, err := ReadMeant(c.raw)
		f := AsFault(err)
		if f == nil || f.Code != c.code || f.Place != c.place {
			t.Errorf("%s: got %+v, want %s at %q", c.name, err, c.code, c.place)
		}
	}
}

func TestReadYAMLRefusesWhatWouldFillTheMemory(t *testing.T) {
	var into Meant
	for name, raw := range map[string]string{
		"anchor":      "sheet: &a\n  craft: {}\n",
		"alias":       "sheet: {}\nparts: *a\n",
		"alias in []": "a: [*x, *x]\n",
	} {
		if f := AsFault(ReadYAML([]byte(raw), &into)); f == nil || f.Code != "anchor" {
			t.Errorf("%s: got %v", name, f)
		}
	}
	if f := AsFault(ReadYAML(make([]byte, 3<<20), &into)); f == nil || f.Code != "too-large" {
		t.Errorf("three megabytes: got %v", f)
	}
}

func TestNotFiniteIsAnError(t *testing.T) {
	m := randomMeant(1)
	m.Sheet.Motors.Idle = math.NaN()
	if _, err := Canonical(m); AsFault(err) == nil || AsFault(err).Code != "not-finite" {
		t.Errorf("got %v", err)
	}
	if HashValue(math.NaN()) == HashValue(0.0) {
		t.Error("a figure that is none must not look like zero")
	}
}

func TestCompareSaysWhatChanged(t *testing.T) {
	a := sampleKnown().Meant()
	b, err := Apply(a, []Edit{
		{Path: "sheet.motors.idle", After: json.RawMessage("6")},
		{Path: "sheet.motors.outputs.B.reversed", After: json.RawMessage("false")},
		{Path: "parts.packs.green", After: json.RawMessage(`{"cells":4,"mass":180}`)},
	})
	if err != nil {
		t.Fatal(err)
	}
	var got []string
	for _, d := range Compare(a, b) {
		got = append(got, d.Words())
	}
	want := []string{
		"Motor on output B, reversed in its speed controller: yes becomes no",
		"Idle throttle: 5.5 % becomes 6 %",
		"Pack green, cells: nothing becomes 4",
		"Pack green, mass: nothing becomes 180 g",
	}
	if !reflect.DeepEqual(got, want) {
		t.Errorf("got\n%s", strings.Join(got, "\n"))
	}
	if back := Compare(b, a); len(back) != len(want) {
		t.Errorf("the way back has %d differences", len(back))
	}
	if same := Compare(a, a); len(same) != 0 {
		t.Errorf("a quad differs from itself: %v", same)
	}
}

// Undoing is applying the edits' before values in the other direction.
func TestEditsCanBeTakenBack(t *testing.T) {
	m := sampleKnown().Meant()
	e, err := NewEdit(m, "sheet.motors.outputs.C.corner", json.RawMessage(`"rearRight"`))
	if err != nil {
		t.Fatal(err)
	}
	after, err := Apply(m, []Edit{e})
	if err != nil {
		t.Fatal(err)
	}
	if after.Sheet.Motors.Outputs["C"].Corner != RearRight || string(e.Before) != "null" {
		t.Errorf("after %+v, before %s", after.Sheet.Motors.Outputs, e.Before)
	}
	if _, err := NewEdit(m, "sheet.craft.layout", json.RawMessage(`"ring"`)); AsFault(err) == nil || AsFault(err).Place != "sheet.craft.layout" {
		t.Errorf("a word that is none became an edit: %v", err)
	}
	if _, err := Apply(m, []Edit{e, {Path: "no.path", After: json.RawMessage("1")}}); err == nil {
		t.Error("half of a list of edits was applied")
	}
}

func FuzzReadMeant(f *testing.F) {
	raw, _ := Canonical(randomMeant(3))
	yaml, _ := writeYAML(randomMeant(4))
	f.Add(raw)
	f.Add(yaml)
	f.Add([]byte("sheet: {craft: {layout: x}}"))
	f.Add([]byte("{"))
	f.Fuzz(func(t *testing.T, raw []byte) {
		if m, err := ReadMeant(raw); err == nil {
			if _, err := Canonical(m); err != nil {
				t.Errorf("what was read cannot be written: %v", err)
			}
		}
		var m Meant
		if err := ReadYAML(raw, &m); err != nil && AsFault(err) == nil {
			t.Errorf("%v is not a fault", err)
		}
	})
}

// 2 MiB are read, a byte more is not.
func TestYAMLLimit(t *testing.T) {
	const text = "target: X\n"
	for more, want := range map[int]string{0: "", 1: "too-large"} {
		var into struct {
			Target string `json:"target"`
		}
		got := ""
		if f := AsFault(ReadYAML([]byte(text+strings.Repeat("\n", 2<<20+more-len(text))), &into)); f != nil {
			got = f.Code
		}
		if got != want || want == "" && into.Target != "X" {
			t.Errorf("%d over: %q, %+v", more, got, into)
		}
	}
}

// writeYAML writes a value as YAML with the names of its JSON.
func writeYAML(value any) ([]byte, error) {
	raw, err := json.Marshal(value)
	if err != nil {
		return nil, Faultf("not-finite", "", "holds a figure that is not a number: %v", err)
	}
	return yaml.JSONToYAML(raw)
}
