package flight

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"maps"
	"math"
	"runtime"
	"strings"
	"testing"
	"time"

	"vividperch/core/quad"
)

// ready is a sample that can fly every scenario: with blended, and for the inverted hover with reversible thrust.
func ready(s Scenario) Input {
	in := sample()
	in.Actual.Outputs = maps.Clone(in.Actual.Outputs)
	in.Settings.Blended = quad.Range{Channel: 7, From: 1700, To: 2100}
	in.Settings.Blend, in.Settings.Protocol, in.Settings.LoopRate = 0.75, quad.ProtocolDigital, 4000
	if s == PositionHold || s == LostFarOut {
		in.Settings.Nav, in.Settings.Policy, in.Actual.Place = navigating().Settings.Nav, quad.PolicyReturn, navigating().Actual.Place
	}
	if s == InvertedHover {
		in.Settings.Reverses = true
		bothWays(&in)
	}
	return in
}

// A sound quad flies what a pilot asks of it, in still air and in a breeze, by a steady hand and by a beginner's.
func TestSoundQuadFliesEveryScenario(t *testing.T) {
	for _, script := range Scripts {
		for _, wind := range []float64{0, 4} {
			for _, hand := range []Hand{Steady, Beginner} {
				if hand == Beginner && (script.Scenario == FlipsAndRolls || script.Scenario == InvertedHover) {
					continue // not for a beginner
				}
				in := ready(script.Scenario)
				in.Site.WindNorth, in.Site.Gust = -wind, GustShare*wind
				run, err := Fly(in, Flight{Scenario: script.Scenario, Card: HoverCard, Hand: hand}, Watching{})
				if err != nil {
					t.Fatal(err)
				}
				if script.Scenario == RadioLost { // drop, from five metres
					if run.Summary.Outcome != string(Crashed) || run.Impact < 15 || run.Impact > 60 {
						t.Errorf("radio lost: %+v, %v J", run.Summary, run.Impact)
					}
					continue
				}
				if !run.Good {
					t.Errorf("%s, wind %v m/s, %+v: %+v", script.Scenario, wind, hand, run.Summary)
				}
				if run.Frames[len(run.Frames)-1].Time > script.Lasts {
					t.Errorf("%s lasts %v s", script.Scenario, run.Frames[len(run.Frames)-1].Time)
				}
			}
		}
	}
}

// What falls from the height of the loss scenario hits with the energy of that height, less what the air takes.
func TestImpactEnergy(t *testing.T) {
	in := ready(RadioLost)
	in.Parts.Frame.DragArea = 0
	run, err := Fly(in, RadioLost.Steady(), Watching{})
	if err != nil {
		t.Fatal(err)
	}
	// The last metre-ish before the drop is uncertain; the motors run on for a second of guard time at the height held.
	near(t, "impact, J", run.Impact, in.Mass*9.80665*5, 4)
}

// A flip takes 360 deg over the peak rate and some for the motors' lag; it ends upright.
func TestFlipIsOneTurn(t *testing.T) {
	in := ready(FlipsAndRolls)
	turned := 0.0
	var last State
	if _, err := Fly(in, FlipsAndRolls.Steady(), Watching{Rate: 500, Record: func(s State) {
		if s.Time > 0.9 && s.Time < 3 {
			turned += s.Rates[0] * (s.Time - last.Time)
		}
		last = s
	}}); err != nil {
		t.Fatal(err)
	}
	near(t, "turned about roll, deg", turned, 360, 6)
}

// Every way in which flight would show a fault, flown with it and without it.
func TestConsequences(t *testing.T) {
	exchange := func(a, b string) func(*Input) {
		return func(in *Input) {
			o := in.Actual.Outputs
			o[a], o[b] = o[b], o[a]
		}
	}
	against := func(letters ...string) func(*Input) {
		return func(in *Input) {
			for _, l := range letters {
				a := in.Actual.Outputs[l]
				a.Spin = a.Spin.Opposite()
				in.Actual.Outputs[l] = a
			}
		}
	}
	gains := func(by float64) func(*Input) {
		return func(in *Input) { in.Settings.Gains = scaled(in.Settings.Gains, by) }
	}
	for _, c := range []struct {
		fault Fault
		spoil func(*Input)
		says  string // of the one with the fault
		bad   bool   // it ends badly
	}{
		{FaultOrder, exchange("A", "B"), "tips to the", true},
		{FaultOrder, exchange("A", "C"), "tips to the left", true},
		{FaultOrder, exchange("A", "D"), "tips to the", true},
		{FaultSpin, against("B"), "tips to the rear left, still on its feet, and the propeller rear left strikes the ground", true},
		{FaultHand, func(in *Input) { in.Actual.Hands[quad.RearRight] = in.Actual.Hands[quad.RearRight].Opposite() }, "tips to the rear right", true},
		{FaultRotation, against("A", "B", "C", "D"), "turns faster and faster", true},
		{FaultLayout, func(in *Input) { in.Settings.Layout = quad.LayoutPlus }, "on its feet it already leans to the front", false},
		{FaultChannels, func(in *Input) {
			a := in.Actual.Channels
			a[quad.Roll], a[quad.Pitch] = a[quad.Pitch], a[quad.Roll]
		}, "leans to the front", true},
		{FaultDirection, func(in *Input) { in.Actual.Sticks[quad.Roll] = quad.Ends{Low: 2000, Centre: 1500, High: 1000} }, "leans to the left", true},
		{FaultMount, func(in *Input) { in.Actual.Board.Yaw = 90 }, "front right strikes", true},
		{FaultMount, func(in *Input) { in.Actual.Board.Yaw = 180 }, "tips", true},
		{FaultLevel, func(in *Input) { in.Actual.TiltRoll = 3 }, "within 1", false},
		{FaultGains, gains(14), "hunt", true},
		{FaultCell, gains(10), "hunt", true},
		{FaultCell, gains(1), "stops again", false},
		{FaultIdle, func(in *Input) {
			in.Settings.Idle = 0.0363
			for l, a := range in.Actual.Outputs {
				a.StopsAt = 3.6
				in.Actual.Outputs[l] = a
			}
		}, "falls out of step and stands", true},
		{FaultThrust, func(in *Input) { in.Mass = 5.5 }, "ground", true},
		{FaultArmSwitch, func(*Input) {}, "the arm switch was already on", true},
		{FaultLoss, func(in *Input) { in.OnLoss = quad.LossHold }, "18 s after the radio is gone it is still in the air", true},
		{FaultLoss, func(in *Input) {
			in.Settings.Reverses = true
			bothWays(in)
			in.OnLoss, in.Preset = quad.LossPreset, quad.Pulses{1500, 1500, 1000, 1500, 1900, 2000, 1500, 1500}
		}, "it hits the ground at", true},
		{FaultOneWay, func(in *Input) {
			in.Settings.Reverses = true
			bothWays(in)
			a := in.Actual.Outputs["B"]
			a.BothWays = false
			in.Actual.Outputs["B"] = a
		}, "tips to the front right", true},
	} {
		in := clone(ready(FirstHover))
		in.OnLoss = quad.LossSilence
		c.spoil(&in)
		began := time.Now()
		pair, err := Isolate(in, quad.FrontLeftClockwise, c.fault)
		if err != nil {
			t.Errorf("%s: %v", c.fault, err)
			continue
		}
		with, err := Fly(pair.Faulty, pair.Flight, Watching{})
		if err != nil {
			t.Fatal(err)
		}
		without, err := Fly(pair.Sound, pair.Flight, Watching{})
		if err != nil {
			t.Fatal(err)
		}
		if took := time.Since(began); took > 3*time.Second {
			t.Errorf("%s: took %v", c.fault, took) // the promise of 300 ms is a benchmark's; this is for what hangs
		}
		if with.Good == c.bad || !strings.Contains(with.Summary.Sentence, c.says) {
			t.Errorf("%s: with it %+v, wanted %q", c.fault, with.Summary, c.says)
		}
		if c.fault != FaultLoss && !without.Good {
			t.Errorf("%s: without it %+v", c.fault, without.Summary)
		}
		if pair.With == "" || pair.Without == "" || pair.With == pair.Without {
			t.Errorf("%s: it does not say what differs: %q, %q", c.fault, pair.With, pair.Without)
		}
	}
}

// A quad without a fault has no consequence of it; the whole can always be flown.
func TestNoConsequenceOfWhatIsRight(t *testing.T) {
	in := clone(ready(FirstHover))
	in.OnLoss = quad.LossSilence
	for _, fault := range Faults() {
		_, err := Isolate(in, quad.FrontLeftClockwise, fault)
		switch fault {
		case FaultWhole, FaultCell, FaultThrust, FaultArmSwitch: // these ask what would be
			if err != nil {
				t.Errorf("%s: %v", fault, err)
			}
		default:
			if quad.AsFault(err) == nil || quad.AsFault(err).Code != "no-consequence" {
				t.Errorf("%s of a sound quad: %v", fault, err)
			}
		}
	}
	if _, err := Isolate(in, quad.FrontLeftClockwise, "gremlins"); err == nil {
		t.Error("a fault that nobody knows was flown")
	}
}

// Gains that keep it still are found from any that do not, and have a reserve.
func TestSteadyGains(t *testing.T) {
	in := ready(FirstHover)
	in.Settings.Gains = scaled(in.Settings.Gains, 14)
	if does, err := Oscillates(in); err != nil || !does {
		t.Fatalf("fourteen times the gains: %v, %v", does, err)
	}
	share, err := SteadyGains(in)
	if err != nil || share >= 1 {
		t.Fatalf("%v, %v", share, err)
	}
	in.Settings.Gains = scaled(in.Settings.Gains, share)
	if does, _ := Oscillates(in); does {
		t.Errorf("at %v of them it still oscillates", share)
	}
	// One cell more asks for gains lower by about the square of the voltage at the same thrust: by what duty does, at least.
	more := in
	more.Pack.Cells++
	first, err := FirstGains(in, more)
	if err != nil || first > 0.95 || first < 0.6 {
		t.Errorf("with seven instead of six cells begin with %v of the gains, %v", first, err)
	}
}

// However many processors, the same flight to the last bit; written down once, so that another machine of this kind flies it too.
func TestFlightsAreBitIdentical(t *testing.T) {
	fly := func() string {
		var out []byte
		for _, script := range Scripts {
			in := ready(script.Scenario)
			in.Site.WindNorth, in.Site.Gust = -6, 1.2
			in.Actual.Imbalance = map[quad.Corner]float64{quad.FrontLeft: 1.5}
			if _, err := Fly(in, script.Scenario.Steady(), Watching{Rate: 100, Record: func(s State) {
				out = fmt.Appendf(out, "%x %x %x %x\n", math.Float64bits(s.North), math.Float64bits(s.Height), math.Float64bits(s.Attitude[1]), math.Float64bits(s.Gyro[2]))
			}}); err != nil {
				t.Fatal(err)
			}
		}
		return quad.Hash(out)
	}
	before := runtime.GOMAXPROCS(0)
	defer runtime.GOMAXPROCS(before)
	want := fly()
	for _, n := range []int{1, 2, 4} {
		runtime.GOMAXPROCS(n)
		results := make(chan string, n)
		for range n {
			go func() { results <- fly() }()
		}
		for range n {
			if got := <-results; got != want {
				t.Errorf("on %d processors it flies another way", n)
			}
		}
	}
	if runtime.GOARCH == "amd64" && want != goldenFlights {
		t.Errorf("flights are %s, were %s when version %d of the model was written: a change of the model needs a new version", want, goldenFlights, Version)
	}
}

// A trace has the columns of recorded flights, at the rate asked for, and looking at it changes nothing.
func TestTraceIsRecorded(t *testing.T) {
	var raw bytes.Buffer
	in := ready(PunchOut)
	w, err := NewTrace(&raw)
	if err != nil {
		t.Fatal(err)
	}
	watched, err := Fly(in, PunchOut.Steady(), Watching{Rate: 500, Record: w.Row})
	if err != nil {
		t.Fatal(err)
	}
	if err := w.Close(); err != nil {
		t.Fatal(err)
	}
	plain, _ := Fly(in, PunchOut.Steady(), Watching{})
	if plain.Summary != watched.Summary {
		t.Error("recording it makes another flight")
	}
	rows, err := csv.NewReader(&raw).ReadAll()
	if err != nil {
		t.Fatal(err)
	}
	if len(rows) != 500*7+1 || rows[0][0] != "time (s)" || len(rows[1]) != len(rows[0]) {
		t.Errorf("%d rows, head %v", len(rows), rows[0])
	}
	if rows[2][0] != "0.002" {
		t.Errorf("the second row is at %s s", rows[2][0])
	}
}

func TestFlyRefuses(t *testing.T) {
	nan := math.NaN()
	for _, c := range []struct {
		place string
		spoil func(*Input)
	}{
		{"readings.airframe.weight", func(in *Input) { in.Mass = nan }},
		{"readings.airframe.weight", func(in *Input) { in.Mass = 1e9 }},
		{"parts.packs", func(in *Input) { in.Pack = quad.Pack{} }},
		{"parts.packs", func(in *Input) { in.Pack.Cells = 400 }},
		{"readings.firstFlight.wind", func(in *Input) { in.Site.WindNorth = math.Inf(1) }},
		{"readings.firstFlight.gust", func(in *Input) { in.Site.Gust = nan }},
		{"sheet.feel.pitchGains.derivative", func(in *Input) { in.Settings.Gains[1].Derivative = nan }},
		{"sheet.feel.yaw.peak", func(in *Input) { in.Settings.Rates[2].Peak = 1e99 }},
		{"actual.tiltRoll", func(in *Input) { in.Actual.TiltRoll = nan }},
		{"actual.sticks.roll", func(in *Input) { in.Actual.Sticks[quad.Roll] = quad.Ends{Low: nan} }},
		{"actual.outputs.A.stopsAt", func(in *Input) {
			a := in.Actual.Outputs["A"]
			a.StopsAt = nan
			in.Actual.Outputs["A"] = a
		}},
		{"parts.motor.timeConstant", func(in *Input) { in.Parts.Motor.TimeConst = nan }},
		{"sheet.motors.loopRate", func(in *Input) { in.Settings.LoopRate = nan }},
		{"rate", func(in *Input) { in.Rate = 1 << 40 }},
		{"rate", func(in *Input) { in.Rate = 7 }},
	} {
		for _, script := range Scripts {
			in := clone(ready(script.Scenario))
			c.spoil(&in)
			if _, err := Fly(in, script.Scenario.Steady(), Watching{}); quad.AsFault(err) == nil || quad.AsFault(err).Place != c.place {
				t.Errorf("%s: want a fault at %s, got %v", script.Scenario, c.place, err)
			}
		}
	}
	if _, err := Fly(sample(), Flight{Scenario: "loop"}, Watching{}); err == nil {
		t.Error("a scenario that nobody wrote was flown")
	}
	asked := 0
	if _, err := Fly(sample(), FirstHover.Steady(), Watching{Stop: func() bool { asked++; return asked > 5 }}); quad.AsFault(err) == nil || quad.AsFault(err).Code != "cancelled" || asked != 6 {
		t.Errorf("cancelled after half a second: %v, asked %d times", err, asked)
	}
}

// An actual that lies in every field cannot hang or crash a flight: it is refused, or flown to its end.
func FuzzFly(f *testing.F) {
	f.Add(0.72, 0.05, 3.0, 0.0, 1500.0, 0.045, 80.0, uint8(0))
	f.Add(9.0, 0.9, -40.0, 180.0, 0.0, 90.0, 1.0, uint8(5))
	f.Fuzz(func(t *testing.T, mass, idle, tilt, yaw, us, gain, arm float64, which uint8) {
		script := Scripts[int(which)%len(Scripts)]
		in := clone(ready(script.Scenario))
		in.Mass, in.Settings.Idle, in.Actual.TiltRoll, in.Actual.Board.Yaw = mass, idle, tilt, yaw
		in.Actual.Sticks[quad.Throttle] = quad.Ends{Low: us, Centre: us, High: us + 500}
		in.Settings.Gains[0].Proportional, in.Parts.Frame.ArmSide = gain, arm
		run, err := Fly(in, script.Scenario.Steady(), Watching{})
		if err != nil {
			if quad.AsFault(err) == nil {
				t.Errorf("no fault: %v", err)
			}
			return
		}
		for _, frame := range run.Frames {
			for _, x := range append(frame.Place[:], frame.Attitude[:]...) {
				if math.IsNaN(x) || math.IsInf(x, 0) {
					t.Fatalf("it flies to %v", frame)
				}
			}
		}
	})
}

const goldenFlights = "15c2358914b8e11f8514362f2e3dacd130ee719d7931299a73131891876df47f"
