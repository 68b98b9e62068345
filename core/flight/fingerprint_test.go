package flight

import (
	"encoding/json"
	"slices"
	"strings"
	"testing"

	"vividperch/core/quad"
)

// leavesOf a JSON document that hold a figure, a word or a yes: how to change each.
func leavesOf(at any, place string, do func(place string, change func())) {
	switch x := at.(type) {
	case map[string]any:
		for _, k := range quad.SortedKeys(x) {
			here := place + "." + k
			switch v := x[k].(type) {
			case float64:
				do(here, func() { x[k] = v + 0.5 })
			case bool:
				do(here, func() { x[k] = !v })
			case string:
				do(here, func() { x[k] = v + "x" })
			default:
				leavesOf(v, here, do)
			}
		}
	case []any:
		for i := range x {
			if v, ok := x[i].(float64); ok {
				do(place, func() { x[i] = v + 0.5 })
				continue
			}
			leavesOf(x[i], place, do)
		}
	}
}

// Every figure of an input belongs to an aspect: whichever is changed, it is told what it was.
func TestEveryChangeIsNamed(t *testing.T) {
	in := sample()
	in.Mixes = []quad.MixPlan{{From: 5, To: 6, Weight: 50}}
	in.Actual.Imbalance = map[quad.Corner]float64{quad.FrontLeft: 1}
	raw, err := json.Marshal(in)
	if err != nil {
		t.Fatal(err)
	}
	kept := Fingerprint(in, HoverCard)
	if changed, what := Since(kept, in, HoverCard); changed || what != nil {
		t.Fatalf("nothing changed, but %v", what)
	}
	var doc any
	read := func() {
		if err := json.Unmarshal(raw, &doc); err != nil {
			t.Fatal(err)
		}
	}
	read()
	var places []string
	leavesOf(doc, "", func(place string, _ func()) { places = append(places, place) })
	tried := 0
	for i := range places {
		read()
		n := 0
		leavesOf(doc, "", func(_ string, change func()) {
			if n == i {
				change()
			}
			n++
		})
		spoilt, err := json.Marshal(doc)
		if err != nil {
			t.Fatal(err)
		}
		var other Input
		if err := json.Unmarshal(spoilt, &other); err != nil {
			continue // a whole number or a number without a sign cannot be that
		}
		back, err := json.Marshal(other)
		if err != nil || string(back) == string(raw) {
			continue // it is not kept at all
		}
		tried++
		if changed, what := Since(kept, other, HoverCard); !changed || len(what) == 0 {
			t.Errorf("%s: changed %v, %v", places[i], changed, what)
		}
	}
	if tried < 100 {
		t.Errorf("only %d of %d places were tried", tried, len(places))
	}
}

func TestWhatChangedSinceARehearsal(t *testing.T) {
	kept := Fingerprint(sample(), HoverCard)
	for _, c := range []struct {
		spoil func(*Input)
		want  string
	}{
		{func(in *Input) { in.Actual.Centre.Ahead += 3 }, "where it balances"},
		{func(in *Input) { in.Mass += 0.001 }, "the weight"},
		{func(in *Input) { in.Site.WindEast = 1; in.Settings.Gains[1].Integral *= 2 }, "the wind, the gains"},
		{func(in *Input) { in.Settings.Policy = quad.PolicyLand }, "what happens without a radio"},
		{func(in *Input) { in.Actual.Hands[quad.RearLeft] = "" }, "what the motors and propellers do"},
	} {
		in := sample()
		c.spoil(&in)
		if _, what := Since(kept, in, HoverCard); strings.Join(what, ", ") != c.want {
			t.Errorf("%v, wanted %s", what, c.want)
		}
	}
	hash, _, _ := strings.Cut(kept, " ")
	if changed, what := Since(hash, sample(), HoverCard); changed || what != nil {
		t.Errorf("kept without its aspects: %v", what)
	}
	in := sample()
	in.Mass++
	if changed, what := Since(hash, in, HoverCard); !changed || what != nil {
		t.Errorf("kept without its aspects, and changed: %v %v", changed, what)
	}
	if changed, _ := Since("", in, HoverCard); !changed {
		t.Error("nothing was kept, and it holds")
	}
	words := map[string]bool{}
	for _, a := range aspects {
		if words[a.words] || slices.Contains([]string{"", "x"}, a.words) {
			t.Errorf("%q is twice", a.words)
		}
		words[a.words] = true
	}
}
