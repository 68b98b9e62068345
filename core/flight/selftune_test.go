package flight_test

import (
	"strings"
	"testing"

	"vividperch/core/flight"
	"vividperch/core/quad"
	"vividperch/demo/worldtest"
)

// What must be so before a board tunes itself, each just met and just not; what nobody told is not met, and said so.
func TestTuneConditions(t *testing.T) {
	reading := func(x float64) *quad.Reading[float64] { return &quad.Reading[float64]{Value: x} }
	const flies, calm, room, lasts = 0, 1, 2, 3
	for _, c := range []struct {
		name    string
		of      int
		change  func(k *quad.Known)
		minutes float64
		met     bool
		is      string
	}{
		{"never rehearsed", flies, func(k *quad.Known) { k.Readings.FirstFlight.Rehearsal = nil }, 1, false, "not rehearsed yet"},
		{"rehearsed, and crashed", flies, func(k *quad.Known) {
			k.Readings.FirstFlight.Rehearsal = &quad.Reading[quad.Rehearsal]{Value: quad.Rehearsal{Outcome: string(flight.TippedOver), Sentence: "It tips over."}}
		}, 1, false, "It tips over."},
		{"rehearsed, and landed", flies, func(k *quad.Known) {
			k.Readings.FirstFlight.Rehearsal = &quad.Reading[quad.Rehearsal]{Value: quad.Rehearsal{Outcome: string(flight.Landed), Sentence: "It lands."}}
		}, 1, true, "It lands."},
		{"no wind told", calm, func(k *quad.Known) { k.Readings.FirstFlight.Wind = nil }, 1, false, "not measured today"},
		{"as windy as may be", calm, func(k *quad.Known) { k.Readings.FirstFlight.Wind = reading(3) }, 1, true, "3 m/s"},
		{"windier", calm, func(k *quad.Known) { k.Readings.FirstFlight.Wind = reading(3.1) }, 1, false, "3.1 m/s"},
		{"no room told", room, func(k *quad.Known) { k.Readings.FirstFlight.Clear = nil }, 1, false, "not looked at"},
		{"just room", room, func(k *quad.Known) { k.Readings.FirstFlight.Clear = reading(30) }, 1, true, "30 m around"},
		{"too little room", room, func(k *quad.Known) { k.Readings.FirstFlight.Clear = reading(29) }, 1, false, "29 m around"},
		{"a quarter of an hour in the air", lasts, nil, 4, true, "min"},
		{"more than it has", lasts, nil, 6, false, "min"},
		{"no pack", lasts, func(k *quad.Known) { k.Parts.Packs = nil }, 1, false, "no pack is known to last"},
	} {
		k := worldtest.Demo(t, "godwit")
		if c.change != nil {
			c.change(&k)
		}
		got := flight.TuneConditions(k, c.minutes)
		if len(got) != 4 || got[c.of].Met != c.met || !strings.HasSuffix(got[c.of].Is, c.is) {
			t.Errorf("%s: %+v", c.name, got)
		}
	}
}
