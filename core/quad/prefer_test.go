package quad

import (
	"fmt"
	"math"
	"strings"
	"testing"
)

// Masses and lengths in words are shown as a pilot wants them; everything else, and what is compound, stays.
func TestReword(t *testing.T) {
	imperial := Shows{Mass: Ounces, Length: Inches}
	for _, c := range []struct {
		shows    Shows
		in, want string
	}{
		{imperial, "It weighs 712 g.", "It weighs 25.1 oz."}, // 28.3495 g are one avoirdupois ounce
		{imperial, "127 mm against 76.2 mm", "5 in against 3 in"},
		{imperial, "from 25.4 to 50.8 mm, or more", "from 1 to 2 in, or more"},
		{imperial, "-12.7 mm", "-0.5 in"},
		{imperial, "lifts 680.4 g", "lifts 24 oz"},
		{imperial, "an imbalance of 12 g·mm, 3 g/W, 40 mm² and 9 mm³", "an imbalance of 12 g·mm, 3 g/W, 40 mm² and 9 mm³"},
		{imperial, "5 grey packs, 8 mmol and 4 gates", "5 grey packs, 8 mmol and 4 gates"},
		{imperial, "23.9 V, 60 A, 1000 µF, 5 in", "23.9 V, 60 A, 1000 µF, 5 in"},
		{Shows{Length: Inches}, "712 g and 127 mm", "712 g and 5 in"},
		{Shows{Mass: Ounces}, "712 g and 127 mm", "25.1 oz and 127 mm"},
		{Shows{}, "712 g and 127 mm", "712 g and 127 mm"},
		{Shows{Mass: Grams, Length: Millimetres}, "712 g", "712 g"},
		{imperial, "", ""},
	} {
		if got := c.shows.Reword(c.in); got != c.want {
			t.Errorf("%q in %v is %q, wanted %q", c.in, c.shows, got, c.want)
		}
	}
}

// Whatever figure is shown in another unit is the same again when a pilot types it like that, to three digits.
func TestRewordedFiguresAreTypedBack(t *testing.T) {
	imperial := Shows{Mass: Ounces, Length: Inches}
	for _, unit := range []string{"g", "mm"} {
		for x := 0.13; x < 30_000; x *= 1.37 {
			shown := imperial.Reword(fmt.Sprintf("%s %s", Number(x), unit))
			back, err := ParseQuantity(shown, unit)
			if err != nil || !(math.Abs(back-x) <= 0.006*x) {
				t.Fatalf("%v %s is shown as %q, typed back %v, %v", x, unit, shown, back, err)
			}
		}
	}
}

func TestScales(t *testing.T) {
	if got := (Shows{}).Scale("g"); got != (Scale{"g", 1}) {
		t.Errorf("as it is kept: %+v", got)
	}
	// The avoirdupois ounce and the inch, by definition.
	if got := (Shows{Mass: Ounces, Length: Inches}); got.Scale("g") != (Scale{"oz", 28.349523125}) || got.Scale("mm") != (Scale{"in", 25.4}) {
		t.Errorf("%+v, %+v", got.Scale("g"), got.Scale("mm"))
	}
}

func FuzzReword(f *testing.F) {
	for _, s := range []string{"712 g", "5 to 8 mm", "9 mm²", "1e9 g", "- 4 g", "0.0 mm.", "g", "99999999999999999999999999 g"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		got := Shows{Mass: Ounces, Length: Inches}.Reword(s)
		if !strings.ContainsAny(s, "0123456789") && got != s {
			t.Errorf("%q has no figure and became %q", s, got)
		}
		if strings.Contains(got, "NaN") && !strings.Contains(s, "NaN") {
			t.Errorf("%q became %q", s, got)
		}
	})
}
