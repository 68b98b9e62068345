package power_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"vividperch/core/power"
)

// falling is a flight from full to empty with punches that sag, at ten samples a second.
func falling(rng *rand.Rand, seconds float64) []power.Given {
	var out []power.Given
	punch, until := 0.0, 0.0
	for t := 0.0; t < seconds; t += 0.1 {
		if t >= until {
			punch, until = 0, t+1+8*rng.Float64()
			if rng.Float64() < 0.4 {
				punch, until = 0.2+0.5*rng.Float64(), t+0.3+3*rng.Float64()
			}
		}
		cell := 4.1 - 0.9*t/seconds - 0.8*punch
		out = append(out, power.Given{Time: t, Volts: 4 * cell, Amps: 10 + 60*punch})
	}
	return out
}

// An alarm is replayed here a second time, the other way round: from every moment it looks back over the delay, and forward over what comes back.
func TestReplayAgainstLookingBack(t *testing.T) {
	rng := rand.New(rand.NewPCG(3, 5))
	for range 60 {
		flight := falling(rng, 120+200*rng.Float64())
		a := power.Alarm{PerCell: 3.2 + 0.5*rng.Float64(), Delay: float64(rng.IntN(8))}
		got := power.Flown{Given: flight, Cells: 4, Land: 3.3}.Replay(a)
		var want []power.Ring
		rung := false // in the stretch that goes on
		for i, s := range flight {
			if s.Volts >= 4*a.PerCell {
				rung = false
				continue
			}
			lasting := false
			for k := i; k >= 0 && flight[k].Volts < 4*a.PerCell; k-- {
				lasting = lasting || s.Time >= flight[k].Time+a.Delay
			}
			if !lasting || rung {
				continue
			}
			rung = true
			back := false
			for _, later := range flight[i:] {
				back = back || later.Time <= s.Time+10 && later.Volts >= 4*a.PerCell
			}
			want = append(want, power.Ring{At: s.Time, False: back})
		}
		if len(want) != len(got.Rings) {
			t.Fatalf("%+v: %d rings, want %d", a, len(got.Rings), len(want))
		}
		for i := range want {
			if want[i] != got.Rings[i] {
				t.Errorf("%+v: ring %+v, want %+v", a, got.Rings[i], want[i])
			}
		}
	}
}

// What is left at the first true alarm is the integral of what was still drawn: by closed form, of a voltage that falls straight under a steady current.
func TestWhatAnAlarmLeaves(t *testing.T) {
	var flight []power.Given
	for i := range 3001 {
		x := float64(i) / 10
		flight = append(flight, power.Given{Time: x, Volts: 16 - 4*x/300, Amps: 12})
	}
	got := power.Flown{Given: flight, Cells: 4, Land: 3.2}.Replay(power.Alarm{PerCell: 3.5, Delay: 2})
	// 3.5 V a cell is passed at 150 s, 3.2 V at 240 s.
	near := func(what string, x, want, within float64) {
		t.Helper()
		if !(math.Abs(x-want) <= within) {
			t.Errorf("%s: %v, want %v", what, x, want)
		}
	}
	if !got.True || got.False != 0 || got.AtLeast || len(got.Rings) != 1 {
		t.Fatalf("%+v", got)
	}
	near("rings at, s", got.At, 152.1, 0.11)
	near("seconds left", got.Seconds, 240.1-152.1, 0.25)
	v0, v1 := 16-4*got.At/300, 16-4*(got.At+got.Seconds)/300
	near("Wh left", got.Energy, (v0+v1)/2*12*got.Seconds/3600, 1e-3)
	near("mAh left", got.Charge, 12*got.Seconds/3.6, 0.5)
	again := power.Flown{Given: flight, Cells: 4, Land: 3.2}.Replay(power.Alarm{PerCell: 3.5, Delay: 2, Repeat: 30})
	if len(again.Rings) != 5 {
		t.Errorf("repeated every 30 s it rings %d times, want 5", len(again.Rings))
	}
	early := power.Flown{Given: flight[:2000], Cells: 4, Land: 3.2}.Replay(power.Alarm{PerCell: 3.5})
	if !early.AtLeast {
		t.Errorf("a flight that ended before: %+v", early)
	}
	if low := (power.Flown{Given: flight[:2000], Cells: 4, Land: 3.2, Low: true}).Replay(power.Alarm{PerCell: 3.5}); low.AtLeast || low.Seconds != early.Seconds {
		t.Errorf("one that ended because it was low: %+v", low)
	}
	if r := (power.Flown{Cells: 4, Land: 3.2}).Replay(power.Alarm{PerCell: 3.5}); r.True || len(r.Rings) > 0 {
		t.Errorf("no flight: %+v", r)
	}
}

// Every alarm of the map over a flight of ten minutes: a pilot moves over it without waiting.
func BenchmarkAlarmMap(b *testing.B) {
	f := power.Flown{Given: falling(rand.New(rand.NewPCG(8, 1)), 600), Cells: 4, Land: 3.3}
	for b.Loop() {
		f.Map()
	}
	b.ReportMetric(b.Elapsed().Seconds()*1000/float64(b.N), "ms/map")
}

// What is recommended is what a search through every alarm of the map finds, and it says where nothing leaves enough.
func TestRecommendAgainstEveryAlarm(t *testing.T) {
	f := power.Flown{Given: falling(rand.New(rand.NewPCG(8, 1)), 300), Cells: 4, Land: 3.3}
	m := f.Map()
	got, ok := m.Recommend(30)
	if !ok {
		t.Fatal("nothing is recommended")
	}
	best := f.Replay(got)
	if best.Seconds < 30 || best.Seconds > 90 {
		t.Errorf("it leaves %.1f s where 30 are wanted", best.Seconds)
	}
	for _, v := range m.Thresholds {
		for _, d := range m.Delays {
			r := f.Replay(power.Alarm{PerCell: v, Delay: d})
			if !r.True || r.Seconds < 30 || r.Seconds > 90 {
				continue
			}
			if r.False < best.False || r.False == best.False && d < got.Delay || r.False == best.False && d == got.Delay && r.Seconds < best.Seconds {
				t.Errorf("%v V after %v s leaves %.1f s with %d false; %+v leaves %.1f s with %d", v, d, r.Seconds, r.False, got, best.Seconds, best.False)
			}
		}
	}
	early := power.AlarmMap{Thresholds: []float64{3.5, 3.6}, Delays: []float64{0}, False: [][]int{{3}, {0}}, Seconds: [][]float64{{200}, {300}}}
	if a, ok := early.Recommend(30); !ok || a.PerCell != 3.5 {
		t.Errorf("of those that leave too much: %+v, %v", a, ok)
	}
	if _, ok := m.Recommend(1000); ok {
		t.Error("an alarm that leaves more than the flight")
	}
}
