package main

import (
	"encoding/json"
	"maps"
	"os"
	"strings"

	"vividperch/core/firmware"
	"vividperch/core/quad"
)

type listCommand struct {
	File       string   `arg:"" help:"Settings list, as text." type:"path"`
	Dictionary string   `help:"Dictionary of a firmware family that is not shipped, as a file." type:"path"`
	Line       string   `help:"Firmware family; else what the list says."`
	Version    string   `help:"Its version; else what the list says, or the newest."`
	Set        []string `help:"PATH=VALUE: put a value on the settings, as sheet.motors.idle=6; may be given more than once." sep:"none"`
	JSON       bool     `help:"Answer with what the list means, as JSON, instead of the list."`
}

// Run reads a list through a dictionary and prints it back: as it was, but for the settings that were asked for.
func (c listCommand) Run() error {
	text, err := os.ReadFile(c.File)
	if err != nil {
		return quad.Faultf("no-file", c.File, "cannot be opened")
	}
	build, err := c.build(firmware.HeadOf(text))
	if err != nil {
		return err
	}
	list, err := build.ReadList(text)
	if err != nil {
		return inFile(c.File, err)
	}
	given, faults := build.Facts.CheckList(list.Settings)
	if len(faults) > 0 {
		return inFile(c.File, faults[0])
	}
	held := build.Facts.Defaults()
	maps.Copy(held, given)
	sheet, err := build.Load(quad.Sheet{}, held)
	if err != nil {
		return inFile(c.File, err)
	}
	m := quad.Meant{Sheet: sheet}
	for _, set := range c.Set {
		path, value, ok := strings.Cut(set, "=")
		if !ok {
			return quad.Faultf("not-a-setting", set, "is not of the form PATH=VALUE")
		}
		raw, err := quad.Typed(quad.Path(path), asJSON(value))
		if err != nil {
			return err
		}
		e, err := quad.NewEdit(m, quad.Path(path), raw)
		if err != nil {
			return err
		}
		if m, err = quad.Apply(m, []quad.Edit{e}); err != nil {
			return err
		}
	}
	if c.JSON {
		return printJSON(m.Sheet)
	}
	// Only what was set is printed anew: a figure that reads the same and was written otherwise stays as it was written.
	was, err := build.Dictionary.Encode(sheet, held)
	if err != nil {
		return err
	}
	written, err := build.Dictionary.Encode(m.Sheet, held)
	if err != nil {
		return err
	}
	changed := map[string]string{}
	for name, raw := range written {
		if was[name] != raw {
			changed[name] = raw
		}
	}
	out, err := build.EditList(text, changed)
	if err != nil {
		return inFile(c.File, err)
	}
	_, err = os.Stdout.Write(out)
	return err
}

// build that the list is read through.
func (c listCommand) build(is quad.Identity) (*firmware.Build, error) {
	version := c.Version
	if version == "" {
		version = is.Version
	}
	if c.Dictionary == "" {
		name := c.Line
		if name == "" {
			name = is.Line
		}
		l, ok := firmware.FindLine(name)
		if !ok {
			return nil, quad.Faultf("no-line", c.File, "says no firmware family that is known here; give --line, or a --dictionary of its own")
		}
		if version == "" {
			return l.Newest(), nil
		}
		return l.At(version)
	}
	text, err := os.ReadFile(c.Dictionary)
	if err != nil {
		return nil, quad.Faultf("no-file", c.Dictionary, "cannot be opened")
	}
	l, err := firmware.Taught(string(text))
	if err != nil {
		return nil, inFile(c.Dictionary, err)
	}
	if version == "" {
		return l.Newest(), nil
	}
	b, err := l.At(version)
	if err != nil {
		return nil, inFile(c.Dictionary, err)
	}
	return b, nil
}

// asJSON is a value as it was typed: JSON where it is some, else text, which may be a quantity with its unit.
func asJSON(value string) json.RawMessage {
	if json.Valid([]byte(value)) {
		return json.RawMessage(value)
	}
	raw, err := json.Marshal(value)
	if err != nil {
		panic(err) // text can always be written
	}
	return raw
}
