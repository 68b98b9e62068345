package standin

import (
	"maps"

	"vividperch/bench/protocol"
	"vividperch/core/quad"
)

// soldered wires of a kit.
func soldered(k Kit) map[string]quad.Wire {
	out := maps.Clone(k.Wires)
	if out == nil {
		out = map[string]quad.Wire{}
	}
	if _, told := out["receiver"]; !told && k.Receiver.Port != "" {
		out["receiver"] = quad.Wire{Port: k.Receiver.Port}
	}
	return out
}

// jobs are the words of the stand-in's firmwares for what a port can be told.
var jobs = map[quad.PortFunction]string{quad.PortReceiver: "receiver", quad.PortSatellite: "satellite", quad.PortVideo: "video", quad.PortDisplay: "display", quad.PortTelemetry: "talk"}

// fed says whether a device has its supply: from the pack, or from USB where its rail hangs on that too.
func (d *Device) fed(w quad.Wire) bool {
	return w.Rail != "-" && (d.pack || d.usb && d.kit.Parts.Board.Rails[w.Rail].USB)
}

// answers says whether the board hears a device, by where its wires really end. It is worked out here a second time, apart
// from the product's own wiring, so that a wrong idea in one of them shows.
func (d *Device) answers(name string) bool {
	w, there := d.wires[name]
	if !there {
		return false
	}
	device := d.devices[name]
	if name == "receiver" && device.Function == "" {
		device = quad.Device{Function: quad.PortReceiver, Talks: true}
	}
	// Where its output ends, and where the board's ends at it.
	speaks, listens := w.Out, w.In
	if speaks == "" {
		speaks = "R" + w.Port
		if d.kit.Parts.Board.Ports[w.Port].Soft || device.OneWire {
			speaks = w.Port
		}
	}
	if listens == "" {
		listens = "T" + w.Port
		if d.kit.Parts.Board.Ports[w.Port].Soft {
			listens = w.Port
		}
	}
	only := speaks // the one wire that matters where there is one pad
	if !device.Talks && !device.OneWire {
		only = listens
	}
	for port, told := range d.means.ports {
		part := d.kit.Parts.Board.Ports[port]
		if told != jobs[device.Function] || part.Most > 0 && device.Baud > part.Most {
			continue
		}
		switch {
		case part.Soft || device.OneWire:
			if only == port && (part.Soft || part.OneWire) {
				return true
			}
		case device.Talks:
			if speaks == "R"+port && part.Receive && (name != "receiver" || d.means.inverted == d.kit.Receiver.Inverted) {
				return true
			}
		case listens == "T"+port && part.Send:
			return true
		}
	}
	return false
}

func (d *Device) solder(s protocol.Solder) error {
	if d.pack || d.usb {
		return refuse("take pack and USB out before you solder")
	}
	if _, known := d.devices[s.Device]; !known {
		return refuse("there is no %q on this quad", s.Device)
	}
	d.wires = maps.Clone(d.wires)
	d.wires[s.Device] = quad.Wire{Port: s.Port, Out: s.Out, In: s.In, Rail: s.Rail}
	return nil
}
