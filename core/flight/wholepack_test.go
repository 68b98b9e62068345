package flight

import (
	"math"
	"testing"

	"vividperch/core/airframe"
	"vividperch/core/power"
)

// A pack that is hovered empty gives the charge that its cells hold between full and low, and lasts about what a hover's current takes for it, worked out step by step by
// another way; and who flies harder is down sooner.
func TestEmptyPackAgainstAHover(t *testing.T) {
	in := sample()
	in.Pack.Capacity, in.Parts.Board.IdleDraw = 400, 200
	flown := map[Effort]*Emptied{}
	for _, e := range []Effort{Hovering, Cruising, Punching} {
		got, err := EmptyPack(in, e, nil)
		if err != nil {
			t.Fatal(err)
		}
		if !got.Low || len(got.Samples) < 100 {
			t.Fatalf("%s: low %v after %d samples", e, got.Low, len(got.Samples))
		}
		flown[e] = got
	}
	hover := flown[Hovering]
	end := hover.Samples[len(hover.Samples)-1].Time
	drive, err := airframe.NewDrive(in.Parts, in.Pack, airframe.FullCell*float64(in.Pack.Cells), in.Site.Density)
	if err != nil {
		t.Fatal(err)
	}
	idle := power.IdleCurrent(in.Parts)
	want, ok := drive.Lasts(in.Pack, in.Mass, 0, 0)
	if !ok || !(math.Abs(end-want) <= 0.06*want) {
		t.Errorf("hovers %.0f s, want %.0f", end, want)
	}
	charge := 0.0
	for i := 1; i < len(hover.Samples); i++ {
		charge += (hover.Samples[i-1].Amps + hover.Samples[i].Amps - 2*idle) / 2 * 0.1 / 3.6
	}
	// The share of the charge between the two voltages is [power.Left]'s; what the electronics draw is told, and not taken from the cells.
	if share := power.Left(airframe.FullCell) - power.Left(airframe.LowCell); !(math.Abs(charge-share*400) <= 0.03*share*400) {
		t.Errorf("drawn %.0f mAh, want %.0f", charge, share*400)
	}
	last := func(e Effort) float64 { s := flown[e].Samples; return s[len(s)-1].Time }
	if !(last(Hovering) > last(Punching)) || flown[Cruising].Distance < 10*flown[Hovering].Distance {
		t.Errorf("hovering %.0f s and %.0f m, cruising %.0f s and %.0f m, punching %.0f s", last(Hovering), hover.Distance, last(Cruising), flown[Cruising].Distance, last(Punching))
	}
	for i, w := range flown[Punching].Windings {
		if w <= airframe.AirTemperature || w < hover.Windings[i]-1 {
			t.Errorf("winding %d: %v °C punching, %v hovering", i, w, hover.Windings[i])
		}
	}
	if _, err := EmptyPack(in, Hovering, func() bool { return true }); err == nil {
		t.Error("it was not stopped")
	}
	heavy := in
	heavy.Mass *= 30
	if got, err := EmptyPack(heavy, Hovering, nil); err != nil || !got.Fell || got.Low {
		t.Errorf("thirty times as heavy: %+v, %v", got.Fell, err)
	}
	in.Pack.Capacity = 0
	if _, err := EmptyPack(in, Hovering, nil); err == nil {
		t.Error("a pack that nobody told is flown empty")
	}
}
