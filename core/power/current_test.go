package power_test

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"vividperch/core/power"
	"vividperch/core/quad"
)

// A scale that is wrong by a known share comes back, whichever way the line counts, and the band holds the truth as often as it says.
func TestScaleByComesBack(t *testing.T) {
	rng := rand.New(rand.NewPCG(4, 4))
	const truth, wrong = 400.0, 1.18 // the board shows so many times too much
	for _, kind := range []power.ScaleKind{power.ScaleMultiplies, power.ScaleDivides} {
		was := truth * wrong
		if kind == power.ScaleDivides {
			was = truth / wrong
		}
		held := 0
		const runs = 400
		for range runs {
			var packs []power.Charged
			for range 4 {
				put := 900 + 300*rng.Float64()
				packs = append(packs, power.Charged{Logged: put * wrong * math.Exp(0.02*rng.NormFloat64()), Put: put})
			}
			s, err := power.ScaleBy(kind, was, packs, 1300, 0)
			if err != nil {
				t.Fatal(err)
			}
			if !(math.Abs(s.Scale/truth-1) <= 0.05) {
				t.Errorf("%s: %.1f, want %.1f", kind, s.Scale, truth)
			}
			if s.Least <= truth && truth <= s.Most {
				held++
			}
		}
		if held < runs*92/100 || held > runs*98/100 {
			t.Errorf("%s: the band holds the truth in %d of %d, want 95 %%", kind, held, runs)
		}
	}
}

// A model whose slope is wrong by a known share and whose idle current is right gets the right slope from charger figures, where the sums alone would miss it.
func TestModelByCharger(t *testing.T) {
	truth, wrong := power.CurrentModel{Idle: 0.8, Slope: 30, Bend: 1}, power.CurrentModel{Idle: 0.8, Slope: 39, Bend: 1}
	var packs []power.Charged
	for _, minutes := range []float64{3, 5, 8} {
		c := power.Charged{Minutes: minutes}
		for range 600 { // in six hundred parts of its time, half of them at one output
			for _, u := range []float64{0.12, 0.3} {
				c.Logged += wrong.At(u) * minutes / 1200 / 60 * 1000
				c.Put += truth.At(u) * minutes / 1200 / 60 * 1000
			}
		}
		packs = append(packs, c)
	}
	s, err := power.ScaleBy(power.ScaleMultiplies, 39, packs, 0, 0.8)
	if err != nil || !(math.Abs(s.Scale-30) <= 1e-6) || s.Spread > 1e-9 {
		t.Errorf("%+v, %v", s, err)
	}
	if s, err = power.ScaleBy(power.ScaleMultiplies, 39, packs, 0, 0); err != nil || math.Abs(s.Scale-30) < 0.3 {
		t.Errorf("the sums alone: %+v, %v", s, err)
	}
	packs[1].Minutes = 0
	if _, err = power.ScaleBy(power.ScaleMultiplies, 39, packs, 0, 0.8); quad.AsFault(err) == nil || quad.AsFault(err).Code != "no-minutes" {
		t.Errorf("minutes that nobody told: %v", err)
	}
}

func TestScalesThatCannotBe(t *testing.T) {
	good := power.Charged{Logged: 900, Put: 1000}
	for _, c := range []struct {
		name  string
		was   float64
		packs []power.Charged
		code  string
	}{
		{"no scale", 0, []power.Charged{good}, "no-scale"},
		{"no packs", 400, nil, "no-packs"},
		{"a pack that was hardly flown", 400, []power.Charged{{Logged: 900, Put: 1000}, {Logged: 20, Put: 30}}, "too-little"},
		{"more than it holds", 400, []power.Charged{{Logged: 900, Put: 1800}}, "above-capacity"},
	} {
		_, err := power.ScaleBy(power.ScaleMultiplies, c.was, c.packs, 1300, 0)
		if f := quad.AsFault(err); err == nil || f.Code != c.code {
			t.Errorf("%s: %v, want %s", c.name, err, c.code)
		}
	}
	if s, err := power.ScaleBy(power.ScaleMultiplies, 400, []power.Charged{good}, 0, 0); err != nil || s.Packs != 1 || !strings.Contains(s.Words, "One pack") {
		t.Errorf("one pack alone: %+v, %v", s, err)
	}
}

// A model is found again from readings made of it: exactly, with the line's own bend and with a free one; and through noise by a search over a fine grid.
func TestFitCurrentComesBack(t *testing.T) {
	truth := power.CurrentModel{Idle: 0.4, Slope: 32, Bend: 1.4}
	var loaded []power.Drawn
	for _, u := range []float64{15, 22, 30} {
		loaded = append(loaded, power.Drawn{Output: u, Amps: truth.At(u / 100)})
	}
	for name, bend := range map[string]float64{"its own bend": 1.4, "a free one": math.NaN()} {
		m, err := power.FitCurrent(0.4, loaded, bend)
		if err != nil || !(math.Abs(m.Slope-32) <= 1e-9) || !(math.Abs(m.Bend-1.4) <= 1e-9) || m.Within > 1e-9 {
			t.Errorf("%s: %+v, %v", name, m, err)
		}
	}
	rng := rand.New(rand.NewPCG(9, 2))
	for i := range loaded {
		loaded[i].Amps *= 1 + 0.02*rng.NormFloat64()
	}
	m, err := power.FitCurrent(0.4, loaded, math.NaN())
	if err != nil {
		t.Fatal(err)
	}
	miss := func(slope, bend float64) (sum float64) {
		c := power.CurrentModel{Idle: 0.4, Slope: slope, Bend: bend}
		for _, d := range loaded {
			x := c.At(d.Output/100) - d.Amps
			sum += x * x
		}
		return sum
	}
	best := math.Inf(1)
	for slope := 15.0; slope < 60; slope += 0.05 {
		for bend := -1.0; bend < 6; bend += 0.01 {
			best = math.Min(best, miss(slope, bend))
		}
	}
	if got := miss(m.Slope, m.Bend); got > best+1e-9 {
		t.Errorf("the fit misses by %g, the best of a grid by %g", got, best)
	}
	least, most := m.Band(0.3)
	if !(least < m.At(0.3) && m.At(0.3) < most) {
		t.Errorf("band %v to %v about %v", least, most, m.At(0.3))
	}
	if u, ok := m.Output(m.At(0.27)); !ok || !(math.Abs(u-0.27) <= 1e-9) {
		t.Errorf("its output for that current: %v", u)
	}
	if _, ok := m.Output(1000); ok {
		t.Error("an output for 1000 A")
	}
}

func TestCurrentsThatCannotBe(t *testing.T) {
	for _, c := range []struct {
		name   string
		idle   float64
		loaded []power.Drawn
		bend   float64
		code   string
	}{
		{"no idle", math.NaN(), []power.Drawn{{Output: 20, Amps: 5}}, 1, "no-idle"},
		{"nothing under load", 0.4, nil, 1, "no-load"},
		{"no output", 0.4, []power.Drawn{{Output: 0, Amps: 5}}, 1, "no-output"},
		{"less than at rest", 0.4, []power.Drawn{{Output: 20, Amps: 0.3}}, 1, "no-more"},
		{"a free bend of one reading", 0.4, []power.Drawn{{Output: 20, Amps: 5}}, math.NaN(), "too-near"},
	} {
		_, err := power.FitCurrent(c.idle, c.loaded, c.bend)
		if f := quad.AsFault(err); err == nil || f.Code != c.code {
			t.Errorf("%s: %v, want %s", c.name, err, c.code)
		}
	}
}

func TestSlippedDecimals(t *testing.T) {
	for _, c := range []struct {
		amps, expected, times float64
	}{
		{1.9, 0.19, 0.1}, {0.019, 0.19, 10}, {19, 0.19, 0.01}, {0.19, 0.19, 0}, {0.3, 0.19, 0}, {0.9, 0.19, 0}, {2.5, 0.19, 0.1}, {0, 0.19, 0}, {1, 0, 0},
	} {
		s, ok := power.Slipped("at rest", c.amps, c.expected)
		if ok != (c.times != 0) || s.Times != c.times {
			t.Errorf("%v A where %v is expected: %+v", c.amps, c.expected, s)
		}
	}
}
