package senses

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"
)

func TestMedian(t *testing.T) {
	for _, c := range []struct {
		list []float64
		want float64
	}{{nil, 0}, {[]float64{7}, 7}, {[]float64{3, 1}, 2}, {[]float64{9, 1, 2}, 2}, {[]float64{10, 1, 3, 2}, 2.5}} {
		before := slices.Clone(c.list)
		if got := median(c.list); got != c.want || !slices.Equal(c.list, before) {
			t.Errorf("of %v it is %v, want %v", before, got, c.want)
		}
	}
}

// What a fit of a disturbance says of its own error, against the scatter of four hundred runs whose truth is known.
func TestDisturbsKnowsItsError(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 8))
	truth := Vector{0.4, -0.2, 0.1}
	in := 0
	var shares []float64
	for range 400 {
		var list []Current
		for i := range 30 {
			a := float64(i%6) * 2
			var shown Vector
			for k := range shown {
				shown[k] = 20*float64(k) + truth[k]*a + 0.8*r.NormFloat64()
			}
			list = append(list, Current{a, shown})
		}
		got, err := Disturbs(list)
		if err != nil {
			t.Fatal(err)
		}
		off := math.Sqrt(math.Pow(got.PerAmpere[0]-truth[0], 2) + math.Pow(got.PerAmpere[1]-truth[1], 2) + math.Pow(got.PerAmpere[2]-truth[2], 2))
		if shares = append(shares, off/got.Within); off <= got.Within {
			in++
		}
	}
	// Of a length over three axes, 95 % of one axis are 99 % and more; half of the errors lie within some 0.45 of it: the root of a median of 2.37 over 3 x 4.2.
	if half := median(shares); in < 385 || !(math.Abs(half-math.Sqrt(2.37/(3*2.048*2.048))) <= 0.05) {
		t.Errorf("the truth is within in %d of 400, half of them within %.2f of it", in, half)
	}
}

// What is in m/s² is put into g, and what is in g stays, be it one sample or none.
func TestInGravities(t *testing.T) {
	for _, c := range []struct {
		in, want []Vector
	}{
		{nil, nil},
		{[]Vector{{0, 0, 1}}, []Vector{{0, 0, 1}}},
		{[]Vector{{0, 0, gravity}, {gravity, 0, 0}, {0, gravity / 2, 0}}, []Vector{{0, 0, 1}, {1, 0, 0}, {0, 0.5, 0}}},
	} {
		got := slices.Clone(c.in)
		if InGravities(got); !slices.Equal(got, c.want) {
			t.Errorf("%v becomes %v, want %v", c.in, got, c.want)
		}
	}
}

// A barometer that climbs by two centimetres a second: 1.2 m a minute, 6 m in five.
func TestDriftIsToldByTheMinuteAndByFive(t *testing.T) {
	var list []HeightSample
	for i := range 400 {
		list = append(list, HeightSample{At: float64(i), Height: 100 + 0.02*float64(i)})
	}
	got, err := AtRest(list, -1)
	if err != nil || !(math.Abs(got.Rate-1.2) <= 1e-9) || !(math.Abs(got.Drift-6) <= 1e-9) || !(got.Noise <= 1e-9) || got.Spans != 399 || got.Spun {
		t.Errorf("%+v, %v", got, err)
	}
	if end, err := AtRest(list, 399); err != nil || end.Spun {
		t.Errorf("spun up as it ends: %+v, %v", end, err)
	}
}
