// Command perch is the program: the web application and, with the same core, a command line that needs no
// database.
package main

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"os/signal"
	"syscall"

	"github.com/alecthomas/kong"

	"vividperch/api"
	"vividperch/core/quad"
)

type commands struct {
	Serve    serveCommand    `cmd:"" help:"Serve the web application on this machine."`
	Backup   backupCommand   `cmd:"" help:"Back up everything the instance holds."`
	Restore  restoreCommand  `cmd:"" help:"Put a backup in the place of what the instance holds."`
	Bench    benchCommand    `cmd:"" help:"Run a simulated bench by itself."`
	Check    checkCommand    `cmd:"" help:"Findings and missing readings; exit 1 when a stop stands."`
	Diff     diffCommand     `cmd:"" help:"What differs between two sheets or archives, in words; exit 1 when something does."`
	Rehearse rehearseCommand `cmd:"" help:"Fly the hover card in the model."`
	Oracle   oracleCommand   `cmd:"" help:"Draw quads, judge them, fly those that pass, and say where rules and flight disagree; exit 1 when one ends badly."`
	Trace    traceCommand    `cmd:"" help:"How a recorded flight shakes after its hard throttle cuts."`
	List     listCommand     `cmd:"" help:"Read a settings list through a dictionary, and print it back with some settings changed."`
	Hex      hexCommand      `cmd:"" help:"Check an Intel HEX image."`
	Proof    proofCommand    `cmd:"" help:"Stations and what makes them stale."`
	Schema   schemaCommand   `cmd:"" help:"Print the JSON Schema of a sheet."`
	Demo     demoCommand     `cmd:"" help:"Things to try the product with."`
	Openapi  openapiCommand  `cmd:"" hidden:"" help:"Print the OpenAPI document."`
}

// Exit codes.
const (
	exitStop       = 1 // a stop stands, or the rehearsal does not end well
	exitUnreadable = 2
)

// exit carries a code through an error.
type exit struct {
	code int
	err  error
}

func (e exit) Error() string {
	if e.err == nil {
		return ""
	}
	return e.err.Error()
}

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	var c commands
	parser := kong.Must(&c, kong.Name("perch"), kong.Description("Holds a whole quad in one model, cross-checks all of it, flies it before it is flown, keeps the proof."), kong.UsageOnError(), kong.BindTo(ctx, (*context.Context)(nil)))
	k, err := parser.Parse(os.Args[1:])
	if err != nil {
		fmt.Fprintln(os.Stderr, "perch:", err)
		os.Exit(exitUnreadable)
	}
	err = k.Run()
	var e exit
	switch {
	case err == nil:
	case errors.As(err, &e):
		if e.err != nil {
			fmt.Fprintln(os.Stderr, "perch:", e.err)
		}
		os.Exit(e.code)
	case quad.AsFault(err) != nil:
		fmt.Fprintln(os.Stderr, "perch:", quad.AsFault(err).Error())
		os.Exit(exitUnreadable)
	default:
		fmt.Fprintln(os.Stderr, "perch:", err)
		os.Exit(exitUnreadable)
	}
}

type schemaCommand struct{}

func (schemaCommand) Run() error {
	raw, err := quad.Schema()
	if err != nil {
		return err
	}
	_, err = os.Stdout.Write(append(raw, '\n'))
	return err
}

type openapiCommand struct{}

func (openapiCommand) Run() error {
	doc, err := api.Document()
	if err != nil {
		return err
	}
	var lines bytes.Buffer
	if err := json.Indent(&lines, doc, "", " "); err != nil {
		return err
	}
	lines.WriteByte('\n')
	_, err = lines.WriteTo(os.Stdout)
	return err
}
