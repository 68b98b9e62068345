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
