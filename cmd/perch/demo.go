package main

import (
	"bytes"
	"os"

	"vividperch/core/firmware"
)

type demoCommand struct {
	Image demoImageCommand `cmd:"" help:"Write a made-up firmware image as Intel HEX, to flash the simulated board with."`
}

type demoImageCommand struct {
	Target  string `help:"Board target." default:"HARRIER4"`
	Line    string `help:"Firmware line." default:"Marram"`
	Version string `help:"Version." default:"7.0.2"`
	Size    int    `help:"Bytes of made-up program." default:"120000"`
}

// demoAddress is where a program begins on the boards the product knows: behind the bootloader.
const demoAddress = 0x08008000

func (c demoImageCommand) Run() error {
	text := []byte(c.Line + " " + c.Version + " for " + c.Target + ", made up. ")
	payload := bytes.Repeat(text, c.Size/len(text)+1)[:max(0, c.Size)]
	img, err := firmware.BuildImage(firmware.Header{Target: c.Target, Line: c.Line, Version: c.Version}, demoAddress, payload)
	if err != nil {
		return err
	}
	_, err = os.Stdout.Write(firmware.WriteHex(img))
	return err
}
