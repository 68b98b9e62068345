package book_test

import (
	"math"
	"strings"
	"testing"
	"time"

	"vividperch/core/book"
	"vividperch/core/quad"
)

func TestWear(t *testing.T) {
	day := func(n int) time.Time { return time.Date(2026, 5, 1, 9, 0, 0, 0, time.UTC).AddDate(0, 0, n) }
	told := quad.Pack{Cells: 6, Capacity: 1300, Resistance: 20}
	m := func(n int, f book.PackMeasured) book.PackHealth {
		return book.PackHealth{At: day(n), PackMeasured: f}
	}
	withdrawn := m(60, book.PackMeasured{Resistance: 90})
	withdrawn.Withdrawn = "another pack"
	for _, c := range []struct {
		name         string
		told         quad.Pack
		health       []book.PackHealth // newest first
		retire, look bool
		says         string
	}{
		{"nothing measured", told, nil, false, false, ""},
		{"well", told, []book.PackHealth{m(9, book.PackMeasured{Resistance: 24, Spread: 8})}, false, false, "It is well."},
		{"half as much resistance again", told, []book.PackHealth{m(9, book.PackMeasured{Resistance: 31})}, false, true, "1.55 times"},
		{"twice the resistance", told, []book.PackHealth{m(9, book.PackMeasured{Resistance: 41})}, true, true, "Retire it. Its resistance is 2.05 times"},
		{"what was withdrawn does not count", told, []book.PackHealth{withdrawn, m(9, book.PackMeasured{Resistance: 24})}, false, false, "It is well."},
		{"by the first that was measured", quad.Pack{Cells: 6}, []book.PackHealth{m(90, book.PackMeasured{Resistance: 50}), m(1, book.PackMeasured{Resistance: 24})}, true, true, "2.08 times"},
		{"less in it", told, []book.PackHealth{m(9, book.PackMeasured{Capacity: 1000})}, false, true, "77 % of what it held"},
		{"much less in it", told, []book.PackHealth{m(9, book.PackMeasured{Capacity: 880})}, true, true, "68 %"},
		{"a weak cell", told, []book.PackHealth{m(9, book.PackMeasured{Spread: 120})}, true, true, "120 mV apart"},
		{"the newest spread", told, []book.PackHealth{m(9, book.PackMeasured{Spread: 9}), m(1, book.PackMeasured{Spread: 120})}, false, false, "It is well."},
		{"put away full", told, []book.PackHealth{m(9, book.PackMeasured{Stored: 4.18})}, false, true, "full it ages in days"},
		{"put away low", told, []book.PackHealth{m(9, book.PackMeasured{Stored: 3.55})}, false, true, "charge it to 3.8 V"},
		{"put away empty", told, []book.PackHealth{m(9, book.PackMeasured{Stored: 3.1})}, true, true, "harmed for good"},
		{"retired for the reason that retires", told, []book.PackHealth{m(9, book.PackMeasured{Resistance: 31, Spread: 130})}, true, true, "Retire it. Its cells are 130 mV"},
	} {
		got := book.Pack{Name: "grey", Told: c.told, Health: c.health}.Worn()
		if got.Retire != c.retire || got.Look != c.look || !strings.Contains(got.Words, c.says) || c.says == "" && got.Words != "" {
			t.Errorf("%s: %+v", c.name, got)
		}
	}

	if err := (book.Pack{Told: told}).Believes(book.PackMeasured{Capacity: 1900}); quad.AsFault(err) == nil || quad.AsFault(err).Code != "above-capacity" {
		t.Errorf("more than it holds: %v", err)
	}
	if err := (book.Pack{Told: told}).Believes(book.PackMeasured{Capacity: 1250}); err != nil {
		t.Error(err)
	}

	// Resistances that grow by a tenth of a milliohm a day are twice the first on a day that can be counted.
	grows := book.Pack{Told: told}
	for _, n := range []int{80, 60, 30, 0} {
		grows.Health = append(grows.Health, m(n, book.PackMeasured{Resistance: 20 + 0.1*float64(n)}))
	}
	if u := grows.Worn().Until; u == nil || !(math.Abs(u.Sub(day(200)).Hours()) <= 25) {
		t.Errorf("it retires %v, want about %v", u, day(200))
	}
	grows.Health = grows.Health[:2]
	if u := grows.Worn().Until; u != nil {
		t.Errorf("two measurements tell a day: %v", u)
	}
}
