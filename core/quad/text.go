package quad

import (
	"strings"
	"unicode/utf8"
)

// Longer says whether a text has more than so many characters, as a reader counts them.
func Longer(s string, most int) bool { return utf8.RuneCountInString(s) > most }

// Clip a text to so many characters, for a sentence.
func Clip(s string, most int) string {
	n := 0
	for at := range s {
		if n++; n > most {
			return s[:at] + "…"
		}
	}
	return s
}

// Count of things in words: "1 cell", "4 cells".
func Count(n int, one, more string) string {
	if n == 1 {
		return "1 " + one
	}
	return Number(float64(n)) + " " + more
}

// And joins the members of a list as a sentence does: "A, B and C".
func And(list []string) string {
	if len(list) < 2 {
		return strings.Join(list, "")
	}
	return strings.Join(list[:len(list)-1], ", ") + " and " + list[len(list)-1]
}

// Upper begins with a capital.
func Upper(s string) string {
	if s == "" {
		return s
	}
	first, size := utf8.DecodeRuneInString(s)
	return strings.ToUpper(string(first)) + s[size:]
}

// Sentence begins with a capital and ends with a full stop.
func Sentence(words string) string { return Upper(strings.TrimSuffix(words, ".")) + "." }
