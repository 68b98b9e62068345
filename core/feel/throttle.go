package feel

import "math"

// MiddleFor is the middle of a throttle curve (0..1) of a bend with which a throttle of 0..1 lies at a stick of 0..1: where the hand wants its hover. The curve is a straight line in its
// middle, so it is solved for it. ok is false where no middle between a hundredth and 99 hundredths does.
func MiddleFor(stick, throttle, bend float64) (middle float64, ok bool) {
	x := 2*stick - 1
	g := x * (1 - bend + bend*x*x)
	if x < 0 {
		middle = throttle / (1 + g)
	} else {
		middle = (throttle - g) / (1 - g)
	}
	return middle, middle >= 0.01 && middle <= 0.99
}

// Uneven is by how much of its full height a thrust over the stick strays from a straight line, at the most: 0 is a stick that gives as much more thrust for every step, wherever it is. thrust
// is told for a throttle of 0..1.
func (c ThrottleCurve) Uneven(thrust func(throttle float64) float64) float64 {
	low, high := thrust(c.At(0)), thrust(c.At(1))
	if high <= low {
		return 0
	}
	worst := 0.0
	for i := 1; i < 40; i++ {
		x := float64(i) / 40
		worst = math.Max(worst, math.Abs((thrust(c.At(x))-low)/(high-low)-x))
	}
	return worst
}

// Straightest is the curve whose thrust over the stick strays the least from a straight line, with its middle and bend in whole per cent; of two that stray as little the less bent.
func Straightest(thrust func(throttle float64) float64) ThrottleCurve {
	// What it asks for again and again is looked up.
	const fine = 400
	var table [fine + 1]float64
	for i := range table {
		table[i] = thrust(float64(i) / fine)
	}
	looked := func(t float64) float64 {
		at := max(0, min(1, t)) * fine
		i := min(int(at), fine-1)
		return table[i] + (at-float64(i))*(table[i+1]-table[i])
	}
	best, off := ThrottleCurve{Middle: 0.5}, math.Inf(1)
	for bend := 0; bend <= 60; bend += 5 {
		for middle := 20; middle <= 80; middle++ {
			c := ThrottleCurve{Middle: float64(middle) / 100, Bend: float64(bend) / 100}
			if u := c.Uneven(looked); u < off-1e-4 {
				best, off = c, u
			}
		}
	}
	return best
}
