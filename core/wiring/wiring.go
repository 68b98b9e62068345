// Package wiring knows which device is soldered to which pad of the board, what its port is told to do there, what feeds
// it, and how all of it could be soldered so that it works.
package wiring

import (
	"math"
	"slices"
	"strings"

	"vividperch/core/quad"
)

// Devices of a quad with what each needs: those that the parts list, and what follows from its receiver, satellite
// receiver and video set.
func Devices(p quad.Parts) map[string]quad.Device {
	out := map[string]quad.Device{}
	for name := range p.Wires {
		switch name {
		case "satellite":
			out[name] = quad.Device{Function: quad.PortSatellite, Talks: true, Listens: true}
		case "video":
			out[name] = quad.Device{Function: quad.PortVideo, Listens: true}
		}
	}
	if _, wired := p.Wires["receiver"]; wired || p.Receiver.Link != "" {
		out["receiver"] = quad.Device{Function: quad.PortReceiver, Talks: true, Listens: p.Receiver.Telemetry}
	}
	for name, d := range p.Devices {
		out[name] = d
	}
	if d, ok := out["receiver"]; ok {
		d.Inverted = p.Receiver.Inverted // said once, of the receiver itself
		if speed := SpeedOf(p.Receiver); speed > 0 {
			d.Baud = speed
		}
		out["receiver"] = d
	}
	return out
}

// serial says whether a device needs a serial port.
func serial(d quad.Device) bool { return !d.Bus && (d.Talks || d.Listens || d.OneWire) }

// PadKind is what a pad of a board does.
type PadKind string

const (
	PadReceive PadKind = "receive"
	PadSend    PadKind = "send"
	PadBoth    PadKind = "both"  // one wire, both ways
	PadData    PadKind = "data"  // of a bus
	PadClock   PadKind = "clock" // of a bus
	PadRail    PadKind = "rail"
	PadGround  PadKind = "ground"
	PadUSB     PadKind = "usb"
)

// Pad of a board.
type Pad struct {
	Name string  `json:"name"`
	Kind PadKind `json:"kind" enum:"receive,send,both,data,clock,rail,ground,usb"`
	Port string  `json:"port"` // of a serial pad
	Bus  string  `json:"bus"`
	Rail string  `json:"rail"`
}

// Pads of a board in the order in which they are drawn: port by port, buses, rails, ground.
func Pads(b quad.BoardPart) []Pad {
	var out []Pad
	for _, name := range quad.SortedKeys(b.Ports) {
		p := b.Ports[name]
		switch {
		case p.USB:
			out = append(out, Pad{Name: "USB", Kind: PadUSB, Port: name})
		case p.Soft || p.OneWire && !p.Receive && !p.Send:
			out = append(out, Pad{Name: name, Kind: PadBoth, Port: name})
		default:
			if p.Receive {
				out = append(out, Pad{Name: "R" + name, Kind: PadReceive, Port: name})
			}
			if p.Send {
				out = append(out, Pad{Name: "T" + name, Kind: PadSend, Port: name})
			}
		}
	}
	for _, bus := range b.Buses {
		out = append(out, Pad{Name: "D" + bus, Kind: PadData, Bus: bus}, Pad{Name: "C" + bus, Kind: PadClock, Bus: bus})
	}
	for _, rail := range quad.SortedKeys(b.Rails) {
		out = append(out, Pad{Name: rail, Kind: PadRail, Rail: rail})
	}
	return append(out, Pad{Name: "G", Kind: PadGround})
}

// Signal is what a wire of a device carries.
type Signal string

const (
	Output Signal = "output" // of the device
	Input  Signal = "input"
	Data   Signal = "data"  // of a bus
	Clock  Signal = "clock" // of a bus
	Supply Signal = "supply"
	Ground Signal = "ground"
)

// Joint is one wire from a device to a pad.
type Joint struct {
	Device string `json:"device"`
	Signal Signal `json:"signal" enum:"output,input,data,clock,supply,ground"`
	Pad    string `json:"pad"`
	quad.Lead
}

// Leads lists every wire of a quad, device by device.
func Leads(p quad.Parts) []Joint {
	var out []Joint
	devices := Devices(p)
	for _, name := range quad.SortedKeys(devices) {
		w, soldered := p.Wires[name]
		if !soldered {
			continue
		}
		d := devices[name]
		add := func(signal Signal, pad string) {
			if pad != "" {
				out = append(out, Joint{Device: name, Signal: signal, Pad: pad, Lead: w.Leads[string(signal)]})
			}
		}
		if serial(d) {
			output, input := ends(p.Board, d, w)
			add(Output, output)
			add(Input, input)
		}
		if d.Bus && w.Bus != "" {
			add(Data, "D"+w.Bus)
			add(Clock, "C"+w.Bus)
		}
		add(Supply, w.Rail)
		if w.Rail != "" {
			add(Ground, "G")
		}
	}
	return out
}

// ends of a device's two data wires: the pads that its output and its input are soldered to.
func ends(b quad.BoardPart, d quad.Device, w quad.Wire) (output, input string) {
	p := b.Ports[w.Port]
	single := p.Soft || d.OneWire && p.OneWire
	if output = w.Out; output == "" && w.Port != "" && (d.Talks || d.OneWire) {
		if output = "R" + w.Port; single {
			output = w.Port
			if !p.Soft {
				output = "T" + w.Port // one wire for both is driven from the pad that sends
			}
		}
	}
	if input = w.In; input == "" && w.Port != "" && d.Listens && !d.OneWire {
		if input = "T" + w.Port; p.Soft {
			input = w.Port
		}
	}
	return output, input
}

// Clash is one disagreement: between solder and settings, between a device and its port, or among devices.
type Clash struct {
	// Kind is deaf: soldered, but the port does something else; nobody: the port listens and nothing is there; twice: two
	// ports for one function; shared: two devices on one port; missing: not soldered at all; crossed: output to output;
	// usb: on the plug that configures; oneWire, slow, direct, sends, hears: the port cannot do that; speed: its two ends
	// are set to different ones, which Other names; address: two of one address on
	// a bus; nobus: the board has no such bus.
	Kind   string
	Device string
	Port   string
	Told   quad.PortFunction
	Want   quad.PortFunction // what the device's port must be told
	Other  string            // the other port or device
}

// Clashes of a quad in the order of its devices and ports.
func Clashes(p quad.Parts, ports map[string]quad.PortPlan) []Clash {
	devices := Devices(p)
	var out []Clash
	onPort, onBus := map[string]string{}, map[string]string{}
	for _, name := range quad.SortedKeys(devices) {
		d, w := devices[name], p.Wires[name]
		if d.Bus {
			out = append(out, busClash(p.Board, name, d, w, onBus)...)
			continue
		}
		if !serial(d) || d.Function == "" || d.Function == quad.PortNothing {
			continue
		}
		if w.Port == "" {
			out = append(out, Clash{Kind: "missing", Device: name})
			continue
		}
		if told := ports[w.Port].Function; told != d.Function {
			out = append(out, Clash{Kind: "deaf", Device: name, Port: w.Port, Told: told, Want: d.Function})
		}
		if set := ports[w.Port].Baud; !hears(ports[w.Port], d) {
			out = append(out, Clash{Kind: "speed", Device: name, Port: w.Port, Other: quad.Quantity(d.Baud, "kBd") + " and " + quad.Quantity(set, "kBd")})
		}
		if other, taken := onPort[w.Port]; taken {
			out = append(out, Clash{Kind: "shared", Device: name, Port: w.Port, Other: other})
		}
		onPort[w.Port] = name
		part, there := p.Board.Ports[w.Port]
		if kind := cannot(d, part); there && kind != "" {
			out = append(out, Clash{Kind: kind, Device: name, Port: w.Port})
		}
		if crossed(p.Board, d, w) {
			out = append(out, Clash{Kind: "crossed", Device: name, Port: w.Port})
		}
	}
	return append(out, portClashes(devices, p, ports)...)
}

func busClash(b quad.BoardPart, name string, d quad.Device, w quad.Wire, seen map[string]string) []Clash {
	switch {
	case w.Bus == "":
		return []Clash{{Kind: "missing", Device: name}}
	case !slices.Contains(b.Buses, w.Bus):
		return []Clash{{Kind: "nobus", Device: name, Port: w.Bus}}
	}
	key := w.Bus + " " + quad.Number(float64(d.Address))
	other, taken := seen[key]
	seen[key] = name
	if taken {
		return []Clash{{Kind: "address", Device: name, Port: w.Bus, Other: other}}
	}
	return nil
}

func portClashes(devices map[string]quad.Device, p quad.Parts, ports map[string]quad.PortPlan) []Clash {
	var out []Clash
	first := map[quad.PortFunction]string{}
	for _, port := range quad.SortedKeys(ports) {
		told := ports[port].Function
		if told == quad.PortNothing || told == quad.PortConfigure || told == "" {
			continue
		}
		nobody := !slices.ContainsFunc(quad.SortedKeys(devices), func(name string) bool {
			return devices[name].Function == told && p.Wires[name].Port == port
		})
		if nobody {
			out = append(out, Clash{Kind: "nobody", Device: string(told), Port: port, Told: told})
		}
		if other, ok := first[told]; ok && (told == quad.PortReceiver || nobody) {
			out = append(out, Clash{Kind: "twice", Device: string(told), Port: port, Told: told, Other: other})
		}
		first[told] = port
	}
	for _, port := range quad.SortedKeys(p.Board.Ports) {
		if plan, planned := ports[port]; p.Board.Ports[port].USB && planned && plan.Function != quad.PortConfigure {
			out = append(out, Clash{Kind: "usb", Port: port, Told: plan.Function})
		}
	}
	return out
}

// speedsMayDiffer is the share by which two ends of a serial line may differ and still understand each other: a byte of
// ten bits is sampled wrongly from half a bit on.
const speedsMayDiffer = 0.04

// SameSpeed says whether two ends of a line understand each other, kBd. One that is not noted may be any.
func SameSpeed(a, b float64) bool {
	return a == 0 || b == 0 || math.Abs(a-b) <= speedsMayDiffer*math.Max(a, b)
}

// SpeedOf a receiver's output, kBd: as told, or what is usual for its language; 0 where neither is known.
func SpeedOf(r quad.Receiver) float64 {
	if r.Speed > 0 {
		return r.Speed
	}
	return r.Language.Speed()
}

// hears says whether a port told so listens at the speed of a device. That of a receiver goes at the speed of the language that the board
// takes the receiver to speak, whatever else it was told.
func hears(told quad.PortPlan, d quad.Device) bool {
	return d.Function == quad.PortReceiver || SameSpeed(told.Baud, d.Baud)
}

// softFastest is what software serial manages on a board that does not say, kBd.
const softFastest = 57.6

// fastest a port is, kBd; 0 is as fast as any device.
func fastest(p quad.PortPart) float64 {
	if p.Soft && p.Most == 0 {
		return softFastest
	}
	return p.Most
}

// cannot says what a port lacks for a device: usb, hears, sends, oneWire, slow, direct, inversion, or nothing.
func cannot(d quad.Device, p quad.PortPart) string {
	both := p.Soft || p.OneWire
	switch {
	case p.USB:
		return "usb"
	case d.OneWire && !both:
		return "oneWire"
	case !d.OneWire && d.Talks && d.Listens && p.Soft:
		return "oneWire" // one pad cannot have two wires that speak at once
	case d.Talks && !d.OneWire && !p.Receive && !p.Soft:
		return "hears"
	case d.Listens && !d.OneWire && !p.Send && !p.Soft:
		return "sends"
	case fastest(p) > 0 && d.Baud > fastest(p):
		return "slow"
	case d.Direct && !p.Direct:
		return "direct"
	case d.Inverted && !p.Inverts && !p.Soft:
		return "inversion"
	}
	return ""
}

// crossed says whether a device's output is soldered to a pad that sends, or its input to one that receives.
func crossed(b quad.BoardPart, d quad.Device, w quad.Wire) bool {
	if d.OneWire {
		return false
	}
	output, input := ends(b, d, w)
	return d.Talks && strings.HasPrefix(output, "T") && isPad(b, output, PadSend) || d.Listens && isPad(b, input, PadReceive)
}

func isPad(b quad.BoardPart, name string, kind PadKind) bool {
	return slices.ContainsFunc(Pads(b), func(p Pad) bool { return p.Name == name && p.Kind == kind })
}
