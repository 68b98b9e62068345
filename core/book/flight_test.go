package book

import (
	"testing"

	"vividperch/core/quad"
)

// A typing error is refused at its place with the reason; what can be is taken, and what is not known refuses nothing.
func TestBelievable(t *testing.T) {
	four := quad.Pack{Cells: 4, Capacity: 1300}
	at := func(x float64) *float64 { return &x }
	for _, c := range []struct {
		name          string
		pack          quad.Pack
		drawn, lowest *float64
		place         string
	}{
		{"as it was flown", four, at(980), at(14.1), ""},
		{"drawn empty, and a little more than it says", four, at(1690), nil, ""},
		{"a digit too many", four, at(1691), nil, "drawn"},
		{"charged as high as any", four, nil, at(18), ""},
		{"the voltage of another pack", four, nil, at(18.1), "lowest"},
		{"nothing told", four, nil, nil, ""},
		{"nothing known of the pack", quad.Pack{}, at(99999), at(50), ""},
	} {
		got := ""
		if f := quad.AsFault(Believable(c.pack, c.drawn, c.lowest)); f != nil {
			got = f.Place
		}
		if got != c.place {
			t.Errorf("%s: refused at %q, want %q", c.name, got, c.place)
		}
	}
}
