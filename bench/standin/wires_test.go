package standin

import (
	"fmt"
	"maps"
	"math/rand/v2"
	"net"
	"testing"

	"vividperch/bench/protocol"
	"vividperch/core/quad"
	"vividperch/core/wiring"
)

// wiredKit has a board with all kinds of ports, and devices of all kinds.
func wiredKit() Kit {
	k := kit()
	k.Parts.Board.Ports = map[string]quad.PortPart{
		"1": {Send: true, Receive: true, USB: true}, "2": {Send: true, Receive: true}, "3": {Send: true, Receive: true, Most: 57.6},
		"4": {Receive: true}, "5": {Send: true, Receive: true, OneWire: true}, "6": {Soft: true, Most: 57.6},
	}
	k.Parts.Board.Rails = map[string]quad.Rail{"5V": {Volts: 5, Most: 2000, USB: true}, "9V": {Volts: 9, Most: 2000}}
	k.Parts.Devices = map[string]quad.Device{
		"receiver":  {Function: quad.PortReceiver, Talks: true},
		"satellite": {Function: quad.PortSatellite, Talks: true, Listens: true, Baud: 115.2},
		"camera":    {Function: quad.PortVideo, Listens: true},
		"strip":     {Function: quad.PortTelemetry, OneWire: true, Baud: 19.2},
	}
	return k
}

// What the board hears is worked out twice, here and in the product: for wires soldered and ports told at random both say
// the same.
func TestBoardHearsWhatTheProductExpects(t *testing.T) {
	words := map[string]quad.PortFunction{"none": quad.PortNothing, "receiver": quad.PortReceiver, "satellite": quad.PortSatellite, "video": quad.PortVideo, "talk": quad.PortTelemetry}
	heard := 0
	for seed := range uint64(600) {
		r := rand.New(rand.NewPCG(seed, 9))
		k := wiredKit()
		pads := []string{""}
		for _, p := range wiring.Pads(k.Parts.Board) {
			if p.Port != "" && p.Kind != "usb" {
				pads = append(pads, p.Name)
			}
		}
		k.Settings = maps.Clone(k.Settings)
		plan := map[string]quad.PortPlan{"1": {Function: quad.PortConfigure}}
		for port := 2; port <= 6; port++ {
			word := []string{"none", "receiver", "satellite", "video", "talk"}[r.IntN(5)]
			k.Settings[fmt.Sprintf("port.%d", port)] = word
			plan[fmt.Sprint(port)] = quad.PortPlan{Function: words[word]}
		}
		k.Wires = map[string]quad.Wire{}
		for name := range k.Parts.Devices {
			w := quad.Wire{Port: fmt.Sprint(2 + r.IntN(5)), Rail: []string{"5V", "9V"}[r.IntN(2)]}
			if r.IntN(3) == 0 && name != "strip" && w.Port != "6" {
				w.Out, w.In = pads[r.IntN(len(pads))], pads[r.IntN(len(pads))]
			}
			k.Wires[name] = w
		}
		d, err := New(k, 1)
		if err != nil {
			t.Fatal(err)
		}
		d.means.bauds = map[string]float64{}
		for port, told := range plan {
			told.Baud = []float64{0, 57.6, 115.2, 420}[r.IntN(4)] // 0 is whatever the device speaks
			plan[port], d.means.bauds[port] = told, told.Baud
		}
		p := k.Parts
		p.Wires = k.Wires
		for name, want := range wiring.Answers(p, plan) {
			got := d.answers(name)
			if got {
				heard++
			}
			if got != want {
				t.Errorf("seed %d: the %s on %+v, ports %v: heard %v, the product expects %v", seed, name, k.Wires[name], plan, got, want)
			}
		}
	}
	if heard < 100 {
		t.Errorf("only %d devices were heard at all", heard)
	}
}

// A moved wire has its effect, and only with everything unplugged.
func TestSolder(t *testing.T) {
	k := wiredKit()
	k.Settings = maps.Clone(k.Settings)
	k.Settings["port.2"], k.Settings["port.3"] = "receiver", "none"
	k.Wires = map[string]quad.Wire{"receiver": {Port: "2", Rail: "5V"}}
	d, err := New(k, 1)
	if err != nil {
		t.Fatal(err)
	}
	d.pack, d.radio = true, true
	d.Advance(500)
	if l := d.live(); !l.Answers["receiver"] || len(l.Channels) == 0 {
		t.Fatalf("soldered to port 2 it is not heard: %v", l.Answers)
	}
	refused(t, "soldering under power", d.solder(protocol.Solder{Device: "receiver", Port: "3"}))
	d.pack = false
	refused(t, "a device that is not there", d.solder(protocol.Solder{Device: "kettle", Port: "3"}))
	if err := d.solder(protocol.Solder{Device: "receiver", Port: "2", Out: "T2", In: "R2", Rail: "5V"}); err != nil {
		t.Fatal(err)
	}
	d.pack = true
	d.Advance(500)
	if l := d.live(); l.Answers["receiver"] || len(l.Channels) > 0 {
		t.Errorf("with its wires exchanged it is heard: %v", l.Answers)
	}
	d.pack, d.usb = false, true
	if l := d.live(); l.Answers["receiver"] {
		t.Error("it is heard with its wires exchanged, on USB")
	}
}

// Another quad is put on the bench only while nothing is plugged in.
func TestOnlyAnUnpluggedQuadIsPutAway(t *testing.T) {
	one, two := kit(), kit()
	two.Name = "another"
	var devices []*Device
	for _, k := range []Kit{one, two} {
		d, err := New(k, 1)
		if err != nil {
			t.Fatal(err)
		}
		devices = append(devices, d)
	}
	s := NewServer("token", true, devices[0], devices[1])
	_, conn := net.Pipe()
	who := &session{conn: conn}
	devices[0].usb = true
	if _, err := s.place(who, protocol.PutOn{Quad: "another"}); err == nil {
		t.Error("it was put away with the USB cable in")
	}
	devices[0].usb = false
	if _, err := s.place(who, protocol.PutOn{Quad: "nobody"}); err == nil {
		t.Error("a quad that is not there was put on the bench")
	}
	if _, err := s.place(who, protocol.PutOn{Quad: "another"}); err != nil || s.onBench() != devices[1] {
		t.Errorf("it was not put there: %v", err)
	}
}
