package power

import (
	"math"
	"testing"
)

func TestOpenVoltsAndWhatIsLeft(t *testing.T) {
	was := math.Inf(-1)
	for left := -0.05; left <= 1.05; left += 0.001 {
		v := OpenVolts(left)
		if v <= was {
			t.Fatalf("with %.3f left it has %.4f V, not more than with less", left, v)
		}
		if was = v; !(math.Abs(Left(v)-left) <= 1e-12) {
			t.Errorf("%.4f V is %.6f left, want %.6f", v, Left(v), left)
		}
	}
	// What every charger and every pilot goes by.
	for _, c := range []struct{ volts, least, most float64 }{{4.2, 1, 1}, {3.85, 0.5, 0.6}, {3.8, 0.35, 0.45}, {3.7, 0.05, 0.2}, {3.5, 0, 0.05}} {
		if got := Left(c.volts); got < c.least-1e-9 || got > c.most+1e-9 {
			t.Errorf("at %.2f V %.2f is left, want %.2f to %.2f", c.volts, got, c.least, c.most)
		}
	}
}
