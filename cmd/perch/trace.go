package main

import (
	"fmt"
	"os"

	"vividperch/core/quad"
	"vividperch/core/trace"
)

type traceCommand struct {
	Log  string `arg:"" help:"CSV file." type:"path"`
	JSON bool   `help:"Answer as JSON."`
}

func (c traceCommand) Run() error {
	f, err := os.Open(c.Log)
	if err != nil {
		return quad.Faultf("no-file", c.Log, "cannot be opened")
	}
	defer f.Close()
	cuts, err := trace.AfterCuts(f)
	if err != nil {
		return inFile(c.Log, err)
	}
	if c.JSON {
		return printJSON(cuts)
	}
	times := "one hard throttle cut"
	if cuts.Count > 1 {
		times = fmt.Sprintf("%d hard throttle cuts", cuts.Count)
	}
	fmt.Printf("%s, the first at %s: in the second after it shakes by %s about %s\n", times, quad.Quantity(cuts.First, "s"), quad.Quantity(cuts.By, "deg/s"), cuts.Axis)
	return nil
}
