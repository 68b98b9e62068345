package quad

import (
	"encoding/json"
	"go/ast"
	"go/parser"
	"go/token"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"
)

// constantsOf the package, by the name of their type.
func constantsOf(t *testing.T) map[string][]string {
	t.Helper()
	out := map[string][]string{}
	f, err := parser.ParseFile(token.NewFileSet(), "words.go", nil, 0)
	if err != nil {
		t.Fatal(err)
	}
	ast.Inspect(f, func(n ast.Node) bool {
		x, ok := n.(*ast.ValueSpec)
		if !ok {
			return true
		}
		if name, ok := x.Type.(*ast.Ident); ok {
			for _, v := range x.Values {
				if lit, ok := v.(*ast.BasicLit); ok {
					word, _ := strconv.Unquote(lit.Value)
					out[name.Name] = append(out[name.Name], word)
				}
			}
		}
		return true
	})
	return out
}

// Every leaf of an enumerated type offers exactly the constants of that type, in its schema and where it is typed, and each word can be said.
func TestEnumerationsOfferTheirConstants(t *testing.T) {
	constants := constantsOf(t)
	seen := map[string]bool{}
	for _, s := range Shape() {
		name := s.Type.Name()
		want, enumerated := constants[name]
		if name == "HotMotor" {
			want = append(slices.Clone(want), constants["Corner"]...) // a corner, or none
			want = append(want, string(HotNone))
			slices.Sort(want)
			want = slices.Compact(want)
		}
		if !enumerated {
			if len(s.OneOf) > 0 {
				t.Errorf("%s offers %v, which are no constants", s.Path, s.OneOf)
			}
			continue
		}
		seen[name] = true
		got := slices.Clone(s.OneOf)
		slices.Sort(got)
		slices.Sort(want)
		if !slices.Equal(got, want) {
			t.Errorf("%s offers %v, %s has %v", s.Path, got, name, want)
		}
		said := map[string]bool{}
		for _, w := range s.OneOf {
			words := Spelled(w)
			if words == "" || words != strings.ToLower(words) || said[words] {
				t.Errorf("%s: %q is said as %q", s.Path, w, words)
			}
			said[words] = true
		}
	}
	for name := range constants {
		if !seen[name] && !slices.Contains([]string{"Axis", "LossOutput", "MotorsStop", "Spin", "Corner"}, name) {
			t.Errorf("no leaf is a %s", name)
		}
	}
}

// What may stand for a reading and what not, each with the word that refuses it.
func TestAdmit(t *testing.T) {
	for _, c := range []struct{ path, value, want string }{
		{"readings.motors.hot", `"rearLeft"`, ""},
		{"readings.motors.hot", `"none"`, ""},
		{"readings.motors.hot", `"banana"`, "not-one-of"},
		{"readings.motors.hot", `""`, "not-one-of"},
		{"readings.motors.hot", `7`, "wrong-type"},
		{"readings.airframe.weight", `1`, ""},
		{"readings.airframe.weight", `30000`, ""},
		{"readings.airframe.weight", `0.99`, "out-of-range"},
		{"readings.airframe.weight", `30000.1`, "out-of-range"},
		{"readings.airframe.weight", `0`, "out-of-range"},
		{"readings.airframe.weight", `1e999`, "wrong-type"},
		{"readings.airframe.weight", `null`, "missing"},
		{"readings.airframe.weight", `720 1`, "not-json"},
		{"readings.airframe.clear", `true`, ""},
		{"readings.airframe.clear", `"yes"`, "wrong-type"},
		{"readings.airframe", `{}`, "not-a-reading"},
		{"sheet.motors.idle", `5`, "not-a-reading"},
		{"readings.nothing", `5`, "unknown-path"},
		{"readings.motors.outputs.A", `{"corner":"rearLeft","spin":"clockwise"}`, ""},
		{"readings.motors.outputs.A", `{"corner":"rearLeft"}`, "missing"},
		{"readings.motors.outputs.A", `{"corner":"rearLeft","spin":"upwards"}`, "not-one-of"},
		{"readings.motors.outputs.A", `{"corner":"rearLeft","spin":"clockwise","colour":"red"}`, "unknown-name"},
		{"readings.motors.outputs." + strings.Repeat("é", 40), `{"corner":"rearLeft","spin":"clockwise"}`, ""},
		{"readings.motors.outputs." + strings.Repeat("é", 41), `{"corner":"rearLeft","spin":"clockwise"}`, "bad-name"},
		{"readings.motors.starts.A", `{"starts":3,"stops":2}`, ""},
		{"readings.motors.starts.A", `{"starts":3,"stops":2,"backStarts":100.1,"backStops":3}`, "out-of-range"},
		{"readings.motors.starts.A", `{"starts":3,"stops":101}`, "out-of-range"},
		{"readings.sticks.axes.roll", `{"channel":1,"ends":{"low":1000,"centre":1500,"high":2000}}`, ""},
		{"readings.sticks.axes.rollover", `{"channel":1,"ends":{"low":1000,"centre":1500,"high":2000}}`, "unknown-path"},
		{"readings.sticks.axes.roll", `{"channel":19,"ends":{"low":1000,"centre":1500,"high":2000}}`, "out-of-range"},
		{"readings.sticks.axes.roll", `{"channel":1.5,"ends":{"low":1000,"centre":1500,"high":2000}}`, "wrong-type"},
		{"readings.sticks.switches.left", `{"channel":5,"positions":{"up":1000}}`, ""},
		{"readings.sticks.switches.left", `{"channel":5,"positions":{"up":3001}}`, "out-of-range"},
		{"readings.sticks.switches.left", `{"channel":5,"positions":{"":1000}}`, "bad-name"},
		{"readings.firstFlight.propellers.frontLeft", `{"hand":"clockwise","packOut":true}`, ""},
		{"readings.firstFlight.propellers.frontLeft", `"clockwise"`, ""}, // as it was kept before
		{"readings.firstFlight.propellers.middle", `{"hand":"clockwise","packOut":true}`, "unknown-path"},
		{"readings.loss.response", `{"motors":"stopped","after":600}`, ""},
		{"readings.loss.response", `{"motors":"stopped","after":600.5}`, "out-of-range"},
		{"readings.loss.response", `{"motors":"stopped"}`, "missing"},
		{"readings.loss.response", `{"motors":"neverStopped"}`, ""},
		{"readings.loss.response", `1.2`, ""},
		{"readings.firmware.identity", `{"target":"` + strings.Repeat("x", 200) + `","line":"a","version":"1"}`, ""},
		{"readings.firmware.identity", `{"target":"` + strings.Repeat("x", 201) + `","line":"a","version":"1"}`, "too-long"},
	} {
		got := ""
		if f := AsFault(Admit(Path(c.path), []byte(c.value))); f != nil {
			got = f.Code
		}
		if got != c.want {
			t.Errorf("%s = %.60s: %q, want %q", c.path, c.value, got, c.want)
		}
	}
}

// Whatever is brought, the gate answers with a sentence or lets through what can be put into what is known and written again.
func FuzzAdmit(f *testing.F) {
	for _, s := range Shape() {
		if s.Read {
			f.Add(strings.ReplaceAll(string(s.Path), "*", "A"), `{"corner":"rearLeft","spin":"clockwise"}`)
			f.Add(strings.ReplaceAll(string(s.Path), "*", "roll"), "1")
		}
	}
	f.Fuzz(func(t *testing.T, path, value string) {
		err := Admit(Path(path), []byte(value))
		if err != nil {
			if AsFault(err) == nil || AsFault(err).Sentence == "" {
				t.Errorf("%q = %q: %v", path, value, err)
			}
			return
		}
		var k Known
		if err := Enter(&k, Path(path), []byte(value), time.Unix(0, 0)); err != nil {
			t.Errorf("%q = %q is admitted and does not fit: %v", path, value, err)
		}
		if _, err := json.Marshal(k); err != nil {
			t.Errorf("%q = %q cannot be written again: %v", path, value, err)
		}
	})
}
