package flight

import (
	"sync"
	"syscall"
	"testing"
	"time"

	"vividperch/core/quad"
)

// times reports how much faster than the clock flights are, by the processor's time: on a machine that others use too, the wall's tells
// of them.
func times(b *testing.B, in Input, f Flight) {
	b.Helper()
	seconds, began := 0.0, used(b)
	for b.Loop() {
		run, err := Fly(in, f, Watching{})
		if err != nil {
			b.Fatal(err)
		}
		seconds += run.Frames[len(run.Frames)-1].Time
	}
	b.ReportMetric(seconds/(used(b)-began).Seconds(), "x-realtime")
}

// used is the processor's time that this process has had.
func used(b *testing.B) time.Duration {
	b.Helper()
	var u syscall.Rusage
	if err := syscall.Getrusage(syscall.RUSAGE_SELF, &u); err != nil {
		b.Fatal(err)
	}
	return time.Duration(u.Utime.Nano() + u.Stime.Nano())
}

// Plain: no noise, no wind, contact and controller at 1 kHz.
func BenchmarkFirstHover(b *testing.B) {
	in := ready(FirstHover)
	in.Noise = 0
	times(b, in, FirstHover.Steady())
}

// With noise, gusts and its own wake, at 1 kHz.
func BenchmarkFirstHoverInWind(b *testing.B) {
	in := ready(FirstHover)
	in.Site.WindNorth, in.Site.Gust = -4, 0.8
	times(b, in, FirstHover.Steady())
}

func BenchmarkDiveInWind(b *testing.B) {
	in := ready(DiveRecovery)
	in.Site.WindNorth, in.Site.Gust = -4, 0.8
	times(b, in, DiveRecovery.Steady())
}

// At 4 kHz, with all of it.
func BenchmarkFirstHoverFine(b *testing.B) {
	in := ready(FirstHover)
	in.Rate = 4000
	in.Site.WindNorth, in.Site.Gust = -4, 0.8
	times(b, in, FirstHover.Steady())
}

// A consequence: a fault found, flown with and without.
func BenchmarkConsequence(b *testing.B) {
	in := clone(ready(FirstHover))
	a := in.Actual.Outputs["B"]
	a.Spin = a.Spin.Opposite()
	in.Actual.Outputs["B"] = a
	for b.Loop() {
		c, err := Isolate(in, quad.FrontLeftClockwise, FaultSpin)
		if err != nil {
			b.Fatal(err)
		}
		for _, one := range []Input{c.Faulty, c.Sound} {
			if _, err := Fly(one, c.Flight, Watching{}); err != nil {
				b.Fatal(err)
			}
		}
	}
	b.ReportMetric(float64(b.Elapsed().Milliseconds())/float64(b.N), "ms/consequence")
}

// A hundred rehearsals with as many seeds, on two processors.
func BenchmarkHundredRehearsals(b *testing.B) {
	for b.Loop() {
		var wait sync.WaitGroup
		for part := range 2 {
			wait.Go(func() {
				for seed := part; seed < 100; seed += 2 {
					in := ready(FirstHover)
					in.Seed = uint64(seed)
					in.Site.WindNorth, in.Site.Gust = -4, 0.8
					if _, err := Fly(in, FirstHover.Steady(), Watching{}); err != nil {
						b.Error(err)
					}
				}
			})
		}
		wait.Wait()
	}
	b.ReportMetric(b.Elapsed().Seconds()/float64(b.N), "s/100rehearsals")
}
