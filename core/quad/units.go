package quad

import (
	"fmt"
	"math"
	"reflect"
	"regexp"
	"strconv"
	"strings"
	"unicode"
)

// scale converts a typed unit to the unit a leaf is kept in: kept = typed * factor.
var scales = map[string]map[string]float64{
	"mm":         {"mm": 1, "cm": 10, "m": 1000, "in": 25.4, "inch": 25.4},
	"cm":         {"cm": 1, "mm": 0.1, "m": 100, "in": 2.54},
	"m":          {"m": 1, "cm": 0.01, "km": 1000, "ft": 0.3048},
	"g":          {"g": 1, "kg": 1000, "oz": 28.349523125},
	"V":          {"V": 1, "mV": 1e-3},
	"A":          {"A": 1, "mA": 1e-3},
	"mA":         {"mA": 1, "A": 1e3},
	"Ω":          {"Ω": 1, "ohm": 1, "k": 1e3, "kΩ": 1e3, "MΩ": 1e6, "M": 1e6},
	"kΩ":         {"kΩ": 1, "k": 1, "Ω": 1e-3, "MΩ": 1e3, "M": 1e3},
	"mΩ":         {"mΩ": 1, "Ω": 1e3},
	"µF":         {"µF": 1, "uF": 1, "mF": 1e3},
	"mAh":        {"mAh": 1, "Ah": 1e3},
	"mW":         {"mW": 1, "W": 1e3},
	"MHz":        {"MHz": 1, "GHz": 1e3},
	"MB":         {"MB": 1, "GB": 1e3},
	"N":          {"N": 1, "g": 9.80665e-3, "gf": 9.80665e-3, "kg": 9.80665, "kgf": 9.80665, "oz": 0.27801385, "lbf": 4.4482216, "lb": 4.4482216},
	"mm²":        {"mm²": 1, "mm2": 1},
	"Hz":         {"Hz": 1, "kHz": 1e3},
	"kbit/s":     {"kbit/s": 1, "Mbit/s": 1e3},
	"kHz":        {"kHz": 1, "Hz": 1e-3},
	"µT":         {"µT": 1, "nT": 1e-3},
	"dB":         {"dB": 1},
	"dBi":        {"dBi": 1, "dB": 1},
	"dBm":        {"dBm": 1},
	"kBd":        {"kBd": 1, "Bd": 1e-3, "MBd": 1e3},
	"µs":         {"µs": 1, "us": 1, "ms": 1e3},
	"ms":         {"ms": 1, "s": 1e3, "µs": 1e-3},
	"s":          {"s": 1, "ms": 1e-3, "min": 60},
	"°C":         {"°C": 1},
	"deg":        {"deg": 1, "°": 1, "rad": 180 / math.Pi},
	"deg/s":      {"deg/s": 1, "°/s": 1, "rad/s": 180 / math.Pi},
	"J":          {"J": 1, "mJ": 1e-3, "kJ": 1e3},
	"m/s²":       {"m/s²": 1, "m/s2": 1},
	"m/s":        {"m/s": 1, "km/h": 1 / 3.6, "kn": 1852.0 / 3600, "mph": 0.44704},
	"%":          {"%": 1},
	"N·m":        {"N·m": 1, "Nm": 1},
	"cm²":        {"cm²": 1, "cm2": 1, "m²": 1e4, "m2": 1e4},
	"rpm":        {"rpm": 1, "1/s": 60, "rps": 60, "krpm": 1000},
	"rpm/V":      {"rpm/V": 1},
	"1/h":        {"1/h": 1, "C": 1},
	"1/s":        {"1/s": 1},
	"%/(deg/s)":  {"%/(deg/s)": 1, "%/(°/s)": 1},
	"%/deg":      {"%/deg": 1, "%/°": 1},
	"%/(deg/s²)": {"%/(deg/s²)": 1, "%/(°/s²)": 1},
	"1":          {},
	"count":      {},
}

// Units a pilot may type for a leaf kept in unit.
func Units(unit string) []string { return SortedKeys(scales[unit]) }

var quantity = regexp.MustCompile(`^\s*([+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?)\s*(\S*)\s*$`)

// ParseQuantity reads a typed quantity such as "5 in", "127 mm", "1.2 k" or "40" and returns it in unit. A
// bare number is taken to be in unit already. A comma before the decimals is understood.
func ParseQuantity(text, unit string) (float64, error) {
	m := quantity.FindStringSubmatch(strings.Replace(text, ",", ".", 1))
	if m == nil {
		return 0, Faultf("not-a-quantity", "", "%q is not a number with a unit", Clip(text, 40))
	}
	x, err := strconv.ParseFloat(m[1], 64)
	if err != nil || math.IsInf(x, 0) {
		return 0, Faultf("not-a-quantity", "", "%q is too large", Clip(text, 40))
	}
	if m[2] == "" {
		return x, nil
	}
	factor, ok := scales[unit][m[2]]
	if !ok {
		return 0, Faultf("wrong-unit", "", "%q does not measure this; use %s", Clip(m[2], 40), orNothing(Units(unit)))
	}
	return x * factor, nil
}

func orNothing(units []string) string {
	if len(units) == 0 {
		return "a bare number"
	}
	return strings.Join(units, ", ")
}

// Number writes a figure with at most four significant digits and no trailing zeros; whole numbers keep all
// their digits.
func Number(x float64) string {
	if x == math.Trunc(x) && math.Abs(x) < 1e9 {
		return strconv.FormatFloat(x, 'f', 0, 64)
	}
	digits := 3 - int(math.Floor(math.Log10(math.Abs(x))))
	if digits < 0 {
		digits = 0
	}
	s := strconv.FormatFloat(x, 'f', digits, 64)
	if strings.Contains(s, ".") {
		s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
	}
	return s
}

// Significant is a figure to three digits: what a remedy offers, and no finer than anybody would set.
func Significant(x float64) float64 {
	y, _ := strconv.ParseFloat(strconv.FormatFloat(x, 'g', 3, 64), 64)
	return y
}

// Shown is a unit as a pilot reads it.
func Shown(unit string) string {
	switch unit {
	case "1", "count":
		return ""
	}
	return degrees(unit)
}

// degrees of a unit as they are read: the tag spells them out.
func degrees(unit string) string { return strings.ReplaceAll(unit, "deg", "°") }

// Quantity writes a figure with its unit.
func Quantity(x float64, unit string) string {
	switch shown := Shown(unit); shown {
	case "":
		return Number(x)
	case "°":
		return Number(x) + shown
	default:
		return Number(x) + " " + shown
	}
}

// Words writes a leaf's value for a sentence.
func Words(value any, unit string) string {
	switch x := value.(type) {
	case nil:
		return "nothing"
	case float64:
		return Quantity(x, unit)
	case int:
		return Quantity(float64(x), unit)
	case bool:
		if x {
			return "yes"
		}
		return "no"
	case string:
		if x == "" {
			return "nothing"
		}
		return x
	case interface{ Words() string }:
		return x.Words()
	case []string:
		return strings.Join(x, ", ")
	}
	if v := reflect.ValueOf(value); v.Kind() == reflect.String {
		return Spelled(v.String())
	}
	return fmt.Sprint(value)
}

// Spelled writes a word of an enumeration as it is said: "frontLeftClockwise" is "front left clockwise".
func Spelled(word string) string {
	switch word {
	case "":
		return "nothing"
	case string(CounterClockwise):
		return CounterClockwise.Words()
	}
	var out strings.Builder
	for i, r := range word {
		if i > 0 && r >= 'A' && r <= 'Z' {
			out.WriteByte(' ')
		}
		out.WriteRune(unicode.ToLower(r))
	}
	return out.String()
}
