package motors

import "vividperch/core/quad"

// Sign is one line of the sign table: a mistake, which corners it shows at, and what the quad then makes of every command.
type Sign struct {
	Title   string       `json:"title"`
	Words   string       `json:"words"`
	Corners []SignCorner `json:"corners"` // in the order of quad.Corners
	Answers [3]Answer    `json:"answers"`
}

// SignCorner is one corner in it.
type SignCorner struct {
	Spin  quad.Spin   `json:"spin"`
	Hand  quad.Spin   `json:"hand"`
	Up    bool        `json:"up"`    // it pushes up
	From  quad.Corner `json:"from"`  // whose command it gets
	Wrong bool        `json:"wrong"` // it is not as planned
}

// SignTable for a layout and a rotation; reversed is the share of thrust that a propeller gives which is turned backwards.
func SignTable(layout quad.Layout, rotation quad.Rotation, reversed float64) []Sign {
	type mistake struct {
		title, words string
		spoil        func(*quad.Actual)
	}
	at := map[quad.Corner]string{quad.FrontLeft: "1", quad.FrontRight: "2", quad.RearLeft: "3", quad.RearRight: "4"}
	plan := map[string]quad.OutputPlan{}
	for c, letter := range at {
		plan[letter] = quad.OutputPlan{Corner: c}
	}
	turn := func(a *quad.Actual, c quad.Corner) {
		o := a.Outputs[at[c]]
		o.Spin = o.Spin.Opposite()
		a.Outputs[at[c]] = o
	}
	exchange := func(a *quad.Actual, x, y quad.Corner) {
		a.Outputs[at[x]], a.Outputs[at[y]] = a.Outputs[at[y]], a.Outputs[at[x]]
	}
	side, end := "a left-right pair", "a front-rear pair"
	if layout == quad.LayoutPlus {
		side, end = "front and right", "front and left"
	}
	var out []Sign
	for _, m := range []mistake{
		{"One turns wrong, its propeller unchanged", "It pushes down, with its torque the wrong way: it tips over to that corner before it lifts.", func(a *quad.Actual) { turn(a, quad.RearLeft) }},
		{"One turns wrong, its propeller changed to match", "It pushes up; yaw keeps half its authority and must hold off two torques: it turns slowly, hands off.", func(a *quad.Actual) {
			turn(a, quad.RearLeft)
			a.Hands[quad.RearLeft] = a.Hands[quad.RearLeft].Opposite()
		}},
		{"One propeller of the wrong hand", "It pushes down, its torque as planned: it tips over to that corner.", func(a *quad.Actual) { a.Hands[quad.RearLeft] = a.Hands[quad.RearLeft].Opposite() }},
		{"Two of one spin exchanged, across the middle", Opposite.Story(), func(a *quad.Actual) { exchange(a, quad.FrontRight, quad.RearLeft) }},
		{"Two neighbours exchanged: " + side, Neighbours.Story(), func(a *quad.Actual) { exchange(a, quad.FrontLeft, quad.FrontRight) }},
		{"Two neighbours exchanged: " + end, Neighbours.Story(), func(a *quad.Actual) { exchange(a, quad.FrontLeft, quad.RearLeft) }},
		{"All turn the other way, propellers to match, not declared", "Roll and pitch are right, yaw is fed back the wrong way: it turns faster and faster.", func(a *quad.Actual) {
			for _, c := range quad.Corners {
				turn(a, c)
				a.Hands[c] = a.Hands[c].Opposite()
			}
		}},
	} {
		a := quad.Actual{Outputs: map[string]quad.OutputActual{}, Hands: map[quad.Corner]quad.Spin{}}
		for c, letter := range at {
			a.Outputs[letter] = quad.OutputActual{Corner: c, Spin: rotation.Wants(c)}
			a.Hands[c] = rotation.Wants(c)
		}
		m.spoil(&a)
		s := Sign{Title: m.title, Words: m.words, Answers: Answers(layout, rotation, plan, a, reversed)}
		for _, c := range quad.Corners {
			for letter, o := range a.Outputs {
				if o.Corner == c {
					s.Corners = append(s.Corners, SignCorner{
						Spin: o.Spin, Hand: a.Hands[c], Up: o.Spin == a.Hands[c], From: plan[letter].Corner,
						Wrong: o.Spin != rotation.Wants(c) || a.Hands[c] != rotation.Wants(c) || plan[letter].Corner != c,
					})
				}
			}
		}
		out = append(out, s)
	}
	return out
}

// FrameChoice is one bit rate laid against a loop.
type FrameChoice struct {
	BitRate float64     `json:"bitRate" unit:"kbit/s"`
	Timing  FrameTiming `json:"timing"`
}

// FrameChoices are the usual bit rates of a digital throttle against the loop that is set.
func FrameChoices(m quad.MotorsSheet, load float64) []FrameChoice {
	var out []FrameChoice
	for _, rate := range []float64{150, 300, 600, 1200} {
		m.Protocol, m.BitRate = quad.ProtocolDigital, rate
		out = append(out, FrameChoice{rate, TimingOf(m, load)})
	}
	return out
}
