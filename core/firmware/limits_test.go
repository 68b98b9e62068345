package firmware

import (
	"strings"
	"testing"
)

// What is just within a limit is read, what is one over is refused. The figures are those of the format, not of the code.
func TestListLimits(t *testing.T) {
	ends := func(text string, size int) []byte {
		comment := "#" + strings.Repeat("x", 400) + "\n"
		return []byte((text + strings.Repeat(comment, size/len(comment)+1))[:size])
	}
	for _, c := range []struct {
		name string
		raw  []byte
		want string
	}{
		{"2 MiB", ends("lean.limit = 500\n", 2<<20), "<nil>"},
		{"a byte more", ends("lean.limit = 500\n", 2<<20+1), "too-large "},
		{"a table of 2 MiB", ends("name,value\nlean.limit,500\n", 2<<20), "<nil>"},
		{"a byte more of a table", ends("name,value\nlean.limit,500\n", 2<<20+1), "too-large "},
		{"a line of 500 bytes", []byte("a = 1\nb = " + strings.Repeat("x", 496)), "<nil>"},
		{"20,001 lines", []byte(strings.Repeat("\n", 20_001) + "a = 1"), "too-large line 20001"},
		{"a NUL", []byte("a = 1\r\nb = \x00\r\n"), "not-text line 2"},
		{"bytes that are no letters", []byte("a = \xff\xfe\n"), "not-text line 1"},
		{"lone carriage returns", []byte("a = 1\nb = 2\rc = 3\r"), "not-text line 2"},
		{"a line of 501", []byte("a = 1\nb = " + strings.Repeat("x", 497)), "line-too-long line 2"},
		{"500 bytes in two columns", []byte("name,value\nb," + strings.Repeat("x", 499)), "<nil>"},
		{"501 in two columns", []byte("name,value\nb," + strings.Repeat("x", 500)), "line-too-long line 2"},
	} {
		if _, err := ReadList(c.raw); code(err) != c.want {
			t.Errorf("%s: %s, want %s", c.name, code(err), c.want)
		}
	}
}
