package standin

import (
	"bytes"
	"maps"

	"vividperch/bench/protocol"
	"vividperch/core/firmware"
)

func (d *Device) needRunning() error {
	switch {
	case d.boot && (d.pack || d.usb):
		return refuse("the board waits in its bootloader")
	case !d.running():
		return refuse("the board has no power: connect USB or the pack")
	}
	return nil
}

func (d *Device) needBoot() error {
	switch {
	case !d.usb:
		return refuse("the USB cable is out")
	case !d.boot:
		return refuse("the board is not in its bootloader")
	}
	return nil
}

func (d *Device) identify(nothing) (protocol.Identity, error) {
	if !d.pack && !d.usb {
		return protocol.Identity{}, refuse("the board has no power: connect USB or the pack")
	}
	if d.boot {
		return protocol.Identity{Bootloader: true, Target: d.target}, nil
	}
	return protocol.Identity{Target: d.target, Line: d.line, Version: d.version}, nil
}

func (d *Device) list(nothing) (protocol.Settings, error) {
	if err := d.needRunning(); err != nil {
		return protocol.Settings{}, err
	}
	out := maps.Clone(d.settings)
	for name := range out {
		if f := d.facts.Find(name); f != nil && f.Speed && !d.pack {
			delete(out, name) // speed controllers answer only while the pack is in
		}
	}
	return protocol.Settings{Settings: out}, nil
}

func (d *Device) write(w protocol.Write) error {
	if err := d.needRunning(); err != nil {
		return err
	}
	if d.body.State().Armed {
		return refuse("it is armed; nothing is written now")
	}
	f := d.facts.Find(w.Name)
	if f == nil {
		return refuse("the board has no setting named %q", w.Name)
	}
	if err := f.Check(w.Value); err != nil {
		return refuse("%s", err)
	}
	if f.Speed && !d.pack {
		return refuse("the speed controllers answer only while the pack is in")
	}
	old := d.settings[w.Name]
	d.settings[w.Name] = w.Value
	if err := d.mean(); err != nil {
		d.settings[w.Name] = old
		_ = d.mean() // the old settings stood before, so they mean something
		return refuse("%s", err)
	}
	return nil
}

func (d *Device) enterBoot(nothing) error {
	if !d.usb {
		return refuse("the USB cable is out")
	}
	if d.body.State().Armed {
		return refuse("it is armed")
	}
	d.boot = true
	return nil
}

func (d *Device) erase(protocol.Erase) error {
	if err := d.needBoot(); err != nil {
		return err
	}
	d.flash, d.erased = map[uint32][]byte{}, true
	return nil
}

func (d *Device) block(b protocol.Block) error {
	if err := d.needBoot(); err != nil {
		return err
	}
	if !d.erased {
		return refuse("the program area is not erased")
	}
	seg := firmware.Image{Segments: []firmware.Segment{{Address: b.Address, Data: b.Data}}}
	if err := seg.Fits(firmware.BoardMemory); err != nil {
		return refuse("%s", err)
	}
	d.flash[b.Address] = bytes.Clone(b.Data)
	return nil
}

// reboot leaves the bootloader when what was written is a whole image for this board; else it stays.
func (d *Device) reboot(nothing) error {
	if err := d.needBoot(); err != nil {
		return err
	}
	if d.erased {
		var img firmware.Image
		for at, data := range d.flash {
			img.Segments = append(img.Segments, firmware.Segment{Address: at, Data: data})
		}
		whole, err := firmware.ParseHex(firmware.WriteHex(img))
		if err != nil {
			return refuse("what was written is not an image: %s", err)
		}
		h, err := whole.ForBoard(d.target, firmware.BoardMemory)
		if err != nil {
			return refuse("the board stays in its bootloader: %s", err)
		}
		d.line, d.version = h.Line, h.Version
	}
	d.boot, d.erased = false, false
	d.powered = d.now
	return nil
}
