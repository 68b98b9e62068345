package wiring

import (
	"fmt"
	"slices"
	"strings"

	"vividperch/core/quad"
)

// Answers says for every device with a port whether it would be heard, wired and told as given, with the pack in.
func Answers(p quad.Parts, ports map[string]quad.PortPlan) map[string]bool {
	out := map[string]bool{}
	devices := Devices(p)
	for name, d := range devices {
		if serial(d) && d.Function != quad.PortNothing && d.Function != "" {
			out[name] = heard(p, ports, d, p.Wires[name])
		}
	}
	return out
}

// heard says whether what a device says arrives at a port that is told to listen for it; of one that only listens,
// whether it hears the board.
func heard(p quad.Parts, ports map[string]quad.PortPlan, d quad.Device, w quad.Wire) bool {
	output, input := ends(p.Board, d, w)
	if w.Rail == "-" {
		return false // its supply is off
	}
	pad := output
	kinds := []PadKind{PadReceive, PadBoth}
	switch {
	case d.OneWire:
		kinds = []PadKind{PadBoth, PadSend}
	case !d.Talks:
		pad, kinds = input, []PadKind{PadSend, PadBoth}
	}
	for _, x := range Pads(p.Board) {
		if x.Name == pad && slices.Contains(kinds, x.Kind) {
			part := p.Board.Ports[x.Port]
			return ports[x.Port].Function == d.Function && (!d.Inverted || part.Inverts || part.Soft) && (fastest(part) == 0 || d.Baud <= fastest(part)) && (!d.Direct || part.Direct) && hears(ports[x.Port], d)
		}
	}
	return false
}

// Seen says which devices were seen to answer, and which to be silent.
func Seen(k quad.Known) map[string]bool {
	out := map[string]bool{}
	if r := k.Readings.Wiring.ReceiverAnswers; r != nil {
		out["receiver"] = r.Value
	}
	for device, r := range k.Readings.Wiring.Answers {
		if r != nil {
			out[device] = r.Value
		}
	}
	return out
}

// Suspect is a cause that may lie behind devices that are silent.
type Suspect struct {
	Device string `json:"device"`
	// Kind is told, off, supply, crossed, exchanged or neighbour.
	Kind  string  `json:"kind"`
	Says  string  `json:"says"`
	Test  string  `json:"test"`  // the cheapest next look
	Share float64 `json:"share"` // of all that was thought of, 0 to 1
}

type hypothesis struct {
	Suspect
	wires map[string]quad.Wire
	prior float64
}

// How often a wire is wrong in which way, as shares of all wrong wires: the builder's own estimate, to be moved by what
// readings show.
const (
	oftenCrossed   = 0.34
	oftenOff       = 0.2
	oftenNeighbour = 0.16
	oftenExchanged = 0.18
	oftenSupply    = 0.12
	// A wrong answer of the pattern makes a cause this much less likely; not nothing, because two things can be wrong.
	againstPattern = 0.02
)

// Which wire is wrong: from the devices that were seen to answer or not with the pack in, the causes in order of
// likelihood. Nothing comes when all of them answer, or nothing was looked at.
func Which(p quad.Parts, ports map[string]quad.PortPlan, seen map[string]bool) []Suspect {
	silent := []string{}
	for _, name := range quad.SortedKeys(seen) {
		if !seen[name] {
			silent = append(silent, name)
		}
	}
	out := []Suspect{}
	if len(silent) == 0 {
		return out
	}
	meant := Answers(p, ports)
	for _, name := range silent {
		if expected, known := meant[name]; known && !expected {
			d, w := Devices(p)[name], p.Wires[name]
			out = append(out, Suspect{Device: name, Kind: "told", Share: 1,
				Says: fmt.Sprintf("As drawn and told it cannot answer: the %s is on port %s, which is told %s.", name, orNone(w.Port), orNone(string(ports[w.Port].Function))),
				Test: fmt.Sprintf("Give port %s to the %s, or move its wire.", orNone(w.Port), d.Function)})
		}
	}
	if len(out) > 0 {
		return out
	}
	total := 0.0
	var list []hypothesis
	for _, h := range hypotheses(p, silent) {
		q := p
		q.Wires = h.wires
		would := Answers(q, ports)
		for name, answers := range seen {
			if would[name] != answers {
				h.prior *= againstPattern
			}
		}
		total += h.prior
		list = append(list, h)
	}
	slices.SortStableFunc(list, func(a, b hypothesis) int {
		switch {
		case a.prior > b.prior:
			return -1
		case a.prior < b.prior:
			return 1
		}
		return 0
	})
	for _, h := range list[:min(6, len(list))] {
		h.Share = h.prior / total
		out = append(out, h.Suspect)
	}
	return out
}

func orNone(s string) string {
	if s == "" {
		return "none"
	}
	return s
}

// hypotheses of one wrong wire, or of two that changed places.
func hypotheses(p quad.Parts, silent []string) []hypothesis {
	devices := Devices(p)
	var out []hypothesis
	with := func(device string, change func(*quad.Wire)) map[string]quad.Wire {
		wires := map[string]quad.Wire{}
		for k, v := range p.Wires {
			wires[k] = v
		}
		w := wires[device]
		change(&w)
		wires[device] = w
		return wires
	}
	for _, name := range silent {
		d, w := devices[name], p.Wires[name]
		output, input := ends(p.Board, d, w)
		add := func(kind string, prior float64, says, test string, change func(*quad.Wire)) {
			out = append(out, hypothesis{Suspect{Device: name, Kind: kind, Says: says, Test: test}, with(name, change), prior})
		}
		if d.Talks && d.Listens && !d.OneWire {
			add("crossed", oftenCrossed, fmt.Sprintf("The %s's two data wires are exchanged: its output is on %s, which sends too.", name, input),
				fmt.Sprintf("Follow the wire from the %s's output: it must end at %s.", name, output), func(w *quad.Wire) { w.Out, w.In = input, output })
		}
		signal, pad := Output, output
		if !d.Talks && !d.OneWire {
			signal, pad = Input, input
		}
		add("off", oftenOff, fmt.Sprintf("The wire from the %s's %s to %s is off, or its joint is cold.", name, signal, pad),
			fmt.Sprintf("Pack out: the ohmmeter from the %s's %s to %s must show nearly nothing.", name, signal, pad), func(w *quad.Wire) {
				w.Out, w.In = "-", "-"
			})
		add("supply", oftenSupply, fmt.Sprintf("The %s has no supply, or no ground.", name), fmt.Sprintf("Pack in: the voltmeter at the %s itself.", name), func(w *quad.Wire) { w.Rail = "-" })
		for _, other := range neighbours(p.Board, pad) {
			add("neighbour", oftenNeighbour/2, fmt.Sprintf("The %s's %s is on %s instead of %s.", name, signal, other, pad),
				fmt.Sprintf("Look at %s and %s under magnification.", pad, other), func(w *quad.Wire) { w.Out, w.In = other, input })
		}
	}
	for i, a := range silent {
		for _, b := range silent[i+1:] {
			wires := with(a, func(w *quad.Wire) { w.Port, w.Out, w.In = p.Wires[b].Port, p.Wires[b].Out, p.Wires[b].In })
			w := wires[b]
			w.Port, w.Out, w.In = p.Wires[a].Port, p.Wires[a].Out, p.Wires[a].In
			wires[b] = w
			out = append(out, hypothesis{Suspect{Device: a, Kind: "exchanged",
				Says: fmt.Sprintf("The %s and the %s have changed places: each is on the other's port.", a, b),
				Test: fmt.Sprintf("Follow one wire from the %s to the board.", a)}, wires, oftenExchanged})
		}
	}
	return out
}

// neighbours of a pad that receives: the pads of the next ports that do.
func neighbours(b quad.BoardPart, pad string) []string {
	var same []string
	for _, p := range Pads(b) {
		if p.Kind == PadReceive || p.Kind == PadSend {
			same = append(same, p.Name)
		}
	}
	i := slices.Index(same, pad)
	if i < 0 {
		return nil
	}
	var out []string
	for _, k := range []int{i - 1, i + 1} {
		if k >= 0 && k < len(same) && strings.TrimLeft(same[k], "RT") != strings.TrimLeft(pad, "RT") {
			out = append(out, same[k])
		}
	}
	return out
}
