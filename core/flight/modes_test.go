package flight

import (
	"math"
	"testing"

	"vividperch/core/feel"
)

func flownIn(t *testing.T, run *ModesRun, mode string) ModeFlight {
	t.Helper()
	for _, f := range run.Flights {
		if f.Mode == mode {
			return f
		}
	}
	t.Fatalf("nobody flew %s", mode)
	return ModeFlight{}
}

func fly(t *testing.T, in Input, scene Scene) *ModesRun {
	t.Helper()
	run, err := FlyModes(in, scene)
	if err != nil {
		t.Fatal(err)
	}
	return run
}

// The same stick in three modes, against what each promises: acro turns by the rate curve times the time and stays there,
// self-level leans to its share of the limit and comes back, blended does both.
func TestOneStickInThreeModes(t *testing.T) {
	in := sample()
	in.Settings.Blend = 0.75
	run := fly(t, in, SceneTrace)
	at := func(f ModeFlight, time float64) float64 { return f.Moments[int(time*momentsPerSecond)].Roll }

	// Acro: 0.5 s at 0.6 of the stick, then held; then 0.5 s at full stick. The motors' lag takes its share from both ends alike.
	acro := flownIn(t, run, "acro")
	want := 0.5 * feel.Rate(in.Settings.Family, in.Settings.Rates[0], 0.6)
	if got := at(acro, 1.9); !(math.Abs(got-want) <= 0.12*want) {
		t.Errorf("acro: turned by %v° and held, wanted %v", got, want)
	}
	if got, all := at(acro, 3.9), want+0.5*in.Settings.Rates[0].Peak; !(math.Abs(got-all) <= 0.12*all) || !acro.Over {
		t.Errorf("acro: turned by %v° in all, wanted %v, over %v", got, all, acro.Over)
	}
	// Self-level: 0.6 of 50 deg, and full stick 50 deg, back to level, never over.
	level := flownIn(t, run, "self-level")
	if got := at(level, 0.79); !(math.Abs(got-30) <= 6) {
		t.Errorf("self-level: leans by %v° at 0.6 of the stick, wanted 30", got)
	}
	if level.Over || level.Most > 58 || level.Tilt > 2 {
		t.Errorf("self-level: %+v", level.Most)
	}
	// Blended: level again after both, and over at full stick.
	blended := flownIn(t, run, "blended")
	if blended.Tilt > 3 || !blended.Over {
		t.Errorf("blended: ends at %v°, over %v", blended.Tilt, blended.Over)
	}
	if got := at(blended, 1.9); math.Mod(math.Abs(got)+1, 360) > 4 {
		t.Errorf("blended: %v° a second after it was let go", got)
	}
}

// Upset and let go of: what levels comes back, acro goes on as it was until its rotation is stopped, and stays.
func TestCaughtFromAnUpset(t *testing.T) {
	in := sample()
	in.Settings.Blend = 0.75
	run := fly(t, in, SceneCatch)
	for _, mode := range []string{"self-level", "blended"} {
		if f := flownIn(t, run, mode); f.Tilt > 3 {
			t.Errorf("%s ends at %v°", mode, f.Tilt)
		}
	}
	if f := flownIn(t, run, "acro"); f.Tilt < 60 || f.Lost < flownIn(t, run, "self-level").Lost {
		t.Errorf("acro ends at %v°, %v m lower", f.Tilt, f.Lost)
	}
}

// Upside down with the throttle closed: without authority at idle it cannot be turned at all, with it a full stick turns it, and
// blended does not stay there.
func TestHangingUpsideDown(t *testing.T) {
	in := sample()
	in.Settings.Blend = 0.75
	run := fly(t, in, SceneHang)
	if f := flownIn(t, run, "acro, still at idle"); f.Most > 1 || f.Tilt < 178 {
		t.Errorf("without authority it turned by %v°, ends at %v", f.Most, f.Tilt)
	}
	if f := flownIn(t, run, "acro, authority at idle"); f.Most < 60 {
		t.Errorf("with authority it turned by %v° only", f.Most)
	}
	// Blended refuses to hang: before the stick asks for anything it has turned upright.
	if f := flownIn(t, run, "blended, authority at idle"); !(math.Abs(math.Abs(f.Moments[24].Roll)-180) <= 40) {
		t.Errorf("blended turned by %v° while nobody asked", f.Moments[24].Roll)
	}
}

// At the throttle found, thrust balances the weight: level, it holds its height.
func TestHoverThrottleHovers(t *testing.T) {
	in := sample()
	x, err := hoverThrottle(in)
	if err != nil {
		t.Fatal(err)
	}
	s := mustNew(t, in)
	s.Hold(0, 0, [3]float64{})
	s.settle(x)
	s.control.armed, s.control.heard, s.control.wantedOff = true, true, true
	f := in.frame(0, x)
	f.Channels[4], f.Channels[5] = 1900, 2000
	for range Rate {
		s.Step(f)
	}
	if v := s.State().Velocity[2]; !(math.Abs(v) <= 0.1) {
		t.Errorf("after a second it climbs by %v m/s", v)
	}
	in.Mass = 40
	if _, err := FlyModes(in, SceneTrace); err == nil {
		t.Error("forty kilograms hover")
	}
	if _, err := FlyModes(sample(), "loop"); err == nil {
		t.Error("a scene that nobody wrote was flown")
	}
}
