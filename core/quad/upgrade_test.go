package quad

import (
	"bytes"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"testing"
)

// Every format that was ever written is read, and gives what is kept beside it as the newest. The files of
// older formats were written by the programs of their time and are never written again; the .newest ones are,
// with PERCH_WRITE_GOLDEN=1, after a look at the difference.
func TestEveryFormatIsRead(t *testing.T) {
	for format := 1; format < Format; format++ {
		files, err := filepath.Glob(filepath.Join("testdata", "formats", fmt.Sprintf("format-%d.*.json", format)))
		if err != nil || len(files) == 0 {
			t.Errorf("format %d has no golden file: %v", format, err)
		}
		for _, file := range files {
			raw, err := os.ReadFile(file)
			if err != nil {
				t.Fatal(err)
			}
			m, err := ReadMeant(raw)
			if err != nil {
				t.Errorf("%s: %v", file, err)
				continue
			}
			got, err := Canonical(m)
			if err != nil {
				t.Fatal(err)
			}
			golden := file[:len(file)-len(".json")] + ".newest"
			if os.Getenv("PERCH_WRITE_GOLDEN") != "" {
				if err := os.WriteFile(golden, append(got, '\n'), 0o600); err != nil {
					t.Fatal(err)
				}
			}
			want, err := os.ReadFile(golden)
			if err != nil || !bytes.Equal(bytes.TrimSpace(want), got) {
				t.Errorf("%s became %s, want %s (%v)", file, got, want, err)
			}
			unchanged(t, file, raw, got)
		}
	}
}

// unchanged holds that an upgrade alters nothing that was there: it may only add, so no proof falls by it.
// It compares as plain JSON, without the types that the upgrade goes through.
func unchanged(t *testing.T, name string, before, after []byte) {
	t.Helper()
	var a, b map[string]any
	if json.Unmarshal(before, &a) != nil || json.Unmarshal(after, &b) != nil {
		t.Fatalf("%s is no JSON", name)
	}
	delete(a, "format")
	var compare func(at string, a, b any)
	compare = func(at string, a, b any) {
		if group, ok := a.(map[string]any); ok {
			other, ok := b.(map[string]any)
			if !ok {
				t.Errorf("%s: %s is no group any more", name, at)
				return
			}
			for key, value := range group {
				compare(at+"."+key, value, other[key])
			}
			return
		}
		if fmt.Sprint(a) != fmt.Sprint(b) {
			t.Errorf("%s: %s was %v and became %v", name, at, a, b)
		}
	}
	compare("", a, b)
}

func TestUpgradeLeavesNonsenseToDecoding(t *testing.T) {
	for _, raw := range []string{`{"format":1,"sheet":3}`, `{"format":1,"sheet":{"link":[]},"limits":"x"}`, `{"format":1.5}`, `{"format":-3}`, `{"format":"1"} {"format":1}`, `[1]`, `{"format":1}{}`} {
		if _, err := ReadMeant([]byte(raw)); err == nil {
			t.Errorf("%s was read", raw)
		} else if AsFault(err) == nil {
			t.Errorf("%s: %v is no sentence for a pilot", raw, err)
		}
	}
}
