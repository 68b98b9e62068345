package standin

import (
	"bytes"
	"hash/crc32"
	"maps"
	"slices"

	"vividperch/bench/protocol"
	"vividperch/core/firmware"
)

// program of a board or a speed controller: its bootloader, and what is written behind it.
type program struct {
	target        string
	line, version string
	boot          bool
	erased        bool // since the last whole program
	flash         map[uint32][]byte
	switching     float64
	replies       bool
}

func newPrograms(kit Kit) (*program, map[string]*program) {
	main := &program{target: kit.Target, line: kit.Line, version: kit.Version, flash: map[uint32][]byte{}}
	speed := map[string]*program{}
	for letter, s := range kit.SpeedControllers {
		speed[letter] = &program{target: s.Layout, line: s.Line, version: s.Version, switching: s.Switching, replies: s.Replies, flash: map[uint32][]byte{}}
	}
	return main, speed
}

// programOf a call, when it can be reached now.
func (d *Device) programOf(output string) (*program, error) {
	if output == "" {
		if !d.pack && !d.usb {
			return nil, refuse("the board has no power: connect USB or the pack")
		}
		return d.main, nil
	}
	p := d.speed[output]
	switch {
	case p == nil:
		return nil, refuse("the speed controller of output %q has no firmware that could be asked", output)
	case !d.pack:
		return nil, refuse("the speed controllers answer only while the pack is in")
	case !d.usb:
		return nil, refuse("the USB cable is out")
	case d.main.boot:
		return nil, refuse("the board waits in its own bootloader; speed controllers are reached through its firmware")
	}
	return p, nil
}

// bootloader of a call, and the fault that the kit has ready for it.
func (d *Device) bootloader(output string) (*program, string, error) {
	if !d.usb {
		return nil, "", refuse("the USB cable is out")
	}
	p, err := d.programOf(output)
	if err != nil {
		return nil, "", err
	}
	if !p.boot {
		return nil, "", refuse("it is not in its bootloader")
	}
	d.calls++
	if d.kit.Fault.At != d.calls {
		return p, "", nil
	}
	switch kind := d.kit.Fault.Kind; kind {
	case "cable":
		d.unplug(false)
		return nil, "", refuse("the USB cable is out")
	case "power":
		d.unplug(true)
		return p, kind, nil
	default:
		return p, kind, nil
	}
}

// unplug the cable, and the pack too when all power goes.
func (d *Device) unplug(all bool) {
	d.usb = false
	if all {
		d.pack = false
	}
	d.power(true)
}

func (d *Device) identify(w protocol.Which) (protocol.Identity, error) {
	p, err := d.programOf(w.Output)
	if err != nil {
		return protocol.Identity{}, err
	}
	if p.boot {
		return protocol.Identity{Bootloader: true, Target: p.target}, nil
	}
	id := protocol.Identity{Target: p.target, Line: p.line, Version: p.version, Switching: p.switching, Replies: p.replies}
	if told := d.means.switching[w.Output]; told > 0 {
		id.Switching = told
	}
	if p == d.main {
		id.Serial = d.kit.Serial
	}
	return id, nil
}

func (d *Device) enterBoot(w protocol.Which) error {
	if !d.usb {
		return refuse("the USB cable is out")
	}
	p, err := d.programOf(w.Output)
	if err != nil {
		return err
	}
	if d.body.State().Armed {
		return refuse("it is armed")
	}
	p.boot = true
	return nil
}

func (d *Device) erase(e protocol.Erase) error {
	p, fault, err := d.bootloader(e.Output)
	if err != nil {
		return err
	}
	p.flash, p.erased = map[uint32][]byte{}, true
	if !e.Keep && p == d.main {
		for name := range d.settings {
			if f := d.build.Facts.Find(name); f == nil || !f.Speed {
				delete(d.settings, name) // the speed controllers have a memory of their own
			}
		}
	}
	if fault == "power" {
		return refuse("the power is gone")
	}
	return nil
}

func (d *Device) block(b protocol.Block) error {
	p, fault, err := d.bootloader(b.Output)
	if err != nil {
		return err
	}
	if !p.erased {
		return refuse("the program area is not erased")
	}
	m, err := firmware.MemoryOf(p.target)
	if err != nil {
		return refuse("%s", err)
	}
	part := firmware.Image{Segments: []firmware.Segment{{Address: b.Address, Data: b.Data}}}
	if err := part.Fits(m); err != nil {
		return refuse("%s", err)
	}
	data := bytes.Clone(b.Data)
	switch fault {
	case "power":
		p.flash[b.Address] = data[:len(data)/2]
		return refuse("the power is gone")
	case "bit":
		data[len(data)/3] ^= 4
	}
	p.flash[b.Address] = data
	return nil
}

func (d *Device) verify(w protocol.Which) (protocol.Sum, error) {
	p, fault, err := d.bootloader(w.Output)
	if err != nil {
		return protocol.Sum{}, err
	}
	if fault == "power" {
		return protocol.Sum{}, refuse("the power is gone")
	}
	crc, n := crc32.NewIEEE(), 0
	for _, at := range slices.Sorted(maps.Keys(p.flash)) {
		crc.Write(p.flash[at])
		n += len(p.flash[at])
	}
	return protocol.Sum{Bytes: n, CRC: crc.Sum32()}, nil
}

// reboot leaves the bootloader when what was written is a whole image for this device; else it stays.
func (d *Device) reboot(w protocol.Which) error {
	p, fault, err := d.bootloader(w.Output)
	if err != nil {
		return err
	}
	if fault == "power" {
		return refuse("the power is gone")
	}
	if p.erased {
		h, err := p.written()
		if err != nil {
			return refuse("it stays in its bootloader: %s", err)
		}
		if p == d.main {
			b, err := firmware.Find(h.Line, h.Version)
			if err == nil {
				err = d.start(b)
			}
			if err != nil {
				return refuse("it stays in its bootloader: the new firmware does not start: %s", err)
			}
		}
		p.line, p.version = h.Line, h.Version
	}
	p.boot, p.erased = false, false
	d.powered = d.now
	return nil
}

// written image, when it is whole and for this device.
func (p *program) written() (firmware.Header, error) {
	var img firmware.Image
	for at, data := range p.flash {
		img.Segments = append(img.Segments, firmware.Segment{Address: at, Data: data})
	}
	whole, err := firmware.ParseHex(firmware.WriteHex(img))
	if err != nil {
		return firmware.Header{}, err
	}
	return whole.ForBoard(p.target)
}
