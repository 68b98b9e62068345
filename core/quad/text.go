package quad

import "unicode/utf8"

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
