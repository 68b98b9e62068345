package flight

import (
	"testing"

	"vividperch/core/airframe"
	"vividperch/core/quad"
)

// sample is a 5-inch quad of 0.72 kg with the drive of the worked check values.
func sample() Input {
	parts := quad.Parts{
		Frame:     quad.Frame{ArmFront: 80, ArmSide: 80, LegHeight: 25, DragArea: 120},
		Motor:     quad.Motor{KV: 1700, Resistance: 55, IdleCurrent: 1.1, Poles: 14, TimeConst: 30},
		Propeller: quad.Propeller{Diameter: 127, Thrust: 0.18, Power: 0.12, Reversed: 0.5},
	}
	rotation := quad.FrontLeftClockwise
	places := map[string]quad.Corner{"A": quad.FrontRight, "B": quad.RearLeft, "C": quad.FrontLeft, "D": quad.RearRight}
	actual := quad.Actual{Layout: quad.LayoutX, Outputs: map[string]quad.OutputActual{}, Hands: map[quad.Corner]quad.Spin{}, Sticks: map[quad.Axis]quad.Ends{}, Channels: map[quad.Axis]int{}}
	for l, c := range places {
		actual.Outputs[l] = quad.OutputActual{Corner: c, Spin: rotation.Wants(c)}
		actual.Hands[c] = rotation.Wants(c)
	}
	for _, a := range quad.Axes {
		actual.Sticks[a] = quad.Ends{Low: 1000, Centre: 1500, High: 2000}
		actual.Channels[a] = quad.ChannelIn("AETR", a)
	}
	rates := quad.Rates{Centre: 140, Peak: 670, Bend: 0.4}
	return Input{
		Parts: parts, Pack: quad.Pack{Cells: 6, Resistance: 18, Capacity: 1300}, CellVolt: 4.1, Mass: 0.72,
		Settings: Settings{
			ArmTilt: 25,
			Order:   "AETR", Arm: quad.Range{Channel: 5, From: 1700, To: 2100}, SelfLevel: quad.Range{Channel: 6, From: 1700, To: 2100},
			IdleBelow: 1050, Layout: quad.LayoutX, Rotation: rotation, Places: places, Idle: 0.055, Limit: 1,
			Family: quad.CentrePeak, Rates: [3]quad.Rates{rates, rates, {Centre: 120, Peak: 560, Bend: 0.3}},
			Gains:      [3]quad.Gains{{Proportional: 0.045, Integral: 0.12, Derivative: 0.0006}, {Proportional: 0.048, Integral: 0.12, Derivative: 0.00065}, {Proportional: 0.09, Integral: 0.15}},
			AngleLimit: 50, Pull: 6, Guard: 1, Policy: quad.PolicyDrop,
		},
		Actual: actual, Site: Site{Density: airframe.Density}, Noise: GyroNoise, Seed: 1,
	}
}

// bothWays tells every speed controller of reversible thrust.
func bothWays(in *Input) {
	outputs := map[string]quad.OutputActual{}
	for letter, a := range in.Actual.Outputs {
		a.BothWays = true
		outputs[letter] = a
	}
	in.Actual.Outputs = outputs
}

func mustNew(t testing.TB, in Input) *Stepper {
	t.Helper()
	s, err := New(in)
	if err != nil {
		t.Fatal(err)
	}
	return s
}
