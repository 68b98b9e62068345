package motors

import (
	"math"
	"strings"
	"testing"

	"vividperch/core/quad"
)

func near(t *testing.T, what string, got, want, tolerance float64) {
	t.Helper()
	if !(math.Abs(got-want) <= tolerance) {
		t.Errorf("%s is %.6g, want %.6g", what, got, want)
	}
}

func TestThrottleFrameWorkedValues(t *testing.T) {
	for _, c := range []struct{ rate, plain, twoWay float64 }{{150, 106.7, 248.7}, {300, 53.3, 139.3}, {600, 26.7, 84.7}, {1200, 13.3, 57.3}} {
		near(t, "frame", FrameTime(c.rate, false), c.plain, 0.05)
		near(t, "frame with reply", FrameTime(c.rate, true), c.twoWay, 0.05)
	}
	// Two-way at 300 kbit/s takes 139.3 µs: a fifth more than it fits 5.7 kHz, so 4 kHz is the fastest.
	near(t, "fastest loop", FastestLoop(FrameTime(300, true)), 4000, 0)
	near(t, "no loop", FastestLoop(2000), 0, 0)
}

func TestRotation(t *testing.T) {
	near(t, "12 poles set, 14 real", PoleError(12, 14), 0.167, 5e-4)
}

// Rank and signs of the mixer: torque from thrust at the corners' places must have the sign of its command,
// in its own axis only.
func TestMixSigns(t *testing.T) {
	type place struct{ ahead, right float64 }
	layouts := map[quad.Layout][4]place{
		quad.LayoutX:    {{1, -1}, {1, 1}, {-1, -1}, {-1, 1}},
		quad.LayoutWide: {{1, -1}, {1, 1}, {-1, -1}, {-1, 1}},
		quad.LayoutPlus: {{1, 0}, {0, 1}, {0, -1}, {-1, 0}},
	}
	for layout, at := range layouts {
		for _, rotation := range []quad.Rotation{quad.FrontLeftClockwise, quad.FrontLeftCounterClockwise} {
			roll, pitch, yaw := Mix(layout, rotation)
			for axis, mix := range [3][4]float64{roll, pitch, yaw} {
				var torque [3]float64
				sum := 0.0
				for i, c := range quad.Corners {
					torque[0] -= at[i].right * mix[i] // more thrust on the right lifts the right side
					torque[1] += at[i].ahead * mix[i] // more thrust ahead raises the nose
					turn := 1.0                       // the frame turns against the rotor
					if rotation.Wants(c) == quad.Clockwise {
						turn = -1
					}
					torque[2] += turn * mix[i]
					sum += mix[i]
				}
				for other := range torque {
					if other == axis && torque[other] <= 0 || other != axis && torque[other] != 0 {
						t.Errorf("%s %s: a command of axis %d gives torque %v", layout, rotation, axis, torque)
					}
				}
				if sum != 0 {
					t.Errorf("%s: a command of axis %d changes the total by %v", layout, axis, sum)
				}
			}
		}
	}
}

// brute gives the fewest acts that make a quad right, over every choice there is: either rotation, every subset of reversals, every
// assignment of corners; written apart from what it checks.
func brute(plan map[string]quad.OutputPlan, rotation quad.Rotation, seen map[string]quad.MotorSeen, hands map[quad.Corner]quad.Spin) int {
	letters := []string{"A", "B", "C", "D"}
	best := 99
	for declare, declared := range []quad.Rotation{rotation, Other(rotation)} {
		for reversals := range 16 {
			ok, acts := true, declare
			for i, l := range letters {
				spin := seen[l].Spin
				if reversals>>i&1 == 1 {
					spin, acts = spin.Opposite(), acts+1
				}
				ok = ok && spin == declared.Wants(seen[l].Corner)
				if seen[l].Corner != plan[l].Corner {
					acts++ // the board must be told where it is: no other telling flies
				}
			}
			for c, hand := range hands {
				if hand != declared.Wants(c) {
					acts++
				}
			}
			if ok && acts < best {
				best = acts
			}
		}
	}
	return best
}

// Over every way four outputs can be soldered and turn, both rotations, both layouts, propellers noted or not: doing what Correct says
// makes the quad right, by its own answers to every command, and no shorter list of acts would.
func TestCorrectIsRightAndShortest(t *testing.T) {
	plan := map[string]quad.OutputPlan{"A": {Corner: quad.FrontRight}, "B": {Corner: quad.RearLeft, Reversed: true}, "C": {Corner: quad.FrontLeft}, "D": {Corner: quad.RearRight}}
	letters := []string{"A", "B", "C", "D"}
	cases := 0
	orders := map[Order]int{}
	for _, layout := range []quad.Layout{quad.LayoutX, quad.LayoutPlus} {
		for _, rotation := range []quad.Rotation{quad.FrontLeftClockwise, quad.FrontLeftCounterClockwise} {
			permutations(quad.Corners[:], func(corners []quad.Corner) {
				for turns := range 16 {
					for _, noted := range []bool{false, true} {
						cases++
						seen, hands := map[string]quad.MotorSeen{}, map[quad.Corner]quad.Spin{}
						for i, l := range letters {
							spin := rotation.Wants(corners[i])
							if turns>>i&1 == 1 {
								spin = spin.Opposite()
							}
							seen[l] = quad.MotorSeen{Corner: corners[i], Spin: spin}
							if noted {
								hands[corners[i]] = rotation.Wants(corners[i])
							}
						}
						c := Correct(plan, rotation, seen, hands)
						if want := brute(plan, rotation, seen, hands); len(c.List(plan)) != want {
							t.Fatalf("%s %s %v: %d listed, %d do", layout, rotation, seen, len(c.List(plan)), want)
						}
						if turns == 0 {
							orders[c.Order]++
						}
						checkRight(t, layout, rotation, plan, seen, hands, c)
					}
				}
			})
		}
	}
	if cases != 24*16*2*2*2 {
		t.Errorf("%d cases", cases)
	}
	// Of 24 orders: as planned, 2 across the middle, 4 of neighbours, 8 rings of three, 3 of two pairs, 6 rings of four.
	for order, n := range map[Order]int{AsPlanned: 1, Opposite: 2, Neighbours: 4, RingOfThree: 8, TwoPairs: 3, RingOfFour: 6} {
		if orders[order] != 8*n {
			t.Errorf("%s: %d of 24 orders", order, orders[order]/8)
		}
	}
}

func permutations(all []quad.Corner, each func([]quad.Corner)) {
	corners := append([]quad.Corner{}, all...)
	var walk func(at int)
	walk = func(at int) {
		if at == len(corners) {
			each(corners)
			return
		}
		for i := at; i < len(corners); i++ {
			corners[at], corners[i] = corners[i], corners[at]
			walk(at + 1)
			corners[at], corners[i] = corners[i], corners[at]
		}
	}
	walk(0)
}

// checkRight does what a correction lists and asks the quad: every command must be answered by its own axis alone.
func checkRight(t *testing.T, layout quad.Layout, rotation quad.Rotation, plan map[string]quad.OutputPlan, seen map[string]quad.MotorSeen, hands map[quad.Corner]quad.Spin, c Correction) {
	t.Helper()
	after := map[string]quad.OutputPlan{}
	for l, p := range plan {
		after[l] = p
	}
	actual := quad.Actual{Outputs: map[string]quad.OutputActual{}, Hands: map[quad.Corner]quad.Spin{}}
	for l, s := range seen {
		actual.Outputs[l] = quad.OutputActual{Corner: s.Corner, Spin: s.Spin}
	}
	for _, act := range c.List(plan) {
		letter := ""
		if parts := strings.Split(string(act.Path), "."); len(parts) > 3 {
			letter = parts[3]
		}
		switch act.Kind {
		case ActRemap:
			p := after[letter]
			p.Corner = quad.Corner(act.Value)
			after[letter] = p
		case ActDeclare:
			rotation = quad.Rotation(act.Value)
		case ActReverse:
			if (act.Value == "true") == plan[letter].Reversed {
				t.Fatalf("%v: reversing %s leaves it as it is", seen, letter)
			}
			a := actual.Outputs[letter]
			a.Spin = a.Spin.Opposite()
			actual.Outputs[letter] = a
		}
	}
	for _, corner := range quad.Corners {
		actual.Hands[corner] = rotation.Wants(corner) // not noted: fitted as the plan says
		if hand, noted := hands[corner]; noted {
			actual.Hands[corner] = hand
		}
	}
	for _, corner := range c.Refit {
		actual.Hands[corner] = actual.Hands[corner].Opposite()
	}
	for i, a := range Answers(layout, rotation, after, actual, 0.5) {
		want := [3]float64{}
		want[i] = 1
		if a.By != want || !a.Good {
			t.Fatalf("%s %s %v: after %v a %s command gives %v", layout, rotation, seen, c.List(plan), a.Command, a.By)
		}
	}
}

// The sign table, each line worked by hand: what a corner does when spin or hand is wrong.
func TestEffect(t *testing.T) {
	cw, ccw := quad.Clockwise, quad.CounterClockwise
	for _, c := range []struct {
		name             string
		want, spin, hand quad.Spin
		up, yaw          bool
	}{
		{"all as planned", cw, cw, cw, true, true},
		{"spin wrong, propeller unchanged", cw, ccw, cw, false, false},
		{"spin wrong, propeller swapped to match", cw, ccw, ccw, true, false},
		{"hand wrong, spin right", cw, cw, ccw, false, true},
	} {
		if got := EffectOf(c.want, c.spin, c.hand); got.PushesUp != c.up || got.YawAsWanted != c.yaw {
			t.Errorf("%s: %+v", c.name, got)
		}
	}
}

// Against the closed form stepped by hand: an acceleration held for the reaction time, then a ballistic fall.
func TestRunaway(t *testing.T) {
	g, ratio, reaction, height := 9.80665, 1.5, 0.7, 1.0
	x, v := 0.0, 0.0
	const dt = 1e-5
	for s := 0.0; s < reaction; s += dt {
		v += g * math.Sqrt(ratio*ratio-1) * dt
		x += v * dt
	}
	fall := 0.0
	for z := 0.0; z < height; {
		fall += dt
		z = g * fall * fall / 2
	}
	near(t, "runaway", Runaway(ratio, reaction, g, height), x+v*fall, 0.01)
	near(t, "never under", Runaway(1, reaction, g, height), 3, 0)
}

func TestCornersJudgeEachCorner(t *testing.T) {
	k := quad.Known{}
	k.Sheet.Craft.Rotation = quad.FrontLeftClockwise
	k.Sheet.Motors.Outputs = map[string]quad.OutputPlan{"A": {Corner: quad.FrontLeft}, "B": {Corner: quad.FrontRight}, "C": {Corner: quad.RearLeft}, "D": {Corner: quad.RearRight}}
	seen := func(c quad.Corner, s quad.Spin) *quad.Reading[quad.MotorSeen] {
		return &quad.Reading[quad.MotorSeen]{Value: quad.MotorSeen{Corner: c, Spin: s}}
	}
	k.Readings.Motors.Outputs = map[string]*quad.Reading[quad.MotorSeen]{
		"A": seen(quad.FrontLeft, quad.Clockwise), "B": seen(quad.FrontRight, quad.Clockwise), "D": seen(quad.RearLeft, quad.CounterClockwise),
	}
	want := []Verdict{AsWanted, Against, OtherOutput, Unseen}
	for i, s := range Corners(k) {
		if s.Verdict != want[i] {
			t.Errorf("%s: %s, want %s", s.Corner, s.Verdict, want[i])
		}
	}
}

// The sign table, each row worked by hand on paper: what a command about roll, pitch and yaw does when outputs,
// spins or propellers are wrong. Letters: A front right, B rear left, C front left, D rear right.
func TestAnswersAreTheSignTable(t *testing.T) {
	plan := map[string]quad.OutputPlan{"A": {Corner: quad.FrontRight}, "B": {Corner: quad.RearLeft}, "C": {Corner: quad.FrontLeft}, "D": {Corner: quad.RearRight}}
	rotation := quad.FrontLeftClockwise
	sound := func() quad.Actual {
		a := quad.Actual{Outputs: map[string]quad.OutputActual{}, Hands: map[quad.Corner]quad.Spin{}}
		for l, p := range plan {
			a.Outputs[l] = quad.OutputActual{Corner: p.Corner, Spin: rotation.Wants(p.Corner)}
			a.Hands[p.Corner] = rotation.Wants(p.Corner)
		}
		return a
	}
	exchange := func(x, y string) func(*quad.Actual) {
		return func(a *quad.Actual) { a.Outputs[x], a.Outputs[y] = a.Outputs[y], a.Outputs[x] }
	}
	for _, c := range []struct {
		name  string
		spoil func(*quad.Actual)
		want  [3][3]float64
	}{
		{"sound", func(*quad.Actual) {}, [3][3]float64{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}}},
		// The corner's thrust counts -1/2 instead of 1: each axis keeps (3 - 1/2)/4, and what that corner did for
		// the others is missing from them. Its torque is against the plan: yaw keeps (3 - 1)/4.
		{"one spin wrong, propeller unchanged", func(a *quad.Actual) {
			a.Outputs["B"] = quad.OutputActual{Corner: quad.RearLeft, Spin: quad.Clockwise}
		}, [3][3]float64{{0.625, 0.375, -0.5}, {0.375, 0.625, 0.5}, {-0.375, 0.375, 0.5}}},
		{"one spin wrong, propeller matched: yaw has half its authority", func(a *quad.Actual) {
			a.Outputs["B"] = quad.OutputActual{Corner: quad.RearLeft, Spin: quad.Clockwise}
			a.Hands[quad.RearLeft] = quad.Clockwise
		}, [3][3]float64{{1, 0, -0.5}, {0, 1, 0.5}, {0, 0, 0.5}}},
		{"one hand wrong, spin right", func(a *quad.Actual) { a.Hands[quad.RearLeft] = quad.Clockwise }, [3][3]float64{{0.625, 0.375, 0}, {0.375, 0.625, 0}, {-0.375, 0.375, 1}}},
		{"a diagonal of like spin exchanged", exchange("A", "B"), [3][3]float64{{0, 1, 0}, {1, 0, 0}, {0, 0, 1}}},
		{"a left-right pair exchanged", exchange("A", "C"), [3][3]float64{{0, 0, 1}, {0, 1, 0}, {1, 0, 0}}},
		{"a front-rear pair exchanged", exchange("A", "D"), [3][3]float64{{1, 0, 0}, {0, 0, -1}, {0, -1, 0}}},
		{"all spins reversed, propellers matched", func(a *quad.Actual) {
			for l, o := range a.Outputs {
				o.Spin = o.Spin.Opposite()
				a.Outputs[l], a.Hands[o.Corner] = o, o.Spin
			}
		}, [3][3]float64{{1, 0, 0}, {0, 1, 0}, {0, 0, -1}}},
	} {
		a := sound()
		c.spoil(&a)
		for i, got := range Answers(quad.LayoutX, rotation, plan, a, 0.5) {
			for j := range got.By {
				if !(math.Abs(got.By[j]-c.want[i][j]) <= 1e-9) {
					t.Errorf("%s: a %s command gives %v, want %v", c.name, got.Command, got.By, c.want[i])
					break
				}
			}
			if good := c.want[i] == [3][3]float64{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}}[i]; got.Good != good {
				t.Errorf("%s: %s is called %q", c.name, got.Command, got.Words)
			}
		}
	}
}

// Throttle, roll, pitch and yaw are four independent ways to set four motors: the determinant is not zero.
func TestMixHasFullRank(t *testing.T) {
	for _, layout := range []quad.Layout{quad.LayoutX, quad.LayoutWide, quad.LayoutPlus} {
		roll, pitch, yaw := Mix(layout, quad.FrontLeftClockwise)
		m := [4][4]float64{{1, 1, 1, 1}, roll, pitch, yaw}
		det := 1.0
		for c := range 4 { // elimination with pivots
			p := c
			for r := c; r < 4; r++ {
				if math.Abs(m[r][c]) > math.Abs(m[p][c]) {
					p = r
				}
			}
			m[c], m[p] = m[p], m[c]
			det *= m[c][c]
			if m[c][c] == 0 {
				break
			}
			for r := c + 1; r < 4; r++ {
				f := m[r][c] / m[c][c]
				for k := c; k < 4; k++ {
					m[r][k] -= f * m[c][k]
				}
			}
		}
		if math.Abs(det) < 1 {
			t.Errorf("%s: determinant %v", layout, det)
		}
	}
}
