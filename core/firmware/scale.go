package firmware

import (
	"math"
	"strconv"

	"vividperch/core/quad"
)

// Field is one figure of the sheet and how a line counts it: raw = (figure - offset) * factor, or raw = per / figure, as microseconds are of
// hertz with 1,000,000. A factor of 0 stands for 1. Without a path, which only a part of a record may lack, the part is of no interest.
type Field struct {
	Path   quad.Path `json:"path" yaml:"path,omitempty"`
	Factor float64   `json:"factor" yaml:"factor,omitempty"`
	Offset float64   `json:"offset" yaml:"offset,omitempty"`
	Per    float64   `json:"per" yaml:"per,omitempty"`
}

func (e *Entry) scale() Field { return Field{e.Path, e.Factor, e.Offset, e.Per} }

func (f Field) factor() float64 {
	if f.Factor == 0 {
		return 1
	}
	return f.Factor
}

// exact raw figure, not rounded. Of a reciprocal nothing is 0 both ways: a line that counts a pause says "none" by it.
func (f Field) exact(figure float64) float64 {
	switch {
	case f.Per == 0:
		return (figure - f.Offset) * f.factor()
	case figure == 0:
		return 0
	}
	return f.Per / figure
}

// raw figure with so many decimals.
func (f Field) raw(figure float64, places int) string {
	return plain(math.Round(f.exact(figure)*math.Pow10(places))/math.Pow10(places), places)
}

// figure on the sheet that a raw one stands for. Rounding at the eighth place gives back 3.4, not 3.4000000000000004.
func (f Field) figure(raw float64) float64 {
	x := raw/f.factor() + f.Offset
	switch {
	case f.Per != 0 && raw == 0:
		x = 0
	case f.Per != 0:
		x = f.Per / raw
	}
	return math.Round(x*1e8) / 1e8
}

// valid refuses what loses every figure.
func (f Field) valid(setting string) error {
	if f.Per != 0 && (f.Factor != 0 || f.Offset != 0) {
		return quad.Faultf("bad-entry", setting, "counts per figure, which leaves no factor and no offset")
	}
	if f.Per < 0 || math.IsNaN(f.Per) || math.IsInf(f.Per, 0) {
		return quad.Faultf("bad-entry", setting, "cannot count %s per figure", strconv.FormatFloat(f.Per, 'g', -1, 64))
	}
	return nil
}
