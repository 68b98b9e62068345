package standin

import (
	"maps"

	"vividperch/bench/protocol"
	"vividperch/core/firmware"
	"vividperch/core/quad"
)

func (d *Device) needRunning() error {
	switch {
	case d.main.boot && (d.pack || d.usb):
		return refuse("the board waits in its bootloader")
	case !d.running():
		return refuse("the board has no power: connect USB or the pack")
	}
	return nil
}

// list the settings; those of the speed controllers only while the pack is in.
func (d *Device) list(nothing) (protocol.Settings, error) {
	if err := d.needRunning(); err != nil {
		return protocol.Settings{}, err
	}
	out := maps.Clone(d.settings)
	for name := range out {
		if f := d.build.Facts.Find(name); f != nil && f.Speed && !d.pack {
			delete(out, name)
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
	f := d.build.Facts.Find(w.Name)
	if f == nil {
		return refuse("the board has no setting named %q", w.Name)
	}
	raw, err := f.Canonical(w.Value)
	if err != nil {
		return refuse("%s", err)
	}
	if f.Speed && !d.pack {
		return refuse("the speed controllers answer only while the pack is in")
	}
	old := maps.Clone(d.settings)
	if w.Name == d.build.Line.Vehicle && raw != d.settings[w.Name] {
		d.chooseVehicle()
	}
	d.settings[w.Name] = raw
	if err := d.mean(); err != nil {
		d.settings = old
		_ = d.mean() // the old settings stood before, so they mean something
		return refuse("%s", err)
	}
	return nil
}

// chooseVehicle puts everything back to its default but what was measured and what the speed controllers hold: what
// suits one kind of craft harms another.
func (d *Device) chooseVehicle() {
	for _, s := range d.build.Facts.Settings {
		if s.Bound == "" && !s.Speed {
			d.settings[s.Name] = s.Default
		}
	}
}

// start the firmware with what is in the settings store: names that it does not know are forgotten, values that it
// cannot hold and those that are not there are its defaults. It does not know what an older version meant by them.
func (d *Device) start(b *firmware.Build) error {
	if familyOf(b.Line.Name) == nil {
		return quad.Faultf("kit", "line", "no stand-in speaks for %s", b.Line.Name)
	}
	before, settings := d.build, d.settings
	d.build, d.settings = b, map[string]string{}
	for _, s := range b.Facts.Settings {
		d.settings[s.Name] = s.Default
		if raw, err := s.Canonical(settings[s.Name]); err == nil && settings[s.Name] != "" {
			d.settings[s.Name] = raw
		}
	}
	if err := d.mean(); err != nil {
		d.build, d.settings = before, settings
		return err
	}
	return nil
}
