package firmware

import "vividperch/core/quad"

// Take puts a review's outcome on a sheet: what maps to it on its places, the rest, where it is no default or the
// board holds something else, as settings without a subject. chosen is a raw value for every setting that the pilot
// decided otherwise, by its new name; held is what the board holds, if that is known. A value that does not fit is a
// Fault at the setting.
func (b *Build) Take(meant quad.Sheet, rows []Row, chosen, held map[string]string) (quad.Sheet, error) {
	settings := b.Facts.Defaults()
	for _, r := range rows {
		if r.Name == "" {
			continue
		}
		raw := r.Proposal
		if own, ok := chosen[r.Name]; ok {
			raw = own
		}
		c, err := b.Facts.Find(r.Name).Canonical(raw)
		if err != nil {
			return quad.Sheet{}, err
		}
		settings[r.Name] = c
	}
	sheet, err := b.Dictionary.onto(meant, settings)
	if err != nil {
		return quad.Sheet{}, err
	}
	sheet.Tell(b.Lacks)
	sheet.Firmware.Line, sheet.Firmware.Version, sheet.Firmware.Other = b.Line.Name, b.Version.Version, nil
	for _, name := range quad.SortedKeys(settings) {
		now, known := held[name]
		if b.apart(name, settings[name]) && (settings[name] != b.Facts.Find(name).Default || known && now != settings[name]) {
			sheet.Firmware.Other = append(sheet.Firmware.Other, name+" = "+settings[name])
		}
	}
	return sheet, nil
}

// Lacks says whether boards of the family have no setting for a place within the sheet, so that nothing is set there: that is known of the families
// that the product knows, and not of one that a pilot taught, who may have taught a part of it.
func (b *Build) Lacks(p quad.Path) bool {
	_, shipped := FindLine(b.Line.Name)
	return shipped && !b.Dictionary.Tells(p)
}

// apart says whether a setting with this value has no subject on the sheet that could hold it.
func (b *Build) apart(name, raw string) bool {
	s, e := b.Facts.Find(name), b.Dictionary.bySetting[name]
	return s.Bound == "" && (e == nil || e.unexpressed(raw, s))
}

// Load puts some settings on a sheet, each on its place or among those without a subject. What they do not name stays
// as it is.
func (b *Build) Load(meant quad.Sheet, settings map[string]string) (quad.Sheet, error) {
	sheet, err := b.Dictionary.onto(meant, settings)
	if err != nil {
		return quad.Sheet{}, err
	}
	sheet.Tell(b.Lacks)
	other, err := Lines(meant.Firmware.Other)
	if err != nil {
		return quad.Sheet{}, err
	}
	for name, raw := range settings {
		if b.apart(name, raw) {
			other[name] = raw
		} else {
			delete(other, name)
		}
	}
	sheet.Firmware.Other = nil
	for _, name := range quad.SortedKeys(other) {
		sheet.Firmware.Other = append(sheet.Firmware.Other, name+" = "+other[name])
	}
	return sheet, nil
}
