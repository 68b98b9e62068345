package motors_test

import (
	"math"
	"slices"
	"testing"

	"vividperch/core/airframe"
	"vividperch/core/motors"
	"vividperch/core/quad"
	"vividperch/demo/worldtest"
)

func known(t *testing.T, name string) quad.Known {
	t.Helper()
	k := worldtest.Demo(t, name)
	k.Readings.Motors = quad.MotorsReadings{}
	return k
}

func reading[T any](v T) *quad.Reading[T] { return &quad.Reading[T]{Value: v} }

// What one motor needs at rest voltage with the heaviest pack, turned into grams for four of them, as the idle search tells it.
func idleThrust(t *testing.T, k quad.Known) (grams float64, rpm float64) {
	t.Helper()
	_, pack, _ := airframe.Heaviest(k.Parts)
	d, err := airframe.NewDrive(k.Parts, pack, airframe.RestCell*float64(pack.Cells), airframe.Density)
	if err != nil {
		t.Fatal(err)
	}
	at := d.At(k.Sheet.Motors.Idle / 100)
	return 4000 * at.Thrust / airframe.Gravity, at.Rotation / (2 * math.Pi) * 60
}

// The idle search: the worst of four counts, with the margin on top; three of four are not all, and then the one figure for all of them does.
func TestIdleOfWhatWasSeen(t *testing.T) {
	starts := func(of ...float64) map[string]*quad.Reading[quad.MotorStart] {
		out := map[string]*quad.Reading[quad.MotorStart]{}
		for i, x := range of {
			out[string(rune('A'+i))] = reading(quad.MotorStart{Starts: x, Stops: x - 0.5})
		}
		return out
	}
	for _, c := range []struct {
		name         string
		starts       map[string]*quad.Reading[quad.MotorStart]
		whole        *quad.Reading[float64]
		set          float64
		known        bool
		least        float64
		worst        string
		wanted       float64
		enough, late bool
	}{
		{"nothing seen", nil, nil, 5.5, false, 0, "", 0, true, false},
		{"all four", starts(3, 3.2, 4.1, 3.1), nil, 5.5, true, 4.1, "C", 4.1 + motors.IdleMargin, 5.5 >= 4.1+motors.IdleMargin-0.05, false},
		{"set just to it", starts(3, 3.2, 4.1, 3.1), nil, 4.1 + motors.IdleMargin, true, 4.1, "C", 4.1 + motors.IdleMargin, true, false},
		{"a tenth short", starts(3, 3.2, 4.1, 3.1), nil, 4.0 + motors.IdleMargin, true, 4.1, "C", 4.1 + motors.IdleMargin, false, false},
		{"three of four", starts(3, 3.2, 9.1), nil, 5.5, false, 0, "", 0, true, true},
		{"three of four, and one figure for all", starts(3, 3.2, 3.1), reading(3.8), 5.5, true, 3.8, "", 3.8 + motors.IdleMargin, 5.5 >= 3.8+motors.IdleMargin-0.05, false},
		{"one is held", starts(3, 3.2, 3.1, 9), nil, 5.5, true, 9, "D", 9 + motors.IdleMargin, false, true},
	} {
		k := known(t, "dunlin")
		k.Readings.Motors.Starts, k.Readings.Motors.StartsAt, k.Sheet.Motors.Idle = c.starts, c.whole, c.set
		k.Readings.Airframe.Weight = reading(700.0)
		got := motors.IdleOf(k)
		if got.Known != c.known || got.Least != c.least || got.Worst != c.worst || !(math.Abs(got.Wanted-c.wanted) <= 0.051) || got.Enough != c.enough || (got.Late != "") != c.late || len(got.Runs) != len(c.starts) {
			t.Errorf("%s: %+v", c.name, got)
		}
		grams, rpm := idleThrust(t, k)
		if !(math.Abs(got.Lifts-grams) <= 0.51) || !(math.Abs(got.Turns-rpm) <= 0.51) || !(math.Abs(got.Share-grams/7) <= 0.11) {
			t.Errorf("%s: lifts %v g of %v, turns at %v of %v, %v %% of the weight", c.name, got.Lifts, grams, got.Turns, rpm, got.Share)
		}
	}
	k := known(t, "dunlin")
	for name, weight := range map[string]*quad.Reading[float64]{"nobody weighed it": nil, "a scale that showed nothing": reading(0.0)} {
		k.Readings.Airframe.Weight = weight
		if got := motors.IdleOf(k); got.Share != 0 || got.Lifts == 0 {
			t.Errorf("%s: %+v", name, got)
		}
	}
	k.Sheet.Motors.Reversible = true
	k.Readings.Motors.Starts = starts(3, 3, 3, 3)
	k.Readings.Motors.Starts["B"].Value.BackStarts = 4
	if got := motors.IdleOf(k); !slices.Equal(got.Backward, []string{"A", "C", "D"}) {
		t.Errorf("turned backward, still to be seen: %v", got.Backward)
	}
	k.Parts.Packs = nil
	if got := motors.IdleOf(k); got.Turns != 0 || !got.Known {
		t.Errorf("without a pack: %+v", got)
	}
}

// Reversible thrust: what is told, what was seen as it is set, and whether its thrust turning backward steers it.
func TestReversingOfWhatWasSeen(t *testing.T) {
	k := known(t, "turnstone")
	k.Sheet.Motors.Reversible, k.Sheet.Sticks.IdleBelow = true, 1060
	k.Readings.Airframe.Weight = reading(640.0)
	for _, letter := range []string{"A", "B", "C", "D"} {
		o := k.Sheet.Motors.Outputs[letter]
		o.BothWays = letter != "C"
		k.Sheet.Motors.Outputs[letter] = o
	}
	k.Readings.Motors.Outputs = map[string]*quad.Reading[quad.MotorSeen]{"A": reading(quad.MotorSeen{Reversible: true}), "B": reading(quad.MotorSeen{})}
	k.Readings.Loss.Output = reading(quad.LossHold)
	_, pack, _ := airframe.Heaviest(k.Parts)
	d, err := airframe.NewDrive(k.Parts, pack, airframe.RestCell*float64(pack.Cells), airframe.Density)
	if err != nil {
		t.Fatal(err)
	}
	lifts := 4 * d.At(1).Thrust / (airframe.Mass(k.Parts, pack, 640) * airframe.Gravity)
	for _, share := range []float64{1.39 / lifts, 1.41 / lifts} {
		k.Parts.Propeller.Reversed = share
		got := motors.ReversingOf(k)
		if !slices.Equal(got.Told, []string{"A", "B", "D"}) || !slices.Equal(got.Seen, []string{"A"}) || got.Rest != 60 || got.Loss != quad.LossHold || got.Ratio != 1.4 || got.Able != (share*lifts > 1.4) {
			t.Errorf("%+v", got)
		}
	}
	k.Sheet.Motors.Reversible, k.Sheet.Sticks.IdleBelow, k.Readings.Loss.Output = false, 0, nil
	if got := motors.ReversingOf(k); !slices.Equal(got.Seen, []string{"B"}) || got.Rest != 0 || got.Loss != "" {
		t.Errorf("turned off: %+v", got)
	}
	k.Readings.Airframe.Weight = nil
	if got := motors.ReversingOf(k); got.Ratio == 0 {
		t.Errorf("by the weight of its parts: %+v", got)
	}
	k.Parts.Packs = nil
	if got := motors.ReversingOf(k); got.Ratio != 0 || got.Able || len(got.Told) != 3 {
		t.Errorf("without a pack: %+v", got)
	}
}

// What the plan wants of an output, told apart: another corner, another turn, both, or one that nobody saw.
func TestProblemsAreToldApart(t *testing.T) {
	plan := map[string]quad.OutputPlan{}
	seen := map[string]quad.MotorSeen{}
	for i, c := range quad.Corners {
		letter := string(rune('A' + i))
		plan[letter] = quad.OutputPlan{Corner: c}
		seen[letter] = quad.MotorSeen{Corner: c, Spin: quad.FrontLeftClockwise.Wants(c)}
	}
	if got := motors.Correct(plan, quad.FrontLeftClockwise, seen, nil); len(got.Problems) != 0 || got.Order != motors.AsPlanned {
		t.Errorf("as planned: %+v", got)
	}
	a, b := seen["A"], seen["B"]
	a.Spin = a.Spin.Opposite()
	seen["A"] = a
	if got := motors.Correct(plan, quad.FrontLeftClockwise, seen, nil); len(got.Problems) != 1 || got.Problems[0].Output != "A" || got.Problems[0].Place || !got.Problems[0].Turn || len(got.Remap) != 0 {
		t.Errorf("one turns wrong: %+v", got)
	}
	a.Spin = a.Spin.Opposite()
	seen["A"], seen["B"] = b, a
	got := motors.Correct(plan, quad.FrontLeftClockwise, seen, nil)
	if len(got.Problems) != 2 || !got.Problems[0].Place || got.Problems[0].Turn || !got.Problems[1].Place || len(got.Remap) != 2 {
		t.Errorf("two exchanged: %+v", got)
	}
	delete(seen, "A")
	delete(plan, "A")
	if got := motors.Correct(plan, quad.FrontLeftClockwise, seen, nil); got.Order != motors.NotAnExchange {
		t.Errorf("three of four: %+v", got)
	}
}

// By what most motors do; both where as many speak for either.
func TestRotationsSeen(t *testing.T) {
	both := []quad.Rotation{quad.FrontLeftClockwise, quad.FrontLeftCounterClockwise}
	for first, want := range map[int][]quad.Rotation{0: both[1:], 1: both[1:], 2: both, 3: both[:1], 4: both[:1]} {
		seen := map[string]quad.MotorSeen{}
		for i, c := range quad.Corners {
			of := both[1]
			if i < first {
				of = both[0]
			}
			seen[string(rune('A'+i))] = quad.MotorSeen{Corner: c, Spin: of.Wants(c)}
		}
		if got := motors.RotationsSeen(seen); !slices.Equal(got, want) {
			t.Errorf("%d of four as the first: %v", first, got)
		}
	}
	if got := motors.RotationsSeen(nil); len(got) != 2 {
		t.Errorf("of nothing: %v", got)
	}
}

// How often a protocol carries a new value, and how fast a loop it serves.
func TestSignalPeriods(t *testing.T) {
	if got := motors.SignalPeriod(quad.ProtocolPulse); got != 0.0025 {
		t.Errorf("a pulse comes every %v s", got)
	}
	if motors.SignalPeriod(quad.ProtocolDigital) != 0 || motors.PulseLoop(quad.ProtocolPulse) != 400 || motors.PulseLoop(quad.ProtocolShort) != 3000 {
		t.Error("another protocol waits")
	}
}
