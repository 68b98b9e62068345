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
