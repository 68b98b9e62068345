package quad

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"io"
	"reflect"
	"strings"

	"github.com/goccy/go-yaml"
)

// Format is the number of the canonical form that this program writes. Older ones are upgraded on reading.
const Format = 4

type envelope struct {
	Format int `json:"format"`
	Meant
}

// Canonical writes what is meant as one line of JSON: fields in declaration order, map items by key, every
// default written out, the format number first. Equal content gives equal bytes. A figure that is not
// finite is an error.
func Canonical(m Meant) ([]byte, error) {
	raw, err := json.Marshal(envelope{Format: Format, Meant: m})
	if err != nil {
		return nil, Faultf("not-finite", "", "holds a figure that is not a number: %v", err)
	}
	return raw, nil
}

// Hash is the SHA-256 of canonical bytes, in hexadecimal.
func Hash(canonical []byte) string {
	sum := sha256.Sum256(canonical)
	return hex.EncodeToString(sum[:])
}

// HashValue fingerprints one value (a leaf or a subtree) through its JSON.
func HashValue(value any) string {
	raw, err := json.Marshal(value)
	if err != nil {
		// Only a non-finite figure gets here; it must differ from every finite one.
		raw = []byte(fmt.Sprintf("%#v", value))
	}
	return Hash(raw)[:16]
}

// ReadMeant decodes canonical bytes of this format or an older one.
func ReadMeant(raw []byte) (Meant, error) {
	raw, err := upgraded(raw)
	if err != nil {
		return Meant{}, err
	}
	var e envelope
	if err := ReadJSON(raw, &e); err != nil {
		f := AsFault(err)
		return Meant{}, Faultf(f.Code, strings.TrimPrefix(f.Place, "Meant."), "%s", f.Sentence) // the embedded type's name is ours
	}
	return e.Meant, e.Meant.Valid()
}

// ReadJSON decodes strictly: an unknown name, a wrong type or trailing text is a Fault at its place.
func ReadJSON(raw []byte, into any) error {
	dec := json.NewDecoder(bytes.NewReader(raw))
	dec.DisallowUnknownFields()
	if err := dec.Decode(into); err != nil {
		return DecodeFault(err, "")
	}
	if _, err := dec.Token(); err != io.EOF {
		return Faultf("not-json", "", "has text after its end")
	}
	return nil
}

// ReadYAML decodes YAML or JSON, as strictly as ReadJSON. Input over 2 MB is refused.
func ReadYAML(raw []byte, into any) error {
	if len(raw) > 2<<20 {
		return Faultf("too-large", "", "is larger than 2 MB")
	}
	if trimmed := bytes.TrimSpace(raw); len(trimmed) > 0 && trimmed[0] == '{' {
		return ReadJSON(raw, into)
	}
	if err := aliasBomb(raw); err != nil {
		return err
	}
	if err := oneDocument(raw); err != nil {
		return err
	}
	converted, err := yaml.YAMLToJSON(raw)
	if err != nil {
		sentence, _, _ := strings.Cut(yaml.FormatError(err, false, false), "\n")
		return Faultf("not-yaml", "", "cannot be read as YAML: %s", sentence)
	}
	return ReadJSON(converted, into)
}

// oneDocument refuses a second one: only the first would be read, and nobody would know.
func oneDocument(raw []byte) error {
	begun := false
	for i, line := range bytes.Split(raw, []byte("\n")) {
		told := bytes.TrimSpace(line)
		switch {
		case len(told) == 0 || told[0] == '#':
		case bytes.HasPrefix(line, []byte("---")) && (len(told) == 3 || isBlank(line[3])):
			if begun {
				return Faultf("two-documents", fmt.Sprintf("line %d", i+1), "begins a second document; one file holds one")
			}
			begun = len(told) > 3
		default:
			begun = true
		}
	}
	return nil
}

func isBlank(b byte) bool { return b == ' ' || b == '\t' || b == '\r' }

// aliasBomb refuses anchors: nothing we write uses them, and a few nested ones fill any memory.
func aliasBomb(raw []byte) error {
	for i, line := range bytes.Split(raw, []byte("\n")) {
		_, value, _ := bytes.Cut(line, []byte(":"))
		value = bytes.TrimLeft(value, " -[{")
		bare := bytes.TrimLeft(line, " -[{")
		for _, part := range [][]byte{value, bare} {
			if len(part) > 1 && (part[0] == '*' || part[0] == '&') {
				return Faultf("anchor", fmt.Sprintf("line %d", i+1), "uses an anchor or alias, which sheets do not")
			}
		}
	}
	return nil
}

// Valid checks that enumerated leaves hold one of their words (or nothing), and that what nobody told holds nothing.
func (m Meant) Valid() error {
	if err := validEnums(reflect.ValueOf(m), ""); err != nil {
		return err
	}
	return m.Sheet.validGaps()
}

func validEnums(v reflect.Value, at Path) error {
	switch v.Kind() {
	case reflect.String:
		if words := wordsOf(v.Type()); len(words) > 0 {
			return oneOf(v.String(), words, at)
		}
	case reflect.Struct:
		if v.Type() == timeType {
			return nil
		}
		for i := range v.NumField() {
			if err := validEnums(v.Field(i), join(at, Path(jsonName(v.Type().Field(i))))); err != nil {
				return err
			}
		}
	case reflect.Map:
		for it := v.MapRange(); it.Next(); {
			key := it.Key().String()
			if err := itemName(key, at); err != nil {
				return err
			}
			if err := validEnums(it.Value(), join(at, Path(key))); err != nil {
				return err
			}
		}
	}
	return nil
}

func oneOf(value string, words []string, at Path) error {
	if value == "" {
		return nil
	}
	for _, w := range words {
		if w == value {
			return nil
		}
	}
	return Faultf("not-one-of", string(at), "is %q, but must be one of %s", Clip(value, 40), strings.Join(words, ", "))
}
