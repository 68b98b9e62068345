package firmware

import (
	"bytes"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"vividperch/core/quad"
)

// shaped is a list at random: blanks, comments, line ends, a mark before it, lines that save, settings twice.
func shaped(r *rand.Rand) string {
	end := []string{"\n", "\r\n"}[r.IntN(2)]
	out := []string{"", "\xef\xbb\xbf"}[r.IntN(2)]
	blank := func() string { return []string{"", " ", "  ", "\t"}[r.IntN(4)] }
	for i := range 3 + r.IntN(20) {
		switch r.IntN(7) {
		case 0:
			out += blank()
		case 1:
			out += blank() + "# board: HARRIER4 = 7"
		case 2:
			out += "save" + blank()
		default:
			out += blank() + fmt.Sprintf("some.name%d", i/2) + blank() + "=" + blank() + []string{"", "5", "on off", "1 = 2"}[r.IntN(4)] + blank() + []string{"", "# why, = 3"}[r.IntN(2)]
		}
		out += end
	}
	if r.IntN(3) == 0 {
		out = strings.TrimSuffix(out, end)
	}
	return out
}

// A list with nothing changed comes back byte by byte; with one setting changed exactly the lines that name it differ, and what is read then
// is what was read with that setting changed.
func TestListsComeBackAsTheyWere(t *testing.T) {
	r := rand.New(rand.NewPCG(16, 2))
	changed, grown := 0, 0
	for range 3000 {
		text := shaped(r)
		before, err := ReadList([]byte(text))
		if err != nil {
			t.Fatalf("%q: %v", text, err)
		}
		same := map[string]string{}
		for _, s := range before.Settings {
			same[s.Name] = s.Value // of one that is there twice the later
		}
		if got, err := EditList([]byte(text), nil); err != nil || string(got) != text {
			t.Fatalf("%q became %q, %v", text, got, err)
		}
		name, value := "quite.new", fmt.Sprint(r.IntN(1000)+10)
		if n := len(before.Settings); n > 0 && r.IntN(4) > 0 {
			name = before.Settings[r.IntN(n)].Name
		}
		got, err := EditList([]byte(text), map[string]string{name: value})
		if err != nil {
			t.Fatalf("%q: %v", text, err)
		}
		after, err := ReadList(got)
		if err != nil {
			t.Fatalf("%q became %q: %v", text, got, err)
		}
		want := map[string]string{}
		for k, v := range same {
			want[k] = v
		}
		want[name] = value
		is := map[string]string{}
		for _, s := range after.Settings {
			is[s.Name] = s.Value
		}
		if fmt.Sprint(is) != fmt.Sprint(want) || after.Saves != before.Saves {
			t.Fatalf("%q with %s = %s became %q", text, name, value, got)
		}
		if _, there := same[name]; !there {
			grown++
			continue
		}
		changed++
		a, b := strings.SplitAfter(text, "\n"), strings.SplitAfter(string(got), "\n")
		if len(a) != len(b) {
			t.Fatalf("%q became %q", text, got)
		}
		for i := range a {
			named := false
			for _, s := range before.Settings {
				named = named || s.Line == i+1 && s.Name == name && s.Value != value
			}
			if (a[i] != b[i]) != named {
				t.Fatalf("line %d: %q became %q", i+1, a[i], b[i])
			}
			if named {
				_, was, _ := strings.Cut(a[i], "#")
				_, comment, _ := strings.Cut(b[i], "#")
				if was != comment {
					t.Fatalf("the comment of %q became %q", a[i], b[i])
				}
			}
		}
	}
	if changed < 1000 || grown < 300 {
		t.Errorf("only %d changed and %d grew", changed, grown)
	}
}

func TestWhatCannotStandInAList(t *testing.T) {
	for _, set := range []map[string]string{{"a": "1 # 2"}, {"a": "1\n2"}, {"a=b": "1"}, {"": "1"}, {"a": " 1"}, {" a": "1"}} {
		if got, err := EditList([]byte("a = 1\n"), set); quad.AsFault(err) == nil {
			t.Errorf("%v: %q", set, got)
		}
	}
	if _, err := EditList([]byte("name,value\na,1\n"), map[string]string{"a": "2"}); quad.AsFault(err) == nil || quad.AsFault(err).Code != "a-table" {
		t.Errorf("a table: %v", err)
	}
	if _, err := EditList([]byte("nonsense\n"), nil); quad.AsFault(err) == nil {
		t.Error("a list that cannot be read was written")
	}
}

func FuzzEditList(f *testing.F) {
	f.Add([]byte("a = 1 # one\r\nsave\r\n"), "a", "2")
	f.Add([]byte("\xef\xbb\xbfa=\n"), "b", "")
	f.Fuzz(func(t *testing.T, text []byte, name, value string) {
		if got, err := EditList(text, nil); err == nil && !bytes.Equal(got, text) {
			t.Errorf("%q became %q", text, got)
		}
		got, err := EditList(text, map[string]string{name: value})
		if err != nil {
			return
		}
		list, err := ReadList(got)
		if err != nil {
			if quad.AsFault(err).Code == "line-too-long" || quad.AsFault(err).Code == "too-large" {
				return
			}
			t.Fatalf("%q became %q: %v", text, got, err)
		}
		for _, s := range list.Settings {
			if s.Name == name && s.Value != value {
				t.Errorf("%q with %q = %q reads %q", text, name, value, s.Value)
			}
		}
	})
}
