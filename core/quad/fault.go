package quad

import (
	"errors"
	"fmt"
)

// Fault is an error a pilot can act on: a stable code, the place it was found (a path, a line, a setting
// name) and one plain sentence.
type Fault struct {
	Code     string `json:"code"`
	Place    string `json:"place,omitempty"`
	Sentence string `json:"sentence"`
}

func (f *Fault) Error() string {
	if f.Place == "" {
		return f.Sentence
	}
	return f.Place + ": " + f.Sentence
}

// Faultf builds a Fault with a formatted sentence.
func Faultf(code, place, format string, args ...any) *Fault {
	return &Fault{Code: code, Place: place, Sentence: fmt.Sprintf(format, args...)}
}

// AsFault finds the Fault in an error chain, or nil.
func AsFault(err error) *Fault {
	var f *Fault
	if errors.As(err, &f) {
		return f
	}
	return nil
}

// Explain an error to a pilot in a sentence. A place of the quad is called what it is called everywhere; one in a file or a list stands
// as it is.
func Explain(err error) string {
	f := AsFault(err)
	if f == nil {
		return Sentence(err.Error())
	}
	at := f.Place
	if field, err := FieldAt(Path(at)); err == nil {
		at = field.Label
	}
	if at == "" {
		return Sentence(f.Sentence)
	}
	return Sentence(at + ": " + f.Sentence)
}
