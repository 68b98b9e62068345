package standin

import (
	"maps"
	"math"

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
	if !there || !d.connected(name) {
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
	if name == "receiver" && !d.understands() {
		return false
	}
	for port, told := range d.means.ports {
		part := d.kit.Parts.Board.Ports[port]
		if told != jobs[device.Function] || part.Most > 0 && device.Baud > part.Most {
			continue
		}
		if name != "receiver" && !inStep(d.means.bauds[port], device.Baud) {
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

// tongues are the words of the stand-in's firmwares for what a receiver can speak, each with the kBd at which they listen to it.
var tongues = map[quad.Language]struct {
	word string
	kbd  float64
}{quad.SerialFrame: {"frame", 100}, quad.TwoWaySerial: {"both", 420}, quad.PulseTrain: {"train", 0}}

// understands says whether the board takes its receiver to speak what it really speaks, and listens at its speed.
func (d *Device) understands() bool {
	is := d.kit.Receiver
	t, known := tongues[is.Language]
	return !known || t.word == d.means.language && inStep(is.Speed, t.kbd)
}

// inStep says whether the tenth bit of a byte is still read as itself where two ends count at these speeds; 0 is whatever the other has.
func inStep(a, b float64) bool {
	return a == 0 || b == 0 || math.Abs(10/a-10/b) < 0.5/math.Max(a, b)
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
