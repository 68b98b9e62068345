package main

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"os"
	"strings"
	"time"

	"vividperch/app"
	"vividperch/core/book"
	"vividperch/core/check"
	"vividperch/core/firmware"
	"vividperch/core/flight"
	"vividperch/core/proof"
	"vividperch/core/quad"
	"vividperch/demo"
)

// input is what the commands without a database judge.
type input struct {
	Sheet    string `arg:"" optional:"" help:"What is meant: a sheet with its parts, radio plan and limits, as YAML or JSON; or the archive of a whole quad." type:"path"`
	Readings string `help:"Readings, as a YAML or JSON list of path and value." type:"path"`
	Board    string `help:"Settings list read back from the board; without one the sheet is taken as written through its dictionary." type:"path"`
	Actual   string `help:"How the quad really is, made up: takes the place of what was observed." type:"path"`
	Demo     string `help:"Judge a quad of the demo world instead." enum:",dunlin,whimbrel,godwit,sanderling,turnstone,knot" default:""`
	JSON     bool   `help:"Answer as JSON."`
}

// known gives what the rules judge, and when and after which events they do. Files given beside a quad of the demo world or an
// archive take the place of what those hold.
func (c input) known(now time.Time) (k quad.Known, at check.Context, err error) {
	at.Now = now
	raw, whole, err := c.archive()
	switch {
	case err != nil:
		return k, at, err
	case whole:
		if k, at, err = app.OpenArchive(raw); err != nil {
			return k, at, inFile(c.Sheet, err)
		}
		at.Now = now
	default:
		if k, err = c.sheet(now); err != nil {
			return k, at, err
		}
	}
	if c.Board != "" {
		list, err := readLimited(c.Board)
		if err != nil {
			return k, at, err
		}
		if k.Board, err = listed(k.Sheet.Firmware.Is(), list); err != nil {
			return k, at, inFile(c.Board, err)
		}
	}
	if c.Readings != "" {
		var list []demo.Reading
		if err := readFile(c.Readings, &list); err != nil {
			return k, at, err
		}
		for _, r := range list {
			if err := quad.Enter(&k, r.Path, r.Value, now); err != nil {
				return k, at, inFile(c.Readings, err)
			}
		}
	}
	return k, at, nil
}

// inFile puts the name of the file before the place of a fault.
func inFile(name string, err error) error {
	f := quad.AsFault(err)
	if f == nil {
		return err
	}
	return quad.Faultf(f.Code, strings.TrimSpace(name+" "+f.Place), "%s", f.Sentence)
}

// archive gives the file named, when it is the archive of a whole quad.
func (c input) archive() (raw []byte, whole bool, err error) {
	if c.Demo != "" || c.Sheet == "" {
		return nil, false, nil
	}
	if raw, err = readUpTo(c.Sheet, book.ArchiveLimit); err != nil {
		return nil, false, err
	}
	return raw, bytes.HasPrefix(raw, []byte(`{"archive":`)), nil
}

func (c input) sheet(now time.Time) (quad.Known, error) {
	if c.Demo != "" {
		q, err := demo.Load(c.Demo)
		if err != nil {
			return quad.Known{}, err
		}
		return q.Known(now)
	}
	if c.Sheet == "" {
		return quad.Known{}, quad.Faultf("no-input", "", "name a sheet file, or a quad of the demo world with --demo")
	}
	var m quad.Meant
	if err := readFile(c.Sheet, &m); err != nil {
		return quad.Known{}, err
	}
	if err := m.Valid(); err != nil {
		return quad.Known{}, inFile(c.Sheet, err)
	}
	k := quad.Known{Sheet: m.Sheet, Parts: m.Parts, Radio: m.Radio, Limits: m.Limits}
	if c.Board != "" {
		return k, nil // it is read from the list
	}
	return k, asWritten(&k)
}

// asWritten takes the sheet as written to the board through its dictionary. Without a dictionary the rules ask for a read-back.
func asWritten(k *quad.Known) error {
	build, err := firmware.Find(k.Sheet.Firmware.Line, k.Sheet.Firmware.Version)
	if err != nil {
		return nil
	}
	settings, err := build.Dictionary.Encode(k.Sheet, nil)
	if err != nil {
		return err
	}
	// What is measured on a board is not among these settings: nothing is known of it.
	k.Board = firmware.Board(firmware.ReadBack{Is: k.Sheet.Firmware.Is(), Settings: settings})
	return nil
}

// listed is the read-back in a settings list; the first fault is told, with how many more there are.
func listed(is quad.Identity, list []byte) (quad.Board, error) {
	b, faults := firmware.BoardFromList(is, "", list, time.Time{})
	switch len(faults) {
	case 0:
		return b, nil
	case 1:
		return b, faults[0]
	}
	return b, quad.Faultf(faults[0].Code, faults[0].Place, "%s (and %d more)", faults[0].Sentence, len(faults)-1)
}

func readLimited(path string) ([]byte, error) { return readUpTo(path, 3<<20) }

// readUpTo so many bytes of a file; what cannot be read is a Fault with its name.
func readUpTo(path string, most int64) ([]byte, error) {
	info, err := os.Stat(path)
	switch {
	case err != nil:
		return nil, quad.Faultf("no-file", path, "cannot be opened")
	case info.IsDir():
		return nil, quad.Faultf("no-file", path, "is a folder, not a file")
	case info.Size() > most:
		return nil, quad.Faultf("too-large", path, "is larger than %d MB", most>>20)
	}
	raw, err := os.ReadFile(path)
	if err != nil {
		return nil, quad.Faultf("no-file", path, "cannot be read")
	}
	return raw, nil
}

func readFile(path string, into any) error {
	raw, err := readLimited(path)
	if err != nil {
		return err
	}
	return inFile(path, quad.ReadYAML(raw, into))
}

func printJSON(v any) error {
	enc := json.NewEncoder(os.Stdout)
	enc.SetIndent("", "  ")
	enc.SetEscapeHTML(false)
	return enc.Encode(v)
}

type checkCommand struct{ input }

func (c checkCommand) Run() error {
	now := time.Now()
	k, at, err := c.known(now)
	if err != nil {
		return err
	}
	report := check.All(k, at)
	if c.JSON {
		if err := printJSON(report); err != nil {
			return err
		}
	} else {
		for _, f := range report.Findings {
			fmt.Printf("%-5s %-14s %s\n      %s %s  [%s]\n", f.Weight, f.Station.Info().Name, f.Title, f.Figures, f.Why, f.Rule)
		}
		for _, a := range report.Asks {
			fmt.Printf("ask   %-14s %s  [%s]\n", a.Station.Info().Name, a.Label, a.Path)
		}
	}
	for _, f := range report.Findings {
		if f.Weight == check.Stop {
			return exit{code: exitStop}
		}
	}
	return nil
}

type diffCommand struct {
	From string `arg:"" help:"Sheet or archive." type:"path"`
	To   string `arg:"" help:"Sheet or archive." type:"path"`
	JSON bool   `help:"Answer as JSON."`
}

func (c diffCommand) Run() error {
	var sides [2]quad.Meant
	for i, file := range []string{c.From, c.To} {
		k, _, err := input{Sheet: file}.known(time.Now())
		if err != nil {
			return err
		}
		sides[i] = k.Meant()
	}
	list := quad.Compare(sides[0], sides[1])
	if c.JSON {
		if list == nil {
			list = []quad.Difference{}
		}
		if err := printJSON(list); err != nil {
			return err
		}
	} else {
		for _, d := range list {
			fmt.Printf("%s  [%s]\n", d.Words(), d.Path)
		}
	}
	if len(list) > 0 {
		return exit{code: exitStop}
	}
	return nil
}

type rehearseCommand struct {
	input
	Scenario string  `help:"What is flown; --list names them." default:"hover"`
	Shows    string  `help:"Fly one fault alone, with it and without it; --list names them." default:""`
	List     bool    `help:"List the scenarios and the faults, and fly nothing."`
	Sound    bool    `help:"Fly the quad as corrected in everything."`
	Beginner bool    `help:"By a beginner's hand."`
	Wind     float64 `help:"Mean wind from ahead, m/s; its gusts come with it." default:"-1"`
	Seed     uint64  `help:"Of noise, gusts and the hand's trembling." default:"1"`
	CSV      bool    `name:"csv" help:"Write the trace of the flight as CSV."`
	Rate     float64 `help:"Rows a second of the trace, 10 to 4000." default:"500"`
	Frames   bool    `help:"With --json: every frame of the flight."`
}

// pair of flights that a command answers with; Without only where a fault was asked for.
type rehearsed struct {
	Scenario flight.Scenario `json:"scenario"`
	Shows    flight.Fault    `json:"shows,omitempty"`
	Title    string          `json:"title,omitempty"`
	With     string          `json:"with,omitempty"`
	*flight.Run
	Without *flight.Run `json:"without,omitempty"`
	Assumed []string    `json:"assumed"`
}

func (c rehearseCommand) Run() error {
	if c.List {
		for _, s := range flight.Scripts {
			fmt.Printf("%-10s %s\n", s.Scenario, s.Words)
		}
		for _, f := range flight.Faults() {
			fmt.Printf("--shows %s\n", f)
		}
		return nil
	}
	k, _, err := c.known(time.Now())
	if err != nil {
		return err
	}
	in, err := flight.NewLossInput(k)
	if err != nil {
		return err
	}
	assumed := quad.Observe(k).Assumed
	if c.Actual != "" {
		if err := readFile(c.Actual, &in.Actual); err != nil {
			return err
		}
		assumed = nil
	}
	actual := in.Actual
	suppose := func(in *flight.Input) {
		if in.Seed = c.Seed; c.Actual != "" {
			in.Actual = actual
		}
		if c.Wind >= 0 {
			in.Site.WindNorth, in.Site.Gust = -c.Wind, flight.GustShare*c.Wind
		}
	}
	suppose(&in)
	rotation := k.Sheet.Craft.Rotation
	f := flight.Scenario(c.Scenario).Steady()
	answer := rehearsed{Scenario: f.Scenario, Assumed: assumed}
	var sound flight.Input
	switch {
	case c.Shows != "":
		pair, err := flight.Consider(k, flight.Fault(c.Shows), suppose)
		if err != nil {
			return err
		}
		if c.Scenario == string(flight.FirstHover) {
			f = pair.Flight // the one that shows it
		}
		in, sound = pair.Faulty, pair.Sound
		answer.Shows, answer.Title, answer.With, answer.Scenario = pair.Fault, pair.Title, pair.With, f.Scenario
	case c.Sound:
		in = flight.Corrected(in, rotation)
	}
	if c.Beginner {
		f.Hand = flight.Beginner
	}
	if c.CSV {
		return app.WriteTrace(context.Background(), in, f, c.Rate, os.Stdout)
	}
	if answer.Run, err = flight.Fly(in, f, flight.Watching{}); err != nil {
		return err
	}
	if c.Shows != "" {
		if answer.Without, err = flight.Fly(sound, f, flight.Watching{}); err != nil {
			return err
		}
	}
	if c.JSON {
		for _, run := range []*flight.Run{answer.Run, answer.Without} {
			if run != nil && !c.Frames {
				run.Frames = nil
			}
		}
		if err := printJSON(answer); err != nil {
			return err
		}
	} else {
		fmt.Println(answer.Summary.Sentence)
		if answer.Without != nil {
			fmt.Println("without it:", answer.Without.Summary.Sentence)
		}
		for _, a := range assumed {
			fmt.Println("assumed:", a)
		}
	}
	if !answer.Good {
		return exit{code: exitStop}
	}
	return nil
}

type hexCommand struct {
	Image string `arg:"" help:"Intel HEX file." type:"path"`
	JSON  bool   `help:"Answer as JSON."`
}

func (c hexCommand) Run() error {
	raw, err := readLimited(c.Image)
	if err != nil {
		return err
	}
	img, err := firmware.ParseHex(raw)
	if err != nil {
		return inFile(c.Image, err)
	}
	v := app.DescribeImage(img)
	if c.JSON {
		if err := printJSON(v); err != nil {
			return err
		}
	} else {
		what := "does not say what it is for"
		if v.Target != "" {
			what = fmt.Sprintf("for %s, %s %s, CRC-32 %s", v.Target, v.Line, v.Version, v.CRC)
		}
		fmt.Printf("%s: %s; %d bytes, %d gaps\n", c.Image, what, v.Bytes, v.Gaps)
		fmt.Println(v.Says)
	}
	if !v.Fits {
		return exit{code: exitStop}
	}
	return nil
}

type proofCommand struct {
	input
	Matrix bool `help:"Which change, event or passing of time makes which station stale."`
}

func (c proofCommand) Run() error {
	if c.Matrix {
		rows := proof.Matrix()
		if c.JSON {
			return printJSON(rows)
		}
		for _, r := range rows {
			fmt.Printf("%-6s %-44s", r.Kind, r.What)
			for _, s := range r.Stations {
				fmt.Printf(" %s", s)
			}
			fmt.Println()
		}
		return nil
	}
	now := time.Now()
	k, at, err := c.known(now)
	if err != nil {
		return err
	}
	standings := proof.Standings(proof.Case{Known: k, Context: at})
	if c.JSON {
		return printJSON(standings)
	}
	for _, s := range standings {
		fmt.Printf("%2d %-14s %s\n", s.Station.Number(), s.Station.Info().Name, s.Word)
	}
	return nil
}
