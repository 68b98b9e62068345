package sticks

import "vividperch/core/quad"

// AxisState is what is known of one stick function.
type AxisState struct {
	Axis     quad.Axis `json:"axis"`
	Captured bool      `json:"captured"`
	Channel  int       `json:"channel"` // on which the board expects it while it is not captured
	Ends     quad.Ends `json:"ends"`
	Reversed bool      `json:"reversed"`
	Jitter   float64   `json:"jitter" unit:"µs"`
	Reaches  bool      `json:"reaches"`       // both ends come close enough, through the board's range mapping
	Mapped   bool      `json:"mapped"`        // the board maps this channel's range
	Lost     float64   `json:"lost" unit:"%"` // of its resolution, to travel it does not have
}

// Axes compares what was captured with what the board expects, in the order of quad.Axes.
func Axes(k quad.Known) []AxisState {
	out := make([]AxisState, len(quad.Axes))
	for i, a := range quad.Axes {
		s := AxisState{Axis: a, Channel: quad.ChannelIn(k.Sheet.Sticks.Order, a), Ends: quad.Ends{Low: Low, Centre: Centre, High: High}}
		if m := k.Readings.Sticks.Axes[string(a)]; m != nil {
			v := m.Value
			s.Captured, s.Channel, s.Ends, s.Reversed, s.Jitter, s.Reaches = true, v.Channel, v.Ends, v.Reversed, v.Jitter, Reaches(Mapped(k.Sheet.Sticks.Ranges.Of(a), v.Ends))
			s.Mapped, s.Lost = k.Sheet.Sticks.Ranges.Of(a) != quad.Ends{}, 100*Lost(v.Ends)
		}
		out[i] = s
	}
	return out
}

// Captured switches: the values of the switch readings, by name.
func Captured(k quad.Known) map[string]quad.SwitchSeen {
	out := map[string]quad.SwitchSeen{}
	for name, m := range k.Readings.Sticks.Switches {
		if m != nil {
			out[name] = m.Value
		}
	}
	return out
}

// Meaning of one captured switch position: what flies in it, and how surely.
type Meaning struct {
	Switch   string  `json:"switch"`
	Channel  int     `json:"channel"`
	Position string  `json:"position"`
	Pulse    float64 `json:"pulse" unit:"µs"`
	Words    string  `json:"words"`
	Margin   float64 `json:"margin" unit:"µs"` // to the nearest edge of the range, whichever side it is on
	Hold     Hold    `json:"hold" enum:"sure,near,edge"`
	From     float64 `json:"from" unit:"µs"`
	To       float64 `json:"to" unit:"µs"`
}

// Meanings of every captured switch position that a range looks at.
func Meanings(k quad.Known) []Meaning {
	out := []Meaning{}
	seen := Captured(k)
	for _, f := range Functions(k.Sheet.Sticks) {
		for _, p := range Against(f.Rng, seen) {
			m := Meaning{Switch: p.Switch, Channel: f.Rng.Channel, Position: p.Position, Pulse: p.Pulse, Words: f.Off, Margin: p.Margin, Hold: HoldOf(p.Margin), From: f.Rng.From, To: f.Rng.To}
			if p.Inside {
				m.Words = f.On
			}
			if m.Margin < 0 {
				m.Margin = -m.Margin
			}
			out = append(out, m)
		}
	}
	return out
}
