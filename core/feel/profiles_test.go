package feel_test

import (
	"math/rand/v2"
	"testing"

	"vividperch/core/feel"
	"vividperch/core/quad"
)

// Whichever pulses arrive, the profile that counts is the third if its range holds them, else the second if its does, else the first: written
// here as a pilot would say it.
func TestWhichProfileIsChosen(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 11))
	within := func(w quad.Range, p quad.Pulses) bool {
		return w.Channel > 0 && w.Channel <= quad.MostChannels && p[w.Channel-1] >= w.From && p[w.Channel-1] <= w.To
	}
	met := map[quad.Path]int{}
	for range 4000 {
		var s quad.Sheet
		draw := func() quad.Range {
			return quad.Range{Channel: r.IntN(quad.MostChannels + 3), From: 900 + 100*float64(r.IntN(12)), To: 900 + 100*float64(r.IntN(12))}
		}
		s.Sticks.SecondProfile, s.Sticks.ThirdProfile = draw(), draw()
		var p quad.Pulses
		for i := range p {
			p[i] = 1000 + 100*float64(r.IntN(11))
		}
		want := quad.Path("sheet.feel")
		switch {
		case within(s.Sticks.ThirdProfile, p):
			want = "sheet.feel.third"
		case within(s.Sticks.SecondProfile, p):
			want = "sheet.feel.second"
		}
		list := feel.Profiles(&s)
		if got := list[feel.Chosen(list, p)].At; got != want {
			t.Fatalf("%+v, %+v: %s, expected %s", s.Sticks.SecondProfile, s.Sticks.ThirdProfile, got, want)
		}
		met[want]++
	}
	if len(met) != 3 {
		t.Errorf("only %v", met)
	}
}

// What differs between two profiles is told figure by figure, with what stands in each; what nobody told differs from nothing.
func TestWhatAProfileHasOtherwise(t *testing.T) {
	var s quad.Sheet
	s.Feel.Roll, s.Feel.AngleLimit, s.Feel.ThrottleLimit = quad.Rates{Centre: 140, Peak: 600, Bend: 0.4}, 50, 80
	s.Feel.Second = quad.Profile{Name: "indoors", Roll: quad.Rates{Centre: 140, Peak: 300, Bend: 0}, AngleLimit: 30}
	s.Sticks.SecondProfile.Channel = 7
	list := feel.Profiles(&s)
	if len(list) != 2 || list[1].Words != "the second profile (indoors)" {
		t.Fatalf("%+v", list)
	}
	want := map[quad.Path][2]float64{"roll.peak": {600, 300}, "roll.bend": {0.4, 0}, "angleLimit": {50, 30}}
	for _, d := range feel.Differ(list[0], list[1]) {
		if want[d.Place] != [2]float64{d.First, d.Other} {
			t.Errorf("%+v", d)
		}
		delete(want, d.Place)
	}
	if len(want) > 0 {
		t.Errorf("not told: %v", want)
	}
	if feel.LeastLean(list) != 30 || feel.MostLean(list) != 50 {
		t.Errorf("leans %v to %v", feel.LeastLean(list), feel.MostLean(list))
	}
}
