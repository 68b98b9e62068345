package book_test

import (
	"testing"

	"vividperch/core/book"
	"vividperch/core/quad"
)

// Of each figure the newest measurement that counts is the pack's; what was never measured stays as it was told.
func TestPackNow(t *testing.T) {
	measured := func(why string, m book.PackMeasured) book.PackHealth {
		return book.PackHealth{PackMeasured: m, Withdrawn: why}
	}
	p := book.Pack{Told: quad.Pack{Cells: 6, Capacity: 1300, Discharge: 120, Resistance: 18, Mass: 215}, Health: []book.PackHealth{
		measured("another pack's", book.PackMeasured{Resistance: 90, Mass: 400}),
		measured("", book.PackMeasured{Spread: 12}),
		measured("", book.PackMeasured{Resistance: 31}),
		measured("", book.PackMeasured{Resistance: 24, Capacity: 1190}),
	}}
	if got, want := p.Now(), (quad.Pack{Cells: 6, Capacity: 1190, Discharge: 120, Resistance: 31, Mass: 215}); got != want {
		t.Errorf("now %+v, want %+v", got, want)
	}
}

// Figures that no pack has are refused, with their place; so is a measurement of nothing.
func TestPackMeasured(t *testing.T) {
	for _, c := range []struct {
		m     book.PackMeasured
		place string
	}{
		{book.PackMeasured{Resistance: 22, Capacity: 1250, Spread: 8, Mass: 214}, ""},
		{book.PackMeasured{Spread: 3000}, ""},
		{book.PackMeasured{Spread: 3001}, "spread"},
		{book.PackMeasured{Spread: -1}, "spread"},
		{book.PackMeasured{Resistance: 2001}, "parts.packs.one.resistance"},
		{book.PackMeasured{Capacity: -5}, "parts.packs.one.capacity"},
		{book.PackMeasured{Mass: 15001}, "parts.packs.one.mass"},
	} {
		err := c.m.Check()
		if f := quad.AsFault(err); (f == nil) != (c.place == "") || f != nil && f.Place != c.place {
			t.Errorf("%+v: %v", c.m, err)
		}
	}
	if f := quad.AsFault((book.PackMeasured{}).Check()); f == nil || f.Code != "nothing-measured" {
		t.Errorf("nothing measured: %v", f)
	}
}

// A quad's copy differs in what the pack tells otherwise, and takes just that.
func TestPackDifferences(t *testing.T) {
	pack := quad.Pack{Cells: 6, Capacity: 1190, Resistance: 31} // nobody told its rating and its mass
	copied := quad.Pack{Cells: 6, Capacity: 1300, Discharge: 120, Mass: 215}
	var got []string
	for _, d := range book.Differences(pack, copied) {
		got = append(got, d.Label+": "+d.Copy+" here, "+d.Pack)
	}
	if want := []string{"Capacity: 1300 mAh here, 1190 mAh", "Internal resistance: not told here, 31 mΩ"}; len(got) != 2 || got[0] != want[0] || got[1] != want[1] {
		t.Errorf("differences %q, want %q", got, want)
	}
	taken, err := book.Taken(pack, copied)
	if want := (quad.Pack{Cells: 6, Capacity: 1190, Discharge: 120, Resistance: 31, Mass: 215}); err != nil || taken != want {
		t.Errorf("taken %+v, want %+v, %v", taken, want, err)
	}
	if left := book.Differences(pack, taken); len(left) != 0 {
		t.Errorf("still different: %v", left)
	}
}
