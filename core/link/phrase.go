package link

import (
	"crypto/pbkdf2"
	"crypto/sha256"
	"encoding/base32"
	"strings"
	"unicode"

	"vividperch/core/quad"
)

// Print of a binding phrase: four characters that two people can read to each other. Twenty bits tell two phrases apart once
// in a million and are too few to find a phrase by: a million others have the same. PBKDF2 with SHA-256, so that trying them
// out is slow besides.
func Print(phrase string) (quad.PhrasePrint, error) {
	if strings.TrimSpace(phrase) == "" {
		return quad.PhrasePrint{}, quad.Faultf("no-phrase", "", "there is no phrase to take a fingerprint of")
	}
	if quad.Longer(phrase, 200) {
		return quad.PhrasePrint{}, quad.Faultf("too-long", "", "no link takes a phrase of more than 200 characters")
	}
	loose := strings.Map(func(r rune) rune {
		if unicode.IsSpace(r) {
			return -1
		}
		return unicode.ToLower(r)
	}, phrase)
	return quad.PhrasePrint{Exact: short(phrase), Loose: short(loose)}, nil
}

func short(text string) string {
	key, err := pbkdf2.Key(sha256.New, text, []byte("Vivid Perch, binding phrase"), 4096, 3)
	if err != nil {
		panic(err) // its figures are ours
	}
	return base32.StdEncoding.EncodeToString(key)[:4]
}

// Likeness of two phrases by their fingerprints.
type Likeness string

const (
	Same      Likeness = "same"
	LooselySo Likeness = "loose" // they differ in capitals or spaces only
	Unlike    Likeness = "other"
)

// Alike compares two fingerprints.
func Alike(a, b quad.PhrasePrint) Likeness {
	switch {
	case a.Exact == b.Exact:
		return Same
	case a.Loose == b.Loose:
		return LooselySo
	}
	return Unlike
}
