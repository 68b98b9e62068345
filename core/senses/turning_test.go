package senses

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"vividperch/core/quad"
)

// sphereOf samples of a compass with iron beside it: directions for which keep says yes.
func sphereOf(n int, keep func(Vector) bool) []Vector {
	r := rand.New(rand.NewPCG(5, 5))
	var out []Vector
	for len(out) < n {
		v := Vector{r.NormFloat64(), r.NormFloat64(), r.NormFloat64()}
		v = v.over(v.norm())
		if keep(v) {
			out = append(out, Vector{48*v[0] + 12 + 0.2*r.NormFloat64(), 48*v[1] - 7 + 0.2*r.NormFloat64(), 48*v[2] + 20 + 0.2*r.NormFloat64()})
		}
	}
	return out
}

// A sphere that is covered says so, one side asks for the other, and little asks for more.
func TestTurnedEveryWay(t *testing.T) {
	for _, c := range []struct {
		name string
		list []Vector
		says string // of what keeps it from being a fit
		next []string
	}{
		{"all of it", sphereOf(800, func(Vector) bool { return true }), "", nil},
		{"never on its back", sphereOf(800, func(v Vector) bool { return v[2] > -0.2 }), "", []string{"back"}},
		{"nose always north", sphereOf(800, func(v Vector) bool { return v[0] > 0.45 }), "Only 42 %", []string{"tail"}},
		{"a moment", sphereOf(20, func(Vector) bool { return true }), "20 samples", nil},
		{"none", nil, "0 samples", nil},
		{"not turned", make([]Vector, 100), "not turned", nil},
	} {
		got := TurnedEveryWay(c.list, 20)
		if (got.Reading != nil) != (c.says == "") || !strings.Contains(got.Says, c.says) {
			t.Errorf("%s: says %q, %+v", c.name, got.Says, got.Reading)
		}
		for _, face := range c.next {
			if !strings.Contains(got.Next, face) || len(got.Missing) == 0 {
				t.Errorf("%s: next is %q", c.name, got.Next)
			}
		}
		if c.name == "all of it" && (len(got.Missing) > 2 || !(math.Abs(got.Reading.Field-48) <= 0.3) || got.Heading > 1) {
			t.Errorf("%s: %+v, %d missing, heading to %v°", c.name, got.Reading, len(got.Missing), got.Heading)
		}
	}
}

// The discs keep areas: of directions evenly over the sphere, as many lie inside a circle as its area is of the two discs.
func TestDotsKeepAreas(t *testing.T) {
	r := rand.New(rand.NewPCG(6, 6))
	inside, back, n := 0, 0, 40_000
	for range n {
		v := Vector{r.NormFloat64(), r.NormFloat64(), r.NormFloat64()}
		d := dotOf(v)
		if math.Hypot(d.X, d.Y) > 1.001 {
			t.Fatalf("%v lies at %+v, outside its disc", v, d)
		}
		if math.Hypot(d.X, d.Y) < 0.5 {
			inside++
		}
		if d.Back {
			back++
		}
	}
	if got := float64(inside) / float64(n); !(math.Abs(got-0.25) <= 0.01) {
		t.Errorf("%v of all lie inside of half the radius; a quarter of the area does", got)
	}
	if got := float64(back) / float64(n); !(math.Abs(got-0.5) <= 0.01) {
		t.Errorf("%v lie on the back's half", got)
	}
	for _, c := range []struct {
		v Vector
		d Dot
	}{{Vector{0, 0, 9}, Dot{}}, {Vector{0, 0, -9}, Dot{Back: true}}, {Vector{3, 0, 0}, Dot{Y: 1}}, {Vector{0, 3, 0}, Dot{X: 1}}} {
		if got := dotOf(c.v); got != c.d {
			t.Errorf("%v lies at %+v, want %+v", c.v, got, c.d)
		}
	}
}

func TestTurnedOnMount(t *testing.T) {
	for _, c := range []struct {
		off, told, tell float64
		turned          bool
	}{{92, 0, 90, true}, {-88, 0, 270, true}, {-88, 180, 90, true}, {47, 330, 15, true}, {20, 0, 0, false}, {4, 0, 0, false}, {177, 90, 270, true}} {
		if tell, turned := TurnedOnMount(c.off, c.told); turned != c.turned || tell != c.tell {
			t.Errorf("%v° off, told %v: tell %v, %v", c.off, c.told, tell, turned)
		}
	}
}

// What counts by turns come to is told with its interval, and as no more than they tell.
func TestSkyInWords(t *testing.T) {
	for _, c := range []struct {
		counts []float64 // off, on, off and so on
		says   string
	}{
		{[]float64{12, 8, 12, 8, 12, 8, 12}, "The video costs 4 satellites: "},
		{[]float64{12, 11, 12, 11, 12, 11, 12, 11, 12, 11, 12, 11, 12, 11, 12}, "The video costs 1 satellite: "},
		{[]float64{10, 12, 10, 12, 10, 12, 10}, "There are 2 more with the video on: 0.5 to 3.5"},
		{[]float64{10, 9, 12, 11}, "It does not tell yet:"},
		{[]float64{10, 11, 11, 9, 12, 11, 9, 11, 10}, "No difference that these counts could show:"},
	} {
		var list []Count
		for i, n := range c.counts {
			list = append(list, Count{Satellites: n, VideoOn: i%2 == 1})
		}
		got, err := Alternated(list)
		if err != nil || !strings.HasPrefix(got.Words(), c.says) {
			t.Errorf("%v: %q, %v; want %q", c.counts, got.Words(), err, c.says)
		}
		if trial := got.Trial(); trial.Pairs != len(c.counts)-2 || trial.Least > trial.Lost || trial.Most < trial.Lost {
			t.Errorf("%v: %+v", c.counts, trial)
		}
	}
}

// A tenth of a microtesla for each ampere is two in a hover of twenty.
func TestDisturbanceInHover(t *testing.T) {
	var list []Current
	for i := range 30 {
		a := float64(i)
		list = append(list, Current{a, Vector{18 + 0.06*a, -3 + 0.08*a, 45}})
	}
	d, err := Disturbs(list)
	if err != nil {
		t.Fatal(err)
	}
	if got := d.InHover(20); !(math.Abs(got.AtHover-2) <= 1e-9) || got.Within > 0.01 {
		t.Errorf("%+v", got)
	}
}

// The two schools of a sky agree where both figures are good or bad, and say what the other misses where they do not.
func TestSkyByBothSchools(t *testing.T) {
	for _, c := range []struct {
		sky             quad.Sky
		clear           float64
		count, dilution bool
		says            string
	}{
		{quad.Sky{Satellites: 14, Dilution: 0.9}, 30, true, true, "Both"},
		{quad.Sky{Satellites: 12, Dilution: 2.9}, 10, true, false, "behind a wall"}, // a radius of 10 m allows 2
		{quad.Sky{Satellites: 6, Dilution: 1.4}, 0, false, true, "as it leans"},
		{quad.Sky{Satellites: 5, Dilution: 9}, 30, false, false, "Neither"},
	} {
		j := JudgeSky(c.sky, c.clear)
		if j.Count != c.count || j.Dilution != c.dilution || !strings.Contains(j.Words, c.says) || !(math.Abs(j.Within-5*c.sky.Dilution) <= 0.06) {
			t.Errorf("%+v: %+v", c.sky, j)
		}
	}
}
