package picture

import (
	"math"
	"testing"
)

// By projecting points of the ground: a camera two metres high, turned up, each point's place on the plane of the picture.
func TestHorizonAgainstProjectedPoints(t *testing.T) {
	for _, c := range [][2]float64{{0, 90}, {25, 92}, {40, 60}, {10, 120}, {50, 90}} {
		tilt, view := c[0]*math.Pi/180, c[1]*math.Pi/180
		h, ok := HorizonOf(c[0], c[1])
		if !ok {
			t.Fatal("the view is told")
		}
		place := func(ahead float64) float64 { // of ground so far ahead, over half the picture
			x, z := ahead, -2.0
			along, up := x*math.Cos(tilt)+z*math.Sin(tilt), -x*math.Sin(tilt)+z*math.Cos(tilt)
			if along <= 0 {
				return math.Inf(-1)
			}
			return up / along / math.Tan(view/2)
		}
		if far := place(1e7); !(math.Abs(far-h.Hover) <= 1e-5) {
			t.Errorf("%v: the horizon at %.4f, projected %.4f", c, h.Hover, far)
		}
		if h.Nearest == 0 {
			if place(1e7) > -1 {
				t.Errorf("%v: it shows ground, and none is told", c)
			}
			continue
		}
		if at := place(h.Nearest); !(math.Abs(at+1) <= 1e-6) {
			t.Errorf("%v: the nearest ground at %.4f of the picture, want its lower edge", c, at)
		}
	}
	if _, ok := HorizonOf(20, 0); ok {
		t.Error("a view that nobody told shows something")
	}
}
