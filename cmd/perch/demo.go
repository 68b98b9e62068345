package main

import (
	"os"

	"vividperch/core/firmware"
)

type demoCommand struct {
	Image demoImageCommand `cmd:"" help:"Write a made-up firmware image as Intel HEX, to flash the simulated board with."`
}

type demoImageCommand struct {
	Target  string `help:"Board target." default:"HARRIER4"`
	Line    string `help:"Firmware family." default:"Marram"`
	Version string `help:"Version." default:"7.0.2"`
	Size    int    `help:"Bytes of made-up program." default:"120000"`
}

func (c demoImageCommand) Run() error {
	img, err := firmware.MadeUp(firmware.Header{Target: c.Target, Line: c.Line, Version: c.Version}, c.Size)
	if err != nil {
		return err
	}
	_, err = os.Stdout.Write(firmware.WriteHex(img))
	return err
}
