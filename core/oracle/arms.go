package oracle

import (
	"fmt"
	"maps"

	"vividperch/core/airframe"
	"vividperch/core/flight"
	"vividperch/core/quad"
)

// pulses that the radio really sends with its switches in some positions and its sticks at rest. It is worked out here by itself: what rules and page go by is not asked.
func (w *world) pulses(at map[string]string) quad.Pulses {
	var out quad.Pulses
	for i := range out {
		out[i] = 1500
	}
	for name, s := range w.switches() {
		if us, ok := s.Positions[at[name]]; ok && s.Channel >= 1 && s.Channel <= len(out) {
			out[s.Channel-1] = us
		}
	}
	real := w.actualQuad()
	for _, a := range quad.Axes {
		e := real.Sticks[a]
		us := e.Centre
		if a == quad.Throttle {
			us = w.throttleAt(e, 0)
		}
		if c := real.Channels[a]; c >= 1 && c <= len(out) {
			out[c-1] = us
		}
	}
	return w.mixed(out)
}

// mixed is what is sent once every mix has had its say: each as soon as none is left that puts something onto the channel it takes from.
func (w *world) mixed(out quad.Pulses) quad.Pulses {
	left := maps.Clone(w.k.Radio.Mixes)
	maps.DeleteFunc(left, func(_ string, m quad.MixPlan) bool {
		return m.From < 1 || m.To < 1 || m.From > len(out) || m.To > len(out)
	})
	for _, m := range left {
		if m.Alone {
			out[m.To-1] = 1500
		}
	}
	for len(left) > 0 {
		done := false
		for _, name := range quad.SortedKeys(left) {
			m := left[name]
			waits := false
			for other, o := range left {
				waits = waits || other != name && o.To == m.From
			}
			if waits {
				continue
			}
			out[m.To-1] += m.Weight / 100 * (out[m.From-1] - 1500)
			delete(left, name)
			done = true
		}
		if !done {
			break // they go round
		}
	}
	for i := range out {
		out[i] = max(800, min(2200, out[i])) // no radio sends pulses beyond
	}
	return out
}

// armsByItself looks whether it arms while nobody puts the arm switch on: at power-up with everything at rest, by any other switch, and
// when a lost radio comes back. It says how, or nothing.
func (w *world) armsByItself() (how string, seconds float64, err error) {
	_, pack, _ := airframe.Heaviest(w.k.Parts)
	in, err := w.input(pack, airframe.FullCell, 1)
	if err != nil {
		return "", 0, err
	}
	s, err := flight.New(in)
	if err != nil {
		return "", 0, err
	}
	rest := w.atRest()
	hear := func(at map[string]string, lasts float64) bool {
		frame := flight.Sticks{Heard: true, Channels: w.pulses(at)}
		for range int(lasts * flight.Rate) {
			s.Step(frame)
		}
		seconds += lasts
		return s.Armed()
	}
	if hear(rest, 0.5) {
		return "at power-up, every switch at rest", seconds, nil
	}
	arm := w.k.Board.Sheet.Sticks.Arm
	for _, name := range quad.SortedKeys(w.k.Radio.Switches) {
		if plan := w.k.Radio.Switches[name]; plan.Channel == arm.Channel {
			continue // the one that the pilot takes for the arm switch
		}
		for _, at := range w.k.Radio.Switches[name].Positions {
			moved := maps.Clone(rest)
			moved[name] = at
			if hear(moved, 0.15) {
				return fmt.Sprintf("by the %s switch at %s", name, at), seconds, nil
			}
		}
		hear(rest, 0.1)
	}
	on, ok := w.armed(rest)
	if !ok || !hear(on, 0.3) {
		return "", seconds, nil
	}
	gone := in.Gone(flight.Sticks{Heard: true, Channels: w.pulses(on)})
	for range int((in.Settings.Guard + 1.5) * flight.Rate) {
		s.Step(gone)
	}
	seconds += in.Settings.Guard + 1.5
	if !s.Armed() && hear(on, 0.5) {
		return "when the radio comes back, its arm switch still on", seconds, nil
	}
	return "", seconds, nil
}

// armed is where the switches lie once the arm switch is where it arms, as the pilot finds it.
func (w *world) armed(rest map[string]string) (map[string]string, bool) {
	arm := w.k.Board.Sheet.Sticks.Arm
	for _, name := range quad.SortedKeys(w.k.Radio.Switches) {
		if w.k.Radio.Switches[name].Channel != arm.Channel {
			continue
		}
		for _, at := range w.k.Radio.Switches[name].Positions {
			on := maps.Clone(rest)
			on[name] = at
			if w.armedBy(w.pulses(on)) {
				return on, true
			}
		}
	}
	return rest, false
}
