package quad

import (
	"math"
	"testing"
)

func TestParseQuantity(t *testing.T) {
	for _, c := range []struct {
		text, unit string
		want       float64
	}{
		{"5 in", "mm", 127}, // the inch is 25.4 mm by definition
		{"127 mm", "mm", 127},
		{"127", "mm", 127},
		{"1.2 k", "Ω", 1200},
		{"1,2 kΩ", "Ω", 1200}, // a comma before the decimals
		{"18 km/h", "m/s", 5},
		{"10 kn", "m/s", 10 * 1852.0 / 3600},
		{"0.5 rad", "deg", 90 / math.Pi},
		{"-3.5", "deg", -3.5},
		{"2.44 GHz", "MHz", 2440},
		{"250 ms", "s", 0.25},
		{".5Ah", "mAh", 500},
		{"1e3 mA", "A", 1},
	} {
		got, err := ParseQuantity(c.text, c.unit)
		if err != nil || !(math.Abs(got-c.want) <= 1e-9*math.Max(1, math.Abs(c.want))) {
			t.Errorf("%q as %s: %v, %v; want %v", c.text, c.unit, got, err, c.want)
		}
	}
	for _, c := range []struct{ text, unit, code string }{
		{"5 V", "mm", "wrong-unit"},
		{"", "mm", "not-a-quantity"},
		{"five", "mm", "not-a-quantity"},
		{"1 2", "mm", "wrong-unit"},
		{"1e999", "mm", "not-a-quantity"},
		{"3 x", "count", "wrong-unit"},
		{"1,2,3", "mm", "wrong-unit"},
	} {
		if _, err := ParseQuantity(c.text, c.unit); AsFault(err) == nil || AsFault(err).Code != c.code {
			t.Errorf("%q as %s: got %v, want %s", c.text, c.unit, err, c.code)
		}
	}
}

func TestNumber(t *testing.T) {
	for x, want := range map[float64]string{0: "0", 5: "5", 1885: "1885", 5.5: "5.5", 0.04: "0.04", 1.0 / 3: "0.3333", 12345.678: "12346", -2.604: "-2.604", 0.00065: "0.00065"} {
		if got := Number(x); got != want {
			t.Errorf("%v is written %q, want %q", x, got, want)
		}
	}
}

func FuzzParseQuantity(f *testing.F) {
	f.Add("5 in", "mm")
	f.Add("1,2 k", "Ω")
	f.Fuzz(func(t *testing.T, text, unit string) {
		x, err := ParseQuantity(text, unit)
		if err == nil && (math.IsNaN(x) || math.IsInf(x, 0)) {
			t.Errorf("%q became %v", text, x)
		}
	})
}
