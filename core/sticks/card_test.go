package sticks

import (
	"encoding/json"
	"math/rand/v2"
	"reflect"
	"strings"
	"testing"

	"vividperch/core/quad"
)

func plan() quad.RadioPlan {
	return quad.RadioPlan{
		Model: "Dunlin", Order: "TAER", Travel: 100, Phrase: "never on a card", Rate: 250,
		Trims:    quad.StickTrims{Pitch: -4},
		Switches: map[string]quad.SwitchPlan{"left, shoulder": {Channel: 5, Positions: []string{"safe", "armed"}, Rest: "safe", Lost: "safe"}, "right": {Channel: 6, Positions: []string{"a", "b", "c"}, Travel: 80, Springs: true, Gain: true}},
		Mixes:    map[string]quad.MixPlan{"one": {From: 6, To: 9, Weight: -50, Alone: true}},
	}
}

// A card comes back as it was, from CSV and from JSON, and never carries the phrase; what it does not tell stays.
func TestCardsComeBack(t *testing.T) {
	raw := WriteCard(plan())
	if strings.Contains(string(raw), "never on") {
		t.Error("the phrase is on the card")
	}
	onto := quad.RadioPlan{Phrase: "mine", Rate: 50, Number: 7, Switches: map[string]quad.SwitchPlan{"old": {Channel: 9}}}
	want := plan()
	want.Phrase, want.Rate, want.Number = "mine", 50, 7
	got, err := ReadCard(raw, onto)
	if err != nil || !reflect.DeepEqual(got, want) {
		t.Errorf("%+v, wanted %+v, %v", got, want, err)
	}
	text, err := json.Marshal(plan())
	if err != nil {
		t.Fatal(err)
	}
	want.Rate, want.Number = 250, 0
	if got, err = ReadCard(text, onto); err != nil || !reflect.DeepEqual(got, want) {
		t.Errorf("%+v, wanted %+v, %v", got, want, err)
	}
}

// Plans at random survive the way through CSV.
func TestAnyPlanComesBack(t *testing.T) {
	r := rand.New(rand.NewPCG(6, 6))
	for range 300 {
		k := drawn(r)
		k.Radio.Order = []string{"AETR", "TAER", "RTEA"}[r.IntN(3)]
		for name, s := range k.Radio.Switches {
			s.Rest = s.Positions[0]
			k.Radio.Switches[name] = s
		}
		got, err := ReadCard(WriteCard(k.Radio), quad.RadioPlan{})
		if len(k.Radio.Mixes) == 0 {
			k.Radio.Mixes = nil
		}
		if err != nil || !reflect.DeepEqual(got, k.Radio) {
			t.Fatalf("%+v came back as %+v, %v", k.Radio, got, err)
		}
	}
}

func TestCardsThatCannotBe(t *testing.T) {
	head := strings.Join(cardHead, ",") + "\n"
	for text, want := range map[string]string{
		"":                                 "line 1",
		"a,b\n1,2\n":                       "line 1",
		head + "stick,nose,1":              "line 2",
		head + "stick,roll,1\nstick,yaw,1": "line 3",
		head + "stick,roll,7":              "line 2",
		head + "switch,s,x":                "line 2",
		head + "switch,s,5,a / b,c":        "line 2",
		head + "switch,s,5,a / b\nswitch,s,6,a / b": "line 3",
		head + "switch,s,5,a / b,a,,many":           "line 2",
		head + "switch,s,5,a / b,a,,100,perhaps":    "line 2",
		head + "mix,m,5,,,,,,,6,heavy":              "line 2",
		head + "mix,m,5,,,,,,,6,1000":               "radio.mixes.m.weight",
		head + "wing,w":                             "line 2",
		head + "switch,":                            "line 2",
		head + "stick,roll,1":                       "",
		"{\"switches\":[]}":                         "",
		"{\"wings\":1}":                             "",
	} {
		before := plan()
		got, err := ReadCard([]byte(text), before)
		if f := quad.AsFault(err); f == nil || f.Place != want {
			t.Errorf("%q: %v, wanted a fault at %q", text, err, want)
		} else if !strings.Contains(want, "radio") && !reflect.DeepEqual(got, before) {
			t.Errorf("%q changed something", text)
		}
	}
}

func FuzzReadCard(f *testing.F) {
	f.Add(WriteCard(plan()))
	f.Add([]byte(`{"order":"AETR"}`))
	f.Fuzz(func(t *testing.T, raw []byte) {
		got, err := ReadCard(raw, quad.RadioPlan{})
		if err != nil {
			return
		}
		again, err := ReadCard(WriteCard(got), got)
		if err != nil {
			t.Skip() // JSON holds names that no table has
		}
		if !reflect.DeepEqual(NewSwitchboard(quad.Known{Radio: again}).order, NewSwitchboard(quad.Known{Radio: got}).order) {
			t.Fatalf("%+v, then %+v", got, again)
		}
	})
}

// 100 KiB are read, a byte more is not.
func TestCardLimit(t *testing.T) {
	text := string(WriteCard(plan()))
	for more, want := range map[int]string{0: "", 1: "too-large"} {
		_, err := ReadCard([]byte(text+strings.Repeat("\n", 100<<10+more-len(text))), quad.RadioPlan{})
		got := ""
		if f := quad.AsFault(err); f != nil {
			got = f.Code
		}
		if got != want {
			t.Errorf("%d over: %v", more, err)
		}
	}
}
