// Package wiring knows which device is soldered to which port and what the port is told to do there.
package wiring

import "vividperch/core/quad"

// functionOf the devices that need a serial port.
var functionOf = map[string]quad.PortFunction{
	"receiver":  quad.PortReceiver,
	"satellite": quad.PortSatellite,
	"video":     quad.PortVideo,
}

// Clash is one disagreement between solder and settings.
type Clash struct {
	Kind   string // deaf: soldered but the port does something else; nobody: the port listens and nothing is there; twice: two ports for one function
	Device string
	Port   string
	Told   quad.PortFunction
	Other  string // for twice: the other port
}

// Clashes compares the soldered wires with what the ports are told, in the order of their names.
func Clashes(wires map[string]quad.Wire, ports map[string]quad.PortPlan) []Clash {
	var out []Clash
	for _, device := range quad.SortedKeys(wires) {
		want, serial := functionOf[device]
		if !serial {
			continue
		}
		port := wires[device].Port
		if told := ports[port].Function; told != want {
			out = append(out, Clash{Kind: "deaf", Device: device, Port: port, Told: told})
		}
	}
	first := map[quad.PortFunction]string{}
	for _, port := range quad.SortedKeys(ports) {
		told := ports[port].Function
		for device, f := range functionOf {
			if f != told {
				continue
			}
			if w, ok := wires[device]; !ok || w.Port != port {
				out = append(out, Clash{Kind: "nobody", Device: device, Port: port, Told: told})
			}
			if other, ok := first[told]; ok {
				out = append(out, Clash{Kind: "twice", Device: device, Port: port, Told: told, Other: other})
			}
		}
		if told != quad.PortNothing {
			first[told] = port
		}
	}
	return out
}
