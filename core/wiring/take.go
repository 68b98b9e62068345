package wiring

import (
	"maps"

	"vividperch/core/quad"
)

// Take puts a plan on what is meant: every device where the plan has it, every port told what it then does. What the
// pilot noted of a wire stays with its device.
func Take(m quad.Meant, plan *Plan) quad.Meant {
	devices := Devices(m.Parts)
	m.Parts.Wires = maps.Clone(m.Parts.Wires)
	if m.Parts.Wires == nil {
		m.Parts.Wires = map[string]quad.Wire{}
	}
	ports := map[string]quad.PortPlan{}
	for name, p := range m.Parts.Board.Ports {
		ports[name] = quad.PortPlan{Function: quad.PortNothing}
		if p.USB {
			ports[name] = quad.PortPlan{Function: quad.PortConfigure}
		}
	}
	for _, x := range plan.Places {
		w := m.Parts.Wires[x.Device]
		if w.Port != x.Port || devices[x.Device].OneWire {
			w.Out, w.In = "", "" // on the port's own pads
		}
		// A wire that was crossed where it stays is put right.
		if crossed(m.Parts.Board, devices[x.Device], w) {
			w.Out, w.In = "", ""
		}
		w.Port, w.Bus, w.Rail = x.Port, x.Bus, x.Rail
		m.Parts.Wires[x.Device] = w
		if x.Port != "" && devices[x.Device].Function != "" {
			ports[x.Port] = planFor(m.Sheet.Wiring.Ports[x.Port], devices[x.Device])
		}
	}
	m.Sheet.Wiring.Ports = ports
	return m
}

// Move one device's wires: the port it comes to is told what the device is, and the one it leaves, when nobody else is on
// it, nothing. A device that is not there, or a pad that the board does not have, is a Fault at its name.
func Move(m quad.Meant, device string, w quad.Wire) (quad.Meant, error) {
	devices := Devices(m.Parts)
	d, ok := devices[device]
	if !ok {
		return m, quad.Faultf("no-device", "parts.devices", "there is no device %q", device)
	}
	for _, pad := range []string{w.Out, w.In, w.Rail} {
		if pad != "" && !hasPad(m.Parts.Board, pad) {
			return m, quad.Faultf("no-pad", "pad "+pad, "the board has no pad %q", pad)
		}
	}
	// The port is the one that its output, or its input, comes to.
	for _, pad := range []string{w.In, w.Out} {
		for _, x := range Pads(m.Parts.Board) {
			if x.Name == pad && x.Port != "" {
				w.Port = x.Port
			}
		}
	}
	if _, has := m.Parts.Board.Ports[w.Port]; w.Port != "" && !has {
		return m, quad.Faultf("no-port", "pad "+w.Port, "the board has no port %q", w.Port)
	}
	// Pads that are the port's own are not named: so two ways to say one thing are one.
	if output, input := ends(m.Parts.Board, d, quad.Wire{Port: w.Port}); w.Out == output && (w.In == input || w.In == "") || w.In == input && w.Out == "" {
		w.Out, w.In = "", ""
	}
	old := m.Parts.Wires[device]
	w.Leads = old.Leads
	m.Parts.Wires = maps.Clone(m.Parts.Wires)
	if m.Parts.Wires == nil {
		m.Parts.Wires = map[string]quad.Wire{}
	}
	m.Parts.Wires[device] = w
	if !serial(d) || d.Function == "" {
		return m, nil
	}
	ports := maps.Clone(m.Sheet.Wiring.Ports)
	if ports == nil {
		ports = map[string]quad.PortPlan{}
	}
	if old.Port != w.Port && old.Port != "" && ports[old.Port].Function == d.Function && !others(m.Parts.Wires, old.Port) {
		ports[old.Port] = quad.PortPlan{Function: quad.PortNothing}
	}
	if w.Port != "" && !m.Parts.Board.Ports[w.Port].USB {
		ports[w.Port] = planFor(ports[w.Port], d)
	}
	m.Sheet.Wiring.Ports = ports
	return m, nil
}

// planFor a port: what it is told of a device. One that is told so already stays as it is.
func planFor(now quad.PortPlan, d quad.Device) quad.PortPlan {
	if now.Function == d.Function && hears(now, d) {
		return now
	}
	if d.Function == quad.PortReceiver {
		return quad.PortPlan{Function: d.Function, Baud: now.Baud}
	}
	return quad.PortPlan{Function: d.Function, Baud: d.Baud}
}

func others(wires map[string]quad.Wire, port string) bool {
	for _, w := range wires {
		if w.Port == port {
			return true
		}
	}
	return false
}

func hasPad(b quad.BoardPart, name string) bool {
	for _, p := range Pads(b) {
		if p.Name == name {
			return true
		}
	}
	return false
}
